import type { Finding } from "@hillcrest/core";
import { requestCollisions, requestFindings } from "../worker/check-client.ts";
import { buildActions, findingsOf, isChecking, openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { openPart } from "./part-slice.ts";
import { store, whenChanged } from "./store.ts";

/** Looks for collisions once a shape has arrived, in a worker of its own; of several edits only the last is looked at. */
export function startChecking(): void {
  whenChanged(
    (s) => openBuild(s).document,
    (document) => {
      if (document) last = check();
    },
  );
}

let last: Promise<void> = Promise.resolve();

/** Waits until the open part is built as it is by then and collisions have been looked for in it, or could not be. */
export async function checkedNow(): Promise<void> {
  for (let awaited: Promise<void> | undefined; awaited !== last; ) {
    await builtNow();
    awaited = last;
    await awaited;
  }
}

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
 * Tells what is found in the open part as it is now, whatever is edited meanwhile: at once where it is known. It is not
 * told where it cannot be found.
 */
export function findingsAsItIs(tell: (findings: readonly Finding[]) => void): void {
  const state = store.getState();
  const { id: part, document } = openPart(state);
  const build = openBuild(state);
  if (part === undefined || !document) return;
  if (build.document === document && !isChecking(build)) tell(findingsOf(build));
  else
    void requestFindings(part, document).then((outcome) => outcome.kind === "result" && tell(outcome.value));
}
