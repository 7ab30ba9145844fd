import { type Curve, curveBounds, curvesBounds, line, pointAt, reversed } from "../plane/curve.ts";
import { intersectCurves } from "../plane/intersect.ts";
import { circleLoop, type Loop, loopArea } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { NumberedPlaces } from "../plane/near-places.ts";
import { boundsMeet, distance, type Point, point } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import { spansInside } from "../plane/span.ts";
import { formatShort } from "../units/quantity.ts";
import type { Outline, OutlineCurve } from "./outline.ts";
import type { OutlineProblem, SolvedOutline } from "./solve.ts";

/** Ends that are no farther apart are one, mm. */
const JOINED = 1e-6;
/** Chains that are told one by one; of more, how many there are. */
const MOST_TOLD = 8;

/** The areas that an outline's closed chains bound, openings within them, and why some of it bounds nothing. */
export interface OutlineRegions {
  readonly regions: readonly Region[];
  /** Areas that are bounded and do not count. */
  readonly leftOut: readonly Region[];
  readonly problems: readonly OutlineProblem[];
}

/** A curve of an outline as it is solved, named after itself; a circle is a chain by itself. */
export function curveOf(
  c: Exclude<OutlineCurve, { kind: "circle" }>,
  points: SolvedOutline["points"],
): Curve {
  const [a, b] = [c.a, c.b].map((id) => point(...points[id]));
  if (c.kind === "line") return line(a, b, c.id);
  const m = point(...points[c.c]);
  return { kind: "arc", a, b, c: m, r: (distance(m, a) + distance(m, b)) / 2, ccw: c.ccw, name: c.id };
}

const said = ({ x, y }: Point): string => `${formatShort(x, 3)}, ${formatShort(y, 3)}`;

interface Chains {
  readonly closed: readonly Loop[];
  readonly problems: readonly OutlineProblem[];
}

/** Follows curves from end to end. A place where one curve ends alone, or more than two meet, is told. */
function chainsOf(curves: readonly Curve[]): Chains {
  const places = new NumberedPlaces(JOINED);
  const ends = curves.map((c) => [places.of(c.a), places.of(c.b)] as const);
  const meeting = new Map<number, number[]>();
  ends.forEach((pair, i) => {
    for (const place of new Set(pair)) meeting.set(place, [...(meeting.get(place) ?? []), i]);
  });
  const problems: OutlineProblem[] = [];
  const broken = new Set<number>();
  for (const [place, list] of meeting) {
    if (list.length === 2) continue;
    for (const i of list) broken.add(i);
    const names = list.map((i) => curves[i].name).join(", ");
    problems.push({
      of: curves[list[0]].name,
      message:
        list.length === 1
          ? `${names} ends at ${said(places.at[place])}, and nothing goes on from there. Close the chain, or make it construction.`
          : `${names} meet at ${said(places.at[place])}: more than two. Trim what is no border, or make it construction.`,
    });
  }
  const used = new Set<number>();
  const closed: Loop[] = [];
  curves.forEach((_, first) => {
    if (used.has(first)) return;
    const loop: Curve[] = [];
    let at = first;
    let from = ends[first][0];
    let whole = true;
    while (!used.has(at)) {
      used.add(at);
      whole &&= !broken.has(at);
      const [a, b] = ends[at];
      loop.push(a === from ? curves[at] : reversed(curves[at]));
      from = a === from ? b : a;
      const next = meeting.get(from)!.find((i) => !used.has(i));
      if (next === undefined) break;
      at = next;
    }
    if (whole && from === ends[first][0]) closed.push(loop);
  });
  return { closed, problems: told(problems) };
}

const told = (problems: readonly OutlineProblem[]): OutlineProblem[] =>
  problems.length <= MOST_TOLD
    ? [...problems]
    : [
        ...problems.slice(0, MOST_TOLD),
        { message: `And ${problems.length - MOST_TOLD} more places like these.` },
      ];

/** Places where chains cross themselves or one another: what is inside of them cannot be told. */
function crossings(loops: readonly Loop[]): OutlineProblem[] {
  const curves = loops.flatMap((loop, l) =>
    loop.map((curve, i) => ({ curve, l, i, count: loop.length, box: curveBounds(curve) })),
  );
  const near = new NearCurves(curves);
  const order = new Map(curves.map((c, k) => [c, k]));
  const problems: OutlineProblem[] = [];
  for (const p of curves)
    for (const q of near.near(p.box)) {
      if (order.get(q)! <= order.get(p)!) continue;
      const own = (at: Point) =>
        [p.curve, q.curve].every((c) => distance(c.a, at) <= 1e-5 || distance(c.b, at) <= 1e-5);
      for (const { x, y } of intersectCurves(p.curve, q.curve)) {
        // Neighbours meet where one goes on into the other.
        if (own({ x, y })) continue;
        const names = `${p.curve.name} and ${q.curve.name}`;
        problems.push({
          of: p.curve.name,
          message: `${names} cross at ${said({ x, y })}. Trim them there, or draw them apart.`,
        });
        break;
      }
    }
  return told(problems);
}

/** Whether a chain lies within another that it does not cross: most of a few of its places do, for one may touch it. */
function liesWithin(inner: Loop, outer: Loop): boolean {
  const places = [0, 1, 2].map((k) => pointAt(inner[Math.floor((k * inner.length) / 3)], 0.3 + 0.2 * k));
  const within = places.filter((p) =>
    spansInside([outer], p, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0),
  );
  return within.length >= 2;
}

/**
 * The areas within an outline's closed chains: what lies in one is metal, what lies in a chain within that is an
 * opening, and so on. Construction bounds nothing.
 */
export function outlineRegions({ curves, leftOut = [] }: Outline, solved: SolvedOutline): OutlineRegions {
  const drawn = curves.filter((c) => !c.construction);
  const rounds = drawn.flatMap((c) =>
    c.kind === "circle" ? [circleLoop(point(...solved.points[c.c]), solved.radii[c.id], c.id)] : [],
  );
  const { closed, problems } = chainsOf(
    drawn.flatMap((c) => (c.kind === "circle" ? [] : [curveOf(c, solved.points)])),
  );
  const loops = [...closed, ...rounds].map((l) => (loopArea(l) < 0 ? [...l].reverse().map(reversed) : l));
  const crossed = crossings(loops);
  if (crossed.length > 0) return { regions: [], leftOut: [], problems: [...problems, ...crossed] };
  const whole = loops.filter((l) => loopArea(l) > 1e-12);
  const out = new Set(leftOut);
  const all = nested(whole);
  const counts = (r: Region) => !r.outer.some((c) => c.name !== undefined && out.has(c.name));
  return { regions: all.filter(counts), leftOut: all.filter((r) => !counts(r)), problems };
}

/** Loops within loops: every second one is an opening. */
function nested(loops: readonly Loop[]): Region[] {
  const sorted = [...loops].sort((p, q) => loopArea(q) - loopArea(p));
  const boxes = sorted.map((loop) => curvesBounds(loop));
  const around = sorted.map((loop, i) =>
    sorted
      .slice(0, i)
      .flatMap((other, k) => (boundsMeet(boxes[k], boxes[i]) && liesWithin(loop, other) ? [k] : [])),
  );
  return sorted.flatMap((outer, i): Region[] => {
    if (around[i].length % 2 === 1) return [];
    const holes = sorted.filter((_, k) => around[k].length === around[i].length + 1 && around[k].includes(i));
    return [{ outer, holes: holes.map((h) => [...h].reverse().map(reversed)) }];
  });
}
