import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
} from "../../fields/field.ts";
import { subtractLoops } from "../../plane/boolean.ts";
import { spreadAlong } from "../../plane/lattice.ts";
import { type Loop, loopBounds, loopFromFrame, polygonLoop } from "../../plane/loop.ts";
import { boundsMeet, type Frame, point } from "../../plane/point.ts";
import { regionArea, regionLoops } from "../../plane/region.ts";
import { fail, ok, type Result } from "../../result.ts";
import { workAllMetal } from "../../sheet/draft.ts";
import { edgeFrame, edgeLength } from "../../sheet/edges.ts";
import { type Feature, featureLoop, featureOfLoop, type PieceName } from "../../sheet/feature.ts";
import { foldedPlace } from "../../sheet/folding/folded-place.ts";
import { edgeTitle, takenBy } from "../../sheet/growing/site.ts";
import { cutFlat, type FlatCut } from "../../sheet/shaping/cut-flat.ts";
import { shapeMetal } from "../../sheet/shaping/metal.ts";
import type { AddOp } from "../../sheet/shaping/metal-op.ts";
import { refreshEdges } from "../../sheet/shaping/refresh-edges.ts";
import type { Motion } from "../../space/vector.ts";
import { mm } from "../../units/spoken-length.ts";
import { lengthField, positive } from "../bend-values.ts";
import { pickedEdge, type SentencePart, type StepContext, type StepKind } from "../step-kind.ts";
import { passThrough, widened } from "./slot-for.ts";

const MOST_TABS = 1000;
/** A tab that has to be longer, mm, stands beside the plate that it should pass through. */
const LONGEST = 500;

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "edge", single: true, label: "Edge", of: "edge" },
  { kind: "picks", key: "plate", single: true, label: "Through plate", of: "plate" },
  {
    kind: "quantity",
    key: "count",
    label: "Tabs",
    dimension: "number",
    default: "2",
    min: 1,
    max: MOST_TABS,
  },
  lengthField("width", "Width", "12", positive),
  lengthField("ends", "Free at both ends of the edge", "", {
    optional: true,
    empty: "as between them",
  }),
  choice("tips", "Tips", "straight", { straight: "straight", hooked: "hooked" }),
  lengthField("hook", "Hook reaches", "3", {
    ...positive,
    max: 500,
    about: "It is put through, and pushed home along its edge by as much.",
    shown: (c: Choices) => c.tips === "hooked",
  }),
  lengthField("head", "Hook is high", "4", {
    ...positive,
    max: 500,
    shown: (c: Choices) => c.tips === "hooked",
  }),
  lengthField("past", "Stand out by", "0", {
    min: -100,
    max: 500,
    shown: (c: Choices) => c.tips === "straight",
  }),
  lengthField("clearance", "Clearance on each side", "0.1", { max: 10 }),
];

/** How far the hook of a tab reaches along its edge; nought where its tip is straight. */
const hookOf = ({ choices, quantities }: Pick<FieldValues, "choices" | "quantities">): number =>
  choices.tips === "hooked" ? (quantities.hook ?? 0) : 0;

/** Where the tabs stand along their edge: with as much between them as beside them, or so far from its ends. */
function tabsAlong(
  { quantities: q, choices }: FieldValues,
  length: number,
): Result<readonly (readonly [number, number])[], FieldProblem> {
  const many = Math.round(q.count ?? 1);
  const width = q.width ?? 0;
  const free = length - many * width;
  const ends = q.ends ?? (many > 0 ? free / (many + 1) : 0);
  const between = many > 1 ? (length - 2 * ends - many * width) / (many - 1) : 0;
  if (free < -1e-9 || 2 * ends + many * width > length + 1e-9 || (many > 1 && between < 1e-3)) {
    const room = Math.max(0, Math.floor((length - 2 * (q.ends ?? 0)) / (width || 1) - 1e-6));
    return fail({
      field: many > 1 ? "count" : "width",
      message: `The edge is ${mm(length)} long: ${many === 1 ? "one tab" : `${many} tabs`} of ${mm(width)}${q.ends === undefined ? "" : `, with ${mm(q.ends)} free at both ends,`} ${many === 1 ? "has" : "have"} no room. ${room > 0 ? `At most ${room} ${room === 1 ? "has" : "have"}.` : "Make them narrower."}`,
    });
  }
  const hook = hookOf({ quantities: q, choices });
  if (many > 1 && between < hook + 1e-3)
    return fail({
      field: "hook",
      message: `Between the tabs stand ${mm(between)}: a hook that reaches ${mm(hook)} has no room to be pushed home. Make it shorter, or the tabs fewer.`,
    });
  const row = spreadAlong(length - 2 * ends - width, { count: many });
  return ok(row.map((s) => [ends + s, ends + s + width] as const));
}

