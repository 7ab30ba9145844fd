import { curvesBounds } from "../plane/curve.ts";
import type { Loop } from "../plane/loop.ts";
import { roundOf } from "../sheet/feature.ts";
import { featuresOf, type Sheet } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";

/** Closer than this to a limit a measure is as good as it, mm. */
export const AS_GOOD = 1e-7;

/** "The hole ⌀ 6 mm" or "The opening of 20 mm by 8.5 mm", by what it measures. */
export function calledOpening(sheet: Sheet | undefined, loop: Loop): string {
  const round = roundOf(loop, featuresOf(sheet));
  if (round) return `The hole ⌀ ${mm(2 * round.r)}`;
  const { minX, maxX, minY, maxY } = curvesBounds(loop);
  return `The opening of ${mm(maxX - minX)} by ${mm(maxY - minY)}`;
}
