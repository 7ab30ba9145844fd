import {
  type DrawnMesh,
  drawMesh,
  type FeatureLines,
  type Folding,
  featureLines,
  foldVertices,
  type SheetMesh,
} from "@hillcrest/core";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { BufferAttribute, BufferGeometry, type Mesh } from "three";
import type { SceneColours } from "./scene-colours.ts";

interface SheetSolidProps {
  readonly mesh: SheetMesh;
  readonly folding: Folding;
  readonly colours: SceneColours;
  readonly solid: React.RefObject<Mesh | null>;
  /** Told once the first frame with this mesh has been drawn. */
  readonly onDrawn: () => void;
}

/** The metal: faces of both sides and cut edges, with borders as dark lines and tangents as faint ones. */
export function SheetSolid({ mesh, folding, colours, solid, onDrawn }: SheetSolidProps) {
  const { invalidate } = useThree();
  const drawn = useRef<DrawnMesh | undefined>(undefined);
  const lines = useMemo(() => featureLines(mesh), [mesh]);
  const faces = useMemo(() => new BufferGeometry(), []);
  const sharp = useMemo(() => new BufferGeometry(), []);
  const tangent = useMemo(() => new BufferGeometry(), []);

  useLayoutEffect(() => {
    const before = drawn.current;
    const now = drawMesh(mesh, folding, before);
    drawn.current = now;
    if (now.positions !== before?.positions) {
      faces.setAttribute("position", new BufferAttribute(now.positions, 3));
      faces.setAttribute("normal", new BufferAttribute(now.normals, 3));
      faces.clearGroups();
      [now.sideA, now.sideB, now.edges].forEach(([start, count], i) => {
        faces.addGroup(start, count, i);
      });
    }
    faces.attributes.position.needsUpdate = true;
    faces.attributes.normal.needsUpdate = true;
    faces.computeBoundingSphere();
    setLines(sharp, mesh, folding, lines, "sharp");
    setLines(tangent, mesh, folding, lines, "tangent");
    invalidate();
  }, [mesh, folding, lines, faces, sharp, tangent, invalidate]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a theme change only needs a new frame
  useEffect(() => invalidate(), [colours, invalidate]);

  const told = useRef<SheetMesh | undefined>(undefined);
  useFrame(() => {
    if (told.current === mesh) return;
    told.current = mesh;
    onDrawn();
  });

  const metal = {
    roughness: 0.52,
    metalness: 0.42,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  };
  return (
    <group>
      <mesh ref={solid} geometry={faces} frustumCulled={false}>
        <meshStandardMaterial attach="material-0" color={colours.a} {...metal} />
        <meshStandardMaterial attach="material-1" color={colours.b} {...metal} />
        <meshStandardMaterial attach="material-2" color={colours.edge} {...metal} roughness={0.75} />
      </mesh>
      <lineSegments geometry={sharp} frustumCulled={false}>
        <lineBasicMaterial
          color={colours.theme === "night" ? "#0c1210" : colours.ink}
          transparent
          opacity={0.62}
        />
      </lineSegments>
      <lineSegments geometry={tangent} frustumCulled={false}>
        <lineBasicMaterial
          color={colours.theme === "night" ? "#0c1210" : colours.ink}
          transparent
          opacity={0.2}
        />
      </lineSegments>
    </group>
  );
}

function setLines(
  geometry: BufferGeometry,
  mesh: SheetMesh,
  folding: Folding,
  lines: FeatureLines,
  which: keyof FeatureLines,
): void {
  geometry.setAttribute("position", new BufferAttribute(foldVertices(mesh, folding, lines[which]), 3));
}

/** Which plate or bend a triangle of the drawn mesh belongs to, counted as in `SheetMesh`. */
export function ownerOfTriangle(mesh: SheetMesh, triangle: number): number {
  const faces = mesh.faceOwner.length;
  if (triangle < faces) return mesh.faceOwner[triangle];
  if (triangle < 2 * faces) return mesh.faceOwner[triangle - faces];
  return mesh.wallOwner[Math.floor((triangle - 2 * faces) / 2)];
}
