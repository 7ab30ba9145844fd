import { describe, expect, test } from "vitest";
import {
  createExaminer,
  evenState,
  examinePart,
  foldMesh,
  foldSheet,
  isClosedManifold,
  meshSheet,
  meshVolume,
  type PartBuild,
  ribsIn,
  type StepDocument,
} from "../src/index.ts";
import { extentOf, ribPlace } from "../src/sheet/pieces/rib-piece.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate, told } from "./plain-parts.ts";

const t = 1.5;
const leg: StepDocument = { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "40" };
const gusset = (values: object = {}): StepDocument => ({
  ...{ id: "s3", kind: "gusset", bends: [{ key: "a", at: "s2a" }], width: "10", depth: "15" },
  ...values,
});
const built = (values?: object, wall: object = {}, ...more: StepDocument[]) =>
  examinePart(part(plate("120", "80"), { ...leg, ...wall }, gusset(values), ...more));
const bodyAt = (build: PartBuild, share: number, chord = 0.02) => {
  const mesh = foldMesh(
    meshSheet(build.sheet!, chord),
    foldSheet(build.sheet!, evenState(build.sheet!, share)),
  );
  expect(isClosedManifold(mesh)).toBe(true);
  return mesh;
};

describe("gussets", () => {
  test("stand evenly along their bend, as many as are asked for", () => {
    const build = built({ count: "3" });
    expect(told(build)).toEqual([]);
    const starts = ribsIn(build.sheet).map((r) => extentOf(r).from);
    // 120 less three of 10, in four.
    expect(starts).toEqual([22.5, 55, 87.5].map((v) => expect.closeTo(v, 9)));
    const ends = ribsIn(built({ count: "3", ends: "5" }).sheet).map((r) => extentOf(r));
    expect([ends[0].from, ends[2].to]).toEqual([expect.closeTo(5, 9), expect.closeTo(115, 9)]);
  });

  test("go straight from leg to leg in their middle, and with the bend at their sides", () => {
    for (const [up, angle] of [
      ["up", 90],
      ["down", 90],
      ["up", 60],
      ["down", 120],
    ] as const) {
      const build = built({}, { turn: up, angle: String(angle) });
      const sheet = build.sheet!;
      const [rib] = ribsIn(sheet);
      const folded = foldSheet(sheet, evenState(sheet, 1)).pieces[sheet.pieces.indexOf(rib)];
      if (folded.kind !== "rib") throw new Error("no rib");
      const e = extentOf(rib);
      const inner = up === "up" ? t : 0;
      const at = (s: number, x: number) => ribPlace(folded, e, t, s, x, inner, 0.3);
      const far = (p: readonly number[], q: readonly number[]) =>
        Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
      const middle = (e.from + e.to) / 2;
      const [p, q] = [at(middle, e.low), at(middle, e.high)];
      // Both ends are so deep along the inner faces from where those meet: the third side of that triangle.
      expect(far(p, q)).toBeCloseTo(2 * 15 * Math.cos((angle * Math.PI) / 360), 9);
      const half = at(middle, (e.low + e.high) / 2);
      expect(far(half, p) + far(half, q)).toBeCloseTo(far(p, q), 9);
      // At its side it is where the bend is.
      const side = at(e.from, rib.bend.allowance / 2);
      const axis = Math.hypot(rib.bend.radius);
      expect(axis).toBeGreaterThan(0);
      expect(far(side, at(e.to, rib.bend.allowance / 2))).toBeCloseTo(e.to - e.from, 9);
    }
  });

  test("are flat where their bend is, closed bodies at every share, and leave volume and blank as they were", () => {
    const plain = examinePart(part(plate("120", "80"), leg));
    for (const up of ["up", "down"]) {
      const build = built({ count: "2" }, { turn: up });
      expect(build.blank!.area).toBeCloseTo(plain.blank!.area, 8);
      expect(build.folded!.volume).toBeCloseTo(plain.folded!.volume, 8);
      const flat = bodyAt(build, 0);
      const heights = [...flat.positions].filter((_, i) => i % 3 === 2);
      expect(Math.min(...heights)).toBeCloseTo(0, 9);
      expect(Math.max(...heights)).toBeCloseTo(t, 9);
      expect(meshVolume(flat) / (plain.blank!.area * t)).toBeCloseTo(1, 4);
      for (const share of [0.3, 0.7, 1]) {
        const mesh = bodyAt(build, share);
        expect(mesh.positions.every(Number.isFinite)).toBe(true);
        // Pressed metal is as much as before: chords alone take a little of the bend beside it.
        const other = foldMesh(
          meshSheet(plain.sheet!, 0.02),
          foldSheet(plain.sheet!, evenState(plain.sheet!, share)),
        );
        expect(Math.abs(meshVolume(mesh) / meshVolume(other) - 1)).toBeLessThan(3e-4);
      }
    }
  });

  test("are marked on the blank by their middle, by their outline, or not at all", () => {
    const marks = (onBlank: string) => built({ onBlank }).blank!.marks.flatMap((m) => m.curves);
    const [line] = marks("centre");
    const bend = built().bends[0];
    expect(Math.hypot(line.b.x - line.a.x, line.b.y - line.a.y)).toBeCloseTo(
      bend.allowance + 2 * (15 - bend.radius),
      9,
    );
    expect([marks("outline").length, marks("nothing").length]).toEqual([4, 0]);
  });

  test("go with a copied, mirrored and moved bend", () => {
    const pattern: StepDocument = {
      id: "s5",
      kind: "mirror",
      what: "steps",
      steps: [
        { key: "a", at: "s2" },
        { key: "b", at: "s3" },
      ],
      about: "along",
      plate: [{ key: "a", at: "s1" }],
    };
    const build = built({ count: "2" }, {}, pattern);
    expect(told(build)).toEqual([]);
    expect(ribsIn(build.sheet).length).toBe(4);
    bodyAt(build, 1);
  });

  test.each([
    [{ bends: [] }, {}, "bends", /Pick the bends/],
    [{}, { angle: "10" }, "bends", /turns by 10°: a gusset needs a corner/],
    [{ depth: "1" }, {}, "depth", /has to be deeper/],
    [{ count: "20" }, {}, "count", /20 gussets of 10 mm have no room. At most 11 have/],
    [{ width: "200" }, {}, "width", /no room/],
    [{ width: "0" }, {}, "width", /too small/],
    [{ depth: "1e16" }, {}, "depth", /too large/],
  ])("with %o on %o are refused at their field", (values, wall, field, why) => {
    const { findings } = built(values, wall);
    expect([findings[0].field, findings[0].message]).toEqual([field, expect.stringMatching(why)]);
  });

  test("that reach beyond their leg, over an opening or into one another are told and not pressed", () => {
    const deep = built({ depth: "60" });
    expect(told(deep).join()).toMatch(/reaches beyond the metal beside it/);
    expect(ribsIn(deep.sheet)).toEqual([]);
    bodyAt(deep, 1);
    const twice = built({}, {}, { ...gusset(), id: "s4" });
    expect(told(twice).join()).toMatch(/stands in another/);
    expect(ribsIn(twice.sheet).map((r) => r.step)).toEqual(["s3"]);
  });
});

