import { formSurface } from "../../forming/form-surface.ts";
import { isCutFree } from "../../forming/inset.ts";
import { Kept } from "../../kept.ts";
import { subtractLoops } from "../../plane/boolean.ts";
import type { Loop } from "../../plane/loop.ts";
import { distance, dot, hypotenuse, type Point, SAME, subtract } from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import {
  BORDER_GOES_ON,
  GOES_ON,
  HAIR,
  intoMetal,
  pointOf,
  pointsOf,
  type Ring,
  ringOf,
  STARTS,
  STRAIGHT,
} from "../../plane/rings.ts";
import { insideLoop } from "../../plane/stitch.ts";
import { Stretches } from "../../plane/stretches.ts";
import type { Formed } from "../pieces/formed-piece.ts";
import type { SeamLine } from "../pieces/piece-kind.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import { type Carrier, carriersOf, type Piece, pieceIndex, platesOf, type Sheet } from "../sheet.ts";
import { growingFloats, growingWholes } from "./growing-numbers.ts";
import { type RibGrid, ribFaces, ribGrid } from "./rib-mesh.ts";
import { keyOf, meetsLine, placeOn, runsAlong, type Seam, stopsBetween } from "./seam-stops.ts";
import { bordersOf, closeSeams, edgeKey, MOST_COLUMNS, triangulate } from "./triangulation.ts";

/**
 * A sheet's surface in developed coordinates, the same for every fold state. A column is a point
 * (u, v) of the sheet that stands for two vertices, one on each side. `owner` is a piece's place in
 * `sheet.pieces`; columns on a tangent line are shared by the plate and the strip that meet there.
 */
export interface SheetMesh {
  readonly t: number;
  /** u, v per column. */
  readonly columns: Float64Array;
  readonly columnOwner: Uint32Array;
  /** Three columns per face, counter-clockwise seen from side B. */
  readonly faces: Uint32Array;
  readonly faceOwner: Uint32Array;
  /** Two columns per wall, metal on the left. */
  readonly walls: Uint32Array;
  readonly wallOwner: Uint32Array;
  /** Outward direction in the sheet's plane at each wall's two columns: four numbers per wall. */
  readonly wallNormals: Float64Array;
  /** Columns of formed metal, which do not go from side to side of the sheet where they stand. */
  readonly raisedColumns: Uint32Array;
  /** Where each of those stands on side A and on side B: developed places, and heights over side A; six numbers. */
  readonly raised: Float64Array;
  /** Columns of ribs, which stand where the fold state has them. */
  readonly ribs: readonly RibColumns[];
  /** By each wall, 1 where the metal goes on beyond it in a body of its own. */
  readonly goesOn: Uint8Array;
}

/** The columns of one rib: from which on, by the lines of its surface. */
export interface RibColumns {
  readonly owner: number;
  readonly first: number;
  readonly grid: RibGrid;
}

/** A border edge's outward normals at its two ends, and the plate or bend it belongs to. */
interface Border {
  readonly from: Point;
  readonly to: Point;
  readonly owner: number;
  /** Whether the metal goes on beyond it, in a body of its own. */
  readonly goesOn?: boolean;
}

/** Columns of a region's borders, and where among them openings and curves begin. */
interface Bordered {
  readonly ids: number[];
  readonly holes: number[];
  readonly starts: number[];
}

/**
 * Triangulates a sheet within `chord` millimetres of its true outline. Every border is shared or
 * walled, so that `foldMesh` gives a closed manifold in every fold state.
 */
export const meshSheet = (sheet: Sheet, chord: number): SheetMesh => new MeshBuilder(sheet, chord).build();

/** An opening of arcs only, and where its columns begin. */
export interface RoundRing {
  readonly loop: Loop;
  readonly owner: number;
  readonly first: number;
  readonly count: number;
}

/** Some pieces of a sheet as part of its surface, as `meshSheet` would have them, with their round openings. */
export function meshPieces(
  sheet: Sheet,
  chord: number,
  wanted: ReadonlySet<number>,
): { readonly mesh: SheetMesh; readonly rings: readonly RoundRing[] } {
  const builder = new MeshBuilder(sheet, chord, wanted);
  return { mesh: builder.build(), rings: builder.roundRings };
}

