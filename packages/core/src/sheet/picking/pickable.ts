import { type Curve, flattenCurve } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import type { Sheet } from "../sheet.ts";

/** A border that can be picked, as far as it is still there after cutting. */
export interface Pickable {
  /** Index of its plate in `platesOf(sheet)`. */
  readonly owner: number;
  readonly plate: string;
  /** An edge's role; of a round opening `hole:<key>` or `cut:<step>`. */
  readonly role: string;
  /** Straight runs in developed coordinates. */
  readonly runs: readonly (readonly [Point, Point])[];
  readonly curves: readonly Curve[];
}

const PICK_CHORD = 0.5;

/** All edges and holes of a sheet's plates that a person can point at. */
export function pickables(sheet: Sheet): Pickable[] {
  return sheet.pieces.flatMap((plate, owner) => {
    if (plate.kind !== "plate") return [];
    const byRole = new Map<string, Curve[]>();
    for (const c of plate.regions.flatMap(regionLoops).flat()) {
      // Roundings, reliefs and the like are no edges.
      if (!c.name || (c.name.includes(":") && !/^(hole|cut):/.test(c.name))) continue;
      const list = byRole.get(c.name);
      if (list) list.push(c);
      else byRole.set(c.name, [c]);
    }
    return [...byRole].map(([role, curves]) => ({
      owner,
      plate: plate.id,
      role,
      curves,
      runs: curves.flatMap((c) => {
        const points = [...flattenCurve(c, PICK_CHORD), c.b];
        return points.slice(1).map((q, i) => [points[i], q] as const);
      }),
    }));
  });
}
