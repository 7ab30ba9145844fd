import { din6935K } from "../bend/din6935.ts";
import { makeRelief } from "../steps/bend-values.ts";
import {
  evaluateFields,
  type FieldProblem,
  type FieldSpec,
  type RawValues,
  RELIEF_SHAPES,
} from "../steps/field.ts";
import type { StockValues } from "../steps/step-kind.ts";
import { formatShort } from "../units/quantity.ts";

/** What the stock of a part says, as fields: the same machinery as a step's. */
export const STOCK_FIELDS: readonly FieldSpec[] = [
  { kind: "text", key: "material", label: "Material", default: "Galvanised steel" },
  {
    kind: "quantity",
    key: "density",
    label: "Density",
    dimension: "number",
    default: "7850",
    above: 0,
    max: 30000,
  },
  {
    kind: "quantity",
    key: "thickness",
    label: "Thickness",
    dimension: "length",
    default: "1.5",
    above: 0,
    max: 50,
  },
  {
    kind: "quantity",
    key: "radius",
    label: "Inside radius",
    dimension: "length",
    default: "1.5",
    min: 0,
    max: 2000,
  },
  {
    kind: "choice",
    key: "flatBy",
    label: "Flat lengths by",
    default: "K",
    options: [
      { value: "K", label: "one K" },
      { value: "DIN 6935", label: "DIN 6935" },
    ],
  },
  {
    kind: "quantity",
    key: "k",
    label: "K",
    dimension: "number",
    default: "0.42",
    min: 0,
    max: 1,
    shown: (c) => c.flatBy === "K",
  },
  { kind: "choice", key: "relief", label: "Bend relief", default: "square", options: RELIEF_SHAPES },
  {
    kind: "quantity",
    key: "reliefWidth",
    label: "Relief width",
    dimension: "length",
    default: "1.5*t",
    above: 0,
    max: 1000,
    shown: (c) => c.relief === "square" || c.relief === "round",
  },
  {
    kind: "quantity",
    key: "reliefDepth",
    label: "Relief depth",
    dimension: "length",
    default: "t",
    min: 0,
    max: 1000,
    shown: (c) => c.relief !== "none",
  },
];

// A stock's own short names for its thickness and radius, beside the long ones every field key gives.
const SHORT: Readonly<Record<string, string>> = { t: "thickness", r: "radius", K: "k" };

const labelOf = (key: string) => STOCK_FIELDS.find((f) => f.key === key)?.label ?? key;

/** Evaluates a part's stock. With problems there is no stock to build with. */
export function evaluateStock(raw: RawValues): { stock?: StockValues; problems: readonly FieldProblem[] } {
  const first = evaluateFields(STOCK_FIELDS, raw, () => undefined, []);
  const values = evaluateFields(
    STOCK_FIELDS,
    raw,
    (name) => {
      const key = SHORT[name];
      if (key === undefined) return undefined;
      const value = first.quantities[key];
      if (value === undefined) return { ok: false, error: `${labelOf(key)} has no value` };
      return { ok: true, value: { value, dimension: key === "k" ? "number" : "length" } };
    },
    Object.keys(SHORT),
  );
  if (values.problems.length > 0) {
    // What only follows from a wrong thickness, radius or K would bury it.
    const roots = values.problems.filter((p) => Object.values(SHORT).includes(p.field));
    return { problems: roots.length > 0 ? roots : values.problems };
  }
  const {
    thickness = 0,
    radius = 0,
    density = 0,
    k = 0,
    reliefWidth = 0,
    reliefDepth = 0,
  } = values.quantities;
  const din = values.choices.flatBy === "DIN 6935";
  const relief = makeRelief(values.choices.relief, reliefWidth, reliefDepth);
  const kOf: StockValues["kOf"] = ({ t, r }) =>
    din ? { k: din6935K(t, r), source: `DIN 6935 at r/t ${formatShort(r / t)}` } : { k, source: "stock" };
  return { stock: { thickness, radius, density, relief, kOf }, problems: [] };
}
