import { FARTHEST } from "../../fields/kinds/quantity.ts";
import { wrongForm } from "../../forming/form-surface.ts";
import { CUT_FREE } from "../../forming/inset.ts";
import { type FormShape, reachOf, type SectionNode } from "../../forming/section.ts";
import { formedVolume } from "../../forming/volume.ts";
import { outlineRegions } from "../../outline/regions.ts";
import { solveOutline } from "../../outline/solve.ts";
import { type Curve, line } from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import { circleLoop, type Loop, loopArea, welded } from "../../plane/loop.ts";
import { distance, point, samePoint } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { evaluateExpression, type Names } from "../../units/expression.ts";
import type { Dimension } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { cornersLoop } from "./corners-loop.ts";
import type { FormItem, FormValue } from "./form-item.ts";

/** A form with its values as numbers: about its middle, in mm. */
export interface ResolvedForm {
  readonly outline: Loop;
  readonly shape: FormShape;
  /** The opening that is cut where the middle is open. */
  readonly opening?: Loop;
  /** The length over which a thread in it is engaged. */
  readonly engages?: number;
  readonly room: number;
  /** Every value by its name: mm, radians or plain. */
  readonly values: Readonly<Record<string, number>>;
}

/** What is wrong, and with what: a value by its name, or a field of the form. */
export interface FormProblem {
  readonly at: string;
  readonly value?: string;
  readonly message: string;
}

/** How fine an outline is looked at when it is asked whether something can be formed of it, mm. */
const CHORD = 0.05;

/** Finds numbers of a form's expressions. */
class Evaluator {
  private readonly done = new Map<string, Result<number>>();
  private readonly open: string[] = [];
  private readonly byName: ReadonlyMap<string, FormValue>;

  constructor(
    private readonly item: FormItem,
    private readonly given: (name: string) => number | undefined,
    private readonly t: number,
  ) {
    this.byName = new Map(item.values.map((v) => [v.name, v]));
  }

  private readonly names: Names = (name) => {
    if (name === "t") return ok({ value: this.t, dimension: "length" });
    const value = this.byName.get(name);
    if (!value) return undefined;
    const found = this.value(value);
    return found.ok ? ok({ value: found.value, dimension: value.measures }) : found;
  };

  value(v: FormValue): Result<number> {
    const own = this.given(v.name);
    if (own !== undefined) return ok(own);
    const known = this.done.get(v.name);
    if (known) return known;
    if (this.open.includes(v.name))
      return fail(`it depends on itself, by way of ${[...this.open, v.name].join(" → ")}.`);
    this.open.push(v.name);
    const found = this.number(v.value, v.measures);
    this.open.pop();
    if (this.open.length === 0 || found.ok) this.done.set(v.name, found);
    return found;
  }

  number(expression: string, dimension: Dimension = "length"): Result<number> {
    const found = evaluateExpression(expression, {
      dimension,
      names: this.names,
      known: ["t", ...this.item.values.map((v) => v.name)],
    });
    if (!found.ok) return found;
    if (!Number.isFinite(found.value)) return fail(`"${expression}" has no finite value.`);
    if (dimension === "length" && Math.abs(found.value) > FARTHEST)
      return fail(`${mm(found.value)} is too large; it must be at most ${mm(FARTHEST)}.`);
    return found;
  }
}

/** Works numbers out until one is wrong. */
class Stop extends Error {
  constructor(readonly problem: FormProblem) {
    super(problem.message);
  }
}

/**
 * The outline and the section of a form.
 *
 * @param given What a step says of a value: mm, radians or plain; nothing where it begins as the form has it.
 * @param t Thickness, mm.
 */
