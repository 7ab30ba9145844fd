import jsep from "jsep";
import { KeptTexts } from "../kept.ts";
import { fail, ok, type Result } from "../result.ts";
import { nearestNames } from "./nearest-names.ts";
import { ANGLE_UNITS, type Dimension, type DimensionedNumber, LENGTH_UNITS } from "./quantity.ts";
import { bare, plainSigns, type Quantity, type Token, tokensOf } from "./tokens.ts";

// The parser sees only operands by number, brackets and these signs: nothing else of it can be reached.
jsep.addBinaryOp("^", 15, true);
// A number right before a name: 2t. It binds before division, so that w/2t is w/(2t).
jsep.addBinaryOp("#", 11);

const LONGEST = 200;
const DEEPEST = 60;

const isPlain = (q: Quantity) => q.length === 0 && q.angle === 0;
const isBare = (q: Quantity) => isPlain(q) && !q.share;

/** So many names are offered where one is unknown; the others are counted. */
const MOST_OFFERED = 8;
/** Names in messages are cut to so many letters. */
const LETTERS = 24;
const shortName = (name: string): string => (name.length > LETTERS ? `${name.slice(0, LETTERS - 1)}…` : name);

/** Looks a name up. Returns nothing when the name is unknown; an error when its own value is wrong. */
export type Names = (name: string) => Result<DimensionedNumber> | undefined;

export interface ExpressionContext {
  /** What the result must be: a bare number is millimetres, degrees or a plain number accordingly. */
  readonly dimension: Dimension;
  readonly names?: Names;
  /** Names to offer in the message when an unknown one is used. */
  readonly known?: readonly string[];
  /** Millimetres in a bare number that stands for a length; 1 unless said otherwise. */
  readonly bareLength?: number;
}

/** Says in words what is wrong. */
class Wrong extends Error {}
/** Is no expression at all. */
class Unreadable extends Error {}

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
  sqrt: (a) => ({ ...a[0], value: Math.sqrt(a[0].value), length: a[0].length / 2, angle: a[0].angle / 2 }),
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
  if (!isPlain(q)) throw new Wrong(`${name} needs a plain number`);
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
    const plain = isPlain(a) || isPlain(b);
    throw new Wrong(
      plain
        ? "a share, in which units cancel out, cannot be added to or compared with what has a unit"
        : "a length and an angle cannot be added or compared",
    );
  }
  return { ...a, value: f(a.value, b.value), ...(a.share || b.share ? { share: true } : {}) };
}

function product(p: Quantity, q: Quantity, value: number, way: 1 | -1): Quantity {
  const out = { value, length: p.length + way * q.length, angle: p.angle + way * q.angle };
  const cancelled = isPlain(out) && !(isBare(p) && isBare(q));
  return cancelled ? { ...out, share: true } : out;
}

function operate(op: string, args: readonly Quantity[], unit: number): Quantity {
  const [p, q] = args;
  switch (op) {
    case "+":
      return args.length === 1 ? p : merge(p, q, (a, b) => a + b, unit);
    case "-":
      return args.length === 1 ? { ...p, value: -p.value } : merge(p, q, (a, b) => a - b, unit);
    case "*":
    case "#":
      return product(p, q, p.value * q.value, 1);
    case "/":
      if (q.value === 0) throw new Wrong("it divides by zero and has no value");
      return product(p, q, p.value / q.value, -1);
    case "^": {
      const power = asPlain(q, "a power");
      return { ...p, value: p.value ** power, length: p.length * power, angle: p.angle * power };
    }
    default:
      throw new Unreadable();
  }
}

// What is read of the parser's nodes; its own type names more than can come of the tokens.
interface Node {
  readonly type: string;
  readonly name?: string;
  readonly operator?: string;
  readonly left?: Node;
  readonly right?: Node;
  readonly argument?: Node;
  readonly arguments?: readonly Node[];
  readonly callee?: Node;
}

interface Reading extends ExpressionContext {
  readonly tokens: readonly Token[];
}

