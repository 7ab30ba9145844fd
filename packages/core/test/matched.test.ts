import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type StepDocument } from "../src/index.ts";
import { distanceToCurve, pointAt } from "../src/plane/curve.ts";
import { grownLoop } from "../src/plane/grown-loop.ts";
import {
  circleLoop,
  type Loop,
  loopArea,
  loopBounds,
  polygonLoop,
  rectangleLoop,
} from "../src/plane/loop.ts";
import { rectangleCorners, roundedPolygon, slotLoop } from "../src/plane/opening-loops.ts";
import { point } from "../src/plane/point.ts";
import { insideLoop } from "../src/plane/stitch.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate, told } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(311);

describe("a loop that is grown", () => {
  test("has the area of its closed form: its own, a strip along its sides, and a disc in all", () => {
    const by = 1.5;
    const grown = (loop: Loop) => grownLoop(loop, by).reduce((sum, l) => sum + loopArea(l), 0);
    const disc = Math.PI * by * by;
    expect(grown(rectangleLoop(0, 0, 20, 10))).toBeCloseTo(200 + 60 * by + disc, 9);
    expect(grown(circleLoop(point(3, 4), 5))).toBeCloseTo(Math.PI * 6.5 ** 2, 9);
    expect(grown(slotLoop(20, 6, (s) => s))).toBeCloseTo(
      14 * 6 + Math.PI * 9 + (28 + 6 * Math.PI) * by + disc,
      9,
    );
    const rounded = roundedPolygon(rectangleCorners(20, 12), 3, [], "c");
    expect(grown(rounded)).toBeCloseTo(240 - (4 - Math.PI) * 9 + (64 - 8 * 3 + 6 * Math.PI) * by + disc, 9);
  });

  test("fills what is narrower than twice the distance, and meets itself nowhere", () => {
    // A C whose mouth is 2 wide: grown by 1.5 it is closed.
    const c = polygonLoop([
      point(0, 0),
      point(20, 0),
      point(20, 9),
      point(6, 9),
      point(6, 11),
      point(20, 11),
      point(20, 20),
      point(0, 20),
    ]);
    const [outer, ...others] = grownLoop(c, 1.5);
    expect(others).toEqual([]);
    expect(loopArea(outer)).toBeGreaterThan(loopArea(rectangleLoop(-1.5, -1.5, 21.5, 21.5)) - 8);
    expect(insideLoop(outer, point(12, 10))).toBe(true);
  });

  test("is everywhere just so far from it, of any outline", () => {
    const star = fc.array(spread(4, 12), { minLength: 5, maxLength: 9 }).map((radii) =>
      polygonLoop(
        radii.map((r, i) => {
          const a = (2 * Math.PI * i) / radii.length;
          return point(r * Math.cos(a), r * Math.sin(a));
        }),
      ),
    );
    fc.assert(
      fc.property(star, spread(0.05, 4), (loop, by) => {
        for (const l of grownLoop(loop, by))
          for (const c of l)
            for (const f of [0.1, 0.5, 0.9]) {
              const p = pointAt(c, f);
              const away = Math.min(...loop.map((s) => distanceToCurve(s, p)));
              expect(away).toBeCloseTo(by, 6);
              expect(insideLoop(loop, p)).toBe(false);
            }
        const area = grownLoop(loop, by).reduce((sum, l) => sum + loopArea(l), 0);
        expect(area).toBeGreaterThan(loopArea(loop));
      }),
      { numRuns: casesOf(150) },
    );
  });
});

