import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  bendsOf,
  createExaminer,
  createPartBuilder,
  examinePart,
  moveProblem,
  moveStep,
  newPart,
  type PartBuild,
  type PartDocument,
  platesOf,
  type StepDocument,
} from "../src/index.ts";
import { mirroring } from "../src/plane/isometry.ts";
import { distance, dot, subtract } from "../src/plane/point.ts";
import { type OpenDraft, reopen } from "../src/sheet/draft.ts";
import { mirrorWhole } from "../src/sheet/shaping/replicate.ts";
import { draftOf } from "./draft-of.ts";
import { part, withChange } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";

sameCases(20261125);
const RUNS = casesOf(120);
const share = spread(0, 0.999);
const at = <T>(list: readonly T[], s: number): T => list[Math.floor(s * list.length)];

const findingsOf = (b: PartBuild) => b.findings.map((f) => [f.level, f.rule, f.step, f.message]);
/** All that a build says that a person could read or cut. */
const told = (b: PartBuild) => ({
  states: b.steps.map((s) => [s.id, s.state, s.section, s.marks, s.notes]),
  findings: findingsOf(b),
  bends: b.bends,
  blank: b.blank && [b.blank.outlines, b.blank.openings, b.blank.area],
  box: b.folded?.box,
  plates: platesOf(b.sheet).map((p) => [p.id, p.edges]),
});

/** A change that a person makes to a step: a number, which way it goes, or whether it works at all. */
function changedStep(step: StepDocument, s: number): Record<string, unknown> {
  const numbers = Object.entries(step).filter(
    ([, v]) => typeof v === "number" || /^-?\d+(\.\d+)?$/.test(`${v}`),
  );
  if (numbers.length === 0 || s < 0.1) return { paused: !step.paused };
  const [key, value] = at(numbers, s);
  return { [key]: String(Number(value) * (s < 0.5 ? 0.8 : 1.25)) };
}

describe("a part that is changed", () => {
  test("in any step and then built on is what it would be built afresh", () => {
    fc.assert(
      fc.property(randomChain, share, share, (document, which, how) => {
        const builder = createPartBuilder();
        builder(document);
        const step = at(document.steps, which);
        const next = withChange(document, step.id, changedStep(step, how));
        expect(told(builder(next))).toEqual(told(createPartBuilder()(next)));
      }),
      { numRuns: RUNS },
    );
  });

  test("and changed back, or paused and let work again, is what it was", () => {
    fc.assert(
      fc.property(randomChain, share, (document, which) => {
        const builder = createPartBuilder();
        const before = told(builder(document));
        const { id } = at(document.steps, which);
        const paused = builder(withChange(document, id, { paused: true }));
        expect(paused.steps.find((s) => s.id === id)?.state).toBe("paused");
        expect(told(builder(withChange(document, id, { paused: undefined })))).toEqual(before);
      }),
      { numRuns: RUNS },
    );
  });

  test("in a named value or the stock is what it would be built afresh", () => {
    fc.assert(
      fc.property(randomChain, share, (document, s) => {
        const builder = createPartBuilder();
        builder(document);
        const next = { ...document, stock: { ...document.stock, radius: String(0.5 + 3 * s) } };
        expect(told(builder(next))).toEqual(told(createPartBuilder()(next)));
      }),
      { numRuns: RUNS / 2 },
    );
  });
});

const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const wall = (id: string, edge: string, more: object = {}): StepDocument => ({
  id,
  kind: "flange",
  edges: [{ key: "a", at: edge }],
  length: "25",
  ...more,
});

