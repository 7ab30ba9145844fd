import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Equations } from "../src/outline/equations.ts";
import type { Outline, OutlineDimension, Relation } from "../src/outline/outline.ts";
import { equationsOf, solveOutline } from "../src/outline/solve.ts";
import { linearise } from "../src/outline/sparse.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { anyKnownOutline, type KnownOutline } from "./random-outlines.ts";

sameCases(20261130);
const RUNS = casesOf(100);

/** What everything is off by at points, radii being what they come to there; mm. */
function offOf(outline: Outline, points: Outline["points"], radii: Readonly<Record<string, number>>): number {
  const at: Outline = {
    ...outline,
    points,
    curves: outline.curves.map((c) => (c.kind === "circle" ? { ...c, r: radii[c.id] ?? c.r } : c)),
  };
  const { list } = equationsOf(at);
  const { off } = linearise(list, new Equations(at, new Map()).unknowns.start);
  return Math.max(0, ...off.map(Math.abs));
}

const sizeOf = ({ points }: Outline): number => {
  const all = Object.values(points).flat();
  return Math.max(...all) - Math.min(...all);
};

/** The rank of a matrix by its singular values: one-sided Jacobi turns until all columns are square to one another. */
function rankBySingularValues(rows: readonly (readonly number[])[]): number {
  const a = rows.map((r) => {
    const norm = Math.hypot(...r);
    return r.map((v) => (norm > 0 ? v / norm : 0));
  });
  for (let sweep = 0; sweep < 40; sweep++) {
    let turned = 0;
    for (let i = 0; i < a.length; i++)
      for (let j = i + 1; j < a.length; j++) {
        let [p, q, r] = [0, 0, 0];
        for (let k = 0; k < a[i].length; k++) {
          p += a[i][k] * a[i][k];
          q += a[j][k] * a[j][k];
          r += a[i][k] * a[j][k];
        }
        if (Math.abs(r) <= 1e-14 * Math.sqrt(p * q) || p === 0 || q === 0) continue;
        turned = Math.max(turned, Math.abs(r) / Math.sqrt(p * q));
        const zeta = (q - p) / (2 * r);
        const t = Math.sign(zeta || 1) / (Math.abs(zeta) + Math.sqrt(1 + zeta * zeta));
        const c = 1 / Math.sqrt(1 + t * t);
        for (let k = 0; k < a[i].length; k++) {
          const [u, v] = [a[i][k], a[j][k]];
          a[i][k] = c * u - c * t * v;
          a[j][k] = c * t * u + c * v;
        }
      }
    if (turned < 1e-13) break;
  }
  const values = a.map((r) => Math.hypot(...r)).sort((x, y) => y - x);
  return values.filter((v) => v > 1e-7 * values[0]).length;
}

describe("outlines that have a solution, drawn up to a fifth off", () => {
  test("are solved to a thousand-millionth of their size, and as often as not to the last bit again", () => {
    let [solved, all] = [0, 0];
    fc.assert(
      fc.property(anyKnownOutline, ({ drawn }) => {
        const made = solveOutline(drawn);
        all++;
        if (made.state === "conflict") {
          // What is refused says so, and leaves the points where they were drawn.
          expect(made.conflicts.length + made.problems.length).toBeGreaterThan(0);
          return;
        }
        solved++;
        expect(offOf(drawn, made.points, made.radii)).toBeLessThan(1e-9 * sizeOf(drawn));
        expect(JSON.stringify(solveOutline(drawn))).toBe(JSON.stringify(made));
        for (const d of drawn.dimensions)
          expect(made.values[d.id]).toBeCloseTo(
            d.kind === "angle" ? (Number(d.value) * Math.PI) / 180 : Number(d.value),
            7,
          );
      }),
      { numRuns: RUNS },
    );
    expect(solved / all).toBeGreaterThanOrEqual(0.999);
  }, 600_000);

  test("can move in as many ways as the singular values of what they ask for leave", () => {
    fc.assert(
      fc.property(anyKnownOutline, ({ drawn }) => {
        const made = solveOutline(drawn);
        if (made.state === "conflict") return;
        const there: Outline = {
          ...drawn,
          points: made.points,
          curves: drawn.curves.map((c) => (c.kind === "circle" ? { ...c, r: made.radii[c.id] } : c)),
        };
        const { start } = new Equations(there, new Map()).unknowns;
        const { rows } = linearise(equationsOf(there).list, start);
        const dense = rows.map((row) => {
          const line = new Array<number>(start.length).fill(0);
          row.at.forEach((v, k) => {
            line[v] += row.by[k];
          });
          return line;
        });
        expect(made.free).toBe(start.length - rankBySingularValues(dense));
        expect(made.state).toBe(made.free > 0 ? "free" : "fixed");
        expect(made.freePoints.length > 0).toBe(made.free > 0);
      }),
      { numRuns: RUNS },
    );
  }, 600_000);

  test("solved where they are already stay there", () => {
    fc.assert(
      fc.property(anyKnownOutline, ({ drawn, truth }) => {
        const radii = Object.fromEntries(
          drawn.dimensions.flatMap((d) => {
            if (d.kind !== "radius" && d.kind !== "diameter") return [];
            return [[d.of[0], Number(d.value) / (d.kind === "diameter" ? 2 : 1)]];
          }),
        );
        const curves = drawn.curves.map((c) => (c.kind === "circle" ? { ...c, r: radii[c.id] ?? c.r } : c));
        const made = solveOutline({ ...drawn, points: truth, curves });
        if (made.state === "conflict") return;
        // Circles without a radius of their own were drawn off, and take what touches them along a little.
        const loose = drawn.curves.some((c) => c.kind === "circle" && radii[c.id] === undefined);
        for (const [id, [x, y]] of Object.entries(truth))
          if (!loose) expect(Math.hypot(made.points[id][0] - x, made.points[id][1] - y)).toBeLessThan(1e-6);
      }),
      { numRuns: RUNS },
    );
  }, 600_000);
});

