import type { Die, StockItem } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { itemsNow, type StockState, stockActions, stockReducer } from "../src/state/stock-slice.ts";

const die = (v: number): Die => ({
  id: "v",
  name: "V",
  v,
  angle: 86,
  radius: 1,
  length: 500,
  mostForce: 100,
});
const loaded: StockState = {
  drafts: {},
  entries: [{ section: "dies", revision: 3, updatedAt: "", item: die(12) }],
};
const edit = (state: StockState, item: StockItem, mark?: string) =>
  stockReducer(state, stockActions.itemEdited({ section: "dies", item, mark }));
const now = (state: StockState) => itemsNow(state, "dies").map((d) => d.v);

describe("an item of the stock that is being changed", () => {
  test("stands in the place of what is saved, and remembers the revision it started from", () => {
    const state = edit(loaded, die(14));
    expect(now(state)).toEqual([14]);
    expect(state.drafts["dies/v"].revision).toBe(3);
    expect(state.entries).toBe(loaded.entries);
  });

  test("goes back and forth; keystrokes in one field are one step", () => {
    let state = edit(edit(edit(loaded, die(1), "a"), die(14), "a"), die(16), "b");
    state = stockReducer(state, stockActions.itemUndone("dies/v"));
    expect(now(state)).toEqual([14]);
    state = stockReducer(state, stockActions.itemUndone("dies/v"));
    expect(now(state)).toEqual([12]);
    state = stockReducer(state, stockActions.itemUndone("dies/v"));
    expect(now(state)).toEqual([12]);
    for (let i = 0; i < 3; i++) state = stockReducer(state, stockActions.itemRedone("dies/v"));
    expect(now(state)).toEqual([16]);
  });

  test("is dropped without a trace, and rebased without losing the change", () => {
    const state = edit(loaded, die(14));
    expect(now(stockReducer(state, stockActions.draftDropped("dies/v")))).toEqual([12]);
    const rebased = stockReducer(state, stockActions.draftRebased({ name: "dies/v", revision: 5 }));
    expect(rebased.drafts["dies/v"]).toMatchObject({ revision: 5, item: { v: 14 } });
  });

  test("that is new stands after what is saved, and starts from no revision", () => {
    const state = edit(loaded, { ...die(20), id: "new" });
    expect(now(state)).toEqual([12, 20]);
    expect(state.drafts["dies/new"].revision).toBe(0);
  });
});
