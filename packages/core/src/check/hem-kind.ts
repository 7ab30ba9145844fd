import { bendsOf } from "../sheet/sheet.ts";
import type { CheckRule } from "./rule.ts";

const FORMS: Readonly<Record<string, string>> = {
  closed: "noClosedHems",
  open: "noOpenHems",
  teardrop: "noTeardropHems",
  rolled: "noRolledHems",
};

/** A hem of a form for which the shop has no tools. */
export const hemKindRule: CheckRule = ({ sheet, steps }, { values }) =>
  steps.flatMap(({ id, work }) => {
    const form = work?.hem;
    if (form === undefined || !values[FORMS[form]]) return [];
    const can = Object.keys(FORMS).filter((f) => !values[FORMS[f]]);
    const other = can.length > 0 ? `Take another form: ${can.join(", ")}.` : "Have it made elsewhere.";
    return [
      {
        level: "stop" as const,
        rule: "hem-kind",
        message: `The shop makes no ${form} hems. ${other}`,
        step: id,
        field: work?.field,
        pieces: bendsOf(sheet).flatMap((b) => (b.step === id ? [{ kind: "bend" as const, id: b.id }] : [])),
      },
    ];
  });
