import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  applyCommand,
  applyCommands,
  applyStockCommand,
  freshStepId,
  newPart,
  type PartCommand,
  type PartDocument,
  patchBetween,
  readCommands,
  readCommandText,
  readDocument,
  STEP_KINDS,
  STOCK_SECTIONS,
  type StepDocument,
  type StockItem,
  type StockItemCommand,
  sayAll,
  sayCommand,
  startingLibrary,
  withCommand,
} from "../src/index.ts";
import { hole, part, plate } from "./plain-parts.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";

sameCases(20261127);
const RUNS = casesOf(150);

/** A wish for a command: which one, and shares by which it finds its step, its field and its value. */
const wish = fc.record({
  what: fc.constantFrom(
    "set",
    "unset",
    "pause",
    "call",
    "add",
    "remove",
    "move",
    "paste",
    "stock",
    "part",
    "variables",
    "rename",
    "held",
    "several",
    "replace",
  ),
  where: fc.nat(1000),
  which: fc.nat(1000),
  value: fc.constantFrom("1", "2.5", "w/2", "30", "", "90", "1/3 in"),
});
type Wish = typeof wish extends fc.Arbitrary<infer T> ? T : never;

/** The command that a wish is in a document; nothing where there is nothing to do it to. */
function commandOf(
  doc: PartDocument,
  { what, where, which, value }: Wish,
  more: readonly Wish[] = [],
): PartCommand | undefined {
  const step = doc.steps[where % Math.max(1, doc.steps.length)] as StepDocument | undefined;
  const kind = STEP_KINDS.find((k) => k.kind === step?.kind);
  const quantities = kind?.fields.filter((f) => f.kind === "quantity") ?? [];
  const field = quantities[which % Math.max(1, quantities.length)];
  switch (what) {
    case "set":
      return step && field && { do: "set", step: step.id, values: { [field.key]: value } };
    case "unset":
      return step && field && { do: "set", step: step.id, values: { [field.key]: null } };
    case "pause":
      return step && { do: "set", step: step.id, values: { paused: which % 2 === 0 ? true : null } };
    case "call":
      return step && { do: "set", step: step.id, values: { name: `Name ${value}` } };
    case "add":
      return {
        do: "add",
        step: { id: freshStepId(doc), kind: "cut", plate: [{ key: "a", at: "s1" }], diameter: value },
        ...(which % 2 === 0 ? { at: where % (doc.steps.length + 1) } : {}),
      };
    case "remove":
      return step && { do: "remove", step: step.id };
    case "move":
      return step && { do: "move", step: step.id, to: which % doc.steps.length };
    case "paste":
      return step && { do: "paste", steps: [step] };
    case "stock":
      return { do: "stock", values: { thickness: value, k: which % 2 === 0 ? null : "0.4" } };
    case "part":
      return {
        do: "part",
        values:
          which % 2 === 0
            ? { units: "in", builtTo: step?.id ?? null }
            : { name: `Part ${value}`, builtTo: null },
      };
    case "variables":
      return {
        do: "part",
        values: {
          variables: [
            { key: "a", name: "w", value: "20" },
            { key: "b", name: `v${which}`, value: "w/2" },
          ],
        },
      };
    case "rename":
      return doc.variables && { do: "rename", variable: "a", name: `w${which}` };
    case "held":
      return { do: "part", values: { held: which % 2 === 0 ? ["s2a"] : null } };
    case "replace":
      return { do: "replace", document: { ...newPart(`Other ${value}`), steps: doc.steps.slice(0, 1) } };
    case "several": {
      const commands: PartCommand[] = [];
      let now = doc;
      for (const one of more) {
        const command = commandOf(now, one);
        const done = command && applyCommand(now, command);
        if (!done?.ok) continue;
        commands.push(command!);
        now = done.value.document;
      }
      return { do: "several", commands };
    }
  }
}

/** Does wishes one after another: the commands that went, and the documents between them. */
function carriedOut(document: PartDocument, wishes: readonly Wish[]) {
  const documents = [document];
  const commands: PartCommand[] = [];
  for (const [i, one] of wishes.entries()) {
    const now = documents.at(-1)!;
    const command = commandOf(now, one, wishes.slice(i + 1, i + 4));
    const done = command && applyCommand(now, command);
    if (!done?.ok) continue;
    commands.push(command!);
    documents.push(done.value.document);
  }
  return { commands, documents };
}

