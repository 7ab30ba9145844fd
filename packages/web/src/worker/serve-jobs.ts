import type { JobMessage, JobRequest, SayProgress } from "@hillcrest/core";

/** What a job is given besides its input. */
export interface JobContext {
  /** Says how far it is. It may be said at every turn: what is said too soon after the last is not passed on. */
  readonly progress: SayProgress;
}

/** What a job makes, with the buffers in it that are handed over instead of copied. */
export interface Made {
  readonly result: unknown;
  readonly handOver?: readonly ArrayBuffer[];
}

/** A kind of job as it is done here. What it throws is its failure. */
export type Work = (input: never, context: JobContext) => Made | Promise<Made>;

/** Nobody reads faster, ms. */
const SAID_EVERY = 100;

function seldom(say: SayProgress): SayProgress {
  let last = performance.now();
  return (share, doing) => {
    const now = performance.now();
    if (now - last < SAID_EVERY) return;
    last = now;
    say(share, doing);
  };
}

/** Does jobs in a worker, one after another, in the order in which they are asked for. */
export function serveJobs(kinds: Readonly<Record<string, Work>>): void {
  let turn: Promise<void> = Promise.resolve();
  const say = (message: JobMessage, handOver: readonly ArrayBuffer[] = []) =>
    (self as unknown as Worker).postMessage(message, [...handOver]);
  const perform = async ({ id, kind, input }: JobRequest) => {
    try {
      const work = kinds[kind];
      if (!work) throw new Error(`There is no job of the kind "${kind}" here.`);
      const made = await work(input as never, {
        progress: seldom((progress, doing) => say({ id, progress, doing })),
      });
      say({ id, result: made.result }, made.handOver);
    } catch (error) {
      say({ id, failure: error instanceof Error ? error.message : String(error) });
    }
  };
  self.addEventListener("message", ({ data }: MessageEvent<JobRequest>) => {
    say({ id: data.id, begun: true });
    turn = turn.then(() => perform(data));
  });
}
