import { describe, expect, test } from "vitest";
import { examinePart, isStopped } from "../src/index.ts";
import { hole, part, plate, timed, told } from "./plain-parts.ts";

/** The exponent by which time grows with size, fitted over sizes that each double. */
function exponentOf(sizes: readonly number[], work: (n: number) => void): number {
  work(sizes[0]);
  const points = sizes.map((n) => {
    const begun = performance.now();
    work(n);
    return [Math.log(n), Math.log(performance.now() - begun)] as const;
  });
  const mean = (k: 0 | 1) => points.reduce((sum, p) => sum + p[k], 0) / points.length;
  const [mx, my] = [mean(0), mean(1)];
  const over = points.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  return over / points.reduce((sum, [x]) => sum + (x - mx) ** 2, 0);
}

describe("heavy parts", () => {
  /** Holes of 6 in a field of 50 × 25, however many: each lies over hundreds of others. */
  const crowd = (n: number) => {
    const across = Math.round(Math.sqrt(2 * n));
    return part(
      plate(
        "110",
        "150",
        Array.from({ length: n }, (_, i) =>
          hole(
            "6",
            String(((i % across) * 50) / across - 25),
            String((Math.floor(i / across) * 50) / across - 12),
            `k${i}`,
          ),
        ),
      ),
    );
  };
  const tabs = (n: number) =>
    part(
      plate("15000", "150"),
      {
        id: "s2",
        kind: "flange",
        edges: [{ key: "a", at: "s1.north" }],
        span: "width",
        width: "5",
        at: "left",
        length: "20",
      },
      {
        id: "s3",
        kind: "pattern",
        steps: [{ key: "a", at: "s2" }],
        form: "edge",
        edge: [{ key: "a", at: "s1.north" }],
        count: String(n),
        pitch: "14",
      },
    );

  test("5,000 holes over each other are one opening, told in one sentence", () => {
    const { build, took } = timed(crowd(5000));
    expect(took).toBeLessThan(20_000);
    expect(build.blank!.openings.length).toBe(1);
    expect(told(build)).toEqual([
      "warn: 5000 cuts run into others and become one opening with them. The hole ⌀ 6 at -25, -12 on plate A is the first of them.",
    ]);
    expect(exponentOf([400, 800, 1600, 3200], (n) => void examinePart(crowd(n)))).toBeLessThan(1.6);
  });

  test("a pattern of 1,000 tabs is built in seconds", () => {
    const { build, took } = timed(tabs(1000));
    expect(took).toBeLessThan(30_000);
    expect(build.bends.length).toBe(1000);
    expect(isStopped(build)).toBe(false);
  });
});