const wishes = fc.array(wish, { minLength: 1, maxLength: 12 });
const applied = (document: PartDocument, command: PartCommand): PartDocument => {
  const done = applyCommand(document, command);
  if (!done.ok) throw new Error(done.error);
  return done.value.document;
};

describe("any command on any part", () => {
  test("is taken back by its inverse, and that by its own", () => {
    fc.assert(
      fc.property(randomChain, wishes, (document, list) => {
        const { commands, documents } = carriedOut(document, list);
        for (const [i, command] of commands.entries()) {
          const done = applyCommand(documents[i], command);
          if (!done.ok) throw new Error(done.error);
          const back = applyCommand(done.value.document, done.value.undo);
          if (!back.ok) throw new Error(back.error);
          expect(back.value.document).toEqual(documents[i]);
          expect(applied(back.value.document, back.value.undo)).toEqual(done.value.document);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("leaves the document that it was done to as it was", () => {
    fc.assert(
      fc.property(randomChain, wishes, (document, list) => {
        const text = JSON.stringify(document);
        carriedOut(document, list);
        expect(JSON.stringify(document)).toBe(text);
      }),
      { numRuns: Math.ceil(RUNS / 4) },
    );
  });

  test("done again from the start makes the same part, also as text and without what was typed on the way", () => {
    fc.assert(
      fc.property(randomChain, wishes, (document, list) => {
        const { commands, documents } = carriedOut(newPart("New"), [...list]);
        const first: PartCommand = { do: "replace", document };
        const whole = carriedOut(document, list);
        const sent = readCommands(JSON.parse(JSON.stringify([first, ...whole.commands])));
        if (!sent.ok) throw new Error(JSON.stringify(sent.error));
        const again = sent.value.reduce(applied, newPart("New"));
        expect(again).toEqual(whole.documents.at(-1));
        const joined = whole.commands.reduce<readonly PartCommand[]>(withCommand, []);
        expect(joined.length).toBeLessThanOrEqual(whole.commands.length);
        expect(joined.reduce(applied, document)).toEqual(whole.documents.at(-1));
        expect(commands.reduce(applied, newPart("New"))).toEqual(documents.at(-1));
      }),
      { numRuns: RUNS },
    );
  });

  test("makes a part that is one, or is refused", () => {
    fc.assert(
      fc.property(randomChain, wishes, (document, list) => {
        const { commands, documents } = carriedOut(document, list);
        const done = applyCommands(document, commands);
        const read = readDocument(documents.at(-1));
        expect(done.ok).toBe(read.ok);
        if (done.ok && read.ok) {
          expect(done.value.document).toEqual(read.value);
          expect(applied(done.value.document, done.value.undo)).toEqual(document);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("has words, all of them short", () => {
    fc.assert(
      fc.property(randomChain, wishes, (document, list) => {
        const { commands } = carriedOut(document, list);
        const said = sayAll(commands, document);
        expect(said.length).toBe(commands.length);
        for (const words of said) {
          expect(words).toMatch(/\S/);
          expect(words).not.toMatch(/undefined|\[object|NaN/);
          expect(words.length).toBeLessThan(1200);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("what makes one part of another does, whichever two they are", () => {
    fc.assert(
      fc.property(randomChain, randomChain, (a, b) => {
        expect(applied(a, patchBetween(a, b))).toEqual(b);
        expect(patchBetween(a, structuredClone(a))).toEqual({ do: "patch" });
      }),
      { numRuns: RUNS },
    );
  });
});

describe("a command that does not go", () => {
  const doc = part(
    plate("100", "50", [hole("6")]),
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
    { id: "s3", kind: "flange", edges: [{ key: "a", at: "s2a.end" }], length: "10" },
  );
  const refusal = (command: PartCommand, document = doc): string => {
    const done = applyCommand(document, command);
    return done.ok ? "done" : done.error;
  };

  test.each<[PartCommand, string]>([
    [{ do: "set", step: "s9", values: {} }, 'there is no step "s9"; there are s1, s2, s3'],
    [{ do: "remove", step: "x" }, 'there is no step "x"; there are s1, s2, s3'],
    [{ do: "add", step: { id: "s2", kind: "cut" } }, 'there is a step "s2" already'],
    [{ do: "add", step: { id: "s4", kind: "cut" }, at: 4 }, "place 4 is beyond the 3 steps that there are"],
    [{ do: "move", step: "s3", to: 0 }, "Step 3 stands on what step 2 makes, so it must come after it."],
    [{ do: "rename", variable: "q", name: "w" }, 'there is no named value with the key "q"'],
    [
      {
        do: "several",
        commands: [
          { do: "remove", step: "s3" },
          { do: "remove", step: "s3" },
        ],
      },
      'command 2 of 2: there is no step "s3"; there are s1, s2',
    ],
    [{ do: "patch", set: { s7: { length: "1" } } }, 'there is no step "s7"; there are s1, s2, s3'],
    [{ do: "patch", order: ["s1", "s4"] }, 'there is no step "s4"; there are s1, s2, s3'],
  ])("%j says why", (command, words) => {
    expect(refusal(command)).toBe(words);
  });

  test("names no more steps than can be read, and none of an empty part", () => {
    const long = part(...Array.from({ length: 12 }, (_, i) => ({ ...plate("9", "9"), id: `p${i}` })));
    expect(refusal({ do: "remove", step: "q" }, long)).toBe(
      'there is no step "q"; there are p0, p1, p2, p3, p4, p5, p6, p7 and 4 more',
    );
    expect(refusal({ do: "remove", step: "q" }, newPart("Empty"))).toBe(
      'there is no step "q"; the part has none',
    );
  });

  test("to a step that follows another part is refused, and nothing else of the part is", () => {
    const follows = { part: "p", name: "Tray", revision: 3, steps: 2 };
    const following = { ...doc, follows };
    expect(refusal({ do: "set", step: "s2", values: { length: "30" } }, following)).toBe(
      'step 2 follows the part "Tray"; change it there, or let go of the other part first',
    );
    expect(refusal({ do: "remove", step: "s1" }, following)).toContain("step 1 follows");
    expect(refusal({ do: "set", step: "s3", values: { length: "30" } }, following)).toBe("done");
    expect(refusal({ do: "part", values: { follows: null } }, following)).toBe("done");
  });

  test("that makes no part is refused with the place in it", () => {
    const wrong = applyCommands(doc, [{ do: "set", step: "s2", values: { lengthTo: "nowhere" } }]);
    expect(wrong.ok ? "" : wrong.error).toMatch(
      /^what it makes is no part: \/steps\/1\/lengthTo: "nowhere" is not one of/,
    );
    const second = applyCommands(doc, [
      { do: "set", step: "s2", values: { length: "30" } },
      { do: "remove", step: "s8" },
    ]);
    expect(second.ok ? "" : second.error).toBe('command 2: there is no step "s8"; there are s1, s2, s3');
  });
});

describe("a command that is read", () => {
  const problems = (value: unknown) => {
    const read = readCommands(value);
    return read.ok ? [] : read.error.map((p) => `${p.path} ${p.message}`);
  };

  test.each<[unknown, string]>([
    [7, " A command is a JSON object."],
    [{}, '/do "undefined" is not a command; there are set, add, remove,'],
    [{ do: "constructor" }, '/do "constructor" is not a command;'],
    [{ do: "set" }, "/step This must be a text of 1 to 400 characters."],
    [{ do: "set", step: "s1" }, "/values This must be an object of values."],
    [{ do: "set", step: "s1", values: { id: "s9" } }, '/values/id "id" cannot be changed by this command.'],
    [{ do: "part", values: { steps: [] } }, '/values/steps "steps" cannot be changed by this command.'],
    [{ do: "move", step: "s1", to: -1 }, "/to This must be a whole number from 0 on."],
    [{ do: "move", step: "s1", to: 1e16 + 0.5, by: 1 }, '/by "move" takes no "by"; it takes step, to.'],
    [{ do: "add", step: { kind: "cut" } }, "/step/id This must be a text of 1 to 400 characters."],
    [
      [
        { do: "remove", step: "s1" },
        { do: "paste", steps: [3] },
      ],
      "/1/steps/0 A step must be an object.",
    ],
    [{ do: "replace", document: { format: "x" } }, '/document/format "format" must be "hillcrest-part"'],
  ])("%j is refused, and where", (value, words) => {
    expect(problems(value).join("\n")).toContain(words);
  });

  test("as text with a mistake names the place, and one nested too deep or too long is no command", () => {
    const text = readCommandText('{"do":"set",');
    expect(text.ok ? "" : text.error[0].message).toContain("the file ends in the middle");
    let deep: unknown = { do: "remove", step: "s1" };
    for (let i = 0; i < 5000; i++) deep = { do: "several", commands: [deep] };
    expect(problems(deep).join()).toContain("Commands can stand 4 deep in each other.");
    const removals = (n: number) => Array.from({ length: n }, () => ({ do: "remove", step: "s1" }));
    expect(problems(removals(500))).toEqual([]);
    expect(problems(removals(501))).toEqual([" This can have at most 500 entries."]);
  });

  test("in heaps within others is counted whole", () => {
    const heap = (n: number) => ({
      do: "several",
      commands: Array.from({ length: n }, () => ({ do: "remove", step: "s1" })),
    });
    expect(problems([heap(200), heap(200)])).toEqual([]);
    expect(problems([heap(300), heap(300)])).toEqual([
      " At most 500 commands can come at once, those within others counted.",
    ]);
  });

  test.each([
    "__proto__",
    "constructor",
    "toString",
  ])('that carries a value called "%s" is said and kept as any other, and taken back', (key) => {
    const read = readCommandText(`{"do":"patch","part":{"${key}":1}}`);
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    const doc = part(plate("100", "50"));
    expect(sayCommand(read.value[0], doc)).toContain("changed");
    const done = applyCommands(doc, read.value);
    if (!done.ok) throw new Error(done.error);
    expect(Object.hasOwn(done.value.document, key)).toBe(true);
    expect(Object.getPrototypeOf(done.value.document)).toBe(Object.prototype);
    expect(applied(done.value.document, done.value.undo)).toEqual(doc);
  });
});

describe("what a command is called", () => {
  const doc: PartDocument = {
    ...part(plate("100", "50"), {
      id: "s2",
      kind: "flange",
      name: "Lid",
      edges: [{ key: "a", at: "s1.north" }],
      length: "20",
    }),
    variables: [{ key: "a", name: "wide", value: "10" }],
  };

  test.each<[PartCommand, string]>([
    [{ do: "set", step: "s1", values: { width: "120" } }, "Plate 1: width 100 → 120"],
    [
      { do: "set", step: "s2", values: { length: "20", angle: "45" } },
      "Lid 2: length changed, angle 90 → 45",
    ],
    [{ do: "set", step: "s2", values: { paused: true } }, "Lid 2: paused"],
    [{ do: "set", step: "s2", values: { paused: null, name: null } }, "Lid 2: works again, without its name"],
    [{ do: "set", step: "s2", values: { name: "Cover" } }, 'Lid 2: called "Cover"'],
    [{ do: "add", step: { id: "s3", kind: "cut" } }, "Cut added"],
    [{ do: "remove", step: "s1" }, "Plate 1 removed, and what stood on it in 1 more"],
    [{ do: "remove", step: "s2" }, "Lid 2 removed"],
    [{ do: "move", step: "s2", to: 0 }, "Lid 2 moved to place 1"],
    [{ do: "paste", steps: [doc.steps[0], doc.steps[1]] }, "Plate, Lid pasted"],
    [{ do: "rename", variable: "a", name: "broad" }, "wide is called broad"],
    [{ do: "stock", values: { thickness: "2" } }, "Stock: thickness 1.5 → 2"],
    [{ do: "part", values: { name: "Box", units: "in" } }, 'Part called "Box", shown in inches'],
    [
      { do: "part", values: { held: ["s2a"], builtTo: "s1" } },
      "Part 1 bend held flat, built up to a step only",
    ],
    [{ do: "patch" }, "Nothing changed"],
    [{ do: "patch", order: ["s2", "s1"] }, "Steps in another order"],
    [{ do: "patch", order: ["s1"] }, "Lid 2 removed"],
    [
      {
        do: "several",
        commands: [
          { do: "remove", step: "s2" },
          { do: "set", step: "s1", values: { depth: "60" } },
        ],
      },
      "Lid 2 removed, Plate 1: depth 50 → 60",
    ],
    [{ do: "replace", document: { ...doc, name: "Other" } }, 'Taken in whole: Part called "Other"'],
  ])("%j", (command, words) => {
    expect(sayCommand(command, doc)).toBe(words);
  });

  test("says of a table which row is another, and which have come and gone", () => {
    const holed = part(plate("100", "50", [hole("6"), hole("5", "10", "0", "b"), hole("4", "20", "0", "c")]));
    const set = (...holes: object[]) => sayCommand({ do: "set", step: "s1", values: { holes } }, holed);
    const [a, b, c] = holed.steps[0].holes as object[];
    expect(set(a, { ...b, d: "8", x: "12" }, c)).toMatch(/^Plate 1: hole 2: .*10 → 12/);
    expect(set(a, { ...b, d: "8", x: "12" }, c)).toMatch(/5 → 8$/);
    expect(set(a, c)).toBe("Plate 1: 1 hole removed");
    expect(set(a, hole("3", "1", "1", "d"), hole("2", "9", "9", "e"))).toBe(
      "Plate 1: 2 holes added, 2 holes removed",
    );
    expect(set(b, a, c)).toBe("Plate 1: round holes changed");
  });

  test("names a few of many changes and counts the others", () => {
    const values = Object.fromEntries(["width", "depth", "x", "y", "z", "holes"].map((k) => [k, "1"]));
    expect(sayCommand({ do: "set", step: "s1", values }, doc)).toMatch(
      /^Plate 1: width 100 → 1, .* and 3 more$/,
    );
    const widths = (n: number): PartCommand[] =>
      Array.from({ length: n }, (_, i) => ({ do: "set", step: "s1", values: { width: `${i}` } }));
    expect(sayAll(widths(40), doc).at(-1)).toBe("Plate 1: width 38 → 39");
    expect(sayAll(widths(500), doc).slice(-2)).toEqual(["Plate 1: width 38 → 39", "and 460 more changes"]);
    const long = "1234567890".repeat(20);
    expect(sayCommand({ do: "set", step: "s1", values: { width: long } }, doc).length).toBeLessThan(80);
  });
});

describe("a command on a stock library", () => {
  const library = startingLibrary();
  const section = fc.constantFrom(...STOCK_SECTIONS);
  const command: fc.Arbitrary<StockItemCommand> = fc
    .record({
      section,
      which: fc.nat(50),
      what: fc.constantFrom("change", "put", "new", "drop"),
      value: fc.nat(9),
    })
    .map(({ section: of, which, what, value }) => {
      const items = library[of] as readonly StockItem[];
      const item = items[which % Math.max(1, items.length)] ?? { id: "none", name: "None" };
      if (what === "drop") return { do: "drop", section: of, id: item.id };
      if (what === "put")
        return { do: "put", section: of, item: { ...item, name: `Put ${value}` } as StockItem };
      if (what === "new")
        return { do: "put", section: of, item: { ...item, id: `new-${value}` } as StockItem, at: value };
      return {
        do: "change",
        section: of,
        id: item.id,
        values: { name: `Changed ${value}`, note: value % 2 === 0 ? null : `${value}` },
      };
    });

  test("is taken back by its inverse, and leaves the library that it was done to as it was", () => {
    const text = JSON.stringify(library);
    fc.assert(
      fc.property(fc.array(command, { maxLength: 12 }), (commands) => {
        let now = library;
        for (const one of commands) {
          const done = applyStockCommand(now, one);
          if (!done.ok) {
            expect((now[one.section] as readonly StockItem[]).map((i) => i.id)).not.toContain(
              one.do === "put" ? one.item.id : one.id,
            );
            continue;
          }
          const back = applyStockCommand(done.value.library, done.value.undo);
          if (!back.ok) throw new Error(back.error);
          expect(back.value.library).toEqual(now);
          const again = applyStockCommand(back.value.library, back.value.undo);
          expect(again.ok && again.value.library).toEqual(done.value.library);
          now = done.value.library;
        }
        expect(JSON.stringify(library)).toBe(text);
      }),
      { numRuns: RUNS },
    );
  });

  test("that does not go says why", () => {
    const error = (one: StockItemCommand) => {
      const done = applyStockCommand(library, one);
      return done.ok ? "" : done.error;
    };
    expect(error({ do: "drop", section: "dies", id: "none" })).toBe('there is no "none" among the dies');
    const { id } = library.materials[0];
    expect(error({ do: "change", section: "materials", id, values: { id: "x" } })).toBe(
      "an item keeps its id; put another one instead",
    );
  });
});
