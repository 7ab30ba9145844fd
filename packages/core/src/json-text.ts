import { type ParseError, parse } from "jsonc-parser";
import { fail, ok, type Result } from "./result.ts";

/** Parses JSON; a syntax error names its line and column. `what` says what the text should be. */
export function parseJson(text: string, what: string): Result<unknown> {
  try {
    return ok(JSON.parse(text.replace(/^\uFEFF/, "")));
  } catch {
    return fail(syntaxMessage(text, what));
  }
}

/** Where a text stops being JSON. The engine's own message does not always say, so a parser that does is asked. */
function syntaxMessage(text: string, what: string): string {
  if (text.trim() === "") return `The file is empty; ${what} is JSON.`;
  const errors: ParseError[] = [];
  parse(text, errors, { disallowComments: true });
  const end = text.trimEnd().length;
  const ended = !errors[0] || errors[0].offset + errors[0].length >= end;
  const at = ended ? end : errors[0].offset;
  const before = text.slice(0, at);
  const row = before.split("\n").length;
  const column = at - before.lastIndexOf("\n");
  const wrong = ended ? "the file ends in the middle: part of it is missing" : "this is not valid JSON";
  return `Line ${row}, column ${column}: ${wrong}.`;
}
