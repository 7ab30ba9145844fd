import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import { type Box3, MOUSE, type OrthographicCamera, Sphere, TOUCH, Vector3 } from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Facing } from "../../state/view-slice.ts";

const DIRECTIONS: Readonly<Record<Exclude<Facing, "fit">, Vector3>> = {
  front: new Vector3(0, -1, 0),
  top: new Vector3(0, -0.0001, 1).normalize(),
  right: new Vector3(1, 0, 0),
  oblique: new Vector3(-0.48, -0.78, 0.56).normalize(),
};

const EASE_MS = 220;
const stillness = () => matchMedia("(prefers-reduced-motion: reduce)").matches;

interface CameraProps {
  readonly box: Box3;
  readonly facing: { readonly to: Facing; readonly count: number };
  /** Changes when another part is shown, which is then fitted into the view. */
  readonly subject: string;
  /** Told when a view that was set by hand no longer shows the whole part, and when it does again. */
  readonly onAway: (away: boolean) => void;
}

/** The hand's controls over the camera; the picture is drawn anew whenever they move it. */
function useControls(): OrbitControls {
  const { camera, gl, invalidate } = useThree();
  const controls = useMemo(() => {
    camera.up.set(0, 0, 1);
    const c = new OrbitControls(camera, gl.domElement);
    c.mouseButtons = { LEFT: null, MIDDLE: MOUSE.PAN, RIGHT: MOUSE.ROTATE };
    c.touches = { ONE: TOUCH.ROTATE, TWO: TOUCH.DOLLY_PAN };
    c.zoomToCursor = true;
    c.enableDamping = false;
    c.minZoom = 0.02;
    c.maxZoom = 400;
    return c;
  }, [camera, gl]);

  useEffect(() => {
    const changed = () => invalidate();
    controls.addEventListener("change", changed);
    return () => controls.removeEventListener("change", changed);
  }, [controls, invalidate]);
  useEffect(() => () => controls.dispose(), [controls]);
  return controls;
}

/** Right drag turns, middle drag moves, the wheel zooms to the pointer; one finger turns, two move and zoom. */
export function Camera({ box, facing, subject, onAway }: CameraProps) {
  const { camera, invalidate, size } = useThree();
  const ortho = camera as OrthographicCamera;
  const latest = useRef(box);
  latest.current = box;

  const controls = useControls();

  // Once turned, zoomed or moved by hand the view is the hand's, until it is fitted again.
  const byHand = useRef(false);
  useEffect(() => {
    const begin = () => {
      byHand.current = true;
    };
    const look = () => onAway(byHand.current && !isInSight(latest.current, ortho));
    controls.addEventListener("start", begin);
    controls.addEventListener("end", look);
    return () => {
      controls.removeEventListener("start", begin);
      controls.removeEventListener("end", look);
    };
  }, [controls, ortho, onAway]);

  // A part that grows stays in sight: the view follows it, or shows the way back when it was set by hand.
  useEffect(() => {
    if (camera.userData.placed !== true || size.width === 0 || isInSight(box, ortho, ROOMY))
      return onAway(false);
    if (byHand.current) return onAway(!isInSight(box, ortho));
    const dir = controls.object.position.clone().sub(controls.target).normalize();
    return glide(ortho, controls, box, dir, size, invalidate);
  }, [box, size, camera, ortho, controls, invalidate, onAway]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: runs when a view is asked for or another part comes
  useEffect(() => {
    byHand.current = false;
    onAway(false);
    const to =
      facing.to === "fit"
        ? controls.object.position.clone().sub(controls.target).normalize()
        : DIRECTIONS[facing.to];
    return glide(ortho, controls, latest.current, to, size, invalidate);
  }, [facing.count, subject, size.width > 0]);

  // When the view gets another size (a drawer, the divider, one view alone) the part keeps its share of it.
  const lastSize = useRef(size);
  useEffect(() => {
    const before = lastSize.current;
    lastSize.current = size;
    if (before.width === 0 || size.width === 0 || camera.userData.placed !== true) return;
    const dir = camera.position.clone().sub(controls.target).normalize();
    ortho.zoom *= fitZoom(latest.current, dir, size) / fitZoom(latest.current, dir, before);
    ortho.updateProjectionMatrix();
    controls.update();
    invalidate();
  }, [size, camera, ortho, controls, invalidate]);

  return null;
}

/** As a share of the half of a view: what is beyond it by a hair is still in sight, and what is nearly at its rim is not roomy. */
const SLACK = 1.02;
const ROOMY = 0.97;

/** Whether all of a box is within a share of the view. */
function isInSight(box: Box3, camera: OrthographicCamera, share = SLACK): boolean {
  if (box.isEmpty()) return true;
  camera.updateMatrixWorld();
  const p = new Vector3();
  for (let i = 0; i < 8; i++) {
    p.set(
      i & 1 ? box.max.x : box.min.x,
      i & 2 ? box.max.y : box.min.y,
      i & 4 ? box.max.z : box.min.z,
    ).project(camera);
    if (Math.abs(p.x) > share || Math.abs(p.y) > share) return false;
  }
  return true;
}

/** Moves the camera to look along a direction with the whole part in view. Returns how to stop it. */
function glide(
  camera: OrthographicCamera,
  controls: OrbitControls,
  box: Box3,
  to: Vector3,
  size: { width: number; height: number },
  invalidate: () => void,
): () => void {
  if (box.isEmpty() || size.width === 0) return () => {};
  const sphere = box.getBoundingSphere(new Sphere());
  const distance = Math.max(2000, sphere.radius * 4);
  const zoom = fitZoom(box, to, size);
  const from = {
    dir: camera.position.clone().sub(controls.target).normalize(),
    target: controls.target.clone(),
    zoom: camera.zoom,
  };
  camera.near = 0.1;
  camera.far = distance + sphere.radius * 8 + 20000;
  const put = (f: number) => {
    const target = from.target.clone().lerp(sphere.center, f);
    const dir = from.dir.clone().lerp(to, f).normalize();
    controls.target.copy(target);
    camera.position.copy(target).addScaledVector(dir, distance);
    camera.zoom = from.zoom * (zoom / from.zoom) ** f;
    camera.updateProjectionMatrix();
    controls.update();
    invalidate();
  };
  const first = camera.userData.placed !== true;
  camera.userData.placed = true;
  if (first || stillness()) {
    put(1);
    return () => {};
  }
  const start = performance.now();
  let frame = 0;
  const step = (now: number) => {
    const f = Math.min(1, Math.max(0, (now - start) / EASE_MS));
    put(1 - (1 - f) ** 3);
    if (f < 1) frame = requestAnimationFrame(step);
  };
  frame = requestAnimationFrame(step);
  return () => cancelAnimationFrame(frame);
}

/** The zoom at which a box, seen along a direction, fills most of the view. */
function fitZoom(box: Box3, dir: Vector3, size: { width: number; height: number }): number {
  const right = new Vector3(0, 0, 1).cross(dir).normalize();
  const up = dir.clone().cross(right);
  let [w, h] = [1, 1];
  const c = box.getCenter(new Vector3());
  for (let i = 0; i < 8; i++) {
    const p = new Vector3(
      i & 1 ? box.max.x : box.min.x,
      i & 2 ? box.max.y : box.min.y,
      i & 4 ? box.max.z : box.min.z,
    ).sub(c);
    w = Math.max(w, 2 * Math.abs(p.dot(right)));
    h = Math.max(h, 2 * Math.abs(p.dot(up)));
  }
  // Room for the header above and the dial below.
  return Math.max(1e-3, Math.min((size.width - 70) / w, (size.height - 170) / h));
}
