import { innerSetback } from "../../bend/allowance.ts";
import { choice, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import type { BlankShown } from "../../forming/section.ts";
import { spreadAlong } from "../../plane/lattice.ts";
import { loopFromFrame, polygonLoop } from "../../plane/loop.ts";
import { fromFrame, point } from "../../plane/point.ts";
import { bendOf, workAllMetal } from "../../sheet/draft.ts";
import type { DraftBend } from "../../sheet/draft-pieces.ts";
import { type FeatureLook, featureAt } from "../../sheet/feature.ts";
import type { MetalOp } from "../../sheet/shaping/metal-op.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { countField, lengthField, positive } from "../bend-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

/** A bend that turns by less, or by more, has no corner that a rib would stiffen. */
const [LEAST, MOST] = [20, 150];
const MOST_GUSSETS = 200;

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "bends", label: "Bends", of: "bend" },
  { ...countField("count", "How many", "1", () => true), max: MOST_GUSSETS } as FieldSpec,
  lengthField("width", "Width", "12", { ...positive, max: 1000 }),
  lengthField("depth", "Depth along each leg", "12", {
    ...positive,
    max: 1000,
    about: "from where the inner faces meet",
  }),
  lengthField("ends", "Free at both ends of the bend", "", { optional: true, empty: "as between them" }),
  choice("onBlank", "On the blank", "centre", {
    centre: "its middle, as a mark",
    outline: "its outline, as a mark",
    nothing: "nothing",
  }),
];

/** Where ribs stand along a bend, from its left end; or why they have no room. */
function along(values: FieldValues, bend: DraftBend, context: StepContext): number[] | undefined {
  const { count = 1, width = 0, ends } = values.quantities;
  const many = Math.round(count);
  const free = bend.width - many * width;
  const beside = ends ?? free / (many + 1);
  const between = many > 1 ? (bend.width - 2 * beside - many * width) / (many - 1) : 0;
  if (free < -1e-9 || beside * 2 + width * many > bend.width + 1e-9 || (many > 1 && between < 1e-3)) {
    const room = Math.max(0, Math.floor((bend.width - 2 * (ends ?? 0)) / width - 1e-6));
    context.refuse(
      many > 1 ? "count" : "width",
      `Bend ${context.numberOf(bend.id)} is ${mm(bend.width)} long: ${many === 1 ? "a gusset" : `${many} gussets`} of ${mm(width)} ${many === 1 ? "has" : "have"} no room. ${room > 0 ? `At most ${room} ${room === 1 ? "has" : "have"}.` : "Make it narrower."}`,
    );
    return undefined;
  }
  return spreadAlong(bend.width - 2 * beside - width, { count: many }).map((s) => beside + s);
}

function build(values: FieldValues, context: StepContext) {
  const { step, draft, refuse, lost, numberOf } = context;
  const picks = values.picks.bends ?? [];
  if (picks.length === 0) return refuse("bends", "Pick the bends that are stiffened.");
  const { width = 0, depth = 0 } = values.quantities;
  let pressed = 0;
  for (const pick of picks) {
    const bend = bendOf(draft, pick.at);
    if (!bend) {
      lost("bends", pick);
      continue;
    }
    const angle = toDegrees(bend.angle);
    if (angle < LEAST || angle > MOST)
      return refuse(
        "bends",
        `Bend ${numberOf(bend.id)} turns by ${formatShort(angle, 1)}°: a gusset needs a corner of ${LEAST} to ${MOST}°.`,
      );
    const setback = innerSetback({ t: draft.t, r: bend.radius, angle: bend.angle })!;
    if (depth < setback + 0.1)
      return refuse(
        "depth",
        `The round of bend ${numberOf(bend.id)} takes ${mm(setback)} of each leg: a gusset has to be deeper than that.`,
      );
    const starts = along(values, bend, context);
    if (!starts) return;
    const frame = { origin: bend.origin, x: bend.axis };
    const way = bend.axis.x * bend.out.y - bend.axis.y * bend.out.x > 0 ? 1 : -1;
    const [low, high] = [-(depth - setback), bend.allowance + depth - setback];
    const look: FeatureLook = { kind: "gusset", size: { width, reach: depth } };
    const ops = starts.map((from, k): MetalOp => {
      const corners = [
        point(from, way * low),
        point(from + width, way * low),
        point(from + width, way * high),
        point(from, way * high),
      ];
      const zone = loopFromFrame(frame, polygonLoop(way > 0 ? corners : [...corners].reverse()));
      const middle = { origin: fromFrame(frame, point(from + width / 2, 0)), x: frame.x };
      return {
        ...{ kind: "press", step, loops: [zone] },
        rib: { title: "Gusset", onBlank: values.choices.onBlank as BlankShown },
        feature: featureAt(
          { id: `${step}${pick.key}.${k + 1}`, step, look, piece: `bend:${bend.id}` },
          middle,
        ),
      };
    });
    workAllMetal(draft, { carrier: bend.id }, ops);
    pressed++;
  }
  if (pressed > 0) context.note("depth", "pressed out of the bend's own metal: none is added");
}

/** Ribs that are pressed into bends, from leg to leg, so that the corner does not give. */
export const gussetStep: StepKind = {
  kind: "gusset",
  title: "Gusset",
  about: "Ribs pressed into a bend from leg to leg, spaced evenly",
  startsFrom: "bend",
  fields,
  sentence: (raw) => {
    const out: SentencePart[] = [{ field: "count" }, " gussets across ", { field: "bends" }];
    out.push(", ", { field: "width" }, " wide, ", { field: "depth" }, " deep");
    if (raw.ends !== undefined && String(raw.ends) !== "")
      out.push(", ", { field: "ends" }, " free at both ends");
    return [...out, "."];
  },
  build,
};
