import { describe, expect, test } from "vitest";
import { examinePart, type PartBuild, platesOf, type StepDocument } from "../src/index.ts";
import { distanceToCurve, pointAt } from "../src/plane/curve.ts";
import { asCircle, type Loop, loopArea, loopBounds } from "../src/plane/loop.ts";
import { insideLoop } from "../src/plane/stitch.ts";
import { expectGrowth } from "./growth.ts";
import { channelSteps, part, plate, told } from "./plain-parts.ts";

/** A channel: a bottom 100 wide with two walls, the second leaning by an angle. */
const channel = (values: object, second = "90"): PartBuild =>
  examinePart(
    part(...channelSteps(second), {
      ...{ id: "s4", kind: "cut", plate: [{ key: "a", at: "s2a" }], form: "round", diameter: "10" },
      ...{ placed: "middle", x: "0", y: "0", through: "folded" },
      ...values,
    }),
  );
const openingsOf = (build: PartBuild, id: string): readonly Loop[] =>
  platesOf(build.sheet)
    .find((p) => p.id === id)!
    .regions.flatMap((r) => r.holes);

describe("a cut through the folded part", () => {
  test("goes on through a wall that stands parallel, as the circle that it is, in line with it", () => {
    const build = channel({});
    expect(told(build)).toEqual([]);
    const [own] = openingsOf(build, "s2a");
    const [other] = openingsOf(build, "s3a");
    expect(asCircle(own)!.r).toBeCloseTo(5, 9);
    expect(asCircle(other)!.r).toBeCloseTo(5, 9);
    expect(openingsOf(build, "s1")).toEqual([]);
    // Folded the two walls are alike: their openings stand as high, and on one line across.
    const [p, q] = [asCircle(own)!.c, asCircle(other)!.c];
    expect(p.y).toBeCloseTo(q.y, 9);
    expect(p.x).toBeCloseTo(-q.x, 9);
    expect(build.steps[3].notes!.through).toBe("plate C");
  });

  test.each([
    "60",
    "75",
    "110",
    "135",
  ])("lets a rod through a wall that leans (bent by %s°): an ellipse on either face, and all between them", (angle) => {
    const build = channel({}, angle);
    const lean = ((Number(angle) - 90) * Math.PI) / 180;
    const [hole] = openingsOf(build, "s3a");
    expect(hole, told(build).join()).toBeDefined();
    const box = loopBounds(hole);
    const t = 1.5;
    // Along the wall's height the ellipse is as long as the circle over the cosine, and t·tan longer for the thickness.
    const [long, wide] = [10 / Math.cos(lean) + t * Math.abs(Math.tan(lean)), 10];
    expect(box.maxX - box.minX).toBeCloseTo(long, 3);
    expect(box.maxY - box.minY).toBeCloseTo(wide, 3);
    const area = (Math.PI * 25) / Math.cos(lean) + wide * t * Math.abs(Math.tan(lean));
    expect(Math.abs(Math.abs(loopArea(hole)) - area)).toBeLessThan(2e-3 * 40);
    // It is kept as lines and arcs: every place of it is within a thousandth of one of the two ellipses or between.
    const middle = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
    const half = (t * Math.abs(Math.tan(lean))) / 2;
    const off = hole.flatMap((c) =>
      [0, 0.2, 0.4, 0.6, 0.8].map((f) => {
        const p = pointAt(c, f);
        const x = Math.max(0, Math.abs(p.x - middle.x) - half) * Math.cos(lean);
        const beside = Math.abs(p.x - middle.x) <= half;
        return beside ? Math.abs(Math.abs(p.y - middle.y) - 5) : Math.abs(Math.hypot(x, p.y - middle.y) - 5);
      }),
    );
    expect(Math.max(...off)).toBeLessThan(2e-3);
  });

  test("goes one way only where it is told to, and stops at a plate that is picked", () => {
    const sides = ["a", "b"].map((way) => openingsOf(channel({ way }), "s3a").length);
    expect(sides.sort()).toEqual([0, 1]);
    const shelf: StepDocument = {
      id: "s5",
      kind: "plate",
      width: "60",
      depth: "30",
      stands: "side",
      x: "0",
      z: "30",
    };
    const build = (until?: string) =>
      examinePart(
        part(
          plate("100", "80"),
          { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "60" },
          { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "60" },
          shelf,
          {
            ...{ id: "s6", kind: "cut", plate: [{ key: "a", at: "s2a" }], form: "round", diameter: "8" },
            ...{ placed: "middle", through: "folded" },
            ...(until ? { until: [{ key: "a", at: until }] } : {}),
          },
        ),
      );
    const counts = (b: PartBuild) => ["s2a", "s5", "s3a"].map((id) => openingsOf(b, id).length);
    expect(counts(build())).toEqual([1, 1, 1]);
    expect(counts(build("s5"))).toEqual([1, 1, 0]);
    expect(told(build("s1")).join()).toMatch(/Plate A does not stand in its way/);
    expect(told(build("s9")).join()).toMatch(/is not there|not in this part|gone/);
  });

  test("takes all of its openings along, and follows when the part changes", () => {
    const grid = { arranged: "grid", count: "2", pitch: "20", rows: "2", rowPitch: "16", diameter: "5" };
    expect(openingsOf(channel(grid), "s3a").length).toBe(4);
    const slot = { form: "slot", width: "12", height: "6", turned: "30" };
    const own = openingsOf(channel(slot), "s2a")[0];
    const other = openingsOf(channel(slot), "s3a")[0];
    expect(Math.abs(loopArea(other))).toBeCloseTo(Math.abs(loopArea(own)), 8);
    expect(other.length).toBe(own.length);
  });

  test("says that nothing stands in its way, and which bends it goes through", () => {
    const flat = examinePart(
      part(plate("100", "80"), {
        ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], through: "folded" },
      }),
    );
    expect(told(flat).join()).toMatch(/Nothing stands in its way: only plate A is cut/);
    // Low in its wall a large opening reaches the other wall's bend.
    const low = channel({ placed: "edge", edge1: [{ key: "a", at: "s2a.end" }], off1: "57", diameter: "3" });
    expect(told(low)).toEqual([]);
    expect(low.steps[3].notes!.through).toBe("plate C and bends 1, 2");
  });

  test("misses a plate that it passes by", () => {
    const build = channel({ x: "0", y: "0" }, "20");
    expect(openingsOf(build, "s3a")).toEqual([]);
    expect(Number.isFinite(build.blank!.area)).toBe(true);
  });

  test("of very many openings through a wall full of openings takes a time that grows with their number", () => {
    const walls = (n: number) => {
      const width = String(n * 2 + 40);
      const wall = (id: string, edge: string): StepDocument => ({
        ...{ id, kind: "flange", edges: [{ key: "a", at: edge }], length: "60" },
      });
      const row = (id: string, plateId: string, more: object): StepDocument => ({
        ...{ id, kind: "cut", plate: [{ key: "a", at: plateId }], form: "round", diameter: "1.2" },
        ...{ placed: "middle", arranged: "row", count: String(n), pitch: "2" },
        ...more,
      });
      const [west, east] = [wall("s2", "s1.north"), wall("s3", "s1.south")];
      const full = row("s4", "s3a", { y: "12" });
      return part(plate(width, "70"), west, east, full, row("s5", "s2a", { through: "folded" }));
    };
    const build = examinePart(walls(200));
    expect(openingsOf(build, "s2a").length).toBe(200);
    expect(openingsOf(build, "s3a").length).toBe(400);
    expectGrowth(1.5, [200, 400, 800, 1600], (n) => {
      const document = walls(n);
      return () => examinePart({ ...document });
    });
  });

  test("takes a plate that is smaller than itself away as a whole, and says so", () => {
    const small: StepDocument = { id: "s2", kind: "plate", width: "6", depth: "6", z: "20" };
    const build = examinePart(
      part(plate("100", "80"), small, {
        ...{
          id: "s3",
          kind: "cut",
          plate: [{ key: "a", at: "s1" }],
          width: "20",
          height: "20",
          through: "folded",
        },
      }),
    );
    expect(told(build)).toContainEqual(
      expect.stringMatching(/Nothing is left of plate B: its cuts take all of it/),
    );
    expect(Number.isFinite(build.blank!.area)).toBe(true);
  });
});

