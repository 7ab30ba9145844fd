import type { CheckRule } from "./rule.ts";

/** A bend beside metal that stays flat tears there when nothing relieves it. */
export const reliefRule: CheckRule = ({ sheet }) =>
  (sheet?.bends ?? []).flatMap((bend) =>
    bend.unrelieved.map((end) => ({
      level: "warn" as const,
      rule: "relief",
      message: `Bend ${bend.number} has metal beside its ${end} end and no relief there: it will tear. Choose torn, square or round-ended.`,
      step: bend.step,
      field: `${end}Relief`,
      part: bend.id,
    })),
  );
