import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type PartBuild, type StepDocument } from "../src/index.ts";
import { chordsAcross, chordsSeen, forChords, regionOfChords } from "../src/plane/chord-region.ts";
import { curveLength, flattenCurve } from "../src/plane/curve.ts";
import { circleLoop, type Loop, loopArea, polygonLoop } from "../src/plane/loop.ts";
import { point } from "../src/plane/point.ts";
import { insideLoop } from "../src/plane/stitch.ts";
import type { Bend } from "../src/sheet/pieces/flat-pieces.ts";
import { bendsOf } from "../src/sheet/sheet.ts";
import { expectGrowth } from "./growth.ts";
import { channelSteps, part, plate, told } from "./plain-parts.ts";
import { casesOf } from "./random-cases.ts";

const T = 1.5;
const RADIUS = 1.5;

/** A channel 100 wide with two walls 60 high, and a cut of one wall that goes on through the folded part. */
const channel = (values: object, second = "90", ...more: StepDocument[]): PartBuild =>
  examinePart(
    part(
      ...channelSteps(second),
      {
        ...{ id: "s4", kind: "cut", plate: [{ key: "a", at: "s2a" }], form: "round", diameter: "10" },
        ...{ placed: "edge", edge1: [{ key: "a", at: "s2a.end" }], off1: "57", through: "folded" },
        ...values,
      },
      ...more,
    ),
  );
const bendOf = (build: PartBuild, id: string): Bend => bendsOf(build.sheet).find((b) => b.id === id)!;

/** Whether a developed place of a bend is metal; `along` from its first tangent line, `side` along its axis. */
const isMetal = (bend: Bend, along: number, side: number): boolean => {
  const p = point(
    bend.origin.x + bend.out.x * along + bend.axis.x * side,
    bend.origin.y + bend.out.y * along + bend.axis.y * side,
  );
  return bend.regions.some((r) => insideLoop(r.outer, p) && !r.holes.some((h) => insideLoop(h, p)));
};

/** Whether any of the sheet's thickness is met at a place that says where it stands. */
const isMet = (met: (w: number) => boolean): boolean =>
  Array.from({ length: 61 }, (_, k) => (T * k) / 60).some(met);

/** Compares a bend's metal with what is met, at random places that are not within `clear` of a change. */
function expectOpen(bend: Bend, met: (along: number, side: number) => boolean, clear = 4e-3): void {
  let [open, metal] = [0, 0];
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 0.99, noNaN: true }),
      fc.double({ min: 0.01, max: 0.99, noNaN: true }),
      (f, g) => {
        const [along, side] = [f * bend.allowance, g * bend.width];
        const around = [0, 1, 2, 3, 4, 5, 6, 7].map((k) =>
          met(along + clear * Math.cos((k * Math.PI) / 4), side + clear * Math.sin((k * Math.PI) / 4)),
        );
        const here = met(along, side);
        if (around.some((a) => a !== here)) return;
        if (here) open++;
        else metal++;
        expect(isMetal(bend, along, side), `${along}, ${side}`).toBe(!here);
      },
    ),
    { numRuns: 2500, seed: 7 },
  );
  expect(Math.min(open, metal)).toBeGreaterThan(20);
}

