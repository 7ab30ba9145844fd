import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Curve,
  circleLoop,
  cornersOf,
  flatDimension,
  inTheWay,
  line,
  type NoteBox,
  type NoteWish,
  type Point,
  placeNotes,
  placesAlong,
  readable,
  strokeText,
  textWidth,
} from "../src/index.ts";
import { drawnOf, part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(61);

const place = fc.record({ x: spread(0, 200), y: spread(0, 120) });
const curves = fc.array(
  fc.oneof(
    fc.tuple(place, place).map(([a, b]): Curve[] => [line(a, b)]),
    fc.tuple(place, spread(1, 20)).map(([c, r]): Curve[] => [...circleLoop(c, r)]),
  ),
  { maxLength: 25 },
);
const lines = fc.array(fc.tuple(place, place), { minLength: 1, maxLength: 12 });

/** Points all over a box, its border left out by a hair. */
function inside(box: NoteBox): Point[] {
  const [c, s] = [Math.cos(box.turn), Math.sin(box.turn)];
  const out: Point[] = [];
  for (let i = -8; i <= 8; i++)
    for (let j = -4; j <= 4; j++) {
      const [u, v] = [(box.halfWidth * i * 0.999) / 8, (box.halfHeight * j * 0.999) / 4];
      out.push({ x: box.x + u * c - v * s, y: box.y + u * s + v * c });
    }
  return out;
}

function isIn({ x, y, halfWidth, halfHeight, turn }: NoteBox, p: Point, by = 1e-6): boolean {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [dx, dy] = [p.x - x, p.y - y];
  return Math.abs(dx * c + dy * s) < halfWidth - by && Math.abs(dy * c - dx * s) < halfHeight - by;
}

describe("places for notes", () => {
  it("cover no curve and no other note, wherever the lines run", () => {
    fc.assert(
      fc.property(curves, lines, (groups, wanted) => {
        const all = groups.flat();
        const wishes = wanted.map(
          ([a, b], i): NoteWish => ({
            key: String(i),
            width: 14,
            height: 5,
            places: placesAlong(a, b, [0, 4, -4], 6),
          }),
        );
        const found = [...placeNotes(wishes, inTheWay(all)).values()];
        for (const box of found)
          for (const c of all) {
            for (let k = 0; k <= 60; k++) {
              const f = k / 60;
              const p =
                c.kind === "line"
                  ? { x: c.a.x + (c.b.x - c.a.x) * f, y: c.a.y + (c.b.y - c.a.y) * f }
                  : onArc(c, f);
              // Arcs are looked at as chords a thirtieth of the note's height off.
              expect(isIn(box, p, c.kind === "arc" ? 0.2 : 1e-6)).toBe(false);
            }
          }
        found.forEach((p, i) => {
          for (const q of found.slice(i + 1)) for (const at of inside(p)) expect(isIn(q, at)).toBe(false);
        });
      }),
      { numRuns: casesOf(150) },
    );
  });

  it("may stand on their own line, and are given up where there is none", () => {
    const own = line({ x: 0, y: 0 }, { x: 100, y: 0 });
    const wish = (more: Partial<NoteWish>): NoteWish => ({
      key: "a",
      width: 20,
      height: 6,
      places: placesAlong(own.a, own.b, [0]),
      ...more,
    });
    expect(placeNotes([wish({})], inTheWay([own])).size).toBe(0);
    expect(placeNotes([wish({ own: new Set<Curve>([own]) })], inTheWay([own])).get("a")).toMatchObject({
      x: 50,
      y: 0,
      turn: 0,
    });
    expect(placeNotes([wish({ fits: () => false })], inTheWay([])).size).toBe(0);
  });

  it("are read from the foot or from the right, never upside down", () => {
    fc.assert(
      fc.property(spread(-10, 10), (turn) => {
        const t = readable(turn);
        expect(t).toBeGreaterThan(-Math.PI / 2);
        expect(t).toBeLessThanOrEqual(Math.PI / 2 + 1e-9);
        expect(Math.abs(Math.sin(t - turn))).toBeLessThan(1e-9);
      }),
    );
  });

  it("are told with their four corners", () => {
    expect(cornersOf({ x: 1, y: 2, halfWidth: 3, halfHeight: 1, turn: 0 })[0]).toEqual({ x: -2, y: 1 });
  });
});

function onArc(c: Extract<Curve, { kind: "arc" }>, f: number): Point {
  const a = Math.atan2(c.a.y - c.c.y, c.a.x - c.c.x);
  const angle = a + Math.PI * f * (c.ccw ? 1 : -1);
  return { x: c.c.x + c.r * Math.cos(angle), y: c.c.y + c.r * Math.sin(angle) };
}

describe("bend notes in a file", () => {
  it("say number, way, angle and radius, and stand clear of everything that is drawn", () => {
    const document = part(
      plate("90", "60", [{ key: "h", x: "0", y: "24", d: "6" }]),
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
      {
        id: "s3",
        kind: "flange",
        edges: [{ key: "a", at: "s1.east" }],
        length: "20",
        turn: "down",
        angle: "45",
      },
    );
    const { drawing } = drawnOf(document, {
      contents: ["outline", "openings", "bendsUp", "bendsDown", "notes"],
    });
    const notes = drawing.entities.flatMap((e) => (e.kind === "text" ? [e] : []));
    expect(notes.map((n) => n.text).sort()).toEqual(["1 UP 90° R1.5", "2 DOWN 45° R1.5"]);
    const curves = drawing.entities.flatMap((e) =>
      e.kind === "curve" ? [e.curve] : e.kind === "chain" ? e.curves : [],
    );
    for (const n of notes) {
      const [c, s] = [Math.cos(n.turn), Math.sin(n.turn)];
      const w = textWidth(n.text, n.height);
      const box = {
        x: n.at.x + (w / 2) * c - (n.height / 2) * s,
        y: n.at.y + (w / 2) * s + (n.height / 2) * c,
        halfWidth: w / 2,
        halfHeight: n.height / 2,
        turn: n.turn,
      };
      for (const k of curves)
        for (let i = 0; i <= 40; i++) {
          const f = i / 40;
          expect(isIn(box, { x: k.a.x + (k.b.x - k.a.x) * f, y: k.a.y + (k.b.y - k.a.y) * f })).toBe(false);
        }
    }
  });

  it("are the number alone where that is asked for, and in inches say inches", () => {
    const document = part(plate("90", "60"), {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "20",
    });
    const texts = (change: object) =>
      drawnOf(document, { contents: ["outline", "notes"], ...change }).drawing.entities.flatMap((e) =>
        e.kind === "text" ? [e.text] : [],
      );
    expect(texts({ notes: "number" })).toEqual(["1"]);
    expect(texts({ units: "in" })).toEqual(["1 UP 90° R0.0591"]);
  });
});

describe("text as strokes", () => {
  it("has strokes for every letter, within its height and width but for tails", () => {
    const all =
      "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789.,:;-_+=/()[]<>*#%&'\"!?°×±~|^▲▼Ø@";
    for (const letter of all) {
      const strokes = strokeText(letter, { at: { x: 0, y: 0 }, height: 6, turn: 0 });
      expect(strokes.length, letter).toBeGreaterThan(0);
      for (const c of strokes.flat()) {
        for (const p of [c.a, c.b]) {
          expect(p.x).toBeGreaterThanOrEqual(0);
          expect(p.x).toBeLessThanOrEqual(4);
          expect(p.y).toBeGreaterThanOrEqual(-2);
          expect(p.y).toBeLessThanOrEqual(6);
        }
        expect(Math.hypot(c.b.x - c.a.x, c.b.y - c.a.y), letter).toBeGreaterThan(0);
      }
    }
    expect(strokeText(" ", { at: { x: 0, y: 0 }, height: 6, turn: 0 })).toEqual([]);
    // What no grid has strokes for is a question mark.
    const said = (text: string) => strokeText(text, { at: { x: 0, y: 0 }, height: 6, turn: 0 });
    expect(said("雨")).toEqual(said("?"));
    expect(said("é")).toEqual(said("e"));
    // Letters differ, or two would be read for one another.
    const drawn = [...all].map((l) =>
      JSON.stringify(strokeText(l, { at: { x: 0, y: 0 }, height: 6, turn: 0 })),
    );
    expect(new Set(drawn).size).toBe(drawn.length);
  });
});

describe("a dimension on a blank", () => {
  const at = (x: number, y: number) => ({ kind: "point", at: { x, y } }) as const;
  const edge = (ax: number, ay: number, bx: number, by: number) =>
    ({ kind: "line", a: { x: ax, y: ay }, b: { x: bx, y: by } }) as const;
  const hole = (x: number, y: number, r: number) => ({ kind: "circle", at: { x, y }, r }) as const;

  it("between two places is the shortest way, or across, or up", () => {
    expect(flatDimension(at(0, 0), at(3, 4), "shortest")?.value).toBeCloseTo(5, 12);
    expect(flatDimension(at(0, 0), at(3, 4), "level")?.value).toBeCloseTo(3, 12);
    expect(flatDimension(at(0, 0), hole(3, 4, 1), "upright")?.value).toBeCloseTo(4, 12);
    expect(flatDimension(at(1, 1), at(1, 1), "shortest")).toBeUndefined();
    expect(flatDimension(at(0, 0), at(0, 4), "level")).toBeUndefined();
  });

  it("to a line is square to it, or as far as it goes across or up", () => {
    const slanted = edge(0, 0, 10, 10);
    expect(flatDimension(at(10, 0), slanted, "shortest")?.value).toBeCloseTo(10 / Math.SQRT2, 12);
    expect(flatDimension(slanted, at(10, 0), "upright")?.value).toBeCloseTo(10, 12);
    expect(flatDimension(at(0, 5), edge(0, 0, 9, 0), "level")).toBeUndefined();
  });

  it("of two lines is their distance where they are parallel, else their angle", () => {
    expect(flatDimension(edge(0, 0, 9, 0), edge(3, 4, -5, 4), "shortest")?.value).toBeCloseTo(4, 12);
    const found = flatDimension(edge(0, 0, 9, 0), edge(0, 0, 5, 5), "shortest");
    expect([found?.says, found?.value]).toEqual(["angle", expect.closeTo(Math.PI / 4, 12)]);
  });

  it("of one thing is its length or its diameter; a place has none", () => {
    expect(flatDimension(edge(1, 1, 4, 5), undefined, "shortest")).toMatchObject({
      says: "length",
      value: 5,
    });
    expect(flatDimension(hole(0, 0, 4), undefined, "shortest")).toMatchObject({ says: "diameter", value: 8 });
    expect(flatDimension(at(0, 0), undefined, "shortest")).toBeUndefined();
  });
});
