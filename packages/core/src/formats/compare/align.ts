import { curvesBounds } from "../../plane/curve.ts";
import { backOf, type Isometry, movePoint } from "../../plane/isometry.ts";
import { asCircle, type Loop, loopArea, loopLength } from "../../plane/loop.ts";
import { NearPlaces } from "../../plane/near-places.ts";
import { distance, type Point } from "../../plane/point.ts";

/** How a file lies on a blank: its places go to the blank's by the motion, after they are divided by the scale. */
export interface Alignment {
  readonly scale: number;
  readonly motion: Isometry;
}

/** A place that tells how a drawing lies: a corner, or the centre of a round opening with its radius. */
interface Mark {
  readonly at: Point;
  /** Nought for a corner. */
  readonly r: number;
}

/** Two places with what lies between them: an edge, or two centres. */
interface Link {
  readonly a: Mark;
  readonly b: Mark;
  readonly length: number;
  /** Of an arc its radius, which no line has. */
  readonly bow: number;
}

/** Scales that whole files come back in: as they are, inches for millimetres and the other way, centimetres. */
const USUAL = [1, 25.4, 1 / 25.4, 10, 0.1];
const MOST_MARKS = 160;
const MOST_LINKS = 14;
const MOST_TRIES = 6000;

function marksOf(loops: readonly Loop[]): Mark[] {
  return loops.flatMap((loop): Mark[] => {
    const circle = asCircle(loop);
    return circle ? [{ at: circle.c, r: circle.r }] : loop.map((c) => ({ at: c.a, r: 0 }));
  });
}

/** Marks found by where they lie. */
function tableOf(marks: readonly Mark[], within: number): NearPlaces<Mark> {
  const table = new NearPlaces<Mark>(within);
  for (const m of marks) table.add(m.at, m);
  return table;
}

/** A mark of a size at a place. */
const markAt = (table: NearPlaces<Mark>, p: Point, r: number, within: number): Mark | undefined =>
  table.near(p, within).find(({ thing }) => Math.abs(thing.r - r) <= within)?.thing;

function linksOf(loops: readonly Loop[], most: number): Link[] {
  const edges = loops.flatMap((loop): Link[] =>
    asCircle(loop)
      ? []
      : loop.map((c) => ({
          a: { at: c.a, r: 0 },
          b: { at: c.b, r: 0 },
          length: distance(c.a, c.b),
          bow: c.kind === "arc" ? c.r : 0,
        })),
  );
  const centres = loops.flatMap((l) => asCircle(l) ?? []).slice(0, 40);
  const between = centres.flatMap((p, i) =>
    centres.slice(i + 1).map(
      (q): Link => ({
        a: { at: p.c, r: p.r },
        b: { at: q.c, r: q.r },
        length: distance(p.c, q.c),
        bow: -1,
      }),
    ),
  );
  return [...edges, ...between]
    .filter((l) => l.length > 1e-3)
    .sort((p, q) => q.length - p.length)
    .slice(0, most);
}

/** The motion that takes two places onto two others, as far apart: a turn and a shift, or also turned over. */
function motionOnto(a: Point, b: Point, onA: Point, onB: Point, flips: boolean): Isometry {
  const from = Math.atan2(b.y - a.y, b.x - a.x);
  const to = Math.atan2(onB.y - onA.y, onB.x - onA.x);
  return throughTurn(flips ? to + from : to - from, flips, a, onA);
}

/** A turn by an angle, after turning over about the level line where it flips, that takes a place onto another. */
function throughTurn(angle: number, flips: boolean, a: Point, onA: Point): Isometry {
  const quarter = Math.round(angle / (Math.PI / 2)) * (Math.PI / 2);
  const turn = Math.abs(angle - quarter) < 1e-7 ? quarter : angle;
  const clean = (v: number) => (Math.abs(v) < 1e-15 ? 0 : v);
  const [c, s] = [clean(Math.cos(turn)), clean(Math.sin(turn))];
  const [xx, xy, yx, yy] = flips ? [c, s, s, -c] : [c, -s, s, c];
  return { xx, xy, yx, yy, flips, ox: onA.x - xx * a.x - xy * a.y, oy: onA.y - yx * a.x - yy * a.y };
}

const scaledMark = ({ at, r }: Mark, f: number): Mark => ({ at: { x: at.x * f, y: at.y * f }, r: r * f });

interface Trial {
  readonly scale: number;
  readonly motion: Isometry;
  readonly score: number;
}

/** Of two alignments that hold as much, the one that asks for less. */
function plainer(p: Trial, q: Trial): boolean {
  if (p.score !== q.score) return p.score > q.score;
  const odd = ({ scale }: Trial) => Math.abs(Math.log(scale));
  if (Math.abs(odd(p) - odd(q)) > 1e-9) return odd(p) < odd(q);
  if (p.motion.flips !== q.motion.flips) return q.motion.flips;
  const turned = ({ motion }: Trial) => Math.abs(Math.atan2(motion.yx, motion.xx));
  if (Math.abs(turned(p) - turned(q)) > 1e-9) return turned(p) < turned(q);
  return Math.hypot(p.motion.ox, p.motion.oy) < Math.hypot(q.motion.ox, q.motion.oy);
}

