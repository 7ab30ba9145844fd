import { type BendShape, bendAllowance, kFromAllowance, outerSetback } from "../bend/allowance.ts";
import type { ChartAnswer } from "../bend/chart-look-up.ts";
import type { HemForm } from "../bend/hem-rule.ts";
import type { SourceLink, WhyLine } from "../bend/why-line.ts";
import { choice, type FieldSpec, type FieldValues, LONGEST_TEXT } from "../fields/field.ts";
import { fail, ok, type Result } from "../result.ts";
import type { BendSpec, ReliefSpec } from "../sheet/growing/spec.ts";
import { formatShort } from "../units/quantity.ts";
import type { BendEdit, StepContext } from "./step-kind.ts";

export const RELIEF_SHAPES = [
  { value: "none", label: "no" },
  { value: "torn", label: "torn" },
  { value: "square", label: "square" },
  { value: "round", label: "round-ended" },
] as const;

/** Reliefs as typed: words and sizes. */
export function makeRelief(shape: string, width: number, depth: number): ReliefSpec {
  if (shape === "torn") return { shape, depth };
  if (shape === "square" || shape === "round") return { shape, width, depth };
  return { shape: "none" };
}

/** Limits of a length that is to be more than nothing. */
export const positive = { min: undefined, above: 0 };

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

export const countField = (
  key: string,
  label: string,
  initial: string,
  shown: (c: Readonly<Record<string, string>>) => boolean,
): FieldSpec => ({
  kind: "quantity",
  key,
  label,
  dimension: "number",
  default: initial,
  min: 1,
  max: 1e9,
  shown,
});

/** An angle of up to a whole turn, either way round. */
export const angleField = (
  key: string,
  label: string,
  more: Partial<Extract<FieldSpec, { kind: "quantity" }>> = {},
): FieldSpec => ({
  kind: "quantity",
  key,
  label,
  dimension: "angle",
  default: "0",
  min: -360,
  max: 360,
  ...more,
});

export const radiusField = lengthField("radius", "Inside radius", "", {
  optional: true,
  max: 2000,
  fromStock: "radius",
});

export const kField: FieldSpec = {
  kind: "quantity",
  key: "k",
  label: "K",
  dimension: "number",
  default: "",
  optional: true,
  fromStock: "k",
  min: -5,
  max: 5,
};

/** Why a bend does not go by the stock: it marks an own radius or K as meant. */
export const reasonField: FieldSpec = {
  kind: "text",
  key: "reason",
  label: "Why not by the stock",
  default: "",
  most: LONGEST_TEXT,
  hint: "no reason given",
};

export const turnField: FieldSpec = choice("turn", "Direction", "up", { up: "up", down: "down" });

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

/** Gathers at which ends of a step's bends metal stands, and notes reliefs that were chosen where none does. */
export function reliefNotes(values: FieldValues, context: Pick<StepContext, "note">) {
  const met = new Set<string>();
  let grown = 0;
  return {
    beside: (ends: readonly string[]) => {
      grown++;
      for (const end of ends) met.add(end);
    },
    say: () => {
      for (const end of ["left", "right"]) {
        const chosen = values.choices[`${end}Relief`];
        if (grown === 0 || met.has(end) || chosen === "stock" || chosen === "none") continue;
        context.note(
          `${end}Relief`,
          `no metal stands beside the ${end} end of ${grown > 1 ? "these bends" : "the bend"}, so there is none`,
        );
      }
    },
  };
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

/** Everything that a bend, or a form of hem, is made of, or a sentence that says why it has no length in the flat. */
export function bendSpec(
  context: Pick<StepContext, "stock" | "editOf" | "step" | "raw">,
  id: string,
  shape: BendShape,
  up: boolean,
  ownK: number | undefined,
  hem?: HemForm,
): Result<BendSpec> {
  const edit = context.editOf(id);
  const answer = kFor(context, shape, edit, ownK, hem);
  if (!answer.ok) return answer;
  const { k, source } = answer.value;
  if (bendAllowance(shape, k) < 1e-6)
    return fail(
      // The radius of a hem follows from its form.
      `At radius 0 and K 0 the bend has no length in the flat. Give it ${hem ? "a K" : "a radius or a K"} above 0.`,
    );
  return ok({ up: edit?.flip ? !up : up, angle: shape.angle, radius: shape.r, k, kSource: source });
}

const n = (v: number) => formatShort(v, 4);

/** A bend's K: from a later edit of the bend, the step itself, or the stock, in this order of rank. */
function kFor(
  { stock, step, raw }: Pick<StepContext, "stock" | "step" | "raw">,
  shape: BendShape,
  edit: BendEdit | undefined,
  ownK: number | undefined,
  hem: HemForm | undefined,
): Result<ChartAnswer> {
  if (edit) {
    const { k, allowance, deduction } = edit;
    const made = (value: number, ...lines: WhyLine[]) =>
      ownAnswer(value, "a bend change", edit.step, edit.reason, lines);
    if (k !== undefined) return made(k);
    if (allowance !== undefined)
      return made(kFromAllowance(shape, allowance), { text: `BA = ${n(allowance)}`, ...from(edit.step) });
    if (deduction !== undefined) {
      const setback = outerSetback(shape);
      if (setback === undefined)
        return fail("At 180° or more there is no mould point, so there is no BD either. Give BA or K.");
      const rest = 2 * setback - deduction;
      return made(
        kFromAllowance(shape, rest),
        { text: `BD = ${n(deduction)}`, ...from(edit.step) },
        { text: `BA = 2·tan(θ/2)·(r + t) − BD = ${n(2 * setback)} − ${n(deduction)} = ${n(rest)}` },
      );
    }
  }
  if (ownK === undefined) return ok(hem ? stock.kOfHem(hem, shape) : stock.kOf(shape));
  return ownAnswer(ownK, "this step", step, typeof raw.reason === "string" ? raw.reason : "", []);
}

const from = (step: string) => ({ link: { to: "step", id: step } as const });

/** A K that a step gives by itself. Outside 0 to 1 it needs a reason, and is told. */
function ownAnswer(
  k: number,
  label: string,
  step: string,
  reason: string | undefined,
  before: readonly WhyLine[],
): Result<ChartAnswer> {
  const beyond = k < 0 || k > 1;
  if (beyond && !reason?.trim())
    return fail(
      `K ${n(k)} lies outside 0 to 1, where no sheet has its neutral axis. Correct it, or say why it is meant in “${reasonField.label}”.`,
    );
  const link: SourceLink = { to: "step", id: step };
  const lines = [...before, { text: `K = ${n(k)}`, because: reason || undefined, link }];
  const warning = beyond ? `K ${n(k)} lies outside 0 to 1; it is meant: ${reason}.` : undefined;
  return ok({ k, source: { label, lines, link, warning } });
}
