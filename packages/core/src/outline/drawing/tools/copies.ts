import { MOST_CURVES, type OutlineCurve } from "../../outline.ts";
import { crossingsOf, ledOn, nearestPlace, shapeOf, turnOfArc } from "../curve-places.ts";
import { type Drawn, type DrawTool, NOTHING, type ToolTask, type Undrawn, undrawn } from "../draw-tool.ts";
import type { OutlineDraft } from "../outline-draft.ts";
import {
  apart,
  type Backdrop,
  endsOf,
  leftOf,
  minus,
  plus,
  towards,
  turnOf,
  unit,
  type XY,
} from "../place.ts";
import { aimed, readPiece } from "./lines.ts";
import { curveAt } from "./trimming.ts";

const MOST_COPIES = 500;

/** The curves that are picked, with all of the part's left out, and the points picked besides. */
function picked(into: OutlineDraft, { picks }: ToolTask): { curves: OutlineCurve[]; points: string[] } {
  const curves = into.curves.filter((c) => picks.includes(c.id) && !into.isReference(c.id));
  const points = new Set([...curves.flatMap(endsOf), ...picks.filter((id) => into.points[id] !== undefined)]);
  return { curves, points: [...points] };
}

/** The points that are picked, but for those that stand where the part has them. */
const movable = (into: OutlineDraft, task: ToolTask): string[] =>
  picked(into, task).points.filter((p) => !into.isOfPart(p));

/** Draws curves again with their points moved. Returns the new name of each point and curve. */
function copied(
  into: OutlineDraft,
  { curves, points }: { curves: readonly OutlineCurve[]; points: readonly string[] },
  move: (at: XY, id: string) => XY | string,
  flip = false,
): Map<string, string> {
  const names = new Map<string, string>();
  for (const p of points) {
    const to = move(into.points[p], p);
    names.set(p, typeof to === "string" ? to : into.point(to));
  }
  for (const c of curves) {
    const n = (id: string) => names.get(id)!;
    names.set(
      c.id,
      c.kind === "line"
        ? into.line(n(c.a), n(c.b), c.construction)
        : c.kind === "arc"
          ? into.arc(n(c.a), n(c.b), n(c.c), flip ? !c.ccw : c.ccw, c.construction)
          : into.circle(n(c.c), c.r, c.construction),
    );
  }
  return names;
}

function mirror(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const ofPart = lineOf(into, task);
  const axis = ofPart === undefined ? curveAt(into, task) : into.curve(ofPart);
  const what = picked(into, { ...task, picks: task.picks.filter((id) => id !== axis?.id) });
  if (axis?.kind !== "line") return undrawn("Mirror about a line: point at one that is drawn.");
  if (what.points.length === 0)
    return undrawn("Pick what is mirrored first: the line alone is its own mirror image.");
  const [a, way] = [into.points[axis.a], unit(minus(into.points[axis.b], into.points[axis.a]))];
  const offOf = (at: XY) => turnOf(way, minus(at, a));
  const names = copied(
    into,
    what,
    (at, id) => (Math.abs(offOf(at)) < 1e-7 ? id : plus(at, leftOf(way), -2 * offOf(at))),
    true,
  );
  for (const p of what.points) {
    const other = names.get(p)!;
    if (other !== p) into.relate("symmetric", p, other, axis.id);
    else if (p !== axis.a && p !== axis.b) into.relate("on", p, axis.id);
  }
  for (const c of what.curves) if (c.kind === "circle") into.relate("equal", c.id, names.get(c.id)!);
  return {};
}

/** The line of the part that was pointed at, drawn so that it can be mirrored about. */
function lineOf(into: OutlineDraft, { places }: ToolTask): string | undefined {
  const caught = places[0]?.caught;
  return caught?.by === "part" ? into.referTo(caught.backdrop) : undefined;
}

export const mirrorTool: DrawTool = {
  kind: "mirror",
  title: "Mirror",
  key: "i",
  group: "change",
  onPicks: true,
  values: [],
  stages: [{ hint: "About which line is it mirrored?", takes: "line" }],
  draw: mirror,
};

