import { type BendShape, bendAllowance, outerSetback } from "../../bend/allowance.ts";
import {
  type BendPlace,
  type LengthTo,
  leastLength,
  straightLeg,
  tangentSetback,
} from "../../bend/placement.ts";
import {
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  type PickEntry,
  picksOf,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { along, type Point, point } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { bringTogether, flangeCorners } from "../../sheet/corners/meeting-legs.ts";
import { cornerName, outlineCorners } from "../../sheet/corners/round-corners.ts";
import { attempt, carrierTo } from "../../sheet/draft.ts";
import { edgeFrame, edgeLength } from "../../sheet/edges.ts";
import { foldedPlace } from "../../sheet/folding/folded-place.ts";
import { growFlange } from "../../sheet/growing/grow-flange.ts";
import { growLug } from "../../sheet/growing/grow-lug.ts";
import { askedSpan } from "../../sheet/growing/site.ts";
import type { FlangeSpec, LegShape, ReliefSpec, WidthSpec } from "../../sheet/growing/spec.ts";
import { bendMotion } from "../../sheet/pieces/bend-piece.ts";
import { shapeMetal } from "../../sheet/shaping/metal.ts";
import { partsOfName } from "../../sheet/sheet.ts";
import { compose, dotV, moveV, turnV } from "../../space/vector.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import {
  bendShape,
  bendSpec,
  kField,
  lengthField as length,
  radiusField,
  reasonField,
  reliefFields,
  reliefNotes,
  reliefOf,
  turnField,
} from "../bend-values.ts";
import { forEachPick } from "../each-pick.ts";
import { holesFrom, holesOf } from "../hole-values.ts";
import { drawnField, drawnLeg } from "../outline-values.ts";
import { axesMark } from "../place-values.ts";
import {
  type BendSection,
  type Outlooks,
  outlooksOf,
  pickedEdge,
  type SentencePart,
  type StepContext,
  type StepKind,
  type StockValues,
} from "../step-kind.ts";
import { leanField, widthFields, widthOf, widthSentence } from "../width-values.ts";

/** Besides its own length a leg can end level with an edge somewhere else on the part. */
const LEVEL = "level";

const LENGTH_TO: readonly { value: LengthTo | typeof LEVEL; label: string }[] = [
  { value: "outer-mould", label: "outer mould point" },
  { value: "inner-mould", label: "inner mould point" },
  { value: "tangent", label: "tangent" },
  { value: "outermost", label: "outermost face" },
  { value: "overall-height", label: "overall height" },
  { value: LEVEL, label: "level with" },
];

const PLACES: readonly { value: BendPlace; label: string }[] = [
  { value: "outer-face", label: "outer face on the edge" },
  { value: "inner-face", label: "inner face on the edge" },
  { value: "outermost", label: "outermost on the edge" },
  { value: "bend-from-edge", label: "bend starts at the edge" },
  { value: "offset", label: "tangent behind the edge by" },
];

const OWN = [
  "turn",
  "length",
  "lengthTo",
  "angle",
  "place",
  "offset",
  "span",
  "leftInset",
  "rightInset",
  "width",
  "at",
  "shift",
  "radius",
];

const by = (key: string, value: string) => ({
  shown: (c: Readonly<Record<string, string>>) => c[key] === value,
});

/** What a leg may end level with: one of these is picked. */
const LEVEL_FIELDS: readonly FieldSpec[] = [
  {
    kind: "picks",
    key: "levelWith",
    single: true,
    label: "Level with edge",
    of: "edge",
    optional: true,
    ...by("lengthTo", LEVEL),
  },
  {
    kind: "picks",
    key: "levelPlate",
    single: true,
    label: "or plate",
    of: "plate",
    optional: true,
    ...by("lengthTo", LEVEL),
  },
  {
    kind: "picks",
    key: "levelCorner",
    single: true,
    label: "or corner",
    of: "corner",
    optional: true,
    ...by("lengthTo", LEVEL),
  },
];

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "edges", label: "Edges", of: "edge", grows: true, own: OWN },
  turnField,
  length("length", "Length", "25", { shown: (c: Readonly<Record<string, string>>) => c.lengthTo !== LEVEL }),
  ...LEVEL_FIELDS,
  length("beyond", "Beyond it by", "0", { min: -20000, ...by("lengthTo", LEVEL) }),
  {
    kind: "choice",
    key: "lengthTo",
    label: "Length measured to",
    default: "outer-mould",
    options: LENGTH_TO,
  },
  { kind: "quantity", key: "angle", label: "Angle", dimension: "angle", default: "90", min: 0, max: 330 },
  { kind: "choice", key: "place", label: "Where the bend sits", default: "outer-face", options: PLACES },
  length("offset", "Tangent behind the edge by", "0", { min: -1000, ...by("place", "offset") }),
  ...widthFields,
  choice("shape", "Shape", "rectangle", {
    rectangle: "rectangle",
    angles: "trapezoid",
    step: "L or T",
    drawn: "drawn outline",
  }),
  { ...drawnField, ...by("shape", "drawn") },
  leanField("leftLean", "Left side leans in by"),
  leanField("rightLean", "Right side leans in by"),
  length("stepHeight", "Step at", "10", by("shape", "step")),
  length("leftStep", "Left step", "5", { min: -20000, ...by("shape", "step") }),
  length("rightStep", "Right step", "5", { min: -20000, ...by("shape", "step") }),
  radiusField,
  kField,
  reasonField,
  ...reliefFields("left"),
  ...reliefFields("right"),
  choice("meet", "Where these flanges meet", "open", { open: "left open", closed: "closed to a gap of" }),
  length("gap", "Gap", "0.2", { max: 100, ...by("meet", "closed") }),
  holesFrom("12", "up from the outer mould line"),
];

