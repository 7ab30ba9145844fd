/** Something wrong in a document, with the place as a JSON pointer: `/steps/3/length`. */
export interface DocumentProblem {
  readonly path: string;
  readonly message: string;
}

export type Plain = Readonly<Record<string, unknown>>;
export type Say = (path: string, message: string) => void;
export type Schema = Record<string, unknown>;

export const isPlain = (value: unknown): value is Plain =>
  typeof value === "object" && value !== null && !Array.isArray(value);
export const isNumber = (value: unknown): value is number =>
  typeof value === "number" && Number.isFinite(value);

/** The key of a row or of a pick. */
export const KEY = /^[A-Za-z0-9_-]{1,20}$/;
export const KEY_SCHEMA: Schema = { type: "string", pattern: KEY.source };

/** The id of an item of the stock library. */
export const ITEM_ID = /^[A-Za-z0-9][A-Za-z0-9_-]{0,63}$/;
export const ITEM_ID_SCHEMA: Schema = { type: "string", pattern: ITEM_ID.source };

const LONGEST_EXPRESSION = 400;

/** Where values stand, on which hangs what becomes of those that are missing. */
export interface Where {
  /** Whether what is missing stands at its default, as in a step; an item of the stock has to say all. */
  readonly sparse: boolean;
  /** Whether these are the values of a row: there, what has no default must be given. */
  readonly row: boolean;
}

/** Whether a value must be given that has a default: by an item of the stock, unless it may say nothing. */
export const neededInWhole = (field: { readonly optional?: boolean }, { sparse }: Where): boolean =>
  !sparse && !field.optional;

/** A value that is to be evaluated: a number, or an expression as text. */
export function checkTyped(value: unknown, at: string, say: Say): void {
  const fits = isNumber(value) || (typeof value === "string" && value.length <= LONGEST_EXPRESSION);
  if (!fits) say(at, "This must be a number, or an expression as a text.");
}

/** A list of at most so many entries. */
export function checkList(
  value: unknown,
  at: string,
  most: number,
  say: Say,
  check: (entry: unknown, at: string) => void,
): void {
  if (!Array.isArray(value)) return void say(at, "This must be a list.");
  if (value.length > most) return void say(at, `There can be at most ${most}; here are ${value.length}.`);
  for (const [i, entry] of value.entries()) check(entry, `${at}/${i}`);
}

/** A list of objects that each carry a key of their own. */
export function checkEntries(
  value: unknown,
  at: string,
  most: number,
  say: Say,
  check: (entry: Plain, at: string) => void,
): void {
  const keys = new Set<string>();
  checkList(value, at, most, say, (entry, place) => {
    if (!isPlain(entry)) return say(place, "This must be an object.");
    const { key } = entry;
    if (typeof key !== "string" || !KEY.test(key))
      say(`${place}/key`, `"key" must be 1 to 20 letters, digits, - or _.`);
    else if (keys.has(key)) say(`${place}/key`, `The key "${key}" is used twice.`);
    else keys.add(key);
    check(entry, place);
  });
}
