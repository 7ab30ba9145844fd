import {
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  placeAt,
  type Relation,
  type SolvedOutline,
  shapeOf,
  turnOfArc,
  type XY,
} from "@hillcrest/core";

/** How an outline's millimetres come to stand on the screen, in pixels. */
export interface Screen {
  readonly at: (p: XY) => XY;
  readonly width: number;
  readonly height: number;
}

/** A relation's small mark on the drawing. */
export interface Mark {
  readonly id: string;
  readonly kind: Relation["kind"];
  readonly at: XY;
}

/** A dimension as it is drawn: its text, and the lines that say what it measures. */
export interface DimensionDrawing {
  readonly id: string;
  readonly text: string;
  readonly at: XY;
  readonly width: number;
  readonly path: string;
}

export interface Layout {
  readonly marks: readonly Mark[];
  readonly dimensions: readonly DimensionDrawing[];
}

export const MARK = 15;
const TEXT_HEIGHT = 16;
/** From what is measured to the line that says how much, pixels. */
const OFF = 24;
/** More marks than this say nothing any more. */
const MOST_MARKS = 400;

export const textWidth = (text: string): number => text.length * 6.8 + 10;

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** Where something stands already. Boxes are about their middle. */
class Taken {
  private readonly boxes: Box[] = [];

  isFree = (b: Box): boolean =>
    this.boxes.every((o) => Math.abs(o.x - b.x) * 2 >= o.w + b.w || Math.abs(o.y - b.y) * 2 >= o.h + b.h);

  take = (b: Box): void => void this.boxes.push(b);
}

const add = ([ax, ay]: XY, [bx, by]: XY, f = 1): XY => [ax + bx * f, ay + by * f];
const minus = ([ax, ay]: XY, [bx, by]: XY): XY => [ax - bx, ay - by];
const unit = ([x, y]: XY): XY => {
  const length = Math.hypot(x, y);
  return length > 1e-9 ? [x / length, y / length] : [1, 0];
};
const middle = (p: XY, q: XY): XY => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
const pathOf = (...points: readonly XY[]): string =>
  points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");

/** A line with an oblique stroke at each end. */
function measured(p: XY, q: XY): string {
  const stroke = ([x, y]: XY) => pathOf([x - 3.5, y + 3.5], [x + 3.5, y - 3.5]);
  return pathOf(p, q) + stroke(p) + stroke(q);
}

/**
 * Where the marks of relations and the dimensions of an outline stand on the screen, none over another. What finds no room
 * beside what it is about is left out: there it could not be read. `outline` stands where it is solved.
 */
export function layOut(
  outline: Outline,
  { values }: Pick<SolvedOutline, "values">,
  screen: Screen,
  textOf: (dimension: OutlineDimension, value: number) => string,
): Layout {
  const taken = new Taken();
  const curves = new Map(outline.curves.map((c) => [c.id, c]));
  const drawing: Drawing = { outline, screen, curves, centre: centreOf(outline, screen) };
  const dimensions = outline.dimensions.flatMap((d): DimensionDrawing[] => {
    const value = values[d.id];
    if (value === undefined || !Number.isFinite(value)) return [];
    const text = textOf(d, value);
    const width = textWidth(text);
    for (const step of d.where ? [0] : [0, 1, 2, -1, 3, -2]) {
      const drawn = dimensionAt(drawing, d, step);
      if (!drawn) return [];
      const box = { x: drawn.at[0], y: drawn.at[1], w: width, h: TEXT_HEIGHT };
      if (!d.where && (!onScreen(screen, drawn.at) || !taken.isFree(box))) continue;
      taken.take(box);
      return [{ id: d.id, text, width, ...drawn }];
    }
    return [];
  });
  return { marks: marksOf(drawing, taken), dimensions };
}

const onScreen = ({ width, height }: Screen, [x, y]: XY): boolean =>
  x > 0 && y > 0 && x < width && y < height;

interface Drawing {
  readonly outline: Outline;
  readonly screen: Screen;
  readonly curves: ReadonlyMap<string, OutlineCurve>;
  readonly centre: XY;
}

