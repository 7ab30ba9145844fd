import { addV, crossV, dotV, lengthV, scaleV, type Vector } from "../space/vector.ts";

/**
 * A convex body with eight corners and six sides: a patch of sheet. Corner 4·i + 2·j + k lies at the patch's
 * beginning or end (i), left or right (j), on side A or B (k). Corners may coincide where a patch is a wedge.
 */
export interface Convex {
  readonly corners: readonly Vector[];
  /** Flat faces as lists of corners, walked about the outward normal of the same place in `normals`. */
  readonly faces: readonly (readonly number[])[];
  readonly normals: readonly Vector[];
  /** Directions of its edges, each once. */
  readonly edges: readonly Vector[];
  readonly min: Vector;
  readonly max: Vector;
}

const SIDES = [
  [0, 2, 6, 4],
  [1, 5, 7, 3],
  [0, 1, 3, 2],
  [4, 6, 7, 5],
  [0, 4, 5, 1],
  [2, 3, 7, 6],
] as const;

/** Pairs of corners that an edge joins. */
export const EDGES: readonly (readonly [number, number])[] = [
  ...([0, 1, 4, 5] as const).map((i) => [i, i + 2] as const),
  ...([0, 1, 2, 3] as const).map((i) => [i, i + 4] as const),
  ...([0, 2, 4, 6] as const).map((i) => [i, i + 1] as const),
];

/** Lengths (mm) and sines below which nothing has a direction. */
const NOTHING = 1e-10;
const PARALLEL = 1e-9;

const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

function unit(v: Vector): Vector | undefined {
  const length = lengthV(v);
  return length > NOTHING ? scaleV(v, 1 / length) : undefined;
}

const isNew = (known: readonly Vector[], v: Vector): boolean =>
  known.every((w) => Math.abs(dotV(v, w)) < 1 - 1e-14);

/** A body from its eight corners. Sides that are not flat are folded outwards, so that it stays convex. */
export function convexOf(corners: readonly Vector[]): Convex {
  const centre = scaleV(
    corners.reduce((sum, c) => addV(sum, c), [0, 0, 0] as Vector),
    1 / corners.length,
  );
  const faces: (readonly number[])[] = [];
  const normals: Vector[] = [];
  const take = (face: readonly number[], normal: Vector | undefined) => {
    if (!normal) return;
    const outward = dotV(normal, minus(corners[face[0]], centre)) >= 0;
    faces.push(outward ? face : [...face].reverse());
    normals.push(outward ? normal : scaleV(normal, -1));
  };
  const triangle = (a: number, b: number, c: number) =>
    take([a, b, c], unit(crossV(minus(corners[b], corners[a]), minus(corners[c], corners[a]))));
  const edges: Vector[] = [];
  for (const [a, b] of EDGES) {
    const d = unit(minus(corners[b], corners[a]));
    if (d && isNew(edges, d)) edges.push(d);
  }
  for (const [a, b, c, d] of SIDES) {
    const across = minus(corners[c], corners[a]);
    const normal = unit(crossV(across, minus(corners[d], corners[b])));
    const twist = normal ? dotV(normal, minus(corners[b], corners[a])) : 0;
    if (Math.abs(twist) < 1e-9) {
      take([a, b, c, d], normal);
      continue;
    }
    // Of the two diagonals the one that lies farther out.
    const outward = dotV(normal!, minus(corners[a], centre)) >= 0 ? 1 : -1;
    const [p, q, r, s] = twist * outward < 0 ? [a, b, c, d] : [b, c, d, a];
    triangle(p, q, r);
    triangle(p, r, s);
    const diagonal = unit(minus(corners[r], corners[p]));
    if (diagonal && isNew(edges, diagonal)) edges.push(diagonal);
  }
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const c of corners)
    for (const k of [0, 1, 2] as const) {
      if (c[k] < min[k]) min[k] = c[k];
      if (c[k] > max[k]) max[k] = c[k];
    }
  return {
    corners,
    faces,
    normals,
    edges,
    min,
    max,
  };
}

/** How far the second of two bodies must go along `axis`, mm, until it is past the first. */
export function wayOut(a: Convex, b: Convex, axis: Vector): number {
  let most = -Infinity;
  let least = Infinity;
  for (const c of a.corners) {
    const at = c[0] * axis[0] + c[1] * axis[1] + c[2] * axis[2];
    if (at > most) most = at;
  }
  for (const c of b.corners) {
    const at = c[0] * axis[0] + c[1] * axis[1] + c[2] * axis[2];
    if (at < least) least = at;
  }
  return most - least;
}

/** Directions along which the gap between two bodies, or the way out of one another, can be decided. */
export function* axesOf(a: Convex, b: Convex): Generator<Vector> {
  yield* a.normals;
  yield* b.normals;
  yield* edgeAxes(a, b);
}

/** Directions square to an edge of each of two bodies. */
export function* edgeAxes(a: Convex, b: Convex): Generator<Vector> {
  for (const p of a.edges)
    for (const q of b.edges) {
      const axis = crossV(p, q);
      const length = lengthV(axis);
      if (length > PARALLEL) yield scaleV(axis, 1 / length);
    }
}

/**
 * How deep two bodies stand in one another, mm: the shortest way that parts them. Nought or less when they are
 * apart; looking stops at the first direction along which they overlap by no more than `enough`.
 */
export function overlapDepth(a: Convex, b: Convex, enough = 0): number {
  for (const k of [0, 1, 2] as const) {
    const [over, under] = [a.max[k] - b.min[k], b.max[k] - a.min[k]];
    if (over <= enough || under <= enough) return Math.min(over, under);
  }
  let least = Infinity;
  for (const axis of axesOf(a, b)) {
    const out = Math.min(wayOut(a, b, axis), wayOut(b, a, axis));
    if (out < least) {
      least = out;
      if (least <= enough) return least;
    }
  }
  return least;
}

