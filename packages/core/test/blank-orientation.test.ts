import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type BlankSettings,
  bendList,
  examinePart,
  flatPlace,
  fromDatum,
  movePlace,
  type Orientation,
  orientationOf,
  orientBlank,
  type PartDocument,
  readDocument,
  type StepDocument,
  samePoint,
  smallestRectangle,
} from "../src/index.ts";
import { drawnOf, part, plate } from "./plain-parts.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(88);

const flange = (id: string, at: string, more: object = {}): StepDocument => ({
  id,
  kind: "flange",
  edges: [{ key: "a", at }],
  length: "20",
  ...more,
});

const bracket = part(
  plate("100", "60", [{ key: "h", x: "30", y: "10", d: "8" }]),
  flange("s2", "s1.north"),
  flange("s3", "s1.east", { turn: "down" }),
);

function laid(o: Partial<Orientation>, document: PartDocument = bracket) {
  const build = examinePart(document);
  return { build, ...orientBlank(build.sheet!, build.blank!, { side: "B", turn: "modelled", ...o }) };
}

const saying = (blank: BlankSettings, stock: object = {}): PartDocument => ({
  ...bracket,
  stock: { ...bracket.stock, ...stock },
  blank,
});

describe("how a blank lies", () => {
  it("has its lower left corner at the origin, however it is turned", () => {
    for (const o of [
      { turn: "modelled" },
      { turn: "angle", angle: 0.7 },
      { turn: "longest", side: "A" },
      { turn: "smallest" },
      { turn: "grain", grain: "y" },
    ] as const) {
      const { blank } = laid(o);
      expect(Math.abs(blank.bounds.minX) + Math.abs(blank.bounds.minY)).toBeLessThan(1e-9);
      expect(blank.area).toBeCloseTo(laid({}).build.blank!.area, 9);
    }
  });

  it("from side A is mirrored left to right, and nothing else", () => {
    const [b, a] = [laid({}), laid({ side: "A" })];
    const [hole] = b.blank.openings;
    const [mirrored] = a.blank.openings;
    const centre = (loop: typeof hole) => loop[0].kind === "arc" && loop[0].c;
    const [p, q] = [centre(hole), centre(mirrored)];
    if (!p || !q) throw new Error("The hole is round.");
    expect(q.x).toBeCloseTo(b.blank.width - p.x, 9);
    expect(q.y).toBeCloseTo(p.y, 9);
  });

  it("by a picked edge has that edge level at the foot, seen from either side", () => {
    for (const side of ["A", "B"] as const)
      for (const edge of ["s1.west", "s1.south", "s2a.end", "s3a.left"]) {
        const { blank, problem, build, motion } = laid({ turn: "edge", edge, side });
        expect(problem).toBeUndefined();
        const place = movePlace(motion, flatPlace(build.sheet!, { kind: "edge", name: edge })!);
        if (place.kind !== "line") throw new Error("An edge is a line.");
        expect(place.a.y, `${edge} seen from ${side}`).toBeCloseTo(place.b.y, 9);
        // The plate stands above it: its border runs there with the metal on its left.
        const on = blank.outlines
          .flat()
          .find((c) => Math.abs(c.a.y - place.a.y) + Math.abs(c.b.y - place.a.y) < 1e-6)!;
        expect(on.b.x, `${edge} seen from ${side}`).toBeGreaterThan(on.a.x);
      }
  });

  it("says when what it was to lie by is gone or is not said, and lies as modelled then", () => {
    expect(laid({ turn: "edge", edge: "s9.north" }).problem).toMatch(/gone/);
    expect(laid({ turn: "grain" }).problem).toMatch(/grain/);
    expect(laid({ turn: "edge", edge: "s9.north" }).angle).toBe(0);
  });

  it("in the smallest rectangle is as large as that is, and no larger than as modelled", () => {
    const { blank, build } = laid({ turn: "smallest" });
    const least = smallestRectangle(build.blank!.outlines.flat())!;
    expect(blank.width).toBeCloseTo(least.along, 9);
    expect(blank.height).toBeCloseTo(least.across, 9);
    expect(blank.width * blank.height).toBeLessThanOrEqual(build.blank!.width * build.blank!.height + 1e-9);
  });

  it("takes the side that is seen where the part says no other, and keeps the grain", () => {
    const build = examinePart(saying({}, { visibleSide: "A", grain: "y" }));
    expect(orientationOf(saying({}, {}), build.stock)).toMatchObject({ side: "A", grain: "y" });
    expect(orientationOf(saying({ side: "B" }), build.stock).side).toBe("B");
    const { grain } = orientBlank(build.sheet!, build.blank!, { side: "B", turn: "grain", grain: "y" });
    expect(samePoint(grain!, { x: 1, y: 0 })).toBe(true);
  });

  it("turns bends that go up into bends that go down when it is turned over", () => {
    const up = (document: PartDocument) => {
      const { facts } = drawnOf(document);
      return [facts.bendsUp.length, facts.bendsDown.length];
    };
    expect(up(saying({ side: "B" }))).toEqual([1, 1]);
    const [b, a] = [saying({ side: "B" }), saying({ side: "A" })].map((d) => bendList(d, examinePart(d)));
    expect(b.map((r) => r.seenUp)).toEqual([true, false]);
    expect(a.map((r) => r.seenUp)).toEqual([false, true]);
    // The part itself is the same: its bends keep their own directions.
    expect(a.map((r) => r.up)).toEqual(b.map((r) => r.up));
  });
});

