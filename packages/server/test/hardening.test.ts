import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { createServer, request } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { newPart, type PartDocument } from "@hillcrest/core";
import { BuildPool, databaseTrouble, type PartEntry, PartService, type StoredPart } from "@hillcrest/server";
import libsql from "libsql";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-hard-"));
let api: RunningServer;
beforeAll(async () => {
  api = await runServer(join(folder, "parts.sqlite"), undefined, { names: ["bench.example"] });
});
afterAll(async () => {
  await api.close();
  rmSync(folder, { recursive: true });
});

const document = (name: string): PartDocument => ({
  ...newPart(name),
  steps: [{ id: "s1", kind: "plate", width: "120", depth: "80" }],
});

/** A request with headers that a browser's page could not choose itself. */
function send(
  method: string,
  path: string,
  headers: Record<string, string>,
  body?: unknown,
): Promise<{ status: number; text: string; headers: Record<string, unknown> }> {
  return new Promise((done, fail) => {
    const out = request(
      {
        host: "127.0.0.1",
        port: api.port,
        method,
        path: `/api${path}`,
        headers: { "content-type": "application/json", ...headers },
      },
      (res) => {
        const chunks: Buffer[] = [];
        res.on("data", (c: Buffer) => chunks.push(c));
        res.on("end", () =>
          done({
            status: res.statusCode!,
            text: Buffer.concat(chunks).toString("utf8"),
            headers: res.headers,
          }),
        );
      },
    );
    out.on("error", fail);
    out.end(body === undefined ? undefined : JSON.stringify(body));
  });
}

describe("bodies that no request of ours has", () => {
  const nested = (depth: number) => `${'{"a":'.repeat(depth)}1${"}".repeat(depth)}`;
  const many = (n: number) => `{${Array.from({ length: n }, (_, i) => `"k${i}":1`).join(",")}}`;

  test.each([
    ["200,000 unknown names", many(200_000), "names 200000 things"],
    ["a document of 5,000 levels", `{"document":${nested(5000)}}`, "nests deeper than 64 levels"],
    ["200,000 names within a document", `{"document":${many(200_000)}}`, "has 200000 names"],
    ["a name that every object has", `{"constructor":{}}`, 'may not name "constructor"'],
  ])("%s are refused at once, with the reason", async (_what, body, reason) => {
    const begun = performance.now();
    const answer = await api.ask<{ detail: string }>("POST", "/parts", body);
    expect(answer.status).toBe(400);
    expect(answer.body.detail).toContain(reason);
    expect(performance.now() - begun).toBeLessThan(2000);
  });

  test("a misspelt name is refused with the place and the nearest known one, as a problem document", async () => {
    const order = { parts: [{ id: "x", quantity: 1 }], as: "zip", anway: true };
    const { status, body } = await api.ask("POST", "/exports", order);
    const said = '"anway" is not a value of this request; did you mean "anyway"?';
    expect([status, body]).toEqual([
      400,
      {
        type: "urn:hillcrest:problem:invalid-request",
        title: "The request is wrong",
        status: 400,
        detail: `Nothing was exported: /anway: ${said}`,
        instance: "/api/exports",
        errors: [{ pointer: "/anway", field: "anway", detail: said }],
      },
    ]);
  });

  test("a revision that is no number is refused", async () => {
    const { body } = await api.ask<StoredPart>("POST", "/parts", { document: document("x") });
    for (const revision of [true, "1", 1.5, null, [1]]) {
      const answer = await api.ask<{ detail: string }>("PUT", `/parts/${body.id}`, {
        revision,
        document: document("y"),
      });
      expect(answer.status, String(revision)).toBe(400);
    }
  });

  test("a chart whose row numbers are a text is refused, not a fault", async () => {
    const item = {
      id: "odd",
      name: "Odd",
      note: "",
      starting: false,
      reason: "",
      rule: {
        method: "table",
        gives: "K",
        angleIs: "bend angle",
        deductionTo: "mould points",
        acrossThickness: false,
        rows: [[1, 1, 90, 0.4]],
        numbers: "text",
      },
    };
    const answer = await api.ask<{ detail: string }>("PUT", "/stock/charts/odd", { revision: 0, item });
    expect(answer.status).toBe(400);
    expect(answer.body.detail).toContain("/rule/numbers");
  });
});

