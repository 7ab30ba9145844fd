import {
  clearanceBetween,
  type Folding,
  foldedMarks,
  foldPoint,
  kindOf,
  type PartBuild,
  type Point,
  runsOf,
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
import type { PickPlaces } from "../pick-places.ts";
import { type ShownMark, usePlaceMarks } from "../place-marks.ts";
import { useFrameCost, useRested } from "./frame-cost.ts";

interface PickedLinesProps {
  readonly build: PartBuild;
  readonly folding: Folding;
  readonly places: PickPlaces;
  readonly colour: Color;
  /** Of what shows how a place is measured. */
  readonly markColour: Color;
}

/** Lights the borders of what is picked, and fainter of what the pointer is over. */
export function PickedLines(props: PickedLinesProps) {
  const picks = useApp((s) => s.view.picks);
  const pointedAt = useApp((s) => s.view.hovered);
  const hovered = useRested(pointedAt, useFrameCost());
  const { build, folding, places, colour, markColour } = props;
  const marks = usePlaceMarks(build);
  const pointsOf = (list: readonly Pick[]) => list.flatMap((p) => linesOf(p, build, folding, places));
  // biome-ignore lint/correctness/useExhaustiveDependencies: pointsOf stands on these
  const over = useMemo(() => pointsOf(hovered), [hovered, build, folding, places]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: pointsOf stands on these
  const lit = useMemo(() => pointsOf(picks), [picks, build, folding, places]);
  const gap = useGapLine(build, folding);
  const measured = useMemo(() => marks.flatMap((m) => markLines(m, build, folding)), [marks, build, folding]);
  return (
    <>
      <Lines points={over} colour={colour} width={2} opacity={0.65} />
      <Lines points={lit} colour={colour} width={3.2} opacity={1} />
      <Lines points={gap} colour={markColour} width={2.6} opacity={1} />
      <Lines points={measured} colour={markColour} width={1.8} opacity={1} />
    </>
  );
}

/** Where the metal of two plates or bends that are measured comes nearest: a line between the two points. */
function useGapLine(build: PartBuild, folding: Folding): Vector[] {
  const measured = useApp((s) => s.view.measured);
  return useMemo(() => {
    const [a, b] = measured.map((p) => ("id" in p ? { kind: p.kind, name: p.id } : undefined));
    const found = a && b && clearanceBetween(build.sheet!, folding, a, b);
    return found && found.distance > 0 ? [found.from, found.to] : [];
  }, [measured, build, folding]);
}

/** The lines, distances and axes of a place on both sides of its plate, each with its arrow. */
function markLines(mark: ShownMark, build: PartBuild, folding: Folding): Vector[] {
  const out: Vector[] = [];
  const { t } = build.sheet!;
  const run = (a: Point, b: Point, arrow: boolean) => {
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const head = Math.min(length / 2, Math.max(1.5, length * 0.08));
    const [ux, uy] = [((b.x - a.x) / length) * head, ((b.y - a.y) / length) * head];
    const wings = arrow
      ? [1, -1].map((s): Point => ({ x: b.x - ux - uy * s * 0.45, y: b.y - uy + ux * s * 0.45 }))
      : [];
    for (const w of [0, t]) {
      const at = (p: Point) => foldPoint(folding, mark.owner, [p.x, p.y, w]);
      out.push(at(a), at(b));
      for (const wing of wings) out.push(at(b), at(wing));
    }
  };
  for (const [a, b] of mark.datums) run(a, b, false);
  for (const { from, to } of mark.dims) run(from, to, true);
  for (const { to } of mark.axes) run(mark.origin, to, true);
  return out;
}

/** So fine are marks drawn, mm. */
const MARK_CHORD = 0.1;

/** What is marked on the metal, where it stands. */
export function MarkedLines({ build, folding, colour }: Omit<PickedLinesProps, "places" | "markColour">) {
  const points = useMemo(() => foldedMarks(build.sheet!, folding, MARK_CHORD), [build, folding]);
  return points.length > 0 ? <Lines points={points} colour={colour} width={1.4} opacity={1} /> : null;
}

interface LinesProps {
  /** Pairs of points. */
  readonly points: readonly Vector[];
  readonly colour: Color;
  readonly width: number;
  readonly opacity: number;
}

function Lines({ points, colour, width, opacity }: LinesProps) {
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
    object.geometry.dispose();
    object.geometry = new LineSegmentsGeometry();
    object.geometry.setPositions(new Float32Array(points.length > 0 ? points.flat() : [0, 0, 0, 0, 0, 0]));
    object.visible = points.length > 0;
    object.material.color.copy(colour);
    object.material.resolution.set(size.width, size.height);
    invalidate();
  }, [object, points, colour, size, invalidate]);
  return <primitive object={object} />;
}

/** What a picked bend turns by, at most, between two lines that are drawn, radians. */
const PICKED_TURN = Math.PI / 12;

/** Pairs of points in space along the border of a pick, on both sides of the sheet. */
function linesOf(pick: Pick, build: PartBuild, folding: Folding, places: PickPlaces): Vector[] {
  const sheet = build.sheet!;
  const out: Vector[] = [];
  if (pick.kind === "corner") {
    const corner = places.corners.find((c) => c.name === pick.name);
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
    const owner = sheet.pieces.findIndex((p) => "child" in p && p.id === pick.id);
    const piece = sheet.pieces[owner];
    // As it is drawn itself: in flat pieces, each of a small turn.
    for (const [p, q, r, s] of (piece && kindOf(piece).facets?.(piece, PICKED_TURN)) ?? [])
      for (const w of [0, sheet.t])
        for (const [from, to] of [
          [p, s],
          [q, r],
        ])
          out.push(
            foldPoint(folding, owner, [from.x, from.y, w]),
            foldPoint(folding, owner, [to.x, to.y, w]),
          );
    const seams = piece && kindOf(piece).seams?.(piece);
    for (const { origin, axis, width } of seams ? [seams.parent, seams.child] : [])
      for (const w of [0, sheet.t])
        for (const along of [0, width])
          out.push(foldPoint(folding, owner, [origin.x + axis.x * along, origin.y + axis.y * along, w]));
    return out;
  }
  const mine =
    pick.kind === "plate"
      ? places.round(pick.id).filter((b) => !b.role.startsWith("hole:"))
      : places.named(pickKey(pick));
  for (const border of mine) {
    for (const [p, q] of runsOf(border)) {
      for (const w of [0, sheet.t])
        out.push(
          foldPoint(folding, border.owner, [p.x, p.y, w]),
          foldPoint(folding, border.owner, [q.x, q.y, w]),
        );
    }
  }
  return out;
}