/**
 * What the surface of each piece hangs on besides its own metal: the pieces that it meets, and beyond a plate of no
 * length those that its strip meets there. By places in `sheet.pieces`.
 */
export function neighboursOf(sheet: Sheet): readonly (readonly number[])[] {
  const plates = new Map(sheet.pieces.flatMap((p, i) => (p.kind === "plate" ? [[p.id, i] as const] : [])));
  const out: number[][] = sheet.pieces.map(() => []);
  sheet.pieces.forEach((piece, i) => {
    if ("host" in piece) {
      const bend = piece.kind === "rib" ? pieceIndex(sheet, "bend", piece.bend.id) : -1;
      const hosts = piece.kind === "rib" ? [piece.host, piece.bend.child] : [piece.host];
      for (const host of [...hosts.map((id) => plates.get(id)!), ...(bend >= 0 ? [bend] : [])]) {
        out[host].push(i);
        out[i].push(host);
      }
    }
    if (!("child" in piece)) return;
    for (const id of [piece.parent, piece.child]) {
      const plate = plates.get(id)!;
      out[plate].push(i);
      out[i].push(plate);
    }
  });
  return sheet.pieces.map((piece, i) =>
    piece.kind === "plate" || "host" in piece
      ? out[i]
      : out[i].flatMap((plate) =>
          "host" in sheet.pieces[plate] || kindOf(sheet.pieces[plate]).regions(sheet.pieces[plate]).length > 0
            ? [plate]
            : [plate, ...out[plate].filter((k) => !("host" in sheet.pieces[k]))],
        ),
  );
}

const restOf = new Kept(
  (regions: readonly Region[], zones: readonly Loop[]): readonly Region[] =>
    subtractLoops(
      regions.flatMap(regionLoops),
      zones.map((zone) => zone.map((c) => ({ ...c, name: BORDER_GOES_ON }))),
    ),
  (p, q) => p.length === q.length && p.every((loop, i) => loop === q[i]),
);

/** What of a plate or a strip is not taken by ribs. */
const withoutZones = (
  _piece: Piece,
  regions: readonly Region[],
  zones: readonly Loop[] = [],
): readonly Region[] => (zones.length === 0 ? regions : restOf.of(regions, zones));

/** The columns of the outline of something formed, and which of the borders that leave them are cut free. */
interface FormedOutline {
  readonly ring: readonly number[];
  readonly cut: readonly boolean[];
}

/** Whether something is formed out of a region of its plate. */
const holds = (region: Region, { outline }: Formed): boolean => insideLoop(region.outer, outline[0].a);

const borderOf = ({ normals: n, edges }: Ring, i: number, owner: number): Border => ({
  from: { x: n[4 * i], y: n[4 * i + 1] },
  to: { x: n[4 * i + 2], y: n[4 * i + 3] },
  owner,
  goesOn: (edges[i] & GOES_ON) !== 0,
});

/** Those of some points that stand in one place with another, together by their places. */
function metTwice(points: readonly number[], flat: Float64Array): number[][] {
  const across = (i: number) => keyOf(flat[i * 2]);
  const up = (i: number) => keyOf(flat[i * 2 + 1]);
  const sorted = [...points].sort((i, j) => across(i) - across(j) || up(i) - up(j) || i - j);
  const out: number[][] = [];
  for (let i = 0; i < sorted.length; ) {
    const from = i++;
    while (
      i < sorted.length &&
      across(sorted[i]) === across(sorted[from]) &&
      up(sorted[i]) === up(sorted[from])
    )
      i++;
    if (i - from > 1) out.push(sorted.slice(from, i));
  }
  return out;
}

