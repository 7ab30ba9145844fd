import { lengthText, type Units } from "@hillcrest/core";
import { store, useApp } from "./store.ts";

/** In what the open part shows its lengths. */
export const useUnits = (): Units => useApp((s) => s.part.document?.units ?? "mm");

/** A length as the open part shows its lengths. */
export const inPart = (mm: number): string => lengthText(mm, store.getState().part.document?.units ?? "mm");
