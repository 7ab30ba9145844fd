import { bendStep } from "./bend/bend.ts";
import { cornerStep } from "./corner/corner.ts";
import { cutStep } from "./cut/cut.ts";
import { flangeStep } from "./flange/flange.ts";
import { foldStep } from "./fold/fold.ts";
import { formStep } from "./form/form.ts";
import { gussetStep } from "./gusset/gusset.ts";
import { hemStep } from "./hem/hem.ts";
import { holdStep } from "./hold/hold.ts";
import { jogStep } from "./jog/jog.ts";
import { lugStep } from "./lug/lug.ts";
import { matchStep } from "./match/match.ts";
import { mirrorStep } from "./mirror/mirror.ts";
import { patternStep } from "./pattern/pattern.ts";
import { plateStep } from "./plate/plate.ts";
import { profileStep } from "./profile/profile.ts";
import { roundStep } from "./round/round.ts";
import { splitStep } from "./split/split.ts";
import type { StepKind } from "./step-kind.ts";
import { tabsStep } from "./tabs/tabs.ts";
import { ventStep } from "./vent/vent.ts";

/** Every kind of step there is. A new kind is a folder beside this file and a line here. */
export const STEP_KINDS: readonly StepKind[] = [
  plateStep,
  profileStep,
  flangeStep,
  hemStep,
  lugStep,
  tabsStep,
  foldStep,
  jogStep,
  splitStep,
  cutStep,
  matchStep,
  ventStep,
  formStep,
  gussetStep,
  bendStep,
  holdStep,
  cornerStep,
  roundStep,
  mirrorStep,
  patternStep,
];

const byKind = new Map(STEP_KINDS.map((k) => [k.kind, k]));

export const stepKind = (kind: string): StepKind | undefined => byKind.get(kind);