/** The middle of all that is drawn, on the screen: dimensions stand away from it. */
function centreOf({ points }: Outline, { at }: Screen): XY {
  const all = Object.values(points);
  if (all.length === 0) return [0, 0];
  const [sx, sy] = all.reduce(([x, y], p) => [x + p[0], y + p[1]], [0, 0]);
  return at([sx / all.length, sy / all.length]);
}

interface Placed {
  readonly at: XY;
  readonly path: string;
}

function dimensionAt(d: Drawing, dimension: OutlineDimension, step: number): Placed | undefined {
  const { outline, screen, curves } = d;
  const where = dimension.where && screen.at(dimension.where);
  const at = (id: string): XY => screen.at(outline.points[id]);
  const [first, second] = dimension.of;
  const line = curves.get(first);
  switch (dimension.kind) {
    case "length":
      return line?.kind === "line" ? between(d, at(line.a), at(line.b), step, where) : undefined;
    case "distance":
      return between(d, at(first), at(second), step, where);
    case "distanceX":
      return straight(d, at(first), at(second), step, where, 0);
    case "distanceY":
      return straight(d, at(first), at(second), step, where, 1);
    case "toLine": {
      const to = curves.get(second);
      if (to?.kind !== "line") return undefined;
      const [p, a, way] = [at(first), at(to.a), unit(minus(at(to.b), at(to.a)))];
      const far = minus(p, a);
      const foot = add(a, way, far[0] * way[0] + far[1] * way[1]);
      return { at: where ?? add(middle(p, foot), way, step * 20), path: measured(p, foot) };
    }
    case "angle":
      return angleAt(d, dimension, step, where);
    default:
      return line && line.kind !== "line" ? roundAt(d, line, step, where) : undefined;
  }
}

/** Beside a piece, away from the middle of the drawing; farther with each step, on the other side where it is negative. */
function between(d: Drawing, p: XY, q: XY, step: number, where?: XY): Placed | undefined {
  const way = unit(minus(q, p));
  let out: XY = [-way[1], way[0]];
  const mid = middle(p, q);
  const away = minus(mid, d.centre);
  if (out[0] * away[0] + out[1] * away[1] < 0) out = [-out[0], -out[1]];
  const off = where
    ? (where[0] - mid[0]) * out[0] + (where[1] - mid[1]) * out[1]
    : step >= 0
      ? OFF + step * 18
      : -(OFF - (step + 1) * 18);
  const [a, b] = [add(p, out, off), add(q, out, off)];
  const gap = Math.sign(off) * 4;
  const path =
    pathOf(add(p, out, gap), add(a, out, gap)) + pathOf(add(q, out, gap), add(b, out, gap)) + measured(a, b);
  return { at: where ?? middle(a, b), path };
}

/** A distance along one axis of the screen. */
function straight(d: Drawing, p: XY, q: XY, step: number, where: XY | undefined, axis: 0 | 1): Placed {
  const across = axis === 0 ? 1 : 0;
  const beyond = middle(p, q)[across] > d.centre[across];
  const edge = beyond ? Math.max(p[across], q[across]) : Math.min(p[across], q[across]);
  const level = where ? where[across] : edge + (beyond ? 1 : -1) * (OFF + step * 18);
  const on = (s: XY): XY => (axis === 0 ? [s[0], level] : [level, s[1]]);
  const path = pathOf(p, on(p)) + pathOf(q, on(q)) + measured(on(p), on(q));
  return { at: where ?? middle(on(p), on(q)), path };
}

/** Between two lines, about the place where they meet. */
function angleAt(d: Drawing, { of }: OutlineDimension, step: number, where?: XY): Placed | undefined {
  const [l, m] = of.map((id) => d.curves.get(id));
  if (l?.kind !== "line" || m?.kind !== "line") return undefined;
  const at = (id: string): XY => d.screen.at(d.outline.points[id]);
  const [a, u, b, v] = [at(l.a), unit(minus(at(l.b), at(l.a))), at(m.a), unit(minus(at(m.b), at(m.a)))];
  const across = u[0] * v[1] - u[1] * v[0];
  if (Math.abs(across) < 1e-6) return undefined;
  const ab = minus(b, a);
  const apex = add(a, u, (ab[0] * v[1] - ab[1] * v[0]) / across);
  const r = 30 + Math.max(0, step) * 18;
  const [p, q] = [add(apex, u, r), add(apex, v, r)];
  const half = unit(add(u, v));
  const sweep = across > 0 ? 1 : 0;
  return {
    at: where ?? add(apex, half, r + 14 + (step < 0 ? -step * 40 : 0)),
    path: `M${p[0].toFixed(1)} ${p[1].toFixed(1)}A${r} ${r} 0 0 ${sweep} ${q[0].toFixed(1)} ${q[1].toFixed(1)}`,
  };
}

