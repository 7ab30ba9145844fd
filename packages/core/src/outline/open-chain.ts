import { type Curve, reversed } from "../plane/curve.ts";
import { samePoint } from "../plane/point.ts";
import { fail, ok, type Result } from "../result.ts";
import type { Outline } from "./outline.ts";
import { curveOf } from "./regions.ts";
import type { SolvedOutline } from "./solve.ts";

/** A chain may have this many lines and arcs. */
const MOST_PIECES = 300;

/** The one chain that an outline draws from one end to the other; or why it draws none. */
export function openChain(outline: Outline, solved: SolvedOutline): Result<readonly Curve[]> {
  const borders = outline.curves.filter((c) => !c.construction);
  const wrong = (message: string) => fail(message);
  if (borders.length === 0)
    return wrong("Nothing is drawn in the outline yet. Draw a chain from one end to the other.");
  if (borders.length > MOST_PIECES)
    return wrong(`A chain has at most ${MOST_PIECES} pieces; this one has ${borders.length}.`);
  if (borders.some((c) => c.kind === "circle"))
    return wrong("A circle leads nowhere: the outline must be one chain from one end to the other.");
  const curves = borders.map((c) => curveOf(c as Exclude<typeof c, { kind: "circle" }>, solved.points));
  const ends = curves.flatMap((c) => [c.a, c.b]);
  const alone = ends.filter((p) => ends.filter((q) => samePoint(p, q, 1e-6)).length === 1);
  if (alone.length === 0)
    return wrong("The chain is closed. Take a line out: it must have a beginning and an end.");
  if (alone.length > 2)
    return wrong("There are several chains. Join them end to end, or make what is not meant construction.");
  const chain: Curve[] = [];
  const left = new Set(curves);
  for (let at = alone[0]; left.size > 0; at = chain[chain.length - 1].b) {
    const next = [...left].find((c) => samePoint(c.a, at, 1e-6) || samePoint(c.b, at, 1e-6));
    if (!next) return wrong("The chain branches or closes on itself. Each end may lead on to one other.");
    left.delete(next);
    chain.push(samePoint(next.a, at, 1e-6) ? next : reversed(next));
  }
  return ok(chain);
}
