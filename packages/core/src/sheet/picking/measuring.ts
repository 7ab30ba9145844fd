import { arcAngles, type Curve, line, pointAt } from "../../plane/curve.ts";
import { asCircle, flattenLoop, type Loop } from "../../plane/loop.ts";
import { distance, type Point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { dotV, lengthV, turnV, type Vector } from "../../space/vector.ts";
import { sheetCorners } from "../corners/corners.ts";
import { type Folding, facingOf, foldPoint } from "../folding/fold.ts";
import type { Plate } from "../pieces/flat-pieces.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import { bendsOf, platesOf, type Sheet } from "../sheet.ts";
import { findEdge } from "./find-edge.ts";

/** Something that can be measured from: a stable name, and which face when the thickness counts. */
export interface MeasureEnd {
  readonly kind: "edge" | "plate" | "bend" | "corner" | "hole";
  readonly name: string;
  /** Side A, side B or the middle of the thickness; where none is given the measurement's faces say. */
  readonly face?: Face;
}

export type Face = "A" | "B" | "middle";

/** Between which faces is measured where the ends do not say: the nearest, the farthest, or the middles. */
export type MeasureFaces = "inner" | "outer" | "middle";

export interface Measured {
  /** Shortest distance in the fold state asked for, mm. */
  readonly distance: number;
  /** The same two places in space. */
  readonly from: Vector;
  readonly to: Vector;
  /** The faces that the two places lie on. */
  readonly faces: readonly [Face, Face];
  /** Between the directions of two edges, or the faces of two plates, radians; none for points. */
  readonly angle?: number;
  /** Along the flat sheet between the two places, mm; none when they lie on different pieces. */
  readonly alongSheet?: number;
}

/** A stretch of a curve on a piece, from one share of its length to another, short enough to be looked at as straight. */
interface Run {
  readonly owner: number;
  readonly curve: Curve;
  readonly from: number;
  readonly to: number;
}

interface Thing {
  readonly runs: readonly Run[];
  /** A direction in developed coordinates: of an edge, or square to a plate. */
  readonly direction?: { readonly owner: number; readonly v: Vector };
}

/** Into so many runs an arc is cut for each radian, and what crosses something that turns. */
const RUNS_PER_RADIAN = 1;
const RUNS_OVER_TURN = 8;

/** A curve on a piece as runs. */
function runsOn(owner: number, curve: Curve, turns: boolean): Run[] {
  const bent = curve.kind === "arc" ? Math.abs(arcAngles(curve).sweep) * RUNS_PER_RADIAN : 1;
  const n = Math.max(1, Math.ceil(bent), turns ? RUNS_OVER_TURN : 1);
  return Array.from({ length: n }, (_, i) => ({ owner, curve, from: i / n, to: (i + 1) / n }));
}

/** The middle of an opening by its key: of a round one its centre, of another one that of its area. */
function centreOf(regions: Plate["regions"], key: string): Point | undefined {
  const loops = regions.flatMap(regionLoops);
  const arc = loops.flat().find((c) => c.kind === "arc" && (c.name === `hole:${key}` || c.name === key));
  if (arc?.kind === "arc") return arc.c;
  const loop = openingLoops(regions).find((o) => o.key === key)?.loop;
  return loop && loopCentre(loop);
}

/** The openings of a plate that are not round, each by a key that stays its own. */
export function openingLoops(
  regions: Plate["regions"],
): { readonly key: string; readonly loop: Loop; readonly centre: Point }[] {
  return regions
    .flatMap((r) => r.holes)
    .flatMap((loop) => {
      const [name] = loop.flatMap((c) => (c.name && !c.name.includes(":") ? [c.name] : [])).sort();
      return name === undefined || asCircle(loop)
        ? []
        : [{ key: `opening:${name}`, loop, centre: loopCentre(loop) }];
    });
}

/** The centre of the area within a loop, from chords fine enough for a millionth of its size. */
function loopCentre(loop: Loop): Point {
  const points = flattenLoop(loop, 1e-4);
  const o = points[0];
  let [area, x, y] = [0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    const [px, py, qx, qy] = [p.x - o.x, p.y - o.y, q.x - o.x, q.y - o.y];
    const w = px * qy - qx * py;
    area += w;
    x += (px + qx) * w;
    y += (py + qy) * w;
  });
  return { x: o.x + x / (3 * area), y: o.y + y / (3 * area) };
}

