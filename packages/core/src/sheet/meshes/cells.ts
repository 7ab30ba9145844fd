import { listDifference } from "../../list-difference.ts";
import type { Loop } from "../../plane/loop.ts";
import { type Bounds, boundsMeet, EMPTY_BOUNDS, grown } from "../../plane/point.ts";
import type { Region } from "../../plane/region.ts";
import { ringOf } from "../../plane/rings.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Piece } from "../sheet.ts";
import type { RoundRing } from "./mesh.ts";
import { type PieceMesh, type PieceSurface, pieceMesh } from "./piece-mesh.ts";
import { edgeKey, MOST_COLUMNS, trianglesWithin } from "./triangulation.ts";

/** About so many faces in a cell. */
const IN_CELL = 1024;
/** With more openings changed than this share of them, the plate is cut into triangles anew. */
const MOST_CHANGED = 0.05;
/** So far round a new opening (mm) triangles are taken out for it. */
const MARGIN = 1e-3;

/** A box that points are taken into, thousands of them: nothing is made for each. */
type GrowingBounds = { -readonly [K in keyof Bounds]: number };

function take(box: GrowingBounds, x: number, y: number): void {
  if (x < box.minX) box.minX = x;
  if (x > box.maxX) box.maxX = x;
  if (y < box.minY) box.minY = y;
  if (y > box.maxY) box.maxY = y;
}

/** One share of a large plate: its faces and walls, in columns of the plate. */
interface Cell {
  readonly faces: number[];
  readonly walls: number[];
  readonly wallNormals: number[];
  /** Where its faces are; nothing is looked for beyond. */
  readonly bounds: GrowingBounds;
  mesh: PieceMesh | undefined;
}

interface OwnRing {
  readonly first: number;
  readonly count: number;
  readonly cell: number;
}

/** What of a plate's surface is known, and which of its columns are those of round openings. */
export interface LargeSurface extends PieceSurface {
  readonly rings: readonly RoundRing[];
}

/**
 * The surface of a plate with many openings, in cells. Where round openings come, go or move, only the triangles
 * beside them are made anew: those that meet the old ones or the place of the new are taken out, and what that leaves
 * is cut into triangles again (Delaunay, with its borders as edges).
 */
export class Cells {
  private readonly columns: number[];
  private readonly cells: Cell[] = [];
  private readonly rings = new Map<Loop, OwnRing>();
  private readonly cellAt: (x: number, y: number) => number;
  private region: Region;
  private readonly t: number;
  private readonly columnsAtFirst: number;

  constructor(
    private readonly piece: Piece,
    region: Region,
    private readonly chord: number,
    surface: LargeSurface,
  ) {
    this.region = region;
    this.t = surface.t;
    this.columnsAtFirst = surface.columns.length;
    this.columns = Array.from(surface.columns);
    this.cellAt = this.layOut(surface.faces.length / 3);
    const { faces, walls, wallNormals, rings } = surface;
    for (let i = 0; i < faces.length; i += 3) this.addFace(faces[i], faces[i + 1], faces[i + 2]);
    const ringOfColumn = new Map<number, RoundRing>();
    for (const ring of rings) for (let k = 0; k < ring.count; k++) ringOfColumn.set(ring.first + k, ring);
    for (const { loop, first, count } of rings)
      this.rings.set(loop, { first, count, cell: this.cellOf(first, count) });
    for (let i = 0; i < walls.length; i += 2) {
      const ring = ringOfColumn.get(walls[i]);
      const cell = ring ? this.rings.get(ring.loop)!.cell : this.cellOf(walls[i], 1);
      this.cells[cell].walls.push(walls[i], walls[i + 1]);
      for (let k = i * 2; k < i * 2 + 4; k++) this.cells[cell].wallNormals.push(wallNormals[k]);
    }
  }

  /** The cells as they are drawn; one that did not change is the very same record. */
  meshes(): readonly PieceMesh[] {
    return this.cells.flatMap((cell) => {
      if (cell.faces.length + cell.walls.length === 0) return [];
      cell.mesh ??= pieceMesh(this.piece, {
        t: this.t,
        columns: this.columns,
        faces: cell.faces,
        walls: cell.walls,
        wallNormals: cell.wallNormals,
      });
      return [cell.mesh];
    });
  }

  /**
   * Makes it the surface of another region that differs in round openings only.
   *
   * @returns Whether that could be done. If not, nothing of it may be used any more.
   */
  become(regions: readonly Region[]): boolean {
    const [next] = regions;
    if (regions.length !== 1 || next.outer !== this.region.outer) return false;
    const { gone, come } = listDifference(this.region.holes, next.holes);
    if (gone.length + come.length > Math.max(8, next.holes.length * MOST_CHANGED)) return false;
    if (gone.some((loop) => !this.rings.has(loop)) || come.some((loop) => !ringOf(loop, this.chord).round))
      return false;
    // What went leaves its columns behind: in the end that would be all there is.
    if (this.columns.length > this.columnsAtFirst * 2) return false;
    if (!this.change(gone, come)) return false;
    this.region = next;
    return true;
  }

