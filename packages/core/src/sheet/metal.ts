import { combine } from "../plane/boolean.ts";
import { type Curve, curveBounds, curvesBounds, reversed } from "../plane/curve.ts";
import { type Isometry, moveLoop } from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { type Bounds, type Point, SAME } from "../plane/point.ts";
import { type Region, regionLoops } from "../plane/region.ts";
import { joinSpans, type Span, spansInside, withoutSpans } from "../plane/span.ts";
import { groupRegions } from "../plane/stitch.ts";

/** One thing done to the metal of a plate or strip: loops added to it or cut from it. */
export interface MetalOp {
  readonly kind: "add" | "cut";
  /** The step that did it. */
  readonly step: string;
  /** Counter-clockwise loops in developed coordinates; an addition may carry its openings clockwise. */
  readonly loops: readonly Loop[];
  /** The bend that this was done for: what it takes off the plate, its reliefs. */
  readonly bend?: string;
  /** For a cut through the flat sheet: the bends that were flat with it, over which it went on. */
  readonly over?: ReadonlySet<string>;
  /** Whether it parts the plate, so that what is repeated of earlier work must be parted too. */
  readonly parts?: boolean;
  /** How a person would call this cut, when its place is worth a remark: "The hole ⌀ 6 at 10, 20". */
  readonly title?: string;
  /** Whether it may run over the edge or into another cut, as a notch does: then only missing the plate is told. */
  readonly notch?: boolean;
}

/** What was done to a piece of metal, in order. Its outline follows when somebody asks. */
export type Metal = readonly MetalOp[];

/** Something about a cut that a person should know. */
export interface MetalRemark {
  readonly step: string;
  readonly message: string;
}

/** Where there is metal along a line, looked at just to the right of it; see `spansInside`. */
export function metalSpans(metal: Metal, origin: Point, axis: Point): Span[] {
  let spans: Span[] = [];
  for (let i = 0; i < metal.length; ) {
    const { kind } = metal[i];
    const loops: Loop[] = [];
    for (; i < metal.length && metal[i].kind === kind; i++) loops.push(...metal[i].loops);
    const own = spansInside(loops, origin, axis);
    if (own.length > 0) spans = kind === "add" ? joinSpans(spans, own) : withoutSpans(spans, own);
  }
  return spans;
}

/** Whether there is metal at a point. */
export const hasMetal = (metal: Metal, p: Point): boolean =>
  metalSpans(metal, p, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0);

/** The same metal somewhere else. */
export const moveMetal = (m: Isometry, metal: Metal): Metal =>
  metal.map((op) => ({ ...op, loops: op.loops.map((l) => moveLoop(m, l)) }));

export const metalBounds = (metal: Metal): Bounds =>
  curvesBounds(metal.flatMap((op) => (op.kind === "add" ? op.loops.flat() : [])));

interface Shaped {
  readonly regions: readonly Region[];
  readonly remarks: readonly MetalRemark[];
}

const shaped = new WeakMap<Metal, Shaped>();

/** Whether the same was done to two pieces of metal, op by op. */
function sameWork(p: Metal, q: Metal): boolean {
  if (p.length !== q.length) return false;
  for (let i = p.length - 1; i >= 0; i--)
    if (p[i] !== q[i] && JSON.stringify(p[i]) !== JSON.stringify(q[i])) return false;
  return true;
}

/** Gives metal the outline of `like`, if nothing else was done to it: a step that ran again need not be shaped again. */
export function shapeLike(metal: Metal, like: Metal | undefined): void {
  if (!like || shaped.has(metal)) return;
  const known = shaped.get(like);
  if (known && sameWork(metal, like)) shaped.set(metal, known);
}

/** The outline of metal, worked out once for each list of things done to it. */
export function shapeMetal(metal: Metal): Shaped {
  const known = shaped.get(metal);
  if (known) return known;
  const remarks: MetalRemark[] = [];
  let regions: Region[] = [];
  for (let i = 0; i < metal.length; ) {
    const adds: MetalOp[] = [];
    for (; i < metal.length && metal[i].kind === "add"; i++) adds.push(metal[i]);
    const cuts: MetalOp[] = [];
    for (; i < metal.length && metal[i].kind === "cut"; i++) cuts.push(metal[i]);
    regions = runGroup(regions, adds, cuts, remarks);
  }
  const result = { regions, remarks };
  shaped.set(metal, result);
  return result;
}

