import type { Finding, JobOutcome, PartBuild, PartDocument, TiledMesh } from "@hillcrest/core";
import type { GapQuestion, PartGap, SharedQuestion } from "./check-worker.ts";
import { JobLine, type JobPlace } from "./job-line.ts";

/** No search may take longer (ms). */
const CHECK_LIMIT = 60_000;
/** One that a newer edit has overtaken is given so long (ms) to end by itself. */
const PATIENCE = 500;

// A worker beside the one that builds: no view ever waits for a search.
const line = new JobLine(
  () => new Worker(new URL("./check-worker.ts", import.meta.url), { type: "module" }) as unknown as JobPlace,
  { limit: CHECK_LIMIT, patience: PATIENCE },
);

/** Looks for plates and bends that stand in one another. A newer document of the part takes the place of an older. */
export const requestCollisions = (
  part: string,
  document: PartDocument,
): Promise<JobOutcome<readonly Finding[]>> => line.run("collisions", document, { part });

/** All that is found in a document, beside the search for collisions in what it becomes. */
export const requestFindings = (
  part: string,
  document: PartDocument,
): Promise<JobOutcome<readonly Finding[]>> => line.run("findings", document, { part });

/** Triangles of what two pieces share, three numbers a corner, mm in space. */
export const requestShared = (part: string, question: SharedQuestion): Promise<JobOutcome<Float32Array>> =>
  line.run("shared", question, { part });

/** Where a part comes nearest to itself without touching; nothing where no two pieces could. */
export const requestGap = (part: string, question: GapQuestion): Promise<JobOutcome<PartGap | undefined>> =>
  line.run("gap", question, { part });

/** Builds a document that is only tried, for the views to show for a moment. */
export const requestPreview = (
  part: string,
  document: PartDocument,
): Promise<JobOutcome<{ readonly build: PartBuild; readonly mesh?: TiledMesh }>> =>
  line.run("preview", document, { part });
