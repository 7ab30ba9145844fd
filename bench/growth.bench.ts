// How cost grows with a part: the exponent of the processor's time over sizes that double, and a field of
// 10,000 holes against the least that such a field can cost.
import {
  buildPart,
  examinePart,
  flattenLoop,
  meshSheet,
  newPart,
  type PartDocument,
  type Point,
  platesOf,
  regionLoops,
  type StepDocument,
} from "@hillcrest/core";
import { FillRule, unionD } from "clipper2-ts";
import earcut from "earcut";
import { combPart } from "./comb.ts";
import { compare } from "./compare.ts";

const CHORD = 0.05;
const PITCH = 10;

const spent = (work: () => void): number => {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1000;
};

/** Prints the exponent by which the time of work grows over sizes, beside the most that it may be. */
function growth(
  name: string,
  most: number,
  sizes: readonly number[],
  layOut: (n: number) => () => void,
): void {
  layOut(sizes[0])();
  const took = sizes.map((n) => {
    const work = layOut(n);
    return Math.min(spent(work), spent(work));
  });
  const [xs, ys] = [sizes.map(Math.log), took.map(Math.log)];
  const mean = (v: readonly number[]) => v.reduce((sum, x) => sum + x, 0) / v.length;
  const [mx, my] = [mean(xs), mean(ys)];
  const exponent =
    xs.reduce((s, x, i) => s + (x - mx) * (ys[i] - my), 0) / xs.reduce((s, x) => s + (x - mx) ** 2, 0);
  const times = sizes.map((n, i) => `${n}: ${took[i].toFixed(0)} ms`).join(", ");
  process.stdout.write(
    `${name}: exponent ${exponent.toFixed(2)} (${times}), ${exponent <= most ? "within" : "OVER"} the aim of ${most}\n`,
  );
}

const chain = (n: number): PartDocument => ({
  ...newPart("Chain"),
  steps: [
    { id: "s1", kind: "plate", width: "50", depth: "50" },
    ...Array.from(
      { length: n },
      (_, i): StepDocument => ({
        id: `s${i + 2}`,
        kind: "flange",
        edges: [{ key: "a", at: i === 0 ? "s1.north" : `s${i + 1}a.end` }],
        turn: i % 2 === 0 ? "up" : "down",
        angle: "30",
        length: "30",
      }),
    ),
  ],
});

function field(n: number): PartDocument {
  const side = Math.ceil(Math.sqrt(n));
  const at = (i: number) => String((i - (side - 1) / 2) * PITCH);
  const width = String(side * PITCH);
  const holes = Array.from({ length: n }, (_, i) => ({
    key: `h${i}`,
    x: at(i % side),
    y: at(Math.floor(i / side)),
    d: "6",
  }));
  return { ...newPart("Field"), steps: [{ id: "s1", kind: "plate", width, depth: width, holes }] };
}

const whole = (made: (n: number) => PartDocument) => (n: number) => {
  const document = made(n);
  return () => void meshSheet(examinePart({ ...document }).sheet!, CHORD);
};
growth(
  "flanges on one edge: build, checks and mesh",
  1.15,
  [125, 250, 500, 999],
  whole((n) => combPart(n, 0)),
);
growth("flanges, each on the last: the same", 1.15, [250, 500, 1000, 1999], whole(chain));
growth("holes in one plate: the same", 1.15, [1000, 4000, 16_000, 50_000], whole(field));

const HOLES = 10_000;
const document = field(HOLES);
const [plate] = platesOf(buildPart(document).sheet!);
const paths: Point[][] = regionLoops(plate.regions[0]).map((loop) => flattenLoop(loop, CHORD));
const [outer, ...openings] = paths;
const left = Math.min(...outer.map((p) => p.x));
const low = Math.min(...outer.map((p) => p.y));
const width = -2 * left;
/** The holes of each row, which stand clear of the borders between rows. */
const rows: Point[][][] = [];
for (const hole of openings) {
  const row = Math.floor((hole[0].y - low) / PITCH);
  rows[row] ??= [];
  rows[row].push(hole);
}

/** What any program must do: unite the loops, and cut the plate row by row, as somebody who knows the rows would. */
function floor(): void {
  unionD(paths, [], FillRule.NonZero, 6);
  rows.forEach((inRow, i) => {
    const [y0, y1] = [low + i * PITCH, low + (i + 1) * PITCH];
    const flat = [left, y0, left + width, y0, left + width, y1, left, y1];
    const holes: number[] = [];
    for (const hole of inRow) {
      holes.push(flat.length / 2);
      for (const p of hole) flat.push(p.x, p.y);
    }
    earcut(flat, holes, 2);
  });
}
compare(
  `build + mesh of a plate with ${HOLES} holes, against rows + union of the same loops`,
  1.5,
  floor,
  () => {
    meshSheet(buildPart({ ...document }).sheet!, CHORD);
  },
);
