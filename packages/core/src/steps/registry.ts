import { flangeStep } from "./flange/flange.ts";
import { plateStep } from "./plate/plate.ts";
import type { StepKind } from "./step-kind.ts";

/** Every kind of step there is. A new kind is a folder beside this file and a line here. */
export const STEP_KINDS: readonly StepKind[] = [plateStep, flangeStep];

const byKind = new Map(STEP_KINDS.map((k) => [k.kind, k]));

export const stepKind = (kind: string): StepKind | undefined => byKind.get(kind);
