import {
  bendsOf,
  formatShort,
  isFollowed,
  lastStepOf,
  type PartBuild,
  type PartDocument,
  picksIn,
  platesOf,
  rowsOf,
  type StepDocument,
  stepKind,
} from "@hillcrest/core";
import { addRow, appendSteps, stepOn } from "../../../state/edits.ts";
import { placeValues } from "../../../state/placing.ts";
import type { Thunk } from "../../../state/store.ts";
import { type Pick, viewActions } from "../../../state/view-slice.ts";
import { stepFace } from "../../../steps/faces/step-faces.ts";
import { focusFirstField, focusShown } from "../../../ui/focus.ts";

/**
 * Makes an opening over a bend: three steps that lay it flat, cut, and let it fold again. It stands on the
 * middle of the bend; where the bend has been pierced already it still begins there.
 */
export const openOver =
  (bend: string, build: PartBuild): Thunk =>
  (send) => {
    const sheet = build.sheet;
    const found = bendsOf(sheet).find((b) => b.id === bend);
    const plate = platesOf(sheet).find((p) => p.id === found?.parent);
    if (!found || !plate) return;
    const { origin, axis, out, width, allowance } = found;
    const [u, v] = [
      origin.x + axis.x * (width / 2) + out.x * (allowance / 2) - plate.frame.origin.x,
      origin.y + axis.y * (width / 2) + out.y * (allowance / 2) - plate.frame.origin.y,
    ];
    const { x } = plate.frame;
    const turned = Math.round(
      (Math.atan2(x.x * axis.y - x.y * axis.x, x.x * axis.x + x.y * axis.y) * 180) / Math.PI,
    );
    const picks = [{ key: "a", at: bend }];
    const size = Math.max(2, Math.round(Math.min(20, width / 3)));
    const cut = appendSteps([
      { kind: "hold", does: "hold", which: "picked", bends: picks },
      {
        kind: "cut",
        plate: [{ key: "a", at: plate.id }],
        form: "round",
        diameter: String(size),
        x: formatShort(u * x.x + v * x.y),
        y: formatShort(-u * x.y + v * x.x),
        ...(turned % 180 === 0 ? {} : { turned: String(turned) }),
      },
      { kind: "hold", does: "fold", which: "picked", bends: picks },
    ])[1];
    send(viewActions.stepOpened(cut));
    focusFirstField(cut, "diameter");
  };

/** Whether the step that made a plate can carry round holes that stand on this plate and on no other. */
function holesGo(document: PartDocument, maker: string | undefined): boolean {
  const index = document.steps.findIndex((s) => s.id === maker);
  const step = document.steps[index];
  if (!step || isFollowed(document, index)) return false;
  // The holes of a step that grows several walls stand on all of them.
  const walls = picksIn(step).reduce((sum, { field, picks }) => sum + (field.grows ? picks.length : 0), 0);
  return walls <= 1 && stepFace(step.kind)?.holeAt !== undefined;
}

/** A round opening as wide as another: by its diameter, or for the same thread. */
const roundLike = (last: StepDocument | undefined) => {
  const { sized, thread, fit }: Partial<StepDocument> = last ?? {};
  const by = sized === undefined || sized === "diameter" ? {} : { sized, thread: thread ?? "M4" };
  return {
    form: "round",
    diameter: String(last?.diameter ?? "6"),
    ...by,
    ...(sized === "clearance" && fit !== undefined ? { fit } : {}),
  };
};

/** A round hole that keeps its distances from the two edges nearest to where the plate was picked. */
export const holeFromEdges =
  (pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): Thunk =>
  (send) => {
    send(viewActions.placedChosen("edges"));
    const last = lastStepOf(document, "cut", (s) => s.form === "round");
    // The size is most often that of the last one; the distances are not.
    send(cutAt(pick, build, roundLike(last), last ? "off1" : "diameter"));
  };

/** A hole where the plate was picked: in the table of the plate's own step, or a step of its own. */
export const holeOn =
  (pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): Thunk =>
  (send, getState) => {
    const maker = platesOf(build.sheet).find((p) => p.id === pick.id)?.step;
    const { placed } = getState().view;
    if (placed === "xy" && holesGo(document, maker)) {
      send(holeAt(pick, build, document));
      return;
    }
    const last = lastStepOf(document, "cut", (s) => s.form === "round");
    const values = roundLike(last);
    send(cutAt(pick, build, values, "thread" in values ? "thread" : "diameter"));
  };

/** A cut, a vent, or something formed, where the plate was picked, on the nearest whole millimetre of its own frame. */
export const cutAt =
  (
    pick: Extract<Pick, { kind: "plate" }>,
    build: PartBuild,
    values: Readonly<Record<string, unknown>> = {},
    field = "width",
    kind: "cut" | "vent" | "form" = "cut",
  ): Thunk =>
  (_send, getState) => {
    const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
    if (!plate) return;
    const { origin, x } = plate.frame;
    const [du, dv] = [pick.x - origin.x, pick.y - origin.y];
    const at = { x: Math.round(du * x.x + dv * x.y), y: Math.round(-du * x.y + dv * x.x) };
    const place = placeValues(getState().view.placed, plate, at);
    const id = stepOn(stepKind(kind)!, "plate", [pick.id], { ...values, ...place });
    focusFirstField(id, field);
  };

export const focusHole =
  (step: string, key: string): Thunk =>
  (send) => {
    send(viewActions.stepOpened(step));
    focusShown(`[data-step="${step}"] [data-row="${key}"] input`);
  };

/** A hole where the plate was picked, on the nearest whole millimetre. */
export const holeAt =
  (pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): Thunk =>
  (send) => {
    const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
    const step = document.steps.find((s) => s.id === plate?.step);
    if (!plate || !step) return;
    const at = stepFace(step.kind)!.holeAt!(build.sheet!, plate, pick);
    const holes = rowsOf(step, "holes");
    const d = String(holes[holes.length - 1]?.d ?? "6");
    const key = addRow(step, "holes", {
      x: formatShort(Math.round(at.x)),
      y: formatShort(Math.round(at.y)),
      d,
    });
    send(viewActions.pickCleared());
    send(focusHole(step.id, key));
  };
