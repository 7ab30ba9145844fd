import { freshStepId, lastStepOf, type PartCommand, type PartDocument, picksOf } from "@hillcrest/core";

/** The command for a bend change as the study asks for it: the last one for that bend is changed, or a new one is added. */
export function bendChange(
  document: PartDocument,
  bend: string,
  change: Readonly<Record<string, unknown>>,
): { command: PartCommand; step: string } {
  const last = lastStepOf(document, "bend", (s) => {
    const picks = picksOf(s, "bends");
    return picks.length === 1 && picks[0].at === bend;
  });
  if (last) {
    const lengths = change.k === undefined ? {} : { allowance: "", deduction: "" };
    return { command: { do: "set", step: last.id, values: { ...lengths, ...change } }, step: last.id };
  }
  const step = freshStepId(document);
  const bends = [{ key: "a", at: bend }];
  return { command: { do: "add", step: { id: step, kind: "bend", bends, ...change } }, step };
}
