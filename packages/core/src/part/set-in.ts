import { Kept } from "../kept.ts";
import { asCircle, type Loop } from "../plane/loop.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import type { PartBuild } from "./build.ts";

const stepIds = new Kept((steps: PartBuild["steps"]) => new Set(steps.map((s) => s.id)));

/**
 * The step that cut an opening: its borders are named after it (`s4-west`, `cut:s4`), with what copied them behind.
 * Otherwise, as for the round holes of a plate's own table, `otherwise`.
 */
export function stepOfOpening({ steps }: PartBuild, loop: Loop, otherwise: string): string {
  const known = stepIds.of(steps);
  for (const { name } of loop) {
    const parts = (name ?? "").replace(/^cut:/, "").split("-");
    for (let n = parts.length; n > 0; n--) {
      const id = parts.slice(0, n).join("-");
      if (known.has(id)) return id;
    }
  }
  return otherwise;
}

/** What is set into a part: counted by the openings that are there. */
export interface HardwareCount {
  readonly item: HardwareItem;
  readonly count: number;
  readonly steps: readonly string[];
}

/** The steps that cut openings for hardware. */
export const settingIn = ({ steps }: PartBuild): ReadonlyMap<string, HardwareItem> =>
  new Map(steps.flatMap(({ id, state, sets }) => (sets && state === "built" ? [[id, sets] as const] : [])));

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
    const item = setting.get(stepOfOpening(build, loop, ""));
    if (item && isOpeningOf(item, loop)) counts.get(item.id)!.count++;
  }
  return [...counts.values()];
}

/** Whether an opening is still as round and large as its hardware needs. */
function isOpeningOf(item: HardwareItem, loop: Loop): boolean {
  const circle = asCircle(loop);
  return circle !== undefined && Math.abs(2 * circle.r - item.opening) < 1e-6;
}