const STEP = [
  { key: "length", label: "Distance", dimension: "length" },
  { key: "angle", label: "Angle", dimension: "angle" },
] as const;

const stepOf = ({ places: [from, to] }: ToolTask): XY => minus(to.at, from.at);

const movedBy = {
  values: STEP,
  onPicks: true,
  group: "change",
  aim: (place, { places, typed }) => (places.length === 1 ? aimed(place, places[0].at, typed) : place),
  reads: (place, { places }) => (places.length === 1 ? readPiece(place, places[0].at) : {}),
} satisfies Partial<DrawTool>;

export const moveTool: DrawTool = {
  ...movedBy,
  kind: "move",
  title: "Move",
  key: "v",
  stages: [{ hint: "From where is it moved?" }, { hint: "To where?", values: ["length", "angle"] }],
  draw: (into, task) => {
    const points = movable(into, task);
    if (points.length === 0) return undrawn("Pick what is moved first.");
    const by = stepOf(task);
    for (const p of points) into.points[p] = plus(into.points[p], by);
    return {};
  },
};

export const copyTool: DrawTool = {
  ...movedBy,
  kind: "copy",
  title: "Copy",
  key: "w",
  stages: [{ hint: "From where is it copied?" }, { hint: "To where?", values: ["length", "angle"] }],
  draw: (into, task) => {
    const what = picked(into, task);
    if (what.points.length === 0) return undrawn("Pick what is copied first.");
    const by = stepOf(task);
    if (Math.hypot(...by) < NOTHING)
      return undrawn("A copy in the same place would be seen by nobody. Put it beside.");
    copied(into, what, (at) => plus(at, by));
    return {};
  },
};

export const turnTool: DrawTool = {
  kind: "turn",
  title: "Turn",
  key: "j",
  group: "change",
  onPicks: true,
  values: [{ key: "angle", label: "Angle", dimension: "angle" }],
  stages: [
    { hint: "About which place is it turned?" },
    { hint: "In which direction does what lay to the right come to lie?", values: ["angle"] },
  ],
  reads: (place, { places }) => (places.length === 1 ? { angle: readPiece(place, places[0].at).angle } : {}),
  draw: (into, task) => {
    const points = movable(into, task);
    if (points.length === 0) return undrawn("Pick what is turned first.");
    const [about, to] = task.places;
    const angle = task.typed.angle?.value ?? readPiece(to, about.at).angle;
    for (const p of points) into.points[p] = turnedAbout(into.points[p], about.at, angle);
    return {};
  },
};

function turnedAbout(at: XY, about: XY, angle: number): XY {
  const [x, y] = minus(at, about);
  const [c, s] = towards(angle);
  return [about[0] + c * x - s * y, about[1] + s * x + c * y];
}

function countOf({ typed }: ToolTask, into: OutlineDraft, each: number): number | Undrawn {
  const count = typed.count?.value ?? 3;
  const all = into.curves.length + each * (count - 1);
  if (Number.isInteger(count) && count <= MOST_COPIES && all > MOST_CURVES)
    return undrawn(`That would be ${all} curves; an outline can have ${MOST_CURVES}.`);
  return Number.isInteger(count) && count >= 2 && count <= MOST_COPIES
    ? count
    : undrawn(`How many there are, the first with them, is a whole number from 2 to ${MOST_COPIES}.`);
}

/**
 * Keeps a copy as its first: circles and arcs as large, lines as long and as they run. Of lines that close a chain the last
 * is as long by itself.
 */
function likeFirst(
  into: OutlineDraft,
  curves: readonly OutlineCurve[],
  names: ReadonlyMap<string, string>,
): void {
  const leader = new Map<string, string>();
  const find = (p: string): string => {
    let at = p;
    while (leader.has(at)) at = leader.get(at)!;
    return at;
  };
  for (const c of curves) {
    const copy = names.get(c.id)!;
    if (c.kind !== "line") {
      into.relate("equal", c.id, copy);
      continue;
    }
    const [a, b] = [find(c.a), find(c.b)];
    if (a === b) continue;
    leader.set(a, b);
    into.relate("equal", c.id, copy);
    into.relate("parallel", c.id, copy);
  }
}

