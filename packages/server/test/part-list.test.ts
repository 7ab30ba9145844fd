import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { newPart } from "@hillcrest/core";
import { inTurn, type PartEntry } from "@hillcrest/server";
import libsql from "libsql";
import { afterAll, beforeAll, expect, test } from "vitest";
import { type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-list-"));
const file = join(folder, "parts.sqlite");
let api: RunningServer;
beforeAll(async () => {
  api = await runServer(file);
});
afterAll(async () => {
  await api.close();
  rmSync(folder, { recursive: true });
});

const names = async (bin = "") => (await api.ask<PartEntry[]>("GET", `/parts${bin}`)).body.map((p) => p.name);
const create = async (name: string) =>
  (await api.ask<{ id: string }>("POST", "/parts", { document: newPart(name) })).body.id;

test("is what the database holds, whoever wrote it, and however", async () => {
  const [a, b] = [await create("A"), await create("B")];
  expect(await names()).toEqual(["B", "A"]);
  await api.ask("PATCH", `/parts/${a}`, {
    revision: 1,
    commands: { do: "part", values: { name: "A renamed" } },
  });
  expect(await names()).toEqual(["A renamed", "B"]);
  await api.ask("DELETE", `/parts/${b}`);
  expect([await names(), await names("?bin=1")]).toEqual([["A renamed"], ["B"]]);
  // Beside everything that knows of the list: this program, and another.
  await api.source.query(`UPDATE "part" SET "name" = 'By hand' WHERE "id" = ?`, [a]);
  expect(await names()).toEqual(["By hand"]);
  const other = new libsql(file);
  other.prepare(`UPDATE "part" SET "name" = 'By another program' WHERE "id" = ?`).run([a]);
  expect(await names()).toEqual(["By another program"]);
  other.prepare(`DELETE FROM "part" WHERE "id" = ?`).run([b]);
  other.close();
  expect(await names("?bin=1")).toEqual([]);
});

test("what is taken back was never in it for longer than that", async () => {
  const id = await create("Stays");
  await names();
  const failing = inTurn(api.source, async (manager) => {
    await manager.query(`UPDATE "part" SET "name" = 'Taken back' WHERE "id" = ?`, [id]);
    // Asked in between, on the connection that all share.
    await names();
    throw new Error("The disk is full.");
  });
  await expect(failing).rejects.toThrow("The disk is full.");
  expect((await names())[0]).toBe("Stays");
});

test("a browser that has it is told so, until something changes", async () => {
  const base = `http://127.0.0.1:${api.port}/api/parts`;
  const tag = (await fetch(base)).headers.get("etag")!;
  const again = () => fetch(base, { headers: { "if-none-match": tag } });
  expect((await again()).status).toBe(304);
  await create("One more");
  expect((await again()).status).toBe(200);
});
