import { addStep, changeStep, freshStepId, type PartDocument } from "@hillcrest/core";

/** A bend change as the study asks for it: the last one for that bend is changed, or a new one is added. */
export function withBendChange(
  document: PartDocument,
  bend: string,
  change: Readonly<Record<string, unknown>>,
): { document: PartDocument; step: string } {
  const last = document.steps.findLast((s) => {
    const picks = (s.bends ?? []) as readonly { at: string }[];
    return s.kind === "bend" && picks.length === 1 && picks[0].at === bend;
  });
  if (last) {
    const lengths = change.k === undefined ? {} : { allowance: "", deduction: "" };
    return { document: changeStep(document, last.id, { ...lengths, ...change }), step: last.id };
  }
  const step = freshStepId(document);
  const bends = [{ key: "a", at: bend }];
  return { document: addStep(document, { id: step, kind: "bend", bends, ...change }), step };
}