/** The expression for the parser: every operand and function stands in it as the number of its token. */
function forParser(tokens: readonly Token[]): string {
  return tokens
    .map((token, i) => {
      if (token.kind !== "sign") return `$${i}`;
      if (token.sign === "next") return "#";
      // A bracket of its own becomes a call, so that (-2)^2 and -2^2 stay apart.
      return token.sign === "(" && tokens[i - 1]?.kind !== "call" ? "$(" : token.sign;
    })
    .join(" ");
}

function evaluateNode(node: Node, context: Reading, depth: number): Quantity {
  if (depth > DEEPEST) throw new Wrong("it is nested too deeply");
  // Only brackets nest: a long sum is as deep in the tree as it has terms, and as easily read as a short one.
  const inner = (n: Node) => evaluateNode(n, context, depth);
  const unit = context.bareLength ?? 1;
  switch (node.type) {
    case "Identifier":
      return evaluateOperand(node, context);
    case "UnaryExpression":
      return operate(node.operator!, [inner(node.argument!)], unit);
    case "BinaryExpression": {
      const { operator, left, right } = node;
      // A power binds before a sign: -2^2 is -(2^2).
      if (operator === "^" && left!.type === "UnaryExpression")
        return operate(left!.operator!, [inner({ ...node, left: left!.argument })], unit);
      return operate(operator!, [inner(left!), inner(right!)], unit);
    }
    case "CallExpression":
      return evaluateCall(node, context, depth);
    default:
      throw new Unreadable();
  }
}

const tokenOf = (node: Node, { tokens }: Reading): Token | undefined => tokens[Number(node.name!.slice(1))];

function evaluateOperand(node: Node, context: Reading): Quantity {
  const token = tokenOf(node, context);
  if (token?.kind === "value") return token.value;
  if (token?.kind === "name") return evaluateName(token.name, context);
  throw new Unreadable();
}

function evaluateCall(node: Node, context: Reading, depth: number): Quantity {
  const args = node.arguments ?? [];
  const inner = (n: Node) => evaluateNode(n, context, depth + 1);
  if (node.callee!.name === "$") {
    if (args.length !== 1) throw new Unreadable();
    return inner(args[0]);
  }
  const token = tokenOf(node.callee!, context);
  if (token?.kind !== "call") throw new Unreadable();
  const { name } = token;
  if (args.length === 0) throw new Wrong(`${name} needs a value`);
  if (name === "in") return inInches(args, context, depth);
  if (name === ARC_LENGTH) return arcLength(args, context);
  if (name === NATURAL_RADIUS) return overV(args.map(inner), context);
  if (!Object.hasOwn(FUNCTIONS, name))
    throw new Wrong(`there is no function "${name}"; there are ${Object.keys(FUNCTIONS).join(", ")}`);
  if (args.length > 1 && name !== "min" && name !== "max") throw new Wrong(`${name} takes one value`);
  return FUNCTIONS[name](args.map(inner), context.bareLength ?? 1);
}

/** `arclength(a1)`: how long an arc of one of the part's outlines is, or a circle is around. */
export const ARC_LENGTH = "arclength";

