import { hypotenuse } from "../plane/point.ts";
import {
  DIMENSION_SLOTS,
  fitsSlot,
  type Outline,
  type OutlineArc,
  type OutlineCircle,
  type OutlineCurve,
  type OutlineDimension,
  type OutlineLine,
  RELATION_SLOTS,
  type Relation,
} from "./outline.ts";

/** One row of the derivatives of the equations: places among the unknowns, and what stands there. */
export class Row {
  readonly at: number[] = [];
  readonly by: number[] = [];

  add(at: number, by: number): void {
    this.at.push(at);
    this.by.push(by);
  }
}

/**
 * Something that must come to nought: what it is off by at the unknowns `x` (mm), with its derivatives added to a row.
 * All are written so that a derivative is about one: a length for a length.
 */
export interface Equation {
  /** The relation or dimension that asks for it, or the arc whose two ends are as far from its middle. */
  readonly of: string;
  readonly off: Off;
}

type Off = (x: Float64Array, row: Row) => number;

/** The unknowns of an outline: two for each point, one for each circle, in the order of the document. */
export class Unknowns {
  readonly start: Float64Array;
  private readonly points = new Map<string, number>();
  private readonly radii = new Map<string, number>();
  readonly curves: ReadonlyMap<string, OutlineCurve>;

  constructor({ points, curves }: Outline) {
    const start: number[] = [];
    for (const [id, [x, y]] of Object.entries(points)) {
      this.points.set(id, start.length);
      start.push(x, y);
    }
    for (const c of curves)
      if (c.kind === "circle") {
        this.radii.set(c.id, start.length);
        start.push(c.r);
      }
    this.start = Float64Array.from(start);
    this.curves = new Map(curves.map((c) => [c.id, c]));
  }

  /** The unknowns of each curve. */
  get ofCurves(): number[][] {
    return [...this.curves.values()].map((c) => {
      const points = c.kind === "line" ? [c.a, c.b] : c.kind === "arc" ? [c.a, c.b, c.c] : [c.c];
      const places = points.flatMap((p) => [this.point(p), this.point(p) + 1]);
      return c.kind === "circle" ? [...places, this.radius(c.id)] : places;
    });
  }

  /** The place of a point's x; its y follows. */
  point = (id: string): number => this.points.get(id)!;
  radius = (id: string): number => this.radii.get(id)!;
  isPoint = (id: string): boolean => this.points.has(id);

  /** The points of a solution, by id. */
  pointsOf(x: Float64Array): Record<string, readonly [number, number]> {
    return Object.fromEntries([...this.points].map(([id, at]) => [id, [x[at], x[at + 1]] as const]));
  }

  radiiOf = (x: Float64Array): Record<string, number> =>
    Object.fromEntries([...this.radii].map(([id, at]) => [id, x[at]]));
}

/** Where a line and an arc that touches it are joined, and whether one leads on into the other without a kink. */
export interface Joint {
  readonly arc: string;
  readonly isSmooth: (x: Float64Array) => boolean;
}

type X = Float64Array;

/** The distance between two points, and its derivatives times `by`. */
function lengthOf(x: X, a: number, b: number, row: Row, by: number): number {
  const [dx, dy] = [x[b] - x[a], x[b + 1] - x[a + 1]];
  const length = hypotenuse(dx, dy);
  // Two points in one place part along X, for want of a direction.
  const [ux, uy] = length > 0 ? [(dx / length) * by, (dy / length) * by] : [by, 0];
  row.add(a, -ux);
  row.add(a + 1, -uy);
  row.add(b, ux);
  row.add(b + 1, uy);
  return length;
}

/** How far a point lies to the left of a line from a to b, and its derivatives times `by`. */
function leftOfLine(x: X, p: number, a: number, b: number, row: Row, by: number): number {
  const [dx, dy] = [x[b] - x[a], x[b + 1] - x[a + 1]];
  const [ex, ey] = [x[p] - x[a], x[p + 1] - x[a + 1]];
  const length = hypotenuse(dx, dy) || Number.MIN_VALUE;
  const [ux, uy] = [dx / length, dy / length];
  const left = ux * ey - uy * ex;
  // How far along the line the point lies, as a share of it: a and b carry the distance so.
  const share = (ux * ex + uy * ey) / length;
  row.add(p, -uy * by);
  row.add(p + 1, ux * by);
  row.add(a, uy * (1 - share) * by);
  row.add(a + 1, -ux * (1 - share) * by);
  row.add(b, uy * share * by);
  row.add(b + 1, -ux * share * by);
  return left;
}

