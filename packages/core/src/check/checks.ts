import { acuteBendRule } from "./acute-bend.ts";
import { bothWaysRule } from "./both-ways.ts";
import { brakeForceRule } from "./brake-force.ts";
import { cardRadiusRule, forceRule, leastRadiusRule, outsideChartRule } from "./chart.ts";
import { closeBendsRule } from "./close-bends.ts";
import { deepChannelRule } from "./deep-channel.ts";
import { edgeBesideBendRule } from "./edge-beside-bend.ts";
import { formRoomRule } from "./form-room.ts";
import { formThinRule } from "./form-thin.ts";
import { hardwareRule } from "./hardware.ts";
import { hemKindRule } from "./hem-kind.ts";
import { idleReliefRule } from "./idle-relief.ts";
import { idleStepRule } from "./idle-step.ts";
import { longBendRule } from "./long-bend.ts";
import { massRule } from "./mass.ts";
import { narrowSlitRule } from "./narrow-slit.ts";
import { openingInBendRule } from "./opening-in-bend.ts";
import { openingToBendRule } from "./opening-to-bend.ts";
import { overlapRule } from "./overlap.ts";
import { reliefRule } from "./relief.ts";
import type { CheckRule } from "./rule.ts";
import { seamRule } from "./seam.ts";
import { sharpInnerRule } from "./sharp-inner.ts";
import { sharpOuterRule } from "./sharp-outer.ts";
import { sheetSizeRule } from "./sheet-size.ts";
import { shortLegRule } from "./short-leg.ts";
import { shortLineRule } from "./short-line.ts";
import { slantedEndRule } from "./slanted-end.ts";
import { smallJogRule } from "./small-jog.ts";
import { smallOpeningRule } from "./small-opening.ts";
import { smallReliefRule } from "./small-relief.ts";
import { thinWebRule } from "./thin-web.ts";

/** A check, with the shop's rules that its findings are of: where the shop asks for none of them it is not asked. */
export interface Check {
  readonly tells: readonly string[];
  readonly ask: CheckRule;
}

/** Every check there is. A new one is a file beside this and a line here. */
export const CHECKS: readonly Check[] = [
  { tells: ["overlap"], ask: overlapRule },
  { tells: ["relief"], ask: reliefRule },
  { tells: ["small-relief"], ask: smallReliefRule },
  { tells: ["idle-relief"], ask: idleReliefRule },
  { tells: ["seam", "cut-free"], ask: seamRule },
  { tells: ["outside-chart", "k-range"], ask: outsideChartRule },
  { tells: ["own-radius", "card-radius"], ask: cardRadiusRule },
  { tells: ["least-radius", "grain-radius"], ask: leastRadiusRule },
  { tells: ["die-force"], ask: forceRule },
  { tells: ["short-leg"], ask: shortLegRule },
  { tells: ["close-bends"], ask: closeBendsRule },
  { tells: ["deep-channel"], ask: deepChannelRule },
  { tells: ["opening-to-bend"], ask: openingToBendRule },
  { tells: ["opening-in-bend"], ask: openingInBendRule },
  { tells: ["edge-beside-bend"], ask: edgeBesideBendRule },
  { tells: ["slanted-end"], ask: slantedEndRule },
  { tells: ["acute-bend"], ask: acuteBendRule },
  { tells: ["hem-kind"], ask: hemKindRule },
  { tells: ["small-jog"], ask: smallJogRule },
  { tells: ["small-opening"], ask: smallOpeningRule },
  { tells: ["thin-web"], ask: thinWebRule },
  { tells: ["narrow-slit"], ask: narrowSlitRule },
  { tells: ["hardware-room"], ask: hardwareRule },
  { tells: ["form-room"], ask: formRoomRule },
  { tells: ["form-thin"], ask: formThinRule },
  { tells: ["short-line"], ask: shortLineRule },
  { tells: ["sharp-inner"], ask: sharpInnerRule },
  { tells: ["sharp-outer"], ask: sharpOuterRule },
  { tells: ["sheet-size", "grain"], ask: sheetSizeRule },
  { tells: ["long-bend"], ask: longBendRule },
  { tells: ["brake-force"], ask: brakeForceRule },
  { tells: ["mass"], ask: massRule },
  { tells: ["both-ways"], ask: bothWaysRule },
  { tells: ["idle-step"], ask: idleStepRule },
];
