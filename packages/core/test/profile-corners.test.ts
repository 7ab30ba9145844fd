import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  evenState,
  examinePart,
  foldPoint,
  foldSheet,
  newPart,
  type PartBuild,
  pieceIndex,
  platesOf,
  type StepDocument,
  toRadians,
} from "../src/index.ts";
import { filletCorner } from "../src/plane/corner-fillet.ts";

const leg = (values: object) => values;
const profile = (legs: readonly object[], values: object = {}): PartBuild => {
  const part = newPart("Profile");
  const step: StepDocument = {
    id: "s1",
    kind: "profile",
    width: "28",
    legs: legs.map((l, i) => ({ key: "abcdefgh"[i], length: "0", ...l })),
    ...values,
  };
  return examinePart({
    ...part,
    stock: { ...part.stock, thickness: "2", radius: "3", k: "0.4" },
    steps: [step],
  });
};
const messages = (b: PartBuild) => b.findings.map((f) => f.message);
const sizeOf = (b: PartBuild) => b.folded!.box.max.map((v, k) => v - b.folded!.box.min[k]);

describe("rounding a corner", () => {
  test("between two straight pieces takes ρ·tan(θ/2) off each", () => {
    for (const degrees of [10, -45, 90, -135, 170]) {
      const corner = toRadians(degrees);
      const made = filletCorner(undefined, undefined, corner, 5);
      const back = 5 * Math.tan(Math.abs(corner) / 2);
      expect(made).toEqual({
        ok: true,
        value: {
          before: expect.closeTo(back, 9),
          after: expect.closeTo(back, 9),
          turn: expect.closeTo(corner, 12),
        },
      });
    }
  });

  test("is tangent to both its neighbours, whatever they are", () => {
    const piece = fc.option(
      fc.record({ radius: fc.integer({ min: 12, max: 60 }), way: fc.constantFrom(1 as const, -1 as const) }),
      { nil: undefined },
    );
    fc.assert(
      fc.property(
        piece,
        piece,
        fc.integer({ min: 10, max: 120 }),
        fc.constantFrom(1, -1),
        (before, after, degrees, s) => {
          const corner = s * toRadians(degrees);
          const made = filletCorner(before, after, corner, 3);
          fc.pre(made.ok);
          if (!made.ok) return;
          const { before: a, after: b, turn } = made.value;
          // Walk back along the piece before, round the corner, and on along the piece after: it ends on the same curve.
          const at = (p: typeof before, heading: number, by: number): [number, number, number] => {
            if (!p) return [Math.cos(heading) * by, Math.sin(heading) * by, heading];
            const end = heading + p.way * by;
            return [
              p.way * p.radius * (Math.sin(end) - Math.sin(heading)),
              -p.way * p.radius * (Math.cos(end) - Math.cos(heading)),
              end,
            ];
          };
          const [x0, y0, h0] = at(before, 0, -a);
          const [x1, y1, h1] = at(after, corner, b);
          expect(h1 - h0).toBeCloseTo(turn, 9);
          const way = Math.sign(turn);
          expect(x0 + way * 3 * (Math.sin(h1) - Math.sin(h0))).toBeCloseTo(x1, 7);
          expect(y0 - way * 3 * (Math.cos(h1) - Math.cos(h0))).toBeCloseTo(y1, 7);
        },
      ),
    );
  });

  test("says so where there is no room", () => {
    expect(filletCorner({ radius: 4, way: 1 }, undefined, toRadians(90), 5).ok).toBe(false);
  });
});

