import { JoinedSets } from "../../joined-sets.ts";
import { Kept } from "../../kept.ts";
import { listDifference } from "../../list-difference.ts";
import { combine } from "../../plane/boolean.ts";
import { curvesWithin } from "../../plane/clip.ts";
import { type Curve, curveBounds, curvesBounds, reversed } from "../../plane/curve.ts";
import type { Isometry } from "../../plane/isometry.ts";
import { asCircle, type Loop, loopBounds } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import {
  along,
  type Bounds,
  boundsMeet,
  distance,
  EMPTY_BOUNDS,
  grown,
  joinBounds,
  type Point,
  SAME,
} from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import { joinSpans, type Span, spansInside, withoutSpans } from "../../plane/span.ts";
import { groupRegions } from "../../plane/stitch.ts";
import { sameValue } from "../../values.ts";
import type { Mark } from "../pieces/flat-pieces.ts";
import { workNear } from "./metal-boxes.ts";
import { type AddOp, type CutOp, isOutlining, type Metal, type MetalOp, moveOp } from "./metal-op.ts";

/** What a cut does that a person may not have meant: it misses the plate, leaves it, or meets another. */
export type CutFate = "outside" | "over-edge" | "joins";

/** Something about a cut that a person should know. */
export interface MetalRemark {
  readonly step: string;
  readonly fate: CutFate;
  /** How a person would call the cut. */
  readonly title: string;
}

/** Whether a repeated cut has metal to cut here. */
export interface CopyFate {
  readonly step: string;
  readonly place: number;
  readonly stands: boolean;
}

/**
 * Where there is metal along a line, looked at just to the right of it; see `spansInside`.
 *
 * @param within From where to where along the line; what lies beyond is not looked at.
 * @param counts Which of what was done to it is looked at; all of it if not given.
 */
export function metalSpans(
  metal: Metal,
  origin: Point,
  axis: Point,
  within: Span,
  counts: (op: AddOp | CutOp) => boolean = () => true,
): Span[] {
  const [p, q] = within.map((s) => along(origin, axis, s));
  const near = workNear(metal, {
    minX: Math.min(p.x, q.x) - SAME * 10,
    minY: Math.min(p.y, q.y) - SAME * 10,
    maxX: Math.max(p.x, q.x) + SAME * 10,
    maxY: Math.max(p.y, q.y) + SAME * 10,
  })
    .filter(isOutlining)
    .filter(counts);
  let spans: Span[] = [];
  for (let i = 0; i < near.length; ) {
    const { kind } = near[i];
    const loops: Loop[] = [];
    for (; i < near.length && near[i].kind === kind; i++) loops.push(...near[i].loops);
    const own = spansInside(loops, origin, axis);
    if (own.length > 0) spans = kind === "add" ? joinSpans(spans, own) : withoutSpans(spans, own);
  }
  return spans.flatMap(([a, b]): Span[] =>
    b < within[0] || a > within[1] ? [] : [[Math.max(a, within[0]), Math.min(b, within[1])]],
  );
}

/** Whether there is metal at a point. */
export const hasMetal = (metal: Metal, p: Point): boolean =>
  metalSpans(metal, p, { x: 1, y: 0 }, [-SAME, SAME]).some(([a, b]) => a <= 0 && b >= 0);

/** The same metal somewhere else. */
export const moveMetal = (m: Isometry, metal: Metal): Metal => metal.map((op) => moveOp(m, op));

export const metalBounds = (metal: Metal): Bounds =>
  curvesBounds(metal.flatMap((op) => (op.kind === "add" ? op.loops.flat() : [])));

interface Shaped {
  readonly regions: readonly Region[];
  readonly remarks: readonly MetalRemark[];
  readonly copies: readonly CopyFate[];
  /** Where all that was added comes before all cuts, and leaves one area. */
  readonly plain?: PlainShape;
}

/** One area with cuts that stand clear of its border and of each other. */
interface PlainShape {
  /** The metal whose cuts these are: another that says the same has the shape, but cuts of its own. */
  readonly of: Metal;
  /** The area with all cuts that do not stand clear. */
  readonly base: Region;
  /** The cuts that do not stand clear within it: those it has already, and those that lie beside it. */
  readonly others: ReadonlySet<MetalOp>;
}

const shaped = new Kept<Metal, Shaped>(shape, Object.is, (metal, _, before, answer) =>
  reshaped(metal, before, answer),
);

/** Whether the same was done to two pieces of metal, op by op. */
function sameWork(p: Metal, q: Metal): boolean {
  if (p.length !== q.length) return false;
  // What has changed was mostly done last.
  for (let i = p.length - 1; i >= 0; i--) if (!sameValue(p[i], q[i])) return false;
  return true;
}

