import type { FileJob, Maker } from "../file-format.ts";
import { bannered } from "./banner.ts";
import { foldedPicture } from "./svg.ts";

const folded = ({ build, document, fold, view, stops: said }: FileJob, pixels: number) =>
  bannered(foldedPicture(build.sheet, { anchor: document.anchor, fold, view, pixels, asFile: true }), said);

/** A picture of the folded part. */
export const foldedSvgFormat: Maker = {
  key: "folded-svg",
  forMaking: false,
  label: "SVG",
  of: "folded",
  ending: "svg",
  type: "image/svg+xml",
  make: (job) => ({ content: folded(job, 1200) }),
};

/** The same in dots. */
export const foldedPictureFormat: Maker = {
  key: "folded-png",
  forMaking: false,
  label: "PNG",
  of: "folded",
  ending: "png",
  type: "image/png",
  asDots: true,
  make: (job) => ({ content: folded(job, 1600) }),
};
