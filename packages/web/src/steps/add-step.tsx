import { STEP_KINDS, type StepKind } from "@hillcrest/core";
import { useState } from "react";
import { flushSync } from "react-dom";
import { appendStep, flangeOn } from "../state/edits.ts";
import { store, useApp, useSend } from "../state/store.ts";
import { viewActions } from "../state/view-slice.ts";
import { StepPictogram } from "./step-pictogram.tsx";

const GROUPS: readonly { from: StepKind["startsFrom"]; title: string }[] = [
  { from: "nothing", title: "From nothing" },
  { from: "edge", title: "From an edge" },
];

/** Adds a step of a kind. One that needs an edge takes those picked, or asks for one. */
export function addStepOf(kind: StepKind): void {
  const { view, part } = store.getState();
  if (kind.startsFrom === "edge") {
    const edges = view.picks.flatMap((p) => (p.kind === "edge" ? [p.name] : []));
    if (edges.length > 0) flangeOn(edges);
    else store.dispatch(viewActions.pickingStarted(appendStep(kind.kind, { edges: [] })));
    return;
  }
  const id = appendStep(kind.kind);
  focusFirstField(id);
  if (part.document?.steps.length === 0) store.dispatch(viewActions.facingChosen("oblique"));
}

/**
 * Puts the cursor into a field of a step, else into its first number: at once, so that what is typed
 * next goes there and not to the keys of the views.
 */
export function focusFirstField(step: string, field?: string): void {
  const row = `[data-step="${step}"]`;
  focusShown(field ? `${row} [data-field="${CSS.escape(field)}"]` : `${row} input`, `${row} input`);
}

/** Focuses the first of some elements that is there, once what was just changed has been rendered. */
export function focusShown(...selectors: readonly string[]): void {
  flushSync(() => undefined);
  const find = () => selectors.map((s) => document.querySelector<HTMLElement>(s)).find(Boolean);
  const focus = () => {
    const place = find();
    place?.scrollIntoView({ block: "nearest" });
    place?.focus();
    return place !== undefined;
  };
  if (!focus()) requestAnimationFrame(focus);
}

/** The end of the steps: opens the pictograms of what can be added. */
export function AddStep() {
  const empty = useApp((s) => s.part.document?.steps.length === 0);
  const hasPlate = useApp((s) => s.part.document?.steps.some((p) => p.kind === "plate") ?? false);
  const [open, setOpen] = useState(false);
  const send = useSend();
  const shown = open || empty;
  return (
    <div className="p-3">
      {!shown && (
        <button
          type="button"
          className="h-9 w-full rounded-md border border-dashed border-hairline text-quiet hover:border-moss hover:text-moss"
          onClick={() => setOpen(true)}
        >
          Add a step
        </button>
      )}
      {shown && (
        <div className="rounded-md border border-hairline p-2.5">
          {empty && (
            <p className="mb-2 leading-snug">Every part starts with a plate. Its edges then grow flanges.</p>
          )}
          {GROUPS.map(({ from, title }) => {
            const kinds = STEP_KINDS.filter(
              (k) => k.startsFrom === from && (from === "edge" ? hasPlate : !hasPlate),
            );
            if (kinds.length === 0) return null;
            return (
              <section key={from} className="mb-2 last:mb-0">
                <h3 className="mb-1 text-[12px] font-semibold text-quiet">{title}</h3>
                <div className="flex flex-wrap gap-1.5">
                  {kinds.map((k) => (
                    <button
                      key={k.kind}
                      type="button"
                      data-add={k.kind}
                      title={k.about}
                      className="flex w-[84px] flex-col items-center gap-1 rounded-md border border-hairline bg-raised p-2 hover:border-moss"
                      onClick={() => {
                        addStepOf(k);
                        setOpen(false);
                      }}
                    >
                      <StepPictogram kind={k.kind} />
                      <span className="text-[12px] font-semibold">{k.title}</span>
                    </button>
                  ))}
                </div>
              </section>
            );
          })}
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
