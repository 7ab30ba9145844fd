import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { newPart } from "@hillcrest/core";
import DxfParser from "dxf-parser";
import { unzipSync } from "fflate";
import { afterAll, describe, expect, test, vi } from "vitest";
import { run } from "../dist/run.js";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "hillcrest-cli-"));
afterAll(() => rmSync(folder, { recursive: true }));

/** The program as somebody starts it. */
const spawned = (...args: string[]) =>
  spawnSync(join(root, "node_modules/.bin/hillcrest"), args, { cwd: root });

/** What the program does, in this process: starting it anew each time takes ten times as long as what it does. */
async function hillcrest(...args: string[]): Promise<{ status: number; out: string; err: string }> {
  const said = { out: "", err: "" };
  const listen = (stream: NodeJS.WriteStream, to: keyof typeof said) =>
    vi.spyOn(stream, "write").mockImplementation((text) => {
      said[to] += String(text);
      return true;
    });
  const heard = [listen(process.stdout, "out"), listen(process.stderr, "err")];
  const before = process.exitCode;
  process.exitCode = undefined;
  try {
    await run(args);
    return { status: Number(process.exitCode ?? 0), ...said };
  } finally {
    process.exitCode = before;
    for (const one of heard) one.mockRestore();
  }
}

function put(name: string, content: unknown): string {
  const path = join(folder, name);
  writeFileSync(path, typeof content === "string" ? content : JSON.stringify(content));
  return path;
}

const stopped = {
  ...newPart("Too short"),
  steps: [
    { id: "s1", kind: "plate", width: "100", depth: "50" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "1" },
  ],
};

describe("help", () => {
  const commands = [
    ["blank", "<file...>", "--dxf <path>"],
    ["export", "<part...>", "--zip <path>"],
    ["compare", "<file> <returned>", "--within <mm>"],
    ["check", "<file...>", "--sarif <path>"],
    ["fold", "<file>", "--stl <path>"],
    ["why", "<file>", "--bend <number>"],
    ["edit", "<file>", "--command <json>"],
    ["schema", "", "--stock"],
    ["outlines", "<file>", "--json"],
    ["validate", "<file>", "-h, --help"],
  ] as const;

  test("names every command and what it takes, and is there in no more than three times an empty program", async () => {
    const { status, out } = await hillcrest("--help");
    expect(status).toBe(0);
    for (const [name, takes] of commands) expect(out).toContain(`${name} [options] ${takes}`.trimEnd());
    const quickest = (run: () => unknown) =>
      Math.min(
        ...Array.from({ length: 7 }, () => {
          const start = performance.now();
          run();
          return performance.now() - start;
        }),
      );
    const empty = quickest(() => spawnSync(process.execPath, ["-e", "0"]));
    expect(quickest(() => spawned("--help")) / empty).toBeLessThan(3);
  });

  test.each(
    commands,
  )("of %s says its arguments and options, asked for either way", async (name, takes, option) => {
    const { status, out } = await hillcrest(name, "--help");
    expect(status).toBe(0);
    expect(out).toContain(`Usage: hillcrest ${name} [options] ${takes}`.trimEnd());
    expect(out).toContain(option);
    expect((await hillcrest("help", name)).out).toBe(out);
  });

  test("is given with a command that there is not, and with a value that cannot be", async () => {
    const unknown = await hillcrest("flatten", "demo/battery-tray.json");
    expect(unknown).toMatchObject({ status: 2, out: "" });
    expect(unknown.err).toContain("unknown command 'flatten'");
    expect(unknown.err).toContain("blank [options] <file...>");
    const wrong = await hillcrest("blank", "demo/battery-tray.json", "--dots", "many");
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain("It must be a whole number from 16 to 8000.");
    for (const dots of ["0", "-4", "1e9", "8001", "2.5", ""])
      expect((await hillcrest("blank", "demo/battery-tray.json", "--dots", dots)).status).toBe(2);
  });
});

