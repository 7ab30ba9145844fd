import {
  BUILT_IN_PRESETS,
  DEFAULT_PATTERN,
  type ExportPreset,
  FILE_FORMATS,
  FOLDED_VIEWS,
  type FoldedView,
  fileFormat,
  type PartDocument,
  PLAIN_PRESET,
  presetOf,
  safeName,
} from "@hillcrest/core";
import { type Response, Router } from "express";
import type { BuildPool } from "../builds/build-pool.ts";
import { checkBody } from "../check-body.ts";
import { askerOf } from "../client-left.ts";
import type { PartService } from "../parts/part-service.ts";
import { answerInvalid, answerProblem, type BodyProblem } from "../problem.ts";
import type { StockService } from "../stock/stock-service.ts";
import type { BatchJobs } from "./batch-jobs.ts";
import { ExportManyBody, RecordExportBody } from "./export-bodies.ts";
import type { ExportLog, NewExport } from "./export-log.ts";
import type { FileQuestion } from "./export-work.ts";

const missing = (res: Response) =>
  answerProblem(res, "not-found", { detail: "There is no part with this address." });
const wrong = (res: Response, detail: string) => answerProblem(res, "invalid-request", { detail });

/** All presets there are: the shop's, and those that are always there. */
async function presetsOf(stock: StockService): Promise<ExportPreset[]> {
  const { presets } = await stock.library();
  return [...presets, ...BUILT_IN_PRESETS];
}

/** Looks for a preset by what a request says of it; the part's own where it says nothing. */
async function presetNamed(
  stock: StockService,
  document: PartDocument | undefined,
  named: unknown,
): Promise<ExportPreset | undefined> {
  const all = await presetsOf(stock);
  if (named === undefined) return document ? presetOf(document, all).preset : PLAIN_PRESET;
  return all.find((p) => p.id === named || p.name === named);
}

const numberIn = (text: unknown, low: number, high: number, otherwise: number): number | undefined => {
  if (text === undefined) return otherwise;
  const n = Number(text);
  return Number.isFinite(n) && n >= low && n <= high ? n : undefined;
};

/** What a request for a file asks for, or what is wrong with it. */
async function fileAsked(
  stock: StockService,
  document: PartDocument,
  format: string,
  query: Readonly<Record<string, unknown>>,
): Promise<FileQuestion | string> {
  const { preset: named, view, anyway, version, units } = query;
  const preset = await presetNamed(stock, document, named);
  const fold = numberIn(query.fold, 0, 1, 1);
  const dots = numberIn(query.dots, 16, 8000, 1600);
  if (!preset) return `There is no preset "${String(named)}".`;
  if (fold === undefined) return `"fold" must be a number from 0 to 1.`;
  if (dots === undefined) return `"dots" must be a number from 16 to 8000.`;
  if (view !== undefined && !FOLDED_VIEWS.includes(view as FoldedView))
    return `"view" must be one of ${FOLDED_VIEWS.join(", ")}.`;
  if (version !== undefined && version !== "r12" && version !== "r2000")
    return `"version" must be r12 or r2000.`;
  if (units !== undefined && units !== "mm" && units !== "in") return `"units" must be mm or in.`;
  const own = { ...preset, ...(version ? { version } : {}), ...(units ? { units } : {}) } as ExportPreset;
  return {
    document,
    format,
    preset: own,
    fold,
    dots,
    view: view as FoldedView | undefined,
    anyway: anyway === "1",
  };
}

