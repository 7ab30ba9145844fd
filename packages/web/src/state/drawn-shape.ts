import {
  bendsOf,
  formatShort,
  freshKey,
  type LegShape,
  legLoop,
  rowsOf,
  type StepDocument,
} from "@hillcrest/core";
import { openBuild } from "./build-slice.ts";
import { setStepValue, setStepValues } from "./edits.ts";
import { store } from "./store.ts";

/** Turns a rectangular plate into a drawn one with the same corners, unless it was drawn before. */
export function drawPlate(step: StepDocument): void {
  const made = openBuild(store.getState()).latest?.steps.find((s) => s.id === step.id);
  const { width, depth } = made?.values?.quantities ?? {};
  const choices = made?.values?.choices;
  const points =
    rowsOf(step, "points").length > 0 || choices?.form !== "rectangle" || !width || !depth
      ? undefined
      : rectangle(width, depth, choices.at === "centre");
  setStepValues(step.id, { form: "outline", ...(points ? { points } : {}) });
}

function rectangle(width: number, depth: number, centred: boolean) {
  const [x, y] = centred ? [-width / 2, -depth / 2] : [0, 0];
  return asRows([
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + depth },
    { x, y: y + depth },
  ]);
}

function asRows(points: readonly { x: number; y: number }[]) {
  const rows: { key: string; x: string; y: string }[] = [];
  for (const p of points) rows.push({ key: freshKey(rows), x: formatShort(p.x, 6), y: formatShort(p.y, 6) });
  return rows;
}

/**
 * Turns a leg's shape into a drawn outline. One that was drawn before comes back; else the outline begins as
 * what the leg is now, point by point.
 */
export function drawShape(step: StepDocument): void {
  const build = openBuild(store.getState());
  const made = build.latest?.steps.find((s) => s.id === step.id);
  const bend = bendsOf(build.latest?.sheet).find((b) => b.step === step.id);
  const choices: Readonly<Record<string, string>> = made?.values?.choices ?? {};
  const q: Readonly<Record<string, number | undefined>> = made?.values?.quantities ?? {};
  const leg = made?.section?.leg ?? q.length;
  if (rowsOf(step, "points").length > 0 || !bend || !leg || leg <= 0) {
    setStepValue(step.id, "shape", "outline");
    return;
  }
  const shape: LegShape =
    choices.shape === "angles"
      ? { by: "angles", left: q.leftLean ?? 0, right: q.rightLean ?? 0 }
      : choices.shape === "step"
        ? { by: "step", height: q.stepHeight ?? 0, left: q.leftStep ?? 0, right: q.rightStep ?? 0 }
        : { by: "rectangle" };
  const points = asRows(legLoop(bend.width, leg, shape).map(({ a }) => a));
  setStepValues(step.id, { shape: "outline", points });
}
