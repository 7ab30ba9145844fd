import {
  type JobOutcome,
  type Packet,
  type PartDocument,
  type Plate,
  Receiver,
  Sender,
} from "@hillcrest/core";
import type {
  BuildAnswer,
  CornersQuestion,
  FileAnswer,
  FileQuestion,
  PartSize,
  PlateQuestion,
  ReturnedAnswer,
  ReturnedQuestion,
} from "./build-worker.ts";
import { JobLine, type JobOptions, type JobPlace } from "./job-line.ts";

/** No build may take longer (ms). One that a newer edit waits for is given up sooner. */
export const BUILD_LIMIT = 30_000;
const SUPERSEDED_LIMIT = 4000;

/** What has crossed to the worker that there is, and from it. */
const crossing = { receiver: new Receiver(), documents: new Sender() };

const line = new JobLine(
  () => new Worker(new URL("./build-worker.ts", import.meta.url), { type: "module" }) as unknown as JobPlace,
  {
    limit: BUILD_LIMIT,
    patience: SUPERSEDED_LIMIT,
    // Of a document that is edited most is as it was: it is not sent again, and the worker sees at once what is another.
    depart: (kind, input) => (kind === "build" ? crossing.documents.pack(input as PartDocument) : input),
    arrive: (packet) => crossing.receiver.unpack<BuildAnswer>(packet as Packet),
    // Another worker has sent nothing yet, and has been sent nothing.
    onReplaced: () => {
      crossing.receiver = new Receiver();
      crossing.documents = new Sender();
    },
  },
);

/** Starts the worker ahead of the first build. */
export const prepareBuilds = (): void => line.prepare();

/** Builds a document in the worker. A newer document of the same part takes its place; both are answered. */
export const requestBuild = (
  part: string | undefined,
  document: PartDocument,
  options: Pick<JobOptions, "signal" | "onProgress"> = {},
): Promise<JobOutcome<BuildAnswer>> => line.run("build", document, { part, ...options });

/** Finds in the worker which corners a step can be given. */
export const requestCorners = (
  part: string,
  question: CornersQuestion,
): Promise<JobOutcome<readonly string[]>> => line.run("corners", question, { part });

/** Finds in the worker how a plate stands when a step begins its work. */
export const requestPlateBefore = (
  part: string,
  question: PlateQuestion,
): Promise<JobOutcome<{ readonly plate?: Plate }>> => line.run("plate", question, { part });

/** Finds in the worker how large the blanks of some documents are, for comparing them. */
export const requestSizes = (
  part: string | undefined,
  documents: readonly PartDocument[],
): Promise<JobOutcome<readonly PartSize[]>> => line.run("sizes", documents, { part });

/** Writes a part as a file in the worker, and reads it back. A newer question of the kind takes the place of one that waits. */
export const requestFile = (
  kind: "proof" | "file",
  part: string,
  question: FileQuestion,
): Promise<JobOutcome<FileAnswer>> => line.run(kind, question, { part });

/** Holds a drawing that came back against the blank, in the worker. */
export const requestComparison = (
  part: string,
  question: ReturnedQuestion,
): Promise<JobOutcome<ReturnedAnswer>> => line.run("compare", question, { part });
