import { bendAllowance } from "../../bend/allowance.ts";
import { longestLip } from "../../bend/hem.ts";
import { line } from "../../plane/curve.ts";
import { moveCurve, translation } from "../../plane/isometry.ts";
import { type Loop, loopFromFrame, loopsBounds, polygonLoop, rectangleLoop } from "../../plane/loop.ts";
import { along, type Frame, fromFrame, hypotenuse, point, SAME, samePoint } from "../../plane/point.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { type OpenDraft, type Refusal, slit, workMetal } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import { edgeFrame, edgeLength, edgesFromLoop } from "../edges.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";
import { roleTitle } from "../role-title.ts";
import { metalSpans } from "../shaping/metal.ts";
import type { Metal, MetalOp } from "../shaping/metal-op.ts";
import { trimBend } from "../shaping/trim.ts";
import { holeOps } from "./grow-plate.ts";
import { inward, reliefLoop } from "./relief-loop.ts";
import {
  askedSpan,
  type End,
  edgeTitle,
  findSite,
  leastWidth,
  metalBeside,
  metalBesideStrip,
  type Site,
  stripsBeside,
} from "./site.ts";
import { type FlangeSpec, type LegShape, sizeOf } from "./spec.ts";

export type LetterOf = (plate: string) => string;

/**
 * Grows a flange from an edge: takes the bend's share off the plate, shortens flanges that meet it
 * at a corner, cuts its reliefs, and adds its strip and leg. On a refusal the draft is as it was.
 * `tellBeside` is told at which ends of the bend metal stands that a relief parts from it.
 */
export function growFlange(
  draft: OpenDraft,
  asked: FlangeSpec,
  letterOf: LetterOf,
  tellBeside?: (ends: readonly End[]) => void,
): Refusal | undefined {
  const spec = onItsFoot(draft, asked);
  const plate = draft.pieces.plate(spec.edge.plate);
  const letter = letterOf(spec.edge.plate);
  const edge = plate?.edges.find((e) => e.role === spec.edge.role);
  if (!plate || !edge)
    return { field: "edges", message: `Plate ${letter} has no edge called ${roleTitle(spec.edge.role)}.` };
  const longest = longestLip(spec.radius, spec.angle);
  if (spec.leg > longest + 1e-6) {
    const most = Math.floor(longest * 1000) / 1000;
    const message = `At ${formatShort(toDegrees(spec.angle))}° and radius ${formatShort(spec.radius)} its straight leg of ${mm(spec.leg)} would run through its own plate ${letter}: it can be at most ${mm(most)}. Make it shorter, or the angle smaller.`;
    return { field: "length", message };
  }
  const site = findSite(draft, plate, edge, spec.setback, spec.width, letter);
  if ("message" in site) return site;
  const lost = cornersLost(draft, site);
  const crowded = lost.find((l) => l.bend.width - l.left - l.right < leastWidth(draft));
  if (crowded) {
    const other = edgeTitle(letterOf(plate.id), {
      ...edge,
      role: crowded.bend.grownOn?.role ?? "",
    });
    const message = `On edge ${edgeTitle(letter, edge)} it would leave no width for the flange on edge ${other}. Inset it at that corner, or make its radius smaller.`;
    return { field: "edges", message };
  }
  cutBand(draft, site, spec);
  for (const { bend, left, right } of lost) {
    trimBend(draft, bend.id, "left", left, spec.step);
    trimBend(draft, bend.id, "right", right, spec.step);
  }
  const allowance = bendAllowance({ t: draft.t, r: spec.radius, angle: spec.angle }, spec.k);
  const beside = (["left", "right"] as const).filter(
    (end) => metalBeside(draft, site, end) || metalBesideStrip(site, end, allowance),
  );
  tellBeside?.(beside);
  for (const end of beside) cutRelief(draft, site, end, spec, allowance);
  const bend = makeBend(site, spec, beside, allowance);
  draft.pieces.put(bend);
  addLeg(draft, bend, spec, letterOf(spec.id));
  return undefined;
}

/**
 * A flange whose leg stands on less than its width is only as wide as that: its bend turns the metal
 * that the leg stands on and no other. The leg keeps its place.
 */
function onItsFoot(draft: OpenDraft, spec: FlangeSpec): FlangeSpec {
  const edge = draft.pieces.plate(spec.edge.plate)?.edges.find((e) => e.role === spec.edge.role);
  if (!edge || !spec.shape) return spec;
  const { from, to } = askedSpan(spec.width, edgeLength(edge));
  const middle = (from + to) / 2;
  const foot = footOf(spec.shape, to - from, spec.leg);
  if (!foot) return spec;
  const [start, end] = [Math.max(from, middle + foot.from), Math.min(to, middle + foot.to)];
  if (start <= from + SAME && end >= to - SAME) return spec;
  const width = { by: "width", width: end - start, at: "left", offset: start } as const;
  const shift = middle - (start + end) / 2;
  const { shape } = spec;
  const holes = spec.holes.map((h) => ({ ...h, x: h.x + shift }));
  if (shape.by !== "outline") return { ...spec, width, holes, shape: { by: "rectangle" } };
  const loop = shape.loop.map((c) => moveCurve(translation(point(shift, 0)), c));
  return { ...spec, width, holes, shape: { by: "outline", loop } };
}

