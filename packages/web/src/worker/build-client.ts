import type { PartDocument } from "@hillcrest/core";
import { type Remote, wrap } from "comlink";
import type { BuildAnswer, BuildApi } from "./build-worker.ts";

/** No build may take longer (ms). One that a newer edit waits for is given up sooner. */
export const BUILD_LIMIT = 30_000;
const SUPERSEDED_LIMIT = 4000;

/** A build that was given up: it took too long, or a newer edit waits. */
export class BuildTooLong extends Error {}

interface Running {
  readonly worker: Worker;
  readonly remote: Remote<BuildApi>;
}

let running: Running | undefined;

function worker(): Running {
  if (!running) {
    const made = new Worker(new URL("./build-worker.ts", import.meta.url), { type: "module" });
    running = { worker: made, remote: wrap<BuildApi>(made) };
  }
  return running;
}

/** Ends the worker with what it is doing; the next build starts another. */
function endWorker(): void {
  running?.worker.terminate();
  running = undefined;
}

let busy = false;
let waiting:
  | { document: PartDocument; answer: (a: BuildAnswer) => void; fail: (e: unknown) => void }
  | undefined;

/**
 * Builds a document in the worker. One build runs at a time; of those asked for meanwhile only the
 * newest is built, and the others are never answered.
 */
export function requestBuild(
  document: PartDocument,
  answer: (a: BuildAnswer) => void,
  fail: (e: unknown) => void,
): void {
  waiting = { document, answer, fail };
  if (!busy) void next();
}

/** Waits for a build within its limit; past it the worker is ended. */
function withinLimit(build: Promise<BuildAnswer>): Promise<BuildAnswer> {
  const begun = performance.now();
  return new Promise((done, fail) => {
    const watch = setInterval(() => {
      const took = performance.now() - begun;
      if (took < SUPERSEDED_LIMIT || (took < BUILD_LIMIT && !waiting)) return;
      clearInterval(watch);
      endWorker();
      fail(new BuildTooLong(`it takes longer than ${BUILD_LIMIT / 1000} s to build`));
    }, 250);
    build.then(done, fail).finally(() => clearInterval(watch));
  });
}

async function next(): Promise<void> {
  while (waiting) {
    const job = waiting;
    waiting = undefined;
    busy = true;
    try {
      const result = await withinLimit(worker().remote.build(job.document));
      if (!waiting) job.answer(result);
    } catch (error) {
      if (!waiting) job.fail(error);
    }
  }
  busy = false;
}
