/** What a pattern of file names may hold, each in braces. */
export const NAME_WORDS = ["part", "material", "thickness", "quantity", "piece", "number"] as const;
export type NameWord = (typeof NAME_WORDS)[number];

export const DEFAULT_PATTERN = "{part}_{material}_{thickness}_{quantity}";

/** What is wrong with a pattern, and what would do; nothing when it is fine. */
export function patternProblem(pattern: string): string | undefined {
  if (pattern.trim() === "") return `A pattern needs at least one word, such as ${DEFAULT_PATTERN}.`;
  const unknown = [...pattern.matchAll(/\{([^}]*)\}/g)].find(
    ([, word]) => !NAME_WORDS.includes(word as NameWord),
  );
  if (unknown)
    return `There is no ${unknown[0].slice(0, 40)}; there are ${NAME_WORDS.map((w) => `{${w}}`).join(", ")}.`;
  return /[{}]/.test(pattern.replace(/\{[^{}]*\}/g, "")) ? "A brace stands alone in the pattern." : undefined;
}

/** Letters, digits, spaces, dots and dashes; names that some systems reserve get an underscore in front. */
export function safeName(text: string): string {
  const name = text
    .replace(/[^\p{L}\p{N} ._-]+/gu, "_")
    .replace(/^[ .]+|[ .]+$/g, "")
    .slice(0, 100);
  // What stands before the first dot counts: `aux.txt` is the device too.
  return /^(con|prn|aux|nul|com\d|lpt\d|conin\$|conout\$|clock\$)\s*(\.|$)/i.test(name)
    ? `_${name}`
    : name || "part";
}

/** A file's name by a pattern, without its ending. */
export const nameBy = (pattern: string, values: Readonly<Record<NameWord, string>>): string =>
  safeName(pattern.replace(/\{(\w+)\}/g, (_, word: NameWord) => safeName(values[word] || "-")));

/** Names that differ, whatever the case of their letters: those that would not get a number. */
export function distinctNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  const next = new Map<string, number>();
  return names.map((name) => {
    const key = name.toLowerCase();
    let own = name;
    let k = next.get(key) ?? 2;
    while (taken.has(own.toLowerCase())) own = `${name}-${k++}`;
    next.set(key, k);
    taken.add(own.toLowerCase());
    return own;
  });
}
