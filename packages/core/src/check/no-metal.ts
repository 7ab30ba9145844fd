import type { PartBuild } from "../part/build.ts";
import { type Finding, stops } from "../steps/finding.ts";

/** The rule by which a part that is nothing is stopped. */
export const NO_METAL = "no-metal";

/** A part that is nothing cannot be made: told where no other finding says why there is no metal. */
export function noMetal({ blank, steps, findings }: PartBuild): Finding[] {
  if ((blank && blank.outlines.length > 0) || findings.some(stops)) return [];
  const message =
    steps.length === 0
      ? "There is no metal yet. Begin with a plate or a profile."
      : "There is no metal: none of the steps that are built leaves any. Go on with a plate or a profile.";
  return [{ level: "stop", rule: NO_METAL, message }];
}
