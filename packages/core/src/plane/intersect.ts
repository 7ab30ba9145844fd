import { type Arc, arcCovers, type Curve, distanceToCurve, type Line } from "./curve.ts";
import { add, cross, distance, dot, hypotenuse, type Point, point, SAME, scale, subtract } from "./point.ts";

function lineWithLine(p: Line, q: Line): Point[] {
  const u = subtract(p.b, p.a);
  const v = subtract(q.b, q.a);
  const d = cross(u, v);
  const lengths = hypotenuse(u.x, u.y) * hypotenuse(v.x, v.y);
  if (Math.abs(d) <= 1e-12 * lengths) return [];
  const f = cross(subtract(q.a, p.a), v) / d;
  return [add(p.a, scale(u, f))];
}

function lineWithArc(p: Line, q: Arc): Point[] {
  const u = subtract(p.b, p.a);
  const length = hypotenuse(u.x, u.y);
  if (length === 0) return [];
  const unit = scale(u, 1 / length);
  const foot = dot(subtract(q.c, p.a), unit);
  const away = cross(unit, subtract(q.c, p.a));
  const gap = q.r - Math.abs(away);
  if (gap < -SAME) return [];
  // Within tolerance of tangent they touch once: two nearly equal roots would leave a sliver between them.
  if (gap <= SAME) return [add(p.a, scale(unit, foot))];
  const half = Math.sqrt((q.r + away) * (q.r - away));
  return [add(p.a, scale(unit, foot - half)), add(p.a, scale(unit, foot + half))];
}

function arcWithArc(p: Arc, q: Arc): Point[] {
  const d = distance(p.c, q.c);
  if (d < SAME) return [];
  if (d > p.r + q.r + SAME || d < Math.abs(p.r - q.r) - SAME) return [];
  const f = (p.r * p.r - q.r * q.r + d * d) / (2 * d);
  const unit = scale(subtract(q.c, p.c), 1 / d);
  const foot = add(p.c, scale(unit, f));
  const touching = Math.abs(d - p.r - q.r) <= SAME || Math.abs(d - Math.abs(p.r - q.r)) <= SAME;
  if (touching) return [foot];
  const half = Math.sqrt(Math.max(0, p.r * p.r - f * f));
  const normal = point(-unit.y, unit.x);
  return [add(foot, scale(normal, half)), add(foot, scale(normal, -half))];
}

function onCurve(c: Curve, p: Point): boolean {
  if (c.kind === "line") return distanceToCurve(c, p) <= SAME;
  if (Math.abs(distance(c.c, p) - c.r) > SAME) return false;
  return arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x), SAME / c.r);
}

/**
 * The points where two curves meet, ends included, within `SAME`. Where they run along each other,
 * the ends of the shared piece.
 */
export function intersectCurves(p: Curve, q: Curve): Point[] {
  let candidates: Point[];
  if (p.kind === "line") candidates = q.kind === "line" ? lineWithLine(p, q) : lineWithArc(p, q);
  else candidates = q.kind === "line" ? lineWithArc(q, p) : arcWithArc(p, q);
  const points = candidates.filter((x) => onCurve(p, x) && onCurve(q, x));
  for (const end of [p.a, p.b]) if (onCurve(q, end)) points.push(end);
  for (const end of [q.a, q.b]) if (onCurve(p, end)) points.push(end);
  return points;
}
