import { cross, dot, fromFrame, type Point, point, SAME, subtract } from "../../plane/point.ts";
import { commonSpans, type Span } from "../../plane/span.ts";
import { mm } from "../../units/spoken-length.ts";
import { carrierTo, type OpenDraft, type Refusal } from "../draft.ts";
import type { DraftCarrier, DraftPlate } from "../draft-pieces.ts";
import { freeBeside, onStretch } from "../edge-row.ts";
import { edgeFrame, edgeLength } from "../edges.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";
import { roleTitle } from "../role-title.ts";
import { hasMetal, metalSpans } from "../shaping/metal.ts";
import type { WidthSpec } from "./spec.ts";

export type End = "left" | "right";

/** Where along an edge something is grown, in millimetres from the edge's left end. */
export interface Site {
  readonly plate: DraftPlate;
  readonly edge: EdgeSite;
  /** How far behind the edge it begins; negative is beyond it. */
  readonly setback: number;
  /** What was asked for, before the metal that is there was looked at. */
  readonly asked: { readonly from: number; readonly to: number };
  readonly from: number;
  readonly to: number;
  /** Metal along the line where it begins, and a little past both ends of what was asked for. */
  readonly spans: readonly Span[];
}

export const edgeTitle = (letter: string, edge: EdgeSite) => `${letter} ${roleTitle(edge.role)}`;

/** From where to where a width reaches along an edge of a length. */
export function askedSpan(width: WidthSpec, length: number): { from: number; to: number } {
  if (width.by === "whole") return { from: 0, to: length };
  if (width.by === "inset") return { from: width.left, to: length - width.right };
  const slack = length - width.width;
  const start = { left: 0, centre: slack / 2, right: slack }[width.at];
  const from = start + (width.at === "right" ? -width.offset : width.offset);
  return { from, to: from + width.width };
}

/** How far past the ends of a bend its site looks for metal that must be relieved (mm). */
const BESIDE = 1;

/** Finds the place on an edge for a bend that begins `setback` behind it, or says why there is none. */
export function findSite(
  draft: OpenDraft,
  plate: DraftPlate,
  edge: EdgeSite,
  setback: number,
  width: WidthSpec,
  letter: string,
): Site | Refusal {
  const length = edgeLength(edge);
  const asked = askedSpan(width, length);
  const field = width.by === "inset" ? "leftInset" : width.by === "width" ? "width" : "edges";
  const title = edgeTitle(letter, edge);
  if (asked.to - asked.from <= SAME) {
    const message = `Nothing of edge ${title} is left between the insets: it is ${mm(length)} long, so together they must stay below that.`;
    return { field, message };
  }
  if (width.by === "width" && (asked.from < -SAME || asked.to > length + SAME)) {
    const message = `It would reach from ${mm(asked.from)} to ${mm(asked.to)} along edge ${title}, which runs from 0 to ${mm(length)}. Make it narrower or move it.`;
    return { field, message };
  }
  const frame = edgeFrame(edge);
  // A hole does not end a bend: one that reaches into it is a finding of its own.
  const spans = metalSpans(
    plate.metal,
    fromFrame(frame, point(0, -Math.max(0, setback))),
    frame.x,
    [asked.from - BESIDE, asked.to + BESIDE],
    (op) => op.kind === "add" || op.title === undefined || op.notch === true,
  );
  const met = commonSpans(spans, [[asked.from, asked.to]]);
  const short = shortOfPlate(draft, plate, edge, setback, asked, letter);
  if (short) return { field: "place", message: short };
  if (met.length === 0) {
    const message = `The flanges beside it leave no width on edge ${title}. Inset them or make their radius smaller.`;
    return { field, message };
  }
  // Past the edge's own end a negative inset reaches over nothing; elsewhere a bend needs metal.
  const from = met[0][0] + Math.min(0, asked.from);
  const to = met[met.length - 1][1] + Math.max(0, asked.to - length);
  if (to - from < leastWidth(draft)) {
    const message = `Only ${mm(to - from)} of edge ${title} would be bent; less than half the thickness cannot be. Make it at least ${mm(leastWidth(draft))} wide.`;
    return { field, message };
  }
  const clash = takenBy(draft, plate, edge, from, to);
  if (clash) {
    const message = `Edge ${title} is taken from ${mm(clash.from)} to ${mm(clash.to)} by another flange; this one would run from ${mm(from)} to ${mm(to)}. Give it a width that fits beside it.`;
    return { field, message };
  }
  return { plate, edge, setback, asked, from, to, spans };
}

