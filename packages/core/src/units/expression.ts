import { create, type MathNode, parseDependencies } from "mathjs";
import { fail, ok, type Result } from "../result.ts";
import { ANGLE_UNITS, type Dimension, LENGTH_UNITS } from "./quantity.ts";

// Only the parser is loaded: the tree is evaluated here, so no function, assignment or
// property access of the library can be reached from a document.
const { parse } = create({ parseDependencies });

const LONGEST = 200;
const DEEPEST = 60;

/** A number with the powers of length and angle it carries. `bare` numbers take the unit of their partner. */
interface Quantity {
  readonly value: number;
  readonly length: number;
  readonly angle: number;
}

const bare = (value: number): Quantity => ({ value, length: 0, angle: 0 });
const isBare = (q: Quantity) => q.length === 0 && q.angle === 0;

/** Looks a name up. Returns nothing when the name is unknown; an error when its own value is wrong. */
export type Names = (name: string) => Result<{ value: number; dimension: Dimension }> | undefined;

export interface ExpressionContext {
  /** What the result must be: a bare number is millimetres, degrees or a plain number accordingly. */
  readonly dimension: Dimension;
  readonly names?: Names;
  /** Names to offer in the message when an unknown one is used. */
  readonly known?: readonly string[];
  /** Millimetres in a bare number that stands for a length; 1 unless said otherwise. */
  readonly bareLength?: number;
}

class Wrong extends Error {}

const dimensionOf = (d: Dimension, value: number): Quantity => ({
  value,
  length: d === "length" ? 1 : 0,
  angle: d === "angle" ? 1 : 0,
});

const FUNCTIONS: Readonly<Record<string, (args: Quantity[], bareLength: number) => Quantity>> = {
  sin: (a) => bare(Math.sin(asAngle(a[0]))),
  cos: (a) => bare(Math.cos(asAngle(a[0]))),
  tan: (a) => bare(Math.tan(asAngle(a[0]))),
  asin: (a) => dimensionOf("angle", Math.asin(asPlain(a[0], "asin"))),
  acos: (a) => dimensionOf("angle", Math.acos(asPlain(a[0], "acos"))),
  atan: (a) => dimensionOf("angle", Math.atan(asPlain(a[0], "atan"))),
  sqrt: (a) => ({ value: Math.sqrt(a[0].value), length: a[0].length / 2, angle: a[0].angle / 2 }),
  abs: (a) => ({ ...a[0], value: Math.abs(a[0].value) }),
  round: (a) => ({ ...a[0], value: Math.round(a[0].value) }),
  floor: (a) => ({ ...a[0], value: Math.floor(a[0].value) }),
  ceil: (a) => ({ ...a[0], value: Math.ceil(a[0].value) }),
  min: (a, unit) => a.reduce((p, q) => merge(p, q, Math.min, unit)),
  max: (a, unit) => a.reduce((p, q) => merge(p, q, Math.max, unit)),
};

function asAngle(q: Quantity): number {
  if (q.length !== 0) throw new Wrong("an angle is needed inside sin, cos or tan");
  return q.angle === 1 ? q.value : q.value * ANGLE_UNITS.deg;
}

function asPlain(q: Quantity, name: string): number {
  if (!isBare(q)) throw new Wrong(`${name} needs a plain number`);
  return q.value;
}

/** Adds, subtracts or compares two quantities; a bare one counts in the document's unit of the other. */
function merge(p: Quantity, q: Quantity, f: (a: number, b: number) => number, bareLength: number): Quantity {
  const lift = (a: Quantity, b: Quantity): Quantity => {
    if (!isBare(a) || isBare(b)) return a;
    return { ...b, value: a.value * (b.angle === 1 ? ANGLE_UNITS.deg : b.length === 1 ? bareLength : 1) };
  };
  const a = lift(p, q);
  const b = lift(q, p);
  if (a.length !== b.length || a.angle !== b.angle) {
    throw new Wrong("a length and an angle cannot be added or compared");
  }
  return { ...a, value: f(a.value, b.value) };
}

function operate(op: string, args: Quantity[], text: string, unit: number): Quantity {
  const [p, q] = args;
  switch (op) {
    case "+":
      return args.length === 1 ? p : merge(p, q, (a, b) => a + b, unit);
    case "-":
      return args.length === 1 ? { ...p, value: -p.value } : merge(p, q, (a, b) => a - b, unit);
    case "*":
      return { value: p.value * q.value, length: p.length + q.length, angle: p.angle + q.angle };
    case "/":
      if (q.value === 0) throw new Wrong(`${text} divides by zero and has no value`);
      return { value: p.value / q.value, length: p.length - q.length, angle: p.angle - q.angle };
    case "^": {
      const power = asPlain(q, "a power");
      return { value: p.value ** power, length: p.length * power, angle: p.angle * power };
    }
    default:
      throw new Wrong(`"${op}" cannot be used here; use + - * / ^ and brackets`);
  }
}

// The parts of mathjs's node classes that are read here; its own types name more classes than are loaded.
interface Node {
  readonly type: string;
  readonly value?: unknown;
  readonly name?: string;
  readonly op?: string;
  readonly content?: Node;
  readonly args?: Node[];
  readonly fn?: { name?: string };
}

