import { bendFace } from "./faces/bend.tsx";
import { cornerFace } from "./faces/corner.tsx";
import { cutFace } from "./faces/cut.tsx";
import { flangeFace } from "./faces/flange.tsx";
import { foldFace } from "./faces/fold.tsx";
import { hemFace } from "./faces/hem.tsx";
import { holdFace } from "./faces/hold.tsx";
import { jogFace } from "./faces/jog.tsx";
import { lugFace } from "./faces/lug.tsx";
import { mirrorFace } from "./faces/mirror.tsx";
import { patternFace } from "./faces/pattern.tsx";
import { plateFace } from "./faces/plate.tsx";
import { profileFace } from "./faces/profile.tsx";
import { roundFace } from "./faces/round.tsx";
import { splitFace } from "./faces/split.tsx";
import type { StepFace } from "./step-face.ts";

/** The face of every kind of step, in the order of core's kinds. A new kind is a file in `faces/` and a line here. */
export const STEP_FACES: readonly StepFace[] = [
  plateFace,
  profileFace,
  flangeFace,
  hemFace,
  lugFace,
  foldFace,
  jogFace,
  splitFace,
  cutFace,
  bendFace,
  holdFace,
  cornerFace,
  roundFace,
  mirrorFace,
  patternFace,
];

const byKind = new Map(STEP_FACES.map((f) => [f.kind, f]));

export const stepFace = (kind: string): StepFace | undefined => byKind.get(kind);
