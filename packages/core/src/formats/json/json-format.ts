import type { Maker } from "../file-format.ts";
import { blankGeometry } from "./blank-json.ts";

/** The outlines of the blank, its bends and its marks, for other programs. */
export const jsonFormat: Maker = {
  key: "json",
  forMaking: false,
  label: "JSON of its geometry",
  of: "blank",
  ending: "json",
  type: "application/json",
  make: ({ document, build, stops: said }) => ({
    content: `${JSON.stringify({ ...blankGeometry(document, build), stopped: said }, null, 1)}\n`,
  }),
};
