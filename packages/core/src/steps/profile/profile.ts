import { type BendShape, innerSetback, middleSetback, outerSetback } from "../../bend/allowance.ts";
import {
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  type RawValues,
  type RowValue,
  rowsOf,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { type ChainPiece, filletCorner } from "../../plane/corner-fillet.ts";
import { arcAngles, curveLength, directionAt } from "../../plane/curve.ts";
import { cross, dot, type Point } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { growProfile, type ProfileLeg } from "../../sheet/growing/grow-profile.ts";
import type { BendSpec } from "../../sheet/growing/spec.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { bendShape, bendSpec, lengthField } from "../bend-values.ts";
import { drawnChain, drawnField } from "../outline-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

/** What the chain of a profile is to the metal: where its legs' lengths are measured. */
export type ChainOn = "outer" | "inner" | "middle" | "tangent" | "A" | "B";

const byLegs = { shown: (c: Readonly<Record<string, string>>) => c.by !== "drawn" };

const fields: readonly FieldSpec[] = [
  choice("by", "Form", "legs", { legs: "by its legs", drawn: "drawn chain" }),
  { ...drawnField, shown: (c) => c.by === "drawn" },
  {
    kind: "rows",
    key: "legs",
    label: "Legs",
    noun: "leg",
    most: 300,
    ...byLegs,
    columns: [
      choice("form", "Form", "straight", { straight: "straight", arc: "arc" }),
      {
        kind: "quantity",
        key: "length",
        label: "Length",
        dimension: "length",
        default: "0",
        min: 0,
        max: 50000,
        // An arc has no length of its own.
        shown: (c) => c.form !== "arc",
      },
      { kind: "quantity", key: "turn", label: "Turn", dimension: "angle", default: "0", min: -360, max: 360 },
      {
        kind: "quantity",
        key: "radius",
        label: "Radius",
        dimension: "length",
        default: "",
        optional: true,
        min: 0,
        max: 20000,
      },
      {
        kind: "quantity",
        key: "corner",
        label: "Corner",
        dimension: "angle",
        default: "0",
        min: -360,
        max: 360,
        // A straight leg's turn is its corner.
        shown: (c) => c.form === "arc",
      },
    ],
  },
  lengthField("width", "Width", "60", { min: undefined, above: 0 }),
  choice("side", "Swept", "both", {
    both: "to both sides equally",
    right: "to the right",
    left: "to the left",
  }),
  choice("on", "The chain is", "outer", {
    outer: "to the outer mould points, thickness inside",
    inner: "to the inner mould points, thickness outside",
    middle: "in the middle of the thickness, centred",
    tangent: "to the tangent points",
    A: "on side A",
    B: "on side B",
  }),
  choice(
    "angles",
    "Angles between legs",
    "turn",
    { turn: "as the turn", inside: "as the inside angle" },
    byLegs,
  ),
  lengthField("gap", "Seam gap", "0", { max: 1000 }),
];

/** From a bend's tangent line to the corner of the chain that it rounds. */
export function chainSetback(on: ChainOn, up: boolean, shape: BendShape): number | undefined {
  const outer = outerSetback(shape);
  const inner = innerSetback(shape);
  switch (on) {
    case "tangent":
      return 0;
    case "outer":
      return outer;
    case "inner":
      return inner;
    case "middle":
      return middleSetback(shape);
    case "A":
      return up ? outer : inner;
    case "B":
      return up ? inner : outer;
  }
}

/** The inside radius of an arc leg whose radius is measured to the chain. */
export function insideOfArc(on: ChainOn, up: boolean, radius: number, t: number): number {
  const onOuter = on === "outer" || (on === "A" && up) || (on === "B" && !up);
  if (onOuter) return radius - t;
  return on === "middle" ? radius - t / 2 : radius;
}

/** The radius of an arc where the chain runs: the inverse of `insideOfArc`. */
export const chainRadius = (on: ChainOn, up: boolean, inside: number, t: number): number =>
  inside + (0 - insideOfArc(on, up, 0, t));

interface Turn {
  readonly up: boolean;
  readonly shape: BendShape;
  readonly arc: boolean;
  readonly row: number;
}

interface Piece {
  /** Straight length on the chain. */
  length: number;
  /** Key of the row that began it. */
  readonly key: string;
  /** That it only stands between an arc and a corner, and is no leg that anybody gave. */
  readonly bare?: boolean;
  turn?: Turn;
}

/** How far (radians) the chain turns at a corner, from what stands in the table: a turn, or the angle between the legs. */
export function cornerOf(value: number, given: string): number {
  if (given !== "inside" || Math.abs(value) < 1e-9) return value;
  const turned = Math.PI - Math.abs(value);
  return Math.abs(turned) < 1e-9 ? 0 : Math.sign(value) * turned;
}

/** Rows as straight pieces, each with the bend that follows it. An arc follows a piece of no length if need be. */
function piecesOf(
  rows: readonly RowValue[],
  context: StepContext,
  on: ChainOn,
  given: string,
): Result<Piece[], FieldProblem> {
  const pieces: Piece[] = [];
  const t = context.stock.thickness;
  const corner = (value: number, r: number, row: number): Turn | undefined => {
    const turn = cornerOf(value, given);
    return Math.abs(turn) < 1e-9 || row === rows.length - 1
      ? undefined
      : { up: turn > 0, shape: { t, r, angle: Math.abs(turn) }, arc: false, row };
  };
  for (const [i, row] of rows.entries()) {
    const { length = 0, turn = 0, radius } = row.quantities;
    const last = pieces[pieces.length - 1];
    if (row.choices.form === "arc") {
      const arc = arcOf(row, i, t, on);
      if (!arc.ok) return arc;
      const open = last && !last.turn ? last : { length: 0, key: row.key, bare: true };
      if (open !== last) pieces.push(open);
      open.turn = arc.value;
      const next = corner(row.quantities.corner ?? 0, context.stock.radius, i);
      if (next) pieces.push({ length: 0, key: `${row.key}c`, bare: true, turn: next });
      continue;
    }
    // Without a turn between them two straight legs are one.
    if (last && !last.turn) last.length += length;
    else pieces.push({ length, key: row.key });
    pieces[pieces.length - 1].turn = corner(turn, radius ?? context.stock.radius, i);
  }
  if (pieces[pieces.length - 1]?.turn)
    pieces.push({ length: 0, key: `${rows[rows.length - 1].key}z`, bare: true });
  return ok(pieces);
}

function arcOf(row: RowValue, i: number, t: number, on: ChainOn): Result<Turn, FieldProblem> {
  const { turn = 0, radius } = row.quantities;
  const field = (column: string) => `legs.${row.key}.${column}`;
  if (Math.abs(turn) < 1e-6)
    return fail({
      field: field("turn"),
      message: `Leg ${i + 1} is an arc and must turn: give it an angle other than 0.`,
    });
  if (radius === undefined)
    return fail({ field: field("radius"), message: `Leg ${i + 1} is an arc and needs a radius.` });
  const up = turn > 0;
  const r = insideOfArc(on, up, radius, t);
  if (r >= 0) return ok({ up, shape: { t, r, angle: Math.abs(turn) }, arc: true, row: i });
  return fail({
    field: field("radius"),
    message: `Leg ${i + 1}: at ${mm(radius)} the metal inside the arc has no room. Its radius must be at least ${mm(radius - r)}.`,
  });
}

/** A round form with nothing but one arc closes on itself but for its seam: the gap comes off the arc. */
function withGap(pieces: Piece[], gap: number, on: ChainOn): FieldProblem | undefined {
  if (gap <= 0) return undefined;
  const last = pieces[pieces.length - 1];
  if (last.length > 0) {
    if (last.length <= gap)
      return {
        field: "gap",
        message: `The last leg is ${mm(last.length)} long; a seam of ${mm(gap)} takes all of it.`,
      };
    last.length -= gap;
    return undefined;
  }
  const arc = [...pieces].reverse().find((p) => p.turn?.arc);
  if (!arc?.turn) return { field: "gap", message: "There is no leg from whose end a seam could be taken." };
  const { shape, up } = arc.turn;
  // Measured on the side that the chain names, whatever that side is called.
  const off = gap / chainRadius(on, up, shape.r, shape.t);
  if (off >= shape.angle) return { field: "gap", message: `A seam of ${mm(gap)} takes the whole arc.` };
  arc.turn = { ...arc.turn, shape: { ...shape, angle: shape.angle - off } };
  return undefined;
}

/** What the bends of a chain take off the straight pieces before and after them (mm), with arcs and corners as they come out. */
interface Rounded {
  readonly turns: readonly (Turn | undefined)[];
  readonly ends: readonly { readonly before: number; readonly after: number }[];
}

function roundCorners(
  pieces: readonly Piece[],
  ids: readonly string[],
  context: StepContext,
  on: ChainOn,
): Result<Rounded, FieldProblem> {
  const turns = pieces.map((p) => p.turn);
  const ends = pieces.map(() => ({ before: 0, after: 0 }));
  const t = context.stock.thickness;
  const shortened = (i: number, by: number) => {
    const arc = turns[i]!;
    turns[i] = { ...arc, shape: { ...arc.shape, angle: arc.shape.angle - by } };
  };
  const chainPiece = ({ up, shape }: Turn): ChainPiece => ({
    radius: chainRadius(on, up, shape.r, t),
    way: up ? 1 : -1,
  });
  for (const [i, { turn, bare, key }] of pieces.entries()) {
    if (!turn || turn.arc) continue;
    const shape = shapeAt(context, ids[i + 1], turn);
    // A piece that only stands between an arc and a corner has nothing to give: the arc gives.
    const before = bare && i > 0 && pieces[i - 1].turn?.arc ? i - 1 : undefined;
    const after = pieces[i + 1].bare && pieces[i + 1].turn?.arc ? i + 1 : undefined;
    if (before === undefined && after === undefined) {
      const back = chainSetback(on, turn.up, shape);
      if (back === undefined)
        return fail({
          field: "on",
          message: `The turn after leg ${turn.row + 1} is 180° or more and has no mould point: measure the legs to the tangent points, or make it an arc.`,
        });
      ends[i].after = back;
      ends[i + 1].before = back;
      continue;
    }
    if (on === "tangent") continue;
    const fillet = filletCorner(
      before === undefined ? undefined : chainPiece(turns[before]!),
      after === undefined ? undefined : chainPiece(turns[after]!),
      (turn.up ? 1 : -1) * shape.angle,
      chainRadius(on, turn.up, shape.r, t),
    );
    if (!fillet.ok)
      return fail({
        field: before === undefined ? `legs.${key}.turn` : `legs.${key.slice(0, -1)}.corner`,
        message: `The corner after leg ${turn.row + 1} cannot be rounded: ${fillet.error}. Make the angle or the radius there smaller, or the arc's radius larger.`,
      });
    const { value } = fillet;
    if (before === undefined) ends[i].after = value.before;
    else shortened(before, value.before);
    if (after === undefined) ends[i + 1].before = value.after;
    else shortened(after, value.after);
    turns[i] = { ...turn, up: value.turn > 0, shape: { ...turn.shape, angle: Math.abs(value.turn) } };
  }
  for (const turn of turns)
    if (turn?.arc && turn.shape.angle < 1e-6)
      return fail({
        field: "legs",
        message: `The corners beside leg ${turn.row + 1} take all of its arc. Let it turn further, or make the radius of the corners smaller.`,
      });
  return ok({ turns, ends });
}

function legsOf(
  pieces: readonly Piece[],
  context: StepContext,
  on: ChainOn,
): Result<ProfileLeg[], FieldProblem> {
  const ids = pieces.map((p, i) => (i === 0 ? context.step : `${context.step}${p.key}`));
  const rounded = roundCorners(pieces, ids, context, on);
  if (!rounded.ok) return rounded;
  const legs: ProfileLeg[] = [];
  for (const [i, piece] of pieces.entries()) {
    const { before, after } = rounded.value.ends[i];
    const length = piece.length - before - after;
    if (length < -1e-9) {
      const least = mm(Math.ceil((before + after) * 1000 - 1e-6) / 1000);
      return fail({
        field: `legs.${piece.key}.length`,
        message: `Leg of ${mm(piece.length)}: the bends beside it leave less than nothing of it. It must be at least ${least}.`,
      });
    }
    const turn = rounded.value.turns[i];
    const bend = turn && bendOf(context, ids[i + 1], turn);
    if (bend && !bend.ok) return fail({ field: `legs.${piece.key}.radius`, message: bend.error });
    legs.push({ id: ids[i], length: Math.max(0, length), ...(bend ? { bend: bend.value } : {}) });
  }
  return ok(legs);
}

const shapeAt = (context: StepContext, id: string, turn: Turn): BendShape =>
  bendShape(context, id, turn.shape.angle, turn.shape.r);

const bendOf = (context: StepContext, id: string, turn: Turn): Result<BendSpec> =>
  bendSpec(context, id, shapeAt(context, id, turn), turn.up, undefined);

function build(values: FieldValues, context: StepContext) {
  const { draft, refuse, step } = context;
  const drawn = values.choices.by === "drawn";
  const rows = drawn ? drawnLegs(values, context) : ok(values.rows.legs ?? []);
  if (!rows.ok) return refuse(rows.error.field, rows.error.message);
  const on = values.choices.on as ChainOn;
  if (rows.value.length === 0)
    return refuse("legs", "Add at least one leg: a length, and how the chain turns after it.");
  // A row that is drawn has no field of its own.
  const tell = ({ field, message }: FieldProblem) =>
    refuse(drawn && field.startsWith("legs") ? drawnField.key : field, message);
  const found = piecesOf(rows.value, context, on, drawn ? "turn" : values.choices.angles);
  if (!found.ok) return tell(found.error);
  const pieces = found.value;
  const bad = withGap(pieces, values.quantities.gap ?? 0, on);
  if (bad) return tell(bad);
  const turned = pieces.reduce((sum, p) => sum + (p.turn ? p.turn.shape.angle : 0), 0);
  if (pieces.length === 1 && pieces[0].length <= 0)
    return tell({ field: "legs", message: "The only leg has no length. Give it one." });
  const tooRound = pieces.find((p) => p.turn && p.turn.shape.angle > (359.95 * Math.PI) / 180);
  if (tooRound)
    return refuse(
      "gap",
      `An arc of ${formatShort(toDegrees(tooRound.turn!.shape.angle))}° closes on itself and cannot be laid flat. Give it a seam gap. All turns together are ${formatShort(toDegrees(turned))}°.`,
    );
  const legs = legsOf(pieces, context, on);
  if (!legs.ok) return tell(legs.error);
  const { width = 0 } = values.quantities;
  const from = { both: -width / 2, right: 0, left: -width }[values.choices.side] ?? 0;
  growProfile(draft, { id: step, step, legs: legs.value, from, to: from + width }, context.letterOf);
}

/**
 * A drawn chain as legs: its lines are straight ones, its arcs arcs, each turning to the left where its angle is positive.
 * Where the chain turns at a corner the stock's radius rounds it.
 */
function drawnLegs(values: FieldValues, { outlineOf }: StepContext): Result<RowValue[], FieldProblem> {
  const chain = drawnChain(values, outlineOf);
  if (!chain.ok) return chain;
  const curves = chain.value;
  return ok(
    curves.map((c, i): RowValue => {
      const next = curves[i + 1];
      const corner = next ? turnBetween(directionAt(c, 1), directionAt(next, 0)) : 0;
      const key = c.name ?? `c${i}`;
      if (c.kind === "line")
        return { key, choices: { form: "straight" }, quantities: { length: curveLength(c), turn: corner } };
      const { sweep } = arcAngles(c);
      return { key, choices: { form: "arc" }, quantities: { turn: sweep, radius: c.r, corner } };
    }),
  );
}

/** How far a direction turns to the left to become another, radians; what is solved to a hair leads straight on. */
function turnBetween(p: Point, q: Point): number {
  const turn = Math.atan2(cross(p, q), dot(p, q));
  return Math.abs(turn) < 1e-6 ? 0 : turn;
}

/** The plates of a profile, as far as its rows alone tell: one a straight run, and one after each last arc. */
function makes(step: { readonly id: string } & RawValues) {
  // Those of a drawn chain only building shows.
  const rows = step.by === "drawn" ? [] : rowsOf(step, "legs");
  const out = [{ plate: step.id, onBend: false }];
  let open = true;
  let begun = false;
  const begin = (key: string) => {
    if (begun) out.push({ plate: `${step.id}${key}`, onBend: true });
    begun = true;
    open = true;
  };
  const straight = step.angles === "inside" ? 180 : 0;
  const turns = (value: unknown) =>
    value !== undefined &&
    String(value).trim() !== "" &&
    Number(value) !== 0 &&
    Math.abs(Number(value)) !== straight;
  rows.forEach((row, i) => {
    if (row.form === "arc") {
      if (!begun || !open) begin(row.key);
      open = false;
      if (turns(row.corner) && i < rows.length - 1) {
        begin(`${row.key}c`);
        open = false;
      }
      return;
    }
    if (!begun || !open) begin(row.key);
    if (turns(row.turn) && i < rows.length - 1) open = false;
  });
  if (begun && !open) begin(`${rows[rows.length - 1].key}z`);
  return out;
}

/** An open chain of legs and arcs, swept to a width: a part that is bent from the start. */
export const profileStep: StepKind = {
  kind: "profile",
  title: "Profile",
  about: "A chain of legs and arcs, swept to a width",
  startsFrom: "nothing",
  again: true,
  fields,
  makes,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [
      "Profile ",
      ...(c.by === "drawn"
        ? ["of the ", { field: "by" }, " ", { field: "drawn" }]
        : ["of ", { field: "legs" }]),
      ", ",
      { field: "width" },
      " wide, swept ",
      { field: "side" },
    ];
    out.push(", the chain is ", { field: "on" });
    if (raw.gap !== undefined && String(raw.gap) !== "0") out.push(", seam gap ", { field: "gap" });
    return c.on ? [...out, "."] : out;
  },
  build,
};
