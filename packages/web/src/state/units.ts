import type { Units } from "@hillcrest/core";
import { useApp } from "./store.ts";

/** In what the open part shows its lengths. */
export const useUnits = (): Units => useApp((s) => s.part.document?.units ?? "mm");
