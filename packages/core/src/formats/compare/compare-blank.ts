import { curvesOfShape } from "../../outline/from-shapes.ts";
import { type Curve, curveBounds, curvesBounds, distanceToCurve, pointAt } from "../../plane/curve.ts";
import { type Isometry, moveCurve } from "../../plane/isometry.ts";
import { asCircle, type Loop, loopArea, loopLength } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { distance, type Point } from "../../plane/point.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { chainCurves } from "../drawing/chains.ts";
import type { DrawnBlank } from "../drawing/drawing.ts";
import type { DrawnShapes } from "../dxf/read-shapes.ts";
import { alignLoops } from "./align.ts";

/** Something that is not in the file as it is on the blank. Places in mm on the blank as it lies. */
export interface Difference {
  readonly what: string;
  readonly at: readonly [number, number];
  /** Where it is in the file, and how far that is off, mm. */
  readonly to?: readonly [number, number];
  readonly by?: number;
  /** Its curves, for drawing them over the blank. */
  readonly curves: readonly Curve[];
}

/** A file that came back, held against the blank. */
export interface Comparison {
  readonly same: boolean;
  /** How large the file is for the blank's one; 25.4 and 1/25.4 are inches and millimetres taken for one another. */
  readonly scale: number;
  readonly mirrored: boolean;
  /** How far the file is turned, degrees counter-clockwise. */
  readonly turned: number;
  /** Where the blank's lower left corner lies in the file, at the blank's scale. */
  readonly offset: readonly [number, number];
  readonly moved: readonly Difference[];
  readonly changed: readonly Difference[];
  readonly added: readonly Difference[];
  readonly removed: readonly Difference[];
  readonly notes: readonly string[];
}

export interface CompareOptions {
  /** What is off by no more than this is the same, mm. */
  readonly within?: number;
}

export const COMPARE_WITHIN = 0.01;
/** Ends in a file that came back meet when they are no farther apart than this, mm. */
const JOIN = 0.005;

const CANNOT: Omit<Comparison, "notes"> = {
  same: false,
  scale: 1,
  mirrored: false,
  turned: 0,
  offset: [0, 0],
  moved: [],
  changed: [],
  added: [],
  removed: [],
};

/**
 * Holds a drawing that came back against a blank. Scale, mirroring, turn and shift of the whole are found first; then what
 * was moved, changed, added or removed is what does not lie within the tolerance of its like.
 *
 * @param drawn the blank as it would be written, in mm
 */
export function compareBlank(drawn: DrawnBlank, file: DrawnShapes, options: CompareOptions = {}): Comparison {
  const { within = COMPARE_WITHIN } = options;
  const unit = file.scale ?? 1;
  const curves = file.shapes.flatMap((s) => curvesOfShape(s)).map((c) => scaled(c, unit));
  const { facts } = drawn;
  const own = [...facts.outlines, ...facts.openings];
  const rough = chainCurves(curves, JOIN);
  const alignment = alignLoops(own, rough.closed, Math.max(within, 1e-6));
  if (!alignment)
    return {
      ...CANNOT,
      notes: ["Nothing in the file is like this blank: no edge is as long as one of its own."],
    };
  const { scale, motion } = alignment;
  const placed = curves.map((c) => moveCurve(motion, scaled(c, 1 / scale)));
  const { closed, open } = scale === 1 ? moved(rough, motion) : chainCurves(placed, JOIN);
  const found = compareLoops(own, facts.outlines.length, closed, within);
  const lines = compareLines(drawn, open.flat(), within);
  const turned = toDegrees(Math.atan2(-motion.yx, motion.flips ? -motion.xx : motion.xx));
  const [added, removed] = [
    [...found.added, ...lines.added],
    [...found.removed, ...lines.removed],
  ];
  const nothing = found.moved.length + found.changed.length + added.length + removed.length === 0;
  const snapped = Math.abs(scale - 1) < 1e-9 ? 1 : scale;
  return {
    same: nothing && snapped === 1 && !motion.flips,
    scale: snapped,
    mirrored: motion.flips,
    turned: Math.abs(turned) < 1e-6 ? 0 : motion.flips ? turnOfMirrored(motion) : turned,
    offset: offsetOf(motion),
    moved: found.moved,
    changed: found.changed,
    added,
    removed,
    notes: [...lines.notes, ...[...file.others].map(([kind, n]) => `Not looked at: ${n} ${kind}.`)],
  };
}

/** Where the blank's origin lies in the file. */
function offsetOf(m: Isometry): readonly [number, number] {
  return [-(m.xx * m.ox + m.yx * m.oy), -(m.xy * m.ox + m.yy * m.oy)].map((v) =>
    Math.abs(v) < 1e-9 ? 0 : v,
  ) as unknown as readonly [number, number];
}

