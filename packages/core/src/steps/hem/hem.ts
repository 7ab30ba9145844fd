import { flatHem, type HemNumbers, longestLip, teardropHem } from "../../bend/hem.ts";
import { HEM_FORMS } from "../../bend/hem-rule.ts";
import {
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  type PickEntry,
  when,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { fail, ok, type Result } from "../../result.ts";
import { insetHems } from "../../sheet/corners/inset-hems.ts";
import { mitreHems } from "../../sheet/corners/mitre-hems.ts";
import { growFlange } from "../../sheet/growing/grow-flange.ts";
import { partsOfName } from "../../sheet/sheet.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import {
  bendSpec,
  kField,
  lengthField,
  reasonField,
  reliefFields,
  reliefNotes,
  reliefOf,
  turnField,
} from "../bend-values.ts";
import { forEachPick } from "../each-pick.ts";
import {
  type Outlooks,
  outlooksOf,
  pickedEdge,
  type SentencePart,
  type StepContext,
  type StepKind,
  type StockValues,
} from "../step-kind.ts";
import { widthFields, widthOf, widthSentence } from "../width-values.ts";

const fields: readonly FieldSpec[] = [
  {
    kind: "picks",
    key: "edges",
    label: "Edges",
    of: "edge",
    grows: true,
    own: ["length", "gap", "radius", "span", "leftInset", "rightInset", "width", "at", "shift"],
  },
  choice("form", "Form", "closed", {
    closed: "closed",
    open: "open",
    teardrop: "teardrop",
    rolled: "rolled",
  }),
  turnField,
  lengthField("length", "Length", "8", { min: undefined, above: 0, ...when((c) => c.form !== "rolled") }),
  lengthField("gap", "Gap", "t", { ...when((c) => c.form === "open") }),
  lengthField("radius", "Inside radius", "r", {
    min: undefined,
    above: 0,
    max: 2000,
    ...when((c) => c.form === "teardrop" || c.form === "rolled"),
  }),
  {
    kind: "quantity",
    key: "angle",
    label: "Angle",
    dimension: "angle",
    default: "270",
    min: 180,
    max: 330,
    ...when((c) => c.form === "rolled"),
  },
  lengthField("lip", "Straight lip", "0", { ...when((c) => c.form === "rolled") }),
  choice("place", "Material", "inside", { inside: "inside the edge", outside: "outside the edge" }),
  ...widthFields,
  choice("corners", "Where hems meet", "mitre", { mitre: "mitred", square: "left square" }),
  lengthField("cornerGap", "Corner gap", "t/2", { max: 1000, ...when((c) => c.corners === "mitre") }),
  kField,
  reasonField,
  ...reliefFields("left"),
  ...reliefFields("right"),
];

const upward = (v: number) => Math.ceil(v * 1000 - 1e-6) / 1000;

/** A hem's radius, angle and lip, or a sentence that says what would work. */
export function hemNumbers(
  values: FieldValues,
  t: number,
  stockRadius: number,
): Result<HemNumbers, FieldProblem> {
  const { quantities: q, choices } = values;
  const length = q.length ?? 0;
  const radius = q.radius ?? stockRadius;
  if (choices.form === "rolled") {
    const angle = q.angle ?? Math.PI * 1.5;
    const lip = q.lip ?? 0;
    const longest = longestLip(radius, angle);
    if (lip <= longest + 1e-9) return ok({ radius, angle, lip });
    const message = `A lip of ${mm(lip)} would run into its own plate: at radius ${formatShort(radius)} and ${formatShort(toDegrees(angle))}° it can be at most ${mm(Math.floor(longest * 1000) / 1000)}.`;
    return fail({ field: "lip", message });
  }
  if (choices.form === "teardrop") {
    const made = teardropHem(t, radius, length);
    if (made.ok) return made;
    const message = `${mm(length)} is too short for a teardrop at radius ${formatShort(radius)}: its lip would not come back to the plate. It must be at least ${mm(upward(made.error))}.`;
    return fail({ field: "length", message });
  }
  const made = flatHem(t, choices.form === "open" ? (q.gap ?? 0) : 0, length);
  if (made.ok) return made;
  const message = `${mm(length)} is shorter than the bend itself: from its outermost face the hem must be at least ${mm(upward(made.error))}.`;
  return fail({ field: "length", message });
}

