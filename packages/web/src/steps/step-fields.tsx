import {
  type BendPlace,
  choicesOf,
  edgeName,
  edgesOf,
  evaluateStock,
  type FieldSpec,
  type FieldValues,
  flangeNumbers,
  formatFixed,
  formatShort,
  holesOf,
  type LengthTo,
  pickables,
  type RawValues,
  type StepDocument,
  stepKind,
  stockNames,
  typedText,
} from "@hillcrest/core";
import { useMemo } from "react";
import { addHole, removeHole, setHole, setStepValue, toggleEdge } from "../state/edits.ts";
import { useApp, useSend } from "../state/store.ts";
import { viewActions } from "../state/view-slice.ts";
import { edgeTitle } from "../views/pick-names.ts";
import { ChoiceField } from "./choice-field.tsx";
import { QuantityField } from "./quantity-field.tsx";
import { type Section, SectionPicture } from "./section-picture.tsx";

export interface FieldContext {
  readonly step: StepDocument;
  readonly stock: RawValues;
  readonly labels: ReadonlyMap<string, string>;
  readonly values?: FieldValues;
  /** Fields that findings point at. */
  readonly wrong: ReadonlySet<string>;
}

/** One field of a step, as it stands in its sentence. */
export function StepField({ spec, context }: { spec: FieldSpec; context: FieldContext }) {
  const { step, values, wrong } = context;
  const names = useStockNames(context.stock);
  switch (spec.kind) {
    case "quantity": {
      const text = typedText(spec, step);
      return (
        <QuantityField
          spec={spec}
          text={text}
          fallback={spec.optional ? fallbackOf(spec.key, context) : undefined}
          value={values?.quantities[spec.key]}
          wrong={wrong.has(spec.key)}
          names={names}
          onChange={(next, mark) => setStepValue(step.id, spec.key, next, mark)}
        />
      );
    }
    case "choice":
      return <StepChoice spec={spec} context={context} />;
    case "edges":
      return <EdgesField context={context} />;
    case "text":
    case "holes":
      return null;
  }
}

function useStockNames(raw: RawValues) {
  return useMemo(() => {
    const { stock } = evaluateStock(raw);
    return stock ? stockNames(stock).names : undefined;
  }, [raw]);
}

/** What stands for an empty optional value: the stock's. */
function fallbackOf(key: string, context: FieldContext): string {
  const { stock } = evaluateStock(context.stock);
  if (!stock) return "stock";
  if (key === "radius") return formatShort(stock.radius);
  if (key === "k")
    return formatShort(stock.kOf({ t: stock.thickness, r: stock.radius, angle: Math.PI / 2 }).k);
  return "stock";
}

function StepChoice({
  spec,
  context,
}: {
  spec: Extract<FieldSpec, { kind: "choice" }>;
  context: FieldContext;
}) {
  const { step, wrong } = context;
  const kind = stepKind(step.kind)!;
  const value = choicesOf(kind.fields, step)[spec.key];
  const pictured = spec.key === "place" || spec.key === "lengthTo";
  const sectionOf = (option: string) => sectionWith(context, spec.key, option);
  return (
    <ChoiceField
      spec={spec}
      value={value}
      wrong={wrong.has(spec.key)}
      onChange={(next) => setStepValue(step.id, spec.key, next)}
      picture={
        pictured
          ? (option) => {
              const section = sectionOf(option);
              const about =
                spec.key === "place" ? { place: option as BendPlace } : { lengthTo: option as LengthTo };
              return section ? (
                <SectionPicture section={section} about={about} width={76} height={54} />
              ) : (
                <span className="h-[54px]" />
              );
            }
          : undefined
      }
      note={
        pictured
          ? (option) => {
              const section = sectionOf(option);
              if (!section) return "too short";
              return spec.key === "place"
                ? `plate ${signed(section.setback)} leg ${formatFixed(section.leg)}`
                : `leg ${formatFixed(section.leg)}`;
            }
          : undefined
      }
    />
  );
}

/** What the plate's straight part loses or gains at the edge. */
const signed = (setback: number) =>
  `${Math.abs(setback) < 5e-3 ? "±" : setback > 0 ? "−" : "+"}${formatFixed(Math.abs(setback))}`;

/** The section of a flange as it would be with another choice, in its real numbers. */
function sectionWith(context: FieldContext, key: string, option: string): Section | undefined {
  const { values } = context;
  const { stock } = evaluateStock(context.stock);
  if (!stock || !values) return undefined;
  const choices = { ...values.choices, [key]: option };
  const numbers = flangeNumbers({ ...values, choices }, { stock });
  if ("error" in numbers) return undefined;
  return {
    t: numbers.shape.t,
    r: numbers.shape.r,
    angle: numbers.shape.angle,
    up: choices.turn === "up",
    setback: numbers.setback,
    leg: numbers.leg,
  };
}

