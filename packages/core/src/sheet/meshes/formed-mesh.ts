import { formSurface } from "../../forming/form-surface.ts";
import type { FormShape } from "../../forming/section.ts";
import { Kept } from "../../kept.ts";
import { intoFrame, movePoint } from "../../plane/isometry.ts";
import { crossV, dotV, type Vector } from "../../space/vector.ts";
import type { Formed } from "../pieces/formed-piece.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { PieceMesh } from "./piece-mesh.ts";

/** Faces that meet at less than this go over smoothly into one another. */
const SMOOTH = Math.cos((32 * Math.PI) / 180);

/** Meshes of shapes that are alike, by their outlines in their own frames. */
const alike = new Kept((_shape: FormShape): Map<string, PieceMesh> => new Map());

/**
 * What a graphics card takes of something formed: smooth where its section is round, sharp where it is not. Shapes of one
 * step are mostly alike but for where they stand: they have one mesh.
 */
export function formedMesh(piece: Formed, t: number, chord: number): PieceMesh {
  if (piece.openings.length > 0 && !piece.shape.open) return meshOf(piece, t, chord);
  const own = intoFrame(piece.frame);
  const numbers = piece.outline.flatMap((c) => {
    const points = [c.a, c.b, ...(c.kind === "arc" ? [c.c] : [])].map((p) => movePoint(own, p));
    return [c.name ?? "", ...points.flatMap((p) => [p.x, p.y]).map((v) => Math.round(v * 1e7))];
  });
  const key = `${t} ${chord} ${numbers.join(" ")}`;
  const known = alike.of(piece.shape);
  const mesh = known.get(key) ?? meshOf(piece, t, chord);
  known.set(key, mesh);
  return mesh;
}

function meshOf(piece: Formed, t: number, chord: number): PieceMesh {
  const { sideA, sideB, faces, walls } = formSurface(piece, t, chord);
  const { origin, across, along } = kindOf(piece).ownFrame(piece);
  const own = ([u, v, w]: Vector): Vector => [
    (u - origin.x) * across.x + (v - origin.y) * across.y,
    (u - origin.x) * along.x + (v - origin.y) * along.y,
    w,
  ];
  const corners = sideA.flatMap((a, k) => [own(a), own(sideB[k])]);
  const triangles: number[] = [];
  for (let i = 0; i < faces.length; i += 3) {
    const [a, b, c] = [faces[i] * 2, faces[i + 1] * 2, faces[i + 2] * 2];
    triangles.push(a, c, b, a + 1, b + 1, c + 1);
  }
  for (let i = 0; i < walls.length; i += 2) {
    const [a, b] = [walls[i] * 2, walls[i + 1] * 2];
    triangles.push(a, b, b + 1, a, b + 1, a + 1);
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
