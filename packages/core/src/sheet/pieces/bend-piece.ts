import { type Arc, arcAngles, type Line } from "../../plane/curve.ts";
import { moveDirection, movePoint } from "../../plane/isometry.ts";
import { along, dot, hypotenuse, type Point, subtract } from "../../plane/point.ts";
import { regionArea } from "../../plane/region.ts";
import { compose, inverse, type Motion, moveV, STILL, turnV, type Vector } from "../../space/vector.ts";
import {
  AXES,
  moveMarks,
  moveRegions,
  ownMarks,
  peak,
  takeFlatArc,
  turningEdges,
  withoutOpenings,
} from "./borders.ts";
import type { Bend } from "./flat-pieces.ts";
import type { Beyond, PieceKind, Take } from "./piece-kind.ts";

const FLAT = 1e-9;
const TURN = 2 * Math.PI;

/** A bend in one fold state: the motion of the plate it starts from, and its turned-so-far angle. */
export interface FoldedBend {
  readonly kind: "bend";
  readonly parent: Motion;
  readonly bend: Bend;
  readonly angle: number;
  /** Inside radius in this state; the neutral axis keeps its length. Infinite when flat. */
  readonly radius: number;
}

/** What a bend's motion follows from. */
export type BendCurl = Pick<Bend, "allowance" | "k" | "up" | "axis" | "out" | "origin">;

const radiusAt = (bend: BendCurl, t: number, angle: number) =>
  angle < FLAT ? Number.POSITIVE_INFINITY : bend.allowance / angle - bend.k * t;

/** The motion of metal at distance `x` past the first tangent line and of all that hangs on it there. */
export function bendMotion(bend: BendCurl, t: number, angle: number, x: number): Motion {
  if (angle < FLAT) return STILL;
  const r = radiusAt(bend, t, angle);
  const phi = (angle * x) / bend.allowance;
  const sin = Math.sin(phi);
  const cos = Math.cos(phi);
  const versine = 2 * Math.sin(phi / 2) ** 2;
  const way = bend.up ? 1 : -1;
  const { axis: d, out: n, origin: p } = bend;
  // The unrolled frame at x turns by phi about the axis: out → cos·out + way·sin·up, up → cos·up − way·sin·out.
  const turned = (u: number, v: number): Vector => {
    const a = u * d.x + v * d.y;
    const b = u * n.x + v * n.y;
    return [a * d.x + b * cos * n.x, a * d.y + b * cos * n.y, b * way * sin];
  };
  const z: Vector = [-way * sin * n.x, -way * sin * n.y, cos];
  // Follow the point (p + x·out, w = 0): radius r + t on the outside of an up bend, r on the inside of a down bend.
  const rho = bend.up ? r + t : r;
  const forward = rho * sin;
  const rise = way * rho * versine;
  const at: Vector = [p.x + n.x * forward, p.y + n.y * forward, rise];
  const m: Motion = { x: turned(1, 0), y: turned(0, 1), z, o: [0, 0, 0] };
  const from = turnV(m, [p.x + n.x * x, p.y + n.y * x, 0]);
  return { ...m, o: [at[0] - from[0], at[1] - from[1], at[2] - from[2]] };
}

/** The motion that carries a developed point of a folded bend, given its place in developed coordinates. */
function motionInBend({ parent, bend, angle }: FoldedBend, t: number, p: Point): Motion {
  const x = dot(subtract(p, bend.origin), bend.out);
  return compose(parent, bendMotion(bend, t, angle, x));
}

/**
 * Where a developed point of a folded bend stands, at a height over side A. Asked for every corner of every bend: the
 * place itself, without the motion that carries it there.
 */
function placeInBend({ parent, bend, angle, radius }: FoldedBend, t: number, p: Point, w: number): Vector {
  if (angle < FLAT) return moveV(parent, [p.x, p.y, w]);
  const { origin, axis, out, up } = bend;
  const [dx, dy] = [p.x - origin.x, p.y - origin.y];
  const side = dx * axis.x + dy * axis.y;
  const phi = (angle * (dx * out.x + dy * out.y)) / bend.allowance;
  const sin = Math.sin(phi);
  const versine = 2 * Math.sin(phi / 2) ** 2;
  // Side A is the inside of an up bend, t farther from its middle; both sides turn about that.
  const forward = (up ? radius + t - w : radius + w) * sin;
  const rise = (up ? radius + t : -radius) * versine + w * Math.cos(phi);
  return moveV(parent, [
    origin.x + axis.x * side + out.x * forward,
    origin.y + axis.y * side + out.y * forward,
    rise,
  ]);
}

