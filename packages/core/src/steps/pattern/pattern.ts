import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { curvesBounds } from "../../plane/curve.ts";
import {
  backOf,
  type Isometry,
  intoFrame,
  moveDirection,
  moveLoop,
  rotation,
  translation,
} from "../../plane/isometry.ts";
import { latticePlace } from "../../plane/lattice.ts";
import { loopBounds, rectangleLoop } from "../../plane/loop.ts";
import { type Bounds, fromFrame, type Point, point, scale } from "../../plane/point.ts";
import { attempt, type OpenDraft } from "../../sheet/draft.ts";
import type { DraftPlate } from "../../sheet/draft-pieces.ts";
import { edgeFrame } from "../../sheet/edges.ts";
import { type Making, makingOf, replicate } from "../../sheet/shaping/replicate.ts";
import {
  LEAST_APART,
  latticeOf,
  OVER_ONE_ANOTHER,
  rowFields,
  rowsSentence,
  tooCloseRows,
  tooCrowded,
  turnBetween,
} from "../arrangement.ts";
import { angleField, countField, lengthField } from "../bend-values.ts";
import { pickedEdge, type SentencePart, type StepContext, type StepKind } from "../step-kind.ts";

const forms = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.form) });

/** A pattern may make this many copies in all, and this many of what has bends and plates of its own. */
export const MOST_COPIES = 100_000;
const MOST_BENT_COPIES = 5000;

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "steps", label: "Steps", of: "step" },
  choice("form", "Form", "row", {
    row: "in a row",
    edge: "along an edge",
    grid: "in a grid",
    round: "around a point",
  }),
  { kind: "picks", key: "edge", single: true, label: "Edge", of: "edge", optional: true, ...forms("edge") },
  {
    kind: "picks",
    key: "plate",
    single: true,
    label: "Plate",
    of: "plate",
    optional: true,
    ...forms("row", "grid", "round"),
  },
  countField("count", "How many", "3", forms("row", "edge", "grid", "round").shown),
  lengthField("pitch", "Apart", "20", { min: -20000, ...forms("row", "edge", "grid") }),
  angleField("direction", "Direction", { ...forms("row", "grid") }),
  countField("rows", "Rows", "2", forms("grid").shown),
  ...rowFields((c) => c.form === "grid"),
  lengthField("x", "About X", "0", { min: -1e5, max: 1e5, ...forms("round") }),
  lengthField("y", "About Y", "0", { min: -1e5, max: 1e5, ...forms("round") }),
  angleField("sweep", "Over", { default: "360", ...forms("round") }),
  {
    kind: "rows",
    key: "leftOut",
    label: "Left out",
    empty: "click what a copy has made to leave it out",
    noun: "copy",
    most: MOST_COPIES,
    line: ["no.", { column: "n" }],
    columns: [{ kind: "quantity", key: "n", label: "Number", dimension: "number", default: "", start: "1" }],
  },
];

/** Where each copy goes, as motions of the flat sheet. The first place is where it stands already. */
function placesOf(values: FieldValues, plate: DraftPlate, edgeAxis: Point | undefined): Isometry[] {
  const { quantities: q, choices } = values;
  const many = Math.round(q.count ?? 1);
  const pitch = q.pitch ?? 0;
  if (choices.form === "round") {
    const about = fromFrame(plate.frame, point(q.x ?? 0, q.y ?? 0));
    const stepAngle = turnBetween(q.sweep, many);
    return Array.from({ length: many - 1 }, (_, i) => rotation(about, stepAngle * (i + 1)));
  }
  // As a cut's rows stand, in the plate's own frame.
  const own = latticeOf(values, pitch);
  const out = backOf(intoFrame(plate.frame));
  const along = choices.form === "edge" && edgeAxis ? scale(edgeAxis, pitch) : moveDirection(out, own.u);
  const rows = choices.form === "grid" ? Math.round(q.rows ?? 1) : 1;
  const lattice = { ...own, origin: point(0, 0), u: along, v: moveDirection(out, own.v) };
  return Array.from({ length: rows * many - 1 }, (_, k) =>
    translation(latticePlace(lattice, (k + 1) % many, Math.floor((k + 1) / many))),
  );
}

/** Turned by less (radians) places lie over one another. */
const LEAST_TURN = 1e-4;

/** Which field has its places lie over one another, and what would work. */
function tooClose({ quantities: q, choices }: FieldValues, total: number): FieldProblem | undefined {
  const many = Math.round(q.count ?? 1);
  if (choices.form === "round") {
    const step = Math.abs(q.sweep ?? 2 * Math.PI) / Math.max(1, many - 1);
    if (total < 2 || step >= LEAST_TURN) return undefined;
    return {
      field: "sweep",
      message: "The places lie over one another. Turn further, or make fewer of them.",
    };
  }
  if (many > 1 && Math.abs(q.pitch ?? 0) < LEAST_APART) return { field: "pitch", message: OVER_ONE_ANOTHER };
  const rows = choices.form === "grid" ? Math.round(q.rows ?? 1) : 1;
  return rows > 1 ? tooCloseRows({ quantities: q, choices }, "rowPitch") : undefined;
}

/** Why so many places are more than a pattern can have; nothing where they are not. */
function tooManyPlaces(total: number, { plates, carriers }: Making): FieldProblem | undefined {
  const bent = plates.length + carriers.length > 0;
  const most = bent ? MOST_BENT_COPIES : MOST_COPIES;
  if (total <= most) return undefined;
  const message = `${total} places are too many: a pattern${bent ? " of what has bends" : ""} can have at most ${most}.`;
  return { field: "count", message };
}

