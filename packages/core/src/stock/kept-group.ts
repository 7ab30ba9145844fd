import { isPlain, type Plain, type Say } from "../fields/checking.ts";

/** Steps that a shop keeps to put them into other parts, with the named values and outlines that they use. */
export interface KeptGroup {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  /** As a part has them; what they stand on outside of the group is picked anew where they are put. */
  readonly steps: readonly Plain[];
  readonly variables: readonly Plain[];
  readonly outlines: readonly Plain[];
}

/** A group may have this many steps. */
export const MOST_GROUPED = 200;
const MOST_CARRIED = 200;

/**
 * What is wrong with a group as a list of records. What its steps say is read with the part that they are put into: a
 * library knows no kinds of steps.
 */
export function checkGroup(value: Plain, path: string, say: Say): void {
  const { steps, variables, outlines } = value;
  if (!Array.isArray(steps) || steps.length === 0 || steps.length > MOST_GROUPED)
    say(`${path}/steps`, `"steps" must be a list of 1 to ${MOST_GROUPED} steps.`);
  else
    steps.forEach((step: unknown, i) => {
      if (!isPlain(step) || typeof step.id !== "string" || typeof step.kind !== "string")
        say(`${path}/steps/${i}`, `Step ${i + 1} must be an object with an "id" and a "kind".`);
    });
  for (const [key, list, named] of [
    ["variables", variables, "name"],
    ["outlines", outlines, "key"],
  ] as const) {
    const fits =
      Array.isArray(list) &&
      list.length <= MOST_CARRIED &&
      list.every((e: unknown) => isPlain(e) && typeof e[named] === "string");
    if (!fits)
      say(`${path}/${key}`, `"${key}" must be a list of at most ${MOST_CARRIED}, each with its ${named}.`);
  }
}
