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
  tooManyTogether,
} from "@hillcrest/core";
import type { Logger } from "pino";
import type { BuildPool } from "../builds/build-pool.ts";
import type { PartService } from "../parts/part-service.ts";
import type { ExportLog } from "./export-log.ts";
import type { BatchWritten } from "./export-work.ts";

/** What many parts are to leave as. */
export interface ManyOrder extends BatchOrder {
  readonly parts: readonly { readonly id: string; readonly quantity: number }[];
  readonly as: "zip" | "together";
  readonly pattern: string;
  readonly spacing: number;
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
      state: { id, state: "working", done: 0, total: order.parts.length, doing: "Drawing", refused: [] },
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
      const name = order.as === "zip" ? "parts.zip" : "parts.dxf";
      const path = join(job.folder, name);
      await (order.as === "zip" ? this.zip(job, order, path, say) : this.together(job, order, path, say));
      job.path = path;
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
        const stored = await this.parts.read(order.parts[i].id);
        if (!stored)
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

  private refuse(say: (change: Partial<BatchState>) => void, job: Job, rows: readonly CutListRow[]): void {
    const refused = rows.flatMap((r) => (r.refused ? [{ part: r.part, why: r.refused }] : []));
    if (refused.length > 0) say({ refused: [...job.state.refused, ...refused] });
  }

  private async zip(
    job: Job,
    order: ManyOrder,
    path: string,
    say: (c: Partial<BatchState>) => void,
  ): Promise<void> {
    const { signal } = job.ending;
    const answers = await this.each<BatchWritten>(job, order, say, (document, number) =>
      this.pool.batchFiles(
        { part: { document, quantity: order.parts[number].quantity }, order, folder: job.folder, number },
        signal,
      ),
    );
    this.refuse(
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
    const outcome = await this.pool.zip(
      {
        path: `${path}.part`,
        files: files.map((f) => ({ name: f.name, path: f.path })),
        texts: [
          { name: "cut list.csv", text: cutListCsv(rows) },
          ...(files.some((f) => f.proof.length > 0)
            ? [{ name: "proofs.txt", text: proofsText(proofs) }]
            : []),
        ],
      },
      signal,
    );
    if (outcome.kind !== "result")
      throw outcome.kind === "cancelled" ? new Cancelled() : new Error(outcome.message);
    await rename(`${path}.part`, path);
    let at = 0;
    for (const { answer, revision, place } of answers)
      for (const f of answer.files) {
        const { name } = files[at++];
        if (answer.facts) await this.note(order, place, revision, name, f, answer.facts);
      }
  }

  private async together(
    job: Job,
    order: ManyOrder,
    path: string,
    say: (c: Partial<BatchState>) => void,
  ): Promise<void> {
    const { signal } = job.ending;
    const answers = await this.each(job, order, say, (document, i) =>
      this.pool.drawOne({ part: { document, quantity: order.parts[i].quantity }, order }, signal),
    );
    this.refuse(
      say,
      job,
      answers.map((a) => a.answer.row),
    );
    const wanted = answers.flatMap(({ answer, place }) =>
      answer.drawn ? [{ drawn: answer.drawn, quantity: order.parts[place].quantity }] : [],
    );
    if (wanted.length === 0) throw new Error("None of these parts can be written.");
    const tooMany = tooManyTogether(wanted);
    if (tooMany) throw new Error(tooMany);
    say({ doing: "Laying the blanks side by side" });
    const { version } = order.preset;
    const outcome = await this.pool.together({ wanted, spacing: order.spacing, version, path }, signal);
    if (outcome.kind !== "result")
      throw outcome.kind === "cancelled" ? new Cancelled() : new Error(outcome.message);
    const { proof, sha256 } = outcome.value;
    const wrong = proof.find((l) => !l.holds);
    if (wrong) throw new Error(`Read back, the file is not what was drawn: ${wrong.text}`);
    for (const { answer, revision, place } of answers)
      if (answer.facts && answer.drawn)
        await this.note(order, place, revision, "parts.dxf", { proof, sha256 }, answer.facts);
  }

  /** Keeps with each part that it has left. */
  private async note(
    order: ManyOrder,
    place: number,
    revision: number,
    file: string,
    { proof, sha256 }: Pick<BatchWritten["files"][number], "proof" | "sha256">,
    facts: BlankFacts,
  ): Promise<void> {
    const { format, preset, by } = order;
    await this.log.add(order.parts[place].id, {
      by,
      revision,
      format,
      file,
      sha256,
      preset: preset.name,
      proof,
      facts,
    });
  }
}
