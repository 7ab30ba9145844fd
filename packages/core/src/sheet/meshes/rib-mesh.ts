import { chordCount } from "../../plane/curve.ts";
import { crossV, dotV, type Vector } from "../../space/vector.ts";
import { extentOf, type FoldedRib, type Rib, type RibExtent, ribPlace } from "../pieces/rib-piece.ts";
import type { PieceMesh } from "./piece-mesh.ts";

/** Across its width a rib is looked at in so many steps. */
const ACROSS = 16;
/** Along each leg so many. */
const ON_LEG = 3;

/** Where the lines of a rib's surface stand: along its bend, and across it. */
export interface RibGrid {
  readonly extent: RibExtent;
  readonly along: readonly number[];
  readonly across: readonly number[];
}

/** The lines of a rib's surface, fine enough for the strip that it is pressed into. */
export function ribGrid(rib: Rib, t: number, chord: number): RibGrid {
  const extent = extentOf(rib);
  const { from, to, low, high } = extent;
  const { allowance, radius, angle } = rib.bend;
  const steps = Math.max(4, chordCount(radius + t, angle, chord));
  const between = (a: number, b: number, n: number) =>
    Array.from({ length: n }, (_, i) => a + ((b - a) * i) / n);
  return {
    extent,
    along: [...between(from, to, ACROSS), to],
    across: [
      ...between(low, 0, ON_LEG),
      ...between(0, allowance, steps),
      ...between(allowance, high, ON_LEG),
      high,
    ],
  };
}

/** Faces and walls of a rib by its columns, which are numbered along the bend line by line: see `SheetMesh`. */
export function ribFaces({ along, across }: RibGrid): { readonly faces: number[]; readonly walls: number[] } {
  const n = along.length;
  const at = (i: number, j: number) => j * n + i;
  const [faces, walls]: number[][] = [[], []];
  for (let j = 0; j + 1 < across.length; j++)
    for (let i = 0; i + 1 < n; i++)
      faces.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1));
  const m = across.length - 1;
  for (let i = 0; i + 1 < n; i++) walls.push(at(i, 0), at(i + 1, 0), at(i + 1, m), at(i, m));
  for (let j = 0; j < m; j++) walls.push(at(n - 1, j), at(n - 1, j + 1), at(0, j + 1), at(0, j));
  return { faces, walls };
}

/** Places in space of a rib's columns on side A and side B, in turn. */
export function ribColumns(grid: RibGrid, folded: FoldedRib, t: number): Vector[] {
  return grid.across.flatMap((x) =>
    grid.along.flatMap((s) => [
      ribPlace(folded, grid.extent, t, s, x, 0),
      ribPlace(folded, grid.extent, t, s, x, t),
    ]),
  );
}

/** A left-handed bend (axis, out, up) turns every face over. */
const turnsOver = ({ bend: { axis, out } }: Rib): boolean => axis.x * out.y - axis.y * out.x < 0;

/** What a graphics card takes of a rib but for where it stands, which hangs on the fold state: see `ribPlaces`. */
export function ribMesh(rib: Rib, t: number, chord: number): PieceMesh {
  const grid = ribGrid(rib, t, chord);
  const { faces } = ribFaces(grid);
  const [n, m] = [grid.along.length, grid.across.length];
  const over = turnsOver(rib);
  const triangles: number[] = [];
  const add = (a: number, b: number, c: number) => triangles.push(...(over ? [a, c, b] : [a, b, c]));
  for (let i = 0; i < faces.length; i += 3) {
    const [a, b, c] = [faces[i] * 2, faces[i + 1] * 2, faces[i + 2] * 2];
    add(a, c, b);
    add(a + 1, b + 1, c + 1);
  }
  const rim: number[] = [];
  for (let i = 0; i + 1 < n; i++) rim.push(i, i + 1, (m - 1) * n + i, (m - 1) * n + i + 1);
  for (let j = 0; j + 1 < m; j++) rim.push(j * n, (j + 1) * n, j * n + n - 1, (j + 1) * n + n - 1);
  return {
    places: new Float32Array(n * m * 6),
    ways: new Int8Array(n * m * 6),
    triangles: Uint32Array.from(triangles),
    sharp: new Uint32Array(0),
    tangent: Uint32Array.from(
      rim.flatMap((_, k) =>
        k % 2 === 0 ? [rim[k] * 2, rim[k + 1] * 2, rim[k] * 2 + 1, rim[k + 1] * 2 + 1] : [],
      ),
    ),
  };
}

/** Writes where a rib's vertices stand in a fold state, and their outward directions. */
export function ribPlaces(
  rib: Rib,
  folded: FoldedRib,
  t: number,
  chord: number,
  into: { readonly places: Float32Array; readonly ways: Int8Array; readonly triangles: ArrayLike<number> },
  first: number,
): void {
  const columns = ribColumns(ribGrid(rib, t, chord), folded, t);
  columns.forEach((p, k) => {
    into.places.set(p, (first + k) * 3);
  });
  const sums = columns.map((): [number, number, number] => [0, 0, 0]);
  const last = first + columns.length;
  for (let i = 0; i < into.triangles.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => into.triangles[i + k]);
    if (a < first || a >= last) continue;
    const [p, q, r] = [a, b, c].map((v) => columns[v - first]);
    const n = crossV([q[0] - p[0], q[1] - p[1], q[2] - p[2]], [r[0] - p[0], r[1] - p[1], r[2] - p[2]]);
    for (const v of [a, b, c]) for (const k of [0, 1, 2] as const) sums[v - first][k] += n[k];
  }
  sums.forEach((n, k) => {
    const length = Math.sqrt(dotV(n, n)) || 1;
    into.ways.set(
      n.map((v) => Math.round((v / length) * 127)),
      (first + k) * 3,
    );
  });
}
