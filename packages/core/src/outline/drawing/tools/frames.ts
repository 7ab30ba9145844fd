import { type Drawn, type DrawTool, NOTHING, type ToolTask, type Undrawn, undrawn } from "../draw-tool.ts";
import type { OutlineDraft } from "../outline-draft.ts";
import { along, apart, leftOf, minus, type Place, plus, towards, turnOf, unit, type XY } from "../place.ts";
import { aimed, readPiece } from "./lines.ts";

const SIZES = [
  { key: "width", label: "Width", dimension: "length" },
  { key: "height", label: "Height", dimension: "length" },
] as const;

/** A corner moved so that the rectangle has the sizes that are typed; `half`: they are measured across the first place. */
function corner(place: Place, { places, typed }: ToolTask, half: boolean): Place {
  if (places.length !== 1 || (!typed.width && !typed.height)) return place;
  const [dx, dy] = minus(place.at, places[0].at);
  const part = half ? 2 : 1;
  const size = (typedSize: number | undefined, by: number) =>
    typedSize === undefined ? by : (Math.sign(by) || 1) * (typedSize / part);
  return { at: plus(places[0].at, [size(typed.width?.value, dx), size(typed.height?.value, dy)]) };
}

/** Four lines about two corners, level and upright, from the south on and counter-clockwise. */
function fourSides(
  into: OutlineDraft,
  task: ToolTask,
  low: XY,
  high: XY,
  at: (p: XY) => string,
): Undrawn | string[] {
  if (high[0] - low[0] < NOTHING || high[1] - low[1] < NOTHING)
    return undrawn("A rectangle needs a width and a height.");
  const corners = [low, [high[0], low[1]] as XY, high, [low[0], high[1]] as XY].map(at);
  if (new Set(corners).size < 4) return undrawn("Its corners must stand apart.");
  const sides = corners.map((p, i) => into.line(p, corners[(i + 1) % 4]));
  sides.forEach((side, i) => {
    into.relate(i % 2 === 0 ? "level" : "upright", side);
  });
  if (task.typed.width) into.measure("length", task.typed.width.text, sides[0]);
  if (task.typed.height) into.measure("length", task.typed.height.text, sides[1]);
  return corners;
}

const sortedBox = (p: XY, q: XY): [XY, XY] => [
  [Math.min(p[0], q[0]), Math.min(p[1], q[1])],
  [Math.max(p[0], q[0]), Math.max(p[1], q[1])],
];

export const rectangleTool: DrawTool = {
  kind: "rectangle",
  title: "Rectangle by its corners",
  key: "r",
  group: "draw",
  values: SIZES,
  stages: [
    { hint: "Where is one corner?" },
    { hint: "Where is the other corner?", values: ["width", "height"] },
  ],
  aim: (place, task) => corner(place, task, false),
  reads: (place, { places }) =>
    places.length === 1
      ? { width: Math.abs(place.at[0] - places[0].at[0]), height: Math.abs(place.at[1] - places[0].at[1]) }
      : {},
  draw: (into, task) => {
    const [p, q] = task.places;
    const [low, high] = sortedBox(p.at, q.at);
    const given = (at: XY) => [p, q].find((g) => apart(g.at, at) < 1e-9);
    const made = fourSides(into, task, low, high, (at) => into.pointAt(given(at) ?? { at }));
    return Array.isArray(made) ? {} : made;
  },
};

export const rectangleAboutTool: DrawTool = {
  kind: "rectangle-about",
  title: "Rectangle about its middle",
  key: "e",
  group: "draw",
  values: SIZES,
  stages: [{ hint: "Where is its middle?" }, { hint: "Where is a corner?", values: ["width", "height"] }],
  aim: (place, task) => corner(place, task, true),
  reads: (place, { places }) =>
    places.length === 1
      ? {
          width: 2 * Math.abs(place.at[0] - places[0].at[0]),
          height: 2 * Math.abs(place.at[1] - places[0].at[1]),
        }
      : {},
  draw: (into, task) => {
    const [m, q] = task.places;
    const [low, high] = sortedBox(plus(m.at, minus(m.at, q.at)), q.at);
    const made = fourSides(into, task, low, high, (at) => into.pointAt(apart(at, q.at) < 1e-9 ? q : { at }));
    if (!Array.isArray(made)) return made;
    into.relate("middle", into.pointAt(m), made[0], made[2]);
    return {};
  },
};

