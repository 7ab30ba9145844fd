import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type PartDocument, toRadians } from "../src/index.ts";
import { convexHull } from "../src/plane/hull.ts";
import { NearCurves } from "../src/plane/near-curves.ts";
import { boundsMeet } from "../src/plane/point.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { at, cardWith, HAIR, isLimit, part, plate, rules, said, step, wall } from "./ruled-parts.ts";

sameCases(20261127);
const RUNS = casesOf(300);
const text = (v: number) => String(v);
const cut = (id: string, values: object) =>
  step(id, "cut", { plate: at("s1"), form: "rectangle", x: "0", y: "0", ...values });
const outline = (...points: readonly (readonly [number, number])[]) =>
  part(
    step("s1", "plate", {
      form: "outline",
      points: points.map(([x, y], i) => ({ key: `p${i}`, x: text(x), y: text(y) })),
    }),
  );

describe("a slit", () => {
  const KERF = 0.15;
  const slit = (width: number) => part(plate(), cut("s2", { width: text(width), height: "40", y: "40" }));

  test("is told where it is narrower than the cut is wide", () => {
    isLimit("narrow-slit", slit, KERF);
    isLimit("narrow-slit", slit, 0.4, { by: rules({ kerf: 0.4 }) });
    expect(said("narrow-slit", slit(0.1))[0]).toMatchObject({
      level: "warn",
      pieces: [{ kind: "plate", id: "s1" }],
    });
  });

  test("in an opening counts as one in the outline", () => {
    const keyhole = (width: number) =>
      part(
        plate({ holes: [{ key: "a", x: "0", y: "-10", d: "10" }] }),
        cut("s2", { width: text(width), height: "30", y: "5" }),
      );
    expect(said("narrow-slit", keyhole(KERF + HAIR))).toEqual([]);
    expect(said("narrow-slit", keyhole(KERF - HAIR))[0].found).toBeCloseTo(KERF - HAIR, 7);
  });

  test("is not a thin tongue of metal, whose sides look away from one another", () => {
    const tongue = outline(
      [-40, 0],
      [40, 0],
      [40, 20],
      [0.05, 20],
      [0.05, 40],
      [-0.05, 40],
      [-0.05, 20],
      [-40, 20],
    );
    expect(said("narrow-slit", tongue)).toEqual([]);
  });

  test("is not what a torn relief leaves, which has no width", () => {
    const torn = part(
      plate(),
      wall("s2", "s1.north", {
        ...{ span: "width", width: "40", at: "centre", leftRelief: "torn", rightRelief: "torn" },
      }),
    );
    expect(said("narrow-slit", torn)).toEqual([]);
  });
});

describe("pieces of outline", () => {
  const chamfered = (side: number) =>
    outline([0, 0], [80, 0], [80, 40 - side / Math.SQRT2], [80 - side / Math.SQRT2, 40], [0, 40]);

  test("that are shorter than the shop's machines like are told once, with the shortest", () => {
    isLimit("short-line", chamfered, 0.05);
    isLimit("short-line", chamfered, 0.5, { by: rules({ shortestLine: 0.5 }) });
    expect(said("short-line", chamfered(0.01))[0].message).toContain(
      "1 piece of outline is shorter than 0.05 mm",
    );
  });
});

describe("corners of the blank", () => {
  const inner = rules({ innerRadius: 2 }, { "sharp-inner": "warn" });
  const outer = rules({ outerRadius: 2 }, { "sharp-outer": "warn" });

  test("are asked for no radius by default", () => {
    const window = part(plate(), cut("s2", { width: "20", height: "20" }));
    expect(said("sharp-inner", window)).toEqual([]);
    expect(said("sharp-outer", window)).toEqual([]);
  });

  test("of openings and notches are inner ones", () => {
    const window = part(plate(), cut("s2", { width: "20", height: "20" }));
    expect(said("sharp-inner", window, inner)[0].message).toContain(
      "4 corners are sharper than radius 2 mm of openings and notches; there is one with no radius at all",
    );
    const notch = part(plate(), cut("s2", { width: "20", height: "20", y: "40" }));
    expect(said("sharp-inner", notch, inner)[0].message).toContain("2 corners are");
    const round = (r: number) => part(plate(), cut("s2", { form: "slot", width: "20", height: text(2 * r) }));
    isLimit("sharp-inner", round, 2, { by: inner });
  });

  test("of the outline are outer ones; a round hole has none, however small", () => {
    const holed = part(plate({ holes: [{ key: "a", x: "0", y: "0", d: "3" }] }));
    expect(said("sharp-inner", holed, inner)).toEqual([]);
    expect(said("sharp-outer", holed, outer)[0]).toMatchObject({
      found: 0,
      pieces: [{ kind: "plate", id: "s1" }],
      message: expect.stringContaining("4 corners are sharper than radius 2 mm of the outline"),
    });
  });

  test("where a bend begins in the same line are none", () => {
    // Plate, strip and leg are one rectangle in the flat.
    const folded = part(plate(), wall("s2", "s1.north"));
    expect(said("sharp-outer", folded, outer)[0].message).toContain("4 corners");
  });
});

