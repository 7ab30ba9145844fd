import { moveFrame } from "../../plane/isometry.ts";
import { frameY, type Point } from "../../plane/point.ts";
import { regionArea, regionBounds } from "../../plane/region.ts";
import { compose, inverse, type Motion, moveV } from "../../space/vector.ts";
import { moveEdge } from "../edges.ts";
import { flatEdges, moveMarks, moveRegions, ownMarks, takeFlatArc, withoutOpenings } from "./borders.ts";
import type { Plate } from "./flat-pieces.ts";
import type { PieceKind } from "./piece-kind.ts";

/** A plate in one fold state. */
export interface FoldedPlate {
  readonly kind: "plate";
  readonly motion: Motion;
}

/** The middle of a plate's largest piece; of one without metal, where it begins. */
function middleOfLargest({ regions, frame }: Plate): Point {
  if (regions.length === 0) return frame.origin;
  const largest =
    regions.length === 1 ? regions[0] : regions.reduce((a, b) => (regionArea(b) > regionArea(a) ? b : a));
  const { minX, maxX, minY, maxY } = regionBounds(largest);
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
}

/** Flat metal: it moves as a whole. */
export const platePiece: PieceKind<Plate, FoldedPlate> = {
  metal: "flat",
  pickedAs: ({ id }) => ({ kind: "plate", id }),
  edges: flatEdges,
  labelAt: middleOfLargest,
  filled: withoutOpenings,
  regions: (p) => p.regions,
  strokes: ownMarks,
  volume: (p, t) => p.regions.reduce((sum, r) => sum + regionArea(r), 0) * t,
  moved: (p, m) => ({
    ...p,
    frame: moveFrame(m, p.frame),
    edges: p.edges.map((e) => moveEdge(m, e)),
    regions: moveRegions(m, p.regions),
    marks: moveMarks(m, p.marks),
  }),
  fold: (_plate, on) => ({ kind: "plate", motion: on }),
  motionAt: ({ motion }) => motion,
  placeAt: ({ motion }, _t, at, w) => moveV(motion, [at.x, at.y, w]),
  facing: ({ motion }) => motion,
  seenFrom: ({ kind, motion }, back) => ({ kind, motion: compose(back, motion) }),
  unfold: ({ motion }, _t, q) => moveV(inverse(motion), q),
  reach: (plate, { motion }, _t, take) => {
    for (const c of plate.regions.flatMap((r) => r.outer)) {
      take(c.a.x, c.a.y);
      if (c.kind === "arc") takeFlatArc(c, motion, take);
    }
    return "exact";
  },
  slices: () => [],
  ownFrame: ({ frame }) => ({ origin: frame.origin, across: frame.x, along: frameY(frame) }),
  curl: ({ motion }) => ({ form: "still", motion, numbers: [] }),
  // Along is its longer way: what lies about a place is found by how far along it is.
  bow: ({ frame, box }) => ({
    origin: frame.origin,
    ...(box.x1 - box.x0 > box.y1 - box.y0
      ? { across: frameY(frame), along: frame.x }
      : { across: frame.x, along: frameY(frame) }),
    straight: Number.POSITIVE_INFINITY,
    rate: 0,
    radius: 0,
    outer: "A",
  }),
};
