import type { OutlineArc, OutlineCurve, OutlineLine } from "../../outline.ts";
import {
  crossingsOf,
  directionOf,
  ledOn,
  lengthOfShape,
  nearestPlace,
  placeAt,
  shapeOf,
  shareAt,
} from "../curve-places.ts";
import { type Drawn, type DrawTool, type ToolTask, type Undrawn, undrawn } from "../draw-tool.ts";
import type { OutlineDraft } from "../outline-draft.ts";
import { apart, minus, plus, unit, type XY } from "../place.ts";

/** A place where another curve crosses one: how far along, and which. */
interface Cross {
  readonly share: number;
  readonly at: XY;
  readonly by: string;
}

/** Where the others cross a curve, in the order along it; its own ends are not among them. */
function crossesOf(into: OutlineDraft, curve: OutlineCurve, led = false): Cross[] {
  const own = shapeOf(curve, into.points);
  const reach = led ? ledOn(own, 1e5) : own;
  const found = into.curves.flatMap((other): Cross[] =>
    other.id === curve.id
      ? []
      : crossingsOf(reach, shapeOf(other, into.points)).map((at) => ({
          at,
          by: other.id,
          share: shareAt(own, at),
        })),
  );
  const ends = curve.kind === "circle" ? [] : [into.points[curve.a], into.points[curve.b]];
  return found.filter(({ at }) => ends.every((e) => apart(e, at) > 1e-6)).sort((p, q) => p.share - q.share);
}

/** The curve that is meant: the one that caught the place, or the nearest. */
export function curveAt(into: OutlineDraft, { places }: ToolTask): OutlineCurve | undefined {
  const place = places[places.length - 1];
  const id = place.caught && "curve" in place.caught ? place.caught.curve : undefined;
  const drawn = into.curves.filter((c) => !into.isReference(c.id));
  const named = drawn.find((c) => c.id === id);
  if (named) return named;
  const off = (c: OutlineCurve) => apart(nearestPlace(shapeOf(c, into.points), place.at), place.at);
  return drawn.reduce<OutlineCurve | undefined>(
    (best, c) => (!best || off(c) < off(best) ? c : best),
    undefined,
  );
}

const NONE = "There is no curve there. Point at one that is drawn.";

/** The point where one curve crosses another: an end that stands there, or a new one that stays on it. */
function pointOnCross(into: OutlineDraft, { at, by }: Cross): string {
  const other = into.curve(by);
  const end =
    other.kind === "circle" ? undefined : [other.a, other.b].find((p) => apart(into.points[p], at) < 1e-7);
  if (end) return end;
  const point = into.point(at);
  into.relate("on", point, by);
  return point;
}

/** Between which crossings a place on a curve lies; an end where there is none on that side. */
export function trimmedPiece(into: OutlineDraft, curve: OutlineCurve, at: XY): { from?: Cross; to?: Cross } {
  const share = shareAt(shapeOf(curve, into.points), at);
  const crosses = crossesOf(into, curve);
  const before = crosses.filter((c) => c.share < share);
  const after = crosses.filter((c) => c.share >= share);
  const [from, to] = [before[before.length - 1], after[0]];
  // Round a circle the first comes after the last.
  return curve.kind === "circle"
    ? { from: from ?? crosses[crosses.length - 1], to: to ?? crosses[0] }
    : { from, to };
}

function trim(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const curve = curveAt(into, task);
  if (!curve) return undrawn(NONE);
  const { from, to } = trimmedPiece(into, curve, task.places[0].at);
  if (!from && !to) {
    into.remove([curve.id]);
    return {};
  }
  if (curve.kind === "circle") return trimCircle(into, curve.id, from, to);
  into.forgetLength(curve.id);
  const old = { a: curve.a, b: curve.b };
  if (from && to) divide(into, curve, pointOnCross(into, from), pointOnCross(into, to));
  else if (to) into.replaceCurve({ ...curve, a: pointOnCross(into, to) });
  else if (from) into.replaceCurve({ ...curve, b: pointOnCross(into, from) });
  dropEnds(into, from && to ? [] : [to ? old.a : old.b], curve.id);
  return {};
}

/** Ends that a curve has left go, with what was said of them, unless others end there. */
function dropEnds(into: OutlineDraft, ends: readonly string[], curve: string): void {
  for (const p of ends)
    if (into.uses(p) === 0) into.remove([p]);
    else {
      // What stands on a curve's own line no longer needs saying; what has left it must not hold it.
      into.relations = into.relations.filter((r) => !(r.kind === "on" && r.of[0] === p && r.of[1] === curve));
    }
}