/** Gives metal the outline of `like`, if nothing else was done to it: a step that ran again need not be shaped again. */
export function shapeLike(metal: Metal, like: Metal | undefined): void {
  if (like) shaped.like(metal, like, () => sameWork(metal, like));
}

/** The outline of metal, worked out once for each list of things done to it. */
export const shapeMetal = (metal: Metal): Shaped => shaped.of(metal);

/** What gives metal its outline: mostly all that was done to it. */
const outlining = (metal: Metal): readonly (AddOp | CutOp)[] =>
  metal.every(isOutlining) ? (metal as readonly (AddOp | CutOp)[]) : metal.filter(isOutlining);

function shape(all: Metal): Shaped {
  const metal = outlining(all);
  const told: Told = { remarks: [], copies: [] };
  let regions: Region[] = [];
  let groups = 0;
  let plain: PlainShape | undefined;
  for (let i = 0; i < metal.length; ) {
    const adds: AddOp[] = [];
    for (let op = metal[i]; op?.kind === "add"; op = metal[++i]) adds.push(op);
    const cuts: CutOp[] = [];
    for (let op = metal[i]; op?.kind === "cut"; op = metal[++i]) cuts.push(op);
    const made = runGroup(regions, adds, cuts, told);
    regions = made.regions;
    plain = ++groups === 1 && made.plain ? { ...made.plain, of: all } : undefined;
  }
  return { regions, ...told, ...(plain ? { plain } : {}) };
}

/** With more cuts changed than this, metal is shaped anew. */
const FEW_CHANGED = 64;

/**
 * The shape of metal to which nothing else was done than to that before it, but for a few cuts that stood clear and a
 * few that stand clear now: openings that were moved, added or taken away. Nothing where more has changed.
 */
function reshaped(metal: Metal, before: Metal, answer: Shaped): Shaped | undefined {
  const { plain } = answer;
  if (plain?.of !== before || Math.abs(metal.length - before.length) > FEW_CHANGED) return undefined;
  const { gone, come } = listDifference(before, metal);
  if (come.length > FEW_CHANGED) return undefined;
  if (gone.some((op) => op.kind !== "cut" || plain.others.has(op) || op.place !== undefined))
    return undefined;
  if (come.some((op) => op.kind !== "cut" || op.place !== undefined || op.loops.length !== 1))
    return undefined;
  // All that was added has to come first still.
  if (metal.findLastIndex((op) => op.kind === "add") > metal.findIndex((op) => op.kind === "cut"))
    return undefined;
  if (!standClear(come, metal, plain.base)) return undefined;
  const holes = [...plain.base.holes];
  for (const op of metal) if (op.kind === "cut" && !plain.others.has(op)) holes.push(turned.of(op.loops[0]));
  return {
    ...answer,
    regions: [{ outer: plain.base.outer, holes }],
    plain: { ...plain, of: metal },
  };
}

/**
 * Whether cuts of one loop each meet no other cut of the metal and no border, and lie in it. All the metal is gone
 * through once: to lay it out by places first takes longer, and these few are all that is asked of it.
 */
function standClear(cuts: readonly MetalOp[], metal: Metal, base: Region): boolean {
  const placed = cuts.map((op) => ({ op, box: grown(loopBounds(op.loops[0]), SAME * 100) }));
  const all = placed.reduce((b, { box }) => joinBounds(b, box), EMPTY_BOUNDS);
  for (const other of metal) {
    if (other.kind !== "cut") continue;
    const there = loopBounds(other.loops[0]);
    if (boundsMeet(there, all) && placed.some(({ op, box }) => op !== other && boundsMeet(there, box)))
      return false;
  }
  const borders = regionLoops(base);
  for (const c of borders.flat()) {
    const there = curveBounds(c);
    if (boundsMeet(there, all) && placed.some(({ box }) => boundsMeet(there, box))) return false;
  }
  return cuts.every((op) => insideAll(borders, op.loops[0][0].a));
}

/** A loop the other way round: of an opening that is where it was, the very same record. */
const turned = new Kept((loop: Loop): Loop => loop.map(reversed).reverse());

interface Told {
  readonly remarks: MetalRemark[];
  readonly copies: CopyFate[];
}

interface CutLoop {
  readonly loop: Loop;
  readonly op: CutOp;
  readonly box: Bounds;
}

