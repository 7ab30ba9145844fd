import { requestBuild, requestCorners } from "../worker/build-client.ts";
import { buildActions } from "./build-slice.ts";
import { openPart } from "./part-slice.ts";
import { type State, store, whenChanged } from "./store.ts";
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
    (document) => document && void begin(),
  );
  // Corners are found while they are picked, and again when the part has changed meanwhile.
  whenChanged(cornersPickedFor, (step) => step !== undefined && void findCorners(step));
  whenChanged(
    (s) => openPart(s).document,
    () => {
      const step = cornersPickedFor(store.getState());
      if (step !== undefined) void findCorners(step);
    },
  );
}

/** The step for which corners are being picked. */
const cornersPickedFor = ({ view: { pickingFor } }: State): string | undefined =>
  pickingFor?.of === "corner" ? pickingFor.step : undefined;

async function findCorners(step: string): Promise<void> {
  const { id: part, document } = openPart(store.getState());
  if (!document || part === undefined) return;
  const outcome = await requestCorners(part, { document, step });
  if (outcome.kind === "result")
    store.dispatch(buildActions.cornersFound({ part, step, names: new Set(outcome.value) }));
}

/** A build that takes longer than this (ms) says how far it is. */
const SAID_AFTER = 700;

/** The build that is under way, to be stopped by hand, and the one that was asked for last. */
const builds = { underWay: new AbortController(), last: Promise.resolve() };

/** Gives the build up that is under way: the views go on showing the last shape. */
export function stopBuilding(): void {
  const { id: part, document } = openPart(store.getState());
  builds.underWay.abort();
  if (part !== undefined && document) store.dispatch(buildActions.stopped({ part, document }));
}

/** Builds the open part, as after a build that was stopped. */
export const buildAgain = (): void => void begin();

const begin = (): Promise<void> => {
  builds.last = build();
  return builds.last;
};

/** The build that was asked for last: done, or overtaken by one after it. */
export const lastBuild = (): Promise<void> => builds.last;

/**
 * Waits until the open part is built as it is by then, or cannot be. What hangs on the shape and not only on the document
 * is done after it: the shape that is there at once may be of before the last keys. Whether the same part is still open.
 */
export async function builtNow(): Promise<boolean> {
  const { id } = openPart(store.getState());
  for (let awaited: Promise<void> | undefined; awaited !== builds.last; ) {
    awaited = builds.last;
    await awaited;
  }
  return openPart(store.getState()).id === id;
}

async function build(): Promise<void> {
  const { id: part, document, lastEdited, trail } = openPart(store.getState());
  if (!document || part === undefined) return;
  noteMoment("edited");
  const started = performance.now();
  builds.underWay = new AbortController();
  const { signal } = builds.underWay;
  const onProgress = (share: number, doing: string) => {
    if (performance.now() - started > SAID_AFTER && store.getState().parts.open === part)
      store.dispatch(buildActions.progressed({ part, share, doing }));
  };
  const outcome = await requestBuild(part, document, { signal, onProgress });
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
