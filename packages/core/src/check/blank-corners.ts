import { Kept } from "../kept.ts";
import type { PartBuild } from "../part/build.ts";
import { type Curve, curveBounds, directionAt } from "../plane/curve.ts";
import { asCircle } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { cross, dot, type Point } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import type { Blank } from "../sheet/blank/blank.ts";
import { bendsOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import type { Finding, FindingPiece } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD } from "./opening-names.ts";

/** A corner of the blank, or a rounding: an inner one has the metal around it, an outer one the air. */
export interface BlankCorner {
  readonly at: Point;
  readonly inner: boolean;
  /** Nought where it is sharp, mm. */
  readonly radius: number;
}

/** What turns by less than this is no corner: a rounding that meets its sides. */
const LEAST_TURN = (5 * Math.PI) / 180;

/** The corners and roundings of a blank. Its loops keep metal on their left, so that what turns right is inner. */
const corners = new Kept((blank: Blank): BlankCorner[] =>
  [...blank.outlines, ...blank.openings].flatMap((loop) => {
    if (asCircle(loop)) return [];
    return loop.flatMap((c, i): BlankCorner[] => {
      const d = directionAt(c, 1);
      const e = directionAt(loop[(i + 1) % loop.length], 0);
      const turn = Math.atan2(cross(d, e), dot(d, e));
      const sharp = Math.abs(turn) > LEAST_TURN ? [{ at: c.b, inner: turn < 0, radius: 0 }] : [];
      return c.kind === "arc" ? [{ at: c.a, inner: !c.ccw, radius: c.r }, ...sharp] : sharp;
    });
  }),
);

const borders = new Kept((sheet: Sheet) => {
  const of = (piece: FindingPiece, curves: readonly Curve[]) =>
    curves.map((c) => ({ piece, box: curveBounds(c) }));
  return new NearCurves(
    [...platesOf(sheet), ...bendsOf(sheet)].flatMap(({ kind, id, regions }) =>
      of({ kind, id }, regions.flatMap(regionLoops).flat()),
    ),
  );
});

/** The plates and bends that have a border at a point of the blank. */
export const piecesAt = (sheet: Sheet, { x, y }: Point): FindingPiece[] => [
  ...new Map(
    borders
      .of(sheet)
      .near({ minX: x - 1e-6, minY: y - 1e-6, maxX: x + 1e-6, maxY: y + 1e-6 })
      .map(({ piece }) => [`${piece.kind} ${piece.id}`, piece]),
  ).values(),
];

/** One finding of all corners of a kind that are sharper than is wanted. */
export function sharpCorners(
  { sheet, blank }: PartBuild,
  inner: boolean,
  wanted: number,
): Omit<Finding, "level" | "rule">[] {
  if (!(wanted > 0) || !sheet || !blank) return [];
  const sharp = corners.of(blank).filter((c) => c.inner === inner && c.radius < wanted - AS_GOOD);
  if (sharp.length === 0) return [];
  const found = sharp.reduce((least, c) => Math.min(least, c.radius), Infinity);
  const many = sharp.length === 1 ? "1 corner is" : `${sharp.length} corners are`;
  const which = inner ? "of openings and notches" : "of the outline";
  const worst = found > 0 ? `the sharpest has ${mm(found)}` : "there is one with no radius at all";
  const pieces = new Map(
    sharp.flatMap((c) => piecesAt(sheet, c.at)).map((p) => [`${p.kind} ${p.id}`, p] as const),
  );
  return [
    {
      message: `${many} sharper than radius ${mm(wanted)} ${which}; ${worst}. Round them with a Round step, or where they are drawn.`,
      pieces: [...pieces.values()],
      at: sharp[0].at,
      found,
      wanted,
    },
  ];
}
