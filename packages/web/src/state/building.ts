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
    requestBuild(
      document,
      ({ build, mesh, took }) => {
        if (store.getState().part.id !== id) return;
        noteMoment("built", took);
        store.dispatch(
          buildActions.built({ build, mesh, document, edit: { step: lastEdited, mark: trail.mark }, took }),
        );
      },
      (error) => store.dispatch(buildActions.buildFailed((error as Error).message ?? String(error))),
    );
  });
}
