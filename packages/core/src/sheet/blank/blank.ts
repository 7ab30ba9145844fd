import { Kept } from "../../kept.ts";
import { asBefore } from "../../plane/as-before.ts";
import { overlapOf } from "../../plane/boolean.ts";
import { type Curve, curveBounds, curveLength, curvesBounds, type Line, line } from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import {
  asCircle,
  type Loop,
  loopMeasures,
  loopsBounds,
  polygonLoop,
  simplifyLoop,
  welded,
} from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { along, type Bounds, distance, dot, type Point, SAME, subtract } from "../../plane/point.ts";
import { type Region, regionBounds, regionLoops } from "../../plane/region.ts";
import { commonSpans, joinSpans, type Span, spansAt, spansInside, spansLength } from "../../plane/span.ts";
import { insideLoop, stitchLoops, withoutSpikes } from "../../plane/stitch.ts";
import { Stretches } from "../../plane/stretches.ts";
import type { Bend, Mark } from "../pieces/flat-pieces.ts";
import type { SeamLine } from "../pieces/piece-kind.ts";
import { kindOf, seamsOf } from "../pieces/piece-kinds.ts";
import { bendsOf, type Carrier, carriersOf, platesOf, type Sheet } from "../sheet.ts";

/** A line across the blank that belongs to a bend, in as many pieces as the metal there has. */
export interface BendLine {
  readonly bend: string;
  readonly pieces: readonly Line[];
}

/** The flat pattern: all regions of a sheet as one, in developed coordinates. */
export interface Blank {
  /** Usually one; a sheet that falls apart has more. Counter-clockwise. */
  readonly outlines: readonly Loop[];
  /** Clockwise. A round hole is two arcs about one centre. */
  readonly openings: readonly Loop[];
  /** Cuts of no width. */
  readonly slits: readonly Curve[];
  /** What is marked, and where something is formed: a cross in its middle, or its outline, as its step has it shown. */
  readonly marks: readonly Mark[];
  readonly centreLines: readonly BendLine[];
  readonly tangentLines: readonly BendLine[];
  /** Where metal would lie over metal. */
  readonly overlaps: readonly Region[];
  /**
   * Share of the two lines of each bend, and of what else carries a plate, that joins metal on both sides, of what could: an end that
   * reaches past its edge is not counted. In the order of `carriersOf(sheet)`.
   */
  readonly joined: readonly { readonly root: number; readonly leg: number }[];
  readonly bounds: Bounds;
  readonly width: number;
  readonly height: number;
  readonly area: number;
  readonly lengths: CutLengths;
}

/** How far the laser goes (mm): round the outlines, round the openings, along cuts of no width, and in all. */
export interface CutLengths {
  readonly outline: number;
  readonly openings: number;
  readonly slits: number;
  readonly cutting: number;
}

function cutLengths(
  outlines: readonly Loop[],
  openings: readonly Loop[],
  torn: readonly Curve[],
): CutLengths {
  const around = (loops: readonly Loop[]) => loops.reduce((sum, l) => sum + loopMeasures(l).length, 0);
  const [outline, inner] = [around(outlines), around(openings)];
  const slits = torn.reduce((sum, c) => sum + curveLength(c), 0);
  return { outline, openings: inner, slits, cutting: outline + inner + slits };
}

/** A line of a bend, or of what else carries a plate, along which a plate and a strip are one piece of metal. */
interface TangentLine {
  readonly carrier: number;
  readonly side: "root" | "leg";
  readonly origin: Point;
  readonly axis: Point;
  readonly width: number;
  readonly plate: Span[];
  readonly strip: Span[];
}

function tangentLinesOf(carrier: Carrier, index: number): [TangentLine, TangentLine] {
  const tangent = (side: "root" | "leg", { origin, axis, width }: SeamLine): TangentLine => ({
    ...{ carrier: index, side, origin, axis, width, plate: [], strip: [] },
  });
  const { parent, child } = seamsOf(carrier);
  return [tangent("root", parent), tangent("leg", child)];
}

