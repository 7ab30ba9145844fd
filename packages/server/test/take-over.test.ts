import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import type { CardSnapshot, PartDocument } from "@hillcrest/core";
import { addDemoStock, StockService, type StoredPart, type TakeOverState } from "@hillcrest/server";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { demo, type RunningServer, runServer } from "./running-server.ts";

const CARD = "ridge-galvanised-1-5";
const tray = JSON.parse(readFileSync(join(demo, "battery-tray.json"), "utf8")) as PartDocument;
const older = tray.stock.card as CardSnapshot;
const cardOf = (part: StoredPart) => part.document.stock.card as CardSnapshot;

let api: RunningServer;
const create = async (document: PartDocument) =>
  (await api.ask<StoredPart>("POST", "/parts", { document })).body.id;
const begin = async (parts: readonly string[]) =>
  (await api.ask<TakeOverState>("POST", "/stock/take-over", { parts })).body;
const stateOf = async (id: string) => (await api.ask<TakeOverState>("GET", `/stock/take-over/${id}`)).body;
const ended = async (id: string) => {
  await expect.poll(async () => (await stateOf(id)).state, { timeout: 20_000 }).not.toBe("working");
  return stateOf(id);
};
/** Changes the card's radii, and has parts take that over in the same save. */
async function changeCard(radius: number, parts: readonly string[]) {
  const { body } = await api.ask<{ revision: number; item: { radii: number[] } }>(
    "GET",
    `/stock/cards/${CARD}`,
  );
  const item = { ...body.item, radii: [radius] };
  return api.ask<{ takeOver?: TakeOverState }>("PUT", `/stock/cards/${CARD}`, {
    revision: body.revision,
    item,
    parts,
  });
}

describe("parts take a change of stock over", () => {
  beforeAll(async () => {
    api = await runServer(":memory:", (source) => addDemoStock(new StockService(source), demo));
  });
  afterAll(() => api.close());

  test("which of them were changed is told exactly, with what stayed as it was and why", async () => {
    const [plain, binned, own, followed] = await Promise.all([
      create(tray),
      create({ ...tray, name: "Binned" }),
      create({ ...tray, name: "Own stock", stock: { material: "Copper", thickness: "1" } }),
      create({ ...tray, name: "Followed" }),
    ]);
    const follower = (await api.ask<StoredPart>("POST", `/parts/${followed}/copy`, { follows: true })).body
      .id;
    await api.ask("DELETE", `/parts/${binned}`);
    const saved = await changeCard(1.4, [plain, binned, own, follower, "no-such-part", plain]);
    const job = await ended(saved.body.takeOver!.id);
    expect(job).toMatchObject({
      state: "finished",
      total: 5,
      done: 5,
      changed: 1,
      skipped: 4,
      changedParts: [{ id: plain, name: tray.name, revision: 2 }],
    });
    expect(job.skippedParts.map(({ id, why }) => [id, why])).toEqual([
      [binned, "it is in the bin"],
      [own, "it does not use a card of the stock"],
      [follower, "it follows another part, which takes it over"],
      ["no-such-part", "it is not on the Shelf any more"],
    ]);
    const { body } = await api.ask<StoredPart>("GET", `/parts/${plain}`);
    expect(cardOf(body).radii).toEqual([1.4]);
    const [{ said }] = (await api.ask<{ said: string[] }[]>("GET", `/parts/${plain}/revisions`)).body;
    expect(said).toEqual([`Took over ${older.name}, revision ${cardOf(body).revision}`]);
    const again = await ended((await begin([plain])).id);
    expect(again.skippedParts[0].why).toBe("it stands on the present state already");
  });

  test("what is saved of a part meanwhile is kept, and the card is that of when it was asked for", async () => {
    const ids = [];
    for (let i = 0; i < 12; i++) ids.push(await create({ ...tray, name: `Row ${i}` }));
    const job = (await changeCard(1.3, ids)).body.takeOver!;
    const last = ids.at(-1)!;
    const renamed = await api.ask("PATCH", `/parts/${last}`, {
      revision: 1,
      commands: { do: "part", values: { name: "Renamed meanwhile" } },
    });
    await changeCard(1.2, []);
    expect((await ended(job.id)).changedParts).toHaveLength(12);
    const { body } = await api.ask<StoredPart>("GET", `/parts/${last}`);
    expect(cardOf(body).radii).toEqual([1.3]);
    if (renamed.status === 200) expect(body.document.name).toBe("Renamed meanwhile");
    else expect(renamed.status).toBe(409);
  });

  test("one that is cancelled stops, and what it has changed stays and is told", async () => {
    const ids = [];
    for (let i = 0; i < 40; i++) ids.push(await create({ ...tray, name: `Shelf ${i}` }));
    const { id } = await begin(ids);
    await api.ask("DELETE", `/stock/take-over/${id}`);
    const job = await stateOf(id);
    expect(job.state).toBe("cancelled");
    const revisions = await Promise.all(
      ids.map(async (part) => (await api.ask<StoredPart>("GET", `/parts/${part}`)).body.revision),
    );
    expect(job.changedParts.map((p) => p.id)).toEqual(ids.filter((_, i) => revisions[i] === 2));
    expect(job.done).toBeLessThan(40);
    expect((await api.ask("GET", "/stock/take-over/none")).status).toBe(404);
  });
});

