import { describe, expect, test } from "vitest";
import { buildPart, examineFully, type PartDocument, type StepDocument } from "../src/index.ts";
import { expectGrowth } from "./growth.ts";
import { part, told } from "./plain-parts.ts";

const at = (...names: string[]) => names.map((name, i) => ({ key: "abcd"[i], at: name }));
const WALLS = ["s2a", "s2b", "s2c", "s2d"];

/** A box of 260 × 180 × 70 with closed corners, and something on the upper edges of its walls. */
function box(
  t: number,
  rim: object,
  walls: Partial<StepDocument> = {},
  heights: object[] = [],
): PartDocument {
  const edges = at("s1.north", "s1.east", "s1.south", "s1.west").map((e, i) => ({ ...e, ...heights[i] }));
  const made = part(
    { id: "s1", kind: "plate", width: "260", depth: "180" },
    { ...{ id: "s2", kind: "flange", edges, length: "70", meet: "closed", gap: "0.2" }, ...walls },
    { ...{ id: "s3", kind: "hem", edges: at(...WALLS.map((w) => `${w}.end`)), length: "8" }, ...rim },
  );
  return { ...made, stock: { thickness: String(t), radius: String(t), k: "0.42" } };
}
/** What stands in something, and how long the bends on the upper edges are, in the order of the walls. */
function examined(document: PartDocument) {
  const build = examineFully(document);
  return {
    collisions: build.findings.filter((f) => f.rule === "collision").map((f) => f.message),
    lengths: build.bends.slice(4).map((b) => b.length),
  };
}
const close = (...lengths: number[]) => lengths.map((v) => expect.closeTo(v, 9));

describe("hems on the walls of a box, turned into it", () => {
  // From the outer face of a wall to its neighbour's hem: the wall, what the hem takes of its inside, and the gap.
  test.each([
    ["closed", 1, {}, 1],
    ["closed", 2, {}, 2],
    ["open", 1, {}, 2],
    ["teardrop", 1, {}, 3],
    ["rolled", 1, {}, 3],
    ["closed", 1, { cornerGap: "1" }, 1],
    ["closed", 1, { cornerGap: "0" }, 1],
  ])("%s in sheet of %d with %j end before their neighbours, no more than the corner needs", (form, t, more, depth) => {
    const { cornerGap = String(t / 2) } = more as { cornerGap?: string };
    const loss = 2 * (t + depth + Number(cornerGap));
    const { collisions, lengths } = examined(box(t, { form, ...more }));
    expect(collisions).toEqual([]);
    expect(lengths).toEqual(close(260 - loss, 180 - loss, 260 - loss, 180 - loss));
  });

  test.each([
    "80",
    "86.5",
    "100",
    "115",
  ])("on walls at %s° they do so too, alike on both sides of a corner", (angle) => {
    const { collisions, lengths } = examined(box(1, { form: "closed" }, { angle }));
    expect(collisions).toEqual([]);
    expect(lengths[0] - lengths[1]).toBeCloseTo(80, 6);
  });

  test("of walls of two heights only where they are beside each other, or beside the higher wall", () => {
    const lower = (length: string) => [{}, { own: { length } }, {}, { own: { length } }];
    // Far below the hems of their neighbours they end at these walls, as they did.
    const far = examined(box(1, { form: "closed" }, {}, lower("40")));
    const alone = examined(box(1, { form: "closed", corners: "square" }, {}, lower("40")));
    expect([far.collisions, far.lengths]).toEqual([[], alone.lengths]);
    const near = examined(box(1, { form: "closed" }, {}, lower("66")));
    expect([near.collisions, near.lengths]).toEqual([[], close(255, 175, 255, 175)]);
  });

  test("that turn outward, or have room by an inset already, stay as they are; left square they are told", () => {
    expect(examined(box(1, { form: "closed", turn: "down" })).lengths[0]).toBeGreaterThan(257);
    const inset = { form: "closed", span: "insets", leftInset: "3", rightInset: "3" };
    const [wide, square] = [inset, { ...inset, corners: "square" }].map((rim) => examined(box(1, rim)));
    expect(wide).toEqual(square);
    expect(examined(box(1, { form: "closed", corners: "square" })).collisions.length).toBeGreaterThan(0);
  });

  test("follow another thickness, and keep a wall that is too short for its insets", () => {
    expect(examined(box(1.5, { form: "closed" })).lengths).toEqual(close(252.5, 172.5, 252.5, 172.5));
    const narrow = box(1, { form: "rolled", radius: "3" });
    const steps = narrow.steps.map((s) => (s.id === "s1" ? { ...s, depth: "12" } : s));
    expect(() => examineFully({ ...narrow, steps })).not.toThrow();
  });
});

test("hems by the hundred are looked at in a time that grows as they do", () => {
  expectGrowth(1.6, [40, 80, 160, 320], (n) => {
    const edges = Array.from({ length: n }, (_, i) => `s${i + 2}a`);
    const comb = edges.map(
      (_, i): StepDocument => ({
        ...{ id: `s${i + 2}`, kind: "flange", edges: at("s1.north"), length: "30" },
        ...{ span: "width", width: "8", at: "left", shift: String(i * 10 + 2) },
      }),
    );
    const hem: StepDocument = {
      ...{ id: `s${n + 2}`, kind: "hem", form: "closed", length: "8" },
      edges: edges.map((wall, i) => ({ key: `k${i}`, at: `${wall}.end` })),
    };
    const base: StepDocument = { id: "s1", kind: "plate", width: String(n * 10 + 4), depth: "40" };
    const document = part(base, ...comb, hem);
    return () => {
      if (buildPart(document).bends.length !== 2 * n) throw new Error("Not every hem stands.");
    };
  });
});

describe("returns on the walls of a box", () => {
  const returns = (t: number, more: object = {}, walls = {}) =>
    examined(box(t, { kind: "flange", length: "20", meet: "closed", gap: "0.2", ...more }, walls));

  test.each([
    [1, "90"],
    [2, "90"],
    [1, "80"],
    [1, "100"],
  ])("in sheet of %d on walls at %s° are mitred at the corners and meet in nothing", (t, angle) => {
    expect(returns(t, {}, { angle }).collisions).toEqual([]);
  });

  test("keep the gap of the corner, and overlap where they are left open", () => {
    expect(returns(1).lengths[0] - returns(1, { gap: "1" }).lengths[0]).toBeGreaterThan(0.5);
    expect(returns(1, { meet: "open" }).collisions.length).toBeGreaterThan(0);
    expect(told(examineFully(box(1, { kind: "flange", length: "20", meet: "closed" })))).toEqual([]);
  });
});