class MeshBuilder {
  readonly roundRings: RoundRing[] = [];
  private readonly columns = growingFloats();
  private readonly columnOwner = growingWholes();
  private readonly faces = growingWholes();
  private readonly faceOwner = growingWholes();
  /** Every border edge that stands, by its two columns. */
  private readonly borders = new Map<number, Border>();
  /** Walls that stand already: those of borders that are round all the way, of what is formed and of ribs. */
  private readonly walls = growingWholes();
  private readonly wallOwner = growingWholes();
  private readonly wallNormals = growingFloats();
  /** The pieces between plates, and the seams of each. */
  private readonly carriers: readonly Carrier[];
  private readonly seams: [Seam, Seam][];
  private readonly raisedColumns = growingWholes();
  private readonly raised = growingFloats();
  private readonly ribs: RibColumns[] = [];
  /** By formed piece, the columns of its outline's points. */
  private readonly outlines = new Map<number, FormedOutline>();
  private readonly sheet: Sheet;
  private readonly chord: number;
  private readonly wanted: ReadonlySet<number> | undefined;

  constructor(sheet: Sheet, chord: number, wanted?: ReadonlySet<number>) {
    this.sheet = sheet;
    this.chord = chord;
    this.wanted = wanted;
    this.carriers = carriersOf(sheet);
    this.seams = this.carriers.map((piece) => {
      const { parent, child } = kindOf(piece).seams!(piece);
      const seam = (line: SeamLine): Seam => ({ ...line, stops: [], columns: new Map() });
      return [seam(parent), seam(child)];
    });
    this.joinAcrossNothing();
  }

  /** Where the plate between two bends has no length, one strip begins where the other ends: one seam. */
  private joinAcrossNothing(): void {
    const empty = new Set(
      platesOf(this.sheet)
        .filter((p) => p.regions.length === 0)
        .map((p) => p.id),
    );
    if (empty.size === 0) return;
    const legOf = new Map(this.carriers.map((b, i) => [b.child, this.seams[i][1]]));
    this.carriers.forEach((b, j) => {
      const leg = empty.has(b.parent) ? legOf.get(b.parent) : undefined;
      const root = this.seams[j][0];
      const same =
        leg && distance(leg.origin, root.origin) < SAME * 10 && Math.abs(leg.width - root.width) < SAME * 10;
      if (same && dot(leg.axis, root.axis) > 1 - 1e-9) this.seams[j] = [leg, this.seams[j][1]];
    });
  }

  build(): SheetMesh {
    const { sheet } = this;
    const plateIndex = new Map(platesOf(sheet).map((p, i) => [p.id, i]));
    const plateSeams: Seam[][] = platesOf(sheet).map(() => []);
    this.carriers.forEach((b, j) => {
      plateSeams[plateIndex.get(b.parent)!].push(this.seams[j][0]);
      plateSeams[plateIndex.get(b.child)!].push(this.seams[j][1]);
    });
    const carrierIndex = new Map<Piece, number>(this.carriers.map((b, j) => [b, j]));
    const seamsOf = (piece: Piece): readonly Seam[] =>
      piece.kind === "plate" ? plateSeams[plateIndex.get(piece.id)!] : this.seams[carrierIndex.get(piece)!];
    const looked = this.looked();
    const raisedFrom = this.addOutlines(looked);
    const zones = this.zonesOf(looked);
    const parts = looked.flatMap((owner) => {
      const piece = sheet.pieces[owner];
      if ("host" in piece) return [];
      const regions = withoutZones(piece, kindOf(piece).regions(piece), zones.get(owner));
      const raised = raisedFrom.get(owner) ?? [];
      const besides = raised.length === 0 ? regions : regions.map((r) => this.besides(r, raised));
      return [{ piece, owner, regions: besides, seams: new Stretches(seamsOf(piece)), raised }];
    });
    const rings = parts.map((part) => part.regions.map((r) => this.flattenRegion(r, part.seams)));
    parts.forEach(({ piece, owner, regions, seams, raised }, k) => {
      rings[k].forEach((regionRings, i) => {
        const within = raised.filter((f) => holds(regions[i], sheet.pieces[f] as Formed));
        if (this.isWanted(owner)) this.addRegion(regions[i], regionRings, seams, owner, piece, within);
        // Of what is only met no more is needed than where its seams are.
        else
          this.addBorders(
            regionRings.filter((r) => !r.round),
            seams,
            owner,
          );
      });
    });
    for (const [owner, of] of this.outlines) if (this.isWanted(owner)) this.addFormed(owner, of);
    for (const i of looked) if (this.isWanted(i)) this.addRib(i);
    return this.finish();
  }

