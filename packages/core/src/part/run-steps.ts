import type { FieldValues, PickEntry } from "../fields/field.ts";
import { evaluateFields } from "../fields/field-kinds.ts";
import { newDraft, type OpenDraft, reopen, type SheetDraft } from "../sheet/draft.ts";
import { roleTitle } from "../sheet/role-title.ts";
import { workAgain } from "../sheet/shaping/metal-boxes.ts";
import { partsOfName, plateLetter } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { stepKind } from "../steps/registry.ts";
import {
  type BendEdit,
  type BendSection,
  type DrawnOutline,
  fieldsOf,
  type Outlooks,
  type PlaceMark,
  type StepContext,
  type StepHistory,
  type StepWork,
  type StockValues,
} from "../steps/step-kind.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import type { Names } from "../units/expression.ts";
import { sameValue } from "../values.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { likelyCorners, likelyNames } from "./likely-names.ts";
import { bendNumbers, cornersOf, plateIdsOf, plateLabels } from "./references.ts";
import { placeOutline } from "./solved-outlines.ts";

/** What became of a step. `later` steps stand after the bookmark. */
export type StepState = "built" | "wrong" | "paused" | "later";

export interface StepOutcome {
  readonly id: string;
  readonly state: StepState;
  readonly values?: FieldValues;
  /** Whether the part is after it as before it. */
  readonly idle?: boolean;
  /** What it makes with other tools, and what it cuts. */
  readonly work?: StepWork;
  /** What it would be with other choices. */
  readonly outlooks?: Outlooks;
  /** The section of its first bend, as it came out. */
  readonly section?: BendSection;
  /** How its places are measured. */
  readonly marks?: readonly PlaceMark[];
  /** The outlines that it has placed, as they stand there. */
  readonly placed?: readonly DrawnOutline[];
  /** What is set into the openings that it cuts. */
  readonly sets?: HardwareItem;
  /** What is to be said beside fields. */
  readonly notes?: Readonly<Record<string, string>>;
}

/** One step's result, kept so that the steps before a change need not run again. */
interface Kept {
  readonly text: string;
  readonly step: StepDocument;
  readonly before: SheetDraft;
  readonly after: SheetDraft;
  readonly outcome: StepOutcome;
  readonly findings: readonly Finding[];
}

/** What stays the same for all steps of a run. When any of it changes every step runs again. */
export interface Surroundings {
  readonly stock: StockValues;
  readonly names: Names;
  readonly known: readonly string[];
  readonly outlines: ReadonlyMap<string, DrawnOutline>;
  /** All of the above as text. */
  readonly text: string;
}

export interface StepsRun {
  readonly draft: SheetDraft;
  readonly outcomes: readonly StepOutcome[];
  readonly findings: readonly Finding[];
  readonly letterOf: (plate: string) => string;
  readonly numberOf: (bend: string) => number;
}

/** Runs steps one after the other, and keeps each result for the next run. */
export class StepRunner {
  private kept = new Map<string, Kept>();
  private text = "";

  run(document: PartDocument, around: Surroundings, onStep: (nth: number) => void = () => {}): StepsRun {
    const edits = bendEdits(document, around);
    const text = JSON.stringify([around.text, [...edits]]);
    if (text !== this.text) this.kept.clear();
    this.text = text;
    const labels = labelsOf(document);
    const next = new Map<string, Kept>();
    const outcomes: StepOutcome[] = [];
    const findings: Finding[] = [];
    let draft: SheetDraft = newDraft(around.stock.thickness);
    const first = this.first;
    if (first && first.t === draft.t) draft = first;
    else this.first = draft;
    let past = false;
    for (const [index, step] of document.steps.entries()) {
      if (past || step.paused) {
        outcomes.push({ id: step.id, state: past ? "later" : "paused" });
        continue;
      }
      past = document.builtTo === step.id;
      onStep(index + 1);
      const stepText = JSON.stringify(step);
      const old = this.kept.get(step.id);
      // Messages name other steps by their place, so a step with something to say is run again.
      const same = old && old.text === stepText && old.before === draft && old.findings.length === 0;
      const kept = same
        ? old
        : runStep({
            document,
            index,
            step,
            stepText,
            draft,
            around,
            edits,
            labels,
            history: next,
            last: old,
          });
      next.set(step.id, kept);
      outcomes.push(kept.outcome);
      findings.push(...kept.findings);
      draft = kept.after;
    }
    this.kept = next;
    return { draft, outcomes, findings, ...labels };
  }

  private first: SheetDraft | undefined;
}

