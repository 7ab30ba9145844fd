import { Kept } from "../kept.ts";
import {
  arc,
  type Curve,
  curveFromFrame,
  curveLength,
  curvesBounds,
  flattenCurve,
  line,
  sweptArea2,
  withEnds,
} from "./curve.ts";
import { type Bounds, type Frame, hypotenuse, type Point, point, samePoint } from "./point.ts";

/** A closed chain of curves: each begins where the one before ended. Counter-clockwise encloses material. */
export type Loop = readonly Curve[];

export const loopArea = (loop: Loop): number => loop.reduce((sum, c) => sum + sweptArea2(c), 0) / 2;
export const loopLength = (loop: Loop): number => loop.reduce((sum, c) => sum + curveLength(c), 0);
/** A loop's box, found once for each loop. */
export const loopBounds = (loop: Loop): Bounds => boundsOf.of(loop);
const boundsOf = new Kept((loop: Loop): Bounds => curvesBounds(loop));

/** Of a loop: its area (mm²; less than nothing where it runs clockwise), its length, and its shortest piece's (mm). */
export interface LoopMeasures {
  readonly area: number;
  readonly length: number;
  readonly shortest: number;
}

/** What is measured of a loop, found once for each: of thousands of openings hardly one is another after an edit. */
export const loopMeasures = (loop: Loop): LoopMeasures => measuresOf.of(loop);
const measuresOf = new Kept((loop: Loop): LoopMeasures => {
  const lengths = loop.map(curveLength);
  return {
    area: loopArea(loop),
    length: lengths.reduce((sum, l) => sum + l, 0),
    shortest: lengths.reduce((m, l) => Math.min(m, l), Infinity),
  };
});

export const loopsBounds = (loops: readonly Loop[]): Bounds => curvesBounds(loops.flat());
export const loopFromFrame = (f: Frame, loop: Loop): Loop => loop.map((c) => curveFromFrame(f, c));
export const flattenLoop = (loop: Loop, chord: number): Point[] =>
  loop.flatMap((c) => flattenCurve(c, chord));

export function polygonLoop(points: readonly Point[], names: readonly (string | undefined)[] = []): Loop {
  return points.map((p, i) => line(p, points[(i + 1) % points.length], names[i]));
}

/** A counter-clockwise rectangle; names in the order bottom, right, top, left. */
export function rectangleLoop(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  names?: readonly string[],
): Loop {
  return polygonLoop([point(x0, y0), point(x1, y0), point(x1, y1), point(x0, y1)], names);
}

/** A counter-clockwise circle as two half turns. */
export function circleLoop(c: Point, r: number, name?: string, feature?: string): Loop {
  const east = point(c.x + r, c.y);
  const west = point(c.x - r, c.y);
  return [arc(east, west, c, r, true, name, feature), arc(west, east, c, r, true, name, feature)];
}

/** The centre and radius of a loop that is one full circle, else nothing. */
export function asCircle(loop: Loop): { c: Point; r: number } | undefined {
  const first = loop[0];
  if (first?.kind !== "arc") return undefined;
  const same = loop.every(
    (c) =>
      c.kind === "arc" && samePoint(c.c, first.c) && Math.abs(c.r - first.r) < 1e-7 && c.ccw === first.ccw,
  );
  return same ? { c: first.c, r: first.r } : undefined;
}

/**
 * A loop in which each curve ends exactly where the next begins: pieces that were cut apart by different neighbours meet
 * within rounding only. A place where an arc ends is taken as the arc has it.
 */
export function welded(loop: Loop): Loop {
  const begins = loop.map((c, i) => {
    const before = loop[(i + loop.length - 1) % loop.length];
    return c.kind === "line" && before.kind === "arc" ? before.b : c.a;
  });
  return loop.map((c, i) => {
    const b = begins[(i + 1) % loop.length];
    return c.a === begins[i] && c.b === b ? c : withEnds(c, begins[i], b);
  });
}

/** Of two names the one that a joined line goes by; nothing when it can have neither. */
export type NameChoice = (p: string | undefined, q: string | undefined) => string | undefined;

const onlyCommon: NameChoice = (p, q) => (p === q ? p : undefined);

/**
 * Joins neighbours that are one straight line or one arc, so that no vertex stands where nothing
 * turns. Points in `kept` stay: other loops touch there. A line joined of two names keeps what `choose` says.
 */
export function simplifyLoop(
  loop: Loop,
  kept: ReadonlySet<Point> = new Set(),
  choose: NameChoice = onlyCommon,
): Loop {
  if (loop.length < 3) return loop;
  const out: Curve[] = [];
  const push = (c: Curve) => {
    const last = out[out.length - 1];
    const joined = last && !kept.has(last.b) && joinSmooth(last, c, choose);
    if (joined) out[out.length - 1] = joined;
    else out.push(c);
  };
  loop.forEach(push);
  while (out.length > 2) {
    const joined = !kept.has(out[0].a) && joinSmooth(out[out.length - 1], out[0], choose);
    if (!joined) break;
    out[0] = joined;
    out.pop();
  }
  return out;
}

/** What bounds two features bounds neither as a whole. */
const commonFeature = (p: Curve, q: Curve) => (p.feature === q.feature ? p.feature : undefined);

function joinSmooth(p: Curve, q: Curve, choose: NameChoice): Curve | undefined {
  if (p.kind === "line" && q.kind === "line") {
    const ax = p.b.x - p.a.x;
    const ay = p.b.y - p.a.y;
    const bx = q.b.x - q.a.x;
    const by = q.b.y - q.a.y;
    const reach = hypotenuse(ax, ay) * hypotenuse(bx, by);
    if (Math.abs(ax * by - ay * bx) <= 1e-9 * Math.max(reach, 1) && ax * bx + ay * by > 0) {
      return line(p.a, q.b, choose(p.name, q.name), commonFeature(p, q));
    }
    return undefined;
  }
  if (p.kind === "arc" && q.kind === "arc") {
    const one = samePoint(p.c, q.c) && Math.abs(p.r - q.r) < 1e-7 && p.ccw === q.ccw && !samePoint(p.a, q.b);
    return one ? arc(p.a, q.b, p.c, p.r, p.ccw, p.name, commonFeature(p, q)) : undefined;
  }
  return undefined;
}