function row(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const what = picked(into, task);
  const count = countOf(task, into, what.curves.length);
  if (typeof count !== "number") return count;
  if (what.points.length === 0) return undrawn("Pick what stands in a row first.");
  const by = stepOf(task);
  if (Math.hypot(...by) < NOTHING) return undrawn("From one to the next there must be some way.");
  let before = new Map<string, string>(
    [...what.points, ...what.curves.map((c) => c.id)].map((id) => [id, id]),
  );
  let last = before;
  let second = before;
  for (let k = 1; k < count; k++) {
    const names = copied(into, what, (at) => plus(at, by, k));
    if (k === 1) {
      second = names;
      likeFirst(into, what.curves, names);
    }
    // Each half way between its neighbours: so the first step says all of them.
    else {
      for (const p of what.points) into.relate("middle", last.get(p)!, before.get(p)!, names.get(p)!);
      for (const c of what.curves)
        if (c.kind === "circle") into.relate("equal", last.get(c.id)!, names.get(c.id)!);
    }
    [before, last] = [last, names];
  }
  const first = what.curves.find((c) => c.kind === "circle")?.c ?? what.points[0];
  if (task.typed.length) into.measure("distance", task.typed.length.text, first, second.get(first)!);
  return {};
}

const COUNT = { key: "count", label: "How many", dimension: "number", default: "3" } as const;

export const rowTool: DrawTool = {
  ...movedBy,
  kind: "row",
  title: "Repeat in a row",
  key: "n",
  values: [COUNT, ...STEP],
  stages: [
    { hint: "From where does the row go on?" },
    { hint: "To where does the second one come?", values: ["count", "length", "angle"] },
  ],
  draw: row,
};

function ring(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const what = picked(into, task);
  const count = countOf(task, into, what.curves.length);
  if (typeof count !== "number") return count;
  if (what.points.length === 0) return undrawn("Pick what stands in a ring first.");
  const [about] = task.places;
  const whole = task.typed.angle?.value ?? 2 * Math.PI;
  const closed = Math.abs(Math.abs(whole) - 2 * Math.PI) < 1e-9;
  const pitch = whole / (closed ? count : count - 1);
  if (Math.abs(pitch) < 1e-9) return undrawn("From one to the next there must be some angle.");
  const middle = into.pointAt(about);
  let last = new Map<string, string>(what.curves.map((c) => [c.id, c.id]));
  for (let k = 1; k < count; k++) {
    const names = copied(into, what, (at, id) => (id === middle ? id : turnedAbout(at, about.at, k * pitch)));
    for (const c of what.curves) into.relate("equal", last.get(c.id)!, names.get(c.id)!);
    last = names;
  }
  ringOfCircles(into, what.curves, middle, count);
  return {};
}

/** Circles of a ring have their middles on one circle to draw by. */
function ringOfCircles(
  into: OutlineDraft,
  curves: readonly OutlineCurve[],
  middle: string,
  count: number,
): void {
  const [first] = curves;
  if (curves.length !== 1 || first.kind !== "circle" || first.c === middle) return;
  const round = into.circle(middle, apart(into.points[middle], into.points[first.c]), true);
  const drawn = into.curves.filter((c) => c.kind === "circle" && c.id !== round).slice(-(count - 1));
  for (const c of [first, ...drawn]) if (c.kind === "circle") into.relate("on", c.c, round);
}

export const ringTool: DrawTool = {
  kind: "ring",
  title: "Repeat in a ring",
  key: "b",
  group: "change",
  onPicks: true,
  values: [COUNT, { key: "angle", label: "Over", dimension: "angle", default: "360" }],
  stages: [{ hint: "About which place?", values: ["count", "angle"] }],
  draw: ring,
};

