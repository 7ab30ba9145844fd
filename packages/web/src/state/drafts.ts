import type { PartDocument } from "@hillcrest/core";

export const draftKey = (id: string) => `hillcrest:unsaved:${id}`;

/** A part as it was typed and has not reached the server, of which revision it is a change. */
export interface Draft {
  readonly revision: number;
  readonly document: PartDocument;
  /** What was on its way to the server while this was done: when that has come in, this goes on from it. */
  readonly sending?: PartDocument;
}

/** Keeps what is not saved yet in the browser; nothing once the server has it. Whether it could: a storage may be full. */
export function keepDraft(id: string, draft: Draft | undefined): boolean {
  try {
    if (draft) localStorage.setItem(draftKey(id), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(id));
    return true;
  } catch {
    // An older draft of the part would say less than what is on the page, and takes the room that is missing.
    return draft === undefined || replaced(id, draft);
  }
}

function replaced(id: string, draft: Draft): boolean {
  const before = localStorageItem(id);
  try {
    localStorage.removeItem(draftKey(id));
    localStorage.setItem(draftKey(id), JSON.stringify(draft));
    return true;
  } catch {
    try {
      if (before !== null) localStorage.setItem(draftKey(id), before);
    } catch {
      // It had room before; where it has none now, the page still has what was typed, and says so.
    }
    return false;
  }
}

function localStorageItem(id: string): string | null {
  try {
    return localStorage.getItem(draftKey(id));
  } catch {
    return null;
  }
}
