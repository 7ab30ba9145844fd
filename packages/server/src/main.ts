import { createServer } from "node:http";
import { fileURLToPath } from "node:url";
import { Once, startingLibrary } from "@hillcrest/core";
import { pino } from "pino";
import type { DataSource } from "typeorm";
import { createApp } from "./app.ts";
import { BuildPool } from "./builds/build-pool.ts";
import { closeDatabase, isReadOnly, openDatabase } from "./data-source.ts";
import { databaseTrouble } from "./database-trouble.ts";
import { addDemoParts, addDemoStock } from "./demo.ts";
import { PartHistory } from "./parts/part-history.ts";
import { PartService } from "./parts/part-service.ts";
import { isLoopback } from "./request-guard.ts";
import { StockService } from "./stock/stock-service.ts";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const host = process.env.HILLCREST_HOST ?? "127.0.0.1";
const port = Number(process.env.HILLCREST_PORT ?? 4173);
const file = process.env.HILLCREST_DATABASE ?? `${root}data/hillcrest.sqlite`;
const demo = `${root}demo`;
const log = pino({ level: process.env.HILLCREST_LOG ?? "warn" });

const names = (process.env.HILLCREST_NAMES ?? "")
  .split(",")
  .map((n) => n.trim())
  .filter(Boolean);

/** Ends with a sentence, where going on would help nobody. */
function giveUp(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

/** The database, with something to choose from in a new one: the demo's own stock, or starting values. */
async function openShop(): Promise<DataSource> {
  try {
    const opened = await openDatabase(file);
    const parts = new PartService(opened);
    const stock = new StockService(opened);
    const withDemo = process.env.HILLCREST_DEMO !== "none";
    // What may only be read is shown as it is.
    if (isReadOnly(opened)) return opened;
    if (await stock.isEmpty()) await (withDemo ? addDemoStock(stock, demo) : stock.take(startingLibrary()));
    if (withDemo && (await parts.isEmpty())) await addDemoParts(parts, demo);
    return opened;
  } catch (error) {
    return giveUp(databaseTrouble(error, file) ?? `Hillcrest cannot start: ${(error as Error).message}`);
  }
}

const source = await openShop();
const pool = new BuildPool();
const app = createApp({ source, pool, file, host, names, log, pages: `${root}packages/web/dist`, demo });
const server = createServer(app);
server.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EADDRINUSE") {
    giveUp(`Port ${port} is taken. Stop what uses it, or choose another with HILLCREST_PORT.`);
  }
  giveUp(error.message);
});
server.listen(port, host, () => {
  const address = server.address();
  const open = typeof address === "object" && address ? address.port : port;
  process.stdout.write(`Hillcrest is at http://${host}:${open}/\n`);
  if (!isLoopback(host))
    process.stderr.write(
      `Hillcrest listens on ${host}: everybody who reaches this machine may read and change all parts, for there are no accounts. Listen on 127.0.0.1 unless that is meant.\n`,
    );
});

/** Old revisions are thinned out now and then, beside everything else. */
function thinNow(): void {
  void history.thinAll().catch((error: unknown) => log.error({ err: error }, "revisions were not thinned"));
}
const history = new PartHistory(source);
setTimeout(thinNow, 60_000).unref();
setInterval(thinNow, 3 * 3_600_000).unref();

/** Answers what is under way, ends builds, closes the database file, and ends: within three seconds, whatever happens. */
function stop(): void {
  const late = setTimeout(() => process.exit(1), 2500);
  late.unref();
  const ended = pool.close();
  server.close(async () => {
    await ended;
    await closeDatabase(source);
    process.exit(0);
  });
  server.closeIdleConnections();
}
const stopping = new Once(stop);
for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => stopping.value);
