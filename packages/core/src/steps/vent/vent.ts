import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { circleLoop, type Loop, loopArea, loopBounds, loopFromFrame } from "../../plane/loop.ts";
import { type Frame, fromFrame, point } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { drawnLook, type FeatureLook, featureAt } from "../../sheet/feature.ts";
import { cutFlat, type FlatCut } from "../../sheet/shaping/cut-flat.ts";
import { formatShort } from "../../units/quantity.ts";
import { mm2 } from "../../units/spoken-length.ts";
import {
  ALL_LEFT_OUT,
  fillArea,
  latticeOf,
  leftOutField,
  MOST_PLACES,
  placeMark,
  placeOfBorder,
  tooCloseRows,
  tooCrowded,
  withoutLeftOut,
} from "../arrangement.ts";
import { angleField, lengthField, positive, turnField } from "../bend-values.ts";
import { openingLoops } from "../opening-values.ts";
import { behindOutline } from "../outline-behind.ts";
import { drawnField } from "../outline-values.ts";
import { findPlace, frameAt, placeFields, placeSentence } from "../place-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";
import { formLouvres } from "./vent-louvres.ts";
import { MOST_BARS, type VentOpenings, ventOpenings } from "./vent-openings.ts";

const forms = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.form) });
const filled = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.filling) });
const inRows = (c: Choices) => c.filling === "holes" || c.filling === "louvres";

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plate", single: true, label: "Plate", of: "plate" },
  choice("form", "Border", "rectangle", {
    rectangle: "rectangle",
    round: "round",
    slot: "slot",
    drawn: "drawn outline",
  }),
  lengthField("width", "Width", "80", { ...positive, ...forms("rectangle", "slot") }),
  lengthField("height", "Height", "50", { ...positive, ...forms("rectangle", "slot") }),
  lengthField("diameter", "Diameter", "60", { ...positive, ...forms("round") }),
  lengthField("rounding", "Corner radius of the border", "4", forms("rectangle")),
  { ...drawnField, ...forms("drawn") },
  ...placeFields,
  angleField("turned", "Turned by", { shown: (c: Choices) => c.form !== "round" }),
  choice("filling", "Filled with", "bars", {
    bars: "bars",
    holes: "round openings",
    louvres: "louvres",
  }),
  choice(
    "barsBy",
    "Bars by",
    "count",
    { count: "their number", pitch: "how far apart they are" },
    filled("bars"),
  ),
  {
    kind: "quantity",
    key: "bars",
    label: "Bars",
    dimension: "number",
    default: "5",
    min: 0,
    max: MOST_BARS,
    shown: (c) => c.filling === "bars" && c.barsBy === "count",
  },
  lengthField("barPitch", "Bars apart", "10", {
    ...positive,
    shown: (c: Choices) => c.filling === "bars" && c.barsBy === "pitch",
  }),
  lengthField("bar", "Bar width", "3", { ...positive, ...filled("bars") }),
  angleField("angle", "Bars turned by", filled("bars")),
  {
    kind: "quantity",
    key: "ribs",
    label: "Cross ribs",
    dimension: "number",
    default: "0",
    min: 0,
    max: MOST_BARS,
    ...filled("bars"),
  },
  lengthField("rib", "Rib width", "4", { ...positive, ...filled("bars") }),
  lengthField("soft", "Corner radius of openings", "1", filled("bars")),
  lengthField("hole", "Diameter of openings", "4", { ...positive, ...filled("holes") }),
  lengthField("pitch", "Openings apart", "6", { ...positive, ...filled("holes") }),
  choice(
    "rowsStand",
    "Rows stand",
    "triangle",
    { triangle: "staggered by 60°", square: "one above the other" },
    filled("holes"),
  ),
  lengthField("louvreLength", "Length of each", "40", { ...positive, ...filled("louvres") }),
  lengthField("louvreDepth", "Depth", "8", { ...positive, ...filled("louvres") }),
  lengthField("louvreHeight", "Height", "3", { ...positive, ...filled("louvres") }),
  lengthField("between", "Between those of a row", "6", { ...positive, ...filled("louvres") }),
  lengthField("louvreRows", "Rows apart", "14", { ...positive, ...filled("louvres") }),
  { ...turnField, ...filled("louvres") } as FieldSpec,
  lengthField("margin", "Margin to the border", "0", filled("holes", "louvres")),
  angleField("direction", "Rows turned by", filled("holes", "louvres")),
  leftOutField(inRows),
];

