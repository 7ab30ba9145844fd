import { useFrame, useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { Vector3 } from "three";

/** A page element that follows a point of the scene. `along` also turns it to a direction there. */
export interface Anchor {
  readonly id: string;
  readonly at: readonly [number, number, number];
  readonly along?: readonly [number, number, number];
  /** Pixels to stand off along the direction. */
  readonly off?: number;
}

const p = new Vector3();
const q = new Vector3();

/** Keeps the elements of `nodes` at their anchors, at every frame that is drawn. */
export function Overlay({ anchors, nodes }: { anchors: readonly Anchor[]; nodes: Map<string, HTMLElement> }) {
  const { camera, size, invalidate } = useThree();
  // biome-ignore lint/correctness/useExhaustiveDependencies: new anchors need a frame to be put in place
  useEffect(() => invalidate(), [anchors, invalidate]);
  useFrame(() => {
    // This runs before the frame is drawn, when a camera that just moved has not been brought up to date.
    camera.updateMatrixWorld();
    for (const anchor of anchors) {
      const node = nodes.get(anchor.id);
      if (!node) continue;
      p.set(...anchor.at).project(camera);
      let x = ((p.x + 1) / 2) * size.width;
      let y = ((1 - p.y) / 2) * size.height;
      let turn = "";
      if (anchor.along) {
        q.set(
          anchor.at[0] + anchor.along[0],
          anchor.at[1] + anchor.along[1],
          anchor.at[2] + anchor.along[2],
        ).project(camera);
        const dx = ((q.x - p.x) / 2) * size.width;
        const dy = (-(q.y - p.y) / 2) * size.height;
        const length = Math.hypot(dx, dy);
        if (length > 1e-6) {
          x += (dx / length) * (anchor.off ?? 0);
          y += (dy / length) * (anchor.off ?? 0);
          turn = ` rotate(${Math.atan2(dy, dx)}rad)`;
        }
        // How many pixels one millimetre along the direction is, for dragging.
        node.dataset.pxX = String(dx);
        node.dataset.pxY = String(dy);
      }
      node.style.transform = `translate(${x.toFixed(1)}px, ${y.toFixed(1)}px) translate(-50%, -50%)${turn}`;
      node.style.visibility = "visible";
    }
  });
  return null;
}
