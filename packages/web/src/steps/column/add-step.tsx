import { type PickOf, picksIn, STEP_KINDS, type StepKind } from "@hillcrest/core";
import { type RefObject, useEffect, useRef, useState } from "react";
import { openBuild } from "../../state/build-slice.ts";
import { appendStep, namesOfPicks, stepOn } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { type Thunk, useApp, useSend } from "../../state/store.ts";
import { type Pick, viewActions } from "../../state/view-slice.ts";
import { focusFirstField, focusShown } from "../../ui/focus.ts";
import { cutAt, usualPlace } from "../cut-actions.ts";
import { stepFace } from "../faces/step-faces.ts";
import { StepPictogram } from "../pictures/step-pictogram.tsx";
import { KeptGroups } from "./put-group.tsx";

const GROUPS: readonly { from: StepKind["startsFrom"]; title: string }[] = [
  { from: "nothing", title: "From nothing" },
  { from: "edge", title: "From an edge" },
  { from: "plate", title: "From a plate" },
  { from: "bend", title: "From a bend" },
  { from: "corner", title: "From a corner" },
  { from: "part", title: "From the whole part" },
];

/** Picks of the view that a step kind can stand on, by the sort that fits first. */
function fittingPicks(kind: StepKind, picks: readonly Pick[]): { of: PickOf; names: string[] } | undefined {
  for (const { field } of picksIn({ id: "", kind: kind.kind })) {
    if (field.of === "step") continue;
    const names = namesOfPicks(picks, field.of);
    if (names.length > 0) return { of: field.of, names };
  }
  return undefined;
}

/** Whether a kind of step stands at a place of a plate. */
const isPlaced = (kind: StepKind): boolean => kind.fields.some((f) => f.key === "placed");

/** Adds a step of a kind. One that stands on something takes what is picked, or asks for it. */
export const addStepOf =
  (kind: StepKind): Thunk =>
  (send, getState) => {
    const { view } = getState();
    const { document } = openPart(getState());
    const face = stepFace(kind.kind);
    const fitting = fittingPicks(kind, view.picks);
    const values = face?.begins?.({ openStep: view.openStep }) ?? {};
    const growing = face?.grows?.find((g) => g.on === fitting?.of);
    const build = openBuild(getState()).shown?.build;
    const usual = !fitting && isPlaced(kind) && build?.sheet ? usualPlace(build) : undefined;
    if (usual) return send(cutAt(usual, build!, values, undefined, kind.kind));
    const id = fitting
      ? stepOn(kind, fitting.of, fitting.names, growing?.values)
      : appendStep(kind.kind, values);
    const needed = picksIn({ id, kind: kind.kind }).find(
      ({ field: f }) => !f.optional && !(f.key in values),
    )?.field;
    if (!fitting && needed) {
      send(viewActions.pickingStarted({ step: id, field: needed.key, of: needed.of, single: needed.single }));
      focusFirstField(id, needed.key);
    } else focusFirstField(id);
    if (document?.steps.length === 0) send(viewActions.facingChosen("oblique"));
  };

/** The end of the steps: opens the pictograms of what can be added. */
export function AddStep() {
  const empty = useApp((s) => openPart(s).document?.steps.length === 0);
  const hasPlate = useApp((s) => (openPart(s).document?.steps.length ?? 0) > 0);
  const [open, setOpen] = useState(false);
  const send = useSend();
  const shown = open || empty;
  const place = useRef<HTMLDivElement>(null);
  useClosing(open, place, () => setOpen(false));
  return (
    <div ref={place} className="p-3">
      {!shown && (
        <button
          type="button"
          data-add-step
          className="h-9 w-full rounded-md border border-dashed border-hairline text-quiet hover:border-moss hover:text-moss"
          onClick={() => setOpen(true)}
        >
          Add a step
        </button>
      )}
      {shown && (
        <div className="rounded-md border border-hairline p-2.5">
          {empty && (
            <p className="mb-2 leading-snug">
              Every part starts with a plate or a profile. Edges then grow flanges.
            </p>
          )}
          <KindsByStart hasPlate={hasPlate} onAdd={() => setOpen(false)} />
          <KeptGroups onPut={() => setOpen(false)} />
          {!empty && (
            <button
              type="button"
              className="mt-1 text-[12px] text-quiet hover:text-ink"
              onClick={() => {
                setOpen(false);
                send(viewActions.pickingStarted(undefined));
              }}
            >
              Close
            </button>
          )}
        </div>
      )}
    </div>
  );
}

/** While it is open the first kind has the focus, and Escape closes it. */
function useClosing(open: boolean, place: RefObject<HTMLDivElement | null>, close: () => void): void {
  const latest = useRef(close);
  latest.current = close;
  useEffect(() => {
    if (!open) return;
    place.current?.scrollIntoView({ block: "end" });
    place.current?.querySelector<HTMLElement>("[data-add]")?.focus();
    const onKey = (e: KeyboardEvent) => {
      if (e.key !== "Escape" || e.defaultPrevented) return;
      e.preventDefault();
      latest.current();
      focusShown("[data-add-step]");
    };
    // Before the Bench's own keys: Escape closes what was opened last.
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, [open, place]);
}

/** The kinds of steps that can be added to what there is, by what they start from. */
function KindsByStart({ hasPlate, onAdd }: { hasPlate: boolean; onAdd: () => void }) {
  const send = useSend();
  return GROUPS.map(({ from, title }) => {
    const kinds = STEP_KINDS.filter(
      (k) => k.startsFrom === from && (from === "nothing" ? !hasPlate || k.again : hasPlate),
    );
    if (kinds.length === 0) return null;
    return (
      <section key={from} className="mb-1.5 last:mb-0">
        <h3 className="mb-0.5 text-[11.5px] font-semibold text-quiet">{title}</h3>
        <div className="flex flex-wrap gap-[5px]">
          {kinds.map((k) => (
            <button
              key={k.kind}
              type="button"
              data-add={k.kind}
              title={k.about}
              className="flex w-[67px] flex-col items-center rounded-md border border-hairline bg-raised px-1 pt-1.5 pb-1 hover:border-moss"
              onClick={() => {
                onAdd();
                send(addStepOf(k));
              }}
            >
              <StepPictogram kind={k.kind} />
              <span className="text-center text-[11.5px] leading-tight font-semibold">{k.title}</span>
            </button>
          ))}
        </div>
      </section>
    );
  });
}