describe("hillcrest blank", () => {
  test("prints the numbers of a part as JSON and writes its DXF", async () => {
    const dxf = join(folder, "tray.dxf");
    const { status, out } = await hillcrest("blank", "demo/battery-tray.json", "--json", "--dxf", dxf);
    expect(status).toBe(0);
    const part = JSON.parse(out);
    expect(part).toMatchObject({ name: "Battery tray", thickness: 1.5 });
    expect(part.findings.map((f: { level: string; rule: string }) => [f.level, f.rule])).toEqual([
      ["note", "turns-alone"],
      ["note", "turns-alone"],
    ]);
    expect(part.blank).toMatchObject({ width: 398.691592, height: 268.037389, openings: 7 });
    expect(part.folded.box).toEqual([320, 190.5, 42]);
    expect(part.bends[4]).toEqual({
      number: 5,
      between: ["B", "F"],
      direction: "down",
      angle: 90,
      radius: 1.5,
      k: 0.42,
      kFrom: "Ridge brake chart, row 3–4",
      ba: 3.345796,
      bd: 2.654204,
      length: 308,
      pieces: [308],
    });
    const file = new DxfParser().parseSync(readFileSync(dxf, "utf8"))!;
    expect(file.entities.filter((e) => e.type === "CIRCLE").length).toBe(7);
  });

  test("writes no DXF of a stopped part unless told to, and then says so in the file", async () => {
    const file = put("stopped.json", stopped);
    const dxf = join(folder, "stopped.dxf");
    const refused = await hillcrest("blank", file, "--dxf", dxf);
    expect(refused.status).toBe(1);
    expect(refused.err).toContain("--anyway writes it anyway");
    expect(readdirSync(folder)).not.toContain("stopped.dxf");
    const written = await hillcrest("blank", file, "--dxf", dxf, "--anyway");
    expect(written.status).toBe(1);
    const text = readFileSync(dxf, "utf8");
    expect(text).toMatch(/^ *999\r?\nFindings stop this part: Flange 2: /m);
    expect(new DxfParser().parseSync(text)!.entities.length).toBeGreaterThan(0);
  });

  test("prints and writes no number that is none, of a part that is nothing", async () => {
    const hole = (d: string) => ({
      ...newPart("Gone"),
      steps: [
        { id: "s1", kind: "plate", width: "50", depth: "50", holes: [{ key: "a", x: "0", y: "0", d }] },
      ],
    });
    for (const d of ["71", "16000", "1e16", "1e308"]) {
      const dxf = join(folder, `gone-${d}.dxf`);
      const { status, out } = await hillcrest("blank", put(`gone-${d}.json`, hole(d)), "--dxf", dxf);
      expect(status).toBe(1);
      expect(out).not.toMatch(/Infinity|NaN/);
      expect(readdirSync(folder)).not.toContain(`gone-${d}.dxf`);
    }
  });

  test("writes one DXF a part into a folder, also for two files of one name", async () => {
    const out = join(folder, "out");
    const twin = put("battery-tray.json", readFileSync(join(root, "demo/battery-tray.json"), "utf8"));
    const { status, out: text } = await hillcrest(
      "blank",
      "demo/battery-tray.json",
      "demo/mast-bracket.json",
      twin,
      "--out",
      out,
    );
    expect(status).toBe(0);
    expect(text).toContain("Mast bracket");
    expect(readdirSync(out).sort()).toEqual(["battery-tray-2.dxf", "battery-tray.dxf", "mast-bracket.dxf"]);
  });

  test("ends with 1 when a finding stops manufacture, and says which", async () => {
    const { status, out } = await hillcrest("blank", put("short.json", stopped), "--json");
    expect(status).toBe(1);
    expect(JSON.parse(out).findings[0]).toMatchObject({
      level: "stop",
      step: "s2",
      message: expect.stringContaining("at least 3 mm"),
    });
  });

  test.each([
    ["no such file", () => join(folder, "nothing.json"), "there is no such file"],
    [
      "half a file",
      () => put("half.json", '{\n  "format": "hillcrest-part",\n  "ver'),
      "half.json: Line 3, column 7: the file ends in the middle",
    ],
    [
      "a later version",
      () => put("later.json", { ...stopped, version: 7 }),
      "later.json at /version: The document has version 7",
    ],
    [
      "a wrong value",
      () => put("wrong.json", { ...stopped, steps: [{ id: "s1", kind: "plate", width: {} }] }),
      "wrong.json at /steps/0/width",
    ],
  ])("ends with 2 at %s and names the place", async (_name, file, message) => {
    const { status, err } = await hillcrest("blank", file());
    expect(status).toBe(2);
    expect(err).toContain(message);
  });

  test("writes nothing at all when one of several files cannot be read", async () => {
    const out = join(folder, "none");
    expect(
      (await hillcrest("blank", "demo/cable-cover.json", join(folder, "nothing.json"), "--out", out)).status,
    ).toBe(2);
    expect(() => readdirSync(out)).toThrow();
  });
});