function unfold(folded: FoldedBend, t: number, q: Vector): Vector {
  const { parent, bend, angle, radius } = folded;
  const local = moveV(inverse(parent), q);
  if (angle < FLAT) return local;
  const d = subtract({ x: local[0], y: local[1] }, bend.origin);
  const forward = dot(d, bend.out);
  const side = dot(d, bend.axis);
  // From the centre of the bend: an up bend curls about a point above side B, a down bend below side A.
  const drop = bend.up ? t + radius - local[2] : local[2] + radius;
  let phi = Math.atan2(forward, drop);
  if (phi < -0.1) phi += 2 * Math.PI;
  const x = (phi / angle) * bend.allowance;
  return [
    bend.origin.x + bend.axis.x * side + bend.out.x * x,
    bend.origin.y + bend.axis.y * side + bend.out.y * x,
    heightInBend(local[2], forward, drop, phi, folded, t),
  ];
}

/** How high above side A a point stands in a folded bend, from its place beside the bend's centre. */
function heightInBend(
  z: number,
  forward: number,
  drop: number,
  phi: number,
  { bend, radius }: FoldedBend,
  t: number,
): number {
  if (Math.abs(phi) < 0.5) {
    // Nearly flat the radius is huge, and a difference of radii would lose what is wanted.
    const versine = 2 * Math.sin(phi / 2) ** 2;
    return (bend.up ? z - (radius + t) * versine : z + radius * versine) / Math.cos(phi);
  }
  const rho = hypotenuse(forward, drop);
  return bend.up ? radius + t - rho : rho - radius;
}

/**
 * A straight border on a bend turned by φ: along axis k it stands at a·s(φ) + ρ(o·sin φ + u·(1 − cos φ)),
 * s running evenly with φ, which turns back where cos(φ − δ) = −a·s′ / (ρ·√(o² + u²)), δ = atan2(u, o).
 */
function takeHelix(c: Line, { bend, angle, radius, parent }: FoldedBend, t: number, take: Take): void {
  if (angle < FLAT) return;
  const { origin, axis: d, out: n } = bend;
  const place = (p: Point, way: Point) => (p.x - origin.x) * way.x + (p.y - origin.y) * way.y;
  const x0 = place(c.a, n);
  const x1 = place(c.b, n);
  if (Math.abs(x1 - x0) < 1e-12) return;
  const turnPer = angle / bend.allowance;
  const from = Math.min(x0, x1) * turnPer;
  const to = Math.max(x0, x1) * turnPer;
  const slide = (place(c.b, d) - place(c.a, d)) / ((x1 - x0) * turnPer);
  for (const k of AXES) {
    const axis = parent.x[k] * d.x + parent.y[k] * d.y;
    const out = parent.x[k] * n.x + parent.y[k] * n.y;
    const up = bend.up ? parent.z[k] : -parent.z[k];
    const share = hypotenuse(out, up);
    const delta = Math.atan2(up, out);
    // Sides A and B stand at different distances from the middle the bend turns about.
    for (let w = 0; w < 2; w++) {
      const reach = (radius + w * t) * share;
      const cosine = reach < 1e-12 ? 2 : (-axis * slide) / reach;
      if (Math.abs(cosine) > 1) continue;
      const half = Math.acos(cosine);
      for (let way = -1; way <= 1; way += 2) {
        const first = delta + way * half;
        for (let phi = first + Math.ceil((from - first) / TURN) * TURN; phi < to; phi += TURN) {
          if (phi <= from) continue;
          const g = (phi / turnPer - x0) / (x1 - x0);
          take(c.a.x + (c.b.x - c.a.x) * g, c.a.y + (c.b.y - c.a.y) * g);
        }
      }
    }
  }
}

/** So far from its end, as a share of what lies between two samples, it is seen whether a border still rises. */
const END = 1e-3;

/**
 * The farthest points of an arc border on a bend: looked for between samples that stand out of their neighbours, where
 * what may lie between is beyond what is known to be reached.
 */
function takeCurledArc(c: Arc, folded: FoldedBend, t: number, take: Take, beyond: Beyond): void {
  const { start, sweep } = arcAngles(c);
  const n = Math.max(16, Math.ceil(Math.abs(sweep) * 24));
  const pointOf = (f: number) => {
    const angle = start + sweep * f;
    return { x: c.c.x + c.r * Math.cos(angle), y: c.c.y + c.r * Math.sin(angle) };
  };
  const at = (f: number, w: number): Vector => {
    return placeInBend(folded, t, pointOf(f), w);
  };
  // Between two samples the border bows out by no more than its curvature in space makes it, h²κ/8, and a tenth for luck.
  const rate = folded.angle / folded.bend.allowance;
  const stretch = Number.isFinite(folded.radius) ? Math.max(1, (folded.radius + t) * rate) : 1;
  const step = (Math.abs(sweep) * c.r) / n;
  const bow = (step ** 2 * (stretch / c.r + stretch * rate) * 1.1) / 8;
  for (const w of [0, t]) {
    const samples = Array.from({ length: n + 1 }, (_, i) => at(i / n, w));
    for (const k of AXES)
      for (const way of [1, -1] as const)
        for (let i = 0; i <= n; i++) {
          const here = way * samples[i][k];
          const before = i > 0 ? way * samples[i - 1][k] : -Infinity;
          const after = i < n ? way * samples[i + 1][k] : -Infinity;
          if (here < before || here < after || !beyond(k, way, here + bow)) continue;
          // Where it still rises at its end, it is highest there, and its ends are taken.
          if (i === 0 && way * at(END / n, w)[k] <= here) continue;
          if (i === n && way * at(1 - END / n, w)[k] <= here) continue;
          const f = peak((g) => way * at(g, w)[k], Math.max(0, (i - 1) / n), Math.min(1, (i + 1) / n));
          const p = pointOf(f);
          take(p.x, p.y);
        }
  }
}