describe("the bend list in full", () => {
  it("gives the outside of each leg as a caliper finds it, 100 × 60 with legs of 20", () => {
    const build = examinePart(bracket);
    const rows = bendList(bracket, build);
    const t = build.stock!.thickness;
    expect(t).toBe(1.5);
    // Flanges stand with their outer face on the edge: outside sizes are the sizes that were typed.
    expect(rows.map((r) => r.legs.map((l) => Number(l!.toFixed(6))))).toEqual([
      [60, 20],
      [100, 20],
    ]);
    expect(rows.map((r) => Math.round((r.opening * 180) / Math.PI))).toEqual([90, 90]);
  });

  it("goes on to the outside of the next bend, up or down, and stops at the bend itself above 90°", () => {
    const channel = (turn: string, angle = "90") => {
      const document = part(
        plate("80", "40"),
        flange("s2", "s1.north", { angle }),
        flange("s3", "s1.south", { turn, angle }),
      );
      return bendList(document, examinePart(document));
    };
    for (const turn of ["up", "down"])
      for (const row of channel(turn)) expect(row.legs[0]).toBeCloseTo(40, 9);
    const build = examinePart(
      part(plate("80", "40"), flange("s2", "s1.north", { angle: "120", lengthTo: "tangent" })),
    );
    const [row] = bendList(bracket, build);
    // The leg beyond its tangent is 20; the outside of the bend stands r + t before that.
    expect(row.legs[1]).toBeCloseTo(20 + 1.5 + 1.5, 9);
  });

  it("finds what was typed: up to 90° to the outer mould point, beyond it to the outermost face", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 175 }),
        fc.integer({ min: 12, max: 60 }),
        fc.boolean(),
        (angle, length, up) => {
          const document = part(
            plate("100", "60"),
            flange("s2", "s1.north", {
              angle: String(angle),
              length: String(length),
              lengthTo: angle <= 90 ? "outer-mould" : "outermost",
              turn: up ? "up" : "down",
              place: "bend-from-edge",
            }),
          );
          const [row] = bendList(document, examinePart(document));
          expect(row.legs[1]).toBeCloseTo(length, 9);
        },
      ),
      { numRuns: casesOf(80) },
    );
  });

  it("measures bend lines from the left and the lower border, or from picked edges", () => {
    const rows = bendList(bracket, examinePart(bracket));
    const build = examinePart(bracket);
    const [north, east] = rows;
    expect(north.across).toEqual([]);
    expect(north.upwards[0]).toBeCloseTo(60 - 1.5 - 1.5 + north.allowance / 2, 9);
    expect(east.across[0]).toBeCloseTo(100 - 3 + east.allowance / 2, 9);
    const picked = saying({
      datums: { across: { kind: "edge", name: "s3a.end" }, up: { kind: "edge", name: "s2a.end" } },
    });
    const [n2, e2] = bendList(picked, build);
    expect(n2.upwards[0]).toBeCloseTo(build.blank!.height - north.upwards[0], 9);
    expect(e2.across[0]).toBeCloseTo(build.blank!.width - east.across[0], 9);
    // A datum that is gone is none: the border counts again.
    const gone = saying({ datums: { up: { kind: "edge", name: "s9.end" } } });
    expect(bendList(gone, build)[0].upwards).toEqual(north.upwards);
  });

  it("tells both ends of a line that is slanted to its datum, one where it runs along it, none square to it", () => {
    const datum = { at: { x: 0, y: 0 }, way: { x: 0, y: 1 } };
    expect(fromDatum(datum, { a: { x: 0, y: 5 }, b: { x: 9, y: 5 } })).toEqual([5]);
    expect(fromDatum(datum, { a: { x: 0, y: 5 }, b: { x: 9, y: 8 } })).toEqual([5, 8]);
    expect(fromDatum(datum, { a: { x: 3, y: 5 }, b: { x: 3, y: 9 } })).toEqual([]);
  });

  it("carries the order of forming beside the numbers, which stay", () => {
    const ordered = saying({ forming: { s2a: 2, s3a: 1 } });
    const rows = bendList(ordered, examinePart(ordered));
    expect(rows.map((r) => [r.number, r.forming])).toEqual([
      [1, 2],
      [2, 1],
    ]);
  });
});