  private change(gone: readonly Loop[], come: readonly Loop[]): boolean {
    const leaving = new Set<number>();
    const places: Bounds[] = [];
    for (const loop of gone) {
      const { first, count } = this.rings.get(loop)!;
      for (let k = 0; k < count; k++) leaving.add(first + k);
      places.push(this.boundsOf(first, count));
    }
    const arriving = come.map((loop) => {
      const { xy, normals } = ringOf(loop, this.chord);
      const count = xy.length / 2;
      const first = this.columns.length / 2;
      for (const place of xy) this.columns.push(place);
      const at = this.boundsOf(first, count);
      places.push(grown(at, MARGIN));
      return { loop, first, count, normals };
    });
    const taken = this.takeOut(leaving, places);
    const edges = new Set<number>();
    for (let i = 0; i < taken.length; i += 3)
      for (let k = 0; k < 3; k++) edges.add(edgeKey(taken[i + k], taken[i + ((k + 1) % 3)]));
    const border: number[] = [];
    for (const key of edges) {
      const [a, b] = [Math.floor(key / MOST_COLUMNS), key % MOST_COLUMNS];
      if (edges.has(edgeKey(b, a))) continue;
      if (leaving.has(a) && leaving.has(b)) continue;
      // A border that ends at what goes would be left open.
      if (leaving.has(a) || leaving.has(b)) return false;
      border.push(a, b);
    }
    for (const { first, count } of arriving)
      for (let k = 0; k < count; k++) border.push(first + k, first + ((k + 1) % count));
    const made = this.fill(border);
    if (!made) return false;
    for (let i = 0; i < made.length; i += 3)
      this.cells[this.addFace(made[i], made[i + 1], made[i + 2])].mesh = undefined;
    for (const loop of gone) this.dropRing(loop);
    for (const { loop, first, count, normals } of arriving) {
      const cell = this.cellOf(first, count);
      this.rings.set(loop, { first, count, cell });
      const { walls, wallNormals } = this.cells[cell];
      for (let k = 0; k < count; k++) walls.push(first + k, first + ((k + 1) % count));
      for (const n of normals) wallNormals.push(n);
      this.cells[cell].mesh = undefined;
    }
    return true;
  }

  private dropRing(loop: Loop): void {
    const { first, count, cell: at } = this.rings.get(loop)!;
    const cell = this.cells[at];
    const [walls, normals] = [cell.walls.splice(0), cell.wallNormals.splice(0)];
    for (let i = 0; i < walls.length; i += 2) {
      if (walls[i] >= first && walls[i] < first + count) continue;
      cell.walls.push(walls[i], walls[i + 1]);
      cell.wallNormals.push(normals[i * 2], normals[i * 2 + 1], normals[i * 2 + 2], normals[i * 2 + 3]);
    }
    cell.mesh = undefined;
    this.rings.delete(loop);
  }

  /** Takes out the faces that stand on columns that go, or reach into a place. */
  private takeOut(leaving: ReadonlySet<number>, places: readonly Bounds[]): number[] {
    const taken: number[] = [];
    for (const cell of this.cells) {
      const here = places.filter((place) => boundsMeet(place, cell.bounds));
      if (here.length === 0) continue;
      const { faces } = cell;
      let kept = 0;
      for (let i = 0; i < faces.length; i += 3) {
        const own = leaving.has(faces[i]) || leaving.has(faces[i + 1]) || leaving.has(faces[i + 2]);
        if (own || here.some((place) => this.reachesInto(faces, i, place)))
          taken.push(faces[i], faces[i + 1], faces[i + 2]);
        else {
          faces[kept++] = faces[i];
          faces[kept++] = faces[i + 1];
          faces[kept++] = faces[i + 2];
        }
      }
      if (kept < faces.length) {
        faces.length = kept;
        cell.mesh = undefined;
      }
    }
    return taken;
  }

  /** Whether a face and an upright rectangle have a point in common: no side of either keeps them apart. */
  private reachesInto(faces: readonly number[], at: number, { minX, minY, maxX, maxY }: Bounds): boolean {
    const c = this.columns;
    const [ax, ay] = [c[faces[at] * 2], c[faces[at] * 2 + 1]];
    const [bx, by] = [c[faces[at + 1] * 2], c[faces[at + 1] * 2 + 1]];
    const [dx, dy] = [c[faces[at + 2] * 2], c[faces[at + 2] * 2 + 1]];
    if (Math.max(ax, bx, dx) < minX || Math.min(ax, bx, dx) > maxX) return false;
    if (Math.max(ay, by, dy) < minY || Math.min(ay, by, dy) > maxY) return false;
    const beyond = (px: number, py: number, qx: number, qy: number): boolean => {
      const [nx, ny] = [py - qy, qx - px];
      // The corner of the rectangle that lies farthest to the left of the side.
      return (nx > 0 ? maxX : minX) * nx + (ny > 0 ? maxY : minY) * ny < px * nx + py * ny;
    };
    return !(beyond(ax, ay, bx, by) || beyond(bx, by, dx, dy) || beyond(dx, dy, ax, ay));
  }

