import type { OwnFrame } from "../pieces/piece-kind.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Piece } from "../sheet.ts";

/** The surface of one piece, or of a share of it, counted from its own frame: the same for every fold state. */
export interface PieceMesh {
  /** Across, along and height above side A of each vertex, mm. */
  readonly places: Float32Array;
  /** The outward direction of each in the same frame, 127 for 1: three each. */
  readonly ways: Int8Array;
  /**
   * Three vertices a triangle, counter-clockwise from outside. Of a plate or bend those of side A come first, then those
   * of its walls, then those of side B: whoever looks at one side needs no more than it and the walls.
   */
  readonly triangles: Uint32Array;
  /** Two vertices a line: borders and corners; and where the piece goes on smoothly in another. */
  readonly sharp: Uint32Array;
  readonly tangent: Uint32Array;
}

/** Faces and walls of one piece, in columns that stand in its developed plane; see `SheetMesh`. */
export interface PieceSurface {
  readonly t: number;
  readonly columns: ArrayLike<number>;
  /** Three columns a face. */
  readonly faces: ArrayLike<number>;
  /** Two columns a wall, and its outward direction at both: four numbers. */
  readonly walls: ArrayLike<number>;
  readonly wallNormals: ArrayLike<number>;
  /** Walls beyond which the metal goes on in a body of its own: no line is drawn there. */
  readonly goesOn?: ReadonlySet<number>;
}

/** An edge is seen where a border turns by more than 25°. */
const CORNER = Math.cos((25 * Math.PI) / 180);

/** What a graphics card takes of a piece. */
export function pieceMesh(piece: Piece, surface: PieceSurface): PieceMesh {
  const builder = new PieceMeshBuilder(kindOf(piece).ownFrame(piece), surface);
  return builder.build(kindOf(piece).metal !== "flat");
}

class PieceMeshBuilder {
  private readonly places: Float32Array;
  private readonly ways: Int8Array;
  /** By column, its vertex on side A; the one on side B comes next. */
  private readonly vertexOf = new Map<number, number>();
  private count = 0;

  constructor(
    private readonly frame: OwnFrame,
    private readonly surface: PieceSurface,
  ) {
    // Each face has three columns at most, seen from two sides; each wall has four corners of its own.
    const most = surface.faces.length * 2 + surface.walls.length * 2;
    this.places = new Float32Array(most * 3);
    this.ways = new Int8Array(most * 3);
  }

  build(curls: boolean): PieceMesh {
    const { faces, walls, t, goesOn } = this.surface;
    const triangles = new Uint32Array(faces.length * 2 + walls.length * 3);
    const sideB = faces.length + walls.length * 3;
    for (let i = 0; i < faces.length; i += 3) {
      const a = this.column(faces[i]);
      const b = this.column(faces[i + 1]);
      const c = this.column(faces[i + 2]);
      triangles[i] = a;
      triangles[i + 1] = c;
      triangles[i + 2] = b;
      triangles[sideB + i] = a + 1;
      triangles[sideB + i + 1] = b + 1;
      triangles[sideB + i + 2] = c + 1;
    }
    let n = faces.length;
    const tangent = curls ? this.tangents() : new Uint32Array(0);
    const sharp = new Uint32Array(walls.length * 3);
    const smooth = this.smoothWalls();
    let s = 0;
    for (let i = 0; i < walls.length; i += 2) {
      const low = this.count;
      this.corner(walls[i], 0, i * 2);
      this.corner(walls[i + 1], 0, i * 2 + 2);
      this.corner(walls[i + 1], t, i * 2 + 2);
      this.corner(walls[i], t, i * 2);
      triangles[n++] = low;
      triangles[n++] = low + 1;
      triangles[n++] = low + 2;
      triangles[n++] = low;
      triangles[n++] = low + 2;
      triangles[n++] = low + 3;
      if (goesOn?.has(i / 2)) continue;
      sharp[s++] = low;
      sharp[s++] = low + 1;
      sharp[s++] = low + 3;
      sharp[s++] = low + 2;
      if (smooth[i / 2]) continue;
      sharp[s++] = low;
      sharp[s++] = low + 3;
    }
    return {
      places: this.places.slice(0, this.count * 3),
      ways: this.ways.slice(0, this.count * 3),
      triangles,
      sharp: sharp.slice(0, s),
      tangent,
    };
  }

  private column(column: number): number {
    const known = this.vertexOf.get(column);
    if (known !== undefined) return known;
    const low = this.vertex(column, 0, 0, 0, -127);
    this.vertex(column, this.surface.t, 0, 0, 127);
    this.vertexOf.set(column, low);
    return low;
  }

  /** A corner of a wall, whose outward direction stands at `normal`. */
  private corner(column: number, w: number, normal: number): void {
    const { across, along } = this.frame;
    const x = this.surface.wallNormals[normal];
    const y = this.surface.wallNormals[normal + 1];
    const nx = Math.round((x * across.x + y * across.y) * 127);
    const ny = Math.round((x * along.x + y * along.y) * 127);
    this.vertex(column, w, nx, ny, 0);
  }

  private vertex(column: number, w: number, nx: number, ny: number, nz: number): number {
    const at = this.count++;
    const { origin, across, along } = this.frame;
    const u = this.surface.columns[column * 2] - origin.x;
    const v = this.surface.columns[column * 2 + 1] - origin.y;
    this.places[at * 3] = u * across.x + v * across.y;
    this.places[at * 3 + 1] = u * along.x + v * along.y;
    this.places[at * 3 + 2] = w;
    this.ways[at * 3] = nx;
    this.ways[at * 3 + 1] = ny;
    this.ways[at * 3 + 2] = nz;
    return at;
  }

  /** Walls to which the border comes so smoothly that no edge is seen where they begin. */
  private smoothWalls(): Uint8Array {
    const { walls, wallNormals } = this.surface;
    const arriving = new Map<number, number>();
    for (let i = 0; i < walls.length; i += 2) arriving.set(walls[i + 1], i);
    const out = new Uint8Array(walls.length / 2);
    for (let i = 0; i < walls.length; i += 2) {
      const before = arriving.get(walls[i]);
      if (before === undefined) continue;
      const cosine =
        wallNormals[before * 2 + 2] * wallNormals[i * 2] +
        wallNormals[before * 2 + 3] * wallNormals[i * 2 + 1];
      if (cosine > CORNER) out[i / 2] = 1;
    }
    return out;
  }

  /** Edges of a curled piece that no other face of it shares: where they are not walled, it goes on smoothly. */
  private tangents(): Uint32Array {
    const { faces, walls, columns } = this.surface;
    const most = columns.length;
    const walled = new Set<number>();
    for (let i = 0; i < walls.length; i += 2) walled.add(walls[i] * most + walls[i + 1]);
    const edges = new Set<number>();
    for (let i = 0; i < faces.length; i += 3)
      for (let k = 0; k < 3; k++) edges.add(faces[i + k] * most + faces[i + ((k + 1) % 3)]);
    const out: number[] = [];
    for (const edge of edges) {
      const [a, b] = [Math.floor(edge / most), edge % most];
      if (edges.has(b * most + a) || walled.has(edge)) continue;
      const [p, q] = [this.column(a), this.column(b)];
      out.push(p, q, p + 1, q + 1);
    }
    return Uint32Array.from(out);
  }
}