interface CutLoop {
  readonly loop: Loop;
  readonly op: MetalOp;
  readonly box: Bounds;
}

/** Additions, then cuts, in one go. Cuts that stand clear of everything need no boolean at all. */
function runGroup(
  before: readonly Region[],
  adds: readonly MetalOp[],
  cuts: readonly MetalOp[],
  remarks: MetalRemark[],
): Region[] {
  const old = before.flatMap(regionLoops);
  const added = adds.flatMap((op) => op.loops);
  const loops = [...old, ...added];
  const cutLoops = cuts.flatMap((op) => op.loops.map((loop) => ({ loop, op, box: curvesBounds(loop) })));
  const { free, touching } = sortCuts(loops.flat(), cutLoops);
  const within = free.filter((c) => insideAll(loops, c.loop[0].a));
  const plain = touching.length === 0 && (before.length === 0 ? loops.length === 1 : added.length === 0);
  const regions = plain
    ? groupRegions(loops)
    : groupRegions(combine([loops, touching.map((c) => c.loop)], ([p, q]) => p > 0 && q === 0));
  remark(loops, free, within, touching, remarks);
  if (within.length === 0) return regions;
  const holes = within.map((c) => c.loop.map(reversed).reverse());
  if (regions.length === 1) return [{ outer: regions[0].outer, holes: [...regions[0].holes, ...holes] }];
  return groupRegions([...regions.flatMap(regionLoops), ...holes]);
}

/** Cuts whose box meets no other cut's box and no border are free; one sweep over x finds the others. */
function sortCuts(
  borders: readonly Curve[],
  cuts: readonly CutLoop[],
): { free: CutLoop[]; touching: CutLoop[] } {
  if (cuts.length === 0) return { free: [], touching: [] };
  const boxes = [...cuts.map((c) => c.box), ...borders.map(curveBounds)];
  const n = cuts.length;
  const touched = new Uint8Array(n);
  const order = boxes.map((_, i) => i).sort((i, j) => boxes[i].minX - boxes[j].minX);
  let active: number[] = [];
  const slack = SAME * 100;
  for (const i of order) {
    const b = boxes[i];
    active = active.filter((j) => boxes[j].maxX >= b.minX - slack);
    for (const j of active) {
      if (i >= n && j >= n) continue;
      if (boxes[j].minY > b.maxY + slack || boxes[j].maxY < b.minY - slack) continue;
      if (i < n) touched[i] = 1;
      if (j < n) touched[j] = 1;
    }
    active.push(i);
  }
  return { free: cuts.filter((_, i) => !touched[i]), touching: cuts.filter((_, i) => touched[i]) };
}

const insideAll = (loops: readonly Loop[], p: Point): boolean =>
  spansInside(loops, p, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0);

/** Says of named cuts what a person may not have meant. */
function remark(
  loops: readonly Loop[],
  free: readonly CutLoop[],
  within: readonly CutLoop[],
  touching: readonly CutLoop[],
  remarks: MetalRemark[],
): void {
  const inside = new Set(within);
  const say = (cut: CutLoop, text: string) => {
    if (cut.op.title) remarks.push({ step: cut.op.step, message: `${cut.op.title} ${text}` });
  };
  for (const cut of free) if (!inside.has(cut)) say(cut, "lies outside the plate and cuts nothing.");
  for (const cut of touching) {
    if (!cut.op.title) continue;
    const own = [cut.loop];
    const covered = combine([own, loops], ([p, q]) => p > 0 && q > 0);
    if (covered.length === 0) {
      say(cut, "lies outside the plate and cuts nothing.");
      continue;
    }
    if (cut.op.notch) continue;
    const other = touching.find(
      (o) =>
        o !== cut &&
        o.op.title &&
        boxesMeet(o.box, cut.box) &&
        combine([own, [o.loop]], ([p, q]) => p > 0 && q > 0).length > 0,
    );
    if (other) say(cut, "runs into another hole: they become one opening.");
    else if (combine([own, loops], ([p, q]) => p > 0 && q === 0).length > 0)
      say(cut, "runs over the edge of the plate. Bends are not cut by it.");
  }
}

const boxesMeet = (a: Bounds, b: Bounds) =>
  a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;