/** The span of a line on a tangent, left to right; nothing when it does not lie on it. */
function spanOn(tangent: TangentLine, c: Curve): Span | undefined {
  if (c.kind !== "line") return undefined;
  // Asked for every line and tangent: written out, so that nothing is made on the way.
  const { origin: o, axis: d } = tangent;
  const [ax, ay] = [c.a.x - o.x, c.a.y - o.y];
  if (Math.abs(ay * d.x - ax * d.y) > SAME * 10) return undefined;
  const [bx, by] = [c.b.x - o.x, c.b.y - o.y];
  if (Math.abs(by * d.x - bx * d.y) > SAME * 10) return undefined;
  const sa = ax * d.x + ay * d.y;
  const sb = bx * d.x + by * d.y;
  const span: Span = [Math.max(0, Math.min(sa, sb)), Math.min(tangent.width, Math.max(sa, sb))];
  return span[1] - span[0] > SAME ? span : undefined;
}

/** What is left of a line when the joined spans of a tangent, which lie apart and in order, are taken out of it. */
function lineWithout(tangent: TangentLine, c: Line, spans: readonly Span[]): Line[] {
  const length = distance(c.a, c.b);
  const direction = { x: (c.b.x - c.a.x) / length, y: (c.b.y - c.a.y) / length };
  const forwards = dot(direction, tangent.axis) > 0;
  const s0 = dot(subtract(c.a, tangent.origin), tangent.axis);
  const place = (s: number) => (forwards ? s - s0 : s0 - s);
  const s1 = s0 + (forwards ? length : -length);
  const taken = spansAt(spans, [Math.min(s0, s1), Math.max(s0, s1)])
    .map(([p, q]): Span => [Math.min(place(p), place(q)), Math.max(place(p), place(q))])
    .filter(([p, q]) => q > SAME && p < length - SAME)
    .sort((p, q) => p[0] - q[0]);
  const out: Line[] = [];
  let from = 0;
  for (const [p, q] of [...taken, [length, length] as Span]) {
    if (p - from > SAME * 4)
      out.push(
        line(along(c.a, direction, from), along(c.a, direction, Math.min(p, length)), c.name, c.feature),
      );
    from = Math.max(from, q);
  }
  return out;
}

/** What a plate or strip gives to the blank: tangents by their places in its own list of them. */
interface Reading {
  readonly kept: readonly Curve[];
  readonly whole: readonly Loop[];
  readonly found: readonly { readonly at: number; readonly curve: Line }[];
  readonly spans: readonly { readonly at: number; readonly span: Span }[];
}

// From one build to the next most plates and bends are the very same; they are read once.
const readings = new Kept(
  readRegions,
  ({ carriers: before }, { carriers: now }) =>
    before.length === now.length && before.every((b, i) => b === now[i]),
);

interface Nearby {
  readonly near: readonly TangentLine[];
  readonly carriers: readonly Carrier[];
}

/** A tangent line and its place among those that are near. */
const placed = (near: readonly TangentLine[]) =>
  new Stretches(near.map(({ origin, axis, width }, at) => ({ origin, axis, width, at })));

function readRegions(regions: readonly Region[], { near }: Nearby): Reading {
  const kept: Curve[] = [];
  const whole: Loop[] = [];
  const found: { at: number; curve: Line }[] = [];
  const spans: { at: number; span: Span }[] = [];
  const tangentLines = placed(near);
  for (const loop of regions.flatMap(regionLoops)) {
    // Most openings stand clear of every bend: they are in the blank as they are.
    if (loop.every((c) => c.kind === "arc")) {
      whole.push(loop);
      continue;
    }
    for (const c of loop) {
      const hits: number[] = [];
      if (c.kind === "line")
        for (const { at } of tangentLines.reaching(c.a, c.b)) {
          const span = spanOn(near[at], c);
          if (!span) continue;
          hits.push(at);
          spans.push({ at, span });
        }
      if (hits.length === 0) kept.push(c);
      else {
        for (const curve of splitBetween(
          hits.map((at) => near[at]),
          c as Line,
        )) {
          const over = tangentLines.reaching(curve.a, curve.b).find(({ at }) => spanOn(near[at], curve));
          found.push({ curve, at: over?.at ?? hits[0] });
        }
      }
    }
  }
  return { kept, whole, found, spans };
}

