import { bendsOf } from "../sheet/sheet.ts";
import { type CheckRule, joinRemarks } from "./rule.ts";

/** A bend beside metal that stays flat tears there when nothing relieves it. */
export const reliefRule: CheckRule = ({ sheet }) =>
  joinRemarks(
    (bendsOf(sheet) ?? []).flatMap((bend) =>
      bend.unrelieved.map((end) => ({
        bend: bend.number,
        level: "warn" as const,
        rule: "relief",
        one: ` has metal beside its ${end} end and no relief there: it will tear. Choose torn, square or round-ended.`,
        many: ` have metal beside their ${end} ends and no relief there: they will tear. Choose torn, square or round-ended.`,
        step: bend.step,
        field: `${end}Relief`,
        mend: {
          title: "Relieve it squarely",
          remedies: [{ do: "set" as const, step: bend.step, values: { [`${end}Relief`]: "square" } }],
        },
        pieces: [{ kind: "bend" as const, id: bend.id }],
      })),
    ),
  );
