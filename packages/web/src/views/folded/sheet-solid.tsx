import { type Folding, foldNumbers, type MeshTile, type Sheet, type TiledMesh } from "@hillcrest/core";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  Group,
  type IUniform,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshStandardMaterial,
} from "three";
import { FoldPicture, foldLines, foldMetal } from "./fold-material.ts";
import type { SceneColours } from "./scene-colours.ts";

interface SheetSolidProps {
  readonly sheet: Sheet;
  readonly mesh: TiledMesh;
  readonly folding: Folding;
  readonly colours: SceneColours;
  /** Told once the first frame with this mesh has been drawn. */
  readonly onDrawn: () => void;
}

/**
 * The metal: faces of both sides and cut edges, with borders as dark lines and tangents as faint ones. The graphics
 * card folds it: where the dial is turned, only where the pieces stand is told anew.
 */
export function SheetSolid({ sheet, mesh, folding, colours, onDrawn }: SheetSolidProps) {
  const { invalidate } = useThree();
  const solid = useMemo(() => new Solid(), []);
  useEffect(() => () => solid.dispose(), [solid]);

  useLayoutEffect(() => {
    solid.show(mesh);
    invalidate();
  }, [solid, mesh, invalidate]);

  useLayoutEffect(() => {
    solid.fold(sheet, folding);
    invalidate();
  }, [solid, sheet, folding, invalidate]);

  useLayoutEffect(() => {
    solid.paint(colours);
    invalidate();
  }, [solid, colours, invalidate]);

  const told = useRef<TiledMesh | undefined>(undefined);
  useFrame(() => {
    if (told.current === mesh) return;
    told.current = mesh;
    onDrawn();
  });
  return <primitive object={solid.group} />;
}

/** A tile on the graphics card. */
class DrawnTile {
  readonly objects: readonly (Mesh | LineSegments)[];
  private readonly piece: BufferAttribute;
  private owners: Uint32Array | undefined;

  constructor(tile: MeshTile, materials: Materials) {
    const position = new BufferAttribute(tile.places, 3);
    const normal = new BufferAttribute(tile.ways, 3, true);
    this.piece = new BufferAttribute(new Float32Array(tile.ownerOf.length), 1);
    const geometry = (index: Uint32Array) => {
      const made = new BufferGeometry();
      made.setAttribute("position", position);
      made.setAttribute("normal", normal);
      made.setAttribute("piece", this.piece);
      made.setIndex(new BufferAttribute(index, 1));
      return made;
    };
    this.objects = [
      new Mesh(geometry(tile.triangles), materials.metal),
      ...(tile.sharp.length > 0 ? [new LineSegments(geometry(tile.sharp), materials.sharp)] : []),
      ...(tile.tangent.length > 0 ? [new LineSegments(geometry(tile.tangent), materials.tangent)] : []),
    ];
    // Where it stands is known to the graphics card alone.
    for (const object of this.objects) object.frustumCulled = false;
    this.number(tile);
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

interface Materials {
  readonly metal: MeshStandardMaterial;
  readonly sharp: LineBasicMaterial;
  readonly tangent: LineBasicMaterial;
}

class Solid {
  readonly group = new Group();
  private readonly picture = new FoldPicture();
  private readonly sides: readonly [IUniform, IUniform, IUniform] = [
    { value: undefined },
    { value: undefined },
    { value: undefined },
  ];
  private readonly materials: Materials = {
    metal: new MeshStandardMaterial({
      roughness: 0.52,
      metalness: 0.42,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    }),
    sharp: new LineBasicMaterial({ transparent: true, opacity: 0.62 }),
    tangent: new LineBasicMaterial({ transparent: true, opacity: 0.2 }),
  };
  /** By the places of their vertices: a tile whose pieces have got other numbers is still the same on the card. */
  private drawn = new Map<Float32Array, DrawnTile>();

  constructor() {
    foldMetal(this.materials.metal, this.picture, this.sides);
    foldLines(this.materials.sharp, this.picture);
    foldLines(this.materials.tangent, this.picture);
  }

  show({ tiles }: TiledMesh): void {
    const now = new Map<Float32Array, DrawnTile>();
    for (const tile of tiles) {
      const known = this.drawn.get(tile.places);
      if (known) {
        known.number(tile);
        now.set(tile.places, known);
        continue;
      }
      const made = new DrawnTile(tile, this.materials);
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
    foldNumbers(sheet, folding, this.picture.roomFor(sheet.pieces.length));
    this.picture.written(sheet.t);
  }

  paint({ a, b, edge, theme, ink }: SceneColours): void {
    const [sideA, sideB, cut] = this.sides;
    sideA.value = a;
    sideB.value = b;
    cut.value = edge;
    const dark = theme === "night" ? "#0c1210" : ink;
    this.materials.sharp.color.set(dark);
    this.materials.tangent.color.set(dark);
  }

  dispose(): void {
    for (const tile of this.drawn.values()) tile.dispose();
    for (const material of Object.values(this.materials)) material.dispose();
    this.picture.dispose();
  }
}
