import { STOCK_SECTIONS, type StockItem, type StockLibrary, type StockSection } from "@hillcrest/core";
import { type Response, Router } from "express";
import type { BuildPool } from "../builds/build-pool.ts";
import { checkBody } from "../check-body.ts";
import { askerOf } from "../client-left.ts";
import type { PartService } from "../parts/part-service.ts";
import { answerInvalid, answerProblem } from "../problem.ts";
import { ImportLibraryBody, SaveStockItemBody, StockImpactBody, TakeOverBody } from "./stock-bodies.ts";
import { stockImpact } from "./stock-impact.ts";
import type { StockService } from "./stock-service.ts";
import type { TakeOverJobs } from "./take-over-jobs.ts";

const missing = (res: Response) =>
  answerProblem(res, "not-found", { detail: "There is no such thing in the stock library." });

const isSection = (text: string): text is StockSection =>
  (STOCK_SECTIONS as readonly string[]).includes(text);

/** The stock library over HTTP: items, snapshots of cards, what a change would do, import and export. */
export function stockRouter(
  stock: StockService,
  parts: PartService,
  pool: BuildPool,
  jobs: TakeOverJobs,
): Router {
  const router = Router();

  router.get("/", async (_req, res) => {
    res.json(await stock.list());
  });

  router.get("/library", async (_req, res) => {
    res.attachment("stock-library.json");
    res.type("application/json").send(JSON.stringify(await stock.library(), null, 1));
  });

  router.post("/library", async (req, res) => {
    const body = checkBody(ImportLibraryBody, req.body, "library");
    if ("problems" in body) return void answerInvalid(res, "Nothing was imported", body.problems);
    res.json(await stock.take(body.value.library as StockLibrary));
  });

  router.post("/impact", async (req, res) => {
    const body = checkBody(StockImpactBody, req.body ?? {}, "item");
    if ("problems" in body)
      return void answerInvalid(res, "It cannot be said what this would change", body.problems);
    const { section, item, card } = body.value;
    const change = section && item ? { section, item: item as StockItem } : undefined;
    const asked = { change, card, by: askerOf(res) };
    res.type("application/x-ndjson");
    for await (const line of stockImpact(parts, stock, pool, asked)) {
      res.write(`${JSON.stringify(line)}\n`);
      // What packs the answer would keep a line back until there are many.
      res.flush();
    }
    res.end();
  });

  router.use("/take-over", takeOverRouter(jobs));

  router.get("/cards/:id/snapshot", async (req, res) => {
    const snapshot = await stock.snapshot(req.params.id);
    if (!snapshot) return void missing(res);
    res.json(snapshot);
  });

  addItemRoutes(router, stock, jobs);
  return router;
}

/** Parts that take a change of stock over: begun, looked at, cancelled. */
function takeOverRouter(jobs: TakeOverJobs): Router {
  const router = Router();
  const missingJob = (res: Response) =>
    answerProblem(res, "not-found", { detail: "There is no such change of stock under way or kept." });

  router.get("/", async (_req, res) => {
    res.json(await jobs.list());
  });

  router.post("/", async (req, res) => {
    const body = checkBody(TakeOverBody, req.body);
    if ("problems" in body) return void answerInvalid(res, "No part was changed", body.problems);
    res.status(202).json(await jobs.start(body.value.parts));
  });

  router.get("/:job", async (req, res) => {
    const state = await jobs.state(req.params.job);
    if (!state) return void missingJob(res);
    res.json(state);
  });

  router.delete("/:job", async (req, res) => {
    await jobs.cancel(req.params.job);
    const entry = await jobs.entry(req.params.job);
    if (!entry) return void missingJob(res);
    res.json(entry);
  });

  return router;
}

function addItemRoutes(router: Router, stock: StockService, jobs: TakeOverJobs): void {
  router.get("/:section/:id", async (req, res) => {
    const { section, id } = req.params;
    const entry = isSection(section) ? await stock.read(section, id) : undefined;
    if (!entry) return void missing(res);
    res.json(entry);
  });

  router.put("/:section/:id", async (req, res) => {
    const { section, id } = req.params;
    const body = checkBody(SaveStockItemBody, { ...(req.body as object), section }, "item");
    if ("problems" in body) return void answerInvalid(res, "It was not saved", body.problems);
    const item = body.value.item as StockItem;
    if (item.id !== id)
      return void answerInvalid(res, "It was not saved", [
        { path: "/item/id", message: "The id is not that of the address." },
      ]);
    const { revision, parts = [] } = body.value;
    let job: string | undefined;
    const outcome = await stock.save(body.value.section, revision, item, async (manager) => {
      job = parts.length > 0 ? await jobs.enter(manager, parts) : undefined;
    });
    if (job !== undefined) jobs.queue(job);
    if (outcome.kind === "missing") return void missing(res);
    if (outcome.kind === "refused")
      return void answerProblem(res, "invalid-request", { detail: outcome.message });
    if (outcome.kind === "saved")
      return void res.json({
        revision: outcome.entry.revision,
        updatedAt: outcome.entry.updatedAt,
        ...(job === undefined ? {} : { takeOver: await jobs.entry(job) }),
      });
    answerProblem(res, "stale", {
      detail: `“${outcome.current.item.name}” was saved elsewhere since: it now has revision ${outcome.current.revision}.`,
      current: outcome.current,
    });
  });

  router.delete("/:section/:id", async (req, res) => {
    const { section, id } = req.params;
    if (!isSection(section)) return void missing(res);
    const outcome = await stock.remove(section, id);
    if (outcome.kind === "missing") return void missing(res);
    if (outcome.kind === "used") return void answerProblem(res, "in-use", { detail: outcome.message });
    res.status(204).end();
  });
}