describe("an opening matched to what stands behind", () => {
  const front = plate("120", "80");
  /** A sheet of its own that stands level above the plate. */
  const card = (more: object = {}): StepDocument => ({
    ...{ id: "s2", kind: "plate", width: "40", depth: "24", x: "10", y: "5", z: "30" },
    ...more,
  });
  const match = (more: object = {}): StepDocument => ({
    ...{ id: "s9", kind: "match", plate: [{ key: "a", at: "s1" }], behind: [{ key: "a", at: "s2" }] },
    ...more,
  });
  const openingOf = (...steps: StepDocument[]) => {
    const build = examinePart(part(front, ...steps));
    return { build, openings: build.blank!.openings.map((l) => loopBounds(l)) };
  };

  test("is its outline with the clearance all round, and follows it", () => {
    const boxOf = (more: object, by: object) => {
      const { build, openings } = openingOf(card(more), match(by));
      expect(told(build)).toEqual([]);
      expect(openings.length).toBe(1);
      return [openings[0], build.blank!.openings[0]] as const;
    };
    const [box, loop] = boxOf({}, { clearance: "2" });
    expect(box).toEqual({
      minX: expect.closeTo(10 - 22, 9),
      maxX: expect.closeTo(10 + 22, 9),
      minY: expect.closeTo(5 - 14, 9),
      maxY: expect.closeTo(5 + 14, 9),
    });
    expect(Math.abs(loopArea(loop))).toBeCloseTo(40 * 24 + 128 * 2 + 4 * Math.PI, 8);
    expect(boxOf({ x: "-12", width: "30" }, { clearance: "0" })[0]).toMatchObject({ minX: -27, maxX: 3 });
    const round = boxOf({ form: "round", diameter: "16" }, { clearance: "0.25" })[1];
    expect(Math.abs(loopArea(round))).toBeCloseTo(Math.PI * 8.25 ** 2, 9);
  });

  test("takes the openings of a plate, or those of one step, with their arcs", () => {
    const wall: StepDocument = {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "40",
    };
    const roof: StepDocument = {
      id: "s3",
      kind: "flange",
      edges: [{ key: "a", at: "s2a.end" }],
      length: "60",
    };
    const cut = (id: string, x: string, d: string): StepDocument => ({
      ...{ id, kind: "cut", form: "round", diameter: d, x, y: "30", plate: [{ key: "a", at: "s3a" }] },
    });
    const with2 = [wall, roof, cut("s4", "-20", "10"), cut("s5", "20", "6")];
    const all = examinePart(
      part(front, ...with2, match({ behind: [{ key: "a", at: "s3a" }], takes: "openings", clearance: "1" })),
    );
    const rounds = (b: typeof all) =>
      b
        .blank!.openings.filter((l) => l[0].kind === "arc")
        .map((l) => Math.round(Math.abs(loopArea(l)) * 1e4) / 1e4)
        .sort((p, q) => p - q);
    const disc = (r: number) => Math.round(Math.PI * r * r * 1e4) / 1e4;
    expect(rounds(all)).toEqual([disc(3), disc(4), disc(5), disc(6)]);
    expect(all.steps.at(-1)!.notes!.clearance).toMatch(/^2 openings, [\d.]+ mm² open$/);
    const one = examinePart(
      part(
        front,
        ...with2,
        match({
          behind: [{ key: "a", at: "s3a" }],
          takes: "step",
          step: [{ key: "a", at: "s5" }],
          clearance: "0",
        }),
      ),
    );
    expect(rounds(one)).toEqual([disc(3), disc(3), disc(5)]);
  });

  test.each([
    [{ behind: [] }, "behind", /Pick the plate behind/],
    [{ plate: [] }, "plate", /Pick the plate that is cut/],
    [{ behind: [{ key: "a", at: "s1" }] }, "behind", /is cut itself/],
    [{ takes: "openings" }, "behind", /no opening in plate/],
    [{ takes: "step" }, "step", /Pick the step/],
    [{ clearance: "-1" }, "clearance", /too small/],
    [{ clearance: "1e9" }, "clearance", /too large/],
  ])("with %o is refused at its field", (more, field, why) => {
    const { build } = openingOf(card(), match(more));
    const finding = build.findings.find((f) => f.step === "s9")!;
    expect([finding.field, finding.message]).toEqual([field, expect.stringMatching(why)]);
  });

  test("beside the plate is told", () => {
    const wall: StepDocument = {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "40",
    };
    const build = examinePart(part(front, wall, match({ behind: [{ key: "a", at: "s2a" }] })));
    expect(told(build).join()).toMatch(/Nothing of that lies behind plate A, folded/);
  });
});

test("openings matched to thousands behind take a time that grows with their number", () => {
  const cover = (n: number) => {
    const [side, size] = [String(n), String(n * 14 + 40)];
    const grid = { arranged: "grid", count: side, pitch: "14", rows: side, rowPitch: "14" };
    return part(
      plate(size, size),
      { id: "s2", kind: "plate", width: size, depth: size, z: "20" },
      {
        ...{ id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "5" },
        ...{ x: "0", y: "0", ...grid },
      },
      {
        ...{ id: "s4", kind: "match", plate: [{ key: "a", at: "s2" }], behind: [{ key: "a", at: "s1" }] },
        ...{ takes: "openings", clearance: "1" },
      },
    );
  };
  const build = examinePart(cover(12));
  expect(told(build)).toEqual([]);
  const radii = build.blank!.openings.map((l) => Math.sqrt(Math.abs(loopArea(l)) / Math.PI));
  expect(radii.filter((r) => Math.abs(r - 3.5) < 1e-9).length).toBe(144);
  expectGrowth(
    1.5,
    [12, 20, 33, 54].map((side) => side * side),
    (n) => {
      const document = cover(Math.sqrt(n));
      return () => examinePart({ ...document });
    },
  );
});
