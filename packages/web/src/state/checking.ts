import type { Finding } from "@hillcrest/core";
import { requestCollisions, requestFindings } from "../worker/check-client.ts";
import { buildActions, findingsOf, isChecking, openBuild } from "./build-slice.ts";
import { builtNow, lastBuild } from "./building.ts";
import { openPart } from "./part-slice.ts";
import { store, whenChanged } from "./store.ts";

/** Looks for collisions once a shape has arrived, in a worker of its own; of several edits only the last is looked at. */
export function startChecking(): void {
  whenChanged(
    (s) => openBuild(s).document,
    (document) => {
      if (document) searches.last = check();
    },
  );
}

/** The search that was begun last. */
const searches = { last: Promise.resolve() };

/**
 * Waits until the open part is built as it is by then and collisions have been looked for in it, or could not be. Whether
 * the same part is still open.
 */
export async function checkedNow(): Promise<boolean> {
  for (let idle = 0; idle < MOST_IDLE; ) {
    if (!(await builtNow())) return false;
    const awaited = searches.last;
    await awaited;
    if (awaited !== searches.last) continue;
    if (!isChecking(openBuild(store.getState()))) return true;
    // The shape has just come: its search begins in a moment.
    idle++;
    await new Promise((soon) => setTimeout(soon, IDLE_MS));
  }
  return true;
}

/** A search that has not begun is looked for again after so long (ms), and so often. */
const IDLE_MS = 20;
const MOST_IDLE = 100;

async function check(): Promise<void> {
  const { id: part } = openPart(store.getState());
  const { document } = openBuild(store.getState());
  if (!document || part === undefined) return;
  const outcome = await requestCollisions(part, document);
  if (outcome.kind === "cancelled" || store.getState().parts.open !== part) return;
  if (outcome.kind === "result")
    store.dispatch(buildActions.checked({ part, document, findings: outcome.value }));
  else store.dispatch(buildActions.checkFailed({ part, document, message: outcome.message }));
}

/**
 * Tells what is found in the open part as it is now, whatever is edited meanwhile: at once where it is known, else when the
 * search that is under way ends, or by one of its own where an edit overtakes that. It is not told where it cannot be found.
 */
export function findingsAsItIs(tell: (findings: readonly Finding[]) => void): void {
  const { id: part, document } = openPart(store.getState());
  if (part === undefined || !document) return;
  const known = () => {
    const build = openBuild(store.getState());
    return build.document === document && !isChecking(build) ? findingsOf(build) : undefined;
  };
  const now = known();
  if (now) return void tell(now);
  void (async () => {
    await lastBuild();
    await searches.last;
    const found = known();
    if (found) return tell(found);
    const outcome = await requestFindings(part, document);
    if (outcome.kind === "result") tell(outcome.value);
  })();
}