/**
 * The blank of a sheet: regions joined along their bends' tangent lines, everything else left as cut. What of its
 * borders is as in a blank `before` is the same record.
 */
export function blankOf(sheet: Sheet, before?: Blank): Blank {
  const all = carriersOf(sheet);
  const tangents = all.map(tangentLinesOf);
  const ofPlate = new Map<string, TangentLine[]>(platesOf(sheet).map((p) => [p.id, []]));
  all.forEach((b, i) => {
    ofPlate.get(b.parent)!.push(tangents[i][0]);
    ofPlate.get(b.child)!.push(tangents[i][1]);
  });
  const found: { curve: Line; tangent: TangentLine }[] = [];
  const kept: Curve[] = [];
  const whole: Loop[] = [];
  const read = (regions: readonly Region[], near: readonly TangentLine[], as: "plate" | "strip") => {
    const carriers = near.map((s) => all[s.carrier]);
    const made = readings.of(regions, { near, carriers });
    kept.push(...made.kept);
    whole.push(...made.whole);
    for (const { at, span } of made.spans) near[at][as].push(span);
    for (const { at, curve } of made.found) found.push({ curve, tangent: near[at] });
  };
  for (const p of platesOf(sheet)) read(p.regions, ofPlate.get(p.id)!, "plate");
  all.forEach((b, i) => {
    read(b.regions, tangents[i], "strip");
  });
  joinAcrossNothing(sheet, tangents);
  const joined = new Map(tangents.flat().map((s) => [s, commonSpans(s.plate, s.strip)]));
  const apart = new Map([...joined].map(([s, spans]) => [s, joinSpans(spans, [])]));
  for (const { curve, tangent } of found) kept.push(...lineWithout(tangent, curve, apart.get(tangent)!));
  return finishBlank(
    sheet,
    loopsOf(kept, whole, before),
    tangents.map((pair) => pair.map((s) => share(s, all[s.carrier], joined.get(s)!))),
  );
}

/** Where a plate between two bends has no length, their strips meet each other directly. */
function joinAcrossNothing(sheet: Sheet, tangents: readonly (readonly [TangentLine, TangentLine])[]): void {
  const empty = new Set(
    platesOf(sheet)
      .filter((p) => p.regions.length === 0)
      .map((p) => p.id),
  );
  if (empty.size === 0) return;
  carriersOf(sheet).forEach((own, i) => {
    if (!empty.has(own.child)) return;
    carriersOf(sheet).forEach((next, j) => {
      if (next.parent !== own.child) return;
      const [leg, root] = [tangents[i][1], tangents[j][0]];
      const onto = (from: TangentLine, to: TangentLine) => {
        const shift = dot(subtract(from.origin, to.origin), to.axis);
        const way = dot(from.axis, to.axis) > 0 ? 1 : -1;
        to.plate.push(
          ...from.strip.map(([a, b]): Span => {
            const [p, q] = [shift + way * a, shift + way * b];
            return [Math.min(p, q), Math.max(p, q)];
          }),
        );
      };
      onto(leg, root);
      onto(root, leg);
    });
  });
}

function share(tangent: TangentLine, carrier: Carrier, joined: readonly Span[]): number {
  const { left, right } = carrier.overhang;
  const past = tangent.side === "root" ? left + right : 0;
  // A strip may be cut itself, by a relief or on purpose; it is whole when all that is left is joined.
  const could = spansLength(joinSpans(tangent.strip, [])) - past;
  return could <= SAME ? 0 : spansLength(joined) / could;
}

