import { mapExpressions } from "../fields/field-kinds.ts";
import type { Outline } from "../outline/outline.ts";
import { stepKind } from "../steps/registry.ts";
import { fieldsOf } from "../steps/step-kind.ts";
import { renameInExpression } from "../units/expression.ts";
import { evaluateNamed, type NamedResult } from "../units/named-values.ts";
import { type Dimension, formatShort, LENGTH_UNITS, toDegrees } from "../units/quantity.ts";
import type { PartDocument, Variable } from "./document.ts";

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

/** A part's variable with what it comes to. */
export type VariableValue = NamedResult<Variable>;

/** Evaluates a part's variables over the names of its stock. */
export const evaluateVariables = evaluateNamed<Variable>;

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
    steps: document.steps.map((s) => mapExpressions(fieldsOf(stepKind(s.kind), s), s, follow)),
    variables: variables.map((v) => ({ ...v, name: v.key === key ? name : v.name, value: follow(v.value) })),
    ...(document.outlines
      ? { outlines: document.outlines.map((o) => ({ ...o, outline: followedIn(o.outline, old, follow) })) }
      : {}),
  };
}

/**
 * Gives a dimension of one of the part's outlines another name, or none, and follows it: in the outline itself, and in every
 * step unless the name meant something else there. Taken away it is followed nowhere: what uses it says so.
 */
export function renameDimension(
  document: PartDocument,
  outline: string,
  id: string,
  name: string,
): PartDocument {
  const entry = document.outlines?.find((o) => o.key === outline);
  const old = entry?.outline.dimensions.find((d) => d.id === id)?.name;
  if (!entry || old === (name || undefined)) return document;
  const follow = <T>(value: T): T =>
    typeof value === "string" && old && name ? (renameInExpression(value, old, name) as T & string) : value;
  const { values } = entry.outline;
  const renamed: Outline = {
    ...entry.outline,
    dimensions: entry.outline.dimensions.map((d) => {
      const { name: own, ...rest } = d;
      const next = d.id === id ? name : own;
      return { ...rest, value: follow(d.value), ...(next ? { name: next } : {}) };
    }),
    ...(values ? { values: values.map((v) => ({ ...v, value: follow(v.value) })) } : {}),
  };
  // A value of the part that is called so comes first there: it is that which the steps mean.
  const meant = !variablesOf(document).some((v) => v.name === old);
  return {
    ...document,
    outlines: document.outlines!.map((o) => (o.key === outline ? { ...o, outline: renamed } : o)),
    steps: meant
      ? document.steps.map((s) => mapExpressions(fieldsOf(stepKind(s.kind), s), s, follow))
      : document.steps,
  };
}

/** An outline whose expressions follow a name of the part, unless it has one of its own that is called so. */
function followedIn(outline: Outline, old: string, follow: <T>(value: T) => T): Outline {
  const { values = [], dimensions } = outline;
  if ([...values, ...dimensions].some((v) => v.name === old)) return outline;
  return {
    ...outline,
    dimensions: dimensions.map((d) => (d.value === undefined ? d : { ...d, value: follow(d.value) })),
    ...(outline.values ? { values: values.map((v) => ({ ...v, value: follow(v.value) })) } : {}),
  };
}
