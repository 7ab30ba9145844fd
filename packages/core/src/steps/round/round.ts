import { type Choices, choice, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import {
  type CornerShape,
  cornerName,
  type OutlineCorner,
  outlineCorners,
  shapeCorners,
} from "../../sheet/corners/round-corners.ts";
import { partsOfName } from "../../sheet/sheet.ts";
import { lengthField } from "../bend-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

const when = (key: string, value: string) => ({ shown: (c: Choices) => c[key] === value });

const fields: readonly FieldSpec[] = [
  choice("form", "Form", "round", { round: "Round", chamfer: "Chamfer" }),
  choice("which", "Which corners", "picked", {
    picked: "corners",
    plates: "all outside corners of",
    all: "all sharp outside corners",
    inside: "all sharp inside corners",
  }),
  {
    kind: "picks",
    key: "corners",
    label: "Corners",
    of: "corner",
    optional: true,
    ...when("which", "picked"),
  },
  { kind: "picks", key: "plates", label: "Plates", of: "plate", optional: true, ...when("which", "plates") },
  lengthField("radius", "Radius", "5", { min: undefined, above: 0, ...when("form", "round") }),
  lengthField("size", "Size", "5", { min: undefined, above: 0, ...when("form", "chamfer") }),
  lengthField("second", "Along the second edge", "", {
    min: undefined,
    above: 0,
    optional: true,
    ...when("form", "chamfer"),
  }),
];

/** The corners that a step means, plate by plate. */
function wanted(values: FieldValues, context: StepContext): OutlineCorner[][] {
  const { draft, refuse, lost } = context;
  const { which } = values.choices;
  if (which === "picked") {
    const picks = values.picks.corners ?? [];
    if (picks.length === 0) refuse("corners", "Pick at least one corner.");
    const byPlate = new Map<string, OutlineCorner[]>();
    for (const pick of picks) {
      const { plate } = partsOfName(pick.at);
      const found =
        draft.pieces.plate(plate) !== undefined
          ? outlineCorners(draft, plate).find((c) => cornerName(c) === pick.at)
          : undefined;
      if (!found) lost("corners", pick);
      else byPlate.set(plate, [...(byPlate.get(plate) ?? []), found]);
    }
    // Corners found twice must be the same object, so that shared sides are counted once per corner.
    return [...byPlate].map(([plate, list]) => {
      const all = outlineCorners(draft, plate);
      return list.map((c) => all.find((o) => cornerName(o) === cornerName(c))!);
    });
  }
  let plates = draft.pieces.plates().map((p) => p.id);
  if (which === "plates") {
    const picks = values.picks.plates ?? [];
    if (picks.length === 0) refuse("plates", "Pick at least one plate.");
    for (const pick of picks) if (draft.pieces.plate(pick.at) === undefined) lost("plates", pick);
    plates = picks.map((p) => p.at).filter((id) => draft.pieces.plate(id) !== undefined);
  }
  const outside = which !== "inside";
  return plates.map((id) => outlineCorners(draft, id).filter((c) => c.turn > 0 === outside));
}

/** Rounds or chamfers many corners at once. */
export const roundStep: StepKind = {
  kind: "round",
  title: "Round corners",
  about: "Rounds or chamfers corners, many at once",
  startsFrom: "corner",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [{ field: "form" }, " ", { field: "which" }];
    if (c.which === "picked") out.push(" ", { field: "corners" });
    if (c.which === "plates") out.push(" ", { field: "plates" });
    out.push(", ", ...(c.form === "round" ? ["radius ", { field: "radius" }] : [{ field: "size" }]));
    if (c.form === "chamfer" && raw.second !== undefined && raw.second !== "")
      out.push(" by ", { field: "second" });
    return [...out, "."];
  },
  build: (values, context) => {
    const { quantities: q, choices } = values;
    const shape: CornerShape =
      choices.form === "round"
        ? { by: "round", radius: q.radius ?? 0 }
        : { by: "chamfer", first: q.size ?? 0, second: q.second ?? q.size ?? 0 };
    const groups = wanted(values, context).filter((g) => g.length > 0);
    const picked = choices.which === "picked";
    const field = choices.form === "round" ? "radius" : "size";
    let done = 0;
    for (const corners of groups) {
      const letter = context.letterOf(corners[0].plate);
      const problems = shapeCorners(context.draft, corners, shape, context.step);
      done += corners.length - problems.length;
      if (problems.length === 0) continue;
      const many =
        problems.length > 1
          ? `${problems.length} corners of plate ${letter} have`
          : `A corner of plate ${letter} has`;
      const message = `${many} no room: ${problems[0]}. Make it smaller.`;
      // A rule takes what it finds; what was picked by hand must be done.
      if (picked) context.refuse(field, message);
      else context.warn(field, message);
    }
    if (!picked && done === 0 && groups.length === 0)
      context.warn("which", "There is no such corner on the part yet.");
  },
};
