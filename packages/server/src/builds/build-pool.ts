import { availableParallelism } from "node:os";
import {
  type CardSnapshot,
  type JobOutcome,
  type PartDocument,
  type ReportedFinding,
  tooLong,
} from "@hillcrest/core";
import { Piscina } from "piscina";
import type {
  BatchQuestion,
  BatchWritten,
  CompareQuestion,
  compare,
  Drawn,
  DrawQuestion,
  drawTogether,
  FileAnswer,
  FileQuestion,
  TogetherQuestion,
  ZipQuestion,
} from "../exports/export-work.ts";
import type { KnownFindings } from "../parts/known-findings.ts";
import type { PartPreview } from "../parts/preview.ts";
import type { CardChange } from "../stock/card-change.ts";
import type { Checked } from "./checked.ts";
import { type Asker, Turns } from "./turns.ts";

/** No build may take longer than this (ms); its thread is ended and another takes its place. */
export const BUILD_LIMIT = 20_000;
const MOST_MEMORY_MB = 1500;
/** One that takes long never holds up all others. */
const THREADS = Math.max(2, Math.min(4, availableParallelism() - 1));
const PREVIEWS: Asker = { client: "previews", kind: "picture" };

/** Builds parts on threads of their own, so that no request ever waits for one. Every job is answered. */
export class BuildPool {
  private pool: Piscina | undefined;
  private readonly limit: number;
  private closed = false;
  private readonly closing: (() => Promise<void>)[] = [];
  private readonly ending = new AbortController();
  private readonly turns = new Turns(THREADS);
  private known: KnownFindings | undefined;

  constructor(limit = BUILD_LIMIT) {
    this.limit = limit;
  }

  /** Lets the pool know what earlier searches found, and keep what later ones find. */
  remember(known: KnownFindings): void {
    this.known = known;
  }

  preview(document: PartDocument, by: Asker = PREVIEWS): Promise<JobOutcome<PartPreview>> {
    return this.runChecked("preview", document, {}, by);
  }

  largePreview(document: PartDocument, by: Asker): Promise<JobOutcome<PartPreview>> {
    return this.run("largePreview", document, by);
  }

  findings(document: PartDocument, by: Asker): Promise<JobOutcome<readonly ReportedFinding[]>> {
    return this.runChecked("findings", document, {}, by);
  }

  cardChange(document: PartDocument, card: CardSnapshot, by: Asker): Promise<JobOutcome<CardChange>> {
    return this.run("cardChange", { document, card }, by);
  }

  makeFile(question: FileQuestion, by: Asker): Promise<JobOutcome<FileAnswer>> {
    return this.runChecked("makePartFile", question.document, question, by);
  }

  compare(question: CompareQuestion, by: Asker): Promise<JobOutcome<ReturnType<typeof compare>>> {
    return this.run("compare", question, by);
  }

  batchFiles(question: BatchQuestion, by: Asker): Promise<JobOutcome<BatchWritten>> {
    return this.runChecked("batchFiles", question.part.document, question, by);
  }

  drawOne(question: DrawQuestion, by: Asker): Promise<JobOutcome<Drawn>> {
    return this.runChecked("drawOne", question.part.document, question, by);
  }

  together(question: TogetherQuestion, by: Asker): Promise<JobOutcome<ReturnType<typeof drawTogether>>> {
    return this.run("drawTogether", question, by);
  }

  zip(question: ZipQuestion, by: Asker): Promise<JobOutcome<void>> {
    return this.run("zipFiles", question, by);
  }

  /** Has something done before the pool is closed. */
  onClose(work: () => Promise<void>): void {
    this.closing.push(work);
  }

  /** Threads are started when the first build is asked for. */
  private threads(): Piscina {
    this.pool ??= new Piscina({
      filename: new URL("./build-worker.js", import.meta.url).href,
      minThreads: 0,
      maxThreads: THREADS,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    return this.pool;
  }

  /** Does what needs all findings of a document: those of an earlier search are used, those of a new one are kept. */
  private async runChecked<T>(
    kind: string,
    document: PartDocument,
    question: object,
    by: Asker,
  ): Promise<JobOutcome<T>> {
    const known = await this.known?.of(document).catch(() => undefined);
    const outcome = await this.run<Checked<T>>(kind, { ...question, document, known }, by);
    if (outcome.kind !== "result") return outcome;
    if (!known) await this.known?.keep(document, outcome.value.collisions);
    return { kind: "result", value: outcome.value.made };
  }

  private async run<T>(kind: string, input: unknown, by: Asker): Promise<JobOutcome<T>> {
    const { signal } = by;
    const end = this.closed ? undefined : await this.turns.take({ ...by, signal: this.endedBy(signal) });
    if (this.closed) return { kind: "cancelled", because: "closed" };
    if (!end || signal?.aborted) return { kind: "cancelled", because: "aborted" };
    try {
      return await this.perform<T>(kind, input, signal);
    } finally {
      end();
    }
  }

  /** Ends with a signal, or when the pool is closed. */
  private endedBy(signal: AbortSignal | undefined): AbortSignal {
    return signal ? AbortSignal.any([signal, this.ending.signal]) : this.ending.signal;
  }

  /** Does a job on a thread that is free: its time counts from here. */
  private async perform<T>(
    kind: string,
    input: unknown,
    signal: AbortSignal | undefined,
  ): Promise<JobOutcome<T>> {
    const ending = new AbortController();
    const end = () => ending.abort();
    signal?.addEventListener("abort", end, { once: true });
    const late = setTimeout(end, this.limit);
    try {
      const answer = await this.threads().run(input, { name: kind, signal: ending.signal });
      return { kind: "result", value: answer as T };
    } catch (error) {
      if (signal?.aborted) return { kind: "cancelled", because: "aborted" };
      if (ending.signal.aborted) return { kind: "limit", message: tooLong(this.limit) };
      if (this.closed) return { kind: "cancelled", because: "closed" };
      if ((error as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY")
        return { kind: "limit", message: "It takes more memory to build than there is." };
      return { kind: "failure", message: error instanceof Error ? error.message : String(error) };
    } finally {
      clearTimeout(late);
      signal?.removeEventListener("abort", end);
    }
  }

  /** Ends every build that is under way. */
  async close(): Promise<void> {
    this.closed = true;
    this.ending.abort();
    await Promise.all(this.closing.map((work) => work()));
    await this.pool?.destroy();
    this.pool = undefined;
  }
}
