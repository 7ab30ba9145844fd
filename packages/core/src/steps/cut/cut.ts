import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  picksOf,
  type RawValues,
} from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { Kept } from "../../kept.ts";
import { curveFromFrame } from "../../plane/curve.ts";
import { moveLoop, rotation } from "../../plane/isometry.ts";
import { type Loop, loopArea } from "../../plane/loop.ts";
import { type Frame, frameY, fromFrame, point } from "../../plane/point.ts";
import { regionArea } from "../../plane/region.ts";
import { fail, ok, type Result } from "../../result.ts";
import { workAllMetal } from "../../sheet/draft.ts";
import type { DraftPlate } from "../../sheet/draft-pieces.ts";
import {
  drawnLook,
  type Feature,
  type FeatureLook,
  featureAt,
  featureLoop,
  featureThrough,
  type PieceName,
} from "../../sheet/feature.ts";
import { boxOfCut, cutFlat, type FlatCut, flatWith } from "../../sheet/shaping/cut-flat.ts";
import { shapeMetal } from "../../sheet/shaping/metal.ts";
import type { MetalOp } from "../../sheet/shaping/metal-op.ts";
import type { Vector } from "../../space/vector.ts";
import { formatShort } from "../../units/quantity.ts";
import { mm, mm2 } from "../../units/spoken-length.ts";
import { arrangedPlaceFields, ownMetal } from "../arranged-on-plate.ts";
import {
  type ArrangedPlace,
  arrangedPlaces,
  arrangementFields,
  arrangementSentence,
  hasPlace,
  leftOutOf,
  tooCrowded,
} from "../arrangement.ts";
import { angleField } from "../bend-values.ts";
import {
  canTurn,
  hardwareIn,
  openingFields,
  openingLook,
  openingLoops,
  openingSentence,
  roundSize,
  sizedByHardware,
} from "../opening-values.ts";
import { behindOutline } from "../outline-behind.ts";
import { axesMark, type FoundPlace, findPlace, frameAt, placeSentence } from "../place-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";
import { bendWay } from "./through-bends.ts";
import { leaningThrough, outlineOfRod, plateWay, type Way } from "./through-folded.ts";

/** The openings of one cut may have this many lines and arcs together. */
const MOST_CURVES = 600_000;

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plate", single: true, label: "Plate", of: "plate" },
  ...openingFields,
  ...arrangedPlaceFields,
  angleField("turned", "Turned by", { shown: canTurn }),
  ...arrangementFields,
  choice("through", "Cuts", "held", {
    held: "this plate and what is held flat with it",
    flat: "everything it meets in the flat",
    folded: "everything in its way, as folded",
  }),
  choice(
    "way",
    "Goes on",
    "both",
    { both: "both ways", a: "on side A", b: "on side B" },
    { shown: (c: Choices) => c.through === "folded" },
  ),
  angleField("leans", "Leans from square by", {
    min: -60,
    max: 60,
    shown: (c: Choices) => c.through === "folded",
  }),
  angleField("leansTo", "Leans toward", {
    about: "From the plate's own X, counter-clockwise seen from side B.",
    shown: (c: Choices) => c.through === "folded",
  }),
  choice(
    "leanSize",
    "Leaning, its size is",
    "face",
    { face: "measured on the plate's face", rod: "that of a straight rod that passes" },
    { shown: (c: Choices) => c.through === "folded" },
  ),
  {
    kind: "picks",
    key: "until",
    single: true,
    label: "Up to plate",
    of: "plate",
    optional: true,
    shown: (c: Choices) => c.through === "folded",
  },
];

/** With the size that a place has of its own: the width, or the diameter, as its form has it. */
function sizedAt(values: FieldValues, { size }: ArrangedPlace): FieldValues {
  if (size === undefined) return values;
  const { choices, quantities } = values;
  const key = { polygon: "across", round: "diameter", keyhole: "diameter", flattened: "diameter" }[
    choices.form
  ];
  return {
    ...values,
    choices: choices.form === "round" ? { ...choices, sized: "diameter" } : choices,
    quantities: { ...quantities, [key ?? "width"]: size },
  };
}

/** A loop of an opening at its place, called by that, which bounds a feature. */
const loopAt = (frame: Frame, loop: Loop, mark: string, feature: string): Loop =>
  loop.map((c) => curveFromFrame(frame, c, { name: c.name && `${c.name}${mark}`, feature }));

