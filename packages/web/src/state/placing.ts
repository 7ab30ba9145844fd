import {
  formatShort,
  nearestEdges,
  type PartBuild,
  type Plate,
  type Point,
  picksOf,
  platesOf,
  type StepDocument,
} from "@hillcrest/core";
import { openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { setStepValues } from "./edits.ts";
import { store } from "./store.ts";
import { type Placed, viewActions } from "./view-slice.ts";

const said = (v: number) => formatShort(v, 6);

/** The values that say a place of a plate's own frame in one of the ways there are; as x and y where a plate has no such edges. */
export function placeValues(placed: Placed, plate: Plate, at: Point): Record<string, unknown> {
  const { box } = plate;
  // Which point of which outline is to be chosen: it can stand anywhere else.
  if (placed === "point") return { placed };
  if (placed === "middle")
    return { placed, x: said(at.x - (box.x0 + box.x1) / 2), y: said(at.y - (box.y0 + box.y1) / 2) };
  const near = placed === "xy" ? [] : nearestEdges(plate, at);
  const pick = (i: number) => [{ key: "a", at: `${plate.id}.${near[i].role}` }];
  if (placed === "edges" && near.length === 2)
    return {
      placed,
      datum1: "edge",
      edge1: pick(0),
      off1: said(near[0].distance),
      datum2: "edge",
      edge2: pick(1),
      off2: said(near[1].distance),
    };
  if (placed === "edge" && near.length > 0) {
    const { along } = near[0];
    return {
      placed,
      datum1: "edge",
      edge1: pick(0),
      off1: said(near[0].distance),
      alongFrom: "middle",
      along: said(along),
    };
  }
  return { placed: undefined, x: said(at.x), y: said(at.y) };
}

const plateOf = (step: StepDocument, build: PartBuild | undefined): Plate | undefined =>
  platesOf(build?.sheet).find((p) => p.id === picksOf(step, "plate")[0]?.at);

/** Says the place of a step another way. It stays where it is; only what it is measured from changes. */
export async function choosePlaced(step: StepDocument, placed: Placed): Promise<void> {
  if (!(await builtNow())) return;
  const build = openBuild(store.getState());
  const plate = plateOf(step, build.latest) ?? plateOf(step, build.shown?.build);
  const [mark] = build.latest?.steps.find((s) => s.id === step.id)?.marks ?? [];
  const at = mark?.dims[mark.dims.length - 1]?.to;
  store.dispatch(viewActions.placedChosen(placed));
  const values = plate && at ? placeValues(placed, plate, at) : { placed };
  setStepValues(step.id, values);
}
