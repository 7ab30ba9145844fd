import { rectangleLoop } from "../../plane/loop.ts";
import { growPlate } from "../../sheet/grow-plate.ts";
import { type FieldSpec, holesField } from "../field.ts";
import { holesOf } from "../hole-values.ts";
import type { StepKind } from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  {
    kind: "quantity",
    key: "width",
    label: "Width",
    dimension: "length",
    default: "120",
    above: 0,
    max: 20000,
  },
  {
    kind: "quantity",
    key: "depth",
    label: "Depth",
    dimension: "length",
    default: "80",
    above: 0,
    max: 20000,
  },
  {
    kind: "choice",
    key: "at",
    label: "Placed by",
    default: "centre",
    options: [
      { value: "centre", label: "centred" },
      { value: "corner", label: "from its corner" },
    ],
  },
  { kind: "quantity", key: "x", label: "X", dimension: "length", default: "0", min: -1e5, max: 1e5 },
  { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "0", min: -1e5, max: 1e5 },
  holesField,
];

/** A rectangle of sheet with round holes: the first plate of a part. */
export const plateStep: StepKind = {
  kind: "plate",
  title: "Plate",
  about: "A flat rectangle to start from",
  startsFrom: "nothing",
  fields,
  sentence: (raw) => {
    const moved = ["x", "y"].some((key) => raw[key] !== undefined && String(raw[key]) !== "0");
    const place = moved ? [" on ", { field: "x" }, ", ", { field: "y" }] : [];
    return ["Plate ", { field: "width" }, " by ", { field: "depth" }, ", ", { field: "at" }, ...place, "."];
  },
  makes: ({ id }) => [{ plate: id, onBend: false }],
  build: (values, { step, draft, letterOf, refuse }) => {
    const { width = 0, depth = 0, x = 0, y = 0 } = values.quantities;
    const centred = values.choices.at === "centre";
    const x0 = centred ? x - width / 2 : x;
    const y0 = centred ? y - depth / 2 : y;
    if (draft.roots.length > 0) {
      refuse(
        undefined,
        "This part has its first plate already. Grow flanges from its edges, or make another part.",
      );
      return;
    }
    const outline = rectangleLoop(x0, y0, x0 + width, y0 + depth, ["south", "east", "north", "west"]);
    growPlate(draft, { id: step, step, outline, holes: holesOf(values) }, letterOf(step));
  },
};
