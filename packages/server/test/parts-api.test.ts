import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LARGEST_DOCUMENT, newPart, type PartDocument } from "@hillcrest/core";
import type { PartEntry, PartPictures, StoredPart } from "@hillcrest/server";
import libsql from "libsql";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { demo, type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-api-"));
const file = join(folder, "parts.sqlite");
let api: RunningServer;
const start = async () => {
  api = await runServer(file);
};
const close = () => api.close();
const ask = <T = unknown>(method: string, path: string, body?: unknown) => api.ask<T>(method, path, body);

beforeAll(start);
afterAll(async () => {
  await close();
  rmSync(folder, { recursive: true });
});

const document = (name: string, width = "120"): PartDocument => ({
  ...newPart(name),
  steps: [{ id: "s1", kind: "plate", width, depth: "80" }],
});
const create = async (name: string) =>
  (await ask<StoredPart>("POST", "/parts", { document: document(name) })).body;
const listed = async (bin = false) => (await ask<PartEntry[]>("GET", `/parts${bin ? "?bin=1" : ""}`)).body;

/** The entry of a part once its last save has been pictured. */
async function pictured(id: string): Promise<PartEntry> {
  for (let tries = 0; tries < 200; tries++) {
    const entry = (await listed()).find((p) => p.id === id);
    if (entry && entry.pictured === entry.revision) return entry;
    await new Promise((again) => setTimeout(again, 50));
  }
  throw new Error(`Part ${id} was never pictured.`);
}

describe("a part", () => {
  test("is kept whole, with a preview of it folded and flat", async () => {
    const odd = { ...document("Brücke “一” 🔩"), note: { kept: true } };
    const made = await ask<StoredPart>("POST", "/parts", { document: odd });
    expect(made.status).toBe(201);
    const read = await ask<StoredPart>("GET", `/parts/${made.body.id}`);
    expect(read.body).toMatchObject({ revision: 1, document: odd });
    const entry = await pictured(made.body.id);
    expect(entry.summary).toMatchObject({ blankSize: [120, 80], size: [120, 80, 1.5], steps: 1, bends: 0 });
    const { body: pictures } = await ask<PartPictures>("GET", `/parts/${made.body.id}/pictures?revision=1`);
    expect(pictures.folded).toContain("<svg");
    expect(pictures.blank).toContain("<path");
  });

  test("is there after the server was stopped and started again", async () => {
    const { id } = await create("Stays");
    await close();
    await start();
    expect((await ask<StoredPart>("GET", `/parts/${id}`)).body.document.name).toBe("Stays");
  });

  test("goes into the bin and comes back unchanged", async () => {
    const { id } = await create("Bin me");
    expect((await ask("DELETE", `/parts/${id}`)).status).toBe(204);
    expect((await listed()).some((p) => p.id === id)).toBe(false);
    expect((await listed(true)).some((p) => p.id === id)).toBe(true);
    expect((await ask("POST", `/parts/${id}/restore`)).status).toBe(200);
    expect((await listed()).some((p) => p.id === id)).toBe(true);
  });

  test("is copied under a name of its own", async () => {
    const { id } = await create("Twin");
    const copy = await ask<StoredPart>("POST", `/parts/${id}/copy`);
    expect(copy.status).toBe(201);
    expect(copy.body.id).not.toBe(id);
    expect(copy.body.document).toEqual({ ...document("Twin"), name: "Twin (copy)" });
  });
});

describe("saving", () => {
  test("moves the revision on; a stale save changes nothing and is handed the newer document", async () => {
    const { id } = await create("Race");
    const first = await ask<{ revision: number }>("PUT", `/parts/${id}`, {
      revision: 1,
      document: document("Race", "200"),
    });
    expect(first).toMatchObject({ status: 200, body: { revision: 2 } });
    const stale = await ask<{ current: StoredPart }>("PUT", `/parts/${id}`, {
      revision: 1,
      document: document("Race", "300"),
    });
    expect(stale.status).toBe(409);
    expect(stale.body.current).toMatchObject({ revision: 2, document: document("Race", "200") });
    expect((await ask<StoredPart>("GET", `/parts/${id}`)).body.document).toEqual(document("Race", "200"));
  });

  test("lets exactly one of many at once win", async () => {
    const { id } = await create("Crowd");
    const saves = Array.from({ length: 12 }, (_, i) =>
      ask("PUT", `/parts/${id}`, { revision: 1, document: document(`Crowd ${i}`) }),
    );
    const states = (await Promise.all(saves)).map((s) => s.status).sort();
    expect(states).toEqual([200, ...Array(11).fill(409)]);
    expect((await ask<StoredPart>("GET", `/parts/${id}`)).body.revision).toBe(2);
  });

  test.each<[string, unknown, number, string]>([
    ["half a JSON", '{"revision": 1, "docu', 400, "not valid JSON"],
    ["a list", [], 400, "needs a JSON object"],
    ["no revision", { document: document("x") }, 400, "/revision"],
    [
      "a later version",
      { revision: 1, document: { ...document("x"), version: 9 } },
      400,
      "/document/version",
    ],
    [
      "a step of no kind",
      { revision: 1, document: { ...document("x"), steps: [{ id: "s1", kind: "lathe" }] } },
      400,
      "/document/steps/0/kind",
    ],
    [
      "too much",
      { revision: 1, document: { ...document("x"), note: "x".repeat(LARGEST_DOCUMENT + 200_000) } },
      413,
      "too large",
    ],
  ])("%s is refused with the place, and the part stays as it was", async (_name, body, status, place) => {
    const { id } = await create("Steady");
    const answer = await ask<{ detail: string }>("PUT", `/parts/${id}`, body);
    expect(answer.status).toBe(status);
    expect(answer.body.detail).toContain(place);
    expect((await ask<StoredPart>("GET", `/parts/${id}`)).body).toMatchObject({
      revision: 1,
      document: document("Steady"),
    });
  });

  test("keeps a part whose steps are wrong: nobody's work waits for it to be right", async () => {
    const { id } = await create("Wrong yet");
    const wrong = document("Wrong yet", "0/0");
    expect((await ask("PUT", `/parts/${id}`, { revision: 1, document: wrong })).status).toBe(200);
    expect((await pictured(id)).summary!.findings.stop).toBe(1);
  });
});

test("an address with nothing at it is told as such", async () => {
  for (const [method, path] of [
    ["GET", "/parts/none"],
    ["DELETE", "/parts/none"],
    ["POST", "/parts/none/copy"],
    ["GET", "/nowhere"],
  ] as const) {
    const answer = await ask<{ detail: string }>(method, path);
    expect(answer.status).toBe(404);
    expect(answer.body.detail).toMatch(/^There is no/);
  }
});

test("the demo is added by request, and the description covers every route that answers", async () => {
  expect((await ask<{ added: number }>("POST", "/demo")).body.added).toBeGreaterThanOrEqual(3);
  const names = (await listed()).map((p) => p.name);
  expect(names).toEqual(expect.arrayContaining(["Battery tray", "Cable cover", "Mast bracket"]));
  // They stand by their names, above all that was there.
  const own = names.slice(0, names.indexOf("Terminal cover") + 1);
  expect(own).toHaveLength(readdirSync(demo).filter((f) => f.endsWith(".json")).length);
  expect(own.indexOf("Logger box lid")).toBe(own.indexOf("Logger box") + 1);
  expect(own).toEqual([...own].sort());
  const { body } = await ask<{ openapi: string; paths: object }>("GET", "/openapi.json");
  expect(body.openapi).toBe("3.1.0");
  expect(Object.keys(body.paths)).toEqual(
    expect.arrayContaining(["/api/parts", "/api/parts/{id}", "/api/parts/{id}/restore"]),
  );
});

test("a closed file alone holds everything: a copy of it is a backup", async () => {
  const { id } = await create("Backup");
  await close();
  const copy = join(folder, "copy.sqlite");
  copyFileSync(file, copy);
  const db = new libsql(copy);
  expect(db.prepare("SELECT name FROM part WHERE id = ?").get(id)).toMatchObject({ name: "Backup" });
  db.close();
  await start();
});

test("the file is in write-ahead mode and carries its migrations", () => {
  expect(existsSync(file)).toBe(true);
  const db = new libsql(file);
  expect(db.prepare("PRAGMA journal_mode").get()).toMatchObject({ journal_mode: "wal" });
  const names = db.prepare("SELECT name FROM migrations ORDER BY id").all() as { name: string }[];
  expect(names.map((m) => m.name.replace(/\d+$/, ""))).toEqual([
    "CreatePart",
    "CreateStock",
    "PreviewsApart",
    "CreateRevision",
    "CreateExport",
    "ListParts",
    "CreateSearched",
    "CreateTakeOver",
  ]);
  db.close();
});

test("the list is read from its index alone, newest first, and by name where two were saved at once", () => {
  const db = new libsql(file);
  const plan = (where: string) =>
    db
      .prepare(
        `EXPLAIN QUERY PLAN SELECT "id", "name", "revision", "updatedAt", "binnedAt", "pictured", "summary"
         FROM "part" WHERE "binnedAt" IS ${where} ORDER BY "updatedAt" DESC, "name" ASC`,
      )
      .all()
      .map((row) => (row as { detail: string }).detail);
  // No row is read, in which pictures of tens of kilobytes stand before what is listed, and nothing is sorted.
  expect(plan("NULL")).toEqual([expect.stringContaining("USING COVERING INDEX part_listed")]);
  db.close();
});

test("a copy follows its part when it is asked to, and says which revision it has taken over", async () => {
  const made = await ask<StoredPart>("POST", "/parts", { document: document("Lead") });
  const copy = await ask<StoredPart>("POST", `/parts/${made.body.id}/copy`, { follows: true });
  expect(copy.status).toBe(201);
  expect(copy.body.document.name).toBe("Lead (follows)");
  expect(copy.body.document.follows).toEqual({
    part: made.body.id,
    name: "Lead",
    revision: 1,
    steps: made.body.document.steps.length,
  });
  const wrong = await ask<{ detail: string }>("POST", `/parts/${made.body.id}/copy`, { follows: "yes" });
  expect(wrong.status).toBe(400);
});
