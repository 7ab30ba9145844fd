import type { Logger } from "pino";
import type { BuildPool } from "../builds/build-pool.ts";
import { whenCalm } from "../builds/when-calm.ts";
import { DamagedRow } from "../damaged-row.ts";
import type { PartService } from "./part-service.ts";
import { emptyPreview } from "./preview.ts";

/** Of parts that wait for their pictures so many are made at once. */
const AT_ONCE = 2;
/** While many people are served a picture waits so long at most, ms. */
const PUT_OFF = 2000;

/**
 * Makes what the Shelf shows of parts, after they are saved and beside all requests. Of several saves
 * of one part only the last is pictured.
 */
export class PreviewMaker {
  private readonly waiting = new Set<string>();
  private readonly under = new Set<string>();
  private closed = false;

  constructor(
    private readonly parts: PartService,
    private readonly pool: BuildPool,
    private readonly log: Logger,
  ) {}

  /** Asks for a part's preview. It comes later. */
  ask(id: string): void {
    this.waiting.add(id);
    this.next();
  }

  /** Asks for those of all parts that were saved and not pictured, as after a crash. */
  async askForMissing(): Promise<void> {
    for (const id of await this.parts.withoutPreview()) this.ask(id);
  }

  private next(): void {
    for (const id of this.waiting) {
      if (this.closed || this.under.size >= AT_ONCE) return;
      if (this.under.has(id)) continue;
      this.waiting.delete(id);
      this.under.add(id);
      void this.make(id).finally(() => {
        this.under.delete(id);
        this.next();
      });
    }
  }

  private async make(id: string): Promise<void> {
    try {
      await whenCalm(PUT_OFF);
      const part = await this.parts.read(id);
      if (!part || this.closed) return;
      const outcome = await this.pool.preview(part.document);
      // Closing ends builds that are under way; the next start asks for them again.
      if (outcome.kind === "cancelled") return;
      const preview =
        outcome.kind === "result" ? outcome.value : emptyPreview(part.document, outcome.message);
      if (outcome.kind === "failure")
        this.log.error({ part: id, message: outcome.message }, "a build failed");
      await this.parts.keepPreview(id, part.revision, preview);
    } catch (error) {
      if (error instanceof DamagedRow)
        await this.parts.keepDamaged(id, emptyPreview(undefined, error.message));
      else if (!this.closed) this.log.error({ err: error, part: id }, "no preview could be made");
    }
  }

  /** Begins nothing more. */
  close(): void {
    this.closed = true;
    this.waiting.clear();
  }
}
