import { spawn, spawnSync } from "node:child_process";
import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import { newPart, type PartDocument } from "@hillcrest/core";
import {
  type Asker,
  type BatchState,
  BuildPool,
  type PartEntry,
  type StoredPart,
  Turns,
  whenCalm,
} from "@hillcrest/server";
import libsql from "libsql";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { type RunningServer, runServer } from "./running-server.ts";

const PACKER = fileURLToPath(new URL("../../../scripts/pack-pages.mjs", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "hillcrest-damage-"));
const file = join(folder, "parts.sqlite");
let api: RunningServer;
beforeAll(async () => {
  api = await runServer(file);
});
afterAll(async () => {
  await api.close();
  rmSync(folder, { recursive: true, force: true });
});

const document = (name: string, more: Partial<PartDocument> = {}): PartDocument => ({
  ...newPart(name),
  steps: [{ id: "s1", kind: "plate", width: "120", depth: "80" }],
  ...more,
});
const made = async (name: string) =>
  (await api.ask<StoredPart>("POST", "/parts", { document: document(name) })).body.id;
/** Changes the database behind the server's back. */
const damage = (sql: string, ...values: unknown[]) => api.source.query(sql, values);
const message = async (method: string, path: string, body?: unknown) => {
  const { status, body: answer } = await api.ask<{ detail?: string }>(method, path, body);
  return [status, answer?.detail ?? ""] as const;
};

describe("a name that every object has", () => {
  test.each([
    "constructor",
    "__proto__",
    "prototype",
  ])("%s is refused at any depth and address, with the reason", async (name) => {
    const id = await made("plain");
    const inner = `{"a":[{"${name}":{"b":1}}]}`;
    for (const [method, path, body] of [
      ["POST", "/parts", `{"document":${inner}}`],
      ["PUT", `/parts/${id}`, `{"revision":1,"document":${inner}}`],
      ["PATCH", `/parts/${id}`, `{"revision":1,"commands":${inner}}`],
      ["POST", "/exports", `{"parts":[],"as":"zip","preset":${inner}}`],
      ["POST", `/parts/${id}/exports`, `{"facts":${inner}}`],
      ["PUT", "/stock/charts/x", `{"revision":0,"item":${inner}}`],
      ["POST", "/stock/import", `{"library":${inner}}`],
    ] as const)
      expect(await message(method, path, body), `${method} ${path}`).toEqual([
        400,
        `The request may not name "${name}".`,
      ]);
  });
});

