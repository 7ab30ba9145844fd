// Checks and collisions of a large part fully folded, as a ratio against a floor: two well-kept libraries that cut the
// same loops into triangles, strip by strip, and unite them. Then against a third that intersects its own meshes of
// all pieces, two by two. First the fold dial of the logger box, in milliseconds.
import { readFileSync } from "node:fs";
import {
  askRules,
  CollisionSearch,
  createExaminer,
  DEFAULT_RULES,
  evenState,
  examinePart,
  foldMesh,
  foldSheet,
  meshSheet,
  type PartBuild,
  type PartDocument,
  type Sheet,
} from "@hillcrest/core";
import ManifoldModule from "manifold-3d";
import { compare } from "./compare.ts";
import { floorOf } from "./floor.ts";
import { comb } from "./parts.ts";
import { tell } from "./tell.ts";

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
tell({ name: "collisions of the logger box, all the way from flat", value: took[10], most: 60, unit: "ms" });

const [FLANGES, HOLES] = [200, 1000];
const document = comb(FLANGES, HOLES);
const build = examinePart(document);
const floor = floorOf(build.sheet!);

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
tell({
  name: `collisions of ${title}, against meshes two by two`,
  value: ratio,
  most: 0.1,
  unit: "×",
  detail: `${ours.toFixed(1)} ms against ${theirs.toFixed(0)} ms`,
});