/** A strip that turns about a line: a sector of a cylinder. */
export const bendPiece: PieceKind<Bend, FoldedBend> = {
  metal: "turns",
  turn: ({ angle }) => angle,
  pickedAs: ({ id }) => ({ kind: "bend", id }),
  edges: turningEdges,
  numbers: ({ up, angle, k, radius, allowance, width }) => ({
    ...{ up, angle, k, radius: [radius, radius], allowance: [allowance, allowance], length: width },
  }),
  labelAt: ({ origin, axis, out, width, allowance }) =>
    along(along(origin, axis, width / 2), out, allowance / 2),
  breadth: ({ allowance }) => allowance,
  filled: withoutOpenings,
  regions: (b) => b.regions,
  strokes: ownMarks,
  // The area of its strip times the mean developed height, θ((r+t)² − r²)/(2·BA).
  volume: (b, t) => {
    const ring = (b.angle * ((b.radius + t) ** 2 - b.radius ** 2)) / 2;
    return (b.regions.reduce((sum, r) => sum + regionArea(r), 0) / b.allowance) * ring;
  },
  moved: (b, m) => ({
    ...b,
    origin: movePoint(m, b.origin),
    axis: moveDirection(m, b.axis),
    out: moveDirection(m, b.out),
    regions: moveRegions(m, b.regions),
    marks: moveMarks(m, b.marks),
  }),
  fold: (bend, on, share, t) => {
    const angle = share * bend.angle;
    return { kind: "bend", parent: on, bend, angle, radius: radiusAt(bend, t, angle) };
  },
  passes: ({ parent, bend, angle }, t) => compose(parent, bendMotion(bend, t, angle, bend.allowance)),
  motionAt: motionInBend,
  placeAt: placeInBend,
  facing: ({ parent }) => parent,
  seenFrom: (folded, back) => ({ ...folded, parent: compose(back, folded.parent) }),
  unfold,
  reach: (bend, folded, t, take, beyond) => {
    // Across the strip its metal is straight, so that no opening within it reaches farther than its outline.
    const outer = bend.regions.flatMap((r) => r.outer);
    for (const c of outer) {
      take(c.a.x, c.a.y);
      if (c.kind === "line") takeHelix(c, folded, t, take);
    }
    for (const c of outer) {
      if (c.kind === "line") continue;
      if (folded.angle < FLAT) takeFlatArc(c, folded.parent, take);
      else takeCurledArc(c, folded, t, take, beyond);
    }
    return "exact";
  },
  slices: (bend, t, chord) => {
    const outerRadius = bend.radius + t;
    const step = Math.min(2 * Math.acos(Math.max(0.5, 1 - chord / outerRadius)), Math.PI / 12);
    const n = Math.max(2, Math.ceil(bend.angle / step));
    return Array.from(
      { length: n - 1 },
      (_, i) => (at: Point) => dot(subtract(at, bend.origin), bend.out) - (bend.allowance * (i + 1)) / n,
    );
  },
  facets: (bend, most) => {
    const n = Math.max(3, Math.ceil(bend.angle / most));
    const at = (s: number, i: number) =>
      along(along(bend.origin, bend.axis, s), bend.out, (bend.allowance * i) / n);
    return Array.from({ length: n }, (_, i) => [
      at(0, i),
      at(bend.width, i),
      at(bend.width, i + 1),
      at(0, i + 1),
    ]);
  },
  seams: ({ origin, axis, out, width, allowance }) => ({
    parent: { origin, axis, width },
    child: { origin: along(origin, out, allowance), axis, width },
  }),
  ownFrame: ({ origin, axis, out }) => ({ origin, across: axis, along: out }),
  // Radians for each mm along, how high the neutral surface lies above the inside, way of turning.
  curl: ({ parent, bend, angle }, t) => ({
    form: "cylinder",
    motion: parent,
    numbers: [angle < FLAT ? 0 : angle / bend.allowance, bend.k * t, bend.up ? 1 : -1],
  }),
  bow: ({ origin, axis, out, up, allowance }, { angle, radius }, t) => ({
    origin,
    across: axis,
    along: out,
    straight: Number.POSITIVE_INFINITY,
    ...(angle < FLAT ? { rate: 0, radius: 0 } : { rate: angle / allowance, radius: radius + t }),
    outer: up ? "A" : "B",
  }),
};