describe("a damaged row costs itself only", () => {
  const list = async () => (await api.ask<PartEntry[]>("GET", "/parts")).body;

  test("bytes in a name leave the Shelf as it is, and the part can be opened", async () => {
    const [bad, good] = [await made("bad"), await made("good")];
    await damage(`UPDATE "part" SET "name" = x'00ff', "summary" = x'01' WHERE "id" = ?`, bad);
    const entries = await list();
    expect(entries.find((e) => e.id === bad)).toMatchObject({ name: "(damaged)", summary: null });
    expect(entries.find((e) => e.id === good)?.name).toBe("good");
    expect((await api.ask<StoredPart>("GET", `/parts/${bad}`)).body.document.name).toBe("bad");
  });

  test.each<[string, (id: string) => Promise<unknown>, RegExp]>([
    [
      "a document that is no JSON",
      (id) => damage(`UPDATE "revision" SET "document" = '{"x' WHERE "part" = ? AND "number" = 2`, id),
      /Revision 2 .* damaged .*it is no JSON.*earlier revision/,
    ],
    [
      "steps that are none",
      (id) =>
        damage(
          `UPDATE "revision" SET "document" = ? WHERE "part" = ? AND "number" = 2`,
          JSON.stringify({ ...document("x"), steps: [null, 7] }),
          id,
        ),
      /Revision 2 .*\/steps\/0: A step must be an object/,
    ],
    [
      "a revision that is missing",
      (id) => damage(`DELETE FROM "revision" WHERE "part" = ? AND "number" = 2`, id),
      /Revision 2 of this part is missing/,
    ],
  ])("%s is told in a sentence, and an earlier revision is taken back", async (_, harm, says) => {
    const id = await made("mended");
    await api.ask("PUT", `/parts/${id}`, { revision: 1, document: document("second") });
    await harm(id);
    for (const path of [
      `/parts/${id}`,
      `/parts/${id}/findings`,
      `/parts/${id}/files/dxf`,
      `/parts/${id}/file`,
    ])
      expect(await message("GET", path), path).toEqual([422, expect.stringMatching(says)]);
    expect((await api.ask("GET", `/parts/${id}/revisions`)).status).toBe(200);
    expect((await list()).some((e) => e.id === id)).toBe(true);
    const restored = await api.ask<{ revision: number }>("POST", `/parts/${id}/revisions/1/restore`, {
      revision: 2,
    });
    expect([restored.status, restored.body.revision]).toEqual([200, 3]);
    expect((await api.ask<StoredPart>("GET", `/parts/${id}`)).body.document.name).toBe("mended");
  });

  test("commands that are no JSON are told as the document that they made", async () => {
    const id = await made("said");
    await damage(`UPDATE "revision" SET "commands" = 'x' WHERE "part" = ?`, id);
    const { status, body } = await api.ask<{ commands: unknown[] }>("GET", `/parts/${id}/revisions/1`);
    expect([status, body.commands.length]).toEqual([200, 1]);
  });

  test("an export leaves it out and says why; an item of the stock goes missing alone", async () => {
    const [bad, good] = [await made("lost"), await made("kept")];
    await damage(`UPDATE "revision" SET "document" = 'x' WHERE "part" = ?`, bad);
    const parts = [bad, good].map((id) => ({ id, quantity: 1 }));
    const { body } = await api.ask<BatchState>("POST", "/exports", { parts, as: "zip" });
    let state = body;
    for (let i = 0; i < 200 && state.state === "working"; i++) {
      await wait(50);
      state = (await api.ask<BatchState>("GET", `/exports/${body.id}`)).body;
    }
    expect([state.state, state.refused.map((r) => r.why)]).toEqual([
      "ready",
      [expect.stringMatching(/it is no JSON/)],
    ]);
    await damage(
      `INSERT INTO "stock_item" ("section","id","name","item","revision","place","updatedAt") VALUES ('dies','bad','Bad','{',1,9,'')`,
    );
    expect((await api.ask("GET", "/stock")).status).toBe(200);
  });
});

describe("a database that another program holds for a while", () => {
  test("is written as soon as it is free; reading does not wait", async () => {
    const id = await made("held");
    const other = new libsql(file);
    other.exec("BEGIN IMMEDIATE");
    const saving = api.ask("PUT", `/parts/${id}`, { revision: 1, document: document("later") });
    await wait(100);
    const asked = performance.now();
    expect((await api.ask<StoredPart>("GET", `/parts/${id}`)).body.document.name).toBe("held");
    expect(performance.now() - asked).toBeLessThan(500);
    other.exec("ROLLBACK");
    other.close();
    expect((await saving).status).toBe(200);
  });
});

/** Whether this program can be run by a user who may write nothing. */
const nobody = { uid: 65534, gid: 65534 };
const main = fileURLToPath(new URL("../dist/main.js", import.meta.url));
const canDrop =
  process.getuid?.() === 0 &&
  spawnSync(process.execPath, ["-e", `require("fs").readFileSync(${JSON.stringify(main)})`], nobody)
    .status === 0;

test.runIf(canDrop)(
  "a file in a folder that may only be read is opened for reading, and a save is refused in words",
  async () => {
    const place = join(folder, "readable");
    mkdirSync(place);
    const held = join(place, "parts.sqlite");
    const first = await runServer(held);
    const { id } = (await first.ask<StoredPart>("POST", "/parts", { document: document("read") })).body;
    await first.close();
    chmodSync(folder, 0o755);
    chmodSync(held, 0o444);
    chmodSync(place, 0o555);
    const child = spawn(process.execPath, [main], {
      ...nobody,
      env: { ...process.env, HILLCREST_PORT: "0", HILLCREST_DATABASE: held, HILLCREST_DEMO: "none" },
    });
    let out = "";
    child.stdout.on("data", (text: Buffer) => {
      out += text;
    });
    child.stderr.on("data", (text: Buffer) => {
      out += text;
    });
    for (let i = 0; i < 300 && !out.includes("http://") && child.exitCode === null; i++) await wait(50);
    const base = /http:\/\/\S+\//.exec(out)?.[0];
    expect(base, out).toBeDefined();
    const part = (await (await fetch(`${base}api/parts/${id}`)).json()) as StoredPart;
    expect(part.document.name).toBe("read");
    const saved = await fetch(`${base}api/parts/${id}`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ revision: 1, document: document("written") }),
    });
    expect([saved.status, await saved.text()]).toEqual([
      507,
      expect.stringContaining("may be read but not written"),
    ]);
    child.kill("SIGTERM");
    await new Promise((done) => child.once("exit", done));
  },
);

