import { arcAngles, type Curve } from "./curve.ts";
import { hypotenuse, type Point } from "./point.ts";

const TURN = 2 * Math.PI;
const QUARTER = Math.PI / 2;

/** A circle that a shape leans on; a corner is one of radius nought. Its reach along u is c·u + r. */
interface Rim {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** Which rim reaches farthest, from one direction on to where the next span begins; none where nothing is there. */
interface Span {
  readonly from: number;
  readonly to: number;
  readonly rim?: Rim;
}

const reach = ({ x, y, r }: Rim, angle: number): number => x * Math.cos(angle) + y * Math.sin(angle) + r;

/** Where two rims reach equally far, within a span of directions: cos(θ − α) = −Δr/|Δc| has two answers at most. */
function crossings(p: Rim, q: Rim, from: number, to: number): number[] {
  const [dx, dy, dr] = [p.x - q.x, p.y - q.y, p.r - q.r];
  const far = hypotenuse(dx, dy);
  if (far === 0 || Math.abs(dr) > far) return [];
  const [middle, half] = [Math.atan2(dy, dx), Math.acos(-dr / far)];
  return [middle - half, middle + half]
    .map((a) => a + TURN * Math.ceil((from - a) / TURN))
    .filter((a) => a > from && a < to)
    .sort((a, b) => a - b);
}

/** The farther of two envelopes at every direction. */
function outerOf(p: readonly Span[], q: readonly Span[]): Span[] {
  const out: Span[] = [];
  const push = (from: number, to: number, rim: Rim | undefined) => {
    if (to <= from) return;
    const last = out[out.length - 1];
    if (last && last.rim === rim) out[out.length - 1] = { ...last, to };
    else out.push({ from, to, rim });
  };
  let [i, j, at] = [0, 0, 0];
  while (i < p.length && j < q.length) {
    const [one, other] = [p[i].rim, q[j].rim];
    const to = Math.min(p[i].to, q[j].to);
    if (!one || !other) push(at, to, one ?? other);
    else {
      const stops = [at, ...crossings(one, other, at, to), to];
      for (let k = 0; k + 1 < stops.length; k++) {
        const middle = (stops[k] + stops[k + 1]) / 2;
        push(stops[k], stops[k + 1], reach(one, middle) >= reach(other, middle) ? one : other);
      }
    }
    if (p[i].to <= to) i++;
    if (q[j].to <= to) j++;
    at = to;
  }
  return out;
}

function envelope(parts: readonly (readonly Span[])[]): readonly Span[] {
  if (parts.length === 0) return [];
  if (parts.length === 1) return parts[0];
  const middle = parts.length >> 1;
  return outerOf(envelope(parts.slice(0, middle)), envelope(parts.slice(middle)));
}

const everywhere = (rim: Rim): Span[] => [{ from: 0, to: TURN, rim }];

/** An arc reaches as far as its circle in the directions that it turns through, and nowhere else. */
function ofArc(rim: Rim, start: number, sweep: number): Span[] {
  if (sweep >= TURN) return everywhere(rim);
  const from = ((start % TURN) + TURN) % TURN;
  const to = from + sweep;
  const [a, b] = to > TURN ? [to - TURN, from] : [from, to];
  const inside = to <= TURN;
  return [
    { from: 0, to: a, rim: inside ? undefined : rim },
    { from: a, to: b, rim: inside ? rim : undefined },
    { from: b, to: TURN, rim: inside ? undefined : rim },
  ].filter((s) => s.to > s.from);
}

/** Which corner or arc of a shape lies farthest out, for every direction from 0 to a whole turn. */
function farthestOut(curves: readonly Curve[]): readonly Span[] {
  const parts: Span[][] = [];
  for (const c of curves) {
    parts.push(everywhere({ x: c.a.x, y: c.a.y, r: 0 }), everywhere({ x: c.b.x, y: c.b.y, r: 0 }));
    if (c.kind === "line") continue;
    const { start, sweep } = arcAngles(c);
    parts.push(ofArc({ x: c.c.x, y: c.c.y, r: c.r }, Math.min(start, start + sweep), Math.abs(sweep)));
  }
  return envelope(parts);
}

/** All real roots of a polynomial within [low, high], by the roots of its derivative between which it is monotone. */
export function rootsWithin(coefficients: readonly number[], low: number, high: number): number[] {
  const value = (x: number) => coefficients.reduceRight((sum, c) => sum * x + c, 0);
  if (coefficients.length < 2) return [];
  const slope = coefficients.slice(1).map((c, i) => c * (i + 1));
  const stops = [low, ...rootsWithin(slope, low, high), high];
  const roots: number[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    let [a, b] = [stops[i], stops[i + 1]];
    const rising = value(b) > value(a);
    if (value(a) === 0) roots.push(a);
    else if (value(a) > 0 === value(b) > 0) continue;
    else {
      for (let n = 0; n < 80 && b - a > 0; n++) {
        const m = (a + b) / 2;
        if (m <= a || m >= b) break;
        if (value(m) > 0 === rising) b = m;
        else a = m;
      }
      roots.push((a + b) / 2);
    }
  }
  return roots;
}

interface Side {
  readonly dx: number;
  readonly dy: number;
  readonly r: number;
}

/** Directions in a span where (d·u + r)(e·u′ + s) neither grows nor shrinks, u′ a quarter turn from u. */
function turningPoints(d: Side, e: Side, from: number, to: number): number[] {
  // u(φ + from) by t = tan(φ/2): cos φ = (1 − t²)/(1 + t²), sin φ = 2t/(1 + t²); the quarter keeps t below 1.
  const [c, s] = [Math.cos(from), Math.sin(from)];
  const along = { p: d.dx * c + d.dy * s, q: d.dy * c - d.dx * s, r: d.r };
  const across = { p: e.dy * c - e.dx * s, q: -e.dx * c - e.dy * s, r: e.r };
  // Each side is p·cos φ + q·sin φ + r; times 1 + t² it is r + p + 2q·t + (r − p)·t².
  const whole = ({ p, q, r }: typeof along) => [r + p, 2 * q, r - p];
  // Its slope −p·sin φ + q·cos φ, likewise.
  const slope = ({ p, q }: typeof along) => [q, -2 * p, -q];
  const product = (a: readonly number[], b: readonly number[]) => {
    const out = [0, 0, 0, 0, 0];
    a.forEach((x, i) => {
      b.forEach((y, j) => {
        out[i + j] += x * y;
      });
    });
    return out;
  };
  const one = product(slope(along), whole(across));
  const two = product(whole(along), slope(across));
  const sum = one.map((v, i) => v + two[i]);
  return rootsWithin(sum, 0, Math.tan((to - from) / 2)).map((t) => from + 2 * Math.atan(t));
}

/** A rectangle about a shape: how its sides lie and how long they are. */
export interface SmallestRectangle {
  /** The direction of its side of length `along`, radians, between two quarter turns. */
  readonly angle: number;
  readonly along: number;
  readonly across: number;
}

/** Two areas are the same within this share of them; of those the one that turns least is taken. */
const AS_SMALL = 1e-12;

/**
 * The rectangle of least area that holds some lines and arcs, exactly: which corner or arc each side leans on changes at
 * known directions, and between two of them the area is a trigonometric polynomial whose turning points are found as the
 * roots of a quartic. Its long side is `along`. Arcs count as arcs. O(n log n) for n curves.
 */
export function smallestRectangle(curves: readonly Curve[]): SmallestRectangle | undefined {
  const spans = farthestOut(curves);
  if (spans.length === 0) return undefined;
  const starts = spans.map((s) => s.from);
  const rimAt = (angle: number): Rim => {
    const a = ((angle % TURN) + TURN) % TURN;
    let [low, high] = [0, spans.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle] <= a) low = middle;
      else high = middle - 1;
    }
    return spans[low].rim!;
  };
  const sideAt = (angle: number): Side => {
    const [p, q] = [rimAt(angle), rimAt(angle + Math.PI)];
    return { dx: p.x - q.x, dy: p.y - q.y, r: p.r + q.r };
  };
  const stops = [...new Set([0, ...starts.map((a) => a % QUARTER), QUARTER])].sort((a, b) => a - b);
  const tried: SmallestRectangle[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    const [from, to] = [stops[i], stops[i + 1]];
    const middle = (from + to) / 2;
    const [d, e] = [sideAt(middle), sideAt(middle + QUARTER)];
    for (const angle of [from, to, ...(to - from > 1e-12 ? turningPoints(d, e, from, to) : [])]) {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      tried.push({ angle, along: d.dx * c + d.dy * s + d.r, across: e.dy * c - e.dx * s + e.r });
    }
  }
  const area = (t: SmallestRectangle) => t.along * t.across;
  const least = tried.reduce((m, t) => Math.min(m, area(t)), Infinity);
  const turned = ({ angle }: SmallestRectangle) => Math.min(angle, QUARTER - angle);
  const best = tried
    .filter((t) => area(t) <= least + Math.abs(least) * AS_SMALL)
    .reduce((m, t) => (turned(t) < turned(m) - 1e-12 ? t : m));
  return upright(best);
}

