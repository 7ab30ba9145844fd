import { describe, expect, test } from "vitest";
import { innerSetback } from "../src/bend/allowance.ts";
import {
  bendsOf,
  examinePart,
  outerSetback,
  type PartDocument,
  type StepDocument,
  toRadians,
} from "../src/index.ts";
import {
  at,
  cardWith,
  DIE,
  HAIR,
  isLimit,
  part,
  plate,
  R,
  rules,
  said,
  step,
  T,
  wall,
} from "./ruled-parts.ts";

const SETBACK = outerSetback({ t: T, r: R, angle: Math.PI / 2 })!;
const text = (v: number) => String(v);

describe("a channel that the punch has to get into", () => {
  /** Two walls of a plate so wide that their inside faces are `web` apart. */
  const channel = (web: number, leg: number, more: object = {}) =>
    part(
      plate({ depth: text(web + 2 * T) }),
      wall("s2", "s1.north", { length: text(leg + T), ...more }),
      wall("s3", "s1.south", { length: text(leg + T), ...more }),
    );

  test("bears legs as long as it is wide inside, with a punch of no thickness", () => {
    // At a right angle the tip swings to (web − leg)/√2 from the middle of the punch.
    const web = 20;
    const leg = (found: number) => web - found * Math.SQRT2;
    isLimit("deep-channel", (found) => channel(web, leg(found)), 0);
    isLimit("deep-channel", (found) => channel(web, leg(found)), 6, { by: rules({ punchReach: 6 }) });
    isLimit("deep-channel", (found) => channel(web, leg(found)), -4, { by: rules({ punchReach: -4 }) });
  });

  test("goes by the better of the two orders: a short lip is bent first", () => {
    // A wall of 40 with a lip of 10 across: the lip swings, or the plate does.
    const lipped = (lip: number) =>
      part(plate(), wall("s2", "s1.north", { length: "40" }), wall("s3", "s2a.end", { length: text(lip) }));
    expect(said("deep-channel", lipped(10))).toEqual([]);
    const [told] = said("deep-channel", lipped(60));
    expect(told.message).toContain("Bends 1 and 2: the punch does not get in between");
    expect(told.pieces).toEqual([
      { kind: "plate", id: "s2a" },
      { kind: "bend", id: "s2a" },
      { kind: "bend", id: "s3a" },
    ]);
  });

  test("is none where the two bends go to two sides, or where their stretches do not face one another", () => {
    const z = part(
      plate({ depth: "20" }),
      wall("s2", "s1.north", { length: "60" }),
      wall("s3", "s1.south", { length: "60", turn: "down" }),
    );
    expect(said("deep-channel", z)).toEqual([]);
    const aside = (where: string) => ({ length: "60", span: "width", width: "40", at: where });
    const apart = part(
      plate({ depth: "20" }),
      wall("s2", "s1.north", aside("left")),
      wall("s3", "s1.south", aside("left")),
    );
    expect(said("deep-channel", apart)).toEqual([]);
    const facing = part(
      plate({ depth: "20" }),
      wall("s2", "s1.north", aside("left")),
      wall("s3", "s1.south", aside("right")),
    );
    expect(said("deep-channel", facing).length).toBe(1);
  });

  test("is measured from the inner mould line at any angle", () => {
    const angle = toRadians(60);
    const [p, q] = [innerSetback({ t: T, r: R, angle })!, outerSetback({ t: T, r: R, angle })!];
    const document = channel(20, 40, { angle: "60" });
    const [told] = said("deep-channel", document, rules({ punchReach: 1000 }));
    // The bends are set back by their own outer setback, so that the flat between them is the plate's depth less both.
    const web = 20 + 2 * T - 2 * q + 2 * p;
    const leg = 40 + T - q + p;
    expect(told.found).toBeCloseTo(web * Math.cos(angle / 2) + leg * Math.cos(angle * 1.5), 6);
  });
});

describe("a bend that is more acute than the dies", () => {
  const bent = (opening: number) => part(plate(), wall("s2", "s1.north", { angle: text(180 - opening) }));

  test("is told from the angle of the most acute die on", () => {
    isLimit("acute-bend", bent, DIE.angle);
    isLimit("acute-bend", bent, DIE.angle + 2, { by: rules({ overBend: 2 }) });
    expect(said("acute-bend", bent(60))[0].message).toContain(
      "Bend 1 closes to 60°; the most acute of the card's dies has 86°. Open it to 86°",
    );
  });

  test("is no matter of hems, nor of parts without dies", () => {
    const hem = step("s2", "hem", { edges: at("s1.north"), form: "closed", length: "10" });
    expect(said("acute-bend", part(plate(), hem))).toEqual([]);
    expect(said("acute-bend", { ...bent(40), stock: { card: cardWith({ dies: [] }) } })).toEqual([]);
  });
});

