import type { Curve } from "../plane/curve.ts";
import { circleLoop } from "../plane/loop.ts";
import { NumberedPlaces } from "../plane/near-places.ts";
import { fail, ok, type Result } from "../result.ts";
import { formatShort } from "../units/quantity.ts";
import { Equations } from "./equations.ts";
import { arcsAlong, type Corner, type Smooth } from "./fit-arcs.ts";
import {
  FARTHEST,
  freshIds,
  MOST_CURVES,
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type OutlineCurve,
  type Relation,
} from "./outline.ts";
import { rankOf } from "./rank.ts";
import { groupsOf } from "./solve-group.ts";
import { linearise } from "./sparse.ts";

type Place = readonly [number, number];

/** What a drawing file holds, in its own units: angles in radians, counter-clockwise from `from` to `to`. */
export type Shape =
  | { readonly kind: "line"; readonly a: Place; readonly b: Place }
  | {
      readonly kind: "arc";
      readonly c: Place;
      readonly r: number;
      readonly from: number;
      readonly to: number;
    }
  | { readonly kind: "circle"; readonly c: Place; readonly r: number }
  /** A chain of straight pieces and, where the bulge tan(θ/4) of a corner is not nought, arcs that turn by θ. */
  | {
      readonly kind: "chain";
      readonly corners: readonly Corner[];
      readonly closed: boolean;
      /** Whether it stands for a smooth curve that it was drawn along. */
      readonly along?: boolean;
    }
  /** A curve that is none of these, as an ellipse or a spline: arcs are drawn along it. */
  | ({ readonly kind: "smooth" } & Smooth);

export interface ShapesOptions {
  /** Millimetres in a unit of the file. */
  readonly scale?: number;
  /** Ends that are no farther apart are joined, mm. */
  readonly join?: number;
  /** How far arcs may be from the curves that they are drawn along, mm. */
  readonly tolerance?: number;
}

/** An outline made of shapes, and what was done to them on the way. */
export interface OutlineRead {
  readonly outline: Outline;
  /** What a person should know: gaps that were joined, what was left out. */
  readonly notes: readonly string[];
}

/** Shorter pieces are no curves, mm. */
const SHORTEST = 1e-6;
const JOIN = 0.01;
const TOLERANCE = 0.01;

interface Piece {
  readonly kind: "line" | "arc";
  readonly a: Place;
  readonly b: Place;
  readonly c?: Place;
  readonly ccw: boolean;
}

/**
 * The lines and arcs that a shape is made of, in its own units; arcs are drawn along what is neither, within `tolerance`.
 * Pieces of no length are left out; a circle is two half turns.
 */
export function curvesOfShape(shape: Shape, tolerance = TOLERANCE): Curve[] {
  if (shape.kind === "circle") return [...circleLoop({ x: shape.c[0], y: shape.c[1] }, shape.r)];
  return piecesOf(shape, tolerance).flatMap(({ kind, a, b, c, ccw }): Curve[] => {
    const ends = { a: { x: a[0], y: a[1] }, b: { x: b[0], y: b[1] } };
    if (kind === "arc" && c)
      return [{ kind, ...ends, c: { x: c[0], y: c[1] }, r: Math.hypot(a[0] - c[0], a[1] - c[1]), ccw }];
    return a[0] === b[0] && a[1] === b[1] ? [] : [{ kind: "line", ...ends }];
  });
}