  /** The columns of the outlines of what is formed, and by plate what is formed out of it. */
  private addOutlines(looked: readonly number[]): Map<number, number[]> {
    const { pieces } = this.sheet;
    const raisedFrom = new Map<number, number[]>();
    for (const i of looked) {
      const piece = pieces[i];
      if (piece.kind !== "formed") continue;
      const host = pieceIndex(this.sheet, "plate", piece.host);
      const outline = ringOf(piece.outline, this.chord);
      const { edges } = outline;
      let curve = -1;
      const cut = edges.map((edge) => isCutFree(piece.outline[(edge & STARTS) !== 0 ? ++curve : curve]));
      this.outlines.set(i, { ring: pointsOf(outline).map((p) => this.push(p.x, p.y, host)), cut });
      const list = raisedFrom.get(host);
      if (list) list.push(i);
      else raisedFrom.set(host, [i]);
    }
    return raisedFrom;
  }

  /** By plate and bend, what ribs take of it. */
  private zonesOf(looked: readonly number[]): Map<number, Loop[]> {
    const { sheet } = this;
    const zones = new Map<number, Loop[]>();
    for (const i of looked) {
      const piece = sheet.pieces[i];
      if (piece.kind !== "rib") continue;
      const { host, bend, zone } = piece;
      const hosts = [
        pieceIndex(sheet, "plate", host),
        pieceIndex(sheet, "bend", bend.id),
        pieceIndex(sheet, "plate", bend.child),
      ];
      for (const owner of hosts) zones.set(owner, [...(zones.get(owner) ?? []), zone]);
    }
    return zones;
  }

  /** The faces and walls of a rib, which is a body of its own between legs and strip. */
  private addRib(owner: number): void {
    const rib = this.sheet.pieces[owner];
    if (rib.kind !== "rib") return;
    const grid = ribGrid(rib, this.sheet.t, this.chord);
    const { faces, walls } = ribFaces(grid);
    const first = this.columnOwner.length;
    for (let k = 0; k < grid.along.length * grid.across.length; k++) this.push(0, 0, owner);
    const { axis, out } = rib.bend;
    const over = axis.x * out.y - axis.y * out.x < 0;
    for (let i = 0; i < faces.length; i += 3) {
      const [a, b, c] = [faces[i] + first, faces[i + 1] + first, faces[i + 2] + first];
      for (const column of over ? [a, c, b] : [a, b, c]) this.faces.push(column);
      this.faceOwner.push(owner);
    }
    for (let i = 0; i < walls.length; i += 2) {
      const [a, b] = [walls[i] + first, walls[i + 1] + first];
      this.addWall(over ? b : a, over ? a : b, owner, 0, 0, 0, 0);
    }
    this.ribs.push({ owner, first, grid });
  }

  /** A region without the openings that stand in what is formed out of it. */
  private besides(region: Region, raised: readonly number[]): Region {
    const outlines = raised.map((i) => (this.sheet.pieces[i] as Formed).outline);
    const within = (hole: Loop) => outlines.some((outline) => insideLoop(outline, hole[0].a));
    return region.holes.some(within)
      ? { outer: region.outer, holes: region.holes.filter((hole) => !within(hole)) }
      : region;
  }

