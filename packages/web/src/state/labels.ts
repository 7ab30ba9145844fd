import { type Names, namesIn, plateLabels, platesOf } from "@hillcrest/core";
import { useMemo } from "react";
import { openBuild } from "./build-slice.ts";
import { openPart } from "./part-slice.ts";
import { useApp } from "./store.ts";

/** Letters of plates: those that the steps say they make, and those that only building shows. */
export function useLabels(): ReadonlyMap<string, string> {
  const document = useApp((s) => openPart(s).document);
  const sheet = useApp((s) => openBuild(s).latest?.sheet);
  const all = new Map(document ? plateLabels(document) : []);
  for (const p of platesOf(sheet) ?? []) if (!all.has(p.id)) all.set(p.id, p.letter);
  // Letters change rarely, and every row leans on them.
  const named = [...all].map(([id, letter]) => `${id} ${letter}`).join(",");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same letters are the same map
  return useMemo(() => all, [named]);
}

/** What expressions in fields may use, as the last build found it: the stock's values and the part's own. */
export function useNames(): Names | undefined {
  const table = useApp((s) => openBuild(s).latest?.names);
  return useMemo(() => table && namesIn(table), [table]);
}
