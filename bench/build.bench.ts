// Build, blank and mesh of a large part, as a ratio against two well-kept libraries doing only the
// plane part of the work on the same loops, in the same run.
import { blankOf, buildPart, flattenLoop, meshSheet, type Point, regionLoops } from "@hillcrest/core";
import { FillRule, unionD } from "clipper2-ts";
import earcut from "earcut";
import { combPart } from "./comb.ts";
import { compare } from "./compare.ts";

const CHORD = 0.05;
const document = combPart(100, 400);
const { sheet } = buildPart(document);
if (sheet?.bends.length !== 100) throw new Error("The comb was not built whole.");
const regions = [...sheet.plates, ...sheet.bends].flatMap((p) => p.regions);
const rings: Point[][][] = regions.map((r) => regionLoops(r).map((l) => flattenLoop(l, CHORD)));
const paths = rings.flat();

/** What any program must do with these loops: unite them, and cut them into triangles. */
function reference(): void {
  unionD(paths, [], FillRule.NonZero, 6);
  for (const region of rings) {
    const flat = region.flatMap((ring) => ring.flatMap((p) => [p.x, p.y]));
    const holes: number[] = [];
    let at = 0;
    for (const ring of region.slice(0, -1)) {
      at += ring.length;
      holes.push(at);
    }
    earcut(flat, holes, 2);
  }
}

compare("build + blank + mesh of a 100-flange comb with 400 holes", 3, reference, () => {
  const build = buildPart(document);
  meshSheet(build.sheet!, CHORD);
});
compare("  of it: blank alone", 3, reference, () => void blankOf(sheet));
compare("  of it: mesh alone", 3, reference, () => void meshSheet(sheet, CHORD));
