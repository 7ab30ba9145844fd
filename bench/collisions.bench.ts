// Checks and collisions of a large part fully folded, as a ratio against a floor: two well-kept libraries that cut the
// same loops into triangles, strip by strip, and unite them. Then against a third that intersects its own meshes of
// all pieces, two by two. First the fold dial of the logger box, in milliseconds.
import { readFileSync } from "node:fs";
import {
  askRules,
  bendsOf,
  CollisionSearch,
  createExaminer,
  DEFAULT_RULES,
  evenState,
  examinePart,
  flattenLoop,
  foldMesh,
  foldSheet,
  meshSheet,
  type PartBuild,
  type PartDocument,
  platesOf,
  regionLoops,
  type Sheet,
} from "@hillcrest/core";
import { FillRule, intersectD, type PathsD, unionD } from "clipper2-ts";
import earcut from "earcut";
import ManifoldModule from "manifold-3d";
import { combPart } from "./comb.ts";
import { compare } from "./compare.ts";

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
const box = examinePart(JSON.parse(readFileSync("demo/logger-box.json", "utf8")));
const took = Array.from({ length: 20 }, () => {
  const copy = structuredClone(box.sheet!);
  return timed(() => void new CollisionSearch().search(copy));
}).sort((p, q) => p - q);
process.stdout.write(
  `the fold dial of the logger box, all the way: ${took[10].toFixed(1)} ms (aim: under 60 ms)\n`,
);

const CHORD = 0.05;
const [FLANGES, HOLES, STRIPS] = [200, 1000, 64];
const document = combPart(FLANGES, HOLES);
const build = examinePart(document);
const regions: PathsD[] = [...platesOf(build.sheet), ...bendsOf(build.sheet)]
  .flatMap((p) => p.regions)
  .map((r) => regionLoops(r).map((l) => flattenLoop(l, CHORD).map(({ x, y }) => ({ x, y }))));
const paths = regions.flat();

const areaOf = (ring: PathsD[number]) =>
  ring.reduce(
    (sum, p, i) => sum + p.x * ring[(i + 1) % ring.length].y - ring[(i + 1) % ring.length].x * p.y,
    0,
  );

/** Cuts a region into strips along its longer way, and those into triangles. */
function inStrips(region: PathsD): number {
  const xs = region[0].map((p) => p.x);
  const ys = region[0].map((p) => p.y);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const n = region.length > 20 ? STRIPS : 1;
  let triangles = 0;
  for (let i = 0; i < n; i++) {
    const [a, b] = [x0 + ((x1 - x0) * i) / n, x0 + ((x1 - x0) * (i + 1)) / n];
    const window = [
      { x: a, y: y0 },
      { x: b, y: y0 },
      { x: b, y: y1 },
      { x: a, y: y1 },
    ];
    const near = region.filter((ring) => ring.some((p) => p.x <= b) && ring.some((p) => p.x >= a));
    const strip = n === 1 ? region : intersectD(near, [window], FillRule.NonZero, 6);
    const rings = [...strip].sort((p, q) => Math.abs(areaOf(q)) - Math.abs(areaOf(p)));
    const holes: number[] = [];
    const flat: number[] = [];
    for (const ring of rings) {
      if (flat.length > 0) holes.push(flat.length / 2);
      for (const p of ring) flat.push(p.x, p.y);
    }
    triangles += earcut(flat, holes, 2).length / 3;
  }
  return triangles;
}

function floor(): void {
  unionD(paths, [], FillRule.NonZero, 6);
  for (const region of regions) inStrips(region);
}

// Pieces of their own each time: what is kept from one search to the next must not help.
const fresh = (): PartBuild => ({ ...build, sheet: structuredClone(build.sheet) });
const title = `a part with ${FLANGES} bends and ${HOLES} holes`;
const check = (b: PartBuild, search: CollisionSearch) => {
  askRules(b, DEFAULT_RULES);
  return search.atEnd(b.sheet!).length;
};
compare(`all checks and collisions of ${title}`, 2, floor, () => void check(fresh(), new CollisionSearch()));

const examine = createExaminer();
const search = new CollisionSearch();
check(examine(document), search);
const last = document.steps[document.steps.length - 1];
let turn = 0;
const edited = (): PartDocument => ({
  ...document,
  steps: [...document.steps.slice(0, -1), { ...last, length: 20 + (turn++ % 7) }],
});
// The edit itself is built beforehand: this is about what the checks take after it.
const builds = Array.from({ length: 18 }, () => examine(edited()));
let at = 0;
compare(
  "  after an edit of the last step",
  0.3,
  floor,
  () => void check(builds[at++ % builds.length], search),
);

const wasm = await ManifoldModule();
wasm.setup();
/** The pieces of a sheet as closed meshes, each from a sheet of its own. */
function meshesOf(of: Sheet) {
  const folding = foldSheet(of, evenState(of, 1));
  return of.pieces.flatMap((piece, i) => {
    if (piece.kind !== "plate" || piece.regions.length === 0) return [];
    const { positions, triangles } = foldMesh(meshSheet({ ...of, pieces: [piece], roots: [] }, 0.005), {
      t: of.t,
      pieces: [folding.pieces[i]],
    });
    return [
      new wasm.Manifold(
        new wasm.Mesh({ numProp: 3, vertProperties: Float32Array.from(positions), triVerts: triangles }),
      ),
    ];
  });
}
// Once: it takes that program long. Only its plates, so that it has fewer pairs to look at.
const theirs = timed(() => {
  const meshes = meshesOf(build.sheet!);
  meshes.forEach((p, i) => {
    for (const q of meshes.slice(i + 1)) p.intersect(q).delete();
  });
  for (const m of meshes) m.delete();
});
const own = fresh().sheet!;
const ours = timed(() => void new CollisionSearch().atEnd(own));
const ratio = ours / theirs;
process.stdout.write(
  `collisions of ${title}, against meshes two by two: ${ratio.toFixed(3)}× (${ours.toFixed(1)} ms against ${theirs.toFixed(0)} ms), ${ratio <= 0.1 ? "within" : "OVER"} the aim of 0.1×\n`,
);
