import { type Isometry, moveDirection, movePoint } from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { distance, type Frame, point, scale, subtract } from "../plane/point.ts";
import type { EdgeSite } from "./pieces/flat-pieces.ts";

export const edgeLength = (e: EdgeSite): number => distance(e.left, e.right);

/** The frame of an edge: origin at its left end, x to the right, y out of the plate. */
export function edgeFrame(e: EdgeSite): Frame {
  const length = edgeLength(e) || 1;
  return { origin: e.left, x: scale(subtract(e.right, e.left), 1 / length) };
}

export const moveEdge = (m: Isometry, e: EdgeSite): EdgeSite => {
  const [left, right] = m.flips
    ? [movePoint(m, e.right), movePoint(m, e.left)]
    : [movePoint(m, e.left), movePoint(m, e.right)];
  return { role: e.role, left, right, out: moveDirection(m, e.out) };
};

/** The edges that a loop's named straight pieces make, one for each name. */
export function edgesFromLoop(loop: Loop): EdgeSite[] {
  const out: EdgeSite[] = [];
  for (const c of loop) {
    if (c.kind !== "line" || !c.name || c.name.includes(":")) continue;
    const length = distance(c.a, c.b);
    if (length < 1e-6) continue;
    // With metal on the left of its travel, the outside is on the right and the left end is where it goes.
    const d = scale(subtract(c.b, c.a), 1 / length);
    out.push({ role: c.name, left: c.b, right: c.a, out: point(d.y, -d.x) });
  }
  return out;
}