function build(given: FieldValues, context: StepContext) {
  const { step, draft, refuse, lost } = context;
  const sized = sizedByHardware(given, context.raw);
  if (!sized.ok) return refuse(sized.error.field, sized.error.message);
  const values = sized.value;
  const pick = values.picks.plate?.[0];
  if (!pick) return refuse("plate", "Pick the plate to cut.");
  const plate = draft.pieces.plate(pick.at);
  if (!plate) return lost("plate", pick);
  const { quantities: q, choices } = values;
  const found: FoundPlace | undefined = hasPlace(choices)
    ? findPlace(values, context, plate)
    : { at: point(0, 0), mark: axesMark(plate.id, point(0, 0), []) };
  if (!found) return;
  context.mark(found.mark);
  const turned = canTurn(choices) ? (q.turned ?? 0) : 0;
  const outlineOf = (key: string) =>
    context.outlineOf(key, () =>
      behindOutline(draft, frameAt(plate, found.at, turned), context.letterOf, context.numberOf),
    );
  const onPlate = (key: string) =>
    context.outlineOf(key, () =>
      behindOutline(draft, frameAt(plate, point(0, 0), 0), context.letterOf, context.numberOf),
    );
  const own = openingLoops(values, step, outlineOf);
  if (!own.ok) return refuse(own.error.field, own.error.message);
  const opening = own.value.map((loop) => moveLoop(rotation(point(0, 0), turned), loop));
  const places = arrangedPlaces(values, onPlate, {
    place: { at: found.at, datum: found.mark.datums[0] },
    opening,
    metal: () => ownMetal(plate),
  });
  if (!places.ok) return refuse(places.error.field, places.error.message);
  const look = openingLook(values, own.value, hardwareIn(context.raw));
  const shaped = shapedAt(values, step, places.value, { own: { loops: own.value, look }, outlineOf });
  if (!shaped.ok) return refuse(shaped.error.field, shaped.error.message);
  const { forms, openings } = shaped.value;
  const curves = openings.reduce((sum, { form }) => sum + forms[form].loops.flat().length, 0);
  if (curves > MOST_CURVES)
    return refuse(
      "arranged",
      `${openings.length} openings of this form have ${curves} sides: there can be at most ${MOST_CURVES} in one cut. Make them fewer, or simpler.`,
    );
  const many = openings.length > 1;
  const said = JSON.stringify([forms, plate.frame, turned, context.letterOf(plate.id)]);
  const placed = cutsOf.of(context.raw, {
    ...{ openings, forms, said, plate, turned, step },
    letterOf: context.letterOf,
  });
  const lean = leanOf(values, plate);
  const square = lean && choices.leanSize === "rod" ? asRods(placed, { openings, plate, lean }) : placed;
  const cuts = lean ? square.map((cut) => leaning(cut, draft.t, lean)) : square;
  const crowd = many ? tooCrowded(cuts.map(boxOfCut), "arranged") : undefined;
  if (crowd) return refuse(crowd.field, crowd.message);
  const { from } = roundSize(values);
  if (from && choices.form === "round") context.note("thread", from);
  if (many) context.note("arranged", counted(cuts, choices.arranged === "fill" ? plate : undefined));
  const over =
    choices.through === "flat" ? new Set(draft.pieces.carriers().map((c) => c.id)) : new Set(draft.held);
  cutFlat(draft, plate.id, cuts, { step, over });
  if (choices.through === "folded") goOn(values, context, plate, { square, cuts, over, lean });
}

/** What an opening looks like: its loops about its place, and what it is. */
interface OpeningForm {
  readonly loops: readonly Loop[];
  readonly look: FeatureLook;
}

/** The openings at their places, each with its form: the step's own, or its own size of it. */
function shapedAt(
  values: FieldValues,
  step: string,
  places: readonly ArrangedPlace[],
  { own, outlineOf }: { own: OpeningForm; outlineOf: StepContext["outlineOf"] },
): Result<{ forms: OpeningForm[]; openings: Opening[] }, FieldProblem> {
  const forms: OpeningForm[] = [own];
  const openings: Opening[] = [];
  for (const [k, place] of places.entries()) {
    if (place.size !== undefined) {
      const sized = sizedAt(values, place);
      const loops = openingLoops(sized, step, outlineOf);
      if (!loops.ok)
        return fail({
          field: `places.${place.mark.slice(1)}.size`,
          message: `At further place ${k}: ${loops.error.message}`,
        });
      forms.push({ loops: loops.value, look: openingLook(sized, loops.value) });
    }
    openings.push({ ...place, form: place.size === undefined ? 0 : forms.length - 1 });
  }
  return ok({ forms, openings });
}

/** Openings that let straight rods of their outlines through, which lean. */
const asRods = (
  placed: readonly FlatCut[],
  { openings, plate, lean }: { openings: readonly Opening[]; plate: DraftPlate; lean: Vector },
): FlatCut[] =>
  placed.map((cut, k) => {
    const centre = fromFrame(plate.frame, openings[k].at);
    return { ...cut, loops: cut.loops.map((l) => outlineOfRod(l, centre, lean)) };
  });