/** Additions, then cuts, in one go. Cuts that stand clear of everything need no boolean at all. */
function runGroup(
  before: readonly Region[],
  adds: readonly AddOp[],
  cuts: readonly CutOp[],
  told: Told,
): { readonly regions: Region[]; readonly plain?: Omit<PlainShape, "of"> } {
  const old = before.flatMap(regionLoops);
  const added = adds.flatMap((op) => op.loops);
  const loops = [...old, ...added];
  const cutLoops = cuts.flatMap((op) => op.loops.map((loop) => ({ loop, op, box: loopBounds(loop) })));
  const { free, touching } = sortCuts(loops.flat(), cutLoops);
  const within = free.filter((c) => insideAll(loops, c.loop[0].a));
  const plain = touching.length === 0 && (before.length === 0 ? loops.length === 1 : added.length === 0);
  const regions = plain
    ? groupRegions(loops)
    : groupRegions(combine([loops, asOneArea(touching)], ([p, q]) => p > 0 && q === 0));
  remark(loops, free, within, touching, told);
  const clear = new Set(within.map((c) => c.op));
  // A cut of several loops of which some stand clear and some do not is neither.
  const simple = regions.length === 1 && cuts.every((op) => op.loops.length === 1);
  const others = new Set(cuts.filter((op) => !clear.has(op)));
  const plainly = simple ? { plain: { base: regions[0], others } } : {};
  if (within.length === 0) return { regions, ...plainly };
  const holes = within.map((c) => turned.of(c.loop));
  if (regions.length === 1)
    return { regions: [{ outer: regions[0].outer, holes: [...regions[0].holes, ...holes] }], ...plainly };
  return { regions: groupRegions([...regions.flatMap(regionLoops), ...holes]) };
}

/**
 * Cuts whose box meets no other cut's box and no border are free; one sweep over x finds the others. Of those that are
 * found already, the first that meets another is enough: in a crowd of thousands not every pair is looked at.
 */
function sortCuts(
  borders: readonly Curve[],
  cuts: readonly CutLoop[],
): { free: CutLoop[]; touching: CutLoop[] } {
  if (cuts.length === 0) return { free: [], touching: [] };
  const boxes = [...cuts.map((c) => c.box), ...borders.map(curveBounds)];
  const n = cuts.length;
  const touched = new Uint8Array(n);
  const order = boxes.map((_, i) => i).sort((i, j) => boxes[i].minX - boxes[j].minX);
  const slack = SAME * 100;
  const near = (list: number[], b: Bounds) => list.filter((j) => boxes[j].maxX >= b.minX - slack);
  const meets = (j: number, b: Bounds) => boxes[j].minY <= b.maxY + slack && boxes[j].maxY >= b.minY - slack;
  let [free, found, drawn]: number[][] = [[], [], []];
  for (const i of order) {
    const b = boxes[i];
    const isCut = i < n;
    const left: number[] = [];
    for (const j of free) {
      if (boxes[j].maxX < b.minX - slack) continue;
      if (meets(j, b)) {
        touched[j] = 1;
        if (isCut) touched[i] = 1;
        found.push(j);
      } else left.push(j);
    }
    free = left;
    if (!isCut) {
      drawn.push(i);
      continue;
    }
    if (touched[i] === 0) {
      drawn = near(drawn, b);
      found = near(found, b);
      if (drawn.some((j) => meets(j, b)) || found.some((j) => meets(j, b))) touched[i] = 1;
    }
    (touched[i] === 1 ? found : free).push(i);
  }
  return { free: cuts.filter((_, i) => !touched[i]), touching: cuts.filter((_, i) => touched[i]) };
}

const insideAll = (loops: readonly Loop[], p: Point): boolean =>
  spansInside(loops, p, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0);

/** Where cuts meet so many others on average, they are one crowd, and who meets whom is not asked any more. */
const MANY_PAIRS = 64;

/** Where each cut meets so few others, as holes along a bend meet what that takes off the plate, none lies within. */
const FEW_PAIRS = 3;

/** So few cuts over each other are combined in one go; more of them are first joined to one area, half by half. */
const FEW_CUTS = 48;

/**
 * Cuts as loops for one boolean. In a crowd every pair may cross, but the outline of the crowd is short:
 * joined half by half, what lies within is dropped before it can multiply.
 */
function asOneArea(cuts: readonly CutLoop[]): Loop[] {
  if (cuts.length <= FEW_CUTS) return cuts.map((c) => c.loop);
  return crowds(cuts).flatMap(({ cuts: crowd, pairs }) =>
    crowd.length <= FEW_CUTS || pairs <= crowd.length * FEW_PAIRS
      ? crowd.map((c) => c.loop)
      : joinedHalves(crowd),
  );
}

interface Crowd {
  readonly cuts: readonly CutLoop[];
  /** How many pairs of them have boxes that meet. */
  readonly pairs: number;
}

