import type { Loop } from "../plane/loop.ts";
import { type Feature, featuresAlong, type Round, roundOf, wholeFeature } from "../sheet/feature.ts";
import { featuresOf } from "../sheet/sheet.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import type { PartBuild } from "./build.ts";

/** The step that made an opening, or had the first share in it. Otherwise, as of what a bend takes away, `otherwise`. */
export const stepOfOpening = ({ sheet }: PartBuild, loop: Loop, otherwise: string): string =>
  featuresAlong(loop, featuresOf(sheet))[0]?.step ?? otherwise;

/** What is set into a part: counted by the openings that are there. */
export interface HardwareCount {
  readonly item: HardwareItem;
  readonly count: number;
  readonly steps: readonly string[];
}

/** The steps that cut openings for hardware. */
export const settingIn = ({ steps }: PartBuild): ReadonlyMap<string, HardwareItem> =>
  new Map(steps.flatMap(({ id, state, sets }) => (sets && state === "built" ? [[id, sets] as const] : [])));

/** An opening that hardware is set into. */
export interface SetIn {
  readonly feature: Feature;
  readonly item: HardwareItem;
  readonly round: Round;
}

/** What is set into an opening; nothing where it is not as round and large any more as that needs. */
export function setInto({ sheet }: PartBuild, loop: Loop): SetIn | undefined {
  const features = featuresOf(sheet);
  const feature = wholeFeature(loop, features);
  const item = feature?.look.hardware;
  const round = item && roundOf(loop, features);
  return round && Math.abs(2 * round.r - item.opening) < 1e-6 ? { feature, item, round } : undefined;
}

/** What is set into a part, in the order of its steps; copies by later steps are counted with the others. */
export function hardwareOf(build: PartBuild): readonly HardwareCount[] {
  const setting = settingIn(build);
  if (setting.size === 0 || !build.blank) return [];
  const counts = new Map<string, { item: HardwareItem; count: number; steps: string[] }>();
  for (const [step, item] of setting) {
    const known = counts.get(item.id);
    if (known) known.steps.push(step);
    else counts.set(item.id, { item, count: 0, steps: [step] });
  }
  for (const loop of build.blank.openings) {
    const there = setInto(build, loop);
    const counted = there && counts.get(there.item.id);
    if (counted) counted.count++;
  }
  return [...counts.values()];
}