describe("a cut that leans from square to its plate", () => {
  const t = 1.5;
  /** A bottom, a sheet of its own 40 above it, and a cut that leans through both. */
  const stack = (values: object, far = "40") =>
    examinePart(
      part(
        plate("160", "120"),
        { id: "s2", kind: "plate", width: "160", depth: "120", z: far },
        {
          ...{
            id: "s3",
            kind: "cut",
            plate: [{ key: "a", at: "s1" }],
            form: "round",
            diameter: "10",
            x: "-20",
            y: "10",
          },
          ...{ through: "folded", leans: "30", ...values },
        },
      ),
    );
  /** An opening in the frame of its plate, of which a second sheet lies elsewhere in the flat. */
  const boxIn = (build: PartBuild, id: string) => {
    const { origin } = platesOf(build.sheet).find((p) => p.id === id)!.frame;
    const [hole] = openingsOf(build, id);
    const b = loopBounds(hole);
    return {
      minX: b.minX - origin.x,
      maxX: b.maxX - origin.x,
      minY: b.minY - origin.y,
      maxY: b.maxY - origin.y,
    };
  };
  const tan = Math.tan(Math.PI / 6);

  test.each([
    ["0", 1, 0],
    ["90", 0, 1],
    ["180", -1, 0],
  ])("toward %s° lets a straight rod through both plates: longer by the thickness, shifted by the way", (leansTo, ux, uy) => {
    const build = stack({ leansTo });
    expect(told(build)).toEqual([]);
    const at = (from: number): [number, number, number, number] => {
      const shift = (w: number) => [-20 + ux * tan * w, 10 + uy * tan * w];
      const [p, q] = [shift(from), shift(from + t)];
      return [
        Math.min(p[0], q[0]) - 5,
        Math.max(p[0], q[0]) + 5,
        Math.min(p[1], q[1]) - 5,
        Math.max(p[1], q[1]) + 5,
      ];
    };
    for (const [id, height] of [
      ["s1", 0],
      ["s2", 40],
    ] as const) {
      const b = boxIn(build, id);
      expect([b.minX, b.maxX, b.minY, b.maxY]).toEqual(at(height).map((v) => expect.closeTo(v, 9)));
      const [hole] = openingsOf(build, id);
      expect(Math.abs(loopArea(hole))).toBeCloseTo(Math.PI * 25 + 10 * t * tan, 6);
      expect(hole.filter((c) => c.kind === "arc").length).toBeGreaterThan(0);
    }
  });

  test.each([
    "30",
    "45",
    "-20",
  ])("by %s° and sized as a rod lets just that through: every place of the rod, and no more on its faces", (leans) => {
    const build = stack({ leans, leansTo: "25", leanSize: "rod" }, "30");
    expect(told(build)).toEqual([]);
    const [by, to] = [(Number(leans) * Math.PI) / 180, (25 * Math.PI) / 180];
    const way = [Math.sin(by) * Math.cos(to), Math.sin(by) * Math.sin(to), Math.cos(by)];
    for (const [id, height] of [
      ["s1", 0],
      ["s2", 30],
    ] as const) {
      const { origin } = platesOf(build.sheet).find((p) => p.id === id)!.frame;
      const [hole] = openingsOf(build, id);
      let far = -Infinity;
      for (let i = 0; i < 180; i++) {
        // A place on the rod's side, where it meets a face: a circle square to its way, led along that way.
        const a = (i * Math.PI) / 90;
        const u = [-Math.sin(to), Math.cos(to), 0];
        const v = [Math.cos(by) * Math.cos(to), Math.cos(by) * Math.sin(to), -Math.sin(by)];
        const p = [0, 1, 2].map((k) => 5 * (Math.cos(a) * u[k] + Math.sin(a) * v[k]));
        for (const w of [height, height + t]) {
          const f = (w - p[2]) / way[2];
          const at = { x: origin.x - 20 + p[0] + way[0] * f, y: origin.y + 10 + p[1] + way[1] * f };
          const off = hole.reduce((d, c) => Math.min(d, distanceToCurve(c, at)), Infinity);
          expect(insideLoop(hole, at) || off < 2e-3).toBe(true);
          far = Math.max(far, off);
        }
      }
      // The outline on one face is an ellipse: its area, and what the thickness sweeps.
      const ellipse = (Math.PI * 25) / Math.cos(by);
      const swept = 10 * t * Math.abs(Math.tan(by));
      expect(Math.abs(loopArea(hole)) / (ellipse + swept)).toBeCloseTo(1, 3);
    }
  });

  test("by nothing is the square one, by the other sign leans the other way", () => {
    const square = stack({ leans: "0" });
    expect(asCircle(openingsOf(square, "s2")[0])!.r).toBeCloseTo(5, 9);
    const [one, other] = ["-30", "30"].map((leans, i) =>
      boxIn(stack({ leans, leansTo: i === 0 ? "0" : "180" }), "s2"),
    );
    expect(one.minX).toBeCloseTo(other.minX, 9);
  });

  test("farther than a plate can be met is told at its field", () => {
    expect(stack({ leans: "61" }).findings[0]).toMatchObject({
      field: "leans",
      message: expect.stringMatching(/at most 60/),
    });
    expect(stack({ leans: "60" }, "200").findings[0].message).toMatch(/Nothing stands in its way/);
  });
});
