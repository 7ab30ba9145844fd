import { bendAllowance } from "../../bend/allowance.ts";
import { intersectLoops } from "../../plane/boolean.ts";
import type { Curve } from "../../plane/curve.ts";
import { translation } from "../../plane/isometry.ts";
import { type Loop, loopFromFrame, polygonLoop, rectangleLoop } from "../../plane/loop.ts";
import {
  along,
  dot,
  type Frame,
  type Point,
  point,
  SAME,
  samePoint,
  scale,
  subtract,
} from "../../plane/point.ts";
import { regionArea, regionLoops } from "../../plane/region.ts";
import { type Span, spansInside } from "../../plane/span.ts";
import { mm } from "../../units/spoken-length.ts";
import { attempt, moveSubtree, type OpenDraft, type Refusal } from "../draft.ts";
import type { DraftPlate } from "../draft-pieces.ts";
import { type Band, type Division, dividePlate } from "../shaping/divide.ts";
import { shapeMetal } from "../shaping/metal.ts";
import type { Metal } from "../shaping/metal-op.ts";
import { refreshEdges } from "../shaping/refresh-edges.ts";
import { type FoldLine, foldBend, leftOf, type PartNames } from "./grow-fold.ts";
import type { BendSpec } from "./spec.ts";

/** Two equal and opposite bends across a plate. `id` is the plate beyond, `middleId` the one between. */
export interface JogSpec {
  readonly id: string;
  readonly middleId: string;
  readonly step: string;
  readonly line: FoldLine;
  readonly first: BendSpec;
  readonly second: BendSpec;
  /** Straight leg between the bends. */
  readonly middle: number;
  /** Whether the folded part stays as long as it was, and the blank grows, or the other way round. */
  readonly keep: "folded" | "blank";
}

/** Puts a jog into a plate along a line; what is beyond the line moves. */
export const growJog = (draft: OpenDraft, spec: JogSpec, names: PartNames): Refusal | undefined =>
  attempt(draft, () => jog(draft, spec, names));

function jog(draft: OpenDraft, spec: JogSpec, names: PartNames): Refusal | undefined {
  const { line, first, second, middle, keep } = spec;
  const plate = draft.pieces.plate(line.plate)!;
  const [b1, b2] = [first, second].map((b) =>
    bendAllowance({ t: draft.t, r: b.radius, angle: b.angle }, b.k),
  );
  const total = b1 + middle + b2;
  const run =
    (first.radius + second.radius + draft.t) * Math.sin(first.angle) + middle * Math.cos(first.angle);
  // A jog that leans back ends behind its own line: the plate beyond it goes on over what it has passed.
  const sliver = keep === "folded" && run < SLIVER ? SLIVER : 0;
  const behind = sliver > 0 ? sliver - run : 0;
  const taken = keep === "blank" ? total : Math.max(run, sliver);
  const band: Band = {
    origin: line.origin,
    axis: line.axis,
    width: taken,
    ...(line.limit ? { limit: line.limit } : {}),
  };
  const names1 = { letter: names.letterOf(line.plate), numberOf: names.numberOf, band: "jog" };
  const division = dividePlate(draft, line.plate, band, spec, names1);
  if ("message" in division) return division;
  const turned = division.turned;
  const length = total + behind;
  const pieces =
    keep === "blank" ? division.strip : stretched(division, length, spec.step, names.letterOf(line.plate));
  if ("message" in pieces) return pieces;
  const out = leftOf(division.band.axis);
  if (keep === "folded" && Math.abs(total - run) > SAME)
    moveSubtree(draft, spec.id, translation(scale(out, total - run)));
  if (behind > 0) goOnBehind(draft, spec, division, pieces, total, length);
  // Seen from the other side the jog's second bend comes first.
  const [near, far] = turned ? [second, first] : [first, second];
  const [nearBa, farBa] = turned ? [b2, b1] : [b1, b2];
  const slice = (from: number, to: number): Metal => sliced(pieces, division, from, to, length, spec.step);
  const { step, id, middleId } = spec;
  draft.pieces.put(
    foldBend({ ...near, id: middleId, step }, plate.id, middleId, division, 0, nearBa, slice(0, nearBa)),
  );
  draft.pieces.put(middlePlate(plate, spec, division, nearBa, slice(nearBa, nearBa + middle)));
  draft.pieces.put(
    foldBend(
      { ...far, id, step },
      middleId,
      id,
      division,
      nearBa + middle,
      farBa,
      slice(nearBa + middle, total),
    ),
  );
  return undefined;
}

/** So much of a plate (mm) gives a jog that leans back its cross section. */
const SLIVER = 1e-3;

