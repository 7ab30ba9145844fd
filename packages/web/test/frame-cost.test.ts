import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { Rested, watchFrames } from "../src/views/folded/frame-cost.ts";

/** A card that has drawn what it was asked for when it is told so. */
function cardThat() {
  const state = { done: false, lost: false, open: 0 };
  return {
    state,
    fenceSync: vi.fn(() => {
      state.open++;
      state.done = false;
      return {} as WebGLSync;
    }),
    getSyncParameter: vi.fn(() => (state.lost ? null : state.done ? 0x9119 : 0x9118)),
    deleteSync: vi.fn(() => {
      state.open--;
    }),
    flush: vi.fn(),
  };
}
type Drawn = () => void;

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

describe("what a frame costs", () => {
  test("is the time from when it was asked for until the card has drawn it", () => {
    const [card, scene, cost] = [cardThat(), { onAfterRender: () => {} }, { last: 0 }];
    watchFrames(card, scene, cost);
    (scene.onAfterRender as Drawn)();
    vi.advanceTimersByTime(400);
    // It is not there yet, and takes as long as this already.
    expect(cost.last).toBeGreaterThanOrEqual(390);
    expect(card.state.open).toBe(1);
    card.state.done = true;
    vi.advanceTimersByTime(20);
    expect(card.state.open).toBe(0);
    expect(cost.last).toBeLessThan(430);
    // The next is a quick one.
    (scene.onAfterRender as Drawn)();
    card.state.done = true;
    vi.advanceTimersByTime(20);
    expect(cost.last).toBeLessThan(20);
    vi.advanceTimersByTime(5000);
    expect(cost.last).toBeLessThan(20);
  });

  test("is asked of one frame at a time, however many are drawn meanwhile", () => {
    const [card, scene, cost] = [cardThat(), { onAfterRender: () => {} }, { last: 0 }];
    watchFrames(card, scene, cost);
    for (let i = 0; i < 5; i++) {
      (scene.onAfterRender as Drawn)();
      vi.advanceTimersByTime(16);
    }
    expect(card.fenceSync).toHaveBeenCalledTimes(1);
    card.state.done = true;
    vi.advanceTimersByTime(20);
    (scene.onAfterRender as Drawn)();
    expect(card.fenceSync).toHaveBeenCalledTimes(2);
  });

  test("is not asked for ever of a card that was lost, nor of a view that is gone", () => {
    const [card, cost] = [cardThat(), { last: 0 }];
    const scene = { onAfterRender: () => {} };
    const before = scene.onAfterRender;
    const end = watchFrames(card, scene, cost);
    (scene.onAfterRender as Drawn)();
    card.state.lost = true;
    vi.advanceTimersByTime(50);
    expect(vi.getTimerCount()).toBe(0);
    card.state.lost = false;
    (scene.onAfterRender as Drawn)();
    expect(vi.getTimerCount()).toBe(1);
    end();
    expect(vi.getTimerCount()).toBe(0);
    expect(card.state.open).toBe(0);
    expect(scene.onAfterRender).toBe(before);
  });
});

describe("what a pointer passes over", () => {
  const SLOW = { last: 500 };
  /** Goes over some things, so long at each, as a component does that is drawn anew for each of them. */
  function pass(
    rested: Rested<string>,
    things: readonly string[],
    ms: number,
    cost: { last: number },
  ): string[] {
    let stop = () => {};
    const shown = things.map((thing) => {
      stop();
      const now = rested.shows(thing, cost);
      stop = rested.wait(thing);
      vi.advanceTimersByTime(ms);
      return now;
    });
    return shown;
  }
  const THINGS = ["a", "b", "c", "d", "e"];

  test("is shown at once where frames are quick, and nothing is waited for", () => {
    const told = vi.fn();
    const rested = new Rested("", told);
    expect(pass(rested, THINGS, 20, { last: 15 })).toEqual(THINGS);
    expect(vi.getTimerCount()).toBe(0);
    vi.advanceTimersByTime(1000);
    expect(told).not.toHaveBeenCalled();
  });

  test("is not shown where frames are slow, but for what it rests at", () => {
    const told = vi.fn();
    const rested = new Rested("", told);
    expect(pass(rested, THINGS, 50, SLOW)).toEqual(["", "", "", "", ""]);
    expect(told).not.toHaveBeenCalled();
    vi.advanceTimersByTime(1000);
    expect(told).toHaveBeenCalledTimes(1);
    expect(rested.shows("e", SLOW)).toBe("e");
    // Gone from it, that is shown once it stays gone.
    expect(pass(rested, ["", "a", ""], 50, SLOW)).toEqual(["e", "e", "e"]);
    vi.advanceTimersByTime(1000);
    expect(rested.shows("", SLOW)).toBe("");
  });

  test("is what was shown last, and not what was long ago, when frames become slow", () => {
    const rested = new Rested("", () => {});
    expect(pass(rested, ["a"], 10, { last: 15 })).toEqual(["a"]);
    expect(pass(rested, ["b"], 10, SLOW)).toEqual(["a"]);
  });
});
