import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { leastWidth } from "../src/check/small-opening.ts";
import {
  circleLoop,
  DEFAULT_RULES,
  examinePart,
  leastLeg,
  newPart,
  outerSetback,
  type PartDocument,
  pointAt,
  readRules,
  readRulesText,
  rectangleLoop,
  SHOP_RULES,
} from "../src/index.ts";
import type { Curve } from "../src/plane/curve.ts";
import { gapBetween } from "../src/plane/curve-gap.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { at, DIE, HAIR, isLimit, part, plate, R, rules, said, step, T, wall } from "./ruled-parts.ts";

sameCases(20261126);
const RUNS = casesOf(300);

describe("a leg that is too short for its die", () => {
  const least = leastLeg(DIE, Math.PI / 2)!;

  test("is told from the least that the die needs on", () => {
    isLimit("short-leg", (leg) => part(plate(), wall("s2", "s1.north", { length: String(leg) })), least);
    const [told] = said("short-leg", part(plate(), wall("s2", "s1.north", { length: "8" })));
    expect(told).toMatchObject({
      level: "warn",
      step: "s2",
      pieces: [
        { kind: "plate", id: "s2a" },
        { kind: "bend", id: "s2a" },
      ],
    });
    expect(told.message).toContain(`needs ${(Math.round(least * 1000) / 1000).toString()} mm`);
  });

  test("at an angle, from the outer mould point", () => {
    const sixty = leastLeg(DIE, Math.PI / 3)!;
    isLimit(
      "short-leg",
      (leg) => part(plate(), wall("s2", "s1.north", { length: String(leg), angle: "60" })),
      sixty,
    );
  });

  test("is so where an opening shortens it, although it is long by its number", () => {
    const hole = (d: number, y: number) =>
      part(plate(), wall("s2", "s1.north", { holes: [{ key: "a", x: "0", y: String(y), d: String(d) }] }));
    // Holes of a flange count from its outer mould point.
    isLimit("short-leg", (away) => hole(6, away + 3), least);
  });

  test("is so on the plate that the bend starts from", () => {
    isLimit(
      "short-leg",
      (leg) => part(plate({ depth: String(leg) }), wall("s2", "s1.north", { place: "outer-face" })),
      least,
    );
  });

  test("may have to be longer by what the shop says", () => {
    const long = part(plate(), wall("s2", "s1.north", { length: String(least + 1) }));
    expect(said("short-leg", long)).toEqual([]);
    expect(said("short-leg", long, rules({ legSpare: 1.5 }))[0].wanted).toBeCloseTo(least + 1.5, 9);
  });

  test("does not count a slot across the bend, nor where no die is known", () => {
    const slot = step("s3", "cut", {
      ...{ plate: at("s1"), form: "rectangle", width: "10", height: "6", x: "0", y: "38", turned: "0" },
    });
    expect(said("short-leg", part(plate(), wall("s2", "s1.north"), slot))).toEqual([]);
    const plain = {
      ...part(),
      stock: newPart("").stock,
      steps: [plate(), wall("s2", "s1.north", { length: "4" })],
    };
    expect(said("short-leg", plain)).toEqual([]);
  });

  test("between two bends is told once, of both", () => {
    const channel = (width: number) =>
      part(plate({ depth: String(width) }), wall("s2", "s1.north"), wall("s3", "s1.south"));
    // Each bend has the plate up to where the other begins.
    const setback = outerSetback({ t: T, r: R, angle: Math.PI / 2 })!;
    const wide = least + setback;
    expect(said("close-bends", channel(wide + HAIR))).toEqual([]);
    const found = said("close-bends", channel(wide - HAIR));
    expect(found.length).toBe(1);
    expect(found[0].found).toBeCloseTo(least - HAIR, 7);
    expect(found[0].pieces!.map((p) => p.id)).toEqual(["s1", "s2a", "s3a"]);
    expect(said("short-leg", channel(wide - HAIR))).toEqual([]);
  });
});

