import { Kept } from "../kept.ts";
import { type Curve, curveBounds, type Line, line } from "../plane/curve.ts";
import type { Loop } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { along, type Bounds } from "../plane/point.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf, type Sheet } from "../sheet/sheet.ts";

/** Something on a plate that what is made there must stand clear of. */
export interface PlateBorder {
  readonly curve: Curve;
  readonly box: Bounds;
  /** The loop that it is of, and whether that is the outline; none where a bend begins. */
  readonly loop?: Loop;
  readonly rim?: boolean;
  readonly bend?: Bend;
}

/** Where a bend begins on the plate that it starts from, or ends on the other. */
export function bendLine(bend: Bend, plate: string): Line {
  const start = bend.parent === plate ? bend.origin : along(bend.origin, bend.out, bend.allowance);
  return line(start, along(start, bend.axis, bend.width));
}

export const sameList = <T>(p: readonly T[], q: readonly T[]): boolean =>
  p.length === q.length && p.every((v, i) => v === q[i]);

export interface PlateBorders {
  /** All of them, to be found by their places. */
  readonly all: NearCurves<PlateBorder>;
  /** Where bends begin or end. */
  readonly bends: readonly PlateBorder[];
}

/** The borders along a loop: the same while it is, however much else on its plate has changed. */
const alongLoop = new Kept((loop: Loop, rim: boolean): readonly PlateBorder[] =>
  loop.map((curve) => ({ curve, box: curveBounds(curve), loop, rim })),
);

const borders = new Kept((plate: Plate, bends: readonly Bend[]): PlateBorders => {
  const loops = plate.regions.flatMap(({ outer, holes }) => [
    ...alongLoop.of(outer, true),
    ...holes.flatMap((hole) => alongLoop.of(hole, false)),
  ]);
  const lines = bends.map((bend): PlateBorder => {
    const curve = bendLine(bend, plate.id);
    return { curve, box: curveBounds(curve), bend };
  });
  return { all: new NearCurves([...loops, ...lines]), bends: lines };
}, sameList);

/** The borders on each plate of a sheet. While nothing on a plate changes they are the same. */
export const bordersOf = new Kept((sheet: Sheet): ReadonlyMap<string, PlateBorders> => {
  const bends = new Map<string, Bend[]>();
  for (const bend of bendsOf(sheet))
    for (const plate of [bend.parent, bend.child]) {
      const own = bends.get(plate);
      if (own) own.push(bend);
      else bends.set(plate, [bend]);
    }
  return new Map(platesOf(sheet).map((plate) => [plate.id, borders.of(plate, bends.get(plate.id) ?? [])]));
});
