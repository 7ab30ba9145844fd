import {
  buffersOf,
  createExaminer,
  meshSheet,
  type PartBuild,
  type PartDocument,
  Sender,
  type SheetMesh,
} from "@hillcrest/core";
import { serveJobs } from "./serve-jobs.ts";

/** A finished build as it comes back to the page. `took` is the worker's own time in milliseconds. */
export interface BuildAnswer {
  readonly build: PartBuild;
  readonly mesh?: SheetMesh;
  readonly took: number;
}

const SCREEN_CHORD = 0.05;

const examine = createExaminer();
const sender = new Sender();

serveJobs({
  build: (document: PartDocument) => {
    const start = performance.now();
    const build = examine(document);
    const mesh = build.sheet ? meshSheet(build.sheet, SCREEN_CHORD) : undefined;
    const answer: BuildAnswer = { build, mesh, took: performance.now() - start };
    // Of most edits most of the answer is as it was: that is named, not sent again.
    const packet = sender.pack(answer);
    return { result: packet, handOver: buffersOf(packet) };
  },
});
