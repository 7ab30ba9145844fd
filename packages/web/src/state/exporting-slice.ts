import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** What came of asking for a file. */
export type SaveOutcome = { readonly saved: string } | { readonly refused: string };

export interface ExportingState {
  /** What came of the last file that was asked for on this page. */
  readonly outcome?: SaveOutcome;
  /** So many files have left since the window was opened. */
  readonly count: number;
}

const initialState: ExportingState = { count: 0 };

const slice = createSlice({
  name: "exporting",
  initialState,
  reducers: {
    fileAsked: (s, { payload }: PayloadAction<SaveOutcome>) => ({
      outcome: payload,
      count: s.count + ("saved" in payload ? 1 : 0),
    }),
    outcomeForgotten: (s) => ({ count: s.count }),
  },
});

export const exportingActions = slice.actions;
export const exportingReducer = slice.reducer;