  /**
   * Triangles of what directed edges border, with it at their left; nothing where a border touches or crosses another.
   * What is returned has each of them once, and the area that they enclose.
   */
  private fill(border: readonly number[]): number[] | undefined {
    if (border.length === 0) return [];
    const ids = [...new Set(border)];
    const placeOf = new Map(ids.map((id, k) => [id, k]));
    const flat = Float64Array.from(ids.flatMap((id) => [this.columns[id * 2], this.columns[id * 2 + 1]]));
    const pairs = Array.from({ length: border.length / 2 }, (_, i): [number, number] => [
      placeOf.get(border[i * 2])!,
      placeOf.get(border[i * 2 + 1])!,
    ]);
    const edges = new Set(pairs.map(([a, b]) => edgeKey(a, b)));
    const made = trianglesWithin(
      flat,
      {
        count: edges.size,
        has: (a, b) => edges.has(edgeKey(a, b)),
        each: (edge) => {
          for (const [a, b] of pairs) edge(a, b);
        },
      },
      ids.length * 2,
    );
    if (!made) return undefined;
    const cross = (a: number, b: number) => flat[a * 2] * flat[b * 2 + 1] - flat[b * 2] * flat[a * 2 + 1];
    const enclosed = pairs.reduce((sum, [a, b]) => sum + cross(a, b), 0);
    let filled = 0;
    for (let i = 0; i < made.length; i += 3) {
      const [p, q, r] = [made[i], made[i + 1], made[i + 2]];
      const twice =
        (flat[q * 2] - flat[p * 2]) * (flat[r * 2 + 1] - flat[p * 2 + 1]) -
        (flat[q * 2 + 1] - flat[p * 2 + 1]) * (flat[r * 2] - flat[p * 2]);
      if (!(twice > 0)) return undefined;
      filled += twice;
    }
    if (Math.abs(filled - enclosed) > 1e-9 * Math.max(1, Math.abs(enclosed))) return undefined;
    return Array.from(made, (k) => ids[k]);
  }

  private addFace(a: number, b: number, c: number): number {
    const { columns } = this;
    const [ax, ay, bx, by] = [columns[a * 2], columns[a * 2 + 1], columns[b * 2], columns[b * 2 + 1]];
    const [cx, cy] = [columns[c * 2], columns[c * 2 + 1]];
    const at = this.cellAt((ax + bx + cx) / 3, (ay + by + cy) / 3);
    const { faces, bounds } = this.cells[at];
    faces.push(a, b, c);
    take(bounds, ax, ay);
    take(bounds, bx, by);
    take(bounds, cx, cy);
    return at;
  }

  private boundsOf(first: number, count: number): Bounds {
    const out = { ...EMPTY_BOUNDS };
    for (let k = first; k < first + count; k++) take(out, this.columns[k * 2], this.columns[k * 2 + 1]);
    return out;
  }

  private cellOf(first: number, count: number): number {
    const { minX, minY, maxX, maxY } = this.boundsOf(first, count);
    return this.cellAt((minX + maxX) / 2, (minY + maxY) / 2);
  }

  /** Cells of like sides over the plate, in its own frame: they stay as they are where it is only moved. */
  private layOut(faces: number): (x: number, y: number) => number {
    const { origin, across, along } = kindOf(this.piece).ownFrame(this.piece);
    const own = (x: number, y: number) => {
      const [dx, dy] = [x - origin.x, y - origin.y];
      return [dx * across.x + dy * across.y, dx * along.x + dy * along.y] as const;
    };
    const box = { ...EMPTY_BOUNDS };
    for (let k = 0; k < this.columns.length; k += 2) take(box, ...own(this.columns[k], this.columns[k + 1]));
    const [wide, high] = [Math.max(1e-9, box.maxX - box.minX), Math.max(1e-9, box.maxY - box.minY)];
    const many = Math.max(1, Math.ceil(faces / IN_CELL));
    const columns = Math.max(1, Math.min(many, Math.round(Math.sqrt((many * wide) / high))));
    const rows = Math.max(1, Math.round(many / columns));
    for (let i = 0; i < columns * rows; i++)
      this.cells.push({
        faces: [],
        walls: [],
        wallNormals: [],
        bounds: { ...EMPTY_BOUNDS },
        mesh: undefined,
      });
    const into = (share: number, count: number) =>
      Math.min(count - 1, Math.max(0, Math.floor(share * count)));
    return (px, py) => {
      const [x, y] = own(px, py);
      return into((y - box.minY) / high, rows) * columns + into((x - box.minX) / wide, columns);
    };
  }
}
