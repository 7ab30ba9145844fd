/** What a program that reads an STL file finds wrong with its surface, by the points as they stand in the file. */
export function flawsOfStl(bytes: Uint8Array): string[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  const flaws: string[] = [];
  if (bytes.length !== 84 + count * 50) flaws.push(`${bytes.length} bytes for ${count} triangles`);
  const edges = new Map<string, number>();
  for (let i = 0; i < count; i++) {
    const at = 84 + i * 50;
    const corner = (j: number) => [0, 4, 8].map((k) => view.getFloat32(at + 12 + j * 12 + k, true)).join(" ");
    const [a, b, c] = [corner(0), corner(1), corner(2)];
    if (/NaN|Infinity/.test(`${a}${b}${c}`)) flaws.push(`triangle ${i} is not finite`);
    if (a === b || b === c || c === a) flaws.push(`triangle ${i} is collapsed at ${a === b ? a : c}`);
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ])
      edges.set(`${p}|${q}`, (edges.get(`${p}|${q}`) ?? 0) + 1);
  }
  for (const [edge, times] of edges) {
    const [p, q] = edge.split("|");
    if (times > 1) flaws.push(`edge ${edge} is there ${times} times`);
    if (!edges.has(`${q}|${p}`)) flaws.push(`edge ${edge} has nothing on its other side`);
  }
  return flaws;
}

/** The volume that an STL file encloses. */
export function volumeOfStl(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let sum = 0;
  for (let i = 0; i < view.getUint32(80, true); i++) {
    const at = 84 + i * 50 + 12;
    const [a, b, c] = [0, 1, 2].map((j) => [0, 4, 8].map((k) => view.getFloat32(at + j * 12 + k, true)));
    sum +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) -
      a[1] * (b[0] * c[2] - b[2] * c[0]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}
