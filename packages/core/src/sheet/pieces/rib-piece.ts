import type { BlankShown } from "../../forming/section.ts";
import { Kept } from "../../kept.ts";
import { type Curve, line } from "../../plane/curve.ts";
import { moveLoop } from "../../plane/isometry.ts";
import type { Loop } from "../../plane/loop.ts";
import { along, dot, type Point, subtract } from "../../plane/point.ts";
import { addV, compose, type Motion, moveV, STILL, scaleV, type Vector } from "../../space/vector.ts";
import { bendMotion, bendPiece } from "./bend-piece.ts";
import type { Bend } from "./flat-pieces.ts";
import type { PieceKind, PieceStrokes } from "./piece-kind.ts";

/** A rib that is pressed into a bend: from one leg straight to the other, deepest in its middle. */
export interface Rib {
  readonly kind: "rib";
  readonly id: string;
  readonly step: string;
  readonly feature: string;
  /** The plate that its bend starts from. */
  readonly host: string;
  readonly bend: Bend;
  /** The rectangle that it takes of both legs and the strip between, developed: along the bend and across it. */
  readonly zone: Loop;
  readonly title: string;
  readonly onBlank: BlankShown;
}

/** A rib in one fold state: flat where its bend is, and the deeper the farther that is bent. */
export interface FoldedRib {
  readonly kind: "rib";
  readonly parent: Motion;
  readonly bend: Bend;
  readonly angle: number;
}

/** From where to where a rib reaches along its bend, and across it from where the bend begins. */
export interface RibExtent {
  readonly from: number;
  readonly to: number;
  readonly low: number;
  readonly high: number;
}

export function extentOf({ zone, bend }: Pick<Rib, "zone" | "bend">): RibExtent {
  const places = zone.map((c) => subtract(c.a, bend.origin));
  const [s, x] = [places.map((p) => dot(p, bend.axis)), places.map((p) => dot(p, bend.out))];
  return { from: Math.min(...s), to: Math.max(...s), low: Math.min(...x), high: Math.max(...x) };
}

const developed = (bend: Bend, s: number, x: number): Point =>
  along(along(bend.origin, bend.axis, s), bend.out, x);

/** A place of the metal as it is without a rib: on one of the legs, or on the strip between them. */
function plain({ parent, bend, angle }: FoldedRib, t: number, s: number, x: number, w: number): Vector {
  const p = developed(bend, s, x);
  const on = x <= 0 ? STILL : bendMotion(bend, t, angle, Math.min(x, bend.allowance));
  return moveV(compose(parent, on), [p.x, p.y, w]);
}

/**
 * A place of a rib in space. Across the bend its inner face goes straight from leg to leg in the middle of its width, and as
 * the bend does at its borders: between them it is so much of the one as a cosine says that falls from 1 to nothing. Its outer
 * face lies so much farther out as `swell` says, most in the middle and not at all at the border.
 *
 * @param s Along the bend, @param x across it from where it begins, @param w over side A, mm.
 * @param swell By which share of its thickness the metal is thicker in the middle: see `ribSwell`.
 */
export function ribPlace(
  folded: FoldedRib,
  extent: RibExtent,
  t: number,
  s: number,
  x: number,
  wanted: number,
  swell: number,
): Vector {
  const { from, to, low, high } = extent;
  const share = Math.cos((Math.PI * (s - (from + to) / 2)) / (to - from)) ** 2;
  const along = (x - low) / (high - low);
  const inner = folded.bend.up ? t : 0;
  const w = inner + (wanted - inner) * (1 + swell * share * Math.sin(Math.PI * along) ** 2);
  const own = plain(folded, t, s, x, w);
  const [p, q] = [plain(folded, t, s, low, w), plain(folded, t, s, high, w)];
  const straight = addV(scaleV(p, 1 - along), scaleV(q, along));
  return addV(scaleV(own, 1 - share), scaleV(straight, share));
}

/** What is seen on the blank of a rib: the line along which it is pressed, or its outline. */
const shownOf = new Kept((rib: Rib): PieceStrokes => {
  const { step, feature, zone, bend, onBlank } = rib;
  const marked = (curves: readonly Curve[]) => ({ marks: [{ step, feature, curves }], slits: [] });
  if (onBlank === "outline") return marked(zone);
  if (onBlank !== "centre") return { marks: [], slits: [] };
  const { from, to, low, high } = extentOf(rib);
  const middle = along(bend.origin, bend.axis, (from + to) / 2);
  return marked([line(along(middle, bend.out, low), along(middle, bend.out, high))]);
});

export const ribPiece: PieceKind<Rib, FoldedRib> = {
  metal: "of a host",
  pickedAs: ({ bend }) => ({ kind: "bend", id: bend.id }),
  edges: () => [],
  filled: (piece) => piece,
  regions: () => [],
  strokes: (rib) => shownOf.of(rib),
  // Its metal is that of the legs and of the strip, which it only stretches.
  volume: () => 0,
  moved: (p, m) => ({ ...p, bend: bendPiece.moved(p.bend, m), zone: moveLoop(m, p.zone) }),
  fold: ({ bend }, on, share) => ({ kind: "rib", parent: on, bend, angle: share * bend.angle }),
  motionAt: ({ parent }) => parent,
  placeAt: ({ parent }, _t, at, w) => moveV(parent, [at.x, at.y, w]),
  facing: ({ parent }) => parent,
  seenFrom: (folded, back) => ({ ...folded, parent: compose(back, folded.parent) }),
  // It lies between its legs: within the box of what it is pressed out of.
  reach: () => "exact",
  slices: () => [],
  ownFrame: () => ({ origin: { x: 0, y: 0 }, across: { x: 1, y: 0 }, along: { x: 0, y: 1 } }),
  // Its places are known in space, whatever the state: see `ribPlaces`.
  curl: () => ({ form: "still", motion: STILL, numbers: [] }),
  bow: () => ({
    origin: { x: 0, y: 0 },
    across: { x: 1, y: 0 },
    along: { x: 0, y: 1 },
    straight: Number.POSITIVE_INFINITY,
    rate: 0,
    radius: 0,
    outer: "A",
  }),
};
