import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { CHECKS } from "../src/check/checks.ts";
import { joinAlike } from "../src/check/rule.ts";
import { boxesApart, eachNear, eachOverlapping, treeOf } from "../src/collision/box-tree.ts";
import {
  applyCommand,
  askRules,
  clearanceWithin,
  createCollisionCheck,
  createPartBuilder,
  DEFAULT_RULES,
  evenState,
  examinePart,
  type Finding,
  mendCommand,
  notChecked,
  type PartDocument,
  RULE_GROUPS,
  readDocument,
  SHOP_RULES,
  type ShopRules,
} from "../src/index.ts";
import type { Vector } from "../src/space/vector.ts";
import { spentOn } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { crowdedPart, randomPart } from "./random-parts.ts";
import { at, cardWith, HAIR, part, plate, rules, said, saidFully, step, T, wall } from "./ruled-parts.ts";

sameCases(20261128);
const RUNS = casesOf(300);
const text = (v: number) => String(v);

/** A document after the mends of some findings are taken as one edit. */
function mended(document: PartDocument, findings: readonly Finding[]): PartDocument {
  const command = mendCommand(
    document,
    findings.flatMap((f) => (f.mend ? [f.mend] : [])),
  );
  const done = command && applyCommand(document, command);
  if (!done?.ok) throw new Error(done ? done.error : "There is nothing to mend.");
  return done.value.document;
}

describe("every rule", () => {
  test("has a level of the shop's, stands in a group and is told by the level that is set", () => {
    expect(new Set(SHOP_RULES.map((r) => r.id)).size).toBe(SHOP_RULES.length);
    for (const { group } of SHOP_RULES) expect(RULE_GROUPS).toContain(group);
    const document = part(plate(), wall("s2", "s1.north", { length: "8" }));
    for (const level of ["note", "warn", "stop"] as const)
      expect(said("short-leg", document, rules({}, { "short-leg": level }))[0].level).toBe(level);
    expect(said("short-leg", document, rules({}, { "short-leg": "off" }))).toEqual([]);
  });

  test("that stood before the others has one too: a blank over itself can be a warning", () => {
    // Walls at both sides of an inner corner lie over one another in the flat.
    const corners = [
      [0, 0],
      [100, 0],
      [100, 40],
      [40, 40],
      [40, 100],
      [0, 100],
    ].map(([x, y], i) => ({ key: `p${i}`, x: text(x), y: text(y) }));
    const document = part(
      step("s1", "plate", { form: "outline", points: corners }),
      wall("s2", "s1.side-p2"),
      wall("s3", "s1.side-p3"),
    );
    expect(said("overlap", document)[0].level).toBe("stop");
    expect(said("overlap", document, rules({}, { overlap: "warn" }))[0].level).toBe("warn");
    expect(said("overlap", document, rules({}, { overlap: "off" }))).toEqual([]);
  });

  test("is told by one check, and no check tells of a rule that there is not", () => {
    const whole = ["collision", "meets-on-the-way", "turns-alone", "tight-gap", "lone-sheet"];
    const toldBy = CHECKS.flatMap(({ tells }) => tells).filter((rule) => rule !== "own-radius");
    expect([...toldBy, ...whole].sort()).toEqual(SHOP_RULES.map((r) => r.id).sort());
  });

  test("asked alone says what it says among all, whatever the part", () => {
    const told = new Set<string>();
    const levels = (of: (id: string) => "warn" | "off") =>
      ({
        // Numbers large enough that most of them have something to say.
        values: { ...DEFAULT_RULES.values, innerRadius: 1, outerRadius: 1, leastGap: 40, sheetReach: 1 },
        levels: Object.fromEntries(SHOP_RULES.map(({ id }) => [id, of(id)])),
      }) satisfies ShopRules;
    const small = cardWith({ sheets: [{ id: "a", name: "Small", length: 90, width: 60 }] });
    fc.assert(
      fc.property(fc.oneof(randomPart, crowdedPart), fc.boolean(), (drawn, onCard) => {
        const document: PartDocument = onCard ? { ...drawn, stock: { card: small, grain: "x" } } : drawn;
        const build = examinePart(document);
        const all = askRules(
          build,
          levels(() => "warn"),
        );
        for (const { id } of SHOP_RULES) {
          const alone = askRules(
            build,
            levels((other) => (other === id ? "warn" : "off")),
          ).filter((f) => f.rule !== "own-radius");
          expect(alone, id).toEqual(all.filter((f) => f.rule === id));
          if (alone.length > 0) told.add(id);
        }
      }),
      { numRuns: Math.max(30, Math.ceil(RUNS / 5)) },
    );
    expect(told.size).toBeGreaterThan(15);
    expect(told).toContain("sheet-size");
    expect(told).toContain("outside-chart");
  }, 60_000);
});

