import { Kept } from "../kept.ts";
import type { PartBuild } from "../part/build.ts";
import { curvesBounds } from "../plane/curve.ts";
import { asCircle, type Loop } from "../plane/loop.ts";
import { mm } from "../units/spoken-length.ts";

/** Closer than this to a limit a measure is as good as it, mm. */
export const AS_GOOD = 1e-7;

/** "The hole ⌀ 6 mm" or "The opening of 20 mm by 8.5 mm", by what it measures. */
export function calledOpening(loop: Loop): string {
  const circle = asCircle(loop);
  if (circle) return `The hole ⌀ ${mm(2 * circle.r)}`;
  const { minX, maxX, minY, maxY } = curvesBounds(loop);
  return `The opening of ${mm(maxX - minX)} by ${mm(maxY - minY)}`;
}

const stepIds = new Kept((steps: PartBuild["steps"]) => new Set(steps.map((s) => s.id)));

/**
 * The step that cut an opening: its borders are named after it (`s4-west`, `cut:s4`), with what copied them behind.
 * Otherwise, as for the round holes of a plate's own table, `otherwise`.
 */
export function stepOfOpening({ steps }: PartBuild, loop: Loop, otherwise: string): string {
  const known = stepIds.of(steps);
  for (const { name } of loop) {
    const parts = (name ?? "").replace(/^cut:/, "").split("-");
    for (let n = parts.length; n > 0; n--) {
      const id = parts.slice(0, n).join("-");
      if (known.has(id)) return id;
    }
  }
  return otherwise;
}
