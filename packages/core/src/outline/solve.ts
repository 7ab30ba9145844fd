import { hypotenuse } from "../plane/point.ts";
import { evaluateExpression, type Names } from "../units/expression.ts";
import { evaluateNamed, type NamedValue } from "../units/named-values.ts";
import type { Dimension } from "../units/quantity.ts";
import { leastConflict } from "./conflicts.ts";
import { type Equation, Equations, type Joint, measured, sweepOf, type Unknowns } from "./equations.ts";
import type { DimensionKind, Outline, OutlineDimension } from "./outline.ts";
import { rankOf } from "./rank.ts";
import { type Group, groupsOf, solveGroup } from "./solve-group.ts";
import { linearise } from "./sparse.ts";

/** Something that keeps an outline from being solved, and where. */
export interface OutlineProblem {
  /** The dimension, relation, curve or value that it is about. */
  readonly of?: string;
  readonly message: string;
}

/** An outline where everything that it asks for holds, or why it does not. */
export interface SolvedOutline {
  readonly state: "fixed" | "free" | "conflict";
  /** How many ways it can still move. */
  readonly free: number;
  /** The points that can still move, and the circles whose radius can. */
  readonly freePoints: readonly string[];
  /** The fewest relations and dimensions that disagree. */
  readonly conflicts: readonly string[];
  /** Relations and dimensions that only repeat others: each list with those that it repeats, itself last. */
  readonly repeats: readonly (readonly string[])[];
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
  /** What each dimension comes to, mm or radians, those that only show too. */
  readonly values: Readonly<Record<string, number>>;
  readonly problems: readonly OutlineProblem[];
}

/** What a dimension measures. */
export const dimensionOf = (kind: DimensionKind): Dimension => (kind === "angle" ? "angle" : "length");

/** Relations hold when they are off by no more than this share of the outline's size. */
const HOLDS = 1e-10;
/** Other starts that are tried where the drawn one leads nowhere. */
const OTHER_STARTS = 14;

/**
 * Solves an outline: moves its points as little as may be from where the document has them until every relation and
 * driving dimension holds, on the sides and in the senses that are drawn. Pure; the same document comes out the same to
 * the last bit. `outer`: names from around, which its expressions may use.
 */
export function solveOutline(outline: Outline, outer: Names = () => undefined): SolvedOutline {
  const { values, problems } = drivingValues(outline, outer);
  const task = new Task(outline, values);
  const { unknowns } = task;
  const x = Float64Array.from(unknowns.start);
  const groups = groupsOf(task.drawn, x, task.unknowns.ofCurves);
  const failed = problems.length > 0 ? [] : groups.filter((g) => !task.solves(g, x));
  const conflicts = failed.flatMap((g) => task.conflictOf(g));
  const told: OutlineProblem[] = [
    ...problems,
    ...(failed.length > 0 && conflicts.length === 0
      ? [{ message: "No place was found where everything holds. Draw it nearer to what its numbers say." }]
      : []),
  ];
  const isConflict = failed.length > 0 || problems.length > 0;
  const { free, freePoints, repeats } = isConflict
    ? { free: 0, freePoints: [], repeats: [] }
    : freedom(groups, x, unknowns, outline);
  return {
    state: isConflict ? "conflict" : free > 0 ? "free" : "fixed",
    free,
    freePoints,
    conflicts,
    repeats,
    points: unknowns.pointsOf(x),
    radii: unknowns.radiiOf(x),
    values: Object.fromEntries(outline.dimensions.map((d) => [d.id, measured(d, x, unknowns)])),
    problems: told,
  };
}

/** What the driving dimensions come to: they may use named values, and one another by name. */
function drivingValues(
  { dimensions, values = [] }: Outline,
  outer: Names,
): { values: ReadonlyMap<string, number>; problems: OutlineProblem[] } {
  const driving = dimensions.filter((d) => !d.showing);
  const named: (NamedValue & { readonly of?: string })[] = [
    ...values,
    ...driving.flatMap((d) =>
      d.name ? [{ name: d.name, value: d.value, measures: dimensionOf(d.kind), of: d.id }] : [],
    ),
  ];
  const { values: results, names, known } = evaluateNamed(named, outer, []);
  const problems = results.flatMap(({ variable, result }): OutlineProblem[] =>
    result.ok || variable.of
      ? []
      : [{ of: variable.name, message: `Value ${variable.name}: ${result.error}` }],
  );
  const byDimension = new Map(
    results.flatMap((r) => (r.variable.of ? [[r.variable.of, r.result] as const] : [])),
  );
  const found = new Map<string, number>();
  for (const d of driving) {
    const result =
      byDimension.get(d.id) ?? evaluateExpression(d.value, { dimension: dimensionOf(d.kind), names, known });
    const called = d.name ? `Dimension ${d.name}` : `Dimension ${d.id}`;
    if (!result.ok) problems.push({ of: d.id, message: `${called}: ${result.error}` });
    else {
      const wrong = rangeProblem(d, result.value);
      if (wrong) problems.push({ of: d.id, message: `${called}: ${wrong}` });
      else found.set(d.id, result.value);
    }
  }
  return { values: found, problems };
}