interface Labelling {
  readonly letterOf: (plate: string) => string;
  readonly numberOf: (bend: string) => number;
}

/** Labels of what the steps say they make, then of what only building shows, as it comes. */
function labelsOf(document: PartDocument): Labelling {
  const letters = plateLabels(document);
  const numbers = bendNumbers(document);
  return {
    letterOf: (plate) => {
      const known = letters.get(plate) ?? plateLetter(letters.size);
      letters.set(plate, known);
      return known;
    },
    numberOf: (bend) => {
      const known = numbers.get(bend) ?? numbers.size + 1;
      numbers.set(bend, known);
      return known;
    },
  };
}

interface StepRun {
  readonly document: PartDocument;
  readonly index: number;
  readonly step: StepDocument;
  readonly stepText: string;
  readonly draft: SheetDraft;
  readonly around: Surroundings;
  readonly edits: ReadonlyMap<string, BendEdit>;
  readonly labels: Labelling;
  readonly history: ReadonlyMap<string, Kept>;
  /** What it came to the last time. */
  readonly last: Kept | undefined;
}

/** What a step says while it is built, gathered under its title. */
function listenTo(run: StepRun) {
  const { index, step } = run;
  const title = `${stepKind(step.kind)!.title} ${index + 1}${step.name?.trim() ? ` “${step.name.trim()}”` : ""}`;
  const findings: Finding[] = [];
  const notes: Record<string, string> = {};
  const marks: PlaceMark[] = [];
  const heard: { wrong: boolean; section?: BendSection } = { wrong: false };
  const saying = {
    refuse: (field: string | undefined, message: string) => {
      heard.wrong = true;
      const said = `${title}: ${message}`;
      // What is wrong with each of several picks alike is said once.
      if (findings.some((f) => f.message === said)) return;
      findings.push({ level: "stop", rule: "step", step: step.id, field, message: said });
    },
    warn: (field: string | undefined, message: string) => {
      findings.push({ level: "warn", rule: "step", step: step.id, field, message: `${title}: ${message}` });
    },
    note: (field: string, message: string) => {
      notes[field] = message;
    },
    cameOut: (numbers: BendSection) => {
      heard.section ??= numbers;
    },
    mark: (m: PlaceMark) => {
      marks.push(m);
    },
    lost: (field: string, pick: PickEntry) => {
      heard.wrong = true;
      findings.push(lostFinding(run, title, field, pick));
    },
  };
  return { saying, findings, notes, marks, heard };
}

/** What the step's fields were the last time, and what came of them. */
function lastValues({ last }: StepRun) {
  const values = last?.outcome.values;
  return last && values && values.problems.length === 0 ? { raw: last.step, values } : undefined;
}

function runStep(run: StepRun): Kept {
  const { step, draft, around, edits, labels, history } = run;
  const kind = stepKind(step.kind)!;
  const { saying, findings, notes, marks, heard } = listenTo(run);
  const valuesWith: StepContext["valuesWith"] = (own) =>
    evaluateFields(fieldsOf(kind, { ...step, ...own }), { ...step, ...own }, around.names, around.known);
  // What a step says for itself is read once; only what it is built on may have changed.
  const same = run.last?.text === run.stepText ? run.last.outcome : undefined;
  const values =
    same?.values ?? evaluateFields(fieldsOf(kind, step), step, around.names, around.known, lastValues(run));
  const placed = new Map<string, DrawnOutline>();
  for (const p of values.problems) saying.refuse(p.field, p.message);
  const open = reopen(draft);
  if (!heard.wrong)
    kind.build(values, {
      step: step.id,
      raw: step,
      stock: around.stock,
      draft: open,
      ...labels,
      ...saying,
      valuesWith,
      editOf: (bend) => edits.get(bend),
      outlineOf: (key, behind) => {
        const drawn = around.outlines.get(key);
        if (!drawn || !behind) return drawn;
        const there = placeOutline(drawn, behind(), around.names);
        placed.set(key, there);
        if (there.lost && there.lost.length > 0) saying.warn(DRAWN, lostOutline(there));
        return there;
      },
      historyOf: (id): StepHistory | undefined => {
        const kept = history.get(id);
        return kept && { before: kept.before, after: kept.after };
      },
    });
  for (const piece of open.pieces.changedFrom(draft.pieces)) {
    const before = draft.pieces.now(piece)?.metal.length ?? 0;
    const metal = workAgain(piece.metal, before, run.last?.after.pieces.now(piece)?.metal);
    if (metal !== piece.metal) open.pieces.put({ ...piece, metal });
  }
  const outlooks = same
    ? same.outlooks
    : values.problems.length === 0
      ? kind.outlooks?.(values, around.stock)
      : undefined;
  // Where some picks work and others do not, what works stands.
  const after: SheetDraft = changed(draft, open) ? open : draft;
  const idle = after === draft && !heard.wrong && findings.length === 0 && !kind.editsBends;
  const work = heard.wrong ? undefined : kind.work?.(values, around.stock);
  const sets = heard.wrong ? undefined : kind.sets?.(step);
  const outcome: StepOutcome = {
    id: step.id,
    state: heard.wrong ? "wrong" : "built",
    values,
    ...(idle ? { idle } : {}),
    ...(work ? { work } : {}),
    ...(sets ? { sets } : {}),
    ...(outlooks ? { outlooks } : {}),
    ...(heard.section ? { section: heard.section } : {}),
    ...(marks.length > 0 ? { marks } : {}),
    ...(placed.size > 0 ? { placed: [...placed.values()] } : {}),
    ...(Object.keys(notes).length > 0 ? { notes } : {}),
  };
  const told = same && isSameOutcome(same, outcome) ? same : outcome;
  return { text: run.stepText, step, before: draft, after, outcome: told, findings };
}

