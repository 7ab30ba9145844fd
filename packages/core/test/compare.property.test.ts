import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  asCircle,
  type Comparison,
  compareBlank,
  type DrawnBlank,
  type DrawnEntity,
  drawBlank,
  examinePart,
  isDrawable,
  type PartDocument,
  type Point,
  readDxfShapes,
  writeDxf,
} from "../src/index.ts";
import { part, plate, presetWith } from "./plain-parts.ts";
import { sameCases, spread } from "./random-cases.ts";
import { randomPart } from "./random-parts.ts";

sameCases(77);

function drawn(document: PartDocument): DrawnBlank | undefined {
  const build = examinePart(document);
  return isDrawable(build) ? drawBlank({ document, build, preset: presetWith() }) : undefined;
}

/** A change of the whole file: as large, mirrored, turned, shifted. */
interface Whole {
  readonly scale: number;
  readonly mirrored: boolean;
  readonly turned: number;
  readonly x: number;
  readonly y: number;
}
const AS_IT_IS: Whole = { scale: 1, mirrored: false, turned: 0, x: 0, y: 0 };

/** The blank as a file that came back, with each entity changed by `change`. */
function returned(
  { drawing }: DrawnBlank,
  whole: Partial<Whole> = {},
  change: (e: DrawnEntity, i: number) => readonly DrawnEntity[] = (e) => [e],
): string {
  const { scale, mirrored, turned, x, y } = { ...AS_IT_IS, ...whole };
  const [c, s] = [Math.cos((turned * Math.PI) / 180), Math.sin((turned * Math.PI) / 180)];
  const at = (p: Point): Point => {
    const u = mirrored ? -p.x : p.x;
    return { x: (u * c - p.y * s) * scale + x, y: (u * s + p.y * c) * scale + y };
  };
  const entities = drawing.entities.flatMap(change).map((e): DrawnEntity => {
    const curve = (k: Extract<DrawnEntity, { kind: "curve" }>["curve"]) =>
      k.kind === "line"
        ? { ...k, a: at(k.a), b: at(k.b) }
        : { ...k, a: at(k.a), b: at(k.b), c: at(k.c), r: k.r * scale, ccw: k.ccw !== mirrored };
    switch (e.kind) {
      case "circle":
        return { ...e, c: at(e.c), r: e.r * scale };
      case "curve":
        return { ...e, curve: curve(e.curve) };
      case "chain":
        return { ...e, curves: e.curves.map(curve) };
      case "text":
        return { ...e, at: at(e.at) };
      default:
        return e;
    }
  });
  return writeDxf({ ...drawing, entities }, { version: "r12" });
}

const compare = (d: DrawnBlank, text: string, within?: number): Comparison =>
  compareBlank(d, readDxfShapes(text), within === undefined ? {} : { within });

const counts = (c: Comparison) => [c.moved.length, c.changed.length, c.added.length, c.removed.length];

/** Parts with at least three holes of sizes of their own, so that each can be told. */
const blanks = fc
  .sample(randomPart, { numRuns: 700, seed: 5 })
  .flatMap((document) => drawn(document) ?? [])
  .filter((d) => d.facts.openings.filter((o) => asCircle(o)).length >= 2)
  .slice(0, 200);

const circlesOf = ({ drawing }: DrawnBlank) =>
  drawing.entities.flatMap((e, i) => (e.kind === "circle" && e.content === "openings" ? [i] : []));

