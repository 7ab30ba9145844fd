import { existsSync } from "node:fs";
import { join } from "node:path";
import { LARGEST_DOCUMENT, LARGEST_LIBRARY } from "@hillcrest/core";
import compression from "compression";
import express, { type ErrorRequestHandler, type Express } from "express";
import staticGzip from "express-static-gzip";
import helmet from "helmet";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import type { DataSource } from "typeorm";
import { checkBodyShape } from "./body-shape.ts";
import type { BuildPool } from "./builds/build-pool.ts";
import { DamagedRow } from "./damaged-row.ts";
import { isReadOnly } from "./data-source.ts";
import { databaseTrouble } from "./database-trouble.ts";
import { addDemoParts, addDemoStock } from "./demo.ts";
import { BatchJobs } from "./exports/batch-jobs.ts";
import { ExportLog } from "./exports/export-log.ts";
import { exportsRouter, partFilesRouter } from "./exports/exports-router.ts";
import { openApi } from "./openapi.ts";
import { KnownFindings } from "./parts/known-findings.ts";
import { PartHistory } from "./parts/part-history.ts";
import { PartService } from "./parts/part-service.ts";
import { partsRouter } from "./parts/parts-router.ts";
import { PreviewMaker } from "./parts/preview-maker.ts";
import { answerProblem, type ProblemKind } from "./problem.ts";
import { guardRequests, knownNames } from "./request-guard.ts";
import { stockRouter } from "./stock/stock-router.ts";
import { StockService } from "./stock/stock-service.ts";
import { TakeOverJobs } from "./stock/take-over-jobs.ts";

/** A drawing that came back may have so many bytes. */
const LARGEST_RETURNED = 40_000_000;

export interface AppOptions {
  readonly source: DataSource;
  /** Where parts are built. */
  readonly pool: BuildPool;
  /** The database file, for messages. */
  readonly file: string;
  /** The address listened on, and the names by which requests may call this server besides loopback. */
  readonly host?: string;
  readonly names?: readonly string[];
  readonly log: Logger;
  /** Folder of the built web pages; without it only the API is served. */
  readonly pages?: string;
  readonly demo?: string;
}

/** The whole HTTP side: API first, then pages, and every error as a message a person can read. */
export function createApp({ source, pool, file, host, names, log, pages, demo }: AppOptions): Express {
  const app = express();
  const parts = new PartService(source);
  const history = new PartHistory(source);
  const previews = new PreviewMaker(parts, pool, log);
  parts.onSaved = (id) => previews.ask(id);
  pool.onClose(async () => previews.close());
  void previews
    .askForMissing()
    .catch((error: unknown) => log.error({ err: error }, "previews were not asked for"));
  const stock = new StockService(source);
  app.disable("x-powered-by");
  // Answers are made anew for each question; to hash them all would cost more than it ever saves.
  app.disable("etag");
  app.use(pinoHttp({ logger: log, autoLogging: { ignore: (req) => !req.url?.startsWith("/api/") } }));
  app.use(guardRequests(knownNames(host ?? "127.0.0.1", names ?? [])));
  // What is made anew for each request is packed in the least time; pages, which stand still, are packed well.
  app.use("/api", compression({ level: 1 }));
  app.use(compression());
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          // Pages are served over plain HTTP on the own machine, and styles of views are set inline.
          upgradeInsecureRequests: null,
          styleSrc: ["'self'", "'unsafe-inline'"],
          workerSrc: ["'self'", "blob:"],
          imgSrc: ["'self'", "data:", "blob:"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // A stock library may hold charts of very many rows; a part may not.
  app.use("/api/stock", express.json({ limit: LARGEST_LIBRARY }));
  app.use("/api/parts/:id/compare", express.json({ limit: LARGEST_RETURNED }));
  app.use("/api", express.json({ limit: LARGEST_DOCUMENT + 100_000 }));
  app.use("/api", checkBodyShape);
  app.get("/api/health", (_req, res) => void res.json({ ok: true }));
  app.get("/api/openapi.json", (_req, res) => void res.json(openApi()));
  pool.remember(new KnownFindings(source));
  const left = new ExportLog(source);
  const jobs = new BatchJobs(parts, pool, left, log);
  pool.onClose(() => jobs.close());
  const takeOvers = new TakeOverJobs(source, parts, stock, log);
  pool.onClose(() => takeOvers.close());
  if (!isReadOnly(source))
    void takeOvers
      .resume()
      .catch((error: unknown) => log.error({ err: error }, "jobs were not gone on with"));
  app.use("/api/parts/:id", partFilesRouter(parts, stock, pool, left));
  app.use("/api/exports", exportsRouter(jobs, stock));
  app.use("/api/parts", partsRouter(parts, history, pool));
  app.use("/api/stock", stockRouter(stock, parts, pool, takeOvers));
  app.post("/api/demo", async (_req, res) => {
    if (!demo) return void answerProblem(res, "not-found", { detail: "This server has no demo parts." });
    if (await stock.isEmpty()) await addDemoStock(stock, demo);
    res.status(201).json({ added: await addDemoParts(parts, demo) });
  });
  app.use("/api", (_req, res) =>
    answerProblem(res, "not-found", { detail: "There is nothing at this address." }),
  );
  if (pages && existsSync(join(pages, "index.html"))) servePages(app, pages);
  app.use(answerErrors(log, file));
  return app;
}

function servePages(app: Express, pages: string): void {
  // Packed when they were built: to pack two megabytes for each visit would take most of the time of it.
  const packed = { enableBrotli: true, orderPreference: ["br", "gz"] };
  app.use(
    "/assets",
    staticGzip(join(pages, "assets"), { ...packed, serveStatic: { immutable: true, maxAge: "1y" } }),
  );
  app.use(staticGzip(pages, { ...packed, index: false, serveStatic: { maxAge: 0 } }));
  app.use((req, res, next) => {
    if (!["GET", "HEAD"].includes(req.method)) return next();
    if (req.path.startsWith("/assets"))
      return void res.status(404).type("text/plain").send("There is nothing at this address.\n");
    res.sendFile(join(pages, "index.html"));
  });
}

const answerErrors =
  (log: Logger, file: string): ErrorRequestHandler =>
  (error, _req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof DamagedRow)
      return void answerProblem(res, "not-possible", { detail: error.message });
    const trouble = databaseTrouble(error, file);
    if (trouble) {
      log.error({ err: error }, "request failed");
      return void answerProblem(res, "database-trouble", { detail: `${trouble} Nothing was changed.` });
    }
    const { kind, ...details } = explain(error);
    if (kind === "server-error") log.error({ err: error }, "request failed");
    answerProblem(res, kind, details);
  };

function explain(error: { type?: string; status?: number; message?: string }): {
  kind: ProblemKind;
  detail: string;
  status?: number;
} {
  if (error.type === "entity.too.large") {
    return {
      kind: "too-large",
      detail: `The request is too large: a part document can have at most ${LARGEST_DOCUMENT / 1e6} MB, a stock library ${LARGEST_LIBRARY / 1e6} MB.`,
    };
  }
  if (error.type === "entity.parse.failed")
    return { kind: "invalid-request", detail: `The request is not valid JSON: ${error.message}` };
  if (error.status && error.status < 500)
    return {
      kind: "invalid-request",
      detail: error.message ?? "The request is wrong",
      status: error.status,
    };
  return {
    kind: "server-error",
    detail: "The server could not do this; nothing was changed. Its log says why.",
  };
}