function findThing(sheet: Sheet, end: MeasureEnd): Thing | undefined {
  const runs = (owner: number, curves: readonly Curve[]): Run[] => {
    const piece = sheet.pieces[owner];
    return curves.flatMap((c) => runsOn(owner, c, kindOf(piece).metal !== "flat"));
  };
  switch (end.kind) {
    case "edge": {
      const found = findEdge(sheet, end.name);
      if (!found) return undefined;
      const owner = sheet.pieces.indexOf(found.piece);
      const { curves, site } = found.edge;
      if (!site) return { runs: runs(owner, curves) };
      const { left, right } = site;
      const length = found.length || 1;
      const v: Vector = [(right.x - left.x) / length, (right.y - left.y) / length, 0];
      return { runs: runs(owner, [line(left, right)]), direction: { owner, v } };
    }
    case "corner": {
      const corner = sheetCorners(sheet).find((c) => c.name === end.name);
      return corner && { runs: runs(corner.owner, [line(corner.at, corner.at)]) };
    }
    case "plate": {
      const found = platesOf(sheet).find((p) => p.id === end.name);
      if (!found) return undefined;
      const owner = sheet.pieces.indexOf(found);
      const all = found.regions.flatMap(regionLoops).flat();
      return { runs: runs(owner, all), direction: { owner, v: [0, 0, 1] } };
    }
    case "hole": {
      const [plate, key] = end.name.split(" ");
      const found = platesOf(sheet).find((p) => p.id === plate);
      const centre = found && centreOf(found.regions, key);
      return centre && { runs: runs(sheet.pieces.indexOf(found), [line(centre, centre)]) };
    }
    case "bend": {
      const j = bendsOf(sheet).findIndex((b) => b.id === end.name);
      if (j < 0) return undefined;
      const b = bendsOf(sheet)[j];
      const at = (s: number): Point => ({
        x: b.origin.x + b.axis.x * s + (b.out.x * b.allowance) / 2,
        y: b.origin.y + b.axis.y * s + (b.out.y * b.allowance) / 2,
      });
      const owner = sheet.pieces.indexOf(b);
      const along = { owner, curve: line(at(0), at(b.width)), from: 0, to: 1 };
      return { runs: [along], direction: { owner, v: [b.axis.x, b.axis.y, 0] } };
    }
  }
}

/** Where a thing lies on the flat sheet, from one end to the other; nothing when it is gone. */
export function flatPlaces(sheet: Sheet, end: MeasureEnd): readonly [Point, Point] | undefined {
  const [first] = findThing(sheet, end)?.runs ?? [];
  return first && [first.curve.a, first.curve.b];
}

/**
 * Measures between two things of a sheet in a fold state: the shortest distance between them, the
 * angle between edges or faces, and the distance along the flat sheet. Nothing when one is gone.
 * A hole is measured from its centre, a bend from its centre line. `faces` says between which faces where
 * an end names none: the nearest ones, the farthest, or the middles of the thickness.
 */
export function measureBetween(
  sheet: Sheet,
  folding: Folding,
  a: MeasureEnd,
  b: MeasureEnd,
  faces: MeasureFaces = "inner",
): Measured | undefined {
  const [p, q] = [findThing(sheet, a), findThing(sheet, b)];
  if (!p || !q || p.runs.length === 0 || q.runs.length === 0) return undefined;
  let best: Nearest | undefined;
  for (const wa of facesOf(a, faces))
    for (const wb of facesOf(b, faces)) {
      const found = nearest(sheet.t, folding, [p.runs, wa], [q.runs, wb]);
      const better = !best || (faces === "outer" ? found.d > best.d + 1e-12 : found.d < best.d - 1e-12);
      if (better) best = found;
    }
  const angle = p.direction && q.direction && angleBetween(folding, p.direction, q.direction);
  return {
    distance: best!.d,
    from: best!.from,
    to: best!.to,
    faces: best!.faces,
    ...(angle === undefined ? {} : { angle }),
    alongSheet: distance(best!.fromFlat, best!.toFlat),
  };
}