describe("steps that were built before", () => {
  test("run again when one before them changed, although they did not", () => {
    // The second wall keeps its own text, but stands on a plate that is wider now.
    const builder = createPartBuilder();
    const steps = [plate, wall("s2", "s1.north")];
    builder(part(...steps));
    const wide = builder(part({ ...plate, width: "150" }, steps[1]));
    expect(wide.bends[0].length).toBeCloseTo(150, 9);
    expect(wide.blank!.width).toBeCloseTo(150, 9);
  });

  test("run again when one is put between, or their order changes", () => {
    const builder = createPartBuilder();
    const steps = [plate, wall("s2", "s1.north"), wall("s3", "s1.east")];
    builder(part(...steps));
    const slot: StepDocument = {
      id: "s4",
      kind: "cut",
      plate: [{ key: "a", at: "s1" }],
      form: "rectangle",
      width: "20",
      height: "10",
    };
    for (const order of [
      [steps[0], slot, steps[1], steps[2]],
      [steps[0], steps[2], steps[1]],
      [steps[0], steps[1], slot, steps[2]],
    ])
      expect(told(builder(part(...order)))).toEqual(told(createPartBuilder()(part(...order))));
  });

  test("name other steps by where these stand now, although nothing before them was built anew", () => {
    const builder = createPartBuilder();
    const lost = wall("s3", "s2a.end");
    const off = { ...wall("s2", "s1.north"), paused: true };
    expect(findingsOf(builder(part(plate, off, lost)))[0][3]).toContain("step 2 is paused");
    const more = part(plate, { ...wall("s4", "s1.south"), paused: true }, off, lost);
    expect(findingsOf(builder(more))[0][3]).toContain("step 3 is paused");
  });

  test("are not run again when only what comes after them changes", () => {
    const builder = createPartBuilder();
    const steps = [plate, wall("s2", "s1.north")];
    const before = builder(part(...steps));
    const after = builder(part(...steps, wall("s3", "s1.east")));
    expect(after.steps[0]).toBe(before.steps[0]);
    expect(after.steps[1]).toBe(before.steps[1]);
    // Another thickness is another sheet, from the first step on.
    const thick = builder({ ...part(...steps), stock: { ...newPart("").stock, thickness: "2" } });
    expect(thick.steps[0]).not.toBe(before.steps[0]);
    expect(thick.sheet!.t).toBe(2);
  });

  test("run again when a later step changes the bend that they make", () => {
    const builder = createPartBuilder();
    const change = (angle: string): StepDocument => ({
      id: "s3",
      kind: "bend",
      bends: [{ key: "a", at: "s2a" }],
      angle,
    });
    const document = (angle: string) => part(plate, wall("s2", "s1.north"), change(angle));
    builder(document("60"));
    const now = builder(document("80"));
    expect((now.bends[0].angle * 180) / Math.PI).toBeCloseTo(80, 9);
    expect(told(now)).toEqual(told(createPartBuilder()(document("80"))));
  });

  test("stand up to the bookmark, and the rest waits", () => {
    const document = { ...part(plate, wall("s2", "s1.north"), wall("s3", "s1.east")), builtTo: "s2" };
    expect(examinePart(document).steps.map((s) => s.state)).toEqual(["built", "built", "later"]);
    expect(examinePart(document).bends.length).toBe(1);
  });
});

describe("what was found about a bend or a piece that is the same record still", () => {
  const examined = (build: PartBuild) => ({ ...told(build), folded: build.folded, bends: build.bends });
  const after = (first: PartDocument, then: PartDocument) => {
    const examine = createExaminer();
    return { before: examine(first), now: examine(then), afresh: examinePart(then) };
  };

  test("is found again where its plate is another: an opening that comes too near to it, an edge beside it", () => {
    const hole = (y: string): StepDocument => ({
      ...{ id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "8", x: "0", y },
    });
    const document = (y: string) => part(plate, wall("s2", "s1.north"), hole(y));
    const { before, now, afresh } = after(document("-10"), document("32"));
    expect(bendsOf(now.sheet)[0]).toBe(bendsOf(before.sheet)[0]);
    expect(before.findings.map((f) => f.rule)).not.toContain("opening-to-bend");
    expect(now.findings.map((f) => f.rule)).toContain("opening-to-bend");
    expect(examined(now)).toEqual(examined(afresh));
    const away = after(document("32"), document("-10"));
    expect(away.now.findings.map((f) => f.rule)).not.toContain("opening-to-bend");
  });

  test("is found again where a relief's metal has been taken", () => {
    const narrow = wall("s2", "s1.north", {
      ...{ span: "width", width: "40", at: "centre", shift: "0" },
      ...{ rightRelief: "square", rightReliefWidth: "3", rightReliefDepth: "3" },
    });
    // Beside the bend's right end all is cut away, or all but what is about its notch.
    const cut = (x: string): StepDocument => ({
      ...{ id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "rectangle" },
      ...{ width: "60", height: "30", x, y: "40" },
    });
    const { before, now, afresh } = after(part(plate, narrow, cut("60")), part(plate, narrow, cut("50")));
    const idle = (build: PartBuild) => build.findings.filter((f) => f.rule === "idle-relief").length;
    expect([idle(before), idle(now)]).toEqual([0, 1]);
    expect(examined(now)).toEqual(examined(afresh));
  });

  test("is no bound to a box that has become smaller: what did not stand out of the walls stands out without them", () => {
    const formed: StepDocument = {
      ...{ id: "s3", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], x: "0", y: "0" },
    };
    const document = (turn: string, length: string) =>
      part(plate, wall("s2", "s1.north", { turn, length }), formed);
    // One wall stands on the side that the shape stands out to and hides it, and the other does not.
    const heights = [
      ["up", "down"],
      ["down", "up"],
    ].map(([turn, other]) => {
      const { now, afresh } = after(document(turn, "40"), document(other, "40"));
      expect(now.folded!.box).toEqual(afresh.folded!.box);
      return now.folded!.box.max[2] - now.folded!.box.min[2];
    });
    expect(Math.min(...heights)).toBeCloseTo(40, 9);
    expect(Math.max(...heights)).toBeGreaterThan(41);
  });

  test("is found again in a stock that bends the same with another force", () => {
    const document = (tensile: string) => {
      const made = part(plate, wall("s2", "s1.north"));
      return { ...made, stock: { ...made.stock, tensile } };
    };
    const { before, now, afresh } = after(document("300"), document("600"));
    expect(now.bends[0].force!.total).toBeCloseTo(2 * before.bends[0].force!.total, 9);
    expect(examined(now)).toEqual(examined(afresh));
  });

  test("whatever is changed in a part, an examiner says what one says that sees it first", () => {
    fc.assert(
      fc.property(randomChain, share, share, (document, which, s) => {
        const examine = createExaminer();
        examine(document);
        const step = at(document.steps, which);
        const next = withChange(document, step.id, changedStep(step, s));
        expect(examined(examine(next))).toEqual(examined(examinePart(next)));
      }),
      { numRuns: RUNS / 2 },
    );
  });
});

