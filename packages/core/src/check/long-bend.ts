import { dot, subtract } from "../plane/point.ts";
import { bendsOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import type { CheckRule } from "./rule.ts";

/** A bend must fit between the uprights of the brake: from the first metal on its line to the last. */
export const longBendRule: CheckRule = ({ sheet, blank }, { values }) =>
  bendsOf(sheet).flatMap((bend, i) => {
    const places = blank!.centreLines[i].pieces
      .flatMap(({ a, b }) => [a, b])
      .map((p) => dot(subtract(p, bend.origin), bend.axis));
    const found = places.length === 0 ? 0 : Math.max(...places) - Math.min(...places);
    const wanted = values.brakeLength;
    if (found <= wanted + 1e-7) return [];
    return [
      {
        level: "stop" as const,
        rule: "long-bend",
        message: `Bend ${bend.number} is ${mm(found)} long; the brake takes ${mm(wanted)}. Part the sheet, or have it bent elsewhere.`,
        step: bend.step,
        pieces: [{ kind: "bend" as const, id: bend.id }],
        found,
        wanted,
      },
    ];
  });