/** The two ends of each piece of a shape; a circle has none. */
function piecesOf(shape: Exclude<Shape, { kind: "circle" }>, tolerance: number): Piece[] {
  if (shape.kind === "smooth")
    return piecesOf({ kind: "chain", corners: arcsAlong(shape, tolerance), closed: false }, tolerance);
  if (shape.kind === "line") return [{ ...shape, ccw: true }];
  if (shape.kind === "arc") {
    const { c, r, from, to } = shape;
    const on = (angle: number): Place => [c[0] + r * Math.cos(angle), c[1] + r * Math.sin(angle)];
    return [{ kind: "arc", a: on(from), b: on(to), c, ccw: true }];
  }
  const { corners, closed } = shape;
  return corners.slice(0, closed ? undefined : -1).map(({ at: a, bulge }, i): Piece => {
    const b = corners[(i + 1) % corners.length].at;
    if (Math.abs(bulge) < 1e-12) return { kind: "line", a, b, ccw: true };
    // The middle lies square to the chord, (1 − bulge²)/(4·bulge) of it away.
    const f = (1 - bulge * bulge) / (4 * bulge);
    const c: Place = [(a[0] + b[0]) / 2 - f * (b[1] - a[1]), (a[1] + b[1]) / 2 + f * (b[0] - a[0])];
    return { kind: "arc", a, b, c, ccw: bulge > 0 };
  });
}

/** Shapes without functions in them, so that they can be sent from a worker: arcs are drawn along what is smooth. */
export const plainShapes = (shapes: readonly Shape[], tolerance: number): Shape[] =>
  shapes.map((s) =>
    s.kind === "smooth" ? { kind: "chain", corners: arcsAlong(s, tolerance), closed: false, along: true } : s,
  );

/** Ends by number: those within a distance of one another are one, and how far they were apart is kept. */
class Ends {
  private readonly places: NumberedPlaces;
  joined = 0;
  widest = 0;

  constructor(join: number) {
    this.places = new NumberedPlaces(join);
  }

  of([x, y]: Place): number {
    const id = this.places.of({ x, y });
    const [u, v] = this.at(id);
    const apart = Math.hypot(u - x, v - y);
    if (apart > SHORTEST) this.joined++;
    this.widest = Math.max(this.widest, apart);
    return id;
  }

  at(id: number): Place {
    const { x, y } = this.places.at[id];
    return [x, y];
  }
}

const scaled = (shapes: readonly Shape[], f: number): Shape[] => {
  const at = ([x, y]: Place): Place => [x * f, y * f];
  return shapes.map((s): Shape => {
    if (s.kind === "line") return { ...s, a: at(s.a), b: at(s.b) };
    if (s.kind === "smooth") return { kind: "smooth", at: (t) => at(s.at(t)), way: s.way };
    if (s.kind === "chain") return { ...s, corners: s.corners.map((k) => ({ ...k, at: at(k.at) })) };
    return { ...s, c: at(s.c), r: s.r * f };
  });
};

/** Points and curves as they are gathered. */
class Gathering {
  readonly points: Record<string, Place> = {};
  readonly curves: OutlineCurve[] = [];
  private readonly ends: Ends;
  private readonly seen = new Set<string>();
  private short = 0;
  private twice = 0;

  constructor(
    join: number,
    private readonly low: Place,
  ) {
    this.ends = new Ends(join);
  }

  private shifted = ([x, y]: Place): Place => [x - this.low[0], y - this.low[1]];

  private point(p: Place): string {
    const k = this.ends.of(this.shifted(p));
    this.points[`p${k + 1}`] ??= this.ends.at(k);
    return `p${k + 1}`;
  }

  private middle(p: Place): string {
    const id = `m${this.curves.length + 1}`;
    this.points[id] = this.shifted(p);
    return id;
  }

  private isNew(key: string): boolean {
    if (this.seen.has(key)) this.twice++;
    else if (this.seen.add(key)) return true;
    return false;
  }

  piece({ kind, a: from, b: to, c, ccw }: Piece): void {
    const [a, b] = [this.point(from), this.point(to)];
    if (a === b) {
      this.short++;
      return;
    }
    const round = c ? `${rounded(this.shifted(c))} ${ccw === a < b}` : "";
    if (!this.isNew(`${[a, b].sort().join(" ")} ${round}`)) return;
    const n = this.curves.length + 1;
    if (kind === "line" || !c) this.curves.push({ id: `l${n}`, kind: "line", a, b });
    else this.curves.push({ id: `a${n}`, kind: "arc", a, b, c: this.middle(c), ccw });
  }

