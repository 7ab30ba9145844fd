import {
  FOLD_NUMBERS,
  type Folding,
  firstPlace,
  foldNumbers,
  kindOf,
  type MeshTile,
  ribPlaces,
  type Sheet,
  type TiledMesh,
} from "@hillcrest/core";
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Group,
  type IUniform,
  LineBasicMaterial,
  LineSegments,
  type Material,
  Mesh,
  MeshStandardMaterial,
  Sphere,
  Vector3,
} from "three";
import { SCREEN_CHORD } from "../../worker/screen-chord.ts";
import { FoldPicture, foldLines, foldMetal } from "./fold-material.ts";
import type { SceneColours } from "./scene-colours.ts";

/** A tile on the graphics card. */
class DrawnTile {
  readonly objects: readonly (Mesh | LineSegments)[];
  private readonly piece: BufferAttribute;
  private readonly position: BufferAttribute;
  private readonly normal: BufferAttribute;
  private readonly ownerOf: Uint8Array;
  private owners: Uint32Array | undefined;
  /** How long its borders are for its area, 1/mm. */
  readonly density: number;

  /** Of a single plate it moves as a whole: that is cheaper said than folded. */
  private readonly stiff: boolean;
  /** Where in the list of a lone plate's triangles its walls begin, and where its side B does; see `PieceMesh`. */
  private readonly walls: number;
  private readonly sideB: number;
  private readonly t: number;
  /** How broad the bends of a tile of bends are at most, mm. */
  private readonly broad: number;

  constructor(
    tile: MeshTile,
    sheet: Sheet,
    { folded, stiff }: Readonly<Record<"folded" | "stiff", Materials>>,
  ) {
    this.stiff = tile.owners.length === 1 && kindOf(sheet.pieces[tile.owners[0]]).metal === "flat";
    this.t = sheet.t;
    this.broad = broadest(tile, sheet);
    this.walls = firstNotBelow(tile, -WALL);
    this.sideB = firstNotBelow(tile, WALL);
    const materials = this.stiff ? stiff : folded;
    this.density = densityOf(tile);
    const lines = this.density > CROWDED ? materials.crowded : materials.sharp;
    const position = new BufferAttribute(tile.places, 3);
    const normal = new BufferAttribute(tile.ways, 3, true);
    this.position = position;
    this.normal = normal;
    this.ownerOf = tile.ownerOf;
    this.piece = new BufferAttribute(new Float32Array(tile.ownerOf.length), 1);
    // A rib lies aslant to its plate: its vertices are those of side A and of side B in turn.
    const isRib = sheet.pieces[tile.owners[0]].kind === "rib";
    const face = isRib
      ? new BufferAttribute(
          Float32Array.from(tile.ownerOf, (_, i) => (i % 2 === 0 ? -1 : 1)),
          1,
        )
      : undefined;
    const geometry = (index: Uint32Array) => {
      const made = new BufferGeometry();
      made.setAttribute("position", position);
      made.setAttribute("normal", normal);
      made.setAttribute("piece", this.piece);
      if (face) made.setAttribute("face", face);
      made.setIndex(new BufferAttribute(index, 1));
      return made;
    };
    this.objects = [
      new Mesh(geometry(tile.triangles), materials.metal),
      ...(tile.sharp.length > 0 ? [new LineSegments(geometry(tile.sharp), lines)] : []),
      ...(tile.tangent.length > 0 ? [new LineSegments(geometry(tile.tangent), materials.tangent)] : []),
    ];
    const sphere = this.stiff ? sphereAbout(tile.places) : null;
    for (const object of this.objects) {
      // Where it stands is said by its plate's motion, or known to the graphics card alone.
      object.frustumCulled = this.stiff;
      object.geometry.boundingSphere = sphere;
      object.matrixAutoUpdate = false;
    }
    this.number(tile);
  }

  /**
   * Has no more drawn than can be seen: of a lone plate the side that faces the eye, and its walls where they are half as
   * high as a pixel; bends where they are a quarter as broad. The graphics card would find out as
   * much, but only once it has put every vertex in its place.
   *
   * @param toEye Direction to the eye, of length 1.
   * @param zoom How many pixels a millimetre is.
   */
  seenFrom(toEye: Vector3, zoom: number): void {
    const [metal] = this.objects;
    for (const object of this.objects) object.visible = this.broad * zoom >= NARROWEST;
    if (!this.stiff) return;
    const facing = toEye.dot(across.setFromMatrixColumn(metal.matrix, 2));
    const all = metal.geometry.index!.count;
    const aslant = Math.abs(facing) < EDGEWAYS;
    const walled = aslant || this.t * zoom >= THINNEST;
    const from = aslant || facing < 0 ? 0 : walled ? this.walls : this.sideB;
    const to = aslant || facing > 0 ? all : walled ? this.sideB : this.walls;
    metal.geometry.setDrawRange(from, to - from);
  }

