import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { fileURLToPath } from "node:url";
import { BuildPool, closeDatabase, createApp, openDatabase } from "@hillcrest/server";
import { pino } from "pino";
import type { DataSource } from "typeorm";
import { notAsDescribed } from "./described.ts";

export const demo = fileURLToPath(new URL("../../../demo", import.meta.url));

export interface RunningServer {
  readonly ask: <T = unknown>(
    method: string,
    path: string,
    body?: unknown,
  ) => Promise<{ status: number; body: T }>;
  readonly port: number;
  readonly source: DataSource;
  readonly close: () => Promise<void>;
}

/** The API on a database file, listening on a free port. Every answer is held to what the server says of itself. `prepare` fills the database first. */
export async function runServer(
  file: string,
  prepare: (source: DataSource) => Promise<void> = async () => undefined,
  options: { readonly buildLimit?: number; readonly names?: readonly string[]; readonly pages?: string } = {},
): Promise<RunningServer> {
  const source = await openDatabase(file);
  await prepare(source);
  const pool = new BuildPool(options.buildLimit);
  const app = createApp({
    source,
    pool,
    file,
    log: pino({ level: "silent" }),
    demo,
    names: options.names,
    pages: options.pages,
  });
  const server = createServer(app);
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  const port = (server.address() as AddressInfo).port;
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  return {
    port,
    source,
    ask: async <T>(method: string, path: string, body?: unknown) => {
      const text = typeof body === "string" ? body : JSON.stringify(body);
      const headers = { "content-type": "application/json" };
      const sent = body === undefined ? {} : { body: text, headers };
      const response = await fetch(base + path, { method, ...sent });
      const answer = response.status === 204 ? undefined : await response.json();
      const type = response.headers.get("content-type");
      const wrong = notAsDescribed(method, `/api${path}`, response.status, type, answer);
      if (wrong) throw new Error(wrong);
      return { status: response.status, body: answer as T };
    },
    close: async () => {
      await pool.close();
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await closeDatabase(source);
    },
  };
}
