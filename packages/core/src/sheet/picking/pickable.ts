import { Kept } from "../../kept.ts";
import { type Curve, flattenCurve } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Sheet } from "../sheet.ts";

/** A border that can be picked, as far as it is still there after cutting. */
export interface Pickable {
  /** Where its piece stands in the list of the sheet. */
  readonly owner: number;
  /** The plate, or what turns, that it belongs to. */
  readonly piece: string;
  /** An edge's role; of a round opening `hole:<key>` or `cut:<step>`. */
  readonly role: string;
  /** The same list where the border is the same. */
  readonly curves: readonly Curve[];
}

const PICK_CHORD = 0.5;

const runs = new Kept((curves: readonly Curve[]): readonly (readonly [Point, Point])[] =>
  curves.flatMap((c) => {
    const points = [...flattenCurve(c, PICK_CHORD), c.b];
    return points.slice(1).map((q, i) => [points[i], q] as const);
  }),
);

/** A border as straight runs in developed coordinates, no farther off than half a millimetre. */
export const runsOf = ({ curves }: Pick<Pickable, "curves">): readonly (readonly [Point, Point])[] =>
  runs.of(curves);

/** Roundings, reliefs and the like are no edges. */
const isBorder = (name: string | undefined): name is string =>
  name !== undefined && name !== "" && (!name.includes(":") || /^(hole|cut):/.test(name));

const borders = new Kept((regions: readonly Region[]) => {
  const byRole = new Map<string, readonly Curve[]>();
  for (const loop of regions.flatMap(regionLoops)) {
    const [{ name: role }] = loop;
    // Most openings are one border all round, and no more is made of them.
    if (isBorder(role) && !byRole.has(role) && loop.every((c) => c.name === role)) {
      byRole.set(role, loop);
      continue;
    }
    for (const c of loop) if (isBorder(c.name)) byRole.set(c.name, [...(byRole.get(c.name) ?? []), c]);
  }
  return [...byRole];
});

/** All edges of a sheet's pieces, and the openings of its plates, that a person can point at. */
export function pickables(sheet: Sheet): Pickable[] {
  return sheet.pieces.flatMap((piece, owner) => {
    const known: readonly (readonly [string, readonly Curve[]])[] =
      piece.kind === "plate"
        ? borders.of(piece.regions)
        : kindOf(piece)
            .edges(piece)
            .map(({ role, curves }) => [role, curves]);
    return known.map(([role, curves]) => ({ owner, piece: piece.id, role, curves }));
  });
}
