import { curvesOfShape } from "../../outline/from-shapes.ts";
import { combine } from "../../plane/boolean.ts";
import {
  arcAngles,
  type Curve,
  curveBounds,
  curvesBounds,
  directionAt,
  line,
  pointAt,
  reversed,
  withEnds,
  withTags,
} from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import { type Isometry, moveCurve, moveLoop, translation } from "../../plane/isometry.ts";
import { type Loop, loopArea, loopBounds, loopsBounds } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { type Bounds, boundsMeet, hypotenuse, type Point, point } from "../../plane/point.ts";
import { insideLoop } from "../../plane/stitch.ts";
import type { OpenDraft } from "../../sheet/draft.ts";
import { foldedPlace } from "../../sheet/folding/folded-place.ts";
import { shapeMetal } from "../../sheet/shaping/metal.ts";
import { dotV, inverse, lengthV, type Motion, moveV, STILL, turnV, type Vector } from "../../space/vector.ts";

/** Borders that are neither lines nor arcs are drawn as those that stay so near to them, mm. */
export const BORDER_WITHIN = 1e-3;
/** A plate that leans from the direction by less, as a sine, is met edgeways. */
const EDGEWAYS = 1e-3;

/** Straight out of side B of a plate. */
export const SQUARE: Vector = [0, 0, 1];

/** Which way a cut goes on through the folded part, square to its plate. */
export type Way = "both" | "a" | "b";

/** What a cut meets on its way, and where. */
export interface OnTheWay {
  readonly plate: string;
  /** How far from the cut's own plate, mm along its way; the mean over the plate's thickness. */
  readonly far: number;
  /** The opening that lets everything through that goes through the cut: developed, counter-clockwise. */
  readonly loops: readonly Loop[];
}

/** How a cut's outline comes to lie on one face of another plate: (u, v) goes to o + x·u + y·v. */
interface Projection {
  readonly o: Point;
  readonly x: Point;
  readonly y: Point;
  /** How far it has to go: at the origin, and how that grows with u and v. */
  readonly far: readonly [number, number, number];
}

/**
 * Plates of the folded part that a cut's outline meets when it goes straight on from its own plate, and the openings it
 * needs there. On a plate that lies parallel it is the same outline; on one that leans it is what is seen of it from
 * there: circles become ellipses (within `BORDER_WITHIN`), and the outlines on both faces and all between them are one
 * opening, so that what is straight goes through.
 *
 * @param lean The direction that it goes on in, in the plate's developed coordinates and up from it: of length 1.
 * @returns For each of very many cuts of one plate: what stands in the way is looked at once.
 */
export function plateWay(
  draft: OpenDraft,
  own: ReadonlySet<string>,
  plate: string,
  way: Way,
  lean: Vector = SQUARE,
): (loops: readonly Loop[]) => OnTheWay[] {
  const from = foldedPlace(draft, plate);
  const standing = draft.pieces.plates().flatMap(({ id, metal }) => {
    const faces = own.has(id) ? undefined : projections(from, foldedPlace(draft, id), draft.t, lean);
    if (!faces) return [];
    const borders = shapeMetal(metal).regions.flatMap((r) => [...r.outer, ...r.holes.flat()]);
    const near = new NearCurves(borders.map((curve) => ({ curve, box: curveBounds(curve) })));
    return [{ id, faces, near, box: curvesBounds(borders) }];
  });
  return (loops) => {
    const out: OnTheWay[] = [];
    for (const { id, faces, near, box } of standing) {
      const seen = faces.flatMap((face) => corners(loops).map((p) => projected(face, p)));
      if (!boundsMeet(boundsOf(seen), box)) continue;
      const far = corners(loops).reduce((sum, p) => sum + faces.reduce((s, f) => s + farAt(f, p), 0), 0) / 8;
      if ((way === "a" && far > 0) || (way === "b" && far < 0)) continue;
      const made = loops.flatMap((loop) => letThrough(loop, ...faces));
      if (made.some((loop) => meetsMetal(loop, near))) out.push({ plate: id, far, loops: made });
    }
    return out.sort((p, q) => Math.abs(p.far) - Math.abs(q.far));
  };
}

export const boundsOf = (points: readonly Point[]): Bounds => curvesBounds(points.map((p) => line(p, p)));

/** Whether an opening takes anything of metal with some borders: it lies in it, crosses a border, or holds one. */
function meetsMetal(
  loop: Loop,
  borders: NearCurves<{ readonly curve: Curve; readonly box: Bounds }>,
): boolean {
  if (borders.covers(pointAt(loop[0], 0.5), (b) => b.curve)) return true;
  return borders.some(
    loopBounds(loop),
    ({ curve }) => insideLoop(loop, curve.a) || loop.some((c) => intersectCurves(c, curve).length > 0),
  );
}

const corners = (loops: readonly Loop[]): Point[] => {
  const { minX, minY, maxX, maxY } = loopsBounds(loops);
  return [point(minX, minY), point(maxX, minY), point(maxX, maxY), point(minX, maxY)];
};

const projected = ({ o, x, y }: Projection, p: Point): Point =>
  point(o.x + x.x * p.x + y.x * p.y, o.y + x.y * p.x + y.y * p.y);