/** A mirrored file is one turned over about an upright line and then turned by this. */
const turnOfMirrored = (m: Isometry): number => {
  const turn = toDegrees(Math.atan2(m.yx, -m.xx));
  return Math.abs(turn) < 1e-6 ? 0 : turn;
};

function scaled(c: Curve, f: number): Curve {
  if (f === 1) return c;
  const at = ({ x, y }: Point) => ({ x: x * f, y: y * f });
  return c.kind === "line"
    ? { ...c, a: at(c.a), b: at(c.b) }
    : { ...c, a: at(c.a), b: at(c.b), c: at(c.c), r: c.r * f };
}

const moved = (chains: ReturnType<typeof chainCurves>, m: Isometry) => ({
  closed: chains.closed.map((l) => l.map((c) => moveCurve(m, c))),
  open: chains.open.map((l) => l.map((c) => moveCurve(m, c))),
});

const middleOf = (loop: Loop): Point => {
  const b = curvesBounds(loop);
  return { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 };
};

const n = (v: number) => formatShort(v, 3);

function nameOf(loop: Loop, isOutline: boolean): string {
  if (isOutline) return "outline";
  const circle = asCircle(loop);
  if (circle) return `opening ⌀${n(circle.r * 2)}`;
  const b = curvesBounds(loop);
  return `opening ${n(b.maxX - b.minX)} × ${n(b.maxY - b.minY)}`;
}

/** Whether every piece of one loop lies on the other and the other way round, by their ends and middles. */
function sameLoop(p: Loop, q: Loop, within: number): boolean {
  const [round, other] = [asCircle(p), asCircle(q)];
  if (round && other) return distance(round.c, other.c) <= within && Math.abs(round.r - other.r) <= within;
  return offCurves(p, q, within).length === 0 && offCurves(q, p, within).length === 0;
}

/** The pieces of a loop that do not lie on another. */
function offCurves(loop: readonly Curve[], on: readonly Curve[], within: number): Curve[] {
  const things = new NearCurves(on.map((curve) => ({ curve, box: curveBounds(curve) })));
  const near = (p: Point) => {
    const box = { minX: p.x - within, minY: p.y - within, maxX: p.x + within, maxY: p.y + within };
    return things.near(box).some(({ curve }) => distanceToCurve(curve, p) <= within);
  };
  return loop.filter((c) => ![c.a, pointAt(c, 0.5), pointAt(c, 0.25), pointAt(c, 0.75)].every(near));
}

interface LoopDifferences {
  readonly moved: Difference[];
  readonly changed: Difference[];
  readonly added: Difference[];
  readonly removed: Difference[];
}

const xy = ({ x, y }: Point) => [x, y] as const;

function compareLoops(
  own: readonly Loop[],
  outlines: number,
  file: readonly Loop[],
  within: number,
): LoopDifferences {
  const out: LoopDifferences = { moved: [], changed: [], added: [], removed: [] };
  const left = new Set(file);
  const cell = Math.max(1, 20 * within);
  const slots = new Map<string, Loop[]>();
  const keyAt = (p: Point, di = 0, dj = 0) => `${Math.floor(p.x / cell) + di} ${Math.floor(p.y / cell) + dj}`;
  for (const l of file) slots.set(keyAt(middleOf(l)), [...(slots.get(keyAt(middleOf(l))) ?? []), l]);
  const lost = own.filter((loop) => {
    const at = middleOf(loop);
    const near = [-1, 0, 1].flatMap((di) => [-1, 0, 1].flatMap((dj) => slots.get(keyAt(at, di, dj)) ?? []));
    const like = near.find(
      (l) => left.has(l) && distance(middleOf(l), at) <= 2 * within && sameLoop(loop, l, within),
    );
    if (like) left.delete(like);
    return !like;
  });
  const isOutline = (loop: Loop) => own.indexOf(loop) < outlines;
  const still = pairUp(lost, [...left], (p, q) => alike(p, q, within) && distance(middleOf(p), middleOf(q)));
  for (const [p, q] of still.pairs) {
    const [from, to] = [middleOf(p), middleOf(q)];
    out.moved.push({
      what: nameOf(p, isOutline(p)),
      at: xy(from),
      to: xy(to),
      by: distance(from, to),
      curves: q,
    });
  }
  // What stands where something was, but is another: resized, or an outline that is another in places.
  const same = pairUp(still.lost, still.left, (p, q) => overlap(p, q, isOutline(p)));
  for (const [p, q] of same.pairs) {
    const off = offCurves(q, p, within);
    const [round, other] = [asCircle(p), asCircle(q)];
    const by = round && other ? Math.abs(other.r - round.r) * 2 : farthestOff(off, p);
    const what = round && other ? `${nameOf(p, false)} is ⌀${n(other.r * 2)}` : nameOf(p, isOutline(p));
    out.changed.push({
      what,
      at: xy(off.length > 0 ? pointAt(off[0], 0.5) : middleOf(q)),
      by,
      curves: off.length > 0 ? off : q,
    });
  }
  for (const p of same.lost)
    out.removed.push({ what: nameOf(p, isOutline(p)), at: xy(middleOf(p)), curves: p });
  for (const q of same.left) out.added.push({ what: nameOf(q, false), at: xy(middleOf(q)), curves: q });
  return out;
}

