import { mapExpressions } from "../fields/field-kinds.ts";
import { fail, ok, type Result } from "../result.ts";
import { stepKind } from "../steps/registry.ts";
import { evaluateExpression, type Names, renameInExpression } from "../units/expression.ts";
import { type Dimension, formatShort, LENGTH_UNITS, toDegrees } from "../units/quantity.ts";
import type { PartDocument } from "./document.ts";

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

/** A circle's names as they are told; of a long one only its beginning and its end. */
const MOST_TOLD = 6;

function circleText(circle: readonly string[], from: string): string {
  const at = circle.indexOf(from);
  const round = [...circle.slice(at), ...circle.slice(0, at)];
  const told =
    round.length <= MOST_TOLD
      ? round
      : [
          ...round.slice(0, MOST_TOLD - 2),
          `… ${round.length - MOST_TOLD + 1} more …`,
          round[round.length - 1],
        ];
  return [...told, from].join(" → ");
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
  const circles = new Map<string, readonly string[]>();
  const all = [...known, ...byName.keys()];
  const names: Names = (name) => {
    const variable = byName.get(name);
    if (!variable) return outer(name);
    const result = evaluate(variable);
    // Its own message stands at the value itself; repeated here it would grow with every link of a chain.
    if (!result.ok) return fail(`the value "${name}" is wrong`);
    return ok({ value: result.value, dimension: variable.measures ?? "length" });
  };
  const evaluate = (v: Variable): Result<number> => {
    const before = done.get(v.name);
    if (before) return before;
    const at = open.indexOf(v.name);
    if (at >= 0) {
      const circle = open.slice(at);
      for (const name of circle) circles.set(name, circle);
      return fail("it goes in a circle");
    }
    open.push(v.name);
    const found = evaluateExpression(v.value, { dimension: v.measures ?? "length", names, known: all });
    open.pop();
    const circle = circles.get(v.name);
    const result = circle ? fail(`it goes in a circle: ${circleText(circle, v.name)}`) : found;
    done.set(v.name, result);
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

/** Gives a variable another name, and follows it in every expression of the part. */
export function renameVariable(document: PartDocument, key: string, name: string): PartDocument {
  const variables = variablesOf(document);
  const old = variables.find((v) => v.key === key)?.name;
  if (old === undefined || old === name) return document;
  const follow = <T>(value: T): T =>
    typeof value === "string" ? (renameInExpression(value, old, name) as T & string) : value;
  return {
    ...document,
    steps: document.steps.map((s) => mapExpressions(stepKind(s.kind)?.fields ?? [], s, follow)),
    variables: variables.map((v) => ({ ...v, name: v.key === key ? name : v.name, value: follow(v.value) })),
  };
}
