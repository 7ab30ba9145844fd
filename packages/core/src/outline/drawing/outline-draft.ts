import type { NamedValue } from "../../units/named-values.ts";
import {
  freshIds,
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  type OutlineReference,
  type Relation,
} from "../outline.ts";
import { asPoint, type Backdrop, endsOf, type Place, type XY } from "./place.ts";

/** A relation by what it says, in whichever order but for what is half way between others. */
const keyOf = (kind: Relation["kind"], of: readonly string[]): string =>
  `${kind} ${(kind === "middle" ? of : [...of].sort()).join()}`;

/** An outline while it is changed: what is drawn into it, and what is taken out with all that hangs on it. */
export class OutlineDraft {
  readonly points: Record<string, XY>;
  curves: OutlineCurve[];
  relations: Relation[];
  dimensions: OutlineDimension[];
  readonly values: NamedValue[];
  private references: OutlineReference[];
  private readonly fresh: (of: string) => string;

  constructor(
    private readonly outline: Outline,
    /** Whether what is drawn is only to draw by. */
    private readonly construction = false,
  ) {
    this.points = { ...outline.points };
    this.curves = [...outline.curves];
    this.relations = [...outline.relations];
    this.dimensions = [...outline.dimensions];
    this.values = [...(outline.values ?? [])];
    this.references = [...(outline.references ?? [])];
    this.fresh = freshIds(outline);
  }

  /** The outline as it is now. */
  done(): Outline {
    const { references: _, leftOut = [], ...rest } = this.outline;
    const drawn = new Set(this.curves.map((c) => c.id));
    const out = leftOut.filter((id) => drawn.has(id));
    return {
      ...rest,
      ...(out.length > 0 ? { leftOut: out } : {}),
      ...(this.values.length > 0 ? { values: this.values } : {}),
      points: this.points,
      curves: this.curves,
      relations: this.relations,
      dimensions: this.dimensions,
      ...(this.references.length > 0 ? { references: this.references } : {}),
    };
  }

  private byId = new Map<string, OutlineCurve>();
  private byIdOf: readonly OutlineCurve[] = [];
  private said = new Set<string>();
  private saidOf: readonly Relation[] = [];

  /** A curve by its id. The list is gone through once for as long as it is the same one, and only grows. */
  curve = (id: string): OutlineCurve => {
    if (this.byIdOf !== this.curves || this.byId.size !== this.curves.length) {
      this.byId = new Map(this.curves.map((c) => [c.id, c]));
      this.byIdOf = this.curves;
    }
    return this.byId.get(id)!;
  };

  private draw(curve: OutlineCurve): string {
    if (this.byIdOf === this.curves) this.byId.set(curve.id, curve);
    this.curves.push(curve);
    return curve.id;
  }

  point(at: XY): string {
    const id = this.fresh("p");
    this.points[id] = at;
    return id;
  }

  line(a: string, b: string, construction = this.construction): string {
    const id = this.fresh("l");
    return this.draw({ id, kind: "line", a, b, ...(construction ? { construction } : {}) });
  }

  arc(a: string, b: string, c: string, ccw: boolean, construction = this.construction): string {
    const id = this.fresh("a");
    return this.draw({ id, kind: "arc", a, b, c, ccw, ...(construction ? { construction } : {}) });
  }

  circle(c: string, r: number, construction = this.construction): string {
    const id = this.fresh("c");
    return this.draw({ id, kind: "circle", c, r, ...(construction ? { construction } : {}) });
  }

  relate(kind: Relation["kind"], ...of: string[]): void {
    const line = of.length === 1 && (kind === "level" || kind === "upright") ? this.curve(of[0]) : undefined;
    // Told of a line it need not be told of its ends.
    if (line?.kind === "line" && this.isSaid(kind, [line.a, line.b]))
      this.relations = this.relations.filter(
        (r) => !(r.kind === kind && r.of.includes(line.a) && r.of.includes(line.b)),
      );
    if (this.isSaid(kind, of)) return;
    this.said.add(keyOf(kind, of));
    this.relations.push({ id: this.fresh("r"), kind, of });
  }

  private isSaid(kind: Relation["kind"], of: readonly string[]): boolean {
    if (this.saidOf !== this.relations) {
      this.said = new Set(this.relations.map((r) => keyOf(r.kind, r.of)));
      this.saidOf = this.relations;
    }
    return this.said.has(keyOf(kind, of));
  }

  measure(kind: OutlineDimension["kind"], value: string | number, ...of: string[]): string {
    const id = this.fresh("d");
    this.dimensions.push({ id, kind, of, value });
    return id;
  }

  /** A dimension under an id of its own. */
  addDimension(dimension: Omit<OutlineDimension, "id"> & { readonly id?: string }): void {
    this.dimensions.push({ ...dimension, id: this.fresh("d") });
  }