describe("requests of other pages", () => {
  test("under a name that is not the server's are turned away, reading too", async () => {
    for (const host of ["evil.example", "evil.example:4173", "127.0.0.1.evil.example"]) {
      const answer = await send("GET", "/parts", { host });
      expect(answer.status, host).toBe(421);
      expect(answer.text).toContain("not known by the name");
    }
    for (const host of [
      `localhost:${api.port}`,
      `127.0.0.1:${api.port}`,
      `[::1]:${api.port}`,
      "bench.example",
    ])
      expect((await send("GET", "/health", { host })).status, host).toBe(200);
  });

  test("that would change anything are refused when they come from another site", async () => {
    const host = `127.0.0.1:${api.port}`;
    const body = { document: document("crossed") };
    const foreign: Record<string, string>[] = [
      { host, origin: "https://evil.example" },
      { host, origin: "null" },
      { host, origin: `http://localhost:${api.port}` },
      { host, "sec-fetch-site": "cross-site" },
    ];
    for (const headers of foreign) {
      const answer = await send("POST", "/parts", headers, body);
      expect(answer.status, JSON.stringify(headers)).toBe(403);
    }
    expect((await api.ask<PartEntry[]>("GET", "/parts")).body.some((p) => p.name === "crossed")).toBe(false);
    expect(
      (
        await send(
          "POST",
          "/parts",
          { host, origin: `http://${host}`, "sec-fetch-site": "same-origin" },
          body,
        )
      ).status,
    ).toBe(201);
  });
});

describe("the list of parts", () => {
  const file = join(folder, "thousand.sqlite");

  test("says of each part what stands in its row, whatever its name and summary are, newest first, bin apart", async () => {
    const names = ['Quote " and \\ slash', "Ünïcode – 板", "</script>", "a\nb", "plain"];
    const odd = join(folder, "odd.sqlite");
    const many = await runServer(odd, async (source) => {
      const parts = new PartService(source);
      for (const name of names) await parts.create(document(name));
      const summaries = ["", "{broken", "null", '{"bends":3}', '{"bends":4}'];
      for (const [i, summary] of summaries.entries())
        await source.query(`UPDATE "part" SET "summary" = ?, "updatedAt" = ? WHERE "name" = ?`, [
          summary,
          `2026-11-2${i}T10:00:00.000Z`,
          names[i],
        ]);
      await source.query(`UPDATE "part" SET "binnedAt" = '2026-11-25T10:00:00.000Z' WHERE "name" = 'plain'`);
    });
    try {
      const listed = async (query = "") =>
        (await (await fetch(`http://127.0.0.1:${many.port}/api/parts${query}`)).json()) as PartEntry[];
      const there = await listed();
      expect(there.map((e) => e.name)).toEqual(names.slice(0, 4).reverse());
      expect(there.map((e) => e.summary)).toEqual([{ bends: 3 }, null, null, null]);
      expect(there.every((e) => e.revision === 1 && e.binnedAt === null)).toBe(true);
      const binned = await listed("?bin=1");
      expect(binned.map((e) => [e.name, e.summary])).toEqual([["plain", { bends: 4 }]]);
    } finally {
      await many.close();
    }
  });

  test("of 1,000 parts stays under half a megabyte, and one bad row breaks nothing", async () => {
    const many = await runServer(file, async (source) => {
      const parts = new PartService(source);
      for (let i = 0; i < 1000; i++) await parts.create(document(`Weather station bracket number ${i}`));
      const summary = JSON.stringify({
        size: [120, 80, 1.5],
        blankSize: [120, 80],
        stock: "Galvanised steel 1.5 mm",
        mass: 0.113,
        bends: 0,
        steps: 1,
        findings: { stop: 0, warn: 0, note: 0 },
      });
      await source.query(
        `UPDATE "part" SET "summary" = ?, "pictured" = 1, "preview" = '{"folded":"<svg>","blank":"<svg>"}'`,
        [summary],
      );
      await source.query(
        `UPDATE "part" SET "summary" = '{broken' WHERE "name" = 'Weather station bracket number 7'`,
      );
    });
    try {
      const response = await fetch(`http://127.0.0.1:${many.port}/api/parts`);
      expect(response.headers.get("content-encoding")).toMatch(/gzip|br|deflate/);
      const text = await response.text();
      expect(text.length).toBeLessThan(500_000);
      const entries = JSON.parse(text) as PartEntry[];
      expect(entries.length).toBe(1000);
      expect(entries.find((e) => e.name.endsWith("number 7"))!.summary).toBeNull();
      expect(text).not.toContain("<svg");
    } finally {
      await many.close();
    }
  });

  test("has its pictures by their own addresses, kept by the browser once they are settled", async () => {
    const { body } = await api.ask<StoredPart>("POST", "/parts", { document: document("Pictured") });
    const entry = async () =>
      (await api.ask<PartEntry[]>("GET", "/parts")).body.find((p) => p.id === body.id)!;
    for (let tries = 0; tries < 200 && (await entry()).pictured === 0; tries++)
      await new Promise((r) => setTimeout(r, 50));
    const settled = await send("GET", `/parts/${body.id}/pictures?revision=1`, {});
    expect(settled.headers["cache-control"]).toContain("immutable");
    const unsettled = await send("GET", `/parts/${body.id}/pictures?revision=2`, {});
    expect(unsettled.headers["cache-control"]).toBe("no-store");
    expect((await send("GET", "/parts/none/pictures?revision=1", {})).status).toBe(404);
  });
});

