import {
  type Folding,
  foldPoint,
  type PartBuild,
  type Pickable,
  type SheetCorner,
  type SheetMesh,
  unfoldPoint,
} from "@hillcrest/core";
import { type Camera, type Mesh, Raycaster, Vector2, Vector3 } from "three";
import type { Pick } from "../../state/view-slice.ts";
import { pickOf } from "../pick-names.ts";
import { ownerOfTriangle } from "./sheet-solid.tsx";

export interface PickScene {
  readonly build: PartBuild;
  readonly mesh: SheetMesh;
  readonly folding: Folding;
  readonly borders: readonly Pickable[];
  readonly corners: readonly SheetCorner[];
  readonly solid: Mesh;
  readonly camera: Camera;
  readonly size: { readonly width: number; readonly height: number };
}

const REACH_PX = 8;
const ray = new Raycaster();
const a = new Vector3();
const b = new Vector3();

/** What lies under a point of the view (pixels): an edge or hole border within reach, else a plate or bend. */
export function pickAt(scene: PickScene, x: number, y: number): Pick | undefined {
  const { width, height } = scene.size;
  ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), scene.camera);
  const hit = ray.intersectObject(scene.solid, false)[0];
  const corner = nearestCorner(scene, x, y, hit?.distance);
  if (corner) return { kind: "corner", name: corner.name };
  const border = nearestBorder(scene, x, y, hit?.distance);
  if (border) return pickOf(border);
  if (!hit || hit.faceIndex == null) return undefined;
  const sheet = scene.build.sheet!;
  const owner = ownerOfTriangle(scene.mesh, hit.faceIndex);
  const piece = sheet.pieces[owner];
  if (piece.kind === "bend") return { kind: "bend", id: piece.id };
  const [u, v] = unfoldPoint(scene.folding, owner, [hit.point.x, hit.point.y, hit.point.z]);
  return { kind: "plate", id: piece.id, x: u, y: v };
}

const CORNER_PX = 7;

function nearestCorner(
  { build, folding, corners, camera, size }: PickScene,
  x: number,
  y: number,
  hitDistance: number | undefined,
): SheetCorner | undefined {
  const t = build.sheet!.t;
  let best: SheetCorner | undefined;
  let least = CORNER_PX;
  for (const corner of corners) {
    for (const w of [0, t]) {
      const at = foldPoint(folding, corner.owner, [corner.at.x, corner.at.y, w]);
      const place = new Vector3(...at);
      a.copy(place).project(camera);
      const away = Math.hypot(((a.x + 1) / 2) * size.width - x, ((1 - a.y) / 2) * size.height - y);
      if (away >= least) continue;
      const depth = place.sub(ray.ray.origin).dot(ray.ray.direction);
      if (hitDistance !== undefined && depth > hitDistance + t * 1.5 + 0.5) continue;
      best = corner;
      least = away;
    }
  }
  return best;
}

function nearestBorder(
  scene: PickScene,
  x: number,
  y: number,
  hitDistance: number | undefined,
): Pickable | undefined {
  const { build, folding, borders, camera, size } = scene;
  const t = build.sheet!.t;
  let best: Pickable | undefined;
  let least = REACH_PX;
  const project = (p: readonly number[], out: Vector3) => {
    out.set(p[0], p[1], p[2]).project(camera);
    out.x = ((out.x + 1) / 2) * size.width;
    out.y = ((1 - out.y) / 2) * size.height;
  };
  for (const border of borders) {
    for (const [p, q] of border.runs) {
      for (const w of [0, t]) {
        const from = foldPoint(folding, border.owner, [p.x, p.y, w]);
        const to = foldPoint(folding, border.owner, [q.x, q.y, w]);
        project(from, a);
        project(to, b);
        const length2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2 || 1;
        const f = Math.max(0, Math.min(1, ((x - a.x) * (b.x - a.x) + (y - a.y) * (b.y - a.y)) / length2));
        const away = Math.hypot(a.x + (b.x - a.x) * f - x, a.y + (b.y - a.y) * f - y);
        if (away >= least) continue;
        const place = new Vector3(
          from[0] + (to[0] - from[0]) * f,
          from[1] + (to[1] - from[1]) * f,
          from[2] + (to[2] - from[2]) * f,
        );
        const depth = place.sub(ray.ray.origin).dot(ray.ray.direction);
        // Behind the metal under the pointer by more than its own thickness: hidden.
        if (hitDistance !== undefined && depth > hitDistance + t * 1.5 + 0.5) continue;
        best = border;
        least = away;
      }
    }
  }
  return best;
}