export function resolveForm(
  item: FormItem,
  given: (name: string) => number | undefined,
  t: number,
): Result<ResolvedForm, FormProblem> {
  const of = new Evaluator(item, given, t);
  const need = (at: string, expression: string, dimension: Dimension = "length"): number => {
    const found = of.number(expression, dimension);
    if (!found.ok) throw new Stop({ at, message: found.error });
    return found.value;
  };
  try {
    const values: Record<string, number> = {};
    for (const [i, v] of item.values.entries()) {
      const found = of.value(v);
      if (!found.ok)
        throw new Stop({ at: `values/${i}/value`, value: v.name, message: `${v.label}: ${found.error}` });
      values[v.name] = found.value;
      if (v.least === undefined || v.least.trim() === "") continue;
      const least = need(`values/${i}/least`, v.least, v.measures);
      if (found.value <= least + 1e-9)
        throw new Stop({
          at: `values/${i}/value`,
          value: v.name,
          message: `${v.label}: it must be more than ${v.measures === "length" ? mm(least) : least}.`,
        });
    }
    const shape = shapeOf(item, need);
    const outline = outlineOf(item, need);
    if (shape.b && item.outline !== "round")
      throw new Stop({
        at: "section",
        message: "Only a round shape can have a side B that goes its own way.",
      });
    const wrong = wrongForm(outline, shape, CHORD);
    if (wrong) {
      const room =
        wrong.room === undefined
          ? ""
          : ` It needs ${mm(reachOf(shape))} from its border inward; there is room for ${mm(wrong.room, 2)}.`;
      throw new Stop({ at: "section", message: `It cannot be formed: ${wrong.message}.${room}` });
    }
    const opening = shape.open ? openingOf(item, outline, shape, t, need) : undefined;
    const room = Math.max(0, need("room", item.room));
    const engages = blank(item.engages) ? {} : { engages: Math.max(0, need("engages", item.engages)) };
    return ok({ outline, shape, room, values, ...engages, ...(opening ? { opening } : {}) });
  } catch (error) {
    if (error instanceof Stop) return fail(error.problem);
    throw error;
  }
}

type Need = (at: string, expression: string, dimension?: Dimension) => number;

const blank = (expression: string | undefined): expression is undefined | "" => !expression?.trim();

function shapeOf({ section, middle }: FormItem, need: Need): FormShape {
  const own = section.some((row) => !blank(row.inwardB) || !blank(row.upB));
  const node = (i: number, inward: string, up: string, round: string, side: "" | "B"): SectionNode => ({
    inward: need(`section/${i}/inward${side}`, inward),
    rise: need(`section/${i}/up${side}`, up),
    radius: Math.max(0, need(`section/${i}/round${side}`, round)),
  });
  const a = section.map((row, i) => node(i, row.inward, row.up, row.round, ""));
  const b = own
    ? section.map((row, i) =>
        node(
          i,
          blank(row.inwardB) ? row.inward : row.inwardB,
          blank(row.upB) ? `${row.up} + t` : row.upB,
          blank(row.roundB) ? "0" : row.roundB,
          "B",
        ),
      )
    : undefined;
  if (a.length === 0) a.push({ inward: 0, rise: 0, radius: 0 });
  if (Math.abs(a[0].inward) + Math.abs(a[0].rise) > 1e-9)
    throw new Stop({ at: "section/0", message: "Its section begins at the border: inward 0, up 0." });
  const back = a.findIndex((n, i) => i > 0 && n.inward < a[i - 1].inward - 1e-9);
  if (!b && back > 0)
    throw new Stop({
      at: `section/${back}/inward`,
      message: `Corner ${back + 1} of its section stands farther out than the one before. Only with a side B of its own can it turn back.`,
    });
  const upright = b
    ? -1
    : a.findIndex(
        (n, i) => i > 0 && n.inward - a[i - 1].inward < 1e-6 && Math.abs(n.rise - a[i - 1].rise) > 1e-6,
      );
  if (upright > 0)
    throw new Stop({
      at: `section/${upright}/inward`,
      message: `Its section goes straight up at corner ${upright + 1}: nothing would be left of the metal there. Let it go inward too, or give side B a way of its own.`,
    });
  if (b && runInto(a, b))
    throw new Stop({
      at: "section",
      message: "Side B of its section runs into side A: the sheet is too thin for these values.",
    });
  return { side: "up", a, ...(b ? { b } : {}), open: middle === "open" };
}

/** Whether two sides of a section cross. */
function runInto(a: readonly SectionNode[], b: readonly SectionNode[]): boolean {
  const at = ({ inward, rise }: SectionNode) => point(inward, rise);
  const pieces = (side: readonly SectionNode[]) =>
    side
      .slice(1)
      .map((node, i) => line(at(side[i]), at(node)))
      .filter((l) => distance(l.a, l.b) > 1e-9);
  const ends = [a.at(-1)!, b.at(-1)!].map(at);
  return pieces(a).some((p) =>
    pieces(b).some((q) =>
      intersectCurves(p, q).some(
        (meet) => !(samePoint(ends[0], ends[1], 1e-6) && samePoint(meet, ends[0], 1e-6)),
      ),
    ),
  );
}

