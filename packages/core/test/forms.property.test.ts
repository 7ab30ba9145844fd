import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  evenState,
  examinePart,
  foldMesh,
  foldSheet,
  formedOf,
  isClosedManifold,
  meshSheet,
  meshVolume,
  type StepDocument,
  tileSheet,
  valueKey,
} from "../src/index.ts";
import { OWN_FORMS } from "../src/stock/forms/own-forms.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261127);
const RUNS = casesOf(150);

/** A form with its values off those that it begins with, somewhere on a plate with a leg. */
const anyForm = fc
  .record({
    item: fc.constantFrom(...OWN_FORMS),
    scales: fc.array(spread(0.4, 2), { minLength: 6, maxLength: 6 }),
    x: spread(-60, 60),
    y: spread(-40, 40),
    turned: spread(0, 360),
    turn: fc.constantFrom("up", "down"),
    more: fc.constantFrom(
      {},
      { arranged: "row", count: "3", pitch: "45" },
      { arranged: "round", count: "4", ring: "35" },
    ),
  })
  .map(({ item, scales, x, y, turned, turn, more }): StepDocument => {
    const plain = item.values.flatMap((v, i): [string, string][] =>
      /^[\d.]+$/.test(v.value) && v.measures === "length"
        ? [[valueKey(item, v.name), String(Number(v.value) * scales[i % 6])]]
        : [],
    );
    const place = { x: String(x), y: String(y), turned: String(turned), turn };
    return {
      id: "s2",
      kind: "form",
      shape: item.id,
      plate: [{ key: "a", at: "s1" }],
      ...place,
      ...more,
      ...Object.fromEntries(plain),
    };
  });

const leg: StepDocument = {
  id: "s3",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "25",
  angle: "70",
};
const mirror: StepDocument = {
  ...{ id: "s4", kind: "mirror", what: "steps", steps: [{ key: "a", at: "s2" }], about: "along" },
  plate: [{ key: "a", at: "s1" }],
};

describe("any form with any values", () => {
  test("is one closed body with its part and weighs what is said, or is told why it is not there", () => {
    let formed = 0;
    fc.assert(
      fc.property(anyForm, fc.boolean(), (form, mirrored) => {
        const build = examinePart(part(plate("160", "120"), form, leg, ...(mirrored ? [mirror] : [])));
        const sheet = build.sheet!;
        const there = formedOf(sheet).length;
        formed += there;
        if (there === 0) expect(build.findings.some((f) => f.step === "s2")).toBe(true);
        for (const share of [1, 0.4]) {
          const mesh = foldMesh(meshSheet(sheet, 0.02), foldSheet(sheet, evenState(sheet, share)));
          expect(isClosedManifold(mesh)).toBe(true);
          if (share === 1) expect(meshVolume(mesh) / build.folded!.volume).toBeCloseTo(1, 3);
          expect(mesh.positions.every(Number.isFinite)).toBe(true);
        }
      }),
      { numRuns: RUNS },
    );
    expect(formed).toBeGreaterThan(RUNS / 3);
  });
});

describe("a field of forms", () => {
  const field = (n: number) => {
    const side = Math.round(Math.sqrt(n));
    return part(plate(String(side * 14 + 10), String(side * 14 + 10)), {
      ...{ id: "s2", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], arranged: "grid" },
      ...{ count: String(side), pitch: "14", rows: String(side), rowPitch: "14" },
    });
  };

  test("costs no more than its number: built, checked and drawn", () => {
    expectGrowth(1.45, [49, 196, 784, 1600], (n) => () => {
      const build = examinePart(field(n));
      expect(formedOf(build.sheet).length).toBe(n);
      tileSheet(build.sheet!, 0.1);
    });
  });
});