/** Scales worth trying: the usual ones near to how the sizes compare, and that itself. */
function scalesFor(blank: readonly Loop[], file: readonly Loop[]): number[] {
  const largest = (loops: readonly Loop[]) => loops.reduce((m, l) => Math.max(m, Math.abs(loopArea(l))), 0);
  const longest = (loops: readonly Loop[]) => loops.reduce((m, l) => Math.max(m, loopLength(l)), 0);
  const size = (loops: readonly Loop[]) => {
    const b = curvesBounds(loops.flat());
    return Math.hypot(b.maxX - b.minX, b.maxY - b.minY);
  };
  const ratios = [
    Math.sqrt(largest(file) / largest(blank)),
    longest(file) / longest(blank),
    size(file) / size(blank),
  ].filter((r) => Number.isFinite(r) && r > 0);
  const usual = USUAL.filter((s) => ratios.some((r) => Math.abs(Math.log(r / s)) < 0.5));
  const own = ratios.filter((r) => !usual.some((s) => Math.abs(r / s - 1) < 1e-6));
  return [...new Set([...usual, ...own])];
}

/**
 * Finds how a file lies on a blank: its scale, whether it is mirrored, turned, shifted. Edges and pairs of centres that are
 * as long in both say how it could lie; the way in which most corners and centres come to lie on their like is taken, of
 * equal ones the plainest. Nothing where no edge is like another.
 */
export function alignLoops(
  blank: readonly Loop[],
  file: readonly Loop[],
  within: number,
): Alignment | undefined {
  if (blank.length === 0 || file.length === 0) return undefined;
  const all = marksOf(blank);
  const step = Math.max(1, Math.ceil(all.length / MOST_MARKS));
  const some = all.filter((_, i) => i % step === 0);
  const table = tableOf(marksOf(file), within);
  let best: Trial | undefined;
  const links = linksOf(blank, MOST_LINKS);
  const discs = links.length === 0;
  const others = linksOf(file, 4000);
  let tries = 0;
  for (const scale of scalesFor(blank, file)) {
    // Marks are looked up in the file, whose numbers are as it has them.
    const fileTable =
      scale === 1
        ? table
        : tableOf(
            marksOf(file).map((m) => scaledMark(m, 1 / scale)),
            within,
          );
    const pairs = discs ? centresOnly(blank, file, scale) : pairsOf(links, others, scale, within);
    for (const { from, onto } of pairs)
      for (const flips of [false, true]) {
        if (++tries > MOST_TRIES) break;
        const motion = motionOnto(from[0], from[1], onto[0], onto[1], flips);
        const back = backOf(motion);
        const score = some.filter((m) => markAt(fileTable, movePoint(back, m.at), m.r, within)).length;
        const trial = { scale, motion, score };
        if (!best || plainer(trial, best)) best = trial;
      }
  }
  if (!best || best.score === 0) return undefined;
  return refined(best, all, file, within);
}

interface Onto {
  readonly from: readonly [Point, Point];
  readonly onto: readonly [Point, Point];
}

/** Links of the file that could be links of the blank, as the file's places at the blank's size. */
function* pairsOf(
  blank: readonly Link[],
  file: readonly Link[],
  scale: number,
  within: number,
): Generator<Onto> {
  for (const own of blank)
    for (const other of file) {
      if (Math.abs(other.length / scale - own.length) > 2 * within) continue;
      const bows =
        own.bow < 0 || other.bow < 0
          ? own.bow === other.bow
          : Math.abs(other.bow / scale - own.bow) <= within;
      if (!bows) continue;
      const [p, q] = [scaledMark(other.a, 1 / scale), scaledMark(other.b, 1 / scale)];
      const alike = (m: Mark, n: Mark) => Math.abs(m.r - n.r) <= within;
      if (alike(p, own.a) && alike(q, own.b)) yield { from: [p.at, q.at], onto: [own.a.at, own.b.at] };
      if (alike(q, own.a) && alike(p, own.b)) yield { from: [q.at, p.at], onto: [own.a.at, own.b.at] };
    }
}

/** A disc alone has no edge: its centre goes onto the blank's. */
function* centresOnly(blank: readonly Loop[], file: readonly Loop[], scale: number): Generator<Onto> {
  for (const own of blank.flatMap((l) => asCircle(l) ?? []))
    for (const other of file.flatMap((l) => asCircle(l) ?? [])) {
      const p = { x: other.c.x / scale, y: other.c.y / scale };
      yield { from: [p, { x: p.x + 1, y: p.y }], onto: [own.c, { x: own.c.x + 1, y: own.c.y }] };
    }
}

/** The turn and shift that fit best what already lies on its like, by least squares. */
function refined(
  { scale, motion }: Trial,
  marks: readonly Mark[],
  file: readonly Loop[],
  within: number,
): Alignment {
  const table = tableOf(
    marksOf(file).map((m) => scaledMark(m, 1 / scale)),
    within,
  );
  const back = backOf(motion);
  const pairs = marks.flatMap((m) => {
    const found = markAt(table, movePoint(back, m.at), m.r, within);
    return found ? [{ own: m.at, other: found.at }] : [];
  });
  if (pairs.length < 2) return { scale, motion };
  const mean = (list: readonly Point[]) => ({
    x: list.reduce((s, p) => s + p.x, 0) / list.length,
    y: list.reduce((s, p) => s + p.y, 0) / list.length,
  });
  const [p, q] = [mean(pairs.map((c) => c.other)), mean(pairs.map((c) => c.own))];
  let [along, across] = [0, 0];
  for (const { own, other } of pairs) {
    const [ux, uy] = [other.x - p.x, (other.y - p.y) * (motion.flips ? -1 : 1)];
    const [vx, vy] = [own.x - q.x, own.y - q.y];
    along += ux * vx + uy * vy;
    across += ux * vy - uy * vx;
  }
  return { scale, motion: throughTurn(Math.atan2(across, along), motion.flips, p, q) };
}
