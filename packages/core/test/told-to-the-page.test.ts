import { describe, expect, test } from "vitest";
import {
  buildPart,
  cornersBefore,
  examinePart,
  namesIn,
  newPart,
  type Outlook,
  type PartDocument,
  type StepDocument,
  whyBend,
} from "../src/index.ts";

describe("what the page is told, so that it works out nothing again", () => {
  const flanged = (values: object = {}): PartDocument => ({
    ...newPart("Part"),
    variables: [
      { key: "a", name: "wall", value: "20" },
      { key: "b", name: "tilt", value: "30", measures: "angle" },
      { key: "c", name: "bad", value: "nothing" },
    ],
    steps: [
      { id: "s1", kind: "plate", width: "100", depth: "60" },
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "wall", ...values },
    ],
  });

  test("every name that an expression may use, with what it stands for", () => {
    const { names, stock } = buildPart(flanged());
    expect(names).toMatchObject({
      t: { value: 1.5, dimension: "length" },
      r: { value: 1.5, dimension: "length" },
      K: { value: 0.42, dimension: "number" },
      wall: { value: 20, dimension: "length" },
    });
    expect(names!.tilt.value).toBeCloseTo(Math.PI / 6, 12);
    expect(names!.tilt.dimension).toBe("angle");
    expect(names).not.toHaveProperty("bad");
    expect(stock).toMatchObject({ thickness: 1.5, radius: 1.5, k: 0.42 });
    const known = namesIn(names!);
    expect(known("wall")).toEqual({ ok: true, value: { value: 20, dimension: "length" } });
    for (const name of ["bad", "toString", "__proto__"]) expect(known(name)).toBeUndefined();
  });

  test("what is wrong with the stock, by its fields", () => {
    const wrong = buildPart({
      ...flanged(),
      stock: { ...newPart("Part").stock, thickness: "0", radius: "x" },
    });
    expect(wrong.stockRemarks!.map((r) => [r.level, r.field])).toEqual([
      ["stop", "thickness"],
      ["stop", "radius"],
    ]);
    expect(wrong.stock).toBeUndefined();
    expect(buildPart(flanged()).stockRemarks).toEqual([]);
  });

  test("what each option of a flange would make, as a build with it does", () => {
    const outlooks = buildPart(flanged()).steps[1].outlooks!;
    expect(Object.keys(outlooks)).toEqual(["place", "lengthTo"]);
    for (const [field, options] of Object.entries(outlooks))
      for (const [option, outlook] of Object.entries(options)) {
        const built = buildPart(flanged({ [field]: option, offset: "0" })).steps[1];
        expect(outlook, `${field} ${option}`).toEqual({ bend: built.section, up: true });
      }
    // How long a leg that ends level is follows from the part.
    expect(outlooks.lengthTo).not.toHaveProperty("level");
    const short = buildPart(flanged({ length: "2" })).steps[1].outlooks!;
    expect(Object.keys(short.lengthTo)).toEqual(["inner-mould", "tangent"]);
    expect(buildPart(flanged({ length: "x" })).steps[1].outlooks).toBeUndefined();
  });

  test("what each form of a hem and of a jog would make", () => {
    const hem = { id: "s2", kind: "hem", edges: [{ key: "a", at: "s1.north" }], length: "12", turn: "down" };
    const { outlooks } = buildPart({ ...flanged(), steps: [flanged().steps[0], hem] }).steps[1];
    const pieces = (o: Outlook | undefined) => (o && "pieces" in o ? o.pieces : []);
    expect(Object.keys(outlooks!.form)).toEqual(["closed", "open", "teardrop", "rolled"]);
    // Downward; a closed one lies on the sheet, an open one stands off by its gap.
    expect(pieces(outlooks!.form.closed)[1]).toEqual({ turn: -Math.PI, radius: 0 });
    expect(pieces(outlooks!.form.open)[1]).toEqual({ turn: -Math.PI, radius: 0.75 });
    expect(pieces(outlooks!.form.rolled)[1]).toMatchObject({ turn: -1.5 * Math.PI, radius: 1.5 });
    const jog = {
      id: "s2",
      kind: "jog",
      plate: [{ key: "a", at: "s1" }],
      edge: [{ key: "a", at: "s1.north" }],
    };
    const jogged = buildPart({
      ...flanged(),
      steps: [flanged().steps[0], { ...jog, distance: "20", offset: "10" }],
    });
    const forms = jogged.steps[1].outlooks!.form;
    expect(Object.keys(forms)).toEqual(["jog", "joggle", "over"]);
    const turns = (o: Outlook) => pieces(o).flatMap((p) => ("turn" in p ? [Math.sign(p.turn)] : []));
    expect(turns(forms.jog)).toEqual([1, -1]);
    expect(turns(forms.over)).toEqual([1, -1, -1, 1]);
    const rise = pieces(forms.jog).reduce(
      ({ heading, y }, p) =>
        "turn" in p
          ? {
              heading: heading + p.turn,
              // The middle of the sheet goes round at the radius and half the thickness.
              y: y + Math.sign(p.turn) * (p.radius + 0.75) * (Math.cos(heading) - Math.cos(heading + p.turn)),
            }
          : { heading, y: y + p.length * Math.sin(heading) },
      { heading: 0, y: 0 },
    ).y;
    expect(rise).toBeCloseTo(10, 9);
  });

  test("whether a bend's K is that of the stock", () => {
    expect(buildPart(flanged()).bends[0].byStock).toBe(true);
    expect(buildPart(flanged({ k: "0.3" })).bends[0].byStock).toBe(false);
  });

  test("which corners a step can be given: those that stand before it", () => {
    const round = { id: "s3", kind: "round", which: "picked", corners: [{ key: "a", at: "s1.north+east" }] };
    const later = { id: "s4", kind: "round", which: "picked", corners: [] };
    const document = { ...flanged(), builtTo: "s1", steps: [flanged().steps[0], round, later] };
    const all = cornersBefore(document, "s3");
    expect(all.length).toBe(4);
    expect(cornersBefore(document, "s4").length).toBe(3);
    expect(all).toContain(cornersBefore(document, "s4")[0]);
    const walls = ["s1.north", "s1.east"].map((at, i) => ({ key: "ab"[i], at }));
    const flanges = { id: "s2", kind: "flange", edges: walls, length: "20" };
    const corner = { id: "s3", kind: "corner", which: "picked", corners: [] };
    const box = { ...flanged(), steps: [flanged().steps[0], flanges, corner] };
    expect(cornersBefore(box, "s3")).toHaveLength(1);
    // A leg may end level with a corner of the plate that it grows on.
    expect(cornersBefore(box, "s2")).toHaveLength(4);
    expect(cornersBefore(box, "s1")).toEqual([]);
    expect(cornersBefore(box, "s9")).toEqual([]);
  });

  test("lengths in the part's own units, wherever something is said of it", () => {
    const wrong: readonly [StepDocument, RegExp][] = [
      [{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "2" }, /2 mm|0\.0787 in/],
      [
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "-1" },
        /-1 mm|-0\.0394 in/,
      ],
      [{ id: "s2", kind: "hem", edges: [{ key: "a", at: "s1.north" }], length: "0.5" }, /0\.5 mm|0\.0197 in/],
    ];
    for (const [step, said] of wrong)
      for (const units of ["mm", "in", "fractions"] as const) {
        const { findings } = examinePart({ ...flanged(), units, steps: [flanged().steps[0], step] });
        const message = findings.find((f) => f.step === "s2")!.message;
        if (units !== "fractions") expect(message).toMatch(said);
        expect(message.includes(" mm")).toBe(units === "mm");
        expect(message).not.toMatch(/[\uFDD0\uFDD1]/);
      }
    const bent = {
      ...flanged(),
      units: "in" as const,
      stock: { ...newPart("Part").stock, flatBy: "DIN 6935" },
    };
    const build = examinePart(bent);
    for (const question of ["k", "allowance", "deduction", "length", "force", "radius", "angle"] as const) {
      const { lines } = whyBend(bent, build, build.bends[0], question);
      expect(lines.map((l) => l.text).join()).not.toMatch(/[\uFDD0\uFDD1]/);
    }
  });

  test("the step that gives a bend its K, by its place, and why it does so", () => {
    const { steps, ...rest } = flanged({ k: "0.3", reason: "as tried in March" });
    const change = {
      id: "s3",
      kind: "bend",
      bends: [{ key: "a", at: "s2a" }],
      allowance: "4",
      reason: "measured",
    };
    const document = { ...rest, steps: [...steps, change] };
    const sources = (doc: PartDocument) => {
      const build = examinePart(doc);
      return whyBend(doc, build, build.bends[0], "k").lines.map((l) => l.source);
    };
    expect(sources({ ...rest, steps })).toContain("step 2: as tried in March");
    expect(sources(document)).toEqual(expect.arrayContaining(["step 3", "step 3: measured"]));
  });
});