/** On the two faces of a plate; nothing where it is met edgeways. */
function projections(
  from: Motion,
  to: Motion,
  t: number,
  lean: Vector,
): readonly [Projection, Projection] | undefined {
  const through = turnV(from, lean);
  const slant = dotV(through, to.z);
  if (Math.abs(slant) < EDGEWAYS) return undefined;
  const back = inverse(to);
  const direction = turnV(back, through);
  const face = (w: number): Projection => {
    const start = moveV(back, from.o);
    const [u, v] = [turnV(back, from.x), turnV(back, from.y)];
    const fars = [(w - start[2]) / direction[2], -u[2] / direction[2], -v[2] / direction[2]] as const;
    const [o, x, y] = [start, u, v].map((p, i) =>
      point(p[0] + direction[0] * fars[i], p[1] + direction[1] * fars[i]),
    );
    return { o, x, y, far: fars };
  };
  return [face(0), face(t)];
}

const farAt = ({ far: [o, x, y] }: Projection, p: Point): number => o + x * p.x + y * p.y;

/**
 * The outline that a straight rod has on a plate that it goes through aslant: drawn out along the way in which it leans, by one
 * over the cosine of how far.
 */
export function outlineOfRod(loop: Loop, centre: Point, lean: Vector): Loop {
  const sine = hypotenuse(lean[0], lean[1]);
  const [dx, dy] = [lean[0] / sine, lean[1] / sine];
  const more = lengthV(lean) / Math.abs(lean[2]) - 1;
  const x = point(1 + more * dx * dx, more * dx * dy);
  const y = point(more * dx * dy, 1 + more * dy * dy);
  const o = point(centre.x - x.x * centre.x - y.x * centre.y, centre.y - x.y * centre.x - y.y * centre.y);
  return onFace(loop, { o, x, y, far: [0, 0, 0] });
}

/** What a cut has to be on its own plate, so that what leans from square to it goes through. */
export function leaningThrough(loop: Loop, t: number, lean: Vector): Loop[] {
  const faces = projections(STILL, STILL, t, lean);
  return faces ? letThrough(loop, ...faces) : [loop];
}

/** The opening on a plate that lets a cut's outline through: on both its faces, and between them. */
function letThrough(loop: Loop, a: Projection, b: Projection): Loop[] {
  const shift = point(b.o.x - a.o.x, b.o.y - a.o.y);
  const first = onFace(loop, a);
  if (hypotenuse(shift.x, shift.y) < 1e-7) return [first];
  const across = translation(shift);
  const last = moveLoop(across, first);
  const swept = first
    .flatMap((c) => piecesAlong(c, shift))
    .map((c): Loop => {
      const end = moveCurve(across, c);
      const round = [c, line(c.b, end.b), reversed(end), line(end.a, c.a)];
      return loopArea(round) < 0 ? round.map(reversed).reverse() : round;
    });
  const whole = swept.filter((l) => loopArea(l) > 1e-9);
  return combine([[first, last, ...whole]], ([n]) => n > 0).filter((l) => loopArea(l) > 0);
}

/** An arc in pieces of which none runs along a direction anywhere but at its ends: moved that way, each sweeps one area. */
function piecesAlong(c: Curve, shift: Point): Curve[] {
  if (c.kind === "line") return [c];
  const { start, sweep } = arcAngles(c);
  const square = Math.atan2(shift.y, shift.x) + Math.PI / 2;
  const shares = [0, Math.PI]
    .map((k) => {
      const turned = (square + k - start) / (2 * Math.PI);
      const wrapped = (turned - Math.floor(turned)) * 2 * Math.PI;
      return (sweep > 0 ? wrapped : wrapped - 2 * Math.PI) / sweep;
    })
    .filter((f) => f > 1e-9 && f < 1 - 1e-9)
    .sort((p, q) => p - q);
  const ends = [c.a, ...shares.map((f) => pointAt(c, f)), c.b];
  return ends.slice(1).map((b, i) => withEnds(c, ends[i], b));
}

/** A loop as it comes to lie on a face, counter-clockwise. */
function onFace(loop: Loop, face: Projection): Loop {
  const { o, x, y } = face;
  const flips = x.x * y.y - x.y * y.x < 0;
  const square = Math.abs(x.x * y.x + x.y * y.y) < 1e-9 && Math.abs(hypotenuse(x.x, x.y) - 1) < 1e-9;
  const rigid = square && Math.abs(hypotenuse(y.x, y.y) - 1) < 1e-9;
  const move: Isometry = { xx: x.x, xy: y.x, yx: x.y, yy: y.y, ox: o.x, oy: o.y, flips };
  const out = rigid ? moveLoop(move, loop) : loop.flatMap((c) => stretched(c, face));
  return loopArea(out) < 0 ? out.map(reversed).reverse() : out;
}

/** A curve as it comes to lie on a plate that leans. */
function stretched(c: Curve, face: Projection): Curve[] {
  const ends = { a: projected(face, c.a), b: projected(face, c.b) };
  if (c.kind === "line") return [{ ...c, ...ends }];
  const { x, y } = face;
  const sweep = arcAngles(c).sweep;
  const made = curvesOfShape(
    {
      kind: "smooth",
      at: (t) => {
        const p = projected(face, pointAt(c, t));
        return [p.x, p.y];
      },
      way: (t) => {
        const d = directionAt(c, t);
        return [x.x * d.x + y.x * d.y, x.y * d.x + y.y * d.y];
      },
    },
    Math.min(BORDER_WITHIN, Math.abs(sweep) * c.r),
  );
  return made.map((piece) => withTags(piece, c));
}
