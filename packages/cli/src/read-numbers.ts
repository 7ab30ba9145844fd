import { InvalidArgumentError } from "commander";

export function readWhole(text: string): number {
  const whole = Number(text);
  if (!(Number.isInteger(whole) && whole > 0))
    throw new InvalidArgumentError("It must be a whole number from 1.");
  return whole;
}

export function readSpacing(text: string): number {
  const length = Number(text);
  if (!(length >= 0 && length <= 10_000))
    throw new InvalidArgumentError("It must be a number of mm from 0 to 10000.");
  return length;
}

export function readShare(text: string): number {
  const share = Number(text);
  if (!(share >= 0 && share <= 1)) throw new InvalidArgumentError("It must be a number from 0 to 1.");
  return share;
}

/** How wide a picture may be, in dots: a wider one has no room in memory. */
const DOTS = { least: 16, most: 8000 };

export function readDots(text: string): number {
  const dots = Number(text);
  if (!(Number.isInteger(dots) && dots >= DOTS.least && dots <= DOTS.most))
    throw new InvalidArgumentError(`It must be a whole number from ${DOTS.least} to ${DOTS.most}.`);
  return dots;
}

/** How long something may take, s. */
export function readSeconds(text: string): number {
  const seconds = Number(text);
  if (!(seconds > 0 && seconds <= 86_400))
    throw new InvalidArgumentError("It must be a number of seconds from 0 to 86400.");
  return seconds;
}