  /** The faces and walls of something formed, on the columns of its outline. */
  private addFormed(owner: number, { ring }: FormedOutline): void {
    const surface = formSurface(this.sheet.pieces[owner] as Formed, this.sheet.t, this.chord);
    const { sideA, sideB } = surface;
    const columns = sideA.map((a, k) => {
      if (k < ring.length) return ring[k];
      const column = this.push(a[0], a[1], owner);
      this.raisedColumns.push(column);
      for (const place of [...a, ...sideB[k]]) this.raised.push(place);
      return column;
    });
    for (const k of surface.faces) this.faces.push(columns[k]);
    for (let i = 0; i < surface.faces.length; i += 3) this.faceOwner.push(owner);
    for (let i = 0; i < surface.walls.length; i += 2) {
      const [p, q] = [surface.walls[i], surface.walls[i + 1]];
      const [dx, dy] = [sideA[q][0] - sideA[p][0], sideA[q][1] - sideA[p][1]];
      const length = hypotenuse(dx, dy) || 1;
      const [nx, ny] = [dy / length, -dx / length];
      this.addWall(columns[p], columns[q], owner, nx, ny, nx, ny);
    }
  }

  private isWanted(owner: number): boolean {
    return this.wanted === undefined || this.wanted.has(owner);
  }

  /** The pieces that are wanted and those that they meet, in their order. */
  private looked(): readonly number[] {
    if (this.wanted === undefined) return this.sheet.pieces.map((_, i) => i);
    const neighbours = neighboursOf(this.sheet);
    return [...new Set([...this.wanted].flatMap((i) => [i, ...neighbours[i]]))].sort((a, b) => a - b);
  }

  private flattenRegion(region: Region, seams: Stretches<Seam>): Ring[] {
    const rings = [region.outer, ...region.holes].map((loop) => ringOf(loop, this.chord));
    for (const ring of rings) {
      if (ring.round) continue;
      for (let i = 0; i < ring.edges.length; i++) {
        if (!meetsLine(ring, i)) continue;
        const p = pointOf(ring, i);
        for (const seam of seams.reaching(p)) {
          const s = placeOn(seam, p);
          if (s !== undefined) seam.stops.push(s);
        }
      }
    }
    return rings;
  }

  private addRegion(
    region: Region,
    rings: Ring[],
    seams: Stretches<Seam>,
    owner: number,
    piece: Piece,
    raised: readonly number[],
  ): void {
    const curls = kindOf(piece).metal !== "flat";
    const loops = [region.outer, ...region.holes];
    const { ids, holes, starts } = this.addBorders(rings, seams, owner, curls ? undefined : loops);
    for (const i of raised) this.leaveOut(i, owner, ids, holes);
    this.addFaces(region, { ids, holes, starts }, owner, piece);
  }

  /**
   * The columns of a region's borders, where each opening and each curve begins among them.
   *
   * @param loops What the rings were flattened from, where round ones are to be walled all round.
   */
  private addBorders(
    rings: readonly Ring[],
    seams: Stretches<Seam>,
    owner: number,
    loops?: readonly Loop[],
  ): Bordered {
    const ids: number[] = [];
    const holes: number[] = [];
    const starts: number[] = [];
    rings.forEach((ring, k) => {
      if (k > 0) holes.push(ids.length);
      const start = ids.length;
      if (loops && ring.round) {
        this.roundRings.push({
          loop: loops[k],
          owner,
          first: this.columnOwner.length,
          count: ring.edges.length,
        });
        this.addRoundRing(ring, owner, ids, starts);
        return;
      }
      let leaving = 0;
      const points = pointsOf(ring);
      points.forEach((p, i) => {
        const q = points[(i + 1) % points.length];
        const stops = (ring.edges[i] & STRAIGHT) !== 0 ? stopsBetween(seams, p, q) : [];
        for (const at of [p, ...stops]) {
          const near = at === p ? runsAlong(ring, i, seams) : seams.reaching(at);
          const id = near.length > 0 ? this.column(at, near, owner) : this.push(at.x, at.y, owner);
          const before = ids.length > start ? ids[ids.length - 1] : undefined;
          if (id === before) continue;
          if (before !== undefined) this.borders.set(edgeKey(before, id), borderOf(ring, leaving, owner));
          if (at === p && (ring.edges[i] & STARTS) !== 0) starts.push(ids.length);
          ids.push(id);
          leaving = i;
        }
      });
      if (ids.length > start + 1 && ids[ids.length - 1] === ids[start]) ids.pop();
      this.borders.set(edgeKey(ids[ids.length - 1], ids[start]), borderOf(ring, leaving, owner));
    });
    return { ids, holes, starts };
  }

