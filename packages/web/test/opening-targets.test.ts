import { buildPart, movePoint, newPart, type PartDocument } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { openingTargets, sheetDrawn, targetsOf } from "../src/pages/blank/sheet-geometry.ts";

const at = (i: number) => (i - 9.5) * 10;
const document = (blank: PartDocument["blank"]): PartDocument => ({
  ...newPart("Field"),
  ...(blank ? { blank } : {}),
  steps: [
    {
      ...{ id: "s1", kind: "plate", width: "220", depth: "220" },
      holes: Array.from({ length: 400 }, (_, i) => ({
        ...{ key: `h${i}`, d: "6" },
        ...{ x: String(at(i % 20)), y: String(at(Math.floor(i / 20))) },
      })),
    },
    {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "rectangle" },
      ...{ width: "2", height: "2", x: "0", y: "0" },
    },
  ],
});

describe("what is pointed at where a blank has many openings", () => {
  test.each([
    ["as modelled", undefined],
    ["turned by an angle", { turn: "angle", angle: "30" }],
    ["seen from its other side", { side: "A" }],
  ] as const)("%s: each opening by its rim and its middle, an edge, and nothing in a web", (_title, blank) => {
    const part = document(blank as PartDocument["blank"]);
    const build = buildPart(part);
    const { placed } = sheetDrawn(part, build)!;
    const found = openingTargets(build.sheet!, placed);
    // As they are where each is an element of the page: the same names, at the same places.
    const elements = targetsOf(build.sheet!, placed);
    const rims = elements.filter((t) => t.end.kind === "hole" && t.path);
    expect(rims.length).toBe(400);
    for (let i = 0; i < 400; i++) {
      const middle = movePoint(placed.motion, { x: at(i % 20), y: at(Math.floor(i / 20)) });
      const rim = found({ x: middle.x + 3, y: middle.y }, 0.5);
      expect(rim).toEqual(rims.find((t) => t.end.name === `s1 h${i}`));
      expect(found(middle, 0.5)).toBeUndefined();
    }
    // One that is not round is measured from its middle too.
    const [square] = elements.filter((t) => t.end.kind === "hole" && t.at);
    expect(found({ x: square.at!.x + 0.2, y: square.at!.y }, 0.5)).toEqual(square);
    expect(found(movePoint(placed.motion, { x: 0, y: 5 }), 0.5)).toBeUndefined();
    const [from] = placed.blank.outlines[0];
    const half = { x: (from.a.x + from.b.x) / 2, y: (from.a.y + from.b.y) / 2 };
    expect(found(half, 0.5)?.end.kind).toBe("edge");
    // With many of them only what is few is an element.
    expect(targetsOf(build.sheet!, placed, true).every((t) => t.end.kind === "corner")).toBe(true);
  });
});