  /** Puts it where its plate stands in a state; the graphics card does so with what is folded. */
  place(numbers: Float32Array): void {
    if (!this.stiff || !this.owners) return;
    const at = this.owners[0] * FOLD_NUMBERS;
    const n = (column: number, k: number) => numbers[at + column * 4 + k];
    for (const object of this.objects) {
      const { matrix } = object;
      matrix.makeBasis(
        new Vector3(n(0, 0), n(0, 1), n(0, 2)),
        new Vector3(n(1, 0), n(1, 1), n(1, 2)),
        new Vector3(n(2, 0), n(2, 1), n(2, 2)),
      );
      matrix.setPosition(n(3, 0), n(3, 1), n(3, 2));
      object.matrixWorldNeedsUpdate = true;
    }
  }

  /** Ribs stand where the state has them, which no number of a piece says: their few vertices are put there one by one. */
  press(sheet: Sheet, { pieces }: Folding): void {
    const { owners } = this;
    if (!owners || sheet.pieces[owners[0]]?.kind !== "rib") return;
    const places = this.position.array as Float32Array;
    const ways = this.normal.array as Int8Array;
    const triangles = this.objects[0].geometry.index!.array;
    let first = 0;
    owners.forEach((owner, nth) => {
      const [rib, folded] = [sheet.pieces[owner], pieces[owner]];
      if (rib.kind === "rib" && folded.kind === "rib")
        ribPlaces(rib, folded, sheet.t, SCREEN_CHORD, { places, ways, triangles }, first);
      while (first < this.ownerOf.length && this.ownerOf[first] === nth) first++;
    });
    this.position.needsUpdate = true;
    this.normal.needsUpdate = true;
  }

  /** Says which pieces of the sheet its own are: that may change where nothing else does. */
  number({ owners, ownerOf }: MeshTile): void {
    if (owners === this.owners) return;
    this.owners = owners;
    for (let i = 0; i < ownerOf.length; i++) this.piece.array[i] = owners[ownerOf[i]];
    this.piece.needsUpdate = true;
  }

  dispose(): void {
    for (const object of this.objects) object.geometry.dispose();
  }
}

const across = new Vector3();
/** A plate of which so little is seen is seen edgeways: all of it is drawn. */
const EDGEWAYS = 0.2;
/** Walls of so many pixels are drawn. */
const THINNEST = 0.5;
/** Bends of so many pixels are drawn. */
const NARROWEST = 0.25;
/** Vertices of walls have less of a direction across their plate than this, those of a side have 127. */
const WALL = 64;

/** How broad the bends of a tile are at most, mm; of a tile of anything else, no less than can be seen. */
function broadest({ owners }: MeshTile, sheet: Sheet): number {
  let most = 0;
  for (const owner of owners) {
    const piece = sheet.pieces[owner];
    most = Math.max(most, kindOf(piece).breadth?.(piece) ?? Infinity);
  }
  return most;
}

/** Where in a list of triangles that is ordered by them the directions across the plate are `least` or more. */
const firstNotBelow = ({ triangles, ways }: MeshTile, least: number): number =>
  3 * firstPlace(triangles.length / 3, (i) => ways[triangles[i * 3] * 3 + 2] >= least);

/** A sphere that vertices lie in. */
function sphereAbout(places: Float32Array): Sphere {
  const [least, most] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (let i = 0; i < places.length; i++) {
    const k = i % 3;
    if (places[i] < least[k]) least[k] = places[i];
    if (places[i] > most[k]) most[k] = places[i];
  }
  return new Box3(new Vector3(...least), new Vector3(...most)).getBoundingSphere(new Sphere());
}

/** From so many mm of borders on a mm² of metal on they may hide it when they are seen from far. */
const CROWDED = 0.2;
/** So much of a picture may be lines. */
const INKED = 0.2;
const SHARP = 0.62;
/** Lines that are fainter change nothing that one could see: they are not drawn. */
const FAINTEST = 0.12;