type Asked = { readonly relation: Relation } | { readonly dimension: OutlineDimension };

/** Something that cannot hold beside what an outline asks for already; nothing where none of a few is at hand. */
function contradiction({ drawn }: KnownOutline): Asked | undefined {
  const { dimensions, relations } = drawn;
  const length = dimensions.find((d) => d.kind === "length");
  const radius = dimensions.find((d) => d.kind === "radius" && d.of[0].startsWith("c"));
  const level = relations.find(
    (r) => r.kind === "level" && dimensions.some((d) => d.kind === "length" && d.of[0] === r.of[0]),
  );
  const joined = relations.find((r) => r.kind === "coincident");
  const ways: (Asked | undefined)[] = [
    length && { dimension: { ...length, id: "planted", value: Number(length.value) * 1.15 } },
    radius && {
      dimension: { ...radius, id: "planted", kind: "diameter", value: Number(radius.value) * 2.4 },
    },
    level && { relation: { id: "planted", kind: "upright", of: level.of } },
    joined && { dimension: { id: "planted", kind: "distance", of: joined.of, value: 5 } },
  ];
  const at = drawn.points[Object.keys(drawn.points)[0]][0];
  const there = ways.filter((w) => w !== undefined);
  return there[Math.floor(Math.abs(at) * 1000) % Math.max(1, there.length)];
}

const planted = (drawn: Outline, asked: Asked): Outline =>
  "relation" in asked
    ? { ...drawn, relations: [...drawn.relations, asked.relation] }
    : { ...drawn, dimensions: [...drawn.dimensions, asked.dimension] };

/** An outline that asks for some of what it asks for. */
const only = (outline: Outline, ids: ReadonlySet<string>): Outline => ({
  ...outline,
  relations: outline.relations.filter((r) => ids.has(r.id)),
  dimensions: outline.dimensions.filter((d) => ids.has(d.id)),
});

describe("an outline with one thing that contradicts the rest", () => {
  test("names the fewest that disagree: with it, and without any one of them they go together", () => {
    fc.assert(
      fc.property(anyKnownOutline, (known) => {
        const asked = contradiction(known);
        if (!asked || solveOutline(known.drawn).state === "conflict") return;
        const outline = planted(known.drawn, asked);
        const made = solveOutline(outline);
        expect(made.state).toBe("conflict");
        expect(made.conflicts).toContain("planted");
        const set = new Set(made.conflicts);
        expect(solveOutline(only(outline, set)).state).toBe("conflict");
        for (const id of set) {
          const rest = new Set([...set].filter((other) => other !== id));
          expect(solveOutline(only(outline, rest)).state).not.toBe("conflict");
        }
        // What has nothing to do with it is solved; the rest stays as it was drawn.
        for (const at of Object.values(made.points)) expect(at.every(Number.isFinite)).toBe(true);
      }),
      { numRuns: Math.ceil(RUNS / 2) },
    );
  }, 1_200_000);
});
