import type { BendShape } from "../../bend/allowance.ts";
import { sayLength } from "../../units/display.ts";
import { toDegrees } from "../../units/quantity.ts";
import type { PartBuild } from "../build.ts";
import type { PartDocument } from "../document.ts";
import { asked, n, stepLink, stepName, stockSource, type Why } from "./asked.ts";

const SETBACK_FORMULAS: Readonly<Record<string, string>> = {
  "outer-face": "tan(θ/2)·(r + t), and r + t from 180°",
  "inner-face": "tan(θ/2)·r, and r from 180°",
  outermost: "r + t from 90°, below it tan(θ/2)·(r + t)",
  "bend-from-edge": "0: the bend begins at the edge",
  offset: "as typed",
};
const LEG_FORMULAS: Readonly<Record<string, string>> = {
  "outer-mould": "L − tan(θ/2)·(r + t)",
  "inner-mould": "L − tan(θ/2)·r",
  tangent: "L",
  outermost: "L − (r + t) from 90°, below it L − tan(θ/2)·(r + t)",
  "overall-height": "(L − height of the bend) / sin θ",
};

/** Explains where a flange's bend begins behind its edge, or how long its leg is straight. */
export function whyFlange(
  document: PartDocument,
  build: PartBuild,
  step: string,
  numbers: { readonly shape: BendShape; readonly setback: number; readonly leg: number },
  of: "setback" | "leg",
): Why {
  const a = asked(document, build);
  const values = build.steps.find((s) => s.id === step)?.values;
  const { t, r, angle } = numbers.shape;
  const source = { source: stepName(a, step), link: stepLink(step) };
  const value = numbers[of];
  const formula =
    of === "setback"
      ? SETBACK_FORMULAS[values?.choices.place ?? ""]
      : LEG_FORMULAS[values?.choices.lengthTo ?? ""];
  const length = values?.quantities.length;
  return {
    title: of === "setback" ? "how far behind the edge the bend begins" : "the straight leg beyond the bend",
    result: sayLength(value, a.units),
    lines: [
      { text: `${of === "setback" ? "S" : "leg"} = ${formula ?? "as typed"}`, ...source },
      ...(of === "leg" && length !== undefined ? [{ text: `L = ${a.l(length)}`, ...source }] : []),
      { text: `θ = ${n(toDegrees(angle))}°, r = ${a.l(r)}`, ...source },
      { text: `t = ${a.l(t)}`, ...stockSource(a) },
      { text: `${of === "setback" ? "S" : "leg"} = ${a.l(value)}` },
    ],
  };
}
