import type { Maker } from "../file-format.ts";
import { fileSurface } from "./file-surface.ts";
import { writeStl } from "./stl.ts";

/** The folded part as triangles. */
export const stlFormat: Maker = {
  key: "stl",
  forMaking: true,
  label: "STL",
  of: "folded",
  ending: "stl",
  type: "model/stl",
  make: (job) => ({ content: writeStl(fileSurface(job), job.stops) }),
};
