import {
  lengthToStore,
  nearestEdges,
  type Plate,
  type Point,
  picksOf,
  type StepDocument,
} from "@hillcrest/core";
import { requestPlateBefore } from "../worker/build-client.ts";
import { openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { setStepValues } from "./edits.ts";
import { openPart } from "./part-slice.ts";
import { store } from "./store.ts";
import { type Placed, viewActions } from "./view-slice.ts";

/** A length as the open part holds it. */
const said = (mm: number) => lengthToStore(mm, openPart(store.getState()).document?.units ?? "mm");

/** The values that say a place of a plate's own frame in one of the ways there are; as x and y where a plate has no such edges. */
export function placeValues(placed: Placed, plate: Plate, at: Point): Record<string, unknown> {
  const { box, middle } = plate;
  // Which point of which outline is to be chosen: it can stand anywhere else.
  if (placed === "point") return { placed };
  if (placed === "middle" || placed === "all") {
    const zero = placed === "middle" ? middle : { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 };
    return { placed, x: said(at.x - zero.x), y: said(at.y - zero.y) };
  }
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

/** The plate of a step as it stands before the step: what the step makes itself is nothing to measure from. */
async function plateUnder(step: StepDocument): Promise<Plate | undefined> {
  const { id, document } = openPart(store.getState());
  const plate = picksOf(step, "plate")[0]?.at;
  if (id === undefined || !document || plate === undefined) return undefined;
  const outcome = await requestPlateBefore(id, { document, step: step.id, plate });
  return outcome.kind === "result" ? outcome.value.plate : undefined;
}

/** Says the place of a step another way. It stays where it is; only what it is measured from changes. */
export async function choosePlaced(step: StepDocument, placed: Placed): Promise<void> {
  if (!(await builtNow())) return;
  const build = openBuild(store.getState());
  const plate = await plateUnder(step);
  const [mark] = build.latest?.steps.find((s) => s.id === step.id)?.marks ?? [];
  const at = mark?.dims[mark.dims.length - 1]?.to;
  store.dispatch(viewActions.placedChosen(placed));
  const values = plate && at ? placeValues(placed, plate, at) : { placed };
  setStepValues(step.id, values);
}
