import { readdirSync, readFileSync } from "node:fs";
import {
  applyCommands,
  examinePart,
  notesOfChange,
  type PartCommand,
  type PartDocument,
  unknownInPart,
} from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { part, plate, spentOn } from "./plain-parts.ts";

const doc: PartDocument = part(plate("120", "80"), {
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north", own: { length: "30" } }],
  length: "20",
});
const refused = (command: unknown) => {
  const done = applyCommands(doc, [command as PartCommand]);
  if (done.ok) throw new Error("It was not refused.");
  return done.error;
};
const set = (values: object) => ({ do: "set", step: "s2", values });

describe("a name that nothing knows is refused in a command, with the nearest that is known", () => {
  const hole = { key: "h", x: "0", y: "0", d: "5" };
  test.each<[unknown, string]>([
    [set({ lenght: "35" }), '"lenght" is not a value of a flange step; did you mean "length"?'],
    [set({ Length: "35" }), 'did you mean "length"?'],
    [set({ edges: [{ key: "a", at: "s1.north", own: { lenght: "3" } }] }), 'did you mean "length"?'],
    [set({ edges: [{ key: "a", att: "s1.north", at: "s1.north" }] }), 'did you mean "at"?'],
    [{ do: "set", step: "s1", values: { holes: [{ ...hole, diam: "5" }] } }, '"diam" is not a value of a'],
    [{ do: "add", step: { id: "s3", kind: "cut", diamter: "6" } }, 'a cut step; did you mean "diameter"?'],
    [{ do: "stock", values: { thicknes: "2" } }, 'the stock; did you mean "thickness"?'],
    [{ do: "part", values: { unit: "in" } }, 'a part; did you mean "units"?'],
    [
      { do: "part", values: { variables: [{ key: "a", name: "w", valeu: "1", value: "1" }] } },
      'did you mean "value"?',
    ],
    [{ do: "several", commands: [set({ lenght: "35" })] }, 'command 1 of 1: "lenght"'],
  ])("%j", (command, said) => expect(refused(command)).toContain(said));

  test("where none is near, what it takes is said, shortly", () => {
    const said = refused(set({ "flux capacitor": 1 }));
    expect(said).toMatch(
      /^"flux capacitor" is not a value of a flange step; it takes edges, .* and others\.$/,
    );
    expect(refused(set({ [`x${"y".repeat(5000)}`]: 1 })).length).toBeLessThan(300);
  });

  test("one that stands there can be taken away", () => {
    const kept = { ...doc, steps: [doc.steps[0], { ...doc.steps[1], lenght: "35" }] };
    const done = applyCommands(kept, [{ do: "set", step: "s2", values: { lenght: null } }]);
    expect(done.ok && done.value.document).toEqual(doc);
    expect(done.ok && applyCommands(doc, [done.value.undo])).toMatchObject({ ok: true });
  });
});

describe("what is kept and does nothing is noted", () => {
  const odd = { ...doc.steps[1], id: "s3", lenght: "35" };
  test.each<PartCommand>([
    { do: "paste", steps: [odd] },
    { do: "patch", order: ["s1", "s2", "s3"], put: [odd] },
    { do: "replace", document: { ...doc, steps: [...doc.steps, odd] } },
  ])("a name that comes along with $do", (command) => {
    const done = applyCommands(doc, [command]);
    if (!done.ok) throw new Error(done.error);
    expect(done.value.document.steps[2]).toMatchObject({ lenght: "35" });
    expect(done.value.notes).toEqual([
      { path: "/steps/2/lenght", step: "s3", message: expect.stringContaining('did you mean "length"?') },
    ]);
    // It is told when it comes, not at every later change.
    const later = applyCommands(done.value.document, [set({ length: "21" }) as PartCommand]);
    expect(later.ok && later.value.notes).toEqual([]);
  });

  test("a value that the choices beside it do not use, once it is set and not before", () => {
    const cut = { id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "rectangle", diameter: "6" };
    const done = applyCommands(doc, [{ do: "add", step: cut }]);
    if (!done.ok) throw new Error(done.error);
    expect(done.value.notes).toEqual([
      {
        path: "/steps/2/diameter",
        step: "s3",
        message: '"diameter" is kept; with the choices made beside it, it is not used.',
      },
    ]);
    const round = applyCommands(done.value.document, [{ do: "set", step: "s3", values: { form: "round" } }]);
    expect(round.ok && round.value.notes).toEqual([]);
  });

  test("of very many names no more than somebody can read, in a time that grows with them at most", () => {
    const crowd = (n: number) => ({
      ...doc,
      steps: [
        doc.steps[0],
        { ...doc.steps[1], ...Object.fromEntries(Array.from({ length: n }, (_, i) => [`lenght${i}`, 1])) },
      ],
    });
    const sizes = [2000, 4000, 8000, 16_000].map((n) => spentOn(() => unknownInPart(crowd(n))));
    for (const { result } of sizes) expect(result).toHaveLength(20);
    expect(sizes[3].took).toBeLessThan(500);
    const many = {
      ...doc,
      steps: Array.from({ length: 500 }, (_, i) => ({ ...doc.steps[1], id: `s${i}`, lenght: 1 })),
    };
    expect(unknownInPart(many)).toHaveLength(50);
    expect(spentOn(() => refused(set({ ["x".repeat(2_000_000)]: 1 }))).took).toBeLessThan(500);
  });

  test("as a finding on its step, and the part is built as before", () => {
    const kept = { ...doc, steps: [doc.steps[0], { ...doc.steps[1], lenght: "35" }] };
    const build = examinePart(kept);
    expect(build.blank!.height).toBe(examinePart(doc).blank!.height);
    expect(build.findings.filter((f) => f.rule === "unknown-value")).toEqual([
      {
        level: "note",
        rule: "unknown-value",
        step: "s2",
        message: expect.stringMatching(/did you mean "length"\? It is kept and does nothing\.$/),
      },
    ]);
  });

  test("and nothing of that in any part of the demo", () => {
    const demo = new URL("../../../demo/", import.meta.url);
    const parts = readdirSync(demo)
      .filter((name) => name.endsWith(".json"))
      .map((name) => JSON.parse(readFileSync(new URL(name, demo), "utf8")) as PartDocument)
      .filter((document) => document.steps);
    expect(parts.length).toBeGreaterThan(10);
    for (const document of parts)
      expect([document.name, unknownInPart(document)]).toEqual([document.name, []]);
    expect(notesOfChange(undefined, doc)).toEqual([]);
  });
});
