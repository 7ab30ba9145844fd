import { describe, expect, test } from "vitest";
import {
  applyCommands,
  bendList,
  createExaminer,
  createTiler,
  drawBlank,
  examinePart,
  isDrawable,
  isStopped,
  meshSheet,
  type PartCommand,
  PLAIN_PRESET,
  packetBytes,
  Sender,
  type StepDocument,
} from "../src/index.ts";
import { expectGrowth, least } from "./growth.ts";
import { hole, part, plate, spentOn, timed, told } from "./plain-parts.ts";

describe("heavy parts", () => {
  /** Holes of 6 in a field of 50 × 25, however many: each lies over hundreds of others. */
  const crowd = (n: number) => {
    const across = Math.round(Math.sqrt(2 * n));
    return part(
      plate(
        "110",
        "150",
        Array.from({ length: n }, (_, i) =>
          hole(
            "6",
            String(((i % across) * 50) / across - 25),
            String((Math.floor(i / across) * 50) / across - 12),
            `k${i}`,
          ),
        ),
      ),
    );
  };
  const tabs = (n: number) =>
    part(
      plate("15000", "150"),
      {
        id: "s2",
        kind: "flange",
        edges: [{ key: "a", at: "s1.north" }],
        span: "width",
        width: "5",
        at: "left",
        length: "20",
      },
      {
        id: "s3",
        kind: "pattern",
        steps: [{ key: "a", at: "s2" }],
        form: "edge",
        edge: [{ key: "a", at: "s1.north" }],
        count: String(n),
        pitch: "14",
      },
    );

  test("5,000 holes over each other are one opening, told in one sentence", () => {
    const { build, took } = timed(crowd(5000));
    expect(took).toBeLessThan(20_000);
    expect(build.blank!.openings.length).toBe(1);
    expect(told(build)).toEqual([
      "warn: 5000 cuts run into others and become one opening with them. The hole ⌀ 6 at -25, -12 on plate A is the first of them.",
    ]);
    expectGrowth(1.6, [400, 800, 1600, 3200], (n) => {
      const document = crowd(n);
      return () => examinePart({ ...document });
    });
  });

  test("a pattern of 1,000 tabs is built in seconds", () => {
    const { build, took } = timed(tabs(1000));
    expect(took).toBeLessThan(30_000);
    expect(build.bends.length).toBe(1000);
    expect(isStopped(build)).toBe(false);
  });
});

describe("an edit of one hole costs little of the whole, and grows no faster", () => {
  const field = (n: number) => {
    const side = Math.ceil(Math.sqrt(n));
    const middle = (i: number) => String((i - (side - 1) / 2) * 10);
    return Array.from({ length: n }, (_, i) =>
      hole("6", middle(i % side), middle(Math.floor(i / side)), `k${i}`),
    );
  };
  const shown = () => {
    const [examine, tile, sender] = [createExaminer(), createTiler(0.05), new Sender()];
    return (holes: readonly object[]) => {
      const build = examine(part(plate("2000", "2000", holes)));
      return sender.pack({ build, mesh: tile(build.sheet!) });
    };
  };
  let nth = 0;
  const edited = (holes: readonly { readonly x: string }[]) =>
    holes.map((h, i) =>
      i === holes.length >> 1 ? { ...h, x: String(Number(h.x) + 0.3 + (nth++ % 7) / 100) } : h,
    );

  test("over four sizes: build, checks, triangles and what crosses", () => {
    expectGrowth(1.45, [1000, 2000, 4000, 8000], (n) => {
      const [show, holes] = [shown(), field(n)];
      show(holes);
      return () => show(edited(holes));
    });
  });

  test("of 6,000 it is a tenth of the whole at most, and one tile crosses", () => {
    const [show, holes] = [shown(), field(6000)];
    const whole = least(2, () => shown()(holes));
    const all = packetBytes(show(holes));
    for (let i = 0; i < 3; i++) show(edited(holes));
    expect(least(10, () => show(edited(holes))) / whole).toBeLessThan(0.1);
    // One tile of some forty has another surface; of all else a few records say so.
    const packet = show(edited(holes));
    const surfaces = packet.fresh.reduce((sum, f) => sum + (f.numbers?.byteLength ?? 0), 0);
    expect(surfaces).toBeGreaterThan(0);
    expect(surfaces).toBeLessThan(all / 20);
    expect(packetBytes(packet) - surfaces).toBeLessThan(5_000);
  });
});

