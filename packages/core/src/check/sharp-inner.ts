import { sharpCorners } from "./blank-corners.ts";
import type { CheckRule } from "./rule.ts";

/** Inner corners crack and catch, and a tool of some radius cannot make them. */
export const sharpInnerRule: CheckRule = (build, { values }) =>
  sharpCorners(build, true, values.innerRadius).map((f) => ({ ...f, level: "note", rule: "sharp-inner" }));
