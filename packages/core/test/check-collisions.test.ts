import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  CollisionSearch,
  createPartBuilder,
  DEFAULT_RULES,
  evenState,
  examineFully,
  examinePart,
  type Finding,
  foldSheet,
  type PartDocument,
  pieceIndex,
  readDocument,
  reportFindings,
  type StepDocument,
} from "../src/index.ts";
import { forget, manifoldsOf, sharedVolume } from "./pieces-of-manifold.ts";
import { part, withChange } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { crowdedPart } from "./random-parts.ts";

sameCases(20261126);
const RUNS = casesOf(12);

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const all = at("s1.north", "s1.east", "s1.south", "s1.west");
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
const walls = (more: object = {}) => step("s2", "flange", { edges: all, length: "30", ...more });

const collisions = (document: PartDocument): Finding[] =>
  examineFully(document).findings.filter((f) => f.rule === "collision");

const bundled = readdirSync(new URL("../../../demo/", import.meta.url)).filter((f) => f.endsWith(".json"));
const demo = (file: string): PartDocument => {
  const read = readDocument(
    JSON.parse(readFileSync(new URL(`../../../demo/${file}`, import.meta.url), "utf8")),
  );
  if (!read.ok) throw new Error(file);
  return read.value;
};

describe("a part that can be made", () => {
  test.each(bundled.filter((f) => !f.startsWith("rain-gauge")))("%s hits nothing", (file) => {
    expect(collisions(demo(file))).toEqual([]);
  });

  test.each<[string, ...StepDocument[]]>([
    ["an open box", walls()],
    ...["inner-face", "outermost", "bend-from-edge"].map((place): [string, StepDocument] => [
      `an open box, ${place}`,
      walls({ place }),
    ]),
    ...(["mitre", "butt"] as const).flatMap((close) =>
      ["0", "0.1"].map((gap): [string, ...StepDocument[]] => [
        `a box with corners closed by ${close}, ${gap} apart`,
        walls(),
        step("s3", "corner", { close, gap }),
      ]),
    ),
    ...["closed", "open", "teardrop", "rolled"].map((form): [string, StepDocument] => [
      `hems all round, ${form}`,
      step("s2", "hem", { edges: all, form, length: "10" }),
    ]),
    [
      "closed hems on walls",
      walls(),
      step("s3", "hem", {
        edges: at("s2a.end", "s2b.end", "s2c.end", "s2d.end"),
        form: "closed",
        length: "8",
      }),
    ],
    ["a jog", step("s2", "jog", { from: at("s1.south"), distance: "40", offset: "4.5", angle: "90" })],
    [
      "a profile that comes back to where it began",
      walls({ edges: at("s1.north") }),
      step("s3", "flange", { edges: at("s2a.end"), length: "40" }),
      step("s4", "flange", { edges: at("s3a.end"), length: "26" }),
    ],
  ])("%s hits nothing, on the way nor at the end", (_name, ...steps) => {
    expect(collisions(part(plate, ...steps)).map((f) => f.message)).toEqual([]);
  });
});