/** A bend narrower than half the thickness has no metal to turn. */
export const leastWidth = (draft: OpenDraft): number => draft.t / 2;

/** Whether the plate reaches as far behind an edge as a bend needs, up to the bend on its other side. */
function shortOfPlate(
  draft: OpenDraft,
  plate: DraftPlate,
  edge: EdgeSite,
  setback: number,
  asked: { from: number; to: number },
  letter: string,
): string | undefined {
  if (setback <= 0) return undefined;
  const frame = edgeFrame(edge);
  const inward = { x: -edge.out.x, y: -edge.out.y };
  const middle = fromFrame(frame, point((asked.from + asked.to) / 2, 0));
  let room = depthBehind(plate, middle, inward, setback + SAME);
  // Those on the same edge go the same way, and of a row on another mostly none comes near.
  const near = draft.pieces
    .onOtherEdges(plate.id, edge.role)
    .filter(({ carriers: [b], innermost }) => innermost - dot(middle, b.out) <= setback + SAME)
    .flatMap((row) => row.carriers);
  for (const b of [...draft.pieces.foldsFrom(plate.id), ...near]) {
    if (Math.abs(cross(b.axis, frame.x)) > 1e-9 || dot(b.out, edge.out) > 0) continue;
    const s = dot(subtract(b.origin, frame.origin), frame.x);
    const overlaps = s > asked.from + SAME && s - b.width < asked.to - SAME;
    if (overlaps) room = Math.min(room, dot(subtract(b.origin, middle), inward));
  }
  if (setback < room - SAME) return undefined;
  return `The bend needs ${mm(setback)} of plate ${letter} behind edge ${edgeTitle(letter, edge)}, but only ${mm(room)} is there. Let the bend start at the edge, or make the radius smaller.`;
}

/** How far a plate reaches from a place in a direction; no more is looked for than is enough. */
function depthBehind({ metal }: DraftPlate, from: Point, inward: Point, enough: number): number {
  if (metal.length === 0) return Number.POSITIVE_INFINITY;
  let room = 0;
  for (const op of metal) {
    if (op.kind !== "add") continue;
    for (const c of op.loops.flat()) room = Math.max(room, dot(subtract(c.a, from), inward));
    if (room > enough) break;
  }
  return room;
}

/** The flange that takes a stretch of an edge already. */
export const takenBy = (
  draft: OpenDraft,
  plate: DraftPlate,
  edge: Pick<EdgeSite, "role">,
  from: number,
  to: number,
) =>
  draft.pieces.inOrder(onStretch(draft.pieces.onEdge(plate.id, edge.role), from + SAME, to - SAME))[0]
    ?.grownOn;

/** Whether metal stands beside an end of a bend and must be relieved. */
export function metalBeside(draft: OpenDraft, site: Site, end: End): boolean {
  const { plate, edge, setback } = site;
  if (setback < -SAME) return false;
  const at = end === "left" ? site.from : site.to;
  const span = site.spans.find(([a, b]) => a <= at + SAME && b >= at - SAME);
  const metal = span ? (end === "left" ? at - span[0] : span[1] - at) : 0;
  const near = end === "left" ? SAME : -SAME;
  const free = freeBeside(draft.pieces.onEdge(plate.id, edge.role), at + near, end) - Math.abs(near);
  const gap = Math.min(metal, free);
  return gap > SAME * 10 || stripsBeside(draft, site, end).length > 0;
}

/** Whether metal of the plate stands beside a bend's strip itself, as beside a tongue in an opening or a lug. */
export function metalBesideStrip(site: Site, end: End, allowance: number): boolean {
  const at = end === "left" ? site.from - 1e-4 : site.to + 1e-4;
  const probe = fromFrame(edgeFrame(site.edge), point(at, allowance / 2 - site.setback));
  return hasMetal(site.plate.metal, probe);
}

/** Strips of bends that are not at a corner of this edge, whose metal goes on beside an end of a bend. */
export function stripsBeside(draft: OpenDraft, site: Site, end: End): DraftCarrier[] {
  const { plate, edge, setback } = site;
  if (setback <= SAME) return [];
  const frame = edgeFrame(edge);
  const at = end === "left" ? site.from - 1e-4 : site.to + 1e-4;
  const probe = fromFrame(frame, point(at, -setback / 2));
  const own = carrierTo(draft, plate.id);
  const folds = draft.pieces.foldsFrom(plate.id);
  return [...(own ? [own] : []), ...folds].filter((b) => hasMetal(b.metal, probe));
}
