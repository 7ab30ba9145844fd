import { randomUUID } from "node:crypto";
import { mkdtemp, rename, rm } from "node:fs/promises";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";
import {
  type BatchOrder,
  type BlankFacts,
  type CutListRow,
  cutListCsv,
  fileFormat,
  type JobOutcome,
  namedFiles,
  type PartDocument,
  proofsText,
} from "@hillcrest/core";
import type { Logger } from "pino";
import type { BuildPool } from "../builds/build-pool.ts";
import type { Asker } from "../builds/turns.ts";
import { DamagedRow } from "../damaged-row.ts";
import type { PartService } from "../parts/part-service.ts";
import type { ExportLog, LeftFile } from "./export-log.ts";
import type { BatchWritten } from "./export-work.ts";

/** What many parts are to leave as. */
export interface ManyOrder extends BatchOrder {
  readonly parts: readonly { readonly id: string; readonly quantity: number }[];
  readonly as: "zip" | "together";
  readonly pattern: string;
  readonly spacing: number;
  /** Blanks side by side: a file for each stock, or each stock in a group of one file. */
  readonly stocks: "files" | "groups";
  readonly by: string;
}

/** How far an export of many parts is. */
export interface BatchState {
  readonly id: string;
  readonly state: "working" | "ready" | "failed" | "cancelled";
  readonly done: number;
  readonly total: number;
  /** What is being done, in words. */
  readonly doing: string;
  readonly refused: readonly { readonly part: string; readonly why: string }[];
  /** Parts that were written although findings stop them. */
  readonly stopped: readonly { readonly part: string; readonly why: string }[];
  readonly problem?: string;
  /** The name of the file that is ready. */
  readonly file?: string;
}

interface Job {
  state: BatchState;
  readonly folder: string;
  readonly ending: AbortController;
  path?: string;
}

/** A finished export can be fetched for so long (ms). */
const KEPT_FOR = 30 * 60_000;
const MOST_KEPT = 20;

class Cancelled extends Error {}

/**
 * Exports of many parts, one after another part on the worker threads, beside all requests. A file is offered when all of
 * it is written and not before; one that is cancelled or fails leaves nothing.
 */
export class BatchJobs {
  private readonly jobs = new Map<string, Job>();

  constructor(
    private readonly parts: PartService,
    private readonly pool: BuildPool,
    private readonly log: ExportLog,
    private readonly trouble: Logger,
  ) {}

  async start(order: ManyOrder): Promise<BatchState> {
    const folder = await mkdtemp(join(tmpdir(), "hillcrest-export-"));
    const id = randomUUID();
    const job: Job = {
      folder,
      ending: new AbortController(),
      state: {
        id,
        state: "working",
        done: 0,
        total: order.parts.length,
        doing: "Checking and drawing",
        refused: [],
        stopped: [],
      },
    };
    this.jobs.set(id, job);
    for (const old of [...this.jobs.keys()].slice(0, -MOST_KEPT)) void this.drop(old);
    void this.run(job, order);
    return job.state;
  }

  state(id: string): BatchState | undefined {
    return this.jobs.get(id)?.state;
  }

  /** Where the finished file lies. */
  file(id: string): { readonly path: string; readonly name: string } | undefined {
    const job = this.jobs.get(id);
    return job?.path && job.state.file ? { path: job.path, name: job.state.file } : undefined;
  }

  /** Ends an export and takes away what it wrote. False where there is none. */
  async drop(id: string): Promise<boolean> {
    const job = this.jobs.get(id);
    if (!job) return false;
    this.jobs.delete(id);
    job.ending.abort();
    await rm(job.folder, { recursive: true, force: true });
    return true;
  }

  async close(): Promise<void> {
    await Promise.all([...this.jobs.keys()].map((id) => this.drop(id)));
  }

