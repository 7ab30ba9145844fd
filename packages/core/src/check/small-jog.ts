import { bendsOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** A jog that steps by less than its tool does. */
export const smallJogRule: CheckRule = ({ sheet, steps }, { values }) => {
  const wanted = values.leastJog * sheet!.t;
  return steps.flatMap(({ id, work }) => {
    const found = work?.jog;
    if (found === undefined || found >= wanted - AS_GOOD) return [];
    return [
      {
        level: "warn" as const,
        rule: "small-jog",
        message: `The jog steps by ${mm(found)}; the tool makes ${mm(wanted)} and more. Make it ${mm(wanted - found)} higher.`,
        step: id,
        field: work!.field,
        pieces: bendsOf(sheet).flatMap((b) => (b.step === id ? [{ kind: "bend" as const, id: b.id }] : [])),
        found,
        wanted,
        mend: {
          title: `Make it ${mm(wanted - found)} higher`,
          remedies: [{ do: "longer" as const, step: id, field: work!.field, by: wanted - found }],
        },
      },
    ];
  });
};
