import { type Curve, curveLength, directionAt, pointAt } from "../../plane/curve.ts";
import { moveDirection, movePoint } from "../../plane/isometry.ts";
import { along, cross, dot, hypotenuse, type Point, subtract } from "../../plane/point.ts";
import { type Region, regionArea } from "../../plane/region.ts";
import {
  addV,
  compose,
  crossV,
  dotV,
  inverse,
  type Motion,
  moveV,
  scaleV,
  turnV,
  type Vector,
} from "../../space/vector.ts";
import { AXES, moveMarks, moveRegions, ownMarks, turningEdges } from "./borders.ts";
import type { Mark } from "./flat-pieces.ts";
import type { PieceKind, Take } from "./piece-kind.ts";

/**
 * Metal rolled to a cone: in the flat a sector about a tip, in space a part of a cone whose straight lines run
 * through the tip's image. It hangs on a plate along the line where it begins and carries one where it ends.
 */
export interface Cone {
  readonly kind: "cone";
  readonly id: string;
  readonly step: string;
  readonly parent: string;
  readonly child: string;
  /** The tip, in developed coordinates. */
  readonly tip: Point;
  /** Unit direction from the tip along the line where it begins, and square to it towards where it ends. */
  readonly axis: Point;
  readonly out: Point;
  /** How far from the tip its metal begins and ends, mm along the straight lines. */
  readonly near: number;
  readonly far: number;
  /** The angle of the flat sector, in radians. */
  readonly sector: number;
  /** The angle that it turns about its axis fully rolled, in radians; at least `sector`. */
  readonly turn: number;
  /** Where in the thickness the neutral surface lies, from the inside, as a share. */
  readonly k: number;
  /** Whether it curls towards side B. */
  readonly up: boolean;
  /** How far it reaches past its parent's edge at each end, where it hangs on nothing. */
  readonly overhang: { readonly left: number; readonly right: number };
  readonly regions: readonly Region[];
  readonly marks: readonly Mark[];
}

/** A cone in one fold state. */
export interface FoldedCone {
  readonly kind: "cone";
  readonly parent: Motion;
  readonly cone: Cone;
  /** The sine of the angle between its axis and its straight lines: 1 when flat. */
  readonly sine: number;
}