describe("a step that changes nothing", () => {
  test("is told, and left out by one action", () => {
    const idle = part(plate(), step("s2", "hold", { bends: [] }));
    const told = said("idle-step", idle);
    if (told.length === 0) {
      // Where a step of nothing is refused it says so itself.
      expect(examinePart(idle).steps[1].state).toBe("wrong");
      return;
    }
    expect(mended(idle, told).steps.map((s) => s.id)).toEqual(["s1"]);
  });

  test("is none that makes, cuts, holds or edits", () => {
    const document = part(
      plate({ holes: [{ key: "a", x: "0", y: "0", d: "8" }] }),
      wall("s2", "s1.north"),
      step("s3", "bend", { bends: at("s2a"), radius: "3" }),
      step("s4", "hold", { bends: at("s2a") }),
      step("s5", "cut", { plate: at("s1"), form: "rectangle", width: "10", height: "10", x: "30", y: "0" }),
    );
    expect(said("idle-step", document)).toEqual([]);
  });
});

describe("bends to both sides", () => {
  const z = (down: object = {}, stock: object = {}): PartDocument => ({
    ...part(
      plate(),
      wall("s2", "s1.north"),
      wall("s3", "s1.south", { turn: "down", ...down }),
      wall("s4", "s1.east"),
    ),
    stock: { card: cardWith(), ...stock },
  });

  test("are noted where one up and one down are alike", () => {
    expect(said("both-ways", z()).map((f) => [f.level, f.message])).toEqual([
      [
        "note",
        "Bend 1 up and bend 2 down, alike in length, angle and radius: bent the other way round the part is its mirror image. Mark which side is up.",
      ],
    ]);
    for (const other of [
      { angle: "80" },
      { radius: "3" },
      { span: "inset", leftInset: "20", rightInset: "20" },
    ])
      expect(said("both-ways", z(other))).toEqual([]);
    expect(said("both-ways", part(plate(), wall("s2", "s1.north"), wall("s3", "s1.south")))).toEqual([]);
  });

  test("say on which of them the side that is seen lies on the die, alike or not", () => {
    expect(said("both-ways", z({}, { visibleSide: "A" }))[0].message).toContain(
      "Side A, which is seen, lies on the die for bends 1 and 3:",
    );
    const [told] = said("both-ways", z({ angle: "80" }, { visibleSide: "B" }));
    expect(told.message).toMatch(
      /^The sheet is turned over between bends up and bends down\. Side B, which is seen, lies on the die for bend 2:/,
    );
  });

  test("are none of a jog, which its tool makes at once", () => {
    const jogged = part(
      plate(),
      step("s2", "jog", { from: at("s1.south"), distance: "40", form: "jog", offset: "8" }),
    );
    expect(said("both-ways", jogged)).toEqual([]);
  });
});

describe("grain and the side that is seen", () => {
  test("are the part's own, with a card or without, and read back", () => {
    const document: PartDocument = {
      ...part(plate()),
      stock: { card: cardWith(), grain: "x", visibleSide: "B" },
    };
    const read = readDocument(JSON.parse(JSON.stringify(document)));
    expect(read.ok && examinePart(read.value).stock).toMatchObject({ grain: "x", visibleSide: "B" });
    const wrong = readDocument({ ...document, stock: { ...document.stock, grain: "z" } });
    expect(wrong.ok).toBe(false);
  });

  test("are open where nothing is said", () => {
    const { stock } = examinePart(part(plate()));
    expect(stock!.grain).toBeUndefined();
    expect(stock!.visibleSide).toBeUndefined();
  });
});

