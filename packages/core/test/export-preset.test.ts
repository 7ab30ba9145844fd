import { describe, expect, it } from "vitest";
import {
  allLayers,
  BUILT_IN_PRESETS,
  type ExportPreset,
  emptyLibrary,
  examinePart,
  exportDxf,
  isDrawable,
  layersOf,
  PLAIN_PRESET,
  presetDocument,
  presetOf,
  readLibrary,
  readPresetText,
} from "../src/index.ts";
import { drawnOf, type PresetChange, part, plate } from "./plain-parts.ts";

const text = (change: object, head: object = {}) =>
  JSON.stringify({ ...presetDocument({ ...PLAIN_PRESET, ...change } as ExportPreset), ...head });
const wrong = (source: string) => {
  const read = readPresetText(source);
  return read.ok ? [] : read.error.map((p) => `${p.path}: ${p.message}`);
};

describe("an export preset", () => {
  it("is the same after it was given to others as a document", () => {
    const preset: ExportPreset = {
      ...PLAIN_PRESET,
      name: "Valley laser",
      version: "r12",
      edgeTicks: true,
      tickLength: 3.25,
    };
    const read = readPresetText(JSON.stringify(presetDocument(preset)));
    expect(read.ok && { ...read.value, id: preset.id }).toEqual(preset);
  });

  it("takes what a document does not say as it is plainly", () => {
    const read = readPresetText(
      JSON.stringify({ format: "hillcrest-preset", version: 1, preset: { name: "Short" } }),
    );
    expect(read.ok && read.value).toMatchObject({ name: "Short", units: "part", curves: "joined" });
  });

  it("writes an inch part in inches unless it says otherwise, and any other in mm", () => {
    const made = part(plate("101.6", "50.8"));
    const wide = (units: "mm" | "in" | "fractions", preset: PresetChange) => {
      const drawn = drawnOf({ ...made, units }, preset);
      return [
        drawn.drawing.units,
        Number((drawn.drawing.bounds.maxX - drawn.drawing.bounds.minX).toFixed(9)),
      ];
    };
    expect(wide("in", {})).toEqual(["in", 4]);
    expect(wide("fractions", {})).toEqual(["in", 4]);
    expect(wide("mm", {})).toEqual(["mm", 101.6]);
    expect(wide("in", { units: "mm" })).toEqual(["mm", 101.6]);
    expect(wide("mm", { units: "in" })).toEqual(["in", 4]);
  });

  it("has what its list of layers leaves out on the layers of the plain one, and turns off only what it says", () => {
    const document = part(plate("120", "60"), {
      ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "25" },
    });
    const own = [
      { content: "outline", name: "CUT", colour: 3, lines: "continuous" },
      { content: "openings", name: "bends_up", colour: 2, lines: "dotted" },
      { content: "bendsDown", name: "DOWN", colour: 5, lines: "dashed", leftOut: true },
    ] as const;
    const read = readPresetText(text({ layers: own, partName: true }));
    if (!read.ok) throw new Error(read.error[0].message);
    const layers = layersOf(read.value);
    expect([...layers.keys()].sort()).toEqual(
      [...layersOf(PLAIN_PRESET).keys()].filter((c) => c !== "bendsDown").sort(),
    );
    // On a layer that it names itself the look is its own.
    expect(layers.get("bendsUp")).toMatchObject({ name: "bends_up", colour: 2, lines: "dotted" });
    const build = examinePart(document);
    if (!isDrawable(build)) throw new Error("no blank");
    const { drawn, proof } = exportDxf({ document, build, preset: read.value });
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
    const contents = new Set(drawn.drawing.entities.map((e) => e.content));
    expect([contents.has("bendsUp"), contents.has("marks")]).toEqual([true, true]);
    expect(allLayers(PLAIN_PRESET)).toBe(PLAIN_PRESET.layers);
  });

  const layers = (...own: object[]) => ({ layers: own });
  const outline = { content: "outline", name: "OUTLINE", colour: 7, lines: "continuous" };
  it.each([
    ["{", {}, ""],
    [text({}, { format: "other" }), {}, "/format"],
    [text({}, { version: 2 }), {}, "/version"],
    [text({ units: "furlong" }), {}, "/preset/units"],
    [text({ jointsOutline: 1.5 }), {}, "/preset/jointsOutline"],
    [text({ textHeight: 1e16 }), {}, "/preset/textHeight"],
    [text({ tickLength: 0 }), {}, "/preset/tickLength"],
    [text(layers({ ...outline, name: "OUT LINE" })), {}, "/preset/layers/0/name"],
    [text(layers({ ...outline, name: "" })), {}, "/preset/layers/0/name"],
    [text(layers({ ...outline, colour: 256 })), {}, "/preset/layers/0/colour"],
    [text(layers({ ...outline, colour: 7.5 })), {}, "/preset/layers/0/colour"],
    [text(layers({ ...outline, leftOut: true })), {}, "/preset/layers"],
    [text(layers(outline, outline)), {}, "/preset/layers/1/content"],
    [text(layers(outline, { ...outline, content: "openings", colour: 5 })), {}, "/preset/layers/1/colour"],
    [text(layers(...Array.from({ length: 5000 }, () => outline))), {}, "/preset/layers"],
  ])("that is wrong is refused with its place (%#)", (source, _, at) => {
    expect(wrong(source)[0]).toContain(`${at}:`);
  });

  it("is an item of a library; libraries of before have none", () => {
    const { presets: _none, ...before } = emptyLibrary();
    const read = readLibrary(before);
    expect(read.ok && read.value.presets).toEqual([]);
    const kept = readLibrary({ ...emptyLibrary(), presets: [{ ...PLAIN_PRESET, id: "ours", name: "Ours" }] });
    expect(kept.ok).toBe(true);
    const bad = readLibrary({
      ...emptyLibrary(),
      presets: [{ ...PLAIN_PRESET, layers: [{ ...outline, leftOut: true }] }],
    });
    expect(bad.ok || bad.error[0].path).toBe("/presets/0/layers");
  });

  it("that a part names counts with the part's own changes; one that is gone is said, and the changes stay", () => {
    const document = {
      ...part(plate("10", "10")),
      blank: { preset: "plain-r12", changes: { units: "in" } },
    } as const;
    const found = presetOf(document, BUILT_IN_PRESETS);
    expect(found).toMatchObject({ gone: false, changed: true, preset: { version: "r12", units: "in" } });
    expect(
      presetOf({ ...document, blank: { ...document.blank, preset: "lost" } }, BUILT_IN_PRESETS),
    ).toMatchObject({
      gone: true,
      preset: { version: "r2000", units: "in" },
    });
  });
});