describe("a leg that is folded so far that it enters the plate it began at", () => {
  const folded = (angle: number) =>
    part(
      plate,
      walls({ edges: at("s1.north"), length: "12" }),
      step("s3", "flange", { edges: at("s2a.end"), length: "30", lengthTo: "tangent", angle }),
    );

  test("stops the part, from where another program's meshes first share metal", () => {
    const document = folded(130);
    const [finding, ...more] = collisions(document);
    expect(more).toEqual([]);
    expect(finding).toMatchObject({
      level: "stop",
      step: "s3",
      pieces: [
        { kind: "plate", id: "s1" },
        { kind: "plate", id: "s3a" },
      ],
    });
    const { sheet } = examinePart(document);
    const shared = (share: number) => {
      const folding = foldSheet(sheet!, evenState(sheet!, share));
      const [p, q] = ["s1", "s3a"].map((id) => manifoldsOf(sheet!, folding, pieceIndex(sheet!, "plate", id)));
      const volume = sharedVolume(p, q);
      forget([...p, ...q]);
      return volume;
    };
    let [free, met] = [0.5, 1];
    for (let i = 0; i < 20; i++) {
      const mid = (free + met) / 2;
      if (shared(mid) > 1e-9) met = mid;
      else free = mid;
    }
    const { at: begins, full, share, depth, volume } = finding.collision!;
    // 0.01 mm is contact: at the tip's speed that is so much later.
    expect(begins).toBeGreaterThan(met - 1e-6);
    expect(begins).toBeLessThan(met + 0.001);
    expect([full, share]).toEqual([true, 1]);
    expect(volume! / shared(1)).toBeCloseTo(1, 3);
    expect(depth).toBeGreaterThan(0.5);
    expect(finding.message).toMatch(
      /^Plate A stands \S+ mm deep in plate C, from \d\d % of folding on; they share/,
    );
  });

  test("is fine as long as it does not", () => {
    expect(collisions(folded(95))).toEqual([]);
  });

  test("counts bends that a step holds flat as flat", () => {
    const hold = step("s4", "hold", { bends: at("s3a") });
    expect(collisions({ ...folded(130), steps: [...folded(130).steps, hold] })).toEqual([]);
  });
});

describe("what is told of a collision", () => {
  test("names both pieces, with depth, volume and moment for other programs; null where there are very many", () => {
    const build = examineFully(demo("rain-gauge-hood.json"));
    const [told] = reportFindings(build).filter((f) => f.rule === "collision");
    expect(told).toMatchObject({ level: "warn", pieces: ["D", "E"], step: "s5", full: false });
    expect(told.at).toBeCloseTo(0.58665, 4);
    expect(told.depth).toBeGreaterThan(20);
    expect(told.volume).toBeGreaterThan(100);
    const others = reportFindings(build).filter((f) => f.rule !== "collision");
    expect(others.length).toBeGreaterThan(3);
    for (const f of others) expect(f).not.toHaveProperty("depth");
  });

  test("says lengths in the units of the part", () => {
    const inches = { ...demo("rain-gauge-hood.json"), units: "in" as const };
    expect(collisions(inches)[0].message).toMatch(/up to 0\.\d+ in deep/);
  });

  test("is one sentence where very many pieces are in one place", () => {
    // A strip that is rolled up in itself.
    const turns = Array.from({ length: 40 }, (_, i) =>
      step(`s${i + 2}`, "flange", {
        edges: at(i === 0 ? "s1.north" : `s${i + 1}a.end`),
        ...{ length: "14", lengthTo: "tangent", angle: "95" },
      }),
    );
    const found = collisions(part({ ...plate, width: "10", depth: "14" }, ...turns));
    expect(found.length).toBe(41);
    expect(found[0].level).toBe("stop");
    const more = found.filter((f) =>
      /^\d+ more pairs of plates and bends stand in one another/.test(f.message),
    );
    expect(more.length).toBe(1);
    expect(more[0].pieces!.length).toBeGreaterThan(40);
    for (const f of found) expect(Number.isFinite(f.collision?.at)).toBe(true);
  }, 60_000);

  test("is nothing of a part that has no sheet, and of the pieces that stand where a step is wrong", () => {
    expect(collisions(part())).toEqual([]);
    const hood = demo("rain-gauge-hood.json");
    const wrong = { ...hood, steps: [...hood.steps, step("s9", "flange", { edges: at("s99.end") })] };
    expect(collisions(wrong).length).toBe(1);
  });
});

