import { bendDeduction } from "../bend/allowance.ts";
import { type Blank, blankOf } from "../sheet/blank.ts";
import { evenState, foldSheet } from "../sheet/fold.ts";
import { layOut } from "../sheet/layout.ts";
import { type Box, foldedBox, foldedVolume } from "../sheet/measure.ts";
import { plateLetter, type Sheet } from "../sheet/sheet.ts";
import type { FlangeSpec } from "../sheet/spec.ts";
import { evaluateFields, type FieldValues } from "../steps/field.ts";
import type { Finding } from "../steps/finding.ts";
import { stepKind } from "../steps/registry.ts";
import type { SheetDraft, StockValues } from "../steps/step-kind.ts";
import type { Names } from "../units/expression.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { evaluateStock } from "./stock.ts";

/** What became of a step. `later` steps stand after the bookmark. */
export type StepState = "built" | "wrong" | "paused" | "later";

export interface StepOutcome {
  readonly id: string;
  readonly state: StepState;
  readonly values?: FieldValues;
}

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
  readonly kSource: string;
  readonly allowance: number;
  readonly deduction?: number;
  readonly length: number;
}

/** Everything that follows from a document. Without a plate there is no sheet yet. */
export interface PartBuild {
  readonly sheet?: Sheet;
  readonly blank?: Blank;
  readonly steps: readonly StepOutcome[];
  readonly bends: readonly BendRow[];
  /** Fully folded: box in mm, volume in mm³, mass in kg. */
  readonly folded?: { readonly box: Box; readonly volume: number; readonly mass: number };
  readonly stock?: { readonly thickness: number; readonly radius: number; readonly density: number };
  readonly findings: readonly Finding[];
}

/**
 * Builds a part. Pure, and never throws on a document that passed `readDocument`: a step that
 * cannot be built is a finding, and the rest of the part stands.
 */
export function buildPart(document: PartDocument): PartBuild {
  const { stock, problems } = evaluateStock(document.stock);
  if (!stock) {
    const findings = problems.map(
      (p): Finding => ({ level: "stop", rule: "stock", ...p, message: `Stock: ${p.message}` }),
    );
    return { steps: document.steps.map((s) => ({ id: s.id, state: "wrong" })), bends: [], findings };
  }
  const findings: Finding[] = [];
  const draft: SheetDraft = { flanges: [] };
  const steps = runSteps(document, stock, draft, findings);
  const given = { thickness: stock.thickness, radius: stock.radius, density: stock.density };
  if (!draft.root) return { steps, bends: [], findings, stock: given };
  const standing = withoutOrphans(draft);
  const order = [...plateLabels(document).keys()];
  const { sheet, problems: layout } = layOut({
    t: stock.thickness,
    root: draft.root,
    flanges: standing,
    order,
  });
  const wrong = new Set<string>();
  for (const p of layout) {
    findings.push({ level: p.fatal ? "stop" : "warn", rule: "layout", ...p });
    if (p.fatal) wrong.add(p.step);
  }
  const orphans = findOrphans(document, draft, sheet);
  for (const f of orphans) wrong.add(f.step!);
  findings.push(...orphans);
  const volume = foldedVolume(sheet);
  return {
    sheet,
    blank: blankOf(sheet),
    steps: steps.map((s) => (wrong.has(s.id) ? { ...s, state: "wrong" } : s)),
    bends: bendRows(sheet),
    folded: {
      box: foldedBox(sheet, foldSheet(sheet, evenState(sheet, 1), document.anchor)),
      volume,
      mass: (volume * stock.density) / 1e9,
    },
    stock: given,
    findings: sortFindings(findings, document.steps),
  };
}

const RANK = { stop: 0, warn: 1, note: 2 };

/** Gravest first, then in the order of the steps. */
export function sortFindings(findings: readonly Finding[], steps: readonly StepDocument[]): Finding[] {
  const place = new Map(steps.map((s, i) => [s.id, i]));
  const at = (f: Finding) => (f.step === undefined ? -1 : (place.get(f.step) ?? -1));
  return [...findings].sort((a, b) => RANK[a.level] - RANK[b.level] || at(a) - at(b));
}

/** Names that every expression may use: t, r and K of the stock. */
export function stockNames(stock: StockValues): { names: Names; known: string[] } {
  const shape = { t: stock.thickness, r: stock.radius, angle: Math.PI / 2 };
  const values: Readonly<Record<string, { value: number; dimension: "length" | "number" }>> = {
    t: { value: stock.thickness, dimension: "length" },
    r: { value: stock.radius, dimension: "length" },
    K: { value: stock.kOf(shape).k, dimension: "number" },
  };
  const names: Names = (name) =>
    Object.hasOwn(values, name) ? { ok: true, value: values[name] } : undefined;
  return { names, known: Object.keys(values) };
}

