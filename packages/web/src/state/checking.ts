import { requestCollisions } from "../worker/check-client.ts";
import { buildActions, openBuild } from "./build-slice.ts";
import { openPart } from "./part-slice.ts";
import { store, whenChanged } from "./store.ts";

/** Looks for collisions once a shape has arrived, in a worker of its own; of several edits only the last is looked at. */
export function startChecking(): void {
  whenChanged(
    (s) => openBuild(s).document,
    (document) => document && void check(),
  );
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
