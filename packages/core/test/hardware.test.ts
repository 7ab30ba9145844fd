import { describe, expect, test } from "vitest";
import { summarize } from "../src/formats/json/summary.ts";
import {
  examinePart,
  hardwareOf,
  readDocument,
  type StandardOpening,
  type StepDocument,
  toolsFor,
} from "../src/index.ts";
import { asCircle } from "../src/plane/loop.ts";
import { itemProblems } from "../src/stock/read-item.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate, told } from "./plain-parts.ts";
import { at, HAIR, isLimit, part as ruled, plate as ruledPlate, said, step, wall } from "./ruled-parts.ts";

const nut = {
  ...{ id: "nut-m4", name: "Press nut M4", note: "", sort: "press nut", thread: "M4", opening: 5.4 },
  ...{ leastThickness: 1.2, toEdge: 7, toBend: 8, side: "either" },
};
const stud = { ...nut, id: "stud-m5", name: "Press stud M5", sort: "press stud", thread: "M5", opening: 5 };

const setIn = (id: string, hardware: object | undefined, more: object = {}): StepDocument => ({
  ...{ id, kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", sized: "hardware", x: "0", y: "0" },
  ...(hardware ? { hardware } : {}),
  ...more,
});
const built = (...steps: StepDocument[]) => examinePart(part(plate("200", "120"), ...steps));

describe("hardware", () => {
  test("is set into openings of its own size, and counted by those that are there", () => {
    const row = { arranged: "row", count: "4", pitch: "30" };
    const pattern: StepDocument = {
      ...{
        id: "s4",
        kind: "pattern",
        steps: [{ key: "a", at: "s3" }],
        form: "row",
        count: "3",
        pitch: "20",
        direction: "90",
      },
    };
    const build = built(setIn("s2", nut, row), setIn("s3", stud, { x: "-60", y: "-30" }), pattern);
    expect(told(build)).toEqual([]);
    const sizes = build.blank!.openings.map((l) => Math.round(2e6 * asCircle(l)!.r) / 1e6).sort();
    expect(sizes).toEqual([5, 5, 5, 5.4, 5.4, 5.4, 5.4]);
    expect(hardwareOf(build).map(({ item, count }) => [item.name, count])).toEqual([
      ["Press nut M4", 4],
      ["Press stud M5", 3],
    ]);
    expect(summarize("P", build).hardware).toEqual([
      { name: "Press nut M4", sort: "press nut", thread: "M4", opening: 5.4, count: 4 },
      { name: "Press stud M5", sort: "press stud", thread: "M5", opening: 5, count: 3 },
    ]);
  });

  test("counts no opening that a later cut has taken away or made another", () => {
    const over: StepDocument = {
      ...{ id: "s3", kind: "cut", form: "rectangle", width: "12", height: "12", x: "-45", y: "0" },
      plate: [{ key: "a", at: "s1" }],
    };
    const row = { arranged: "row", count: "4", pitch: "30" };
    expect(hardwareOf(built(setIn("s2", nut, row), over))[0].count).toBe(3);
    const paused = built({ ...setIn("s2", nut, row), paused: true });
    expect(hardwareOf(paused)).toEqual([]);
  });

  test("that is not chosen is asked for, and what is none is refused where the part is read", () => {
    const build = built(setIn("s2", undefined));
    expect(build.findings[0]).toMatchObject({
      field: "hardware",
      message: expect.stringMatching(/Choose what is set into it/),
    });
    expect(readDocument(JSON.parse(JSON.stringify(part(plate("200", "120"), setIn("s2", nut))))).ok).toBe(
      true,
    );
    for (const wrong of [{ ...nut, opening: -1 }, { ...nut, opening: "wide" }, { id: "x" }, "nut-m4", 4]) {
      const read = readDocument(
        JSON.parse(JSON.stringify(part(plate("200", "120"), setIn("s2", wrong as object)))),
      );
      expect(read.ok, JSON.stringify(wrong)).toBe(false);
    }
    expect(itemProblems("hardware", nut)).toEqual([]);
    expect(itemProblems("hardware", { ...nut, opening: 1e16 })[0].path).toBe("/opening");
  });

  const one = (more: object) => ({ ...setIn("s2", nut, more), plate: at("s1") });

  test("needs room to edges, to other openings and to bends", () => {
    isLimit("hardware-room", (off) => ruled(ruledPlate(), one({ x: String(60 - off) })), 7);
    isLimit(
      "hardware-room",
      (off) =>
        ruled(ruledPlate({ holes: [{ key: "a", x: "0", y: "0", d: "10" }] }), one({ x: String(5 + off) })),
      7,
    );
    const line = 40 - 3.5;
    isLimit(
      "hardware-room",
      (off) => ruled(ruledPlate(), wall("s3", "s1.north"), one({ y: String(line - off) })),
      8,
    );
  });

  test("needs a sheet that is thick enough, and is mended by the least move", () => {
    const thick = (least: number) =>
      ruled(ruledPlate(), one({ hardware: { ...nut, leastThickness: least } }));
    expect(said("hardware-room", thick(1.5))).toEqual([]);
    expect(said("hardware-room", thick(1.5 + HAIR))[0]).toMatchObject({
      step: "s2",
      field: "hardware",
      found: 1.5,
    });
    const [finding] = said("hardware-room", ruled(ruledPlate(), one({ x: "55", y: "3" })));
    expect(finding.mend!.remedies).toEqual([{ do: "set", step: "s2", values: { x: "53", y: "3" } }]);
    expect(
      said("hardware-room", ruled(ruledPlate(), step("s2", "cut", { ...one({ x: "53", y: "3" }) }))),
    ).toEqual([]);
  });
});

describe("the openings that a shop has tools for", () => {
  const round = (id: string, diameter: number): StandardOpening => ({
    id,
    name: id,
    note: "",
    form: "round",
    diameter,
  });
  const slot = (id: string, width: number, height: number): StandardOpening => ({
    ...{ id, name: id, note: "", form: "slot", width, height },
  });
  const tools = [
    round("d8", 8),
    round("d5", 5),
    round("d6.5", 6.5),
    slot("s20", 20, 6),
    slot("s30", 30, 6),
    slot("s25", 25, 5),
  ];
  const names = (list: readonly StandardOpening[]) => list.map((t) => t.id);

  test("are found by size, the next larger one first", () => {
    expect(toolsFor(tools, { form: "round", diameter: 6.5 })).toMatchObject({ same: { id: "d6.5" } });
    const { same, larger } = toolsFor(tools, { form: "round", diameter: 5.2 });
    expect([same, names(larger)]).toEqual([undefined, ["d6.5", "d8"]]);
    expect(names(toolsFor(tools, { form: "round", diameter: 9 }).larger)).toEqual([]);
    const wide = toolsFor(tools, { form: "slot", width: 18, height: 5.5 });
    expect(names(wide.larger)).toEqual(["s20", "s30"]);
    expect(toolsFor(tools, { form: "slot", width: 25, height: 5 }).same?.id).toBe("s25");
    expect(toolsFor([], { form: "rectangle", width: 5, height: 5 })).toEqual({ same: undefined, larger: [] });
  });
});

test.each([
  ["stands clear", "16", 0, {}],
  ["stands too near to its neighbours", "9", 1, {}],
  ["asks for more room than there is anywhere", "16", 1, { toEdge: 500, toBend: 500 }],
])("hardware by the thousand that %s is looked at in a time that grows with its number", (_name, pitch, findings, asks) => {
  const plateOf = (n: number) => {
    const [side, size] = [String(n), String(n * Number(pitch) + 40)];
    const grid = { arranged: "grid", count: side, pitch, rows: side, rowPitch: pitch };
    return part(plate(size, size), setIn("s2", { ...nut, ...asks }, grid));
  };
  const build = examinePart(plateOf(12));
  expect(build.blank!.openings.length).toBe(144);
  // What is said of each alike is said once.
  expect(build.findings.filter((f) => f.rule === "hardware-room").length).toBe(findings);
  expectGrowth(
    1.4,
    [12, 20, 33, 54].map((side) => side * side),
    (n) => {
      const document = plateOf(Math.sqrt(n));
      return () => examinePart({ ...document });
    },
  );
});