/** The numbers of a flange's section. The error is a sentence that says what would work. */
export function flangeNumbers(
  values: FieldValues,
  context: Pick<StepContext, "stock" | "editOf">,
  id: string,
  level?: (shape: BendShape, setback: number) => number,
): Result<BendSection, FieldProblem> {
  const { quantities: q, choices } = values;
  const shape = bendShape(context, id, q.angle ?? Math.PI / 2, q.radius);
  if (shape.angle < 1e-9) return ok({ shape, setback: 0, leg: q.length ?? 0 });
  if (choices.lengthTo === LEVEL) {
    const setback = tangentSetback(choices.place as BendPlace, shape, q.offset ?? 0);
    const leg = level?.(shape, setback) ?? 0;
    if (leg >= -1e-9) return ok({ shape, setback, leg: Math.max(0, leg) });
    return fail({
      field: "levelWith",
      message: `What it should be level with lies ${mm(-leg)} before the end of its bend. Pick something further out, or let it reach that much beyond.`,
    });
  }
  const lengthTo = choices.lengthTo as LengthTo;
  const leg = straightLeg(lengthTo, q.length ?? 0, shape);
  if (!leg.ok) return fail({ field: "lengthTo", message: leg.error });
  if (leg.value < -1e-9) {
    const to = LENGTH_TO.find((o) => o.value === lengthTo)!.label;
    const message =
      `${mm(q.length ?? 0)} to the ${to} leaves less than nothing after the bend. ` +
      `At radius ${mm(shape.r)} and ${formatShort(toDegrees(shape.angle))}° it must be at least ${mm(Math.ceil(leastLength(lengthTo, shape) * 1000 - 1e-6) / 1000)}.`;
    return fail({ field: "length", message });
  }
  const setback = tangentSetback(choices.place as BendPlace, shape, q.offset ?? 0);
  return ok({ shape, setback, leg: Math.max(0, leg.value) });
}

/** A flange with each place and each way to measure its length. How long a leg is that ends level follows from the part. */
const outlooks = (values: FieldValues, stock: StockValues): Outlooks =>
  outlooksOf(fields, ["place", "lengthTo"], values, (chosen) => {
    if (chosen.choices.lengthTo === LEVEL) return undefined;
    const numbers = flangeNumbers(chosen, { stock, editOf: () => undefined }, "");
    return numbers.ok ? { bend: numbers.value, up: chosen.choices.turn === "up" } : undefined;
  });

function shapeOf(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  edge: number,
): Result<LegShape, FieldProblem> {
  const { choices, quantities: q } = values;
  if (choices.shape === "drawn") {
    const { from, to } = askedSpan(widthOf(values), edge);
    return drawnLeg(values, outlineOf, to - from);
  }
  if (choices.shape === "angles") return ok({ by: "angles", left: q.leftLean ?? 0, right: q.rightLean ?? 0 });
  if (choices.shape === "step")
    return ok({ by: "step", height: q.stepHeight ?? 0, left: q.leftStep ?? 0, right: q.rightStep ?? 0 });
  return ok({ by: "rectangle" });
}

/** A round-ended relief needs room for its end; says which one has none. */
function reliefProblem(
  reliefs: FlangeSpec["reliefs"],
  setback: number,
): { field: string; message: string } | undefined {
  for (const end of ["left", "right"] as const) {
    const relief: ReliefSpec = reliefs[end];
    const reach = Math.max(0, setback) + ("depth" in relief ? relief.depth : 0);
    if (relief.shape !== "round" || reach >= relief.width / 2 - 1e-9) continue;
    return {
      field: `${end}ReliefDepth`,
      message: `A round-ended relief ${mm(relief.width)} wide must reach at least ${mm(relief.width / 2)} in from the edge; this one reaches ${mm(reach)}. Make it deeper or narrower.`,
    };
  }
  return undefined;
}

