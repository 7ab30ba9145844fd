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
  drawOne,
  drawTogether,
  FileAnswer,
  FileQuestion,
  TogetherQuestion,
  ZipQuestion,
} from "../exports/export-work.ts";
import type { PartPreview } from "../parts/preview.ts";
import type { CardChange } from "../stock/card-change.ts";

/** No build may take longer than this (ms); its thread is ended and another takes its place. */
export const BUILD_LIMIT = 20_000;
const MOST_MEMORY_MB = 1500;

/** Builds parts on threads of their own, so that no request ever waits for one. Every job is answered. */
export class BuildPool {
  private pool: Piscina | undefined;
  private readonly limit: number;
  private closed = false;
  private readonly closing: (() => Promise<void>)[] = [];

  constructor(limit = BUILD_LIMIT) {
    this.limit = limit;
  }

  preview(document: PartDocument, signal?: AbortSignal): Promise<JobOutcome<PartPreview>> {
    return this.run("preview", document, signal);
  }

  largePreview(document: PartDocument, signal?: AbortSignal): Promise<JobOutcome<PartPreview>> {
    return this.run("largePreview", document, signal);
  }

  findings(document: PartDocument, signal?: AbortSignal): Promise<JobOutcome<readonly ReportedFinding[]>> {
    return this.run("findings", document, signal);
  }

  cardChange(
    document: PartDocument,
    card: CardSnapshot,
    signal?: AbortSignal,
  ): Promise<JobOutcome<CardChange>> {
    return this.run("cardChange", { document, card }, signal);
  }

  makeFile(question: FileQuestion, signal?: AbortSignal): Promise<JobOutcome<FileAnswer>> {
    return this.run("makeFile", question, signal);
  }

  compare(question: CompareQuestion): Promise<JobOutcome<ReturnType<typeof compare>>> {
    return this.run("compare", question);
  }

  batchFiles(question: BatchQuestion, signal?: AbortSignal): Promise<JobOutcome<BatchWritten>> {
    return this.run("batchFiles", question, signal);
  }

  drawOne(
    question: Pick<BatchQuestion, "part" | "order">,
    signal?: AbortSignal,
  ): Promise<JobOutcome<ReturnType<typeof drawOne>>> {
    return this.run("drawOne", question, signal);
  }

  together(
    question: TogetherQuestion,
    signal?: AbortSignal,
  ): Promise<JobOutcome<ReturnType<typeof drawTogether>>> {
    return this.run("drawTogether", question, signal);
  }

  zip(question: ZipQuestion, signal?: AbortSignal): Promise<JobOutcome<void>> {
    return this.run("zipFiles", question, signal);
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
      maxThreads: Math.max(1, Math.min(4, availableParallelism() - 1)),
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    return this.pool;
  }

  private async run<T>(kind: string, input: unknown, signal?: AbortSignal): Promise<JobOutcome<T>> {
    if (this.closed) return { kind: "cancelled", because: "closed" };
    if (signal?.aborted) return { kind: "cancelled", because: "aborted" };
    const ending = new AbortController();
    const end = () => ending.abort();
    signal?.addEventListener("abort", end, { once: true });
    let late: NodeJS.Timeout | undefined;
    try {
      const answer = this.threads().run(input, { name: kind, signal: ending.signal });
      // Waiting for a thread does not count, so a queue of slow parts ends none that is quick.
      late = setTimeout(end, this.limit + this.threads().queueSize * this.limit);
      return { kind: "result", value: (await answer) as T };
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
    await Promise.all(this.closing.map((work) => work()));
    await this.pool?.destroy();
    this.pool = undefined;
  }
}
