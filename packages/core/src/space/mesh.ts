/** A closed triangle mesh: `positions` xyz per vertex in millimetres, `triangles` counter-clockwise from outside. */
export interface Mesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/** The volume a closed mesh encloses, in cubic millimetres, by the divergence theorem. */
export function meshVolume({ positions: p, triangles: t }: Mesh): number {
  let sum = 0;
  for (let k = 0; k < t.length; k += 3) {
    const a = t[k] * 3;
    const b = t[k + 1] * 3;
    const c = t[k + 2] * 3;
    sum +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
  }
  return sum / 6;
}

/** Whether every edge is used exactly once in each direction: no gaps, no doubled or turned triangles. */
export function isClosedManifold({ triangles: t }: Mesh): boolean {
  const edges = new Set<string>();
  for (let k = 0; k < t.length; k += 3) {
    for (let i = 0; i < 3; i++) {
      const a = t[k + i];
      const b = t[k + ((i + 1) % 3)];
      const key = `${a},${b}`;
      if (a === b || edges.has(key)) return false;
      edges.add(key);
    }
  }
  for (const key of edges) {
    const [a, b] = key.split(",");
    if (!edges.has(`${b},${a}`)) return false;
  }
  return edges.size > 0;
}
