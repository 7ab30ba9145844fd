import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
} from "../../fields/field.ts";
import { reversed, withTags } from "../../plane/curve.ts";
import { grownLoop } from "../../plane/grown-loop.ts";
import { type Loop, loopArea } from "../../plane/loop.ts";
import { fail, ok, type Result } from "../../result.ts";
import type { DraftPlate } from "../../sheet/draft-pieces.ts";
import { featureOfLoop } from "../../sheet/feature.ts";
import { cutFlat, type FlatCut } from "../../sheet/shaping/cut-flat.ts";
import { shapeMetal } from "../../sheet/shaping/metal.ts";
import { mm2 } from "../../units/spoken-length.ts";
import { lengthField } from "../bend-values.ts";
import { plateWay } from "../cut/through-folded.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

/** More outlines than this are no opening that anything sits behind. */
const MOST_MATCHED = 5000;

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plate", single: true, label: "Plate", of: "plate" },
  choice("takes", "Takes", "outline", {
    outline: "the outline",
    openings: "all openings",
    step: "the openings of a step",
  }),
  { kind: "picks", key: "behind", single: true, label: "Of plate", of: "plate" },
  {
    kind: "picks",
    key: "step",
    single: true,
    label: "Step",
    of: "step",
    shown: (c: Choices) => c.takes === "step",
  },
  lengthField("clearance", "Clearance all round", "0.5", { max: 1000 }),
];

const counterClockwise = (loop: Loop): Loop => (loopArea(loop) >= 0 ? loop : loop.map(reversed).reverse());

/** What of the plate behind is taken, counter-clockwise in developed coordinates. */
function takenOf(
  values: FieldValues,
  context: StepContext,
  behind: DraftPlate,
): Result<Loop[], FieldProblem> {
  const { regions } = shapeMetal(behind.metal);
  const letter = context.letterOf(behind.id);
  if (values.choices.takes === "outline") {
    if (regions.length === 0)
      return fail({ field: "behind", message: `Plate ${letter} has no metal whose outline could be taken.` });
    return ok(regions.map((r) => r.outer));
  }
  const holes = regions.flatMap((r) => r.holes).map(counterClockwise);
  if (values.choices.takes === "openings") {
    if (holes.length === 0)
      return fail({ field: "behind", message: `There is no opening in plate ${letter}.` });
    return ok(holes);
  }
  const pick = values.picks.step?.[0];
  if (!pick) return fail({ field: "step", message: "Pick the step whose openings are taken." });
  const own = behind.metal.filter((op) => op.kind === "cut" && op.step === pick.at && !op.bend);
  if (own.length === 0)
    return fail({ field: "step", message: `That step cuts no opening in plate ${letter}. Pick another.` });
  return ok(own.flatMap((op) => op.loops).map(counterClockwise));
}

function build(values: FieldValues, context: StepContext) {
  const { draft, step, refuse, lost, letterOf } = context;
  const [pick, other] = [values.picks.plate?.[0], values.picks.behind?.[0]];
  if (!pick) return refuse("plate", "Pick the plate that is cut.");
  const plate = draft.pieces.plate(pick.at);
  if (!plate) return lost("plate", pick);
  if (!other) return refuse("behind", "Pick the plate behind it.");
  const behind = draft.pieces.plate(other.at);
  if (!behind) return lost("behind", other);
  if (behind.id === plate.id)
    return refuse("behind", `Plate ${letterOf(plate.id)} is cut itself. Pick the plate behind it.`);
  const taken = takenOf(values, context, behind);
  if (!taken.ok) return refuse(taken.error.field, taken.error.message);
  if (taken.value.length > MOST_MATCHED)
    return refuse(
      "takes",
      `${taken.value.length} openings are too many to be matched: at most ${MOST_MATCHED}.`,
    );
  const onWay = plateWay(draft, new Set([behind.id]), behind.id, "both");
  const by = values.quantities.clearance ?? 0;
  const loops = taken.value.flatMap((loop) => {
    const there = onWay([loop]).find((met) => met.plate === plate.id);
    return (there?.loops ?? []).flatMap((l) => grownLoop(counterClockwise(l), by));
  });
  if (loops.length === 0)
    return refuse(
      "behind",
      `Nothing of that lies behind plate ${letterOf(plate.id)}, folded: straight on from plate ${letterOf(behind.id)} it meets no metal of it.`,
    );
  const named = loops.map((loop, k) =>
    loop.map((c, i) =>
      withTags(c, {
        name: c.kind === "line" ? `${step}-m${k + 1}x${i + 1}` : `cut:${step}`,
        feature: `${step}.${k + 1}`,
      }),
    ),
  );
  const cuts = named.map(
    (loop, k): FlatCut => ({
      loops: [loop],
      feature: featureOfLoop(loop, { id: `${step}.${k + 1}`, step, piece: `plate:${plate.id}` }),
      ...(k > 0 ? { place: k } : { title: `What is matched to plate ${letterOf(behind.id)}` }),
    }),
  );
  const open = named.reduce((sum, l) => sum + loopArea(l), 0);
  context.note(
    "clearance",
    `${named.length} ${named.length === 1 ? "opening" : "openings"}, ${mm2(open)} open`,
  );
  cutFlat(draft, plate.id, cuts, { step, over: new Set(draft.held) });
}

/** Openings in front of something behind: the outline or the openings of another plate with a clearance, following it. */
export const matchStep: StepKind = {
  kind: "match",
  title: "Match",
  about: "Openings in front of what stands behind, which they follow",
  startsFrom: "plate",
  fields,
  sentence: (raw) => {
    const step = raw.takes === "step";
    const out: SentencePart[] = ["Match in ", { field: "plate" }, " ", { field: "takes" }];
    if (step) out.push(" ", { field: "step" });
    return [...out, " of plate ", { field: "behind" }, ", ", { field: "clearance" }, " clear all round."];
  },
  build,
};
