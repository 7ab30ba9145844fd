import type { PartDocument } from "@hillcrest/core";

export const draftKey = (id: string) => `hillcrest:unsaved:${id}`;

/** A part as it was typed and has not reached the server, of which revision it is a change. */
export interface Draft {
  readonly revision: number;
  readonly document: PartDocument;
  /** What was on its way to the server while this was done: when that has come in, this goes on from it. */
  readonly sending?: PartDocument;
}

/** Keeps what is not saved yet in the browser; nothing once the server has it. */
export function keepDraft(id: string, draft: Draft | undefined): void {
  try {
    if (draft) localStorage.setItem(draftKey(id), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(id));
  } catch {
    // A full or forbidden storage only loses the second line of defence; the server is the first.
  }
}
