import { createHash } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  FILE_FORMATS,
  newPart,
  type PartDocument,
  PLAIN_PRESET,
  presetDocument,
  type StepDocument,
} from "@hillcrest/core";
import {
  addDemoParts,
  addDemoStock,
  type BatchState,
  type ExportEntry,
  KnownFindings,
  PartService,
  StockService,
  type StoredPart,
} from "@hillcrest/server";
import { unzipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { demo, type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-exports-"));
let api: RunningServer;
let ids: Map<string, string>;

beforeAll(async () => {
  api = await runServer(join(folder, "parts.sqlite"), async (source) => {
    await addDemoStock(new StockService(source), demo);
    await addDemoParts(new PartService(source), demo);
  });
  const list = (await api.ask<{ id: string; name: string }[]>("GET", "/parts")).body;
  ids = new Map(list.map((p) => [p.name, p.id]));
});
afterAll(async () => {
  await api.close();
  rmSync(folder, { recursive: true });
});

const fetched = (path: string) => fetch(`http://127.0.0.1:${api.port}/api${path}`);
const idOf = (name: string) => ids.get(name)!;
const stopped: PartDocument = {
  ...newPart("Too short"),
  steps: [
    { id: "s1", kind: "plate", width: "100", depth: "50" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "1" },
  ],
};
const made = async (document: PartDocument) =>
  (await api.ask<StoredPart>("POST", "/parts", { document })).body.id;

/** An export once it has ended. */
async function ended(id: string): Promise<BatchState> {
  for (let tries = 0; tries < 1200; tries++) {
    const { body } = await api.ask<BatchState>("GET", `/exports/${id}`);
    if (body.state !== "working") return body;
    await new Promise((again) => setTimeout(again, 50));
  }
  throw new Error("The export never ended.");
}
const begun = async (body: object) => api.ask<BatchState & { detail: string }>("POST", "/exports", body);
const zipOf = async (id: string) =>
  unzipSync(new Uint8Array(await (await fetched(`/exports/${id}/file`)).arrayBuffer()));

describe("a part whose walls run into one another", () => {
  const file = new URL("../../core/test/cases/colliding-walls.json", import.meta.url);
  const walls = JSON.parse(readFileSync(file, "utf8")) as StepDocument[];
  const collided = (name: string, width = "40"): PartDocument => ({
    ...newPart(name),
    steps: walls.map((s) => (s.kind === "plate" ? { ...s, width } : s)),
  });
  const SAID = "a finding stops it: Plate";

  test("leaves as no file for making, and states the stop in all others", async () => {
    const id = await made(collided("Collided"));
    for (const { key, forMaking } of FILE_FORMATS) {
      const answer = await fetched(`/parts/${id}/files/${key}?dots=300`);
      expect([key, answer.status]).toEqual([key, forMaking ? 422 : 200]);
      const text = await answer.text();
      if (forMaking) expect(text).toContain(SAID);
      else if (!key.endsWith("png")) expect(text).toContain("Findings stop this part: Plate");
      const anyway = await fetched(`/parts/${id}/files/${key}?anyway=1&dots=300`);
      expect([key, anyway.status]).toEqual([key, 200]);
    }
  });

  test.each(["zip", "together"])("does not leave as %s, unless it is meant, and then says so", async (as) => {
    const id = await made(collided(`Collided ${as}`));
    const parts = [
      { id, quantity: 1 },
      { id: idOf("Battery tray"), quantity: 1 },
    ];
    const refused = await ended((await begun({ parts, as, stocks: "groups" })).body.id);
    expect(refused.refused).toEqual([{ part: `Collided ${as}`, why: expect.stringContaining(SAID) }]);
    expect(refused.stopped).toEqual([]);
    const { body } = await begun({ parts, as, anyway: true, stocks: "groups" });
    const meant = await ended(body.id);
    expect([meant.refused, meant.stopped.map((s) => s.part)]).toEqual([[], [`Collided ${as}`]]);
    const [log] = (await api.ask<ExportEntry[]>("GET", `/parts/${id}/exports`)).body;
    expect(log.proof.some((l) => l.text.startsWith("Findings stop this part: "))).toBe(true);
    if (as === "zip") {
      const list = new TextDecoder().decode((await zipOf(body.id))["cut list.csv"]);
      expect(list).toMatch(/Collided zip.*Plate . stands/);
    }
  });

  test("is searched once: what was found is kept with the very document, and used by every way out", async () => {
    const { id, document } = (
      await api.ask<StoredPart>("POST", "/parts", { document: collided("Kept", "41") })
    ).body;
    const refusedBy = async () => (await fetched(`/parts/${id}/files/dxf`)).status;
    expect(await refusedBy()).toBe(422);
    // Whoever searched again would find it again.
    const known = new KnownFindings(api.source);
    expect((await known.of(document))?.length).toBe(1);
    await known.keep(document, []);
    expect(await refusedBy()).toBe(200);
    const zip = await ended((await begun({ parts: [{ id, quantity: 1 }], as: "zip" })).body.id);
    expect(zip.state).toBe("ready");
    // Another document is another question.
    const other = {
      ...document,
      steps: document.steps.map((s) => (s.id === "s2" ? { ...s, length: "61" } : s)),
    };
    expect((await api.ask("PUT", `/parts/${id}`, { revision: 1, document: other })).status).toBe(200);
    expect(await refusedBy()).toBe(422);
  });
});

describe("a part as a file", () => {
  test("is made of every kind that there is", async () => {
    const formats = (
      await api.ask<{ key: string; type: string; ending: string }[]>("GET", "/exports/formats")
    ).body;
    expect(formats.map((f) => f.key)).toEqual([
      "dxf",
      "svg",
      "png",
      "json",
      "csv",
      "stl",
      "3mf",
      "glb",
      "gltf",
      "folded-svg",
      "folded-png",
    ]);
    for (const { key, ending } of formats) {
      const answer = await fetched(`/parts/${idOf("Mast bracket")}/files/${key}?dots=400`);
      expect([key, answer.status]).toEqual([key, 200]);
      expect(answer.headers.get("content-disposition")).toContain(`Mast bracket.${ending}`);
      expect((await answer.arrayBuffer()).byteLength).toBeGreaterThan(100);
    }
  });

  test("PNG is as wide as was asked", async () => {
    const bytes = Buffer.from(
      await (await fetched(`/parts/${idOf("Battery tray")}/files/png?dots=640`)).arrayBuffer(),
    );
    expect(bytes.subarray(1, 4).toString()).toBe("PNG");
    expect(bytes.readUInt32BE(16)).toBe(640);
  });

  test("goes by a preset of the shop, and by what the address says", async () => {
    const text = async (query: string) =>
      (await fetched(`/parts/${idOf("Battery tray")}/files/dxf${query}`)).text();
    expect(await text("")).toContain("AC1015");
    const ridge = await text("?preset=ridge-laser");
    expect(ridge).toContain("AC1009");
    expect(ridge).toContain("CUT_FIRST");
    expect(await text("?version=r12&units=in")).toContain("Units: inches");
  });

  test("is refused where it cannot be, with the reason", async () => {
    const tray = idOf("Battery tray");
    for (const [path, status, said] of [
      [`/parts/nobody/files/dxf`, 404, "no part"],
      [`/parts/${tray}/files/dwg`, 404, "there are dxf, svg"],
      [`/parts/${tray}/files/dxf?preset=lost`, 400, 'no preset "lost"'],
      [`/parts/${tray}/files/stl?fold=2`, 400, "from 0 to 1"],
      [`/parts/${tray}/files/png?dots=1e16`, 400, "16 to 8000"],
      [`/parts/${tray}/files/folded-svg?view=below`, 400, "oblique, front, top, right"],
      [`/parts/${tray}/files/dxf?version=r9`, 400, "r12 or r2000"],
      [`/parts/${tray}/files/dxf?units=furlongs`, 400, "mm or in"],
      [`/parts/${await made(stopped)}/files/dxf`, 422, "a finding stops it: Flange 2"],
      [`/parts/${await made(newPart("Nothing"))}/files/svg`, 422, "no blank to cut"],
    ] as const) {
      const answer = await fetched(path);
      expect([path, answer.status]).toEqual([path, status]);
      expect(((await answer.json()) as { detail: string }).detail).toContain(said);
    }
    expect((await fetched(`/parts/${await made(stopped)}/files/dxf?anyway=1`)).status).toBe(200);
  });
});

describe("what has left of a part", () => {
  const entry = {
    revision: 1,
    format: "dxf",
    file: "Battery tray.dxf",
    sha256: "ab".repeat(32),
    preset: "Plain",
    by: "Ada",
    proof: [{ holds: true, text: "8 closed loops, none open" }],
    facts: { width: 1, height: 2, area: 2, cutting: 6, openings: 0, thickness: 1, bends: [] },
  };

  test("is kept with who, when, which revision, preset, hash and proof, the newest first", async () => {
    const at = `/parts/${idOf("Cable cover")}/exports`;
    expect((await api.ask("GET", at)).body).toEqual([]);
    expect((await api.ask("POST", at, entry)).status).toBe(201);
    await api.ask("POST", at, { ...entry, file: "second.dxf", by: undefined });
    const list = (await api.ask<ExportEntry[]>("GET", at)).body;
    expect(list.map((e) => e.file)).toEqual(["second.dxf", "Battery tray.dxf"]);
    expect(list[1]).toMatchObject(entry);
    expect(list[0].by).toBe("");
    expect(Date.parse(list[0].madeAt)).toBeGreaterThan(Date.now() - 60_000);
  });

  test.each([
    [{ sha256: "short" }, "/sha256"],
    [{ revision: 0 }, "/revision"],
    [{ by: "x".repeat(5000) }, "/by"],
    [{ proof: "fine" }, "/proof"],
    [{ proof: Array.from({ length: 5000 }, () => ({ holds: true, text: "x" })) }, "/proof"],
    [{ facts: { width: "wide" } }, "/facts"],
    [{ facts: { ...entry.facts, bends: [{ number: 1 }] } }, "/facts"],
  ])("that is wrong is refused with its place (%#)", async (change, at) => {
    const answer = await api.ask<{ detail: string }>("POST", `/parts/${idOf("Logger box")}/exports`, {
      ...entry,
      ...change,
    });
    expect([answer.status, answer.body.detail]).toEqual([400, expect.stringContaining(at)]);
    expect((await api.ask("GET", `/parts/${idOf("Logger box")}/exports`)).body).toEqual([]);
  });

  test("of a part that is not there is a 404", async () => {
    expect((await api.ask("GET", "/parts/nobody/exports")).status).toBe(404);
    expect((await api.ask("POST", "/parts/nobody/exports", entry)).status).toBe(404);
  });
});

describe("a drawing that came back", () => {
  test("is held against the part's blank", async () => {
    const id = idOf("Battery tray");
    const dxf = await (await fetched(`/parts/${id}/files/dxf`)).text();
    const same = await api.ask<{ same: boolean }>("POST", `/parts/${id}/compare`, { dxf });
    expect([same.status, same.body.same]).toEqual([200, true]);
    const moved = dxf.replace(/(CIRCLE[\s\S]*? 10\r\n)([\d.]+)/, (_, head, x) => `${head}${Number(x) + 0.5}`);
    const found = await api.ask<{ same: boolean; moved: { by: number }[] }>("POST", `/parts/${id}/compare`, {
      dxf: moved,
    });
    expect(found.body.same).toBe(false);
    expect(found.body.moved.map((m) => m.by)).toEqual([expect.closeTo(0.5, 6)]);
  });

  test("that is none, or with a tolerance that is none, is refused", async () => {
    const at = `/parts/${idOf("Battery tray")}/compare`;
    expect((await api.ask("POST", at, { dxf: "no drawing" })).status).toBe(422);
    expect((await api.ask("POST", at, {})).status).toBe(400);
    expect((await api.ask("POST", at, { dxf: "0", within: 1e16 })).status).toBe(400);
    expect((await api.ask("POST", "/parts/nobody/compare", { dxf: "0" })).status).toBe(404);
  });
});

describe("many parts at once", () => {
  const some = () =>
    ["Battery tray", "Mast bracket", "Logger box"].map((n, i) => ({ id: idOf(n), quantity: i + 1 }));

  test("are a zip with a file each, the cut list and the proofs; each part keeps that it has left", async () => {
    const { status, body } = await begun({ parts: some(), as: "zip", by: "Ada" });
    expect([status, body.total]).toEqual([202, 3]);
    const done = await ended(body.id);
    expect(done).toMatchObject({ state: "ready", done: 3, refused: [] });
    const files = await zipOf(body.id);
    expect(Object.keys(files).sort()).toEqual([
      "Battery tray_Galvanised steel_1.5_1.dxf",
      "Logger box_Galvanised steel_1_3.dxf",
      "Mast bracket_Mild steel_3_2.dxf",
      "cut list.csv",
      "proofs.txt",
    ]);
    const text = (name: string) => new TextDecoder().decode(files[name]);
    const [head, ...rows] = text("cut list.csv").trimEnd().split("\r\n");
    expect(head).toMatch(/^file,part,material/);
    expect(rows.map((r) => r.split(",")[4])).toEqual(["1", "2", "3"]);
    const tray = "Battery tray_Galvanised steel_1.5_1.dxf";
    const hash = createHash("sha256").update(files[tray]).digest("hex");
    expect(text("proofs.txt")).toContain(hash);
    const [kept] = (await api.ask<ExportEntry[]>("GET", `/parts/${idOf("Battery tray")}/exports`)).body;
    expect(kept).toMatchObject({
      file: tray,
      sha256: hash,
      by: "Ada",
      preset: "Plain",
      facts: { openings: 7 },
    });
  });

  test("are one DXF with all side by side, in the preset that is sent along", async () => {
    const {
      format: _f,
      version: _v,
      ...rest
    } = presetDocument(PLAIN_PRESET) as { preset: object; format: string; version: number };
    const preset = { ...rest.preset, id: "sent", name: "Sent", units: "in" };
    const { body } = await begun({ parts: some(), as: "together", preset, spacing: 12, stocks: "groups" });
    expect((await ended(body.id)).state).toBe("ready");
    const text = await (await fetched(`/exports/${body.id}/file`)).text();
    expect(text).toContain("Units: inches");
    expect(text.split("\nLWPOLYLINE\r\n").length - 1).toBeGreaterThanOrEqual(1 + 2 + 3);
  });

  test("of several stocks are a DXF for each of them, never two in one, with each part's stock beside it", async () => {
    const { body } = await begun({ parts: some(), as: "together" });
    const done = await ended(body.id);
    expect([done.state, done.file]).toEqual(["ready", "parts.zip"]);
    const files = await zipOf(body.id);
    const drawings = Object.keys(files).filter((n) => n.endsWith(".dxf"));
    expect(drawings).toContain("Galvanised steel 1.5 mm.dxf");
    expect(drawings.length).toBeGreaterThan(1);
    const text = new TextDecoder().decode(files["Galvanised steel 1.5 mm.dxf"]);
    expect(text).toContain("Battery tray, Galvanised steel 1.5 mm");
    const [head, ...rows] = new TextDecoder().decode(files["cut list.csv"]).trimEnd().split("\r\n");
    expect(head.startsWith("file,part,")).toBe(true);
    for (const row of rows) expect(drawings).toContain(row.split(",")[0]);
  });

  test("of which some cannot be leave those out, and say why, in the answer and in the cut list", async () => {
    const parts = [...some(), { id: await made(stopped), quantity: 1 }, { id: "nobody", quantity: 1 }];
    const { body } = await begun({ parts, as: "zip", pattern: "{number} {part}" });
    const done = await ended(body.id);
    expect(done.state).toBe("ready");
    expect(done.refused.map((r) => r.why)).toEqual([
      expect.stringContaining("no such part"),
      expect.stringContaining("a finding stops it"),
    ]);
    const files = await zipOf(body.id);
    expect(Object.keys(files)).toContain("1 Battery tray.dxf");
    expect(new TextDecoder().decode(files["cut list.csv"])).toContain("a finding stops it");
  });

  test("of which none can be fail with the reason, and leave no file", async () => {
    const { body } = await begun({ parts: [{ id: await made(stopped), quantity: 1 }], as: "together" });
    expect(await ended(body.id)).toMatchObject({
      state: "failed",
      problem: "None of these parts can be written.",
    });
    expect((await fetched(`/exports/${body.id}/file`)).status).toBe(404);
  });

  test("of which there would be millions side by side are refused, with what would do", async () => {
    const parts = Array.from({ length: 200 }, () => ({ id: idOf("Logger box"), quantity: 9999 }));
    const { body } = await begun({ parts, as: "together" });
    const done = await ended(body.id);
    expect(done.state).toBe("failed");
    expect(done.problem).toMatch(
      /^Side by side these would be \d{7,} lines, .*Take fewer, or a file for each\.$/,
    );
  });

  test("of which one is stopped say so in the file and its proof, where they leave all the same", async () => {
    const id = await made(stopped);
    const text = await (await fetched(`/parts/${id}/files/dxf?anyway=1`)).text();
    expect(text).toMatch(/^ *999\r\nFindings stop this part: /m);
    const { body } = await begun({
      parts: [{ id, quantity: 2 }],
      as: "together",
      anyway: true,
    });
    expect((await ended(body.id)).state).toBe("ready");
    expect(await (await fetched(`/exports/${body.id}/file`)).text()).toMatch(
      /^ *999\r\nFindings stop this part: /m,
    );
    const { body: left } = await api.ask<{ proof: { text: string }[] }[]>("GET", `/parts/${id}/exports`);
    expect(left[0].proof.some((l) => l.text.startsWith("Findings stop this part: "))).toBe(true);
  });

  test("are cancelled at once, and nothing of them is left on the disk", async () => {
    const folders = () => readdirSync(tmpdir()).filter((f) => f.startsWith("hillcrest-export-")).length;
    const before = folders();
    const parts = Array.from({ length: 400 }, () => ({ id: idOf("Logger box"), quantity: 1 }));
    const { body } = await begun({ parts, as: "zip" });
    expect((await api.ask("DELETE", `/exports/${body.id}`)).status).toBe(204);
    expect((await api.ask("GET", `/exports/${body.id}`)).status).toBe(404);
    await new Promise((done) => setTimeout(done, 400));
    expect(folders()).toBeLessThanOrEqual(before);
  });

  test("five hundred take well under a minute, while the server answers others", async () => {
    const parts = Array.from({ length: 500 }, (_, i) => ({
      id: [...ids.values()][i % ids.size],
      quantity: 1,
    }));
    const start = performance.now();
    const { body } = await begun({ parts, as: "zip", anyway: true });
    let slowest = 0;
    for (let i = 0; i < 10; i++) {
      const asked = performance.now();
      await api.ask("GET", "/parts");
      slowest = Math.max(slowest, performance.now() - asked);
      await new Promise((again) => setTimeout(again, 100));
    }
    const done = await ended(body.id);
    expect(done).toMatchObject({ state: "ready", done: 500 });
    expect(performance.now() - start).toBeLessThan(45_000);
    expect(slowest).toBeLessThan(2000);
    expect(Object.keys(await zipOf(body.id)).length).toBe(502);
  });

  test.each([
    [{ parts: [], as: "zip" }, "/parts"],
    [{ parts: "all", as: "zip" }, "/parts"],
    [{ parts: [{ id: "x", quantity: 0 }], as: "zip" }, "/parts/0/quantity"],
    [{ parts: [{ id: "x", quantity: 1e16 }], as: "zip" }, "/parts/0/quantity"],
    [{ parts: Array.from({ length: 5000 }, () => ({ id: "x", quantity: 1 })), as: "zip" }, "/parts"],
    [{ parts: [{ id: "x", quantity: 1 }], as: "pile" }, "/as"],
    [{ parts: [{ id: "x", quantity: 1 }], as: "zip", pattern: "{colour}" }, "/pattern"],
    [{ parts: [{ id: "x", quantity: 1 }], as: "zip", spacing: -1 }, "/spacing"],
    [{ parts: [{ id: "x", quantity: 1 }], as: "zip", format: "dwg" }, 'no format "dwg"'],
    [{ parts: [{ id: "x", quantity: 1 }], as: "zip", preset: "lost" }, 'no preset "lost"'],
    [
      { parts: [{ id: "x", quantity: 1 }], as: "zip", preset: { ...PLAIN_PRESET, units: "ell" } },
      "/preset/units",
    ],
  ])("that are asked for wrongly are refused with the place (%#)", async (body, said) => {
    const answer = await begun(body);
    expect([answer.status, answer.body.detail]).toEqual([400, expect.stringContaining(said)]);
  });
});
