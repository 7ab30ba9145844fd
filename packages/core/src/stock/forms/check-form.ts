import type { Plain, Say } from "../../fields/checking.ts";
import { outlineProblems } from "../../outline/read-outline.ts";
import { FORM_FIELDS, FORM_VERSION, type FormItem } from "./form-item.ts";
import { resolveForm } from "./resolve-form.ts";

/** A thickness at which a form is tried that says no part's. */
const TRIED = 1.5;

const VALUE_NAME = /^[A-Za-z][A-Za-z0-9]{0,15}$/;

/** Everything that is wrong with a form whose fields are of their kinds, each with its place. */
export function checkForm(value: Plain, path: string, say: Say): void {
  const { version } = value;
  if (version !== undefined && version !== FORM_VERSION) {
    const later = Number.isInteger(version) && (version as number) > FORM_VERSION;
    return void say(
      `${path}/version`,
      later
        ? `This form was written by a later Hillcrest (version ${version}; this one reads ${FORM_VERSION}).`
        : `"version" must be ${FORM_VERSION}.`,
    );
  }
  const item = value as unknown as FormItem;
  const seen = new Set<string>();
  for (const [i, { name }] of item.values.entries()) {
    const at = `${path}/values/${i}/name`;
    if (!VALUE_NAME.test(name) || name === "t")
      say(
        at,
        `Value ${i + 1}: a name is a letter and up to 15 more letters or digits, and not t, which is the thickness.`,
      );
    else if (seen.has(name)) say(at, `Value ${i + 1}: the name ${name} is used twice.`);
    seen.add(name);
  }
  const problems = item.drawn === undefined ? [] : outlineProblems(item.drawn, `${path}/drawn`);
  for (const p of problems) say(p.path, p.message);
  if (problems.length > 0) return;
  const tried = resolveForm(item, () => undefined, TRIED);
  if (!tried.ok) say(`${path}/${tried.error.at}`, `${said(tried.error.at)}${tried.error.message}`);
}

/** Where in a form something is, in words. */
function said(at: string): string {
  const [key, row, column] = at.split("/");
  const field = FORM_FIELDS.find((f) => f.key === key);
  if (field?.kind !== "rows" || row === undefined) return "";
  const label = field.columns.find((c) => c.key === column)?.label.toLowerCase();
  return key === "values"
    ? ""
    : `${field.label}, ${field.noun} ${Number(row) + 1}${label ? `, ${label}` : ""}: `;
}
