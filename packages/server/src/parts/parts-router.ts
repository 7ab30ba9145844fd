import type { PartDocument } from "@hillcrest/core";
import { type Response, Router } from "express";
import { checkBody } from "../check-body.ts";
import { CopyPartBody, CreatePartBody, SavePartBody } from "./part-bodies.ts";
import type { PartService } from "./part-service.ts";

const missing = (res: Response) => res.status(404).json({ message: "There is no part with this address." });

/** Parts over HTTP: list, read, create, save, copy, into the bin and back. */
export function partsRouter(parts: PartService): Router {
  const router = Router();

  router.get("/", async (req, res) => {
    res.json(await parts.list(req.query.bin === "1"));
  });

  router.post("/", async (req, res) => {
    const body = checkBody(CreatePartBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    res.status(201).json(await parts.create(body.value.document as PartDocument));
  });

  router.get("/:id", async (req, res) => {
    const part = await parts.read(req.params.id);
    if (!part) return void missing(res);
    res.json(part);
  });

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

  router.put("/:id", async (req, res) => {
    const body = checkBody(SavePartBody, req.body);
    if ("problems" in body) return void invalid(res, body.problems);
    const outcome = await parts.save(req.params.id, body.value.revision, body.value.document as PartDocument);
    if (outcome.kind === "missing") return void missing(res);
    if (outcome.kind === "saved")
      return void res.json({ revision: outcome.part.revision, updatedAt: outcome.part.updatedAt });
    res.status(409).json({
      message: `This part was saved elsewhere since: it now has revision ${outcome.current.revision}.`,
      current: outcome.current,
    });
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

function invalid(res: Response, problems: readonly { path: string; message: string }[]): void {
  const first = problems[0];
  res.status(400).json({ message: `The part was not saved: ${first.path}: ${first.message}`, problems });
}