/** How far pieces stand off a loop at most. */
const farthestOff = (pieces: readonly Curve[], loop: Loop): number =>
  pieces
    .flatMap((c) => [c.a, pointAt(c, 0.5)])
    .reduce(
      (m, p) =>
        Math.max(
          m,
          loop.reduce((d, c) => Math.min(d, distanceToCurve(c, p)), Infinity),
        ),
      0,
    );

/** Whether two loops have one shape and size. */
function alike(p: Loop, q: Loop, within: number): boolean {
  const [round, other] = [asCircle(p), asCircle(q)];
  if (round || other) return !!round && !!other && Math.abs(round.r - other.r) <= within;
  const reach = loopLength(p);
  return (
    Math.abs(loopLength(q) - reach) <= within * (4 + p.length) &&
    Math.abs(Math.abs(loopArea(p)) - Math.abs(loopArea(q))) <= within * reach
  );
}

/** How near two loops are to being one, where they can be; outlines are whatever their size. */
function overlap(p: Loop, q: Loop, isOutline: boolean): number | false {
  const [a, b] = [curvesBounds(p), curvesBounds(q)];
  const apart = distance(middleOf(p), middleOf(q));
  const size = Math.min(a.maxX - a.minX, a.maxY - a.minY);
  const ratio = Math.abs(loopArea(q)) / Math.abs(loopArea(p));
  if (isOutline) return ratio > 0.2 && ratio < 5 && apart;
  return apart <= size / 2 && ratio > 0.05 && ratio < 20 && b.maxX >= a.minX && apart;
}

/** Pairs of two lists, the nearest first, of those that can be pairs; `false` says that two cannot. */
function pairUp(
  lost: readonly Loop[],
  left: readonly Loop[],
  far: (p: Loop, q: Loop) => number | false,
): { pairs: [Loop, Loop][]; lost: Loop[]; left: Loop[] } {
  const all = lost
    .flatMap((p) => left.map((q) => ({ p, q, d: far(p, q) })))
    .filter((c): c is { p: Loop; q: Loop; d: number } => c.d !== false)
    .sort((a, b) => a.d - b.d);
  const used = new Set<Loop>();
  const pairs: [Loop, Loop][] = [];
  for (const { p, q } of all) {
    if (used.has(p) || used.has(q)) continue;
    used.add(p).add(q);
    pairs.push([p, q]);
  }
  return { pairs, lost: lost.filter((p) => !used.has(p)), left: left.filter((q) => !used.has(q)) };
}

/** Bend lines, cuts of no width, and whatever else is drawn and closes nothing. */
function compareLines(drawn: DrawnBlank, open: readonly Curve[], within: number) {
  const { facts, drawing } = drawn;
  const known = drawing.entities.flatMap((e) =>
    e.kind === "curve" ? [e.curve] : e.kind === "chain" ? e.curves : [],
  );
  const bends = [...facts.bendsUp, ...facts.bendsDown];
  const strange = offCurves(open, [...known, ...bends, ...facts.slits], within);
  const added = strange.map((c): Difference => ({ what: "line", at: xy(pointAt(c, 0.5)), curves: [c] }));
  const notes: string[] = [];
  const there = (c: Curve) => open.some((o) => liesOn(o, c, within));
  const gone = (list: readonly Curve[], what: string): Difference[] =>
    list.filter((c) => !there(c)).map((c) => ({ what, at: xy(pointAt(c, 0.5)), curves: [c] }));
  const lostBends = gone(bends, "bend line");
  if (bends.length > 0 && lostBends.length === bends.length) {
    notes.push("There are no bend lines in the file.");
    lostBends.length = 0;
  }
  return { added, removed: [...lostBends, ...gone(facts.slits, "cut of no width")], notes };
}

/** Whether a piece lies on a line. */
const liesOn = (o: Curve, c: Curve, within: number): boolean =>
  [o.a, pointAt(o, 0.5), o.b].every((p) => distanceToCurve(c, p) <= within);
