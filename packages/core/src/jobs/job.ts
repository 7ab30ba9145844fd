/**
 * Work that takes time, in a browser's worker or on a server's thread: asked for by one record, answered by
 * any number of progress reports and then by exactly one outcome.
 */
export interface JobRequest {
  readonly id: number;
  readonly kind: string;
  /** The part that it is about. Of several waiting builds of one part only the newest is done. */
  readonly part?: string;
  readonly input: unknown;
}

/** Says how far work is, from 0 to 1, and what is being done: "Step 12 of 300". */
export type SayProgress = (share: number, doing: string) => void;

/** What comes back from where the work is done. */
export type JobMessage =
  /** It has arrived where it is done: a place that says nothing when it is asked is there no more. */
  | { readonly id: number; readonly begun: true }
  | { readonly id: number; readonly progress: number; readonly doing?: string }
  | { readonly id: number; readonly result: unknown }
  | { readonly id: number; readonly failure: string };

/** Why a job has no result although nothing went wrong in it. */
export type CancelReason =
  /** A newer one of its kind and part took its place. */
  | "superseded"
  /** Whoever asked for it no longer wants it. */
  | "aborted"
  /** The place where it was done closes. */
  | "closed";

/** How a job ended. `limit` is one that took longer, or more memory, than it may. */
export type JobOutcome<T> =
  | { readonly kind: "result"; readonly value: T }
  | { readonly kind: "failure"; readonly message: string }
  | { readonly kind: "limit"; readonly message: string }
  | { readonly kind: "cancelled"; readonly because: CancelReason };

/** What a job may take. */
export interface JobLimits {
  /** No longer than this (ms) while it is being done; waiting for its turn does not count. */
  readonly time: number;
  readonly signal?: AbortSignal;
}

/** The sentence for a job that was ended because of its time. */
export const tooLong = (ms: number): string => `It takes longer than ${ms / 1000} s to build.`;
