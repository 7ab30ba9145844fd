import { type Choices, choice, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { type Isometry, mirroring } from "../../plane/isometry.ts";
import { along, frameY, fromFrame } from "../../plane/point.ts";
import { attempt, carrierTo } from "../../sheet/draft.ts";
import type { DraftPlate } from "../../sheet/draft-pieces.ts";
import { edgeFrame } from "../../sheet/edges.ts";
import { middleOfMetal, middleOfPlate } from "../../sheet/plate-middle.ts";
import { makingOf, mirrorJoined, mirrorWhole, replicate } from "../../sheet/shaping/replicate.ts";
import { pickedEdge, type SentencePart, type StepContext, type StepKind } from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  choice("what", "What", "steps", {
    steps: "steps",
    joined: "the whole part, joined to itself",
    hand: "the whole part, as the other hand",
  }),
  {
    kind: "picks",
    key: "steps",
    label: "Steps",
    of: "step",
    optional: true,
    shown: (c) => c.what === "steps",
  },
  choice(
    "about",
    "About",
    "across",
    {
      across: "the middle of a plate, left to right",
      along: "the middle of a plate, front to back",
      acrossAll: "the middle of all metal of a plate, left to right",
      alongAll: "the middle of all metal of a plate, front to back",
      edge: "an edge",
      face: "the outer face of",
    },
    { shown: (c: Choices) => c.what !== "joined" },
  ),
  {
    kind: "picks",
    key: "edge",
    single: true,
    label: "Edge",
    of: "edge",
    optional: true,
    shown: (c) => c.about === "edge" || c.what === "joined",
  },
  {
    kind: "picks",
    key: "plate",
    single: true,
    label: "Plate",
    of: "plate",
    optional: true,
    shown: (c) => c.about !== "edge" && c.what !== "joined",
  },
];

/** The mirror line that a step's fields describe, and the plate in whose plane it lies. */
function findMirror(
  values: FieldValues,
  context: StepContext,
): { move: Isometry; plate: DraftPlate } | undefined {
  const { draft, refuse, lost } = context;
  if (values.choices.about === "edge" || values.choices.what === "joined") {
    const pick = values.picks.edge?.[0];
    if (!pick) {
      refuse("edge", "Pick the edge about which it is mirrored.");
      return undefined;
    }
    const found = pickedEdge(context, "edge", pick);
    return found && { move: mirroring(found.edge.left, edgeFrame(found.edge).x), plate: found.plate };
  }
  const pick = values.picks.plate?.[0];
  const plate = pick ? draft.pieces.plate(pick.at) : draft.pieces.plate(draft.roots[0]?.plate ?? "");
  if (!plate) {
    if (pick) lost("plate", pick);
    else refuse("plate", "There is no plate yet to mirror about. Put this step after the first plate.");
    return undefined;
  }
  if (values.choices.about === "face") return aboutFace(plate, context);
  const { about } = values.choices;
  const axis = about.startsWith("across") ? frameY(plate.frame) : plate.frame.x;
  const middle = about.endsWith("All")
    ? middleOfMetal(plate)
    : middleOfPlate(plate, carrierTo(draft, plate.id));
  return { move: mirroring(fromFrame(plate.frame, middle), axis), plate };
}

/** A wall's outer face meets the plane of its plate in the outer mould line, when it stands square to it. */
function aboutFace(
  plate: DraftPlate,
  { draft, refuse, letterOf }: StepContext,
): { move: Isometry; plate: DraftPlate } | undefined {
  const bend = carrierTo(draft, plate.id);
  if (bend?.kind !== "bend" || Math.abs(bend.angle - Math.PI / 2) > 1e-9) {
    refuse(
      "plate",
      `Plate ${letterOf(plate.id)} does not stand square to another plate, so its face is no mirror for what lies on that. Pick a wall at 90°, or an edge.`,
    );
    return undefined;
  }
  const on = along(bend.origin, bend.out, bend.radius + draft.t);
  return { move: mirroring(on, bend.axis), plate: draft.pieces.plate(bend.parent)! };
}

function build(values: FieldValues, context: StepContext) {
  const { draft, refuse, historyOf, step } = context;
  const { what } = values.choices;
  const picks = values.picks.steps ?? [];
  if (what === "steps" && picks.length === 0)
    return refuse("steps", "There is nothing to mirror yet: pick at least one step.");
  const mirror = findMirror(values, context);
  if (!mirror) return;
  if (what === "hand") return mirrorWhole(draft, mirror.move);
  if (what === "joined") {
    if (!draft.roots.some((r) => r.plate === mirror.plate.id))
      return refuse(
        "edge",
        `The part can be joined to its mirror image about an edge of its first plate, not of plate ${context.letterOf(mirror.plate.id)}, which hangs on a bend.`,
      );
    const carrying = draft.pieces
      .carriers()
      .some(
        (b) =>
          b.parent === mirror.plate.id &&
          b.grownOn &&
          values.picks.edge?.[0]?.at === `${b.parent}.${b.grownOn.role}`,
      );
    if (carrying)
      return refuse(
        "edge",
        "A flange stands on this edge, so nothing can be joined there. Pick a free edge.",
      );
    mirrorJoined(draft, mirror.plate.id, mirror.move, `-${step}`, step);
    return;
  }
  const histories = picks.flatMap((p) => {
    const h = historyOf(p.at);
    return h ? [{ step: p.at, ...h }] : [];
  });
  if (histories.length < picks.length)
    return refuse(
      "steps",
      "A picked step is not built before this one, so there is nothing of it to mirror. Pick another, or mend that step.",
    );
  const making = makingOf(histories, draft);
  if (making.plates.some((id) => draft.roots.some((r) => r.plate === id)))
    return refuse(
      "steps",
      "The first plate cannot be mirrored onto itself. Mirror the whole part instead, joined or as the other hand.",
    );
  const before = draft.pieces.size;
  const copied = attempt(draft, () =>
    replicate(draft, making, [{ move: mirror.move, mark: `-${step}` }], step),
  );
  if ("message" in copied) return refuse("steps", copied.message);
  const touched = draft.pieces.plates().some((p) => p.metal.some((op) => op.step === step));
  if (draft.pieces.size === before && !touched)
    refuse("steps", "These steps made nothing that could be mirrored.");
}

/** Makes the mirror image of steps, or of the whole part. */
export const mirrorStep: StepKind = {
  kind: "mirror",
  title: "Mirror",
  about: "Mirrors steps, or the whole part",
  startsFrom: "part",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = ["Mirror ", { field: "what" }];
    if (c.what === "steps") out.push(" ", { field: "steps" });
    out.push(" about ");
    if (c.what !== "joined") out.push({ field: "about" });
    if (c.about === "edge" || c.what === "joined") out.push(" ", { field: "edge" });
    else out.push(" ", { field: "plate" });
    return [...out, "."];
  },
  build,
};
