import type { PartDocument } from "@hillcrest/core";
import { requestBuild } from "../worker/build-client.ts";
import { buildActions } from "./build-slice.ts";
import { store } from "./store.ts";
import { noteMoment } from "./timing.ts";

/** Builds the document in the worker whenever it changes. */
export function startBuilding(): void {
  let last: PartDocument | undefined;
  let lastId: string | undefined;
  store.subscribe(() => {
    const { document, id, lastEdited, trail } = store.getState().part;
    if (document === last) return;
    last = document;
    if (id !== lastId) {
      lastId = id;
      store.dispatch(buildActions.buildCleared());
    }
    if (!document) return;
    noteMoment("edited");
    void requestBuild(id, document).then((outcome) => {
      // What a newer edit has overtaken is answered by that edit's build.
      if (outcome.kind === "cancelled" || store.getState().part.id !== id) return;
      if (outcome.kind !== "result") {
        store.dispatch(buildActions.buildFailed(outcome.message));
        return;
      }
      const { build, mesh, took } = outcome.value;
      noteMoment("built", took);
      const edit = { step: lastEdited, mark: trail.mark };
      store.dispatch(buildActions.built({ build, mesh, document, edit, took }));
    });
  });
}