describe("a bend that is turned by itself at the end", () => {
  const stuck = (document: PartDocument) =>
    examineFully(document).findings.filter((f) => f.rule === "turns-alone");

  test("is noted where it runs into something that stands folded, with what and where", () => {
    const [second, fourth, ...more] = stuck(demo("rain-gauge-hood.json"));
    expect(more).toEqual([]);
    expect(second).toMatchObject({ level: "note", step: "s3" });
    expect(second.pieces!.map((p) => `${p.kind} ${p.id}`)).toEqual(["bend s3a", "plate s4a", "plate s5a"]);
    expect(second.message).toMatch(
      /^Bend 2 cannot be turned by itself .* plate D and plate E would meet at \d+ % of it/,
    );
    expect(fourth.pieces![0]).toEqual({ kind: "bend", id: "s5a" });
    // The meshes say the same: turned alone to there the two share metal, and a hair before it they do not.
    const { sheet } = examinePart(demo("rain-gauge-hood.json"));
    const [{ bend, a, b, at: begins }] = new CollisionSearch().turnsAlone(sheet!);
    const shared = (share: number) => {
      const state = evenState(sheet!, 1).map((v, i) => (i === bend ? share : v));
      const folding = foldSheet(sheet!, state);
      const [p, q] = [a, b].map((i) => manifoldsOf(sheet!, folding, i));
      const volume = sharedVolume(p, q);
      forget([...p, ...q]);
      return volume;
    };
    expect(shared(begins + 1e-3)).toBeGreaterThan(0);
    expect(shared(begins - 2e-3)).toBeLessThan(1e-9);
  });

  test("is not noted where it is free, held flat, or at the end in the way of what stands there already", () => {
    expect(stuck(part(plate, walls()))).toEqual([]);
    expect(stuck(demo("logger-box.json"))).toEqual([]);
    const hood = demo("rain-gauge-hood.json");
    const held = { ...hood, steps: [...hood.steps, step("s9", "hold", { bends: at("s3a", "s5a") })] };
    expect(stuck(held).filter((f) => f.step === "s3" || f.step === "s5")).toEqual([]);
  });
});

describe("a gap that is less than the shop leaves", () => {
  const rules = (leastGap: number) => ({ ...DEFAULT_RULES, values: { ...DEFAULT_RULES.values, leastGap } });
  /** A channel whose lips come within a gap of one another over its middle. */
  const channel = (gap: number) =>
    part(
      { ...plate, depth: "60" },
      walls({ edges: at("s1.north", "s1.south") }),
      step("s3", "flange", { edges: at("s2a.end", "s2b.end"), length: String((60 - gap) / 2) }),
    );
  const gaps = (document: PartDocument, least: number) =>
    examineFully(document, rules(least)).findings.filter((f) => f.rule === "tight-gap");

  test("is told from there on, with what it is; by default none is asked", () => {
    expect(gaps(channel(2 + 1e-6), 2)).toEqual([]);
    const found = gaps(channel(2 - 1e-6), 2);
    expect(found.length).toBe(1);
    expect(found[0]).toMatchObject({
      level: "warn",
      found: expect.closeTo(2 - 1e-6, 8),
      wanted: 2,
      pieces: [
        { kind: "plate", id: "s3a" },
        { kind: "plate", id: "s3b" },
      ],
    });
    expect(gaps(channel(0.5), 0)).toEqual([]);
  });

  test("is none between neighbours, nor where metal touches", () => {
    expect(gaps(part(plate, walls({ edges: at("s1.north") })), 50)).toEqual([]);
    expect(gaps(channel(0), 1)).toEqual([]);
    const off = { ...rules(2), levels: { ...DEFAULT_RULES.levels, "tight-gap": "off" as const } };
    expect(examineFully(channel(1), off).findings.filter((f) => f.rule === "tight-gap")).toEqual([]);
  });
});

describe("a search that follows another", () => {
  test("finds what one of its own finds, whatever was changed", () => {
    fc.assert(
      fc.property(crowdedPart, spread(0, 0.999), spread(0.5, 1.5), (document, which, factor) => {
        const [build, search] = [createPartBuilder(), new CollisionSearch()];
        search.search(build(document).sheet!);
        const changed = document.steps[1 + Math.floor(which * (document.steps.length - 1))];
        const next = withChange(document, changed.id, { length: String(Number(changed.length) * factor) });
        const { sheet } = build(next);
        const { meetings } = search.search(sheet!);
        expect(meetings).toEqual(new CollisionSearch().search(examinePart(next).sheet!).meetings);
        expect(search.atEnd(sheet!).length).toBe(meetings.filter((m) => m.full).length);
      }),
      { numRuns: RUNS },
    );
  }, 120_000);
});
