import {
  configureStore,
  createListenerMiddleware,
  type ThunkAction,
  type UnknownAction,
} from "@reduxjs/toolkit";
import { useCallback } from "react";
import { useDispatch, useSelector, useStore } from "react-redux";
import { buildsReducer } from "./build-slice.ts";
import { drawingReducer } from "./drawing-slice.ts";
import { exportingReducer } from "./exporting-slice.ts";
import { partsReducer } from "./part-slice.ts";
import { rememberDrafts, stockReducer } from "./stock-slice.ts";
import { takeOverReducer } from "./take-over-slice.ts";
import { rememberView, viewReducer, viewToKeep } from "./view-slice.ts";

const listeners = createListenerMiddleware();

/**
 * Only this folder uses it by name. Elsewhere components read by `useApp` and `useAsk` and act by `useSend`, and what
 * is no component is a `Thunk` that they send.
 */
export const store = configureStore({
  reducer: {
    parts: partsReducer,
    builds: buildsReducer,
    view: viewReducer,
    drawing: drawingReducer,
    stock: stockReducer,
    exporting: exportingReducer,
    takeOvers: takeOverReducer,
  },
  // Documents are frozen by convention and meshes are large typed arrays: walking them on every action would cost more than it finds.
  middleware: (standard) =>
    standard({ serializableCheck: false, immutableCheck: false }).prepend(listeners.middleware),
});

export type State = ReturnType<typeof store.getState>;
export const useApp = useSelector.withTypes<State>();
export const useSend = useDispatch.withTypes<typeof store.dispatch>();

/** Something to do that reads the state as it goes. */
export type Thunk<T = void> = ThunkAction<T, State, undefined, UnknownAction>;

/** Reads the state at the moment of an event, in which nothing is drawn. */
export function useAsk(): <T>(read: (state: State) => T) => T {
  const { getState } = useStore.withTypes<typeof store>()();
  return useCallback((read) => read(getState()), [getState]);
}

/** Does something whenever a part of the state has become another. */
export function whenChanged<T>(select: (state: State) => T, effect: (now: T, before: T) => void): void {
  const listen = listeners.startListening.withTypes<State, typeof store.dispatch>();
  listen({
    predicate: (_action, now, before) => select(now) !== select(before),
    effect: (_action, { getState, getOriginalState }) =>
      effect(select(getState()), select(getOriginalState())),
  });
}

// Writing a long table out takes a moment, which must not be taken from every keystroke.
const drafts: { timer?: ReturnType<typeof setTimeout> } = {};
const keepDrafts = () => {
  clearTimeout(drafts.timer);
  drafts.timer = undefined;
  rememberDrafts(store.getState().stock);
};
whenChanged(
  (s) => s.stock.drafts,
  () => {
    clearTimeout(drafts.timer);
    drafts.timer = setTimeout(keepDrafts, 300);
  },
);
globalThis.addEventListener?.("pagehide", () => drafts.timer !== undefined && keepDrafts());

whenChanged((s) => viewToKeep(s.view), rememberView);
