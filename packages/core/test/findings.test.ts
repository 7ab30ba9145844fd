import { describe, expect, test } from "vitest";
import { pieceNames } from "../src/formats/json/findings.ts";
import { examinePart, reportFindings, sarifLog } from "../src/index.ts";
import { hole, part, plate } from "./plain-parts.ts";

/** Three flanges within their edges, two of which tear at both ends; the third is relieved. */
const tearing = part(
  plate("100", "60"),
  ...(["north", "south", "east"] as const).map((edge, i) => ({
    ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: `s1.${edge}` }], length: "20" },
    ...{ span: "width", width: "30", leftRelief: edge === "east" ? "square" : "none" },
    rightRelief: edge === "east" ? "square" : "none",
  })),
);

describe("the pieces of a finding", () => {
  test("are all the bends of which the same is said, each once, by their numbers", () => {
    const build = examinePart(tearing);
    const findings = build.findings.filter((f) => f.rule === "relief");
    // The left ends in one sentence, the right ends in another.
    expect(findings.map((f) => f.message.slice(0, 28))).toEqual([
      "Bends 1 and 2 have metal bes",
      "Bends 1 and 2 have metal bes",
    ]);
    for (const f of findings) {
      expect(f.pieces).toEqual([
        { kind: "bend", id: "s2a" },
        { kind: "bend", id: "s3a" },
      ]);
      expect(pieceNames(build, f)).toEqual(["#1", "#2"]);
    }
  });

  test("are plates by their letters, and what is gone is left out", () => {
    const build = examinePart(tearing);
    const pieces = [
      { kind: "plate", id: "s3a" },
      { kind: "plate", id: "s1" },
      { kind: "bend", id: "s9a" },
      { kind: "bend", id: "s4a" },
    ] as const;
    // A leg and its bend have one stable name: which is meant stands beside it.
    expect(pieceNames(build, { pieces })).toEqual(["C", "A", "#3"]);
    expect(pieceNames(build, {})).toEqual([]);
  });

  test("a plate that its cuts leave in pieces is named", () => {
    const cut = [0, 1, 2, 3].map((i) => hole("20", "0", String(i * 15 - 22.5), `k${i}`));
    const report = reportFindings(examinePart(part(plate("100", "60", cut))));
    const pieces = report.filter((f) => f.rule === "layout" && f.message.includes("in 2 pieces"));
    expect(pieces.map((f) => f.pieces)).toEqual([["A"]]);
  });
});

test("a report has each finding's rule, level, pieces, words, step and field, the gravest first", () => {
  const short = { id: "s5", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "1" };
  const report = reportFindings(examinePart({ ...tearing, steps: [...tearing.steps, short] }));
  expect(report.map((f) => f.level)).toEqual(["stop", "warn", "warn"]);
  expect(report[0]).toMatchObject({ rule: "step", step: "s5", field: "length", pieces: [] });
  expect(report[1]).toEqual({
    rule: "relief",
    level: "warn",
    pieces: ["#1", "#2"],
    message: expect.stringContaining("left ends and no relief there"),
    step: "s2",
    field: "leftRelief",
    found: null,
    wanted: null,
    accepted: null,
  });
});

/** The parts of a log that are looked at. */
interface Log {
  readonly version: string;
  readonly runs: readonly {
    readonly tool: { readonly driver: { readonly rules: readonly { readonly id: string }[] } };
    readonly artifacts: readonly { readonly location: { readonly uri: string } }[];
    readonly results: readonly {
      readonly ruleId: string;
      readonly ruleIndex: number;
      readonly level: string;
      readonly message: { readonly text: string };
      readonly locations: readonly {
        readonly physicalLocation: {
          readonly artifactLocation: { readonly uri: string; readonly index: number };
        };
        readonly logicalLocations: readonly { readonly name: string; readonly kind: string }[];
      }[];
    }[];
  }[];
}

describe("a SARIF log", () => {
  const findings = reportFindings(examinePart(tearing));
  const log = sarifLog([
    { uri: "parts/fine.json", findings: [] },
    { uri: "parts/tearing.json", findings },
    {
      uri: "parts/tearing%20too.json",
      findings: [
        { ...findings[0], rule: "step", level: "stop", pieces: ["A"] },
        { ...findings[0], rule: "outside-chart", level: "note", step: null },
      ],
    },
  ]) as Log;
  const [{ tool, artifacts, results }] = log.runs;

  test("names every file, and every rule once, to which its results point back", () => {
    expect(log.version).toBe("2.1.0");
    expect(artifacts.map((a) => a.location.uri)).toEqual([
      "parts/fine.json",
      "parts/tearing.json",
      "parts/tearing%20too.json",
    ]);
    const ids = tool.driver.rules.map((r) => r.id);
    expect(ids).toEqual(["outside-chart", "relief", "step"]);
    for (const { ruleId, ruleIndex, locations } of results) {
      expect(ids[ruleIndex]).toBe(ruleId);
      const { uri, index } = locations[0].physicalLocation.artifactLocation;
      expect(artifacts[index].location.uri).toBe(uri);
    }
  });

  test("says the levels in the standard's words, and pieces and steps as logical places", () => {
    expect(results.map((r) => r.level)).toEqual(["warning", "warning", "error", "note"]);
    expect(results.map((r) => r.locations[0].logicalLocations)).toEqual([
      [
        { name: "#1", kind: "bend" },
        { name: "#2", kind: "bend" },
        { name: "s2", kind: "step" },
      ],
      [
        { name: "#1", kind: "bend" },
        { name: "#2", kind: "bend" },
        { name: "s2", kind: "step" },
      ],
      [
        { name: "A", kind: "plate" },
        { name: "s2", kind: "step" },
      ],
      [
        { name: "#1", kind: "bend" },
        { name: "#2", kind: "bend" },
      ],
    ]);
    expect(results[0].message.text).toContain("Bends 1 and 2 have metal beside their left ends");
  });
});