/** From where to where a leg stands on its bend, from the middle of its width; nothing when that is all of it. */
function footOf(shape: LegShape, width: number, leg: number): { from: number; to: number } | undefined {
  if (shape.by === "outline") {
    const base = shape.loop.filter((c) => Math.abs(c.a.y) < 1e-6 && Math.abs(c.b.y) < 1e-6);
    const places = base.flatMap((c) => [c.a.x, c.b.x]);
    return places.length > 0 ? { from: Math.min(...places), to: Math.max(...places) } : undefined;
  }
  if (shape.by === "step" && shape.height <= SAME && leg > SAME)
    return { from: -width / 2 + shape.left, to: width / 2 - shape.right };
  return undefined;
}

interface CornerLoss {
  readonly bend: DraftBend;
  readonly left: number;
  readonly right: number;
}

/** What the band in front of a new bend takes off the tangent lines of flanges around its two corners. */
function cornersLost(draft: OpenDraft, site: Site): CornerLoss[] {
  const { plate, edge, setback } = site;
  if (setback <= SAME) return [];
  const atCorner = (other: EdgeSite) =>
    samePoint(other.right, edge.left, 1e-6) || samePoint(other.left, edge.right, 1e-6);
  // Most bends of a plate stand beside one another on this very edge.
  const around = new Set(plate.edges.flatMap((e) => (e !== edge && atCorner(e) ? [e.role] : [])));
  const band: MetalOp = { kind: "cut", step: "", loops: [bandLoop(site)] };
  const out: CornerLoss[] = [];
  for (const bend of draft.pieces.inOrder(
    [...around].flatMap((role) => draft.pieces.onEdge(plate.id, role).carriers),
  )) {
    if (bend.kind !== "bend") continue;
    const [before, after] = [plate.metal, [...plate.metal, band]].map((metal) => {
      const spans = metalSpans(metal, bend.origin, bend.axis, [-1, bend.width + 1]).filter(
        ([a, b]) => b > SAME && a < bend.width - SAME,
      );
      return spans.length === 0
        ? [bend.width, bend.width]
        : [Math.max(0, spans[0][0]), Math.max(0, bend.width - spans[spans.length - 1][1])];
    });
    const loss = { bend, left: after[0] - before[0], right: after[1] - before[1] };
    if (loss.left > SAME || loss.right > SAME) out.push(loss);
  }
  return out;
}

/** What a bend takes off the plate before its first tangent line; at a shared corner, the corner too. */
function bandLoop(site: Site): Loop {
  const from = Math.min(site.asked.from, site.from);
  const to = Math.max(site.asked.to, site.to);
  return inward(edgeFrame(site.edge), [
    [from, site.setback],
    [to, site.setback],
    [to, 0],
    [from, 0],
  ]);
}

function cutBand(draft: OpenDraft, site: Site, { step, id: bend }: FlangeSpec): void {
  const { setback, from, to, plate } = site;
  if (setback > SAME)
    workMetal(draft, { plate: plate.id }, { kind: "cut", step, bend, loops: [bandLoop(site)] });
  if (setback < -SAME) {
    const tab = inward(edgeFrame(site.edge), [
      [from, 0],
      [to, 0],
      [to, setback],
      [from, setback],
    ]);
    // What has been cut from the plate so far is cut from its lengthening too.
    const now = draft.pieces.plate(plate.id)!;
    const first = now.metal.findIndex((op) => op.kind === "cut");
    const at = first < 0 ? now.metal.length : first;
    const metal: Metal = [
      ...now.metal.slice(0, at),
      { kind: "add", step, bend, loops: [tab] },
      ...now.metal.slice(at),
    ];
    draft.pieces.put({ ...now, metal });
  }
}

function cutRelief(draft: OpenDraft, site: Site, end: End, spec: FlangeSpec, allowance: number): void {
  const { step, id: bend } = spec;
  const relief = spec.reliefs[end];
  if (relief.shape === "none") return;
  const frame = edgeFrame(site.edge);
  const at = end === "left" ? site.from : site.to;
  const { setback, plate } = site;
  if (relief.shape === "torn") {
    if (relief.depth <= SAME) return;
    const [a, b] = [setback, setback + relief.depth].map((d) => fromFrame(frame, point(at, -d)));
    slit(draft, [{ owner: plate.id, step, line: line(a, b, "slit") }]);
    return;
  }
  // Where the plate goes on beside the strip, the notch goes along with it to its far end.
  const open = metalBesideStrip(site, end, allowance) ? Math.max(0, allowance - setback) : 0;
  const loop = reliefLoop(relief, frame, at, end, { setback, open });
  const op: MetalOp = { kind: "cut", step, bend, relief: end, loops: [loop] };
  for (const strip of stripsBeside(draft, site, end)) workMetal(draft, { carrier: strip.id }, op);
  workMetal(draft, { plate: plate.id }, op);
}

