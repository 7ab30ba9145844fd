import { fail, ok, type Result } from "../result.ts";
import { formatShort, toDegrees, toRadians } from "../units/quantity.ts";
import { bendAllowance, bendDeduction, innerSetback, outerSetback } from "./allowance.ts";

/** One bend and its two legs, all that a study starts from. Lengths in mm, angle in radians. */
export interface StudyGiven {
  readonly t: number;
  readonly r: number;
  readonly angle: number;
  readonly k: number;
  /** Legs to the outer mould point; at or beyond 180° to the outermost tangent. */
  readonly legA: number;
  readonly legB: number;
}

/** What follows from it. */
export interface StudyFollows {
  readonly allowance: number;
  readonly deduction?: number;
  readonly outerSetback?: number;
  readonly innerSetback?: number;
  /** From a tangent line to where its leg is measured to: the outer setback, at or beyond 180° r + t. */
  readonly legSetback: number;
  /** The straight parts, from the tangent lines to the tips. */
  readonly straightA: number;
  readonly straightB: number;
  readonly flat: number;
}

export type StudyUnknown = keyof StudyGiven;
export type StudyResult = "allowance" | "deduction" | "outerSetback" | "flat";

/** Finds K when it is not a number of its own but comes from a chart. */
export type KOf = (shape: { t: number; r: number; angle: number }) => number;

/** Setbacks, allowance, deduction and flat length of one bend, by the same functions that build a part. */
export function followStudy(given: StudyGiven): StudyFollows {
  const { t, r, angle, k, legA, legB } = given;
  const allowance = bendAllowance(given, k);
  const setback = outerSetback(given);
  const legSetback = setback ?? r + t;
  const straightA = legA - legSetback;
  const straightB = legB - legSetback;
  return {
    allowance,
    deduction: bendDeduction({ t, r, angle }, k),
    outerSetback: setback,
    innerSetback: innerSetback({ t, r, angle }),
    legSetback,
    straightA,
    straightB,
    flat: straightA + allowance + straightB,
  };
}

/** Within what each unknown is looked for: mm, radians, plain. */
const RANGES: Readonly<Record<StudyUnknown, readonly [number, number]>> = {
  t: [0.01, 50],
  r: [0, 2000],
  angle: [1e-4, toRadians(330)],
  k: [-1, 2],
  legA: [0, 20_000],
  legB: [0, 20_000],
};

const NAMES: Readonly<Record<StudyUnknown | StudyResult, string>> = {
  t: "thickness",
  r: "inside radius",
  angle: "bend angle",
  k: "K",
  legA: "leg A",
  legB: "leg B",
  allowance: "bend allowance",
  deduction: "bend deduction",
  outerSetback: "outer setback",
  flat: "flat length",
};

const SAMPLES = 2000;

/**
 * Finds the value of one unknown at which a result takes the wanted value, everything else staying.
 * With `kOf` K follows from a chart while the unknown moves. Of several solutions the one nearest to
 * the present value is taken. The error says which values can be reached.
 *
 * @example solveStudy(given, "k", { of: "allowance", is: 3.3458 }) // { ok: true, value: 0.42 }
 */
export function solveStudy(
  given: StudyGiven,
  unknown: StudyUnknown,
  wanted: { readonly of: StudyResult; readonly is: number },
  kOf?: KOf,
): Result<number> {
  const valueAt = (x: number): number | undefined => {
    const moved = { ...given, [unknown]: x };
    const k = kOf && unknown !== "k" ? kOf(moved) : moved.k;
    return followStudy({ ...moved, k })[wanted.of];
  };
  const offAt = (x: number) => (valueAt(x) ?? Number.NaN) - wanted.is;
  const [from, to] = RANGES[unknown];
  const near = given[unknown];
  // Steps grow away from the present value, so that what is near it is found exactly.
  const places = [near, from, to];
  for (let i = 0; i <= SAMPLES; i++) {
    const share = (i / SAMPLES) ** 3;
    places.push(near + (to - near) * share, near - (near - from) * share);
  }
  const sorted = [...new Set(places)].filter((x) => x >= from && x <= to).sort((a, b) => a - b);
  let best: number | undefined;
  let least = Number.POSITIVE_INFINITY;
  let greatest = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < sorted.length; i++) {
    const off = offAt(sorted[i]);
    if (Number.isNaN(off)) continue;
    least = Math.min(least, off + wanted.is);
    greatest = Math.max(greatest, off + wanted.is);
    const next = i + 1 < sorted.length ? offAt(sorted[i + 1]) : Number.NaN;
    const root =
      off === 0 ? sorted[i] : off * next < 0 ? bisect(offAt, sorted[i], sorted[i + 1], off) : undefined;
    if (root !== undefined && (best === undefined || Math.abs(root - near) < Math.abs(best - near)))
      best = root;
  }
  if (best !== undefined) return ok(best);
  const say = (v: number) => formatShort(v, 4);
  const name = NAMES[wanted.of];
  const by = NAMES[unknown];
  if (!(greatest >= least)) return fail(`At 180° or more there is no ${name}. Choose a smaller angle.`);
  if (greatest - least < 1e-9)
    return fail(`The ${name} does not depend on the ${by}; it is ${say(least)} mm. Change something else.`);
  const range =
    unknown === "angle" ? `${say(toDegrees(from))}° to ${say(toDegrees(to))}°` : `${from} to ${to}`;
  return fail(
    `No ${by} from ${range} makes the ${name} ${say(wanted.is)} mm; it reaches from ${say(least)} to ${say(greatest)} mm.`,
  );
}

function bisect(offAt: (x: number) => number, from: number, to: number, first: number): number {
  let low = from;
  let high = to;
  for (let i = 0; i < 200; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (offAt(middle) * first > 0) low = middle;
    else high = middle;
  }
  return Math.abs(offAt(low)) <= Math.abs(offAt(high)) ? low : high;
}
