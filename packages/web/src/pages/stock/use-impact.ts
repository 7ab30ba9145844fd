import { useCallback, useEffect, useRef, useState } from "react";
import { type ImpactAsked, type PartBehind, type PartChange, stockApi } from "../../api/stock-api.ts";

/** The parts that a change stands behind, and what it does to those of which that is known already. */
export interface Impact {
  readonly parts: readonly PartBehind[];
  readonly changes: ReadonlyMap<string, PartChange>;
  /** Why the numbers of the others will not come. */
  readonly failed?: string;
}

/**
 * Numbers that come one after another are shown together after so long, ms. Each time the whole table is laid out: of more
 * parts it is done less often, so that showing a part costs the same however many there are.
 */
const shownAfter = (parts: number): number => Math.max(200, parts);

/**
 * What taking over the cards would do to parts. `look` answers as soon as the parts are known; what becomes of each comes
 * after, one by one, until it is let go of.
 */
export function useImpact() {
  const [impact, setImpact] = useState<Impact>();
  const asking = useRef<AbortController>(undefined);
  const letGo = useCallback(() => {
    asking.current?.abort();
    setImpact(undefined);
  }, []);
  useEffect(() => () => asking.current?.abort(), []);
  const look = useCallback((asked: ImpactAsked): Promise<readonly PartBehind[]> => {
    asking.current?.abort();
    const mine = new AbortController();
    asking.current = mine;
    const changes = new Map<string, PartChange>();
    return new Promise((known, fail) => {
      let parts: readonly PartBehind[] | undefined;
      let waiting: ReturnType<typeof setTimeout> | undefined;
      const show = (failed?: string) => {
        clearTimeout(waiting);
        waiting = undefined;
        if (parts && !mine.signal.aborted) setImpact({ parts, changes: new Map(changes), failed });
      };
      const told = stockApi.impact(asked, {
        signal: mine.signal,
        onLines: (lines) => {
          if (mine.signal.aborted) return;
          for (const line of lines) {
            if ("parts" in line) parts = line.parts;
            else changes.set(line.id, line);
          }
          if (!parts) return;
          if (changes.size === 0) show();
          else waiting ??= setTimeout(show, shownAfter(parts.length));
          known(parts);
        },
      });
      const end = (why: string) => {
        if (!parts) fail(new Error(why));
        else show(changes.size < parts.length ? why : undefined);
      };
      told.then(
        () => end("The server did not say which parts it stands behind."),
        (error: Error) => end(error.message),
      );
    });
  }, []);
  return { impact, look, letGo };
}
