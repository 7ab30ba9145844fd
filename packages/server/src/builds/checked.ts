import type { Finding, PartDocument } from "@hillcrest/core";

/** A document, and what an earlier search for collisions found in it. */
export interface ToCheck {
  readonly document: PartDocument;
  readonly known?: readonly Finding[];
}

/** What was made of a part, with what the search for collisions found in it. */
export interface Checked<T> {
  readonly made: T;
  readonly collisions: readonly Finding[];
}
