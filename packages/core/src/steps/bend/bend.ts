import { type Choices, choice, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import type { ReliefSpec } from "../../sheet/growing/spec.ts";
import { kField, lengthField, makeRelief, RELIEF_SHAPES, radiusField, reasonField } from "../bend-values.ts";
import type { BendEdit, SentencePart, StepKind } from "../step-kind.ts";

const sized = (c: Choices) => c.relief === "square" || c.relief === "round";

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "bends", label: "Bends", of: "bend" },
  {
    kind: "quantity",
    key: "angle",
    label: "Angle",
    dimension: "angle",
    default: "",
    optional: true,
    above: 0,
    max: 330,
  },
  radiusField,
  kField,
  lengthField("allowance", "BA", "", { min: undefined, above: 0, optional: true }),
  lengthField("deduction", "BD", "", { min: -20000, optional: true }),
  reasonField,
  choice("flip", "Direction", "as it is", { "as it is": "as made", flipped: "the other way" }),
  {
    kind: "choice",
    key: "relief",
    label: "Reliefs",
    default: "as it is",
    options: [{ value: "as it is", label: "as made" }, ...RELIEF_SHAPES],
  },
  lengthField("reliefWidth", "Relief width", "1.5*t", { min: undefined, above: 0, max: 1000, shown: sized }),
  lengthField("reliefDepth", "Relief depth", "t", {
    max: 1000,
    shown: (c: Choices) => sized(c) || c.relief === "torn",
  }),
];

function editFrom({ quantities: q, choices }: FieldValues, step: string): BendEdit {
  const relief: ReliefSpec | undefined =
    choices.relief === "as it is"
      ? undefined
      : makeRelief(choices.relief, q.reliefWidth ?? 0, q.reliefDepth ?? 0);
  return {
    step,
    ...(q.angle === undefined ? {} : { angle: q.angle }),
    ...(q.radius === undefined ? {} : { radius: q.radius }),
    ...(q.k === undefined ? {} : { k: q.k }),
    ...(q.allowance === undefined ? {} : { allowance: q.allowance }),
    ...(q.deduction === undefined ? {} : { deduction: q.deduction }),
    ...(choices.reason ? { reason: choices.reason } : {}),
    ...(choices.flip === "flipped" ? { flip: true } : {}),
    ...(relief ? { reliefs: { left: relief, right: relief } } : {}),
  };
}

const given = (raw: Readonly<Record<string, unknown>>, key: string) =>
  raw[key] !== undefined && raw[key] !== "";

/** Changes single bends, whichever step made them. Their plates follow as if it had been made so. */
export const bendStep: StepKind = {
  kind: "bend",
  title: "Bend change",
  about: "Another radius, angle, K, BA, BD, direction or relief for single bends",
  startsFrom: "bend",
  fields,
  sentence: (raw) => {
    const out: SentencePart[] = ["Change bends ", { field: "bends" }];
    if (given(raw, "angle")) out.push(", ", { field: "angle" });
    if (given(raw, "radius")) out.push(", radius ", { field: "radius" });
    if (given(raw, "k")) out.push(", K ", { field: "k" });
    if (given(raw, "allowance")) out.push(", BA ", { field: "allowance" });
    if (given(raw, "deduction")) out.push(", BD ", { field: "deduction" });
    if (raw.flip === "flipped") out.push(", ", { field: "flip" });
    if (given(raw, "relief") && raw.relief !== "as it is") {
      out.push(", ", { field: "relief" }, " reliefs");
      if (raw.relief !== "none" && raw.relief !== "torn") out.push(" ", { field: "reliefWidth" }, " ×");
      if (raw.relief !== "none") out.push(" ", { field: "reliefDepth" });
    }
    return [...out, "."];
  },
  editsBends: (values, step) => {
    const edit = editFrom(values, step);
    return (values.picks.bends ?? []).map((p) => [p.at, edit] as const);
  },
  build: (values, { draft, refuse, lost }) => {
    const picks = values.picks.bends ?? [];
    if (picks.length === 0) return refuse("bends", "Pick at least one bend to change.");
    for (const pick of picks) if (draft.pieces.carrier(pick.at) === undefined) lost("bends", pick);
    const { angle, radius, k, allowance, deduction } = values.quantities;
    const lengths = [k, allowance, deduction].filter((v) => v !== undefined);
    if (lengths.length > 1)
      return refuse("k", "K, BA and BD say the same thing: give one of them and leave the others empty.");
    const same = values.choices.flip === "as it is" && values.choices.relief === "as it is";
    if (same && angle === undefined && radius === undefined && lengths.length === 0)
      refuse(
        undefined,
        "Nothing is changed yet: give an angle, a radius, a K, BA or BD, another direction or reliefs.",
      );
  },
};
