import { type Curve, curveBounds, curveLength, directionAt, type Line, line } from "../../plane/curve.ts";
import type { Loop } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { along, cross, dot, grown, hypotenuse, type Point, point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { mm } from "../../units/spoken-length.ts";
import { carriersFrom, carrierTo, type OpenDraft, workMetal } from "../draft.ts";
import { linesOf } from "../draft-kinds.ts";
import type { DraftPlate } from "../draft-pieces.ts";
import type { SeamLine } from "../pieces/piece-kind.ts";
import { shapeMetal } from "../shaping/metal.ts";
import { nameRuns, refreshEdges } from "../shaping/refresh-edges.ts";

/** A corner of a plate's outline between two straight sides, walked with metal on the left. */
export interface OutlineCorner {
  readonly plate: string;
  readonly before: Line;
  readonly after: Line;
  /** How far the outline turns here, radians; positive at an outside corner. */
  readonly turn: number;
}

/** The name of a corner: its two edges, clockwise round the plate; nothing when one has no name. */
export function cornerName(c: OutlineCorner): string | undefined {
  const [a, b] = [c.after.name, c.before.name];
  return a && b ? `${c.plate}.${a}+${b}` : undefined;
}

const SHARP = (3 * Math.PI) / 180;

/** The sharp corners of a plate's outline, but for those that stand on a bend's tangent line. */
export function outlineCorners(draft: OpenDraft, id: string): OutlineCorner[] {
  const plate = draft.pieces.plate(id)!;
  const onTangent = onTangents(tangentLines(draft, plate));
  const out: OutlineCorner[] = [];
  // By the names that the finished plate has: those are offered.
  for (const loop of nameRuns(plate.edges, shapeMetal(plate.metal).regions).flatMap(regionLoops)) {
    loop.forEach((before, i) => {
      const after = loop[(i + 1) % loop.length];
      if (before.kind !== "line" || after.kind !== "line") return;
      const turn = cornerTurn(before, after, onTangent);
      if (turn !== undefined) out.push({ plate: id, before, after, turn });
    });
  }
  return out;
}

/** How far an outline turns at a sharp corner, radians; nothing where it goes on, or on a bend's tangent line. */
export function cornerTurn(before: Line, after: Line, onTangent: (p: Point) => boolean): number | undefined {
  const [d, e] = [directionAt(before, 1), directionAt(after, 0)];
  const turn = Math.atan2(cross(d, e), dot(d, e));
  return Math.abs(turn) < SHARP || onTangent(before.b) ? undefined : turn;
}

export type Segment = readonly [Point, Point];

const tangentLines = (draft: OpenDraft, plate: DraftPlate): Segment[] => {
  const own = carrierTo(draft, plate.id);
  return [
    ...carriersFrom(draft, plate.id).map((c) => seamSegment(linesOf(c).parent)),
    ...(own ? [seamSegment(linesOf(own).child)] : []),
  ];
};

/** Where a piece meets a plate, from one end to the other. */
export const seamSegment = ({ origin, axis, width }: SeamLine): Segment => [
  origin,
  along(origin, axis, width),
];

/** Off a tangent line by less, mm, is on it. */
const ON = 1e-5;

/** Whether a point lies on one of some tangent lines; of many only those beside it are looked at. */
export function onTangents(segments: readonly Segment[]): (p: Point) => boolean {
  const lines = segments.map((segment) => ({ segment, box: grown(curveBounds(line(...segment)), ON) }));
  const near = new NearCurves(lines);
  return (p) =>
    near.near({ minX: p.x, minY: p.y, maxX: p.x, maxY: p.y }).some(({ segment: [a, b] }) => {
      const d = point(b.x - a.x, b.y - a.y);
      const length = hypotenuse(d.x, d.y) || 1;
      const off = point(p.x - a.x, p.y - a.y);
      const s = dot(off, d) / length;
      return Math.abs(cross(d, off) / length) < ON && s > -ON && s < length + ON;
    });
}

export type CornerShape =
  | { readonly by: "round"; readonly radius: number }
  | { readonly by: "chamfer"; readonly first: number; readonly second: number };

/** How much of each side a rounding or chamfer takes. */
function taken(c: OutlineCorner, shape: CornerShape): [number, number] {
  if (shape.by === "chamfer") return [shape.first, shape.second];
  const length = shape.radius * Math.tan(Math.abs(c.turn) / 2);
  return [length, length];
}

/** Rounds or chamfers corners of one plate. Gives the corners for which there is no room, and why. */
export function shapeCorners(
  draft: OpenDraft,
  corners: readonly OutlineCorner[],
  shape: CornerShape,
  step: string,
): string[] {
  const problems: string[] = [];
  const used = new Map<Line, number>();
  for (const c of corners) {
    const [first, second] = taken(c, shape);
    for (const [side, length] of [
      [c.before, first],
      [c.after, second],
    ] as const)
      used.set(side, (used.get(side) ?? 0) + length);
  }
  const done: OutlineCorner[] = [];
  for (const c of corners) {
    const short = [c.before, c.after].find((side) => used.get(side)! > curveLength(side) + 1e-6);
    if (short)
      problems.push(
        `the side beside it is ${mm(curveLength(short))} long and ${mm(used.get(short)!)} are needed on it`,
      );
    else done.push(c);
  }
  const loops = done.map((c, i) => ({ turn: c.turn, loop: cornerLoop(c, shape, `round:${step}-${i}`) }));
  const plate = corners[0]?.plate;
  const cuts = loops.filter((l) => l.turn > 0).map((l) => l.loop);
  const adds = loops.filter((l) => l.turn < 0).map((l) => l.loop);
  if (cuts.length > 0) workMetal(draft, { plate }, { kind: "cut", step, loops: cuts });
  if (adds.length > 0) workMetal(draft, { plate }, { kind: "add", step, loops: adds });
  if (done.length > 0) refreshEdges(draft, plate);
  return problems;
}

/** The metal between a corner and its rounding: taken off at an outside corner, put on at an inside one. */
function cornerLoop({ before, after, turn }: OutlineCorner, shape: CornerShape, name: string): Loop {
  const corner = before.b;
  const [d, e] = [directionAt(before, 1), directionAt(after, 0)];
  const [first, second] = taken({ plate: "", before, after, turn }, shape);
  const p = along(corner, d, -first);
  const q = along(corner, e, second);
  const round = (from: Point, to: Point): Curve => {
    if (shape.by === "chamfer") return line(from, to, name);
    const side = turn > 0 ? 1 : -1;
    const c = point(p.x - side * d.y * shape.radius, p.y + side * d.x * shape.radius);
    // The outline itself goes from p to q, to the left at an outside corner; this loop goes back.
    const forward = from === p;
    return { kind: "arc", a: from, b: to, c, r: shape.radius, ccw: turn > 0 === forward, name };
  };
  return turn > 0
    ? [line(p, corner), line(corner, q), round(q, p)]
    : [line(q, corner), line(corner, p), round(p, q)];
}
