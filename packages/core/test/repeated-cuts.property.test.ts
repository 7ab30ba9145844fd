import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, loopArea, type PartBuild, type StepDocument } from "../src/index.ts";
import { part, plate, told } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261202);
const RUNS = casesOf(60);
const ONE = [{ key: "a", at: "s1" }];

interface Wish {
  readonly form: "round" | "rectangle" | "slot";
  readonly turned: number;
  readonly x: number;
  readonly y: number;
  readonly columns: number;
  readonly rows: number;
  readonly pitch: number;
  readonly rowPitch: number;
  readonly held: boolean;
  readonly through: "held" | "flat";
  readonly flange: boolean;
  readonly second: boolean;
}
// On the thousandth, as they are written: a pattern adds what a cut of its own says.
const written = (min: number, max: number) => spread(min, max).map((v) => Math.round(v * 1000) / 1000);
const wish: fc.Arbitrary<Wish> = fc.record({
  form: fc.constantFrom("round", "rectangle", "slot"),
  turned: fc.constantFrom(0, 0, 30, 90),
  x: written(-70, 40),
  y: written(-30, 34),
  columns: fc.integer({ min: 1, max: 6 }),
  rows: fc.integer({ min: 1, max: 3 }),
  pitch: written(3, 26),
  rowPitch: written(4, 18),
  held: fc.boolean(),
  through: fc.constantFrom("held", "flat"),
  flange: fc.boolean(),
  second: fc.boolean(),
});

const mm = (v: number) => String(Math.round(v * 1000) / 1000);
const beginning = ({ flange, held }: Wish): StepDocument[] => [
  ...(flange
    ? [
        {
          id: "s2",
          kind: "flange",
          edges: [{ key: "a", at: "s1.north" }],
          length: "30",
        } satisfies StepDocument,
      ]
    : []),
  ...(flange && held ? [{ id: "s3", kind: "hold", does: "hold", which: "all" } satisfies StepDocument] : []),
];
const cut = (id: string, w: Wish, x: number, y: number, size: number): StepDocument => ({
  ...{ id, kind: "cut", form: w.form, plate: ONE, through: w.through, turned: String(w.turned) },
  ...{ width: mm(size * 1.4), height: mm(size), diameter: mm(size), x: mm(x), y: mm(y) },
});

/** What is left, in numbers that do not hang on who cut it. */
const left = ({ blank, bends, folded }: PartBuild) => ({
  outlines: blank!.outlines.length,
  areas: blank!.openings.map((l) => Math.round(loopArea(l) * 1e4)).sort((a, b) => a - b),
  area: Math.round(blank!.area * 1e4),
  bends: bends.map((b) => [Math.round(b.length * 1e5), b.pieces.length]),
  volume: Math.round(folded!.volume * 1e3),
});

describe("cuts that a pattern repeats", () => {
  test("leave what the same cuts leave that are made one by one", () => {
    fc.assert(
      fc.property(wish, (w) => {
        const size = 4;
        const places = Array.from({ length: w.rows * w.columns }, (_, i) => ({
          x: w.x + (i % w.columns) * w.pitch,
          y: w.y + Math.floor(i / w.columns) * w.rowPitch,
        }));
        const ids = ["s10", ...(w.second ? ["s11"] : [])];
        const own = (x: number, y: number, suffix = ""): StepDocument[] => [
          cut(`s10${suffix}`, w, x, y, size),
          // A second cut runs into the first: what is repeated is both.
          ...(w.second ? [cut(`s11${suffix}`, w, x + 1.5, y + 1, size * 0.8)] : []),
        ];
        const repeated = part(plate("200", "100"), ...beginning(w), ...own(w.x, w.y), {
          ...{ id: "s20", kind: "pattern", form: "grid", steps: ids.map((at, i) => ({ key: `k${i}`, at })) },
          ...{ count: String(w.columns), pitch: mm(w.pitch), rows: String(w.rows), rowPitch: mm(w.rowPitch) },
        });
        const single = part(
          plate("200", "100"),
          ...beginning(w),
          ...places.flatMap(({ x, y }, i) => own(x, y, `x${i}`)),
        );
        const [a, b] = [examinePart(repeated), examinePart(single)];
        if (!a.blank || !b.blank || w.rows * w.columns === 1) return;
        expect(left(a)).toEqual(left(b));
      }),
      { numRuns: RUNS },
    );
  });

  test("that a later fold parts are repeated on both of its plates", () => {
    const steps = (...more: StepDocument[]) =>
      part(
        plate("160", "80"),
        { id: "s2", kind: "cut", form: "round", plate: ONE, diameter: "8", x: "-60", y: "10" },
        {
          id: "s3",
          kind: "fold",
          plate: ONE,
          from: [{ key: "a", at: "s1.south" }],
          distance: "50",
          angle: "45",
        },
        ...more,
      );
    const pattern = { id: "s4", kind: "pattern", form: "row", steps: [{ key: "a", at: "s2" }] };
    const b = examinePart(steps({ ...pattern, count: "6", pitch: "20" }));
    const holes = b.blank!.openings.map((l) => Math.round(-loopArea(l) * 100) / 100);
    expect(holes).toHaveLength(6);
    for (const area of holes) expect(area).toBeCloseTo(Math.PI * 16, 2);
  });

  test("that have no metal are told with how many stand, and the others stand", () => {
    const b = examinePart(
      part(
        plate("100", "40"),
        { id: "s2", kind: "cut", form: "round", plate: ONE, diameter: "6", x: "-40", y: "0" },
        { id: "s3", kind: "pattern", form: "row", steps: [{ key: "a", at: "s2" }], count: "12", pitch: "12" },
      ),
    );
    expect(b.blank!.openings).toHaveLength(8);
    expect(told(b).filter((m) => m.includes("stand"))).toEqual([
      "warn: 8 of 12 stand; 4 have no metal to cut. Make the pattern shorter, or what it stands on larger.",
    ]);
  });
});