  round(c: Place, r: number): void {
    if (r < SHORTEST) this.short++;
    else if (this.isNew(`o ${rounded(this.shifted(c))} ${r.toFixed(6)}`))
      this.curves.push({ id: `c${this.curves.length + 1}`, kind: "circle", c: this.middle(c), r });
  }

  notes(): string[] {
    const { joined, widest } = this.ends;
    const [twice, short] = [this.twice, this.short];
    return [
      joined > 0
        ? `${joined} ${joined === 1 ? "gap was" : "gaps were"} joined, the widest ${formatShort(widest, 4)} mm.`
        : "",
      twice > 0 ? `${twice} ${twice === 1 ? "curve was" : "curves were"} drawn twice.` : "",
      short > 0
        ? `${short} ${short === 1 ? "piece was too short to be a curve" : "pieces were too short to be curves"}, and left out.`
        : "",
    ].filter((n) => n !== "");
  }
}

/**
 * An outline of what a drawing file holds. Its lower left stands at 0, 0; ends that nearly meet are joined, what is drawn
 * twice or is no longer than a hair is left out, and both are told. Curves that are joined share a point.
 */
export function outlineFromShapes(
  name: string,
  shapes: readonly Shape[],
  { scale = 1, join = JOIN, tolerance = TOLERANCE }: ShapesOptions = {},
): Result<OutlineRead> {
  const all = scaled(shapes, scale);
  const pieces = all.flatMap((s) => (s.kind === "circle" ? [] : piecesOf(s, tolerance)));
  const smooth = all.flatMap((s) => (s.kind === "smooth" || (s.kind === "chain" && s.along) ? [s] : []));
  const rounds = all.filter((s) => s.kind === "circle");
  if (pieces.length + rounds.length > MOST_CURVES)
    return fail(`The file has ${pieces.length + rounds.length} curves; an outline can have ${MOST_CURVES}.`);
  const numbers = [
    ...pieces.flatMap((p) => [...p.a, ...p.b, ...(p.c ?? [])]),
    ...rounds.flatMap((r) => [...r.c, r.r]),
  ];
  if (!numbers.every((v) => Number.isFinite(v) && Math.abs(v) < 1e12))
    return fail("The file has coordinates that are no numbers, or far too large.");
  const gathering = new Gathering(join, lowest(pieces, rounds));
  for (const piece of pieces) gathering.piece(piece);
  for (const { c, r } of rounds) gathering.round(c, r);
  const { points, curves } = gathering;
  if (curves.length === 0) return fail("The file has no lines, arcs or circles.");
  if (Object.values(points).some((p) => p.some((v) => Math.abs(v) > FARTHEST)))
    return fail(`What is drawn reaches farther than ${FARTHEST} mm. Is it in other units?`);
  const used = new Set(
    curves.flatMap((c) => (c.kind === "circle" ? [c.c] : c.kind === "arc" ? [c.a, c.b, c.c] : [c.a, c.b])),
  );
  const kept = Object.fromEntries(Object.entries(points).filter(([id]) => used.has(id)));
  const outline: Outline = {
    format: OUTLINE_FORMAT,
    version: OUTLINE_VERSION,
    name,
    points: kept,
    curves,
    relations: [],
    dimensions: [],
  };
  const along = smooth.reduce((sum, s) => sum + piecesOf(s, tolerance).length, 0);
  const notes = gathering.notes();
  if (smooth.length > 0)
    notes.push(
      `${smooth.length} ${smooth.length === 1 ? "curve that is no line or arc was" : "curves that are no lines or arcs were"} drawn as ${along} arcs, within ${formatShort(tolerance, 4)} mm.`,
    );
  return ok({ outline, notes });
}

const rounded = ([x, y]: Place): string => `${x.toFixed(5)} ${y.toFixed(5)}`;

/** The lower left corner of all that is drawn. */
function lowest(
  pieces: readonly Piece[],
  rounds: readonly { readonly c: Place; readonly r: number }[],
): Place {
  let [x, y] = [Infinity, Infinity];
  const take = (px: number, py: number) => {
    x = Math.min(x, px);
    y = Math.min(y, py);
  };
  for (const { a, b } of pieces) {
    take(...a);
    take(...b);
  }
  for (const { c, r } of rounds) take(c[0] - r, c[1] - r);
  return [x, y];
}

