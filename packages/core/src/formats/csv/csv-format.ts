import { bendList } from "../../part/bend-list.ts";
import type { Maker } from "../file-format.ts";
import { bendListCsv } from "./bend-list-csv.ts";

/** The list of bends, for a table. */
export const csvFormat: Maker = {
  key: "csv",
  forMaking: false,
  label: "Bend list, CSV",
  of: "blank",
  ending: "csv",
  type: "text/csv",
  make: ({ document, build, stops: said }) => ({
    content: bendListCsv(bendList(document, build), (document.units ?? "mm") === "mm" ? "mm" : "in", said),
  }),
};