describe("sheets of one part", () => {
  /** Two plates that lie over one another with so much air between them, and a third beside them if asked. */
  const stacked = (air: number, aside?: number) =>
    part(
      plate(),
      step("s2", "plate", { width: "60", depth: "40", z: text(T + air) }),
      ...(aside === undefined
        ? []
        : [step("s3", "plate", { width: "40", depth: "40", x: text(60 + 20 + aside) })]),
    );
  const lone = (document: PartDocument, by = DEFAULT_RULES) =>
    saidFully("lone-sheet", document, by).map((f) => f.step);

  test("that hang on nothing are noted, from the distance on that the shop bridges", () => {
    expect(lone(stacked(1 - HAIR))).toEqual([]);
    expect(lone(stacked(1 + HAIR))).toEqual(["s1", "s2"]);
    expect(lone(stacked(4), rules({ sheetReach: 5 }))).toEqual([]);
    expect(lone(stacked(0.5, 0.5))).toEqual([]);
    expect(lone(stacked(0.5, 30))).toEqual(["s3"]);
    expect(saidFully("lone-sheet", stacked(0.5, 30))[0]).toMatchObject({
      level: "note",
      message: expect.stringMatching(/^The sheet of plate C is nowhere within 1 mm of another when folded/),
    });
  });

  test("are not asked where there is one, nor where the rule is off", () => {
    expect(lone(part(plate(), wall("s2", "s1.north")))).toEqual([]);
    expect(lone(stacked(40), rules({}, { "lone-sheet": "off" }))).toEqual([]);
  });
});

describe("where the metal of a part comes nearest to itself", () => {
  const channel = (depth: number) =>
    part(
      plate({ depth: text(depth) }),
      wall("s2", "s1.north", { angle: "120" }),
      wall("s3", "s1.south", { angle: "120" }),
    );

  const within = (document: PartDocument, share = 1) => {
    const { sheet } = examinePart(document);
    return clearanceWithin(sheet!, evenState(sheet!, share));
  };

  test("is the least of every two pieces that are no neighbours", () => {
    const found = within(channel(80))!;
    expect(found.pieces.map((p) => p.id).sort()).toEqual(["s2a", "s3a"]);
    const [dx, dy, dz] = found.to.map((v, k) => v - found.from[k]);
    expect(Math.hypot(dx, dy, dz)).toBeCloseTo(found.distance, 6);
    // The tips lean in by 30 mm less what the bends take, on either side, at their inner faces.
    const lean = 30 * Math.sin(Math.PI / 6);
    expect(found.distance).toBeGreaterThan(80 - 2 * lean - 6);
    expect(found.distance).toBeLessThan(80 - 2 * lean + 6);
  });

  test("is nowhere in a part of one bend", () => {
    expect(within(part(plate(), wall("s2", "s1.north")))).toBeUndefined();
    expect(within(part(plate()))).toBeUndefined();
  });

  test("goes with the fold: flat, the tips of the two walls are as far apart as the blank is long", () => {
    const document = channel(80);
    const { blank } = examinePart(document);
    // What comes nearest in the flat are the two bends, across the plate.
    const flat = within(document, 0)!;
    expect(flat.distance).toBeLessThan(blank!.height);
    expect(flat.pieces.map((p) => p.id).sort()).toEqual(["s2a", "s3a"]);
    expect(within(document, 0.5)!.distance).not.toBeCloseTo(flat.distance, 3);
  });

  test("is found for a comb of 300 flanges without looking at every two of them", () => {
    const flanges = Array.from({ length: 300 }, (_, i) =>
      wall(`f${i}`, "s1.north", { length: "20", span: "width", width: "8", at: "left", shift: text(i * 10) }),
    );
    const document = part(plate({ width: "3000" }), ...flanges);
    const sheet = examinePart(document).sheet!;
    const { result, took } = spentOn(() => clearanceWithin(sheet, evenState(sheet, 1)));
    // Between two of them lies a relief of one and a half thicknesses, which takes metal of the next.
    expect(result!.distance).toBeCloseTo(2.25, 6);
    expect(took).toBeLessThan(2000);
  });
});

