import { loopArea } from "../plane/loop.ts";
import type { FormedMetal } from "./form-surface.ts";
import { sectionPlaces } from "./section.ts";

/** How fine a section is summed, mm. */
const FINE = 1e-6;

/** Volume of a round shape by its section (Pappus): that below side B less that below side A. */
export function roundVolume({ outline, shape }: FormedMetal, t: number): number {
  const first = outline[0];
  if (first.kind !== "arc") return loopArea(outline) * t;
  const places = sectionPlaces(shape, t, FINE);
  const below = (at: readonly (readonly [number, number])[]) => {
    let sum = 0;
    for (let i = 0; i + 1 < at.length; i++) {
      const [[p, z], [q, y]] = [at[i], at[i + 1]];
      const [r, s] = [first.r - p, first.r - q];
      // Between two circles on a cone: ∫ 2π ρ z dρ in closed form.
      sum += (Math.PI / 3) * (r - s) * (z * (2 * r + s) + y * (r + 2 * s));
    }
    return sum;
  };
  const last = places[places.length - 1];
  const inside = first.r - last.inA;
  const middle = shape.open ? 0 : Math.PI * inside ** 2 * (last.upB - last.upA);
  const sideA = places.map((s) => [s.inA, s.upA] as const);
  // The rim leads from the end of side B to that of side A.
  const sideB = [...places.map((s) => [s.inB, s.upB] as const), [last.inA, last.upB] as const];
  return below(sideB) - below(sideA) + middle;
}

/** Volume of the metal of a formed shape, mm³: of a round one by its section, of a stretched one that of its zone. */
export const formedVolume = (metal: FormedMetal, t: number): number =>
  metal.shape.b ? roundVolume(metal, t) : loopArea(metal.outline) * t;
