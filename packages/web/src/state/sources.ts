import { useMemo } from "react";
import type { PartSources } from "../ui/why-card.tsx";
import { useSend } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** How the sources of a number are opened on the Bench: its steps, and the card of its stock. */
export function useBenchSources(): PartSources {
  const send = useSend();
  return useMemo(
    () => ({
      onStep: (id) => void send(viewActions.stepOpened(id)),
      onStock: () => document.querySelector<HTMLElement>("[data-stock]")?.click(),
    }),
    [send],
  );
}
