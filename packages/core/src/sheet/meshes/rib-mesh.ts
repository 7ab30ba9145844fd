import { KeptTexts } from "../../kept.ts";
import { chordCount } from "../../plane/curve.ts";
import { point } from "../../plane/point.ts";
import { crossV, dotV, STILL, type Vector } from "../../space/vector.ts";
import type { Bend } from "../pieces/flat-pieces.ts";
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
  const { allowance, radius, angle } = rib.bend;
  return gridOf(extentOf(rib), allowance, Math.max(4, chordCount(radius + t, angle, chord)));
}

function gridOf(extent: RibExtent, allowance: number, steps: number): RibGrid {
  const { from, to, low, high } = extent;
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

function columnsWith(grid: RibGrid, folded: FoldedRib, t: number, swell: number): Vector[] {
  return grid.across.flatMap((x) =>
    grid.along.flatMap((s) => [
      ribPlace(folded, grid.extent, t, s, x, 0, swell),
      ribPlace(folded, grid.extent, t, s, x, t, swell),
    ]),
  );
}

/** Places in space of a rib's columns on side A and side B, in turn. */
export const ribColumns = (grid: RibGrid, folded: FoldedRib, t: number): Vector[] =>
  columnsWith(grid, folded, t, ribSwell(grid, folded, t));

/** Volume of the metal that a rib is pressed out of, in a fold state, mm³: that of both legs and of the bend between. */
function volumeBefore(
  { extent: { from, to, low, high } }: RibGrid,
  { bend, angle }: FoldedRib,
  t: number,
): number {
  const legs = (-low + high - bend.allowance) * t;
  // The neutral axis keeps its length: θ·(r + K·t) is the allowance at every angle.
  const strip = angle > 1e-9 ? t * (bend.allowance + angle * t * (0.5 - bend.k)) : t * bend.allowance;
  return (to - from) * (legs + strip);
}

/** Volume within a rib's faces and walls, mm³. */
function volumeOf({ faces, walls }: ReturnType<typeof ribFaces>, columns: readonly Vector[]): number {
  let six = 0;
  const about = columns[0];
  const from = (v: Vector): Vector => [v[0] - about[0], v[1] - about[1], v[2] - about[2]];
  const add = (a: Vector, b: Vector, c: Vector) => {
    six += dotV(from(a), crossV(from(b), from(c)));
  };
  for (let i = 0; i < faces.length; i += 3) {
    const [a, b, c] = [faces[i] * 2, faces[i + 1] * 2, faces[i + 2] * 2];
    add(columns[a], columns[c], columns[b]);
    add(columns[a + 1], columns[b + 1], columns[c + 1]);
  }
  for (let i = 0; i < walls.length; i += 2) {
    const [p, q] = [walls[i] * 2, walls[i + 1] * 2];
    add(columns[p], columns[q], columns[q + 1]);
    add(columns[p], columns[q + 1], columns[p + 1]);
  }
  return Math.abs(six) / 6;
}

/** A step of the swell by which the volume's change is measured. */
const TRIED = 0.25;
const MOST_SWELL = 5;

/** What the swell of a rib hangs on: nothing of where it is. */
type SwellOf = readonly [
  ...grid: readonly [to: number, low: number, high: number, steps: number],
  ...bend: readonly [allowance: number, radius: number, k: number, whole: number, up: boolean],
  ...state: readonly [angle: number, t: number],
];

/** Swells by what they hang on: of many ribs of one bend, in every frame of folding, it is found once. */
const swells = new KeptTexts((text) => {
  const [to, low, high, steps, allowance, radius, k, whole, up, angle, t] = JSON.parse(text) as SwellOf;
  const bend = {
    origin: point(0, 0),
    axis: point(1, 0),
    out: point(0, 1),
    allowance,
    radius,
    k,
    angle: whole,
    up,
  };
  const folded = { kind: "rib", parent: STILL, bend: bend as unknown as Bend, angle } as const;
  const grid = gridOf({ from: 0, to, low, high }, allowance, steps);
  const wanted = volumeBefore(grid, folded, t);
  const shape = ribFaces(grid);
  const missing = (swell: number) => wanted - volumeOf(shape, columnsWith(grid, folded, t, swell));
  let [last, swell] = [0, TRIED];
  let before = missing(last);
  for (let i = 0; i < 4; i++) {
    const now = missing(swell);
    if (Math.abs(now) < 1e-9 * wanted || now === before) break;
    const next = swell - (now * (swell - last)) / (now - before);
    [last, before] = [swell, now];
    swell = Math.max(-0.9, Math.min(MOST_SWELL, next));
  }
  return swell;
}, 400);

/**
 * By which share a rib is thicker in its middle than the sheet that would only be moved there, so that it keeps the volume of
 * the metal it is pressed out of: straight across the corner there is less way than round it.
 */
export function ribSwell({ extent, across }: RibGrid, { bend, angle }: FoldedRib, t: number): number {
  if (angle < 1e-9) return 0;
  const { from, to, low, high } = extent;
  const of: SwellOf = [
    ...([to - from, low, high, across.length - 1 - 2 * ON_LEG] as const),
    ...([bend.allowance, bend.radius, bend.k, bend.angle, bend.up] as const),
    ...([angle, t] as const),
  ];
  return swells.of(JSON.stringify(of));
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
