import { kindOf, type MeshTile, type Sheet, type TiledMesh } from "../src/index.ts";
import type { Vector } from "../src/space/vector.ts";

/** A vertex of a tile in developed coordinates (u, v, w), and the piece it belongs to. */
export function vertexOf(sheet: Sheet, tile: MeshTile, vertex: number): { owner: number; at: Vector } {
  const owner = tile.owners[tile.ownerOf[vertex]];
  const { origin, across, along } = kindOf(sheet.pieces[owner]).ownFrame(sheet.pieces[owner]);
  const [x, y, w] = tile.places.subarray(vertex * 3, vertex * 3 + 3);
  return {
    owner,
    at: [origin.x + across.x * x + along.x * y, origin.y + across.y * x + along.y * y, w],
  };
}

/**
 * What keeps a tiled surface from being closed: edges that no neighbour runs along the other way. Points within
 * `within` mm are one; on a single plate, where each has the very same numbers wherever it is named, that is nought.
 */
export function openEdges(sheet: Sheet, { tiles }: TiledMesh, within: number): number {
  const welded = new Map<string, number>();
  // A point near the border of a step of rounding is looked for on both sides of it.
  const idOf = (p: Vector): number => {
    if (within === 0) {
      const id = welded.get(`${p}`) ?? welded.size;
      welded.set(`${p}`, id);
      return id;
    }
    const steps = p.map((v) => [Math.floor(v / within - 0.25), Math.floor(v / within + 0.25)]);
    const keys = steps[0].flatMap((x) => steps[1].flatMap((y) => steps[2].map((z) => `${x} ${y} ${z}`)));
    const known = keys.map((k) => welded.get(k)).find((id) => id !== undefined) ?? welded.size;
    for (const key of keys) welded.set(key, known);
    return known;
  };
  const balance = new Map<string, number>();
  for (const tile of tiles) {
    const ids = Array.from(tile.ownerOf, (_, k) => idOf(vertexOf(sheet, tile, k).at));
    for (let i = 0; i < tile.triangles.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [ids[tile.triangles[i + k]], ids[tile.triangles[i + ((k + 1) % 3)]]];
        if (a === b) continue;
        const [key, way] = a < b ? [`${a} ${b}`, 1] : [`${b} ${a}`, -1];
        balance.set(key, (balance.get(key) ?? 0) + way);
      }
  }
  return [...balance.values()].filter((n) => n !== 0).length;
}

/** The developed area of one side of a tiled surface, mm². */
export function areaOfSideB(sheet: Sheet, { t, tiles }: TiledMesh): number {
  let sum = 0;
  for (const tile of tiles)
    for (let i = 0; i < tile.triangles.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => vertexOf(sheet, tile, tile.triangles[i + k]).at);
      if (a[2] < t || b[2] < t || c[2] < t) continue;
      sum += ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
    }
  return sum;
}