function evaluateNode(node: Node, context: ExpressionContext, depth: number): Quantity {
  if (depth > DEEPEST) throw new Wrong("it is nested too deeply");
  const inner = (n: Node) => evaluateNode(n, context, depth + 1);
  switch (node.type) {
    case "ConstantNode":
      if (typeof node.value !== "number") throw new Wrong("only numbers can be used");
      return bare(node.value);
    case "ParenthesisNode":
      return inner(node.content!);
    case "SymbolNode":
      return evaluateName(node.name!, context);
    case "OperatorNode":
      return operate(node.op!, node.args!.map(inner), String(node), context.bareLength ?? 1);
    case "FunctionNode": {
      const name = node.fn?.name ?? "";
      if (name === "inches") return inInches(node, context, depth);
      if (name === NATURAL_RADIUS) return overV(node.args!.map(inner), context);
      if (!Object.hasOwn(FUNCTIONS, name)) {
        throw new Wrong(`there is no function "${name}"; there are ${Object.keys(FUNCTIONS).join(", ")}`);
      }
      if (node.args!.length === 0) throw new Wrong(`${name} needs a value`);
      return FUNCTIONS[name](node.args!.map(inner), context.bareLength ?? 1);
    }
    default:
      throw new Wrong("only numbers, units, names, + - * / ^ and brackets can be used");
  }
}

/** `V(12)`: the inside radius that air bending over a V-width of 12 makes, by the share the stock names. */
export const NATURAL_RADIUS = "V";

function overV(args: Quantity[], context: ExpressionContext): Quantity {
  const share = context.names?.(NATURAL_RADIUS);
  if (!share?.ok) throw new Wrong("V(…) is known only where a stock says the radius that a V-width makes");
  if (args.length !== 1) throw new Wrong("V needs one V-width, for example V(12)");
  const [width] = args;
  const length = isBare(width) ? width.value * (context.bareLength ?? 1) : width.value;
  return dimensionOf("length", length * share.value.value);
}

/** `in(2*t + 1/2)`: bare numbers inside it are inches, whatever the part is shown in. */
function inInches(node: Node, context: ExpressionContext, depth: number): Quantity {
  if (node.args!.length !== 1) throw new Wrong("in(…) takes one expression");
  const bareLength = LENGTH_UNITS.inch;
  const value = evaluateNode(node.args![0], { ...context, bareLength }, depth + 1);
  return isBare(value) ? dimensionOf("length", value.value * bareLength) : value;
}

function evaluateName(name: string, context: ExpressionContext): Quantity {
  const found = context.names?.(name);
  if (found) {
    if (!found.ok) throw new Wrong(found.error);
    return dimensionOf(found.value.dimension, found.value.value);
  }
  if (Object.hasOwn(LENGTH_UNITS, name)) return dimensionOf("length", LENGTH_UNITS[name]);
  if (Object.hasOwn(ANGLE_UNITS, name)) return dimensionOf("angle", ANGLE_UNITS[name]);
  if (name === "pi") return bare(Math.PI);
  const known = context.known?.length ? ` Known here: ${context.known.join(", ")}.` : "";
  throw new Wrong(`"${name}" is not a unit or a name known here.${known}`);
}

const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)$/;

const finishPlain = (value: number, dimension: Dimension) =>
  dimension === "angle" ? value * ANGLE_UNITS.deg : value;

const ARTICLE: Readonly<Record<Dimension, string>> = {
  length: "a length",
  angle: "an angle",
  number: "a plain number",
};

function finish(q: Quantity, dimension: Dimension): number {
  if (!Number.isFinite(q.value)) throw new Wrong("it has no finite value");
  if (isBare(q)) return finishPlain(q.value, dimension);
  const want = dimensionOf(dimension, 0);
  if (q.length === want.length && q.angle === want.angle) return q.value;
  throw new Wrong(`it does not give ${ARTICLE[dimension]}`);
}

/** `in` is an operator and `"` a string mark to the parser; to a designer both are inches. */
function withPlainUnits(text: string): string {
  return (
    text
      // A mixed number is one number, not a product: 1 1/2 is 1.5.
      .replace(/(^|[^\d.\w])(\d+) +(\d+\/\d+)(?=\s*(?:"|in|mm|$|[)+*,-]))/g, "$1($2+$3)")
      .replace(/(^|[^A-Za-z_])in\(/g, "$1inches(")
      .replace(/"/g, "inch")
      .replace(/'/g, "ft")
      .replace(/°/g, "deg")
      .replace(/(^|[^A-Za-z_])in(?![A-Za-z_0-9(])/g, "$1inch")
      .replace(/[×·]/g, "*")
      .replace(/[−–]/g, "-")
  );
}

/**
 * Evaluates what a person typed in a field, such as `25`, `3/4in`, `2*t + 1` or `90deg`.
 *
 * Returns millimetres, radians or a plain number, as `context.dimension` asks. Bare numbers are
 * millimetres in a length field and degrees in an angle field. The error says what is wrong.
 *
 * @example evaluateExpression("3/4in", { dimension: "length" }) // { ok: true, value: 19.05 }
 */
export function evaluateExpression(input: string | number, context: ExpressionContext): Result<number> {
  const text = String(input).trim();
  if (text === "") return fail("A value is needed here.");
  if (text.length > LONGEST) return fail(`An expression can have at most ${LONGEST} characters.`);
  // Most fields hold a plain number; they need no parser.
  if (PLAIN.test(text)) return ok(finishPlain(Number(text), context.dimension));
  if (/\d,\d/.test(text)) return fail(`"${text}" has a comma in a number: write the decimal with a point.`);
  try {
    const node = parse(withPlainUnits(text)) as MathNode as unknown as Node;
    return ok(finish(evaluateNode(node, context, 0), context.dimension));
  } catch (error) {
    if (error instanceof Wrong) return fail(`"${text}": ${error.message}`.replace(/\.?$/, "."));
    return fail(
      `"${text}" cannot be read as ${ARTICLE[context.dimension]}. Write for example 25, 3/4in or 2*t + 1.`,
    );
  }
}
