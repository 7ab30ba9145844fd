import {
  type BlankFacts,
  blankFacts,
  type Comparison,
  compareFile,
  cornersBefore,
  createExaminer,
  createTiler,
  type ExportPreset,
  examinePart,
  type Finding,
  type FoldedView,
  makeFile,
  type Packet,
  type PartBuild,
  type PartDocument,
  type Proof,
  plateBefore,
  Receiver,
  Sender,
  type TiledMesh,
  withCollisions,
} from "@hillcrest/core";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils.js";
import { SCREEN_CHORD } from "./screen-chord.ts";
import { serveJobs } from "./serve-jobs.ts";

/** A finished build as it comes back to the page. `took` is the worker's own time in milliseconds. */
export interface BuildAnswer {
  readonly build: PartBuild;
  readonly mesh?: TiledMesh;
  readonly took: number;
}

const examine = createExaminer();
const tile = createTiler(SCREEN_CHORD);
const sender = new Sender();
const documents = new Receiver();

/** Asks which corners a step of a part can be given. */
export interface CornersQuestion {
  readonly document: PartDocument;
  readonly step: string;
}

/** Asks for a plate as it stands when a step begins. */
export interface PlateQuestion extends CornersQuestion {
  readonly plate: string;
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

/** Asks for a part as a file. */
export interface FileQuestion {
  readonly document: PartDocument;
  readonly format: string;
  readonly preset: ExportPreset;
  readonly fold?: number;
  readonly view?: FoldedView;
  readonly piece?: number;
  /** What the search for collisions found in this document. */
  readonly collisions: readonly Finding[];
  readonly anyway: boolean;
}

/** A file with its proof and the hash of its bytes, or why there is none. */
export type FileAnswer =
  | {
      readonly content: string | Uint8Array;
      readonly proof?: Proof;
      readonly sha256: string;
      readonly facts?: BlankFacts;
    }
  | { readonly refused: string; readonly stopped?: boolean };

function fileOf({ document, collisions, ...order }: FileQuestion): FileAnswer {
  const build = withCollisions(examine(document), collisions, document);
  const made = makeFile(document, build, order);
  if (!made.ok)
    return { refused: `${upper(made.error.why)}.`.replace(/\.\.$/, "."), stopped: made.error.stopped };
  const { content, proof } = made.value;
  const bytes = typeof content === "string" ? utf8ToBytes(content) : content;
  return { content, proof, sha256: bytesToHex(sha256(bytes)), facts: blankFacts(build) };
}

const upper = (text: string): string => text[0].toUpperCase() + text.slice(1);

/** Asks how a drawing that came back differs from the blank. */
export interface ReturnedQuestion {
  readonly document: PartDocument;
  readonly preset: ExportPreset;
  readonly text: string;
  readonly within: number;
}

export type ReturnedAnswer = Comparison | { readonly refused: string };

function compareReturned({ document, ...returned }: ReturnedQuestion): ReturnedAnswer {
  const found = compareFile({ document, build: examine(document), ...returned });
  return found.ok ? found.value : { refused: found.error };
}

serveJobs({
  proof: (question: FileQuestion) => ({ result: sender.pack(fileOf(question)) }),
  file: (question: FileQuestion) => ({ result: sender.pack(fileOf(question)) }),
  compare: (question: ReturnedQuestion) => ({ result: sender.pack(compareReturned(question)) }),
  sizes: (documents: readonly PartDocument[]) => ({
    result: sender.pack(documents.map((d) => sizeOf(examinePart(d)))),
  }),
  corners: ({ document, step }: CornersQuestion) => ({ result: sender.pack(cornersBefore(document, step)) }),
  plate: ({ document, step, plate }: PlateQuestion) => ({
    result: sender.pack({ plate: plateBefore(document, step, plate) }),
  }),
  build: (sent: Packet, { progress }) => {
    const start = performance.now();
    const document = documents.unpack<PartDocument>(sent);
    const build = examine(document, progress);
    progress(0.85, "Surface");
    const mesh = build.sheet && tile(build.sheet);
    const answer: BuildAnswer = { build, mesh, took: performance.now() - start };
    // Of most edits most of the answer is as it was: that is named, not sent again.
    return { result: sender.pack(answer, "build") };
  },
});
