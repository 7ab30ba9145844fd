import type { FieldValues, PickEntry } from "../fields/field.ts";
import type { StepContext } from "./step-kind.ts";

/**
 * Does the work of a step for each thing that is picked, with the values that this one has of its own. What is wrong with
 * one is told, and the others are done.
 */
export function forEachPick(
  picks: readonly PickEntry[],
  values: FieldValues,
  { valuesWith, refuse }: StepContext,
  work: (pick: PickEntry, own: FieldValues) => void,
): void {
  for (const pick of picks) {
    const own = pick.own ? valuesWith(pick.own) : values;
    const [problem] = own.problems;
    if (problem) refuse(problem.field, problem.message);
    else work(pick, own);
  }
}
