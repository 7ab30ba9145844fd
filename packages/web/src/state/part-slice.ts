import type { PartDocument } from "@hillcrest/core";
import { createSlice, original, type PayloadAction } from "@reduxjs/toolkit";

/** Where saving stands. */
export type Saving =
  | { readonly at: "saved" }
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

const initialState: PartState = { revision: 0, past: [], future: [], saving: { at: "saved" } };

const DEEPEST_UNDO = 500;

// Documents are told apart by identity, which a draft of the state would not keep.
const plain = (state: object): PartState => original(state) as PartState;

/** Where saving stands once the part is this document: what the server has needs no saving. */
function savingOf({ saved, saving, conflict }: PartState, document: PartDocument): Saving {
  if (conflict) return saving;
  if (document === saved) return { at: "saved" };
  return saving.at === "unreachable" ? saving : { at: "waiting" };
}

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
      }>,
    ): PartState => ({
      id: payload.id,
      revision: payload.revision,
      saved: payload.document,
      document: payload.unsaved ?? payload.document,
      past: payload.unsaved ? [payload.document] : [],
      future: [],
      saving: payload.unsaved ? { at: "waiting" } : { at: "saved" },
    }),
    closed: () => initialState,
    edited: (
      draft,
      { payload }: PayloadAction<{ document: PartDocument; step?: string; mark?: string }>,
    ): PartState => {
      const state = plain(draft);
      if (!state.document || payload.document === state.document) return state;
      const joins = payload.mark !== undefined && payload.mark === state.mark;
      return {
        ...state,
        document: payload.document,
        past: joins ? state.past : [...state.past, state.document].slice(-DEEPEST_UNDO),
        future: [],
        mark: payload.mark,
        lastEdited: payload.step,
        saving: savingOf(state, payload.document),
      };
    },
    undone: (draft): PartState => {
      const state = plain(draft);
      const previous = state.past[state.past.length - 1];
      if (!previous || !state.document) return state;
      return {
        ...state,
        document: previous,
        past: state.past.slice(0, -1),
        future: [state.document, ...state.future],
        mark: undefined,
        lastEdited: undefined,
        saving: savingOf(state, previous),
      };
    },
    redone: (draft): PartState => {
      const state = plain(draft);
      const [next, ...rest] = state.future;
      if (!next || !state.document) return state;
      return {
        ...state,
        document: next,
        past: [...state.past, state.document],
        future: rest,
        mark: undefined,
        lastEdited: undefined,
        saving: savingOf(state, next),
      };
    },
    savingChanged: (state, { payload }: PayloadAction<Saving>) => {
      state.saving = payload;
    },
    saveLanded: (
      draft,
      { payload }: PayloadAction<{ revision: number; document: PartDocument }>,
    ): PartState => {
      const state = plain(draft);
      const all = payload.document === state.document;
      return {
        ...state,
        revision: payload.revision,
        saved: payload.document,
        saving: all ? { at: "saved" } : { at: "waiting" },
      };
    },
    conflictFound: (draft, { payload }: PayloadAction<Conflict>): PartState => ({
      ...plain(draft),
      conflict: payload,
    }),
    /** Goes on from the newer revision: with the own document, or with the other one. */
    conflictSettled: (draft, { payload }: PayloadAction<{ keep: "mine" | "theirs" }>): PartState => {
      const state = plain(draft);
      const { conflict, document: mine } = state;
      if (!conflict || !mine) return state;
      const theirs = payload.keep === "theirs";
      return {
        ...state,
        conflict: undefined,
        revision: conflict.revision,
        saved: conflict.document,
        document: theirs ? conflict.document : mine,
        past: theirs ? [...state.past, mine] : state.past,
        future: theirs ? [] : state.future,
        mark: undefined,
        saving: theirs ? { at: "saved" } : { at: "waiting" },
      };
    },
  },
});

export const partActions = slice.actions;
export const partReducer = slice.reducer;