describe("a step moved to another place", () => {
  const steps = [plate, wall("s2", "s1.north"), wall("s3", "s1.east"), wall("s4", "s1.west")];
  const order = (id: string, to: number) => moveStep(part(...steps), id, to).steps.map((s) => s.id);

  test.each([
    ["s2", 3, ["s1", "s3", "s4", "s2"]],
    ["s2", 99, ["s1", "s3", "s4", "s2"]],
    ["s4", 3, ["s1", "s2", "s3", "s4"]],
    ["s4", 1, ["s1", "s4", "s2", "s3"]],
    ["s3", -5, ["s3", "s1", "s2", "s4"]],
  ] as const)("%s to place %i", (id, to, expected) => {
    expect(order(id, to)).toEqual(expected);
  });
});

describe("where a step may stand", () => {
  const hole: StepDocument = {
    id: "s2",
    kind: "cut",
    plate: [{ key: "a", at: "s1" }],
    form: "round",
    diameter: "8",
  };
  const again: StepDocument = {
    id: "s3",
    kind: "mirror",
    what: "steps",
    steps: [{ key: "a", at: "s2" }],
    about: "across",
  };

  test("is after the steps that it repeats, and after what it stands on", () => {
    const document = part(plate, hole, again);
    expect(moveProblem(document, "s3", 1)).toContain("Step 3 stands on what step 2 makes");
    expect(moveProblem(document, "s2", 0)).toContain("Step 2 stands on what step 1 makes");
    expect(moveProblem(document, "s3", 2)).toBeUndefined();
  });

  test("is anywhere for a step whose picks are gone already", () => {
    const lost = wall("s4", "s9a.end");
    expect(moveProblem(part(plate, hole, lost), "s4", 1)).toBeUndefined();
  });

  test("is told of a pattern that has no plate left to repeat on", () => {
    const row: StepDocument = {
      id: "s3",
      kind: "pattern",
      steps: [{ key: "a", at: "s2" }],
      form: "row",
      count: "3",
    };
    const held: StepDocument = { id: "s2", kind: "hold", does: "fold" };
    const found = examinePart(part({ ...plate, paused: true }, held, row)).findings;
    expect(found.find((f) => f.step === "s3")?.level).toBe("stop");
  });
});

/** A draft that may be written into. */
function openDraftOf(document: PartDocument): OpenDraft | undefined {
  const draft = draftOf(document);
  return draft && reopen(draft);
}

/** To a millionth of a millimetre; of what lies many metres off nine digits, as many as a few turns leave of it. */
const roundedNumber = (v: number) =>
  Math.abs(v) < 1000 ? Math.round(v * 1e6) / 1e6 + 0 : Number(v.toPrecision(9));

/** A record with its numbers rounded, so that an exchanged sum does not count as a difference. */
const rounded = (value: unknown): unknown =>
  JSON.parse(
    JSON.stringify(value instanceof Map ? [...value] : value, (_k, v) =>
      typeof v === "number" ? roundedNumber(v) : v instanceof Map ? [...v] : v,
    ),
  );