/** Places and weights of Gauss's rule of five points on −1 to 1. */
const GAUSS: readonly (readonly [number, number])[] = [
  [-0.906179845938664, 0.23692688505618908],
  [-0.5384693101056831, 0.47862867049936647],
  [0, 0.5688888888888889],
  [0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
];
const GAUSS_PIECES = 16;

/** How high above side A the neutral surface lies. */
const neutral = ({ k, up }: Cone, t: number): number => (up ? t * (1 - k) : t * k);

/** The sine of the angle between axis and lines in a state: the turn about the axis grows evenly from the flat. */
function sineAt({ sector, turn }: Cone, share: number): number {
  return sector / (sector + share * (turn - sector));
}

/** Developed polar coordinates: how far from the tip, and the angle from where the cone begins. */
function polar({ tip, axis, out }: Cone, p: Point): { rho: number; phi: number } {
  const d = subtract(p, tip);
  const [x, y] = [dot(d, axis), dot(d, out)];
  return { rho: hypotenuse(x, y), phi: Math.atan2(y, x) };
}

const developed = ({ tip, axis, out }: Cone, rho: number, phi: number): Point =>
  along(along(tip, axis, rho * Math.cos(phi)), out, rho * Math.sin(phi));

/** A turn about a direction through the origin, as a motion (Rodrigues). */
function turning(a: Vector, angle: number): Motion {
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  // 1 − cos from the half angle, so that a hair of a turn keeps its digits.
  const versine = 2 * Math.sin(angle / 2) ** 2;
  const of = (v: Vector): Vector =>
    addV(addV(scaleV(v, cos), scaleV(crossV(a, v), sin)), scaleV(a, dotV(a, v) * versine));
  return { x: of([1, 0, 0]), y: of([0, 1, 0]), z: of([0, 0, 1]), o: [0, 0, 0] };
}

/** A motion about a point instead of the origin. */
function about(centre: Vector, m: Motion): Motion {
  const moved = turnV(m, centre);
  return { ...m, o: [centre[0] - moved[0], centre[1] - moved[1], centre[2] - moved[2]] };
}

/** The axis of the cone in space as it stands on its parent: a unit direction, and the tip's image on it. */
function axisOf({ cone, sine }: FoldedCone, t: number): { axis: Vector; tip: Vector; way: number } {
  const way = cone.up ? 1 : -1;
  const cosine = Math.sqrt(Math.max(0, 1 - sine * sine));
  const { axis: e } = cone;
  return {
    axis: [e.x * cosine, e.y * cosine, way * sine],
    tip: [cone.tip.x, cone.tip.y, neutral(cone, t)],
    // The turn that leads from where the cone begins to where it ends.
    way: way * (e.x * cone.out.y - e.y * cone.out.x > 0 ? 1 : -1),
  };
}

/**
 * The motion that carries the metal along one straight line of the cone: in the flat the line is turned back
 * by `phi` about the tip to where the cone begins, in space it is turned on by phi/sin γ about the axis. Arcs
 * about the tip keep their length on the neutral surface: ρ·sin γ · phi/sin γ = ρ·phi.
 */
function onLine(folded: FoldedCone, t: number, phi: number): Motion {
  const { cone, sine } = folded;
  const { axis, tip, way } = axisOf(folded, t);
  const handed = cone.axis.x * cone.out.y - cone.axis.y * cone.out.x > 0 ? 1 : -1;
  const back = about(tip, turning([0, 0, 1], -handed * phi));
  const on = about(tip, turning(axis, (way * phi) / sine));
  return compose(folded.parent, compose(on, back));
}

/** ∫∫ dA/ρ over a region, about the tip: ∮ ρ dφ along its border, each curve in sixteen 5-point Gauss pieces. */
function overRho({ tip }: Cone, region: Region): number {
  const onCurve = (c: Curve): number => {
    let sum = 0;
    for (let i = 0; i < GAUSS_PIECES; i++)
      for (const [x, weight] of GAUSS) {
        const f = (i + (x + 1) / 2) / GAUSS_PIECES;
        const d = subtract(pointAt(c, f), tip);
        sum += (cross(d, directionAt(c, f)) / hypotenuse(d.x, d.y)) * weight;
      }
    return (sum * curveLength(c)) / (2 * GAUSS_PIECES);
  };
  return [region.outer, ...region.holes].flat().reduce((sum, c) => sum + onCurve(c), 0);
}

function unfold(folded: FoldedCone, t: number, q: Vector): Vector {
  const { cone, sine } = folded;
  const { axis, tip, way } = axisOf(folded, t);
  const local = moveV(inverse(folded.parent), q);
  const v: Vector = [local[0] - tip[0], local[1] - tip[1], local[2] - tip[2]];
  const cosine = dotV(axis, [cone.axis.x, cone.axis.y, 0]);
  const up = cone.up ? 1 : -1;
  // Square to the axis: the direction of the first line's image, and the one that it turns towards.
  const first = scaleV(addV([cone.axis.x, cone.axis.y, 0], scaleV(axis, -cosine)), 1 / sine);
  const second = scaleV(crossV(axis, first), way);
  const [x, y, high] = [dotV(v, first), dotV(v, second), dotV(v, axis)];
  let psi = Math.atan2(y, x);
  if (psi < -0.1) psi += 2 * Math.PI;
  const r = hypotenuse(x, y);
  const rho = high * cosine + r * sine;
  const at = developed(cone, rho, psi * sine);
  return [at.x, at.y, neutral(cone, t) + up * (high * sine - r * cosine)];
}

/**
 * Along each axis of space a circle about the cone's axis is farthest where its tangent is square to that axis.
 * The metal may be less than the whole sector from `near` to `far`: the box is that of all of it.
 */
function reach(cone: Cone, folded: FoldedCone, t: number, take: Take): "outside" {
  const { sine, parent } = folded;
  const { axis, way } = axisOf(folded, t);
  const spread = cone.sector / sine;
  const a = turnV(parent, axis);
  for (const rho of [cone.near, cone.far])
    for (const w of [0, t]) {
      const v = turnV(parent, [rho * cone.axis.x, rho * cone.axis.y, w - neutral(cone, t)]);
      const flat = addV(v, scaleV(a, -dotV(a, v)));
      const side = scaleV(crossV(a, v), way);
      const stops = AXES.flatMap((k) => {
        const psi = Math.atan2(side[k], flat[k]);
        return [-2, -1, 0, 1, 2].map((n) => psi + n * Math.PI).filter((p) => p > 0 && p < spread);
      });
      for (const psi of [0, spread, ...stops]) {
        const at = developed(cone, rho, psi * sine);
        take(at.x, at.y);
      }
    }
  return "outside";
}

/** Metal rolled to a cone. */
export const conePiece: PieceKind<Cone, FoldedCone> = {
  metal: "turns",
  turn: ({ turn }) => turn,
  pickedAs: ({ id }) => ({ kind: "bend", id }),
  edges: turningEdges,
  // Radii of the inside about its axis at both ends; over the turn it is as long as the sector is there.
  numbers: (cone, t) => {
    const { up, turn, k, near, far, sector } = cone;
    const sine = sineAt(cone, 1);
    const inside = (rho: number) => rho * sine - k * t * Math.sqrt(1 - sine * sine);
    return {
      ...{ up, angle: turn, k, length: far - near },
      radius: [inside(near), inside(far)],
      allowance: [near * sector, far * sector],
    };
  },
  labelAt: (cone) => developed(cone, (cone.near + cone.far) / 2, cone.sector / 2),
  breadth: ({ far, sector }) => far * sector,
  // Where it is not of one radius its openings count.
  filled: (cone) => cone,
  regions: (c) => c.regions,
  strokes: ownMarks,
  // On a cone the sheet's outer side is longer and its inner side shorter by cot γ/ρ for each mm off the neutral surface.
  volume: (cone, t) => {
    const sine = sineAt(cone, 1);
    const bow = ((t * t * (1 - 2 * cone.k)) / 2) * (Math.sqrt(1 - sine * sine) / sine);
    return cone.regions.reduce((sum, r) => sum + t * regionArea(r) + bow * overRho(cone, r), 0);
  },
  moved: (c, m) => ({
    ...c,
    tip: movePoint(m, c.tip),
    axis: moveDirection(m, c.axis),
    out: moveDirection(m, c.out),
    regions: moveRegions(m, c.regions),
    marks: moveMarks(m, c.marks),
  }),
  fold: (cone, on, share) => ({ kind: "cone", parent: on, cone, sine: sineAt(cone, share) }),
  passes: (folded, t) => onLine(folded, t, folded.cone.sector),
  motionAt: (folded, t, at) => onLine(folded, t, polar(folded.cone, at).phi),
  placeAt: (folded, t, at, w) => moveV(onLine(folded, t, polar(folded.cone, at).phi), [at.x, at.y, w]),
  facing: ({ parent }) => parent,
  seenFrom: (folded, back) => ({ ...folded, parent: compose(back, folded.parent) }),
  unfold,
  reach,
  slices: (cone, t, chord) => {
    const widest = cone.far * sineAt(cone, 1) + t;
    const step = Math.min(2 * Math.acos(Math.max(0.5, 1 - chord / widest)), Math.PI / 12);
    const n = Math.max(2, Math.ceil(cone.turn / step));
    return Array.from({ length: n - 1 }, (_, i) => {
      const phi = (cone.sector * (i + 1)) / n;
      const [sin, cos] = [Math.sin(phi), Math.cos(phi)];
      return (at: Point) => {
        const d = subtract(at, cone.tip);
        return dot(d, cone.out) * cos - dot(d, cone.axis) * sin;
      };
    });
  },
  facets: (cone, most) => {
    const n = Math.max(3, Math.ceil(cone.turn / most));
    const at = (rho: number, i: number) => developed(cone, rho, (cone.sector * i) / n);
    return Array.from({ length: n }, (_, i) => [
      ...([at(cone.near, i), at(cone.far, i), at(cone.far, i + 1), at(cone.near, i + 1)] as const),
    ]);
  },
  seams: (cone) => {
    const line = (phi: number) => ({
      origin: developed(cone, cone.near, phi),
      axis: subtract(developed(cone, 1, phi), cone.tip),
      width: cone.far - cone.near,
    });
    return { parent: line(0), child: line(cone.sector) };
  },
  ownFrame: ({ tip, axis, out }) => ({ origin: tip, across: axis, along: out }),
  // Sine and cosine of the angle between axis and straight lines (nearly flat the one says nothing of the other), and
  // one more than the height of the neutral surface above side A, negative where it curls towards that.
  curl: ({ cone, sine, parent }, t) => ({
    form: "cone",
    motion: parent,
    numbers: [sine, Math.sqrt(Math.max(0, 1 - sine * sine)), (cone.up ? 1 : -1) * (1 + neutral(cone, t))],
  }),
  // Nearest to the tip it turns the fastest, farthest from it is its outside the widest.
  bow: ({ tip, axis, out, near, far, up }, { sine }, t) => ({
    origin: tip,
    across: axis,
    along: out,
    straight: near / 16,
    ...(sine > 1 - 1e-12 ? { rate: 0, radius: 0 } : { rate: 1 / (near * sine), radius: far * sine + t }),
    outer: up ? "A" : "B",
  }),
};
