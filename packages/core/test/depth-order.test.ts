import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { depthOrder, type SeenFace } from "../src/formats/svg/depth-order.ts";
import { sameCases, spread } from "./random-cases.ts";

sameCases(19);

/** A level rectangle at a depth. */
const sheet = (x: number, y: number, w: number, h: number, d: number, middle = d): SeenFace => ({
  rings: [
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
  ],
  plane: { d, a: 0, b: 0 },
  depth: middle,
});

describe("the order in which faces are drawn", () => {
  it("has what is nearer after what is farther, where both are seen, whatever their middles say", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            spread(0, 80),
            spread(0, 80),
            spread(5, 60),
            spread(5, 60),
            spread(-50, 50),
            spread(-50, 50),
          ),
          {
            maxLength: 25,
          },
        ),
        (list) => {
          const faces = list.map(([x, y, w, h, d, m]) => sheet(x, y, w, h, d, m));
          const order = depthOrder(faces);
          expect([...order].sort((a, b) => a - b)).toEqual(faces.map((_, i) => i));
          const place = new Map(order.map((k, i) => [k, i]));
          faces.forEach((p, i) => {
            faces.forEach((q, j) => {
              const [[a], [b]] = [p.rings, q.rings];
              const over =
                a[0][0] < b[1][0] - 1 &&
                b[0][0] < a[1][0] - 1 &&
                a[0][1] < b[2][1] - 1 &&
                b[0][1] < a[2][1] - 1;
              if (over && p.plane.d > q.plane.d + 0.1) expect(place.get(i)).toBeGreaterThan(place.get(j)!);
            });
          });
        },
      ),
    );
  });

  it("draws a long wall before the small tab that stands in front of one end of it", () => {
    // The wall's middle is nearer than the tab, the wall itself there is not.
    const wall: SeenFace = { ...sheet(0, 0, 100, 10, 0), plane: { d: 0, a: 1, b: 0 }, depth: 50 };
    const tab = sheet(0, 0, 10, 10, 20);
    expect(depthOrder([tab, wall])).toEqual([1, 0]);
    expect(depthOrder([wall, tab])).toEqual([0, 1]);
  });

  it("ends where three cover one another in turn, and where there are very many", () => {
    const slanted = (
      x: number,
      y: number,
      w: number,
      h: number,
      a: number,
      b: number,
      d: number,
    ): SeenFace => ({
      ...sheet(x, y, w, h, d),
      plane: { d, a, b },
    });
    const ring = [
      slanted(0, 0, 30, 6, 1, 0, 0),
      slanted(24, 0, 6, 30, 0, 1, 20),
      slanted(0, 0, 30, 30, -1, -1, 40),
    ];
    expect(depthOrder(ring).length).toBe(3);
    const many = Array.from({ length: 3000 }, (_, i) => sheet(i % 60, i / 60, 3, 3, -i));
    const start = performance.now();
    expect(depthOrder(many).slice(0, 2)).toEqual([2999, 2998]);
    expect(performance.now() - start).toBeLessThan(2000);
  });
});
