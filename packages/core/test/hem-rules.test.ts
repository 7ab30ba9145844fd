import { describe, expect, test } from "vitest";
import { kForHem } from "../src/bend/hem-rule.ts";
import { type Outside, sayOutside } from "../src/bend/why-line.ts";
import {
  bendAllowance,
  DOCUMENT_VERSION,
  documentSchema,
  examinePart,
  kFromAllowance,
  migrate,
  newPart,
  type PartBuild,
  type PartDocument,
  readDocument,
  type StepDocument,
  snapshotOf,
  startingLibrary,
  whyBend,
} from "../src/index.ts";
import { mm } from "../src/units/spoken-length.ts";

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
const plate = step("s1", "plate", { width: "120", depth: "80" });
const hem = (form: string, more: object = {}) =>
  step("s2", "hem", { edges: at("s1.north"), form, length: "10", ...more });
const part = (stock: object, ...steps: StepDocument[]): PartDocument => ({
  ...newPart("Part"),
  stock: { ...newPart("Part").stock, ...stock },
  steps,
});
const messages = (b: PartBuild) => b.findings.map((f) => f.message);

const library = startingLibrary();
const cardWith = (values: object) => {
  const card = { ...library.cards[0], ...values };
  const made = snapshotOf(library, card, 1);
  if (!made.ok) throw new Error(made.error);
  return made.value;
};

describe("the K of a hem", () => {
  const shape = { t: 2, r: 0, angle: Math.PI };
  const from = { name: "the card", link: { to: "card", id: "c1" } } as const;
  const byChart = (k: number, outside?: Outside) => ({
    k,
    source: { label: "the chart", link: { to: "chart", id: "x" } as const, lines: [], outside },
  });

  test("is the one that its rule names, and says whose rule it is", () => {
    const answer = kForHem("open", { by: "K", k: 0.31 }, shape, byChart(0.4), from);
    expect(answer).toEqual({
      k: 0.31,
      source: {
        label: "the card, open hems",
        link: from.link,
        lines: [{ text: "K of open hems = 0.31", source: "the card", link: from.link }],
      },
    });
  });

  test("follows from the allowance that its rule names", () => {
    const answer = kForHem("closed", { by: "BA", allowance: 1.1 }, shape, byChart(0.4), from);
    const k = 1.1 / Math.PI / 2;
    expect(answer.k).toBeCloseTo(k, 12);
    expect(answer.source).toEqual({
      label: "the card, closed hems",
      link: from.link,
      lines: [
        { text: `BA of closed hems = ${mm(1.1, 4)}`, source: "the card", link: from.link },
        { text: `K = (BA/θ − r)/t = ${k.toFixed(4)}` },
      ],
    });
  });

  test("is that of every bend where it leaves the hem a length", () => {
    const answer = byChart(0.01);
    expect(kForHem("closed", { by: "bends" }, shape, answer, from)).toBe(answer);
    const wide = { ...shape, r: 1 };
    const none = byChart(0);
    // The inside face has a length of its own at a radius; still the axis never lies on it.
    expect(kForHem("open", { by: "bends" }, wide, none, from).k).toBe(0.4);
  });

  test.each([
    ["closed", 0.18],
    ["open", 0.4],
    ["teardrop", 0.4],
  ] as const)("of a %s hem is %f where the chart gives it no length, and says so", (form, k) => {
    const none = kForHem(form, { by: "bends" }, shape, byChart(-0.2), from);
    expect(none.k).toBe(k);
    expect(none.source.label).toBe(`starting value for ${form} hems`);
    expect(none.source.link).toEqual(from.link);
    expect(none.source.lines).toEqual([
      {
        text: "K = -0.2 by the chart would leave it no length.",
        source: "the chart",
        link: { to: "chart", id: "x" },
      },
      {
        text: `K of ${form} hems = ${k}, a starting value: give the stock its own`,
        source: "the card",
        link: from.link,
      },
    ]);
    // So short that nothing could be cut of it.
    expect(kForHem(form, { by: "bends" }, { ...shape, t: 1e-6 }, byChart(0.2), from).k).toBe(k);
  });

  test("of one that the chart does not cover tells what the chart says, without what it would have used", () => {
    const why = { reason: "180° lies beyond 170°", instead: "K 0.4 of the last row is used" };
    const { k, source } = kForHem("closed", { by: "bends" }, shape, byChart(0.4, why), from);
    expect(k).toBe(0.18);
    expect(source.lines[0].text).toBe("180° lies beyond 170°.");
    expect(sayOutside(why)).toBe("180° lies beyond 170°; K 0.4 of the last row is used.");
  });
});

