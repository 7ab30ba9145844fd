import { type Choices, choice, type FieldSpec, type FieldValues, type RawValues } from "../fields/field.ts";
import {
  cross,
  dot,
  fromFrame,
  hypotenuse,
  type Point,
  point,
  SAME,
  scale,
  subtract,
} from "../plane/point.ts";
import { edgeFrame, edgeLength } from "../sheet/edges.ts";
import type { FoldLine } from "../sheet/growing/grow-fold.ts";
import { roleTitle } from "../sheet/role-title.ts";
import { mm } from "../units/spoken-length.ts";
import { lengthField } from "./bend-values.ts";
import { behindOutline } from "./outline-behind.ts";
import { drawnChain, drawnField } from "./outline-values.ts";
import { pickedEdge, type SentencePart, type StepContext } from "./step-kind.ts";

const straight = { shown: (c: Choices) => c.by === "distance" || c.by === "share" };
const byPoints = { shown: (c: Choices) => c.by === "points" };

/** A line across a plate, as fields: beside an edge, at a share of the plate, or between two points on edges. */
export const lineFields: readonly FieldSpec[] = [
  { kind: "picks", key: "from", single: true, label: "Edge", of: "edge" },
  choice("by", "Line", "distance", {
    distance: "from",
    share: "of the plate from",
    points: "between points on",
    drawn: "as drawn, on the plate of",
  }),
  { ...drawnField, shown: (c: Choices) => c.by === "drawn" },
  lengthField("distance", "Distance", "30", { shown: (c: Choices) => c.by === "distance" }),
  {
    kind: "quantity",
    key: "share",
    label: "Share",
    dimension: "number",
    default: "1/2",
    above: 0,
    max: 1,
    shown: (c) => c.by === "share",
  },
  {
    kind: "quantity",
    key: "tilt",
    label: "Turned by",
    dimension: "angle",
    default: "0",
    min: -89,
    max: 89,
    ...straight,
  },
  { kind: "picks", key: "onto", single: true, label: "Second edge", of: "edge", optional: true, ...byPoints },
  lengthField("fromAt", "From the left end of the first", "20", byPoints),
  lengthField("ontoAt", "From the left end of the second", "20", byPoints),
  choice("moves", "What moves", "far", { far: "the far side", near: "the near side" }),
  choice("reach", "The line runs", "whole", { whole: "across the whole plate", part: "from cut to cut" }),
  lengthField("startAt", "Begins at", "0", { min: -20000, shown: (c: Choices) => c.reach === "part" }),
  lengthField("endAt", "Ends at", "40", { min: -20000, shown: (c: Choices) => c.reach === "part" }),
];

export function lineSentence(raw: RawValues, choices: Choices): SentencePart[] {
  const out: SentencePart[] = [];
  if (choices.by === "points")
    out.push(
      { field: "by" },
      " ",
      { field: "from" },
      " at ",
      { field: "fromAt" },
      " and ",
      { field: "onto" },
      " at ",
      { field: "ontoAt" },
    );
  else if (choices.by === "drawn")
    out.push({ field: "by" }, " ", { field: "from" }, " in ", { field: "drawn" });
  else {
    out.push({ field: choices.by === "share" ? "share" : "distance" }, " ", { field: "by" }, " ", {
      field: "from",
    });
    if (raw.tilt !== undefined && String(raw.tilt) !== "0") out.push(", turned by ", { field: "tilt" });
  }
  out.push(", ", { field: "moves" }, " moves");
  if (choices.reach === "part")
    out.push(", ", { field: "reach" }, " ", { field: "startAt" }, " to ", { field: "endAt" });
  return out;
}

/** The line that a step's fields describe, with what moves on its left; when there is none the step is told. */
export function findLine(values: FieldValues, context: StepContext): FoldLine | undefined {
  const pick = values.picks.from?.[0];
  if (!pick) {
    context.refuse("from", "Pick the edge that the line is measured from.");
    return undefined;
  }
  const found = pickedEdge(context, "from", pick);
  if (!found) return undefined;
  if (values.choices.by === "drawn") return lineAsDrawn(values, context, found);
  return values.choices.by === "points"
    ? lineByPoints(values, context, found)
    : lineBesideEdge(values, context, found);
}

type Found = NonNullable<ReturnType<typeof pickedEdge>>;