function runSteps(
  document: PartDocument,
  stock: StockValues,
  draft: SheetDraft,
  findings: Finding[],
): StepOutcome[] {
  const { names, known } = stockNames(stock);
  let past = false;
  return document.steps.map((step, i): StepOutcome => {
    if (past) return { id: step.id, state: "later" };
    if (document.builtTo === step.id) past = true;
    if (step.paused) return { id: step.id, state: "paused" };
    const kind = stepKind(step.kind)!;
    const values = evaluateFields(kind.fields, step, names, known);
    const title = `${kind.title} ${i + 1}`;
    let wrong = false;
    const refuse = (field: string | undefined, message: string) => {
      wrong = true;
      findings.push({ level: "stop", rule: "step", step: step.id, field, message: `${title}: ${message}` });
    };
    for (const p of values.problems) refuse(p.field, p.message);
    if (!wrong) kind.build(values, { step: step.id, stock, draft, refuse });
    return { id: step.id, state: wrong ? "wrong" : "built", values };
  });
}

/** Flanges that stand on a plate made before them. */
function withoutOrphans(draft: SheetDraft): FlangeSpec[] {
  const known = new Set([draft.root!.id]);
  return draft.flanges.filter((f) => {
    const stands = known.has(f.edge.plate);
    if (stands) known.add(f.id);
    return stands;
  });
}

/** Flanges whose plate never came to be, because an earlier step is gone, paused or wrong. */
function findOrphans(document: PartDocument, draft: SheetDraft, sheet: Sheet): Finding[] {
  const built = new Set(sheet.plates.map((p) => p.id));
  const labels = plateLabels(document);
  const index = new Map(document.steps.map((s, i) => [s.id, i]));
  const seen = new Set<string>();
  const out: Finding[] = [];
  for (const f of draft.flanges) {
    if (built.has(f.id)) continue;
    const key = `${f.step}:${f.edge.plate}`;
    if (seen.has(key)) continue;
    seen.add(key);
    const owner = document.steps.findIndex((s) => plateIdsOf(s).includes(f.edge.plate));
    const own = index.get(f.step)!;
    // The flange stands on a plate that is there: the layout has said what else is wrong.
    if (built.has(f.edge.plate) && owner <= own) continue;
    const title = `Flange ${index.get(f.step)! + 1}`;
    const place = `${labels.get(f.edge.plate) ?? "a plate"} ${f.edge.role}`;
    const message =
      owner < 0
        ? `${title}: the edge it stood on is gone. Pick another edge for it.`
        : owner > own
          ? `${title}: edge ${place} is made by step ${owner + 1}, which comes later. Move this step below it.`
          : `${title}: edge ${place} is not there, because step ${owner + 1} is ${document.steps[owner].paused ? "paused" : "not built"}. Mend that step, or pick another edge.`;
    out.push({ level: "stop", rule: "edge-gone", step: f.step, field: "edges", message });
  }
  return out;
}

/** The plates that a step makes, by their stable names. */
export function plateIdsOf(step: StepDocument): string[] {
  if (step.kind === "plate") return [step.id];
  const edges = Array.isArray(step.edges) ? (step.edges as { key: string }[]) : [];
  return edges.map((e) => `${step.id}${e.key}`);
}

/** Letters of all plates in step order, also of steps that are paused or wrong, so that they do not jump about. */
export function plateLabels(document: PartDocument): Map<string, string> {
  const out = new Map<string, string>();
  for (const step of document.steps) for (const id of plateIdsOf(step)) out.set(id, plateLetter(out.size));
  return out;
}

function bendRows(sheet: Sheet): BendRow[] {
  const letters = new Map(sheet.plates.map((p) => [p.id, p.letter]));
  return sheet.bends.map((b) => ({
    id: b.id,
    number: b.number,
    step: b.step,
    between: [letters.get(b.parent)!, letters.get(b.child)!],
    up: b.up,
    angle: b.angle,
    radius: b.radius,
    k: b.k,
    kSource: b.kSource,
    allowance: b.allowance,
    deduction: bendDeduction({ t: sheet.t, r: b.radius, angle: b.angle }, b.k),
    length: b.width,
  }));
}
