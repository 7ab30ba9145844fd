import {
  type JogNumbers,
  jogFromAngle,
  joggleFromRun,
  likeOffset,
  type OffsetBetween,
} from "../../bend/jog.ts";
import { choice, type FieldProblem, type FieldSpec, type FieldValues, when } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { along, dot, type Point, scale, subtract } from "../../plane/point.ts";
import { fail, type Result } from "../../result.ts";
import { attempt, bendOf, carrierTo, type Refusal } from "../../sheet/draft.ts";
import { type FoldLine, leftOf } from "../../sheet/growing/grow-fold.ts";
import { growJog } from "../../sheet/growing/grow-jog.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { bendSpec, kField, lengthField, radiusField, reasonField, turnField } from "../bend-values.ts";
import { findLine, lineFields, lineSentence } from "../line-values.ts";
import {
  type Outlooks,
  outlooksOf,
  type SectionPiece,
  type SentencePart,
  type StepContext,
  type StepKind,
  type StockValues,
} from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  ...lineFields,
  turnField,
  choice("form", "Form", "jog", { jog: "Jog", joggle: "Joggle", over: "Step over something" }),
  lengthField("offset", "Offset", "8", { min: undefined, above: 0, ...when((c) => c.form === "jog") }),
  choice(
    "between",
    "Measured between",
    "like",
    { like: "like faces", outer: "outer faces", inner: "inner faces" },
    { ...when((c) => c.form === "jog") },
  ),
  lengthField("depth", "Depth", "t", { min: undefined, above: 0, ...when((c) => c.form === "joggle") }),
  lengthField("run", "Run", "12*t", { min: undefined, above: 0, ...when((c) => c.form === "joggle") }),
  lengthField("thingWidth", "Width stepped over", "40", { ...when((c) => c.form === "over") }),
  lengthField("thingHeight", "Height stepped over", "6", { ...when((c) => c.form === "over") }),
  lengthField("clearance", "Clearance", "1", { ...when((c) => c.form === "over") }),
  {
    kind: "quantity",
    key: "angle",
    label: "Angle",
    dimension: "angle",
    default: "90",
    min: 1,
    max: 135,
    ...when((c) => c.form !== "joggle"),
  },
  choice("keep", "Keeps", "folded", { folded: "the folded length", blank: "the blank" }),
  radiusField,
  kField,
  reasonField,
];

/** The numbers of the jog that a step asks for, or a sentence that says what would work. */
export function jogNumbers(values: FieldValues, t: number, r: number): Result<JogNumbers, FieldProblem> {
  const { quantities: q, choices } = values;
  const angle = q.angle ?? Math.PI / 2;
  const at = `radius ${mm(r)} and ${formatShort(toDegrees(angle))}°`;
  if (choices.form === "joggle") {
    const made = joggleFromRun(t, r, q.depth ?? 0, q.run ?? 0);
    if (made.ok) return made;
    const message = `A joggle ${mm(q.depth ?? 0)} deep at radius ${formatShort(r)} takes a run of at least ${mm(upward(made.error))}; ${mm(q.run ?? 0)} is too short.`;
    return fail({ field: "run", message });
  }
  const between = choices.between as OffsetBetween;
  const over = choices.form === "over";
  const offset = over ? (q.thingHeight ?? 0) + (q.clearance ?? 0) : likeOffset(q.offset ?? 0, between, t);
  const made = jogFromAngle(t, r, angle, offset);
  if (made.ok) return made;
  const shift = over ? -(q.clearance ?? 0) : -likeOffset(0, between, t);
  const least = mm(upward(made.error + shift));
  const message = over
    ? `With ${mm(q.clearance ?? 0)} of clearance the thing stepped over must be at least ${least} high at ${at}. Make the clearance larger, or the radius or the angle smaller.`
    : `An offset of ${mm(q.offset ?? 0)} is smaller than a jog can be at ${at}: it must be at least ${least}. Make the radius or the angle smaller, or the offset larger.`;
  return fail({ field: over ? "clearance" : "offset", message });
}

const upward = (v: number) => Math.ceil(v * 1000 - 1e-6) / 1000;

/** A jog of each form; values that only another form has stand at what is typical for the sheet. */
const outlooks = (values: FieldValues, stock: StockValues): Outlooks =>
  outlooksOf(fields, ["form", "between"], values, (chosen) => {
    const { thickness: t } = stock;
    const q = chosen.quantities;
    const radius = q.radius ?? stock.radius;
    const quantities = {
      ...q,
      offset: q.offset ?? 4 * t,
      depth: q.depth ?? t,
      run: q.run ?? 12 * t,
      thingHeight: q.thingHeight ?? 4 * t,
      clearance: q.clearance ?? t,
    };
    const made = jogNumbers({ ...chosen, quantities }, t, radius);
    if (!made.ok) return undefined;
    const numbers = made.value;
    const way = chosen.choices.turn === "down" ? -1 : 1;
    const flat = { length: Math.max(4 * t, numbers.run * 0.4) };
    const out = (sign: number): SectionPiece[] => [
      { turn: sign * way * numbers.angle, radius },
      { length: numbers.middle },
      { turn: -sign * way * numbers.angle, radius },
    ];
    const back = chosen.choices.form === "over" ? [{ length: 6 * t }, ...out(-1)] : [];
    return { t, pieces: [flat, ...out(1), ...back, flat] };
  });

