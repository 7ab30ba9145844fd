import { type PartDocument, readDocument, sameValue } from "@hillcrest/core";
import { type Draft, draftKey, keepDraft } from "./drafts.ts";

/** What was typed but had not reached the server, which has `kept` as a revision, when the window last closed. */
export function readDraft(id: string, kept: PartDocument, revision?: number): Draft | undefined {
  try {
    const text = localStorage.getItem(draftKey(id));
    const draft = text ? (JSON.parse(text) as Draft) : undefined;
    if (!draft) return undefined;
    if (JSON.stringify(draft.document) !== JSON.stringify(kept)) {
      const wentOn = revision !== undefined && draft.sending && sameValue(draft.sending, kept);
      return upToDate(wentOn ? { ...draft, revision } : draft);
    }
    // It did arrive, as the window closed: later it would look like another's work.
    keepDraft(id, undefined);
    return undefined;
  } catch {
    return undefined;
  }
}

/** A draft may be older than this Hillcrest: it is brought to the version that is worked on now, as the server does. */
function upToDate(draft: Draft): Draft {
  const read = readDocument(draft.document);
  return read.ok ? { ...draft, document: read.value } : draft;
}