describe("turns on threads", () => {
  test("go round the clients, and none ever has all places", async () => {
    const turns = new Turns(2);
    const order: string[] = [];
    const ends: (() => void)[] = [];
    const ask = (client: string) =>
      void turns.take({ client }).then((end) => {
        order.push(client);
        ends.push(end!);
      });
    for (let i = 0; i < 4; i++) ask("greedy");
    await wait(0);
    expect(order).toEqual(["greedy"]);
    ask("other");
    await wait(0);
    expect(order).toEqual(["greedy", "other"]);
    ask("third");
    ends[0]();
    await wait(0);
    // Whoever has had a turn comes after those who wait for their first.
    expect(order[2]).toBe("third");
    ends[1]();
    await wait(0);
    expect(order[3]).toBe("greedy");
    expect(turns.waiting).toBe(2);
  });

  /** Works off what every asker always wants, each piece of it so long (ms); the time that each has had after `total`. */
  async function shared(askers: readonly (Asker & { takes: number })[], total: number) {
    let now = 0;
    const turns = new Turns(2, () => now);
    const had = new Map<string, number>();
    const running: { until: number; end: () => void }[] = [];
    const want = ({ takes, ...asker }: Asker & { takes: number }) =>
      void turns.take(asker).then((end) => {
        had.set(asker.client, (had.get(asker.client) ?? 0) + takes);
        running.push({
          until: now + takes,
          end: () => {
            want({ ...asker, takes });
            end!();
          },
        });
      });
    // Each always has two that wait.
    for (const one of [...askers, ...askers]) want(one);
    while (now < total) {
      await wait(0);
      running.sort((a, b) => a.until - b.until);
      const next = running.shift()!;
      now = next.until;
      next.end();
    }
    return had;
  }

  test("are shared out by time: by kind, and within a kind by client, however long or many their jobs are", async () => {
    const pictures = Array.from(
      { length: 20 },
      (_, i) => ({ client: `p${i}`, kind: "picture", takes: 20 }) as const,
    );
    const had = await shared([...pictures, { client: "export", kind: "export", takes: 60 }], 6000);
    // Of two threads an export may have one: it has it the whole time.
    expect(had.get("export")).toBeGreaterThan(5500);
    for (const { client } of pictures) expect(had.get(client)).toBeCloseTo(300, -2);
    const asked = [10, 100].map((takes) => ({ client: `a${takes}`, takes }));
    const same = await shared([...asked, ...pictures], 6000);
    expect(same.get("a10")! / same.get("a100")!).toBeCloseTo(1, 0);
    const pictured = pictures.reduce((sum, { client }) => sum + (same.get(client) ?? 0), 0);
    // Four parts of five go to who waits.
    expect(pictured / 12_000).toBeCloseTo(0.2, 1);
  });

  test("are not asked for by what nobody waits for while the server is busy, for so long at most", async () => {
    const took = async (most: number) => {
      const begun = performance.now();
      await whenCalm(most);
      return performance.now() - begun;
    };
    expect(await took(5000)).toBeLessThan(2000);
    let busy = true;
    const work = () => {
      for (const end = performance.now() + 15; performance.now() < end; );
      if (busy) setImmediate(work);
    };
    work();
    setTimeout(() => {
      busy = false;
    }, 700);
    expect(await took(200)).toBeGreaterThanOrEqual(200);
    expect(busy).toBe(true);
    expect(await took(5000)).toBeGreaterThan(200);
    expect(busy).toBe(false);
  });

  test("are given up by who leaves, and given back once", async () => {
    const turns = new Turns(2);
    const left = new AbortController();
    const [first, second] = [turns.take({ client: "a" }), turns.take({ client: "a", signal: left.signal })];
    const end = (await first)!;
    left.abort();
    expect(await second).toBeUndefined();
    end();
    end();
    const [p, q] = [await turns.take({ client: "b" }), await turns.take({ client: "c" })];
    expect([typeof p, typeof q]).toEqual(["function", "function"]);
    expect(await turns.take({ client: "d", signal: AbortSignal.abort() })).toBeUndefined();
  });

  test("a job's time counts from when it begins, not from when it was asked for", async () => {
    const slow: PartDocument = {
      ...newPart("Slow"),
      steps: [
        { id: "s1", kind: "plate", width: "3000", depth: "3000" },
        {
          ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "3" },
          ...{ x: "0", y: "0", arranged: "grid", count: "14", pitch: "9", rows: "14", rowPitch: "9" },
        },
      ],
    };
    const pool = new BuildPool(20_000);
    const by = { client: "one" };
    // The first starts a thread.
    await pool.findings(slow, by);
    const begun = performance.now();
    expect((await pool.findings(slow, by)).kind).toBe("result");
    const alone = performance.now() - begun;
    await pool.close();
    // So many of one client wait for one another that the last begins long after the limit.
    const limit = Math.max(1500, alone * 6);
    const tight = new BuildPool(limit);
    // Its threads are started first: on a busy machine that alone may take as long as the limit.
    const quick = newPart("Quick");
    await expect
      .poll(async () => {
        const told = await Promise.all([1, 2, 3, 4].map(() => tight.findings(quick, by)));
        return told.every(({ kind }) => kind === "result");
      })
      .toBe(true);
    // How long one takes hangs on what else the machine does: so many that the last begins after the limit.
    let took = 0;
    for (let many = Math.ceil((2 * limit) / alone); took <= limit; many *= 2) {
      const start = performance.now();
      const all = await Promise.all(Array.from({ length: many }, () => tight.findings(slow, by)));
      took = performance.now() - start;
      expect(all.map((o) => o.kind)).toEqual(all.map(() => "result"));
    }
    await tight.close();
  }, 120_000);

  test("a drawing that is damaged is refused by the page's address, with its line, while others are answered", async () => {
    const id = await made("compared");
    const dxf = "0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n8\n0\n66\n1\n0\nVERTEX\n10\n0\n20\n0\n";
    const asked = performance.now();
    const [answer, health] = await Promise.all([
      message("POST", `/parts/${id}/compare`, { dxf }),
      api.ask("GET", "/health"),
    ]);
    expect(answer).toEqual([422, expect.stringMatching(/line \d+: the file ends without EOF/)]);
    expect([health.status, performance.now() - asked < 5000]).toEqual([200, true]);
  });
});

