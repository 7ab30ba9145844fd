import { loopsBounds, polygonLoop } from "../../plane/loop.ts";
import {
  along,
  dot,
  hypotenuse,
  type Point,
  point,
  SAME,
  samePoint,
  scale,
  subtract,
} from "../../plane/point.ts";
import { bendOf, bendsAmong, carriersFrom, type OpenDraft, workMetal } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import { edgeLength } from "../edges.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";

/**
 * Takes `by` millimetres off one end of a bend and of everything it carries: its strip, its leg, the
 * bends on the leg's edges that reach as far. Nothing may hang on the leg's side at that end.
 */
export function trimBend(
  draft: OpenDraft,
  id: string,
  end: "left" | "right",
  by: number,
  step: string,
): void {
  if (by <= SAME) return;
  const bend = bendOf(draft, id)!;
  const at = end === "left" ? by : bend.width - by;
  const side = end === "left" ? -1 : 1;
  const plate = draft.pieces.plate(bend.child)!;
  const loops = plate.metal.flatMap((op) => op.loops);
  const b = loops.length > 0 ? loopsBounds(loops) : undefined;
  const far = (b ? hypotenuse(b.maxX - b.minX, b.maxY - b.minY) : 0) + bend.allowance + bend.width;
  const on = (s: number, out: number) => along(along(bend.origin, bend.axis, s), bend.out, out);
  const band = (from: number, to: number, name: string) => {
    const corners = [on(at, from), on(at, to), on(at + side * far, to), on(at + side * far, from)];
    const [line0, ...rest] = polygonLoop(corners, [name]);
    return side > 0
      ? polygonLoop([corners[0], corners[3], corners[2], corners[1]], [undefined, undefined, undefined, name])
      : [line0, ...rest];
  };
  workMetal(draft, { carrier: id }, { kind: "cut", step, loops: [band(-1, bend.allowance + 1, end)] });
  workMetal(draft, { plate: plate.id }, { kind: "cut", step, loops: [band(bend.allowance - 1, far, end)] });
  draft.pieces.put(shortened(bendOf(draft, id)!, end, by));
  trimEdges(draft, bend, end, at, side, step);
}

function shortened(bend: DraftBend, end: "left" | "right", by: number): DraftBend {
  const { grownOn, overhang } = bend;
  return {
    ...bend,
    origin: end === "left" ? along(bend.origin, bend.axis, by) : bend.origin,
    width: bend.width - by,
    overhang: { ...overhang, [end]: Math.max(0, overhang[end] - by) },
    grownOn: grownOn && {
      ...grownOn,
      from: grownOn.from + (end === "left" ? by : 0),
      to: grownOn.to - (end === "right" ? by : 0),
    },
  };
}

/** The leg's edges end at the new side; the side itself moves there. */
function trimEdges(
  draft: OpenDraft,
  bend: DraftBend,
  end: "left" | "right",
  at: number,
  side: number,
  step: string,
): void {
  const plate = draft.pieces.plate(bend.child)!;
  const beyond = (p: Point) => (dot(subtract(p, bend.origin), bend.axis) - at) * side;
  const edges: EdgeSite[] = [];
  for (const edge of plate.edges) {
    const [l, r] = [beyond(edge.left), beyond(edge.right)];
    if (l <= SAME && r <= SAME) {
      edges.push(edge);
      continue;
    }
    if (l >= -SAME && r >= -SAME) {
      const back = scale(bend.axis, -side * Math.min(l, r));
      if (edge.role !== end) continue;
      // What would hang on this side keeps the leg from being shortened at all.
      edges.push({ ...edge, left: along(edge.left, back, 1), right: along(edge.right, back, 1) });
      continue;
    }
    const f = l / (l - r);
    const meet = point(
      edge.left.x + (edge.right.x - edge.left.x) * f,
      edge.left.y + (edge.right.y - edge.left.y) * f,
    );
    const cut = l > 0 ? { ...edge, left: meet } : { ...edge, right: meet };
    edges.push(cut);
    const gone = edgeLength(edge) - edgeLength(cut);
    for (const b of bendsAmong(carriersFrom(draft, plate.id))) {
      if (b.grownOn?.role !== edge.role) continue;
      const cutEnd = l > 0 ? "left" : "right";
      const over = l > 0 ? gone - b.grownOn.from : b.grownOn.to - edgeLength(cut);
      if (over > SAME && over < b.width - SAME) trimBend(draft, b.id, cutEnd, over, step);
      const now = draft.pieces.carrier(b.id)!;
      // Places along the edge count from its left end, which has moved.
      if (l > 0 && now.grownOn)
        draft.pieces.put({
          ...now,
          grownOn: { ...now.grownOn, from: now.grownOn.from - gone, to: now.grownOn.to - gone },
        });
    }
  }
  const still = edges.filter((e) => !samePoint(e.left, e.right, 1e-6));
  draft.pieces.put({ ...draft.pieces.plate(plate.id)!, edges: still });
}
