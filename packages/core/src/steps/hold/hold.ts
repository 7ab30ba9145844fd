import { choice, type FieldSpec } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import type { SentencePart, StepKind } from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  choice("does", "Does", "hold", { hold: "Hold flat", fold: "Let fold again" }),
  choice("which", "Which bends", "all", { all: "all bends", picked: "bends" }),
  {
    kind: "picks",
    key: "bends",
    label: "Bends",
    of: "bend",
    optional: true,
    shown: (c) => c.which === "picked",
  },
];

/** Holds bends flat for the steps that follow, or lets them fold again. */
export const holdStep: StepKind = {
  kind: "hold",
  title: "Hold flat",
  about: "Works on the flat sheet from here on",
  startsFrom: "bend",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [{ field: "does" }, " ", { field: "which" }];
    if (c.which === "picked") out.push(" ", { field: "bends" });
    return [...out, "."];
  },
  build: (values, { draft, refuse, lost }) => {
    const hold = values.choices.does === "hold";
    const picks = values.picks.bends ?? [];
    if (values.choices.which === "picked" && picks.length === 0)
      return refuse("bends", "Pick at least one bend, or take all.");
    for (const pick of picks) if (draft.pieces.carrier(pick.at) === undefined) lost("bends", pick);
    const ids =
      values.choices.which === "all" ? draft.pieces.carriers().map((c) => c.id) : picks.map((p) => p.at);
    if (ids.length === 0) return refuse("which", "There is no bend yet. Put this step after one that bends.");
    const held = new Set(draft.held);
    for (const id of ids) {
      if (hold && draft.pieces.carrier(id) !== undefined) held.add(id);
      if (!hold) held.delete(id);
    }
    draft.held = held;
  },
};
