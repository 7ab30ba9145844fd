import { cross, type Point, subtract } from "./point.ts";

/** The convex hull of some points, counter-clockwise, without points along its sides (monotone chain). */
export function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((p, q) => p.x - q.x || p.y - q.y);
  const half = (list: readonly Point[]) => {
    const out: Point[] = [];
    for (const p of list) {
      while (
        out.length > 1 &&
        cross(subtract(out[out.length - 1], out[out.length - 2]), subtract(p, out[out.length - 1])) <= 0
      )
        out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}