/** A part that takes many seconds to build: thousands of holes over hundreds of flanges. */
const heavy = (): PartDocument => ({
  ...newPart("Heavy"),
  steps: [
    {
      id: "s1",
      kind: "plate",
      width: "15000",
      depth: "3000",
      holes: Array.from({ length: 5000 }, (_, i) => ({
        key: `k${i}`,
        x: String((i % 100) * 20 - 990),
        y: String(Math.floor(i / 100) * 9 - 200),
        d: "26",
      })),
    },
    {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      span: "width",
      width: "5",
      at: "left",
      length: "20",
    },
    {
      id: "s3",
      kind: "pattern",
      steps: [{ key: "a", at: "s2" }],
      form: "edge",
      edge: [{ key: "a", at: "s1.north" }],
      count: "1000",
      pitch: "14",
    },
  ],
});

describe("builds", () => {
  test("run beside requests: a save of a heavy part is answered before its picture is made", async () => {
    const begun = performance.now();
    const { status, body } = await api.ask<StoredPart>("POST", "/parts", { document: heavy() });
    expect(status).toBe(201);
    expect(performance.now() - begun).toBeLessThan(1500);
    const waits: number[] = [];
    for (let i = 0; i < 20; i++) {
      const asked = performance.now();
      await api.ask("GET", "/health");
      waits.push(performance.now() - asked);
    }
    expect(waits.sort((a, b) => a - b)[10]).toBeLessThan(200);
    await api.ask("DELETE", `/parts/${body.id}`);
  });

  test("are ended past their limit, and the next one is built by another thread", async () => {
    const pool = new BuildPool(300);
    expect(await pool.preview(heavy())).toEqual({
      kind: "limit",
      message: "It takes longer than 0.3 s to build.",
    });
    const patient = new BuildPool(20_000);
    expect(await patient.preview(document("light"))).toMatchObject({
      kind: "result",
      value: { summary: { bends: 0 } },
    });
    await Promise.all([pool.close(), patient.close()]);
  });

  test("are ended when nobody wants them, or when the server closes, and say which", async () => {
    const pool = new BuildPool(20_000);
    const left = new AbortController();
    const unwanted = pool.preview(heavy(), { client: "test", signal: left.signal });
    setTimeout(() => left.abort(), 100);
    const begun = performance.now();
    expect(await unwanted).toEqual({ kind: "cancelled", because: "aborted" });
    expect(performance.now() - begun).toBeLessThan(2000);
    expect(await pool.preview(heavy(), { client: "test", signal: left.signal })).toEqual({
      kind: "cancelled",
      because: "aborted",
    });
    // Another thread has taken its place.
    expect(await pool.preview(document("light"))).toMatchObject({ kind: "result" });
    const cut = pool.preview(heavy());
    await new Promise((go) => setTimeout(go, 100));
    await pool.close();
    expect(await cut).toEqual({ kind: "cancelled", because: "closed" });
    expect(await pool.preview(document("late"))).toEqual({ kind: "cancelled", because: "closed" });
  });

  test("a part that cannot be pictured in time is on the Shelf and says so", async () => {
    const short = await runServer(join(folder, "short.sqlite"), undefined, { buildLimit: 300 });
    try {
      const { body } = await short.ask<StoredPart>("POST", "/parts", { document: heavy() });
      for (let tries = 0; tries < 200; tries++) {
        const [entry] = (await short.ask<PartEntry[]>("GET", "/parts")).body;
        if (entry.pictured === 1) {
          expect(entry).toMatchObject({
            id: body.id,
            summary: { problem: "It takes longer than 0.3 s to build." },
          });
          return;
        }
        await new Promise((r) => setTimeout(r, 50));
      }
      throw new Error("never pictured");
    } finally {
      await short.close();
    }
  });
});

const main = fileURLToPath(new URL("../dist/main.js", import.meta.url));

async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, "127.0.0.1", done));
  const { port } = probe.address() as AddressInfo;
  await new Promise((done) => probe.close(done));
  return port;
}

