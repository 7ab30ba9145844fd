import { readFileSync } from "node:fs";
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
  loopArea,
  type PartDocument,
  type Point,
  polygonLoop,
  reversed,
  writeDxf,
} from "../src/index.ts";
import { part, plate, presetWith, shapesIn } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
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
  compareBlank(d, shapesIn(text), within === undefined ? {} : { within });

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
      { numRuns: casesOf(60) },
    );
  });
});

describe("a file of separate lines and arcs", () => {
  const hood = JSON.parse(
    readFileSync(new URL("../../../demo/rain-gauge-hood.json", import.meta.url), "utf8"),
  ) as PartDocument;
  /** Cuts of no width end on the outline here; openings touch one another and the outline there. */
  const torn = part(plate("120", "60"), {
    id: "s2",
    kind: "flange",
    edges: [{ key: "a", at: "s1.north" }],
    length: "20",
    start: "15",
    end: "20",
    reliefStart: "torn",
    reliefEnd: "torn",
  });
  const touching = [
    [
      [-20, 10],
      [0, -10],
      [20, 10],
    ],
    [
      [0, -10],
      [20, 10],
      [30, -20],
    ],
    [
      [-20, 10],
      [-40, 10],
      [-30, 20],
    ],
  ];
  const separate = (document: PartDocument): DrawnBlank => {
    const build = examinePart(document);
    if (!isDrawable(build)) throw new Error("no blank");
    return drawBlank({ document, build, preset: presetWith({ curves: "separate" }) });
  };
  const turned = (e: DrawnEntity): DrawnEntity =>
    e.kind === "curve" ? { ...e, curve: reversed(e.curve) } : e;
  const shuffled = (d: DrawnBlank, seed: number): string => {
    const [order] = fc.sample(
      fc.shuffledSubarray([...d.drawing.entities.keys()], { minLength: d.drawing.entities.length }),
      { numRuns: 1, seed },
    );
    return writeDxf(
      {
        ...d.drawing,
        entities: order.map((i) => (i % 3 === 0 ? turned : (e: DrawnEntity) => e)(d.drawing.entities[i])),
      },
      { version: "r12" },
    );
  };

  it.each<[string, () => DrawnBlank]>([
    ["the rain gauge's hood", () => separate(hood)],
    ["a flange torn loose at both ends", () => separate(torn)],
    [
      "openings that touch",
      () => {
        const d = separate(part(plate("120", "80")));
        const loops = touching.map((corners) =>
          polygonLoop(corners.map(([x, y]) => ({ x: x + 60, y: y + 40 }))),
        );
        const cut = loops.map((l) => (loopArea(l) > 0 ? l.map(reversed).reverse() : l));
        const entities = cut.flatMap((l) =>
          l.map((curve): DrawnEntity => ({ kind: "curve", content: "openings", curve })),
        );
        return {
          ...d,
          drawing: { ...d.drawing, entities: [...d.drawing.entities, ...entities] },
          facts: { ...d.facts, openings: cut },
        };
      },
    ],
  ])("of %s is the same in any order", (_, drawnBlank) => {
    const d = drawnBlank();
    for (let seed = 1; seed <= 40; seed++) {
      const found = compare(d, shuffled(d, seed));
      expect([found.notes, counts(found), found.same], `order ${seed}`).toEqual([[], [0, 0, 0, 0], true]);
    }
  });

  it("is the same in any order for random parts", () => {
    const parts = fc
      .sample(randomPart, { numRuns: 60, seed: 12 })
      .filter((document) => isDrawable(examinePart(document)))
      .map(separate);
    expect(parts.length).toBeGreaterThan(40);
    parts.forEach((d, i) => {
      const found = compare(d, shuffled(d, i));
      expect([counts(found), found.same], `part ${i}`).toEqual([[0, 0, 0, 0], true]);
    });
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

  it("whose entities are seen from below is that it is mirrored", () => {
    const text = returned(d).replaceAll(
      /\r\n {2}0\r\n(CIRCLE|POLYLINE)\r\n/g,
      "\r\n  0\r\n$1\r\n210\r\n0\r\n220\r\n0\r\n230\r\n-1\r\n",
    );
    expect(text).not.toBe(returned(d));
    const found = compare(d, text);
    expect([found.mirrored, found.same]).toEqual([true, false]);
  });

  it("whose rounds came back as splines with weights is the same, and without the weights is not", () => {
    // A whole round as nine control points of degree two.
    const corner = Math.SQRT1_2;
    const spline = (weight: number) => (_: string, x: string, y: string, r: string) => {
      const [cx, cy, R] = [x, y, r].map(Number);
      const ring = [0, 1, 2, 3, 4, 5, 6, 7, 8].map((k) => {
        const [a, far] = [(k * Math.PI) / 4, k % 2 === 1 ? R * Math.SQRT2 : R];
        return `10\r\n${cx + far * Math.cos(a)}\r\n20\r\n${cy + far * Math.sin(a)}\r\n30\r\n0\r\n41\r\n${k % 2 === 1 ? weight : 1}\r\n`;
      });
      const knots = [0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4].map((k) => `40\r\n${k}\r\n`);
      return `SPLINE\r\n8\r\nOPENINGS\r\n70\r\n4\r\n71\r\n2\r\n${knots.join("")}${ring.join("")}`;
    };
    const rounds =
      /CIRCLE\r\n\s*8\r\nOPENINGS\r\n\s*10\r\n\s*([^\r]+)\r\n\s*20\r\n\s*([^\r]+)\r\n\s*30\r\n[^\r]+\r\n\s*40\r\n\s*([^\r]+)\r\n/g;
    const [same, other] = [corner, 1].map((w) => returned(d).replace(rounds, spline(w)));
    expect(same.match(/SPLINE/g)?.length).toBe(2);
    const found = compare(d, same);
    expect([counts(found), found.same]).toEqual([[0, 0, 0, 0], true]);
    expect(compare(d, other).changed.length).toBe(2);
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