/** One plate edge may carry several bends that start on it: cut it so that each piece meets one tangent. */
function splitBetween(tangents: readonly TangentLine[], c: Line): Line[] {
  if (tangents.length === 1) return [c];
  const length = distance(c.a, c.b);
  const d = { x: (c.b.x - c.a.x) / length, y: (c.b.y - c.a.y) / length };
  const cuts = tangents
    .flatMap((s) => [s.origin, along(s.origin, s.axis, s.width)])
    .map((p) => dot(subtract(p, c.a), d))
    .filter((f) => f > SAME && f < length - SAME)
    .sort((p, q) => p - q);
  const stops = [0, ...cuts, length];
  const out: Line[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    if (stops[i + 1] - stops[i] > SAME)
      out.push(line(along(c.a, d, stops[i]), along(c.a, d, stops[i + 1]), c.name, c.feature));
  }
  return out;
}

/** The borders of a blank, and what of them runs out and back: cuts of no width. */
function loopsOf(
  curves: readonly Curve[],
  whole: readonly Loop[],
  before: Blank | undefined,
): { loops: readonly Loop[]; torn: readonly Curve[] } {
  const chains = stitchLoops(curves).loops.map(withoutSpikes);
  const made = chains.flatMap(({ loop }) => (loop.length > 1 ? [welded(simplifyLoop(loop))] : []));
  const known = before ? [...before.outlines, ...before.openings.filter((l) => l.length > 2)] : [];
  return { loops: [...whole, ...asBefore(made, known)], torn: chains.flatMap(({ slits }) => slits) };
}

function finishBlank(
  sheet: Sheet,
  { loops, torn }: { readonly loops: readonly Loop[]; readonly torn: readonly Curve[] },
  shares: readonly (readonly number[])[],
): Blank {
  const strokes = sheet.pieces.map((p) => kindOf(p).strokes(p));
  const slits: Curve[] = [...sheet.slits, ...strokes.flatMap((s) => s.slits), ...torn];
  const outlines = loops.filter((l) => loopMeasures(l).area > SAME);
  const openings = loops.filter((l) => loopMeasures(l).area < -SAME);
  const bounds = loopsBounds(outlines);
  return {
    outlines,
    openings,
    slits,
    marks: strokes.flatMap(({ marks }) => marks),
    centreLines: bendsOf(sheet).map((b) => ownLines.of(b).centre),
    tangentLines: bendsOf(sheet).map((b) => ownLines.of(b).tangent),
    overlaps: findOverlaps(sheet),
    joined: shares.map(([root, leg]) => ({ root, leg })),
    bounds,
    width: Math.max(0, bounds.maxX - bounds.minX),
    height: Math.max(0, bounds.maxY - bounds.minY),
    area: loops.reduce((sum, l) => sum + loopMeasures(l).area, 0),
    lengths: cutLengths(outlines, openings, slits),
  };
}

/** Of a bend that is the very same as before its lines are too. */
const ownLines = new Kept((bend: Bend) => ({
  centre: linesAcross(bend, [0.5]),
  tangent: linesAcross(bend, [0, 1]),
}));

/** Lines along a bend at shares of its allowance, only where its strip has metal. */
function linesAcross(bend: Bend, shares: readonly number[]): BendLine {
  const pieces: Line[] = [];
  for (const f of shares) {
    // Tangent lines are looked at a hair inside the strip, where its own border does not blur the answer.
    const probe = bend.allowance * Math.min(1 - 1e-6, Math.max(1e-6, f));
    const at = along(bend.origin, bend.out, bend.allowance * f);
    const loops = bend.regions.flatMap(regionLoops);
    for (const [p, q] of spansInside(loops, along(bend.origin, bend.out, probe), bend.axis)) {
      pieces.push(line(along(at, bend.axis, p), along(at, bend.axis, q)));
    }
  }
  return { bend: bend.id, pieces };
}

