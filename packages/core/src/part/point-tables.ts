import { isPlain, KEY, type Plain } from "../fields/checking.ts";
import {
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  type Relation,
} from "../outline/outline.ts";
import { evaluateExpression, type Names } from "../units/expression.ts";
import { evaluateNamed, type NamedValue } from "../units/named-values.ts";
import { freshKey } from "./edit.ts";

/** The fields that said that a shape was a table of points, and how the sides of it were called. */
const TABLES: Readonly<Record<string, { readonly field: string; readonly side: (key: string) => string }>> = {
  plate: { field: "form", side: (key) => `side-${key}` },
  cut: { field: "form", side: (key) => key },
  flange: { field: "shape", side: (key) => `side-${key}` },
  lug: { field: "shape", side: (key) => `side-${key}` },
};

/**
 * Version 3: a shape that was a table of points is an outline of the part, its sides called as they were, so that what
 * stands on them still does. A coordinate that was an expression drives it as a dimension from the zero.
 */
export function pointTablesAreOutlines(document: Readonly<Record<string, unknown>>): Record<string, unknown> {
  if (!Array.isArray(document.steps)) return { ...document };
  const names = namesOf(document);
  const outlines: unknown[] = Array.isArray(document.outlines) ? [...document.outlines] : [];
  const steps = document.steps.map((step: unknown, i) => {
    const table = isPlain(step) ? TABLES[String(step.kind)] : undefined;
    if (!isPlain(step) || !table || !("points" in step)) return step;
    const { points, ...rest } = step;
    if (step[table.field] !== "outline") return rest;
    const key = freshKey(
      outlines.filter((o): o is { key: string } => isPlain(o) && typeof o.key === "string"),
    );
    const title = `${String(step.kind)[0].toUpperCase()}${String(step.kind).slice(1)} ${i + 1}`;
    outlines.push({
      key,
      outline: outlineOf(title, Array.isArray(points) ? points.filter(isPlain) : [], table.side, names),
    });
    return { ...rest, [table.field]: "drawn", drawn: key };
  });
  return { ...document, steps, ...(outlines.length > 0 ? { outlines } : {}) };
}

function outlineOf(
  name: string,
  rows: readonly Plain[],
  side: (key: string) => string,
  names: Names,
): Outline {
  const keys = rows.map((r, i) => (KEY.test(side(String(r.key))) ? String(r.key) : `k${i + 1}`));
  const at = keys.map((key) => (KEY.test(`at-${key}`) ? `at-${key}` : `p${key}`.slice(0, 20)));
  const points: Record<string, [number, number]> = {};
  const relations: Relation[] = [];
  const dimensions: OutlineDimension[] = [];
  rows.forEach((row, i) => {
    const [x, y] = [row.x, row.y].map((v) => coordinate(v, names));
    points[at[i]] = [x.value, y.value];
    if (x.plain && y.plain)
      relations.push({ id: `r${i + 1}`, kind: "fixed", of: [at[i]], at: [x.value, y.value] });
    else
      for (const [kind, c] of [
        ["distanceX", x],
        ["distanceY", y],
      ] as const)
        dimensions.push({
          id: `d${2 * i + (kind === "distanceX" ? 1 : 2)}`,
          kind,
          of: ["zero", at[i]],
          value: c.value < 0 ? `-(${c.text})` : c.text,
        });
  });
  if (dimensions.length > 0) {
    points.zero = [0, 0];
    relations.push({ id: "r0", kind: "fixed", of: ["zero"], at: [0, 0] });
  }
  const curves = at.map(
    (a, i): OutlineCurve => ({ id: side(keys[i]), kind: "line", a, b: at[(i + 1) % at.length] }),
  );
  return {
    format: OUTLINE_FORMAT,
    version: OUTLINE_VERSION,
    name,
    points,
    curves: at.length > 1 ? curves : [],
    relations,
    dimensions,
  };
}

interface Coordinate {
  readonly text: string;
  /** What it comes to, mm; 0 where it comes to nothing. */
  readonly value: number;
  /** Whether it needs no names. */
  readonly plain: boolean;
}

function coordinate(raw: unknown, names: Names): Coordinate {
  const text = typeof raw === "number" || typeof raw === "string" ? String(raw).trim() : "";
  if (text === "") return { text: "0", value: 0, plain: true };
  const plain = evaluateExpression(text, { dimension: "length" });
  if (plain.ok) return { text, value: plain.value, plain: true };
  const named = evaluateExpression(text, { dimension: "length", names });
  return { text, value: named.ok && Number.isFinite(named.value) ? named.value : 0, plain: false };
}

/** The part's own values, and what is plain to see of its stock. */
function namesOf({ variables, stock }: Readonly<Record<string, unknown>>): Names {
  const own = new Map<string, number>();
  if (isPlain(stock))
    for (const [name, key] of [
      ["t", "thickness"],
      ["r", "radius"],
    ]) {
      const c = coordinate(stock[key], () => undefined);
      if (c.plain) own.set(name, c.value);
    }
  const lengths: Names = (name) => {
    const value = own.get(name);
    return value === undefined ? undefined : { ok: true, value: { value, dimension: "length" } };
  };
  const list = (Array.isArray(variables) ? variables : []).filter(
    (v): v is NamedValue & Plain =>
      isPlain(v) && typeof v.name === "string" && /^(string|number)$/.test(typeof v.value),
  );
  return evaluateNamed(list, lengths, [...own.keys()]).names;
}
