import type { ExportPreset } from "../../stock/export-preset.ts";
import { drawBlank } from "../drawing/draw-blank.ts";
import type { FileJob, Maker } from "../file-format.ts";
import { bannered } from "./banner.ts";
import { drawingSvg } from "./drawing-svg.ts";

/** Pictures carry their text as strokes: no font is asked for where they are looked at. */
const pictured = (job: FileJob, more: Partial<ExportPreset> = {}) =>
  drawBlank({ ...job, preset: { ...job.preset, text: "strokes", ...more } }).drawing;

/** The blank at its true size, for machines that read SVG. */
export const blankSvgFormat: Maker = {
  key: "svg",
  forMaking: true,
  label: "SVG, true size",
  of: "blank",
  ending: "svg",
  type: "image/svg+xml",
  make: (job) => ({ content: drawingSvg(pictured(job), { said: job.stops }) }),
};

/** A picture of the blank, in dots. */
export const blankPictureFormat: Maker = {
  key: "png",
  forMaking: false,
  label: "PNG",
  of: "blank",
  ending: "png",
  type: "image/png",
  asDots: true,
  make: (job) => {
    const drawing = pictured(job);
    const { minX, maxX, minY, maxY } = drawing.bounds;
    return {
      content: bannered(
        drawingSvg(drawing, { paper: "#FFFDF7", pen: Math.max(maxX - minX, maxY - minY) / 900 }),
        job.stops,
      ),
    };
  },
};