interface Borders {
  readonly curves: NearCurves<{ readonly curve: Curve; readonly box: Bounds }>;
  readonly seen: Map<Bend, boolean>;
}

/** The borders of a plate's metal. */
const borders = new Kept((regions: readonly Region[]): Borders => {
  const loops = regions.flatMap(regionLoops);
  const curves = loops.flatMap((loop) => loop.map((curve) => ({ curve, box: curveBounds(curve) })));
  return { curves: new NearCurves(curves), seen: new Map<Bend, boolean>() };
});

/** Whether metal of one of its plates lies on a bend's strip, as when something was added over the bend. */
function liesOver(bend: Bend, regions: readonly Region[]): boolean {
  const { curves, seen } = borders.of(regions);
  const before = seen.get(bend);
  if (before !== undefined) return before;
  // The strip a hair smaller all round: where it touches its notch nothing lies over it.
  const hair = Math.min(2e-4, bend.allowance / 10, bend.width / 10);
  const at = (s: number, out: number) => along(along(bend.origin, bend.axis, s), bend.out, out);
  const [left, right, far] = [hair, bend.width - hair, bend.allowance - hair];
  const strip = polygonLoop([at(left, hair), at(right, hair), at(right, far), at(left, far)]);
  const box = curvesBounds(strip);
  // Metal lies there where a border of it does, or where all of the strip is in metal, so its middle too.
  const over =
    curves
      .near(box)
      .some(
        ({ curve }) =>
          insideLoop(strip, curve.a) || strip.some((side) => intersectCurves(side, curve).length > 0),
      ) || curves.covers(at(bend.width / 2, bend.allowance / 2), ({ curve }) => curve);
  seen.set(bend, over);
  return over;
}

/**
 * Regions that could lie over each other are found by their boxes. A strip stands in the notch that
 * was cut for it, so its own plates are looked at closer before they count.
 */
function findOverlaps(sheet: Sheet): Region[] {
  const carriers = new Map(carriersOf(sheet).map((c) => [c.id, c]));
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const parts = [
    ...platesOf(sheet).flatMap((p) => p.regions.map((region) => ({ region, plate: p.id, carrier: "" }))),
    ...carriersOf(sheet).flatMap((c) => c.regions.map((region) => ({ region, plate: "", carrier: c.id }))),
  ];
  const kin = (i: number, j: number) => {
    const [p, q] = [parts[i], parts[j]];
    if ((p.carrier === "") === (q.carrier === "")) return false;
    const [own, plate] = p.carrier ? [p.carrier, q.plate] : [q.carrier, p.plate];
    const carrier = carriers.get(own)!;
    if (plate !== carrier.child && plate !== carrier.parent) return false;
    return carrier.kind !== "bend" || !liesOver(carrier, plates.get(plate)!.regions);
  };
  const placed = parts.map(({ region }, i) => ({ i, box: regionBounds(region) }));
  const beside = new NearCurves(placed);
  const over = new Set<number>();
  const slack = SAME * 10;
  for (const { i, box } of placed)
    beside.some(box, ({ i: j, box: b }) => {
      const apart =
        b.maxX <= box.minX + slack ||
        b.minX >= box.maxX - slack ||
        b.maxY <= box.minY + slack ||
        b.minY >= box.maxY - slack;
      if (j > i && !apart && !kin(i, j)) over.add(i).add(j);
      return false;
    });
  // Round holes stay in only where they stand free, so leaving them out can at most report metal over a hole.
  const loops = [...over]
    .map((i) => parts[i].region)
    .flatMap(({ outer, holes }) => [outer, ...holes.filter((h) => !asCircle(h))]);
  return loops.length === 0 ? [] : overlapOf(loops);
}
