import { isPlain, type Plain, type Schema } from "../fields/checking.ts";
import type { FieldSpec } from "../fields/field.ts";
import { type IdleValue, unknownKeys, unknownValues, unusedValues } from "../fields/unknown-values.ts";
import { Kept } from "../kept.ts";
import { Once } from "../once.ts";
import type { Finding } from "../steps/finding.ts";
import { stepKind } from "../steps/registry.ts";
import { fieldsOf } from "../steps/step-kind.ts";
import { sameValue } from "../values.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { documentSchema } from "./schema.ts";
import { STOCK_FIELDS } from "./stock.ts";

/** Something that is kept in a part and changes nothing: said with the answer to a save, and as a note. */
export interface ValueNote {
  /** The place as a JSON pointer: `/steps/3/lenght`. */
  readonly path: string;
  readonly message: string;
  /** The step that it stands in. */
  readonly step?: string;
}

/** The rule by which a value that nothing knows is noted. */
export const UNKNOWN_VALUE = "unknown-value";

const OF_ANY_STEP = ["id", "kind", "name", "paused"];
const OF_ANY_STOCK = ["card", "libraryMaterial"];
/** So many names are said that could have been meant. */
const MOST_SAID = 12;

/** What is unknown, as a sentence. `what`: what it would be a value of, with its article. */
const sayUnknown = ({ key, near, known = [] }: IdleValue, what: string): string => {
  const name = `"${key.slice(0, 40)}" is not a value of ${what}`;
  if (near) return `${name}; did you mean "${near}"?`;
  const said = known.slice(0, MOST_SAID).join(", ");
  return `${name}; it takes ${said}${known.length > MOST_SAID ? " and others" : ""}.`;
};

const sayUnused = ({ key }: IdleValue): string =>
  `"${key}" is kept; with the choices made beside it, it is not used.`;

const article = (noun: string) => `${/^[aeiou]/i.test(noun) ? "an" : "a"} ${noun}`;
const whatStep = (step: { readonly kind: string }) => {
  const title = stepKind(step.kind)?.title ?? step.kind;
  return `${article(title.toLowerCase())} step`;
};

/** The fields of a step; nothing of a kind that is not known. */
function stepFields(step: Plain): readonly FieldSpec[] | undefined {
  const kind = typeof step.kind === "string" ? stepKind(step.kind) : undefined;
  return kind && fieldsOf(kind, step);
}

const unknownOfStep = new Kept((step: StepDocument): readonly IdleValue[] => {
  const fields = stepFields(step);
  return fields ? unknownValues(fields, step, "", OF_ANY_STEP) : [];
});

const unknownOfStock = new Kept((stock: Plain) => unknownValues(STOCK_FIELDS, stock, "", OF_ANY_STOCK));

/** What a part says besides its steps and its stock, as its format describes it. */
const ofPart = new Once((): Readonly<Record<string, Schema>> => {
  const all = Object.entries(documentSchema().properties as Record<string, Schema>);
  return Object.fromEntries(all.filter(([key]) => !TOP.includes(key)));
});

/** Walks what a schema describes: keys of objects whose properties it names. */
function unknownBySchema(schema: Schema, value: unknown, path: string): IdleValue[] {
  if (Array.isArray(value)) {
    const { items } = schema as { readonly items?: Schema };
    return items ? value.flatMap((entry, i) => unknownBySchema(items, entry, `${path}/${i}`)) : [];
  }
  const { properties } = schema as { readonly properties?: Readonly<Record<string, Schema>> };
  if (!isPlain(value) || !properties) return [];
  const inner = Object.entries(value).flatMap(([key, one]) =>
    Object.hasOwn(properties, key) ? unknownBySchema(properties[key], one, `${path}/${key}`) : [],
  );
  return [...unknownKeys(value, Object.keys(properties), path), ...inner];
}

/** Keys of a part that are looked at by themselves, or of which there is nothing to choose. */
const TOP = ["stock", "steps", "format", "version"];
function unknownOfPart(values: Plain): IdleValue[] {
  const properties = ofPart.value;
  const named = Object.fromEntries(Object.entries(values).filter(([key]) => !TOP.includes(key)));
  return unknownBySchema({ properties }, named, "");
}

const under = (values: readonly IdleValue[], path: string, what: string): ValueNote[] =>
  values.map((v) => ({ path: `${path}${v.path}`, message: sayUnknown(v, what) }));

/** So many notes are told of a part: whoever reads them mends one after another. */
const MOST_NOTES = 50;

/** Values of a part that nothing knows, such as a misspelt name; the first of them. They are kept. */
export function unknownInPart(document: PartDocument): ValueNote[] {
  const notes = [
    ...under(unknownOfPart(document as unknown as Plain), "", "a part"),
    ...under(unknownOfStock.of(document.stock), "/stock", "the stock"),
  ];
  for (const [i, step] of document.steps.entries()) {
    if (notes.length >= MOST_NOTES) break;
    const found = unknownOfStep.of(step);
    // Asked of thousands of steps at every build, of which nearly all hold nothing.
    if (found.length === 0) continue;
    const { id } = step;
    notes.push(...under(found, `/steps/${i}`, whatStep(step)).map((note) => ({ ...note, step: id })));
  }
  return notes.slice(0, MOST_NOTES);
}

/** A place that stays the same when steps before it come or go. */
const placeOf = ({ path, step = "" }: ValueNote) => `${step} ${path.replace(/^\/steps\/\d+/, "")}`;

/** The first of the values that a command sets which nothing knows, as a sentence; nothing where all are known. */
export function unknownInValues(
  of: { readonly step: StepDocument } | "stock" | "part",
  values: Plain,
): string | undefined {
  const given = Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null));
  if (of === "part") return unknownOfPart(given).map((v) => sayUnknown(v, "a part"))[0];
  if (of === "stock")
    return unknownValues(STOCK_FIELDS, given, "", OF_ANY_STOCK).map((v) => sayUnknown(v, "the stock"))[0];
  const fields = stepFields({ ...of.step, ...given });
  return (
    fields && unknownValues(fields, given, "", OF_ANY_STEP).map((v) => sayUnknown(v, whatStep(of.step)))[0]
  );
}

/**
 * What a change has brought into a part that does nothing there: names that nothing knows, taken over with what holds
 * them, and values that the choices beside them do not use.
 */
export function notesOfChange(before: PartDocument | undefined, after: PartDocument): ValueNote[] {
  const earlier = new Map(before?.steps.map((s) => [s.id, s]));
  const wereThere = new Set(before ? unknownInPart(before).map(placeOf) : []);
  const unknown = unknownInPart(after).filter((n) => !wereThere.has(placeOf(n)));
  const unused = after.steps.flatMap((step, i) => {
    const was = earlier.get(step.id);
    const fields = step === was ? undefined : stepFields(step);
    if (!fields) return [];
    return unusedValues(fields, step, `/steps/${i}`)
      .filter(({ path }) => {
        const [, , , key] = path.split("/");
        return !(was && sameValue(was[key], step[key]));
      })
      .map((v) => ({ path: v.path, message: sayUnused(v), step: step.id }));
  });
  return [...unknown, ...unused].slice(0, MOST_NOTES);
}

/** Values that nothing knows, as findings on their steps. */
export const unknownFindings = (document: PartDocument): Finding[] =>
  unknownInPart(document).map(({ message, step }) => ({
    level: "note",
    rule: UNKNOWN_VALUE,
    message: `${message} It is kept and does nothing.`,
    ...(step === undefined ? {} : { step }),
  }));