describe("two plates that stand in one another", () => {
  /** Walls that lean in over one another. */
  const leaning = (length: number, more: object = {}) =>
    part(
      plate({ depth: "40" }),
      wall("s2", "s1.north", { length: text(length), angle: "135", ...more }),
      wall("s3", "s1.south", { length: "50" }),
    );

  test("are parted by the shorter of the two ways to draw a leg back", () => {
    const document = leaning(60);
    const [told] = saidFully("collision", document);
    expect(told.level).toBe("stop");
    expect(told.mend!.title).toMatch(/^Shorten plate [BC] by [\d.]+ mm$/);
    const after = mended(document, [told]);
    expect(saidFully("collision", after).filter((f) => f.collision?.full)).toEqual([]);
    // And no more than was needed: a tenth longer again, and they meet.
    const by = told.mend!.remedies[0];
    if (by.do !== "longer") throw new Error("It is a length that is changed.");
    const less = mended(document, [{ ...told, mend: { title: "", remedies: [{ ...by, by: by.by + 0.1 }] } }]);
    expect(saidFully("collision", less).some((f) => f.collision?.full)).toBe(true);
  });

  test("of a step with several edges are shortened one alone", () => {
    const document = part(
      plate({ width: "400", depth: "40" }),
      wall("s2", "s1.north", {
        edges: [
          { key: "a", at: "s1.north", own: { span: "inset", leftInset: "80", rightInset: "80" } },
          { key: "b", at: "s1.east", own: { angle: "90" } },
        ],
        ...{ length: "60", angle: "135" },
      }),
      wall("s3", "s1.south", { length: "50" }),
    );
    const told = saidFully("collision", document).filter((f) => f.collision?.full && f.mend);
    const after = mended(document, told);
    const flange = after.steps[1] as unknown as {
      length: string;
      edges: readonly { own?: { length?: string } }[];
    };
    expect(flange.length).toBe("60");
    expect(Number(flange.edges[0].own?.length)).toBeLessThan(60);
    expect(flange.edges[1].own).toEqual({ angle: "90" });
    expect(saidFully("collision", after).filter((f) => f.collision?.full)).toEqual([]);
  });

  test("are parted by the same leg when more is added to the part, and by another when it hangs on that leg", () => {
    const [check, build] = [createCollisionCheck(), createPartBuilder()];
    const ask = (document: PartDocument) => check(document, build(document)).find((f) => f.collision?.full)!;
    const [base, lean, other] = leaning(60).steps;
    const lone = part(base, wall("s7", "s1.east", { length: "8", turn: "down" }), lean, other);
    const before = ask(lone);
    // A wall that touches neither nor what lies between, shifts every bend by one place.
    const more = part(...lone.steps, wall("s9", "s7a.end", { length: "8", angle: "30" }));
    const after = ask(more);
    expect(after.mend!.remedies).toEqual(before.mend!.remedies);
    expect(after.mend).toEqual(saidFully("collision", more)[0].mend);
    // The leg that would be cut back carries another from here on.
    const leg = before.mend!.remedies[0].step;
    const longer = { ...lone, steps: [...lone.steps, wall("s8", `${leg}a.end`, { length: "8" })] };
    expect(notChecked(build(longer))).toBe(undefined);
    const told = ask(longer);
    expect(told.mend?.remedies.some((r) => r.step === leg)).not.toBe(true);
    expect(told.mend).toEqual(saidFully("collision", longer).find((f) => f.collision?.full)!.mend);
  });

  test("have no such way where the leg is not a plain one", () => {
    const drawn = leaning(60, { shape: "angles", leftLean: "10", rightLean: "10" });
    const titles = saidFully("collision", drawn).flatMap((f) => (f.mend ? [f.mend.title] : []));
    expect(titles.every((t) => t.startsWith("Shorten plate C"))).toBe(true);
  });

  test("are as grave as the shop takes it, on the way and at the end by themselves", () => {
    const document = leaning(60);
    expect(saidFully("collision", document, rules({}, { collision: "note" }))[0].level).toBe("note");
    expect(
      saidFully("collision", document, rules({}, { collision: "off", "meets-on-the-way": "off" })),
    ).toEqual([]);
  });
});

describe("a part that is too large to be followed on its way", () => {
  test("says so in a note, whatever the shop takes collisions for", () => {
    const flanges = Array.from({ length: 505 }, (_, i) =>
      wall(`f${i}`, "s1.north", { length: "20", span: "width", width: "6", at: "left", shift: text(i * 9) }),
    );
    const [told] = saidFully("collision", part(plate({ width: "4600" }), ...flanges));
    expect(told).toMatchObject({ level: "note", message: expect.stringMatching(/^More than 1000 plates/) });
  });
});