describe("reliefs beside a bend", () => {
  const partly = { span: "width", width: "40", at: "centre" };
  const relieved = (width: string, depth: string, more: object = {}) =>
    part(
      plate(),
      wall("s2", "s1.north", {
        ...partly,
        leftRelief: "square",
        leftReliefWidth: width,
        leftReliefDepth: depth,
        rightRelief: "square",
        rightReliefWidth: width,
        rightReliefDepth: depth,
        ...more,
      }),
    );

  test("are told where they are narrower or shallower than the shop leaves", () => {
    isLimit("small-relief", (w) => relieved(text(w), "5"), T);
    isLimit("small-relief", (d) => relieved("5", text(d)), T / 2);
    isLimit("small-relief", (w) => relieved(text(w), "5"), 2 * T, { by: rules({ reliefWidth: 2 }) });
    expect(said("small-relief", relieved("1", "5")).map((f) => f.message)).toEqual([
      "Bend 1: the left relief is 1 mm wide; the shop leaves 1.5 mm. Make it 0.5 mm wider.",
      "Bend 1: the right relief is 1 mm wide; the shop leaves 1.5 mm. Make it 0.5 mm wider.",
    ]);
  });

  test("that are torn have a depth and no width", () => {
    const torn = (depth: string) => relieved("", depth, { leftRelief: "torn", rightRelief: "torn" });
    expect(said("small-relief", torn("2"))).toEqual([]);
    expect(said("small-relief", torn("0.5"))[0].message).toContain("the left relief is 0.5 mm deep");
  });

  test("where flanges meet are asked for their size", () => {
    const corner = (size: string) =>
      part(
        plate(),
        wall("s2", "s1.north"),
        wall("s3", "s1.east"),
        step("s4", "corner", { relief: "round", size }),
      );
    expect(said("small-relief", corner(text(T)))).toEqual([]);
    expect(said("small-relief", corner("1"))[0]).toMatchObject({
      step: "s4",
      field: "size",
      found: 1,
      mend: { title: "Widen it to 1.5 mm" },
    });
  });

  test("that lie where the metal went with a cut are told, and others are not", () => {
    expect(said("idle-relief", relieved("3", "3"))).toEqual([]);
    // Beside the bend's right end everything is cut away, far beyond its notch.
    const cut = step("s3", "cut", {
      ...{ plate: at("s1"), form: "rectangle", width: "60", height: "30", x: "50", y: "40" },
    });
    const document = { ...relieved("3", "3"), steps: [...relieved("3", "3").steps, cut] };
    expect(said("idle-relief", document).map((f) => f.message)).toEqual([
      "Bend 1: its right relief lies where there is no metal. Leave it out, or move the cut that took the metal.",
    ]);
  });

  test("are kept by bends that are mirrored, with their ends exchanged", () => {
    const one = relieved("3", "3", { rightRelief: "torn" });
    const hand: StepDocument = {
      ...step("s3", "mirror", {}),
      what: "hand",
      about: "across",
      plate: [{ key: "a", at: "s1" }],
    };
    const ends = (document: PartDocument) =>
      bendsOf(examinePart(document).sheet).map((b) => b.reliefs.map((r) => `${r.end} ${r.shape}`));
    expect(ends(one)).toEqual([["left square", "right torn"]]);
    expect(ends({ ...one, steps: [...one.steps, hand] })).toEqual([["right square", "left torn"]]);
  });
});

describe("an edge beside a bend", () => {
  /** A plate whose north-west quarter ends `back` before the line of a bend that takes its north-east half. */
  const stepped = (back: number) => {
    const line = 40 - SETBACK;
    return part(
      plate(),
      step("s2", "cut", {
        ...{ plate: at("s1"), form: "rectangle", width: "60", height: text(2 * (40 - line + back)) },
        ...{ x: "-30", y: "40" },
      }),
      wall("s3", "s1.north", { span: "width", width: "60", at: "right" }),
    );
  };

  test("is told where it lies behind the bend's line by less than is asked, and is not flush with it", () => {
    isLimit("edge-beside-bend", stepped, T / 2);
    expect(said("edge-beside-bend", stepped(0))).toEqual([]);
    expect(said("edge-beside-bend", stepped(0.3))[0].message).toContain(
      "Bend 1: the edge of plate A beside its left end lies 0.3 mm behind its line",
    );
  });
});