function trimCircle(into: OutlineDraft, id: string, from?: Cross, to?: Cross): Drawn | Undrawn {
  const circle = into.curve(id);
  if (circle.kind !== "circle" || !from || !to || apart(from.at, to.at) < 1e-7)
    return undrawn("Only one curve meets this circle, in one place: there is no piece of it to take away.");
  const [a, b] = [pointOnCross(into, to), pointOnCross(into, from)];
  into.relations = into.relations.filter(
    (r) => !(r.kind === "on" && r.of[1] === id && (r.of[0] === a || r.of[0] === b)),
  );
  const { c, construction } = circle;
  into.replaceCurve({ id, kind: "arc", a, b, c, ccw: true, ...(construction ? { construction } : {}) });
  return {};
}

/** A curve that ends at one point and begins again at another, which may be the same. The first keeps the name. */
function divide(into: OutlineDraft, curve: OutlineLine | OutlineArc, end: string, begin: string): void {
  into.replaceCurve({ ...curve, b: end });
  if (curve.kind === "line") {
    const second = into.line(begin, curve.b, curve.construction);
    into.relate("inLine", curve.id, second);
  } else {
    into.arc(begin, curve.b, curve.c, curve.ccw, curve.construction);
    // About one middle already: they are of one circle if they are as large, as they are where they meet.
    if (end !== begin) into.relate("equal", curve.id, into.curves[into.curves.length - 1].id);
  }
}

export const trimTool: DrawTool = {
  kind: "trim",
  title: "Trim a piece away",
  key: "x",
  group: "change",
  values: [],
  stages: [{ hint: "Which piece goes? From crossing to crossing.", takes: "curve" }],
  draw: trim,
};

function extend(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const curve = curveAt(into, task);
  if (!curve) return undrawn(NONE);
  if (curve.kind === "circle") return undrawn("A circle has no end to be led on.");
  const shape = shapeOf(curve, into.points);
  const atEnd = shareAt(shape, task.places[0].at) > 0.5;
  const crosses = crossesOf(into, curve, true);
  const beyond = atEnd
    ? crosses.find((c) => c.share > 1 + 1e-9)
    : [...crosses].reverse().find((c) => c.share < -1e-9);
  if (!beyond) return undrawn("On that side nothing lies in its way. Draw something for it to reach.");
  into.forgetLength(curve.id);
  const old = atEnd ? curve.b : curve.a;
  const point = pointOnCross(into, beyond);
  into.replaceCurve(atEnd ? { ...curve, b: point } : { ...curve, a: point });
  dropEnds(into, [old], curve.id);
  return {};
}

export const extendTool: DrawTool = {
  kind: "extend",
  title: "Lead on to the next curve",
  key: "y",
  group: "change",
  values: [],
  stages: [{ hint: "Which end is led on? Point at the curve near it.", takes: "curve" }],
  draw: extend,
};

function split(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const curve = curveAt(into, task);
  if (!curve) return undrawn(NONE);
  if (curve.kind === "circle")
    return undrawn("A circle splits into arcs where others cross it: trim it there.");
  const shape = shapeOf(curve, into.points);
  const at = nearestPlace(shape, task.places[0].at);
  const share = shareAt(shape, at);
  if (share * lengthOfShape(shape) < 1e-6 || (1 - share) * lengthOfShape(shape) < 1e-6)
    return undrawn("It ends there already. Point at a place between its ends.");
  into.forgetLength(curve.id);
  const point = into.point(at);
  divide(into, curve, point, point);
  return {};
}

export const splitTool: DrawTool = {
  kind: "split",
  title: "Split in two",
  key: "k",
  group: "change",
  values: [],
  stages: [{ hint: "Where is it split?", takes: "curve" }],
  draw: split,
};

const SIZE = (label: string, text: string) =>
  ({ key: "size", label, dimension: "length", default: text }) as const;

/** The corner that is meant: a point where two curves end. */
function cornerAt(
  into: OutlineDraft,
  { places: [place] }: ToolTask,
): { p: string; of: OutlineCurve[] } | undefined {
  const near = Object.entries(into.points).sort((a, b) => apart(a[1], place.at) - apart(b[1], place.at));
  const id = place.caught?.by === "point" ? place.caught.id : near[0]?.[0];
  const of = into.curves.filter(
    (c) => c.kind !== "circle" && (c.a === id || c.b === id) && !into.isReference(c.id),
  );
  return id !== undefined && of.length === 2 ? { p: id, of } : undefined;
}

const NO_CORNER = "There is no corner there. Point at a place where two curves meet.";

/** How far a curve is cut back from one of its ends, and the place where it then ends. */
function cutBack(into: OutlineDraft, curve: OutlineCurve, p: string, by: number): XY | undefined {
  const shape = shapeOf(curve, into.points);
  const length = lengthOfShape(shape);
  if (by >= length - 1e-6) return undefined;
  const atA = curve.kind !== "circle" && curve.a === p;
  return placeAt(shape, atA ? by / length : 1 - by / length);
}

