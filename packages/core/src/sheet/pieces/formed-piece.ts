import { type FormedMetal, formSurface } from "../../forming/form-surface.ts";
import { isCutFree } from "../../forming/inset.ts";
import { type BlankShown, type FormShape, heightsOf, sectionPlaces } from "../../forming/section.ts";
import { roundVolume } from "../../forming/volume.ts";
import { Kept } from "../../kept.ts";
import { type Curve, line, withTags } from "../../plane/curve.ts";
import { moveFrame, moveLoop } from "../../plane/isometry.ts";
import { type Loop, loopArea, loopBounds } from "../../plane/loop.ts";
import { along, type Frame, frameY, grown, type Point } from "../../plane/point.ts";
import { compose, inverse, type Motion, moveV } from "../../space/vector.ts";
import { AXES, takeFlatArc } from "./borders.ts";
import type { Beyond, PieceKind, PieceStrokes } from "./piece-kind.ts";

/**
 * A shape that is raised out of a plate, its host. In developed coordinates its metal is that of the host: it has none
 * of its own there.
 */
export interface Formed extends FormedMetal {
  readonly kind: "formed";
  readonly id: string;
  readonly step: string;
  readonly feature: string;
  /** The plate that it is raised out of. */
  readonly host: string;
  /** Its middle, and the host's own directions. */
  readonly frame: Frame;
  readonly outline: Loop;
  readonly shape: FormShape;
  readonly openings: readonly Loop[];
  readonly onBlank: BlankShown;
  /** The name of its place among those of its step; see `FormOp.name`. */
  readonly name?: string;
  /** How a person would call it: "Dimple". */
  readonly title: string;
  /** So much room, mm, it needs to bends, edges and openings. */
  readonly room: number;
}

/** A formed shape in one fold state: it goes with its host. */
export interface FoldedFormed {
  readonly kind: "formed";
  readonly motion: Motion;
}

/** How fine a section is looked at where only its farthest places count, mm. */
const FINE = 1e-3;

/** What differs by less, mm, stands as far out. */
const AS_FAR = 1e-9;

/** The metal that stands out over the host's sides, as a body from one height to another. */
export function standingOut(
  { outline, shape }: Formed,
  t: number,
): { low: number; high: number; outline: Loop } {
  const [low, high] = heightsOf(shape, t);
  return shape.side === "up" ? { low: t, high, outline } : { low, high: 0, outline };
}

/** Metal that is not stretched is more or less than that of its host it is made of: by so much, mm³. */
function volumeBeyondHost(piece: Formed, t: number): number {
  if (!piece.shape.b) return 0;
  const made = roundVolume(piece, t);
  const zone = loopArea(piece.outline) - piece.openings.reduce((sum, l) => sum + Math.abs(loopArea(l)), 0);
  return made - zone * t;
}

/** Half of a cross in the middle of something formed, mm. */
const MARK = 2;

/** What is seen on the blank of something formed: its cut borders, its outline, or a cross in its middle. */
const shownOf = new Kept(({ step, feature, outline, frame, onBlank }: Formed): PieceStrokes => {
  const slits =
    onBlank === "cut" ? outline.filter(isCutFree).map((c) => withTags(c, { feature: c.feature })) : [];
  const marked = (curves: readonly Curve[]) => ({ marks: [{ step, feature, curves }], slits });
  if (onBlank === "outline") return marked(outline);
  if (onBlank !== "centre") return { marks: [], slits };
  const { minX, maxX, minY, maxY } = loopBounds(outline);
  const half = Math.min(MARK, (maxX - minX) / 2, (maxY - minY) / 2);
  const across = (d: Point) => line(along(frame.origin, d, -half), along(frame.origin, d, half));
  return marked([across(frame.x), across(frameY(frame))]);
});

