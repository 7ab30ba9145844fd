import { loopFromFrame } from "../../plane/loop.ts";
import { type Frame, fromFrame, point, SAME } from "../../plane/point.ts";
import { mm } from "../../units/spoken-length.ts";
import { type OpenDraft, type Refusal, workMetal } from "../draft.ts";
import { edgeFrame, edgeLength } from "../edges.ts";
import { roleTitle } from "../role-title.ts";
import { refreshEdges } from "../shaping/refresh-edges.ts";
import { type LetterOf, legLoop } from "./grow-flange.ts";
import { holeOps } from "./grow-plate.ts";
import { askedSpan, edgeTitle, takenBy } from "./site.ts";
import type { FlangeSpec } from "./spec.ts";

/** What a lug needs of a flange's specification. */
export type LugSpec = Pick<FlangeSpec, "id" | "step" | "edge" | "leg" | "width" | "shape" | "holes">;

/** Grows a plate in its own plane from an edge: more metal, no bend. Its new edges are named after it. */
export function growLug(draft: OpenDraft, spec: LugSpec, letterOf: LetterOf): Refusal | undefined {
  const plate = draft.pieces.plate(spec.edge.plate);
  const letter = letterOf(spec.edge.plate);
  const edge = plate?.edges.find((e) => e.role === spec.edge.role);
  if (!plate || !edge)
    return { field: "edges", message: `Plate ${letter} has no edge called ${roleTitle(spec.edge.role)}.` };
  const length = edgeLength(edge);
  const { from, to } = askedSpan(spec.width, length);
  const title = edgeTitle(letter, edge);
  const field = spec.width.by === "inset" ? "leftInset" : "width";
  if (to - from <= SAME)
    return {
      field,
      message: `Nothing of edge ${title} is left between the insets: it is ${mm(length)} long.`,
    };
  if (spec.width.by === "width" && (from < -SAME || to > length + SAME))
    return {
      field,
      message: `The lug would reach from ${mm(from)} to ${mm(to)} along edge ${title}, which runs from 0 to ${mm(length)}. Make it narrower or move it.`,
    };
  const taken = takenBy(draft, plate, edge, from, to);
  if (taken)
    return {
      field: "edges",
      message: `A flange stands on edge ${title} from ${mm(taken.from)} to ${mm(taken.to)}; a lug from ${mm(from)} to ${mm(to)} would grow into its bend. Give it a width beside the flange, or grow it from the flange's own end.`,
    };
  if (spec.leg <= SAME)
    return { field: "length", message: "A lug of no length adds nothing. Give it more than 0 mm." };
  const frame = edgeFrame(edge);
  const base: Frame = { origin: fromFrame(frame, point((from + to) / 2, 0)), x: frame.x };
  const named = legLoop(to - from, spec.leg, spec.shape ?? { by: "rectangle" }).map((c) =>
    c.name ? { ...c, name: `${spec.id}-${c.name}` } : c,
  );
  const outline = loopFromFrame(base, named);
  workMetal(draft, { plate: plate.id }, { kind: "add", step: spec.step, loops: [outline] });
  const now = draft.pieces.plate(plate.id)!;
  const own = { owner: spec.id, plate: plate.id, frame: base, step: spec.step, letter };
  const metal = [...now.metal, ...holeOps(spec.holes, own)];
  draft.pieces.put({ ...now, metal });
  // The edge goes on beside the lug only.
  refreshEdges(draft, plate.id);
  return undefined;
}