describe("a file that came back", () => {
  it("is looked at on two hundred blanks", () => {
    expect(blanks.length).toBe(200);
  });

  it("is the same when nothing was done to it, however it lies", () => {
    blanks.forEach((d, i) => {
      const whole = { turned: (i * 37) % 360, x: (i * 13.7) % 500, y: -(i * 7.1) % 300 };
      const found = compare(d, returned(d, i % 3 === 0 ? {} : whole));
      expect(counts(found), `blank ${i}: ${JSON.stringify(found.notes)}`).toEqual([0, 0, 0, 0]);
      expect(found.same, `blank ${i}`).toBe(true);
      expect(found.scale).toBe(1);
    });
  });

  it("with a hole moved by 0.02 mm says that one, from where to where, and nothing else", () => {
    blanks.forEach((d, i) => {
      const circles = circlesOf(d);
      const which = circles[i % circles.length];
      const angle = i;
      const text = returned(d, {}, (e, k) =>
        k === which && e.kind === "circle"
          ? [{ ...e, c: { x: e.c.x + 0.02 * Math.cos(angle), y: e.c.y + 0.02 * Math.sin(angle) } }]
          : [e],
      );
      const found = compare(d, text);
      expect(counts(found), `blank ${i}`).toEqual([1, 0, 0, 0]);
      expect(found.moved[0].by).toBeCloseTo(0.02, 6);
      const e = d.drawing.entities[which];
      if (e.kind === "circle")
        expect(found.moved[0].at).toEqual([expect.closeTo(e.c.x, 6), expect.closeTo(e.c.y, 6)]);
      // Within a wider tolerance it is the same again.
      expect(compare(d, text, 0.05).same, `blank ${i}`).toBe(true);
    });
  });

  it("with a hole missing, one more, or one of another size says so", () => {
    blanks.forEach((d, i) => {
      const circles = circlesOf(d);
      const which = circles[i % circles.length];
      const missing = compare(
        d,
        returned(d, {}, (e, k) => (k === which ? [] : [e])),
      );
      expect(counts(missing), `blank ${i}`).toEqual([0, 0, 0, 1]);
      const more = compare(
        d,
        returned(d, {}, (e, k) =>
          k === which && e.kind === "circle" ? [e, { ...e, c: { x: e.c.x, y: e.c.y + 2 * e.r + 3 } }] : [e],
        ),
      );
      expect([more.moved.length, more.removed.length], `blank ${i}`).toEqual([0, 0]);
      expect(more.added.length + more.changed.length, `blank ${i}`).toBeGreaterThan(0);
      const larger = compare(
        d,
        returned(d, {}, (e, k) => (k === which && e.kind === "circle" ? [{ ...e, r: e.r + 0.05 }] : [e])),
      );
      expect(counts(larger), `blank ${i}`).toEqual([0, 1, 0, 0]);
      expect(larger.changed[0].by).toBeCloseTo(0.1, 6);
    });
  });

  it.each([
    25.4,
    1 / 25.4,
  ])("that is %d times as large is found to be, whatever else was done to it", (scale) => {
    blanks.forEach((d, i) => {
      const found = compare(d, returned(d, { scale, turned: i, x: 50, y: 20 }));
      expect(found.scale / scale, `blank ${i}`).toBeCloseTo(1, 8);
      expect(found.same, `blank ${i}`).toBe(false);
      expect(counts(found), `blank ${i}`).toEqual([0, 0, 0, 0]);
    });
  });

  it("that is mirrored is found to be, unless the blank is its own mirror image", () => {
    let told = 0;
    blanks.forEach((d, i) => {
      const found = compare(d, returned(d, { mirrored: true, turned: (i * 11) % 360 }));
      expect(counts(found), `blank ${i}`).toEqual([0, 0, 0, 0]);
      if (found.mirrored) told++;
      expect(found.same).toBe(!found.mirrored);
    });
    expect(told).toBeGreaterThan(190);
  });

  it("says how it was turned and shifted", () => {
    fc.assert(
      fc.property(spread(-179, 179), spread(-500, 500), spread(-500, 500), fc.nat(199), (turned, x, y, i) => {
        const found = compare(blanks[i], returned(blanks[i], { turned, x, y }));
        expect(counts(found)).toEqual([0, 0, 0, 0]);
        const lies = (v: number) => ((v % 360) + 360) % 360;
        const off = Math.abs(lies(found.turned) - lies(turned));
        // A blank that is its own image under a turn may be found in either.
        if (Math.min(off, 360 - off) < 1) expect(Math.min(off, 360 - off)).toBeLessThan(1e-4);
        expect(found.same).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe("what is told of a file", () => {
  const bracket = part(
    plate("120", "60", [
      { key: "a", x: "-40", y: "10", d: "8" },
      { key: "b", x: "20", y: "0", d: "12" },
    ]),
    {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "25",
    },
  );
  const d = drawn(bracket)!;

  it("that has other units in its header goes by them", () => {
    const text = returned(d).replace("$ACADVER", "$INSUNITS\r\n 70\r\n     1\r\n  9\r\n$ACADVER");
    expect(compare(d, text).scale).toBeCloseTo(25.4, 9);
  });

  it("without bend lines is that there are none, once; with one gone, which", () => {
    const none = compare(
      d,
      returned(d, {}, (e) => (e.content.startsWith("bends") ? [] : [e])),
    );
    expect([none.same, none.notes]).toEqual([true, ["There are no bend lines in the file."]]);
    const two = part(...bracket.steps, {
      id: "s3",
      kind: "flange",
      edges: [{ key: "a", at: "s1.south" }],
      length: "15",
    });
    const e2 = drawn(two)!;
    const lines = e2.drawing.entities.flatMap((e, i) => (e.content === "bendsUp" ? [i] : []));
    const one = compare(
      e2,
      returned(e2, {}, (e, i) => (i === lines[0] ? [] : [e])),
    );
    expect(one.removed.map((r) => r.what)).toEqual(["bend line"]);
  });

  it("with an outline that was drawn over is where, and how far off", () => {
    const text = returned(d, {}, (e) =>
      e.content === "outline" && e.kind === "chain"
        ? [
            {
              ...e,
              curves: e.curves.map((c) => (c.kind === "line" ? { ...c, a: lift(c.a), b: lift(c.b) } : c)),
            },
          ]
        : [e],
    );
    // The edge at the foot is half a millimetre lower.
    function lift(p: Point): Point {
      return p.y < 1e-9 ? { x: p.x, y: p.y - 0.5 } : p;
    }
    const found = compare(d, text);
    expect(found.changed.map((c) => [c.what, Number(c.by!.toFixed(3))])).toEqual([["outline", 0.5]]);
  });

  it("that has nothing to do with the part is that", () => {
    const other = drawn(part(plate("33.7", "11.3")))!;
    const found = compare(d, returned(other));
    expect(found.same).toBe(false);
    expect(found.notes.join() + found.removed.length).not.toBe("0");
  });

  it("in pieces, by a hair apart, is put together before it is compared", () => {
    const text = returned(d, {}, (e) =>
      e.kind === "chain"
        ? [...e.curves].reverse().map(
            (curve): DrawnEntity => ({
              kind: "curve",
              content: e.content,
              curve: { ...curve, a: { x: curve.a.x + 2e-4, y: curve.a.y } },
            }),
          )
        : [e],
    );
    expect(compare(d, text).same).toBe(true);
  });

  it("of a hundred thousand stray lines is found in time, and says so", () => {
    const stray = Array.from({ length: 20_000 }, (_, i): DrawnEntity => {
      const [x, y] = [i % 200, Math.floor(i / 200)];
      return {
        kind: "curve",
        content: "outline",
        curve: { kind: "line", a: { x, y: y + 200 }, b: { x: x + 0.4, y: y + 200 } },
      };
    });
    const start = performance.now();
    const found = compare(
      d,
      returned(d, {}, (e, i) => (i === 0 ? [e, ...stray] : [e])),
    );
    expect(found.added.length).toBe(20_000);
    expect(performance.now() - start).toBeLessThan(15_000);
  });
});
