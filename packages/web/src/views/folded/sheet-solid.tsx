import type { Folding, Sheet, TiledMesh } from "@hillcrest/core";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { type OrthographicCamera, Vector3 } from "three";
import type { SceneColours } from "./scene-colours.ts";
import { Solid } from "./solid.ts";

const toEye = new Vector3();

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
    solid.show(sheet, mesh);
    invalidate();
  }, [solid, sheet, mesh, invalidate]);

  useLayoutEffect(() => {
    solid.fold(sheet, folding);
    invalidate();
  }, [solid, sheet, folding, invalidate]);

  useLayoutEffect(() => {
    solid.paint(colours);
    invalidate();
  }, [solid, colours, invalidate]);

  const told = useRef<TiledMesh | undefined>(undefined);
  useFrame(({ camera }) => {
    // The camera that just moved has not been brought up to date before the frame is drawn.
    camera.updateMatrixWorld();
    solid.seenFrom(camera.getWorldDirection(toEye).negate(), (camera as OrthographicCamera).zoom);
    if (told.current === mesh) return;
    told.current = mesh;
    onDrawn();
  });
  return <primitive object={solid.group} />;
}
