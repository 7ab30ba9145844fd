import { describe, expect, test, vi } from "vitest";
import { Presses } from "../src/ui/press.ts";

describe("what waits for a press to end", () => {
  const heard = new Map<string, (e?: { buttons: number }) => void>();
  const later: (() => void)[] = [];
  const presses = new Presses();
  presses.watch({
    addEventListener: ((kind: string, act: () => void) =>
      heard.set(kind, act)) as unknown as Window["addEventListener"],
    setTimeout: ((act: () => void) => later.push(act)) as unknown as Window["setTimeout"],
  });
  const timersRun = () => {
    for (const act of later.splice(0)) act();
  };

  test("is done at once while no button is down", () => {
    const act = vi.fn();
    presses.after(act);
    expect(act).toHaveBeenCalledTimes(1);
    expect(presses.isPressed).toBe(false);
  });

  test.each([
    "pointerup",
    "pointercancel",
  ])("is done once after %s, when the click that ends it is over", (up) => {
    const [first, second] = [vi.fn(), vi.fn()];
    heard.get("pointerdown")!();
    expect(presses.isPressed).toBe(true);
    presses.after(first);
    presses.after(second);
    heard.get(up)!();
    // The click comes here, on what was pressed.
    expect(first).not.toHaveBeenCalled();
    timersRun();
    expect(first).toHaveBeenCalledTimes(1);
    expect(second).toHaveBeenCalledTimes(1);
    heard.get("pointerdown")!();
    heard.get(up)!();
    timersRun();
    expect(first).toHaveBeenCalledTimes(1);
  });

  test("is done when the pointer moves with no button down: a list of the system has kept the release", () => {
    const act = vi.fn();
    heard.get("pointerdown")!();
    presses.after(act);
    heard.get("pointermove")!({ buttons: 1 });
    timersRun();
    expect(act).not.toHaveBeenCalled();
    expect(presses.isPressed).toBe(true);
    heard.get("pointermove")!({ buttons: 0 });
    timersRun();
    expect(act).toHaveBeenCalledTimes(1);
    expect(presses.isPressed).toBe(false);
  });
});
