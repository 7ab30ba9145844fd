import { type Bend, bendsOf } from "../sheet/sheet.ts";
import { type CheckRule, named } from "./rule.ts";

/** Bends up and down: the sheet is turned over between them. A jog, whose two bends its tool makes at once, is none. */
export const bothWaysRule: CheckRule = ({ sheet, steps, stock }) => {
  const jogs = new Set(steps.filter((s) => s.work?.jog !== undefined).map((s) => s.id));
  const bends = bendsOf(sheet).filter((b) => !jogs.has(b.step) && b.angle > 1e-9);
  const up = bends.filter((b) => b.up);
  const down = bends.filter((b) => !b.up);
  if (up.length === 0 || down.length === 0) return [];
  const fewer = up.length < down.length ? up : down;
  // What lies on the die is the outside of the bend: side A of one that turns up.
  const pressed = stock?.visibleSide === "A" ? up : stock?.visibleSide === "B" ? down : [];
  const seen =
    pressed.length > 0
      ? ` Side ${stock?.visibleSide}, which is seen, lies on the die for ${calledBends(pressed)}.`
      : "";
  return [
    {
      level: "note" as const,
      rule: "both-ways",
      message: `${calledBends(fewer, true)} ${fewer.length === 1 ? "goes" : "go"} ${fewer === up ? "up" : "down"}, the others ${fewer === up ? "down" : "up"}: the sheet is turned over between them.${seen}`,
      pieces: fewer.map((b) => ({ kind: "bend" as const, id: b.id })),
    },
  ];
};

const calledBends = (bends: readonly Bend[], first = false): string =>
  `${first ? "B" : "b"}end${bends.length === 1 ? "" : "s"} ${named(bends.map((b) => b.number))}`;
