import { type Curve, curveBounds, flattenCurve } from "../../plane/curve.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { NearPlaces } from "../../plane/near-places.ts";
import { type Bounds, hypotenuse, type Point } from "../../plane/point.ts";

/** A box that a note takes: its middle, its half sizes, and how it is turned. */
export interface NoteBox {
  readonly x: number;
  readonly y: number;
  readonly halfWidth: number;
  readonly halfHeight: number;
  readonly turn: number;
}

/** A note that wants a place: how large it is, and where it would like to stand, the best first. */
export interface NoteWish {
  readonly key: string;
  readonly width: number;
  readonly height: number;
  readonly places: Iterable<{ readonly x: number; readonly y: number; readonly turn: number }>;
  /** Curves that it may stand on: its own line. */
  readonly own?: ReadonlySet<Curve>;
  /** Whether a place will do, besides that nothing is covered there. */
  readonly fits?: (box: NoteBox) => boolean;
}

/** A turn at which text is read from the foot or from the right, never upside down. */
export function readable(turn: number): number {
  const t = turn - Math.PI * Math.round(turn / Math.PI);
  return t <= -Math.PI / 2 + 1e-9 ? t + Math.PI : t;
}

export const cornersOf = ({ x, y, halfWidth: w, halfHeight: h, turn }: NoteBox): Point[] => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([u, v]) => ({ x: x + u * c - v * s, y: y + u * s + v * c }));
};

function boundsOf(points: readonly Point[]): Bounds {
  return {
    minX: Math.min(...points.map((p) => p.x)),
    minY: Math.min(...points.map((p) => p.y)),
    maxX: Math.max(...points.map((p) => p.x)),
    maxY: Math.max(...points.map((p) => p.y)),
  };
}

/** Whether a straight piece comes into a box, by what is left of it between the box's four sides. */
function meetsBox({ x, y, halfWidth, halfHeight, turn }: NoteBox, a: Point, b: Point): boolean {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const into = (p: Point) => [(p.x - x) * c + (p.y - y) * s, (p.y - y) * c - (p.x - x) * s] as const;
  const [p, q] = [into(a), into(b)];
  let [from, to] = [0, 1];
  for (const [i, half] of [halfWidth, halfHeight].entries()) {
    const [start, step] = [p[i], q[i] - p[i]];
    if (Math.abs(step) < 1e-12) {
      if (Math.abs(start) >= half) return false;
      continue;
    }
    const [u, v] = [(-half - start) / step, (half - start) / step];
    from = Math.max(from, Math.min(u, v));
    to = Math.min(to, Math.max(u, v));
    if (from >= to) return false;
  }
  return true;
}

/** Whether two boxes lie over one another: they do unless a side of one parts them. */
function boxesMeet(p: NoteBox, q: NoteBox): boolean {
  const [one, other] = [cornersOf(p), cornersOf(q)];
  for (const turn of [p.turn, p.turn + Math.PI / 2, q.turn, q.turn + Math.PI / 2]) {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const along = (list: readonly Point[]) => list.map((v) => v.x * c + v.y * s);
    const [u, v] = [along(one), along(other)];
    if (Math.max(...u) <= Math.min(...v) || Math.max(...v) <= Math.min(...u)) return false;
  }
  return true;
}

/** A curve as chords this much nearer to it than a note's height. */
const FINENESS = 0.03;

/** The curves that no note may cover, found by where they lie; laid out once for all sizes that notes are placed in. */
export type InTheWay = NearCurves<{ readonly curve: Curve; readonly box: Bounds }>;

export const inTheWay = (curves: readonly Curve[]): InTheWay =>
  new NearCurves(curves.map((curve) => ({ curve, box: curveBounds(curve) })));

/**
 * Finds a place for each note at which it covers no curve and no other note, in the order of the wishes; those for which
 * there is none are not among the answers.
 */
export function placeNotes(wishes: readonly NoteWish[], things: InTheWay): ReadonlyMap<string, NoteBox> {
  const found = new Map<string, NoteBox>();
  // Two boxes that meet have their middles no farther apart than the largest is from corner to corner.
  const largest = wishes.reduce((m, w) => Math.max(m, hypotenuse(w.width, w.height)), 0);
  const taken = new NearPlaces<NoteBox>(largest || 1);
  const covers = (box: NoteBox, own: ReadonlySet<Curve> | undefined): boolean =>
    taken.near(box, largest).some((t) => boxesMeet(t.thing, box)) ||
    things.near(boundsOf(cornersOf(box))).some(({ curve }) => {
      if (own?.has(curve)) return false;
      if (curve.kind === "line") return meetsBox(box, curve.a, curve.b);
      const points = [...flattenCurve(curve, box.halfHeight * FINENESS), curve.b];
      return points.slice(1).some((p, i) => meetsBox(box, points[i], p));
    });
  for (const { key, width, height, places, own, fits } of wishes)
    for (const place of places) {
      const box = { ...place, halfWidth: width / 2, halfHeight: height / 2 };
      if (covers(box, own) || fits?.(box) === false) continue;
      found.set(key, box);
      taken.add(box, box);
      break;
    }
  return found;
}

const SHARES = [0.5, 0.35, 0.65, 0.25, 0.75, 0.15, 0.85];

/**
 * Places for a note at a line: on it, or beside it at a distance on either side, from its middle outwards; then ever
 * farther off, all around it.
 */
export function* placesAlong(
  a: Point,
  b: Point,
  beside: readonly number[],
  far = 0,
): Generator<{ x: number; y: number; turn: number }> {
  const turn = readable(Math.atan2(b.y - a.y, b.x - a.x));
  const [nx, ny] = [-Math.sin(turn), Math.cos(turn)];
  for (const off of beside)
    for (const f of SHARES)
      yield { x: a.x + (b.x - a.x) * f + nx * off, y: a.y + (b.y - a.y) * f + ny * off, turn };
  if (far <= 0) return;
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  for (let ring = 1; ring <= 24; ring++)
    for (let k = 0; k < 16; k++) {
      const angle = (k / 16) * 2 * Math.PI;
      yield {
        x: middle.x + Math.cos(angle) * ring * far,
        y: middle.y + Math.sin(angle) * ring * far,
        turn: 0,
      };
    }
}
