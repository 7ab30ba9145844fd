import { formatFixed, formatShort, toDegrees } from "../units/quantity.ts";
import type { PartBuild } from "./build.ts";

/** What of a blank a file was written from, small enough to be kept with it. Lengths in mm, angles in degrees. */
export interface BlankFacts {
  readonly width: number;
  readonly height: number;
  readonly area: number;
  readonly cutting: number;
  readonly openings: number;
  readonly thickness: number;
  readonly bends: readonly {
    readonly number: number;
    readonly up: boolean;
    readonly angle: number;
    readonly radius: number;
    readonly length: number;
  }[];
}

/** What a blank is, in numbers; nothing while there is none. */
export function blankFacts({ blank, bends, stock }: PartBuild): BlankFacts | undefined {
  if (!blank) return undefined;
  return {
    width: blank.width,
    height: blank.height,
    area: blank.area,
    cutting: blank.lengths.cutting,
    openings: blank.openings.length,
    thickness: stock?.thickness ?? 0,
    bends: bends.map((b) => ({
      number: b.number,
      up: b.up,
      angle: toDegrees(b.angle),
      radius: b.radius,
      length: b.length,
    })),
  };
}

const differ = (a: number, b: number, by = 1e-6): boolean => Math.abs(a - b) > by;
const size = ({ width, height }: BlankFacts): string =>
  `${formatFixed(width, 2)} × ${formatFixed(height, 2)} mm`;

/** What has changed from one blank to another, each in a few words; nothing where they are the same. */
export function factChanges(before: BlankFacts, now: BlankFacts): string[] {
  const said: string[] = [];
  if (differ(before.width, now.width) || differ(before.height, now.height))
    said.push(`blank ${size(before)} → ${size(now)}`);
  if (differ(before.thickness, now.thickness))
    said.push(`thickness ${formatShort(before.thickness, 3)} → ${formatShort(now.thickness, 3)} mm`);
  if (before.openings !== now.openings) said.push(`openings ${before.openings} → ${now.openings}`);
  if (before.bends.length !== now.bends.length)
    said.push(`bends ${before.bends.length} → ${now.bends.length}`);
  const had = new Map(before.bends.map((b) => [b.number, b]));
  for (const b of now.bends) {
    const was = had.get(b.number);
    if (!was) continue;
    const other = [
      ...(was.up === b.up ? [] : [b.up ? "up" : "down"]),
      ...(differ(was.angle, b.angle) ? [`${formatShort(was.angle, 3)}° → ${formatShort(b.angle, 3)}°`] : []),
      ...(differ(was.radius, b.radius)
        ? [`radius ${formatShort(was.radius, 3)} → ${formatShort(b.radius, 3)}`]
        : []),
      ...(differ(was.length, b.length, 1e-4)
        ? [`length ${formatShort(was.length, 2)} → ${formatShort(b.length, 2)}`]
        : []),
    ];
    if (other.length > 0) said.push(`bend ${b.number}: ${other.join(", ")}`);
  }
  // The outline may be another although its size is the same.
  if (said.length === 0 && differ(before.area, now.area, 1e-4))
    said.push(`area ${formatFixed(before.area, 2)} → ${formatFixed(now.area, 2)} mm²`);
  if (said.length === 0 && differ(before.cutting, now.cutting, 1e-4))
    said.push(`cutting length ${formatFixed(before.cutting, 2)} → ${formatFixed(now.cutting, 2)} mm`);
  return said;
}