describe("a pattern takes a time that grows with its places and hardly faster", () => {
  /** Holes in a row on a plate, or over its bend, which is held flat for them. */
  const row = (n: number, y: string, form: string) =>
    part(
      plate(String(n * 12 + 40), "60"),
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "40" },
      { id: "s3", kind: "hold", does: "hold", which: "all" },
      {
        ...{ id: "s4", kind: "cut", form, plate: [{ key: "a", at: "s1" }], y, x: String(-(n * 12) / 2) },
        ...{ diameter: "8", width: "8", height: "8" },
      },
      {
        id: "s5",
        kind: "pattern",
        steps: [{ key: "a", at: "s4" }],
        form: "row",
        count: String(n),
        pitch: "12",
      },
    );

  test.each([
    ["clear of the bend that is held flat", "0", "round"],
    ["across it", "30", "round"],
    ["across it, with straight sides", "30", "rectangle"],
  ])("%s", (_, y, form) => {
    const sizes = [100, 200, 400, 800];
    const document = row(400, y, form);
    expect(examinePart(document).blank!.openings).toHaveLength(400);
    expectGrowth(1.45, sizes, (n) => {
      const made = row(n, y, form);
      return () => examinePart({ ...made });
    });
  });

  test("one of 10,000 places in a grid is built in seconds, each opening under its own name", () => {
    const grid = part(
      plate("1010", "1010"),
      {
        ...{ id: "s2", kind: "cut", form: "round", plate: [{ key: "a", at: "s1" }] },
        ...{ diameter: "6", x: "-495", y: "-495" },
      },
      {
        ...{ id: "s3", kind: "pattern", steps: [{ key: "a", at: "s2" }], form: "grid" },
        ...{ count: "100", pitch: "10", rows: "100", rowPitch: "10" },
      },
    );
    const { build, took } = timed(grid);
    expect(took).toBeLessThan(15_000);
    expect(build.blank!.openings).toHaveLength(10_000);
    expect(new Set(build.blank!.openings.map(([c]) => c.name)).size).toBe(10_000);
    const hole = Math.PI * 9;
    expect(build.blank!.area).toBeCloseTo(1010 * 1010 - 10_000 * hole, 3);
  });
});

