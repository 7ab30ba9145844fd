import type { Outline } from "../outline.ts";
import type { DrawTool, ToolTask } from "./draw-tool.ts";
import { OutlineDraft } from "./outline-draft.ts";
import type { Place } from "./place.ts";
import { copyTool, mirrorTool, moveTool, offsetTool, ringTool, rowTool, turnTool } from "./tools/copies.ts";
import { polygonTool, rectangleAboutTool, rectangleTool, slotTool } from "./tools/frames.ts";
import { leadOnTool, lineTool } from "./tools/lines.ts";
import { arcAboutTool, arcTool, circleTool, pointTool } from "./tools/rounds.ts";
import { chamferTool, extendTool, roundTool, splitTool, trimTool } from "./tools/trimming.ts";

/** Everything that draws, then everything that changes what is drawn. */
export const DRAW_TOOLS: readonly DrawTool[] = [
  lineTool,
  leadOnTool,
  arcTool,
  arcAboutTool,
  circleTool,
  rectangleTool,
  rectangleAboutTool,
  slotTool,
  polygonTool,
  pointTool,
  trimTool,
  extendTool,
  splitTool,
  roundTool,
  chamferTool,
  offsetTool,
  mirrorTool,
  moveTool,
  copyTool,
  turnTool,
  rowTool,
  ringTool,
];

export const drawTool = (kind: string): DrawTool | undefined => DRAW_TOOLS.find((t) => t.kind === kind);

/** What drawing came to: the outline with it, and where a chain goes on; or why nothing was drawn. */
export type DrawnInto =
  | { readonly outline: Outline; readonly next?: Place; readonly added: readonly string[] }
  | { readonly problem: string };

/** A number above this is no size of sheet, mm. */
const FARTHEST = 1e6;

/**
 * An outline with what a tool draws at places and numbers. The outline must stand where it is solved: what is drawn is
 * drawn on that. Pure; where nothing can be drawn it says why.
 */
export function drawInto(outline: Outline, tool: DrawTool, task: ToolTask, construction = false): DrawnInto {
  const wrong = typedProblem(tool, task);
  if (wrong) return { problem: wrong };
  const into = new OutlineDraft(outline, construction);
  const result = tool.draw(into, task);
  if ("problem" in result) return result;
  const drawn = into.done();
  const far = Object.values(drawn.points).some((p) =>
    p.some((v) => !Number.isFinite(v) || Math.abs(v) > FARTHEST),
  );
  if (far || drawn.curves.some((c) => c.kind === "circle" && !(c.r <= FARTHEST)))
    return { problem: "That would reach farther than a kilometre." };
  const before = new Set(outline.curves.map((c) => c.id));
  const added = drawn.curves.filter((c) => !before.has(c.id)).map((c) => c.id);
  return { outline: drawn, added, ...(result.next ? { next: result.next } : {}) };
}

function typedProblem({ values }: DrawTool, { typed }: ToolTask): string | undefined {
  for (const { key, label, dimension } of values) {
    const value = typed[key]?.value;
    if (value === undefined) continue;
    if (!Number.isFinite(value)) return `${label}: this comes to no number.`;
    if (dimension === "length" && !(value > 0))
      return `${label}: it must be above 0; the pointer says to which side.`;
    if (dimension === "length" && value > FARTHEST) return `${label}: it is larger than a kilometre.`;
  }
  return undefined;
}

/** An outline without some of its things: points, curves, relations and dimensions by id. */
export function removeFrom(outline: Outline, ids: Iterable<string>): Outline {
  const into = new OutlineDraft(outline);
  into.remove(ids);
  return into.done();
}

/** An outline without one of its relations or dimensions; points and curves stay, also one that has the same id. */
export const withoutSaying = (outline: Outline, id: string): Outline => ({
  ...outline,
  relations: outline.relations.filter((r) => r.id !== id),
  dimensions: outline.dimensions.filter((d) => d.id !== id),
});

/** An outline some of whose curves are only to draw by, or are no longer. */
export function asConstruction(outline: Outline, ids: readonly string[], construction: boolean): Outline {
  const chosen = new Set(ids);
  return {
    ...outline,
    curves: outline.curves.map((c) => {
      if (!chosen.has(c.id)) return c;
      const { construction: _, ...rest } = c;
      return construction ? { ...rest, construction } : rest;
    }),
  };
}
