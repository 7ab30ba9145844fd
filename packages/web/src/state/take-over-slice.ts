import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import type { TakeOverEntry } from "../api/stock-api.ts";

export interface TakeOversState {
  /** The newest first; nothing until they were asked for. */
  readonly jobs?: readonly TakeOverEntry[];
  /** Why nothing newer is known of them. */
  readonly problem?: string;
  /** Those that were put away, by their ids. */
  readonly closed: readonly string[];
}

const KEPT = "hillcrest:take-overs-closed";
/** So many are remembered: more than the server lists. */
const MOST_REMEMBERED = 50;

function remembered(): string[] {
  try {
    const list: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "[]");
    return Array.isArray(list) ? list.filter((id) => typeof id === "string") : [];
  } catch {
    return [];
  }
}

const initialState: TakeOversState = { closed: remembered() };

const slice = createSlice({
  name: "takeOvers",
  initialState,
  reducers: {
    takeOversTold: ({ closed }, { payload }: PayloadAction<readonly TakeOverEntry[]>) => ({
      closed,
      jobs: payload,
    }),
    /** One that was begun or cancelled here. */
    takeOverTold: (s, { payload }: PayloadAction<TakeOverEntry>) => ({
      ...s,
      jobs: [payload, ...(s.jobs ?? []).filter((j) => j.id !== payload.id)],
    }),
    takeOversUnknown: (s, { payload }: PayloadAction<string>) => ({ ...s, problem: payload }),
    takeOverClosed: (s, { payload }: PayloadAction<string>) => ({
      ...s,
      closed: [...s.closed, payload].slice(-MOST_REMEMBERED),
    }),
  },
});

export const takeOverActions = slice.actions;
export const takeOverReducer = slice.reducer;

/** Keeps in this browser which were put away. */
export function rememberClosed(closed: readonly string[]): void {
  try {
    localStorage.setItem(KEPT, JSON.stringify(closed));
  } catch {
    // Then they are shown again the next time.
  }
}

/** What is shown of them: those under way, and the last one that has ended, until it is put away. */
export function shownTakeOvers({ jobs = [], closed }: TakeOversState): TakeOverEntry[] {
  const ended = jobs.find((j) => j.state !== "working");
  return jobs.filter((j) => j.state === "working" || (j === ended && !closed.includes(j.id)));
}