const facesOf = (end: MeasureEnd, faces: MeasureFaces): readonly Face[] =>
  end.face ? [end.face] : faces === "middle" ? ["middle"] : ["A", "B"];

const heightOf = (face: Face, t: number): number => ({ A: 0, B: t, middle: t / 2 })[face];

interface Nearest {
  readonly d: number;
  readonly from: Vector;
  readonly to: Vector;
  readonly fromFlat: Point;
  readonly toFlat: Point;
  readonly faces: readonly [Face, Face];
}

/** A run as it stands in space, and how far it may bow out of the straight line between its ends, mm. */
interface PlacedRun {
  readonly run: Run;
  readonly a: Vector;
  readonly b: Vector;
  readonly bow: number;
}

/** Two runs with their nearest places, as if both were straight. */
type Pair = ReturnType<typeof closest> & { readonly u: PlacedRun; readonly v: PlacedRun };

const bowOf = ({ u, v }: Pair): number => u.bow + v.bow;
/** What is curved is halved until it bows out by no more than this, mm. */
const STRAIGHT = 1e-10;
/** Of places that are all as near as each other, as between two round borders of one middle, so many are followed. */
const FOLLOWED = 64;

/** The shortest way between two things, each on one of its faces. */
function nearest(
  thickness: number,
  folding: Folding,
  [p, faceP]: readonly [Thing["runs"], Face],
  [q, faceQ]: readonly [Thing["runs"], Face],
): Nearest {
  const placed = (face: Face) => (run: Run) => place(run, folding, heightOf(face, thickness));
  const pairs = (first: readonly PlacedRun[], second: readonly PlacedRun[]): Pair[] =>
    first.flatMap((u) => second.map((v) => ({ ...closest(u.a, u.b, v.a, v.b), u, v })));
  const halves = (one: PlacedRun, face: Face) =>
    one.bow > STRAIGHT ? halved(one.run).map(placed(face)) : [one];
  let found = nearPairs(p.map(placed(faceP)), q.map(placed(faceQ)));
  for (;;) {
    // Something is no farther than this; what cannot be as near as that is followed no longer.
    const most = found.reduce((least, pair) => Math.min(least, pair.d + bowOf(pair)), Infinity);
    found = found.filter((pair) => pair.d - bowOf(pair) <= most).sort((a, b) => a.d - b.d);
    if (bowOf(found[0]) <= 2 * STRAIGHT) break;
    found = found.slice(0, FOLLOWED).flatMap(({ u, v }) => pairs(halves(u, faceP), halves(v, faceQ)));
  }
  const [{ d, from, to, s, t, u, v }] = found;
  const flat = ({ run }: PlacedRun, f: number) => pointAt(run.curve, run.from + (run.to - run.from) * f);
  return { d, from, to, fromFlat: flat(u, s), toFlat: flat(v, t), faces: [faceP, faceQ] };
}

/** A box in space that a run is within. */
interface Held {
  readonly run: PlacedRun;
  readonly low: Vector;
  readonly high: Vector;
}

const vectorOf = (of: (k: 0 | 1 | 2) => number): Vector => [of(0), of(1), of(2)];
const heldIn = (run: PlacedRun): Held => ({
  run,
  low: vectorOf((k) => Math.min(run.a[k], run.b[k]) - run.bow),
  high: vectorOf((k) => Math.max(run.a[k], run.b[k]) + run.bow),
});
/** Asked for every two runs of two plates: written so that nothing is made on the way. */
function roomBetween(p: Omit<Held, "run">, q: Omit<Held, "run">): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const room = Math.max(0, p.low[k] - q.high[k], q.low[k] - p.high[k]);
    sum += room * room;
  }
  return Math.sqrt(sum);
}

