import { evenState, type Folding, foldSheet, type PartBuild } from "@hillcrest/core";
import { useMemo } from "react";
import { openPart } from "../state/part-slice.ts";
import { useApp } from "../state/store.ts";

const NONE: readonly string[] = [];

/** Where the shown part's plates stand at the dial's place, with held bends flat and the anchor still. */
export function useFolding(build: PartBuild | undefined): Folding | undefined {
  const fold = useApp((s) => s.view.fold);
  const held = useApp((s) => openPart(s).document?.held ?? NONE);
  const anchor = useApp((s) => openPart(s).document?.anchor);
  return useMemo(() => {
    if (!build?.sheet) return undefined;
    // Bends that the steps hold flat where the part is built up to, and those held for looking at it.
    const flat = new Set([...held, ...(build.heldBySteps ?? [])]);
    return foldSheet(build.sheet, evenState(build.sheet, fold, flat), anchor);
  }, [build, fold, held, anchor]);
}
