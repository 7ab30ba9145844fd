import { sameValue } from "../../values.ts";
import type { PartCommand } from "./command.ts";

/** Commands of which a later one takes the place of the one before: both change the same values. */
function supersedes(next: PartCommand, last: PartCommand): boolean {
  if (next.do === "set" && last.do === "set")
    return next.step === last.step && sameKeys(next.values, last.values);
  return (
    (next.do === "stock" && last.do === "stock" && sameKeys(next.values, last.values)) ||
    (next.do === "part" && last.do === "part" && sameKeys(next.values, last.values))
  );
}

const sameKeys = (a: object, b: object): boolean => sameValue(Object.keys(a).sort(), Object.keys(b).sort());

/** A command at the end of others. What a value was on its way, while it was typed, is left out. */
export function withCommand(commands: readonly PartCommand[], next: PartCommand): readonly PartCommand[] {
  if (next.do === "replace") return [next];
  const last = commands.at(-1);
  return last && supersedes(next, last) ? [...commands.slice(0, -1), next] : [...commands, next];
}
