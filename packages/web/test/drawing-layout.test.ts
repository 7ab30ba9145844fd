import {
  drawInto,
  drawTool,
  formatShort,
  type Outline,
  type OutlineDimension,
  solveOutline,
  type XY,
} from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { layOut, MARK, textWidth } from "../src/pages/bench/drawing/layout.ts";
import { emptyOutline } from "../src/state/drawing.ts";

const draw = (outline: Outline, kind: string, places: XY[], typed: Record<string, number> = {}) => {
  const numbers = Object.fromEntries(Object.entries(typed).map(([k, value]) => [k, { text: value, value }]));
  const drawn = drawInto(outline, drawTool(kind)!, {
    places: places.map((at) => ({ at })),
    typed: numbers,
    picks: [],
  });
  if ("problem" in drawn) throw new Error(drawn.problem);
  return drawn.outline;
};
const textOf = (_: OutlineDimension, value: number) => formatShort(value, 2);
/** Where marks and dimensions stand at a zoom, in a view of 600 by 700. */
const laid = (outline: Outline, zoom: number, at: XY = [0, 0]) =>
  layOut(
    outline,
    solveOutline(outline),
    { at: ([x, y]) => [(x - at[0]) * zoom + 300, 350 - (y - at[1]) * zoom], width: 600, height: 700 },
    textOf,
  );
const boxes = ({ marks, dimensions }: ReturnType<typeof laid>) => [
  ...marks.map((m) => ({ x: m.at[0], y: m.at[1], w: MARK, h: MARK })),
  ...dimensions.map((d) => ({ x: d.at[0], y: d.at[1], w: textWidth(d.text), h: 16 })),
];
/** A plate with slots, polygons, circles and all the marks that they come with. */
const crowded = () => {
  let outline = draw(
    emptyOutline("Crowded"),
    "rectangle",
    [
      [-60, -40],
      [60, 40],
    ],
    { width: 120, height: 80 },
  );
  for (let i = 0; i < 4; i++) {
    outline = draw(
      outline,
      "slot",
      [
        [-45 + i * 25, -20],
        [-35 + i * 25, -20],
        [-35 + i * 25, -16],
      ],
      { length: 10, width: 8 },
    );
    outline = draw(
      outline,
      "polygon",
      [
        [-40 + i * 25, 15],
        [-32 + i * 25, 15],
      ],
      { diameter: 16 },
    );
    outline = draw(
      outline,
      "circle",
      [
        [-40 + i * 25, 15],
        [-36 + i * 25, 15],
      ],
      { diameter: 8 },
    );
  }
  return outline;
};

describe("marks and dimensions on a drawing", () => {
  test.each([
    0.2, 0.7, 2, 5, 14, 60,
  ])("stand over nothing of one another at %s pixels a millimetre", (zoom) => {
    const all = boxes(laid(crowded(), zoom));
    for (const [i, p] of all.entries())
      for (const q of all.slice(i + 1))
        expect(
          Math.abs(p.x - q.x) * 2 >= p.w + q.w - 1e-9 || Math.abs(p.y - q.y) * 2 >= p.h + q.h - 1e-9,
        ).toBe(true);
  });

  test("are all there where there is room, and those of what is too small to be told apart are left out", () => {
    const box = draw(
      emptyOutline("Box"),
      "rectangle",
      [
        [0, 0],
        [60, 40],
      ],
      { width: 60, height: 40 },
    );
    const near = laid(box, 5, [30, 20]);
    expect([near.marks.length, near.dimensions.map((d) => d.text).sort()]).toEqual([4, ["40", "60"]]);
    expect(laid(box, 0.1).marks).toEqual([]);
    // Nothing stands where it is not seen.
    expect(laid(box, 5, [5000, 5000])).toEqual({ marks: [], dimensions: [] });
  });

  test("stand away from the middle of the drawing, and a text that was dragged stays where it was put", () => {
    const box = draw(
      emptyOutline("Box"),
      "rectangle",
      [
        [0, 0],
        [60, 40],
      ],
      { width: 60, height: 40 },
    );
    const [width, height] = laid(box, 5, [30, 20]).dimensions;
    expect(width.at[1]).toBeGreaterThan(350 + 100);
    expect(height.at[0]).toBeGreaterThan(300 + 150);
    const moved = {
      ...box,
      dimensions: box.dimensions.map((d, i) => (i ? d : { ...d, where: [30, 60] as const })),
    };
    const [there] = laid(moved, 5, [30, 20]).dimensions;
    expect(there.at).toEqual([300, 350 - 40 * 5]);
  });

  test("of 400 circles with a number each take a moment, and none stands over another", () => {
    let outline = emptyOutline("Many");
    const dimensions: OutlineDimension[] = [];
    const points: Record<string, XY> = {};
    const curves: Outline["curves"] = Array.from({ length: 400 }, (_, i) => {
      points[`p${i}`] = [(i % 20) * 10 - 100, Math.floor(i / 20) * 10 - 100];
      dimensions.push({ id: `d${i}`, kind: "diameter", of: [`c${i}`], value: 4 });
      return { id: `c${i}`, kind: "circle", c: `p${i}`, r: 2 };
    });
    outline = { ...outline, points, curves, dimensions };
    const solved = solveOutline(outline);
    const start = performance.now();
    const made = layOut(
      outline,
      solved,
      { at: ([x, y]) => [x * 2.6 + 300, 350 - y * 2.6], width: 600, height: 700 },
      textOf,
    );
    expect(performance.now() - start).toBeLessThan(400);
    expect(made.dimensions.length).toBeGreaterThan(50);
  });
});
