import { execFileSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Curve,
  curveLength,
  curvesBounds,
  curvesOfShape,
  pointAt,
  readDxf,
  readDxfShapes,
} from "../src/index.ts";
import { dxfOf, part, plate, shapesIn } from "./plain-parts.ts";
import { sameCases } from "./random-cases.ts";

sameCases(20261201);
/** Files by another writer, and files that are damaged: `npm run fuzz` asks far more. */
const WRITTEN = Number(process.env.FUZZ_WRITTEN ?? 40);
const DAMAGED = Number(process.env.FUZZ_DAMAGED ?? 300);

/** The text of a DXF with these entities, and blocks before them. */
const dxf = (entities: string, blocks = "") =>
  `0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const groups = (...pairs: readonly (readonly [number, string | number])[]) =>
  pairs.map(([code, value]) => `${code}\n${value}\n`).join("");
const curvesIn = (text: string): Curve[] => shapesIn(text).shapes.flatMap((s) => curvesOfShape(s, 1e-4));
const whyNot = (text: string): string => {
  const read = readDxfShapes(text);
  return read.ok ? "" : read.error;
};
const circle = (x: number, more: readonly (readonly [number, string | number])[] = []) =>
  groups([0, "CIRCLE"], [8, 0], [10, x], [20, 0], [40, 2], ...more);
const FROM_BELOW = [
  [210, 0],
  [220, 0],
  [230, -1],
] as const;

/** How long all of them may take together (ms). */
const WRITING_TIME = 3000 * Math.max(40, WRITTEN);

describe("a DXF by another writer", () => {
  it(
    "draws what that writer reckons: splines with weights, blocks in blocks, mirrored, in rows",
    () => {
      const script = new URL("./make_dxf.py", import.meta.url).pathname;
      const answer = execFileSync("/usr/bin/python3", [script, String(WRITTEN), "7"], {
        maxBuffer: 1 << 30,
        encoding: "utf8",
      });
      const files = JSON.parse(answer) as { text: string; length: number; low: number[]; high: number[] }[];
      expect(files.length).toBe(WRITTEN);
      files.forEach(({ text, length, low, high }, i) => {
        const drawn = shapesIn(text);
        expect([...drawn.others], `file ${i}`).toEqual([]);
        const curves = drawn.shapes.flatMap((s) => curvesOfShape(s, 1e-3));
        const sum = curves.reduce((s, c) => s + curveLength(c), 0);
        // Its chords are within four thousandths.
        expect(Math.abs(sum / length - 1), `length of file ${i}`).toBeLessThan(2e-3);
        const { minX, minY, maxX, maxY } = curvesBounds(curves);
        [minX - low[0], minY - low[1], maxX - high[0], maxY - high[1]].forEach((off) => {
          expect(Math.abs(off), `box of file ${i}`).toBeLessThan(0.03);
        });
      });
    },
    WRITING_TIME,
  );
});

describe("entities seen from below", () => {
  it.each([
    ["CIRCLE", circle(10, FROM_BELOW)],
    ["ARC", groups([0, "ARC"], [10, 10], [20, 0], [40, 2], [50, 0], [51, 90], ...FROM_BELOW)],
    [
      "LWPOLYLINE",
      groups(
        [0, "LWPOLYLINE"],
        [90, 2],
        [70, 1],
        [10, 8],
        [20, 0],
        [42, 1],
        [10, 12],
        [20, 0],
        [42, 1],
        ...FROM_BELOW,
      ),
    ],
  ])("%s is mirrored as the standard says", (_, entity) => {
    const { minX, maxX } = curvesBounds(curvesIn(dxf(entity)));
    expect(minX).toBeGreaterThan(-12.01);
    expect(maxX).toBeLessThan(-7.99);
  });

  it("an arc turns the other way round: from 0° to 90° about −10 it is on the left", () => {
    const [arc] = curvesIn(
      dxf(groups([0, "ARC"], [10, 10], [20, 0], [40, 2], [50, 0], [51, 90], ...FROM_BELOW)),
    );
    const { x, y } = pointAt(arc, 0.5);
    expect([x, y]).toEqual([expect.closeTo(-10 - Math.SQRT2, 9), expect.closeTo(Math.SQRT2, 9)]);
  });

  it("a line and an ellipse stand in space, and stay", () => {
    const line = groups([0, "LINE"], [10, 1], [20, 0], [11, 5], [21, 0], ...FROM_BELOW);
    expect(curvesBounds(curvesIn(dxf(line)))).toMatchObject({ minX: 1, maxX: 5 });
    const ellipse = (more: readonly (readonly [number, number])[]) =>
      dxf(
        groups(
          [0, "ELLIPSE"],
          [10, 0],
          [20, 0],
          [11, 4],
          [21, 0],
          [40, 0.5],
          [41, 0],
          [42, Math.PI / 2],
          ...more,
        ),
      );
    expect(curvesBounds(curvesIn(ellipse([]))).maxY).toBeCloseTo(2, 3);
    // Its parameter runs clockwise as seen from above.
    expect(curvesBounds(curvesIn(ellipse(FROM_BELOW))).minY).toBeCloseTo(-2, 3);
  });
});

describe("what is left out is named with its count", () => {
  const tilt = [
    [210, 0],
    [220, 1],
    [230, 0],
  ] as const;
  it.each<[string, string, [string, number][]]>([
    ["texts", groups([0, "TEXT"], [1, "a"]) + groups([0, "TEXT"], [1, "b"]), [["TEXT", 2]]],
    ["tilted circles", circle(0, tilt) + circle(5, tilt), [["CIRCLE that is tilted", 2]]],
    [
      "lines that rise",
      groups([0, "LINE"], [10, 0], [20, 0], [30, 0], [11, 1], [21, 1], [31, 5]),
      [["LINE that is tilted", 1]],
    ],
    ["what is on paper", circle(0, [[67, 1]]), [["CIRCLE on a sheet of paper", 1]]],
    [
      "unknown blocks",
      groups([0, "INSERT"], [2, "X"], [10, 0], [20, 0]),
      [["INSERT of a block that is not in the file", 1]],
    ],
    ["a circle of no radius", groups([0, "CIRCLE"], [10, 0], [20, 0], [40, 0]), [["CIRCLE of no size", 1]]],
    [
      "weights that do not fit",
      groups(
        [0, "SPLINE"],
        [71, 1],
        [40, 0],
        [40, 0],
        [40, 1],
        [40, 1],
        [10, 0],
        [20, 0],
        [10, 1],
        [20, 0],
        [41, 1],
      ),
      [["SPLINE", 1]],
    ],
  ])("%s", (_, entities, others) => {
    expect([...shapesIn(dxf(entities)).others]).toEqual(others);
  });

  it("blocks that hold themselves end", () => {
    const block = (name: string, inner: string) =>
      `${groups([0, "BLOCK"], [2, name], [10, 0], [20, 0])}${circle(0)}${groups([0, "INSERT"], [2, inner], [10, 5], [20, 0])}${groups([0, "ENDBLK"])}`;
    const drawn = shapesIn(
      dxf(groups([0, "INSERT"], [2, "A"], [10, 0], [20, 0]), block("A", "B") + block("B", "A")),
    );
    expect(drawn.shapes.length).toBe(2);
    expect([...drawn.others]).toEqual([["INSERT of a block within itself", 1]]);
  });

  it.each([
    ["ten levels of ten by ten", 10, 10, 10],
    ["rows without end", 1, 1e8, 1e8],
  ])("%s are refused, not drawn for ever", (_, levels, columns, rows) => {
    const blocks = Array.from({ length: levels }, (__, i) => {
      const inner =
        i === 0
          ? ""
          : groups(
              [0, "INSERT"],
              [2, `L${i - 1}`],
              [10, 0],
              [20, 0],
              [70, columns],
              [71, rows],
              [44, 1],
              [45, 1],
            );
      return `${groups([0, "BLOCK"], [2, `L${i}`], [10, 0], [20, 0])}${inner}${groups([0, "ENDBLK"])}`;
    }).join("");
    const top = groups([0, "INSERT"], [2, `L${levels - 1}`], [10, 0], [20, 0], [70, columns], [71, rows]);
    expect(whyNot(dxf(top, blocks))).toMatch(/more than 1000000 times: save only what is wanted/);
  });
});

describe("a file that is none", () => {
  it.each([
    ["", /^line 1: there is nothing in the file/],
    ["hello\nworld\n", /^line 1: "hello" is no group code/],
    ["0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n8\n0\n66\n1\n0\nVERTEX\n10\n0\n20\n0\n", /ends without EOF/],
    [dxf("").replace(/0\nENDSEC\n0\nEOF/, "0\nEOF"), /the section before this has no end/],
    [dxf(groups([0, "LINE"], [10, 1], [20, 2])), /^line 12: this LINE has no end \(group 11\)/],
    [
      dxf(groups([0, "LINE"], [10, 1], [20, 2], [11, "abc"], [21, 0])),
      /^line 12: "abc" in a LINE \(group 11\) is no number/,
    ],
    [dxf(circle(0, [[40, "1e400"]]).replace("40\n2\n", "")), /"1e400" in a CIRCLE \(group 40\) is no number/],
    [dxf(circle(1e16)), /is too large/],
    [`\0\0binary\0${dxf("")}`, /binary file; save it as a DXF of text/],
  ])("%j says where and why", (text, says) => {
    expect(whyNot(text)).toMatch(says);
  });

  it("a polyline without its end is read as far as its corners go", () => {
    const open =
      groups([0, "POLYLINE"], [8, 0], [66, 1]) +
      groups([0, "VERTEX"], [10, 0], [20, 0]) +
      groups([0, "VERTEX"], [10, 5], [20, 0]);
    expect(shapesIn(dxf(open)).shapes).toEqual([expect.objectContaining({ kind: "chain", closed: false })]);
  });
});

describe("a damaged file", () => {
  const bracket = part(plate("120", "60", [{ key: "a", x: "-30", y: "0", d: "8" }]), {
    id: "s2",
    kind: "flange",
    edges: [{ key: "a", at: "s1.north" }],
    length: "25",
    start: "10",
  });
  const whole = (["r12", "r2000"] as const).map((version) => dxfOf(bracket, { version }).text);

  it(`is read or refused with a line, ${DAMAGED} times`, () => {
    const damage = fc.record({
      of: fc.constantFrom(...whole),
      cuts: fc.array(
        fc.record({
          at: fc.double({ min: 0, max: 1, noNaN: true }),
          length: fc.oneof(
            fc.constant(0),
            fc.integer({ min: 1, max: 60 }),
            fc.integer({ min: 1, max: 3000 }),
          ),
          by: fc.constantFrom(
            "",
            "0\n",
            "\n",
            "1e999",
            "-",
            "NaN",
            "0\nPOLYLINE\n",
            "0\nINSERT\n2\n*Model_Space\n",
            "\0",
            "99999999",
          ),
        }),
        { minLength: 1, maxLength: 4 },
      ),
    });
    fc.assert(
      fc.property(damage, ({ of, cuts }) => {
        const text = cuts.reduce((t, { at, length, by }) => {
          const start = Math.floor(at * t.length);
          return t.slice(0, start) + by + t.slice(start + length);
        }, of);
        const start = performance.now();
        const read = readDxf(text);
        if (!read.ok) expect(read.error).toMatch(/^(line \d+: .{5,}|it (draws|uses) .+)$/);
        else
          for (const c of read.value.drawn.shapes.flatMap((s) => curvesOfShape(s)))
            expect(Number.isFinite(curveLength(c))).toBe(true);
        expect(performance.now() - start).toBeLessThan(2000);
      }),
      { numRuns: DAMAGED },
    );
  });
});