/** The direction from a to b, radians, and its derivatives times `by`. */
function directionOf(x: X, a: number, b: number, row: Row, by: number): number {
  const [dx, dy] = [x[b] - x[a], x[b + 1] - x[a + 1]];
  const square = dx * dx + dy * dy;
  if (square > 0) {
    const [gx, gy] = [(-dy / square) * by, (dx / square) * by];
    row.add(a, -gx);
    row.add(a + 1, -gy);
    row.add(b, gx);
    row.add(b + 1, gy);
  }
  return Math.atan2(dy, dx);
}

const WHOLE = 2 * Math.PI;

/** An angle brought to within half a turn of nought. */
const within = (angle: number): number => {
  const turned = angle % (2 * Math.PI);
  if (turned > Math.PI) return turned - 2 * Math.PI;
  return turned <= -Math.PI ? turned + 2 * Math.PI : turned;
};

/** A measure alone, without its derivatives. */
const measure = (of: (row: Row) => number): number => of(new Row());

type Round = OutlineArc | OutlineCircle;

/**
 * On which of two sides, and in which of two senses, something holds: as drawn; or the nearest at every place, and where
 * arcs touch what they are joined to, smoothly on; or the nearest everywhere.
 */
export type Sides = "drawn" | "smooth" | "nearest";

/** Turns what an outline asks for into equations. Which of two ways it holds (a side, a sense) is as drawn. */
export class Equations {
  readonly unknowns: Unknowns;
  readonly list: Equation[] = [];
  /** Where lines and arcs that touch are joined. */
  readonly joints: Joint[] = [];
  private readonly x0: Float64Array;
  private readonly joined: (a: string, b: string) => boolean;

  /**
   * `values`: what each driving dimension comes to, mm or radians. `sides`: those that are drawn, or others for a
   * drawing so rough that its sides are not to be gone by.
   */
  constructor(
    outline: Outline,
    values: ReadonlyMap<string, number>,
    private readonly sides: Sides = "drawn",
  ) {
    this.unknowns = new Unknowns(outline);
    this.x0 = this.unknowns.start;
    this.joined = joinedPoints(outline);
    const take = (of: string, offs: readonly Off[]) => this.list.push(...offs.map((off) => ({ of, off })));
    const given = new Set(outline.references?.map((r) => r.id));
    for (const c of outline.curves)
      if (given.has(c.id)) take(c.id, this.stands(c));
      else if (c.kind === "arc") take(c.id, [this.arc(c)]);
    for (const r of outline.relations) take(r.id, this.relation(r));
    for (const d of outline.dimensions) {
      const value = d.showing ? undefined : values.get(d.id);
      if (value !== undefined) take(d.id, [this.dimension(d, value)]);
    }
  }

  private curve = (id: string): OutlineCurve => this.unknowns.curves.get(id)!;
  private point = (id: string): number => this.unknowns.point(id);

  private ends(id: string): [number, number] {
    const c = this.curve(id) as OutlineLine;
    return [this.point(c.a), this.point(c.b)];
  }

  /** The two points between which something is level, upright or in the middle: those of a line, or two that are given. */
  private two([first, second]: readonly string[]): [number, number] {
    return second === undefined ? this.ends(first) : [this.point(first), this.point(second)];
  }

  private radiusOf(c: Round): (x: X, row: Row, by: number) => number {
    if (c.kind === "circle") {
      const at = this.unknowns.radius(c.id);
      return (x, row, by) => {
        row.add(at, by);
        return x[at];
      };
    }
    const [m, a] = [this.point(c.c), this.point(c.a)];
    return (x, row, by) => lengthOf(x, m, a, row, by);
  }

  private arc({ a, b, c }: OutlineArc): Off {
    const [p, q, m] = [this.point(a), this.point(b), this.point(c)];
    return (x, row) => lengthOf(x, m, p, row, 1) - lengthOf(x, m, q, row, -1);
  }