describe("chords", () => {
  const pick = (loops: readonly Loop[], p: { x: number; y: number }) => loops.some((l) => insideLoop(l, p));

  test("are where a line across meets an area, also through corners and the farthest places of arcs", () => {
    const ring = forChords([
      circleLoop(point(1, 2), 5),
      polygonLoop([point(-9, 0), point(-7, 3), point(-8, 6)]),
    ]);
    expect(chordsAcross(ring, 1)[0]).toEqual([expect.closeTo(-3, 12), expect.closeTo(7, 12)]);
    expect(chordsAcross(ring, 4)[0]).toEqual([expect.closeTo(-2, 12), expect.closeTo(6, 12)]);
    expect(chordsAcross(ring, -8)[0]).toEqual([expect.closeTo(1.5, 12), expect.closeTo(6, 12)]);
    expect(chordsAcross(ring, 6.1)).toEqual([]);
    expect(chordsAcross(ring, -20)).toEqual([]);
  });

  test("seen along a direction cover what any line between covers, and nothing else", () => {
    const coordinate = fc.double({ min: -6, max: 6, noNaN: true });
    fc.assert(
      fc.property(
        coordinate,
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        coordinate,
        (x0, wide, shift, r, dx) => {
          // On a border itself it may be taken either way.
          fc.pre([x0, x0 + wide].every((x) => [-5, -3, 3, 5].every((border) => Math.abs(x - border) > 1e-6)));
          // A circle beside a hook, so that chords come singly and in pairs.
          const loops = [
            circleLoop(point(dx, 12), r),
            polygonLoop([
              point(-5, 0),
              point(5, 0),
              point(5, 4),
              point(3, 4),
              point(3, 1),
              point(-3, 1),
              point(-3, 3),
              point(-5, 3),
            ]),
          ];
          const chords = chordsSeen(forChords(loops), x0, x0 + wide, shift);
          for (let k = 1; k < chords.length; k++) expect(chords[k][0]).toBeGreaterThan(chords[k - 1][1]);
          const covered = (y: number, slack: number) =>
            chords.some(([p, q]) => y >= p - slack && y <= q + slack);
          const seen = (y: number) =>
            Array.from({ length: 41 }, (_, k) => k / 40).some((f) =>
              pick(loops, point(x0 + wide * f, y + shift * f)),
            );
          for (let y = -6; y < 20; y += 0.37) {
            if (seen(y)) expect(covered(y, 1e-6), `${y} is open`).toBe(true);
            // Two lines of the forty are as far apart as that: what is between them is not looked at.
            else if ([-0.2, 0.2].every((d) => !seen(y + d)))
              expect(covered(y, -0.2), `${y} is not open`).toBe(false);
          }
        },
      ),
      { numRuns: casesOf(120) },
    );
  });

  test("make the region that they are of: a circle in a few arcs, and what parts and joins again", () => {
    const circle = forChords([circleLoop(point(0, 0), 5)]);
    const [round, ...none] = regionOfChords((x) => chordsAcross(circle, x), [-6, -5, 5, 6], [], 1e-3);
    expect(none).toEqual([]);
    expect(round.length).toBeLessThan(24);
    for (const c of round)
      for (const p of flattenCurve(c, 1e-5)) expect(Math.abs(Math.hypot(p.x, p.y) - 5)).toBeLessThan(1e-3);
    const frame = [
      polygonLoop([point(0, 0), point(9, 0), point(9, 7), point(0, 7)]),
      polygonLoop([point(3, 2), point(3, 5), point(6, 5), point(6, 2)]),
    ];
    const pieces = forChords(frame);
    const made = regionOfChords((x) => chordsAcross(pieces, x), [-1, 10], [], 1e-3);
    expect(made.reduce((sum, l) => sum + loopArea(l), 0)).toBeCloseTo(63, 4);
    // A frame is what is left of it: seen along x its middle is open to both sides.
    for (const [x, y] of [
      [1, 1],
      [4.5, 1],
      [4.5, 6],
      [8, 3],
    ] as const)
      expect(pick(made, point(x, y))).toBe(true);
  });
});

