import type { PartCommand } from "../part/commands/command.ts";
import type { PartDocument, StepDocument } from "../part/document.ts";
import type { Point } from "../plane/point.ts";
import type { Mend, Remedy } from "../steps/finding.ts";

/** Up to the next thousandth of a millimetre, away from nought: what is short by a hair is mended whole. */
function upTo(by: number): number {
  const thousandths = Math.ceil(Math.abs(by) * 1000 - 1e-6) / 1000;
  return by < 0 ? -thousandths : thousandths;
}

/** A value as it was typed, and so much more (mm): a plain number stays one. */
function plus(raw: unknown, by: number): string {
  const text = String(raw).trim();
  const plain = Number(text);
  if (text !== "" && Number.isFinite(plain)) return String(Math.round((plain + by) * 1e6) / 1e6);
  return by < 0 ? `(${text}) - ${-by}` : `(${text}) + ${by}`;
}

const isRow = (v: unknown): v is Readonly<Record<string, unknown>> => typeof v === "object" && v !== null;

/** A table of round holes with those moved that are named; nothing where none of them is there. */
function movedHoles(step: StepDocument, moves: ReadonlyMap<string, Point>): unknown[] | undefined {
  const rows: readonly unknown[] = Array.isArray(step.holes) ? step.holes : [];
  const byOf = (r: unknown) => (isRow(r) ? moves.get(String(r.key)) : undefined);
  if (!rows.some(byOf)) return undefined;
  return rows.map((r) => {
    const by = byOf(r);
    if (!by || !isRow(r)) return r;
    const moved = (axis: "x" | "y") =>
      Math.abs(by[axis]) < 1e-9 ? r[axis] : plus(r[axis] ?? 0, upTo(by[axis]));
    return { ...r, x: moved("x"), y: moved("y") };
  });
}

/** Of two demands the farther one: what is moved so far is far enough for both. */
const farther = (a: number, b: number): number => (Math.abs(b) > Math.abs(a) ? b : a);

/** Of two demands on a length: the longer, and of two that want it shorter the shorter. */
const longerOf = (a: number, b: number): number => (a > 0 || b > 0 ? Math.max(a, b) : Math.min(a, b));

type LengthRemedy = Extract<Remedy, { do: "longer" }>;

/** A step's length longer, or that of one of its picks; nothing where there is no such length. */
function lengthened(step: StepDocument, { field, pick }: LengthRemedy, by: number): Record<string, unknown> {
  if (pick === undefined) return step[field] === undefined ? {} : { [field]: plus(step[field], upTo(by)) };
  const edges: readonly unknown[] = Array.isArray(step.edges) ? step.edges : [];
  const isIt = (e: unknown): e is Record<string, unknown> => isRow(e) && e.key === pick;
  if (!edges.some(isIt)) return {};
  return {
    edges: edges.map((e) => {
      if (!isIt(e)) return e;
      const own = isRow(e.own) ? e.own : {};
      return { ...e, own: { ...own, [field]: plus(own[field] ?? step[field], upTo(by)) } };
    }),
  };
}

/** What all remedies of a step make of its values; nothing where the step is not as it was. */
function changesOf(step: StepDocument, remedies: readonly Remedy[]): Record<string, unknown> | undefined {
  const changes: Record<string, unknown> = {};
  const longer = new Map<string, { readonly of: LengthRemedy; readonly by: number }>();
  const moves = new Map<string, Point>();
  for (const r of remedies) {
    if (r.do === "set") Object.assign(changes, r.values);
    else if (r.do === "longer") {
      const key = `${r.field} ${r.pick ?? ""}`;
      longer.set(key, { of: r, by: longerOf(r.by, longer.get(key)?.by ?? r.by) });
    } else if (r.do === "move") {
      const { x, y } = moves.get(r.hole) ?? { x: 0, y: 0 };
      moves.set(r.hole, { x: farther(x, r.by.x), y: farther(y, r.by.y) });
    }
  }
  for (const { of, by } of longer.values())
    Object.assign(changes, lengthened({ ...step, ...changes }, of, by));
  const holes = movedHoles(step, moves);
  if (holes) changes.holes = holes;
  return Object.keys(changes).length > 0 ? changes : undefined;
}

/**
 * The command that mends what is chosen, as one edit; nothing where no step is as it was. Of several demands on one
 * length, or on one hole along an axis, the greatest is met.
 */
export function mendCommand(document: PartDocument, mends: readonly Mend[]): PartCommand | undefined {
  const byStep = new Map<string, Remedy[]>();
  for (const r of mends.flatMap((m) => m.remedies)) {
    const of = byStep.get(r.step);
    if (of) of.push(r);
    else byStep.set(r.step, [r]);
  }
  const commands = document.steps.flatMap((step): PartCommand[] => {
    if (byStep.get(step.id)?.some((r) => r.do === "remove")) return [{ do: "remove", step: step.id }];
    const values = changesOf(step, byStep.get(step.id) ?? []);
    return values ? [{ do: "set", step: step.id, values } as PartCommand] : [];
  });
  if (commands.length === 0) return undefined;
  return commands.length === 1 ? commands[0] : { do: "several", commands };
}
