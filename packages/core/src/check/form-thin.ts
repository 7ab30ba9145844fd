import { thinnestShare } from "../forming/section.ts";
import { formedOf, platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** Metal that is stretched too far tears: how thin it is on the steepest slope of what is formed. */
export const formThinRule: CheckRule = ({ sheet }, { values }) => {
  const wanted = values.formThin * sheet!.t;
  const letters = new Map(platesOf(sheet).map((p) => [p.id, p.letter]));
  return formedOf(sheet).flatMap(({ shape, title, host, step, outline }): Finding[] => {
    const found = thinnestShare(shape) * sheet!.t;
    if (found >= wanted - AS_GOOD) return [];
    return [
      {
        level: "warn",
        rule: "form-thin",
        message: `The ${title.toLowerCase()} on plate ${letters.get(host)} is stretched to ${mm(found, 2)} where it is steepest, ${formatShort((100 * found) / sheet!.t, 0)} % of the sheet; the shop goes to ${mm(wanted, 2)}. Make it lower, or its slope wider.`,
        step,
        pieces: [{ kind: "plate", id: host }],
        at: outline[0].a,
        found,
        wanted,
      },
    ];
  });
};