function densityOf({ places, sharp, triangles, ways }: MeshTile): number {
  let [length, area] = [0, 0];
  const at = (vertex: number, k: number) => places[vertex * 3 + k];
  for (let i = 0; i < sharp.length; i += 2)
    length += Math.hypot(at(sharp[i], 0) - at(sharp[i + 1], 0), at(sharp[i], 1) - at(sharp[i + 1], 1));
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i], triangles[i + 1], triangles[i + 2]];
    // Side B only.
    if (ways[a * 3 + 2] < 100) continue;
    area += (at(b, 0) - at(a, 0)) * (at(c, 1) - at(a, 1)) - (at(b, 1) - at(a, 1)) * (at(c, 0) - at(a, 0));
  }
  return length / Math.max(1e-6, area / 2);
}

interface Materials {
  readonly metal: MeshStandardMaterial;
  readonly sharp: LineBasicMaterial;
  /** Borders of what has so many that they are drawn the fainter the smaller they are seen. */
  readonly crowded: LineBasicMaterial;
  readonly tangent: LineBasicMaterial;
}

const newMaterials = (): Materials => ({
  metal: new MeshStandardMaterial({
    roughness: 0.52,
    metalness: 0.42,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  }),
  sharp: new LineBasicMaterial({ transparent: true, opacity: SHARP }),
  crowded: new LineBasicMaterial({ transparent: true, opacity: SHARP }),
  tangent: new LineBasicMaterial({ transparent: true, opacity: 0.2 }),
});

/** A sheet as the graphics card has it: tiles that come and go, and where all pieces stand. */
export class Solid {
  readonly group = new Group();
  private readonly picture = new FoldPicture();
  private readonly sides: readonly [IUniform, IUniform, IUniform] = [
    { value: undefined },
    { value: undefined },
    { value: undefined },
  ];
  private readonly materials = { folded: newMaterials(), stiff: newMaterials() };
  /** By the places of their vertices: a tile whose pieces have got other numbers is still the same on the card. */
  private drawn = new Map<Float32Array, DrawnTile>();

  constructor() {
    const { folded, stiff } = this.materials;
    foldMetal(folded.metal, this.picture, this.sides);
    foldMetal(stiff.metal, undefined, this.sides);
    for (const lines of [folded.sharp, folded.crowded, folded.tangent]) foldLines(lines, this.picture);
  }

  show(sheet: Sheet, { tiles }: TiledMesh): void {
    const now = new Map<Float32Array, DrawnTile>();
    for (const tile of tiles) {
      const known = this.drawn.get(tile.places);
      if (known) {
        known.number(tile);
        now.set(tile.places, known);
        continue;
      }
      const made = new DrawnTile(tile, sheet, this.materials);
      this.group.add(...made.objects);
      now.set(tile.places, made);
    }
    for (const [places, tile] of this.drawn) {
      if (now.has(places)) continue;
      this.group.remove(...tile.objects);
      tile.dispose();
    }
    this.drawn = now;
  }

  fold(sheet: Sheet, folding: Folding): void {
    const numbers = foldNumbers(sheet, folding, this.picture.roomFor(sheet.pieces.length));
    this.picture.written(sheet.t);
    for (const tile of this.drawn.values()) {
      tile.place(numbers);
      tile.press(sheet, folding);
    }
  }

  /** Said before each frame: how many pixels a millimetre is, and the direction to the eye, of length 1. */
  seenFrom(toEye: Vector3, zoom: number): void {
    for (const tile of this.drawn.values()) tile.seenFrom(toEye, zoom);
    const most = Math.max(0, ...[...this.drawn.values()].map((t) => (t.density > CROWDED ? t.density : 0)));
    const opacity = most > 0 ? Math.min(SHARP, (SHARP * INKED * zoom) / most) : SHARP;
    for (const { crowded } of Object.values(this.materials)) {
      crowded.opacity = opacity;
      crowded.visible = opacity >= FAINTEST;
    }
  }

  paint({ a, b, edge, theme, ink }: SceneColours): void {
    const [sideA, sideB, cut] = this.sides;
    sideA.value = a;
    sideB.value = b;
    cut.value = edge;
    const dark = theme === "night" ? "#0c1210" : ink;
    for (const { sharp, crowded, tangent } of Object.values(this.materials))
      for (const lines of [sharp, crowded, tangent]) lines.color.set(dark);
  }

  dispose(): void {
    for (const tile of this.drawn.values()) tile.dispose();
    for (const kind of Object.values(this.materials))
      for (const material of Object.values(kind) as Material[]) material.dispose();
    this.picture.dispose();
  }
}