/** A hem of each form in each place; values that only another form has stand at what it would begin with. */
const outlooks = (values: FieldValues, { thickness: t, radius }: StockValues): Outlooks =>
  outlooksOf(fields, ["form", "place"], values, (chosen) => {
    const q = chosen.quantities;
    const quantities = {
      ...q,
      gap: q.gap ?? t,
      radius: q.radius ?? Math.max(radius, t),
      angle: q.angle ?? Math.PI * 1.5,
    };
    const made = hemNumbers({ ...chosen, quantities }, t, radius);
    if (!made.ok) return undefined;
    const numbers = made.value;
    const way = chosen.choices.turn === "down" ? -1 : 1;
    const parent = Math.max(6 * t, numbers.lip + 4 * t);
    return {
      t,
      pieces: [
        { length: parent },
        { turn: way * numbers.angle, radius: numbers.radius },
        { length: Math.min(numbers.lip, parent) },
      ],
    };
  });

function buildOne(
  pick: PickEntry,
  values: FieldValues,
  context: StepContext,
  tellBeside: (ends: readonly string[]) => void,
): string | undefined {
  const { step, draft, stock, refuse, editOf } = context;
  const { plate, role } = partsOfName(pick.at);
  const curved = draft.pieces
    .plate(plate)
    ?.metal.some((op) => op.loops.some((loop) => loop.some((c) => c.kind === "arc" && c.name === role)));
  if (curved) {
    refuse(
      "edges",
      `Edge ${context.letterOf(plate)} ${role} is curved: a hem needs a straight edge. Pick the straight edges beside it.`,
    );
    return undefined;
  }
  if (!pickedEdge(context, "edges", pick)) return undefined;
  const id = `${step}${pick.key}`;
  const made = hemNumbers(values, stock.thickness, stock.radius);
  if (!made.ok) {
    refuse(made.error.field, made.error.message);
    return undefined;
  }
  const numbers = made.value;
  const edit = editOf(id);
  const shape = {
    t: stock.thickness,
    r: edit?.radius ?? numbers.radius,
    angle: edit?.angle ?? numbers.angle,
  };
  const form = HEM_FORMS.find((f) => f === values.choices.form);
  const bend = bendSpec(context, id, shape, values.choices.turn === "up", values.quantities.k, form);
  if (!bend.ok) {
    refuse("k", bend.error);
    return undefined;
  }
  const refusal = growFlange(
    draft,
    {
      id,
      step,
      edge: { plate, role },
      ...bend.value,
      setback: values.choices.place === "inside" ? shape.r + shape.t : 0,
      leg: numbers.lip,
      width: widthOf(values),
      reliefs: edit?.reliefs ?? {
        left: reliefOf(values, "left", stock.relief),
        right: reliefOf(values, "right", stock.relief),
      },
      holes: [],
      holeBase: 0,
    },
    context.letterOf,
    tellBeside,
  );
  if (refusal) refuse(refusal.field, refusal.message);
  return refusal ? undefined : plate;
}

/** An edge folded back on itself, to make it stiff and safe to touch. */
export const hemStep: StepKind = {
  kind: "hem",
  title: "Hem",
  about: "An edge folded back on itself",
  startsFrom: "edge",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [
      "Hem on ",
      { field: "edges" },
      ", ",
      { field: "form" },
      ", ",
      { field: "turn" },
    ];
    if (c.form !== "rolled") out.push(" ", { field: "length" }, " long");
    if (c.form === "open") out.push(", gap ", { field: "gap" });
    if (c.form === "teardrop" || c.form === "rolled") out.push(", radius ", { field: "radius" });
    if (c.form === "rolled") out.push(", ", { field: "angle" }, ", lip ", { field: "lip" });
    out.push(", material ", { field: "place" }, ", ", ...widthSentence(raw, c));
    if (c.corners === "square") out.push(", corners ", { field: "corners" });
    return [...out, "."];
  },
  build: (values, context) => {
    const picks = values.picks.edges ?? [];
    if (picks.length === 0) return context.refuse("edges", "Pick at least one edge to hem.");
    const plates = new Set<string>();
    const reliefs = reliefNotes(values, context);
    forEachPick(picks, values, context, (pick, own) => {
      const plate = buildOne(pick, own, context, reliefs.beside);
      if (plate) plates.add(plate);
    });
    reliefs.say();
    if (values.choices.corners !== "mitre") return;
    const gap = values.quantities.cornerGap ?? 0;
    for (const plate of plates) mitreHems(context.draft, plate, gap, context.step);
    insetHems(context.draft, context.step, gap);
  },
  outlooks,
  work: ({ choices }) => ({ hem: choices.form, field: "form" }),
};
