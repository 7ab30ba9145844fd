import {
  buffersOf,
  cornersBefore,
  createExaminer,
  examinePart,
  meshSheet,
  type PartBuild,
  type PartDocument,
  Sender,
  type SheetMesh,
} from "@hillcrest/core";
import { SCREEN_CHORD } from "./screen-chord.ts";
import { serveJobs } from "./serve-jobs.ts";

/** A finished build as it comes back to the page. `took` is the worker's own time in milliseconds. */
export interface BuildAnswer {
  readonly build: PartBuild;
  readonly mesh?: SheetMesh;
  readonly took: number;
}

const examine = createExaminer();
const sender = new Sender();

/** Asks which corners a step of a part can be given. */
export interface CornersQuestion {
  readonly document: PartDocument;
  readonly step: string;
}

/** What of a part is compared where two ways to make it are. */
export interface PartSize {
  readonly width: number;
  readonly height: number;
  readonly findings: number;
}

const sizeOf = ({ blank, findings }: PartBuild): PartSize => ({
  width: blank?.width ?? 0,
  height: blank?.height ?? 0,
  findings: findings.length,
});

serveJobs({
  sizes: (documents: readonly PartDocument[]) => ({
    result: sender.pack(documents.map((d) => sizeOf(examinePart(d)))),
  }),
  corners: ({ document, step }: CornersQuestion) => ({ result: sender.pack(cornersBefore(document, step)) }),
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
