import { type Curve, curveLength, directionAt, reversed, sweptArea2 } from "../../plane/curve.ts";
import { type Loop, loopArea } from "../../plane/loop.ts";
import { NearPlaces, NumberedPlaces } from "../../plane/near-places.ts";
import { distance, type Point } from "../../plane/point.ts";

/** Curves of a file put together: those that close, and those that do not. */
export interface Chains {
  readonly closed: readonly (readonly Curve[])[];
  readonly open: readonly (readonly Curve[])[];
}

/** Curves by the places at which they end; each place has the numbers of its curves. */
interface Net {
  readonly curves: readonly Curve[];
  readonly ends: readonly (readonly [number, number])[];
  readonly at: ReadonlyMap<number, readonly number[]>;
}

/** Ends that are no farther apart are one place in whatever order they come. */
const EXACT = 1e-6;

function netOf(curves: readonly Curve[], within: number): Net {
  const table = new NumberedPlaces(Math.min(within, EXACT));
  const exact = curves.map((c) => [table.of(c.a), table.of(c.b)] as const);
  const place = within > EXACT ? withoutGaps(exact, table.at, within) : undefined;
  const ends = place ? exact.map(([a, b]) => [place[a], place[b]] as const) : exact;
  const at = new Map<number, number[]>();
  ends.forEach((pair, i) => {
    for (const end of new Set(pair)) {
      const list = at.get(end);
      if (list) list.push(i);
      else at.set(end, [i]);
    }
  });
  return { curves, ends, at };
}

/** Joins places at which one curve ends alone with the nearest others within a distance, the nearest first. */
function withoutGaps(
  ends: readonly (readonly [number, number])[],
  at: readonly Point[],
  within: number,
): number[] {
  const degree = new Array<number>(at.length).fill(0);
  const partners = new Map<number, Set<number>>();
  for (const [a, b] of ends) {
    degree[a]++;
    degree[b]++;
    partners.set(a, (partners.get(a) ?? new Set()).add(b)).set(b, (partners.get(b) ?? new Set()).add(a));
  }
  const places = new NearPlaces<number>(within);
  for (const [i, p] of at.entries()) places.add(p, i);
  const pairs = at
    .flatMap((p, i) =>
      degree[i] === 1
        ? places.near(p, within).map(({ at: q, thing: j }) => ({ i, j, far: distance(p, q), p, q }))
        : [],
    )
    // The two ends of a short curve are two places.
    .filter(({ i, j }) => i !== j && !partners.get(i)!.has(j))
    .sort((u, v) => u.far - v.far || u.p.x - v.p.x || u.p.y - v.p.y || u.q.x - v.q.x || u.q.y - v.q.y);
  const place = at.map((_, i) => i);
  const joined = new Set<number>();
  for (const { i, j } of pairs) {
    if (joined.has(i) || (degree[j] === 1 && joined.has(j))) continue;
    joined.add(i).add(j);
    place[i] = place[j];
  }
  return place;
}

/**
 * Puts curves together end to end, in whatever order and whichever way round each is written. Ends that are no farther apart
 * than `within` are one. Where more than two meet, what bounds a region from outside is a loop first; then what bounds one in
 * what is left. What leads nowhere, as a cut of no width that ends on an outline, is open.
 */
export function chainCurves(curves: readonly Curve[], within: number): Chains {
  const net = netOf(curves, within);
  const used = new Uint8Array(curves.length);
  const closed: (readonly Curve[])[] = [];
  if ([...net.at.values()].some((there) => there.length > 2)) closed.push(...loopsOfJunctions(net, used));
  const rest = walked(net, used);
  return { closed: [...closed, ...rest.closed], open: rest.open };
}

/** Walks on from one curve to the next, where no more than two unused ones meet. */
function walked({ curves, ends, at }: Net, used: Uint8Array): Chains {
  /** At each place, the curves before this one are used. */
  const passed = new Map<number, number>();
  const unusedAt = (end: number): number | undefined => {
    const there = at.get(end)!;
    let i = passed.get(end) ?? 0;
    while (i < there.length && used[there[i]]) i++;
    passed.set(end, i);
    return there[i];
  };
  /** Goes on from an end as far as there is something. */
  const follow = (start: number, stop: number): { curves: Curve[]; end: number } => {
    const out: Curve[] = [];
    let end = start;
    while (end !== stop) {
      const next = unusedAt(end);
      if (next === undefined) break;
      used[next] = 1;
      const forth = ends[next][0] === end;
      out.push(forth ? curves[next] : reversed(curves[next]));
      end = forth ? ends[next][1] : ends[next][0];
    }
    return { curves: out, end };
  };
  const closed: Curve[][] = [];
  const open: Curve[][] = [];
  for (let i = 0; i < curves.length; i++) {
    if (used[i]) continue;
    used[i] = 1;
    const [a, b] = ends[i];
    const on = follow(b, a);
    const chain = [curves[i], ...on.curves];
    if (on.end === a) {
      closed.push(chain);
      continue;
    }
    const back = follow(a, -1);
    open.push([...back.curves.map(reversed).reverse(), ...chain]);
  }
  return { closed, open };
}