function offset(into: OutlineDraft, task: ToolTask): Drawn | Undrawn {
  const { curves } = picked(into, task);
  if (curves.length === 0) return undrawn("Pick what is drawn beside first: lines, arcs, circles.");
  const [place] = task.places;
  const shapes = new Map(curves.map((c) => [c.id, shapeOf(c, into.points)]));
  const near = curves.reduce((best, c) => (off(c) < off(best) ? c : best));
  function off(c: OutlineCurve) {
    return apart(nearestPlace(shapes.get(c.id)!, place.at), place.at);
  }
  const by = task.typed.distance?.value ?? off(near);
  if (!(by > NOTHING)) return undrawn("The distance must be above 0: point to one side.");
  const chain = oriented(curves, near);
  if (!chain) return undrawn("What is picked does not follow on from one piece to the next. Pick one chain.");
  const side = sideOf(shapes.get(near.id)!, chain.find((l) => l.c === near)!.back, place.at);
  const moved = chain.map(({ c, back }) => besideShape(shapes.get(c.id)!, back, side * by));
  if (moved.some((m) => !m))
    return undrawn("On the inside there is no room for so much: an arc would have no radius left.");
  return drawBeside(
    into,
    chain,
    moved as Backdrop["curve"][],
    task.typed.distance?.text ?? Number(by.toFixed(6)),
  );
}

/** A curve of a chain, and whether the chain runs along it from its end to its beginning. */
interface Link {
  readonly c: OutlineCurve;
  readonly back: boolean;
}

/** Curves in the order in which they follow one another; nothing where they do not. A circle is a chain alone. */
function oriented(curves: readonly OutlineCurve[], near: OutlineCurve): Link[] | undefined {
  if (near.kind === "circle") return curves.length === 1 ? [{ c: near, back: false }] : undefined;
  const at = new Map<string, OutlineCurve[]>();
  for (const c of curves) {
    if (c.kind === "circle") return undefined;
    for (const p of [c.a, c.b]) at.set(p, [...(at.get(p) ?? []), c]);
  }
  if ([...at.values()].some((l) => l.length > 2)) return undefined;
  const loose = [...at].find(([, l]) => l.length === 1)?.[0];
  let point = loose ?? near.a;
  const chain: Link[] = [];
  const used = new Set<OutlineCurve>();
  for (;;) {
    const next = at.get(point)?.find((c) => !used.has(c));
    if (!next || next.kind === "circle") break;
    used.add(next);
    chain.push({ c: next, back: next.b === point });
    point = next.b === point ? next.a : next.b;
  }
  return chain.length === curves.length ? chain : undefined;
}

/** On which side of a curve a place lies, as it is run along: 1 to the left. */
function sideOf(shape: Backdrop["curve"], back: boolean, at: XY): number {
  const left =
    shape.kind === "line"
      ? turnOf(minus(shape.b, shape.a), minus(at, shape.a)) > 0
      : apart(at, shape.c) < roundOf(shape) === (shape.kind === "circle" || shape.ccw);
  return left === back ? -1 : 1;
}

const roundOf = (s: Exclude<Backdrop["curve"], { kind: "line" }>): number =>
  s.kind === "circle" ? s.r : apart(s.c, s.a);

/** A curve moved to the left of its run by so much, mm; nothing where an arc has no radius left. */
function besideShape(shape: Backdrop["curve"], back: boolean, by: number): Backdrop["curve"] | undefined {
  if (shape.kind === "line") {
    const out = leftOf(unit(minus(shape.b, shape.a)));
    const far = back ? -by : by;
    return { kind: "line", a: plus(shape.a, out, far), b: plus(shape.b, out, far) };
  }
  const ccw = shape.kind === "circle" || shape.ccw;
  const r = roundOf(shape) + (ccw === back ? by : -by);
  if (r <= NOTHING) return undefined;
  if (shape.kind === "circle") return { ...shape, r };
  const at = (p: XY) => plus(shape.c, unit(minus(p, shape.c)), r);
  return { ...shape, a: at(shape.a), b: at(shape.b) };
}

const NO_ROOM =
  "At that distance the pieces no longer meet as they do: there is no room for one of them. Give a smaller one.";

/** Whether a moved curve runs as its own does: neither turned round nor over. */
function runsLike(own: Backdrop["curve"], moved: Backdrop["curve"]): boolean {
  if (own.kind === "line" && moved.kind === "line") {
    const [u, v] = [minus(own.b, own.a), minus(moved.b, moved.a)];
    return u[0] * v[0] + u[1] * v[1] > NOTHING;
  }
  if (own.kind !== "arc" || moved.kind !== "arc") return true;
  return (
    Math.abs(turnOfArc(own).sweep - turnOfArc(moved).sweep) < Math.PI && apart(moved.a, moved.b) > NOTHING
  );
}