/** The border of a vent about its place, counter-clockwise: one loop, or one an area of a drawn outline. */
const borderLoops = (values: FieldValues, step: string, outlineOf: StepContext["outlineOf"]) =>
  openingLoops({ ...values, choices: { ...values.choices, sized: "diameter" } }, step, outlineOf);

/** One of the openings of a vent as it is cut, a feature of its own: round ones of a perforation are all alike. */
function openingOf(
  frame: Frame,
  loop: Loop,
  { step, plate, hole }: { step: string; plate: string; hole: FeatureLook | undefined },
): FlatCut {
  const id = loop[0].feature!;
  const { minX, maxX, minY, maxY } = loopBounds(loop);
  const origin = fromFrame(frame, point((minX + maxX) / 2, (minY + maxY) / 2));
  const look = hole ?? drawnLook([loop]);
  return {
    loops: [loopFromFrame(frame, loop)],
    feature: featureAt({ id, step, look, piece: `plate:${plate}` }, { origin, x: frame.x }),
  };
}

function fillingOf(
  border: readonly Loop[],
  values: FieldValues,
  step: string,
): Result<VentOpenings, FieldProblem> {
  if (values.choices.filling === "bars") {
    return ventOpenings(border, values, step);
  }
  const { quantities: q } = values;
  const pitch = q.pitch ?? 0;
  const square = { ...values, quantities: { ...q, rowPitch: pitch } };
  const close = tooCloseRows(square, "pitch");
  if (close) return fail(close);
  const loop = circleLoop(point(0, 0), (q.hole ?? 0) / 2, `cut:${step}`);
  const areas = border.map((outer) => ({ outer, holes: [] }));
  const places = fillArea(areas, [loop], latticeOf(square, pitch), q.margin ?? 0, undefined);
  if (!places)
    return fail({
      field: "pitch",
      message: `There would be more than ${MOST_PLACES} of them. Put them farther apart.`,
    });
  if (places.length === 0)
    return fail({
      field: "hole",
      message: "Not one opening fits within the border. Make them smaller, or the border larger.",
    });
  const left = withoutLeftOut(values, places);
  if (!left) return fail(ALL_LEFT_OUT);
  const loops = left.map(({ i, j, at }) =>
    circleLoop(at, (q.hole ?? 0) / 2, `cut:${step}${placeMark(i, j)}`, `${step}${placeMark(i, j)}`),
  );
  const crowd = tooCrowded(loops.map(loopBounds), "pitch");
  const hole: FeatureLook = { kind: "round", size: { diameter: q.hole ?? 0 } };
  return crowd ? fail(crowd) : ok({ loops, sharper: 0, hole });
}

