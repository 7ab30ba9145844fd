import type { Loop } from "../plane/loop.ts";
import { regionLoops } from "../plane/region.ts";
import { type Feature, type FeatureLook, featuresAlong } from "../sheet/feature.ts";
import { featuresOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import { shortLength, type Units } from "../units/display.ts";

/** Whether a loop is the one that an opening's key names: `hole:<row>`, `cut:<step>` or `opening:<edge>`. */
const isCalled = (loop: Loop, key: string): boolean => {
  const edge = key.startsWith("opening:") ? key.slice("opening:".length) : undefined;
  return loop.some(
    ({ name }) => name !== undefined && (name === edge || name === key || name === `hole:${key}`),
  );
};

/** The feature that an opening of a plate is, by the key that it is picked by; nothing where none made it. */
export function featureOfOpening(sheet: Sheet, plate: string, key: string): Feature | undefined {
  const regions = platesOf(sheet).find(({ id }) => id === plate)?.regions ?? [];
  const loop = regions.flatMap(regionLoops).find((l) => isCalled(l, key));
  return loop && featuresAlong(loop, featuresOf(sheet))[0];
}

/** What a feature measures and is for, as on a drawing: "⌀ 5.5, M5 clearance", "18 × 6". Lengths in the part's units. */
export function sayLook({ kind, size, thread, hardware }: FeatureLook, units: Units): string {
  const say = (v: number | undefined) => shortLength(v ?? 0, units);
  const measures = (): string => {
    switch (kind) {
      case "round":
        return `⌀ ${say(size.diameter)}`;
      case "flattened":
        return `⌀ ${say(size.diameter)}, ${say(size.across)} across`;
      case "keyhole":
        return `⌀ ${say(size.diameter)}, neck ${say(size.neck)} by ${say(size.reach)}`;
      case "polygon":
        return `${size.sides} sides, ${say(size.across)} across flats`;
      case "gusset":
        return `${say(size.width)} wide, ${say(size.reach)} deep`;
      default:
        return `${say(size.width)} × ${say(size.height)}${size.rounding ? `, corners ${say(size.rounding)}` : ""}`;
    }
  };
  const use = hardware
    ? `, for ${hardware.name}`
    : thread
      ? thread.of === "core"
        ? `, tap drill for ${thread.name}`
        : `, ${thread.name} clearance`
      : "";
  return `${measures()}${use}`;
}
