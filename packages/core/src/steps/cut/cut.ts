import { choice, type FieldProblem, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { type Curve, line } from "../../plane/curve.ts";
import { circleLoop, type Loop, loopFromFrame, rectangleLoop } from "../../plane/loop.ts";
import { type Frame, fromFrame, type Point, point } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { cutFlat } from "../../sheet/shaping/cut-flat.ts";
import { mm } from "../../units/spoken-length.ts";
import { lengthField } from "../bend-values.ts";
import { behindOutline } from "../outline-behind.ts";
import { drawnAreas, drawnField } from "../outline-values.ts";
import { findPlace, placeFields, placeSentence } from "../place-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

type Choices = Readonly<Record<string, string>>;
const forms = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.form) });

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plate", single: true, label: "Plate", of: "plate" },
  choice("form", "Form", "rectangle", {
    rectangle: "rectangle",
    round: "round",
    slot: "slot",
    drawn: "drawn outline",
  }),
  lengthField("width", "Width", "20", { min: undefined, above: 0, ...forms("rectangle", "slot") }),
  lengthField("height", "Height", "10", { min: undefined, above: 0, ...forms("rectangle", "slot") }),
  lengthField("diameter", "Diameter", "10", { min: undefined, above: 0, ...forms("round") }),
  { ...drawnField, ...forms("drawn") },
  ...placeFields,
  {
    kind: "quantity",
    key: "turned",
    label: "Turned by",
    dimension: "angle",
    default: "0",
    min: -360,
    max: 360,
    ...forms("rectangle", "slot", "drawn"),
  },
  choice("through", "Cuts", "held", {
    held: "this plate and what is held flat with it",
    flat: "everything it meets in the flat",
  }),
];

/** What is cut, about the cut's own place; of a drawn outline all of its areas. */
function ownLoops(
  values: FieldValues,
  step: string,
  outlineOf: StepContext["outlineOf"],
): Result<readonly Loop[], FieldProblem> {
  if (values.choices.form !== "drawn") {
    const loop = ownLoop(values, step);
    return loop.ok ? ok([loop.value]) : loop;
  }
  const areas = drawnAreas(values, outlineOf);
  if (!areas.ok) return areas;
  if (areas.value.some((r) => r.holes.length > 0)) {
    const message =
      "Within one of the outline's areas stands another: what is left there would fall out. Leave it out of the outline, or make it construction.";
    return fail({ field: "drawn", message });
  }
  const named = (c: Curve): Curve => ({ ...c, name: `${step}-${c.name}` });
  return ok(areas.value.map(({ outer }) => outer.map(named)));
}

/** The cut's own loop about its centre, counter-clockwise, straight sides named; or what is wrong with it. */
function ownLoop(values: FieldValues, step: string): Result<Loop, FieldProblem> {
  const { quantities: q, choices } = values;
  const [w, h] = [(q.width ?? 0) / 2, (q.height ?? 0) / 2];
  const name = (side: string) => `${step}-${side}`;
  if (choices.form === "round") return ok(circleLoop(point(0, 0), (q.diameter ?? 0) / 2, `cut:${step}`));
  if (choices.form === "rectangle")
    return ok(rectangleLoop(-w, -h, w, h, ["south", "east", "north", "west"].map(name)));
  return ok(slotLoop(w, h, name));
}

function slotLoop(w: number, h: number, name: (side: string) => string): Loop {
  if (w <= h + 1e-9) {
    if (h - w < 1e-9) return circleLoop(point(0, 0), w, name("round:"));
    return slotLoop(h, w, name).map((c): Curve => {
      const turn = (p: Point) => point(-p.y, p.x);
      return c.kind === "line"
        ? { ...c, a: turn(c.a), b: turn(c.b) }
        : { ...c, a: turn(c.a), b: turn(c.b), c: turn(c.c) };
    });
  }
  const s = w - h;
  const arc = (x: number, from: Point, to: Point): Curve => ({
    kind: "arc",
    a: from,
    b: to,
    c: point(x, 0),
    r: h,
    ccw: true,
    name: name("end").replace("-", ":"),
  });
  return [
    line(point(-s, -h), point(s, -h), name("south")),
    arc(s, point(s, -h), point(s, h)),
    line(point(s, h), point(-s, h), name("north")),
    arc(-s, point(-s, h), point(-s, -h)),
  ];
}

/** An opening through a plate, or in the flat across plates and bends. */
export const cutStep: StepKind = {
  kind: "cut",
  title: "Cut",
  about: "An opening, also across bends that are held flat",
  startsFrom: "plate",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = ["Cut a ", { field: "form" }, " in ", { field: "plate" }];
    if (c.form === "rectangle" || c.form === "slot")
      out.push(", ", { field: "width" }, " by ", { field: "height" });
    if (c.form === "round") out.push(", ⌀ ", { field: "diameter" });
    if (c.form === "drawn") out.push(" ", { field: "drawn" });
    out.push(", ", ...placeSentence(raw, c));
    if (raw.turned !== undefined && String(raw.turned) !== "0") out.push(", turned by ", { field: "turned" });
    if (c.through !== "held") out.push(", through ", { field: "through" });
    return [...out, "."];
  },
  build: (values, context) => {
    const { step, draft, refuse, lost } = context;
    const pick = values.picks.plate?.[0];
    if (!pick) return refuse("plate", "Pick the plate to cut.");
    const plate = draft.plates.get(pick.at);
    if (!plate) return lost("plate", pick);
    const place = findPlace(values, context, plate);
    if (!place) return;
    context.mark(place.mark);
    const { quantities: q, choices } = values;
    const turned = choices.form === "round" ? 0 : (q.turned ?? 0);
    const at: Frame = { origin: place.at, x: point(Math.cos(turned), Math.sin(turned)) };
    const frame: Frame = {
      origin: fromFrame(plate.frame, at.origin),
      x: point(
        plate.frame.x.x * at.x.x - plate.frame.x.y * at.x.y,
        plate.frame.x.y * at.x.x + plate.frame.x.x * at.x.y,
      ),
    };
    const behind = () => behindOutline(draft, frame, context.letterOf, context.numberOf);
    const own = ownLoops(values, step, (key) => context.outlineOf(key, behind));
    if (!own.ok) return refuse(own.error.field, own.error.message);
    const loops = own.value.map((loop) => loopFromFrame(frame, loop));
    const over = choices.through === "flat" ? new Set(draft.bends.keys()) : new Set(draft.held);
    const title = `The cut at ${mm(place.at.x)}, ${mm(place.at.y)} on plate ${context.letterOf(plate.id)}`;
    cutFlat(draft, plate.id, loops, { step, over, title });
  },
};