export const formedPiece: PieceKind<Formed, FoldedFormed> = {
  metal: "of a host",
  pickedAs: ({ host }) => ({ kind: "plate", id: host }),
  edges: () => [],
  filled: (piece) => piece,
  regions: () => [],
  strokes: (piece) => shownOf.of(piece),
  volume: volumeBeyondHost,
  moved: (p, m) => ({
    ...p,
    frame: moveFrame(m, p.frame),
    outline: moveLoop(m, p.outline),
    openings: p.openings.map((l) => moveLoop(m, l)),
  }),
  fold: (_piece, on) => ({ kind: "formed", motion: on }),
  motionAt: ({ motion }) => motion,
  placeAt: ({ motion }, _t, at, w) => moveV(motion, [at.x, at.y, w]),
  facing: ({ motion }) => motion,
  seenFrom: ({ kind, motion }, back) => ({ kind, motion: compose(back, motion) }),
  unfold: ({ motion }, _t, q) => moveV(inverse(motion), q),
  reach: (piece, { motion }, t, take, beyond) => {
    if (!mayReachBeyond(piece, motion, t, beyond)) return "exact";
    const { sideA, sideB } = formSurface(piece, t, 0.05);
    for (const [u, v, w] of [...sideA, ...sideB]) take(u, v, w);
    for (const { curve, w } of levelArcs(piece, t)) takeFlatArc(curve, motion, (u, v) => take(u, v, w));
    return "exact";
  },
  slices: () => [],
  ownFrame: ({ frame }) => ({ origin: frame.origin, across: frame.x, along: frameY(frame) }),
  curl: ({ motion }) => ({ form: "still", motion, numbers: [] }),
  bow: ({ frame, outline }, { motion: _motion }) => {
    const { minX, maxX, minY, maxY } = loopBounds(outline);
    const wide = maxX - minX > maxY - minY;
    return {
      origin: frame.origin,
      ...(wide ? { across: frameY(frame), along: frame.x } : { across: frame.x, along: frameY(frame) }),
      straight: Number.POSITIVE_INFINITY,
      rate: 0,
      radius: 0,
      outer: "A",
    };
  },
  stands: (piece, t) => {
    const { low, high, outline } = standingOut(piece, t);
    return { low, high, regions: high - low > FINE ? [{ outer: outline, holes: [] }] : [] };
  },
};

const heights = new Kept((shape: FormShape, t: number) => heightsOf(shape, t));

/** Whether anything of it may stand beyond what others reach; of thousands in one plate few do. */
function mayReachBeyond({ outline, shape }: Formed, motion: Motion, t: number, beyond: Beyond): boolean {
  const { minX, minY, maxX, maxY } = grown(loopBounds(outline), t);
  const corners = heights
    .of(shape, t)
    .flatMap((w) => [minX, maxX].flatMap((u) => [minY, maxY].map((v) => moveV(motion, [u, v, w]))));
  return AXES.some((k) =>
    ([1, -1] as const).some((way) => beyond(k, way, Math.max(...corners.map((p) => way * p[k])) - AS_FAR)),
  );
}

/** Round lines inside the outline, at their heights: a shape in a leaning plate is farthest on one of them. */
function levelArcs(
  { outline, shape }: Formed,
  t: number,
): { curve: Extract<Curve, { kind: "arc" }>; w: number }[] {
  const out: { curve: Extract<Curve, { kind: "arc" }>; w: number }[] = [];
  for (const { inA, upA, inB, upB } of sectionPlaces(shape, t, FINE))
    for (const c of outline) {
      if (c.kind !== "arc") continue;
      for (const [s, w] of [
        [inA, upA],
        [inB, upB],
      ]) {
        const r = c.ccw ? c.r - s : c.r + s;
        if (r <= FINE) continue;
        const to = (p: { x: number; y: number }) => ({
          x: c.c.x + ((p.x - c.c.x) * r) / c.r,
          y: c.c.y + ((p.y - c.c.y) * r) / c.r,
        });
        out.push({ curve: { ...c, r, a: to(c.a), b: to(c.b) }, w });
      }
    }
  return out;
}
