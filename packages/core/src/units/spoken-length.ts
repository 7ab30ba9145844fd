import { INCH, shortLength, type Units } from "./display.ts";
import { formatShort } from "./quantity.ts";

// Two characters that no text can have: Unicode keeps them for use within a program.
const [OPEN, CLOSE] = ["\uFDD0", "\uFDD1"];
const SPOKEN = new RegExp(`${OPEN}([^;${CLOSE}]*);(\\d+|area)${CLOSE}`, "g");

/**
 * A length (mm) within a message. It stays a number until the message is said in the units of a part by
 * `sayLengths`: what is told of a part in inches is not rounded to millimetres first.
 */
export const mm = (length: number, decimals = 3): string => `${OPEN}${length};${decimals}${CLOSE}`;

/** An area (mm²) within a message, likewise. */
export const mm2 = (area: number): string => `${OPEN}${area};area${CLOSE}`;

/** A message with its lengths said in the units of a part, each with its unit. */
export const sayLengths = (message: string, units: Units = "mm"): string =>
  message.replace(SPOKEN, (_all, length: string, decimals: string) =>
    decimals === "area"
      ? areaSaid(Number(length), units)
      : units === "mm"
        ? `${formatShort(Number(length), Number(decimals))} mm`
        : `${shortLength(Number(length), units)} in`,
  );

const areaSaid = (area: number, units: Units): string =>
  units === "mm" ? `${formatShort(area, 0)} mm²` : `${formatShort(area / INCH ** 2, 2)} in²`;
