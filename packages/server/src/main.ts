import { createServer } from "node:http";
import { fileURLToPath } from "node:url";
import { startingLibrary } from "@hillcrest/core";
import { pino } from "pino";
import { createApp } from "./app.ts";
import { closeDatabase, openDatabase } from "./data-source.ts";
import { addDemoParts, addDemoStock } from "./demo.ts";
import { PartService } from "./parts/part-service.ts";
import { StockService } from "./stock/stock-service.ts";

const root = fileURLToPath(new URL("../../../", import.meta.url));
const host = process.env.HILLCREST_HOST ?? "127.0.0.1";
const port = Number(process.env.HILLCREST_PORT ?? 4173);
const file = process.env.HILLCREST_DATABASE ?? `${root}data/hillcrest.sqlite`;
const demo = `${root}demo`;
const log = pino({ level: process.env.HILLCREST_LOG ?? "warn" });

const source = await openDatabase(file);
const parts = new PartService(source);
const stock = new StockService(source);
const withDemo = process.env.HILLCREST_DEMO !== "none";
// A shop begins with something to choose from: the demo's own stock, or starting values.
if (await stock.isEmpty()) await (withDemo ? addDemoStock(stock, demo) : stock.take(startingLibrary()));
if (withDemo && (await parts.isEmpty())) await addDemoParts(parts, demo);

const server = createServer(createApp({ source, log, pages: `${root}packages/web/dist`, demo }));
server.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EADDRINUSE") {
    process.stderr.write(
      `Port ${port} is taken. Stop what uses it, or choose another with HILLCREST_PORT.\n`,
    );
  } else process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
server.listen(port, host, () => {
  const address = server.address();
  const open = typeof address === "object" && address ? address.port : port;
  process.stdout.write(`Hillcrest is at http://${host}:${open}/\n`);
});

let stopping = false;
/** Answers what is under way, closes the database file, and ends. */
function stop(): void {
  if (stopping) return;
  stopping = true;
  const late = setTimeout(() => process.exit(1), 8000);
  late.unref();
  server.close(async () => {
    await closeDatabase(source);
    process.exit(0);
  });
  server.closeIdleConnections();
}
process.on("SIGINT", stop);
process.on("SIGTERM", stop);