function lineBesideEdge(
  values: FieldValues,
  context: StepContext,
  { plate, edge }: Found,
): FoldLine | undefined {
  const { quantities: q, choices } = values;
  const frame = edgeFrame(edge);
  const length = edgeLength(edge);
  const inward = scale(edge.out, -1);
  const depths = plate.metal
    .filter((op) => op.kind === "add")
    .flatMap((op) => op.loops.flat())
    .map((c) => dot(subtract(c.a, edge.left), inward));
  const depth = Math.max(0, ...depths);
  const distance = choices.by === "share" ? (q.share ?? 0.5) * depth : (q.distance ?? 0);
  const tilt = q.tilt ?? 0;
  if (distance >= depth - SAME && Math.abs(tilt) < 1e-9) {
    const letter = context.letterOf(plate.id);
    context.refuse(
      choices.by,
      `The line ${mm(distance)} from edge ${letter} ${roleTitle(edge.role)} lies outside plate ${letter}, which reaches ${mm(depth)} from that edge. Give it a distance between 0 mm and ${mm(depth)}.`,
    );
    return undefined;
  }
  const middle = {
    x: (edge.left.x + edge.right.x) / 2 - edge.out.x * distance,
    y: (edge.left.y + edge.right.y) / 2 - edge.out.y * distance,
  };
  const [cos, sin] = [Math.cos(tilt), Math.sin(tilt)];
  const turned = point(frame.x.x * cos - frame.x.y * sin, frame.x.x * sin + frame.x.y * cos);
  const far = choices.moves === "far";
  const [start, end] = [(q.startAt ?? 0) - length / 2, (q.endAt ?? length) - length / 2];
  const limit = far ? { from: -end, to: -start } : { from: start, to: end };
  if (choices.reach === "part" && end - start <= SAME) {
    context.refuse("endAt", "The line ends where it begins. Let it end further to the right.");
    return undefined;
  }
  return {
    plate: plate.id,
    origin: middle,
    axis: far ? scale(turned, -1) : turned,
    ...(choices.reach === "part" ? { limit } : {}),
  };
}

function lineByPoints(values: FieldValues, context: StepContext, first: Found): FoldLine | undefined {
  const { quantities: q } = values;
  const pick = values.picks.onto?.[0];
  if (!pick) {
    context.refuse("onto", "Pick the edge on which the line ends.");
    return undefined;
  }
  const second = pickedEdge(context, "onto", pick);
  if (!second) return undefined;
  if (second.plate.id !== first.plate.id) {
    context.refuse("onto", "Both ends of the line must stand on edges of the same plate.");
    return undefined;
  }
  const on = ({ edge }: Found, at: number): Point => {
    const f = at / edgeLength(edge);
    return point(
      edge.left.x + (edge.right.x - edge.left.x) * f,
      edge.left.y + (edge.right.y - edge.left.y) * f,
    );
  };
  const a = on(first, q.fromAt ?? 0);
  const b = on(second, q.ontoAt ?? 0);
  if (hypotenuse(b.x - a.x, b.y - a.y) < 1e-6) {
    context.refuse("ontoAt", "The line begins and ends at the same point. Move one of its ends.");
    return undefined;
  }
  return lineFrom(a, b, values, first);
}

/** The one line of an outline, in the frame of the plate that the edge is of. */
function lineAsDrawn(values: FieldValues, context: StepContext, first: Found): FoldLine | undefined {
  const { frame } = first.plate;
  const chain = drawnChain(values, context.outlineOf, () =>
    behindOutline(context.draft, frame, context.letterOf, context.numberOf),
  );
  if (!chain.ok) {
    context.refuse(chain.error.field, chain.error.message);
    return undefined;
  }
  const [only] = chain.value;
  if (chain.value.length > 1 || only.kind !== "line") {
    context.refuse(
      drawnField.key,
      `A fold runs along one straight line; the outline has ${chain.value.length > 1 ? `${chain.value.length} pieces` : "an arc"}. Make the others construction.`,
    );
    return undefined;
  }
  return lineFrom(fromFrame(frame, only.a), fromFrame(frame, only.b), values, first);
}

/** The line from one place to another, with what moves on its left. */
function lineFrom(a: Point, b: Point, values: FieldValues, first: Found): FoldLine {
  const { choices } = values;
  const length = hypotenuse(b.x - a.x, b.y - a.y);
  const axis = scale(subtract(b, a), 1 / length);
  // The near side is the one on which the first edge begins.
  const ends = [first.edge.left, first.edge.right].map((p) => cross(axis, subtract(p, a)));
  const nearLeft = Math.abs(ends[0]) > SAME ? ends[0] > 0 : ends[1] < 0;
  const keep = (choices.moves === "near") === nearLeft;
  const limit = choices.reach === "part";
  return {
    plate: first.plate.id,
    origin: keep ? a : b,
    axis: keep ? axis : scale(axis, -1),
    ...(limit ? { limit: { from: 0, to: length } } : {}),
  };
}