/** Gives the plate beyond a jog the metal with which it reaches back to where the jog ends, its sides led on. */
function goOnBehind(
  draft: OpenDraft,
  spec: JogSpec,
  division: Division,
  pieces: Metal,
  from: number,
  to: number,
): void {
  const plate = draft.pieces.plate(spec.id)!;
  const own = shapeMetal(plate.metal).regions.flatMap(regionLoops).flat();
  const { origin, axis } = division.band;
  const depth = (p: Point) => dot(subtract(p, origin), leftOf(axis));
  const near = (p: Point, q: Point) => samePoint(p, q, SAME * 100);
  const along = (c: Curve) => Math.abs(depth(c.a) - depth(c.b)) < SAME;
  const named = (c: Curve): Curve => {
    if (along(c)) return c;
    const end = depth(c.a) > depth(c.b) ? c.a : c.b;
    // Of the two borders that meet there one is the line of the band itself; the other is the plate's side.
    const side = own.find((o) => o.kind === "line" && !along(o) && (near(o.a, end) || near(o.b, end)));
    return side ? { ...c, name: side.name } : c;
  };
  const cut = sliced(pieces, division, from, to, to, spec.step);
  const loops = shapeMetal(cut).regions.flatMap((r) => [r.outer.map(named)]);
  draft.pieces.put({ ...plate, metal: [...plate.metal, { kind: "add", step: spec.step, loops }] });
  refreshEdges(draft, spec.id);
}

/** The straight leg between a jog's bends; with nothing between them it has no metal. */
function middlePlate(
  plate: DraftPlate,
  spec: JogSpec,
  division: Division,
  depth: number,
  metal: Metal,
): DraftPlate {
  const { band, from, to } = division;
  const origin = along(along(band.origin, band.axis, (from + to) / 2), leftOf(band.axis), depth);
  return {
    ...plate,
    id: spec.middleId,
    step: spec.step,
    frame: { origin, x: band.axis },
    edges: [],
    metal: spec.middle > SAME ? metal : [],
  };
}

/** Of a band's metal what lies between two depths. */
function sliced(
  metal: Metal,
  { band }: Division,
  from: number,
  to: number,
  total: number,
  step: string,
): Metal {
  const frame: Frame = { origin: band.origin, x: band.axis };
  const reach = 1e5;
  const cuts: Loop[] = [];
  if (from > SAME) cuts.push(loopFromFrame(frame, rectangleLoop(-reach, -reach, reach, from)));
  if (to < total - SAME) cuts.push(loopFromFrame(frame, rectangleLoop(-reach, to, reach, reach)));
  return cuts.length > 0 ? [...metal, { kind: "cut", step, loops: cuts }] : metal;
}

/**
 * The metal that a jog needs when the folded length stays: the plate's sides, led on in straight
 * lines from the one tangent line to the other. Only plain sides can be led on.
 */
function stretched(division: Division, total: number, step: string, letter: string): Metal | Refusal {
  const { band } = division;
  const strip = shapeMetal(division.strip).regions;
  const loops = strip.flatMap(regionLoops);
  const out = leftOf(band.axis);
  const frame: Frame = { origin: band.origin, x: band.axis };
  const spansAt = (depth: number): Span[] =>
    spansInside(loops, along(band.origin, out, depth), scale(band.axis, -1))
      .map(([a, b]): Span => [-b, -a])
      .sort((p, q) => p[0] - q[0]);
  const near = spansAt(0);
  const far = spansInside(loops, along(band.origin, out, band.width), band.axis).sort((p, q) => p[0] - q[0]);
  const quads = near.map((s, i) => {
    const e = far[i] ?? s;
    return [point(s[0], 0), point(s[1], 0), point(e[1], band.width), point(e[0], band.width)];
  });
  const straight = quads.map((q) => loopFromFrame(frame, polygonLoop(q)));
  const area = strip.reduce((sum, r) => sum + regionArea(r), 0);
  const common = intersectLoops(loops, straight).reduce((sum, r) => sum + regionArea(r), 0);
  const plain = near.length === far.length && Math.abs(area - common) < 1e-6 * Math.max(1, area);
  if (!plain)
    return {
      field: "keep",
      message: `Over the ${mm(band.width)} that the jog takes, plate ${letter} has a hole, a notch or a round side, which cannot be drawn out. Keep the blank instead, or move the jog.`,
    };
  const longer = quads.map((q) =>
    loopFromFrame(frame, polygonLoop([q[0], q[1], point(q[2].x, total), point(q[3].x, total)])),
  );
  return [{ kind: "add", step, loops: longer }];
}