describe("the sheets that a card keeps", () => {
  const on = (sheets: readonly object[], w: number, h: number, grain?: string): PartDocument => ({
    ...part(plate({ width: text(w), depth: text(h) })),
    stock: { card: cardWith({ sheets }), ...(grain ? { grain } : {}) },
  });
  const sheet = (length: number, width: number, lies = "along") => ({ length, width, grain: lies });
  const bare = rules({ sheetRim: 0 });

  test("are asked for nothing where there are none", () => {
    expect(said("sheet-size", on([], 19000, 19000))).toEqual([]);
    expect(said("sheet-size", part(plate({ width: "19000" })))).toEqual([]);
  });

  test("take a blank as large as they are, less the rim, and none that is larger", () => {
    const list = [sheet(500, 300), sheet(1000, 200)];
    const fits = (w: number, h: number, by = bare) => said("sheet-size", on(list, w, h), by).length === 0;
    expect(fits(500, 300)).toBe(true);
    expect(fits(300, 500)).toBe(true);
    expect(fits(500 + 1e-5, 300)).toBe(false);
    expect(fits(500, 300 + 1e-5)).toBe(false);
    expect(fits(1000, 200)).toBe(true);
    expect(fits(490, 290, rules({}))).toBe(true);
    expect(fits(490, 290 + 1e-5, rules({}))).toBe(false);
    expect(said("sheet-size", on(list, 600, 250))[0]).toMatchObject({
      level: "stop",
      message:
        "The blank, 600 mm × 250 mm, fits none of the sheets that are kept (500 mm × 300 mm, 1000 mm × 200 mm) with a rim of 5 mm all round. Part it with a Split, or add a larger sheet to the card.",
    });
  });

  test("take a long blank askew, just where a fine look at every turn finds room", () => {
    // A strip 520 long and 20 wide fits 500 × 300 only askew.
    const strip = (w: number, h: number) =>
      said("sheet-size", on([sheet(500, 300)], w, h), bare).length === 0;
    fc.assert(
      fc.property(spread(480, 600), spread(5, 120), (w, h) => {
        let room = Number.NEGATIVE_INFINITY;
        for (let i = 0; i <= 90_000; i++) {
          const a = toRadians(i / 1000);
          const [c, s] = [Math.cos(a), Math.sin(a)];
          room = Math.max(room, Math.min(500 - (w * c + h * s), 300 - (w * s + h * c)));
        }
        // Between two of the turns that were looked at there may be a little more room.
        if (Math.abs(room) < 0.02) return;
        expect(strip(w, h)).toBe(room > 0);
      }),
      { numRuns: Math.min(RUNS, 60) },
    );
  });

  test("lie so that the part's grain is theirs", () => {
    const fits = (list: readonly object[], w: number, h: number, grain: string) =>
      examinePart(on(list, w, h, grain), bare).findings.map((f) => f.rule);
    // The sheet is long along its grain: a blank that is long along X has its grain along X there.
    expect(fits([sheet(500, 300)], 450, 250, "x")).toEqual([]);
    expect(fits([sheet(500, 300)], 450, 250, "y")).toEqual(["grain"]);
    expect(fits([sheet(500, 300)], 250, 450, "y")).toEqual([]);
    expect(fits([sheet(500, 300, "across")], 450, 250, "y")).toEqual([]);
    expect(fits([sheet(500, 300, "across")], 450, 250, "x")).toEqual(["grain"]);
    expect(fits([sheet(500, 300, "none")], 450, 250, "y")).toEqual([]);
    expect(fits([sheet(500, 300)], 600, 250, "x")).toEqual(["sheet-size"]);
  });

  test("are counted for each sheet of a part by itself", () => {
    const two = part(
      plate({ width: "450", depth: "250" }),
      step("s2", "plate", { width: "450", depth: "250" }),
    );
    const document = { ...two, stock: { card: cardWith({ sheets: [sheet(500, 300)] }) } };
    expect(said("sheet-size", document, bare)).toEqual([]);
  });

  test("come with the card into the part, and back into a library that is read", () => {
    const made = on([sheet(500, 300)], 100, 100);
    expect((made.stock.card as { sheets: unknown }).sheets).toEqual([sheet(500, 300)]);
  });
});

describe("things found by where they lie", () => {
  test("are those whose boxes meet, each once", () => {
    const box = fc
      .record({ x: spread(-50, 50), y: spread(-50, 50), w: spread(0, 30), h: spread(0, 30) })
      .map(({ x, y, w, h }) => ({ box: { minX: x, minY: y, maxX: x + w, maxY: y + h } }));
    fc.assert(
      fc.property(fc.array(box, { maxLength: 60 }), box, (things, asked) => {
        const found = new NearCurves(things).near(asked.box);
        expect(new Set(found).size).toBe(found.length);
        expect(new Set(found)).toEqual(new Set(things.filter((t) => boundsMeet(t.box, asked.box))));
      }),
      { numRuns: RUNS },
    );
  });

  test("a hull holds all points, and turns left at each of its own", () => {
    const point = fc.record({ x: spread(-9, 9), y: spread(-9, 9) });
    fc.assert(
      fc.property(fc.array(point, { minLength: 3, maxLength: 40 }), (points) => {
        const hull = convexHull(points);
        hull.forEach((a, i) => {
          const b = hull[(i + 1) % hull.length];
          for (const p of points)
            expect((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)).toBeGreaterThan(-1e-9);
        });
      }),
      { numRuns: RUNS },
    );
  });
});