/** Outside of a round, on a line from it. */
function roundAt(d: Drawing, c: Exclude<OutlineCurve, { kind: "line" }>, step: number, where?: XY): Placed {
  const shape = shapeOf(c, d.outline.points);
  const share = c.kind === "circle" ? 0.125 + step * 0.09 : 0.5 + step * 0.12;
  const on = d.screen.at(placeAt(shape, share));
  const centre = d.screen.at(d.outline.points[c.c]);
  const out = unit(minus(on, centre));
  // In a corner the inside has the room.
  const inward =
    c.kind === "arc" && Math.abs(turnOfArc(shape as Parameters<typeof turnOfArc>[0]).sweep) < Math.PI / 1.5;
  const to = where ?? add(on, out, inward ? -26 : 26);
  return { at: to, path: pathOf(on, to) };
}

/** Where the marks of an outline's relations may stand, at what each is about. */
function marksOf(d: Drawing, taken: Taken): Mark[] {
  const { outline, screen, curves } = d;
  const marks: Mark[] = [];
  for (const r of outline.relations) {
    if (marks.length >= MOST_MARKS) break;
    for (const anchor of anchorsOf(r, curves)) {
      const found = markPlace(d, anchor, taken);
      if (!found || !onScreen(screen, found)) continue;
      taken.take({ x: found[0], y: found[1], w: MARK + 1, h: MARK + 1 });
      marks.push({ id: r.id, kind: r.kind, at: found });
    }
  }
  return marks;
}

/** What a relation is shown at: each of two that are alike, the first where one leans on the other. */
function anchorsOf({ kind, of }: Relation, curves: ReadonlyMap<string, OutlineCurve>): readonly string[] {
  if (kind === "parallel" || kind === "equal" || kind === "inLine" || kind === "concentric")
    return of.slice(0, 2);
  if (kind === "symmetric") return of.slice(0, 2);
  if (kind === "tangent" || kind === "square") {
    const [p, q] = of.map((id) => curves.get(id));
    const ends = (c?: OutlineCurve) => (!c || c.kind === "circle" ? [] : [c.a, c.b]);
    const joint = ends(p).find((e) => ends(q).includes(e));
    return [joint ?? of[0]];
  }
  return of.slice(0, 1);
}

/** Around a point, or along a curve from its middle: the first place that is free. */
function markPlace(d: Drawing, anchor: string, taken: Taken): XY | undefined {
  const box = ([x, y]: XY) => ({ x, y, w: MARK + 1, h: MARK + 1 });
  const c = d.curves.get(anchor);
  const point = d.outline.points[anchor];
  if (point) {
    const at = d.screen.at(point);
    const around: XY[] = [
      [12, -12],
      [-12, -12],
      [12, 12],
      [-12, 12],
      [0, -17],
      [0, 17],
    ];
    return around.map((by) => add(at, by)).find((p) => taken.isFree(box(p)));
  }
  if (!c) return undefined;
  const shape = shapeOf(c, d.outline.points);
  const [p, q] = [0.45, 0.55].map((s) => d.screen.at(placeAt(shape, s)));
  const way = unit(minus(q, p));
  const out: XY = [way[1] * 12, -way[0] * 12];
  const [a, b] = c.kind === "circle" ? [p, q] : [c.a, c.b].map((id) => d.screen.at(d.outline.points[id]));
  const room = c.kind === "line" ? Math.hypot(b[0] - a[0], b[1] - a[1]) : Number.POSITIVE_INFINITY;
  if (room < MARK) return undefined;
  const mid = d.screen.at(placeAt(shape, 0.5));
  for (const k of [0, 1, -1, 2, -2])
    for (const side of [1, -1]) {
      if (Math.abs(k) * (MARK + 1) > room / 2) continue;
      const at = add(add(mid, way, k * (MARK + 1)), out, side);
      if (taken.isFree(box(at))) return at;
    }
  return undefined;
}
