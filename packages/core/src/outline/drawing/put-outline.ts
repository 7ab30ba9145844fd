import { hypotenuse } from "../../plane/point.ts";
import { renameInExpression } from "../../units/expression.ts";
import type { Outline, OutlineDimension, Relation } from "../outline.ts";
import { type Drawn, type DrawTool, NOTHING, type ToolTask, type Undrawn, undrawn } from "./draw-tool.ts";
import type { OutlineDraft } from "./outline-draft.ts";
import { apart, leftOf, minus, plus, unit, type XY } from "./place.ts";
import { aimed, readPiece } from "./tools/lines.ts";

/**
 * A tool that puts an outline into another by two places: its zero comes to the first, and its X runs towards the second;
 * `mirrored`: its Y to the other side. What it said of level and upright it then says of the line between the two.
 */
export const putTool = (kind: string, outline: Outline, mirrored: boolean): DrawTool => ({
  kind,
  title: `${outline.name}${mirrored ? ", mirrored" : ""}`,
  key: "",
  group: "draw",
  values: [{ key: "angle", label: "Angle", dimension: "angle" }],
  stages: [
    { hint: "Where does its zero come to?" },
    { hint: "In which direction does its X run?", values: ["angle"] },
  ],
  aim: (place, { places, typed }) => {
    if (places.length !== 1 || !typed.angle) return place;
    return aimed(place, places[0].at, {
      angle: typed.angle,
      length: { text: "", value: Math.max(1, apart(place.at, places[0].at)) },
    });
  },
  reads: (place, { places }) => (places.length === 1 ? { angle: readPiece(place, places[0].at).angle } : {}),
  draw: (into, task) => putInto(into, task, outline, mirrored),
});

function putInto(
  into: OutlineDraft,
  { places: [from, to] }: ToolTask,
  outline: Outline,
  mirrored: boolean,
): Drawn | Undrawn {
  if (apart(from.at, to.at) < NOTHING)
    return undrawn("Its direction needs a second place, away from the first.");
  const zero = into.pointAt(from);
  const end = into.pointAt(to);
  if (zero === end) return undrawn("Its direction needs a second place, away from the first.");
  const put = new Putting(
    into,
    { zero, axis: into.line(zero, end, true) },
    unit(minus(to.at, from.at)),
    mirrored,
  );
  return put.all(outline);
}

/** Takes the things of one outline over into another, under names of their own. */
class Putting {
  private readonly names = new Map<string, string>();
  private readonly renamed = new Map<string, string>();
  private readonly y: XY;
  private readonly origin: XY;

  constructor(
    private readonly into: OutlineDraft,
    private readonly at: { readonly zero: string; readonly axis: string },
    private readonly x: XY,
    private readonly mirrored: boolean,
  ) {
    const left = leftOf(x);
    this.y = mirrored ? [-left[0], -left[1]] : left;
    this.origin = into.points[at.zero];
  }

  all(outline: Outline): Drawn | Undrawn {
    const { into } = this;
    for (const [id, at] of Object.entries(outline.points)) this.names.set(id, into.point(this.place(at)));
    for (const c of outline.curves) {
      const n = (id: string) => this.names.get(id)!;
      this.names.set(
        c.id,
        c.kind === "line"
          ? into.line(n(c.a), n(c.b), c.construction)
          : c.kind === "arc"
            ? into.arc(n(c.a), n(c.b), n(c.c), this.mirrored ? !c.ccw : c.ccw, c.construction)
            : into.circle(n(c.c), c.r, c.construction),
      );
    }
    for (const r of outline.relations) this.relation(r, outline);
    this.nameNumbers(outline);
    for (const v of outline.values ?? [])
      into.values.push({ ...v, name: this.renamed.get(v.name)!, value: this.follow(v.value) });
    for (const d of outline.dimensions) this.dimension(d);
    return {};
  }

  private place = ([x, y]: XY): XY => plus(plus(this.origin, this.x, x), this.y, y);

  private of = (ids: readonly string[]): string[] => ids.map((id) => this.names.get(id)!);

  private relation({ kind, of, at }: Relation, outline: Outline): void {
    const { into } = this;
    const ids = this.of(of);
    if (kind === "fixed") {
      this.hold(ids[0], at ?? outline.points[of[0]]);
      return;
    }
    if (kind !== "level" && kind !== "upright") {
      into.relate(kind, ...ids);
      return;
    }
    const line = ids.length === 1 ? ids[0] : into.line(ids[0], ids[1], true);
    into.relate(kind === "level" ? "parallel" : "square", line, this.at.axis);
  }

  /** A point that stood fixed stands so from the zero and the line towards the second place. */
  private hold(point: string, [x, y]: XY): void {
    const { into } = this;
    const { zero, axis } = this.at;
    const far = hypotenuse(x, y);
    if (far < NOTHING) {
      into.relate("coincident", point, zero);
      return;
    }
    if (Math.abs(y) < NOTHING) into.relate("on", point, axis);
    else into.measure("toLine", shortest(Math.abs(y)), point, axis);
    into.measure("distance", shortest(far), zero, point);
  }

  /** Numbers keep their names, unless the drawing has one that is called so. */
  private nameNumbers({ values = [], dimensions }: Outline): void {
    const taken = new Set([...this.into.values, ...this.into.dimensions].flatMap((v) => v.name ?? []));
    for (const { name } of [...values, ...dimensions]) {
      if (!name) continue;
      let free = name;
      for (let n = 2; taken.has(free); n++) free = `${name.slice(0, 36)}_${n}`;
      taken.add(free);
      this.renamed.set(name, free);
    }
  }

  private follow = (value: string | number): string | number => {
    let text = value;
    // Two steps, so that a name which becomes another's is not taken for it.
    const others = [...this.renamed].filter(([old, now]) => old !== now);
    for (const [old] of others)
      if (typeof text === "string") text = renameInExpression(text, old, `${old}__put`);
    for (const [old, now] of others)
      if (typeof text === "string") text = renameInExpression(text, `${old}__put`, now);
    return text;
  };

  private dimension(d: OutlineDimension): void {
    const { into } = this;
    const [p, q] = this.of(d.of);
    const { where: _, ...rest } = d;
    const own = {
      ...rest,
      value: this.follow(d.value),
      ...(d.name ? { name: this.renamed.get(d.name)! } : {}),
    };
    if (d.kind !== "distanceX" && d.kind !== "distanceY") {
      into.addDimension({ ...own, of: this.of(d.of) });
      return;
    }
    // Along X: as far from a line through the first that stands square on the axis; along Y from one that runs beside it.
    const out = d.kind === "distanceX" ? this.y : this.x;
    const line = into.line(p, into.point(plus(into.points[p], out, 5)), true);
    into.relate(d.kind === "distanceX" ? "square" : "parallel", line, this.at.axis);
    into.addDimension({ ...own, kind: "toLine", of: [q, line] });
  }
}

const shortest = (mm: number): number => Number(mm.toFixed(9));
