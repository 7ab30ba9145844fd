// Build, blank and mesh of a large part, as a ratio against two well-kept libraries doing only the
// plane part of the work on the same loops, in the same run.
import {
  bendsOf,
  blankOf,
  buildPart,
  createExaminer,
  flattenLoop,
  meshSheet,
  type Point,
  platesOf,
  regionLoops,
} from "@hillcrest/core";
import { FillRule, unionD } from "clipper2-ts";
import earcut from "earcut";
import { combPart } from "./comb.ts";
import { compare } from "./compare.ts";

const CHORD = 0.05;
const FLANGES = 200;
const HOLES = 1000;
const document = combPart(FLANGES, HOLES);
const { sheet } = buildPart(document);
if (bendsOf(sheet).length !== FLANGES) throw new Error("The comb was not built whole.");
const regions = [...platesOf(sheet), ...bendsOf(sheet)].flatMap((p) => p.regions);
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

const full = () => {
  const build = buildPart(document);
  meshSheet(build.sheet!, CHORD);
};
const title = `${FLANGES} bends and ${HOLES} holes`;
compare(`build + blank + mesh of a part with ${title}`, 3, reference, full);
// A sheet of its own each time: what is kept from one build to the next must not help.
compare("  of it: blank alone", 3, reference, () => void blankOf(freshSheet()));

function freshSheet() {
  return structuredClone(sheet)!;
}

const examine = createExaminer();
examine(document);
const last = document.steps[document.steps.length - 1];
let turn = 0;
compare("change of its last step, as a share of the whole", 0.15, full, () => {
  const changed = { ...last, length: 20 + (turn++ % 50) / 10 };
  const build = examine({ ...document, steps: [...document.steps.slice(0, -1), changed] });
  meshSheet(build.sheet!, CHORD);
});

// Memory: 500 rebuilds of a smaller part, each with a change, must leave nothing behind.
const small = combPart(40, 100);
const again = createExaminer();
const used = () => {
  globalThis.gc?.();
  return process.memoryUsage().heapUsed / 1e6;
};
const rebuild = (i: number) => {
  const first = { ...small.steps[1], length: 15 + (i % 90) / 10 };
  const build = again({ ...small, steps: [small.steps[0], first, ...small.steps.slice(2)] });
  meshSheet(build.sheet!, CHORD);
};
for (let i = 0; i < 50; i++) rebuild(i);
const before = used();
for (let i = 0; i < 500; i++) rebuild(i);
const grown = used() - before;
const verdict = globalThis.gc ? (grown < 5 ? "within" : "OVER") : "unknown without --expose-gc, against";
process.stdout.write(
  `heap after 500 rebuilds: ${grown.toFixed(1)} MB more than after 50, ${verdict} the aim of 5 MB\n`,
);
