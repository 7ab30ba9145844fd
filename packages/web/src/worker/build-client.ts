import type { PartDocument } from "@hillcrest/core";
import { type Remote, wrap } from "comlink";
import type { BuildAnswer, BuildApi } from "./build-worker.ts";

let remote: Remote<BuildApi> | undefined;

function worker(): Remote<BuildApi> {
  remote ??= wrap<BuildApi>(new Worker(new URL("./build-worker.ts", import.meta.url), { type: "module" }));
  return remote;
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

async function next(): Promise<void> {
  while (waiting) {
    const job = waiting;
    waiting = undefined;
    busy = true;
    try {
      const result = await worker().build(job.document);
      if (!waiting) job.answer(result);
    } catch (error) {
      if (!waiting) job.fail(error);
    }
  }
  busy = false;
}
