import { notesOfChange, type PartCommand, type PartDocument } from "@hillcrest/core";
import { type Response, Router } from "express";
import type { BuildPool } from "../builds/build-pool.ts";
import { checkBody } from "../check-body.ts";
import { askerOf } from "../client-left.ts";
import { answerInvalid, answerProblem, type BodyProblem } from "../problem.ts";
import {
  CallRevisionBody,
  CopyPartBody,
  CreatePartBody,
  EditPartBody,
  FromRevisionBody,
  SavePartBody,
} from "./part-bodies.ts";
import type { PartHistory } from "./part-history.ts";
import type { EditOutcome, PartService } from "./part-service.ts";
import { emptyPreview } from "./preview.ts";

const missing = (res: Response) =>
  answerProblem(res, "not-found", { detail: "There is no part with this address." });

/** Parts over HTTP: list, read, create, save, edit, copy, into the bin and back, and their history. */
export function partsRouter(parts: PartService, history: PartHistory, pool: BuildPool): Router {
  const router = Router();
  router.use("/:id/revisions", revisionsRouter(parts, history, pool));
  router.use("/:id/findings", findingsRouter(parts, pool));
  addReadingRoutes(router, parts);

  router.get("/", async (req, res) => {
    const { list, tag } = await parts.listed.ask(req.query.bin === "1");
    res.set("etag", tag).set("cache-control", "private, no-cache");
    if (req.get("if-none-match") === tag) return void res.status(304).end();
    res.type("application/json").send(list);
  });

  router.post("/", async (req, res) => {
    const body = checkBody(CreatePartBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    const document = body.value.document as PartDocument;
    res.status(201).json({ ...(await parts.create(document)), notes: notesOfChange(undefined, document) });
  });

  router.get("/:id", async (req, res) => {
    const part = await parts.read(req.params.id);
    if (!part) return void missing(res);
    res.json(part);
  });

  router.put("/:id", async (req, res) => {
    const body = checkBody(SavePartBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    const { revision, document } = body.value;
    answerSave(res, await parts.save(req.params.id, revision, document as PartDocument));
  });

  router.patch("/:id", async (req, res) => {
    const body = checkBody(EditPartBody, req.body, "commands");
    if ("problems" in body) return void invalid(res, body.problems);
    const { revision, commands } = body.value;
    const list = (Array.isArray(commands) ? commands : [commands]) as PartCommand[];
    answerSave(res, await parts.edit(req.params.id, revision, list));
  });

  router.post("/:id/copy", async (req, res) => {
    const body = checkBody(CopyPartBody, req.body ?? {});
    if ("problems" in body) return void invalid(res, body.problems);
    const copy = await parts.copy(req.params.id, body.value.follows ?? false);
    if (!copy) return void missing(res);
    res.status(201).json(copy);
  });

  router.delete("/:id", async (req, res) => {
    if (!(await parts.setBinned(req.params.id, true))) return void missing(res);
    res.status(204).end();
  });

  router.post("/:id/restore", async (req, res) => {
    if (!(await parts.setBinned(req.params.id, false))) return void missing(res);
    res.json(await parts.read(req.params.id));
  });

  return router;
}

/** What is only read of a part: its pictures, its document as a file. */
function addReadingRoutes(router: Router, parts: PartService): void {
  router.get("/:id/pictures", async (req, res) => {
    const found = await parts.pictures(req.params.id);
    if (!found) return void missing(res);
    // The address names a revision: what was drawn of it never changes.
    const settled = req.query.revision === String(found.pictured);
    res.set("cache-control", settled ? "private, max-age=31536000, immutable" : "no-store");
    res.json(found.pictures);
  });

  router.get("/:id/file", async (req, res) => {
    const part = await parts.read(req.params.id);
    if (!part) return void missing(res);
    res.attachment(`${part.document.name.replace(/[^\w .-]+/g, "_").slice(0, 80) || "part"}.json`);
    res.type("application/json").send(JSON.stringify(part.document, null, 2));
  });
}

/** What the checks find on a part. */
function findingsRouter(parts: PartService, pool: BuildPool): Router {
  const router = Router({ mergeParams: true });
  router.get("/", async (req, res) => {
    const { id } = req.params as { id: string };
    const part = await parts.read(id);
    if (!part) return void missing(res);
    const outcome = await pool.findings(part.document, askerOf(res));
    if (outcome.kind === "cancelled")
      return void answerProblem(res, "not-done", { detail: "It was not checked." });
    if (outcome.kind !== "result")
      return void answerProblem(res, "not-possible", { detail: outcome.message });
    res.json({ revision: part.revision, findings: outcome.value });
  });
  return router;
}

/** A part's revisions: list, read, take one back, name one. */
function revisionsRouter(parts: PartService, history: PartHistory, pool: BuildPool): Router {
  const router = Router({ mergeParams: true });
  const noRevision = (res: Response) =>
    answerProblem(res, "not-found", {
      detail: "There is no such revision of this part, or it was thinned out.",
    });
  const places = (params: unknown): { id: string; number: number } => {
    const { id, number } = params as { id: string; number?: string };
    return { id, number: /^\d{1,9}$/.test(number ?? "") ? Number(number) : -1 };
  };

  router.get("/", async (req, res) => {
    const { id } = places(req.params);
    const before = Number(req.query.before ?? Number.MAX_SAFE_INTEGER);
    if (!Number.isSafeInteger(before))
      return void answerProblem(res, "invalid-request", {
        detail: '"before" must be the number of a revision.',
      });
    const list = await history.list(id, before);
    if (list.length === 0 && !(await parts.read(id))) return void missing(res);
    res.json(list);
  });

  router.get("/:number", async (req, res) => {
    const { id, number } = places(req.params);
    const found = await history.read(id, number);
    if (!found) return void noRevision(res);
    res.json(found);
  });

  router.get("/:number/preview", async (req, res) => {
    const { id, number } = places(req.params);
    const found = await history.read(id, number);
    if (!found) return void noRevision(res);
    const { document } = found;
    const outcome = await pool.largePreview(document, askerOf(res));
    if (outcome.kind === "cancelled")
      return void answerProblem(res, "not-done", { detail: "It was not built." });
    const preview = outcome.kind === "result" ? outcome.value : emptyPreview(document, outcome.message);
    res.set("cache-control", "private, max-age=3600");
    res.json(preview);
  });

  router.post("/:number/restore", async (req, res) => {
    const body = checkBody(FromRevisionBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    const { id, number } = places(req.params);
    if (!(await history.read(id, number))) return void noRevision(res);
    answerSave(res, await parts.restore(id, body.value.revision, number));
  });

  router.put("/:number/name", async (req, res) => {
    const body = checkBody(CallRevisionBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    const { id, number } = places(req.params);
    if (!(await history.call(id, number, body.value.name))) return void noRevision(res);
    res.status(204).end();
  });

  return router;
}

function answerSave(res: Response, outcome: EditOutcome): void {
  switch (outcome.kind) {
    case "missing":
      return void missing(res);
    case "refused":
      return void answerProblem(res, "invalid-request", {
        detail: `The part was not changed: ${outcome.message}`,
      });
    case "saved":
      return void res.json({
        revision: outcome.revision,
        updatedAt: outcome.updatedAt,
        notes: outcome.notes,
      });
    case "stale":
      answerProblem(res, "stale", {
        detail: `This part was saved elsewhere since: it now has revision ${outcome.current.revision}.`,
        current: outcome.current,
      });
  }
}

const invalid = (res: Response, problems: readonly BodyProblem[]) =>
  answerInvalid(res, "The part was not saved", problems);
