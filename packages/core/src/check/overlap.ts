import { regionArea } from "../plane/region.ts";
import { formatShort } from "../units/quantity.ts";
import type { CheckRule } from "./rule.ts";

/** Metal that would have to lie over metal in the flat: the blank cannot be cut. */
export const overlapRule: CheckRule = ({ blank }) =>
  (blank?.overlaps ?? []).map((region) => ({
    level: "stop",
    rule: "overlap",
    message: `The blank lies over itself on ${formatShort(regionArea(region), 1)} mm². Make a flange there shorter or narrower, or start its bend elsewhere.`,
    at: region.outer[0].a,
  }));