/** Why a dimension cannot come to a value; nothing when it can. */
function rangeProblem({ kind }: OutlineDimension, value: number): string | undefined {
  if (!Number.isFinite(value)) return "it comes to no number.";
  if (kind === "angle")
    return value > 0 && value < Math.PI ? undefined : "an angle between lines is above 0° and below 180°.";
  if (Math.abs(value) > 1e6) return "it is larger than a kilometre.";
  if (kind === "distanceX" || kind === "distanceY" || kind === "toLine")
    return value >= 0 ? undefined : "it must be 0 or more; which side is as drawn.";
  return value > 0 ? undefined : "it must be above 0.";
}

/** How many more orders are tried where none of the plain ones leads to a least set. */
const SHUFFLES = 6;

/** Orders in which a least set is looked for: suspects first, then all, then all shuffled, each the same at every call. */
function* orders(suspects: readonly string[], all: readonly string[]): Generator<readonly string[]> {
  yield suspects;
  yield [...suspects].reverse();
  yield all;
  yield [...all].reverse();
  let seed = 9241;
  for (let n = 0; n < SHUFFLES; n++) {
    const list = [...all];
    for (let i = list.length - 1; i > 0; i--) {
      seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
      const k = (seed >>> 8) % (i + 1);
      [list[i], list[k]] = [list[k], list[i]];
    }
    yield list;
  }
}

/** How large an outline is, mm. */
function sizeOf(start: Float64Array): number {
  let most = 0;
  for (const v of start) most = Math.max(most, Math.abs(v - start[0]));
  return Math.max(most, 1);
}

/** What one outline asks for, as equations on the sides that are drawn and on whichever are nearest. */
class Task {
  readonly unknowns: Unknowns;
  readonly drawn: readonly Equation[];
  private readonly others: readonly ReadonlyMap<Equation, Equation>[];
  private readonly joints: readonly Joint[];
  private readonly size: number;
  /** What a person asked for; the others hold by themselves. */
  private readonly asked: ReadonlySet<string>;

  constructor(
    private readonly outline: Outline,
    private readonly values: ReadonlyMap<string, number>,
  ) {
    const equations = new Equations(outline, values);
    this.unknowns = equations.unknowns;
    this.drawn = equations.list;
    this.others = (["smooth", "nearest"] as const).map((sides) => {
      const { list } = new Equations(outline, values, sides);
      return new Map(this.drawn.map((e, i) => [e, list[i]]));
    });
    this.joints = equations.joints;
    this.size = sizeOf(this.unknowns.start);
    this.asked = new Set([...outline.relations, ...outline.dimensions].map((r) => r.id));
  }

  /**
   * Solves a group from what is drawn, and if that leads nowhere on other sides and from near by; its unknowns stay as
   * they were where nothing does.
   */
  solves(group: Group, x: Float64Array): boolean {
    const { size } = this;
    const before = group.unknowns.map((v) => x[v]);
    const others = this.others.map((of) => ({ ...group, equations: group.equations.map((e) => of.get(e)!) }));
    let seed = 12345;
    const random = () => {
      seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
      return seed / 0x7fffffff - 0.5;
    };
    for (let attempt = 0; attempt <= OTHER_STARTS; attempt++) {
      group.unknowns.forEach((v, i) => {
        x[v] = before[i] + (attempt < 3 ? 0 : random() * size * 0.015 * attempt);
      });
      const off = solveGroup(attempt === 0 ? group : others[(attempt + 1) % 2], x, { size });
      if (off <= HOLDS * size && this.staysWhole(group, x)) return true;
    }
    group.unknowns.forEach((v, i) => {
      x[v] = before[i];
    });
    return false;
  }