/** What a cut that leans opens of its plate: no form any more that its step gives a size. */
function leaning(cut: FlatCut, t: number, lean: Vector): FlatCut {
  const loops = cut.loops.flatMap((l) => leaningThrough(l, t, lean));
  return { ...cut, loops, ...(cut.feature ? { feature: { ...cut.feature, look: drawnLook(loops) } } : {}) };
}

/** The direction of a cut that leans from square to its plate, in developed coordinates; nothing where it does not. */
function leanOf({ choices, quantities: q }: FieldValues, { frame }: DraftPlate): Vector | undefined {
  const by = q.leans ?? 0;
  if (choices.through !== "folded" || Math.abs(by) < 1e-9) return undefined;
  const to = q.leansTo ?? 0;
  const y = frameY(frame);
  const [c, s] = [Math.cos(to) * Math.sin(by), Math.sin(to) * Math.sin(by)];
  return [frame.x.x * c + y.x * s, frame.x.y * c + y.y * s, Math.cos(by)];
}

interface OnItsWay {
  /** The openings as they go, and as they are cut out of their own plate. */
  readonly square: readonly FlatCut[];
  readonly cuts: readonly FlatCut[];
  readonly over: ReadonlySet<string>;
  readonly lean: Vector | undefined;
}

/** Cuts what stands in the way of the openings when the part is folded, straight on from their plate. */
function goOn(
  values: FieldValues,
  context: StepContext,
  plate: DraftPlate,
  { square, cuts, over, lean }: OnItsWay,
) {
  const { draft, step, letterOf, numberOf, warn, refuse, lost } = context;
  const way = values.choices.way as Way;
  const flat = flatWith(draft, plate.id, (bend) => over.has(bend));
  const ownPlates = new Set(flat.flatMap((p) => (p.kind === "plate" ? [p.id] : [])));
  const inWay = plateWay(draft, ownPlates, plate.id, way, lean);
  const met = square.map((cut) => inWay(cut.loops));
  const pick = values.picks.until?.[0];
  let most = Infinity;
  if (pick) {
    if (draft.pieces.plate(pick.at) === undefined) return lost("until", pick);
    const far = met.flatMap((list) => list.filter((m) => m.plate === pick.at).map((m) => Math.abs(m.far)));
    if (far.length === 0)
      return refuse(
        "until",
        `Plate ${letterOf(pick.at)} does not stand in its way. Pick one that it meets, or none.`,
      );
    most = Math.max(...far) + 1e-6;
  }
  const byPlate = new Map<string, FlatCut[]>();
  const byBend = new Map<string, FlatCut[]>();
  const [alongBend, alongPlate] = [new Set<string>(), new Set<string>()];
  const inBends = bendWay(draft, { own: flat, plate: plate.id, way, lean, most });
  const put = (to: Map<string, FlatCut[]>, id: string, own: readonly Loop[], k: number) => {
    const list = to.get(id) ?? [];
    to.set(id, list);
    const piece: PieceName = to === byPlate ? `plate:${id}` : `bend:${id}`;
    list.push({ ...goingOn(cuts[k].feature, piece, own), ...(k > 0 ? { place: k } : {}) });
  };
  met.forEach((list, k) => {
    const onPlates = new Map<string, readonly Loop[]>();
    for (const id of ownPlates) onPlates.set(id, cuts[k].loops);
    for (const { plate: id, far, loops } of list) {
      if (Math.abs(far) > most) continue;
      put(byPlate, id, loops, k);
      onPlates.set(id, loops);
    }
    for (const { bend, loops, beside } of inBends(square[k].loops, (id) => onPlates.get(id) ?? [])) {
      if (loops.length > 0) put(byBend, bend, loops, k);
      else alongBend.add(bend);
      for (const id of beside) alongPlate.add(id);
    }
  });
  for (const [id, own] of byPlate) cutFlat(draft, id, own, { step, over: new Set() });
  for (const [id, own] of byBend)
    workAllMetal(
      draft,
      { carrier: id },
      own.map((cut): MetalOp => ({ kind: "cut", step, ...cut, over: new Set([id]) })),
    );
  const letters = [...byPlate.keys()].map(letterOf).sort();
  const bends = numbered(byBend.keys(), numberOf);
  if (letters.length === 0 && byBend.size === 0)
    warn("through", `Nothing stands in its way: only plate ${letterOf(plate.id)} is cut.`);
  else {
    const plates =
      letters.length === 0 ? [] : [`${letters.length === 1 ? "plate" : "plates"} ${letters.join(", ")}`];
    context.note("through", [...plates, ...bends].join(" and "));
  }
  const past = [
    ...numbered(alongBend, numberOf),
    ...[...alongPlate]
      .map(letterOf)
      .sort()
      .map((letter) => `plate ${letter}`),
  ];
  if (past.length > 0)
    warn("through", `It runs along ${past.join(" and ")}, which it does not cut. Place it clear of that.`);
}

