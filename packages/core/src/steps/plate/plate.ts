import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { moveLoop, translation } from "../../plane/isometry.ts";
import { circleLoop, type Loop, rectangleLoop } from "../../plane/loop.ts";
import { point } from "../../plane/point.ts";
import type { Region } from "../../plane/region.ts";
import { fail, ok, type Result } from "../../result.ts";
import { growPlate } from "../../sheet/growing/grow-plate.ts";
import type { Motion } from "../../space/vector.ts";
import { holesFrom, holesOf } from "../hole-values.ts";
import { drawnAreas, drawnField } from "../outline-values.ts";
import { axesMark } from "../place-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

const forms = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.form) });

const fields: readonly FieldSpec[] = [
  choice("form", "Form", "rectangle", {
    rectangle: "rectangle",
    round: "round",
    drawn: "drawn outline",
  }),
  {
    kind: "quantity",
    key: "width",
    label: "Width",
    dimension: "length",
    default: "120",
    above: 0,
    max: 20000,
    ...forms("rectangle"),
  },
  {
    kind: "quantity",
    key: "depth",
    label: "Depth",
    dimension: "length",
    default: "80",
    above: 0,
    max: 20000,
    ...forms("rectangle"),
  },
  {
    kind: "quantity",
    key: "diameter",
    label: "Diameter",
    dimension: "length",
    default: "100",
    above: 0,
    max: 20000,
    ...forms("round"),
  },
  { ...drawnField, ...forms("drawn") },
  choice(
    "at",
    "Placed by",
    "centre",
    { centre: "centred", corner: "from its corner" },
    { ...forms("rectangle") },
  ),
  { kind: "quantity", key: "x", label: "X", dimension: "length", default: "0", min: -1e5, max: 1e5 },
  { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "0", min: -1e5, max: 1e5 },
  choice("stands", "Stands", "flat", {
    flat: "lying flat",
    front: "upright, along X",
    side: "upright, along Y",
  }),
  {
    kind: "quantity",
    key: "z",
    label: "Height in space",
    dimension: "length",
    default: "0",
    min: -1e5,
    max: 1e5,
  },
  holesFrom("0"),
];

/** How the axes of a plate's own frame stand in space. */
const PLACES = {
  flat: { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] },
  front: { x: [1, 0, 0], y: [0, 0, 1], z: [0, -1, 0] },
  side: { x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0] },
} as const;

/** The plate's outline in its own frame, or what is wrong with it. */
function plateOutline(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
): Result<Region, FieldProblem> {
  if (values.choices.form !== "drawn") {
    const outer = ownOutline(values);
    return outer.ok ? ok({ outer: outer.value, holes: [] }) : outer;
  }
  const areas = drawnAreas(values, outlineOf);
  if (!areas.ok) return areas;
  if (areas.value.length > 1) {
    const message = `The outline has ${areas.value.length} areas; a plate takes one. Draw the others as outlines of their own.`;
    return fail({ field: "drawn", message });
  }
  const { x = 0, y = 0 } = values.quantities;
  const [{ outer, holes }] = areas.value;
  const moved = translation(point(x, y));
  return ok({ outer: moveLoop(moved, outer), holes: holes.map((h) => moveLoop(moved, h)) });
}

function ownOutline(values: FieldValues): Result<Loop, FieldProblem> {
  const { width = 0, depth = 0, diameter = 0, x = 0, y = 0 } = values.quantities;
  if (values.choices.form === "round") return ok(circleLoop(point(x, y), diameter / 2, "rim"));
  const centred = values.choices.at === "centre";
  const x0 = centred ? x - width / 2 : x;
  const y0 = centred ? y - depth / 2 : y;
  return ok(rectangleLoop(x0, y0, x0 + width, y0 + depth, ["south", "east", "north", "west"]));
}

/** A piece of sheet with round holes: the first plate of a part, or of another sheet in it. */
export const plateStep: StepKind = {
  kind: "plate",
  title: "Plate",
  about: "A flat piece to start a sheet from",
  startsFrom: "nothing",
  again: true,
  fields,
  sentence: (raw) => {
    const moved = ["x", "y"].some((key) => raw[key] !== undefined && String(raw[key]) !== "0");
    const place = moved ? [" on ", { field: "x" }, ", ", { field: "y" }] : [];
    const stands = raw.stands !== undefined && raw.stands !== "flat" ? [", ", { field: "stands" }] : [];
    const up = raw.z !== undefined && String(raw.z) !== "0" ? [", ", { field: "z" }, " up"] : [];
    const { form } = choicesOf(fields, raw);
    const own: SentencePart[] =
      form === "round"
        ? [{ field: "form" }, ", ⌀ ", { field: "diameter" }]
        : form === "drawn"
          ? ["of the ", { field: "form" }, " ", { field: "drawn" }]
          : [{ field: "width" }, " by ", { field: "depth" }, ", ", { field: "at" }];
    return ["Plate ", ...own, ...place, ...stands, ...up, "."];
  },
  makes: ({ id }) => [{ plate: id, onBend: false }],
  build: (values, { step, draft, letterOf, refuse, mark, outlineOf }) => {
    const outline = plateOutline(values, outlineOf);
    if (!outline.ok) return refuse(outline.error.field, outline.error.message);
    const upright = PLACES[values.choices.stands as keyof typeof PLACES];
    const place: Motion = { ...upright, o: [0, 0, values.quantities.z ?? 0] };
    const holes = holesOf(values);
    if (holes.length > 0) mark(axesMark(step, point(0, 0), []));
    growPlate(
      draft,
      { id: step, step, outline: outline.value.outer, openings: outline.value.holes, holes, place },
      letterOf(step),
    );
  },
};
