import { type DrawnShapes, fail, ok, type Result, readDxfShapes } from "@hillcrest/core";
import { readSvgShapes } from "./svg-shapes.ts";

/** A drawing file may be so large, bytes. */
const LARGEST_FILE = 40_000_000;

/** A drawing as it was read: what it is called, and what it draws. */
export interface ReadDrawing {
  readonly name: string;
  readonly drawn: DrawnShapes;
}

/** Reads what a DXF or an SVG draws; the error says which file and why. */
export async function readDrawing(file: File): Promise<Result<ReadDrawing>> {
  if (file.size > LARGEST_FILE)
    return fail(`${file.name} is larger than ${LARGEST_FILE / 1e6} MB: save only what is wanted of it.`);
  const kind = /\.svg$/i.test(file.name) ? "SVG" : "DXF";
  try {
    const text = await file.text();
    const drawn = kind === "SVG" ? readSvgShapes(svgOf(text)) : readDxfShapes(text);
    return ok({ name: file.name.replace(/\.\w+$/, "").slice(0, 100), drawn });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    return fail(`${file.name} cannot be read as ${kind === "SVG" ? "an SVG" : "a DXF"}: ${why}`);
  }
}

/** The outermost element of a text; it is only read, nothing in it runs or is fetched. */
function svgOf(text: string): Element {
  const page = new DOMParser().parseFromString(text, "image/svg+xml");
  const wrong = page.querySelector("parsererror");
  if (wrong) throw new Error((wrong.textContent ?? "it is no XML").replace(/\s+/g, " ").slice(0, 160));
  return page.documentElement;
}

/** What was left out of a drawing, in a sentence; nothing where nothing was. */
export function leftOut({ others }: DrawnShapes): string[] {
  const left = [...others].map(([kind, count]) => `${count} ${kind}`).join(", ");
  return left === "" ? [] : [`Left out, for they are no lines or arcs: ${left}.`];
}