/** A curve in one of its two directions. */
interface Half {
  readonly edge: number;
  readonly from: number;
  readonly to: number;
  readonly curve: Curve;
  /** The direction in which it leaves, radians, and how it bends from there, 1/length, left positive. */
  readonly angle: number;
  readonly bend: number;
}

/**
 * Loops of all that hangs together where more than two curves meet somewhere; their curves are marked as used, and so is
 * nothing else. Curves that lead nowhere are taken off first; of what is left the outer bound is taken again and again.
 */
function loopsOfJunctions(net: Net, used: Uint8Array): (readonly Curve[])[] {
  const loops: (readonly Curve[])[] = [];
  let parts = tangled(net, used);
  while (parts.length > 0) {
    const left: number[][] = [];
    for (const part of parts) {
      const core = withoutLoose(net, part);
      if (core.length === 0) continue;
      const found = outerLoops(net, core);
      for (const { edges, loop } of found) {
        loops.push(loop);
        for (const e of edges) used[e] = 1;
      }
      const remain = core.filter((e) => !used[e]);
      // Where the outer bound yields no loop nothing would change by looking again.
      if (found.length > 0 && remain.length > 0) left.push(...components(net, remain));
    }
    parts = left;
  }
  return loops;
}

/** Groups of curves that hang together, of which at least one place has more than two. */
function tangled(net: Net, used: Uint8Array): number[][] {
  const all = net.curves.flatMap((_, i) => (used[i] ? [] : [i]));
  return components(net, all).filter((part) =>
    part.some((e) => net.ends[e].some((p) => net.at.get(p)!.length > 2)),
  );
}

function components({ ends, at }: Net, edges: readonly number[]): number[][] {
  const left = new Set(edges);
  const out: number[][] = [];
  for (const first of edges) {
    if (!left.delete(first)) continue;
    const part = [first];
    for (let i = 0; i < part.length; i++)
      for (const p of ends[part[i]]) for (const e of at.get(p)!) if (left.delete(e)) part.push(e);
    out.push(part);
  }
  return out;
}

/** What is left when curves that end where no other does are taken off, again and again. */
function withoutLoose({ ends, at }: Net, part: readonly number[]): number[] {
  const there = new Set(part);
  const degree = new Map<number, number>();
  for (const e of part) for (const p of ends[e]) degree.set(p, (degree.get(p) ?? 0) + 1);
  const loose = part.filter((e) => ends[e].some((p) => degree.get(p) === 1));
  for (let e = loose.pop(); e !== undefined; e = loose.pop()) {
    if (!there.delete(e)) continue;
    for (const p of ends[e]) {
      degree.set(p, degree.get(p)! - 1);
      if (degree.get(p) === 1) loose.push(...at.get(p)!.filter((o) => there.has(o)));
    }
  }
  return [...there];
}

function halvesOf({ curves, ends }: Net, edges: readonly number[]): Half[] {
  return edges.flatMap((edge) =>
    [false, true].map((back): Half => {
      const curve = back ? reversed(curves[edge]) : curves[edge];
      const [from, to] = back ? [ends[edge][1], ends[edge][0]] : ends[edge];
      const d = directionAt(curve, 0);
      const bend = curve.kind === "line" ? 0 : (curve.ccw ? 1 : -1) / curve.r;
      return { edge, from, to, curve, angle: Math.atan2(d.y, d.x), bend };
    }),
  );
}

/** Directions that differ by no more are one, and what bends more to the left comes after. */
const ONE_WAY = 1e-7;

/** Counter-clockwise about the place that they leave. */
const around = (p: Half, q: Half): number => {
  const turn = p.angle - q.angle;
  return Math.abs(turn) > ONE_WAY ? turn : p.bend - q.bend || p.edge - q.edge;
};