describe("gussets while a part is worked on", () => {
  const document = (hole: string, wall: string) =>
    part(
      plate("120", "80"),
      leg,
      gusset({ count: "3" }),
      {
        ...{ id: "s4", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "6" },
        ...{ x: hole, y: "32" },
      },
      { id: "s5", kind: "flange", edges: [{ key: "a", at: "s1.south" }], length: wall },
    );

  test("are those of the part as it is now: one that an opening comes into goes, and comes back", () => {
    const examine = createExaminer();
    const numbers = [
      ["16", "20"],
      ["0", "20"],
      ["0", "25"],
      ["16", "25"],
      ["-33", "25"],
    ].map(([hole, wall]) => {
      const [now, fresh] = [examine(document(hole, wall)), examinePart(document(hole, wall))];
      expect(ribsIn(now.sheet)).toEqual(ribsIn(fresh.sheet));
      expect(told(now)).toEqual(told(fresh));
      return ribsIn(now.sheet).length;
    });
    // Their middles stand 32.5 apart: at 16 the opening is between two of them.
    expect(numbers).toEqual([3, 2, 2, 3, 2]);
    expect(told(examine(document("0", "20"))).join()).toMatch(
      /reaches beyond the metal beside it, or over an opening/,
    );
  });

  test("are the very same records while what changes is elsewhere", () => {
    const examine = createExaminer();
    const before = ribsIn(examine(document("16", "20")).sheet);
    const after = ribsIn(examine(document("16", "31")).sheet);
    expect(before.length).toBe(3);
    after.forEach((rib, i) => {
      expect(rib).toBe(before[i]);
    });
  });

  test("beside thousands of openings take a time that grows with their number", () => {
    const full = (n: number) => {
      const [side, size] = [String(n), String(n * 6 + 60)];
      return part(
        plate(size, size),
        {
          ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "3" },
          ...{ x: "0", y: "0", arranged: "grid", count: side, pitch: "6", rows: side, rowPitch: "6" },
        },
        { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "40" },
        {
          ...{ id: "s4", kind: "gusset", bends: [{ key: "a", at: "s3a" }], width: "4", depth: "6" },
          count: String(n),
        },
      );
    };
    const build = examinePart(full(10));
    expect(ribsIn(build.sheet).length).toBe(10);
    expectGrowth(
      1.5,
      [10, 18, 32, 56].map((side) => side * side),
      (n) => {
        const of = full(Math.sqrt(n));
        return () => examinePart({ ...of });
      },
    );
  });
});
