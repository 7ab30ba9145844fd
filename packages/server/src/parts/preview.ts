import {
  blankPicture,
  choicesOf,
  examinePart,
  foldedPicture,
  type PartDocument,
  STOCK_FIELDS,
  stockRaw,
} from "@hillcrest/core";

/** What the Shelf shows of a part without building it. */
export interface PartPreview {
  readonly folded: string;
  readonly blank: string;
  /** Folded box and blank, in mm; nothing while there is no plate. */
  readonly size: readonly number[] | null;
  readonly blankSize: readonly number[] | null;
  readonly stock: string;
  readonly mass: number | null;
  readonly bends: number;
  readonly steps: number;
  readonly findings: { readonly stop: number; readonly warn: number; readonly note: number };
}

// A picture of a part with thousands of holes would weigh more than its document.
const LARGEST_PICTURE = 200_000;

export function previewOf(document: PartDocument): PartPreview {
  const build = examinePart(document);
  const { sheet, blank, folded, stock } = build;
  const count = (level: string) => build.findings.filter((f) => f.level === level).length;
  const fits = (svg: string) => (svg.length <= LARGEST_PICTURE ? svg : "");
  const { material = "" } = choicesOf(STOCK_FIELDS, stockRaw(document.stock));
  return {
    folded: sheet ? fits(foldedPicture(sheet, document.anchor)) : "",
    blank: sheet && blank ? fits(blankPicture(sheet, blank)) : "",
    size: folded ? folded.box.max.map((v, k) => v - folded.box.min[k]) : null,
    blankSize: blank ? [blank.width, blank.height] : null,
    stock: [material, stock ? `${stock.thickness} mm` : ""].filter(Boolean).join(" "),
    mass: folded?.mass ?? null,
    bends: build.bends.length,
    steps: document.steps.length,
    findings: { stop: count("stop"), warn: count("warn"), note: count("note") },
  };
}
