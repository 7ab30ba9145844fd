import { sharpCorners } from "./blank-corners.ts";
import type { CheckRule } from "./rule.ts";

/** Outer corners that a hand can reach are rounded, where the shop asks for it. */
export const sharpOuterRule: CheckRule = (build, { values }) =>
  sharpCorners(build, false, values.outerRadius).map((f) => ({ ...f, level: "warn", rule: "sharp-outer" }));
