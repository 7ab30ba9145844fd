import { LONGEST_NAME, type PartDocument, type PartOutline, type StepDocument } from "./document.ts";

/** A part made from another that follows it: the same steps and stock, and room for steps of its own. */
export function followingCopy(
  source: PartDocument,
  at: { readonly part: string; readonly revision: number },
): PartDocument {
  const name = `${source.name.slice(0, LONGEST_NAME - 15)} (follows)`;
  const { builtTo: _builtTo, follows: _follows, ...rest } = source;
  return { ...rest, name, follows: { ...at, name: source.name, steps: source.steps.length } };
}

/** Whether a step is one that follows another part. */
export const isFollowed = (document: PartDocument, index: number): boolean =>
  index >= 0 && index < (document.follows?.steps ?? 0);

/** A following part with the other's steps, stock and values as they are now; its own steps stay. */
export function broughtUpToDate(
  document: PartDocument,
  source: PartDocument,
  revision: number,
): PartDocument {
  const { follows } = document;
  if (!follows) return document;
  const names = new Set((source.variables ?? []).map((v) => v.name));
  const own = (document.variables ?? []).filter((v) => !names.has(v.name));
  const keys = new Set(own.map((v) => v.key));
  const theirs = (source.variables ?? []).map((v) => (keys.has(v.key) ? { ...v, key: `${v.key}f` } : v));
  const variables = [...theirs, ...own];
  const { variables: _gone, outlines: _drawn, ...rest } = document;
  const { outlines, steps } = outlinesOfBoth(document, source, document.steps.slice(follows.steps));
  return {
    ...rest,
    stock: source.stock,
    steps: [...source.steps, ...steps],
    ...(variables.length > 0 ? { variables } : {}),
    ...(outlines.length > 0 ? { outlines } : {}),
    follows: { ...follows, name: source.name, revision, steps: source.steps.length },
  };
}

/**
 * The other's outlines, and those that are the part's own. One of its own under a key that the other has come to use too
 * gets another, and its own steps name it by that.
 */
function outlinesOfBoth(
  { outlines = [] }: PartDocument,
  source: PartDocument,
  ownSteps: readonly StepDocument[],
): { outlines: readonly PartOutline[]; steps: readonly StepDocument[] } {
  const theirs = source.outlines ?? [];
  const taken = new Map(theirs.map((o) => [o.key, o]));
  const theirUse = new Set(source.steps.map((s) => s.drawn));
  const moved = new Map<string, string>();
  const own = outlines.flatMap((o): PartOutline[] => {
    const other = taken.get(o.key);
    if (!other) return [o];
    const used = ownSteps.some((s) => s.drawn === o.key) && !theirUse.has(o.key);
    if (!used || JSON.stringify(o) === JSON.stringify(other)) return [];
    moved.set(o.key, `${o.key}f`);
    return [{ ...o, key: `${o.key}f` }];
  });
  const steps = ownSteps.map((s) => {
    const key = typeof s.drawn === "string" ? moved.get(s.drawn) : undefined;
    return key === undefined ? s : { ...s, drawn: key };
  });
  return { outlines: [...theirs, ...own], steps };
}

/** Lets a part go its own way from here: the steps it took over become its own. */
export function unfollowed(document: PartDocument): PartDocument {
  const { follows: _follows, ...rest } = document;
  return rest;
}
