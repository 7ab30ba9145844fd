import type { BendShape } from "../bend/allowance.ts";
import type { BendSpec, ReliefSpec } from "../sheet/spec.ts";
import { type FieldSpec, type FieldValues, RELIEF_SHAPES } from "./field.ts";
import type { StepContext } from "./step-kind.ts";

/** Reliefs as typed: words and sizes. */
export function makeRelief(shape: string, width: number, depth: number): ReliefSpec {
  if (shape === "torn") return { shape, depth };
  if (shape === "square" || shape === "round") return { shape, width, depth };
  return { shape: "none" };
}

export const lengthField = (key: string, label: string, initial: string, limits: object = {}): FieldSpec => ({
  kind: "quantity",
  key,
  label,
  dimension: "length",
  default: initial,
  min: 0,
  max: 20000,
  ...limits,
});

export const radiusField = lengthField("radius", "Inside radius", "", { optional: true, max: 2000 });

export const kField: FieldSpec = {
  kind: "quantity",
  key: "k",
  label: "K",
  dimension: "number",
  default: "",
  optional: true,
  min: 0,
  max: 1,
};

export const turnField: FieldSpec = {
  kind: "choice",
  key: "turn",
  label: "Direction",
  default: "up",
  options: [
    { value: "up", label: "up" },
    { value: "down", label: "down" },
  ],
};

export function reliefFields(end: "left" | "right"): FieldSpec[] {
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
      ...lengthField(`${key}Width`, `${label} width`, "1.5*t", { min: undefined, above: 0, max: 1000 }),
      shown: sized,
    },
    {
      ...lengthField(`${key}Depth`, `${label} depth`, "t", { max: 1000 }),
      shown: (c) => sized(c) || c[key] === "torn",
    },
  ];
}

export function reliefOf(values: FieldValues, end: "left" | "right", stock: ReliefSpec): ReliefSpec {
  const shape = values.choices[`${end}Relief`];
  const width = values.quantities[`${end}ReliefWidth`] ?? 0;
  const depth = values.quantities[`${end}ReliefDepth`] ?? 0;
  return shape === "stock" ? stock : makeRelief(shape, width, depth);
}

/** A bend's shape from what the step, a later edit of the bend, and the stock say, in this order of rank: edit, step, stock. */
export function bendShape(
  context: Pick<StepContext, "stock" | "editOf">,
  id: string,
  angle: number,
  radius: number | undefined,
): BendShape {
  const edit = context.editOf(id);
  return {
    t: context.stock.thickness,
    r: edit?.radius ?? radius ?? context.stock.radius,
    angle: edit?.angle ?? angle,
  };
}

/** Everything that a bend is made of, or a sentence that says why it has no length in the flat. */
export function bendSpec(
  context: Pick<StepContext, "stock" | "editOf">,
  id: string,
  shape: BendShape,
  up: boolean,
  ownK: number | undefined,
): BendSpec | string {
  const edit = context.editOf(id);
  const k = edit?.k ?? ownK;
  const { k: value, source } =
    k === undefined
      ? context.stock.kOf(shape)
      : { k, source: edit?.k === undefined ? "this step" : "a bend change" };
  if (shape.angle * (shape.r + value * shape.t) < 1e-6)
    return "At radius 0 and K 0 the bend has no length in the flat. Give it a radius or a K above 0.";
  return { up: edit?.flip ? !up : up, angle: shape.angle, radius: shape.r, k: value, kSource: source };
}
