import { crossV, dotV, type Vector } from "../../space/vector.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Piece } from "../sheet.ts";
import type { Raised } from "./mesh.ts";
import type { PieceMesh, PieceSurface } from "./piece-mesh.ts";

/** Faces that meet at less than this go over smoothly into one another. */
const SMOOTH = Math.cos((32 * Math.PI) / 180);

/** What a graphics card takes of something formed: smooth where its section is round, sharp where it is not. */
export function formedMesh(
  piece: Piece,
  surface: PieceSurface,
  raised: ReadonlyMap<number, Raised>,
): PieceMesh {
  const { columns, faces, walls, t } = surface;
  const { origin, across, along } = kindOf(piece).ownFrame(piece);
  const own = ([u, v, w]: Vector): Vector => [
    (u - origin.x) * across.x + (v - origin.y) * across.y,
    (u - origin.x) * along.x + (v - origin.y) * along.y,
    w,
  ];
  const corners: Vector[] = [];
  const vertexOf = new Map<number, number>();
  const vertex = (column: number, side: 0 | 1): number => {
    const key = column * 2 + side;
    const known = vertexOf.get(key);
    if (known !== undefined) return known;
    const lifted = raised.get(column);
    const flat: Vector = [columns[column * 2], columns[column * 2 + 1], side === 0 ? 0 : t];
    corners.push(own(lifted ? (side === 0 ? lifted.a : lifted.b) : flat));
    vertexOf.set(key, corners.length - 1);
    return corners.length - 1;
  };
  // A mirrored frame turns every triangle over.
  const flips = across.x * along.y - across.y * along.x < 0;
  const triangles: number[] = [];
  const add = (a: number, b: number, c: number) => {
    if (flips) triangles.push(a, c, b);
    else triangles.push(a, b, c);
  };
  for (let i = 0; i < faces.length; i += 3) {
    add(vertex(faces[i], 0), vertex(faces[i + 2], 0), vertex(faces[i + 1], 0));
    add(vertex(faces[i], 1), vertex(faces[i + 1], 1), vertex(faces[i + 2], 1));
  }
  for (let i = 0; i < walls.length; i += 2) {
    const [a, b] = [walls[i], walls[i + 1]];
    add(vertex(a, 0), vertex(b, 0), vertex(b, 1));
    add(vertex(a, 0), vertex(b, 1), vertex(a, 1));
  }
  return shaded(corners, triangles);
}

/** Corners with a direction for each smooth surface that meets there, and the lines between surfaces that are not. */
function shaded(corners: readonly Vector[], triangles: readonly number[]): PieceMesh {
  const count = triangles.length / 3;
  const normals = Array.from({ length: count }, (_, k): { way: Vector; area: number } => {
    const [a, b, c] = [0, 1, 2].map((i) => corners[triangles[k * 3 + i]]);
    const n = crossV(minus(b, a), minus(c, a));
    const area = Math.sqrt(dotV(n, n));
    return { way: area > 0 ? [n[0] / area, n[1] / area, n[2] / area] : [0, 0, 0], area };
  });
  const around = corners.map((): number[] => []);
  triangles.forEach((v, i) => {
    around[v].push(Math.floor(i / 3));
  });
  const places: number[] = [];
  const ways: number[] = [];
  const made = new Map<string, number>();
  const out = triangles.map((v, i) => {
    const own = normals[Math.floor(i / 3)].way;
    let sum: Vector = [0, 0, 0];
    for (const k of around[v]) {
      const { way, area } = normals[k];
      if (dotV(way, own) >= SMOOTH || way === own)
        sum = [sum[0] + way[0] * area, sum[1] + way[1] * area, sum[2] + way[2] * area];
    }
    const length = Math.sqrt(dotV(sum, sum)) || 1;
    const n = sum.map((x) => Math.round((x / length) * 127));
    const key = `${v} ${n.join(" ")}`;
    const known = made.get(key);
    if (known !== undefined) return known;
    places.push(...corners[v]);
    ways.push(...n);
    made.set(key, places.length / 3 - 1);
    return places.length / 3 - 1;
  });
  const { sharp, tangent } = linesOf(triangles, out, normals, corners.length);
  return {
    places: Float32Array.from(places),
    ways: Int8Array.from(ways),
    triangles: Uint32Array.from(out),
    sharp: Uint32Array.from(sharp),
    tangent: Uint32Array.from(tangent),
  };
}

/** Edges at which faces meet sharply, and those that only one face has: there its plate goes on. */
function linesOf(
  triangles: readonly number[],
  drawn: readonly number[],
  normals: readonly { readonly way: Vector; readonly area: number }[],
  most: number,
): { sharp: number[]; tangent: number[] } {
  const edges = new Map<number, number>();
  const [sharp, tangent]: number[][] = [[], []];
  const unmatched = new Map<number, number>();
  triangles.forEach((v, i) => {
    const w = triangles[i % 3 === 2 ? i - 2 : i + 1];
    const mate = edges.get(w * most + v);
    if (mate === undefined) {
      edges.set(v * most + w, i);
      unmatched.set(v * most + w, i);
      return;
    }
    unmatched.delete(w * most + v);
    const [p, q] = [normals[Math.floor(i / 3)], normals[Math.floor(mate / 3)]];
    if (p.area > 1e-9 && q.area > 1e-9 && dotV(p.way, q.way) < SMOOTH)
      sharp.push(drawn[i], drawn[i % 3 === 2 ? i - 2 : i + 1]);
  });
  for (const i of unmatched.values()) tangent.push(drawn[i], drawn[i % 3 === 2 ? i - 2 : i + 1]);
  return { sharp, tangent };
}

const minus = (p: Vector, q: Vector): Vector => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