function build(values: FieldValues, context: StepContext) {
  const { draft, step, refuse, lost, letterOf } = context;
  const [pick, through] = [values.picks.edge?.[0], values.picks.plate?.[0]];
  if (!pick) return refuse("edge", "Pick the edge that carries the tabs.");
  if (!through) return refuse("plate", "Pick the plate that the tabs pass through.");
  const found = pickedEdge(context, "edge", pick);
  if (!found) return;
  const { plate, edge } = found;
  const other = draft.pieces.plate(through.at);
  if (!other) return lost("plate", through);
  const [letter, otherLetter] = [letterOf(plate.id), letterOf(other.id)];
  if (other.id === plate.id)
    return refuse("plate", `Plate ${letter} carries the tabs itself. Pick the plate that they pass through.`);
  const title = edgeTitle(letter, edge);
  const spans = tabsAlong(values, edgeLength(edge));
  if (!spans.ok) return refuse(spans.error.field, spans.error.message);
  const taken = spans.value.map(([from, to]) => takenBy(draft, plate, edge, from, to)).find((t) => t);
  if (taken)
    return refuse(
      "edge",
      `A flange stands on edge ${title} from ${mm(taken.from)} to ${mm(taken.to)}, where a tab should. Place the tabs beside it, or pick a free edge.`,
    );
  const between: Between = {
    ...{ title, otherLetter, t: draft.t, frame: edgeFrame(edge) },
    ...{ own: foldedPlace(draft, plate.id), its: foldedPlace(draft, other.id) },
    metal: shapeMetal(other.metal).regions.flatMap(regionLoops),
  };
  const tabs: AddOp[] = [];
  const slots: FlatCut[] = [];
  for (const [k, span] of spans.value.entries()) {
    const made = tabAt(values, step, k, span, between);
    if (!made.ok) return refuse(made.error.field, made.error.message);
    const { tab, slot } = made.value;
    const piece: PieceName = `plate:${plate.id}`;
    const own = tabFeature(tab, { id: `${step}.tab${k + 1}`, step, piece });
    tabs.push({ kind: "add", step, loops: [featureLoop(tab, own.id)], feature: own });
    const said = `The slot of tab ${k + 1} in plate ${otherLetter}`;
    const opening = featureOfLoop(slot, { id: `${step}.slot${k + 1}`, step, piece: `plate:${other.id}` });
    slots.push({
      ...{ loops: [featureLoop(slot, opening.id)], feature: opening },
      ...(k > 0 ? { place: k } : { title: said }),
    });
  }
  workAllMetal(draft, { plate: plate.id }, tabs);
  refreshEdges(draft, plate.id);
  cutFlat(draft, other.id, slots, { step, over: new Set(draft.held) });
}

/** A tab is no opening: it measures what its box does. */
const tabFeature = (tab: Loop, own: Pick<Feature, "id" | "step" | "piece">): Feature => {
  const made = featureOfLoop(tab, own);
  return { ...made, look: { kind: "tab", size: made.look.size } };
};

/** The edge that carries tabs and the plate that they pass through, folded. */
interface Between {
  readonly title: string;
  readonly otherLetter: string;
  readonly t: number;
  readonly frame: Frame;
  readonly own: Motion;
  readonly its: Motion;
  readonly metal: readonly Loop[];
}