  /** Whether no line has shrunk to nothing, and no arc has become a whole turn or none: what holds then holds of nothing. */
  private staysWhole(group: Group, x: Float64Array): boolean {
    const { unknowns, size } = this;
    const own = new Set(group.unknowns);
    return this.outline.curves.every((c) => {
      if (c.kind === "circle")
        return !own.has(unknowns.radius(c.id)) || x[unknowns.radius(c.id)] > 1e-7 * size;
      const [a, b] = [unknowns.point(c.a), unknowns.point(c.b)];
      if (![a, a + 1, b, b + 1].some((v) => own.has(v))) return true;
      const lengthAt = (of: Float64Array) => hypotenuse(of[b] - of[a], of[b + 1] - of[a + 1]);
      if (lengthAt(unknowns.start) > 1e-6 * size && lengthAt(x) < 1e-7 * size) return false;
      if (c.kind === "line") return true;
      // An arc keeps its sense: it does not pass through a whole turn on its way.
      const [was, is] = [unknowns.start, x].map((of) => Math.abs(sweepOf(of, unknowns, c)));
      if (Math.abs(was - is) < Math.PI * 1.25) return true;
      const joints = this.joints.filter((j) => j.arc === c.id);
      return joints.length > 0 && joints.every((j) => j.isSmooth(x));
    });
  }

  /** The fewest relations and dimensions of a group that disagree; none where that cannot be made out. */
  conflictOf(group: Group): string[] {
    const goTogether = (ids: readonly string[]): boolean => this.only(ids).allSolves();
    const suspects = this.suspectsOf(group);
    const all = [...new Set(group.equations.map((e) => e.of))].filter((id) => this.asked.has(id));
    let found: string[] = [];
    // What is off where they come nearest to holding is enough, if it does not go together by itself. A set is least
    // when the rest of it goes together without any one: where one is not, another order may lead to one that is.
    for (const list of orders(suspects, all)) {
      if (list.length === 0 || goTogether(list)) continue;
      const set = leastConflict(list, goTogether);
      const isLeast = !goTogether(set) && set.every((id) => goTogether(set.filter((other) => other !== id)));
      if (isLeast) return set;
      if (found.length === 0) found = set;
    }
    return found;
  }

  /** The same outline asking for some of what it asks for. */
  private only(ids: readonly string[]): Task {
    const some = new Set(ids);
    const { relations, dimensions } = this.outline;
    const outline = {
      ...this.outline,
      relations: relations.filter((r) => some.has(r.id)),
      dimensions: dimensions.filter((d) => some.has(d.id)),
    };
    return new Task(outline, this.values);
  }

  private allSolves(): boolean {
    const x = Float64Array.from(this.unknowns.start);
    return groupsOf(this.drawn, x, this.unknowns.ofCurves).every((g) => this.solves(g, x));
  }

  /** What is still off where a group comes nearest to holding. */
  private suspectsOf(group: Group): string[] {
    const x = Float64Array.from(this.unknowns.start);
    solveGroup(group, x, { size: this.size });
    const { off } = linearise(group.equations, x);
    const worst = off.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    const ids = group.equations.filter((_, i) => Math.abs(off[i]) > 1e-5 * worst).map((e) => e.of);
    return [...new Set(ids)].filter((id) => this.asked.has(id));
  }
}

/** How an outline that is solved can still move. */
function freedom(groups: readonly Group[], x: Float64Array, unknowns: Unknowns, outline: Outline) {
  const loose = new Set(Array.from({ length: x.length }, (_, i) => i));
  let free = x.length;
  const repeats: string[][] = [];
  const asked = new Set([...outline.relations, ...outline.dimensions].map((r) => r.id));
  for (const group of groups) {
    const facts = rankOf(linearise(group.equations, x), group.unknowns);
    free -= facts.rank;
    for (const v of group.unknowns) loose.delete(v);
    for (const v of facts.free) loose.add(v);
    // Of a relation of two equations one may repeat what is there and the other not: then it is needed.
    const said = new Map<string, number[][]>();
    for (const list of facts.repeats) {
      const { of } = group.equations[list[list.length - 1]];
      said.set(of, [...(said.get(of) ?? []), [...list]]);
    }
    for (const [of, lists] of said) {
      if (!asked.has(of) || lists.length < group.equations.filter((e) => e.of === of).length) continue;
      const others = lists.flat().map((i) => group.equations[i].of);
      repeats.push([...new Set(others)].filter((id) => asked.has(id) && id !== of).concat(of));
    }
  }
  const freePoints = [
    ...Object.keys(outline.points).filter((id) => {
      const at = unknowns.point(id);
      return loose.has(at) || loose.has(at + 1);
    }),
    ...outline.curves.flatMap((c) => (c.kind === "circle" && loose.has(unknowns.radius(c.id)) ? [c.id] : [])),
  ];
  return { free, freePoints, repeats };
}

/** The equations of an outline with the values of its dimensions, about the places that are drawn. */
export const equationsOf = (outline: Outline, outer: Names = () => undefined): Equations =>
  new Equations(outline, drivingValues(outline, outer).values);
