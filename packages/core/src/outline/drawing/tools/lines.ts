import { hypotenuse } from "../../../plane/point.ts";
import type { Outline, OutlineLine } from "../../outline.ts";
import { directionOf, shapeOf, shareAt } from "../curve-places.ts";
import {
  type Drawn,
  type DrawTool,
  NOTHING,
  type ToolTask,
  type TypedNumbers,
  undrawn,
} from "../draw-tool.ts";
import type { OutlineDraft } from "../outline-draft.ts";
import { along, apart, leftOf, minus, type Place, plus, towards, turnOf, unit, type XY } from "../place.ts";

/** A place moved so that the piece from `from` has the length and direction that are typed. */
export function aimed(place: Place, from: XY, typed: TypedNumbers): Place {
  const { length, angle } = typed;
  if (!length && !angle) return place;
  const d = minus(place.at, from);
  const way = angle ? towards(angle.value) : unit(d);
  const far = length ? length.value : along(d, way);
  const at = plus(from, way, far);
  if (apart(at, place.at) < 1e-9) return place;
  // What caught it no longer does; the way it runs stays, if that was not typed.
  return {
    at,
    ...(place.way && !angle && Math.hypot(...d) > NOTHING ? { way: place.way } : {}),
    ...(place.after ? { after: place.after } : {}),
  };
}

/** The length and the angle from X of a piece. */
export function readPiece(place: Place, from: XY): Record<string, number> {
  const [x, y] = minus(place.at, from);
  return { length: hypotenuse(x, y), angle: Math.atan2(y, x) };
}

/** What a line holds by the way it is drawn. */
export function holdWay(into: OutlineDraft, line: string, { way }: Place): void {
  if (!way) return;
  if (way.kind === "tangent") into.relate("tangent", line, way.round);
  else if ("line" in way) into.relate(way.kind, line, way.line);
  else into.relate(way.kind, line);
}

/** What is typed for a line holds: its length, and its angle from the line before it or from X. */
export function holdTyped(into: OutlineDraft, line: OutlineLine, { typed }: ToolTask, after?: string): void {
  if (typed.length) into.measure("length", typed.length.text, line.id);
  if (!typed.angle) return;
  const quarter = typed.angle.value / (Math.PI / 2);
  if (Math.abs(quarter - Math.round(quarter)) < 1e-12) {
    into.relate(Math.round(quarter) % 2 === 0 ? "level" : "upright", line.id);
    return;
  }
  const before = after === undefined ? undefined : into.curve(after);
  if (before?.kind !== "line") return;
  const [u, v] = [before, line].map((l) => minus(into.points[l.b], into.points[l.a]));
  const between = Math.atan2(Math.abs(turnOf(u, v)), along(u, v));
  if (between > 1e-6 && between < Math.PI - 1e-6)
    into.measure("angle", Number(((between * 180) / Math.PI).toFixed(9)), before.id, line.id);
}

/** Where the piece that was just drawn ends, for the next one of its chain; nothing where the chain came to something. */
export const goesOn = (into: OutlineDraft, end: string, after: string, start: string, place: Place): Drawn =>
  place.caught?.by === "point"
    ? {}
    : { next: { at: into.points[end], caught: { by: "point", id: end }, after, start } };

export const lineTool: DrawTool = {
  kind: "line",
  title: "Lines",
  key: "l",
  group: "draw",
  values: [
    { key: "length", label: "Length", dimension: "length" },
    { key: "angle", label: "Angle", dimension: "angle" },
  ],
  stages: [
    { hint: "Where does it begin?" },
    {
      hint: "Where does the line end? Back at its beginning the chain is closed.",
      values: ["length", "angle"],
    },
  ],
  aim: (place, { places, typed }) => (places.length === 1 ? aimed(place, places[0].at, typed) : place),
  reads: (place, { places }) => (places.length === 1 ? readPiece(place, places[0].at) : {}),
  draw: (into, task) => {
    const [from, to] = task.places;
    if (apart(from.at, to.at) < NOTHING) return undrawn("A line needs some length.");
    const [a, b] = [into.pointAt(from), into.pointAt(to)];
    if (a === b) return undrawn("A line needs two places.");
    const id = into.line(a, b);
    holdWay(into, id, to);
    holdTyped(into, into.curve(id) as OutlineLine, task, from.after);
    return goesOn(into, b, id, from.start ?? a, to);
  },
};

