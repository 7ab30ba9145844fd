import { bendsOf, flattenLoop, platesOf, regionLoops, type Sheet } from "@hillcrest/core";
import { FillRule, intersectD, type PathsD, unionD } from "clipper2-ts";
import earcut from "earcut";

const CHORD = 0.05;
/** About so many points of borders in a strip. */
const IN_STRIP = 400;

const areaOf = (ring: PathsD[number]) =>
  ring.reduce(
    (sum, p, i) => sum + p.x * ring[(i + 1) % ring.length].y - ring[(i + 1) % ring.length].x * p.y,
    0,
  );

/** A region cut into upright strips, the outer border of each first. */
function stripsOf(region: PathsD): PathsD[] {
  const points = region.reduce((sum, ring) => sum + ring.length, 0);
  const n = Math.ceil(points / IN_STRIP);
  if (n === 1) return [region];
  const spans = region.map((ring) => {
    const [xs, ys] = [ring.map((p) => p.x), ring.map((p) => p.y)];
    return { ring, x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
  });
  const { x0, x1, y0, y1 } = spans[0];
  return Array.from({ length: n }, (_, i) => {
    const [a, b] = [x0 + ((x1 - x0) * i) / n, x0 + ((x1 - x0) * (i + 1)) / n];
    const near = spans.filter((s) => s.x0 <= b && s.x1 >= a).map((s) => s.ring);
    const window = [
      { x: a, y: y0 },
      { x: b, y: y0 },
      { x: b, y: y1 },
      { x: a, y: y1 },
    ];
    const strip = intersectD(near, [window], FillRule.NonZero, 6);
    return [...strip].sort((p, q) => Math.abs(areaOf(q)) - Math.abs(areaOf(p)));
  });
}

/**
 * What any program must do with a sheet's loops, and no more: unite them, and cut them into triangles in strips, as
 * somebody would who has the strips already. The loops are the finished ones: how they came about costs nothing.
 */
export function floorOf(sheet: Sheet): () => void {
  const regions: PathsD[] = [...platesOf(sheet), ...bendsOf(sheet)]
    .flatMap((p) => p.regions)
    .map((r) => regionLoops(r).map((l) => flattenLoop(l, CHORD).map(({ x, y }) => ({ x, y }))));
  const paths = regions.flat();
  const strips = regions.flatMap(stripsOf);
  return () => {
    unionD(paths, [], FillRule.NonZero, 6);
    for (const rings of strips) {
      const flat: number[] = [];
      const holes: number[] = [];
      for (const ring of rings) {
        if (flat.length > 0) holes.push(flat.length / 2);
        for (const p of ring) flat.push(p.x, p.y);
      }
      earcut(flat, holes, 2);
    }
  };
}