describe("an opening beside a bend", () => {
  const wanted = R + 2 * T;
  /** A hole of the plate whose rim is so far from where the north bend begins. */
  const beside = (away: number, d = 6): PartDocument => {
    const line = 40 - outerSetback({ t: T, r: R, angle: Math.PI / 2 })!;
    return part(
      plate({ holes: [{ key: "a", x: "0", y: String(line - away - d / 2), d: String(d) }] }),
      wall("s2", "s1.north"),
    );
  };

  test("is told from the distance on that the rule gives", () => {
    isLimit("opening-to-bend", (away) => beside(away), wanted);
    expect(said("opening-to-bend", beside(1))[0].message).toMatch(
      /^The hole ⌀ 6 mm on plate A is 1 mm from the tangent line of bend 1; it needs 5 mm .* Move it 4 mm away/,
    );
  });

  test("needs more where it is long", () => {
    expect(said("opening-to-bend", beside(wanted + HAIR, 25))).toEqual([]);
    expect(said("opening-to-bend", beside(wanted + HAIR, 25 + 1e-5))[0].wanted).toBeCloseTo(R + 2.5 * T, 9);
  });

  test("goes by the shop's own numbers, and not at all where its level is off", () => {
    expect(said("opening-to-bend", beside(4.99), rules({ openingToBend: 1 }))).toEqual([]);
    const off = { ...DEFAULT_RULES, levels: { ...DEFAULT_RULES.levels, "opening-to-bend": "off" as const } };
    expect(said("opening-to-bend", beside(1), off)).toEqual([]);
    const stop = {
      ...DEFAULT_RULES,
      levels: { ...DEFAULT_RULES.levels, "opening-to-bend": "stop" as const },
    };
    expect(said("opening-to-bend", beside(1), stop)[0].level).toBe("stop");
  });

  test("beyond the bend's ends is none of its business", () => {
    const line = 40 - outerSetback({ t: T, r: R, angle: Math.PI / 2 })!;
    const hole = { key: "a", x: "50", y: String(line - 4), d: "6" };
    const partly = { span: "width", width: "40", at: "left", shift: "5" };
    expect(said("opening-to-bend", part(plate({ holes: [hole] }), wall("s2", "s1.north", partly)))).toEqual(
      [],
    );
  });
});

describe("what cannot be cut clean", () => {
  const holes = (...list: readonly (readonly [number, number, number])[]) =>
    part(
      plate({
        holes: list.map(([x, y, d], i) => ({ key: `h${i}`, x: String(x), y: String(y), d: String(d) })),
      }),
    );

  test("is an opening that is narrower than the sheet is thick", () => {
    isLimit("small-opening", (d) => holes([0, 0, d]), T);
    const slot = (width: number) =>
      part(
        plate(),
        step("s2", "cut", {
          plate: at("s1"),
          form: "rectangle",
          width: "20",
          height: String(width),
          turned: "33",
        }),
      );
    isLimit("small-opening", slot, T);
  });

  test("is a web between two openings, or to the edge", () => {
    isLimit("thin-web", (web) => holes([0, 0, 10], [0, 10 + web, 10]), T);
    isLimit("thin-web", (web) => holes([60 - 5 - web, 0, 10]), T);
    expect(said("thin-web", holes([0, 0, 10], [0, 10.5, 10]))[0].message).toMatch(
      /^Between the hole ⌀ 10 mm and another on plate A stand 0\.5 mm; the shop leaves 1\.5 mm/,
    );
  });

  test("has its least width measured across its narrowest way, whichever way it lies", () => {
    expect(leastWidth(rectangleLoop(0, 0, 20, 3))).toBeCloseTo(3, 9);
    expect(leastWidth(circleLoop({ x: 5, y: 2 }, 4))).toBeCloseTo(8, 9);
  });

  test("has the gap between any two curves that a fine look at both finds", () => {
    const point = fc.record({ x: spread(-10, 10), y: spread(-10, 10) });
    const curve: fc.Arbitrary<Curve> = fc.oneof(
      fc.record({ a: point, b: point }).map(({ a, b }) => ({ kind: "line" as const, a, b })),
      fc
        .record({ c: point, r: spread(0.5, 6), from: spread(0, 6), turn: spread(0.2, 6), ccw: fc.boolean() })
        .map(({ c, r, from, turn, ccw }) => {
          const on = (angle: number) => ({ x: c.x + r * Math.cos(angle), y: c.y + r * Math.sin(angle) });
          return { kind: "arc" as const, a: on(from), b: on(from + (ccw ? turn : -turn)), c, r, ccw };
        }),
    );
    fc.assert(
      fc.property(curve, curve, (p, q) => {
        const N = 160;
        const [ps, qs] = [p, q].map((c) => Array.from({ length: N + 1 }, (_, i) => pointAt(c, i / N)));
        let least = Infinity;
        for (const a of ps) for (const b of qs) least = Math.min(least, Math.hypot(a.x - b.x, a.y - b.y));
        // Where they cross nothing is to be told of a gap.
        if (least < 0.5) return;
        const { gap } = gapBetween(p, q);
        expect(gap).toBeLessThanOrEqual(least + 1e-9);
        expect(gap).toBeGreaterThan(least - 0.02);
      }),
      { numRuns: RUNS },
    );
  });
});

