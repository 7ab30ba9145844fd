import { lengthV, type Vector } from "../../space/vector.ts";
import type { CleanSurface } from "./clean-surface.ts";

const HEADER = "Hillcrest part, millimetres";

/** A closed surface as binary STL, in millimetres: every edge joins exactly two triangles, none is collapsed. */
export function writeStl({ positions: p, triangles }: CleanSurface): Uint8Array {
  const bytes = new Uint8Array(84 + triangles.length * 50);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < HEADER.length; i++) bytes[i] = HEADER.charCodeAt(i);
  view.setUint32(80, triangles.length, true);
  let at = 84;
  for (const corners of triangles) {
    const [a, b, c] = corners.map((i) => i * 3);
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const normal: Vector = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = lengthV(normal) || 1;
    for (let i = 0; i < 3; i++) view.setFloat32(at + i * 4, normal[i] / length, true);
    [a, b, c].forEach((corner, j) => {
      for (let i = 0; i < 3; i++) view.setFloat32(at + 12 + j * 12 + i * 4, p[corner + i], true);
    });
    at += 50;
  }
  return bytes;
}
