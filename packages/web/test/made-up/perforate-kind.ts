import type { StepKind } from "@hillcrest/core";

/** A kind of step that there is not, as far as the Bench asks core about it. */
export const perforateKind: StepKind = {
  kind: "perforate",
  title: "Perforate",
  about: "Spots pierced through plates",
  startsFrom: "plate",
  fields: [
    { kind: "picks", key: "plates", label: "Plates", of: "plate" },
    { kind: "quantity", key: "size", label: "Size", dimension: "length", default: "4" },
    {
      kind: "choice",
      key: "form",
      label: "Form",
      default: "round",
      options: ["round", "square", "oval"].map((value) => ({ value, label: value })),
    },
    { kind: "yes", key: "deep", label: "All the way" },
    {
      kind: "rows",
      key: "spots",
      label: "Spots",
      noun: "spot",
      most: 9,
      columns: [{ kind: "quantity", key: "x", label: "X", dimension: "length", default: "" }],
    },
  ],
  sentence: () => [
    "Pierce ",
    { field: "plates" },
    ", ",
    { field: "size" },
    " wide, ",
    { field: "form" },
    ".",
  ],
  build: () => undefined,
};
