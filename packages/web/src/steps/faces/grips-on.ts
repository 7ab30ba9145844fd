import { bendsOf, type Folding, type PartBuild, type StepDocument } from "@hillcrest/core";
import { type Grip, isFlat } from "../../views/folded/grips.ts";
import { stepFace } from "./step-faces.ts";

/**
 * What can be dragged: on the plate with the handles, by the step that made its bend; or by the step that is open,
 * where it has handles but no bend of its own.
 */
export function gripsOn(
  build: PartBuild,
  folding: Folding,
  plate: string | undefined,
  open: StepDocument | undefined,
  steps: readonly StepDocument[],
): Grip[] {
  const { sheet } = build;
  if (!sheet) return [];
  const bends = bendsOf(sheet);
  const withoutBend = open && !bends.some((b) => b.step === open.id) && stepFace(open.kind)?.grips;
  const bend = withoutBend ? undefined : bends.find((b) => b.child === plate);
  if (bend && isFlat(folding, sheet.pieces.indexOf(bend))) return [];
  const step = withoutBend ? open : steps.find((s) => s.id === bend?.step);
  const values = build.steps.find((s) => s.id === step?.id)?.values;
  if (!step || !values) return [];
  return stepFace(step.kind)?.grips?.({ build, folding, step, values, bend }) ?? [];
}
