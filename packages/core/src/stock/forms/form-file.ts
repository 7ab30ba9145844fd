import { type DocumentProblem, isPlain } from "../../fields/checking.ts";
import { parseJson } from "../../json-text.ts";
import { openChain } from "../../outline/open-chain.ts";
import type { Outline } from "../../outline/outline.ts";
import { solveOutline } from "../../outline/solve.ts";
import { flattenCurve } from "../../plane/curve.ts";
import { samePoint } from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { formatShort } from "../../units/quantity.ts";
import { itemProblems } from "../read-item.ts";
import { FORM_VERSION, type FormItem, type FormSectionRow, MOST_SECTION } from "./form-item.ts";

const FORM_FORMAT = "hillcrest-form";

/** A form as a document of its own, to be given to others. */
export const formDocument = ({ id: _id, version: _version, ...form }: FormItem) => ({
  format: FORM_FORMAT,
  version: FORM_VERSION,
  form,
});

/** Reads a form that somebody gave; what is wrong with it is told by its place. */
export function readFormText(text: string): Result<Omit<FormItem, "id">, DocumentProblem[]> {
  const value = parseJson(text, "a form");
  if (!value.ok) return fail([{ path: "", message: value.error }]);
  const found = value.value;
  if (!isPlain(found) || found.format !== FORM_FORMAT)
    return fail([
      { path: "/format", message: `"format" must be "${FORM_FORMAT}"; this is another kind of file.` },
    ]);
  if (!isPlain(found.form)) return fail([{ path: "/form", message: `"form" must be an object.` }]);
  const problems = itemProblems(
    "forms",
    { note: "", ...found.form, version: found.version, id: "read" },
    "/form",
  );
  return problems.length > 0 ? fail(problems) : ok({ note: "", ...found.form } as unknown as FormItem);
}

/** How far a section of points may be off an arc that was drawn, mm. */
const CHORD = 0.02;

/**
 * The rows of a section that is drawn as one chain: its first end is the border, X goes inward and Y up. Arcs come as
 * points along them.
 */
export function drawnSection(outline: Outline): Result<readonly FormSectionRow[]> {
  const chain = openChain(outline, solveOutline(outline));
  if (!chain.ok) return chain;
  const curves = chain.value;
  const end = curves[curves.length - 1].b;
  const points = [...curves.flatMap((c) => flattenCurve(c, CHORD)), end].filter(
    (p, i, all) => i === 0 || !samePoint(p, all[i - 1], 1e-6),
  );
  // It may have been drawn from either end: the border is the outer one.
  const inward = points[0].x <= end.x ? points : [...points].reverse();
  if (inward.length > MOST_SECTION)
    return fail(
      `The section would have ${inward.length} corners; it can have at most ${MOST_SECTION}. Draw it with fewer arcs.`,
    );
  const [from] = inward;
  const number = (v: number) => formatShort(v, 6);
  return ok(inward.map((p) => ({ inward: number(p.x - from.x), up: number(p.y - from.y), round: "0" })));
}
