import { isPlain } from "../fields/checking.ts";
import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  type RawValues,
} from "../fields/field.ts";
import type { Curve } from "../plane/curve.ts";
import { asCircle, circleLoop, type Loop } from "../plane/loop.ts";
import {
  flattenedCircle,
  keyholeLoop,
  keyholeReach,
  mostRounding,
  polygonCorners,
  rectangleCorners,
  roundedPolygon,
  slotLoop,
} from "../plane/opening-loops.ts";
import { type Point, point } from "../plane/point.ts";
import { fail, ok, type Result } from "../result.ts";
import { drawnLook, type FeatureLook, type FeatureSize } from "../sheet/feature.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import { itemProblems } from "../stock/read-item.ts";
import { type ClearanceFit, METRIC_THREADS, metricThread } from "../stock/threads.ts";
import { formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { lengthField, positive } from "./bend-values.ts";
import { drawnAreas, drawnField } from "./outline-values.ts";
import type { SentencePart, StepContext } from "./step-kind.ts";

const forms = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.form) });

export const MOST_SIDES = 24;

/** What an opening looks like, as fields: its form, and the sizes that the form has. */
export const openingFields: readonly FieldSpec[] = [
  choice("form", "Form", "rectangle", {
    rectangle: "rectangle",
    round: "round",
    slot: "slot",
    polygon: "polygon",
    keyhole: "keyhole",
    flattened: "round with a flat",
    drawn: "drawn outline",
  }),
  choice(
    "sized",
    "Sized",
    "diameter",
    {
      diameter: "by its diameter",
      clearance: "as clearance for",
      core: "as tap drill for",
      hardware: "to set into it",
    },
    forms("round"),
  ),
  lengthField("width", "Width", "20", { ...positive, ...forms("rectangle", "slot") }),
  lengthField("height", "Height", "10", { ...positive, ...forms("rectangle", "slot") }),
  lengthField("diameter", "Diameter", "10", {
    ...positive,
    shown: (c: Choices) =>
      c.form === "flattened" || c.form === "keyhole" || (c.form === "round" && c.sized === "diameter"),
  }),
  choice("thread", "Thread", "M4", Object.fromEntries(METRIC_THREADS.map(({ name }) => [name, name])), {
    shown: (c) => c.form === "round" && (c.sized === "clearance" || c.sized === "core"),
  }),
  choice(
    "fit",
    "Fit",
    "medium",
    { fine: "fine", medium: "medium", coarse: "coarse" },
    { shown: (c) => c.form === "round" && c.sized === "clearance" },
  ),
  {
    kind: "quantity",
    key: "sides",
    label: "Sides",
    dimension: "number",
    default: "6",
    min: 3,
    max: MOST_SIDES,
    ...forms("polygon"),
  },
  lengthField("across", "Across flats", "8", { ...positive, ...forms("polygon", "flattened") }),
  lengthField("neck", "Neck width", "4", { ...positive, ...forms("keyhole") }),
  lengthField("reach", "Neck length", "10", { ...positive, ...forms("keyhole") }),
  lengthField("rounding", "Corner radius", "0", forms("rectangle", "polygon")),
  { ...drawnField, ...forms("drawn") },
  {
    kind: "item",
    key: "hardware",
    label: "Hardware",
    section: "hardware",
    default: "",
    own: [],
    shown: (c) => c.form === "round" && c.sized === "hardware",
    check: (value, at, say) => {
      for (const p of itemProblems("hardware", { note: "", ...value }, at)) say(p.path, p.message);
    },
  },
];

/** The hardware that is set into a round opening; nothing where none is, or none is chosen. */
export function hardwareIn(raw: RawValues): HardwareItem | undefined {
  const { form = "rectangle", sized, hardware } = raw;
  return form === "round" && sized === "hardware" && isPlain(hardware)
    ? (hardware as unknown as HardwareItem)
    : undefined;
}

/** Values with the size of an opening that hardware asks for; or what is wrong with them. */
export function sizedByHardware(values: FieldValues, raw: RawValues): Result<FieldValues, FieldProblem> {
  const { choices, quantities } = values;
  if (choices.form !== "round" || choices.sized !== "hardware") return ok(values);
  const item = hardwareIn(raw);
  if (!item)
    return fail({
      field: "hardware",
      message: "Choose what is set into it. The shop's hardware is listed in Stock.",
    });
  return ok({
    ...values,
    choices: { ...choices, sized: "diameter" },
    quantities: { ...quantities, diameter: item.opening },
  });
}

/** Whether it matters which way round an opening of a form stands. */
export const canTurn = (c: Choices): boolean => c.form !== "round";

/** The words of an opening, for a step's sentence, from behind its form. */
export function openingSentence(c: Choices, rounded: boolean): SentencePart[] {
  const corners: SentencePart[] = rounded ? [", corners ", { field: "rounding" }] : [];
  switch (c.form) {
    case "round":
      if (c.sized === "diameter") return [", ⌀ ", { field: "diameter" }];
      if (c.sized === "hardware") return [" ", { field: "sized" }, " ", { field: "hardware" }];
      return c.sized === "clearance"
        ? [" ", { field: "sized" }, " ", { field: "thread" }, ", ", { field: "fit" }]
        : [" ", { field: "sized" }, " ", { field: "thread" }];
    case "polygon":
      return [" of ", { field: "sides" }, " sides, ", { field: "across" }, " across flats", ...corners];
    case "keyhole":
      return [", head ⌀ ", { field: "diameter" }, ", neck ", { field: "neck" }, " by ", { field: "reach" }];
    case "flattened":
      return [", ⌀ ", { field: "diameter" }, ", ", { field: "across" }, " across"];
    case "drawn":
      return [" ", { field: "drawn" }];
    case "slot":
      return [", ", { field: "width" }, " by ", { field: "height" }];
    default:
      return [", ", { field: "width" }, " by ", { field: "height" }, ...corners];
  }
}