  private async run(job: Job, order: ManyOrder): Promise<void> {
    const say = (change: Partial<BatchState>) => {
      job.state = { ...job.state, ...change };
    };
    try {
      let name = "parts.zip";
      if (order.as === "zip") await this.zip(job, order, join(job.folder, name), say);
      else name = await this.together(job, order, job.folder, say);
      job.path = join(job.folder, name);
      say({ state: "ready", doing: "Ready", file: name });
    } catch (error) {
      if (job.ending.signal.aborted || error instanceof Cancelled)
        say({ state: "cancelled", doing: "Cancelled" });
      else {
        this.trouble.warn({ err: error }, "an export of many parts failed");
        say({ state: "failed", doing: "Failed", problem: (error as Error).message });
      }
      await rm(job.folder, { recursive: true, force: true });
    }
    setTimeout(() => void this.drop(job.state.id), KEPT_FOR).unref();
  }

  /** Does something for every part, as many at once as there are threads. The answers are in the order of the parts. */
  private async each<T>(
    job: Job,
    order: ManyOrder,
    say: (change: Partial<BatchState>) => void,
    work: (part: PartDocument, i: number) => Promise<JobOutcome<T>>,
  ): Promise<{ document: PartDocument; revision: number; answer: T; place: number }[]> {
    const out: { document: PartDocument; revision: number; answer: T; place: number }[] = [];
    let next = 0;
    let done = 0;
    const one = async () => {
      for (let i = next++; i < order.parts.length; i = next++) {
        if (job.ending.signal.aborted) throw new Cancelled();
        const stored = await this.parts.read(order.parts[i].id).catch((error: unknown) => {
          if (error instanceof DamagedRow) return error;
          throw error;
        });
        if (stored instanceof DamagedRow)
          say({ refused: [...job.state.refused, { part: order.parts[i].id, why: stored.message }] });
        else if (!stored)
          say({
            refused: [
              ...job.state.refused,
              { part: order.parts[i].id, why: "there is no such part any more" },
            ],
          });
        else {
          const outcome = await work(stored.document, i);
          if (outcome.kind === "cancelled") throw new Cancelled();
          if (outcome.kind === "result")
            out.push({
              document: stored.document,
              revision: stored.revision,
              answer: outcome.value,
              place: i,
            });
          else say({ refused: [...job.state.refused, { part: stored.document.name, why: outcome.message }] });
        }
        say({ done: ++done });
      }
    };
    await Promise.all(Array.from({ length: Math.min(4, Math.max(1, availableParallelism())) }, one));
    return out.sort((p, q) => p.place - q.place);
  }

  /** Says which parts were not written, and which were although findings stop them. */
  private tell(say: (change: Partial<BatchState>) => void, job: Job, rows: readonly CutListRow[]): void {
    const refused = rows.flatMap((r) => (r.refused ? [{ part: r.part, why: r.refused }] : []));
    const stopped = rows.flatMap((r) => (r.stopped ? [{ part: r.part, why: r.stopped }] : []));
    say({ refused: [...job.state.refused, ...refused], stopped });
  }

  /** An export is a client of its own, so that it never holds up whoever waits at a page. */
  private asker(job: Job): Asker {
    return { client: `export ${job.state.id}`, kind: "export", signal: job.ending.signal };
  }

