import { arcCovers, type Curve, distanceToCurve } from "./curve.ts";
import { dot, hypotenuse, type Point, subtract } from "./point.ts";

/** The place on a curve that is nearest to a point. */
export function nearestOn(c: Curve, p: Point): Point {
  if (c.kind === "line") return footOf(c.a, c.b, p);
  const d = subtract(p, c.c);
  const length = hypotenuse(d.x, d.y);
  if (length > 1e-12 && arcCovers(c, Math.atan2(d.y, d.x)))
    return { x: c.c.x + (d.x * c.r) / length, y: c.c.y + (d.y * c.r) / length };
  return hypotenuse(p.x - c.a.x, p.y - c.a.y) <= hypotenuse(p.x - c.b.x, p.y - c.b.y) ? c.a : c.b;
}

/** The least distance between two curves that do not cross, mm, and where on the first. */
export function gapBetween(p: Curve, q: Curve): { readonly gap: number; readonly at: Point } {
  let best = { gap: Infinity, at: p.a };
  const offer = (gap: number, at: Point) => {
    if (gap < best.gap) best = { gap, at };
  };
  for (const end of [p.a, p.b]) offer(distanceToCurve(q, end), end);
  for (const end of [q.a, q.b]) offer(distanceToCurve(p, end), end);
  // Between ends the nearest places of a round lie on the straight line through its middle.
  const middles = [p, q].flatMap((c) => (c.kind === "arc" ? [c.c] : []));
  for (const c of [p, q]) {
    if (c.kind !== "arc") continue;
    const other = c === p ? q : p;
    const towards = other.kind === "arc" ? middles.filter((m) => m !== c.c) : [footOf(other.a, other.b, c.c)];
    for (const m of towards) {
      const d = subtract(m, c.c);
      const length = hypotenuse(d.x, d.y);
      if (length < 1e-12) {
        if (other.kind === "arc") offer(Math.abs(c.r - other.r), c.a);
        continue;
      }
      for (const way of [1, -1]) {
        if (!arcCovers(c, Math.atan2(way * d.y, way * d.x))) continue;
        const at = { x: c.c.x + (way * c.r * d.x) / length, y: c.c.y + (way * c.r * d.y) / length };
        offer(distanceToCurve(other, at), at);
      }
    }
  }
  return best;
}

function footOf(a: Point, b: Point, p: Point): Point {
  const d = subtract(b, a);
  const f = dot(subtract(p, a), d) / (dot(d, d) || 1);
  return { x: a.x + d.x * f, y: a.y + d.y * f };
}