  /** What stands for something of the part is where that is. */
  private stands(c: OutlineCurve): Off[] {
    const points = c.kind === "circle" ? [c.c] : c.kind === "line" ? [c.a, c.b] : [c.a, c.b, c.c];
    const places = points.flatMap((p) => [this.point(p), this.point(p) + 1]);
    if (c.kind === "circle") places.push(this.unknowns.radius(c.id));
    return places.map((v): Off => {
      const want = this.x0[v];
      return (x, row) => {
        row.add(v, 1);
        return x[v] - want;
      };
    });
  }

  private relation({ kind, of, at }: Relation): Off[] {
    switch (kind) {
      case "coincident":
        return both(...this.two(of));
      case "level":
      case "upright": {
        const [p, q] = this.two(of);
        const k = kind === "level" ? 1 : 0;
        return [difference(p + k, q + k)];
      }
      case "parallel":
      case "square": {
        const [d, e] = [this.ends(of[0]), this.ends(of[1])];
        return [this.angle(d, e, kind === "square" ? Math.PI / 2 : 0, Math.PI)];
      }
      case "inLine": {
        const [[a, b], ends] = [this.ends(of[0]), this.ends(of[1])];
        return ends.map(
          (p): Off =>
            (x, row) =>
              leftOfLine(x, p, a, b, row, 1),
        );
      }
      case "tangent":
        return [this.tangent(this.curve(of[0]), this.curve(of[1]))];
      case "concentric": {
        const [p, q] = of.map((o) => this.point(this.unknowns.isPoint(o) ? o : (this.curve(o) as Round).c));
        return both(p, q);
      }
      case "equal":
        return [this.equal(this.curve(of[0]), this.curve(of[1]))];
      case "symmetric": {
        const [p, q, [a, b]] = [this.point(of[0]), this.point(of[1]), this.ends(of[2])];
        // As far on one side of the line as on the other, and square to it.
        return [
          (x, row) => (leftOfLine(x, p, a, b, row, 0.5) + leftOfLine(x, q, a, b, row, 0.5)) / 2,
          (x, row) => alongLine(x, p, q, a, b, row),
        ];
      }
      case "middle": {
        const m = this.point(of[0]);
        const [p, q] = this.two(of.slice(1));
        return [0, 1].map(
          (k): Off =>
            (x, row) => {
              row.add(m + k, 1);
              row.add(p + k, -0.5);
              row.add(q + k, -0.5);
              return x[m + k] - (x[p + k] + x[q + k]) / 2;
            },
        );
      }
      case "on":
        return [this.on(this.point(of[0]), this.curve(of[1]))];
      case "fixed": {
        const p = this.point(of[0]);
        return [0, 1].map((k): Off => {
          const want = at?.[k] ?? this.x0[p + k];
          return (x, row) => {
            row.add(p + k, 1);
            return x[p + k] - want;
          };
        });
      }
    }
  }

  /**
   * The angle from one direction to another is `turn`, but for `period`s; measured at the longer arm as drawn. Which of
   * several it is, is as drawn, unless the nearest counts.
   */
  private angle(
    d: readonly [number, number],
    e: readonly [number, number],
    turn: number,
    period = WHOLE,
  ): Off {
    const size = Math.max(this.lengthNow(d), this.lengthNow(e), 1e-6);
    const drawn = turn + period * Math.round((this.turnNow(d, e) - turn) / period);
    return (x, row) => {
      const angle = directionOf(x, e[0], e[1], row, size) - directionOf(x, d[0], d[1], row, -size);
      if (this.sides === "drawn" || period === WHOLE)
        return within(angle - (period === WHOLE ? turn : drawn)) * size;
      const off = within(angle - turn);
      return (off - period * Math.round(off / period)) * size;
    };
  }

  /** 1 where a line has a point on its left, -1 on its right: as drawn, or as it is. */
  private sideOf(p: number, a: number, b: number): (x: X) => 1 | -1 {
    const at = (x: X) => (measure((r) => leftOfLine(x, p, a, b, r, 1)) < 0 ? -1 : 1);
    const drawn = at(this.x0);
    return this.sides === "drawn" ? () => drawn : at;
  }

