import { fail, ok, type Result } from "../result.ts";
import { evaluateExpression, type Names } from "./expression.ts";
import type { Dimension } from "./quantity.ts";

/** A value with a name by which others use it. */
export interface NamedValue {
  readonly name: string;
  readonly value: string | number;
  /** What it measures; a length if nothing is said. */
  readonly measures?: Dimension;
}

export interface NamedResult<T extends NamedValue> {
  readonly variable: T;
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
 * Evaluates named values over names from around them. They may use each other in any order;
 * one that leads back to itself is told by the names of the circle.
 */
export function evaluateNamed<T extends NamedValue>(
  variables: readonly T[],
  outer: Names,
  known: readonly string[],
): { values: readonly NamedResult<T>[]; names: Names; known: readonly string[] } {
  const byName = new Map(variables.map((v) => [v.name, v]));
  const done = new Map<string, Result<number>>();
  const open: string[] = [];
  /** Of a value that is wrong because others are, the one where that begins. */
  const roots = new Map<string, string>();
  const circles = new Map<string, readonly string[]>();
  const all = [...known, ...byName.keys()];
  const names: Names = (name) => {
    const variable = byName.get(name);
    if (!variable) return outer(name);
    const result = evaluate(variable);
    // Its own message stands at the value itself; repeated here it would grow with every link of a chain.
    if (!result.ok) {
      const last = roots.get(name) ?? name;
      const user = open[open.length - 1];
      if (user !== undefined) roots.set(user, last);
      return fail(`the value "${name}" is wrong${last === name ? "" : `, because "${last}" is`}`);
    }
    return ok({ value: result.value, dimension: variable.measures ?? "length" });
  };
  const evaluate = (v: T): Result<number> => {
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
