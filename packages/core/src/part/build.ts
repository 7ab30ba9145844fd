import { bendDeduction } from "../bend/allowance.ts";
import { dieFor, forcePerMetre, naturalV } from "../bend/tooling.ts";
import type { KSource } from "../bend/why-line.ts";
import type { SayProgress } from "../jobs/job.ts";
import { Kept } from "../kept.ts";
import { distance } from "../plane/point.ts";
import { type BendLine, type Blank, blankOf } from "../sheet/blank/blank.ts";
import type { SheetDraft } from "../sheet/draft.ts";
import { finishSheet } from "../sheet/finish.ts";
import { evenState, foldSheet } from "../sheet/folding/fold.ts";
import { type Box, foldedBox } from "../sheet/folding/folded-box.ts";
import { foldedVolume } from "../sheet/folding/folded-volume.ts";
import type { Bend } from "../sheet/pieces/flat-pieces.ts";
import type { TurnNumbers } from "../sheet/pieces/piece-kind.ts";
import { kindOf } from "../sheet/pieces/piece-kinds.ts";
import { bendsOf, carriersOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import type { DrawnOutline, StockValues } from "../steps/step-kind.ts";
import type { Units } from "../units/display.ts";
import { NATURAL_RADIUS, type Names } from "../units/expression.ts";
import type { DimensionedNumber } from "../units/quantity.ts";
import { sayLengths } from "../units/spoken-length.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { outlineNames } from "./outline-names.ts";
import { type StepOutcome, StepRunner, type Surroundings } from "./run-steps.ts";
import { SolvedOutlines } from "./solved-outlines.ts";
import { evaluateStock, type StockReading, type StockRemark } from "./stock.ts";
import { evaluateVariables, type VariableValue, variablesOf } from "./variables.ts";

/** One row of the bend list. Lengths in mm, angle in radians. */
export interface BendRow {
  readonly id: string;
  readonly number: number;
  readonly step: string;
  /** Letters of the two plates. */
  readonly between: readonly [string, string];
  readonly up: boolean;
  readonly angle: number;
  readonly radius: number;
  readonly k: number;
  readonly kSource: KSource;
  /** Whether it is the K that the stock gives such a bend. */
  readonly byStock: boolean;
  readonly allowance: number;
  readonly deduction?: number;
  /** Metal on the bend line, in all and piece by piece: an opening or a relief across it is no metal. */
  readonly length: number;
  readonly pieces: readonly number[];
  /** What air bending it takes; nothing when the strength is not known, or no V makes such a bend. */
  readonly force?: BendForce;
}

/** One row of the list of bends for what is rolled and not bent. */
export interface RolledRow extends TurnNumbers {
  readonly id: string;
  readonly step: string;
  /** Letters of the two plates. */
  readonly between: readonly [string, string];
}

/** V-width in mm, force in kN per metre and in total; the die when one of the card's makes the radius. */
export interface BendForce {
  readonly v: number;
  readonly perMetre: number;
  readonly total: number;
  readonly die?: string;
  readonly dieName?: string;
  /** Whether the die bears less than this bend takes. */
  readonly tooMuch: boolean;
}

/** What the stock says about the part as built. Lengths in mm, strength in MPa. */
export type BuiltStock = Omit<StockValues, "kOf" | "kOfHem" | "relief"> & {
  /** K of a square bend with the stock's own radius. */
  readonly k: number;
};

/** Everything that follows from a document. Without a plate there is no sheet yet. */
export interface PartBuild {
  readonly sheet?: Sheet;
  readonly blank?: Blank;
  readonly steps: readonly StepOutcome[];
  readonly bends: readonly BendRow[];
  /** What turns besides bends. */
  readonly rolled: readonly RolledRow[];
  /** Fully folded: box in mm, volume in mm³, mass in kg. */
  readonly folded?: { readonly box: Box; readonly volume: number; readonly mass: number };
  readonly stock?: BuiltStock;
  /** What is wrong or remarkable about the stock itself, by its fields. */
  readonly stockRemarks?: readonly StockRemark[];
  /** The part's named values, each with its result or what is wrong with it. */
  readonly variables?: readonly VariableValue[];
  /** Every name that an expression of the part may use, with what it stands for. */
  readonly names?: Readonly<Record<string, DimensionedNumber>>;
  /** The part's outlines as they are solved, in the order of the document. */
  readonly outlines?: readonly DrawnOutline[];
  /** Bends that the last step built holds flat. */
  readonly heldBySteps?: readonly string[];
  readonly findings: readonly Finding[];
}

/**
 * Builds a part. Pure, and never throws on a document that passed `readDocument`: a step that
 * cannot be built is a finding, and the rest of the part stands.
 */
export const buildPart = (document: PartDocument): PartBuild => createPartBuilder()(document);

/** A builder that keeps each step's result, so that a change runs only the steps from there on. */
export function createPartBuilder(): (document: PartDocument, say?: SayProgress) => PartBuild {
  const runner = new StepRunner();
  const outlines = new SolvedOutlines();
  let last: Last = {};
  let read: { readonly text: string; readonly reading: StockReading } | undefined;
  return (document, say = () => {}) => {
    const text = JSON.stringify(document.stock);
    if (read?.text !== text) read = { text, reading: evaluateStock(document.stock) };
    const { draft, made } = build(document, read.reading, runner, outlines, last, say);
    if (draft) last = { draft, blank: made.blank };
    return inUnits(made, document.units);
  };
}

/** What a build says in words, with its lengths in the units of the part. */
function inUnits(made: PartBuild, units: Units | undefined): PartBuild {
  const said = <T extends { readonly message: string }>(told: T): T => ({
    ...told,
    message: sayLengths(told.message, units),
  });
  return {
    ...made,
    findings: made.findings.map(said),
    steps: made.steps.map((outcome) => saidNotes(outcome, units)),
    ...(made.stockRemarks ? { stockRemarks: made.stockRemarks.map(said) } : {}),
  };
}

/** A step's notes likewise; one that has no lengths in them stays the record that it is. */
function saidNotes(outcome: StepOutcome, units: Units | undefined): StepOutcome {
  const { notes } = outcome;
  if (!notes) return outcome;
  const said = Object.entries(notes).map(([field, text]) => [field, sayLengths(text, units)] as const);
  return said.every(([field, text]) => notes[field] === text)
    ? outcome
    : { ...outcome, notes: Object.fromEntries(said) };
}

/** The last build from which something may be as it was. */
interface Last {
  readonly draft?: SheetDraft;
  readonly blank?: Blank;
}

/** The steps are so much of the work, by and large. */
const STEPS_SHARE = 0.6;

function build(
  document: PartDocument,
  { stock, problems, remarks: stockRemarks }: StockReading,
  runner: StepRunner,
  outlines: SolvedOutlines,
  before: Last,
  say: SayProgress,
): { made: PartBuild; draft?: SheetDraft } {
  if (!stock) {
    const findings = problems.map(
      (p): Finding => ({ level: "stop", rule: "stock", ...p, message: `Stock: ${p.message}` }),
    );
    const stockRemarks = problems.map((p): StockRemark => ({ level: "stop", ...p }));
    const steps = document.steps.map((s) => ({ id: s.id, state: "wrong" as const }));
    return { made: { steps, stockRemarks, bends: [], rolled: NONE_ROLLED, findings } };
  }
  const { around, values, all } = surroundings(document, stock, outlines);
  const count = document.steps.length;
  const onStep = (nth: number) => say((nth / count) * STEPS_SHARE, `Step ${nth} of ${count}`);
  const { draft, outcomes, findings: told, letterOf, numberOf } = runner.run(document, around, onStep);
  const findings = [...stockRemarks.map(stockFinding), ...values.flatMap(variableFinding), ...told];
  const { kOf: _kOf, kOfHem: _kOfHem, relief: _relief, ...given } = stock;
  const rest = {
    steps: outcomes,
    stock: { ...given, k: all.K.value },
    stockRemarks,
    variables: values,
    names: all,
    ...(around.outlines.size > 0 ? { outlines: whereTheyStand(around.outlines, outcomes) } : {}),
  };
  if (draft.roots.length === 0)
    return {
      made: { ...rest, bends: [], rolled: NONE_ROLLED, findings: sortFindings(findings, document.steps) },
    };
  say(STEPS_SHARE, "Outlines and blank");
  const { sheet, remarks } = finishSheet(draft, { letterOf, numberOf }, before.draft);
  for (const { step, message, plate } of remarks)
    findings.push({
      level: "warn",
      rule: "layout",
      step,
      message,
      ...(plate ? { pieces: [{ kind: "plate", id: plate }] } : {}),
    });
  const blank = blankOf(sheet, before.blank);
  const nothing = noBlank(blank, sheet.roots.length);
  if (nothing) {
    findings.push({ level: "stop", rule: "blank", message: nothing.message });
    // Numbers of what is no part would look like those of one.
    if (!nothing.shown)
      return {
        made: { ...rest, bends: [], rolled: NONE_ROLLED, findings: sortFindings(findings, document.steps) },
        draft,
      };
  }
  const volume = foldedVolume(sheet);
  const made: PartBuild = {
    ...rest,
    sheet,
    blank,
    bends: bendRows(sheet, blank, stock),
    rolled: rolledRows(sheet),
    heldBySteps: [...draft.held],
    folded: {
      box: foldedBox(sheet, foldSheet(sheet, heldState(sheet, draft.held), document.anchor)),
      volume,
      mass: (volume * stock.density) / 1e9,
    },
    findings: sortFindings(findings, document.steps),
  };
  return { made, draft };
}

/** The outlines of a part, each as the first step that places it has it. */
function whereTheyStand(
  outlines: ReadonlyMap<string, DrawnOutline>,
  outcomes: readonly StepOutcome[],
): DrawnOutline[] {
  const all = new Map(outlines);
  for (const { placed = [] } of [...outcomes].reverse()) for (const o of placed) all.set(o.key, o);
  return [...all.values()];
}

/** Why a blank cannot be cut as one piece of metal for each sheet, and whether there is anything to show. */
function noBlank(blank: Blank, sheets: number): { message: string; shown: boolean } | undefined {
  const { width, height, area, outlines } = blank;
  if (outlines.length > 0 && !Number.isFinite(width + height + area))
    return {
      shown: false,
      message: "The blank has no finite size. Look for a value that is far too large, and make it smaller.",
    };
  if (outlines.length === 0 || area <= 1e-6)
    return {
      shown: false,
      message:
        "Nothing is left of the blank: its cuts take all of the metal. Make them smaller, or move them.",
    };
  if (outlines.length > sheets)
    return {
      shown: true,
      message: `The blank falls into ${outlines.length} pieces${sheets > 1 ? ` where ${sheets} are meant` : ""}: nothing joins them once it is cut. Make the cuts between them smaller, or part the sheet with a Split if that is meant.`,
    };
  return undefined;
}

/** Fully folded, but for the bends that the steps hold flat. */
const heldState = (sheet: Sheet, held: ReadonlySet<string>) => evenState(sheet, 1, held);

function surroundings(
  document: PartDocument,
  stock: StockValues,
  solved: SolvedOutlines,
): {
  around: Surroundings;
  values: readonly VariableValue[];
  all: Readonly<Record<string, DimensionedNumber>>;
} {
  const own = stockNames(stock);
  const variables = variablesOf(document);
  const { values, names, known } = evaluateVariables(variables, namesIn(own), Object.keys(own));
  const outlines = solved.of(document, names, JSON.stringify([document.stock, variables]));
  const text = JSON.stringify([document.stock, variables, document.outlines ?? []]);
  const said = values.flatMap(({ variable, result }): [string, DimensionedNumber][] =>
    result.ok ? [[variable.name, { value: result.value, dimension: variable.measures ?? "length" }]] : [],
  );
  const drawn = outlineNames(outlines.values());
  const numbers = [...drawn.found].flatMap(([name, result]) =>
    result.ok ? [[name, result.value] as const] : [],
  );
  return {
    // The part's own values come first: an outline that is placed in another part must not change what is there.
    around: { stock, names: (name) => names(name) ?? drawn.names(name), known, outlines, text },
    values,
    all: { ...Object.fromEntries(numbers), ...own, ...Object.fromEntries(said) },
  };
}

const stockFinding = ({ level, field, message }: StockRemark): Finding => ({
  level,
  rule: "stock",
  field,
  message: `Stock: ${message}`,
});

function variableFinding({ variable, result }: VariableValue): Finding[] {
  if (result.ok) return [];
  const message = `Value ${variable.name}: ${result.error}`;
  return [{ level: "stop", rule: "variable", field: `variables.${variable.key}`, message }];
}

const RANK = { stop: 0, warn: 1, note: 2 };

/** Gravest first, then in the order of the steps; what is accepted comes last. */
export function sortFindings(findings: readonly Finding[], steps: readonly StepDocument[]): Finding[] {
  const place = new Map(steps.map((s, i) => [s.id, i]));
  const at = (f: Finding) => (f.step === undefined ? -1 : (place.get(f.step) ?? -1));
  const rank = (f: Finding) => (f.accepted ? 3 : RANK[f.level]);
  return [...findings].sort((a, b) => rank(a) - rank(b) || at(a) - at(b));
}

/** What every expression may use: t, r and K of the stock, and V(…) for the radius of a V-width. */
function stockNames(stock: StockValues): Readonly<Record<string, DimensionedNumber>> {
  const shape = { t: stock.thickness, r: stock.radius, angle: Math.PI / 2 };
  return {
    t: { value: stock.thickness, dimension: "length" },
    r: { value: stock.radius, dimension: "length" },
    K: { value: stock.kOf(shape).k, dimension: "number" },
    [NATURAL_RADIUS]: { value: stock.radiusOverV, dimension: "number" },
  };
}

/** Names out of a table, as expressions ask for them. */
export const namesIn =
  (table: Readonly<Record<string, DimensionedNumber>>): Names =>
  (name) =>
    Object.hasOwn(table, name) ? { ok: true, value: table[name] } : undefined;

function bendForce(bend: Bend, length: number, stock: StockValues): BendForce | undefined {
  const { tensile, thickness, radiusOverV, dies } = stock;
  const shape = { t: thickness, r: bend.radius, angle: bend.angle };
  if (tensile === undefined || bend.radius <= 0 || bend.angle < 1e-9 || bend.angle > Math.PI - 1e-6)
    return undefined;
  const die = dieFor(dies, shape, radiusOverV);
  const v = die?.v ?? naturalV(bend.radius, radiusOverV);
  const perMetre = forcePerMetre(thickness, v, tensile);
  return {
    v,
    perMetre,
    total: (perMetre * length) / 1000,
    ...(die ? { die: die.id, dieName: die.name } : {}),
    tooMuch: die !== undefined && perMetre > die.mostForce,
  };
}

function rolledRows(sheet: Sheet): RolledRow[] {
  const rolled = carriersOf(sheet).flatMap((c) => (c.kind === "bend" ? [] : [c]));
  if (rolled.length === 0) return NONE_ROLLED;
  const letters = new Map(platesOf(sheet).map((p) => [p.id, p.letter]));
  return rolled.flatMap((c): RolledRow[] => {
    const numbers = kindOf(c).numbers?.(c, sheet.t);
    const between = [letters.get(c.parent) ?? "?", letters.get(c.child) ?? "?"] as const;
    return numbers ? [{ id: c.id, step: c.step, between, ...numbers }] : [];
  });
}

const NONE_ROLLED: RolledRow[] = [];

function bendRows(sheet: Sheet, blank: Blank, stock: StockValues): BendRow[] {
  const letters = new Map(platesOf(sheet).map((p) => [p.id, p.letter]));
  return bendsOf(sheet).map((b, i) =>
    rows.of(b, {
      between: [letters.get(b.parent)!, letters.get(b.child)!],
      centre: blank.centreLines[i],
      stock,
    }),
  );
}

/** What a bend's row of the list follows from besides the bend. */
interface RowOf {
  readonly between: readonly [string, string];
  readonly centre: BendLine;
  readonly stock: StockValues;
}

const rows = new Kept(
  (b: Bend, { between, centre, stock }: RowOf): BendRow => {
    const shape = { t: stock.thickness, r: b.radius, angle: b.angle };
    const pieces = centre.pieces.map((p) => distance(p.a, p.b));
    const length = pieces.reduce((sum, v) => sum + v, 0);
    return {
      length,
      pieces,
      id: b.id,
      number: b.number,
      step: b.step,
      between,
      up: b.up,
      angle: b.angle,
      radius: b.radius,
      k: b.k,
      kSource: b.kSource,
      byStock: stock.kOf(shape).k === b.k,
      allowance: b.allowance,
      deduction: bendDeduction(shape, b.k),
      force: bendForce(b, length, stock),
    };
  },
  // Its line is the bend's own, and another where the bend is.
  (p, q) => p.stock === q.stock && p.between[0] === q.between[0] && p.between[1] === q.between[1],
);
