import { configureStore } from "@reduxjs/toolkit";
import { useCallback } from "react";
import { useDispatch, useSelector, useStore } from "react-redux";
import { buildReducer } from "./build-slice.ts";
import { partReducer } from "./part-slice.ts";
import { rememberDrafts, stockReducer } from "./stock-slice.ts";
import { rememberView, viewReducer } from "./view-slice.ts";

export const store = configureStore({
  reducer: { part: partReducer, build: buildReducer, view: viewReducer, stock: stockReducer },
  // Documents are frozen by convention and meshes are large typed arrays: walking them on every action would cost more than it finds.
  middleware: (standard) => standard({ serializableCheck: false, immutableCheck: false }),
});

export type State = ReturnType<typeof store.getState>;
export const useApp = useSelector.withTypes<State>();
export const useSend = useDispatch.withTypes<typeof store.dispatch>();

/** Reads the state at the moment of an event, in which nothing is drawn. */
export function useAsk(): <T>(read: (state: State) => T) => T {
  const { getState } = useStore.withTypes<typeof store>()();
  return useCallback((read) => read(getState()), [getState]);
}

// Writing a long table out takes a moment, which must not be taken from every keystroke.
let draftsTimer: ReturnType<typeof setTimeout> | undefined;
const keepDrafts = () => {
  clearTimeout(draftsTimer);
  draftsTimer = undefined;
  rememberDrafts(store.getState().stock);
};
function keepDraftsSoon(): void {
  clearTimeout(draftsTimer);
  draftsTimer = setTimeout(keepDrafts, 300);
}
globalThis.addEventListener?.("pagehide", () => draftsTimer !== undefined && keepDrafts());

let remembered = store.getState();
store.subscribe(() => {
  const state = store.getState();
  if (state.view !== remembered.view) rememberView(state.view);
  if (state.stock.drafts !== remembered.stock.drafts) keepDraftsSoon();
  remembered = state;
});