/** Relations hold when they are off by no more than this, mm or radians. */
const HOLDS = 1e-6;

/**
 * Relations that hold in an outline as it is drawn, and that say something which those before them do not: lines that
 * are level or upright, lines and arcs that lead on into one another, lines square to one another where they meet, and
 * rounds of one radius.
 */
export function foundRelations(outline: Outline): Relation[] {
  const found = [...leveled(outline), ...atJoints(outline), ...likeRounds(outline)];
  const fresh = freshIds(outline);
  const named = found.map(({ kind, of }): Relation => ({ id: fresh("r"), kind, of }));
  return withoutRepeats(outline, named);
}

type Found = Pick<Relation, "kind" | "of">;

/** The direction of a curve at one of its ends. */
function directionAt({ points }: Outline, c: Exclude<OutlineCurve, { kind: "circle" }>, at: string): Place {
  const [from, to] = c.kind === "line" ? [points[c.a], points[c.b]] : [points[c.c], points[at]];
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy) || 1;
  return c.kind === "line" ? [dx / length, dy / length] : [-dy / length, dx / length];
}

const leveled = (outline: Outline): Found[] =>
  outline.curves.flatMap((l): Found[] => {
    if (l.kind !== "line") return [];
    const [dx, dy] = directionAt(outline, l, l.a);
    if (Math.abs(dy) < HOLDS) return [{ kind: "level", of: [l.id] }];
    return Math.abs(dx) < HOLDS ? [{ kind: "upright", of: [l.id] }] : [];
  });

/** What holds where two curves, and no more, are joined. */
function atJoints(outline: Outline): Found[] {
  const meeting = new Map<string, Exclude<OutlineCurve, { kind: "circle" }>[]>();
  for (const c of outline.curves)
    if (c.kind !== "circle") for (const end of [c.a, c.b]) meeting.set(end, [...(meeting.get(end) ?? []), c]);
  return [...meeting].flatMap(([at, [c, d, more]]): Found[] => {
    if (!d || more) return [];
    const [u, v] = [directionAt(outline, c, at), directionAt(outline, d, at)];
    const round = c.kind === "arc" || d.kind === "arc";
    if (round && Math.abs(u[0] * v[1] - u[1] * v[0]) < HOLDS) return [{ kind: "tangent", of: [c.id, d.id] }];
    if (!round && Math.abs(u[0] * v[0] + u[1] * v[1]) < HOLDS) return [{ kind: "square", of: [c.id, d.id] }];
    return [];
  });
}

function likeRounds({ points, curves }: Outline): Found[] {
  // Each to the one before it: were all related to the first, each would bear on every other.
  const last = new Map<string, string>();
  return curves.flatMap((c): Found[] => {
    if (c.kind === "line") return [];
    const r =
      c.kind === "circle"
        ? c.r
        : Math.hypot(points[c.a][0] - points[c.c][0], points[c.a][1] - points[c.c][1]);
    const key = `${c.kind} ${r.toFixed(6)}`;
    const before = last.get(key);
    last.set(key, c.id);
    return before === undefined ? [] : [{ kind: "equal", of: [before, c.id] }];
  });
}

/** Relations of a list that say something that is not said yet. */
function withoutRepeats(outline: Outline, found: readonly Relation[]): Relation[] {
  const driving = outline.dimensions.filter((d) => !d.showing);
  const all = { ...outline, relations: [...outline.relations, ...found], dimensions: [] };
  if (driving.length > 0 || found.length === 0) return [...found];
  const { list, unknowns } = new Equations(all, new Map());
  const x = Float64Array.from(unknowns.start);
  const idle = new Set<string>();
  for (const g of groupsOf(list, x, unknowns.ofCurves))
    for (const repeat of rankOf(linearise(g.equations, x), g.unknowns).repeats)
      idle.add(g.equations[repeat[repeat.length - 1]].of);
  return found.filter((r) => !idle.has(r.id));
}