  private lengthNow = ([a, b]: readonly [number, number]): number =>
    measure((r) => lengthOf(this.x0, a, b, r, 1));

  private turnNow([a, b]: readonly [number, number], [p, q]: readonly [number, number]): number {
    const { x0 } = this;
    return within(measure((r) => directionOf(x0, p, q, r, 1)) - measure((r) => directionOf(x0, a, b, r, 1)));
  }

  private equal(c: OutlineCurve, d: OutlineCurve): Off {
    if (c.kind === "line" || d.kind === "line") {
      const [[a, b], [p, q]] = [this.ends(c.id), this.ends(d.id)];
      return (x, row) => lengthOf(x, a, b, row, 1) - lengthOf(x, p, q, row, -1);
    }
    const [r, s] = [this.radiusOf(c), this.radiusOf(d)];
    return (x, row) => r(x, row, 1) - s(x, row, -1);
  }

  private on(p: number, c: OutlineCurve): Off {
    if (c.kind === "line") {
      const [a, b] = this.ends(c.id);
      return (x, row) => leftOfLine(x, p, a, b, row, 1);
    }
    const [m, r] = [this.point(c.c), this.radiusOf(c)];
    return (x, row) => lengthOf(x, m, p, row, 1) - r(x, row, -1);
  }

  /** The points at which two curves are joined, the first's and the second's. */
  private meeting(c: OutlineCurve, d: OutlineCurve): [number, number] | undefined {
    if (c.kind === "circle" || d.kind === "circle") return undefined;
    for (const p of [c.a, c.b])
      for (const q of [d.a, d.b]) if (this.joined(p, q)) return [this.point(p), this.point(q)];
    return undefined;
  }

  private tangent(first: OutlineCurve, second: OutlineCurve): Off {
    const [c, d] = first.kind !== "line" && second.kind === "line" ? [second, first] : [first, second];
    const round = d as Round;
    return c.kind === "line" ? this.lineTangent(c, round) : this.roundTangent(c, round);
  }

  private noteJoint(
    [a, b]: readonly [number, number],
    met: readonly [number, number],
    arc: OutlineArc,
  ): void {
    const m = this.point(arc.c);
    const side = smoothTurn(b === met[0], arc, this.point, met[1]);
    this.joints.push({
      arc: arc.id,
      isSmooth: (x) => side * measure((r) => leftOfLine(x, m, a, b, r, 1)) > 0,
    });
  }

  private lineTangent(line: OutlineLine, round: Round): Off {
    const [a, b] = this.ends(line.id);
    const m = this.point(round.c);
    const met = this.meeting(line, round);
    // Where the arc begins at the line, its radius is square to it: the distance alone would have no slope there.
    if (met) this.noteJoint([a, b], met, round as OutlineArc);
    if (met && this.sides === "smooth")
      return this.angle(
        [a, b],
        [met[1], m],
        (Math.PI / 2) * smoothTurn(b === met[0], round as OutlineArc, this.point, met[1]),
      );
    if (met) return this.angle([a, b], [met[1], m], Math.PI / 2, Math.PI);
    const [sideAt, r] = [this.sideOf(m, a, b), this.radiusOf(round)];
    return (x, row) => {
      const side = sideAt(x);
      return leftOfLine(x, m, a, b, row, side) * side - r(x, row, -1);
    };
  }

  private roundTangent(c: Round, d: Round): Off {
    const [n, m] = [this.point(c.c), this.point(d.c)];
    const met = this.meeting(c, d);
    if (met) {
      const [p, q]: [number, number][] = [
        [met[0], n],
        [met[1], m],
      ];
      return this.angle(p, q, 0, Math.PI);
    }
    const [r, s] = [this.radiusOf(c), this.radiusOf(d)];
    const [rn, sn] = [r, s].map((of) => measure((w) => of(this.x0, w, 1)));
    const apart = this.lengthNow([n, m]);
    // From outside, or one within the other, whichever is nearer to what is drawn.
    const outside = Math.abs(apart - rn - sn) <= Math.abs(apart - Math.abs(rn - sn));
    const first = outside || rn >= sn ? 1 : -1;
    const other = outside ? 1 : -first;
    return (x, row) => lengthOf(x, n, m, row, 1) - first * r(x, row, -first) - other * s(x, row, -other);
  }

