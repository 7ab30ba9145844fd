import { type Loop, loopFromFrame, polygonLoop } from "../../plane/loop.ts";
import {
  along,
  cross,
  dot,
  type Frame,
  hypotenuse,
  type Point,
  point,
  SAME,
  samePoint,
  scale,
  subtract,
} from "../../plane/point.ts";
import {
  addV,
  crossV,
  dotV,
  lengthV,
  type Motion,
  moveV,
  scaleV,
  turnV,
  type Vector,
} from "../../space/vector.ts";
import { bendOf, bendsAmong, carriersFrom, type OpenDraft, workMetal } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import { foldedPlace } from "../folding/folded-place.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";
import { refreshEdges } from "../shaping/refresh-edges.ts";
import { trimBend } from "../shaping/trim.ts";

/**
 * Two flanges whose bends end at the same corner: of one plate, or on the rims of two walls that meet.
 * `first` is to the left of the corner.
 */
export interface FlangeCorner {
  readonly plate: string;
  /** Seen from outside the corner with side B up, its right end is at the corner. */
  readonly first: DraftBend;
  readonly second: DraftBend;
  readonly at: Point;
}

/** `s1.north+east` on one plate; on the rims of two walls the second wall's name stands for its edge. */
export const flangeCornerName = ({ first, second }: FlangeCorner): string =>
  `${first.parent}.${first.grownOn!.role}+${first.parent === second.parent ? second.grownOn!.role : second.parent}`;

const STEEPEST = Math.PI * 0.95;

/** The corners at which two flanges of a plate meet. Hems are no walls and are left out. */
export function flangeCorners(draft: OpenDraft, plate: string): FlangeCorner[] {
  const bends = wallsOf(draft, plate);
  const own = bends.flatMap((first) => {
    const end = along(first.origin, first.axis, first.width);
    return bends
      .filter((second) => second !== first && meets(draft, first, second, end))
      .map((second): FlangeCorner => ({ plate, first, second, at: end }));
  });
  return [...own, ...own.flatMap((c) => rimCorners(draft, c))];
}

const wallsOf = (draft: OpenDraft, plate: string) =>
  bendsAmong(carriersFrom(draft, plate)).filter((b) => b.grownOn && b.angle < STEEPEST);

/** Where two walls meet, flanges on their far edges meet too, if they reach as far. */
function rimCorners(draft: OpenDraft, { first, second }: FlangeCorner): FlangeCorner[] {
  const near = (first.radius + second.radius) * 2 + draft.t * 8;
  const rims = (wall: DraftBend) => wallsOf(draft, wall.child).filter((b) => b.grownOn!.role === "end");
  return rims(first).flatMap((a) => {
    const at = along(a.origin, a.axis, a.width);
    const end = moveV(foldedPlace(draft, a.parent, NONE_HELD), [at.x, at.y, 0]);
    return rims(second)
      .filter((b) => {
        const start = moveV(foldedPlace(draft, b.parent, NONE_HELD), [b.origin.x, b.origin.y, 0]);
        return lengthV(between(start, end)) < near;
      })
      .map((b): FlangeCorner => ({ plate: a.parent, first: a, second: b, at }));
  });
}

const NONE_HELD: ReadonlySet<string> = new Set();

/** Bends meet where their root lines do, also when an inset or an overhang keeps their ends apart a little. */
function meets(draft: OpenDraft, first: DraftBend, second: DraftBend, end: Point): boolean {
  if (samePoint(end, second.origin, 1e-6)) return true;
  const plate = draft.pieces.plate(first.parent)!;
  const edges = [first, second].map((b) => plate.edges.find((e) => e.role === b.grownOn?.role));
  const [a, b] = edges;
  if (!a || !b || !samePoint(a.right, b.left, 1e-6)) return false;
  const near = (first.radius + second.radius) * 2 + draft.t * 4;
  return hypotenuse(end.x - second.origin.x, end.y - second.origin.y) < near;
}

/** How two legs come together. `share` is how far the one that goes over covers the other's thickness. */
export type CornerClosing =
  | { readonly by: "mitre"; readonly gap: number }
  | { readonly by: "butt"; readonly over: "first" | "second"; readonly share: number; readonly gap: number };

