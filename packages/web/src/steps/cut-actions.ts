import {
  bendsOf,
  freePlace,
  fromFrame,
  holePlace,
  isFollowed,
  lastStepOf,
  lengthToStore,
  type PartBuild,
  type PartDocument,
  type Point,
  picksIn,
  platesOf,
  roundInches,
  rowsOf,
  type StepDocument,
  snapOnPlate,
  snapStep,
  stepKind,
  type Units,
} from "@hillcrest/core";
import { addRow, appendSteps, stepOn } from "../state/edits.ts";
import { openPart } from "../state/part-slice.ts";
import { placeValues } from "../state/placing.ts";
import type { State, Thunk } from "../state/store.ts";
import { type Pick, viewActions } from "../state/view-slice.ts";
import { focusFirstField, focusShown } from "../ui/focus.ts";
import { stepFace } from "./faces/step-faces.ts";

/**
 * A place on a plate, picked or pointed at; of one pointed at it is known how finely that can be done
 * there. One that was found, and not pointed at, has nought and is taken as it is.
 */
export type PlacePick = Extract<Pick, { kind: "plate" }> & { readonly mmPerPx?: number };

const openUnits = (state: State): Units => openPart(state).document?.units ?? "mm";

/**
 * Makes an opening over a bend: three steps that lay it flat, cut, and let it fold again. It stands on the
 * middle of the bend; where the bend has been pierced already it still begins there.
 */
export const openOver =
  (bend: string, build: PartBuild): Thunk =>
  (send, getState) => {
    const units = openUnits(getState());
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
        diameter: usual(size, units),
        x: lengthToStore(u * x.x + v * x.y, units, 4),
        y: lengthToStore(-u * x.y + v * x.x, units, 4),
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

/** A length that nobody has typed yet: as it is, or as round inches. */
const usual = (mm: number, units: Units): string => (units === "mm" ? String(mm) : roundInches(mm, units));
/** How wide the first round opening of a part is, mm. */
const FIRST_DIAMETER = 6;

/** A round opening as wide as another: by its diameter, or for the same thread. */
const roundLike = (last: StepDocument | undefined, units: Units) => {
  const { sized, thread, fit }: Partial<StepDocument> = last ?? {};
  const by = sized === undefined || sized === "diameter" ? {} : { sized, thread: thread ?? "M4" };
  return {
    form: "round",
    diameter: String(last?.diameter ?? usual(FIRST_DIAMETER, units)),
    ...by,
    ...(sized === "clearance" && fit !== undefined ? { fit } : {}),
  };
};

/** A round hole that keeps its distances from the two edges nearest to where the plate was picked. */
export const holeFromEdges =
  (pick: PlacePick, build: PartBuild, document: PartDocument): Thunk =>
  (send) => {
    send(viewActions.placedChosen("edges"));
    const last = lastStepOf(document, "cut", (s) => s.form === "round");
    // The size is most often that of the last one; the distances are not.
    send(cutAt(pick, build, roundLike(last, document.units ?? "mm"), last ? "off1" : "diameter"));
  };

/** A hole where the plate was picked: in the table of the plate's own step, or a step of its own. */
export const holeOn =
  (pick: PlacePick, build: PartBuild, document: PartDocument): Thunk =>
  (send, getState) => {
    const maker = platesOf(build.sheet).find((p) => p.id === pick.id)?.step;
    const { placed } = getState().view;
    if (placed === "xy" && holesGo(document, maker)) {
      send(holeAt(pick, build, document));
      return;
    }
    const last = lastStepOf(document, "cut", (s) => s.form === "round");
    const values = roundLike(last, document.units ?? "mm");
    send(cutAt(pick, build, values, "thread" in values ? "thread" : "diameter"));
  };

/** How far a place may be off what it is meant to be put on, px. */
const SNAP_PX = 9;

/** The place that is meant where a plate was picked or is pointed at, in its own frame. */
function meantPlace(pick: PlacePick, build: PartBuild, units: Units): Point {
  const sheet = build.sheet!;
  const plate = platesOf(sheet).find((p) => p.id === pick.id)!;
  const step = snapStep(units);
  const at = holePlace(sheet, plate, pick);
  if (pick.mmPerPx === 0) return at;
  const within = pick.mmPerPx === undefined ? step : pick.mmPerPx * SNAP_PX;
  return snapOnPlate(sheet, plate, at, { within, step });
}

/**
 * Where something goes that nobody has pointed a place for: on the plate that was worked on last, in its middle, clear of bends
 * and of what stands there.
 */
export function usualPlace(build: PartBuild): PlacePick | undefined {
  const plate = platesOf(build.sheet).at(-1);
  if (!plate) return undefined;
  const { x, y } = fromFrame(plate.frame, freePlace(plate, USUAL_ROOM));
  return { kind: "plate", id: plate.id, x, y, mmPerPx: 0 };
}

/** So much room a new opening is given, mm. */
const USUAL_ROOM = 20;

/** A cut, a vent, or something formed, where the plate was picked, put on what is near to it there. */
export const cutAt =
  (
    pick: PlacePick,
    build: PartBuild,
    values: Readonly<Record<string, unknown>> = {},
    field: string | undefined = undefined,
    kind = "cut",
  ): Thunk =>
  (_send, getState) => {
    const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
    if (!plate) return;
    const at = meantPlace(pick, build, openUnits(getState()));
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

/** A hole where the plate was picked, put on what is near to it there. */
export const holeAt =
  (pick: PlacePick, build: PartBuild, document: PartDocument): Thunk =>
  (send, getState) => {
    const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
    const step = document.steps.find((s) => s.id === plate?.step);
    if (!plate || !step) return;
    const units = openUnits(getState());
    const meant = fromFrame(plate.frame, meantPlace(pick, build, units));
    const at = stepFace(step.kind)!.holeAt!(build.sheet!, plate, meant);
    const holes = rowsOf(step, "holes");
    const d = String(holes[holes.length - 1]?.d ?? usual(FIRST_DIAMETER, units));
    const key = addRow(step, "holes", { x: lengthToStore(at.x, units), y: lengthToStore(at.y, units), d });
    send(viewActions.pickCleared());
    send(focusHole(step.id, key));
  };
