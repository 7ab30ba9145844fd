import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { applyCommands, newPart, type PartCommand, type PartDocument } from "@hillcrest/core";
import {
  openDatabase,
  PartHistory,
  type PartPreview,
  PartService,
  type RevisionEntry,
  type StoredPart,
  type StoredRevision,
  thinnedOut,
} from "@hillcrest/server";
import libsql from "libsql";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-history-"));
let api: RunningServer;
beforeAll(async () => {
  api = await runServer(join(folder, "parts.sqlite"));
});
afterAll(async () => {
  await api.close();
  rmSync(folder, { recursive: true });
});

const document = (name: string, width = "120"): PartDocument => ({
  ...newPart(name),
  steps: [
    { id: "s1", kind: "plate", width, depth: "80" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
  ],
});
const create = async (name: string) =>
  (await api.ask<StoredPart>("POST", "/parts", { document: document(name) })).body;
const patch = (id: string, revision: number, commands: unknown) =>
  api.ask<{ revision: number; detail: string; current?: StoredPart; errors?: { pointer: string }[] }>(
    "PATCH",
    `/parts/${id}`,
    { revision, commands },
  );
const revisions = async (id: string) =>
  (await api.ask<RevisionEntry[]>("GET", `/parts/${id}/revisions`)).body;
const revision = async (id: string, number: number) =>
  (await api.ask<StoredRevision>("GET", `/parts/${id}/revisions/${number}`)).body;
const newest = async (id: string) => (await api.ask<StoredPart>("GET", `/parts/${id}`)).body;
const length = (to: string): PartCommand => ({ do: "set", step: "s2", values: { length: to } });

/** What all commands of a part's history make, from the first revision on. */
async function replayed(id: string): Promise<PartDocument> {
  let now = newPart("Nothing yet");
  for (const { number } of (await revisions(id)).reverse()) {
    const { commands } = await revision(id, number);
    const done = applyCommands(now, commands);
    if (!done.ok) throw new Error(`revision ${number}: ${done.error}`);
    now = done.value.document;
  }
  return now;
}

describe("a part that is changed by commands", () => {
  test("keeps each save as a revision, with what it changed in words and as it was", async () => {
    const { id } = await create("By commands");
    expect((await patch(id, 1, length("25"))).body.revision).toBe(2);
    const both: PartCommand[] = [
      { do: "part", values: { name: "Renamed" } },
      { do: "remove", step: "s2" },
    ];
    expect((await patch(id, 2, both)).status).toBe(200);
    const list = await revisions(id);
    expect(list.map((r) => [r.number, r.said])).toEqual([
      [3, ['Part called "Renamed"', "Flange 2 removed"]],
      [2, ["Flange 2: length 20 → 25"]],
      [1, ["Put on the Shelf"]],
    ]);
    expect((await revision(id, 2)).document.steps[1].length).toBe("25");
    expect((await revision(id, 3)).commands).toEqual(both);
    const now = await newest(id);
    expect(now).toMatchObject({ revision: 3, document: { name: "Renamed" } });
    expect(now.document.steps.map((s) => s.id)).toEqual(["s1"]);
    expect(await replayed(id)).toEqual(now.document);
    const shelf = (await api.ask<{ id: string; name: string }[]>("GET", "/parts")).body;
    expect(shelf.find((p) => p.id === id)?.name).toBe("Renamed");
  });

  test("refuses what does not go, and nothing is changed", async () => {
    const { id } = await create("Refuses");
    const cases: readonly (readonly [unknown, string])[] = [
      [[length("30"), { do: "remove", step: "s7" }], 'command 2: there is no step "s7"'],
      [{ do: "fly" }, '"fly" is not a command'],
      [undefined, "/commands: A command is a JSON object."],
      [length({} as string), "what it makes is no part: /steps/1/length"],
      [{ do: "set", step: "s1", values: { id: "s9" } }, '/commands/values/id: "id" cannot be changed'],
      [
        JSON.parse('{"do":"set","step":"__proto__","values":{"__proto__":1}}'),
        'The request may not name "__proto__".',
      ],
      [Array.from({ length: 501 }, () => length("30")), "at most 500 entries"],
    ];
    for (const [commands, words] of cases) {
      const { status, body } = await patch(id, 1, commands);
      expect(status).toBe(400);
      expect(body.detail).toContain(words);
    }
    expect((await revisions(id)).length).toBe(1);
    expect((await patch("nowhere", 1, length("5"))).status).toBe(404);
    expect((await patch(id, 0, length("5"))).status).toBe(400);
  });

  test("of two who save from one revision only the first is taken, and the other is told what there is", async () => {
    const { id } = await create("Two");
    const answers = await Promise.all(["31", "32", "33", "34"].map((to) => patch(id, 1, length(to))));
    const won = answers.filter((a) => a.status === 200);
    expect(won.length).toBe(1);
    for (const { status, body } of answers.filter((a) => a.status !== 200)) {
      expect(status).toBe(409);
      expect(body.current).toMatchObject({ id, revision: 2 });
    }
    expect((await revisions(id)).length).toBe(2);
  });

  test("a document taken in whole is a revision too, and the replay goes over it", async () => {
    const { id } = await create("Whole");
    await patch(id, 1, length("25"));
    const other = document("Whole, other", "200");
    await api.ask("PUT", `/parts/${id}`, { revision: 2, document: other });
    await patch(id, 3, length("26"));
    expect((await revision(id, 3)).commands).toEqual([{ do: "replace", document: other }]);
    expect(await replayed(id)).toEqual((await newest(id)).document);
  });
});

describe("an earlier revision", () => {
  test("is taken back as a new one, and what was newest stays", async () => {
    const { id } = await create("Back");
    for (const [i, to] of ["21", "22", "23"].entries()) await patch(id, i + 1, length(to));
    const path = `/parts/${id}/revisions/2`;
    expect((await api.ask("POST", `${path}/restore`, { revision: 3 })).status).toBe(409);
    expect((await api.ask("POST", `${path}/restore`, { revision: 4 })).body).toMatchObject({ revision: 5 });
    const now = await newest(id);
    expect(now.document.steps[1].length).toBe("21");
    const list = await revisions(id);
    expect(list[0]).toMatchObject({ number: 5, said: ["Taken back to revision 2"] });
    expect((await revision(id, 4)).document.steps[1].length).toBe("23");
    expect((await api.ask("POST", `/parts/${id}/revisions/99/restore`, { revision: 5 })).status).toBe(404);
  });

  test("is pictured when it is looked at, as it was then", async () => {
    const { id } = await create("Pictured");
    await patch(id, 1, { do: "set", step: "s1", values: { width: "200" } });
    await patch(id, 2, { do: "set", step: "s2", values: { length: "0.1" } });
    const looked = async (number: number) =>
      (await api.ask<PartPreview>("GET", `/parts/${id}/revisions/${number}/preview`)).body;
    expect((await looked(1)).summary).toMatchObject({ blankSize: [120, expect.any(Number)], bends: 1 });
    const second = await looked(2);
    expect(second.summary.blankSize![0]).toBe(200);
    expect(second.pictures.folded).toContain("<svg");
    expect((await looked(3)).summary.findings.stop).toBe(1);
    expect((await api.ask("GET", `/parts/${id}/revisions/9/preview`)).status).toBe(404);
  });

  test("has a name when it is given one, and is taken back by it", async () => {
    const { id } = await create("Named");
    await patch(id, 1, length("21"));
    const name = (to: unknown) =>
      api.ask<{ detail: string }>("PUT", `/parts/${id}/revisions/1/name`, { name: to });
    expect((await name("As ordered")).status).toBe(204);
    expect((await revisions(id))[1]).toMatchObject({ number: 1, name: "As ordered" });
    await api.ask("POST", `/parts/${id}/revisions/1/restore`, { revision: 2 });
    expect((await revisions(id))[0].said).toEqual(["Taken back to “As ordered”"]);
    for (const wrong of ["", 7, "x".repeat(81), undefined]) expect((await name(wrong)).status).toBe(400);
    expect((await name(null)).status).toBe(204);
    expect((await revisions(id))[2].name).toBe(null);
    const nowhere = await api.ask("PUT", `/parts/${id}/revisions/77/name`, { name: "x" });
    expect(nowhere.status).toBe(404);
  });

  test("that is not there is said, and a long list goes on", async () => {
    const { id } = await create("Long");
    for (let i = 1; i <= 205; i++) await patch(id, i, length(String(20 + i)));
    const first = await revisions(id);
    expect(first.length).toBe(200);
    expect(first[0].number).toBe(206);
    const rest = await api.ask<RevisionEntry[]>(
      "GET",
      `/parts/${id}/revisions?before=${first.at(-1)!.number}`,
    );
    expect(rest.body.map((r) => r.number)).toEqual([6, 5, 4, 3, 2, 1]);
    for (const path of ["revisions/0", "revisions/1e9", "revisions/-1", "revisions/x", "revisions/207"])
      expect((await api.ask("GET", `/parts/${id}/${path}`)).status).toBe(404);
    expect((await api.ask("GET", "/parts/nowhere/revisions")).status).toBe(404);
    expect((await api.ask("GET", `/parts/${id}/revisions?before=x`)).status).toBe(400);
  });
});

describe("revisions that grow old", () => {
  const HOUR = 3_600_000;
  const now = Date.parse("2026-11-26T12:00:00Z");
  const made = (hoursAgo: number, name: string | null = null) => ({
    madeAt: new Date(now - hoursAgo * HOUR).toISOString(),
    name,
  });
  const numbered = (list: readonly ReturnType<typeof made>[]) =>
    list.map((r, i) => ({ ...r, number: i + 1 }));

  test("of the last hours all stay; later the last of an hour, of a day, of a week", () => {
    const list = numbered([
      ...[4000, 3999, 3990].map((h) => made(h)),
      ...[500.9, 500.5, 500.1].map((h) => made(h)),
      ...[50.9, 50.5, 50.1].map((h) => made(h)),
      ...[3, 2.5, 2, 1].map((h) => made(h)),
    ]);
    // The first of all stays, the last of each span does, and every one of the last hours.
    expect(thinnedOut(list, now)).toEqual([2, 4, 5, 7, 8]);
    expect(thinnedOut(numbered([4000, 3999, 3990].map((h) => made(h, "kept"))), now)).toEqual([]);
    expect(thinnedOut([], now)).toEqual([]);
    expect(thinnedOut(numbered([made(9000)]), now)).toEqual([]);
    // A moment that cannot be read is no reason to leave anything out.
    const odd = list.map((r) => (r.number === 2 ? { ...r, madeAt: "never" } : r));
    expect(thinnedOut(odd, now)).toEqual([4, 5, 7, 8]);
  });

  test("are left out with what they said going to the next, and the replay is as before", async () => {
    const source = await openDatabase(join(folder, "old.sqlite"));
    const [parts, history] = [new PartService(source), new PartHistory(source)];
    const { id } = await parts.create(document("Old"));
    for (let i = 1; i <= 60; i++) await parts.edit(id, i, [length(String(20 + i))]);
    await history.call(id, 30, "As built");
    // An hour has 20 of them.
    for (let i = 1; i <= 61; i++)
      await source.query(`UPDATE "revision" SET "madeAt" = ? WHERE "part" = ? AND "number" = ?`, [
        new Date(now - 100 * HOUR + i * (HOUR / 20)).toISOString(),
        id,
        i,
      ]);
    const before = (await parts.read(id))!.document;
    expect(await history.thin(id, now)).toBeGreaterThan(50);
    expect(await history.thin(id, now)).toBe(0);
    const left = (await history.list(id)).reverse();
    expect(left.length).toBeLessThan(9);
    expect(left.map((r) => r.number)).toEqual(expect.arrayContaining([1, 30, 61]));
    let replay = newPart("x");
    for (const { number } of left) {
      const { commands, document: then } = (await history.read(id, number))!;
      const done = applyCommands(replay, commands);
      if (!done.ok) throw new Error(done.error);
      replay = done.value.document;
      expect(replay).toEqual(then);
    }
    expect(replay).toEqual(before);
    const second = left[1];
    expect(second.said.at(-1)).toBe(`Flange 2: length ${18 + second.number} → ${19 + second.number}`);
    expect(second.said.length).toBe(second.number - 1);
    expect(await history.thinAll(now)).toBe(0);
    await source.destroy();
  });
});

describe("a database of an earlier version", () => {
  test("keeps its parts, and their histories begin", async () => {
    const file = join(folder, "earlier.sqlite");
    const source = await openDatabase(file);
    const { id } = await new PartService(source).create(document("Earlier"));
    // As it was before there were revisions, and what came after them.
    const { migrations } = source;
    const later =
      migrations.length - migrations.findIndex((m) => m.constructor.name.startsWith("CreateRevision"));
    for (let i = 0; i < later; i++) await source.undoLastMigration();
    await source.destroy();
    const db = new libsql(file);
    const columns = db.prepare(`PRAGMA table_info("part")`).all() as { name: string }[];
    expect(columns.map((c) => c.name)).toContain("document");
    db.close();
    const again = await runServer(file);
    const read = await again.ask<StoredPart>("GET", `/parts/${id}`);
    expect(read.body).toMatchObject({ revision: 1, document: document("Earlier") });
    const list = await again.ask<RevisionEntry[]>("GET", `/parts/${id}/revisions`);
    expect(list.body.map((r) => r.said)).toEqual([["As it was when its history began"]]);
    await again.close();
  });
});
