import { isPlain } from "../../fields/checking.ts";
import {
  choice,
  type FieldSpec,
  type FieldValues,
  type QuantityField,
  type RawValues,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { reachOf, thinnestShare } from "../../forming/section.ts";
import { formedVolume } from "../../forming/volume.ts";
import { Kept } from "../../kept.ts";
import { moveLoop, rotation } from "../../plane/isometry.ts";
import { asCircle, type Loop, loopBounds, loopFromFrame } from "../../plane/loop.ts";
import { type Frame, point } from "../../plane/point.ts";
import { workAllMetal } from "../../sheet/draft.ts";
import { type Feature, featureAt, featureLoop, featureOfLoop } from "../../sheet/feature.ts";
import type { MetalOp } from "../../sheet/shaping/metal-op.ts";
import type { FormItem, FormValue } from "../../stock/forms/form-item.ts";
import { OWN_FORMS, ownForm } from "../../stock/forms/own-forms.ts";
import { type ResolvedForm, resolveForm } from "../../stock/forms/resolve-form.ts";
import { itemProblems } from "../../stock/read-item.ts";
import { METRIC_THREADS } from "../../stock/threads.ts";
import { formatShort } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { arrangedPlaceFields, ownMetal } from "../arranged-on-plate.ts";
import {
  arrangedPlaces,
  arrangementFields,
  arrangementSentence,
  hasPlace,
  leftOutOf,
  tooCrowded,
} from "../arrangement.ts";
import { angleField, turnField } from "../bend-values.ts";
import { formedLook, formedWork } from "../formed-work.ts";
import { behindOutline } from "../outline-behind.ts";
import { axesMark, findPlace, frameAt, placeSentence } from "../place-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

/** More shapes than this are no part that anybody forms, and no view shows them. */
const MOST_FORMED = 5000;

const shapeField: FieldSpec = {
  kind: "item",
  key: "shape",
  label: "Shape",
  section: "forms",
  default: "dimple",
  own: OWN_FORMS,
  check: (value, at, say) => {
    for (const p of itemProblems("forms", { note: "", ...value }, at)) say(p.path, p.message);
  },
};

const sound = new Kept((item: object) => itemProblems("forms", { note: "", ...item }).length === 0);

/** The form that a step names or keeps; nothing where that is none. */
export function formOf(raw: RawValues): FormItem | undefined {
  const { shape = "dimple" } = raw;
  if (typeof shape === "string") return ownForm(shape);
  return isPlain(shape) && sound.of(shape) ? (shape as unknown as FormItem) : undefined;
}

/** The key of a form's value among those of its step: another form's are left as they were. */
export const valueKey = ({ id }: Pick<FormItem, "id">, name: string): string => `${id}_${name}`;

const PLAIN = /^\s*-?\d+(\.\d+)?\s*$/;

/** A value of a form as a field: what it begins at stands in it, or is said where it follows from others. */
const fieldOf = (item: FormItem, { name, label, measures, value, least }: FormValue): QuantityField => ({
  kind: "quantity",
  key: valueKey(item, name),
  label,
  dimension: measures,
  ...(PLAIN.test(value) ? { default: value } : { default: "", optional: true, empty: value }),
  ...(measures === "length" && least?.trim() === "0" ? { above: 0 } : {}),
});

const valueFields = new Kept((item: FormItem): readonly FieldSpec[] =>
  item.values.map((v) => fieldOf(item, v)),
);

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plate", single: true, label: "Plate", of: "plate" },
  shapeField,
  turnField,
  ...arrangedPlaceFields,
  angleField("turned", "Turned by"),
  ...arrangementFields.map((f) =>
    f.kind === "rows" && f.key === "places"
      ? { ...f, columns: f.columns.filter((c) => c.key !== "size") }
      : f,
  ),
  choice("onBlank", "On the blank", "own", {
    own: "as its form has it",
    centre: "a mark in its middle",
    outline: "its outline, as a mark",
    cut: "what is cut free",
    nothing: "nothing",
  }),
];

