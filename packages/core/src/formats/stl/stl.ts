import { lengthV, type Vector } from "../../space/vector.ts";
import { plainText } from "../drawing/strokes.ts";
import type { CleanSurface } from "./clean-surface.ts";

const HEADER = "Hillcrest part, millimetres";
/** So many letters are before the triangles. */
const HEADER_LENGTH = 80;

/** A closed surface as binary STL, in millimetres: every edge joins exactly two triangles, none is collapsed. Its head says what stops the part. */
export function writeStl(
  { positions: p, triangles }: CleanSurface,
  stopped: readonly string[] = [],
): Uint8Array {
  const bytes = new Uint8Array(84 + triangles.length * 50);
  const view = new DataView(bytes.buffer);
  const head =
    stopped.length > 0 ? `${HEADER}. STOPPED: ${plainText(stopped[0].replace(/^.*?: /, ""))}` : HEADER;
  for (let i = 0; i < Math.min(HEADER_LENGTH, head.length); i++) bytes[i] = head.charCodeAt(i);
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