  private dimension({ kind, of }: OutlineDimension, value: number): Off {
    const round = this.curve(of[0]) as Round;
    switch (kind) {
      case "distance":
      case "length": {
        const [p, q] = this.two(of);
        return (x, row) => lengthOf(x, p, q, row, 1) - value;
      }
      case "distanceX":
      case "distanceY": {
        const [p, q] = this.two(of);
        const k = kind === "distanceX" ? 0 : 1;
        const way = (x: X) => (x[q + k] < x[p + k] ? -1 : 1);
        const drawn = way(this.x0);
        return difference(p + k, q + k, this.sides === "drawn" ? () => drawn * value : (x) => way(x) * value);
      }
      case "toLine": {
        const p = this.point(of[0]);
        const [a, b] = this.ends(of[1]);
        const side = this.sideOf(p, a, b);
        return (x, row) => leftOfLine(x, p, a, b, row, 1) - side(x) * value;
      }
      case "angle": {
        const [d, e] = [this.ends(of[0]), this.ends(of[1])];
        const [left, right] = [this.angle(d, e, value), this.angle(d, e, -value)];
        if (this.sides === "drawn") return this.turnNow(d, e) < 0 ? right : left;
        const now = (x: X) =>
          within(
            measure((r) => directionOf(x, e[0], e[1], r, 1)) -
              measure((r) => directionOf(x, d[0], d[1], r, 1)),
          );
        return (x, row) => (now(x) < 0 ? right(x, row) : left(x, row));
      }
      case "radius":
      case "diameter": {
        const r = this.radiusOf(round);
        const want = kind === "radius" ? value : value / 2;
        return (x, row) => r(x, row, 1) - want;
      }
      case "arcLength":
        return this.arcLength(round, value);
    }
  }

  private arcLength(c: Round, value: number): Off {
    const r = this.radiusOf(c);
    if (c.kind === "circle") return (x, row) => r(x, row, 1) - value / (2 * Math.PI);
    const [m, a, b] = [this.point(c.c), this.point(c.a), this.point(c.b)];
    return (x, row) => {
      const radius = measure((w) => r(x, w, 1));
      const sweep = Math.abs(sweepOf(x, this.unknowns, c));
      r(x, row, sweep);
      const way = c.ccw ? radius : -radius;
      directionOf(x, m, b, row, way);
      directionOf(x, m, a, row, -way);
      return radius * sweep - value;
    };
  }
}

/** 1 where the middle of an arc lies on the left of a line that leads on into it (or out of it) without a kink, else -1. */
const smoothTurn = (
  lineEnds: boolean,
  { a, ccw }: OutlineArc,
  pointOf: (id: string) => number,
  at: number,
): 1 | -1 => ((ccw === lineEnds) === (pointOf(a) === at) ? 1 : -1);

const difference =
  (p: number, q: number, want: (x: X) => number = () => 0): Off =>
  (x, row) => {
    row.add(p, -1);
    row.add(q, 1);
    return x[q] - x[p] - want(x);
  };

const both = (p: number, q: number): Off[] => [difference(p, q), difference(p + 1, q + 1)];

/** How far it is from p to q along a line from a to b. */
function alongLine(x: X, p: number, q: number, a: number, b: number, row: Row): number {
  const [dx, dy] = [x[b] - x[a], x[b + 1] - x[a + 1]];
  const [ex, ey] = [x[q] - x[p], x[q + 1] - x[p + 1]];
  const length = hypotenuse(dx, dy) || Number.MIN_VALUE;
  const [ux, uy] = [dx / length, dy / length];
  const along = ux * ex + uy * ey;
  row.add(q, ux);
  row.add(q + 1, uy);
  row.add(p, -ux);
  row.add(p + 1, -uy);
  const [gx, gy] = [(ex - along * ux) / length, (ey - along * uy) / length];
  row.add(b, gx);
  row.add(b + 1, gy);
  row.add(a, -gx);
  row.add(a + 1, -gy);
  return along;
}

