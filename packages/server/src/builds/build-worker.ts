import { constants, setPriority } from "node:os";
import {
  type CardSnapshot,
  examineFully,
  examinePart,
  type PartDocument,
  type ReportedFinding,
  reportFindings,
} from "@hillcrest/core";
import { type PartPreview, previewOf } from "../parts/preview.ts";
import { type CardChange, changeByCard } from "../stock/card-change.ts";
import type { Checked, ToCheck } from "./checked.ts";

// Whoever lists, reads or saves goes before what is drawn and exported. On Linux a thread has a priority of its own;
// elsewhere it would be the whole server's.
if (process.platform === "linux") setPriority(constants.priority.PRIORITY_LOW);

/** What runs on a worker thread: everything that builds a part. */
export function preview({ document, known }: ToCheck): Checked<PartPreview> {
  const build = examineFully(document, undefined, known);
  return { made: previewOf(document, build), collisions: build.collisions };
}

/** The same, with a picture that fills half a page. */
export const largePreview = (document: PartDocument): PartPreview =>
  previewOf(document, examinePart(document), 1400);

/** What all checks find on a part. */
export function findings({ document, known }: ToCheck): Checked<readonly ReportedFinding[]> {
  const build = examineFully(document, undefined, known);
  return { made: reportFindings(build), collisions: build.collisions };
}

export const cardChange = ({ document, card }: { document: PartDocument; card: CardSnapshot }): CardChange =>
  changeByCard(document, card);

export {
  batchFiles,
  compare,
  drawOne,
  drawTogether,
  makePartFile,
  zipFiles,
} from "../exports/export-work.ts";
