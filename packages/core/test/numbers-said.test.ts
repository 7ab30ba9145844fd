import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { formatFixed, formatShort, toDegrees, toRadians } from "../src/units/quantity.ts";

describe("a number that is said", () => {
  const values = fc.oneof(
    fc.double({ min: -1e6, max: 1e6, noNaN: true }),
    fc.double({ min: -1e-3, max: 1e-3, noNaN: true }),
    fc.integer({ min: -1e6, max: 1e6 }),
  );

  test("is the number, to half of its last place, with no nought at its end and none below nought", () => {
    fc.assert(
      fc.property(values, fc.integer({ min: 0, max: 6 }), (value, decimals) => {
        const text = formatShort(value, decimals);
        expect(text).toMatch(/^(0|-?\d+(\.\d*[1-9])?)$/);
        expect(Math.abs(Number(text) - value)).toBeLessThanOrEqual(0.5 * 10 ** -decimals * (1 + 1e-9));
        const fixed = formatFixed(value, decimals);
        expect(Number(fixed)).toBe(Number(text));
        expect(fixed.split(".")[1]?.length ?? 0).toBe(decimals);
        expect(fixed).not.toMatch(/^-0\.?0*$/);
      }),
    );
  });

  test("is the angle that was typed, whatever turning it into radians has left of it", () => {
    for (const typed of [
      "90",
      "0.1",
      "359.999",
      "123456789",
      "1000000000000",
      "10000000000000000",
      "-70000000000000000",
    ])
      expect(formatShort(toDegrees(toRadians(Number(typed))))).toBe(typed);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 0, max: 17 }), (digits, noughts) => {
        const typed = `${digits}${"0".repeat(noughts)}`;
        expect(formatShort(toDegrees(toRadians(Number(typed))))).toBe(typed);
      }),
    );
  });
});
