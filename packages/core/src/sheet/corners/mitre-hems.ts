import { type Loop, polygonLoop } from "../../plane/loop.ts";
import { along, cross, dot, type Point, SAME, samePoint, scale } from "../../plane/point.ts";
import { bendOf, bendsAmong, carriersFrom, type OpenDraft, workMetal } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import { reachOf } from "../growing/grow-flange.ts";
import { refreshEdges } from "../shaping/refresh-edges.ts";
import { trimBend } from "../shaping/trim.ts";

/**
 * Where hems of a plate meet at its corners and fold over each other, each is cut along the middle
 * between them, `gap` apart: along the upright plane that halves the corner. A hem that is pressed flat covers
 * the plate as its mirror image; one that turns further comes back over the plate with its bend already.
 */
export function mitreHems(draft: OpenDraft, plate: string, gap: number, step: string): void {
  const hems = bendsAmong(carriersFrom(draft, plate)).filter((b) => b.grownOn && b.angle > Math.PI * 0.9);
  for (const a of hems)
    for (const b of hems) {
      const right = along(a.origin, a.axis, a.width);
      if (a === b || a.up !== b.up || !samePoint(right, b.origin, 1e-6)) continue;
      const lean = cornerLean(a.axis, b.axis);
      // Half the gap comes off each hem from its bend on, and what the bend comes back; the rest along the lean.
      const back = ({ angle, radius }: DraftBend) =>
        gap / 2 / Math.cos(lean) + comesBack(angle, radius + draft.t) * Math.tan(lean);
      trimBend(draft, a.id, "right", back(a), step);
      trimBend(draft, b.id, "left", back(b), step);
      cutLeg(draft, bendOf(draft, a.id)!, "right", lean, step);
      cutLeg(draft, bendOf(draft, b.id)!, "left", lean, step);
    }
}

/** How far the outside of a bend comes back over the line where it begins, mm: past a half turn, and farthest at 270°. */
const comesBack = (angle: number, outside: number): number =>
  angle > Math.PI ? outside * Math.sin(Math.min(angle, 1.5 * Math.PI) - Math.PI) : 0;

/** How far from square a leg's side leans in: a quarter turn less half the corner's angle. */
function cornerLean(into: Point, out: Point): number {
  const turn = Math.atan2(cross(into, out), dot(into, out));
  // Edges run clockwise round a plate, so an outside corner turns to the right, by 180° less its angle.
  const corner = Math.PI + turn;
  return Math.PI / 2 - corner / 2;
}

function cutLeg(draft: OpenDraft, bend: DraftBend, end: "left" | "right", lean: number, step: string): void {
  const reach = reachOf(draft, bend) + 10;
  const way = end === "left" ? bend.axis : scale(bend.axis, -1);
  const corner = end === "left" ? bend.origin : along(bend.origin, bend.axis, bend.width);
  const on = (inward: number, out: number) => along(along(corner, way, inward), bend.out, out);
  // A leg that does not lie flat comes over the plate by less than it is long.
  const rise = Math.tan(lean) * Math.abs(Math.cos(bend.angle));
  const points = [
    on(-SAME, bend.allowance),
    on(rise * reach, bend.allowance + reach),
    on(-reach, bend.allowance + reach),
    on(-reach, bend.allowance),
  ];
  const loop: Loop = polygonLoop(end === "left" ? points : [points[0], points[3], points[2], points[1]], [
    end === "left" ? end : undefined,
    undefined,
    undefined,
    end === "left" ? undefined : end,
  ]);
  workMetal(draft, { plate: bend.child }, { kind: "cut", step, loops: [loop] });
  refreshEdges(draft, bend.child);
}