function build(values: FieldValues, context: StepContext) {
  const { step, draft, refuse, stock, editOf } = context;
  const found = findLine(values, context);
  if (!found) return;
  const { quantities: q, choices } = values;
  const edit = editOf(step);
  const radius = edit?.radius ?? q.radius ?? stock.radius;
  const made = jogNumbers(values, stock.thickness, radius);
  if (!made.ok) return refuse(made.error.field, made.error.message);
  const numbers = made.value;
  const shape = { t: stock.thickness, r: radius, angle: numbers.angle };
  const first = bendSpec(context, step, shape, choices.turn === "up", q.k);
  if (!first.ok) return refuse("radius", first.error);
  const up = first.value;
  const down = { ...up, up: !up.up };
  const keep = choices.keep as "folded" | "blank";
  const one = (line: FoldLine, id: string, turn: boolean): Refusal | undefined =>
    growJog(
      draft,
      {
        id,
        middleId: `${id}m`,
        step,
        line,
        first: turn ? up : down,
        second: turn ? down : up,
        middle: numbers.middle,
        keep,
      },
      context,
    );
  const refusal =
    choices.form === "over"
      ? attempt(draft, () => stepOver(values, found, numbers, context, one))
      : one(found, step, true);
  if (refusal) refuse(refusal.field === "distance" ? choices.by : refusal.field, refusal.message);
}

/** Down and back. The line is the middle of the thing, so either side of it may be the one that moves. */
function stepOver(
  values: FieldValues,
  line: FoldLine,
  numbers: JogNumbers,
  { step, draft }: StepContext,
  one: (line: FoldLine, id: string, turn: boolean) => Refusal | undefined,
): Refusal | undefined {
  const { quantities: q } = values;
  const clear = (q.thingWidth ?? 0) + 2 * (q.clearance ?? 0);
  const own = carrierTo(draft, line.plate);
  const behind = own && dot(subtract(own.origin, line.origin), leftOf(line.axis)) > 0;
  const axis = behind ? scale(line.axis, -1) : line.axis;
  const n = leftOf(axis);
  const limit = line.limit && (behind ? { from: -line.limit.to, to: -line.limit.from } : line.limit);
  const at = (plate: string, origin: Point): FoldLine => ({
    plate,
    origin,
    axis,
    ...(limit ? { limit } : {}),
  });
  const start = along(line.origin, n, -clear / 2 - numbers.run);
  const first = one(at(line.plate, start), `${step}o`, true);
  if (first) return first;
  // The plate on top begins where the first jog ends in the flat.
  const end = bendOf(draft, `${step}o`)!;
  const s = dot(subtract(start, end.origin), axis);
  const beyond = along(along(end.origin, axis, s), n, end.allowance + clear);
  return one(at(end.child, beyond), step, false);
}

/** Two equal and opposite bends that set a plate off to another height. */
export const jogStep: StepKind = {
  kind: "jog",
  title: "Jog",
  about: "Sets a plate off to another height",
  startsFrom: "edge",
  fields,
  makes: (raw) => {
    const { id } = raw;
    const own = [
      { plate: `${id}m`, onBend: true },
      { plate: id, onBend: true },
    ];
    if (raw.form !== "over") return own;
    return [{ plate: `${id}om`, onBend: true }, { plate: `${id}o`, onBend: true }, ...own];
  },
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [{ field: "form" }, " ", { field: "turn" }, " "];
    if (c.form === "jog")
      out.push("by ", { field: "offset" }, " between ", { field: "between" }, ", ", { field: "angle" });
    if (c.form === "joggle") out.push({ field: "depth" }, " deep over a run of ", { field: "run" });
    if (c.form === "over")
      out.push(
        { field: "thingWidth" },
        " wide and ",
        { field: "thingHeight" },
        " high with ",
        { field: "clearance" },
        " clear, ",
        { field: "angle" },
      );
    out.push(", ", ...lineSentence(raw, c), ", keeps ", { field: "keep" });
    if (raw.radius !== undefined && raw.radius !== "") out.push(", radius ", { field: "radius" });
    return [...out, "."];
  },
  build,
  outlooks,
  work: ({ quantities: q, choices }, { thickness: t }) => {
    if (choices.form === "joggle") return { jog: q.depth ?? 0, field: "depth" };
    if (choices.form === "over")
      return { jog: (q.thingHeight ?? 0) + (q.clearance ?? 0), field: "thingHeight" };
    return { jog: likeOffset(q.offset ?? 0, choices.between as OffsetBetween, t), field: "offset" };
  },
};
