import type { Shape } from "../../../outline/from-shapes.ts";
import type { DxfEntity } from "./dxf-file.ts";
import { numberOf, numbersOf } from "./records.ts";

/** A place with its weight, each coordinate multiplied by it. */
type Weighted = readonly [x: number, y: number, w: number];

/** de Boor's algorithm in homogeneous coordinates. */
function deBoor(points: readonly Weighted[], knots: readonly number[], degree: number, u: number): Weighted {
  let [span, above] = [degree, points.length];
  while (above - span > 1) {
    const middle = (span + above) >> 1;
    if (u >= knots[middle]) span = middle;
    else above = middle;
  }
  const d = Array.from(
    { length: degree + 1 },
    (_, j) => [...points[j + span - degree]] as [number, number, number],
  );
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = j + span - degree;
      const width = knots[i + degree - r + 1] - knots[i];
      const f = width > 0 ? (u - knots[i]) / width : 0;
      for (const k of [0, 1, 2]) d[j][k] = d[j - 1][k] * (1 - f) + d[j][k] * f;
    }
  return d[degree];
}

/** The knots between which a curve has no corner: where one is repeated as often as the degree, it may have one. */
function spansOf(knots: readonly number[], degree: number, count: number): [number, number][] {
  const [low, high] = [knots[degree], knots[count]];
  const stops: number[] = [];
  for (let i = degree + 1; i < count; i++) {
    const k = knots[i];
    if (k > low && k < high && k !== knots[i - 1] && knots[i + degree - 1] === k) stops.push(k);
  }
  const ends = [low, ...stops, high];
  return ends.slice(0, -1).map((k, i) => [k, ends[i + 1]]);
}

/**
 * A spline by its control points, weights and knots, as a smooth curve for each stretch without a corner; nothing where
 * they do not fit one another. Degrees above 15 are in no drawing.
 */
export function splineShapes(entity: DxfEntity): Shape[] | undefined {
  const [xs, ys] = [numbersOf(entity, 10), numbersOf(entity, 20)];
  const knots = numbersOf(entity, 40);
  const weights = numbersOf(entity, 41);
  const degree = numberOf(entity, 71, 0);
  const fits =
    Number.isInteger(degree) &&
    degree >= 1 &&
    degree <= 15 &&
    ys.length === xs.length &&
    xs.length > degree &&
    knots.length === xs.length + degree + 1 &&
    knots.every((k, i) => i === 0 || k >= knots[i - 1]) &&
    (weights.length === 0 || weights.length === xs.length) &&
    weights.every((w) => w > 0) &&
    knots[xs.length] > knots[degree];
  if (!fits) return undefined;
  const points = xs.map((x, i): Weighted => {
    const w = weights[i] ?? 1;
    return [x * w, ys[i] * w, w];
  });
  return spansOf(knots, degree, xs.length).map(([low, high]): Shape => {
    // Just inside its own stretch at the end, where the next one begins.
    const last = high - (high - low) * 1e-12;
    const at = (t: number): readonly [number, number] => {
      const u = Math.min(last, low + (high - low) * Math.min(1, Math.max(0, t)));
      const [x, y, w] = deBoor(points, knots, degree, u);
      return [x / w, y / w];
    };
    const step = 1e-5;
    return {
      kind: "smooth",
      at,
      way: (t) => {
        const [p, q] = [at(t - step), at(t + step)];
        return [q[0] - p[0], q[1] - p[1]];
      },
    };
  });
}