/** Whether a step that says the same came to the same: what it says for itself is the very same record then. */
function isSameOutcome(p: StepOutcome, q: StepOutcome): boolean {
  const { outlooks: _before, ...came } = p;
  const { outlooks: _now, ...comes } = q;
  return p.values === q.values && sameValue(came, comes);
}

/** The field that names an outline. */
const DRAWN = "drawn";

const lostOutline = ({ outline, lost = [] }: DrawnOutline): string =>
  `The outline “${outline.name}” was drawn on something that is not there any more (${lost.slice(0, 3).join(", ")}${lost.length > 3 ? ", …" : ""}). It stays where it was; draw it on something else, or remove that line.`;

function changed(before: SheetDraft, after: OpenDraft): boolean {
  if (before.slits.length !== after.slits.length || before.roots.length !== after.roots.length) return true;
  if (before.held.size !== after.held.size) return true;
  if (after.pieces.changedFrom(before.pieces).length > 0) return true;
  for (const id of after.held) if (!before.held.has(id)) return true;
  return after.roots.some((r, i) => r !== before.roots[i]);
}

/** Says where a picked thing has gone: never there, made later, or paused; and offers what is like it. */
function lostFinding(run: StepRun, title: string, field: string, pick: PickEntry): Finding {
  const { document, index, step, draft, labels } = run;
  const { plate, role } = partsOfName(pick.at);
  const noun = role === "" ? "plate or bend" : role.includes("+") ? "corner" : "edge";
  const owner = document.steps.findIndex((s) => plateIdsOf(s).includes(plate));
  const place = `${owner < 0 ? "a plate" : labels.letterOf(plate)} ${roleTitle(role)}`.trim();
  const names = role.includes("+")
    ? likelyCorners(draft, pick.at, cornersOf(step, field))
    : likelyNames(draft, pick.at, step.id);
  const offers = names.length > 0 ? { field, key: pick.key, names } : undefined;
  const reason = () => {
    if (owner < 0) return `the ${noun} it stood on is gone. Pick another ${noun} for it.`;
    if (owner > index)
      return `${noun} ${place} is made by step ${owner + 1}, which comes later. Move this step below it.`;
    if (draft.pieces.plate(plate) === undefined) {
      const state = document.steps[owner].paused ? "paused" : "not built";
      return `${noun} ${place} is not there, because step ${owner + 1} is ${state}. Mend that step, or pick another ${noun}.`;
    }
    return `plate ${labels.letterOf(plate)} has no ${noun} ${role ? `called ${roleTitle(role)}` : "here"} any more. Pick another ${noun} for it.`;
  };
  return {
    level: "stop",
    rule: "edge-gone",
    step: step.id,
    field,
    message: `${title}: ${reason()}`,
    ...(offers ? { offers } : {}),
  };
}

/** What steps that edit bends say about them. Later ones win, value by value. */
function bendEdits(document: PartDocument, around: Surroundings): Map<string, BendEdit> {
  const out = new Map<string, BendEdit>();
  for (const step of document.steps) {
    if (!step.paused) {
      const kind = stepKind(step.kind)!;
      if (kind.editsBends) {
        const values = evaluateFields(fieldsOf(kind, step), step, around.names, around.known);
        if (values.problems.length === 0)
          for (const [bend, edit] of kind.editsBends(values, step.id))
            out.set(bend, { ...out.get(bend), ...edit });
      }
    }
    if (document.builtTo === step.id) break;
  }
  return out;
}