const root = fileURLToPath(new URL("../../../", import.meta.url));
/** So often the server is killed; `npm run torture` kills it more often. */
const KILLS = Number(process.env.TORTURE_KILLS ?? 4);

test("however often the server is killed in the middle, every part is changed once, whole, and told", async () => {
  const folder = mkdtempSync(join(tmpdir(), "hillcrest-take-over-"));
  const file = join(folder, "parts.sqlite");
  const count = 60;
  let ids: string[] = [];
  api = await runServer(file, (source) => addDemoStock(new StockService(source), demo));
  for (let i = 0; i < count; i++) ids = [...ids, await create({ ...tray, name: `Tray ${i}` })];
  await api.close();
  let server: ChildProcess;
  let base = "";
  const start = async () => {
    server = spawn("node", [join(root, "packages/server/dist/main.js")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, HILLCREST_PORT: "0", HILLCREST_DATABASE: file, HILLCREST_DEMO: "none" },
    });
    const said = await new Promise<string>((done) =>
      server.stdout!.once("data", (text) => done(String(text))),
    );
    base = `${/http:\S+\//.exec(said)![0]}api`;
  };
  const ask = async <T>(path: string, method = "GET", body?: object): Promise<T> => {
    const headers = { "content-type": "application/json" };
    const answer = await fetch(base + path, {
      method,
      headers,
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return (await answer.json()) as T;
  };
  const kill = async () => {
    const gone = new Promise((done) => server.once("exit", done));
    server.kill("SIGKILL");
    await gone;
  };
  try {
    await start();
    let revision = 1;
    let inTheMiddle = 0;
    for (let kills = 0; kills < KILLS; ) {
      const entry = await ask<{ revision: number; item: object }>(`/stock/cards/${CARD}`);
      const item = { ...entry.item, radii: [1 + revision / 100] };
      const { takeOver } = await ask<{ takeOver: TakeOverState }>(`/stock/cards/${CARD}`, "PUT", {
        revision: entry.revision,
        item,
        parts: ids,
      });
      let job = takeOver;
      while (job.state === "working") {
        if (kills < KILLS) {
          await wait((kills * 37) % 120);
          await kill();
          kills++;
          await start();
          job = await ask(`/stock/take-over/${takeOver.id}`);
          if (job.done > 0 && job.done < count) inTheMiddle++;
          // What it says it has changed is changed, and nothing else.
          for (const { id, revision: made } of job.changedParts)
            expect((await ask<StoredPart>(`/parts/${id}`)).revision).toBe(made);
        } else await wait(50);
        job = await ask(`/stock/take-over/${takeOver.id}`);
      }
      revision++;
      expect(job.changedParts.map((p) => p.id)).toEqual(ids);
      for (const id of ids) {
        const part = await ask<StoredPart>(`/parts/${id}`);
        expect([part.revision, cardOf(part).radii]).toEqual([revision, item.radii]);
      }
    }
    expect(inTheMiddle).toBeGreaterThan(0);
  } finally {
    await kill();
    rmSync(folder, { recursive: true, force: true });
  }
}, 600_000);