  /** Leaves room in a plate for what is formed out of it: walled only where that is cut free. */
  private leaveOut(formed: number, owner: number, ids: number[], holes: number[]): void {
    const { cut, ring } = this.outlines.get(formed)!;
    holes.push(ids.length);
    for (let i = ring.length; i > 0; i--) {
      const [from, to] = [i % ring.length, i - 1];
      ids.push(ring[from]);
      if (!cut[to]) continue;
      const [p, q] = [this.at(ring[from]), this.at(ring[to])];
      const length = hypotenuse(q.x - p.x, q.y - p.y) || 1;
      const normal = { x: (q.y - p.y) / length, y: (p.x - q.x) / length };
      this.borders.set(edgeKey(ring[from], ring[to]), { from: normal, to: normal, owner });
    }
  }

  private addFaces(region: Region, { ids, holes, starts }: Bordered, owner: number, piece: Piece): void {
    const curls = kindOf(piece).metal !== "flat";
    const ringEnds = [...holes, ids.length];
    const flat = this.apart(ids, starts, ringEnds);
    const cut = triangulate(region, flat, holes);
    // A triangulation that passes no border point over has exactly this many triangles.
    const complete = cut.length / 3 === ids.length + 2 * holes.length - 2;
    if (complete && !curls) {
      for (let i = 0; i < cut.length; i++) this.faces.push(ids[cut[i]]);
      for (let i = 0; i < cut.length; i += 3) this.faceOwner.push(owner);
      return;
    }
    let triangles = Array.from(cut, (i) => ids[i]);
    if (!complete)
      triangles = closeSeams(
        this.restoreBorder(triangles, bordersOf(ids, ringEnds)),
        bordersOf(ids, ringEnds),
      );
    if (curls) triangles = this.slice(triangles, piece, owner);
    for (const id of triangles) this.faces.push(id);
    for (let i = 0; i < triangles.length; i += 3) this.faceOwner.push(owner);
  }

  /** A border of arcs only stands on no seam: it is walled all round, and nothing of it is looked for again. */
  private addRoundRing(ring: Ring, owner: number, ids: number[], starts: number[]): void {
    const first = this.columnOwner.length;
    const { xy, edges, normals: n } = ring;
    const count = edges.length;
    for (let i = 0; i < count; i++) {
      if ((edges[i] & STARTS) !== 0) starts.push(ids.length);
      ids.push(this.push(xy[2 * i], xy[2 * i + 1], owner));
      const k = 4 * i;
      this.addWall(first + i, first + ((i + 1) % count), owner, n[k], n[k + 1], n[k + 2], n[k + 3]);
    }
  }

  /**
   * Coordinates of a region's border for triangulation. Where it touches itself in a point, as at a
   * hole that just meets an edge, the passes are drawn apart a hair into the metal: a triangulation
   * of the drawn-apart border joins the same columns, and they stand where they stood.
   */
  private apart(
    ids: readonly number[],
    starts: readonly number[],
    ringEnds: readonly number[],
  ): Float64Array {
    const flat = new Float64Array(ids.length * 2);
    ids.forEach((id, i) => {
      flat[i * 2] = this.columns.at(id * 2);
      flat[i * 2 + 1] = this.columns.at(id * 2 + 1);
    });
    // Borders touch only where they were cut, so at the beginnings of curves.
    for (const passes of metTwice(
      starts.filter((i) => i < ids.length),
      flat,
    )) {
      for (const i of passes) {
        const end = ringEnds.find((e) => e > i)!;
        const start = Math.max(0, ...ringEnds.filter((e) => e <= i));
        const [before, here, after] = [i > start ? i - 1 : end - 1, i, i + 1 < end ? i + 1 : start].map((k) =>
          this.at(ids[k]),
        );
        const inward = intoMetal(subtract(here, before), subtract(after, here));
        flat[i * 2] += inward.x * HAIR;
        flat[i * 2 + 1] += inward.y * HAIR;
      }
    }
    return flat;
  }

