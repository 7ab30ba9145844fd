import { combine, splitAt } from "./boolean.ts";
import { type Arc, arcCovers, type Curve, distanceToCurve, line, reversed } from "./curve.ts";
import { type Loop, loopArea } from "./loop.ts";
import { distance, hypotenuse, type Point, point } from "./point.ts";

/** Where something is on a line across: from, to, in order and apart from one another, mm. */
export type Chords = readonly (readonly [number, number])[];

/** Where the number of chords changes is found this exactly, mm. */
const CHANGE = 1e-9;
/** A chord that is narrower where it begins or ends is a point, mm. */
const POINT = 1e-3;
/** A region is looked at in at least so many places between two that are named. */
const LEAST_STEPS = 2;

/** Stretches that lie over each other or touch, as one, in order. */
export function joinChords(chords: Chords): Chords {
  const out: [number, number][] = [];
  for (const [from, to] of [...chords].sort((p, q) => p[0] - q[0])) {
    const last = out.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/** The same outlines in pieces of which each goes one way along x, to be met by many lines across. */
export const forChords = (loops: readonly Loop[]): readonly Curve[] =>
  loops.flatMap((loop) =>
    loop.flatMap((c) =>
      c.kind === "line"
        ? [c]
        : splitAt(
            c,
            [0, Math.PI]
              .filter((angle) => arcCovers(c, angle, 0))
              .map((angle) => point(c.c.x + c.r * Math.cos(angle), c.c.y)),
          ),
    ),
  );

/** Whether an arc that goes one way along x is above its middle. */
const isUpper = ({ a, b, ccw }: Arc): boolean => ccw === b.x < a.x;

/** How high a piece stands at `x`, which lies in its stretch. */
function heightAt(c: Curve, x: number): number {
  if (c.kind === "line") return c.a.y + ((c.b.y - c.a.y) * (x - c.a.x)) / (c.b.x - c.a.x);
  const rise = Math.sqrt(Math.max(0, c.r * c.r - (x - c.c.x) ** 2));
  return c.c.y + (isUpper(c) ? rise : -rise);
}

/** Where the outlines' area is met by the line across at `x`. */
export function chordsAcross(pieces: readonly Curve[], x: number): Chords {
  const met = pieces
    .filter(({ a, b }) => a.x > x !== b.x > x)
    .map((c) => heightAt(c, x))
    .sort((p, q) => p - q);
  return met.flatMap((y, i) => (i % 2 === 1 ? [[met[i - 1], y] as const] : []));
}

/**
 * What the outlines' area covers, seen along a direction, between the lines across at `x0` and `x1`: every point (x, y)
 * is seen at y − lean·(x − x0). Where both lines are one, what is on it reaches over as far as it would be shifted.
 *
 * @param shift How far the line at `x1` is shifted against that at `x0`: lean·(x1 − x0), mm.
 */
export function chordsSeen(pieces: readonly Curve[], x0: number, x1: number, shift: number): Chords {
  const first = chordsAcross(pieces, x0);
  const [low, high] = [Math.min(0, -shift), Math.max(0, -shift)];
  if (Math.abs(x1 - x0) < 1e-9) return joinChords(first.map(([p, q]) => [p + low, q + high] as const));
  const lean = shift / (x1 - x0);
  const [from, to] = [Math.min(x0, x1), Math.max(x0, x1)];
  const seen = (x: number, y: number) => y - lean * (x - x0);
  const all: (readonly [number, number])[] = [...first];
  for (const [p, q] of chordsAcross(pieces, x1)) all.push([p - shift, q - shift]);
  for (const c of pieces) {
    const [left, right] = [Math.max(from, Math.min(c.a.x, c.b.x)), Math.min(to, Math.max(c.a.x, c.b.x))];
    if (left > right) continue;
    const upright = Math.abs(c.a.x - c.b.x) < 1e-12;
    const ends = upright
      ? [seen(left, c.a.y), seen(left, c.b.y)]
      : [seen(left, heightAt(c, left)), seen(right, heightAt(c, right))];
    if (c.kind === "arc") ends.push(...farthest(c, lean, left, right).map((p) => seen(p.x, p.y)));
    all.push([Math.min(...ends), Math.max(...ends)]);
  }
  return joinChords(all);
}

/** Where an arc is seen farthest out. */
function farthest(c: Arc, lean: number, left: number, right: number): Point[] {
  const long = hypotenuse(1, lean);
  return [1, -1]
    .map((way) => point(c.c.x - (way * c.r * lean) / long, c.c.y + (way * c.r) / long))
    .filter((p) => p.x >= left && p.x <= right && p.y > c.c.y === isUpper(c));
}

/** Chords at some places that go on from one to the next. */
interface Run {
  readonly x: number;
  readonly chords: Chords;
}

/**
 * The region whose chords across x are known at every place: its borders are lines and arcs that stay within `within`
 * of it, mm. Where its number of chords changes is found to `CHANGE`.
 *
 * @param named Places to look at in any case: its first and last, and where borders have corners or it may begin.
 * @param exact Places at which the borders go through the ends of the chords themselves.
 */
export function regionOfChords(
  chordsAt: (x: number) => Chords,
  named: readonly number[],
  exact: readonly number[],
  within: number,
): Loop[] {
  const places = [...new Set([...named, ...exact])].sort((p, q) => p - q);
  const all: Run[] = [];
  for (const [i, x] of places.entries()) {
    if (i > 0)
      for (let k = 1; k < LEAST_STEPS; k++)
        all.push(at(places[i - 1] + ((x - places[i - 1]) * k) / LEAST_STEPS));
    all.push(at(x));
  }
  function at(x: number): Run {
    return { x, chords: chordsAt(x) };
  }
  const runs: Run[][] = [[all[0]]];
  for (let i = 1; i < all.length; i++) between(all[i - 1], all[i]);
  /** Goes on from one place to another, looking between as often as the borders need. */
  function between(p: Run, q: Run): void {
    const gap = q.x - p.x;
    const middle = at((p.x + q.x) / 2);
    if (p.chords.length === q.chords.length && p.chords.length === middle.chords.length) {
      if (gap < CHANGE || straight(p, middle, q, within / 4)) {
        runs.at(-1)!.push(q);
        return;
      }
    } else if (gap < CHANGE) {
      runs.at(-1)!.push({ x: middle.x, chords: p.chords });
      runs.push([{ x: middle.x, chords: q.chords }, q]);
      return;
    }
    between(p, middle);
    between(middle, q);
  }
  const loops = runs.flatMap((run) => run[0].chords.map((_, j) => loopOf(run, j, exact, within / 2)));
  const real = loops.filter((loop) => loopArea(loop) > 1e-9);
  const joined = runs.filter((run) => run[0].chords.length > 0).length > 1 && real.length > 1;
  return joined ? combine([real], ([n]) => n > 0).filter((l) => loopArea(l) > 0) : real;
}

const straight = (p: Run, middle: Run, q: Run, within: number): boolean =>
  middle.chords.every((chord, j) =>
    chord.every((y, end) => {
      const mean = (p.chords[j][end] + q.chords[j][end]) / 2;
      // How far it is off across the border, not along the chord: where it begins it runs along the chord.
      const slope = (q.chords[j][end] - p.chords[j][end]) / (q.x - p.x);
      return Math.abs(y - mean) / hypotenuse(1, slope) <= within;
    }),
  );

/** The loop of the chords of one number in a run, counter-clockwise. */
function loopOf(run: readonly Run[], j: number, exact: readonly number[], within: number): Loop {
  const side = (end: 0 | 1) => run.map(({ x, chords }) => point(x, chords[j][end]));
  const [low, high] = [side(0), side(1)];
  for (const k of [0, run.length - 1])
    if (distance(low[k], high[k]) < POINT) {
      const middle = point(low[k].x, (low[k].y + high[k].y) / 2);
      low[k] = middle;
      high[k] = middle;
    }
  const ends = run.flatMap(({ x }, i) => (i > 0 && exact.includes(x) ? [i] : [])).concat(run.length - 1);
  const border = (points: readonly Point[]) =>
    [...new Set(ends)].flatMap((end, i, all) =>
      smoothed(points.slice(i > 0 ? all[i - 1] : 0, end + 1), within),
    );
  const back = border(high).map(reversed).reverse();
  const closing = (p: Point, q: Point) => (distance(p, q) > 0 ? [line(p, q)] : []);
  return [...border(low), ...closing(low.at(-1)!, high.at(-1)!), ...back, ...closing(high[0], low[0])];
}

/** A chain of points as lines and arcs that pass within a distance of all of them: as few as going on greedily gives. */
function smoothed(points: readonly Point[], within: number): Curve[] {
  const out: Curve[] = [];
  for (let i = 0; i < points.length - 1; ) {
    let best = 1;
    let made: Curve = line(points[i], points[i + 1]);
    for (let step = 2; i + best < points.length - 1; step *= 2) {
      const end = Math.min(points.length - 1, i + step);
      const curve = throughAll(points, i, end, within);
      if (curve) [best, made] = [end - i, curve];
      if (!curve || end === points.length - 1) break;
    }
    for (let step = Math.floor(best / 2); step >= 1; step = Math.floor(step / 2)) {
      const end = i + best + step;
      const curve = end < points.length ? throughAll(points, i, end, within) : undefined;
      if (curve) [best, made] = [end - i, curve];
    }
    if (distance(made.a, made.b) > 0) out.push(made);
    i += best;
  }
  return out;
}

/** One line or arc through a stretch of a chain, where it comes near enough to all of it. */
function throughAll(points: readonly Point[], from: number, to: number, within: number): Curve | undefined {
  const [a, b] = [points[from], points[to]];
  const near = (c: Curve) => {
    for (let k = from + 1; k < to; k++) {
      const middle = point((points[k - 1].x + points[k].x) / 2, (points[k - 1].y + points[k].y) / 2);
      if (distanceToCurve(c, points[k]) > within || distanceToCurve(c, middle) > 1.5 * within) return false;
    }
    return true;
  };
  const direct = line(a, b);
  if (near(direct)) return direct;
  const m = points[(from + to) >> 1];
  const [px, py, qx, qy] = [m.x - a.x, m.y - a.y, b.x - a.x, b.y - a.y];
  const turn = 2 * (px * qy - py * qx);
  if (Math.abs(turn) < 1e-12) return undefined;
  const [pp, qq] = [px * px + py * py, qx * qx + qy * qy];
  const c = point(a.x + (qy * pp - py * qq) / turn, a.y + (px * qq - qx * pp) / turn);
  const arc: Arc = { kind: "arc", a, b, c, r: distance(c, a), ccw: turn > 0 };
  return near(arc) ? arc : undefined;
}
