import type { Maker } from "../file-format.ts";
import { exportDxf } from "./export-dxf.ts";

/** The blank as a laser reads it, proven by reading it back. */
export const dxfFormat: Maker = {
  key: "dxf",
  forMaking: true,
  label: "DXF",
  of: "blank",
  ending: "dxf",
  type: "image/vnd.dxf",
  make: (job) => {
    const { text, proof } = exportDxf(job);
    return { content: text, proof };
  },
};
