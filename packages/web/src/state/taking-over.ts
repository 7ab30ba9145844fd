import { useEffect } from "react";
import { stockApi, type TakeOverEntry } from "../api/stock-api.ts";
import { loadStock } from "./stock.ts";
import { type Thunk, useApp, useSend, whenChanged } from "./store.ts";
import { rememberClosed, takeOverActions } from "./take-over-slice.ts";

/** How far those under way are is asked again after so long, ms. */
const ASKED_EVERY = 500;
/** The same while the server is out of reach. */
const TRIED_EVERY = 3000;

const anyWorking = (jobs: readonly TakeOverEntry[] = []) => jobs.some((j) => j.state === "working");

/** Asks how far changes of stock are. Once one has ended, what the page says of parts is read anew. */
const askTakeOvers = (): Thunk<Promise<void>> => async (send, getState) => {
  const before = getState().takeOvers.jobs;
  try {
    const jobs = await stockApi.takeOvers();
    send(takeOverActions.takeOversTold(jobs));
    const wasWorking = (id: string) => before?.some((j) => j.id === id && j.state === "working");
    if (jobs.some((j) => j.state !== "working" && wasWorking(j.id))) await loadStock();
  } catch (error) {
    send(takeOverActions.takeOversUnknown((error as Error).message));
  }
};

/** Follows changes of stock while a page shows them: those begun here, by another browser, or before it was opened. */
export function useTakeOvers(): void {
  const send = useSend();
  const isAway = useApp(({ takeOvers: { problem } }) => problem !== undefined);
  const goesOn = useApp(({ takeOvers: { jobs } }) => anyWorking(jobs)) || isAway;
  useEffect(() => void send(askTakeOvers()), [send]);
  useEffect(() => {
    if (!goesOn) return;
    let timer: ReturnType<typeof setTimeout>;
    let left = false;
    const again = () => {
      timer = setTimeout(
        async () => {
          await send(askTakeOvers());
          if (!left) again();
        },
        isAway ? TRIED_EVERY : ASKED_EVERY,
      );
    };
    again();
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [goesOn, isAway, send]);
}

/** Has parts take over the present state of their cards: the server does it, whether or not this page stays. */
export const beginTakeOver =
  (parts: readonly string[]): Thunk<Promise<void>> =>
  async (send) => {
    send(takeOverActions.takeOverTold(await stockApi.takeOver(parts)));
  };

/** Ends one that is under way: what it has changed stays so. */
export const cancelTakeOver =
  (id: string): Thunk<Promise<void>> =>
  async (send) => {
    try {
      send(takeOverActions.takeOverTold(await stockApi.cancelTakeOver(id)));
      await loadStock();
    } catch (error) {
      send(takeOverActions.takeOversUnknown((error as Error).message));
    }
  };

whenChanged(({ takeOvers }) => takeOvers.closed, rememberClosed);
