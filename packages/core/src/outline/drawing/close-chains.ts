import type { Outline } from "../outline.ts";
import { OutlineDraft } from "./outline-draft.ts";
import { apart } from "./place.ts";

/** Ends that are no farther apart are one place, mm. */
const ONE = 1e-6;
/** Ends that are so near one another are brought together; from farther off a line leads from one to the other, mm. */
const NEAR = 0.5;

/**
 * An outline whose open chains are closed: the two loose ends of a chain are made one place where they nearly are, and else
 * a line is drawn between them. Chains that branch have no two ends that belong together, and stay as they are. `outline`
 * stands where it is solved. `closed`: how many were.
 */
export function closeChains(outline: Outline): { readonly outline: Outline; readonly closed: number } {
  const into = new OutlineDraft(outline);
  let closed = 0;
  for (const [p, q] of looseEnds(outline)) {
    if (apart(into.points[p], into.points[q]) <= NEAR) into.relate("coincident", p, q);
    else into.line(p, q, false);
    closed++;
  }
  return { outline: into.done(), closed };
}

/** The two ends of each chain that is open and does not branch, by the ids of their points. */
function looseEnds({ points, curves }: Outline): [string, string][] {
  const place = new Map<string, string>();
  const cells = new Map<string, string>();
  for (const [id, [x, y]] of Object.entries(points)) {
    const cell = `${Math.round(x / (4 * ONE))} ${Math.round(y / (4 * ONE))}`;
    place.set(id, cells.get(cell) ?? id);
    if (!cells.has(cell)) cells.set(cell, id);
  }
  const at = new Map<string, string[]>();
  const ends = new Map<string, readonly [string, string]>();
  for (const c of curves) {
    if (c.kind === "circle" || c.construction) continue;
    ends.set(c.id, [c.a, c.b]);
    for (const p of [c.a, c.b]) at.set(place.get(p)!, [...(at.get(place.get(p)!) ?? []), c.id]);
  }
  const found: [string, string][] = [];
  const seen = new Set<string>();
  for (const [id] of ends) {
    if (seen.has(id)) continue;
    const chain: string[] = [];
    const next = [id];
    for (let c = next.pop(); c !== undefined; c = next.pop()) {
      if (seen.has(c)) continue;
      seen.add(c);
      chain.push(c);
      for (const p of ends.get(c)!) next.push(...at.get(place.get(p)!)!);
    }
    const all = chain.flatMap((c) => [...ends.get(c)!]);
    const branches = all.some((p) => at.get(place.get(p)!)!.length > 2);
    const loose = all.filter((p) => at.get(place.get(p)!)!.length === 1);
    // One line alone would be closed by itself.
    if (!branches && loose.length === 2 && chain.length > 1) found.push([loose[0], loose[1]]);
  }
  return found;
}
