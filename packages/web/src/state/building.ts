import { requestBuild } from "../worker/build-client.ts";
import { buildActions } from "./build-slice.ts";
import { openPart } from "./part-slice.ts";
import { store, whenChanged } from "./store.ts";
import { noteMoment } from "./timing.ts";

/** Builds the open part's document in the worker whenever it changes, and forgets the builds of parts that were left. */
export function startBuilding(): void {
  whenChanged(
    (s) => s.parts.open,
    (_now, before) => {
      if (before !== undefined) store.dispatch(buildActions.buildCleared(before));
    },
  );
  whenChanged(
    (s) => openPart(s).document,
    (document) => document && void build(),
  );
}

async function build(): Promise<void> {
  const { id: part, document, lastEdited, trail } = openPart(store.getState());
  if (!document || part === undefined) return;
  noteMoment("edited");
  const outcome = await requestBuild(part, document);
  // What a newer edit has overtaken is answered by that edit's build.
  if (outcome.kind === "cancelled" || store.getState().parts.open !== part) return;
  if (outcome.kind !== "result") {
    store.dispatch(buildActions.buildFailed({ part, message: outcome.message }));
    return;
  }
  const { build, mesh, took } = outcome.value;
  noteMoment("built", took);
  const edit = { step: lastEdited, mark: trail.mark };
  store.dispatch(buildActions.built({ part, build, mesh, document, edit, took }));
}
