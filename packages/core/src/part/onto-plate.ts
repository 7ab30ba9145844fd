import type { PickEntry } from "../fields/field.ts";
import { dot, type Point } from "../plane/point.ts";
import type { EdgeSite, Plate } from "../sheet/pieces/flat-pieces.ts";
import { edgeName, partsOfName, platesOf, type Sheet } from "../sheet/sheet.ts";
import type { StepDocument } from "./document.ts";
import { picksIn } from "./references.ts";

/** Edges whose outsides point apart by more than 45° are not alike. */
const ALIKE = Math.SQRT1_2 - 1e-9;

/** Where the outside of an edge points, in its plate's own frame. */
function facing({ frame: { x } }: Plate, { out }: EdgeSite): Point {
  return { x: dot(out, x), y: x.x * out.y - x.y * out.x };
}

/** The edge of another plate that faces most as one of a plate does; nothing where none does so nearly. */
function alike(plate: Plate, role: string, other: Plate): string | undefined {
  const own = plate.edges.find((e) => e.role === role);
  if (!own) return undefined;
  const way = facing(plate, own);
  const likeness = (e: EdgeSite) => dot(facing(other, e), way);
  const [best] = [...other.edges].sort((p, q) => likeness(q) - likeness(p));
  return best && likeness(best) > ALIKE ? edgeName(other.id, best.role) : undefined;
}

/** The plate that a step stands on: that of the first thing that is picked in it. */
export const standsOn = (step: StepDocument): string | undefined =>
  picksIn(step)
    .filter(({ field }) => field.of === "plate" || field.of === "edge")
    .flatMap(({ picks }) => picks.map((p) => partsOfName(p.at).plate))[0];

/**
 * A step as it stands on another plate: the plate itself is that one, its edges are those that face the same way there. An
 * edge without its like is left out, and the step then asks for it. What stands on other plates stays.
 */
export function ontoPlate<S extends StepDocument>(step: S, sheet: Sheet, to: string): S {
  const from = standsOn(step);
  const [plate, other] = [from, to].map((id) => platesOf(sheet).find((p) => p.id === id));
  if (!plate || !other || plate === other) return step;
  const moved = (pick: PickEntry): PickEntry[] => {
    const { plate: id, role } = partsOfName(pick.at);
    if (id !== plate.id) return [pick];
    const at = role === "" ? other.id : alike(plate, role, other);
    return at === undefined ? [] : [{ ...pick, at }];
  };
  const fields = picksIn(step).filter(({ field }) => field.of === "plate" || field.of === "edge");
  return {
    ...step,
    ...Object.fromEntries(fields.map(({ field, picks }) => [field.key, picks.flatMap(moved)])),
  };
}