/** Faces that are no farther apart lie in one plane, mm. */
const IN_PLANE = 1e-9;

/** What is left of a flat polygon behind every face of a body. `strict`: what lies in a face of the same normal is left out. */
function clipped(polygon: readonly Vector[], by: Convex, normal: Vector, strict: boolean): Vector[] {
  let left = [...polygon];
  by.normals.forEach((n, i) => {
    if (left.length === 0) return;
    const limit = dotV(n, by.corners[by.faces[i][0]]);
    const heights = left.map((p) => dotV(n, p) - limit);
    if (dotV(n, normal) > 1 - 1e-12 && heights.every((h) => Math.abs(h) < IN_PLANE)) {
      // In the plane of a side of the other: one of the two faces is kept, however rounding has put them.
      if (strict) left = [];
      return;
    }
    const kept: Vector[] = [];
    left.forEach((p, j) => {
      const q = left[(j + 1) % left.length];
      const [hp, hq] = [heights[j], heights[(j + 1) % left.length]];
      if (hp <= 0) kept.push(p);
      if (hp < 0 === hq < 0 || hp === 0 || hq === 0) return;
      const f = hp / (hp - hq);
      kept.push([p[0] + (q[0] - p[0]) * f, p[1] + (q[1] - p[1]) * f, p[2] + (q[2] - p[2]) * f]);
    });
    left = kept.length < 3 ? [] : kept;
  });
  return left;
}

/** The border of what two bodies share: flat polygons, walked about their outward normals. */
export function sharedFaces(a: Convex, b: Convex): Vector[][] {
  const of = (body: Convex, other: Convex, strict: boolean) =>
    body.faces
      .map((face, i) =>
        clipped(
          face.map((c) => body.corners[c]),
          other,
          body.normals[i],
          strict,
        ),
      )
      .filter((p) => p.length > 2);
  return [...of(a, b, false), ...of(b, a, true)];
}

/** A border is closed where its areas, each along its normal, cancel out to this share of their sum, or to this many mm². */
const CLOSED = 1e-6;
const CLOSED_AREA = 1e-8;

/** Volume within a border of flat polygons, mm³, summed about one of its points; nothing where the border does not close. */
export function volumeWithin(faces: readonly (readonly Vector[])[]): number | undefined {
  if (faces.length === 0) return 0;
  const about = faces[0][0];
  let six = 0;
  let open: Vector = [0, 0, 0];
  let whole = 0;
  for (const face of faces) {
    const p = minus(face[0], about);
    let area: Vector = [0, 0, 0];
    for (let i = 1; i + 1 < face.length; i++) {
      six += dotV(p, crossV(minus(face[i], about), minus(face[i + 1], about)));
      area = addV(area, crossV(minus(face[i], face[0]), minus(face[i + 1], face[0])));
    }
    open = addV(open, area);
    whole += lengthV(area);
  }
  return lengthV(open) <= Math.max(CLOSED * whole, CLOSED_AREA) ? six / 6 : undefined;
}

/** Two points, one on each body, and how far they are apart, mm. */
export interface Nearest {
  readonly distance: number;
  readonly from: Vector;
  readonly to: Vector;
}

const between = (from: Vector, to: Vector): Nearest => {
  const d = minus(to, from);
  return { distance: lengthV(d), from, to };
};

/** The nearest points of two segments. */
function segments(p: Vector, p1: Vector, q: Vector, q1: Vector): Nearest {
  const [u, v, w] = [minus(p1, p), minus(q1, q), minus(p, q)];
  const [a, b, c, d, e] = [dotV(u, u), dotV(u, v), dotV(v, v), dotV(u, w), dotV(v, w)];
  const clamp = (x: number) => Math.max(0, Math.min(1, x));
  const det = a * c - b * b;
  let s = a < NOTHING * NOTHING ? 0 : det > 1e-12 * a * c ? clamp((b * e - c * d) / det) : 0;
  const t = c < NOTHING * NOTHING ? 0 : clamp((b * s + e) / c);
  if (a >= NOTHING * NOTHING) s = clamp((b * t - d) / a);
  return between(addV(p, scaleV(u, s)), addV(q, scaleV(v, t)));
}

/** Whether a point straight above a face stands within its border. */
function within(body: Convex, face: readonly number[], normal: Vector, p: Vector): boolean {
  return face.every((c, i) => {
    const from = body.corners[c];
    const side = minus(body.corners[face[(i + 1) % face.length]], from);
    return dotV(crossV(side, minus(p, from)), normal) >= -1e-12;
  });
}

/** The nearest points of two bodies that do not overlap. */
export function nearest(a: Convex, b: Convex): Nearest {
  let best: Nearest = between(a.corners[0], b.corners[0]);
  const offer = (n: Nearest) => {
    if (n.distance < best.distance) best = n;
  };
  for (const [i, j] of EDGES)
    for (const [k, l] of EDGES) offer(segments(a.corners[i], a.corners[j], b.corners[k], b.corners[l]));
  const above = (body: Convex, other: Convex, swap: boolean) =>
    body.faces.forEach((face, i) => {
      const n = body.normals[i];
      const limit = dotV(n, body.corners[face[0]]);
      for (const c of other.corners) {
        const h = dotV(n, c) - limit;
        if (h < 0 || h >= best.distance || !within(body, face, n, c)) continue;
        const foot = addV(c, scaleV(n, -h));
        offer(swap ? between(c, foot) : between(foot, c));
      }
    });
  above(a, b, false);
  above(b, a, true);
  return best;
}