  /** The point that stands at a place, and stays with what it was caught by. */
  pointAt({ at, caught, lined }: Place): string {
    if (caught?.by === "point") return caught.id;
    if (caught?.by === "part") return this.pointOfPart(at, caught.backdrop, caught.at);
    const id = this.point(at);
    if (lined && this.points[lined.point]) this.relate(lined.kind, lined.point, id);
    if (caught?.by === "middle") this.relate("middle", id, caught.curve);
    if (caught?.by === "curve") this.relate("on", id, caught.curve);
    if (caught?.by === "crossing") for (const curve of caught.curves) this.relate("on", id, curve);
    return id;
  }

  private pointOfPart(at: XY, backdrop: Backdrop, where: "a" | "b" | "centre" | "middle" | "on"): string {
    const curve = this.curve(this.referTo(backdrop));
    if (where === "centre" && curve.kind !== "line") return curve.c;
    if ((where === "a" || where === "b") && curve.kind !== "circle") return curve[where];
    const id = this.point(at);
    this.relate(where === "middle" && curve.kind === "line" ? "middle" : "on", id, curve.id);
    return id;
  }

  /** The curve that stands for something of the part; it is there once, however often it is drawn on. */
  referTo({ name, curve }: Backdrop): string {
    const known = this.references.find((r) => r.to === name);
    if (known) return known.id;
    const id =
      curve.kind === "line"
        ? this.line(this.point(curve.a), this.point(curve.b), true)
        : curve.kind === "arc"
          ? this.arc(this.point(curve.a), this.point(curve.b), this.point(curve.c), curve.ccw, true)
          : this.circle(this.point(curve.c), curve.r, true);
    this.references.push({ id, to: name });
    return id;
  }

  /** Lets a curve stand for another thing of the part; not where another curve does. */
  standFor(id: string, { name, curve }: Backdrop): boolean {
    if (this.references.some((r) => r.to === name && r.id !== id)) return false;
    this.references = this.references.map((r) => (r.id === id ? { id, to: name } : r));
    const own = this.curve(id);
    if (own.kind === "circle" && curve.kind === "circle") {
      this.points[own.c] = curve.c;
      this.replaceCurve({ ...own, r: curve.r });
    }
    if (own.kind !== "circle" && curve.kind !== "circle")
      [this.points[own.a], this.points[own.b]] = [curve.a, curve.b];
    if (own.kind === "arc" && curve.kind === "arc") {
      this.points[own.c] = curve.c;
      this.replaceCurve({ ...own, ccw: curve.ccw });
    }
    return true;
  }

  isReference = (id: string): boolean => this.references.some((r) => r.id === id);

  /** Whether a point stands where the part has it. */
  isOfPart = (point: string): boolean =>
    this.curves.some((c) => this.isReference(c.id) && endsOf(c).includes(point));

  replaceCurve(curve: OutlineCurve): void {
    this.curves = this.curves.map((c) => (c.id === curve.id ? curve : c));
  }

  /** How many curves end or have their middle at a point. */
  uses = (point: string): number => this.curves.filter((c) => endsOf(c).includes(point)).length;

  /** Takes things out: points, curves, relations and dimensions by id, with all that is said of them. */
  remove(ids: Iterable<string>): void {
    const gone = new Set(ids);
    for (const c of this.curves) if (endsOf(c).some((p) => gone.has(p))) gone.add(c.id);
    const before = new Set(this.curves.filter((c) => gone.has(c.id)).flatMap(endsOf));
    this.curves = this.curves.filter((c) => !gone.has(c.id));
    for (const p of before) if (this.uses(p) === 0) gone.add(p);
    for (const id of gone) delete this.points[id];
    this.references = this.references.filter((r) => !gone.has(r.id));
    const stays = (r: { id: string; of: readonly string[] }) =>
      !gone.has(r.id) && !r.of.some((id) => gone.has(id));
    this.relations = this.relations.filter(stays);
    this.dimensions = this.dimensions.filter(stays);
  }

  /** Takes a point out that nothing is drawn with any more, unless something is still said of it. */
  dropIfIdle(point: string): void {
    const said = [...this.relations, ...this.dimensions].some((r) => r.of.includes(point));
    if (this.uses(point) === 0 && !said) delete this.points[point];
  }

  /** What a curve's length says of it, which no longer holds once it is cut or lengthened. */
  forgetLength(curve: string): void {
    this.dimensions = this.dimensions.filter(
      (d) => !(d.of.includes(curve) && (d.kind === "length" || d.kind === "arcLength")),
    );
    const isLine = this.curve(curve).kind === "line";
    this.relations = this.relations.filter(
      (r) => !(r.of.includes(curve) && (r.kind === "middle" || (r.kind === "equal" && isLine))),
    );
  }

  where = (point: string) => asPoint(this.points[point]);
}
