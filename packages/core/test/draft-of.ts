import type { PartDocument } from "../src/index.ts";
import { StepRunner } from "../src/part/run-steps.ts";
import { SolvedOutlines } from "../src/part/solved-outlines.ts";
import { evaluateStock } from "../src/part/stock.ts";
import type { SheetDraft } from "../src/sheet/draft.ts";

/** The sheet as the steps leave it, before it is finished: with where each bend stands on its edge. */
export function draftOf(document: PartDocument): SheetDraft | undefined {
  const { stock } = evaluateStock(document.stock);
  if (!stock) return undefined;
  const lengths: Readonly<Record<string, number>> = { t: stock.thickness, r: stock.radius };
  const names = (name: string) =>
    Object.hasOwn(lengths, name)
      ? { ok: true as const, value: { value: lengths[name], dimension: "length" as const } }
      : undefined;
  return new StepRunner().run(document, {
    stock,
    names,
    outlines: new SolvedOutlines().of(document, names, ""),
    known: ["t", "r"],
    text: "",
  }).draft;
}