/** How wide a round opening is, mm, and where the number comes from where it is not typed. */
export function roundSize({ quantities: q, choices }: FieldValues): {
  readonly diameter: number;
  readonly from?: string;
} {
  const thread = choices.sized === "diameter" ? undefined : metricThread(choices.thread);
  if (!thread) return { diameter: q.diameter ?? 0 };
  // A thread is called by its pitch in millimetres, whatever the part is measured in.
  const pitch = `pitch ${formatShort(thread.pitch)} mm`;
  if (choices.sized === "core")
    return { diameter: thread.core, from: `⌀ ${mm(thread.core)}: ISO 2306 for ${thread.name}, ${pitch}` };
  const fit = choices.fit as ClearanceFit;
  const diameter = thread.clearance[fit];
  return { diameter, from: `⌀ ${mm(diameter)}: ISO 273 for ${thread.name}, ${fit}` };
}

/** What an opening is: its form with the sizes it has, the thread it is for and what is set into it. */
export function openingLook(
  values: FieldValues,
  loops: readonly Loop[],
  hardware?: HardwareItem,
): FeatureLook {
  const { quantities: q, choices } = values;
  const sizes = (...keys: readonly (keyof FeatureSize)[]): FeatureSize =>
    Object.fromEntries(keys.flatMap((key) => (q[key] === undefined ? [] : [[key, q[key]]])));
  switch (choices.form) {
    case "round": {
      const thread = choices.sized === "diameter" ? undefined : metricThread(choices.thread);
      const of = choices.sized === "core" ? "core" : "clearance";
      return {
        kind: "round",
        size: { diameter: roundSize(values).diameter },
        ...(thread ? { thread: { name: thread.name, of } } : {}),
        ...(hardware ? { hardware } : {}),
      };
    }
    case "slot":
      return { kind: "slot", size: sizes("width", "height") };
    case "polygon":
      return { kind: "polygon", size: { ...sizes("across", "rounding"), sides: Math.round(q.sides ?? 6) } };
    case "keyhole":
      return { kind: "keyhole", size: sizes("diameter", "neck", "reach") };
    case "flattened":
      return { kind: "flattened", size: sizes("diameter", "across") };
    case "drawn":
      return drawnLook(loops);
    default:
      return { kind: "rectangle", size: sizes("width", "height", "rounding") };
  }
}

/**
 * An opening's loops about the place where it stands, counter-clockwise: one, but for a drawn outline, which has one an
 * area. Straight sides are named `<step>-<side>`, a whole round `cut:<step>`. Or what is wrong with its values.
 */
export function openingLoops(
  values: FieldValues,
  step: string,
  outlineOf: StepContext["outlineOf"],
): Result<readonly Loop[], FieldProblem> {
  if (values.choices.form !== "drawn") {
    const loop = plainLoop(values, step);
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

function plainLoop(values: FieldValues, step: string): Result<Loop, FieldProblem> {
  const { quantities: q, choices } = values;
  const [width, height, diameter] = [q.width ?? 0, q.height ?? 0, q.diameter ?? 0];
  const straight = (side: string) => `${step}-${side}`;
  /** A whole round; arcs beside straight sides go by those. */
  const round = `cut:${step}`;
  const name = (side: string) =>
    side === "round"
      ? round
      : ["south", "north", "east", "west", "flat"].includes(side)
        ? straight(side)
        : `${step}:${side}`;
  switch (choices.form) {
    case "round":
      return ok(circleLoop(point(0, 0), roundSize(values).diameter / 2, round));
    case "slot":
      return ok(slotLoop(width, height, name));
    case "keyhole":
      return keyhole(diameter, q.neck ?? 0, q.reach ?? 0, name);
    case "flattened": {
      const across = q.across ?? 0;
      if (across < diameter) return ok(flattenedCircle(diameter, across, name));
      const message = `Across the flat it must be less than its diameter of ${mm(diameter)}.`;
      return fail({ field: "across", message });
    }
    case "polygon": {
      const sides = Math.round(q.sides ?? 6);
      const names = Array.from({ length: sides }, (_, i) => straight(`side${i + 1}`));
      return rounded(polygonCorners(sides, q.across ?? 0), q.rounding ?? 0, names, round);
    }
    default:
      return rounded(
        rectangleCorners(width, height),
        q.rounding ?? 0,
        ["south", "east", "north", "west"].map(straight),
        round,
      );
  }
}

function rounded(
  corners: readonly Point[],
  radius: number,
  names: readonly string[],
  round: string,
): Result<Loop, FieldProblem> {
  const most = mostRounding(corners);
  if (radius <= most + 1e-9) {
    const loop = roundedPolygon(corners, Math.min(radius, most), names, `${names[0]}:round`);
    const circle = asCircle(loop);
    return ok(circle ? circleLoop(circle.c, circle.r, round) : loop);
  }
  return fail({
    field: "rounding",
    message: `A corner radius of ${mm(radius)} has no room; at most ${mm(most)} fits.`,
  });
}

function keyhole(
  head: number,
  neck: number,
  reach: number,
  name: (side: string) => string,
): Result<Loop, FieldProblem> {
  if (neck >= head)
    return fail({ field: "neck", message: `The neck must be narrower than the head of ${mm(head)}.` });
  const least = keyholeReach(head, neck);
  if (reach > least + 1e-6) return ok(keyholeLoop(head, neck, reach, name));
  const message = `The neck must be longer than ${mm(least)}: up to there it lies within the head.`;
  return fail({ field: "reach", message });
}
