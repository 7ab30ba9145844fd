import { curvesOfShape } from "../../outline/from-shapes.ts";
import { type Curve, curveBounds, curvesBounds, distanceToCurve, pointAt } from "../../plane/curve.ts";
import { type Isometry, moveCurve } from "../../plane/isometry.ts";
import { asCircle, type Loop, loopArea, loopLength } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { NearPlaces } from "../../plane/near-places.ts";
import { distance, type Point, SAME } from "../../plane/point.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { asChained, chainCurves } from "../drawing/chains.ts";
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
  // Arcs along smooth curves must not use up what things may be off.
  const fine = within / 10 / unit;
  const curves = file.shapes.flatMap((s) => curvesOfShape(s, fine)).map((c) => scaled(c, unit));
  const { facts } = drawn;
  const known = asChained(facts);
  const own = [...known.outlines, ...known.openings];
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
  const found = compareLoops(own, known.outlines.length, closed, within);
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

/** A loop with what it is looked at by, found once. */
interface Seen {
  readonly loop: Loop;
  readonly middle: Point;
  readonly isOutline: boolean;
  readonly round?: { readonly c: Point; readonly r: number };
  readonly length: number;
  readonly area: number;
  /** The smaller side of its box. */
  readonly size: number;
}

function seen(loop: Loop, isOutline: boolean): Seen {
  const b = curvesBounds(loop);
  return {
    loop,
    isOutline,
    middle: middleOf(loop),
    round: asCircle(loop),
    length: loopLength(loop),
    area: Math.abs(loopArea(loop)),
    size: Math.min(b.maxX - b.minX, b.maxY - b.minY),
  };
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
  const cell = Math.max(1, 20 * within);
  const slots = new NearPlaces<Loop>(cell);
  for (const l of file) slots.add(middleOf(l), l);
  const left = new Set(file);
  const lost = own.flatMap((loop, i): Seen[] => {
    const near = slots.near(middleOf(loop), 2 * within).map((s) => s.thing);
    const like = near.find((l) => left.has(l) && sameLoop(loop, l, within));
    if (like) left.delete(like);
    return like ? [] : [seen(loop, i < outlines)];
  });
  const still = pairUp(
    lost,
    [...left].map((l) => seen(l, false)),
    (p, q) => alike(p, q, within) && distance(p.middle, q.middle),
  );
  for (const [p, q] of still.pairs)
    out.moved.push({
      what: nameOf(p.loop, p.isOutline),
      at: xy(p.middle),
      to: xy(q.middle),
      by: distance(p.middle, q.middle),
      curves: q.loop,
    });
  // What stands where something was, but is another: resized, or an outline that is another in places.
  const same = pairUp(still.lost, still.left, overlap);
  for (const [p, q] of same.pairs) {
    const off = offCurves(q.loop, p.loop, within);
    const { round } = p;
    const other = round && q.round;
    const by = round && other ? Math.abs(other.r - round.r) * 2 : farthestOff(off, p.loop);
    const named = nameOf(p.loop, p.isOutline);
    out.changed.push({
      what: other ? `${named} is ⌀${n(other.r * 2)}` : named,
      at: xy(off.length > 0 ? pointAt(off[0], 0.5) : q.middle),
      by,
      curves: off.length > 0 ? off : q.loop,
    });
  }
  for (const p of same.lost)
    out.removed.push({ what: nameOf(p.loop, p.isOutline), at: xy(p.middle), curves: p.loop });
  for (const q of same.left)
    out.added.push({ what: nameOf(q.loop, false), at: xy(q.middle), curves: q.loop });
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
function alike(p: Seen, q: Seen, within: number): boolean {
  if (p.round || q.round) return !!p.round && !!q.round && Math.abs(p.round.r - q.round.r) <= within;
  return (
    Math.abs(q.length - p.length) <= within * (4 + p.loop.length) &&
    Math.abs(p.area - q.area) <= within * p.length
  );
}

/** How near two loops are to being one, where they can be; outlines are whatever their size. */
function overlap(p: Seen, q: Seen): number | false {
  const apart = distance(p.middle, q.middle);
  const ratio = q.area / p.area;
  if (p.isOutline) return ratio > 0.2 && ratio < 5 && apart;
  return apart <= p.size / 2 && ratio > 0.05 && ratio < 20 && apart;
}

interface Pairable {
  readonly p: Seen;
  readonly q: Seen;
  readonly d: number;
}

/** So many pairs are weighed against one another; a crowd that moved as a whole has more. */
const MOST_PAIRABLE = 1_000_000;
/** In a crowd one is looked for among so many that come next. */
const IN_A_ROW = 32;

/** A crowd that was moved as a whole stands in the same order as before: across, then up. */
function* inOrder(
  lost: readonly Seen[],
  left: readonly Seen[],
  far: (p: Seen, q: Seen) => number | false,
): Generator<{ readonly p: Seen; readonly q: Seen }> {
  const across = (list: readonly Seen[]) =>
    [...list].sort((a, b) =>
      Math.abs(a.middle.x - b.middle.x) > 1e-6 ? a.middle.x - b.middle.x : a.middle.y - b.middle.y,
    );
  const waiting = across(left);
  for (const p of across(lost)) {
    const at = waiting.slice(0, IN_A_ROW).findIndex((q) => far(p, q) !== false);
    if (at >= 0) yield { p, q: waiting.splice(at, 1)[0] };
  }
}

/**
 * Pairs of two lists, the nearest first, of those that can be pairs; `far` says how near they are, or `false` that they
 * cannot. All that are within a distance are paired before any that are farther apart, and the distance grows: of thousands
 * that were moved a little each is held only against those around it.
 */
function pairUp(
  lost: readonly Seen[],
  left: readonly Seen[],
  far: (p: Seen, q: Seen) => number | false,
): { pairs: [Seen, Seen][]; lost: readonly Seen[]; left: readonly Seen[] } {
  const pairs: [Seen, Seen][] = [];
  const { minX, minY, maxX, maxY } = curvesBounds([...lost, ...left].flatMap((s) => s.loop));
  const whole = Math.hypot(maxX - minX, maxY - minY);
  const steps = Math.max(1, Math.ceil(Math.log2(Math.max(lost.length, left.length, 1))));
  for (let k = steps; k >= 0 && lost.length > 0 && left.length > 0; k--) {
    const reach = whole / 2 ** k + SAME;
    const places = new NearPlaces<Seen>(reach);
    for (const q of left) places.add(q.middle, q);
    const near: Pairable[] = [];
    for (const p of lost) {
      for (const { thing: q } of places.near(p.middle, reach)) {
        const d = far(p, q);
        if (d !== false) near.push({ p, q, d });
      }
      if (near.length > MOST_PAIRABLE) break;
    }
    const used = new Set<Seen>();
    const tooMany = near.length > MOST_PAIRABLE;
    const inTurn = tooMany ? inOrder(lost, left, far) : near.sort((a, b) => a.d - b.d);
    for (const { p, q } of inTurn) {
      if (used.has(p) || used.has(q)) continue;
      used.add(p).add(q);
      pairs.push([p, q]);
    }
    lost = lost.filter((p) => !used.has(p));
    left = left.filter((q) => !used.has(q));
  }
  return { pairs, lost, left };
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