/**
 * The loops of which the outer bound of curves consists that hang together and lead nowhere loosely. Every face is walked
 * about with its area on the left; the one that all others lie within has a negative area.
 */
function outerLoops(net: Net, edges: readonly number[]): { edges: number[]; loop: Curve[] }[] {
  const halves = halvesOf(net, edges);
  const leaving = new Map<number, Half[]>();
  for (const h of halves) {
    const list = leaving.get(h.from);
    if (list) list.push(h);
    else leaving.set(h.from, [h]);
  }
  const rank = new Map<Half, number>();
  for (const list of leaving.values()) {
    list.sort(around);
    for (const [i, h] of list.entries()) rank.set(h, i);
  }
  const twin = new Map<Half, Half>();
  for (let i = 0; i < halves.length; i += 2) twin.set(halves[i], halves[i + 1]).set(halves[i + 1], halves[i]);
  const next = (h: Half): Half => {
    const list = leaving.get(h.to)!;
    return list[(rank.get(twin.get(h)!)! + list.length - 1) % list.length];
  };
  const seen = new Set<Half>();
  let outer: Half[] = [];
  let least = 0;
  for (const start of halves) {
    if (seen.has(start)) continue;
    const face: Half[] = [];
    for (let h = start; !seen.has(h); h = next(h)) {
      seen.add(h);
      face.push(h);
    }
    const area = face.reduce((sum, h) => sum + sweptArea2(h.curve), 0);
    if (area < least) [outer, least] = [face, area];
  }
  return simpleLoops(outer, twin);
}

/** A walk in pieces that pass no place twice; curves that are walked both ways bound nothing. */
function simpleLoops(
  walk: readonly Half[],
  twin: ReadonlyMap<Half, Half>,
): { edges: number[]; loop: Curve[] }[] {
  const there = new Set(walk);
  const once = walk.filter((h) => !there.has(twin.get(h)!));
  const out: { edges: number[]; loop: Curve[] }[] = [];
  const open: Half[] = [];
  /** Where in `open` the curve is that leaves a place. */
  const leaves = new Map<number, number>();
  for (const h of once) {
    leaves.set(h.from, open.push(h) - 1);
    const start = leaves.get(h.to);
    if (start === undefined) continue;
    const loop = open.splice(start);
    for (const o of loop) leaves.delete(o.from);
    const length = loop.reduce((sum, o) => sum + curveLength(o.curve), 0);
    const area = Math.abs(loop.reduce((sum, o) => sum + sweptArea2(o.curve), 0)) / 2;
    // Two curves one over the other bound nothing.
    if (area > 1e-12 * length * length)
      out.push({ edges: loop.map((o) => o.edge), loop: loop.map((o) => reversed(o.curve)).reverse() });
  }
  return out;
}

/** Loops that bound metal from outside, and from inside. */
export interface BoundLoops {
  readonly outlines: readonly Loop[];
  readonly openings: readonly Loop[];
}

/**
 * The loops of a blank as `chainCurves` finds them when they are drawn apart: where loops touch one another or themselves,
 * lines and arcs alone do not say which goes on with which. Outlines run counter-clockwise and openings clockwise.
 */
export function asChained({ outlines, openings }: BoundLoops): BoundLoops {
  const table = new NumberedPlaces(EXACT);
  const count = new Map<number, number>();
  const startsOf = (loop: Loop) => loop.map((c) => table.of(c.a));
  for (const p of [...outlines, ...openings].flatMap(startsOf)) count.set(p, (count.get(p) ?? 0) + 1);
  const touches = (loop: Loop) => startsOf(loop).some((p) => count.get(p)! > 1);
  const touching = [...outlines, ...openings].filter(touches);
  if (touching.length === 0) return { outlines, openings };
  const way = ({ a, b }: Curve) => `${table.of(a)} ${table.of(b)}`;
  const ways = new Set(touching.flat().map(way));
  const found = chainCurves(touching.flat(), EXACT).closed.map((loop) =>
    loopArea(loop) < 0 ? loop.map(reversed).reverse() : loop,
  );
  // One that runs counter-clockwise as the blank has it bounds metal from outside.
  const isOutline = (loop: Loop) => loop.filter((c) => ways.has(way(c))).length * 2 > loop.length;
  return {
    outlines: [...outlines.filter((l) => !touches(l)), ...found.filter(isOutline)],
    openings: [
      ...openings.filter((l) => !touches(l)),
      ...found.filter((l) => !isOutline(l)).map((l) => l.map(reversed).reverse()),
    ],
  };
}