function build(values: FieldValues, context: StepContext) {
  const { step, draft, refuse, lost, raw } = context;
  const pick = values.picks.plate?.[0];
  if (!pick) return refuse("plate", "Pick the plate that it is formed out of.");
  const plate = draft.pieces.plate(pick.at);
  if (!plate) return lost("plate", pick);
  const item = formOf(raw);
  if (!item) return refuse("shape", "There is no such form. Choose another.");
  const { quantities: q, choices } = values;
  const found = hasPlace(choices)
    ? findPlace(values, context, plate)
    : { at: point(0, 0), mark: axesMark(plate.id, point(0, 0), []) };
  if (!found) return;
  context.mark(found.mark);
  const form = resolveForm(item, (name) => q[valueKey(item, name)], draft.t);
  if (!form.ok) {
    const { value, message } = form.error;
    return refuse(value === undefined ? "shape" : valueKey(item, value), message);
  }
  const turned = q.turned ?? 0;
  const onPlate = (key: string) =>
    context.outlineOf(key, () =>
      behindOutline(draft, frameAt(plate, point(0, 0), 0), context.letterOf, context.numberOf),
    );
  const places = arrangedPlaces(values, onPlate, {
    place: { at: found.at, datum: found.mark.datums[0] },
    opening: [moveLoop(rotation(point(0, 0), turned), form.value.outline)],
    metal: () => ownMetal(plate),
  });
  if (!places.ok) return refuse(places.error.field, places.error.message);
  if (places.value.length > MOST_FORMED)
    return refuse(
      "arranged",
      `${places.value.length} of them are too many: one step can form ${MOST_FORMED} at most.`,
    );
  const look = formedLook(form.value);
  const formed = formedWork(item, form.value, { turn: choices.turn, onBlank: choices.onBlank });
  const ops = places.value.flatMap((place): MetalOp[] => {
    const frame = frameAt(plate, place.at, turned + place.turned);
    const there = (loop: Loop) => loopFromFrame(frame, loop);
    const id = `${step}${place.mark}`;
    const feature = featureAt({ id, step, look, piece: `plate:${plate.id}` }, frame);
    const { opening, outline } = form.value;
    const shape: MetalOp = {
      kind: "form",
      step,
      loops: [there(outline)],
      formed,
      name: `form:${id}`,
      feature,
    };
    return opening ? [openedFor(opening, feature, frame), shape] : [shape];
  });
  const crowd =
    places.value.length > 1
      ? tooCrowded(
          ops.filter((op) => op.kind === "form").map((op) => loopBounds(op.loops[0])),
          "arranged",
        )
      : undefined;
  if (crowd) return refuse(crowd.field, crowd.message);
  workAllMetal(draft, { plate: plate.id }, ops);
  context.note(MADE, saidOf(item, form.value, draft.t));
  if (places.value.length > 1) context.note("arranged", `${places.value.length} of them`);
}

/** The opening that is cut before something is formed about it, so that the metal is kept. */
function openedFor(opening: Loop, { id, step, piece }: Feature, frame: Frame): MetalOp {
  const loop = loopFromFrame(frame, opening);
  const feature = featureOfLoop(loop, { id: `${id}.opening`, step, piece });
  return { kind: "cut", step, loops: [featureLoop(loop, feature.id)], feature };
}

/** Beside no field: what is to be known of it follows from all its values. */
const MADE = "made";

/** What is to be known of one of them: how thin it gets, what is cut for it, how a thread holds in it. */
function saidOf(item: FormItem, form: ResolvedForm, t: number): string {
  const { outline, shape, opening, engages } = form;
  if (item.cutAway)
    return `cuts ${formatShort(formedVolume({ outline, shape, openings: [] }, t), 1)} mm³ of metal left`;
  const out: string[] = [];
  const thin = thinnestShare(shape);
  if (!shape.b && reachOf(shape) > 0)
    out.push(`stretched, none added: ${mm(t * thin, 2)} at its thinnest (${formatShort(100 * thin, 0)} %)`);
  const hole = opening && asCircle(opening);
  if (hole) out.push(`⌀ ${mm(2 * hole.r, 2)} cut before, so that the metal is kept`);
  if (engages !== undefined && opening) {
    const circle = asCircle(outline);
    const bore = circle ? 2 * (circle.r - reachOf(shape)) : 0;
    const thread = METRIC_THREADS.find(({ core }) => Math.abs(core - bore) < 0.02);
    out.push(
      thread
        ? `${thread.name} is engaged over ${mm(engages, 2)}, ${formatShort(engages / thread.pitch, 1)} turns`
        : `a thread is engaged over ${mm(engages, 2)}`,
    );
  }
  return out.join("; ");
}

/** A shape that is formed out of a plate, as a document describes it: once, or in many places. */
export const formStep: StepKind = {
  kind: "form",
  title: "Form",
  about: "Dimples, louvres, beads, collars and other shapes formed out of a plate",
  startsFrom: "plate",
  fields,
  more: (raw) => {
    const item = formOf(raw);
    return item ? valueFields.of(item) : [];
  },
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const item = formOf(raw);
    const out: SentencePart[] = ["Form: ", { field: "shape" }];
    for (const { name, label, value } of item?.values ?? []) {
      const key = valueKey(item!, name);
      if (!PLAIN.test(value) && (raw[key] === undefined || String(raw[key]) === "")) continue;
      out.push(`, ${label.toLowerCase()} `, { field: key });
    }
    out.push(", ", { field: "turn" }, ", on ", { field: "plate" });
    if (hasPlace(c)) out.push(", ", ...placeSentence(raw, c));
    if (raw.turned !== undefined && String(raw.turned) !== "0") out.push(", turned by ", { field: "turned" });
    return [...out, ...arrangementSentence(raw, c), "."];
  },
  leftOut: (step, name) => leftOutOf(step, choicesOf(fields, step), name),
  build,
};