describe("the flat length of hems", () => {
  test.each([
    "closed",
    "open",
    "teardrop",
  ])("a %s hem goes by its own K or BA where the stock has one", (form) => {
    const more = form === "open" ? { gap: "2" } : form === "teardrop" ? { radius: "2", length: "12" } : {};
    const withK = examinePart(
      part({ [`${form}HemBy`]: "K", [`${form}HemK`]: "0.3" }, plate, hem(form, more)),
    );
    expect(messages(withK)).toEqual([]);
    expect(withK.bends[0].k).toBeCloseTo(0.3, 12);
    const withBa = examinePart(
      part({ [`${form}HemBy`]: "BA", [`${form}HemBA`]: "3*t" }, plate, hem(form, more)),
    );
    expect(messages(withBa)).toEqual([]);
    expect(withBa.bends[0].allowance).toBeCloseTo(4.5, 12);
    const { radius, angle } = withBa.bends[0];
    expect(withBa.bends[0].k).toBeCloseTo(kFromAllowance({ t: 1.5, r: radius, angle }, 4.5), 12);
    // The other bends of the part know nothing of it.
    const both = examinePart(
      part(
        { [`${form}HemBy`]: "K", [`${form}HemK`]: "0.3" },
        plate,
        hem(form, more),
        step("s3", "flange", { edges: at("s1.south"), length: "20" }),
      ),
    );
    expect(both.bends[1].k).toBeCloseTo(0.42, 12);
  });

  test("a closed hem by DIN 6935, whose K is 0 there, is built by the starting value, and says so", () => {
    const document = part({ flatBy: "DIN 6935" }, plate, hem("closed"));
    const b = examinePart(document);
    expect(messages(b)).toEqual([]);
    expect(b.bends[0].k).toBe(0.18);
    // The blank is shorter than both lengths, to their outermost faces, by 0.43 of the thickness.
    expect(b.blank!.height).toBeCloseTo(
      80 + 10 - 1.5 - 1.5 + bendAllowance({ t: 1.5, r: 0, angle: Math.PI }, 0.18),
      9,
    );
    const why = whyBend(document, b, b.bends[0], "k").lines.map((l) => l.text);
    expect(why.join("\n")).toContain("K of closed hems = 0.18, a starting value: give the stock its own");
  });

  test("a chart that ends before a hem neither stops nor warns about it, but about bends as before", () => {
    const card = cardWith({});
    const onCard: PartDocument = { ...part({}, plate, hem("closed")), stock: { card } };
    expect(messages(examinePart(onCard))).toEqual([]);
    const far: PartDocument = {
      ...part(
        {},
        plate,
        step("s3", "flange", {
          edges: at("s1.south"),
          length: "200",
          radius: "80",
          place: "bend-from-edge",
          reason: "r",
        }),
      ),
      stock: { card },
    };
    expect(messages(examinePart(far)).join()).toContain("lies outside the chart");
  });

  test("a card's own rule is taken over with it, and comes from the card in Why", () => {
    const card = cardWith({ closedHemBy: "K", closedHemK: 0.25 });
    const document: PartDocument = { ...part({}, plate, hem("closed")), stock: { card } };
    expect(readDocument(document).ok).toBe(true);
    const b = examinePart(document);
    expect(b.bends[0].k).toBe(0.25);
    const { lines } = whyBend(document, b, b.bends[0], "k");
    expect(lines).toContainEqual(
      expect.objectContaining({ text: "K of closed hems = 0.25", link: { to: "card", id: card.id } }),
    );
  });

  test("a K that is no share is refused where it stands", () => {
    const b = examinePart(part({ closedHemBy: "K", closedHemK: "1.5" }, plate, hem("closed")));
    expect(messages(b)[0]).toContain("K of closed hems: 1.5 is too large");
  });
});