/** How far an arc turns, radians: above nought counter-clockwise. */
export function sweepOf(x: Float64Array, unknowns: Unknowns, { a, b, c, ccw }: OutlineArc): number {
  const [p, q, m] = [unknowns.point(a), unknowns.point(b), unknowns.point(c)];
  const turn = Math.atan2(x[q + 1] - x[m + 1], x[q] - x[m]) - Math.atan2(x[p + 1] - x[m + 1], x[p] - x[m]);
  const full = 2 * Math.PI;
  const sweep = ((turn % full) + full) % full;
  if (ccw) return sweep < 1e-12 ? full : sweep;
  return sweep < 1e-12 ? -full : sweep - full;
}

/** What a dimension comes to as things stand: mm or radians. */
export function measured({ kind, of }: OutlineDimension, x: Float64Array, unknowns: Unknowns): number {
  const ends = (id: string): [number, number] => {
    const c = unknowns.curves.get(id) as OutlineLine;
    return [unknowns.point(c.a), unknowns.point(c.b)];
  };
  const two = (): [number, number] =>
    of.length === 1 ? ends(of[0]) : [unknowns.point(of[0]), unknowns.point(of[1])];
  const radius = () => {
    const c = unknowns.curves.get(of[0]) as Round;
    return c.kind === "circle"
      ? x[unknowns.radius(c.id)]
      : measure((r) => lengthOf(x, unknowns.point(c.c), unknowns.point(c.a), r, 1));
  };
  switch (kind) {
    case "distance":
    case "length":
      return measure((r) => lengthOf(x, ...two(), r, 1));
    case "distanceX":
    case "distanceY": {
      const [p, q] = two();
      const k = kind === "distanceX" ? 0 : 1;
      return Math.abs(x[q + k] - x[p + k]);
    }
    case "toLine":
      return Math.abs(measure((r) => leftOfLine(x, unknowns.point(of[0]), ...ends(of[1]), r, 1)));
    case "angle": {
      const [d, e] = [ends(of[0]), ends(of[1])];
      return Math.abs(
        within(measure((r) => directionOf(x, ...e, r, 1)) - measure((r) => directionOf(x, ...d, r, 1))),
      );
    }
    case "radius":
      return radius();
    case "diameter":
      return 2 * radius();
    case "arcLength": {
      const c = unknowns.curves.get(of[0]) as Round;
      return radius() * (c.kind === "circle" ? 2 * Math.PI : Math.abs(sweepOf(x, unknowns, c)));
    }
  }
}

/** Whether two points are one by relations, directly or through others. */
function joinedPoints({ points, relations }: Outline): (a: string, b: string) => boolean {
  const leader = new Map(Object.keys(points).map((id) => [id, id]));
  const find = (id: string): string => {
    let at = id;
    while (leader.get(at) !== at) at = leader.get(at)!;
    leader.set(id, at);
    return at;
  };
  for (const { kind, of } of relations) if (kind === "coincident") leader.set(find(of[0]), find(of[1]));
  return (a, b) => find(a) === find(b);
}

/** Why a relation or dimension cannot stand; nothing where it takes what it names. */
export function slotsProblem(
  thing: Pick<Relation, "of"> &
    ({ readonly relation: Relation["kind"] } | { readonly dimension: OutlineDimension["kind"] }),
  find: (id: string) => OutlineCurve | "point" | undefined,
): string | undefined {
  const ways = "relation" in thing ? RELATION_SLOTS[thing.relation] : DIMENSION_SLOTS[thing.dimension];
  const found = thing.of.map(find);
  const missing = thing.of.find((_, i) => found[i] === undefined);
  if (missing !== undefined) return `there is no point or curve called ${JSON.stringify(missing)}`;
  const fits = ways.some(
    (way) => way.length === found.length && way.every((slot, i) => fitsSlot(slot, found[i]!)),
  );
  if (fits) return undefined;
  const said = ways.map((way) => way.map((s) => WORDS[s]).join(", ")).join("; or ");
  return `it takes ${said}`;
}

const WORDS = { point: "a point", line: "a line", round: "an arc or circle", curve: "a line, arc or circle" };