export const slotTool: DrawTool = {
  kind: "slot",
  title: "Slot",
  key: "o",
  group: "draw",
  values: [
    { key: "length", label: "Between the middles", dimension: "length" },
    { key: "angle", label: "Angle", dimension: "angle" },
    { key: "width", label: "Width", dimension: "length" },
  ],
  stages: [
    { hint: "Where is the middle of one end?" },
    { hint: "Where is the middle of the other?", values: ["length", "angle"] },
    { hint: "How wide is it?", values: ["width"] },
  ],
  aim: (place, { places, typed }) => {
    if (places.length === 1) return aimed(place, places[0].at, typed);
    if (places.length < 2) return place;
    const [p, q] = places.map((s) => s.at);
    const out = leftOf(unit(minus(q, p)));
    const off = along(minus(place.at, p), out);
    const half = typed.width ? typed.width.value / 2 : Math.abs(off);
    return { at: plus(q, out, (Math.sign(off) || 1) * half) };
  },
  reads: (place, { places }) => {
    if (places.length === 1) return readPiece(place, places[0].at);
    if (places.length < 2) return {};
    return { width: 2 * apart(place.at, places[1].at) };
  },
  draw: (into, { places: [from, to, side], typed }) => {
    const far = apart(from.at, to.at);
    const r = apart(side.at, to.at);
    if (far < NOTHING)
      return undrawn("The middles of its ends must stand apart; at one place it is a circle.");
    if (r < NOTHING) return undrawn("A slot needs a width.");
    const [c, d] = [into.pointAt(from), into.pointAt(to)];
    const out = leftOf(unit(minus(to.at, from.at)));
    const [c1, c2] = [into.point(plus(from.at, out, -r)), into.point(plus(from.at, out, r))];
    const [d1, d2] = [into.point(plus(to.at, out, -r)), into.point(plus(to.at, out, r))];
    const lines = [into.line(c1, d1), into.line(d2, c2)];
    const arcs = [into.arc(d1, d2, d, true), into.arc(c2, c1, c, true)];
    for (const line of lines) for (const arc of arcs) into.relate("tangent", line, arc);
    into.relate("equal", arcs[0], arcs[1]);
    const level = to.way?.kind === "level" || (typed.angle && Math.abs(Math.sin(typed.angle.value)) < 1e-12);
    const upright =
      to.way?.kind === "upright" || (typed.angle && Math.abs(Math.cos(typed.angle.value)) < 1e-12);
    if (level || upright) into.relate(level ? "level" : "upright", lines[0]);
    if (typed.length) into.measure("distance", typed.length.text, c, d);
    if (typed.width) into.measure("diameter", typed.width.text, arcs[0]);
    return {};
  },
};

const MOST_SIDES = 200;

export const polygonTool: DrawTool = {
  kind: "polygon",
  title: "Regular polygon",
  key: "g",
  group: "draw",
  values: [
    { key: "sides", label: "Sides", dimension: "number", default: "6" },
    { key: "diameter", label: "Diameter over its corners", dimension: "length" },
  ],
  stages: [{ hint: "Where is its middle?" }, { hint: "Where is a corner?", values: ["sides", "diameter"] }],
  aim: (place, { places, typed }) =>
    places.length === 1 && typed.diameter
      ? aimed(place, places[0].at, { length: { text: "", value: typed.diameter.value / 2 } })
      : place,
  reads: (place, { places }) => (places.length === 1 ? { diameter: 2 * apart(place.at, places[0].at) } : {}),
  draw: (into, task) => drawPolygon(into, task),
};

function drawPolygon(into: OutlineDraft, { places: [middle, first], typed }: ToolTask): Drawn | Undrawn {
  const count = typed.sides?.value ?? 6;
  if (!Number.isInteger(count) || count < 3 || count > MOST_SIDES)
    return undrawn(`A polygon has 3 to ${MOST_SIDES} sides.`);
  const r = apart(middle.at, first.at);
  if (r < NOTHING) return undrawn("Its diameter must be above 0.");
  const c = into.pointAt(middle);
  const [dx, dy] = minus(first.at, middle.at);
  const from = Math.atan2(dy, dx);
  const corners = Array.from({ length: count }, (_, i) =>
    i === 0 ? into.pointAt(first) : into.point(plus(middle.at, towards(from + (2 * Math.PI * i) / count), r)),
  );
  const round = into.circle(c, r, true);
  const sides = corners.map((p, i) => into.line(p, corners[(i + 1) % count]));
  for (const p of corners) into.relate("on", p, round);
  for (let i = 1; i < count; i++) into.relate("equal", sides[i - 1], sides[i]);
  if (typed.diameter) into.measure("diameter", typed.diameter.text, round);
  // A corner beside or above the middle: it stays there.
  const side = Math.abs(turnOf([1, 0], unit([dx, dy]))) < 1e-9 ? "level" : undefined;
  const above = Math.abs(dx) < 1e-9 * r ? "upright" : undefined;
  if (side ?? above) into.relate((side ?? above)!, c, corners[0]);
  return {};
}