describe("the same warning on many bends", () => {
  test("is one line that names them", () => {
    const walls = step("s2", "flange", {
      edges: at("s1.north", "s1.east", "s1.south"),
      length: "30",
      span: "width",
      width: "20",
      leftRelief: "none",
    });
    expect(messages(examinePart(part({}, plate, walls)))).toEqual([
      "Bends 1, 2 and 3 have metal beside their left ends and no relief there: they will tear. Choose torn, square or round-ended.",
    ]);
    const one = { ...walls, edges: at("s1.north") };
    expect(messages(examinePart(part({}, plate, one)))).toEqual([
      "Bend 1 has metal beside its left end and no relief there: it will tear. Choose torn, square or round-ended.",
    ]);
  });
});

describe("an own stock that points at a material of the shop", () => {
  const material = library.materials[0];

  test("has its density and strength, whatever stood there before", () => {
    const b = examinePart(
      part(
        { libraryMaterial: material, density: "1", tensile: "1" },
        plate,
        step("s2", "flange", { edges: at("s1.north"), length: "30" }),
      ),
    );
    expect(b.stock!.density).toBe(material.density);
    expect(b.stock!.tensile).toBe(material.tensile);
    expect(b.folded!.mass).toBeCloseTo((b.folded!.volume * material.density) / 1e9, 12);
    expect(b.bends[0].force!.perMetre).toBeCloseTo(
      (1.33 * material.tensile * 1.5 ** 2) / b.bends[0].force!.v,
      6,
    );
  });

  test("is refused where what it points at is no material", () => {
    const read = readDocument(part({ libraryMaterial: { ...material, density: -1 } }, plate));
    expect(read.ok ? [] : read.error.map((p) => p.path)).toContain("/stock/libraryMaterial/density");
  });
});

describe("names and words", () => {
  test("a step's name stands in its messages", () => {
    const b = examinePart(part({}, plate, { ...hem("closed", { length: "1" }), name: "rain edge" }));
    expect(messages(b)[0]).toMatch(/^Hem 2 “rain edge”: /);
    const long = readDocument(part({}, { ...plate, name: "x".repeat(300) }));
    expect(long.ok).toBe(false);
  });

  test("lips of the first version are lugs", () => {
    const old = {
      ...part({}, plate, { id: "s2", kind: "lip", edges: at("s1.north"), width: "25", length: "10" }),
      version: 1,
    };
    const read = readDocument(old);
    if (!read.ok) throw new Error(read.error[0].message);
    expect(read.value.version).toBe(DOCUMENT_VERSION);
    expect(read.value.steps.map((s) => s.kind)).toEqual(["plate", "lug"]);
    expect(examinePart(read.value).blank!.height).toBeCloseTo(90, 9);
    expect(migrate({ version: 1, steps: "none" }).ok).toBe(true);
    expect(JSON.stringify(documentSchema())).not.toContain('"const":"lip"');
  });
});

describe("a relief that was chosen where no metal stands", () => {
  const wall = (values: object) =>
    examinePart(part({}, plate, step("s2", "flange", { edges: at("s1.north"), length: "30", ...values })))
      .steps[1].notes;

  test("says so beside the choice, and nothing where it is cut", () => {
    expect(wall({ leftRelief: "square" })).toEqual({
      leftRelief: "no metal stands beside the left end of the bend, so there is none",
    });
    expect(wall({})).toBeUndefined();
    expect(wall({ leftRelief: "none" })).toBeUndefined();
    const part1 = { span: "width", width: "40", at: "left", leftRelief: "round", rightRelief: "round" };
    expect(Object.keys(wall(part1)!)).toEqual(["leftRelief"]);
  });
});
