import {
  type ChangedValues,
  changeItem,
  itemChange,
  type StockItem,
  type StockItems,
  type StockSection,
} from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import type { StockEntry } from "../api/stock-api.ts";
import { emptyTrail, joins, noted, steppedBack, steppedOn, type Trail } from "./trail.ts";

/** An item as it is being changed, before it is saved. */
export interface StockDraft {
  readonly section: StockSection;
  readonly item: StockItem;
  /** The revision it started from; 0 for one that is new. */
  readonly revision: number;
  /** Values that take a step back, or do it again. */
  readonly trail: Trail<ChangedValues>;
}

export interface StockState {
  readonly entries?: readonly StockEntry[];
  readonly problem?: string;
  readonly drafts: Readonly<Record<string, StockDraft>>;
}

export const draftName = (section: StockSection, id: string): string => `${section}/${id}`;

const KEPT = "hillcrest:stock-drafts";

/** Drafts outlive a closed window; without their undo. */
function readDrafts(): Record<string, StockDraft> {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? "{}") as Record<string, StockDraft>;
    return Object.fromEntries(Object.entries(kept).map(([k, d]) => [k, { ...d, trail: emptyTrail }]));
  } catch {
    return {};
  }
}

/** Keeps drafts in the browser until they are saved. */
export function rememberDrafts({ drafts }: StockState): void {
  try {
    const kept = Object.entries(drafts).map(([k, { section, item, revision }]) => [
      k,
      { section, item, revision },
    ]);
    if (kept.length === 0) localStorage.removeItem(KEPT);
    else localStorage.setItem(KEPT, JSON.stringify(Object.fromEntries(kept)));
  } catch {
    // A table too large for the browser's storage stays in memory; leaving the page asks first.
  }
}

const initial: StockState = { drafts: typeof localStorage === "undefined" ? {} : readDrafts() };

const change = (state: StockState, name: string, draft: StockDraft | undefined): StockState => {
  const { [name]: _old, ...others } = state.drafts;
  return { ...state, drafts: draft ? { ...others, [name]: draft } : others };
};

// Plain reducers: items may be tables of very many rows, which no proxy should walk.
const slice = createSlice({
  name: "stock",
  initialState: initial,
  reducers: {
    stockLoaded: (state, { payload }: PayloadAction<readonly StockEntry[]>) => ({
      ...state,
      entries: payload,
      problem: undefined,
    }),
    stockFailed: (state, { payload }: PayloadAction<string>) => ({ ...state, problem: payload }),
    entryRead: (state, { payload }: PayloadAction<StockEntry>) => ({
      ...state,
      entries: state.entries?.map((e) =>
        e.section === payload.section && e.item.id === payload.item.id ? payload : e,
      ),
    }),
    itemEdited: (
      state,
      { payload }: PayloadAction<{ section: StockSection; item: StockItem; mark?: string }>,
    ) => {
      const { section, item, mark } = payload;
      const name = draftName(section, item.id);
      const entry = state.entries?.find((e) => e.section === section && e.item.id === item.id);
      const before = state.drafts[name];
      const was = before?.item ?? entry?.item;
      const trail = before?.trail ?? emptyTrail;
      const revision = before?.revision ?? entry?.revision ?? 0;
      if (!was) return change(state, name, { section, item, revision, trail });
      // What joins a step is taken back with it: to the item as it was before all of it.
      const first = joins(trail, mark) ? changeItem(was, trail.past.at(-1)!).item : was;
      const back = itemChange(item, first);
      return change(state, name, { section, item, revision, trail: noted(trail, back, mark) });
    },
    itemUndone: (state, { payload }: PayloadAction<string>) => {
      const draft = state.drafts[payload];
      const values = draft?.trail.past.at(-1);
      if (!draft || !values) return state;
      const { item, back } = changeItem(draft.item, values);
      return change(state, payload, { ...draft, item, trail: steppedBack(draft.trail, back) });
    },
    itemRedone: (state, { payload }: PayloadAction<string>) => {
      const draft = state.drafts[payload];
      const values = draft?.trail.future[0];
      if (!draft || !values) return state;
      const { item, back } = changeItem(draft.item, values);
      return change(state, payload, { ...draft, item, trail: steppedOn(draft.trail, back) });
    },
    draftDropped: (state, { payload }: PayloadAction<string>) => change(state, payload, undefined),
    /** The same changes, on top of what someone else saved meanwhile. */
    draftRebased: (state, { payload }: PayloadAction<{ name: string; revision: number }>) => {
      const draft = state.drafts[payload.name];
      return draft ? change(state, payload.name, { ...draft, revision: payload.revision }) : state;
    },
  },
});

export const stockReducer = slice.reducer;
export const stockActions = slice.actions;

/** The items of a section as they stand now: drafts in the place of what is saved. */
export function itemsNow<S extends StockSection>(state: StockState, section: S): StockItems[S][] {
  const saved = (state.entries ?? []).filter((e) => e.section === section);
  const known = new Set(saved.map((e) => e.item.id));
  const fresh = Object.values(state.drafts).filter((d) => d.section === section && !known.has(d.item.id));
  return [
    ...saved.map((e) => state.drafts[draftName(section, e.item.id)]?.item ?? e.item),
    ...fresh.map((d) => d.item),
  ] as StockItems[S][];
}