/** A leg whose leaning or stepped sides meet before its end has no shape. */
function shapeProblem(shape: LegShape, leg: number, width: WidthSpec, edge: number): string | undefined {
  const { from, to } = askedSpan(width, edge);
  const wide = to - from;
  if (shape.by === "angles") {
    const end = wide - (Math.tan(shape.left) + Math.tan(shape.right)) * leg;
    if (end <= 1e-6)
      return `Its leaning sides meet before its end, ${mm(leg)} from the bend. Let them lean less, or make it wider than ${mm(wide - end)}.`;
  }
  if (shape.by === "step" && wide - shape.left - shape.right <= 1e-6)
    return `Its steps leave no width: together they must stay below ${mm(wide)}.`;
  return undefined;
}

function build(values: FieldValues, context: StepContext) {
  const picks = values.picks.edges ?? [];
  if (picks.length === 0) {
    context.refuse("edges", "Pick at least one edge for the flange to grow from.");
    return;
  }
  const reliefs = reliefNotes(values, context);
  forEachPick(picks, values, context, (pick, own) => void buildOne(pick, own, context, reliefs.beside));
  reliefs.say();
  if (values.choices.meet === "closed") closeBetween(values.quantities.gap ?? 0, context);
}

/** Closes the corners between flanges of this step, so that no slit there is wider than the gap. */
function closeBetween(gap: number, { draft, step, warn }: StepContext): void {
  const parents = draft.pieces.carriers().flatMap((b) => (b.step === step ? [b.parent] : []));
  // Returns stand on walls, and meet where these do: at the corners of the plate that the walls stand on.
  const plates = new Set(parents.flatMap((id) => [id, carrierTo(draft, id)?.parent ?? id]));
  for (const plate of plates)
    for (const corner of flangeCorners(draft, plate)) {
      if (corner.first.step !== step || corner.second.step !== step) continue;
      const result = attempt(draft, () => {
        const problem = bringTogether(draft, corner, { by: "mitre", gap }, step);
        return problem ? { message: problem } : undefined;
      });
      if (result) warn("meet", result.message);
    }
}

/** The places of the edge, plate or corner that a leg ends level with, in developed coordinates. */
function levelPoints(
  values: FieldValues,
  context: StepContext,
): { plate: string; points: readonly Point[] } | undefined {
  const { draft, refuse, lost } = context;
  const [edge, plate, corner] = ["levelWith", "levelPlate", "levelCorner"].map(
    (key) => values.picks[key]?.[0],
  );
  if (edge) {
    const found = pickedEdge(context, "levelWith", edge);
    return found && { plate: found.plate.id, points: [found.edge.left, found.edge.right] };
  }
  if (plate) {
    const found = draft.pieces.plate(plate.at);
    if (!found) {
      lost("levelPlate", plate);
      return undefined;
    }
    const points = shapeMetal(found.metal).regions.flatMap((r) => r.outer.map((c) => c.a));
    return { plate: found.id, points };
  }
  if (corner) {
    const { plate: id } = partsOfName(corner.at);
    const corners = draft.pieces.plate(id) !== undefined ? outlineCorners(draft, id) : [];
    const found = corners.find((c) => cornerName(c) === corner.at);
    if (found) return { plate: id, points: [found.before.b] };
    lost("levelCorner", corner);
    return undefined;
  }
  refuse("levelWith", "Pick the edge, the plate or the corner that its tip should be level with.");
  return undefined;
}

/**
 * The straight leg of a flange whose tip stands level with something: as far along the leg, folded, as
 * the farthest point of what it is level with.
 */
function levelLeg(
  pick: PickEntry,
  values: FieldValues,
  context: StepContext,
  shape: BendShape,
  setback: number,
): number | undefined {
  const { draft } = context;
  const to = levelPoints(values, context);
  const from = pickedEdge(context, "edges", pick);
  if (!to || !from) return undefined;
  const id = `${context.step}${pick.key}`;
  const bend = bendSpec(context, id, shape, values.choices.turn === "up", values.quantities.k);
  if (!bend.ok) return 0;
  const { k, up } = bend.value;
  const frame = edgeFrame(from.edge);
  const out = from.edge.out;
  const origin = along(from.edge.left, out, -setback);
  const allowance = bendAllowance(shape, k);
  const curl = { origin, axis: frame.x, out, allowance, k, up };
  const parent = foldedPlace(draft, from.plate.id);
  const place = compose(parent, bendMotion(curl, draft.t, shape.angle, allowance));
  const start = along(origin, out, allowance);
  const base = moveV(place, [start.x, start.y, 0]);
  const direction = turnV(place, [out.x, out.y, 0]);
  const other = foldedPlace(draft, to.plate);
  const reach = to.points.flatMap((p) =>
    [0, draft.t].map((w) => {
      const q = moveV(other, [p.x, p.y, w]);
      return dotV([q[0] - base[0], q[1] - base[1], q[2] - base[2]], direction);
    }),
  );
  return Math.max(...reach) + (values.quantities.beyond ?? 0);
}

