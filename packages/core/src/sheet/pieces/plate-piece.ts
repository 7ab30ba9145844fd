import { type Arc, arcCovers } from "../../plane/curve.ts";
import { moveFrame } from "../../plane/isometry.ts";
import { frameY } from "../../plane/point.ts";
import { regionArea } from "../../plane/region.ts";
import { compose, inverse, type Motion, moveV } from "../../space/vector.ts";
import { moveEdge } from "../draft.ts";
import type { Plate } from "../sheet.ts";
import { AXES, moveRegions } from "./borders.ts";
import type { PieceKind, Take } from "./piece-kind.ts";

/** A plate in one fold state. */
export interface FoldedPlate {
  readonly kind: "plate";
  readonly motion: Motion;
}

/** Along axis k an arc is farthest where the axis, seen in the plate's plane, points straight away from its centre. */
function takeFlatArc(c: Arc, m: Motion, take: Take): void {
  for (const k of AXES) {
    const [gx, gy] = [m.x[k], m.y[k]];
    const g = Math.hypot(gx, gy);
    if (g < 1e-12) continue;
    for (const way of [1, -1]) {
      const p = { x: c.c.x + (way * c.r * gx) / g, y: c.c.y + (way * c.r * gy) / g };
      if (arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) take(p.x, p.y);
    }
  }
}

/** Flat metal: it moves as a whole. */
export const platePiece: PieceKind<Plate, FoldedPlate> = {
  regions: (p) => p.regions,
  volume: (p, t) => p.regions.reduce((sum, r) => sum + regionArea(r), 0) * t,
  moved: (p, m) => ({
    ...p,
    frame: moveFrame(m, p.frame),
    edges: p.edges.map((e) => moveEdge(m, e)),
    regions: moveRegions(m, p.regions),
  }),
  fold: (_plate, on) => ({ kind: "plate", motion: on }),
  motionAt: ({ motion }) => motion,
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