describe("the other hand of a part", () => {
  const move = mirroring({ x: 3, y: -2 }, { x: Math.cos(0.4), y: Math.sin(0.4) });

  test("mirrored once more is the part itself, in all records", () => {
    fc.assert(
      fc.property(randomChain, (document) => {
        const draft = openDraftOf(document);
        if (!draft || draft.roots.length === 0) return;
        const before = rounded([draft.pieces.plates(), draft.pieces.carriers(), draft.slits, draft.roots]);
        mirrorWhole(draft, move);
        mirrorWhole(draft, move);
        expect(rounded([draft.pieces.plates(), draft.pieces.carriers(), draft.slits, draft.roots])).toEqual(
          before,
        );
      }),
      { numRuns: RUNS },
    );
  });

  test("also where a fold ends in the relief of a flange, whose edge goes along with its bend", () => {
    const fold = part(
      {
        ...{ id: "s1", kind: "profile", width: 10, on: "outer", side: "both" },
        legs: [{ key: "l0", form: "straight", length: 5, turn: 0 }],
      },
      {
        ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.south" }], length: 5, angle: 1 },
        ...{ span: "width", width: 4, leftRelief: "stock", rightRelief: "stock" },
      },
      {
        ...{ id: "s3", kind: "fold", by: "share", share: 0.8, tilt: 0, moves: "near", angle: 5 },
        ...{ from: [{ key: "a", at: "s1.east" }], onto: [{ key: "a", at: "s1.south" }], meaning: "end" },
      },
    );
    const draft = openDraftOf({ ...fold, stock: { ...fold.stock, thickness: 0.7, radius: 0.4, k: 0.25 } })!;
    const bend = draft.pieces.carrier("s2a")!;
    // The piece of the edge on which the bend stands is that of the plate that it hangs on.
    const edge = draft.pieces.plate(bend.parent)!.edges.find((e) => e.role === bend.grownOn!.role)!;
    expect(dot(subtract(bend.origin, edge.left), bend.axis)).toBeCloseTo(bend.grownOn!.from, 9);
    expect(distance(edge.left, edge.right)).toBeGreaterThan(bend.grownOn!.to);
    const before = rounded([draft.pieces.plates(), draft.pieces.carriers()]);
    mirrorWhole(draft, move);
    mirrorWhole(draft, move);
    expect(rounded([draft.pieces.plates(), draft.pieces.carriers()])).toEqual(before);
  });

  test("keeps each bend on its edge, counted from the end that is left now", () => {
    const own = { span: "width", width: "30", at: "left", shift: "5" };
    const draft = openDraftOf(part(plate, wall("s2", "s1.north", own)))!;
    const [before] = draft.pieces.carriers();
    expect(before.grownOn).toMatchObject({ role: "north", from: 5, to: 35 });
    mirrorWhole(draft, mirroring({ x: 0, y: 0 }, { x: 0, y: 1 }));
    const [after] = draft.pieces.carriers();
    expect(after.grownOn).toMatchObject({ role: "north", from: 85, to: 115 });
  });

  test("takes a second wall where there is room now, and none where there is none", () => {
    const own = { span: "width", width: "30", at: "left", shift: "0" };
    const hand: StepDocument = {
      id: "s3",
      kind: "mirror",
      what: "hand",
      about: "across",
      plate: [{ key: "a", at: "s1" }],
    };
    const second = (where: "left" | "right") =>
      examinePart(
        part(plate, wall("s2", "s1.north", own), hand, wall("s4", "s1.north", { ...own, at: where })),
      );
    expect(findingsOf(second("left"))).toEqual([]);
    expect(second("left").bends.length).toBe(2);
    expect(findingsOf(second("right"))[0][0]).toBe("stop");
  });

  test("has the ends without relief of a bend at its other ends", () => {
    const torn = {
      leftRelief: "none",
      rightRelief: "square",
      rightReliefWidth: "2",
      span: "inset",
      leftInset: "10",
      rightInset: "10",
    };
    const hand: StepDocument = {
      id: "s3",
      kind: "mirror",
      what: "hand",
      about: "across",
      plate: [{ key: "a", at: "s1" }],
    };
    const one = examinePart(part(plate, wall("s2", "s1.north", torn)));
    const other = examinePart(part(plate, wall("s2", "s1.north", torn), hand));
    const ends = (b: PartBuild) => bendsOf(b.sheet!).map((x) => x.unrelieved);
    expect(ends(one)).toEqual([["left"]]);
    expect(ends(other)).toEqual([["right"]]);
    // The same of steps that are mirrored onto the edge opposite.
    const steps: StepDocument = { ...hand, what: "steps", steps: [{ key: "a", at: "s2" }], about: "along" };
    const both = examinePart(part(plate, wall("s2", "s1.north", torn), steps));
    expect(ends(both)).toEqual([["left"], ["right"]]);
  });
});
