import { LONGEST_NAME, type PartDocument } from "./document.ts";

/** That a part begins with the steps of another one, and takes over what changes there. */
export interface Follows {
  /** The other part's address, and its name when it was last looked at. */
  readonly part: string;
  readonly name: string;
  /** The revision that its steps were taken from. */
  readonly revision: number;
  /** How many of this part's steps are the other's. */
  readonly steps: number;
}

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
  const { variables: _gone, ...rest } = document;
  return {
    ...rest,
    stock: source.stock,
    steps: [...source.steps, ...document.steps.slice(follows.steps)],
    ...(variables.length > 0 ? { variables } : {}),
    follows: { ...follows, name: source.name, revision, steps: source.steps.length },
  };
}

/** Lets a part go its own way from here: the steps it took over become its own. */
export function unfollowed(document: PartDocument): PartDocument {
  const { follows: _follows, ...rest } = document;
  return rest;
}
