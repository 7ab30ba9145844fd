import { type DrawTool, NOTHING, undrawn } from "../draw-tool.ts";
import { along, apart, leftOf, minus, plus, turnOf, unit, type XY } from "../place.ts";
import { aimed } from "./lines.ts";

/** The middle of the circle through three places; nothing where they are in line. */
export function middleOfThree(p: XY, q: XY, r: XY): XY | undefined {
  const [u, v] = [minus(q, p), minus(r, p)];
  const twice = 2 * turnOf(u, v);
  if (Math.abs(twice) < 1e-9 * Math.hypot(...u) * Math.hypot(...v)) return undefined;
  const [uu, vv] = [along(u, u), along(v, v)];
  return [p[0] + (v[1] * uu - u[1] * vv) / twice, p[1] + (u[0] * vv - v[0] * uu) / twice];
}

/** A place on an arc of a radius from `a` to `b`: on the side of the pointer, the long way round if that is farther off. */
function bulge(a: XY, b: XY, pointer: XY, r: number): XY | undefined {
  const chord = minus(b, a);
  const half = Math.hypot(...chord) / 2;
  if (r < half) return undefined;
  const middle: XY = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const side = turnOf(chord, minus(pointer, a)) >= 0 ? 1 : -1;
  const out = leftOf(unit(chord)).map((v) => v * side) as unknown as XY;
  const height = Math.sqrt(r * r - half * half);
  const off = along(minus(pointer, middle), out);
  return plus(middle, out, off > r ? r + height : r - height);
}

export const arcTool: DrawTool = {
  kind: "arc",
  title: "Arc through three places",
  key: "t",
  group: "draw",
  values: [{ key: "radius", label: "Radius", dimension: "length" }],
  stages: [
    { hint: "Where does the arc begin?" },
    { hint: "Where does it end?" },
    { hint: "Which place does it pass through?", values: ["radius"] },
  ],
  aim: (place, { places, typed }) => {
    if (places.length < 2 || !typed.radius) return place;
    const at = bulge(places[0].at, places[1].at, place.at, typed.radius.value);
    return at ? { at } : place;
  },
  reads: (place, { places }) => {
    const c = places.length === 2 ? middleOfThree(places[0].at, places[1].at, place.at) : undefined;
    return c ? { radius: apart(c, place.at) } : {};
  },
  draw: (into, { places: [from, to, through], typed }) => {
    if (apart(from.at, to.at) < NOTHING) return undrawn("Its ends must stand apart.");
    if (typed.radius && typed.radius.value < apart(from.at, to.at) / 2)
      return undrawn(
        "So small a radius does not reach from one end to the other. Give it at least half the distance.",
      );
    const c = middleOfThree(from.at, to.at, through.at);
    if (!c) return undrawn("The three places are in line: an arc passes beside the line between its ends.");
    const ccw = turnOf(minus(to.at, from.at), minus(through.at, from.at)) < 0;
    const [a, b] = [into.pointAt(from), into.pointAt(to)];
    if (a === b) return undrawn("An arc needs two ends.");
    const id = into.arc(a, b, into.point(c), ccw);
    const { caught } = through;
    if (caught && caught.by !== "grid" && !typed.radius) into.relate("on", into.pointAt(through), id);
    if (typed.radius) into.measure("radius", typed.radius.text, id);
    return {};
  },
};

export const arcAboutTool: DrawTool = {
  kind: "arc-about",
  title: "Arc about a middle",
  key: "m",
  group: "draw",
  values: [{ key: "radius", label: "Radius", dimension: "length" }],
  stages: [
    { hint: "Where is the arc's middle?" },
    { hint: "Where does it begin?", values: ["radius"] },
    { hint: "Where does it end?" },
  ],
  aim: (place, { places, typed }) => {
    if (places.length === 1 && typed.radius) return aimed(place, places[0].at, { length: typed.radius });
    if (places.length < 2) return place;
    const r = apart(places[0].at, places[1].at);
    const at = plus(places[0].at, unit(minus(place.at, places[0].at)), r);
    return apart(at, place.at) < 1e-6 ? place : { at };
  },
  reads: (place, { places }) => (places.length === 1 ? { radius: apart(place.at, places[0].at) } : {}),
  draw: (into, { places: [middle, from, to], typed }) => {
    if (apart(middle.at, from.at) < NOTHING) return undrawn("Its radius must be above 0.");
    const ccw = turnOf(minus(from.at, middle.at), minus(to.at, middle.at)) >= 0;
    const [c, a, b] = [into.pointAt(middle), into.pointAt(from), into.pointAt(to)];
    if (a === b || apart(from.at, to.at) < NOTHING)
      return undrawn("An arc that ends where it begins is a circle: draw one.");
    if (c === a || c === b) return undrawn("The middle of an arc is none of its ends.");
    const id = into.arc(a, b, c, ccw);
    if (typed.radius) into.measure("radius", typed.radius.text, id);
    return {};
  },
};

export const circleTool: DrawTool = {
  kind: "circle",
  title: "Circle",
  key: "c",
  group: "draw",
  values: [{ key: "diameter", label: "Diameter", dimension: "length" }],
  stages: [{ hint: "Where is its middle?" }, { hint: "How far does it reach?", values: ["diameter"] }],
  aim: (place, { places, typed }) =>
    places.length === 1 && typed.diameter
      ? aimed(place, places[0].at, { length: { text: "", value: typed.diameter.value / 2 } })
      : place,
  reads: (place, { places }) => (places.length === 1 ? { diameter: 2 * apart(place.at, places[0].at) } : {}),
  draw: (into, { places: [middle, reach], typed }) => {
    const r = apart(middle.at, reach.at);
    if (r < NOTHING) return undrawn("Its diameter must be above 0.");
    const id = into.circle(into.pointAt(middle), r);
    const { caught } = reach;
    if (typed.diameter) into.measure("diameter", typed.diameter.text, id);
    else if (caught && caught.by !== "grid") into.relate("on", into.pointAt(reach), id);
    return {};
  },
};

export const pointTool: DrawTool = {
  kind: "point",
  title: "Point",
  key: "p",
  group: "draw",
  values: [],
  stages: [{ hint: "Where does the point stand?" }],
  draw: (into, { places: [place] }) => {
    into.pointAt(place);
    return {};
  },
};