function buildOne(
  pick: PickEntry,
  values: FieldValues,
  context: StepContext,
  tellBeside: (ends: readonly string[]) => void,
): void {
  const { step, stock, draft, refuse, editOf } = context;
  const found = pickedEdge(context, "edges", pick);
  if (!found) return;
  const id = `${step}${pick.key}`;
  let lost = false;
  const numbers = flangeNumbers(values, context, id, (shape, setback) => {
    const leg = levelLeg(pick, values, context, shape, setback);
    lost = leg === undefined;
    return leg ?? 0;
  });
  if (lost) return;
  if (!numbers.ok) {
    refuse(numbers.error.field, numbers.error.message);
    return;
  }
  const { shape, setback, leg } = numbers.value;
  context.cameOut(numbers.value);
  const flat = shape.angle < 1e-9;
  const bend = flat
    ? ok({ up: true, angle: 0, radius: shape.r, k: 0.5, kSource: { label: "no bend", lines: [] } })
    : bendSpec(context, id, shape, values.choices.turn === "up", values.quantities.k);
  if (!bend.ok) {
    refuse("radius", bend.error);
    return;
  }
  const reliefs = editOf(id)?.reliefs ?? {
    left: reliefOf(values, "left", stock.relief),
    right: reliefOf(values, "right", stock.relief),
  };
  const width = widthOf(values);
  const legShape = shapeOf(values, context.outlineOf, edgeLength(found.edge));
  if (!legShape.ok) {
    refuse(legShape.error.field, legShape.error.message);
    return;
  }
  const bad = shapeProblem(legShape.value, leg, width, edgeLength(found.edge));
  const problem = bad ? { field: "shape", message: bad } : flat ? undefined : reliefProblem(reliefs, setback);
  if (problem) {
    refuse(problem.field, problem.message);
    return;
  }
  const spec: FlangeSpec = {
    id,
    step,
    edge: partsOfName(pick.at),
    ...bend.value,
    setback,
    leg,
    width,
    reliefs,
    shape: legShape.value,
    holes: holesOf(values),
    holeBase: outerSetback(shape) ?? 0,
  };
  if (spec.holes.length > 0) context.mark(axesMark(id, point(0, -spec.holeBase), []));
  const refusal = flat
    ? growLug(draft, spec, context.letterOf)
    : growFlange(draft, spec, context.letterOf, tellBeside);
  if (refusal) refuse(refusal.field, refusal.message);
}

function sentence(raw: Readonly<Record<string, unknown>>): SentencePart[] {
  const c = choicesOf(fields, raw);
  const out: SentencePart[] = ["Flange on ", { field: "edges" }, ", ", { field: "turn" }, " "];
  if (c.lengthTo === LEVEL) {
    const given = ["levelPlate", "levelCorner"].find((key) => picksOf(raw, key).length > 0);
    out.push({ field: "lengthTo" }, " ", { field: given ?? "levelWith" });
    if (raw.beyond !== undefined && String(raw.beyond) !== "0")
      out.push(" and ", { field: "beyond" }, " more");
  } else out.push({ field: "length" }, " to the ", { field: "lengthTo" });
  out.push(", ", { field: "angle" }, ", ", { field: "place" });
  if (c.place === "offset") out.push(" ", { field: "offset" });
  out.push(", ", ...widthSentence(raw, c));
  if (c.shape === "angles")
    out.push(
      ", ",
      { field: "shape" },
      " ",
      { field: "leftLean" },
      " left and ",
      { field: "rightLean" },
      " right",
    );
  if (c.shape === "drawn") out.push(", ", { field: "shape" }, " ", { field: "drawn" });
  if (c.shape === "step")
    out.push(
      ", ",
      { field: "shape" },
      " at ",
      { field: "stepHeight" },
      " by ",
      { field: "leftStep" },
      " left and ",
      { field: "rightStep" },
      " right",
    );
  if (raw.radius !== undefined && raw.radius !== "") out.push(", radius ", { field: "radius" });
  if (raw.k !== undefined && raw.k !== "") out.push(", K ", { field: "k" });
  for (const end of ["left", "right"] as const) {
    const shape = c[`${end}Relief`];
    if (shape === "stock") continue;
    out.push(", ", { field: `${end}Relief` }, ` relief ${end}`);
    if (shape === "square" || shape === "round") out.push(" ", { field: `${end}ReliefWidth` }, " ×");
    if (shape !== "none") out.push(" ", { field: `${end}ReliefDepth` });
  }
  if (c.meet === "closed") out.push(", corners ", { field: "meet" }, " ", { field: "gap" });
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
  outlooks,
};