/** The edges a flange grows from, each with a way to take it off, and a way to pick more. */
function EdgesField({ context }: { context: FieldContext }) {
  const { step, labels, wrong } = context;
  const open = useApp((s) => s.view.openStep === step.id);
  const picking = useApp((s) => s.view.pickingFor === step.id);
  const send = useSend();
  const edges = edgesOf(step);
  return (
    <span data-field="edges">
      {edges.map((e, i) => (
        <span key={e.key}>
          {i > 0 && ", "}
          <span
            className={`border-b border-moss/45 font-semibold text-moss ${wrong.has("edges") ? "border-stop text-stop" : ""}`}
          >
            {edgeTitle(labels, e.at)}
            {open && edges.length > 1 && (
              <button
                type="button"
                aria-label={`Take ${edgeTitle(labels, e.at)} off`}
                className="ml-0.5 px-0.5 text-quiet hover:text-stop"
                onClick={() => toggleEdge(step, e.at)}
              >
                ×
              </button>
            )}
          </span>
        </span>
      ))}
      {(open || edges.length === 0) && (
        <button
          type="button"
          className={`ml-1 rounded border px-1 text-[12px] ${picking ? "border-amber bg-amber-soft" : "border-hairline text-quiet hover:text-ink"}`}
          title="Then click edges in either view"
          onClick={() => {
            send(viewActions.stepOpened(step.id));
            send(viewActions.pickingStarted(picking ? undefined : step.id));
          }}
        >
          {picking ? "click edges, then Enter" : edges.length === 0 ? "pick an edge" : "+ edge"}
        </button>
      )}
      {picking && <EdgeChoices step={step} labels={labels} />}
    </span>
  );
}

/** All edges that stand, to take by name: for the keyboard, and where an edge is hard to point at. */
function EdgeChoices({ step, labels }: { step: StepDocument; labels: ReadonlyMap<string, string> }) {
  const sheet = useApp((s) => s.build.shown?.build.sheet);
  const send = useSend();
  const own = new Set(edgesOf(step).map((e) => e.at));
  const names = new Set(
    sheet
      ? pickables(sheet).flatMap((b) => (b.role.startsWith("hole:") ? [] : [edgeName(b.plate, b.role)]))
      : [],
  );
  // A flange cannot stand on plates that it makes itself.
  const free = [...names].filter((n) => !own.has(n) && !n.startsWith(step.id));
  if (free.length === 0) return null;
  return (
    <span className="scroll-quiet mt-1 flex max-h-24 flex-wrap gap-1 overflow-auto leading-normal">
      {free.map((name) => (
        <button
          key={name}
          type="button"
          className="rounded border border-hairline bg-panel px-1.5 text-[12px] hover:border-moss"
          onPointerEnter={() => send(viewActions.hovered({ kind: "edge", name }))}
          onPointerLeave={() => send(viewActions.hovered(undefined))}
          onFocus={() => send(viewActions.hovered({ kind: "edge", name }))}
          onClick={() => toggleEdge(step, name)}
        >
          {edgeTitle(labels, name)}
        </button>
      ))}
    </span>
  );
}

/** Round holes of a step as rows of numbers. */
export function HolesField({ context }: { context: FieldContext }) {
  const { step, wrong } = context;
  const holes = holesOf(step);
  const last = holes[holes.length - 1];
  const onFlange = step.kind === "flange";
  const add = () => addHole(step, "0", onFlange ? "12" : "0", String(last?.d ?? "6"));
  return (
    <div className="mt-2">
      <div className="flex items-baseline justify-between">
        <span className="text-[12px] font-semibold text-quiet">
          Round holes{holes.length > 0 ? ` ${holes.length}` : ""}
          {onFlange && holes.length > 0 && (
            <span className="font-normal">, up from the outer mould line</span>
          )}
        </span>
        <button type="button" className="text-[12px] font-semibold text-moss hover:underline" onClick={add}>
          + hole
        </button>
      </div>
      <ul className="scroll-quiet max-h-44 overflow-auto">
        {holes.map((hole, i) => (
          <li
            key={hole.key}
            className="flex items-baseline gap-1.5 border-t border-hairline/60 py-1"
            data-hole={hole.key}
          >
            <span>⌀</span>
            {(["d", "x", "y"] as const).map((axis) => (
              <span key={axis} className="contents">
                {axis === "x" && <span className="text-quiet">at</span>}
                <QuantityField
                  spec={{
                    key: `hole-${axis}`,
                    label: `Hole ${i + 1} ${{ d: "diameter", x: "X", y: "Y" }[axis]}`,
                    dimension: "length",
                    default: "0",
                  }}
                  text={String(hole[axis])}
                  wrong={wrong.has(`holes.${hole.key}.${axis}`)}
                  onChange={(text, mark) => setHole(step, hole.key, axis, text, mark)}
                />
                {axis === "x" && ","}
              </span>
            ))}
            <button
              type="button"
              aria-label={`Remove hole ${i + 1}`}
              className="ml-auto px-1 text-quiet hover:text-stop"
              onClick={() => removeHole(step, hole.key)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
