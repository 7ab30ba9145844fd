import { availableParallelism } from "node:os";
import type { CardSnapshot, PartDocument } from "@hillcrest/core";
import { Piscina } from "piscina";
import type { PartPreview } from "../parts/preview.ts";
import type { CardChange } from "../stock/card-change.ts";

/** No build may take longer than this (ms); its thread is ended and another takes its place. */
export const BUILD_LIMIT = 20_000;
const MOST_MEMORY_MB = 1500;

/** A build that was ended because it took too long, or more memory than there is for it. */
export class BuildEnded extends Error {}

/** Builds parts on threads of their own, so that no request ever waits for one. */
export class BuildPool {
  private pool: Piscina | undefined;
  private readonly limit: number;

  constructor(limit = BUILD_LIMIT) {
    this.limit = limit;
  }

  preview(document: PartDocument): Promise<PartPreview> {
    return this.run("preview", document);
  }

  largePreview(document: PartDocument): Promise<PartPreview> {
    return this.run("largePreview", document);
  }

  cardChange(document: PartDocument, card: CardSnapshot): Promise<CardChange> {
    return this.run("cardChange", { document, card });
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

  private async run<T>(name: string, input: unknown): Promise<T> {
    const ending = new AbortController();
    let late: NodeJS.Timeout | undefined;
    try {
      const answer = this.threads().run(input, { name, signal: ending.signal });
      // Waiting for a thread does not count, so a queue of slow parts ends none that is quick.
      late = setTimeout(() => ending.abort(), this.limit + this.threads().queueSize * this.limit);
      return (await answer) as T;
    } catch (error) {
      if (ending.signal.aborted)
        throw new BuildEnded(`It takes longer than ${this.limit / 1000} s to build.`);
      if ((error as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY")
        throw new BuildEnded("It takes more memory to build than there is.");
      throw error;
    } finally {
      clearTimeout(late);
    }
  }

  /** Ends every build that is under way. */
  async close(): Promise<void> {
    await this.pool?.destroy();
    this.pool = undefined;
  }
}
