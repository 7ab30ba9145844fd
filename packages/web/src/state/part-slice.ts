import type { PartDocument } from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** Where saving stands. */
export type Saving =
  | { readonly at: "saved"; readonly when: string }
  | { readonly at: "waiting" }
  | { readonly at: "saving" }
  | { readonly at: "unreachable"; readonly tries: number }
  | { readonly at: "refused"; readonly message: string };

/** The newer part that another window saved meanwhile. */
export interface Conflict {
  readonly revision: number;
  readonly document: PartDocument;
}

export interface PartState {
  readonly id?: string;
  readonly revision: number;
  readonly document?: PartDocument;
  /** What the server has. */
  readonly saved?: PartDocument;
  readonly past: readonly PartDocument[];
  readonly future: readonly PartDocument[];
  /** Edits with the same mark as the one before them join its undo step. */
  readonly mark?: string;
  readonly lastEdited?: string;
  readonly saving: Saving;
  readonly conflict?: Conflict;
}

const initialState: PartState = { revision: 0, past: [], future: [], saving: { at: "saved", when: "" } };

const DEEPEST_UNDO = 500;

const slice = createSlice({
  name: "part",
  initialState,
  reducers: {
    opened: (
      _state,
      {
        payload,
      }: PayloadAction<{
        id: string;
        revision: number;
        document: PartDocument;
        unsaved?: PartDocument;
        when: string;
      }>,
    ): PartState => ({
      id: payload.id,
      revision: payload.revision,
      saved: payload.document,
      document: payload.unsaved ?? payload.document,
      past: payload.unsaved ? [payload.document] : [],
      future: [],
      saving: payload.unsaved ? { at: "waiting" } : { at: "saved", when: payload.when },
    }),
    closed: () => initialState,
    edited: (
      state,
      { payload }: PayloadAction<{ document: PartDocument; step?: string; mark?: string }>,
    ): PartState => {
      if (!state.document || payload.document === state.document) return state as PartState;
      const joins = payload.mark !== undefined && payload.mark === state.mark;
      const past = joins ? state.past : [...state.past, state.document].slice(-DEEPEST_UNDO);
      return {
        ...(state as PartState),
        document: payload.document,
        past: past as PartDocument[],
        future: [],
        mark: payload.mark,
        lastEdited: payload.step,
        saving:
          state.conflict || state.saving.at === "unreachable" ? (state.saving as Saving) : { at: "waiting" },
      };
    },
    undone: (state): PartState => {
      const previous = state.past[state.past.length - 1] as PartDocument | undefined;
      if (!previous || !state.document) return state as PartState;
      return {
        ...(state as PartState),
        document: previous,
        past: (state.past as PartDocument[]).slice(0, -1),
        future: [state.document as PartDocument, ...(state.future as PartDocument[])],
        mark: undefined,
        lastEdited: undefined,
        saving: { at: "waiting" },
      };
    },
    redone: (state): PartState => {
      const [next, ...rest] = state.future as PartDocument[];
      if (!next || !state.document) return state as PartState;
      return {
        ...(state as PartState),
        document: next,
        past: [...(state.past as PartDocument[]), state.document as PartDocument],
        future: rest,
        mark: undefined,
        lastEdited: undefined,
        saving: { at: "waiting" },
      };
    },
    savingChanged: (state, { payload }: PayloadAction<Saving>) => {
      state.saving = payload;
    },
    saveLanded: (
      state,
      { payload }: PayloadAction<{ revision: number; document: PartDocument; when: string }>,
    ): PartState => ({
      ...(state as PartState),
      revision: payload.revision,
      saved: payload.document,
      saving: payload.document === state.document ? { at: "saved", when: payload.when } : { at: "waiting" },
    }),
    conflictFound: (state, { payload }: PayloadAction<Conflict>): PartState => ({
      ...(state as PartState),
      conflict: payload,
    }),
    /** Goes on from the newer revision: with the own document, or with the other one. */
    conflictSettled: (
      state,
      { payload }: PayloadAction<{ keep: "mine" | "theirs"; when: string }>,
    ): PartState => {
      const { conflict } = state as PartState;
      if (!conflict) return state as PartState;
      const theirs = payload.keep === "theirs";
      return {
        ...(state as PartState),
        conflict: undefined,
        revision: conflict.revision,
        saved: conflict.document,
        document: theirs ? conflict.document : (state.document as PartDocument),
        past: theirs
          ? [...(state.past as PartDocument[]), state.document as PartDocument]
          : (state.past as PartDocument[]),
        future: theirs ? [] : (state.future as PartDocument[]),
        mark: undefined,
        saving: theirs ? { at: "saved", when: payload.when } : { at: "waiting" },
      };
    },
  },
});

export const partActions = slice.actions;
export const partReducer = slice.reducer;
