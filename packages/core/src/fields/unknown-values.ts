import { distance } from "fastest-levenshtein";
import { isPlain, type Plain } from "./checking.ts";
import type { FieldSpec } from "./field.ts";
import { choicesOf, objectsWithin } from "./field-kinds.ts";

/** A value that stands in a document and changes nothing, with its place as a JSON pointer. */
export interface IdleValue {
  readonly path: string;
  readonly key: string;
  /** The known name that was probably meant. */
  readonly near?: string;
  /** What could stand there instead, where nothing is near. */
  readonly known?: readonly string[];
}

/** A longer word is no misspelt name; to compare it with all names would take its time. */
const LONGEST_WORD = 60;
/** So many unknown keys of one record are told. */
const MOST_OF_ONE = 20;

/** The known name that is nearest to a word: at most a third of its letters are wrong, two of a short one. */
export function nearestName(word: string, known: readonly string[]): string | undefined {
  if (word.length > LONGEST_WORD) return undefined;
  const low = word.toLowerCase();
  const ranked = known
    .map((name) => ({ name, off: distance(low, name.toLowerCase()) }))
    .sort((a, b) => a.off - b.off);
  const [best] = ranked;
  return best && best.off <= Math.max(2, Math.floor(low.length / 3)) && best.off < low.length
    ? best.name
    : undefined;
}

/** The keys of a record that are none of the known ones, the first of them. */
export const unknownKeys = (record: Plain, known: readonly string[], path: string): IdleValue[] =>
  Object.keys(record)
    .filter((key) => !known.includes(key))
    .slice(0, MOST_OF_ONE)
    .map((key) => {
      const near = nearestName(key, known);
      return { path: `${path}/${key}`, key, ...(near ? { near } : { known }) };
    });

const keySets = new WeakMap<readonly FieldSpec[], ReadonlySet<string>>();

function keysOf(fields: readonly FieldSpec[]): ReadonlySet<string> {
  let keys = keySets.get(fields);
  if (!keys) {
    keys = new Set(fields.map((f) => f.key));
    keySets.set(fields, keys);
  }
  return keys;
}

/**
 * Values that no field knows, also those within rows and picks.
 *
 * @param also Keys that may stand beside the fields: `id`, `kind`.
 */
export function unknownValues(
  fields: readonly FieldSpec[],
  raw: Plain,
  path: string,
  also: readonly string[],
): IdleValue[] {
  const keys = keysOf(fields);
  const own = Object.keys(raw).every((key) => keys.has(key) || also.includes(key))
    ? []
    : unknownKeys(raw, [...keys, ...also], path);
  const inner = objectsWithin(fields, raw).flatMap((o) =>
    isPlain(o.values) ? unknownValues(o.fields, o.values, `${path}/${o.path}`, o.also) : [],
  );
  return own.length === 0 && inner.length === 0 ? [] : [...own, ...inner];
}

/** The keys of values that do not matter with the choices made beside them. */
function hiddenKeys(fields: readonly FieldSpec[], raw: Plain, given: Plain): string[] {
  const says = (value: unknown) =>
    value !== undefined && value !== "" && !(Array.isArray(value) && value.length === 0);
  const hiding = fields.filter((f) => f.shown && says(given[f.key]));
  if (hiding.length === 0) return [];
  const choices = choicesOf(fields, raw);
  return hiding.filter((f) => !f.shown!(choices)).map((f) => f.key);
}

/** Values of fields that do not matter with the choices made beside them, also within rows and picks. */
export function unusedValues(fields: readonly FieldSpec[], raw: Plain, path: string): IdleValue[] {
  const at = (place: string, keys: readonly string[]) =>
    keys.map((key) => ({ path: `${place}/${key}`, key }));
  const inner = objectsWithin(fields, raw).flatMap((o): IdleValue[] => {
    if (!isPlain(o.values)) return [];
    const place = `${path}/${o.path}`;
    // What a pick says otherwise hangs on the choices of the step.
    if (o.own) return at(place, hiddenKeys(fields, { ...raw, ...o.values }, o.values));
    return unusedValues(o.fields, o.values, place);
  });
  return [...at(path, hiddenKeys(fields, raw, raw)), ...inner];
}
