import type { JobMessage, JobRequest } from "@hillcrest/core";

/** What a job is given besides its input. */
export interface JobContext {
  /** Says how far it is, from 0 to 1. */
  readonly progress: (share: number) => void;
}

/** What a job makes, with the buffers in it that are handed over instead of copied. */
export interface Made {
  readonly result: unknown;
  readonly handOver?: readonly ArrayBuffer[];
}

/** A kind of job as it is done here. What it throws is its failure. */
export type Work = (input: never, context: JobContext) => Made | Promise<Made>;

/** Does jobs in a worker, one after another, in the order in which they are asked for. */
export function serveJobs(kinds: Readonly<Record<string, Work>>): void {
  let turn: Promise<void> = Promise.resolve();
  const say = (message: JobMessage, handOver: readonly ArrayBuffer[] = []) =>
    (self as unknown as Worker).postMessage(message, [...handOver]);
  const perform = async ({ id, kind, input }: JobRequest) => {
    try {
      const work = kinds[kind];
      if (!work) throw new Error(`There is no job of the kind "${kind}" here.`);
      const made = await work(input as never, { progress: (progress) => say({ id, progress }) });
      say({ id, result: made.result }, made.handOver);
    } catch (error) {
      say({ id, failure: error instanceof Error ? error.message : String(error) });
    }
  };
  self.addEventListener("message", ({ data }: MessageEvent<JobRequest>) => {
    turn = turn.then(() => perform(data));
  });
}