/** What leaves of one part: files, what has left before, and holding what came back against it. */
export function partFilesRouter(
  parts: PartService,
  stock: StockService,
  pool: BuildPool,
  log: ExportLog,
): Router {
  const router = Router({ mergeParams: true });

  router.get("/files/:format", async (req, res) => {
    const { id, format: key } = req.params as { id: string; format: string };
    const part = await parts.read(id);
    if (!part) return void missing(res);
    const format = fileFormat(key);
    if (!format)
      return void answerProblem(res, "not-found", {
        detail: `There is no format "${key}"; there are ${FILE_FORMATS.map((f) => f.key).join(", ")}.`,
      });
    const asked = await fileAsked(stock, part.document, key, req.query);
    if (typeof asked === "string") return void wrong(res, asked);
    const outcome = await pool.makeFile(asked, askerOf(res));
    if (outcome.kind === "cancelled")
      return void answerProblem(res, "not-done", { detail: "It was not made." });
    if (outcome.kind !== "result")
      return void answerProblem(res, "not-possible", { detail: outcome.message });
    const made = outcome.value;
    if ("refused" in made)
      return void answerProblem(res, "not-possible", { detail: `No file was made: ${made.refused}` });
    res.attachment(`${safeName(part.document.name)}.${format.ending}`);
    res.type(format.type).send(typeof made.content === "string" ? made.content : Buffer.from(made.content));
  });

  router.get("/exports", async (req, res) => {
    const { id } = req.params as { id: string };
    const list = await log.list(id);
    if (list.length === 0 && !(await parts.read(id))) return void missing(res);
    res.json(list);
  });

  router.post("/exports", async (req, res) => {
    const { id } = req.params as { id: string };
    const body = checkBody(RecordExportBody, req.body, "facts");
    if ("problems" in body) return void invalid(res, body.problems);
    if (!(await parts.read(id))) return void missing(res);
    const { by = "", ...rest } = body.value;
    res.status(201).json(await log.add(id, { ...rest, by } as unknown as NewExport));
  });

  router.post("/compare", async (req, res) => {
    const { id } = req.params as { id: string };
    const part = await parts.read(id);
    if (!part) return void missing(res);
    const { dxf, within } = (req.body ?? {}) as { dxf?: unknown; within?: unknown };
    if (typeof dxf !== "string") return void wrong(res, `"dxf" must be the text of a DXF file.`);
    const off = numberIn(within, 1e-6, 100, 0.01);
    if (off === undefined) return void wrong(res, `"within" must be a number of mm up to 100.`);
    const preset = (await presetNamed(stock, part.document, undefined))!;
    const outcome = await pool.compare({ document: part.document, preset, dxf, within: off }, askerOf(res));
    if (outcome.kind === "cancelled")
      return void answerProblem(res, "not-done", { detail: "It was not compared." });
    if (outcome.kind !== "result")
      return void answerProblem(res, "not-possible", { detail: outcome.message });
    if ("refused" in outcome.value)
      return void answerProblem(res, "not-possible", { detail: outcome.value.refused });
    res.json(outcome.value);
  });

  return router;
}

/** Many parts at once: begun, looked at, fetched, and cancelled. */
export function exportsRouter(jobs: BatchJobs, stock: StockService): Router {
  const router = Router();
  const gone = (res: Response) =>
    answerProblem(res, "not-found", { detail: "There is no such export, or it was fetched long ago." });

  router.get("/formats", (_req, res) => {
    res.json(FILE_FORMATS.map(({ key, label, of, ending, type }) => ({ key, label, of, ending, type })));
  });

  router.post("/", async (req, res) => {
    const body = checkBody(ExportManyBody, req.body, "preset");
    if ("problems" in body) return void invalid(res, body.problems);
    const {
      format = "dxf",
      preset: named,
      pattern = DEFAULT_PATTERN,
      spacing = 5,
      by = "",
      ...rest
    } = body.value;
    if (!fileFormat(format)) return void wrong(res, `There is no format "${format}".`);
    const preset = typeof named === "object" ? named : await presetNamed(stock, undefined, named);
    if (!preset) return void wrong(res, `There is no preset "${String(named)}".`);
    const { apart = false, anyway = false, stocks = "files", parts, as } = rest;
    res
      .status(202)
      .json(await jobs.start({ format, preset, pattern, spacing, by, apart, anyway, stocks, parts, as }));
  });

  router.get("/:job", (req, res) => {
    const state = jobs.state(req.params.job);
    if (!state) return void gone(res);
    res.json(state);
  });

  router.get("/:job/file", (req, res) => {
    const found = jobs.file(req.params.job);
    if (!found) return void gone(res);
    res.download(found.path, found.name);
  });

  router.delete("/:job", async (req, res) => {
    if (!(await jobs.drop(req.params.job))) return void gone(res);
    res.status(204).end();
  });

  return router;
}

const invalid = (res: Response, problems: readonly BodyProblem[]) =>
  answerInvalid(res, "Nothing was exported", problems);
