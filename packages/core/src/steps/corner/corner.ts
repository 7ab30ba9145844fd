import { choice, type FieldSpec, type FieldValues, when } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import {
  bringTogether,
  type CornerClosing,
  type CornerRelief,
  cornerReliefLoops,
  type FlangeCorner,
  flangeCornerName,
  flangeCorners,
} from "../../sheet/corners/meeting-legs.ts";
import { attempt } from "../../sheet/draft.ts";
import { takeFlat } from "../../sheet/shaping/cut-flat.ts";
import { refreshEdges } from "../../sheet/shaping/refresh-edges.ts";
import { lengthField } from "../bend-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  choice("which", "Which corners", "all", { all: "all corners", picked: "corners" }),
  {
    kind: "picks",
    key: "corners",
    label: "Single corners",
    of: "corner",
    corners: "flanges",
    optional: true,
    own: ["close", "over", "share", "gap", "relief", "size", "length"],
  },
  choice("close", "Closed by", "mitre", { mitre: "mitred", butt: "butted", open: "left open" }),
  choice(
    "over",
    "Goes over",
    "first",
    { first: "first over second", second: "second over first" },
    { ...when((c) => c.close === "butt") },
  ),
  {
    kind: "quantity",
    key: "share",
    label: "Covers by",
    dimension: "number",
    default: "1",
    min: 0,
    max: 1,
    ...when((c) => c.close === "butt"),
  },
  lengthField("gap", "Gap", "0.2", { max: 100, ...when((c) => c.close !== "open") }),
  choice("relief", "Corner relief", "none", {
    none: "no",
    round: "round",
    square: "square",
    slot: "slot",
    teardrop: "teardrop",
  }),
  lengthField("size", "Relief size", "2*t", {
    min: undefined,
    above: 0,
    max: 1000,
    ...when((c) => c.relief !== "none"),
  }),
  lengthField("length", "Relief length", "4*t", {
    max: 1000,
    ...when((c) => c.relief === "slot" || c.relief === "teardrop"),
  }),
];

function closingOf({ quantities: q, choices }: FieldValues): CornerClosing | undefined {
  const gap = q.gap ?? 0;
  if (choices.close === "mitre") return { by: "mitre", gap };
  if (choices.close === "butt")
    return { by: "butt", over: choices.over as "first" | "second", share: q.share ?? 1, gap };
  return undefined;
}

function reliefOf({ quantities: q, choices }: FieldValues): CornerRelief {
  const size = q.size ?? 0;
  switch (choices.relief) {
    case "round":
    case "square":
      return { shape: choices.relief, size };
    case "slot":
    case "teardrop":
      return { shape: choices.relief, size, length: q.length ?? 0 };
    default:
      return { shape: "none" };
  }
}

/** @param stale Plates that were cut since their edges were read: those that matter to this corner are read now. */
function buildOne(
  corner: FlangeCorner,
  values: FieldValues,
  context: StepContext,
  stale: Set<string>,
): string | undefined {
  const { draft, step } = context;
  for (const { child } of [corner.first, corner.second]) if (stale.delete(child)) refreshEdges(draft, child);
  const result = attempt(draft, () => {
    const closing = closingOf(values);
    const problem = closing && bringTogether(draft, corner, closing, step);
    return problem ? { message: problem } : undefined;
  });
  if (result) return result.message;
  // Rims of two walls meet in the air between them: there is no metal to relieve.
  if (corner.first.parent !== corner.second.parent) return undefined;
  const loops = cornerReliefLoops(corner, reliefOf(values));
  const own = new Set([corner.first.id, corner.second.id]);
  for (const id of loops.length > 0 ? takeFlat(draft, corner.plate, [{ loops }], { step, over: own }) : [])
    stale.add(id);
  return undefined;
}

/** Closes the corners where flanges meet, and relieves them. */
export const cornerStep: StepKind = {
  kind: "corner",
  title: "Corners",
  about: "Closes and relieves the corners where flanges meet",
  startsFrom: "corner",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = ["Close ", { field: "which" }];
    if (c.which === "picked") out.push(" ", { field: "corners" });
    out.push(", ", { field: "close" });
    if (c.close === "butt") out.push(" ", { field: "over" }, " by ", { field: "share" });
    if (c.close !== "open") out.push(", gap ", { field: "gap" });
    out.push(", ", { field: "relief" }, " relief");
    if (c.relief !== "none") out.push(" ", { field: "size" });
    if (c.relief === "slot" || c.relief === "teardrop") out.push(" by ", { field: "length" });
    return [...out, "."];
  },
  build: (values, context) => {
    const { draft, refuse, warn, lost, letterOf } = context;
    const picks = values.picks.corners ?? [];
    /** Corners by name, each with the plate on which it is found. */
    const byName = new Map(
      draft.pieces
        .plates()
        .flatMap(({ id: from }) =>
          flangeCorners(draft, from).map((corner) => [flangeCornerName(corner), { corner, from }] as const),
        ),
    );
    const title = (c: FlangeCorner) =>
      `corner ${letterOf(c.first.child)}–${letterOf(c.second.child)} of plate ${letterOf(c.plate)}`;
    const picked = values.choices.which === "picked";
    if (picked && picks.length === 0) return refuse("corners", "Pick at least one corner, or take all.");
    if (!picked && byName.size === 0)
      return refuse(
        "which",
        "No two flanges meet at a corner yet. Put this step after flanges on neighbouring edges.",
      );
    const stale = new Set<string>();
    const done = new Set<string>();
    for (const pick of picks) {
      const known = byName.get(pick.at);
      if (!known) {
        lost("corners", pick);
        continue;
      }
      const own = pick.own ? context.valuesWith(pick.own) : values;
      const problem = own.problems[0]?.message ?? buildOne(known.corner, own, context, stale);
      if (problem) refuse("close", `At ${title(known.corner)}: ${problem}`);
      done.add(pick.at);
    }
    for (const [name, { from }] of picked ? [] : byName) {
      if (done.has(name)) continue;
      // Bringing one corner together may have shortened a bend of the next.
      const corner = flangeCorners(draft, from).find((c) => flangeCornerName(c) === name);
      if (!corner) continue;
      const problem = buildOne(corner, values, context, stale);
      if (problem) warn("close", `At ${title(corner)}: ${problem}`);
    }
    for (const id of stale) refreshEdges(draft, id);
  },
  work: ({ quantities, choices }) =>
    choices.relief === "none" || quantities.size === undefined
      ? undefined
      : { notch: quantities.size, field: "size" },
};