describe("what the machines cannot do", () => {
  test("is a bend that is longer than the brake", () => {
    const long = (width: number) => part(plate({ width: String(width) }), wall("s2", "s1.north"));
    expect(said("long-bend", long(3000))).toEqual([]);
    const [told] = said("long-bend", long(3000 + HAIR));
    expect(told).toMatchObject({ level: "stop", found: expect.closeTo(3000 + HAIR, 7), wanted: 3000 });
  });

  test("is a bend that takes more than the brake gives", () => {
    const document = part(plate({ width: "2000" }), wall("s2", "s1.north"));
    const { total } = examinePart(document).bends[0].force!;
    expect(said("brake-force", document, rules({ brakeForce: total }))).toEqual([]);
    expect(said("brake-force", document, rules({ brakeForce: total - HAIR }))[0]).toMatchObject({
      level: "stop",
      found: expect.closeTo(total, 9),
    });
  });

  test("is a part that one person does not lift: a note", () => {
    const { mass } = examinePart(part(plate())).folded!;
    expect(said("mass", part(plate()), rules({ mostMass: mass }))).toEqual([]);
    expect(said("mass", part(plate()), rules({ mostMass: mass - HAIR }))[0]).toMatchObject({ level: "note" });
  });
});

describe("a document of shop rules", () => {
  const base = { format: "hillcrest-rules", version: 1 };
  const problems = (document: unknown) => {
    const read = readRules(document);
    return read.ok ? [] : read.error.map((p) => `${p.path} ${p.message}`);
  };

  test("says what differs, and the rest is as by default", () => {
    const read = readRules({
      ...base,
      name: "Our brake",
      values: { brakeLength: 2050 },
      levels: { mass: "off" },
    });
    expect(read).toEqual({
      ok: true,
      value: {
        values: { ...DEFAULT_RULES.values, brakeLength: 2050 },
        levels: { ...DEFAULT_RULES.levels, mass: "off" },
      },
    });
  });

  test("says yes or no where a rule asks for that", () => {
    const read = readRules({ ...base, values: { noClosedHems: true, noOpenHems: false } });
    expect(read.ok && [read.value.values.noClosedHems, read.value.values.noOpenHems]).toEqual([1, 0]);
  });

  test.each<[unknown, string]>([
    [
      { ...base, values: { brakeLength: 0 } },
      "/values/brakeLength Length of the brake: 0 mm must be above 0.",
    ],
    [{ ...base, values: { leastWeb: -1 } }, "/values/leastWeb Least width: -1 × t is below 0."],
    [
      { ...base, values: { leastWeb: 1e16 } },
      "/values/leastWeb Least width: 10000000000000000 × t is more than 100",
    ],
    [{ ...base, values: { leastWeb: "2" } }, '/values/leastWeb Least width: "2" is not a number (× t).'],
    [{ ...base, values: { web: 1 } }, "/values/web There is no such value. There are: legSpare,"],
    [{ ...base, levels: { mass: "loud" } }, '/levels/mass "loud" is not one of off, note, warn, stop.'],
    [{ ...base, levels: { web: "off" } }, "/levels/web There is no such rule. There are: short-leg,"],
    [
      { ...base, version: 9 },
      "/version Version 9 is not one that this program reads (1). Use a later program.",
    ],
    [
      { ...base, values: { noRolledHems: 1 } },
      "/values/noRolledHems No rolled hems: 1 is neither true nor false.",
    ],
    [{ ...base, values: { mostSlant: 91 } }, "/values/mostSlant Off square by at most: 91 ° is more than 90"],
    [{ ...base, rules: [] }, "/rules This is nothing that shop rules say."],
    [{ format: "hillcrest-part" }, "/format This is no set of shop rules"],
    [[], "/format This is no set of shop rules"],
    [null, "/format This is no set of shop rules"],
    [{ ...base, values: [] }, '/values "values" must be an object.'],
  ])("%j is refused with its place and what would work", (document, message) => {
    expect(problems(document).length).toBe(1);
    expect(problems(document)[0]).toContain(message);
  });

  test("that is no JSON names its line", () => {
    const read = readRulesText('{\n  "format": }');
    expect(read.ok ? "" : read.error[0].message).toContain("Line 2");
  });

  test("has for every value a default within its limits, and a source", () => {
    for (const { id, about, values } of SHOP_RULES) {
      expect(about.length).toBeGreaterThan(20);
      for (const v of values) {
        expect(v.source.length, `${id} ${v.key}`).toBeGreaterThan(10);
        expect(problems({ ...base, values: { [v.key]: v.kind === "yes" ? false : v.default } })).toEqual([]);
      }
    }
  });
});
