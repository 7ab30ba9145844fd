import type { CheckRule } from "../../src/check/rule.ts";

/** A rule that there is not: a blank of more than a hundred openings is told. A shop has nothing to set of it. */
export const fewOpeningsRule: CheckRule = ({ blank }) =>
  blank && blank.openings.length > 100
    ? [{ level: "stop", rule: "few-openings", message: `${blank.openings.length} openings are too many.` }]
    : [];
