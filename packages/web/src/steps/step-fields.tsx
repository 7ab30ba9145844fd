import {
  type BendPlace,
  type BendSection,
  choicesOf,
  evaluateStock,
  type FieldSpec,
  type FieldValues,
  flangeNumbers,
  formatShort,
  type LengthTo,
  LONGEST_NAME,
  lengthText,
  type Names,
  type RawValues,
  type StepDocument,
  shortLength,
  stepKind,
  typedText,
} from "@hillcrest/core";
import { drawPlate, drawShape } from "../state/drawn-shape.ts";
import { setStepValue } from "../state/edits.ts";
import { choosePlaced } from "../state/placing.ts";
import { store } from "../state/store.ts";
import type { Placed } from "../state/view-slice.ts";
import { ChoiceField } from "./choice-field.tsx";
import { choicePicture } from "./choice-pictures.tsx";
import { leaveField } from "./focus.ts";
import { FoldMeaning } from "./fold-meaning.tsx";
import { PicksFieldView } from "./picks-field.tsx";
import { QuantityField } from "./quantity-field.tsx";
import { RadiusChoices } from "./radius-choices.tsx";
import { RowsCount } from "./rows-field.tsx";
import { type Section, SectionPicture } from "./section-picture.tsx";

export interface FieldContext {
  readonly step: StepDocument;
  readonly stock: RawValues;
  readonly labels: ReadonlyMap<string, string>;
  readonly values?: FieldValues;
  /** The section of the step's bend as it came out. */
  readonly section?: BendSection;
  /** What the build says beside fields. */
  readonly notes?: Readonly<Record<string, string>>;
  /** Fields that findings point at. */
  readonly wrong: ReadonlySet<string>;
  /** What expressions may use. */
  readonly names?: Names;
}

/** One field of a step, as it stands in its sentence. */
export function StepField({ spec, context }: { spec: FieldSpec; context: FieldContext }) {
  const { step, values, wrong } = context;
  switch (spec.kind) {
    case "quantity": {
      const text = typedText(spec, step);
      return (
        <>
          <QuantityField
            spec={spec}
            text={text}
            fallback={spec.optional ? fallbackOf(spec.key, context) : undefined}
            value={values?.quantities[spec.key]}
            wrong={wrong.has(spec.key)}
            names={context.names}
            onChange={(next, mark) => setStepValue(step.id, spec.key, next, mark)}
          />
          {spec.key === "radius" && spec.optional && (
            <RadiusChoices
              stock={context.stock}
              value={values?.quantities.radius}
              onChoose={(next) => setStepValue(step.id, spec.key, next)}
            />
          )}
        </>
      );
    }
    case "choice":
      return step.kind === "fold" && spec.key === "meaning" ? (
        <FoldMeaning spec={spec} context={context} />
      ) : (
        <>
          <StepChoice spec={spec} context={context} />
          {context.notes?.[spec.key] && (
            <span data-note={spec.key} className="ml-1 text-[12px] text-quiet">
              ({context.notes[spec.key]})
            </span>
          )}
        </>
      );
    case "picks":
      return <PicksFieldView spec={spec} context={context} />;
    case "rows":
      return <RowsCount spec={spec} context={context} />;
    case "text":
      return <TextField spec={spec} context={context} />;
  }
}

function TextField({ spec, context }: { spec: Extract<FieldSpec, { kind: "text" }>; context: FieldContext }) {
  const { step } = context;
  const value = typeof step[spec.key] === "string" ? (step[spec.key] as string) : spec.default;
  return (
    <input
      key={value}
      aria-label={spec.label}
      data-field={spec.key}
      defaultValue={value}
      maxLength={LONGEST_NAME}
      placeholder="no reason given"
      className="w-full border-b border-moss/45 bg-transparent text-moss placeholder:text-quiet focus:bg-raised"
      onBlur={(e) =>
        e.currentTarget.value !== value && setStepValue(step.id, spec.key, e.currentTarget.value)
      }
      onKeyDown={(e) => {
        if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
        if (e.key === "Enter") leaveField(e.currentTarget);
      }}
    />
  );
}

/** What stands for an empty optional value: the stock's. */
function fallbackOf(key: string, context: FieldContext): string {
  const { stock } = evaluateStock(context.stock);
  if (!stock) return "stock";
  if (key === "radius") return shortLength(stock.radius, store.getState().part.document?.units ?? "mm");
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
  const pictured = step.kind === "flange" && (spec.key === "place" || spec.key === "lengthTo");
  const drawn = pictured ? undefined : choicePicture(context, spec.key);
  const sectionOf = (option: string) => sectionWith(context, spec.key, option);
  return (
    <ChoiceField
      spec={spec}
      value={value}
      wrong={wrong.has(spec.key)}
      onChange={(next) =>
        step.kind === "cut" && spec.key === "placed"
          ? choosePlaced(step, next as Placed)
          : next === "outline" && spec.key === "shape"
            ? drawShape(step)
            : next === "outline" && step.kind === "plate" && spec.key === "form"
              ? drawPlate(step)
              : setStepValue(step.id, spec.key, next)
      }
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
          : drawn
      }
      note={
        pictured
          ? (option) => {
              const section = sectionOf(option);
              if (option === "level") return "follows what is picked";
              if (!section) return "too short";
              return spec.key === "place"
                ? `plate ${signed(section.setback)} leg ${inPart(section.leg)}`
                : `leg ${inPart(section.leg)}`;
            }
          : undefined
      }
    />
  );
}

/** A length as the part shows its lengths. */
export const inPart = (mm: number): string => lengthText(mm, store.getState().part.document?.units ?? "mm");

/** What the plate's straight part loses or gains at the edge. */
const signed = (setback: number) =>
  `${Math.abs(setback) < 5e-3 ? "±" : setback > 0 ? "−" : "+"}${inPart(Math.abs(setback))}`;

/** The section of a flange as it would be with another choice, in its real numbers. */
function sectionWith(context: FieldContext, key: string, option: string): Section | undefined {
  const { values } = context;
  const { stock } = evaluateStock(context.stock);
  if (!stock || !values) return undefined;
  const choices = { ...values.choices, [key]: option };
  // How long such a leg is follows from the part, not from its own numbers.
  if (choices.lengthTo === "level") return undefined;
  const numbers = flangeNumbers({ ...values, choices }, { stock, editOf: () => undefined }, "");
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