describe("a bend that runs out on a slanted edge", () => {
  /** A plate whose east side leans by so many degrees from square, folded across. */
  const leaning = (degrees: number): PartDocument => {
    const corners = [
      [-60, -40],
      [60, -40],
      [60 - 80 * Math.tan(toRadians(degrees)), 40],
      [-60, 40],
    ].map(([x, y], i) => ({ key: `p${i}`, x: text(x), y: text(y) }));
    return part(
      step("s1", "plate", { form: "outline", points: corners }),
      step("s2", "fold", { from: at("s1.side-p0"), distance: "40", angle: "90" }),
    );
  };

  test("is told from the slant on that the rule gives", () => {
    isLimit("slanted-end", (a) => leaning(a), 30, { within: -1 });
    expect(said("slanted-end", leaning(0))).toEqual([]);
    expect(said("slanted-end", leaning(40))[0]).toMatchObject({
      level: "note",
      found: expect.closeTo(40, 6),
    });
  });
});

describe("what the shop's other tools do not make", () => {
  test.each(["closed", "open", "teardrop", "rolled"])("are %s hems, where it says so", (form) => {
    const lengths = form === "rolled" ? { radius: "4" } : form === "teardrop" ? { radius: "2" } : {};
    const hemmed = part(
      plate(),
      step("s2", "hem", { edges: at("s1.north"), form, length: "20", ...lengths }),
    );
    const none = `no${form[0].toUpperCase()}${form.slice(1)}Hems`;
    expect(said("hem-kind", hemmed)).toEqual([]);
    const [told] = said("hem-kind", hemmed, rules({ [none]: 1 }));
    expect(told).toMatchObject({ level: "stop", step: "s2", field: "form" });
    expect(told.message).toMatch(new RegExp(`^The shop makes no ${form} hems. Take another form: `));
    expect(
      said(
        "hem-kind",
        hemmed,
        rules({ noClosedHems: 1, noOpenHems: 1, noTeardropHems: 1, noRolledHems: 1 }),
      )[0].message,
    ).toContain("Have it made elsewhere.");
  });

  test.each([
    ["like", 0],
    ["outer", T],
    ["inner", -T],
  ] as const)("is a jog that steps by less than its tool, measured between %s faces", (between, more) => {
    const jogged = (offset: number) =>
      part(
        plate(),
        step("s2", "jog", {
          ...{ from: at("s1.south"), distance: "40", form: "jog", between },
          ...{ offset: text(offset + more), angle: "30" },
        }),
      );
    isLimit("small-jog", jogged, 4 * T, { by: rules({ leastJog: 4 }) });
    expect(said("small-jog", jogged(2), rules({ leastJog: 4 }))[0]).toMatchObject({
      field: "offset",
      mend: { title: "Make it 4 mm higher" },
    });
  });
});

describe("the least radius of a material, by the grain", () => {
  // The material bears r = t along the grain, and half of that across it.
  const bent = (radius: number, edge: string, grain?: string): PartDocument => ({
    ...part(plate(), wall("s2", `s1.${edge}`, { radius: text(radius), reason: "meant" })),
    stock: { card: cardWith(), ...(grain ? { grain } : {}) },
  });

  test("is that along it for lines that lie along it, and that across it for the others", () => {
    // The north bend lies along X.
    isLimit("least-radius", (r) => bent(r, "north", "x"), T);
    isLimit("least-radius", (r) => bent(r, "north", "y"), T / 2);
    isLimit("least-radius", (r) => bent(r, "east", "y"), T);
    isLimit("least-radius", (r) => bent(r, "east", "x"), T / 2);
    expect(said("grain-radius", bent(1, "north", "x"))).toEqual([]);
  });

  test("is both where the part does not say: a note that the grain matters", () => {
    isLimit("least-radius", (r) => bent(r, "north"), T / 2);
    expect(said("grain-radius", bent(T + HAIR, "north"))).toEqual([]);
    expect(said("grain-radius", bent(T - HAIR, "north"))[0]).toMatchObject({ level: "note" });
  });
});
