import { useMemo } from "react";
import { useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import type { PartSources } from "../../ui/why-card.tsx";

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
