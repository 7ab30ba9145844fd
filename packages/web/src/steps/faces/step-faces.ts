import { bendFace } from "./bend.tsx";
import { cornerFace } from "./corner.tsx";
import { cutFace } from "./cut.tsx";
import { flangeFace } from "./flange.tsx";
import { foldFace } from "./fold.tsx";
import { formFace } from "./form.tsx";
import { gussetFace } from "./gusset.tsx";
import { hemFace } from "./hem.tsx";
import { holdFace } from "./hold.tsx";
import { jogFace } from "./jog.tsx";
import { lugFace } from "./lug.tsx";
import { matchFace } from "./match.tsx";
import { mirrorFace } from "./mirror.tsx";
import { patternFace } from "./pattern.tsx";
import { plateFace } from "./plate.tsx";
import { profileFace } from "./profile.tsx";
import { roundFace } from "./round.tsx";
import { splitFace } from "./split.tsx";
import type { StepFace } from "./step-face.ts";
import { tabsFace } from "./tabs.tsx";
import { ventFace } from "./vent.tsx";

/** The face of every kind of step, in the order of core's kinds. A new kind is a file in `faces/` and a line here. */
export const STEP_FACES: readonly StepFace[] = [
  plateFace,
  profileFace,
  flangeFace,
  hemFace,
  lugFace,
  tabsFace,
  foldFace,
  jogFace,
  splitFace,
  cutFace,
  matchFace,
  ventFace,
  formFace,
  gussetFace,
  bendFace,
  holdFace,
  cornerFace,
  roundFace,
  mirrorFace,
  patternFace,
];

const byKind = new Map(STEP_FACES.map((f) => [f.kind, f]));

export const stepFace = (kind: string): StepFace | undefined => byKind.get(kind);
