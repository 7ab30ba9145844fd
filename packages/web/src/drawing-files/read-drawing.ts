import { type DrawnShapes, fail, ok, type Result } from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { JobLine, type JobPlace } from "../worker/job-line.ts";

/** A drawing file may be so large, bytes. */
const LARGEST_FILE = 40_000_000;
/** No drawing may take longer to be read (ms); its worker is ended. */
const READ_LIMIT = 20_000;

/** The text of a drawing file, and what it is said to be. */
export interface DrawingText {
  readonly text: string;
  readonly kind: "DXF" | "SVG";
}

/** A drawing as it was read: what it is called, and what it draws, with arcs along its smooth curves. */
export interface ReadDrawing {
  readonly name: string;
  readonly drawn: DrawnShapes;
}

const line = new JobLine(
  () =>
    new Worker(new URL("./reading-worker.ts", import.meta.url), { type: "module" }) as unknown as JobPlace,
  { limit: READ_LIMIT, patience: 0 },
);

/** Reads what a DXF or an SVG draws, in a worker that is ended if it takes too long; the error says which file and why. */
export async function readDrawing(file: File): Promise<Result<ReadDrawing>> {
  if (file.size > LARGEST_FILE)
    return fail(`${file.name} is larger than ${LARGEST_FILE / 1e6} MB: save only what is wanted of it.`);
  const kind = /\.svg$/i.test(file.name) ? "SVG" : "DXF";
  const refuse = (why: string) =>
    fail(`${file.name} cannot be read as ${kind === "SVG" ? "an SVG" : "a DXF"}: ${why}`);
  let text: string;
  try {
    text = await file.text();
  } catch (error) {
    return refuse(error instanceof Error ? error.message : String(error));
  }
  const question: DrawingText = { text, kind };
  // Each file is read, however many are dropped at once.
  const outcome = await line.run<Result<DrawnShapes>>("read", question, { part: nanoid() });
  if (outcome.kind === "limit")
    return refuse(`it takes longer than ${READ_LIMIT / 1000} s. Save only what is wanted of it.`);
  if (outcome.kind !== "result")
    return refuse(outcome.kind === "failure" ? outcome.message : "it was not read.");
  if (!outcome.value.ok) return refuse(outcome.value.error);
  return ok({ name: file.name.replace(/\.\w+$/, "").slice(0, 100), drawn: outcome.value.value });
}

/** What was left out of a drawing, in a sentence; nothing where nothing was. */
export function leftOut({ others }: DrawnShapes): string[] {
  const left = [...others].map(([kind, count]) => `${count} ${kind}`).join(", ");
  return left === "" ? [] : [`Left out: ${left}.`];
}
