import type { Beginning } from "./step-face.ts";

/** What repeats steps begins with the one that is open. */
export const withOpenStep = ({ openStep }: Beginning) =>
  openStep ? { steps: [{ key: "a", at: openStep }] } : {};
