/** What can be taken back and done again: commands that do so, the last ones first to be used. */
export interface Trail<C> {
  /** Each takes one step back; the last one first. */
  readonly past: readonly C[];
  /** Each goes one step on again; the first one first. */
  readonly future: readonly C[];
  /** Quick edits of one value under the same mark are one step. */
  readonly mark?: string;
}

const DEEPEST = 500;

export const emptyTrail: Trail<never> = { past: [], future: [] };

/** Whether an edit goes into the step of the one before it. */
export const joins = (trail: Trail<unknown>, mark: string | undefined): boolean =>
  mark !== undefined && mark === trail.mark && trail.past.length > 0;

/** An edit was done. `undo` takes it back; of one that joins, it takes the whole step back. */
export const noted = <C>(trail: Trail<C>, undo: C, mark?: string): Trail<C> => ({
  past: [...(joins(trail, mark) ? trail.past.slice(0, -1) : trail.past), undo].slice(-DEEPEST),
  future: [],
  mark,
});

/** The last step was taken back; `redo` does it again. */
export const steppedBack = <C>({ past, future }: Trail<C>, redo: C): Trail<C> => ({
  past: past.slice(0, -1),
  future: [redo, ...future],
});

/** The next step was done again; `undo` takes it back. */
export const steppedOn = <C>({ past, future }: Trail<C>, undo: C): Trail<C> => ({
  past: [...past, undo],
  future: future.slice(1),
});