/** The middle of the arc that leaves `from` in the direction `way` and comes to `to`; nothing where that is straight on. */
export function middleOfTangent(from: XY, way: XY, to: XY): { c: XY; ccw: boolean } | undefined {
  const d = minus(to, from);
  const left = leftOf(way);
  const off = along(d, left);
  const far = along(d, d);
  if (Math.abs(off) < 1e-9 * Math.sqrt(far)) return undefined;
  return { c: plus(from, left, far / (2 * off)), ccw: off > 0 };
}

/** The curve from whose end a chain goes on: the one before, or one that ends where it begins. */
const curveBefore = ({ curves }: Pick<Outline, "curves">, from: Place) =>
  curves.find((c) => (from.after === undefined ? endsAt(c, from) : c.id === from.after));

/** The direction in which the curve before leaves the place where a chain goes on. */
function wayOn(outline: Pick<Outline, "points" | "curves">, from: Place): XY | undefined {
  const before = curveBefore(outline, from);
  if (!before || before.kind === "circle") return undefined;
  const shape = shapeOf(before, outline.points);
  const share = shareAt(shape, from.at) > 0.5 ? 1 : 0;
  const [x, y] = unit(directionOf(shape, share));
  return share === 1 ? [x, y] : [-x, -y];
}

export const leadOnTool: DrawTool = {
  kind: "lead-on",
  title: "Arc that leads on",
  key: "a",
  group: "draw",
  values: [{ key: "radius", label: "Radius", dimension: "length" }],
  stages: [
    { hint: "From which end does it lead on?" },
    { hint: "Where does the arc end? It leaves without a kink.", values: ["radius"] },
  ],
  aim: (place, { places, typed }, outline) => {
    const way = places.length === 1 ? wayOn(outline, places[0]) : undefined;
    if (!way || !typed.radius) return place;
    const from = places[0].at;
    const side = turnOf(way, minus(place.at, from)) >= 0 ? 1 : -1;
    const c = plus(from, leftOf(way), side * typed.radius.value);
    return {
      at: plus(c, unit(minus(place.at, c)), typed.radius.value),
      ...(place.after ? { after: place.after } : {}),
    };
  },
  reads: (place, { places }, outline) => {
    const way = places.length === 1 ? wayOn(outline, places[0]) : undefined;
    const middle = way && middleOfTangent(places[0].at, way, place.at);
    return middle ? { radius: apart(middle.c, places[0].at) } : {};
  },
  draw: (into, { places, typed }) => {
    const [from, to] = places;
    const before = curveBefore(into, from)?.id;
    const way = wayOn(into, from);
    if (!before || !way) return undrawn("An arc leads on from the end of a line or of an arc: begin there.");
    if (apart(from.at, to.at) < NOTHING) return undrawn("An arc needs some length.");
    const middle = middleOfTangent(from.at, way, to.at);
    if (!middle) return undrawn("Straight on there is no arc: end it to one side.");
    const [a, b] = [into.pointAt(from), into.pointAt(to)];
    if (a === b) return undrawn("An arc needs two ends.");
    const id = into.arc(a, b, into.point(middle.c), middle.ccw);
    into.relate("tangent", before, id);
    if (typed.radius) into.measure("radius", typed.radius.text, id);
    return goesOn(into, b, id, from.start ?? a, to);
  },
};

const endsAt = (c: OutlineDraft["curves"][number], { caught }: Place): boolean =>
  caught?.by === "point" && c.kind !== "circle" && (c.a === caught.id || c.b === caught.id);