  private async zip(
    job: Job,
    order: ManyOrder,
    path: string,
    say: (c: Partial<BatchState>) => void,
  ): Promise<void> {
    const answers = await this.each<BatchWritten>(job, order, say, (document, number) =>
      this.pool.batchFiles(
        { part: { document, quantity: order.parts[number].quantity }, order, folder: job.folder, number },
        this.asker(job),
      ),
    );
    this.tell(
      say,
      job,
      answers.map((a) => a.answer.row),
    );
    const { files, rows } = namedFiles(
      answers.map((a) => a.answer),
      order.pattern,
      fileFormat(order.format)!.ending,
    );
    if (files.length === 0) throw new Error("None of these parts can be written.");
    say({ doing: "Putting the files together" });
    const proofs = files.map(({ name, proof, sha256 }) => ({ name, proof, sha256 }));
    await this.pack(job, path, files, [
      { name: "cut list.csv", text: cutListCsv(rows) },
      ...(files.some((f) => f.proof.length > 0) ? [{ name: "proofs.txt", text: proofsText(proofs) }] : []),
    ]);
    let at = 0;
    const left = answers.flatMap(({ answer: { files: own, facts }, revision, place }) =>
      own.flatMap((file) => {
        const { name } = files[at++];
        return facts ? [leftFile(order, place, revision, name, file, facts)] : [];
      }),
    );
    await this.log.addAll(left);
  }

  /** Puts files and texts into a zip, which is there when all of it is written. */
  private async pack(
    job: Job,
    path: string,
    files: readonly { readonly name: string; readonly path: string }[],
    texts: readonly { readonly name: string; readonly text: string }[],
  ): Promise<void> {
    const question = {
      path: `${path}.part`,
      files: files.map((f) => ({ name: f.name, path: f.path })),
      texts,
    };
    const outcome = await this.pool.zip(question, this.asker(job));
    if (outcome.kind !== "result")
      throw outcome.kind === "cancelled" ? new Cancelled() : new Error(outcome.message);
    await rename(`${path}.part`, path);
  }

  /** Blanks side by side: one DXF, or a zip of one for each stock. The name of what was made. */
  private async together(
    job: Job,
    order: ManyOrder,
    folder: string,
    say: (c: Partial<BatchState>) => void,
  ): Promise<string> {
    const answers = await this.each(job, order, say, (document, i) =>
      this.pool.drawOne({ part: { document, quantity: order.parts[i].quantity }, order }, this.asker(job)),
    );
    const rows = answers.map((a) => a.answer.row);
    this.tell(say, job, rows);
    const wanted = answers.flatMap(({ answer: { drawn, row, facts }, ...part }) =>
      drawn && facts ? [{ ...part, drawn, row, facts }] : [],
    );
    say({ doing: "Laying the blanks side by side" });
    const outcome = await this.pool.together({ parts: wanted, order, folder }, this.asker(job));
    if (outcome.kind !== "result")
      throw outcome.kind === "cancelled" ? new Cancelled() : new Error(outcome.message);
    if ("refused" in outcome.value) throw new Error(outcome.value.refused);
    const files = outcome.value.files.map((f) => ({ ...f, name: `${f.name}.dxf` }));
    const single = files.length === 1 ? files[0] : undefined;
    const name = single ? "parts.dxf" : "parts.zip";
    const path = join(folder, name);
    if (single) await rename(single.path, path);
    else {
      const fileOf = (k: number) => files.find((f) => f.parts.includes(k))?.name ?? "";
      const listed = rows.map((row) => {
        const at = wanted.findIndex((w) => w.row === row);
        return { ...row, file: at < 0 ? "" : fileOf(at) };
      });
      await this.pack(job, path, files, [
        { name: "cut list.csv", text: cutListCsv(listed) },
        { name: "proofs.txt", text: proofsText(files) },
      ]);
    }
    const left = files.flatMap((file) =>
      file.parts.map((k) => {
        const { place, revision, facts } = wanted[k];
        return leftFile(order, place, revision, single ? name : file.name, file, facts);
      }),
    );
    await this.log.addAll(left);
    return name;
  }
}

/** What is kept with a part that has left. */
function leftFile(
  { format, preset, by, parts }: ManyOrder,
  place: number,
  revision: number,
  file: string,
  { proof, sha256 }: Pick<BatchWritten["files"][number], "proof" | "sha256">,
  facts: BlankFacts,
): LeftFile {
  const entry = { by, revision, format, file, sha256, preset: preset.name, proof, facts };
  return { part: parts[place].id, entry };
}
