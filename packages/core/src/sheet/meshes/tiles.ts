import type { Region } from "../../plane/region.ts";
import type { Formed } from "../pieces/formed-piece.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Rib } from "../pieces/rib-piece.ts";
import type { Piece, Sheet } from "../sheet.ts";
import { Cells } from "./cells.ts";
import { formedMesh } from "./formed-mesh.ts";
import { meshPieces, neighboursOf, type RoundRing, type SheetMesh } from "./mesh.ts";
import { type PieceMesh, pieceMesh } from "./piece-mesh.ts";
import { ribMesh } from "./rib-mesh.ts";

/**
 * A share of a sheet's surface as a graphics card takes it, the same for every fold state: the meshes of some pieces
 * one after the other, or a share of one large piece. Its numbers count from the own frames of its pieces, so that
 * they stay as they are where a piece is only moved.
 */
export interface MeshTile extends PieceMesh {
  /** The pieces that it shows, by their places in `sheet.pieces`. */
  readonly owners: Uint32Array;
  /** Which of the owners each vertex belongs to. */
  readonly ownerOf: Uint8Array;
}

/** A surface as tiles, with the thickness of its sheet in mm. */
export interface TiledMesh {
  readonly t: number;
  readonly tiles: readonly MeshTile[];
}

/** So many small pieces at most share a tile. */
const TOGETHER = 32;
/** A plate of more faces on a side is laid out in cells. */
const LARGE = 4096;

/** What the mesh of a piece was made of. */
interface Made {
  readonly of: readonly (readonly Region[] | Formed | Rib)[];
  readonly mesh: PieceMesh | Cells;
}

interface Tiling {
  readonly t: number;
  readonly made: Map<string, Made>;
  /** Tiles of small pieces, by what they hold. What a tile says may have been handed over: it is not read again. */
  readonly tiles: Map<
    string,
    { readonly of: readonly PieceMesh[]; readonly owners: readonly number[]; readonly tile: MeshTile }
  >;
  readonly large: Map<PieceMesh, { readonly owner: number; readonly tile: MeshTile }>;
}

const nameOf = ({ kind, id }: Piece) => `${kind} ${id}`;
const sameList = <T>(p: readonly T[], q: readonly T[]) =>
  p.length === q.length && p.every((v, i) => v === q[i]);

/** Lays a sheet's surface out in tiles, within `chord` millimetres of its true outline. */
export const tileSheet = (sheet: Sheet, chord: number): TiledMesh => createTiler(chord)(sheet);

/**
 * Lays one sheet after another out in tiles. What a sheet has in common with the one before is not made anew: a piece
 * whose metal and whose neighbours' metal is the same has the same mesh, and a tile that holds the same meshes is the
 * very same record.
 */
export function createTiler(chord: number): (sheet: Sheet) => TiledMesh {
  let before: Tiling | undefined;
  return (sheet) => {
    const now: Tiling = { t: sheet.t, made: new Map(), tiles: new Map(), large: new Map() };
    if (before && before.t !== sheet.t) before = undefined;
    const meshes = meshesOf(sheet, chord, before, now);
    const mesh = layTogether(sheet, meshes, before, now);
    before = now;
    return mesh;
  };
}

/** The mesh of every piece, in their order. */
function meshesOf(
  sheet: Sheet,
  chord: number,
  before: Tiling | undefined,
  now: Tiling,
): readonly (PieceMesh | Cells)[] {
  const neighbours = neighboursOf(sheet);
  const regionsOf = (i: number) => {
    const piece = sheet.pieces[i];
    return "host" in piece ? piece : kindOf(piece).regions(piece);
  };
  const out: (PieceMesh | Cells | undefined)[] = sheet.pieces.map(() => undefined);
  const wanted = new Set<number>();
  const of = sheet.pieces.map((_, i) => [regionsOf(i), ...neighbours[i].map(regionsOf)]);
  sheet.pieces.forEach((piece, i) => {
    const known = before?.made.get(nameOf(piece));
    if (known && sameList(known.of, of[i])) out[i] = known.mesh;
    else if (
      known?.mesh instanceof Cells &&
      sameList(known.of.slice(1), of[i].slice(1)) &&
      known.mesh.become(of[i][0] as readonly Region[])
    )
      out[i] = known.mesh;
    else if (piece.kind === "formed") out[i] = formedMesh(piece, sheet.t, chord);
    else if (piece.kind === "rib") out[i] = ribMesh(piece, sheet.t, chord);
    else wanted.add(i);
  });
  if (wanted.size > 0) {
    const { mesh, rings } = meshPieces(sheet, chord, wanted);
    for (const [i, surface] of surfacesOf(mesh, rings, wanted)) {
      const piece = sheet.pieces[i];
      const [region, ...others] = of[i][0] as readonly Region[];
      const isFlat = kindOf(piece).metal === "flat";
      const large = isFlat && surface.faces.length > LARGE * 3 && others.length === 0;
      out[i] = large ? new Cells(piece, region, chord, surface) : pieceMesh(piece, surface);
    }
  }
  return sheet.pieces.map((piece, i) => {
    const mesh = out[i]!;
    now.made.set(nameOf(piece), { of: of[i], mesh });
    return mesh;
  });
}

