import type { BendRow } from "../part/build.ts";
import { formatFixed, toDegrees } from "../units/quantity.ts";
import { type CheckRule, named } from "./rule.ts";

/**
 * Bends to both sides, of which one up and one down are alike in length, angle and radius: bent the wrong way round the
 * part comes out as its mirror image, and nothing shows it on the brake. Where the part says which of its sides is
 * seen, it is also told which bends press that side into the die. A jog, whose two bends its tool makes at once, is
 * left out.
 */
export const bothWaysRule: CheckRule = ({ bends, steps, stock }) => {
  const jogs = new Set(steps.filter((s) => s.work?.jog !== undefined).map((s) => s.id));
  const asked = bends.filter((b) => !jogs.has(b.step) && b.angle > 1e-9);
  const [up, down] = [asked.filter((b) => b.up), asked.filter((b) => !b.up)];
  if (up.length === 0 || down.length === 0) return [];
  const [mirrored, pressed] = [alike(up, down), pressedOn(stock?.visibleSide, up, down)];
  const told = mirrored.length > 0 ? mirrored : pressed;
  if (told.length === 0) return [];
  const ups = told.filter((b) => b.up);
  const downs = told.filter((b) => !b.up);
  const handed =
    mirrored.length > 0
      ? `${called(ups, true)} up and ${called(downs)} down, alike in length, angle and radius: bent the other way round the part is its mirror image. Mark which side is up.`
      : "The sheet is turned over between bends up and bends down.";
  const seen =
    pressed.length > 0
      ? ` Side ${stock?.visibleSide}, which is seen, lies on the die for ${called(pressed)}: put a film or a soft insert there.`
      : "";
  return [
    {
      level: "note" as const,
      rule: "both-ways",
      message: handed + seen,
      pieces: told.map(({ id }) => ({ kind: "bend" as const, id })),
    },
  ];
};

/** What lies on the die is the outside of the bend: side A of one that turns up. */
const pressedOn = (side: "A" | "B" | undefined, up: readonly BendRow[], down: readonly BendRow[]) =>
  side === "A" ? up : side === "B" ? down : [];

/** The bends up and down that have one like them on the other side. */
function alike(up: readonly BendRow[], down: readonly BendRow[]): BendRow[] {
  const key = ({ length, angle, radius }: BendRow) =>
    [length, toDegrees(angle), radius].map((v) => formatFixed(v, 2)).join(" ");
  const keysOf = (list: readonly BendRow[]) => new Set(list.map(key));
  const [ups, downs] = [keysOf(up), keysOf(down)];
  return [...up.filter((b) => downs.has(key(b))), ...down.filter((b) => ups.has(key(b)))];
}

const called = (bends: readonly BendRow[], first = false): string =>
  `${first ? "B" : "b"}end${bends.length === 1 ? "" : "s"} ${named(bends.map((b) => b.number))}`;
