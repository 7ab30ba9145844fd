import {
  bendsOf,
  choicesOf,
  edgeName,
  type FieldSpec,
  fieldsOf,
  isOwnPiece,
  type PickEntry,
  type PickOf,
  type PicksField,
  picksOf,
  platesOf,
  type StepDocument,
  shownFields,
  stepKind,
} from "@hillcrest/core";
import { useState } from "react";
import { offeredCorners, openBuild } from "../state/build-slice.ts";
import { setOwnValue, togglePick } from "../state/edits.ts";
import { openPart } from "../state/part-slice.ts";
import { useApp, useSend } from "../state/store.ts";
import { type Pick, viewActions } from "../state/view-slice.ts";
import { Popover } from "../ui/popover.tsx";
import { cornerTitle, edgeTitle } from "../views/pick-names.ts";
import type { FieldViewProps, StepOfField } from "./field-look.ts";
import { NestedField } from "./nested-field.tsx";

const ONE: Readonly<Record<PickOf, string>> = {
  edge: "an edge",
  corner: "a corner",
  bend: "a bend",
  plate: "a plate",
  step: "a step",
};

/** What the picked things are called. */
export function usePickTitle(labels: ReadonlyMap<string, string>) {
  const bends = useApp((s) => openBuild(s).latest?.bends);
  const steps = useApp((s) => openPart(s).document?.steps);
  return (of: PickOf, at: string): string => {
    switch (of) {
      case "edge":
        return edgeTitle(labels, at);
      case "corner":
        return cornerTitle(labels, at);
      case "bend":
        return String(bends?.find((b) => b.id === at)?.number ?? "?");
      case "plate":
        return labels.get(at) ?? "?";
      case "step": {
        const i = steps?.findIndex((s) => s.id === at) ?? -1;
        return i < 0
          ? "?"
          : `${i + 1} ${steps![i].name ?? stepKind(steps![i].kind)?.title.toLowerCase() ?? ""}`;
      }
    }
  };
}

/** What a step stands on, each with a way to take it off, and a way to pick more. */
export function PicksView({ field, step: of }: FieldViewProps<PicksField>) {
  return of ? <Picks spec={field} context={of} /> : null;
}

