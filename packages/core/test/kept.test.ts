import { describe, expect, test, vi } from "vitest";
import { comesAfter, Kept } from "../src/kept.ts";

describe("what is kept between builds", () => {
  test("is found once for each record, and again for another that says the same", () => {
    const find = vi.fn((p: { readonly x: number }) => ({ twice: p.x * 2 }));
    const kept = new Kept(find);
    const [a, b] = [{ x: 4 }, { x: 4 }];
    expect(kept.of(a)).toBe(kept.of(a));
    expect(kept.of(b)).toEqual({ twice: 8 });
    expect(kept.of(b)).not.toBe(kept.of(a));
    expect(find).toHaveBeenCalledTimes(2);
  });

  test("is found anew when it is asked with something else, and the last is kept", () => {
    const find = vi.fn((p: { readonly x: number }, chord: number) => [p.x / chord]);
    const kept = new Kept(find);
    const a = { x: 6 };
    const fine = kept.of(a, 2);
    expect(kept.of(a, 2)).toBe(fine);
    expect(kept.of(a, 3)).toEqual([2]);
    expect(kept.of(a, 2)).toEqual([3]);
    expect(find).toHaveBeenCalledTimes(3);
    const byValue = new Kept(find, (p: number, q) => Math.abs(p - q) < 1e-9);
    expect(byValue.of(a, 2)).toBe(byValue.of(a, 2 + 1e-12));
  });

  test("an answer that is nothing is an answer", () => {
    const find = vi.fn(() => undefined);
    const kept = new Kept(find);
    const a = {};
    kept.of(a);
    kept.of(a);
    expect(find).toHaveBeenCalledTimes(1);
  });

  test("is revised out of the answer about the record before it, one step back and no more", () => {
    const find = vi.fn((p: { readonly x: number }, _by: number) => `found ${p.x}`);
    const kept = new Kept(find, Object.is, (now, _by, before, answer) =>
      now.x - before.x === 1 ? `${answer}, then ${now.x}` : undefined,
    );
    const [a, b, c, far] = [{ x: 1 }, { x: 2 }, { x: 3 }, { x: 9 }];
    comesAfter(b, a);
    // Of the one before nothing is known yet.
    expect(kept.of(b, 0)).toBe("found 2");
    comesAfter(c, b);
    expect(kept.of(c, 0)).toBe("found 2, then 3");
    comesAfter(far, c);
    expect(kept.of(far, 0)).toBe("found 9");
    // Asked with something else, what was found before says nothing.
    comesAfter(a, far);
    expect(kept.of(a, 1)).toBe("found 1");
    expect(find).toHaveBeenCalledTimes(3);
    expect([kept.known(a), kept.known({ x: 1 })]).toEqual(["found 1", undefined]);
  });

  test("an answer is made out of an earlier one's where that can be done, and found where it cannot", () => {
    const find = vi.fn((p: { readonly x: number }) => `found ${p.x}`);
    const kept = new Kept(find);
    const [old, now, other, strange] = [{ x: 1 }, { x: 2 }, { x: 3 }, { x: 4 }];
    kept.from(strange, now, () => "never asked for, so nothing is known to make it of");
    expect(kept.of(strange)).toBe("found 4");
    kept.of(old);
    kept.from(now, old, (answer) => `${answer}, and on`);
    expect(kept.of(now)).toBe("found 1, and on");
    kept.from(other, old, () => undefined);
    expect(kept.of(other)).toBe("found 3");
    expect(kept.of(old)).toBe("found 1");
  });

  test("one that says the same takes over the answer of another, unless it has its own", () => {
    const find = vi.fn((p: { readonly x: number }, label: string) => `${label}${p.x}`);
    const kept = new Kept(find);
    const [old, now, other] = [{ x: 1 }, { x: 1 }, { x: 2 }];
    kept.like(now, old, () => true);
    expect(kept.of(old, "A")).toBe("A1");
    kept.like(now, old, () => false);
    expect(kept.of(now, "A")).toBe("A1");
    expect(find).toHaveBeenCalledTimes(2);
    const third = { x: 1 };
    kept.like(third, old, () => true);
    expect(kept.of(third, "A")).toBe("A1");
    expect(find).toHaveBeenCalledTimes(2);
    // Taken over with what it hangs on: asked otherwise it is found anew.
    expect(kept.of(third, "B")).toBe("B1");
    kept.of(other, "A");
    const never = vi.fn(() => true);
    kept.like(other, old, never);
    kept.like(old, old, never);
    expect(never).not.toHaveBeenCalled();
    expect(kept.of(other, "A")).toBe("A2");
  });
});
