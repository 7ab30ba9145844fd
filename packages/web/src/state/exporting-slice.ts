import type { FoldedView } from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** What came of asking for a file. */
export type SaveOutcome =
  | { readonly saved: string }
  | {
      readonly refused: string;
      /** Where findings stop it: what was asked for, to be saved anyway. */
      readonly stopped?: { readonly format: string; readonly how: HowSaved };
    };

/** How a part is shown or which piece of it is wanted. */
export interface HowSaved {
  readonly fold?: number;
  readonly view?: FoldedView;
  readonly piece?: number;
  /** Whether it is wanted although findings stop the part. */
  readonly anyway?: boolean;
}

export interface ExportingState {
  /** What came of the last file that was asked for on this page. */
  readonly outcome?: SaveOutcome;
  /** So many files have left since the window was opened. */
  readonly count: number;
  /** A file was asked for and is not there yet: the part is still built or searched for collisions. */
  readonly waiting: boolean;
}

const initialState: ExportingState = { count: 0, waiting: false };

const slice = createSlice({
  name: "exporting",
  initialState,
  reducers: {
    fileBegun: (s) => ({ ...s, waiting: true }),
    fileAsked: (s, { payload }: PayloadAction<SaveOutcome>) => ({
      waiting: false,
      outcome: payload,
      count: s.count + ("saved" in payload ? 1 : 0),
    }),
    outcomeForgotten: ({ count, waiting }) => ({ count, waiting }),
  },
});

export const exportingActions = slice.actions;
export const exportingReducer = slice.reducer;