describe("arcs of a profile meet straight legs at corners with the stock's radius", () => {
  // Flat, down into a half-round saddle of 18, flat again: the corners turn by what the saddle leaves them.
  const saddle = (values: object = {}) =>
    profile(
      [
        leg({ length: "52", turn: "-90" }),
        leg({ form: "arc", turn: "180", radius: "18", corner: "-90" }),
        leg({ length: "52" }),
      ],
      { on: "middle", ...values },
    );

  test("a half-round saddle stands in the middle of a straight profile", () => {
    const b = saddle();
    expect(messages(b)).toEqual([]);
    expect(b.bends.map((r) => r.up)).toEqual([false, true, false]);
    // On the middle of the thickness: ρ of a corner is 4, the saddle's 18; their centres are 22 apart, 4 above and 0 below the line.
    const phi = Math.asin(4 / 22);
    expect(b.bends[0].angle).toBeCloseTo(Math.PI / 2 - phi, 9);
    expect(b.bends[1].angle).toBeCloseTo(Math.PI - 2 * phi, 9);
    expect(b.bends[1].radius).toBeCloseTo(17, 9);
    // 140 long, and as deep as the saddle with half the thickness on both sides.
    const size = sizeOf(b).sort((p, q) => p - q);
    expect(size).toEqual([18 + 2, 28, 140].map((v) => expect.closeTo(v, 6)));
  });

  test("the legs on both sides lie in one plane again", () => {
    const b = saddle();
    const folding = foldSheet(b.sheet!, evenState(b.sheet!, 1));
    const last = pieceIndex(b.sheet!, "plate", "s1c");
    const { x0, y1 } = platesOf(b.sheet!)[last].box;
    const { origin } = platesOf(b.sheet!)[last].frame;
    const [, , z] = foldPoint(folding, last, [origin.x + x0, origin.y + y1, 0]);
    expect(z).toBeCloseTo(0, 9);
  });

  test.each(["outer", "inner", "A", "B", "middle"])("with the chain on %s", (on) => {
    const b = saddle({ on });
    expect(messages(b)).toEqual([]);
    expect(b.bends.reduce((sum, r) => sum + (r.up ? 1 : -1) * r.angle, 0)).toBeCloseTo(0, 9);
  });

  test("measured to the tangent points a corner is a bend of its own, and takes nothing", () => {
    const b = saddle({ on: "tangent" });
    expect(messages(b)).toEqual([]);
    expect(b.bends.map((r) => r.angle)).toEqual(
      [Math.PI / 2, Math.PI, Math.PI / 2].map((v) => expect.closeTo(v, 12)),
    );
  });

  test("a corner that an arc leaves no room for is told where it is given", () => {
    const tight = profile(
      [leg({ length: "40", turn: "90" }), leg({ form: "arc", turn: "90", radius: "3", corner: "0" })],
      {
        on: "middle",
      },
    );
    expect(messages(tight)[0]).toContain("The corner after leg 1 cannot be rounded");
    expect(tight.findings[0].field).toBe("legs.a.turn");
  });

  test("two arcs meet at a corner", () => {
    const b = profile(
      [
        leg({ length: "20" }),
        leg({ form: "arc", turn: "90", radius: "30", corner: "-60" }),
        leg({ form: "arc", turn: "90", radius: "30" }),
        leg({ length: "20" }),
      ],
      { on: "middle" },
    );
    expect(messages(b)).toEqual([]);
    expect(b.bends.map((r) => r.up)).toEqual([true, false, true]);
  });
});

describe("the angle between two legs", () => {
  const stand = (angles: string, first: string, second: string) =>
    profile(
      [leg({ length: "140", turn: first }), leg({ length: "90", turn: second }), leg({ length: "110" })],
      {
        angles,
      },
    );

  test("is given as the turn or as the inside angle, with the same metal", () => {
    const [turn, inside] = [stand("turn", "72", "-80"), stand("inside", "108", "-100")];
    expect(messages(inside)).toEqual([]);
    expect(inside.blank!.height).toBeCloseTo(turn.blank!.height, 12);
    expect(inside.bends.map((b) => [b.angle, b.up])).toEqual(
      turn.bends.map((b) => [expect.closeTo(b.angle, 12), b.up]),
    );
  });

  test("of 180° inside is no bend", () => {
    const b = stand("inside", "180", "100");
    expect(messages(b)).toEqual([]);
    expect(b.bends.length).toBe(1);
    expect(platesOf(b.sheet!).length).toBe(2);
  });
});
