import { expect } from "vitest";
import {
  type CardSnapshot,
  DEFAULT_RULES,
  examineFully,
  examinePart,
  type Finding,
  newPart,
  type PartDocument,
  type ShopRules,
  type StepDocument,
  snapshotOf,
  startingLibrary,
} from "../src/index.ts";
import { byPoints } from "./by-points.ts";

/** Parts that rules are asked about: of one card, whose only die makes every bend. */

export const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
export const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
export const plate = (more: object = {}) => step("s1", "plate", { width: "120", depth: "80", ...more });
export const wall = (id: string, edge: string, more: object = {}) =>
  step(id, "flange", { edges: at(edge), length: "30", ...more });

const library = startingLibrary();
export const DIE = { id: "v-12", name: "V 12", v: 12, angle: 86, radius: 1, length: 1000, mostForce: 600 };
/** Thickness and first inside radius of the card, mm. */
export const [T, R] = [1.5, 2];

/** The card, with what is said otherwise. */
export function cardWith(more: object = {}): CardSnapshot {
  const own = { ...library.cards[0], thickness: T, radii: [R, 3], dies: [DIE.id], ...more };
  const made = snapshotOf({ ...library, dies: [DIE] }, own, 1);
  if (!made.ok) throw new Error(made.error);
  return made.value;
}

export const card = cardWith();
export const part = (...steps: StepDocument[]): PartDocument =>
  byPoints({ ...newPart("Part"), stock: { card }, steps });

/** The rules by default with some numbers of a shop's own. */
export const rules = (values: object, levels: object = {}): ShopRules => ({
  values: { ...DEFAULT_RULES.values, ...values },
  levels: { ...DEFAULT_RULES.levels, ...levels },
});

/** What a rule says of a part, collisions not looked for. */
export const said = (rule: string, document: PartDocument, by = DEFAULT_RULES): Finding[] =>
  examinePart(document, by).findings.filter((f) => f.rule === rule);

/** The same with collisions looked for. */
export const saidFully = (rule: string, document: PartDocument, by = DEFAULT_RULES): Finding[] =>
  examineFully(document, by).findings.filter((f) => f.rule === rule);

export const HAIR = 1e-6;

/** Just inside a limit nothing is said, just outside of it the measure and the limit are. */
export function isLimit(
  rule: string,
  make: (off: number) => PartDocument,
  limit: number,
  {
    wanted = limit,
    by = DEFAULT_RULES,
    within = 1,
  }: { wanted?: number; by?: ShopRules; within?: 1 | -1 } = {},
): void {
  expect(said(rule, make(limit + within * HAIR), by)).toEqual([]);
  const outside = said(rule, make(limit - within * HAIR), by);
  expect(outside.length).toBeGreaterThan(0);
  expect(outside[0].found).toBeCloseTo(limit - within * HAIR, 7);
  expect(outside[0].wanted).toBeCloseTo(wanted, 7);
}