interface Surface {
  readonly t: number;
  readonly columns: Float64Array;
  readonly faces: number[];
  readonly walls: number[];
  readonly wallNormals: number[];
  readonly goesOn: Set<number>;
  readonly rings: RoundRing[];
}

/** The surface of each wanted piece by itself. */
function surfacesOf(
  mesh: SheetMesh,
  rings: readonly RoundRing[],
  wanted: ReadonlySet<number>,
): Map<number, Surface> {
  const { t, columns } = mesh;
  const out = new Map(
    [...wanted].map((i): [number, Surface] => [
      i,
      { t, columns, faces: [], walls: [], wallNormals: [], goesOn: new Set(), rings: [] },
    ]),
  );
  const at = (owner: number) => out.get(owner)!;
  for (let i = 0; i < mesh.faceOwner.length; i++) {
    const { faces } = at(mesh.faceOwner[i]);
    faces.push(mesh.faces[i * 3], mesh.faces[i * 3 + 1], mesh.faces[i * 3 + 2]);
  }
  for (let i = 0; i < mesh.wallOwner.length; i++) {
    const { walls, wallNormals, goesOn } = at(mesh.wallOwner[i]);
    if (mesh.goesOn[i]) goesOn.add(walls.length / 2);
    walls.push(mesh.walls[i * 2], mesh.walls[i * 2 + 1]);
    for (let k = i * 4; k < i * 4 + 4; k++) wallNormals.push(mesh.wallNormals[k]);
  }
  for (const ring of rings) at(ring.owner).rings.push(ring);
  return out;
}

/** Small pieces share tiles, plates with plates and bends with bends; each cell of a large one is a tile. */
function layTogether(
  sheet: Sheet,
  meshes: readonly (PieceMesh | Cells)[],
  before: Tiling | undefined,
  now: Tiling,
): TiledMesh {
  const tiles: MeshTile[] = [];
  const groups = new Map<string, number[]>();
  const counts = new Map<string, number>();
  sheet.pieces.forEach(({ kind }, i) => {
    const mesh = meshes[i];
    if (mesh instanceof Cells) {
      for (const cell of mesh.meshes()) {
        const old = before?.large.get(cell);
        const tile = !old
          ? { ...cell, owners: Uint32Array.of(i), ownerOf: new Uint8Array(cell.places.length / 3) }
          : old.owner === i
            ? old.tile
            : { ...old.tile, owners: Uint32Array.of(i) };
        now.large.set(cell, { owner: i, tile });
        tiles.push(tile);
      }
      return;
    }
    // Counted by kind, so that one more plate leaves the tiles of the bends as they were.
    const nth = counts.get(kind) ?? 0;
    counts.set(kind, nth + 1);
    const key = `${kind} ${Math.floor(nth / TOGETHER)}`;
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  });
  for (const [key, owners] of groups) {
    const of = owners.map((i) => meshes[i] as PieceMesh);
    const old = before?.tiles.get(key);
    const same = old && sameList(old.of, of);
    const tile = !same
      ? tileOf(owners, of)
      : sameList(old.owners, owners)
        ? old.tile
        : // Others came before them: all but their places is as it was.
          { ...old.tile, owners: Uint32Array.from(owners) };
    now.tiles.set(key, { of, owners, tile });
    if (of.some((mesh) => mesh.triangles.length > 0)) tiles.push(tile);
  }
  return { t: sheet.t, tiles };
}

/** Meshes one after the other, in numbers of its own: the meshes are kept, and tiles may be handed over. */
function tileOf(owners: readonly number[], meshes: readonly PieceMesh[]): MeshTile {
  const total = (key: "places" | "ways" | "triangles" | "sharp" | "tangent") =>
    meshes.reduce((sum, m) => sum + m[key].length, 0);
  const tile = {
    owners: Uint32Array.from(owners),
    ownerOf: new Uint8Array(total("places") / 3),
    places: new Float32Array(total("places")),
    ways: new Int8Array(total("ways")),
    triangles: new Uint32Array(total("triangles")),
    sharp: new Uint32Array(total("sharp")),
    tangent: new Uint32Array(total("tangent")),
  };
  let vertices = 0;
  const at = { triangles: 0, sharp: 0, tangent: 0 };
  meshes.forEach((mesh, owner) => {
    tile.places.set(mesh.places, vertices * 3);
    tile.ways.set(mesh.ways, vertices * 3);
    const count = mesh.places.length / 3;
    tile.ownerOf.fill(owner, vertices, vertices + count);
    for (const key of ["triangles", "sharp", "tangent"] as const) {
      const [from, to] = [mesh[key], tile[key]];
      for (let i = 0; i < from.length; i++) to[at[key]++] = from[i] + vertices;
    }
    vertices += count;
  });
  return tile;
}
