import {
  type Folding,
  foldPoint,
  type PartBuild,
  type Pickable,
  type SheetCorner,
  type Vector,
} from "@hillcrest/core";
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import type { Color } from "three";
import { LineMaterial } from "three/examples/jsm/lines/LineMaterial.js";
import { LineSegments2 } from "three/examples/jsm/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/examples/jsm/lines/LineSegmentsGeometry.js";
import { useApp } from "../../state/store.ts";
import { type Pick, pickKey } from "../../state/view-slice.ts";
import { pickOf } from "../pick-names.ts";

interface PickedLinesProps {
  readonly build: PartBuild;
  readonly folding: Folding;
  readonly borders: readonly Pickable[];
  readonly corners: readonly SheetCorner[];
  readonly colour: Color;
}

/** Lights the borders of what is picked, and fainter of what the pointer is over. */
export function PickedLines(props: PickedLinesProps) {
  const picks = useApp((s) => s.view.picks);
  const hovered = useApp((s) => s.view.hovered);
  const over = useMemo(() => (hovered ? [hovered] : []), [hovered]);
  return (
    <>
      <Lines {...props} picks={over} width={2} opacity={0.65} />
      <Lines {...props} picks={picks} width={3.2} opacity={1} />
    </>
  );
}

function Lines({
  build,
  folding,
  borders,
  corners,
  colour,
  picks,
  width,
  opacity,
}: PickedLinesProps & { picks: readonly Pick[]; width: number; opacity: number }) {
  const { size, invalidate } = useThree();
  const object = useMemo(() => {
    const material = new LineMaterial({ linewidth: width, transparent: true, opacity, depthTest: true });
    material.polygonOffset = true;
    const lines = new LineSegments2(new LineSegmentsGeometry(), material);
    lines.frustumCulled = false;
    lines.renderOrder = 2;
    return lines;
  }, [width, opacity]);
  useEffect(() => {
    const points = picks.flatMap((p) => linesOf(p, build, folding, borders, corners)).flat();
    object.geometry.dispose();
    object.geometry = new LineSegmentsGeometry();
    object.geometry.setPositions(new Float32Array(points.length > 0 ? points : [0, 0, 0, 0, 0, 0]));
    object.visible = points.length > 0;
    object.material.color.copy(colour);
    object.material.resolution.set(size.width, size.height);
    invalidate();
  }, [object, picks, build, folding, borders, corners, colour, size, invalidate]);
  return <primitive object={object} />;
}

/** Pairs of points in space along the border of a pick, on both sides of the sheet. */
function linesOf(
  pick: Pick,
  build: PartBuild,
  folding: Folding,
  borders: readonly Pickable[],
  corners: readonly SheetCorner[],
): Vector[] {
  const sheet = build.sheet!;
  const out: Vector[] = [];
  if (pick.kind === "corner") {
    const corner = corners.find((c) => c.name === pick.name);
    if (!corner) return out;
    const r = Math.max(2.5, sheet.t * 1.5);
    const at = (k: number, w: number) => {
      const a = (k * Math.PI) / 8;
      return foldPoint(folding, corner.owner, [
        corner.at.x + r * Math.cos(a),
        corner.at.y + r * Math.sin(a),
        w,
      ]);
    };
    for (const w of [0, sheet.t]) for (let k = 0; k < 16; k++) out.push(at(k, w), at(k + 1, w));
    return out;
  }
  if (pick.kind === "bend") {
    const j = sheet.bends.findIndex((b) => b.id === pick.id);
    if (j < 0) return out;
    const b = sheet.bends[j];
    const at = (s: number, x: number, w: number) =>
      foldPoint(folding, sheet.plates.length + j, [
        b.origin.x + b.axis.x * s + b.out.x * x,
        b.origin.y + b.axis.y * s + b.out.y * x,
        w,
      ]);
    for (const w of [0, sheet.t]) {
      for (const x of [0, b.allowance]) out.push(at(0, x, w), at(b.width, x, w));
      for (const s of [0, b.width]) {
        for (let k = 0; k < 8; k++)
          out.push(at(s, (b.allowance * k) / 8, w), at(s, (b.allowance * (k + 1)) / 8, w));
      }
    }
    return out;
  }
  const key = pickKey(pick);
  const mine = borders.filter((b) =>
    pick.kind === "plate" ? b.plate === pick.id && !b.role.startsWith("hole:") : pickKey(pickOf(b)) === key,
  );
  for (const border of mine) {
    for (const [p, q] of border.runs) {
      for (const w of [0, sheet.t])
        out.push(
          foldPoint(folding, border.owner, [p.x, p.y, w]),
          foldPoint(folding, border.owner, [q.x, q.y, w]),
        );
    }
  }
  return out;
}
