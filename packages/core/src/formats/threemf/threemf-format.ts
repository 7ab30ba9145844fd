import type { Maker } from "../file-format.ts";
import { fileSurface } from "../stl/file-surface.ts";
import { write3mf } from "./threemf.ts";

/** The folded part for printing. */
export const threemfFormat: Maker = {
  key: "3mf",
  forMaking: true,
  label: "3MF",
  of: "folded",
  ending: "3mf",
  type: "model/3mf",
  make: (job) => ({ content: write3mf(job.document.name, fileSurface(job), job.stops) }),
};