/** Draws the moved curves, joined where they meet, each as far from its own. */
function drawBeside(
  into: OutlineDraft,
  chain: readonly Link[],
  moved: readonly Backdrop["curve"][],
  text: string | number,
): Drawn | Undrawn {
  const [only] = moved;
  const [{ c: first }] = chain;
  if (only.kind === "circle" && first.kind === "circle") {
    const circle = into.circle(first.c, only.r, first.construction);
    into.measure("distance", text, ...pointsBetween(into, first.id, circle));
    return {};
  }
  const endOf = ({ c, back }: Link, i: number, atEnd: boolean): XY => {
    const s = moved[i];
    return s.kind === "circle" || c.kind === "circle"
      ? s.kind === "circle"
        ? s.c
        : [0, 0]
      : atEnd === back
        ? s.a
        : s.b;
  };
  const closed = chain.length > 2 && startOf(chain[0]) === endPoint(chain[chain.length - 1]);
  const joints: XY[] = [];
  for (const [i, link] of chain.entries()) {
    const next = (i + 1) % chain.length;
    const here = endOf(link, i, true);
    const last = next === 0 && !closed;
    const meet = last ? [here] : crossingsOf(ledOn(moved[i], 1e5), ledOn(moved[next], 1e5));
    if (meet.length === 0) return undrawn(NO_ROOM);
    joints.push(meet.reduce((best, m) => (apart(m, here) < apart(best, here) ? m : best)));
  }
  const startAt = closed ? joints[joints.length - 1] : endOf(chain[0], 0, false);
  const turnsOver = chain.some(({ c, back }, i) => {
    const [from, to] = [i === 0 ? startAt : joints[i - 1], joints[i]];
    const [a, b] = back ? [to, from] : [from, to];
    return !runsLike(shapeOf(c, into.points), { ...moved[i], a, b } as Backdrop["curve"]);
  });
  if (turnsOver) return undrawn(NO_ROOM);
  const points = joints.map((at) => into.point(at));
  const begin = closed ? points[points.length - 1] : into.point(startAt);
  chain.forEach(({ c, back }, i) => {
    const [from, to] = [i === 0 ? begin : points[i - 1], points[i]];
    const [a, b] = back ? [to, from] : [from, to];
    if (c.kind === "line") {
      const made = into.line(a, b, c.construction);
      into.relate("parallel", c.id, made);
      into.measure("toLine", text, a, c.id);
    } else if (c.kind === "arc") into.arc(a, b, c.c, c.ccw, c.construction);
  });
  const alone = chain.length === 1 && first.kind === "arc" ? into.curves[into.curves.length - 1] : undefined;
  if (alone?.kind === "arc" && first.kind === "arc") into.measure("distance", text, first.a, alone.a);
  return {};
}

const startOf = ({ c, back }: Link) => (c.kind === "circle" ? c.c : back ? c.b : c.a);
const endPoint = ({ c, back }: Link) => (c.kind === "circle" ? c.c : back ? c.a : c.b);

/** A point on each of two circles about one middle, upright over it, between which their distance is told. */
function pointsBetween(into: OutlineDraft, inner: string, outer: string): [string, string] {
  const [p, q] = [inner, outer].map((id) => {
    const c = into.curve(id);
    if (c.kind !== "circle") throw new Error("only circles");
    const at = into.point(plus(into.points[c.c], [0, c.r]));
    into.relate("on", at, id);
    into.relate("upright", at, c.c);
    return at;
  });
  return [p, q];
}

export const offsetTool: DrawTool = {
  kind: "offset",
  title: "Draw beside, at a distance",
  key: "f",
  group: "change",
  onPicks: true,
  values: [{ key: "distance", label: "Distance", dimension: "length" }],
  stages: [{ hint: "To which side, and how far?", values: ["distance"] }],
  draw: offset,
};
