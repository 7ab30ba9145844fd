import type { Backdrop, XY } from "./drawing/place.ts";
import type { Outline } from "./outline.ts";

/**
 * An outline whose curves stand where what they stand for in the part is (`behind`, in the outline's own frame). `lost`:
 * what is not there any more, or is another kind of curve now; it stays where it was.
 */
export function standOnPart(
  outline: Outline,
  behind: readonly Backdrop[],
): { readonly outline: Outline; readonly lost: readonly string[] } {
  if (!outline.references?.length) return { outline, lost: [] };
  const there = new Map(behind.map((b) => [b.name, b.curve]));
  const to = new Map(outline.references.map((r) => [r.id, r.to]));
  const points: Record<string, XY> = { ...outline.points };
  const lost: string[] = [];
  const curves = outline.curves.map((c) => {
    const name = to.get(c.id);
    if (name === undefined) return c;
    const curve = there.get(name);
    if (curve?.kind === "line" && c.kind === "line") [points[c.a], points[c.b]] = [curve.a, curve.b];
    else if (curve?.kind === "arc" && c.kind === "arc") {
      [points[c.a], points[c.b], points[c.c]] = [curve.a, curve.b, curve.c];
      return { ...c, ccw: curve.ccw };
    } else if (curve?.kind === "circle" && c.kind === "circle") {
      points[c.c] = curve.c;
      return { ...c, r: curve.r };
    } else lost.push(name);
    return c;
  });
  return { outline: { ...outline, points, curves }, lost };
}