function build(values: FieldValues, context: StepContext) {
  const { step, draft, refuse, lost } = context;
  const pick = values.picks.plate?.[0];
  if (!pick) return refuse("plate", "Pick the plate for the vent.");
  const plate = draft.pieces.plate(pick.at);
  if (!plate) return lost("plate", pick);
  const found = findPlace(values, context, plate);
  if (!found) return;
  context.mark(found.mark);
  const turned = values.choices.form === "round" ? 0 : (values.quantities.turned ?? 0);
  const frame = frameAt(plate, found.at, turned);
  const border = borderLoops(values, step, (key) =>
    context.outlineOf(key, () => behindOutline(draft, frame, context.letterOf, context.numberOf)),
  );
  if (!border.ok) return refuse(border.error.field, border.error.message);
  if (values.choices.filling === "louvres")
    return formLouvres(values, context, { plate, frame, border: border.value });
  const filling = fillingOf(border.value, values, step);
  if (!filling.ok) return refuse(filling.error.field, filling.error.message);
  const { loops: openings, sharper } = filling.value;
  const letter = context.letterOf(plate.id);
  const cuts = openings.map(
    (loop, k): FlatCut => ({
      ...openingOf(frame, loop, { step, plate: plate.id, hole: filling.value.hole }),
      ...(k > 0 ? { place: k } : { title: `The first opening of the vent on plate ${letter}` }),
    }),
  );
  const whole = border.value.reduce((sum, l) => sum + loopArea(l), 0);
  const open = openings.reduce((sum, loop) => sum + loopArea(loop), 0);
  const none = sharper === 1 ? "one of them has" : `${sharper} of them have`;
  context.note(
    values.choices.filling === "bars" ? "soft" : "margin",
    `${openings.length} ${openings.length === 1 ? "opening" : "openings"}, ${mm2(open)} open, ${formatShort((100 * open) / whole, 1)} %${
      sharper > 0 ? `; ${none} no room for the corner radius` : ""
    }`,
  );
  cutFlat(draft, plate.id, cuts, { step, over: new Set(draft.held) });
}

/** Openings within a closed border: slots between bars and cross ribs, or a perforation. */
export const ventStep: StepKind = {
  kind: "vent",
  title: "Vent",
  about: "Openings within a border: between bars, as a perforation, or under louvres",
  startsFrom: "plate",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const other = (key: string, usual: string) => raw[key] !== undefined && String(raw[key]) !== usual;
    const size: SentencePart[] =
      c.form === "round"
        ? [", ⌀ ", { field: "diameter" }]
        : c.form === "drawn"
          ? [" ", { field: "drawn" }]
          : [", ", { field: "width" }, " by ", { field: "height" }];
    const out: SentencePart[] = ["Vent in a ", { field: "form" }, ...size];
    if (c.form === "rectangle") out.push(", corners ", { field: "rounding" });
    out.push(" on ", { field: "plate" }, ", ", ...placeSentence(raw, c));
    if (c.form !== "round" && other("turned", "0")) out.push(", turned by ", { field: "turned" });
    out.push(", of ");
    if (c.filling === "louvres")
      return [
        ...out,
        { field: "filling" },
        ...[
          " ",
          { field: "louvreLength" },
          " by ",
          { field: "louvreDepth" },
          ", ",
          { field: "louvreHeight" },
        ],
        ...[" high, ", { field: "turn" }, ", ", { field: "between" }, " between them, rows "],
        ...[{ field: "louvreRows" }, " apart, margin ", { field: "margin" }, "."],
      ];
    if (c.filling === "holes")
      return [
        ...out,
        { field: "filling" },
        ...[" ⌀ ", { field: "hole" }, ", ", { field: "pitch" }, " apart, rows ", { field: "rowsStand" }],
        ...[", margin ", { field: "margin" }, "."],
      ];
    if (c.barsBy === "count") out.push({ field: "bars" }, " ");
    out.push({ field: "filling" }, " ", { field: "bar" }, " wide");
    if (c.barsBy === "pitch") out.push(", ", { field: "barPitch" }, " apart");
    if (other("angle", "0")) out.push(", turned by ", { field: "angle" });
    out.push(", ", { field: "ribs" }, " cross ribs");
    if (other("ribs", "0")) out.push(" ", { field: "rib" }, " wide");
    return [...out, ", corners ", { field: "soft" }, "."];
  },
  leftOut: (step, name) => {
    const place = inRows(choicesOf(fields, step)) ? placeOfBorder(name, step.id) : undefined;
    return place && { table: "leftOut", add: { i: String(place.i), j: String(place.j) } };
  },
  build,
};