describe("a cut through the folded part opens bends in its way", () => {
  test("so that a rod goes through that is square to a wall: by the circle's own formula, at every thickness", () => {
    const build = channel({});
    expect(build.steps[3].notes!.through).toBe("plate C and bends 1, 2");
    for (const id of ["s2a", "s3a"]) {
      const bend = bendOf(build, id);
      // 57 from the wall's end the rod's middle is 3 above the face below; a place at φ stands at r + t − ρ·cos φ.
      expectOpen(bend, (along, side) =>
        isMet((w) => {
          const height = T + RADIUS - (RADIUS + T - w) * Math.cos((along / bend.allowance) * (Math.PI / 2));
          return Math.hypot(height - 3, side - 40) < 5;
        }),
      );
    }
  });

  test("square to the bottom, beside a wall: from outside, and from its other side not where it goes one way", () => {
    // The bend begins 47 from the middle; a place at φ stands ρ·sin φ farther out.
    const rod = { plate: [{ key: "a", at: "s1" }], placed: "middle", x: "47.5", diameter: "8" };
    const up = channel({ ...rod, way: "b" });
    const bend = bendOf(up, "s3a");
    expectOpen(bend, (along, side) =>
      isMet((w) => {
        const out = (RADIUS + T - w) * Math.sin((along / bend.allowance) * (Math.PI / 2));
        return Math.hypot(47 + out - 47.5, side - 40) < 4;
      }),
    );
    const down = bendOf(channel({ ...rod, way: "a" }), "s3a");
    expect(isMetal(down, down.allowance * 0.5, 40)).toBe(true);
  });

  test("goes on from plates without a step, so that an opening over both is one, of whole pieces", () => {
    const bottom = { plate: [{ key: "a", at: "s1" }], placed: "middle" };
    const cases: readonly [object, string, number][] = [
      [{}, "90", 2],
      [{ form: "slot", width: "18", height: "6", turned: "30" }, "90", 2],
      [{ ...bottom, x: "47", diameter: "8" }, "90", 1],
      [{ ...bottom, x: "46", diameter: "8" }, "60", 1],
      [{ off1: "54", diameter: "8" }, "60", 2],
      [{ off1: "54", diameter: "8" }, "120", 2],
    ];
    for (const [values, second, count] of cases) {
      const build = channel(values, second);
      const { openings } = build.blank!;
      expect(openings.length).toBe(count);
      for (const loop of openings) {
        for (const [i, c] of loop.entries()) {
          expect(curveLength(c)).toBeGreaterThan(0.05);
          const next = loop[(i + 1) % loop.length];
          expect(Math.hypot(c.b.x - next.a.x, c.b.y - next.a.y)).toBeLessThan(1e-9);
        }
      }
      expect(told(build).filter((text) => !text.includes("runs along"))).toEqual([]);
    }
  });

  test("follows a direction that leans: down from one wall to the other wall's bend", () => {
    const lean = { off1: "30", diameter: "4", leans: "15.8" };
    const builds = ["90", "270"].map((leansTo) => channel({ ...lean, leansTo }));
    expect(builds.map((b) => b.steps[3].notes!.through).sort()).toEqual([
      "plate C",
      "plates A, C and bend 2",
    ]);
    const build = builds.find((b) => b.steps[3].notes!.through.includes("bend 2"))!;
    const bend = bendOf(build, "s3a");
    const fall = Math.tan((15.8 * Math.PI) / 180);
    // Seen back along the direction in the outer face of the first wall, which stands at −50.
    expectOpen(bend, (along, side) =>
      isMet((w) => {
        const turned = (along / bend.allowance) * (Math.PI / 2);
        const [out, height] = [47 + (3 - w) * Math.sin(turned), 3 - (3 - w) * Math.cos(turned)];
        return Math.hypot(height + (out + 50) * fall - 30, side - 40) < 2;
      }),
    );
  });

  test("says what it runs along, and cuts neither that bend nor that plate", () => {
    expect(told(channel({}))).toEqual([
      expect.stringMatching(/^warn: Cut 4: It runs along plate A, which it does not cut/),
    ]);
    expect(told(channel({ off1: "40" }))).toEqual([]);
    const corner = (x: string, y: string) =>
      examinePart(
        part(
          plate("100", "80"),
          { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "60" },
          { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "60" },
          {
            ...{ id: "s4", kind: "cut", plate: [{ key: "a", at: "s3a" }], form: "round", diameter: "4" },
            ...{ placed: "middle", x, y, through: "folded" },
          },
        ),
      );
    // Of the four corners of its wall one looks along the other wall's bend.
    const builds = ["48.5", "-48.5"].flatMap((x) => ["28", "-28"].map((y) => corner(x, y)));
    const past = builds.map((b) => told(b).filter((text) => /runs along bend 1/.test(text)).length);
    expect(past.sort()).toEqual([0, 0, 0, 1]);
    for (const build of builds) {
      const bend = bendOf(build, "s2a");
      expect(isMetal(bend, bend.allowance / 2, bend.width / 2)).toBe(true);
    }
  });

  test("of very many openings takes a time that grows with their number", () => {
    const wide = (n: number) =>
      part(
        plate("100", String(n * 3 + 20)),
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "60" },
        { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "60" },
        {
          ...{ id: "s4", kind: "cut", plate: [{ key: "a", at: "s2a" }], form: "round", diameter: "2" },
          ...{ placed: "edge", edge1: [{ key: "a", at: "s2a.end" }], off1: "57", through: "folded" },
          ...{ arranged: "row", count: String(n), pitch: "3" },
        },
      );
    expectGrowth(1.5, [25, 50, 100, 200], (n) => {
      const document = wide(n);
      return () => examinePart({ ...document });
    });
  });
});