/** One tab and its slot, each developed; or why it cannot be. */
function tabAt(
  values: FieldValues,
  step: string,
  k: number,
  span: readonly [number, number],
  { title, otherLetter, t, frame, own, its, metal }: Between,
): Result<{ readonly tab: Loop; readonly slot: Loop }, FieldProblem> {
  const { past = 0, clearance = 0, head = 0 } = values.quantities;
  const hook = hookOf(values);
  const wrong = (field: string, message: string) => fail<FieldProblem>({ field, message });
  const passing = passThrough(frame, span, own, its, t);
  if (!passing)
    return wrong(
      "plate",
      `Plate ${otherLetter} lies too flat to edge ${title}: tabs need a plate that stands across their way. Pick another.`,
    );
  const { near, far, corners } = passing;
  if (far <= 1e-6)
    return wrong(
      "plate",
      `Plate ${otherLetter} lies behind edge ${title}, folded. Pick the edge that looks towards it.`,
    );
  if (near < -1e-6)
    return wrong(
      "edge",
      `Edge ${title} stands ${mm(-near)} in plate ${otherLetter}, folded. Let its plate end ${mm(-near)} sooner: the tabs pass through, the rest stops there.`,
    );
  const length = hook > 0 ? far + clearance + head : far + past;
  if (length > LONGEST)
    return wrong(
      "plate",
      `Plate ${otherLetter} stands ${mm(near)} from edge ${title}, folded: a tab may be ${mm(LONGEST)} long.`,
    );
  if (length <= near)
    return wrong(
      "past",
      `The tabs would end before plate ${otherLetter}. Let them stand out by more than ${mm(near - far)}.`,
    );
  const [from, to] = span;
  // Put through and pushed home, a hook needs a slot that is longer by its reach on the side that it comes from.
  const opening = hook > 0 ? passThrough(frame, [from - hook, to], own, its, t)!.corners : corners;
  const name = (side: string) => `${step}-${side}${k + 1}`;
  const neck = far + clearance;
  const tab =
    hook > 0
      ? polygonLoop(
          [
            ...[point(to, 0), point(to, neck), point(to + hook, neck), point(to + hook, length)],
            ...[point(from, length), point(from, 0)],
          ],
          [name("right"), name("catch"), name("tip"), name("end"), name("left"), undefined],
        )
      : polygonLoop(
          [point(to, 0), point(to, length), point(from, length), point(from, 0)],
          [name("right"), name("end"), name("left"), undefined],
        );
  const sides = opening.map((_, i) => `${name("slot")}${"abcdefgh"[i]}`);
  const slot = widened(opening, clearance, sides);
  const around = metal.filter((loop) => boundsMeet(loopBounds(loop), loopBounds(slot)));
  const beyond = subtractLoops([slot], around).reduce((sum, r) => sum + regionArea(r), 0);
  if (beyond > 1e-3)
    return wrong(
      "plate",
      `The slot of tab ${k + 1} reaches beyond the metal of plate ${otherLetter}, or into an opening. Move the tabs, or make the plate larger there.`,
    );
  return ok({ tab: loopFromFrame(frame, tab), slot });
}

/** Tabs on an edge that pass through slots in another plate of the folded part; both follow one another. */
export const tabsStep: StepKind = {
  kind: "tabs",
  title: "Tabs",
  about: "Tabs on an edge that pass through slots in another plate",
  startsFrom: "edge",
  fields,
  sentence: (raw) => {
    const other = (key: string) => raw[key] !== undefined && !["", "0"].includes(String(raw[key]));
    const out: SentencePart[] = [{ field: "count" }, " tabs on ", { field: "edge" }];
    out.push(", ", { field: "width" }, " wide, through slots in ", { field: "plate" });
    if (other("ends")) out.push(", ", { field: "ends" }, " free at both ends");
    if (raw.tips === "hooked") out.push(", ", { field: "tips" }, " by ", { field: "hook" });
    else if (other("past")) out.push(", standing out by ", { field: "past" });
    return [...out, ", clearance ", { field: "clearance" }, "."];
  },
  build,
};