/** Gives each of two curves at a corner an end of its own; where something is said of the corner, it stays as a place on both. */
function openCorner(
  into: OutlineDraft,
  { p, of }: { readonly p: string; readonly of: readonly OutlineCurve[] },
  ends: readonly XY[],
  keep = false,
): string[] {
  const made = of.map((curve, i) => {
    const end = into.point(ends[i]);
    if (curve.kind !== "circle")
      into.replaceCurve(curve.a === p ? { ...curve, a: end } : { ...curve, b: end });
    return end;
  });
  // A length from corner to corner goes on being one: it is told between the corners.
  of.forEach((curve) => {
    const now = into.curve(curve.id);
    if (now.kind !== "line" || curve.kind !== "line") return;
    into.dimensions = into.dimensions.map((d) =>
      d.kind === "length" && d.of[0] === curve.id ? { ...d, kind: "distance", of: [curve.a, curve.b] } : d,
    );
    into.relations = into.relations.filter(
      (r) => !(r.of.includes(curve.id) && (r.kind === "equal" || (r.kind === "middle" && r.of.length === 2))),
    );
  });
  const said = keep || [...into.relations, ...into.dimensions].some((r) => r.of.includes(p));
  if (said) for (const curve of of) into.relate("on", p, curve.id);
  else into.dropIfIdle(p);
  return made;
}

function roundCorner(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const corner = cornerAt(into, task);
  if (!corner) return undrawn(NO_CORNER);
  const { p, of } = corner;
  const size = task.typed.size;
  const r = size?.value ?? 5;
  if (!(r > 0)) return undrawn("A radius is above 0.");
  const ways = of.map((c) => leaving(into, c, p));
  const between = Math.acos(Math.max(-1, Math.min(1, ways[0][0] * ways[1][0] + ways[0][1] * ways[1][1])));
  if (between > Math.PI - 1e-4 || between < 1e-4)
    return undrawn("Those two lead on into one another: there is nothing to round.");
  const back = r / Math.tan(between / 2);
  const ends = of.map((c) => cutBack(into, c, p, back));
  if (!ends[0] || !ends[1])
    return undrawn(
      `A radius of ${Number(r.toFixed(4))} mm takes more than there is beside this corner. Give a smaller one.`,
    );
  const at = into.points[p];
  const half = unit(plus(ways[0], ways[1]));
  const c = into.point(plus(at, half, r / Math.sin(between / 2)));
  const [a, b] = openCorner(into, corner, [ends[0], ends[1]]);
  const [u, v] = ends.map((e) => minus(e!, into.points[c]));
  const arc = into.arc(a, b, c, u[0] * v[1] - u[1] * v[0] > 0, false);
  for (const curve of of) into.relate("tangent", curve.id, arc);
  into.measure("radius", size?.text ?? 5, arc);
  return {};
}

/** The direction in which a curve leaves one of its ends. */
function leaving(into: OutlineDraft, curve: OutlineCurve, p: string): XY {
  const shape = shapeOf(curve, into.points);
  const atA = curve.kind !== "circle" && curve.a === p;
  const [x, y] = unit(directionOf(shape, atA ? 0 : 1));
  return atA ? [x, y] : [-x, -y];
}

export const roundTool: DrawTool = {
  kind: "round",
  title: "Round a corner",
  key: "u",
  group: "change",
  values: [SIZE("Radius", "5")],
  stages: [{ hint: "Which corner is rounded?", takes: "corner", values: ["size"] }],
  draw: roundCorner,
};

function chamferCorner(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const corner = cornerAt(into, task);
  if (!corner) return undrawn(NO_CORNER);
  const { p, of } = corner;
  const size = task.typed.size;
  const by = size?.value ?? 5;
  if (!(by > 0)) return undrawn("A chamfer is above 0.");
  if (of.some((c) => c.kind !== "line")) return undrawn("A chamfer stands between two straight lines.");
  const ends = of.map((c) => cutBack(into, c, p, by));
  if (!ends[0] || !ends[1])
    return undrawn(
      `A chamfer of ${Number(by.toFixed(4))} mm takes more than there is beside this corner. Give a smaller one.`,
    );
  // Its two legs are told from the corner, which so stays.
  const [a, b] = openCorner(into, corner, [ends[0], ends[1]], true);
  into.line(a, b, false);
  into.measure("distance", size?.text ?? 5, p, a);
  into.measure("distance", size?.text ?? 5, p, b);
  return {};
}

export const chamferTool: DrawTool = {
  kind: "chamfer",
  title: "Chamfer a corner",
  key: "h",
  group: "change",
  values: [SIZE("Chamfer", "5")],
  stages: [{ hint: "Which corner is chamfered?", takes: "corner", values: ["size"] }],
  draw: chamferCorner,
};
