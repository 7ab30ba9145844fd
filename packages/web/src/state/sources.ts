import { useMemo } from "react";
import { useSend } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** What opens the sources that belong to a part; without it they are only named. */
export interface PartSources {
  readonly onStep?: (id: string) => void;
  readonly onStock?: () => void;
}

/** How the sources of a number are opened on the Bench: its steps, and the card of its stock. */
export function useBenchSources(): PartSources {
  const send = useSend();
  return useMemo(
    () => ({
      onStep: (id) => void send(viewActions.stepOpened(id)),
      onStock: () => void send(viewActions.stockShown(true)),
    }),
    [send],
  );
}