/** The boxes of the copies of a cut, one for all that are repeated: what crowds is each lying over its own copies. */
function copiedBoxes(
  { pieces }: OpenDraft,
  making: Making,
  places: readonly { readonly move: Isometry }[],
): Bounds[] {
  const cuts = pieces
    .plates()
    .flatMap(({ metal }) => metal.filter((op) => op.kind === "cut" && making.steps.has(op.step)).slice(0, 1));
  if (making.plates.length > 0 || cuts.length === 0) return [];
  const { minX, minY, maxX, maxY } = loopBounds(cuts[0].loops[0]);
  const box = rectangleLoop(minX, minY, maxX, maxY);
  return places.map(({ move }) => curvesBounds(moveLoop(move, box)));
}

function build(values: FieldValues, context: StepContext) {
  const { draft, refuse, warn, lost, historyOf, step } = context;
  const picks = values.picks.steps ?? [];
  if (picks.length === 0) return refuse("steps", "Pick at least one step to repeat.");
  const histories = picks.flatMap((p) => {
    const h = historyOf(p.at);
    return h ? [{ step: p.at, ...h }] : [];
  });
  for (const p of picks)
    if (!historyOf(p.at))
      return refuse(
        "steps",
        "A picked step is not built before this one, so there is nothing of it to repeat. Pick another, or mend that step.",
      );
  const { quantities: q, choices } = values;
  const total = Math.round(q.count ?? 1) * (choices.form === "grid" ? Math.round(q.rows ?? 1) : 1);
  if (draft.pieces.size === 0)
    return refuse("steps", "There is no plate to repeat anything on. Put this step after the first plate.");
  const making = makingOf(histories, draft);
  const wrong = tooClose(values, total) ?? tooManyPlaces(total, making);
  if (wrong) return refuse(wrong.field, wrong.message);
  let axis: Point | undefined;
  let plate =
    draft.pieces
      .plates()
      .find((p) => p.metal.some((op) => making.steps.has(op.step)) && !making.plates.includes(p.id)) ??
    draft.pieces.plates()[0];
  if (choices.form === "edge") {
    const pick = values.picks.edge?.[0];
    if (!pick) return refuse("edge", "Pick the edge along which it is repeated.");
    const found = pickedEdge(context, "edge", pick);
    if (!found) return;
    axis = edgeFrame(found.edge).x;
  }
  const picked = values.picks.plate?.[0];
  if (picked) {
    const own = draft.pieces.plate(picked.at);
    if (!own) return lost("plate", picked);
    plate = own;
  }
  if (making.plates.some((id) => draft.roots.some((r) => r.plate === id)))
    return refuse(
      "steps",
      "The step that makes a sheet's first plate cannot be repeated on itself. Pick steps that stand on a plate.",
    );
  const before = draft.pieces.size;
  const left = new Set((values.rows.leftOut ?? []).map((row) => row.quantities.n));
  const places = placesOf(values, plate, axis)
    .map((move, i) => ({ move, mark: `-${step}-${i + 1}`, number: i + 1 }))
    .filter(({ number }) => !left.has(number));
  const crowd = tooCrowded(copiedBoxes(draft, making, places), "count");
  if (crowd) return refuse(crowd.field, crowd.message);
  const standing = places.length + 1;
  const copied = attempt(draft, () => replicate(draft, making, places, step));
  if ("message" in copied) return refuse("count", copied.message);
  if (copied.leftOut > 0)
    warn(
      "count",
      `${standing - copied.leftOut} of ${standing} stand; ${copied.leftOut} ${copied.leftOut === 1 ? "has" : "have"} no edge to stand on. Make the pattern shorter, or the edge longer.`,
    );
  const touched = draft.pieces.plates().some((p) => p.metal.some((op) => op.step === step));
  if (draft.pieces.size === before && !touched && standing > 1)
    refuse("steps", "These steps made nothing that could be repeated here.");
}

/** Which copy of which pattern something is, by the end of its name; nothing where it is none. */
export function copyOfName(name: string): { readonly step: string; readonly n: number } | undefined {
  const found = /-([A-Za-z]\w*)-(\d+)$/.exec(name);
  return found ? { step: found[1], n: Number(found[2]) } : undefined;
}

/** Makes again what some steps made: in a row, along an edge, in a grid or around a point. */
export const patternStep: StepKind = {
  kind: "pattern",
  title: "Pattern",
  about: "Repeats steps in a row, a grid or a circle",
  startsFrom: "part",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = ["Repeat ", { field: "steps" }, " ", { field: "form" }];
    if (c.form === "edge") out.push(" ", { field: "edge" });
    out.push(", ", { field: "count" });
    if (c.form !== "round") out.push(" in all, ", { field: "pitch" }, " apart");
    if (c.form === "row" || c.form === "grid") out.push(", direction ", { field: "direction" });
    if (c.form === "grid") out.push(", ", { field: "rows" }, " rows", ...rowsSentence(c));
    if (c.form === "round")
      out.push(" in all over ", { field: "sweep" }, " about ", { field: "x" }, ", ", { field: "y" });
    return [...out, "."];
  },
  leftOut: ({ id }, name) => {
    const copy = copyOfName(name);
    return copy?.step === id ? { table: "leftOut", add: { n: String(copy.n) } } : undefined;
  },
  build,
};
