import { curveLength, type Line } from "../../plane/curve.ts";
import type { Loop } from "../../plane/loop.ts";
import { distance, dot, point, SAME, scale, subtract } from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import { carriersFrom, type OpenDraft } from "../draft.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";
import { shapeMetal } from "./metal.ts";

/** One straight run of an edge that is still there, and what the outline was before it came to it. */
interface Run {
  readonly line: Line;
  /** Name of the curve at its left end: what cut it off from the rest of its edge. */
  readonly cutBy: string;
}

/**
 * Reads a plate's edges anew from its outline: an edge that was cut short is as long as what is
 * left of it, one that was cut in two goes on under two names. Edges that carry bends stay as they
 * are, since a bend takes its edge away.
 */
export function refreshEdges(draft: OpenDraft, id: string): void {
  const plate = draft.pieces.plate(id)!;
  const carrying = new Set(carriersFrom(draft, id).map((b) => b.grownOn?.role));
  const kept = plate.edges.filter((e) => carrying.has(e.role));
  const runs = new Map<string, Run[]>();
  for (const loop of shapeMetal(plate.metal).regions.flatMap(regionLoops)) {
    loop.forEach((c, i) => {
      if (c.kind !== "line" || !c.name || c.name.includes(":") || carrying.has(c.name)) return;
      if (curveLength(c) < 1e-6) return;
      const after = loop[(i + 1) % loop.length];
      const list = runs.get(c.name) ?? [];
      list.push({ line: c, cutBy: (after.name ?? "cut").replace(/[^A-Za-z0-9_-]/g, "-") });
      runs.set(c.name, list);
    });
  }
  const fresh = [...runs].flatMap(([role, list]) => siteRuns(role, list));
  draft.pieces.put({ ...plate, edges: [...kept, ...fresh] });
}

/** Names the runs of one edge from its left: the first keeps the name, others add what cut them off. */
function siteRuns(role: string, runs: readonly Run[]): EdgeSite[] {
  const first = runs[0].line;
  const d = scale(subtract(first.b, first.a), 1 / distance(first.a, first.b));
  // The left end of an edge is where its line goes to, with metal on the left of its travel.
  const sorted = [...runs].sort((p, q) => dot(subtract(q.line.b, p.line.b), d));
  const used = new Map<string, number>();
  return sorted.map(({ line, cutBy }, i) => {
    const name = i === 0 ? role : `${role}@${cutBy}`;
    const times = used.get(name) ?? 0;
    used.set(name, times + 1);
    const u = scale(subtract(line.b, line.a), 1 / distance(line.a, line.b));
    return {
      role: times === 0 ? name : `${name}-${times + 1}`,
      left: line.b,
      right: line.a,
      out: point(u.y, -u.x),
    };
  });
}

/** Whether a line of the outline is a piece of an edge. */
function liesOn(edge: EdgeSite, line: Line): boolean {
  const length = distance(edge.left, edge.right);
  const u = scale(subtract(edge.right, edge.left), 1 / (length || 1));
  const mid = point((line.a.x + line.b.x) / 2, (line.a.y + line.b.y) / 2);
  const off = subtract(mid, edge.left);
  const s = dot(off, u);
  return Math.abs(dot(off, edge.out)) < SAME * 100 && s > -SAME && s < length + SAME;
}

/** Pieces of an edge that was cut in two carry the names that those pieces have. */
export function nameRuns(edges: readonly EdgeSite[], regions: readonly Region[]): readonly Region[] {
  const cut = edges.filter((e) => e.role.includes("@"));
  if (cut.length === 0) return regions;
  const rename = (loop: Loop): Loop =>
    loop.map((c) => {
      if (c.kind !== "line" || !c.name) return c;
      const run = cut.find((e) => e.role.startsWith(`${c.name}@`) && liesOn(e, c));
      return run ? { ...c, name: run.role } : c;
    });
  return regions.map((r) => ({ outer: rename(r.outer), holes: r.holes.map(rename) }));
}
