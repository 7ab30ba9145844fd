import { lengthText, type Units } from "@hillcrest/core";
import { openPart } from "./part-slice.ts";
import { store, useApp } from "./store.ts";

/** In what the open part shows its lengths. */
export const useUnits = (): Units => useApp((s) => openPart(s).document?.units ?? "mm");

/** A length as the open part shows its lengths. */
export const inPart = (mm: number): string =>
  lengthText(mm, openPart(store.getState()).document?.units ?? "mm");