  /** A point's column. One at the corner of two seams belongs to both. */
  private column(p: Point, seams: readonly Seam[], owner: number): number {
    const hits: [Seam, number][] = [];
    let id: number | undefined;
    for (const seam of seams) {
      const s = placeOn(seam, p);
      if (s === undefined) continue;
      const key = keyOf(s);
      hits.push([seam, key]);
      id ??= seam.columns.get(key) ?? seam.columns.get(key - 1) ?? seam.columns.get(key + 1);
    }
    id ??= this.push(p.x, p.y, owner);
    for (const [seam, key] of hits) seam.columns.set(key, id);
    return id;
  }

  private push(x: number, y: number, owner: number): number {
    this.columns.push(x);
    this.columns.push(y);
    return this.columnOwner.push(owner);
  }

  /** A wall that stands whatever else there is, with its outward directions at both its columns. */
  private addWall(
    from: number,
    to: number,
    owner: number,
    fx: number,
    fy: number,
    tx: number,
    ty: number,
  ): void {
    this.walls.push(from);
    this.walls.push(to);
    this.wallOwner.push(owner);
    this.wallNormals.push(fx);
    this.wallNormals.push(fy);
    this.wallNormals.push(tx);
    this.wallNormals.push(ty);
  }

  private at(id: number): Point {
    return { x: this.columns.at(id * 2), y: this.columns.at(id * 2 + 1) };
  }

  /**
   * The triangulation may pass over points that lie on a straight border. Each such point is put
   * back into the triangle whose edge runs over it, so that neighbours across the border match.
   */
  private restoreBorder(triangles: number[], borders: readonly [number, number][]): number[] {
    const edges = new Map<number, number>();
    for (let i = 0; i < triangles.length; i += 3) {
      for (let k = 0; k < 3; k++) edges.set(edgeKey(triangles[i + k], triangles[i + ((k + 1) % 3)]), i);
    }
    const after = new Map(borders);
    const missing = borders.filter(([a, b]) => !edges.has(edgeKey(a, b)));
    const handled = new Set<number>();
    const dead = new Set<number>();
    const out: number[] = [];
    for (const [a] of missing) {
      if (handled.has(a)) continue;
      const run = this.findRun(a, after, edges);
      if (!run) continue;
      for (const id of run.slice(0, -1)) handled.add(id);
      const i = edges.get(edgeKey(run[0], run[run.length - 1]))!;
      // Another run has divided this triangle just now: this one finds its new triangle in the next round.
      if (dead.has(i)) continue;
      const k = [0, 1, 2].find(
        (e) => triangles[i + e] === run[0] && triangles[i + ((e + 1) % 3)] === run[run.length - 1],
      )!;
      const apex = triangles[i + ((k + 2) % 3)];
      dead.add(i);
      for (let s = 0; s + 1 < run.length; s++) out.push(run[s], run[s + 1], apex);
    }
    if (dead.size === 0) return triangles;
    for (let i = 0; i < triangles.length; i += 3) {
      if (!dead.has(i)) out.push(triangles[i], triangles[i + 1], triangles[i + 2]);
    }
    // Two passed-over runs may belong to one triangle: go again until nothing is missing.
    return this.restoreBorder(out, borders);
  }

  /** The border points that a triangle's edge runs over, beginning at or before `a`. */
  private findRun(a: number, after: Map<number, number>, edges: Map<number, number>): number[] | undefined {
    const run = [a];
    for (let id = after.get(a); id !== undefined && run.length < 4000; id = after.get(id)) {
      run.push(id);
      if (run.length > 2 && edges.has(edgeKey(a, id)) && this.straightRun(run)) return run;
      if (id === a) break;
    }
    return undefined;
  }

  /** Whether an edge from the first to the last of some points truly runs over those between. */
  private straightRun(run: readonly number[]): boolean {
    const [p, q] = [this.at(run[0]), this.at(run[run.length - 1])];
    const length = hypotenuse(q.x - p.x, q.y - p.y) || 1;
    return run.slice(1, -1).every((id) => {
      const m = this.at(id);
      return Math.abs((q.x - p.x) * (m.y - p.y) - (q.y - p.y) * (m.x - p.x)) / length < HAIR;
    });
  }