/**
 * The pairs of runs of which one may be the nearest. Of two plates with thousands of openings those are looked at first that
 * are near to the other as a whole, and none that is farther from it than what was found.
 */
function nearPairs(p: readonly PlacedRun[], q: readonly PlacedRun[]): Pair[] {
  const [ps, qs] = [p.map(heldIn), q.map(heldIn)];
  const whole = (list: readonly Held[]) => ({
    low: vectorOf((k) => list.reduce((least, h) => Math.min(least, h.low[k]), Infinity)),
    high: vectorOf((k) => list.reduce((most, h) => Math.max(most, h.high[k]), -Infinity)),
  });
  const byRoom = (list: readonly Held[], other: Omit<Held, "run">) =>
    list.map((held) => ({ held, room: roomBetween(held, other) })).sort((a, b) => a.room - b.room);
  const [first, second] = [byRoom(ps, whole(qs)), byRoom(qs, whole(ps))];
  let most = Infinity;
  const found: Pair[] = [];
  for (const { held: u, room } of first) {
    if (room > most) break;
    for (const { held: v, room: other } of second) {
      if (other > most) break;
      if (roomBetween(u, v) > most) continue;
      const pair = { ...closest(u.run.a, u.run.b, v.run.a, v.run.b), u: u.run, v: v.run };
      most = Math.min(most, pair.d + bowOf(pair));
      if (pair.d - bowOf(pair) <= most) found.push(pair);
    }
  }
  return found;
}

/** Where a run stands in space at a height over side A. */
function place(run: Run, folding: Folding, w: number): PlacedRun {
  const at = (f: number): Vector => {
    const { x, y } = pointAt(run.curve, f);
    return foldPoint(folding, run.owner, [x, y, w]);
  };
  const [a, b] = [at(run.from), at(run.to)];
  const straight = run.curve.kind === "line" && kindOf(folding.pieces[run.owner]).metal === "flat";
  if (straight) return { run, a, b, bow: 0 };
  const middle = at((run.from + run.to) / 2);
  const off = lengthV([0, 1, 2].map((k) => middle[k] - (a[k] + b[k]) / 2) as unknown as Vector);
  // Twice what it is in the middle: a curve that is no arc may bow out more beside that.
  return { run, a, b, bow: 2 * off };
}

function halved(run: Run): readonly Run[] {
  const middle = (run.from + run.to) / 2;
  return [
    { ...run, to: middle },
    { ...run, from: middle },
  ];
}

function angleBetween(
  folding: Folding,
  a: { owner: number; v: Vector },
  b: { owner: number; v: Vector },
): number | undefined {
  const turned = ({ owner, v }: { owner: number; v: Vector }): Vector => turnV(facingOf(folding, owner), v);
  const cosine = Math.abs(dotV(turned(a), turned(b)));
  return Math.acos(Math.min(1, cosine));
}

/** The two nearest places of two straight runs in space. */
function closest(p0: Vector, p1: Vector, q0: Vector, q1: Vector) {
  const sub = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const at = (a: Vector, d: Vector, f: number): Vector => [a[0] + d[0] * f, a[1] + d[1] * f, a[2] + d[2] * f];
  const clamp = (v: number) => Math.max(0, Math.min(1, v));
  const [u, v, w] = [sub(p1, p0), sub(q1, q0), sub(p0, q0)];
  const [a, b, c, d, e] = [dotV(u, u), dotV(u, v), dotV(v, v), dotV(u, w), dotV(v, w)];
  const det = a * c - b * b;
  let s = det > 1e-12 * Math.max(1, a * c) ? clamp((b * e - c * d) / det) : 0;
  let t = c > 1e-18 ? clamp((b * s + e) / c) : 0;
  s = a > 1e-18 ? clamp((b * t - d) / a) : 0;
  t = c > 1e-18 ? clamp((b * s + e) / c) : t;
  const [from, to] = [at(p0, u, s), at(q0, v, t)];
  const g = sub(from, to);
  return { s, t, d: lengthV(g), from, to };
}
