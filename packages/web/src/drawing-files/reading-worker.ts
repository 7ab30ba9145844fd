import { type DrawnShapes, fail, ok, plainShapes, type Result, readDxfShapes } from "@hillcrest/core";
import { DOMParser, ParseError } from "@xmldom/xmldom";
import { serveJobs } from "../worker/serve-jobs.ts";
import type { DrawingText } from "./read-drawing.ts";
import { readSvgShapes, type SvgElement } from "./svg-shapes.ts";

/** How far arcs may be from the curves that they are drawn along, mm. */
const TOLERANCE = 0.01;
/** Of a drawing that does not say its units the smaller tolerance is taken, that of inches. */
const LARGEST_UNIT = 25.4;

/** What a drawing holds, free of functions, so that it can be sent to the page. */
function readPlain({ text, kind }: DrawingText): Result<DrawnShapes> {
  const read = kind === "SVG" ? readSvg(text) : readDxfShapes(text);
  if (!read.ok) return read;
  const { shapes, scale } = read.value;
  return ok({ ...read.value, shapes: plainShapes(shapes, TOLERANCE / (scale ?? LARGEST_UNIT)) });
}

/** Reads an SVG; nothing in it runs or is fetched. */
function readSvg(text: string): Result<DrawnShapes> {
  try {
    const { documentElement } = new DOMParser({ onError: refuseErrors }).parseFromString(
      text,
      "image/svg+xml",
    );
    if (!documentElement) return fail("it is no XML.");
    return ok(readSvgShapes(documentElement as unknown as SvgElement));
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    const why = error instanceof ParseError ? `it is no XML: ${error.message}` : error.message;
    return fail(why.replace(/\s+/g, " ").slice(0, 160));
  }
}

function refuseErrors(level: "warning" | "error" | "fatalError", message: string): void {
  if (level !== "warning") throw new ParseError(message);
}

serveJobs({ read: (drawing: DrawingText) => ({ result: readPlain(drawing) }) });
