import { type Folding, rayHit, type Sheet } from "@hillcrest/core";
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { type Camera, Vector3 } from "three";

/** A page element that follows a point of the scene. `along` also turns it to a direction there. */
export interface Anchor {
  readonly id: string;
  readonly at: readonly [number, number, number];
  readonly along?: readonly [number, number, number];
  /** Pixels to stand off along the direction. */
  readonly off?: number;
  /** When given, the label is faint while metal stands more than this before it. */
  readonly behind?: number;
}

const p = new Vector3();
const q = new Vector3();

interface OverlayProps {
  readonly anchors: readonly Anchor[];
  readonly nodes: Map<string, HTMLElement>;
  /** The metal that may stand before a label and make it faint. */
  readonly sheet: Sheet;
  readonly folding: Folding;
}

const toEye = new Vector3();
// Above this many labels, looking behind each at every frame would cost more than it tells.
const MOST_LOOKED_BEHIND = 40;
/** How much room a label takes, px: upright, and across for its letters and beside them. */
const LABEL = { high: 15, letter: 8, beside: 7 };

/** Whether metal stands between the eye and a point by more than a little. */
function isHidden(sheet: Sheet, folding: Folding, camera: Camera, at: Vector3, slack: number): boolean {
  camera.getWorldDirection(toEye).negate();
  const from = at.clone().addScaledVector(toEye, slack);
  return rayHit(sheet, folding, from.toArray(), toEye.toArray()) !== undefined;
}

/** Anchors with their elements. What is pointed at or picked comes first: where letters are crowded it is the one to be read. */
function litFirst(anchors: readonly Anchor[], nodes: ReadonlyMap<string, HTMLElement>) {
  const [lit, others]: [Anchor, HTMLElement][][] = [[], []];
  for (const anchor of anchors) {
    const node = nodes.get(anchor.id);
    if (node) (node.dataset.lit === undefined ? others : lit).push([anchor, node]);
  }
  return [...lit, ...others];
}

/** Keeps the elements of `nodes` at their anchors, at every frame that is drawn. */
export function Overlay({ anchors, nodes, sheet, folding }: OverlayProps) {
  const { camera, size, invalidate } = useThree();
  // biome-ignore lint/correctness/useExhaustiveDependencies: new anchors need a frame to be put in place
  useEffect(() => invalidate(), [anchors, invalidate]);
  useFrame(() => {
    // This runs before the frame is drawn, when a camera that just moved has not been brought up to date.
    camera.updateMatrixWorld();
    const placed: { readonly x: number; readonly y: number; readonly wide: number }[] = [];
    for (const [anchor, node] of litFirst(anchors, nodes)) {
      p.set(...anchor.at);
      let opacity = "1";
      if (anchor.behind !== undefined && anchors.length <= MOST_LOOKED_BEHIND) {
        if (isHidden(sheet, folding, camera, p, anchor.behind)) opacity = "0.3";
      }
      p.project(camera);
      let x = ((p.x + 1) / 2) * size.width;
      let y = ((1 - p.y) / 2) * size.height;
      if (anchor.behind !== undefined) {
        // Where letters would lie over each other only the first is shown.
        const wide = LABEL.beside + LABEL.letter * (node.textContent?.length ?? 0);
        const lies = (o: (typeof placed)[number]) =>
          Math.abs(o.y - y) < LABEL.high && Math.abs(o.x - x) < (o.wide + wide) / 2;
        const hidden = placed.some(lies);
        node.style.opacity = hidden ? "0" : opacity;
        if (hidden) continue;
        placed.push({ x, y, wide });
      }
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