test("what is no asset is told plainly", async () => {
  const pages = join(folder, "pages");
  mkdirSync(join(pages, "assets"), { recursive: true });
  writeFileSync(join(pages, "index.html"), "<p>Hillcrest</p>");
  const served = await runServer(join(folder, "pages.sqlite"), undefined, { pages });
  try {
    const answer = await fetch(`http://127.0.0.1:${served.port}/assets/none.js`);
    expect([answer.status, answer.headers.get("content-type"), await answer.text()]).toEqual([
      404,
      expect.stringContaining("text/plain"),
      "There is nothing at this address.\n",
    ]);
  } finally {
    await served.close();
  }
});

test("pages come packed as a browser can read them, and are to be asked for again", async () => {
  const pages = join(folder, "packed");
  const text = "export const angles = [90, 135];\n".repeat(100);
  mkdirSync(join(pages, "assets"), { recursive: true });
  writeFileSync(join(pages, "index.html"), "<p>Hillcrest</p>");
  writeFileSync(join(pages, "assets", "page.js"), text);
  const packed = spawnSync(process.execPath, [PACKER, pages], { encoding: "utf8" });
  expect([packed.status, packed.stderr]).toEqual([0, ""]);
  const served = await runServer(join(folder, "packed.sqlite"), undefined, { pages });
  const ask = async (path: string, reads: string) => {
    const answer = await fetch(`http://127.0.0.1:${served.port}${path}`, {
      headers: { "accept-encoding": reads },
    });
    const { headers } = answer;
    const [encoding, length] = [headers.get("content-encoding"), Number(headers.get("content-length"))];
    return { encoding, length, kept: headers.get("cache-control"), text: await answer.text() };
  };
  try {
    for (const [reads, encoding] of [
      ["gzip, deflate, br", "br"],
      ["gzip", "gzip"],
      ["identity", null],
    ] as const) {
      const answer = await ask("/assets/page.js", reads);
      expect([answer.encoding, answer.text]).toEqual([encoding, text]);
      if (encoding) expect(answer.length).toBeLessThan(text.length / 10);
      expect(answer.kept).toBe("public, max-age=31536000, immutable");
    }
    const page = await ask("/parts/any", "br");
    expect([page.kept, page.text]).toEqual(["public, max-age=0", "<p>Hillcrest</p>"]);
  } finally {
    await served.close();
  }
});