/** The same rectangle, its long side first. */
function upright({ angle, along, across }: SmallestRectangle): SmallestRectangle {
  // Two sides that are as long as one another but for rounding: the smaller turn.
  const longFirst = along > across * (1 + 1e-12) || (along >= across * (1 - 1e-12) && angle <= Math.PI / 4);
  return longFirst ? { angle, along, across } : { angle: angle - QUARTER, along: across, across: along };
}

/** How far a shape reaches along a direction, mm. */
export function extentAlong(curves: readonly Curve[], direction: Point): number {
  const angle = Math.atan2(direction.y, direction.x);
  let [least, most] = [Infinity, -Infinity];
  for (const c of curves) {
    for (const p of [c.a, c.b]) {
      const v = p.x * direction.x + p.y * direction.y;
      [least, most] = [Math.min(least, v), Math.max(most, v)];
    }
    if (c.kind === "line") continue;
    const { start, sweep } = arcAngles(c);
    for (const [way, sign] of [
      [angle, 1],
      [angle + Math.PI, -1],
    ]) {
      const turned = (((sweep > 0 ? way - start : start - way) % TURN) + TURN) % TURN;
      if (turned > Math.abs(sweep)) continue;
      const v = c.c.x * direction.x + c.c.y * direction.y + sign * c.r;
      [least, most] = [Math.min(least, v), Math.max(most, v)];
    }
  }
  return most - least;
}
