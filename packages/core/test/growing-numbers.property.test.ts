import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { growingFloats, growingWholes } from "../src/sheet/meshes/growing-numbers.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(223);

const numbers = fc.array(fc.integer({ min: 0, max: 2 ** 32 - 1 }), { maxLength: 400 });

describe("growing numbers", () => {
  for (const [kind, made] of [
    ["fractions", growingFloats],
    ["whole numbers", growingWholes],
  ] as const)
    test(`are what was put into them, in order: ${kind}`, () => {
      fc.assert(
        fc.property(numbers, (list) => {
          const share = kind === "fractions" ? 1 / 7 : 1;
          const growing = made();
          const plain = list.map((value) => value * share);
          for (const [i, value] of plain.entries()) expect(growing.push(value)).toBe(i);
          expect(growing.length).toBe(plain.length);
          expect([...growing.all()]).toEqual(plain);
          for (const [i, value] of plain.entries()) expect(growing.at(i)).toBe(value);
        }),
        { numRuns: casesOf(200) },
      );
    });

  test("given away are no more changed by what comes after", () => {
    const numbers = growingWholes();
    numbers.push(7);
    const taken = numbers.all();
    numbers.push(8);
    expect([...taken]).toEqual([7]);
    expect(taken.buffer.byteLength).toBe(4);
  });
});