/** A straight line in a leg's developed plane: what may stay has a·u + b·v + c ≥ 0. */
interface Border {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

interface Leg {
  readonly bend: DraftBend;
  readonly end: "left" | "right";
  /** Where developed points of the leg come to stand when everything is folded. */
  readonly place: Motion;
  /** A point in the middle of the leg, developed. */
  readonly middle: Point;
}

/**
 * Brings two legs together at a corner, found in space from their folded faces and cut in each leg's
 * own developed plane. Gives the reason when that does not go; the draft is then to be put back.
 */
export function bringTogether(
  draft: OpenDraft,
  corner: FlangeCorner,
  closing: CornerClosing,
  step: string,
): string | undefined {
  const [first, second] = [legOf(draft, corner.first, "right"), legOf(draft, corner.second, "left")];
  if (!first || !second) return "One of its flanges has no leg beyond its bend.";
  if (first.bend.up !== second.bend.up)
    return "One of its flanges goes up and the other down, so they never meet. Turn one of them round, or leave the corner open.";
  for (const { bend, end } of [first, second])
    if (carriersFrom(draft, bend.child).some((b) => b.grownOn?.role === end))
      return "A flange stands on the side of one of its legs that would have to be led on. Put this step before that flange, or leave the corner open.";
  const parallel = Math.abs(dotV(first.place.z, second.place.z)) > 1 - 1e-9;
  if (parallel && !inOnePlane(first, second, draft.t))
    return "The two flanges lie in parallel planes and can never meet. Give one of them another angle, or leave the corner open.";
  const borders = (
    [
      [first, second],
      [second, first],
    ] as const
  ).map(([leg, other], i) => {
    const goesOver = closing.by === "butt" && (closing.over === "first") === (i === 0);
    if (parallel) return mitreInPlane(leg, other, closing.gap);
    return borderOn(leg, other, draft.t, closing, goesOver);
  });
  for (const [i, leg] of [first, second].entries()) {
    const hit = tooFar(leg, borders[i]);
    if (hit) return hit;
  }
  return shapeLeg(draft, first, borders[0], step) ?? shapeLeg(draft, second, borders[1], step);
}

function legOf(draft: OpenDraft, bend: DraftBend, end: "left" | "right"): Leg | undefined {
  const plate = draft.pieces.plate(bend.child)!;
  const side = plate.edges.find((e) => e.role === end);
  if (!side) return undefined;
  const place = foldedPlace(draft, bend.child, NONE_HELD);
  const depth = Math.max(
    dot(subtract(side.left, bend.origin), bend.out),
    dot(subtract(side.right, bend.origin), bend.out),
  );
  const middle = along(along(bend.origin, bend.axis, bend.width / 2), bend.out, (bend.allowance + depth) / 2);
  return { bend, end, place, middle };
}

const between = (p: Vector, q: Vector): Vector => [q[0] - p[0], q[1] - p[1], q[2] - p[2]];

/** Where a leg begins: a place on its second tangent line, in space. */
const rootOf = ({ bend, place }: Leg): Vector => {
  const p = along(bend.origin, bend.out, bend.allowance);
  return moveV(place, [p.x, p.y, 0]);
};

const inOnePlane = (p: Leg, q: Leg, t: number): boolean =>
  Math.abs(dotV(p.place.z, between(rootOf(p), rootOf(q)))) < t / 2;

/** Legs in one plane meet along the middle between them, from where their tangent lines cross. */
function mitreInPlane(leg: Leg, other: Leg, gap: number): Border {
  const up = leg.place.z;
  const [axis, axis2] = [leg, other].map((l) => turnV(l.place, [l.bend.axis.x, l.bend.axis.y, 0]));
  const [out, out2] = [leg, other].map((l) => turnV(l.place, [l.bend.out.x, l.bend.out.y, 0]));
  const d = between(rootOf(leg), rootOf(other));
  // The crossing of the two lines: along this one by s, so that the rest runs along the other.
  const across = crossV(up, axis2);
  const s = dotV(d, across) / (dotV(axis, across) || 1);
  const corner = addV(rootOf(leg), scaleV(axis, s));
  const middle: Vector = addV(out, out2);
  const normal = crossV(up, middle);
  const n = scaleV(normal, 1 / (lengthV(normal) || 1));
  const value = (u: number, v: number) => dotV(n, between(corner, moveV(leg.place, [u, v, 0])));
  const way = value(leg.middle.x, leg.middle.y) > 0 ? 1 : -1;
  const at0 = value(0, 0);
  return {
    a: (value(1, 0) - at0) * way,
    b: (value(0, 1) - at0) * way,
    c: at0 * way - gap / 2,
  };
}

/** Which of a leg's faces looks at a point in space: 0 for side A, `t` for side B. */
function facing(leg: Leg, t: number, toward: Vector): number {
  const on = moveV(leg.place, [leg.middle.x, leg.middle.y, t / 2]);
  const d: Vector = [toward[0] - on[0], toward[1] - on[1], toward[2] - on[2]];
  return dotV(d, leg.place.z) > 0 ? t : 0;
}

/**
 * Where a leg must end against the other: the line in its developed plane along which its inner face
 * meets a plane parallel to the other's faces.
 */
function borderOn(leg: Leg, other: Leg, t: number, closing: CornerClosing, goesOver: boolean): Border {
  const middleOfOther = moveV(other.place, [other.middle.x, other.middle.y, t / 2]);
  const middleOfLeg = moveV(leg.place, [leg.middle.x, leg.middle.y, t / 2]);
  const own = facing(leg, t, middleOfOther);
  const inner = facing(other, t, middleOfLeg);
  const outer = t - inner;
  const at = goesOver && closing.by === "butt" ? inner + (outer - inner) * closing.share : inner;
  const n = other.place.z;
  // Two ends that step back by g, each in its own plane, stand 2g·sin(φ/2) apart, φ being the angle
  // between the inner faces; from the other's plane that is g·sinφ = gap·cos(φ/2).
  const facesTurn = dotV(leg.place.z, n) * (own === inner ? 1 : -1);
  const half = Math.sqrt(Math.max(0, 1 - facesTurn) / 2);
  const back = goesOver ? 0 : closing.gap * (closing.by === "mitre" ? half : 1);
  const anchor = moveV(other.place, [0, 0, at]);
  const value = (u: number, v: number) => {
    const p = moveV(leg.place, [u, v, own]);
    return dotV(n, [p[0] - anchor[0], p[1] - anchor[1], p[2] - anchor[2]]);
  };
  const way = value(leg.middle.x, leg.middle.y) > 0 ? 1 : -1;
  const gradient = turnV({ ...leg.place, o: [0, 0, 0] }, [1, 0, 0]);
  const gradientV = turnV({ ...leg.place, o: [0, 0, 0] }, [0, 1, 0]);
  const [a, b] = [dotV(n, gradient) * way, dotV(n, gradientV) * way];
  return { a, b, c: value(0, 0) * way - back };
}

/** A border that runs away along the leg would cut it through or lead it on without end. */
function tooFar(leg: Leg, border: Border): string | undefined {
  const { axis, out } = leg.bend;
  const across = border.a * axis.x + border.b * axis.y;
  const alongOut = border.a * out.x + border.b * out.y;
  if (Math.abs(across) < 0.05 * hypotenuse(across, alongOut))
    return "The two flanges meet at so flat an angle that their corner would run along a whole flange. Leave it open, or change an angle.";
  return undefined;
}

/** How far from its left end a border crosses a bend's second tangent line. */
function borderAtRoot({ bend }: Leg, { a, b, c }: Border): number {
  const p = along(bend.origin, bend.out, bend.allowance);
  return -(a * p.x + b * p.y + c) / (a * bend.axis.x + b * bend.axis.y);
}

/** Leads a leg on to its border, or cuts it back to it. Gives the reason when nothing of its side is there. */
function shapeLeg(draft: OpenDraft, leg: Leg, border: Border, step: string): string | undefined {
  const { end } = leg;
  const root0 = borderAtRoot(leg, border);
  const over = end === "left" ? root0 : leg.bend.width - root0;
  // A border that begins within the bend's width takes the bend's end along.
  if (over > SAME && over < leg.bend.width - SAME) trimBend(draft, leg.bend.id, end, over, step);
  const bend = bendOf(draft, leg.bend.id)!;
  // A leaning side that was cut back at its foot stands upright there: both pieces are its side.
  refreshEdges(draft, bend.child);
  const plate = draft.pieces.plate(bend.child)!;
  const frame: Frame = { origin: bend.origin, x: bend.axis };
  const local = (p: Point) => {
    const d = subtract(p, bend.origin);
    return point(dot(d, bend.axis), dot(d, bend.out));
  };
  const side = sideOf(plate, end, local);
  if (side.length < 2)
    return "One of its flanges has no metal at this corner: cuts or what stands on it take all of its side. Make it longer there, or leave the corner open.";
  const [p, q] = [side[0], side[side.length - 1]];
  // The border in the leg's frame: s as a function of the distance out.
  const across = border.a * bend.axis.x + border.b * bend.axis.y;
  const outward = border.a * bend.out.x + border.b * bend.out.y;
  const constant = border.a * bend.origin.x + border.b * bend.origin.y + border.c;
  const borderAt = (out: number) => -(constant + outward * out) / across;
  const way = end === "left" ? -1 : 1;
  const far = Math.max(...[p.y, q.y].map((y) => Math.abs(borderAt(y)))) + bend.width + 10;
  const quad = (points: Point[], some: (string | undefined)[]): Loop => {
    const names = points.map((_, i) => some[i]);
    const loop = loopFromFrame(frame, polygonLoop(points, names));
    const turn = points.reduce((sum, a, i) => sum + cross(a, points[(i + 1) % points.length]), 0);
    if (turn > 0) return loop;
    const back = [...points].reverse();
    const named = [...names].reverse();
    return loopFromFrame(frame, polygonLoop(back, [...named.slice(1), named[0]]));
  };
  const grown = side.some(({ x, y }) => (borderAt(y) - x) * way > SAME);
  if (grown) {
    const wide = way * far;
    const points = [p, point(p.x + wide, p.y), point(q.x + wide, q.y), ...side.slice(1).toReversed()];
    const strip = quad(points, [undefined, undefined, "end"]);
    workMetal(draft, { plate: plate.id }, { kind: "add", step, loops: [strip] });
  }
  const [low, high] = [bend.allowance, q.y + far];
  const beyond = [
    point(borderAt(low), low),
    point(borderAt(low) + way * far * 3, low),
    point(borderAt(high) + way * far * 3, high),
    point(borderAt(high), high),
  ];
  const cut = quad(beyond, [undefined, undefined, undefined, end]);
  workMetal(draft, { plate: plate.id }, { kind: "cut", step, loops: [cut] });
  refreshEdges(draft, plate.id);
  return undefined;
}

/** The points of a leg's side from its bend outwards, in the leg's frame: more than two where the side was cut back. */
function sideOf(
  plate: { readonly edges: readonly EdgeSite[] },
  end: "left" | "right",
  local: (p: Point) => Point,
): Point[] {
  const runs = plate.edges
    .filter((e) => e.role === end || e.role.startsWith(`${end}@`))
    .map((e) => [local(e.left), local(e.right)].sort((u, v) => u.y - v.y))
    .sort(([a, b], [c, d]) => a.y + b.y - c.y - d.y);
  const points: Point[] = [];
  for (const p of runs.flat()) {
    const last = points[points.length - 1];
    if (!last || !samePoint(last, p, 1e-6)) points.push(p);
  }
  return points;
}

/** The opening at a corner that keeps it from tearing or bulging. Millimetres. */
export type CornerRelief =
  | { readonly shape: "none" }
  | { readonly shape: "round" | "square"; readonly size: number }
  | { readonly shape: "slot" | "teardrop"; readonly size: number; readonly length: number };

/** The relief's loops in developed coordinates, about the point where the two bends meet. */
export function cornerReliefLoops(corner: FlangeCorner, relief: CornerRelief): Loop[] {
  if (relief.shape === "none") return [];
  const inward = scale(
    { x: corner.first.out.x + corner.second.out.x, y: corner.first.out.y + corner.second.out.y },
    -1,
  );
  const length = hypotenuse(inward.x, inward.y) || 1;
  const frame: Frame = { origin: corner.at, x: scale(inward, 1 / length) };
  const h = relief.size / 2;
  return [loopFromFrame(frame, reliefShape(relief, h))];
}

/** In a frame whose x points from the corner into the plate. */
function reliefShape(relief: Exclude<CornerRelief, { shape: "none" }>, h: number): Loop {
  const name = "corner:relief";
  const half = (at: Point, from: Point, to: Point) =>
    ({ kind: "arc", a: from, b: to, c: at, r: h, ccw: true, name }) as const;
  if (relief.shape === "square") return polygonLoop([point(h, -h), point(h, h), point(-h, h), point(-h, -h)]);
  if (relief.shape === "round") {
    const [e, w] = [point(h, 0), point(-h, 0)];
    return [half(point(0, 0), e, w), half(point(0, 0), w, e)];
  }
  const reach = Math.max("length" in relief ? relief.length : 0, relief.size);
  if (relief.shape === "slot") {
    const far = reach - h;
    return [
      { kind: "line", a: point(-h, -h), b: point(far, -h) },
      half(point(far, 0), point(far, -h), point(far, h)),
      { kind: "line", a: point(far, h), b: point(-h, h) },
      half(point(-h, 0), point(-h, h), point(-h, -h)),
    ];
  }
  // A drop: its round end in the plate, its point outside the corner.
  const tip = point(-reach, 0);
  const turn = Math.acos(Math.min(1, h / (reach + SAME)));
  const touch = (sign: number) => point(-h * Math.cos(turn), sign * h * Math.sin(turn));
  return [
    { kind: "line", a: tip, b: touch(-1) },
    half(point(0, 0), touch(-1), touch(1)),
    { kind: "line", a: touch(1), b: tip },
  ];
}