describe("what a part says of its blank", () => {
  const problems = (blank: unknown) => {
    const read = readDocument({ ...bracket, blank });
    return read.ok ? [] : read.error.map((p) => `${p.path}: ${p.message}`);
  };

  it("is read as it was written", () => {
    const blank: BlankSettings = {
      turn: "edge",
      edge: "s1.north",
      side: "A",
      shows: ["notes", "ordinates"],
      dimensions: [{ key: "a", from: { kind: "hole", name: "s1 h" }, along: "level", beside: -4.5 }],
      forming: { s2a: 1 },
      preset: "plain-r12",
      changes: { units: "in" },
    };
    const read = readDocument(JSON.parse(JSON.stringify({ ...bracket, blank })));
    expect(read.ok && read.value.blank).toEqual(blank);
  });

  it.each([
    [{ turn: "upside down" }, "/blank/turn"],
    [{ angle: "1e16" }, "/blank/angle"],
    [{ angle: 1e16 }, "/blank/angle"],
    [{ angle: Number.NaN }, "/blank/angle"],
    [{ shows: ["everything"] }, "/blank/shows"],
    [{ forming: { s2a: 0 } }, "/blank/forming"],
    [{ forming: { s2a: 1.5 } }, "/blank/forming"],
    [
      { dimensions: [{ key: "a", from: { kind: "ghost", name: "x" }, along: "level", beside: 1 }] },
      "/blank/dimensions/0/from",
    ],
    [
      { dimensions: [{ key: "a", from: { kind: "edge", name: "x" }, along: "level", beside: Infinity }] },
      "/blank/dimensions/0/beside",
    ],
    [
      {
        dimensions: Array.from({ length: 5000 }, (_, i) => ({
          key: `k${i}`,
          from: { kind: "edge", name: "x" },
          along: "level",
          beside: 1,
        })),
      },
      "/blank/dimensions",
    ],
    [{ changes: { textHeight: -1 } }, "/blank/changes/textHeight"],
    [{ changes: { version: "r9" } }, "/blank/changes/version"],
    ["flat", "/blank"],
  ] as const)("is refused with its place where it is wrong (%#)", (blank, at) => {
    expect(problems(blank)[0]).toContain(`${at}:`);
  });
});
