import {
  blankPicture,
  choicesOf,
  foldedPicture,
  type PartBuild,
  type PartDocument,
  STOCK_FIELDS,
  sayLength,
  stockRaw,
  type Units,
} from "@hillcrest/core";

/** Pictures of a part for the Shelf, as SVG; empty where one would be too fine. */
export interface PartPictures {
  readonly folded: string;
  readonly blank: string;
}

/** What the Shelf says of a part without building it. */
export interface PartSummary {
  /** Folded box and blank, in mm; nothing while there is no plate. */
  readonly size: readonly number[] | null;
  readonly blankSize: readonly number[] | null;
  /** In what the part is shown; nothing where that is mm. */
  readonly units?: Units;
  readonly stock: string;
  readonly mass: number | null;
  readonly bends: number;
  readonly steps: number;
  readonly findings: { readonly stop: number; readonly warn: number; readonly note: number };
  /** Why nothing more can be said of it. */
  readonly problem?: string;
}

export interface PartPreview {
  readonly pictures: PartPictures;
  readonly summary: PartSummary;
}

// A picture of a part with thousands of holes would weigh more than its document.
const LARGEST_PICTURE = 200_000;

const stockText = (document: PartDocument, thickness?: number): string => {
  const { material = "" } = choicesOf(STOCK_FIELDS, stockRaw(document.stock));
  return [material, thickness ? sayLength(thickness, document.units) : ""].filter(Boolean).join(" ");
};

/** The preview of a part that could not be built in time. */
export const emptyPreview = (document: PartDocument | undefined, problem: string): PartPreview => ({
  pictures: { folded: "", blank: "" },
  summary: {
    size: null,
    blankSize: null,
    ...(document?.units ? { units: document.units } : {}),
    stock: document ? stockText(document) : "",
    mass: null,
    bends: 0,
    steps: document?.steps.length ?? 0,
    findings: { stop: 1, warn: 0, note: 0 },
    problem,
  },
});

/** @param pixels how wide the folded picture will be shown */
export function previewOf(document: PartDocument, build: PartBuild, pixels?: number): PartPreview {
  const { sheet, blank, folded, stock } = build;
  const count = (level: string) => build.findings.filter((f) => f.level === level && !f.accepted).length;
  const fits = (svg: string) => (svg.length <= LARGEST_PICTURE ? svg : "");
  const pictures = {
    folded: sheet ? fits(foldedPicture(sheet, { anchor: document.anchor, pixels })) : "",
    blank: sheet && blank ? fits(blankPicture(sheet, blank)) : "",
  };
  const summary = {
    size: folded ? folded.box.max.map((v, k) => v - folded.box.min[k]) : null,
    blankSize: blank ? [blank.width, blank.height] : null,
    ...(document.units ? { units: document.units } : {}),
    stock: stockText(document, stock?.thickness),
    mass: folded?.mass ?? null,
    bends: build.bends.length,
    steps: document.steps.length,
    findings: { stop: count("stop"), warn: count("warn"), note: count("note") },
  };
  return { pictures, summary };
}
