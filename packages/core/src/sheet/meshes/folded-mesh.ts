import type { Mesh } from "../../space/mesh.ts";
import { moveV, turnV } from "../../space/vector.ts";
import { type Folding, motionAt } from "../folding/fold.ts";
import type { SheetMesh } from "./mesh.ts";

/** A folding's mesh: vertex 2k is column k on side A, 2k + 1 on side B. */
export function foldMesh(mesh: SheetMesh, folding: Folding): Mesh {
  const count = mesh.columnOwner.length;
  const positions = new Float64Array(count * 6);
  for (let k = 0; k < count; k++) {
    const p = { x: mesh.columns[k * 2], y: mesh.columns[k * 2 + 1] };
    const motion = motionAt(folding, mesh.columnOwner[k], p);
    positions.set(moveV(motion, [p.x, p.y, 0]), k * 6);
    positions.set(moveV(motion, [p.x, p.y, mesh.t]), k * 6 + 3);
  }
  const triangles = new Uint32Array(mesh.faces.length * 2 + mesh.walls.length * 3);
  let n = 0;
  const emit = (a: number, b: number, c: number) => {
    triangles[n++] = a;
    triangles[n++] = b;
    triangles[n++] = c;
  };
  for (let i = 0; i < mesh.faces.length; i += 3) {
    const [a, b, c] = [mesh.faces[i] * 2, mesh.faces[i + 1] * 2, mesh.faces[i + 2] * 2];
    emit(a + 1, b + 1, c + 1);
    emit(a, c, b);
  }
  for (let i = 0; i < mesh.walls.length; i += 2) {
    const [a, b] = [mesh.walls[i] * 2, mesh.walls[i + 1] * 2];
    emit(a, b, b + 1);
    emit(a, b + 1, a + 1);
  }
  return { positions, triangles };
}

/** Vertices for drawing: positions and normals three numbers each, faces of A, of B and cut edges as ranges. */
export interface DrawnMesh {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  readonly sideA: readonly [start: number, count: number];
  readonly sideB: readonly [start: number, count: number];
  readonly edges: readonly [start: number, count: number];
}

/**
 * A folding's mesh for the screen: unshared vertices with true normals, so that bends look round
 * and edges sharp. Pass the last result as `reuse` to fill its arrays again while folding.
 */
export function drawMesh(mesh: SheetMesh, folding: Folding, reuse?: DrawnMesh): DrawnMesh {
  const faces = mesh.faces.length;
  const walls = mesh.walls.length;
  const total = faces * 2 + walls * 3;
  const fits = reuse && reuse.positions.length === total * 3;
  const positions = fits ? reuse.positions : new Float32Array(total * 3);
  const normals = fits ? reuse.normals : new Float32Array(total * 3);
  let at = 0;
  const count = mesh.columnOwner.length;
  const motions = Array.from({ length: count }, (_, k) =>
    motionAt(folding, mesh.columnOwner[k], { x: mesh.columns[k * 2], y: mesh.columns[k * 2 + 1] }),
  );
  const emit = (k: number, w: number, nx: number, ny: number, nz: number) => {
    const m = motions[k];
    positions.set(moveV(m, [mesh.columns[k * 2], mesh.columns[k * 2 + 1], w]), at);
    normals.set(turnV(m, [nx, ny, nz]), at);
    at += 3;
  };
  for (let i = 0; i < faces; i += 3) {
    emit(mesh.faces[i], 0, 0, 0, -1);
    emit(mesh.faces[i + 2], 0, 0, 0, -1);
    emit(mesh.faces[i + 1], 0, 0, 0, -1);
  }
  for (let i = 0; i < faces; i++) emit(mesh.faces[i], mesh.t, 0, 0, 1);
  for (let i = 0; i < walls; i += 2) {
    const [a, b] = [mesh.walls[i], mesh.walls[i + 1]];
    const [ax, ay, bx, by] = mesh.wallNormals.subarray(i * 2, i * 2 + 4);
    emit(a, 0, ax, ay, 0);
    emit(b, 0, bx, by, 0);
    emit(b, mesh.t, bx, by, 0);
    emit(a, 0, ax, ay, 0);
    emit(b, mesh.t, bx, by, 0);
    emit(a, mesh.t, ax, ay, 0);
  }
  return {
    positions,
    normals,
    sideA: [0, faces],
    sideB: [faces, faces],
    edges: [faces * 2, walls * 3],
  };
}

/** Lines worth drawing on a sheet: pairs of vertices (2k on side A, 2k + 1 on side B, as in `foldMesh`). */
export interface FeatureLines {
  /** Borders and corners. */
  readonly sharp: Uint32Array;
  /** Where plates and bends meet. */
  readonly tangent: Uint32Array;
}

const CORNER = Math.cos((25 * Math.PI) / 180);

/** Finds the borders, corners and tangent lines of a mesh once; `foldVertices` places them in any state. */
export function featureLines(mesh: SheetMesh): FeatureLines {
  const sharp: number[] = [];
  const arriving = new Map<number, [number, number]>();
  const { walls, wallNormals } = mesh;
  for (let i = 0; i < walls.length; i += 2) {
    sharp.push(walls[i] * 2, walls[i + 1] * 2, walls[i] * 2 + 1, walls[i + 1] * 2 + 1);
    arriving.set(walls[i + 1], [wallNormals[i * 2 + 2], wallNormals[i * 2 + 3]]);
  }
  for (let i = 0; i < walls.length; i += 2) {
    const before = arriving.get(walls[i]);
    const smooth = before && before[0] * wallNormals[i * 2] + before[1] * wallNormals[i * 2 + 1] > CORNER;
    if (!smooth) sharp.push(walls[i] * 2, walls[i] * 2 + 1);
  }
  const owners = new Map<number, number>();
  const tangent: number[] = [];
  const count = mesh.columnOwner.length;
  for (let i = 0; i < mesh.faces.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [mesh.faces[i + k], mesh.faces[i + ((k + 1) % 3)]];
      owners.set(a * count + b, mesh.faceOwner[i / 3]);
      const other = owners.get(b * count + a);
      if (other !== undefined && other !== mesh.faceOwner[i / 3])
        tangent.push(a * 2, b * 2, a * 2 + 1, b * 2 + 1);
    }
  }
  return { sharp: Uint32Array.from(sharp), tangent: Uint32Array.from(tangent) };
}

/** Places chosen vertices of a mesh in a fold state: xyz for each, as 32-bit numbers for the screen. */
export function foldVertices(mesh: SheetMesh, folding: Folding, vertices: Uint32Array): Float32Array {
  const out = new Float32Array(vertices.length * 3);
  vertices.forEach((vertex, i) => {
    const k = vertex >> 1;
    const p = { x: mesh.columns[k * 2], y: mesh.columns[k * 2 + 1] };
    out.set(moveV(motionAt(folding, mesh.columnOwner[k], p), [p.x, p.y, vertex & 1 ? mesh.t : 0]), i * 3);
  });
  return out;
}
