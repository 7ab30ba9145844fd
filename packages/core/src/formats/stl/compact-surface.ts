import type { CleanSurface } from "./clean-surface.ts";

/** A surface without the points that no triangle has, its triangles by number in one list. */
export function compactSurface({ positions, triangles }: CleanSurface): {
  readonly positions: Float32Array;
  readonly triangles: Uint32Array;
} {
  const number = new Map<number, number>();
  const out = new Uint32Array(triangles.length * 3);
  triangles.forEach((corners, i) => {
    corners.forEach((c, k) => {
      let own = number.get(c);
      if (own === undefined) {
        own = number.size;
        number.set(c, own);
      }
      out[i * 3 + k] = own;
    });
  });
  const kept = new Float32Array(number.size * 3);
  for (const [from, to] of number) kept.set(positions.subarray(from * 3, from * 3 + 3), to * 3);
  return { positions: kept, triangles: out };
}