describe("a part of which some is not built", () => {
  test("is checked as far as it stands, and what was not is said by its steps", () => {
    const small = { holes: [{ key: "a", x: "0", y: "0", d: "1" }] };
    const broken = part(plate(small), wall("s2", "s1.nowhere"), wall("s3", "s1.north"), {
      ...wall("s4", "s1.south"),
      paused: true,
    });
    const build = examinePart(broken);
    expect(build.findings.map((f) => f.rule).sort()).toEqual(["edge-gone", "small-opening"]);
    expect(notChecked(build)).toBe("Not checked, for they are not built: what steps 2 and 4 make.");
    expect(notChecked(examinePart(part(plate(), wall("s2", "s1.nowhere"))))).toBe(
      "Not checked, for it is not built: what step 2 makes.",
    );
    expect(notChecked(examinePart(part(plate())))).toBeUndefined();
  });
});

describe("findings that say the same of one step", () => {
  const alike = (n: number, message = "Too small."): Finding[] =>
    Array.from({ length: n }, (_, i) => ({
      level: "warn",
      rule: "small-opening",
      step: "s1",
      message,
      pieces: [{ kind: "plate", id: `p${i % 3}` }],
    }));

  test("become one that says how many, with all their pieces", () => {
    const [one, ...others] = joinAlike(alike(5000));
    expect(others).toEqual([]);
    expect(one.message).toBe("Too small. The same of 4999 more.");
    expect(one.pieces!.map((p) => p.id)).toEqual(["p0", "p1", "p2"]);
  });

  test("stay apart where they say different things, up to sixty of a rule", () => {
    const many = Array.from({ length: 200 }, (_, i) => alike(2, `Too small ${i}.`)).flat();
    const joined = joinAlike(many);
    expect(joined.length).toBe(61);
    expect(joined[60].message).toBe(
      "The same rule finds 280 more. Mend those above, and these will be told.",
    );
  });

  test("of 5,000 small holes are told, and mended, in a moment", () => {
    const holes = Array.from({ length: 900 }, (_, i) => ({
      ...{ key: `h${i}`, x: text((i % 30) * 4 - 58), y: text(Math.floor(i / 30) * 2.6 - 38), d: "1" },
    }));
    const { result, took } = spentOn(() => said("small-opening", part(plate({ holes }))));
    expect(result.length).toBe(1);
    expect(result[0].message).toContain("The same of 899 more.");
    expect(took).toBeLessThan(5000);
  });
});

describe("a tree of boxes", () => {
  interface Thing {
    readonly min: Vector;
    readonly max: Vector;
  }
  const thing: fc.Arbitrary<Thing> = fc
    .tuple(...[0, 1, 2].map(() => fc.tuple(spread(-20, 20), spread(0, 6))))
    .map((axes) => ({
      min: axes.map(([low]) => low) as unknown as Vector,
      max: axes.map(([low, size]) => low + size) as unknown as Vector,
    }));
  const things = fc.array(thing, { maxLength: 40 });

  test("finds every two boxes that share space, the second ones shifted", () => {
    const shift = fc.tuple(spread(-9, 9), spread(-9, 9), spread(-9, 9));
    fc.assert(
      fc.property(things, things, shift, (ps, qs, v) => {
        const found = new Set<string>();
        eachOverlapping(treeOf(ps), treeOf(qs), (a, b) => found.add(`${ps.indexOf(a)} ${qs.indexOf(b)}`), v);
        const all = ps.flatMap((p, i) =>
          qs.flatMap((q, j) =>
            [0, 1, 2].every((k) => p.min[k] < q.max[k] + v[k] && q.min[k] + v[k] < p.max[k])
              ? [`${i} ${j}`]
              : [],
          ),
        );
        expect([...found].sort()).toEqual(all.sort());
      }),
      { numRuns: RUNS },
    );
  });

  test("finds the nearest two boxes, whatever is looked at first", () => {
    fc.assert(
      fc.property(
        fc.array(thing, { minLength: 1, maxLength: 40 }),
        fc.array(thing, { minLength: 1, maxLength: 40 }),
        (ps, qs) => {
          let best = Infinity;
          eachNear(
            treeOf(ps),
            treeOf(qs),
            () => best,
            (a, b) => {
              best = Math.min(best, boxesApart(a, b));
            },
          );
          const least = Math.min(...ps.flatMap((p) => qs.map((q) => boxesApart(p, q))));
          expect(best).toBeCloseTo(least, 9);
        },
      ),
      { numRuns: RUNS },
    );
  });

  test("of nothing is nothing", () => {
    expect(treeOf([])).toBeUndefined();
    eachNear(
      undefined,
      undefined,
      () => HAIR,
      () => expect.unreachable(),
    );
  });
});