function makeBend(site: Site, spec: FlangeSpec, beside: readonly End[], allowance: number): DraftBend {
  const { id, step, up, angle, radius, k, kSource } = spec;
  const frame = edgeFrame(site.edge);
  const origin = fromFrame(frame, point(site.from, -site.setback));
  const width = site.to - site.from;
  const strip = rectangleLoop(0, 0, width, allowance, ["", "right", "", "left"]);
  const length = edgeLength(site.edge);
  return {
    kind: "bend",
    id,
    step,
    parent: site.plate.id,
    child: id,
    origin,
    axis: frame.x,
    out: point(-frame.x.y, frame.x.x),
    width,
    allowance,
    angle,
    radius,
    k,
    kSource,
    up,
    overhang: { left: Math.max(0, -site.from), right: Math.max(0, site.to - length) },
    metal: [{ kind: "add", step, loops: [loopFromFrame({ origin, x: frame.x }, strip)] }],
    unrelieved: beside.filter((end) => spec.reliefs[end].shape === "none"),
    reliefs: beside.flatMap((end) => {
      const relief = spec.reliefs[end];
      return relief.shape === "none" ? [] : [{ end, side: "parent" as const, ...sizeOf(relief) }];
    }),
    grownOn: { role: site.edge.role, from: site.from, to: site.to, setback: site.setback },
  };
}

function addLeg(draft: OpenDraft, bend: DraftBend, spec: FlangeSpec, letter: string): void {
  const { id, step } = spec;
  const middle = along(along(bend.origin, bend.axis, bend.width / 2), bend.out, bend.allowance);
  const frame: Frame = { origin: middle, x: bend.axis };
  const outline = loopFromFrame(frame, legLoop(bend.width, spec.leg, spec.shape ?? { by: "rectangle" }));
  const drawn = spec.shape?.by === "outline";
  const own: MetalOp[] = spec.leg > SAME || drawn ? [{ kind: "add", step, loops: [outline] }] : [];
  draft.pieces.put({
    kind: "plate",
    id,
    step,
    frame,
    edges: edgesFromLoop(outline),
    metal: [
      ...own,
      ...holeOps(spec.holes, { ...{ owner: id, plate: id, frame, step, letter }, lift: spec.holeBase }),
    ],
  });
}

/** A leg's outline, x from the middle of its bend, y from the second tangent line. */
export function legLoop(width: number, leg: number, shape: LegShape): Loop {
  if (shape.by === "outline") return shape.loop;
  const half = width / 2;
  // A neighbour at the corner may have left less width than the shape was made for: then it is plain.
  const end =
    shape.by === "angles"
      ? width - (Math.tan(shape.left) + Math.tan(shape.right)) * leg
      : shape.by === "step"
        ? width - shape.left - shape.right
        : width;
  if (end <= SAME) return legLoop(width, leg, { by: "rectangle" });
  if (shape.by === "step" && shape.height > SAME && shape.height < leg - SAME) {
    const [l, r] = [-half + shape.left, half - shape.right];
    const points = [point(-half, 0), point(half, 0), point(half, shape.height)];
    const names: (string | undefined)[] = [undefined, "right"];
    if (Math.abs(shape.right) > SAME) {
      points.push(point(r, shape.height));
      names.push("rightstep", "righttop");
    }
    points.push(point(r, leg), point(l, leg));
    names.push("end");
    if (Math.abs(shape.left) > SAME) {
      points.push(point(l, shape.height), point(-half, shape.height));
      names.push("lefttop", "leftstep", "left");
    } else names.push("left");
    return polygonLoop(points, names).filter((c) => !samePoint(c.a, c.b));
  }
  const lean = (angle: number) => (shape.by === "angles" ? Math.tan(angle) * leg : 0);
  const [left, right] = shape.by === "angles" ? [lean(shape.left), lean(shape.right)] : [0, 0];
  const corners = [point(-half, 0), point(half, 0), point(half - right, leg), point(-half + left, leg)];
  return polygonLoop(corners, [undefined, "right", "end", "left"]).filter((c) => !samePoint(c.a, c.b));
}

/** How far a flange reaches out from its bend at most: a bound for cuts across it. */
export const reachOf = (draft: OpenDraft, bend: DraftBend): number => {
  const plate = draft.pieces.plate(bend.child)!;
  const loops = plate.metal.flatMap((op) => op.loops);
  if (loops.length === 0) return bend.allowance;
  const b = loopsBounds(loops);
  return hypotenuse(b.maxX - b.minX, b.maxY - b.minY) + bend.allowance;
};
