import { configureStore } from "@reduxjs/toolkit";
import { useDispatch, useSelector } from "react-redux";
import { buildReducer } from "./build-slice.ts";
import { partReducer } from "./part-slice.ts";
import { rememberView, viewReducer } from "./view-slice.ts";

export const store = configureStore({
  reducer: { part: partReducer, build: buildReducer, view: viewReducer },
  // Documents are frozen by convention and meshes are large typed arrays: walking them on every action would cost more than it finds.
  middleware: (standard) => standard({ serializableCheck: false, immutableCheck: false }),
});

export type State = ReturnType<typeof store.getState>;
export const useApp = useSelector.withTypes<State>();
export const useSend = useDispatch.withTypes<typeof store.dispatch>();

let remembered = store.getState().view;
store.subscribe(() => {
  const { view } = store.getState();
  if (view === remembered) return;
  remembered = view;
  rememberView(view);
});