describe("a part's build, checks and mesh take a time that grows with the part and hardly faster", () => {
  const flange = (i: number, at: string, more: object): StepDocument => ({
    id: `s${i + 2}`,
    kind: "flange",
    edges: [{ key: "a", at }],
    length: "18",
    turn: i % 2 === 0 ? "up" : "down",
    ...more,
  });
  const comb = (n: number) => {
    const reliefs = { leftRelief: "round", leftReliefWidth: "2", leftReliefDepth: "1.5" };
    const side = (i: number) => ({
      span: "width",
      width: "12",
      at: "left",
      shift: String(i * 18 + 4),
      ...reliefs,
    });
    return part(
      plate(String(n * 18 + 4), "100"),
      ...Array.from({ length: n }, (_, i) => flange(i, "s1.north", side(i))),
    );
  };
  const chain = (n: number) =>
    part(
      plate("50", "50"),
      ...Array.from({ length: n }, (_, i) =>
        flange(i, i === 0 ? "s1.north" : `s${i + 1}a.end`, { angle: "30" }),
      ),
    );
  const field = (n: number) => {
    const side = Math.ceil(Math.sqrt(n));
    const at = (i: number) => String((i - (side - 1) / 2) * 10);
    const width = String(side * 10);
    return part(
      plate(
        width,
        width,
        Array.from({ length: n }, (_, i) => hole("6", at(i % side), at(Math.floor(i / side)), `k${i}`)),
      ),
    );
  };

  test("and so do its bend list, and a drawing with every note and line on it", () => {
    const every = {
      ...PLAIN_PRESET,
      partName: true,
      sideMark: true,
      layers: PLAIN_PRESET.layers.map((l) => ({ ...l, leftOut: false })),
    };
    const builds = new Map(
      [100, 200, 400, 800].map((n) => {
        const document = comb(n);
        const build = examinePart(document);
        if (!isDrawable(build)) throw new Error("It has a blank.");
        return [n, { document, build, preset: every }] as const;
      }),
    );
    const sizes = [...builds.keys()];
    expectGrowth(1.6, sizes, (n) => {
      const { document, build } = builds.get(n)!;
      return () => {
        const rows = bendList(document, build);
        if (rows.length !== n || rows.some((r) => r.legs.includes(undefined)))
          throw new Error("All have legs.");
      };
    });
    expectGrowth(1.5, sizes, (n) => {
      const job = builds.get(n)!;
      return () => {
        const notes = drawBlank(job).drawing.entities.filter((e) => e.content === "notes");
        if (notes.length !== n) throw new Error("Each bend has its note.");
      };
    });
  });

  test.each([
    ["flanges side by side on one edge", comb, [100, 200, 400, 800], 800],
    ["flanges, each on the last", chain, [100, 200, 400, 800], 800],
    ["holes in one plate", field, [1000, 2000, 4000, 8000], 0],
  ] as const)("%s", (_, made, sizes, bends) => {
    const largest = examinePart(made(sizes[3]));
    expect(isStopped(largest)).toBe(false);
    expect(largest.bends.length).toBe(bends);
    expectGrowth(1.45, [...sizes], (n) => {
      const document = made(n);
      return () => meshSheet(examinePart({ ...document }).sheet!, 0.05);
    });
  });
});

describe("many commands on a long part", () => {
  const cut = (i: number): StepDocument => ({
    id: `c${i}`,
    kind: "cut",
    plate: [{ key: "a", at: "s1" }],
    diameter: "2",
  });
  const long = (n: number) => part(plate("900", "900"), ...Array.from({ length: n - 1 }, (_, i) => cut(i)));
  const SIZES = [250, 500, 1000, 2000];
  const grows = (commands: (n: number) => PartCommand[], most: number, sizes = SIZES) => {
    const parts = new Map(sizes.map((n) => [n, long(n)]));
    expectGrowth(most, sizes, (n) => () => {
      const done = applyCommands(parts.get(n)!, commands(n));
      if (!done.ok) throw new Error(done.error);
    });
  };
  const times = (n: number, command: (i: number) => PartCommand) =>
    Array.from({ length: n }, (_, i) => command(i));

  test("pasting a part into itself grows with its steps", () => {
    grows(
      (n) => [{ do: "paste", steps: Array.from({ length: n / 2 }, (_, i) => cut(i)) }],
      1.5,
      [150, 300, 600, 1200],
    );
  });

  test("so do a hundred moves, and a hundred values", () => {
    grows((n) => times(100, (i) => ({ do: "move", step: `c${i}`, to: n - i })), 1.5);
    grows(() => times(100, (i) => ({ do: "set", step: `c${i}`, values: { diameter: `${i + 1}` } })), 1.5);
  });

  test("500 moves of 2,000 steps take no time that one would wait for", () => {
    const moves = times(500, (i) => ({ do: "move", step: `c${i}`, to: 1999 }));
    const { result: done, took } = spentOn(() => applyCommands(long(2000), moves));
    expect(done.ok).toBe(true);
    expect(took).toBeLessThan(3000);
  });
});
