import fc from "fast-check";
import { expect, test } from "vitest";
import { OutlineDrag } from "../src/outline/drag.ts";
import { Equations, sweepOf } from "../src/outline/equations.ts";
import type { Outline } from "../src/outline/outline.ts";
import { equationsOf, solveOutline } from "../src/outline/solve.ts";
import { linearise } from "../src/outline/sparse.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { anyKnownOutline } from "./random-outlines.ts";

sameCases(20261201);
const RUNS = casesOf(100);

const at = (
  outline: Outline,
  points: Outline["points"],
  radii: Readonly<Record<string, number>>,
): Outline => ({
  ...outline,
  points,
  curves: outline.curves.map((c) => (c.kind === "circle" ? { ...c, r: radii[c.id] ?? c.r } : c)),
});

/** On which side of each line the middle of each touching round lies, which way each angle turns, how each arc goes. */
function sensesOf(outline: Outline): string {
  const { points, curves, relations, dimensions } = outline;
  const lines = new Map(curves.flatMap((c) => (c.kind === "line" ? [[c.id, c] as const] : [])));
  const rounds = new Map(curves.flatMap((c) => (c.kind === "line" ? [] : [[c.id, c] as const])));
  const side = (line: string, p: string) => {
    const { a, b } = lines.get(line)!;
    const [[ax, ay], [bx, by], [px, py]] = [points[a], points[b], points[p]];
    return Math.sign((bx - ax) * (py - ay) - (by - ay) * (px - ax));
  };
  const { unknowns } = new Equations(outline, new Map());
  const sides = relations.flatMap(({ kind, of }) => {
    const line = of.find((id) => lines.has(id));
    const round = of.find((id) => rounds.has(id));
    return kind === "tangent" && line && round ? [side(line, rounds.get(round)!.c)] : [];
  });
  const measured = dimensions.flatMap((d) => (d.kind === "toLine" ? [side(d.of[1], d.of[0])] : []));
  const arcs = curves.flatMap((c) =>
    c.kind === "arc" ? [Math.abs(sweepOf(unknowns.start, unknowns, c)) > Math.PI] : [],
  );
  return JSON.stringify([sides, measured, arcs]);
}

test("a drag holds what is asked for all the way, and turns no side, touch or arc over", () => {
  fc.assert(
    fc.property(
      anyKnownOutline,
      fc.nat(),
      fc.array(fc.record({ x: spread(-15, 15), y: spread(-15, 15) }), { minLength: 1, maxLength: 8 }),
      ({ drawn }, which, way) => {
        const solved = solveOutline(drawn);
        if (solved.state === "conflict") return;
        const ids = Object.keys(drawn.points);
        const start = at(drawn, solved.points, solved.radii);
        const drag = new OutlineDrag(start, solved.values, [ids[which % ids.length]]);
        let before = sensesOf(start);
        for (const { x, y } of way) {
          drag.by(x, y);
          const now = at(drawn, drag.points, drag.radii);
          const { list } = equationsOf(now);
          const { off } = linearise(list, new Equations(now, new Map()).unknowns.start);
          expect(Math.max(0, ...off.map(Math.abs))).toBeLessThan(1e-6);
          const senses = sensesOf(now);
          // An arc that is free to may grow past half a turn; what touches stays on its side.
          expect(JSON.parse(senses).slice(0, 2)).toEqual(JSON.parse(before).slice(0, 2));
          before = senses;
        }
      },
    ),
    { numRuns: RUNS },
  );
}, 300_000);

test("what is free goes to the pointer, what is fixed stays", () => {
  const line: Outline = {
    format: "hillcrest-outline",
    version: 1,
    name: "Two lines",
    points: { a: [0, 0], b: [40, 0], c: [40, 30] },
    curves: [
      { id: "ab", kind: "line", a: "a", b: "b" },
      { id: "bc", kind: "line", a: "b", b: "c" },
    ],
    relations: [
      { id: "r1", kind: "fixed", of: ["a"] },
      { id: "r2", kind: "level", of: ["ab"] },
      { id: "r3", kind: "upright", of: ["bc"] },
    ],
    dimensions: [{ id: "d1", kind: "length", of: ["ab"], value: 40 }],
  };
  const { values, free, freePoints } = solveOutline(line);
  expect([free, freePoints]).toEqual([1, ["c"]]);
  const c = new OutlineDrag(line, values, ["c"]);
  expect(c.by(25, 12).c[0]).toBeCloseTo(40, 6);
  expect(c.points.c[1]).toBeCloseTo(42, 3);
  const b = new OutlineDrag(line, values, ["b"]);
  const { b: still } = b.by(-10, 20);
  expect(still[0]).toBeCloseTo(40, 6);
  expect(still[1]).toBeCloseTo(0, 6);
});
