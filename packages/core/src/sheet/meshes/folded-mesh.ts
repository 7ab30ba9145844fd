import type { Mesh } from "../../space/mesh.ts";
import { moveV } from "../../space/vector.ts";
import { type Folding, motionAt } from "../folding/fold.ts";
import type { SheetMesh } from "./mesh.ts";
import { ribColumns } from "./rib-mesh.ts";

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
  const { raised } = mesh;
  mesh.raisedColumns.forEach((k, i) => {
    const motion = motionAt(folding, mesh.columnOwner[k], {
      x: mesh.columns[k * 2],
      y: mesh.columns[k * 2 + 1],
    });
    for (const j of [0, 3])
      positions.set(
        moveV(motion, [raised[i * 6 + j], raised[i * 6 + j + 1], raised[i * 6 + j + 2]]),
        k * 6 + j,
      );
  });
  for (const { owner, first, grid } of mesh.ribs) {
    const folded = folding.pieces[owner];
    if (folded.kind !== "rib") continue;
    ribColumns(grid, folded, mesh.t).forEach((p, k) => {
      positions.set(p, (first * 2 + k) * 3);
    });
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
