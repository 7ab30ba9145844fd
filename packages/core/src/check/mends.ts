import type { PartCommand } from "../part/commands/command.ts";
import type { PartDocument, StepDocument } from "../part/document.ts";
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

/** What a remedy makes of a step's values; nothing where the step is not as it was. */
function changedBy(step: StepDocument, remedy: Remedy): Record<string, unknown> | undefined {
  switch (remedy.do) {
    case "set":
      return { ...remedy.values };
    case "longer": {
      const raw = step[remedy.field];
      return raw === undefined ? undefined : { [remedy.field]: plus(raw, upTo(remedy.by)) };
    }
    case "move": {
      const rows: readonly unknown[] = Array.isArray(step.holes) ? step.holes : [];
      if (!rows.some((r) => isRow(r) && r.key === remedy.hole)) return undefined;
      const holes = rows.map((r) => {
        if (!isRow(r) || r.key !== remedy.hole) return r;
        const moved = (axis: "x" | "y") =>
          Math.abs(remedy.by[axis]) < 1e-9 ? r[axis] : plus(r[axis] ?? 0, upTo(remedy.by[axis]));
        return { ...r, x: moved("x"), y: moved("y") };
      });
      return { holes };
    }
  }
}

/**
 * The command that mends what is chosen, as one edit; nothing where no step is as it was. Of several remedies for one
 * length the longest is taken.
 */
export function mendCommand(document: PartDocument, mends: readonly Mend[]): PartCommand | undefined {
  const steps = new Map(document.steps.map((s) => [s.id, s]));
  const longest = new Map<string, number>();
  const keyOf = (r: Extract<Remedy, { do: "longer" }>) => `${r.step} ${r.field}`;
  const remedies = mends.flatMap((m) => m.remedies);
  for (const r of remedies)
    if (r.do === "longer") longest.set(keyOf(r), Math.max(r.by, longest.get(keyOf(r)) ?? 0));
  const values = new Map<string, Record<string, unknown>>();
  for (const r of remedies) {
    const step = steps.get(r.step);
    if (!step) continue;
    const before = values.get(r.step) ?? {};
    if (r.do === "longer" && Object.hasOwn(before, r.field)) continue;
    const whole = r.do === "longer" ? { ...r, by: longest.get(keyOf(r))! } : r;
    const change = changedBy(r.do === "move" ? ({ ...step, ...before } as StepDocument) : step, whole);
    if (change) values.set(r.step, { ...before, ...change });
  }
  const commands = [...values].map(
    ([step, changed]): PartCommand => ({ do: "set", step, values: changed }) as PartCommand,
  );
  if (commands.length === 0) return undefined;
  return commands.length === 1 ? commands[0] : { do: "several", commands };
}