/** What an opening goes on into on another piece, cut out of it. */
function goingOn(feature: Feature | undefined, piece: PieceName, loops: readonly Loop[]): FlatCut {
  if (!feature) return { loops };
  const own = featureThrough(feature, piece, loops);
  return { loops: loops.map((l) => featureLoop(l, own.id)), feature: own };
}

/** Bends by their numbers. */
function numbered(ids: Iterable<string>, numberOf: (bend: string) => number): string[] {
  const numbers = [...ids].map(numberOf).sort((p, q) => p - q);
  return numbers.length === 0 ? [] : [`${numbers.length === 1 ? "bend" : "bends"} ${numbers.join(", ")}`];
}

/** An opening at its place, by the number of its form. */
interface Opening extends ArrangedPlace {
  readonly form: number;
}

interface ToCut {
  readonly openings: readonly Opening[];
  readonly step: string;
  readonly forms: readonly OpeningForm[];
  readonly plate: DraftPlate;
  readonly turned: number;
  readonly letterOf: (plate: string) => string;
  /** All that the cuts hang on besides the openings. */
  readonly said: string;
}

// What a step of before it has changed elsewhere leaves ten thousand openings where they were: the same records.
const cutsOf = new Kept<RawValues, readonly FlatCut[], ToCut>(
  (_raw, { openings, forms, plate, turned, step, letterOf }) =>
    openings.map((place, k) => {
      const frame = frameAt(plate, place.at, turned + place.turned);
      const { loops, look } = forms[place.form];
      const id = `${step}${place.mark}`;
      return {
        loops: loops.map((loop) => loopAt(frame, loop, place.mark, id)),
        feature: featureAt({ id, step, look, piece: `plate:${plate.id}` }, frame),
        // The first is told by its place, the others with one another.
        ...(k > 0
          ? { place: k }
          : { title: `The cut at ${mm(place.at.x)}, ${mm(place.at.y)} on plate ${letterOf(plate.id)}` }),
      };
    }),
  (before, now) =>
    before.said === now.said &&
    before.openings.length === now.openings.length &&
    now.openings.every((q, k) => {
      const p = before.openings[k];
      return (
        p.mark === q.mark &&
        p.at.x === q.at.x &&
        p.at.y === q.at.y &&
        p.turned === q.turned &&
        p.form === q.form
      );
    }),
);

/** How many there are and how much they open; of a plate that is filled, which is shaped for it, also the share. */
function counted(cuts: readonly FlatCut[], filled: DraftPlate | undefined): string {
  const open = cuts.reduce((sum, { loops }) => sum + loops.reduce((s, l) => s + loopArea(l), 0), 0);
  const whole = filled ? shapeMetal(filled.metal).regions.reduce((sum, r) => sum + regionArea(r), 0) : 0;
  const share = whole > 0 ? `, ${formatShort((100 * open) / whole, 1)} %` : "";
  return `${cuts.length} openings, ${mm2(open)} open${share}`;
}

/** An opening through a plate, or in the flat across plates and bends: once, or in many places. */
export const cutStep: StepKind = {
  kind: "cut",
  title: "Cut",
  about: "Openings, also across bends that are held flat",
  startsFrom: "plate",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const rounded = raw.rounding !== undefined && String(raw.rounding) !== "0";
    const out: SentencePart[] = ["Cut a ", { field: "form" }, ...openingSentence(c, rounded)];
    out.push(" in ", { field: "plate" });
    if (hasPlace(c)) out.push(", ", ...placeSentence(raw, c));
    const turned = raw.turned !== undefined && String(raw.turned) !== "0";
    if (canTurn(c) && turned) out.push(", turned by ", { field: "turned" });
    out.push(...arrangementSentence(raw, c));
    if (c.through !== "held") out.push(", through ", { field: "through" });
    if (c.through === "folded") {
      out.push(" ", { field: "way" });
      if (raw.leans !== undefined && !["", "0"].includes(String(raw.leans)))
        out.push(", leaning by ", { field: "leans" }, " toward ", { field: "leansTo" }, ", its size ", {
          field: "leanSize",
        });
      if (picksOf(raw, "until").length > 0) out.push(", up to ", { field: "until" });
    }
    return [...out, "."];
  },
  sets: hardwareIn,
  leftOut: (step, name) => leftOutOf(step, choicesOf(fields, step), name),
  build,
};