/** Cuts that hang together by their boxes, found in one sweep over x. */
function crowds(cuts: readonly CutLoop[]): Crowd[] {
  const sets = new JoinedSets(cuts.length);
  const met = new Uint32Array(cuts.length);
  const order = [...cuts.keys()].sort((i, j) => cuts[i].box.minX - cuts[j].box.minX);
  let active: number[] = [];
  let pairs = 0;
  for (const i of order) {
    const { box } = cuts[i];
    active = active.filter((j) => cuts[j].box.maxX >= box.minX);
    for (const j of active)
      if (boundsMeet(cuts[j].box, box)) {
        sets.join(i, j);
        met[i]++;
      }
    pairs += met[i];
    // What stands apart is joined to one area as well as what does not.
    if (pairs > cuts.length * MANY_PAIRS) return [{ cuts, pairs }];
    active.push(i);
  }
  const groups = new Map<number, { cuts: CutLoop[]; pairs: number }>();
  for (const i of cuts.keys()) {
    const group = groups.get(sets.find(i)) ?? { cuts: [], pairs: 0 };
    groups.set(sets.find(i), group);
    group.cuts.push(cuts[i]);
    group.pairs += met[i];
  }
  return [...groups.values()];
}

function joinedHalves(cuts: readonly CutLoop[]): Loop[] {
  if (cuts.length <= 2) return combine([cuts.map((c) => c.loop)], ([p]) => p > 0);
  const middle = (c: CutLoop) => [(c.box.minX + c.box.maxX) / 2, (c.box.minY + c.box.maxY) / 2] as const;
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const [x, y] of cuts.map(middle)) {
    [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
    [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
  }
  const axis = x1 - x0 > y1 - y0 ? 0 : 1;
  const sorted = [...cuts].sort((p, q) => middle(p)[axis] - middle(q)[axis]);
  const half = sorted.length >> 1;
  return combine(
    [joinedHalves(sorted.slice(0, half)), joinedHalves(sorted.slice(half))],
    ([p, q]) => p > 0 || q > 0,
  );
}

/** Says of named cuts what a person may not have meant, and of repeated ones whether they cut anything. */
function remark(
  loops: readonly Loop[],
  free: readonly CutLoop[],
  within: readonly CutLoop[],
  touching: readonly CutLoop[],
  told: Told,
): void {
  const inside = new Set(within);
  const say = ({ op: { step, title } }: CutLoop, fate: CutFate) => {
    if (title) told.remarks.push({ step, fate, title });
  };
  const count = ({ op: { step, place } }: CutLoop, stands: boolean) => {
    if (place !== undefined) told.copies.push({ step, place, stands });
  };
  for (const cut of free) {
    count(cut, inside.has(cut));
    if (!inside.has(cut)) say(cut, "outside");
  }
  const others = new NearCurves(touching);
  for (const cut of touching) {
    const { op } = cut;
    if (!op.title && op.place === undefined) continue;
    const stands = meetsMetal(loops, cut);
    count(cut, stands);
    if (!stands) say(cut, "outside");
    else if (op.title && !op.notch) {
      if (others.some(cut.box, (o) => o !== cut && o.op.title !== undefined && runsInto(o, cut)))
        say(cut, "joins");
      else if (combine([[cut.loop], loops], ([p, q]) => p > 0 && q === 0).length > 0) say(cut, "over-edge");
    }
  }
}

function runsInto(a: CutLoop, b: CutLoop): boolean {
  if (!boundsMeet(a.box, b.box)) return false;
  const [p, q] = [asCircle(a.loop), asCircle(b.loop)];
  if (p && q) return distance(p.c, q.c) < p.r + q.r - SAME;
  return combine([[a.loop], [b.loop]], ([u, v]) => u > 0 && v > 0).length > 0;
}

const meetsMetal = (loops: readonly Loop[], { loop }: CutLoop): boolean =>
  insideAll(loops, loop[0].a) || combine([[loop], loops], ([p, q]) => p > 0 && q > 0).length > 0;

/** What is marked on metal, as far as it is there. */
export function marksOn(metal: Metal, regions: readonly Region[]): readonly Mark[] {
  const marks = metal.flatMap((op) => (op.kind === "mark" ? [op] : []));
  if (marks.length === 0) return NO_MARKS;
  return marks.flatMap(({ step, feature, side, loops }): Mark[] => {
    const curves = curvesWithin(loops.flat(), regions);
    return curves.length > 0 ? [{ step, feature: feature.id, side, curves }] : [];
  });
}

const NO_MARKS: readonly Mark[] = [];