/** The program itself, until it prints its address or ends. */
async function program(env: Record<string, string>) {
  const child: ChildProcess = spawn("node", [main], {
    env: { ...process.env, HILLCREST_PORT: String(await freePort()), HILLCREST_DEMO: "none", ...env },
  });
  let [out, err] = ["", ""];
  child.stdout!.on("data", (t: Buffer) => {
    out += t;
  });
  child.stderr!.on("data", (t: Buffer) => {
    err += t;
  });
  const ended = new Promise<number | null>((done) => child.once("exit", done));
  await Promise.race([
    ended,
    new Promise<void>((done) => {
      const look = setInterval(() => {
        if (!out.includes("http://") && child.exitCode === null) return;
        clearInterval(look);
        done();
      }, 20);
    }),
  ]);
  return { child, ended, base: () => /http:\/\/\S+\//.exec(out)?.[0] ?? "", err: () => err };
}

describe("the program", () => {
  test("ends within three seconds of SIGTERM while a build spins, and keeps what was saved", async () => {
    const file = join(folder, "term.sqlite");
    const { child, ended, base } = await program({ HILLCREST_DATABASE: file });
    const made = await fetch(`${base()}api/parts`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ document: heavy() }),
    });
    expect(made.status).toBe(201);
    await new Promise((r) => setTimeout(r, 400));
    const begun = performance.now();
    child.kill("SIGTERM");
    await ended;
    expect(performance.now() - begun).toBeLessThan(3000);
    const db = new libsql(file);
    expect(db.prepare("SELECT COUNT(*) AS n FROM part").get()).toMatchObject({ n: 1 });
    db.close();
  });

  test.each([
    [
      "a damaged file",
      (f: string) => writeFileSync(f, "this is no database, however long it is".repeat(200)),
      "is damaged or is no database",
    ],
    ["a folder", (f: string) => mkdirSync(f), "cannot be opened"],
    [
      "a database of a later version",
      (f: string) => {
        const db = new libsql(f);
        db.exec(
          `CREATE TABLE "migrations" ("id" integer PRIMARY KEY AUTOINCREMENT, "timestamp" bigint, "name" varchar)`,
        );
        db.exec(`INSERT INTO "migrations" ("timestamp", "name") VALUES (1, 'Later1999')`);
        db.close();
      },
      "was changed by a later version of Hillcrest",
    ],
  ])("says in one sentence what is wrong with %s, and how to go on", async (what, prepare, reason) => {
    const file = join(folder, `${what.replace(/\W/g, "")}.sqlite`);
    prepare(file);
    const { ended, err } = await program({ HILLCREST_DATABASE: file });
    expect(await ended).toBe(1);
    expect(err()).toContain(reason);
    expect(err().trim().split("\n").length).toBe(1);
    expect(err()).not.toMatch(/\bat .*\.js:\d+/);
  });

  test("says so when another program holds the database, and goes on reading", async () => {
    const file = join(folder, "locked.sqlite");
    const first = await runServer(file);
    const { body } = await first.ask<StoredPart>("POST", "/parts", { document: document("held") });
    const other = new libsql(file);
    other.exec("BEGIN IMMEDIATE");
    try {
      const saved = await first.ask<{ detail: string }>("PUT", `/parts/${body.id}`, {
        revision: 1,
        document: document("changed"),
      });
      expect(saved.status).toBe(507);
      expect(saved.body.detail).toContain("is in use by another program");
      expect((await first.ask<StoredPart>("GET", `/parts/${body.id}`)).body.document.name).toBe("held");
    } finally {
      other.exec("ROLLBACK");
      other.close();
      await first.close();
    }
  });

  test("warns when it listens beyond this machine", async () => {
    const { child, ended, err } = await program({
      HILLCREST_HOST: "0.0.0.0",
      HILLCREST_DATABASE: join(folder, "wide.sqlite"),
    });
    for (let tries = 0; tries < 50 && !err(); tries++) await new Promise((r) => setTimeout(r, 20));
    expect(err()).toContain("there are no accounts");
    child.kill("SIGTERM");
    await ended;
  });

  test.each([
    ["SQLITE_FULL", "There is no room left"],
    ["SQLITE_READONLY_DBMOVED", "may be read but not written"],
    ["SQLITE_IOERR_WRITE", "does not answer as it should"],
  ])("has a sentence for %s", (code, sentence) => {
    expect(databaseTrouble({ driverError: { code, message: "" } }, "x.sqlite")).toContain(sentence);
  });

  test("and none for what is no trouble of the database", () => {
    expect(databaseTrouble(new Error("something else"), "x.sqlite")).toBeUndefined();
  });
});