function outlineOf(item: FormItem, need: Need): Loop {
  if (item.outline === "round") {
    const d = need("diameter", item.diameter ?? "");
    if (d < 0.01)
      throw new Stop({ at: "diameter", message: `Its diameter is ${mm(d)}: it must be at least 0.01 mm.` });
    return blank(item.joints) ? circleLoop(point(0, 0), d / 2) : jointedCircle(item, d / 2, need);
  }
  if (item.outline === "drawn") return drawnLoop(item);
  const corners = (item.corners ?? []).map(({ x, y, radius, side }, i) => ({
    at: point(need(`corners/${i}/x`, x), need(`corners/${i}/y`, y)),
    radius: need(`corners/${i}/radius`, radius),
    name: side === "cut" ? CUT_FREE : undefined,
  }));
  const loop = cornersLoop(corners);
  if (!loop.ok) throw new Stop({ at: "corners", message: loop.error });
  if (crossesItself(loop.value))
    throw new Stop({ at: "corners", message: "Its outline crosses itself. Put its corners in order." });
  return loop.value;
}

const MOST_JOINTS = 36;

/** A circle that is cut free but for its joints. */
function jointedCircle({ joints, joint }: FormItem, r: number, need: Need): Loop {
  const many = Math.round(need("joints", joints!, "number"));
  if (many < 1 || many > MOST_JOINTS)
    throw new Stop({ at: "joints", message: `It can have 1 to ${MOST_JOINTS} joints.` });
  const wide = need("joint", blank(joint) ? "1" : joint);
  const half = wide / (2 * r);
  if (wide < 0.01 || half * many > Math.PI * 0.9)
    throw new Stop({
      at: "joint",
      message: `${many === 1 ? "A joint" : `${many} joints`} of ${mm(wide)} ${many === 1 ? "has" : "have"} no room on ${mm(2 * Math.PI * r, 2)} round.`,
    });
  const on = (angle: number) => point(r * Math.cos(angle), r * Math.sin(angle));
  const arc = (from: number, to: number, name?: string): Curve => ({
    kind: "arc",
    a: on(from),
    b: on(to),
    c: point(0, 0),
    r,
    ccw: true,
    ...(name ? { name } : {}),
  });
  const turn = (2 * Math.PI) / many;
  return welded(
    Array.from({ length: many }, (_, k) => [
      arc(k * turn - half, k * turn + half),
      arc(k * turn + half, (k + 1) * turn - half, CUT_FREE),
    ]).flat(),
  );
}

function drawnLoop({ drawn }: FormItem): Loop {
  const wrong = (message: string) => new Stop({ at: "drawn", message });
  if (!drawn) throw wrong("Choose an outline of the shop's for it.");
  const { regions, problems } = outlineRegions(drawn, solveOutline(drawn));
  if (problems.length > 0 || regions.length === 0)
    throw wrong(`The outline bounds no area: ${problems[0]?.message ?? "nothing is drawn in it."}`);
  if (regions.length > 1 || regions[0].holes.length > 0)
    throw wrong("The outline must bound one area, with nothing left out of it.");
  const [{ outer }] = regions;
  const named = outer.map(({ name: _name, ...c }): Curve => c);
  return loopArea(named) > 0 ? named : [...named].reverse();
}

function crossesItself(loop: Loop): boolean {
  return loop.some((c, i) =>
    loop.some((d, j) => j > i + 1 && !(i === 0 && j === loop.length - 1) && intersectCurves(c, d).length > 0),
  );
}

/** The opening of a collar: as given, or so small that the metal between it and the border is what the collar takes. */
function openingOf(item: FormItem, outline: Loop, shape: FormShape, t: number, need: Need): Loop {
  const first = outline[0];
  if (first.kind !== "arc" || item.outline !== "round")
    throw new Stop({ at: "middle", message: "Only a round shape can be open in its middle." });
  if (!blank(item.opening)) {
    const d = need("opening", item.opening!);
    if (d < 0.01 || d > first.r * 2)
      throw new Stop({
        at: "opening",
        message: `Its opening would be ⌀ ${mm(d)}, within an outline of ⌀ ${mm(first.r * 2)}.`,
      });
    return circleLoop(first.c, d / 2, "form:opening");
  }
  const taken = formedVolume({ outline, shape, openings: [] }, t) / (Math.PI * t);
  const left = first.r ** 2 - taken;
  if (left < 0.01)
    throw new Stop({
      at: "opening",
      message:
        "There is not enough metal within its border for such a collar. Make it lower, thinner or wider.",
    });
  return circleLoop(first.c, Math.sqrt(left), "form:opening");
}
