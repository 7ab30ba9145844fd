import { type BendShape, outerSetback } from "../../bend/allowance.ts";
import {
  type BendPlace,
  type LengthTo,
  leastLength,
  straightLeg,
  tangentSetback,
} from "../../bend/placement.ts";
import type { ReliefSpec, WidthSpec } from "../../sheet/spec.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { choicesOf, type FieldSpec, type FieldValues } from "../field.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

const LENGTH_TO: readonly { value: LengthTo; label: string }[] = [
  { value: "outer-mould", label: "outer mould point" },
  { value: "inner-mould", label: "inner mould point" },
  { value: "tangent", label: "tangent" },
  { value: "outermost", label: "outermost face" },
  { value: "overall-height", label: "overall height" },
];

const PLACES: readonly { value: BendPlace; label: string }[] = [
  { value: "outer-face", label: "outer face on the edge" },
  { value: "inner-face", label: "inner face on the edge" },
  { value: "outermost", label: "outermost on the edge" },
  { value: "bend-from-edge", label: "bend starts at the edge" },
  { value: "offset", label: "tangent behind the edge by" },
];

export const RELIEF_SHAPES = [
  { value: "none", label: "no" },
  { value: "torn", label: "torn" },
  { value: "square", label: "square" },
  { value: "round", label: "round-ended" },
] as const;

const length = (key: string, label: string, initial: string, limits: object = {}): FieldSpec => ({
  kind: "quantity",
  key,
  label,
  dimension: "length",
  default: initial,
  min: 0,
  max: 20000,
  ...limits,
});

function reliefFields(end: "left" | "right"): FieldSpec[] {
  const key = `${end}Relief`;
  const label = end === "left" ? "Left relief" : "Right relief";
  const sized = (c: Readonly<Record<string, string>>) => c[key] === "square" || c[key] === "round";
  return [
    {
      kind: "choice",
      key,
      label,
      default: "stock",
      options: [{ value: "stock", label: "stock" }, ...RELIEF_SHAPES],
    },
    {
      ...length(`${key}Width`, `${label} width`, "1.5*t", { min: undefined, above: 0, max: 1000 }),
      shown: sized,
    },
    {
      ...length(`${key}Depth`, `${label} depth`, "t", { max: 1000 }),
      shown: (c) => sized(c) || c[key] === "torn",
    },
  ];
}

const fields: readonly FieldSpec[] = [
  { kind: "edges", key: "edges", label: "Edges" },
  {
    kind: "choice",
    key: "turn",
    label: "Direction",
    default: "up",
    options: [
      { value: "up", label: "up" },
      { value: "down", label: "down" },
    ],
  },
  length("length", "Length", "25"),
  {
    kind: "choice",
    key: "lengthTo",
    label: "Length measured to",
    default: "outer-mould",
    options: LENGTH_TO,
  },
  { kind: "quantity", key: "angle", label: "Angle", dimension: "angle", default: "90", min: 1, max: 179 },
  { kind: "choice", key: "place", label: "Where the bend sits", default: "outer-face", options: PLACES },
  length("offset", "Tangent behind the edge by", "0", {
    min: -1000,
    max: 20000,
    shown: (c: Record<string, string>) => c.place === "offset",
  }),
  {
    kind: "choice",
    key: "span",
    label: "Width",
    default: "whole",
    options: [
      { value: "whole", label: "whole edge" },
      { value: "inset", label: "inset" },
      { value: "width", label: "a width of" },
    ],
  },
  length("leftInset", "Left inset", "0", { shown: (c: Record<string, string>) => c.span === "inset" }),
  length("rightInset", "Right inset", "0", { shown: (c: Record<string, string>) => c.span === "inset" }),
  length("width", "Width", "25", {
    min: undefined,
    above: 0,
    shown: (c: Record<string, string>) => c.span === "width",
  }),
  {
    kind: "choice",
    key: "at",
    label: "Placed",
    default: "centre",
    options: [
      { value: "left", label: "from the left end" },
      { value: "centre", label: "in the middle" },
      { value: "right", label: "from the right end" },
    ],
    shown: (c) => c.span === "width",
  },
  length("shift", "Moved by", "0", { min: -20000, shown: (c: Record<string, string>) => c.span === "width" }),
  length("radius", "Inside radius", "", { optional: true, min: 0, max: 2000 }),
  {
    kind: "quantity",
    key: "k",
    label: "K",
    dimension: "number",
    default: "",
    optional: true,
    min: 0,
    max: 1,
  },
  ...reliefFields("left"),
  ...reliefFields("right"),
  { kind: "holes", key: "holes", label: "Round holes" },
];

/** The edge that carries a bend, its numbers, and both legs as they come out: for pictures and handles. */
export interface FlangeNumbers {
  readonly shape: BendShape;
  readonly setback: number;
  readonly leg: number;
}

/** The numbers of a flange's section. The error is a sentence that says what would work. */
export function flangeNumbers(
  values: FieldValues,
  context: Pick<StepContext, "stock">,
): FlangeNumbers | { field: string; error: string } {
  const { stock } = context;
  const { quantities: q, choices } = values;
  const shape: BendShape = { t: stock.thickness, r: q.radius ?? stock.radius, angle: q.angle ?? Math.PI / 2 };
  const lengthTo = choices.lengthTo as LengthTo;
  const leg = straightLeg(lengthTo, q.length ?? 0, shape);
  if (!leg.ok) return { field: "lengthTo", error: leg.error };
  if (leg.value < -1e-9) {
    const to = LENGTH_TO.find((o) => o.value === lengthTo)!.label;
    const error =
      `${formatShort(q.length ?? 0)} mm to the ${to} leaves less than nothing after the bend. ` +
      `At radius ${formatShort(shape.r)} and ${formatShort(toDegrees(shape.angle))}° it must be at least ${formatShort(Math.ceil(leastLength(lengthTo, shape) * 1000 - 1e-6) / 1000)} mm.`;
    return { field: "length", error };
  }
  const setback = tangentSetback(choices.place as BendPlace, shape, q.offset ?? 0);
  return { shape, setback, leg: Math.max(0, leg.value) };
}

