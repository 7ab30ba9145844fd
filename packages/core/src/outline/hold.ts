import type { Outline, Relation } from "./outline.ts";
import { type SolvedOutline, solveOutline } from "./solve.ts";

/** An id that nothing in an outline has yet. */
export function freshId({ points, curves, relations, dimensions }: Outline, of: string): string {
  const taken = new Set([
    ...Object.keys(points),
    ...[...curves, ...relations, ...dimensions].map((thing) => thing.id),
  ]);
  for (let i = 1; ; i++) if (!taken.has(`${of}${i}`)) return `${of}${i}`;
}

/**
 * An outline that can no longer move: points that are still free are fixed where they stand, one after the other and no
 * more than it takes, and circles that are keep their radius.
 */
export function holdAsItIs(outline: Outline): Outline {
  let held = outline;
  let solved: SolvedOutline = solveOutline(held);
  while (solved.state === "free" && solved.freePoints.length > 0) {
    const [id] = solved.freePoints;
    const circle = held.curves.some((c) => c.id === id);
    const made = circle
      ? {
          dimensions: [
            ...held.dimensions,
            { id: freshId(held, "d"), kind: "radius" as const, of: [id], value: solved.radii[id] },
          ],
        }
      : { relations: [...held.relations, fixedAt(held, id, solved.points[id])] };
    held = { ...held, ...made };
    const next = solveOutline(held);
    if (next.free >= solved.free) break;
    solved = next;
  }
  return held;
}

const fixedAt = (outline: Outline, id: string, at: readonly [number, number]): Relation => ({
  id: freshId(outline, "r"),
  kind: "fixed",
  of: [id],
  at,
});
