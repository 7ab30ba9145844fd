import { fail, ok, type Result } from "../result.ts";
import { evaluateExpression, type Names } from "../units/expression.ts";
import { type Dimension, formatShort, LENGTH_UNITS, toDegrees } from "../units/quantity.ts";
import type { PartDocument, StepDocument } from "./document.ts";

/** A named value of a part, usable in every field. */
export interface Variable {
  readonly key: string;
  readonly name: string;
  readonly value: string | number;
  /** What it measures; a length if nothing is said. */
  readonly measures?: Dimension;
}

export const MOST_VARIABLES = 500;
export const VARIABLE_NAME = /^[A-Za-z_][A-Za-z0-9_]{0,39}$/;

const TAKEN = new Set([...Object.keys(LENGTH_UNITS), "in", "deg", "rad", "pi", "t", "r", "K", "V"]);

export const variablesOf = (document: Pick<PartDocument, "variables">): readonly Variable[] =>
  document.variables ?? [];

/** Why a name cannot be given to a variable; nothing when it can. */
export function nameProblem(name: string, others: readonly Variable[]): string | undefined {
  if (!VARIABLE_NAME.test(name))
    return `"${name}" cannot be a name: use letters, digits and _, beginning with a letter.`;
  if (TAKEN.has(name)) return `"${name}" already means a unit or a value of the stock. Choose another name.`;
  if (others.some((v) => v.name === name)) return `There is a value called "${name}" already.`;
  return undefined;
}

export interface VariableValue {
  readonly variable: Variable;
  readonly result: Result<number>;
}

/**
 * Evaluates a part's variables over the names of its stock. They may use each other in any order;
 * one that leads back to itself is told by the names of the circle.
 */
export function evaluateVariables(
  variables: readonly Variable[],
  outer: Names,
  known: readonly string[],
): { values: readonly VariableValue[]; names: Names; known: readonly string[] } {
  const byName = new Map(variables.map((v) => [v.name, v]));
  const done = new Map<string, Result<number>>();
  const open: string[] = [];
  const all = [...known, ...byName.keys()];
  const names: Names = (name) => {
    const variable = byName.get(name);
    if (!variable) return outer(name);
    const result = evaluate(variable);
    if (!result.ok) return fail(open.length > 0 ? result.error : `the value "${name}" is wrong`);
    return ok({ value: result.value, dimension: variable.measures ?? "length" });
  };
  const evaluate = (v: Variable): Result<number> => {
    const before = done.get(v.name);
    if (before) return before;
    if (open.includes(v.name)) return fail(`it goes in a circle: ${[...open, v.name].join(" → ")}`);
    open.push(v.name);
    const result = evaluateExpression(v.value, { dimension: v.measures ?? "length", names, known: all });
    open.pop();
    // What was found inside a circle may be right when asked from outside of it.
    if (result.ok || open.length === 0) done.set(v.name, result);
    return result;
  };
  const values = variables.map((variable) => ({ variable, result: evaluate(variable) }));
  return { values, names, known: all };
}

/** How a variable's value reads, with its unit. */
export function formatVariable(value: number, measures: Dimension = "length"): string {
  if (measures === "angle") return `${formatShort(toDegrees(value), 4)}°`;
  return `${formatShort(value, 4)}${measures === "length" ? " mm" : ""}`;
}

const renamed = (text: string, from: string, to: string): string =>
  text.replace(new RegExp(`(?<![A-Za-z0-9_.])${from}(?![A-Za-z0-9_(])`, "g"), to);

/** Gives a variable another name, and follows it in every expression of the part. */
export function renameVariable(document: PartDocument, key: string, name: string): PartDocument {
  const variables = variablesOf(document);
  const old = variables.find((v) => v.key === key)?.name;
  if (old === undefined || old === name) return document;
  const follow = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(follow);
    if (typeof value !== "object" || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([k, v]) => [
        k,
        FIXED.has(k) ? v : typeof v === "string" ? renamed(v, old, name) : follow(v),
      ]),
    );
  };
  return {
    ...document,
    steps: document.steps.map((s) => follow(s) as StepDocument),
    variables: variables.map((v) => ({
      ...v,
      name: v.key === key ? name : v.name,
      value: typeof v.value === "string" ? renamed(v.value, old, name) : v.value,
    })),
  };
}

// Texts that are names, not expressions.
const FIXED = new Set(["id", "kind", "key", "at", "material", "name"]);