function widthOf({ quantities: q, choices }: FieldValues): WidthSpec {
  if (choices.span === "inset") return { by: "inset", left: q.leftInset ?? 0, right: q.rightInset ?? 0 };
  if (choices.span === "width") {
    return {
      by: "width",
      width: q.width ?? 0,
      at: choices.at as "left" | "centre" | "right",
      offset: q.shift ?? 0,
    };
  }
  return { by: "whole" };
}

function reliefOf(values: FieldValues, end: "left" | "right", stock: ReliefSpec): ReliefSpec {
  const shape = values.choices[`${end}Relief`];
  const width = values.quantities[`${end}ReliefWidth`] ?? 0;
  const depth = values.quantities[`${end}ReliefDepth`] ?? 0;
  return shape === "stock" ? stock : makeRelief(shape, width, depth);
}

/** A relief from its words and sizes. */
export function makeRelief(shape: string, width: number, depth: number): ReliefSpec {
  if (shape === "torn") return { shape, depth };
  if (shape === "square" || shape === "round") return { shape, width, depth };
  return { shape: "none" };
}

function build(values: FieldValues, context: StepContext): void {
  const { step, stock, draft, refuse } = context;
  if (values.edges.length === 0) {
    refuse("edges", "Pick at least one edge for the flange to grow from.");
    return;
  }
  const numbers = flangeNumbers(values, context);
  if ("error" in numbers) {
    refuse(numbers.field, numbers.error);
    return;
  }
  const { shape, setback, leg } = numbers;
  const own = values.quantities.k;
  const { k, source } = own === undefined ? stock.kOf(shape) : { k: own, source: "this step" };
  if (shape.angle * (shape.r + k * shape.t) < 1e-6) {
    refuse(
      "radius",
      "At radius 0 and K 0 the bend has no length in the flat. Give it a radius or a K above 0.",
    );
    return;
  }
  const reliefs = {
    left: reliefOf(values, "left", stock.relief),
    right: reliefOf(values, "right", stock.relief),
  };
  for (const end of ["left", "right"] as const) {
    const relief = reliefs[end];
    const reach = Math.max(0, setback) + ("depth" in relief ? relief.depth : 0);
    if (relief.shape === "round" && reach < relief.width / 2 - 1e-9) {
      refuse(
        `${end}ReliefDepth`,
        `A round-ended relief ${formatShort(relief.width)} mm wide must reach at least ${formatShort(relief.width / 2)} mm in from the edge; this one reaches ${formatShort(reach)} mm. Make it deeper or narrower.`,
      );
      return;
    }
  }
  for (const pick of values.edges) {
    const dot = pick.at.lastIndexOf(".");
    draft.flanges.push({
      id: `${step}${pick.key}`,
      step,
      edge: { plate: pick.at.slice(0, dot), role: pick.at.slice(dot + 1) },
      up: values.choices.turn === "up",
      angle: shape.angle,
      radius: shape.r,
      k,
      kSource: source,
      setback,
      leg,
      width: widthOf(values),
      reliefs,
      holes: values.holes,
      holeBase: outerSetback(shape) ?? 0,
    });
  }
}

function sentence(raw: Readonly<Record<string, unknown>>): SentencePart[] {
  const c = choicesOf(fields, raw);
  const out: SentencePart[] = [
    "Flange on ",
    { field: "edges" },
    ", ",
    { field: "turn" },
    " ",
    { field: "length" },
  ];
  out.push(" to the ", { field: "lengthTo" }, ", ", { field: "angle" }, ", ", { field: "place" });
  if (c.place === "offset") out.push(" ", { field: "offset" });
  out.push(", ", { field: "span" });
  if (c.span === "inset")
    out.push(" ", { field: "leftInset" }, " left and ", { field: "rightInset" }, " right");
  if (c.span === "width") {
    out.push(" ", { field: "width" }, " ", { field: "at" });
    if (raw.shift !== undefined && String(raw.shift) !== "0") out.push(", moved ", { field: "shift" });
  }
  if (raw.radius !== undefined && raw.radius !== "") out.push(", radius ", { field: "radius" });
  if (raw.k !== undefined && raw.k !== "") out.push(", K ", { field: "k" });
  for (const end of ["left", "right"] as const) {
    const shape = c[`${end}Relief`];
    if (shape === "stock") continue;
    out.push(", ", { field: `${end}Relief` }, ` relief ${end}`);
    if (shape === "square" || shape === "round") out.push(" ", { field: `${end}ReliefWidth` }, " ×");
    if (shape !== "none") out.push(" ", { field: `${end}ReliefDepth` });
  }
  return [...out, "."];
}

/** A plate grown from straight edges through a bend. */
export const flangeStep: StepKind = {
  kind: "flange",
  title: "Flange",
  about: "A bent wall along an edge",
  startsFrom: "edge",
  fields,
  sentence,
  build,
};