function arcLength(args: readonly Node[], context: Reading): Quantity {
  const token = args.length === 1 && args[0].type === "Identifier" ? tokenOf(args[0], context) : undefined;
  if (token?.kind !== "name")
    throw new Wrong(`${ARC_LENGTH} takes the name of one arc, for example arclength(a1)`);
  const found = context.names?.(`${ARC_LENGTH} ${token.name}`);
  if (!found)
    throw new Wrong(`no outline of the part has an arc called "${token.name}" that is solved before this is`);
  if (!found.ok) throw new Wrong(found.error);
  return dimensionOf("length", found.value.value);
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
function inInches(args: readonly Node[], context: Reading, depth: number): Quantity {
  if (args.length !== 1) throw new Wrong("in(…) takes one expression");
  const bareLength = LENGTH_UNITS.inch;
  const value = evaluateNode(args[0], { ...context, bareLength }, depth + 1);
  return isBare(value) ? dimensionOf("length", value.value * bareLength) : value;
}

function evaluateName(name: string, context: ExpressionContext): Quantity {
  const found = context.names?.(name);
  if (found) {
    if (!found.ok) throw new Wrong(found.error);
    return dimensionOf(found.value.dimension, found.value.value);
  }
  if (name === "in") return dimensionOf("length", LENGTH_UNITS.inch);
  if (Object.hasOwn(LENGTH_UNITS, name)) return dimensionOf("length", LENGTH_UNITS[name]);
  if (Object.hasOwn(ANGLE_UNITS, name)) return dimensionOf("angle", ANGLE_UNITS[name]);
  if (name === "pi") return bare(Math.PI);
  const { known = [] } = context;
  const offered = nearestNames(name, known, MOST_OFFERED).map(shortName);
  const more = known.length > offered.length ? ` and ${known.length - offered.length} more` : "";
  const told = offered.length > 0 ? ` Known here: ${offered.join(", ")}${more}.` : "";
  throw new Wrong(`"${shortName(name)}" is not a unit or a name known here.${told}`);
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
  if (isBare(q) || (isPlain(q) && dimension === "number")) return finishPlain(q.value, dimension);
  if (isPlain(q))
    throw new Wrong(
      `units cancel out in it, so it does not give ${ARTICLE[dimension]}; multiply by 1${dimension === "length" ? "mm" : "deg"} if that is meant`,
    );
  const want = dimensionOf(dimension, 0);
  if (q.length === want.length && q.angle === want.angle) return q.value;
  throw new Wrong(`it does not give ${ARTICLE[dimension]}`);
}

const COMMA = /(\d+),(\d+)/;

function commaProblem(text: string): string | undefined {
  const found = COMMA.exec(text);
  if (!found) return undefined;
  const [, before, after] = found;
  const thousands = after.length === 3 ? `, or ${before}${after} for thousands` : "";
  return `"${text}" has a comma in a number: write the decimal with a point, ${before}.${after}${thousands}.`;
}

/**
 * Evaluates what a person typed in a field, such as `25`, `3/4in`, `5' 3 1/2"`, `2*t + 1` or `45°30'`.
 * The grammar is that of `docs/format/expressions.md`.
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
  const comma = commaProblem(text);
  if (comma) return fail(comma);
  const found = parsed.of(text);
  if (!found.ok) return fail(`"${text}": ${found.error}`.replace(/\.?$/, "."));
  try {
    const { node, tokens } = found.value;
    if (!node) throw new Unreadable();
    return ok(finish(evaluateNode(node, { ...context, tokens }, 0), context.dimension));
  } catch (error) {
    if (error instanceof Wrong) return fail(`"${text}": ${error.message}`.replace(/\.?$/, "."));
    return fail(
      `"${text}" cannot be read as ${ARTICLE[context.dimension]}. Write for example 25, 3/4in or 2*t + 1.`,
    );
  }
}

interface Parsed {
  readonly tokens: readonly Token[];
  /** Nothing where the tokens make no expression. */
  readonly node: Node | undefined;
}

/** A part says `2*t` in every flange, and is read anew at every edit. */
const parsed = new KeptTexts((text: string): Result<Parsed> => {
  const tokens = tokensOf(plainSigns(text));
  if (!tokens.ok) return tokens;
  try {
    return ok({ tokens: tokens.value, node: jsep(forParser(tokens.value)) as Node });
  } catch {
    return ok({ tokens: tokens.value, node: undefined });
  }
}, 2000);

/**
 * The same expression with a name put in the place of another: only where it stands as a name, never
 * within a longer one, in a unit or in a function. What cannot be read stays as it is.
 */
export function renameInExpression(text: string, from: string, to: string): string {
  const plain = plainSigns(text);
  const tokens = tokensOf(plain);
  if (!tokens.ok) return text;
  const places = tokens.value.filter((t) => t.kind === "name" && t.name === from);
  if (places.length === 0) return text;
  let out = plain;
  for (const t of [...places].reverse())
    if (t.kind === "name") out = out.slice(0, t.from) + to + out.slice(t.to);
  return out;
}
