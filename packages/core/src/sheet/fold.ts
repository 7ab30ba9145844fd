import { cross, dot, type Point, subtract } from "../plane/point.ts";
import { compose, inverse, type Motion, moveV, STILL, turnV, type Vector } from "../space/vector.ts";
import type { Bend, Sheet } from "./sheet.ts";

/** How far each bend is folded, 0 flat to 1 full, in the order of `sheet.bends`. */
export type FoldState = readonly number[];

/** A bend in one fold state: the motion of the plate it starts from, and its turned-so-far angle. */
export interface FoldedBend {
  readonly parent: Motion;
  readonly bend: Bend;
  readonly angle: number;
  /** Inside radius in this state; the neutral axis keeps its length. Infinite when flat. */
  readonly radius: number;
}

/** Where every plate and bend of a sheet stands in one fold state. */
export interface Folding {
  readonly t: number;
  readonly plates: readonly Motion[];
  readonly bends: readonly FoldedBend[];
}

const FLAT = 1e-9;

/** The whole part at one share of folding, with some bends held flat. */
export const evenState = (sheet: Sheet, share: number, held: ReadonlySet<string> = new Set()): FoldState =>
  sheet.bends.map((b) => (held.has(b.id) ? 0 : share));

/**
 * Folds a sheet. The anchor plate stays where it is in developed coordinates; by default that is
 * the first plate.
 */
export function foldSheet(sheet: Sheet, state: FoldState, anchor?: string): Folding {
  const motions = new Map<string, Motion>(sheet.roots.map((r) => [r.plate, r.place]));
  const bends: FoldedBend[] = [];
  const waiting = new Map(sheet.bends.map((b, i) => [b.child, { bend: b, state: state[i] }]));
  const motionOf = (plate: string): Motion => {
    const known = motions.get(plate);
    if (known) return known;
    const { bend, state: s } = waiting.get(plate)!;
    const motion = compose(motionOf(bend.parent), bendMotion(bend, sheet.t, s * bend.angle, bend.allowance));
    motions.set(plate, motion);
    return motion;
  };
  const plates = sheet.plates.map((p) => motionOf(p.id));
  sheet.bends.forEach((bend, i) => {
    const angle = state[i] * bend.angle;
    bends.push({ parent: motionOf(bend.parent), bend, angle, radius: radiusAt(bend, sheet.t, angle) });
  });
  const still = anchor !== undefined ? motions.get(anchor) : undefined;
  if (!still || anchor === sheet.roots[0].plate) return { t: sheet.t, plates, bends };
  const back = inverse(still);
  return {
    t: sheet.t,
    plates: plates.map((m) => compose(back, m)),
    bends: bends.map((b) => ({ ...b, parent: compose(back, b.parent) })),
  };
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
export function motionInBend({ parent, bend, angle }: FoldedBend, t: number, p: Point): Motion {
  const x = dot(subtract(p, bend.origin), bend.out);
  return compose(parent, bendMotion(bend, t, angle, x));
}

/**
 * Carries a developed point (u, v, w) into space. `owner` counts plates first, then bends:
 * `i` for `sheet.plates[i]`, `plates.length + j` for `sheet.bends[j]`.
 */
export function foldPoint(folding: Folding, owner: number, p: Vector): Vector {
  const count = folding.plates.length;
  if (owner < count) return moveV(folding.plates[owner], p);
  return moveV(motionInBend(folding.bends[owner - count], folding.t, { x: p[0], y: p[1] }), p);
}

/** The developed point of a folded one: the inverse of `foldPoint` on the same owner. */
export function unfoldPoint(folding: Folding, owner: number, q: Vector): Vector {
  const count = folding.plates.length;
  if (owner < count) return moveV(inverse(folding.plates[owner]), q);
  const { parent, bend, angle, radius } = folding.bends[owner - count];
  const local = moveV(inverse(parent), q);
  if (angle < FLAT) return local;
  const { t } = folding;
  const d = subtract({ x: local[0], y: local[1] }, bend.origin);
  const forward = dot(d, bend.out);
  const side = cross(bend.axis, bend.out) > 0 ? dot(d, bend.axis) : -dot(d, bend.axis);
  // From the centre of the bend: an up bend curls about a point above side B, a down bend below side A.
  const drop = bend.up ? t + radius - local[2] : local[2] + radius;
  let phi = Math.atan2(forward, drop);
  if (phi < -0.1) phi += 2 * Math.PI;
  const x = (phi / angle) * bend.allowance;
  return [
    bend.origin.x + bend.axis.x * side + bend.out.x * x,
    bend.origin.y + bend.axis.y * side + bend.out.y * x,
    heightInBend(local[2], forward, drop, phi, folding.bends[owner - count], t),
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
  const rho = Math.hypot(forward, drop);
  return bend.up ? radius + t - rho : rho - radius;
}
