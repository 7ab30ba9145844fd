import type { Place } from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { viewActions } from "./view-slice.ts";

/** What is being drawn on the Bench: which outline, with which tool, and how far it has come. */
export interface DrawingState {
  /** The outline of the part that is drawn; none while nothing is. */
  readonly key?: string;
  readonly tool?: string;
  /** Places that were given to the tool so far. */
  readonly places: readonly Place[];
  /** Numbers as they are typed, by the tool's own names for them. */
  readonly typed: Readonly<Record<string, string>>;
  /** Points, curves, relations and dimensions that are picked. */
  readonly picks: readonly string[];
  /** What is drawn is only to draw by. */
  readonly construction: boolean;
  /** The pitch of the grid, mm; none at 0. */
  readonly grid: number;
  /** Why the last thing could not be drawn. */
  readonly problem?: string;
}

const initialState: DrawingState = { places: [], typed: {}, picks: [], construction: false, grid: 0 };

const slice = createSlice({
  name: "drawing",
  initialState,
  reducers: {
    opened: (s, { payload }: PayloadAction<{ key: string; tool?: string }>): DrawingState => ({
      ...initialState,
      grid: s.grid,
      key: payload.key,
      ...(payload.tool ? { tool: payload.tool } : {}),
    }),
    closed: (s): DrawingState => ({ ...initialState, grid: s.grid }),
    toolChosen: (s, { payload }: PayloadAction<string | undefined>): DrawingState => ({
      ...s,
      tool: payload,
      places: [],
      typed: payload === s.tool ? s.typed : {},
      problem: undefined,
    }),
    /** A chain goes on with another tool from where it has come. */
    goesOnWith: (s, { payload }: PayloadAction<string>): DrawingState => ({
      ...s,
      tool: payload,
      typed: {},
      problem: undefined,
    }),
    placed: (s, { payload }: PayloadAction<readonly Place[]>): DrawingState => ({
      ...s,
      places: payload,
      problem: undefined,
    }),
    typed: (s, { payload }: PayloadAction<Readonly<Record<string, string>>>): DrawingState => ({
      ...s,
      typed: payload,
      problem: undefined,
    }),
    picked: (s, { payload }: PayloadAction<{ id: string; add: boolean }>): DrawingState => {
      const { id, add } = payload;
      const others = s.picks.filter((p) => p !== id);
      return {
        ...s,
        picks: !add ? [id] : others.length < s.picks.length ? others : [...s.picks, id],
        problem: undefined,
      };
    },
    pickedAll: (s, { payload }: PayloadAction<readonly string[]>): DrawingState => ({ ...s, picks: payload }),
    constructionToggled: (s): DrawingState => ({ ...s, construction: !s.construction }),
    gridChosen: (s, { payload }: PayloadAction<number>): DrawingState => ({ ...s, grid: payload }),
    refused: (s, { payload }: PayloadAction<string>): DrawingState => ({ ...s, problem: payload }),
  },
  extraReducers: (builder) => {
    builder.addCase(viewActions.benchEntered, (): DrawingState => initialState);
    // What is picked for a step is picked on the blank too: the drawing makes room for it.
    builder.addCase(viewActions.pickingStarted, (s, { payload }) =>
      payload ? { ...initialState, grid: s.grid } : s,
    );
  },
});

export const drawingActions = slice.actions;
export const drawingReducer = slice.reducer;
