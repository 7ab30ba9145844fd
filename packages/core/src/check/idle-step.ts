import type { CheckRule } from "./rule.ts";

/** A step after which the part is as before it. */
export const idleStepRule: CheckRule = ({ steps }) =>
  steps.flatMap(({ id, idle }) =>
    idle
      ? [
          {
            level: "note" as const,
            rule: "idle-step",
            message: "This step changes nothing. Give it something to do, or leave it out.",
            step: id,
            mend: { title: "Leave it out", remedies: [{ do: "remove" as const, step: id }] },
          },
        ]
      : [],
  );