function Picks({ spec, context }: { spec: PicksField; context: StepOfField }) {
  const { step, labels, wrong } = context;
  const open = useApp((s) => s.view.openStep === step.id);
  const picking = useApp((s) => s.view.pickingFor?.step === step.id && s.view.pickingFor.field === spec.key);
  const send = useSend();
  const title = usePickTitle(labels);
  const picks = picksOf(step, spec.key);
  const single = spec.single ?? false;
  const look = wrong.has(spec.key) ? "border-stop text-stop" : "border-moss/45 text-moss";
  const more = single && picks.length > 0 ? "replace" : `+ ${spec.of}`;
  return (
    <span data-field={spec.key}>
      {picks.map((p, i) => (
        <span key={p.key}>
          {i > 0 && ", "}
          <span className={`border-b font-semibold ${look}`}>{title(spec.of, p.at)}</span>
          {open && spec.own && picks.length > 1 && <OwnValues spec={spec} pick={p} context={context} />}
          {!open && p.own && <span className="text-quiet">*</span>}
          {open && !single && picks.length > 1 && (
            <button
              type="button"
              aria-label={`Take ${title(spec.of, p.at)} off`}
              className="ml-0.5 px-0.5 text-quiet hover:text-stop"
              onClick={() => togglePick(step, spec.key, p.at, single)}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {(open || picks.length === 0) && (
        <button
          type="button"
          data-pick-more
          className={`ml-1 rounded border px-1 text-[12px] ${picking ? "border-amber bg-amber-soft" : "border-hairline text-quiet hover:text-ink"}`}
          title={spec.of === "step" ? "Then choose from the list" : `Then click ${spec.of}s in either view`}
          onClick={() => {
            send(viewActions.stepOpened(step.id));
            send(
              viewActions.pickingStarted(
                picking ? undefined : { step: step.id, field: spec.key, of: spec.of, single },
              ),
            );
          }}
        >
          {picking ? "then Enter" : picks.length === 0 ? `pick ${ONE[spec.of]}` : more}
        </button>
      )}
      {picking && <NamedChoices spec={spec} step={step} title={title} single={single} />}
    </span>
  );
}

/** Everything of a sort that stands, to take by name: for the keyboard, and where it is hard to point at. */
function NamedChoices({
  spec,
  step,
  title,
  single,
}: {
  spec: PicksField;
  step: StepDocument;
  title: (of: PickOf, at: string) => string;
  single: boolean;
}) {
  const names = useOffered(spec.of, step);
  const send = useSend();
  const own = new Set(picksOf(step, spec.key).map((e) => e.at));
  const free = names.filter((n) => !own.has(n));
  if (free.length === 0) return <span className="ml-1 text-[12px] text-quiet">nothing more to pick</span>;
  const over = (name: string): Pick[] => {
    if (spec.of === "edge") return [{ kind: "edge", name }];
    if (spec.of === "corner") return [{ kind: "corner", name }];
    if (spec.of === "bend") return [{ kind: "bend", id: name }];
    return spec.of === "plate" ? [{ kind: "plate", id: name, x: 0, y: 0 }] : [];
  };
  return (
    <span className="scroll-quiet mt-1 flex max-h-24 flex-wrap gap-1 overflow-auto leading-normal">
      {free.map((name) => (
        <button
          key={name}
          type="button"
          data-name={name}
          className="rounded border border-hairline bg-panel px-1.5 text-[12px] hover:border-moss"
          onPointerEnter={() => send(viewActions.hovered(over(name)))}
          onPointerLeave={() => send(viewActions.hovered([]))}
          onFocus={() => send(viewActions.hovered(over(name)))}
          onClick={() => {
            togglePick(step, spec.key, name, single);
            if (single) send(viewActions.pickingStarted(undefined));
          }}
        >
          {title(spec.of, name)}
        </button>
      ))}
    </span>
  );
}

/** Names of everything of a sort on the part; a step cannot stand on what it makes itself. */
function useOffered(of: PickOf, step: StepDocument): string[] {
  const sheet = useApp((s) => openBuild(s).shown?.build.sheet);
  const steps = useApp((s) => openPart(s).document?.steps);
  const corners = useApp(offeredCorners);
  if (of === "step") {
    const before = steps?.slice(
      0,
      steps.findIndex((s) => s.id === step.id),
    );
    return before?.map((s) => s.id) ?? [];
  }
  if (!sheet) return [];
  const own = new Set(
    platesOf(sheet)
      .filter((p) => p.step === step.id)
      .map((p) => p.id),
  );
  switch (of) {
    case "plate":
      return platesOf(sheet).flatMap((p) => (own.has(p.id) ? [] : [p.id]));
    case "bend":
      return bendsOf(sheet).flatMap((b) => (b.step === step.id ? [] : [b.id]));
    case "corner":
      return [...(corners ?? [])];
    case "edge":
      return platesOf(sheet).flatMap((p) =>
        own.has(p.id)
          ? []
          : p.edges.flatMap((e) => (isOwnPiece(e.role, step.id) ? [] : [edgeName(p.id, e.role)])),
      );
  }
}

/** Values in which one pick differs from the others, behind a small mark beside it. */
function OwnValues({ spec, pick, context }: { spec: PicksField; pick: PickEntry; context: StepOfField }) {
  const { step, labels } = context;
  const [open, setOpen] = useState(false);
  const title = usePickTitle(labels);
  const kind = stepKind(step.kind)!;
  const merged = { ...step, ...pick.own };
  const all = fieldsOf(kind, merged);
  const choices = choicesOf(all, merged);
  const fields = shownFields(all, choices).filter((f) => spec.own?.includes(f.key));
  const changed = Object.keys(pick.own ?? {}).length;
  return (
    <Popover
      label={`Values of ${title(spec.of, pick.at)} alone`}
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          data-own={pick.at}
          aria-label={`Values of ${title(spec.of, pick.at)} alone`}
          title="Values that differ here"
          className={`ml-0.5 rounded px-0.5 text-[12px] ${changed > 0 ? "font-bold text-amber" : "text-quiet hover:text-ink"}`}
        >
          {changed > 0 ? `≠${changed}` : "≠"}
        </button>
      }
    >
      <h3 className="mb-1.5 font-bold">{title(spec.of, pick.at)} alone</h3>
      <dl className="grid grid-cols-[auto_auto_auto] items-baseline gap-x-3 gap-y-1">
        {fields.map((f) => (
          <OwnField key={f.key} field={f} spec={spec} pick={pick} context={context} raw={merged} />
        ))}
      </dl>
    </Popover>
  );
}

function OwnField({
  field,
  spec,
  pick,
  context,
  raw,
}: {
  field: FieldSpec;
  spec: PicksField;
  pick: PickEntry;
  context: StepOfField;
  raw: StepDocument;
}) {
  const { step } = context;
  const put = (value: unknown, mark?: string) =>
    setOwnValue(step, spec.key, pick.key, field.key, value, mark);
  const differs = pick.own && field.key in pick.own;
  return (
    <div className="contents">
      <dt className={differs ? "font-semibold" : "text-quiet"}>{field.label}</dt>
      <dd>
        <NestedField
          look="sentence"
          field={field}
          place={`own-${field.key}`}
          value={raw[field.key]}
          names={context.names}
          onChange={put}
        />
      </dd>
      <dd>
        {differs && (
          <button
            type="button"
            className="text-[12px] text-quiet hover:text-ink"
            onClick={() => put(undefined)}
          >
            as the others
          </button>
        )}
      </dd>
    </div>
  );
}