describe("hillcrest check", () => {
  const tearing = {
    ...newPart("Tearing"),
    steps: [
      { id: "s1", kind: "plate", width: "100", depth: "60" },
      {
        ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20", span: "width" },
        ...{ width: "30", leftRelief: "none", rightRelief: "square" },
      },
    ],
  };

  test("prints what is found on each file, with its pieces, and ends with 0 while nothing stops", async () => {
    const file = put("tearing.json", tearing);
    const { status, out } = await hillcrest("check", "demo/cable-cover.json", file);
    expect(status).toBe(0);
    const [fine, head, warn] = out.split("\n");
    expect(fine).toBe("demo/cable-cover.json: nothing found");
    expect(head).toBe(`${file}:`);
    expect(warn).toMatch(/^ {2}warn: Bend 1 has metal beside its left end .*\(#1\)$/);
  });

  test("is a list in JSON, an element for each file in their order, and ends with 1 where one is stopped", async () => {
    const files = [put("b.json", stopped), "demo/cable-cover.json", put("a.json", tearing)];
    const { status, out } = await hillcrest("check", "--json", ...files);
    expect(status).toBe(1);
    const checked = JSON.parse(out);
    expect(checked.map((c: { file: string }) => c.file)).toEqual(files);
    expect(checked[0].findings).toMatchObject([{ level: "stop", rule: "step", step: "s2", pieces: [] }]);
    expect(checked[1].findings).toEqual([]);
    expect(checked[2].findings).toMatchObject([
      { level: "warn", rule: "relief", step: "s2", field: "leftRelief", pieces: ["#1"] },
    ]);
  });

  test("writes a SARIF log whose places are URIs, whatever the file is called", async () => {
    const log = join(folder, "logs", "findings.sarif");
    const file = put("tearing 50%.json", tearing);
    const { status, err } = await hillcrest("check", file, "demo/cable-cover.json", "--sarif", log);
    expect(status).toBe(0);
    expect(err).toContain(`wrote ${log}`);
    const [{ artifacts, results }] = JSON.parse(readFileSync(log, "utf8")).runs;
    expect(artifacts.map((a: { location: object }) => a.location)).toEqual([
      { uri: expect.stringMatching(/^file:\/\/\/.*\/tearing%2050%25\.json$/) },
      { uri: "demo/cable-cover.json" },
    ]);
    expect(results).toMatchObject([{ ruleId: "relief", level: "warning" }]);
    const printed = await hillcrest("check", file, "--sarif", "-");
    expect(JSON.parse(printed.out).runs[0].results).toHaveLength(1);
  });

  test("writes and prints nothing when a file cannot be read, or two things would be printed", async () => {
    const log = join(folder, "never.sarif");
    const unread = await hillcrest(
      "check",
      put("fine.json", tearing),
      join(folder, "gone.json"),
      "--sarif",
      log,
    );
    expect([unread.status, unread.out]).toEqual([2, ""]);
    expect(unread.err).toContain("there is no such file");
    expect(readdirSync(folder)).not.toContain("never.sarif");
    const both = await hillcrest("check", "demo/cable-cover.json", "--json", "--sarif", "-");
    expect([both.status, both.out]).toEqual([2, ""]);
    expect(both.err).toContain("give --sarif a file");
  });
});

test("hillcrest fold writes the part at any share of folding", async () => {
  const heights: number[] = [];
  for (const at of ["0", "1"]) {
    const path = join(folder, `fold-${at}.stl`);
    expect((await hillcrest("fold", "demo/cable-cover.json", "--stl", path, "--at", at)).status).toBe(0);
    const view = new DataView(new Uint8Array(readFileSync(path)).buffer);
    let [low, high] = [Infinity, -Infinity];
    for (let i = 84; i < view.byteLength; i += 50) {
      for (let k = 0; k < 3; k++) {
        const z = view.getFloat32(i + 12 + k * 12 + 8, true);
        low = Math.min(low, z);
        high = Math.max(high, z);
      }
    }
    heights.push(high - low);
  }
  expect(heights[0]).toBeCloseTo(1.2, 5);
  expect(heights[1]).toBeCloseTo(28, 4);
  expect(
    (await hillcrest("fold", "demo/cable-cover.json", "--stl", join(folder, "x.stl"), "--at", "2")).status,
  ).toBe(2);
});

describe("hillcrest outlines", () => {
  const line = (name: string, length: unknown, more: object[] = []) => ({
    format: "hillcrest-outline",
    version: 1,
    name,
    points: { a: [0, 0], b: [30, 2], c: [30, 20] },
    curves: [
      { id: "l", kind: "line", a: "a", b: "b" },
      { id: "k", kind: "line", a: "b", b: "c" },
    ],
    relations: [
      { id: "r1", kind: "fixed", of: ["a"] },
      { id: "r2", kind: "level", of: ["l"] },
    ],
    dimensions: [
      { id: "d1", kind: "length", of: ["l"], value: length },
      { id: "d2", kind: "angle", of: ["l", "k"], value: 90 },
      { id: "d3", kind: "length", of: ["k"], showing: true },
      ...more,
    ],
  });

  test("prints for each outline what holds, what is free and what disagrees, with angles in degrees", async () => {
    const again = [{ id: "d9", kind: "length", of: ["l"], value: 44 }];
    const file = put("outlines.json", { outlines: [line("First", "2*20"), line("Second", 40, again)] });
    const { status, out } = await hillcrest("outlines", file, "--json");
    expect(status).toBe(1);
    const [first, second] = JSON.parse(out);
    expect(first).toMatchObject({
      name: "First",
      state: "free",
      free: 1,
      conflicts: [],
      values: { d1: expect.closeTo(40, 9), d2: expect.closeTo(90, 9), d3: expect.any(Number) },
    });
    expect(first.points.b).toEqual([expect.closeTo(40, 9), expect.closeTo(0, 9)]);
    expect(second).toMatchObject({ name: "Second", state: "conflict", conflicts: ["d1", "d9"] });
  });

  test("solves those of a part over the part's own values", async () => {
    const { status, out } = await hillcrest("outlines", "demo/guy-wire-eye.json", "--json");
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject([
      {
        name: "Eye plate",
        state: "fixed",
        free: 0,
        values: { d1: expect.closeTo(90, 9), d4: expect.closeTo(18, 9) },
      },
    ]);
  });

  test("are those of a part of before, whose shape was a table of points: the same blank, its sides called as they were", async () => {
    const points = [
      ["a", 0, 0],
      ["b", 60, 0],
      ["c", 60, 25],
    ].map(([key, x, y]) => ({ key, x, y }));
    const stock = {
      material: "Steel",
      density: "7850",
      thickness: "1.5",
      radius: "1.5",
      flatBy: "K",
      k: "0.42",
    };
    const steps = [{ id: "s1", kind: "plate", form: "outline", points }];
    const old = put("old.json", { format: "hillcrest-part", version: 2, name: "Old", stock, steps });
    const [outline] = JSON.parse((await hillcrest("outlines", old, "--json")).out);
    expect(outline).toMatchObject({ name: "Plate 1", state: "fixed", points: { "at-c": [60, 25] } });
    const { blank } = JSON.parse((await hillcrest("blank", old, "--json")).out);
    expect([blank.width, blank.height]).toEqual([expect.closeTo(60, 9), expect.closeTo(25, 9)]);
    expect(await hillcrest("validate", old)).toMatchObject({ status: 0 });
  });

  test("says the same in words, and what is wrong with a file by its place", async () => {
    const fine = await hillcrest("outlines", put("one.json", line("One", 40)));
    expect(fine).toMatchObject({ status: 0, out: "One: 1 left free\n" });
    const wrong = await hillcrest(
      "outlines",
      put("wrong.json", { ...line("Wrong", 40), points: { a: [0, 0] } }),
    );
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain('at /curves/0/b: There is no point called "b".');
    const value = await hillcrest("outlines", put("value.json", line("Value", "wide")));
    expect(value.status).toBe(1);
    expect(value.out).toContain("Value: cannot be solved");
    expect(value.out).toContain("Dimension d1:");
  });
});

test("hillcrest validate and schema", async () => {
  expect(await hillcrest("validate", "demo/mast-bracket.json")).toMatchObject({
    status: 0,
    out: expect.stringContaining("4 steps, 0 findings"),
  });
  expect((await hillcrest("validate", put("short.json", stopped))).status).toBe(1);
  expect(JSON.parse((await hillcrest("schema")).out).title).toBe("Hillcrest part document");
  expect(JSON.parse((await hillcrest("schema", "--stock")).out).title).toBe("Hillcrest stock library");
});

test("hillcrest why gives the chain behind a number, down to chart row and card", async () => {
  const { status, out } = await hillcrest(
    "why",
    "demo/battery-tray.json",
    "--bend",
    "3",
    "--of",
    "deduction",
  );
  expect(status).toBe(0);
  for (const line of [
    "bend deduction of bend 3: 2.65 mm",
    "r = 1.5  (stock card Galvanised 1.5, revision 1 · ridge-galvanised-1-5)",
    "K = 0.42  (Ridge brake chart, row 3 · ridge-brake)",
    "test bends · ridge-coupons",
    "BD = 2 × 3 − 3.3458 = 2.6542",
  ])
    expect(out).toContain(line);
  const blank = await hillcrest("why", "demo/battery-tray.json", "--blank", "width", "--mass", "--json");
  const chains = JSON.parse(blank.out) as { title: string; lines: { text: string }[] }[];
  expect(chains.map((c) => c.title)).toEqual(["blank width", "mass"]);
  const terms = chains[0].lines.slice(0, -1).map((l) => Number(l.text.split(" = ").pop()));
  expect(terms.reduce((sum, t) => sum + t, 0)).toBeCloseTo(398.691592, 3);
  expect((await hillcrest("why", "demo/battery-tray.json", "--bend", "99")).status).toBe(2);
  expect((await hillcrest("why", "demo/battery-tray.json")).status).toBe(2);
});

test("npx hillcrest works from the repository's root", async () => {
  const out = execFileSync("npx", ["--no-install", "hillcrest", "blank", "demo/cable-cover.json", "--json"], {
    cwd: root,
    encoding: "utf8",
    stdio: ["ignore", "pipe", "ignore"],
  });
  expect(JSON.parse(out).name).toBe("Cable cover");
});

describe("hillcrest edit", () => {
  const document = {
    ...newPart("Edited"),
    steps: [
      { id: "s1", kind: "plate", width: "100", depth: "50" },
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "20" },
    ],
  };
  const kept = (path: string) => JSON.parse(readFileSync(path, "utf8"));

  test("does commands in their order, says what they did, and can take them back", async () => {
    const file = put("edited.json", document);
    const undo = join(folder, "undo.json");
    const set = { do: "set", step: "s2", values: { length: "25", angle: "60" } };
    const { status, out } = await hillcrest(
      "edit",
      file,
      "--command",
      JSON.stringify(set),
      "--command",
      JSON.stringify([
        { do: "stock", values: { thickness: "2" } },
        { do: "part", values: { name: "Lid" } },
      ]),
      "--undo",
      undo,
    );
    expect(status).toBe(0);
    expect(out).toBe(
      'Flange 2: length 20 → 25, angle 90 → 60\nStock: thickness 1.5 → 2\nPart called "Lid"\n',
    );
    expect(kept(file)).toEqual({
      ...document,
      name: "Lid",
      stock: { ...document.stock, thickness: "2" },
      steps: [document.steps[0], { ...document.steps[1], length: "25", angle: "60" }],
    });
    expect((await hillcrest("edit", file, "--command", `@${undo}`)).status).toBe(0);
    expect(kept(file)).toEqual(document);
  });

  test("leaves the file alone with --out, and prints JSON", async () => {
    const file = put("kept.json", document);
    const out = join(folder, "changed.json");
    const remove = JSON.stringify({ do: "remove", step: "s1" });
    const done = await hillcrest("edit", file, "--command", remove, "--out", out, "--json");
    // What is left has no metal, which stops it.
    expect(done.status).toBe(1);
    expect(JSON.parse(done.out)).toMatchObject({ said: ["Plate 1 removed, and what stood on it in 1 more"] });
    expect(kept(file)).toEqual(document);
    expect(kept(out).steps).toEqual([]);
  });

  test("changes nothing when one command does not go, and says which and why", async () => {
    const file = put("whole.json", document);
    const text = readFileSync(file, "utf8");
    const cases: readonly (readonly [string, string])[] = [
      [
        JSON.stringify([
          { do: "remove", step: "s2" },
          { do: "remove", step: "s7" },
        ]),
        'not changed, command 2: there is no step "s7"; there are s1',
      ],
      ['{"do":"fly"}', 'at /do: "fly" is not a command; there are set, add'],
      ['{"do":', "--command 1: Line 1, column 7"],
      ["@/nowhere.json", "/nowhere.json: it cannot be read"],
      [
        '{"do":"set","step":"s2","values":{"length":{"no":1}}}',
        "not changed, what it makes is no part: /steps/1/length",
      ],
      ['{"do":"set","step":"s2","values":{"lenght":"35"}}', 'did you mean "length"?'],
    ];
    for (const [command, words] of cases) {
      const { status, err } = await hillcrest("edit", file, "--command", command);
      expect(status).toBe(2);
      expect(err).toContain(words);
      expect(readFileSync(file, "utf8")).toBe(text);
    }
    expect(readdirSync(folder).filter((name) => name.endsWith(".new"))).toEqual([]);
  });

  test("writes a part that findings stop all the same, and tells it", async () => {
    const file = put("short.json", document);
    const short = JSON.stringify({ do: "set", step: "s2", values: { length: "1" } });
    const { status, err } = await hillcrest("edit", file, "--command", short);
    expect(status).toBe(1);
    expect(err).toContain("Edited: stop:");
    expect(kept(file).steps[1].length).toBe("1");
  });
});

describe("hillcrest check by shop rules", () => {
  const rules = (values: object, more: object = {}) =>
    put("rules.json", { format: "hillcrest-rules", version: 1, values, ...more });
  const findings = async (...args: string[]) => {
    const { status, out } = await hillcrest("check", "--json", ...args);
    const [{ findings: list }] = JSON.parse(out) as [{ findings: Record<string, unknown>[] }];
    return { status, list };
  };

  test("tells collisions with depth, volume and moment, and other findings by what they measure", async () => {
    const { status, list } = await findings("demo/rain-gauge-hood.json");
    expect(status).toBe(0);
    expect(list.find((f) => f.rule === "collision")).toMatchObject({
      level: "warn",
      pieces: ["D", "E"],
      at: expect.closeTo(0.58665, 4),
      full: false,
      depth: expect.any(Number),
      volume: expect.any(Number),
    });
    const wide = await findings("demo/mast-bracket.json", "--rules", rules({ openingToBend: 3 }));
    expect(wide.status).toBe(0);
    expect(wide.list[0]).toMatchObject({ rule: "opening-to-bend", level: "warn", found: 9, wanted: 12 });
  });

  test("goes by the file's rules and not by those that the part carries; a stop ends with 1", async () => {
    expect(await findings("demo/cable-cover.json")).toEqual({ status: 0, list: [] });
    const short = await findings("demo/cable-cover.json", "--rules", rules({ brakeLength: 100 }));
    expect(short.status).toBe(1);
    expect(short.list[0]).toMatchObject({ rule: "long-bend", level: "stop", wanted: 100 });
    const off = rules({ brakeLength: 100 }, { levels: { "long-bend": "off" } });
    expect(await findings("demo/cable-cover.json", "--rules", off)).toEqual({ status: 0, list: [] });
  });

  test("refuses rules that are none, with the place in the file", async () => {
    const wrong = await hillcrest("check", "demo/cable-cover.json", "--rules", rules({ brakeLength: -5 }));
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain(
      "rules.json at /values/brakeLength: Length of the brake: -5 mm must be above 0.",
    );
    const gone = await hillcrest("check", "demo/cable-cover.json", "--rules", join(folder, "no-rules.json"));
    expect(gone.status).toBe(2);
    expect(gone.err).toContain("there is no such file");
  });

  test("blank --json has what all checks say", async () => {
    const { out } = await hillcrest("blank", "demo/rain-gauge-hood.json", "--json");
    const { findings } = JSON.parse(out) as { findings: { rule: string }[] };
    expect(findings.map((f) => f.rule)).toContain("collision");
  });
});

describe("hillcrest blank --format", () => {
  test("writes every kind of file there is", async () => {
    for (const [key, begins] of [
      ["svg", "<svg "],
      ["png", "\u0089PNG"],
      ["json", '{\n "format": "hillcrest-blank"'],
      ["csv", "number,forming"],
      ["3mf", "PK"],
      ["glb", "glTF"],
      ["gltf", '{"asset"'],
      ["folded-svg", "<svg "],
      ["folded-png", "\u0089PNG"],
    ]) {
      const path = join(folder, `cover.${key}`);
      const done = await hillcrest(
        "blank",
        "demo/cable-cover.json",
        "--format",
        key,
        "--to",
        path,
        "--dots",
        "300",
      );
      expect([key, done.status, done.err]).toEqual([key, 0, expect.stringContaining(`wrote ${path}`)]);
      expect(readFileSync(path, "latin1").slice(0, begins.length)).toBe(begins);
    }
  });

  test("goes by a version, by units, and by a preset that is named or in a file", async () => {
    const path = join(folder, "preset.dxf");
    const text = async (...args: string[]) => {
      expect((await hillcrest("blank", "demo/cable-cover.json", "--dxf", path, ...args)).status).toBe(0);
      return readFileSync(path, "utf8");
    };
    expect(await text()).toContain("AC1015");
    expect(await text("--dxf-version", "r12")).toContain("AC1009");
    expect(await text("--preset", "plain-r12", "--units", "in")).toContain("Units: inches");
    const preset = put("own.json", {
      format: "hillcrest-preset",
      version: 1,
      preset: { name: "Own", curves: "separate" },
    });
    expect(await text("--preset", preset)).not.toContain("LWPOLYLINE");
  });

  test("says what is wrong with a format, a preset, or where to write", async () => {
    const blank = (...args: string[]) => hillcrest("blank", "demo/cable-cover.json", ...args);
    const to = join(folder, "x");
    for (const [args, said] of [
      [["--format", "dwg", "--to", to], "there are dxf, svg"],
      [["--preset", join(folder, "none.json"), "--dxf", to], "there is no such file"],
      [
        [
          "--preset",
          put("bad.json", { format: "hillcrest-preset", version: 1, preset: { units: "ell" } }),
          "--dxf",
          to,
        ],
        "/preset/units",
      ],
      [["--dxf", to, "--to", to], "Give one of"],
      [["--dxf-version", "r9", "--dxf", to], "Allowed choices are r12, r2000"],
      [["--format", "png", "--dots", "0", "--to", to], "whole number"],
    ] as const) {
      const done = await blank(...args);
      expect([done.status, done.err]).toEqual([2, expect.stringContaining(said)]);
    }
  });
});

describe("a part whose walls run into one another", () => {
  const collided = {
    ...newPart("Collided"),
    steps: JSON.parse(readFileSync(join(root, "packages/core/test/cases/colliding-walls.json"), "utf8")),
  };
  const file = put("collided.json", collided);
  const SAID = "a finding stops it: Plate";
  let count = 0;
  const target = (ending: string) => join(folder, `collided-${count++}.${ending}`);

  test.each<[string, (to: string) => string[], string]>([
    ["blank --dxf", (to) => ["blank", file, "--dxf", to], "dxf"],
    ["fold --stl", (to) => ["fold", file, "--stl", to], "stl"],
    ["export --zip", (to) => ["export", file, "demo/battery-tray.json", "--zip", to], "zip"],
    ["export --together", (to) => ["export", file, "--together", to], "dxf"],
    ...["svg", "stl", "3mf", "glb", "gltf"].map((key): [string, (to: string) => string[], string] => [
      `blank --format ${key}`,
      (to) => ["blank", file, "--format", key, "--to", to],
      key,
    ]),
  ])("does not leave by %s, unless it is told to, and then says so", async (_, args, ending) => {
    const to = target(ending);
    const refused = await hillcrest(...args(to));
    expect([refused.status, refused.err]).toEqual([1, expect.stringContaining(SAID)]);
    if (ending === "zip") {
      const files = unzipSync(new Uint8Array(readFileSync(to)));
      expect(Object.keys(files).some((n) => n.startsWith("Collided"))).toBe(false);
    } else expect(existsSync(to)).toBe(false);
    const anyway = await hillcrest(...args(to), "--anyway");
    expect(anyway.err).toMatch(/Findings stop this part: |written although a finding stops it/);
    expect(existsSync(to)).toBe(true);
  });

  test.each(["png", "json", "csv", "folded-svg"])("leaves as %s, which states the stop", async (key) => {
    const to = target(key);
    const done = await hillcrest("blank", file, "--format", key, "--to", to);
    expect([done.status, done.err]).toEqual([1, expect.stringContaining("Findings stop this part: Plate")]);
    if (key !== "png") expect(readFileSync(to, "utf8")).toContain("Findings stop this part: Plate");
  });

  test.each(["validate", "why"])("%s ends with 1", async (name) => {
    expect((await hillcrest(name, file, ...(name === "why" ? ["--mass"] : []))).status).toBe(1);
  });
});

describe("hillcrest export", () => {
  test("writes parts into a zip, as often as each is wanted, and a stopped one not", async () => {
    const zip = join(folder, "parts.zip");
    const done = await hillcrest(
      "export",
      "demo/battery-tray.json=4",
      "demo/mast-bracket.json",
      put("s.json", stopped),
      "--zip",
      zip,
    );
    expect(done.status).toBe(1);
    expect(done.err).toContain("Too short: not written, a finding stops it");
    const files = unzipSync(new Uint8Array(readFileSync(zip)));
    expect(Object.keys(files)).toEqual([
      "Battery tray_Galvanised steel_1.5_4.dxf",
      "Mast bracket_Mild steel_3_1.dxf",
      "cut list.csv",
      "proofs.txt",
    ]);
    expect(new TextDecoder().decode(files["cut list.csv"])).toContain("Too short");
  });

  test("lays them side by side in one DXF, which is proven", async () => {
    const path = join(folder, "all.dxf");
    const done = await hillcrest(
      "export",
      "demo/battery-tray.json=2",
      "demo/mast-bracket.json",
      "--together",
      path,
      "--spacing",
      "20",
      "--stocks",
      "groups",
    );
    expect([done.status, done.err]).toEqual([0, expect.stringContaining("no doubles, no gaps")]);
    const file = new DxfParser().parseSync(readFileSync(path, "utf8"))!;
    expect(file.entities.filter((e) => e.type === "CIRCLE").length).toBeGreaterThan(14);
    const apart = join(folder, "apart.dxf");
    const two = await hillcrest(
      "export",
      "demo/battery-tray.json",
      "demo/mast-bracket.json",
      "--together",
      apart,
    );
    expect(two.status).toBe(0);
    const names = readdirSync(folder).filter((n) => n.startsWith("apart"));
    expect(names).toEqual(["apart Galvanised steel 1.5 mm.dxf", "apart Mild steel 3 mm.dxf"]);
  });

  test("says where it was not told where to write, or how to call the files", async () => {
    expect((await hillcrest("export", "demo/battery-tray.json")).err).toContain("Say where to write");
    const done = await hillcrest(
      "export",
      "demo/battery-tray.json",
      "--zip",
      join(folder, "x.zip"),
      "--pattern",
      "{size}",
    );
    expect([done.status, done.err]).toEqual([2, expect.stringContaining("There is no {size}")]);
    expect(
      (await hillcrest("export", "demo/battery-tray.json", "--zip", join(folder, "x.zip"), "--spacing", "-3"))
        .status,
    ).toBe(2);
  });
});

describe("files that nobody meant", () => {
  test("ten thousand brackets are told with their place, as every command reads files", async () => {
    const deep = put("deep.json", "[".repeat(5000));
    const closed = put("deep-closed.json", `${"[".repeat(5000)}${"]".repeat(5000)}`);
    for (const file of [deep, closed])
      for (const command of ["blank", "check", "validate", "outlines"]) {
        const { status, err } = await hillcrest(command, file);
        expect([command, status, err]).toEqual([
          command,
          2,
          expect.stringMatching(/: Line 1, column 65: it nests deeper than 64 levels\.\n$/),
        ]);
      }
  });

  test("a drawing with a number that is none, or half a line, is told with its line; one that takes too long is given up", async () => {
    const tray = "demo/battery-tray.json";
    const dxf = (entities: string) =>
      put("wrong.dxf", `0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`);
    for (const [entities, says] of [
      ["0\nCIRCLE\n10\nabc\n20\n0\n40\n3\n", /line 6: "abc" in a CIRCLE \(group 10\) is no number/],
      ["0\nLINE\n10\n0\n20\n0\n", /line 6: this LINE has no end \(group 11\)/],
    ] as const) {
      const { status, err } = await hillcrest("compare", tray, dxf(entities));
      expect([status, err]).toEqual([2, expect.stringMatching(says)]);
    }
    const late = await hillcrest("compare", tray, dxf(""), "--limit", "0.001");
    expect([late.status, late.err]).toEqual([
      2,
      expect.stringContaining("it takes longer than 0.001 s and was given up"),
    ]);
    expect((await hillcrest("compare", tray, dxf(""), "--limit", "soon")).status).toBe(2);
  });

  test("a part without steps is stopped: there is no metal", async () => {
    const { status, out } = await hillcrest("check", put("empty.json", newPart("Nothing")));
    expect([status, out]).toEqual([1, expect.stringContaining("stop: There is no metal yet")]);
  });

  test("a chain of five hundred names that ends in an unknown one is told in short, by its first and its last link", async () => {
    const variables = Array.from({ length: 500 }, (_, i) => ({
      key: `k${i}`,
      name: `link${i}`,
      value: i === 499 ? "nowhere" : `link${i + 1} + 1`,
    }));
    const steps = [{ id: "s1", kind: "plate", width: "link0", depth: "50" }];
    const { status, out } = await hillcrest(
      "check",
      put("chain.json", { ...newPart("Chain"), variables, steps }),
    );
    expect(status).toBe(1);
    for (const line of out.split("\n")) expect(line.length).toBeLessThan(320);
    expect(out).toContain('the value "link0" is wrong, because "link499" is');
    expect(out).toMatch(
      /Value link499: .*"nowhere" is not a unit or a name known here\. Known here: .* and \d+ more\./,
    );
  });
});

describe("hillcrest compare", () => {
  const tray = "demo/battery-tray.json";
  const dxf = join(folder, "came-back.dxf");

  test("says that a file is the same, or what of it is not, as JSON too", async () => {
    await hillcrest("blank", tray, "--dxf", dxf);
    expect(await hillcrest("compare", tray, dxf)).toMatchObject({ status: 0, out: "the same\n" });
    const text = readFileSync(dxf, "utf8");
    const moved = put(
      "moved.dxf",
      text.replace(/(CIRCLE[\s\S]*? 10\r\n)([\d.]+)/, (_, head, x) => `${head}${Number(x) + 0.02}`),
    );
    const { status, out } = await hillcrest("compare", tray, moved, "--json");
    const found = JSON.parse(out);
    expect(status).toBe(1);
    expect(Object.keys(found)).toEqual(
      expect.arrayContaining(["same", "scale", "mirrored", "turned", "moved", "added", "removed"]),
    );
    expect(found).toMatchObject({
      same: false,
      scale: 1,
      mirrored: false,
      turned: 0,
      added: [],
      removed: [],
    });
    expect(found.moved).toEqual([
      {
        what: expect.stringContaining("⌀"),
        at: expect.any(Array),
        to: expect.any(Array),
        by: expect.closeTo(0.02, 6),
      },
    ]);
    expect((await hillcrest("compare", tray, moved)).out).toContain("moved opening");
    expect((await hillcrest("compare", tray, moved, "--within", "0.05")).status).toBe(0);
    await hillcrest("blank", tray, "--dxf", dxf, "--units", "in", "--dxf-version", "r12");
    expect(JSON.parse((await hillcrest("compare", tray, dxf, "--json")).out).scale).toBeCloseTo(1 / 25.4, 9);
  });

  test("of what is no drawing, or of a part without a blank, says so", async () => {
    expect(await hillcrest("compare", tray, put("none.dxf", "nothing"))).toMatchObject({
      status: 2,
      err: expect.stringContaining("cannot be read as a DXF"),
    });
    expect(await hillcrest("compare", put("empty.json", newPart("Empty")), dxf)).toMatchObject({
      status: 2,
      err: expect.stringContaining("no blank"),
    });
  });
});
