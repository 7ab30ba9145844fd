// Outlines: a step of a drag against the clock, and the solver against dense least squares of the same equations.
import {
  Equations,
  groupsOf,
  linearise,
  type Outline,
  OutlineDrag,
  solveGroup,
  solveOutline,
} from "@hillcrest/core";
import { compare, median } from "./compare.ts";
import { tell } from "./tell.ts";

/** A comb of teeth with rounded tips: lines that are level and upright, arcs that touch them, lengths that drive. */
function comb(teeth: number, at = 0): Pick<Outline, "points" | "curves" | "relations" | "dimensions"> {
  const points: Record<string, [number, number]> = {};
  const curves: Outline["curves"][number][] = [];
  const relations: Outline["relations"][number][] = [];
  const dimensions: Outline["dimensions"][number][] = [];
  const id = (of: string, i: number) => `${of}${at}-${i}`;
  for (let i = 0; i < teeth; i++) {
    const x = i * 20;
    const y = at * 100;
    points[id("a", i)] = [x, y];
    points[id("b", i)] = [x, y + 30];
    points[id("c", i)] = [x + 10, y + 30];
    points[id("d", i)] = [x + 10, y];
    points[id("m", i)] = [x + 5, y + 30];
    curves.push({ id: id("up", i), kind: "line", a: id("a", i), b: id("b", i) });
    curves.push({ id: id("arc", i), kind: "arc", a: id("b", i), b: id("c", i), c: id("m", i), ccw: false });
    curves.push({ id: id("down", i), kind: "line", a: id("c", i), b: id("d", i) });
    relations.push({ id: id("r1", i), kind: "upright", of: [id("up", i)] });
    relations.push({ id: id("r2", i), kind: "tangent", of: [id("up", i), id("arc", i)] });
    relations.push({ id: id("r3", i), kind: "tangent", of: [id("arc", i), id("down", i)] });
    if (i > 0) {
      relations.push({ id: id("r4", i), kind: "equal", of: [id("up", i - 1), id("up", i)] });
      relations.push({ id: id("r5", i), kind: "level", of: [id("a", i - 1), id("d", i - 1)] });
      curves.push({ id: id("foot", i), kind: "line", a: id("d", i - 1), b: id("a", i) });
      relations.push({ id: id("r6", i), kind: "level", of: [id("foot", i)] });
      dimensions.push({ id: id("e", i), kind: "length", of: [id("foot", i)], value: 10 });
    }
    dimensions.push({ id: id("w", i), kind: "radius", of: [id("arc", i)], value: 5 });
  }
  return { points, curves, relations, dimensions };
}

const outlineOf = (parts: readonly ReturnType<typeof comb>[]): Outline => ({
  format: "hillcrest-outline",
  version: 1,
  name: "comb",
  points: Object.assign({}, ...parts.map((p) => p.points)),
  curves: parts.flatMap((p) => p.curves),
  relations: parts.flatMap((p) => p.relations),
  dimensions: parts.flatMap((p) => p.dimensions),
});

const told = (name: string, value: number, most: number) => tell({ name, value, most, unit: "ms" });

function dragged(outline: Outline, point: string): number {
  const solved = solveOutline(outline);
  const drag = new OutlineDrag({ ...outline, points: solved.points }, solved.values, [point]);
  const took = Array.from({ length: 60 }, (_, i) => {
    const start = performance.now();
    drag.by(Math.cos(i) * 0.8, Math.sin(i * 1.3) * 0.8);
    return performance.now() - start;
  });
  return median(took);
}

const hundred = outlineOf([comb(25)]);
const count = (o: Outline) =>
  `${o.curves.length} curves, ${o.relations.length} relations, ${o.dimensions.length} dimensions`;
told(`a step of a drag, ${count(hundred)}`, dragged(hundred, "b0-12"), 16);
const many = outlineOf(Array.from({ length: 40 }, (_, k) => comb(6, k)));
told(`a step of a drag, ${count(many)}, in 40 groups`, dragged(many, "b7-3"), 50);
const solves = median(
  Array.from({ length: 9 }, () => {
    const start = performance.now();
    solveOutline({
      ...many,
      dimensions: many.dimensions.map((d) => (d.kind === "radius" ? { ...d, value: 4.5 } : d)),
    });
    return performance.now() - start;
  }),
);
told("  and all of it solved after a value has changed", solves, 500);

/** The least step by a dense factorisation of all equations at once. */
function denseSolve(outline: Outline, values: ReadonlyMap<string, number>): void {
  const { list, unknowns } = new Equations(outline, values);
  const x = Float64Array.from(unknowns.start);
  for (let round = 0; round < 20; round++) {
    const { rows, off } = linearise(list, x);
    let sum = 0;
    for (const v of off) sum += v * v;
    if (Math.sqrt(sum) < 1e-9) return;
    const m = rows.length;
    const n = x.length;
    const j = rows.map((row) => {
      const line = new Float64Array(n);
      row.at.forEach((v, k) => {
        line[v] += row.by[k];
      });
      return line;
    });
    const a = Array.from({ length: m }, (_, p) => {
      const line = new Float64Array(m);
      for (let q = 0; q <= p; q++) for (let k = 0; k < n; k++) line[q] += j[p][k] * j[q][k];
      line[p] += 1e-11;
      return line;
    });
    for (let p = 0; p < m; p++)
      for (let q = 0; q <= p; q++) {
        let s = a[p][q];
        for (let k = 0; k < q; k++) s -= a[p][k] * a[q][k];
        a[p][q] = p === q ? Math.sqrt(Math.max(s, 1e-14)) : s / a[q][q];
      }
    const y = Float64Array.from(off, (v) => -v);
    for (let p = 0; p < m; p++) {
      for (let k = 0; k < p; k++) y[p] -= a[p][k] * y[k];
      y[p] /= a[p][p];
    }
    for (let p = m - 1; p >= 0; p--) {
      y[p] /= a[p][p];
      for (let k = 0; k < p; k++) y[k] -= a[p][k] * y[p];
    }
    for (let p = 0; p < m; p++) for (let k = 0; k < n; k++) x[k] += j[p][k] * y[p];
  }
}

const three = outlineOf([comb(75)]);
const changed = new Map(three.dimensions.map((d) => [d.id, d.kind === "radius" ? 4.8 : Number(d.value)]));
compare(
  `solving ${count(three)}, against dense least squares`,
  0.1,
  () => denseSolve(three, changed),
  () => {
    const { list, unknowns } = new Equations(three, changed);
    const x = Float64Array.from(unknowns.start);
    for (const g of groupsOf(list, x)) solveGroup(g, x, { size: 1500 });
  },
  // What it is held against takes seconds each time, and five hundred times as long.
  1,
);
