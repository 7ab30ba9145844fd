import { type ParseError, parse } from "jsonc-parser";
import { fail, ok, type Result } from "./result.ts";

/** No document of ours nests deeper. */
const DEEPEST = 64;

/** Parses JSON; a syntax error names its line and column. `what` says what the text should be. */
export function parseJson(text: string, what: string): Result<unknown> {
  const deep = tooDeep(text);
  if (deep !== undefined) return fail(`${placeOf(text, deep)}: it nests deeper than ${DEEPEST} levels.`);
  try {
    return ok(JSON.parse(text.replace(/^\uFEFF/, "")));
  } catch {
    return fail(syntaxMessage(text, what));
  }
}

const [QUOTE, BACKSLASH] = [0x22, 0x5c];
const OPENING = new Set([0x5b, 0x7b]);
const CLOSING = new Set([0x5d, 0x7d]);

/** Where a text opens one bracket too many within others; what is in quotes is none. Deeper, parsers run out of stack. */
function tooDeep(text: string): number | undefined {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (quoted) {
      if (c === BACKSLASH) i++;
      else if (c === QUOTE) quoted = false;
    } else if (c === QUOTE) quoted = true;
    else if (OPENING.has(c)) {
      if (++depth > DEEPEST) return i;
    } else if (CLOSING.has(c)) depth--;
  }
  return undefined;
}

function placeOf(text: string, at: number): string {
  const before = text.slice(0, at);
  return `Line ${before.split("\n").length}, column ${at - before.lastIndexOf("\n")}`;
}

/** Where a text stops being JSON. The engine's own message does not always say, so a parser that does is asked. */
function syntaxMessage(text: string, what: string): string {
  if (text.trim() === "") return `The file is empty; ${what} is JSON.`;
  const errors: ParseError[] = [];
  parse(text, errors, { disallowComments: true });
  const end = text.trimEnd().length;
  const ended = !errors[0] || errors[0].offset + errors[0].length >= end;
  const at = ended ? end : errors[0].offset;
  const wrong = ended ? "the file ends in the middle: part of it is missing" : "this is not valid JSON";
  return `${placeOf(text, at)}: ${wrong}.`;
}
