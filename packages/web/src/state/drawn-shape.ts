import {
  type FieldValues,
  freshStepId,
  type Outline,
  type PartBuild,
  type StepDocument,
  stepKind,
} from "@hillcrest/core";
import { openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { emptyOutline, freshOutlineName, outlinesOf, withNewOutline } from "./drawing.ts";
import { drawingActions } from "./drawing-slice.ts";
import { edit } from "./edits.ts";
import { openPart } from "./part-slice.ts";
import { store } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** Gives a step values together with the outlines that they name, as one edit. */
const editWithOutlines = (
  step: string,
  outlines: ReturnType<typeof withNewOutline>["outlines"],
  values: Readonly<Record<string, string>>,
): void =>
  edit(
    {
      do: "several",
      commands: [
        { do: "part", values: { outlines } },
        { do: "set", step, values },
      ],
    },
    { step },
  );

/** What a step makes now, as an outline that its own numbers drive: an empty one with what is drawn in it. */
export type AsDrawn = (empty: Outline, step: StepDocument, values: FieldValues, build: PartBuild) => Outline;

/**
 * Makes a step one that is drawn: with the outline that it had, or with one that no step has taken yet. Where there is none
 * a new one begins as what the step makes now, driven by the numbers that it has, and its drawing is opened. `field` and
 * `option`: the choice that says so.
 */
export async function drawStep(
  step: StepDocument,
  field: string,
  option: string,
  asDrawn?: AsDrawn,
): Promise<void> {
  const known = outlinesOf(store.getState()).some((o) => o.key === step.drawn);
  if (known) {
    edit({ do: "set", step: step.id, values: { [field]: option } }, { step: step.id });
    store.dispatch(drawingActions.opened({ key: step.drawn as string }));
    return;
  }
  const { steps = [] } = openPart(store.getState()).document ?? {};
  const waiting = outlinesOf(store.getState()).filter((o) => !steps.some((s) => isMadeBy(s, o.key)));
  if (waiting.length > 0) {
    const { key } = waiting[waiting.length - 1];
    edit({ do: "set", step: step.id, values: { [field]: option, drawn: key } }, { step: step.id });
    return;
  }
  if (!(await builtNow())) return;
  // Meanwhile it may have been undone.
  if (!openPart(store.getState()).document?.steps.some((s) => s.id === step.id)) return;
  const { latest } = openBuild(store.getState());
  const values = latest?.steps.find((s) => s.id === step.id)?.values;
  const base = emptyOutline(nameFor(step));
  const outline = latest && values && asDrawn ? asDrawn(base, step, values, latest) : base;
  const { key, outlines } = withNewOutline(outline);
  editWithOutlines(step.id, outlines, { [field]: option, drawn: key });
  store.dispatch(drawingActions.opened({ key, ...(outline.curves.length === 0 ? { tool: "line" } : {}) }));
}

/** Whether a step goes by an outline, for one thing or another. */
const isMadeBy = (step: StepDocument, key: string): boolean =>
  stepKind(step.kind)?.fields.some((f) => f.kind === "drawn" && step[f.key] === key) ?? false;

/** A new outline for a field of a step that is drawn and has none, opened at once. */
export function drawNewFor(step: StepDocument, field: string): void {
  const { key, outlines } = withNewOutline(emptyOutline(nameFor(step)));
  editWithOutlines(step.id, outlines, { [field]: key });
  store.dispatch(drawingActions.opened({ key, tool: "line" }));
}

/** A cut in a plate that is drawn on it, in the plate's own frame; its drawing is opened. */
export function drawCutOn(plate: string): void {
  const { document } = openPart(store.getState());
  if (!document) return;
  const id = freshStepId(document);
  const { key, outlines } = withNewOutline(emptyOutline(`Cut ${document.steps.length + 1}`));
  const picks = [{ key: "a", at: plate }];
  edit(
    {
      do: "several",
      commands: [
        { do: "part", values: { outlines } },
        { do: "add", step: { id, kind: "cut", plate: picks, form: "drawn", drawn: key, x: "0", y: "0" } },
      ],
    },
    { step: id },
  );
  store.dispatch(viewActions.stepOpened(id));
  store.dispatch(viewActions.pickCleared());
  store.dispatch(drawingActions.opened({ key, tool: "line" }));
}

/** The name of a step's outline: the step's own, by kind and place. */
function nameFor(step: StepDocument): string {
  const outlines = outlinesOf(store.getState());
  const number = (openPart(store.getState()).document?.steps.findIndex((s) => s.id === step.id) ?? -1) + 1;
  const name = step.name?.trim() || `${stepKind(step.kind)?.title ?? "Step"} ${number}`;
  return outlines.some((o) => o.outline.name === name) ? freshOutlineName(outlines) : name;
}