  /** Cuts triangles of a piece along lines across it, so that it can be curled. */
  private slice(triangles: number[], piece: Piece, owner: number): number[] {
    const lines = kindOf(piece).slices(piece, this.sheet.t, this.chord);
    return lines.reduce((current, line) => this.sliceAt(current, line, owner), triangles);
  }

  private sliceAt(triangles: number[], line: (at: Point) => number, owner: number): number[] {
    const made = new Map<number, number>();
    const side = (id: number) => {
      const d = line(this.at(id));
      return Math.abs(d) < 1e-9 ? 0 : d;
    };
    const between = (a: number, b: number) => {
      const key = a < b ? edgeKey(a, b) : edgeKey(b, a);
      let id = made.get(key);
      if (id === undefined) {
        const [p, q] = a < b ? [a, b] : [b, a];
        const f = side(p) / (side(p) - side(q));
        const pp = this.at(p);
        const qq = this.at(q);
        id = this.push(pp.x + (qq.x - pp.x) * f, pp.y + (qq.y - pp.y) * f, owner);
        made.set(key, id);
        this.splitBorder(a, id, b);
        this.splitBorder(b, id, a);
      }
      return id;
    };
    const out: number[] = [];
    for (let i = 0; i < triangles.length; i += 3) {
      const ids = [triangles[i], triangles[i + 1], triangles[i + 2]];
      const sides = ids.map(side);
      if (!(sides.some((s) => s < 0) && sides.some((s) => s > 0))) {
        out.push(...ids);
        continue;
      }
      for (const sign of [-1, 1]) {
        const ring: number[] = [];
        for (let k = 0; k < 3; k++) {
          const [a, b] = [ids[k], ids[(k + 1) % 3]];
          const [sa, sb] = [sides[k] * sign, sides[(k + 1) % 3] * sign];
          if (sa >= 0) ring.push(a);
          if ((sa > 0 && sb < 0) || (sa < 0 && sb > 0)) ring.push(between(a, b));
        }
        for (let k = 1; k + 1 < ring.length; k++) out.push(ring[0], ring[k], ring[k + 1]);
      }
    }
    return out;
  }

  private splitBorder(a: number, mid: number, b: number): void {
    const border = this.borders.get(edgeKey(a, b));
    if (!border) return;
    const { from, to, owner, goesOn } = border;
    const half = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
    const length = hypotenuse(half.x, half.y) || 1;
    const m = { x: half.x / length, y: half.y / length };
    this.borders.delete(edgeKey(a, b));
    this.borders.set(edgeKey(a, mid), { from, to: m, owner, goesOn });
    this.borders.set(edgeKey(mid, b), { from: m, to, owner, goesOn });
  }

  private finish(): SheetMesh {
    const goesOn: number[] = [];
    for (const [key, { from, to, owner, goesOn: on }] of this.borders) {
      const a = Math.floor(key / MOST_COLUMNS);
      const b = key % MOST_COLUMNS;
      if (!this.isWanted(owner)) continue;
      // A border that a neighbour runs along the other way is a seam: there the metal goes on.
      if (this.borders.has(edgeKey(b, a))) continue;
      if (on) goesOn.push(this.wallOwner.length);
      this.addWall(a, b, owner, from.x, from.y, to.x, to.y);
    }
    const wallsBeyond = new Uint8Array(this.wallOwner.length);
    for (const wall of goesOn) wallsBeyond[wall] = 1;
    return {
      t: this.sheet.t,
      columns: this.columns.all(),
      columnOwner: this.columnOwner.all(),
      faces: this.faces.all(),
      faceOwner: this.faceOwner.all(),
      walls: this.walls.all(),
      wallOwner: this.wallOwner.all(),
      wallNormals: this.wallNormals.all(),
      raisedColumns: this.raisedColumns.all(),
      raised: this.raised.all(),
      ribs: this.ribs,
      goesOn: wallsBeyond,
    };
  }
}
