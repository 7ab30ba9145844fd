import { randomUUID } from "node:crypto";
import { setImmediate as immediate, setTimeout as wait } from "node:timers/promises";
import { type CardSnapshot, cardOf, sameSnapshot } from "@hillcrest/core";
import type { Logger } from "pino";
import type { DataSource, EntityManager } from "typeorm";
import { DamagedRow } from "../damaged-row.ts";
import { PartRow } from "../parts/part.entity.ts";
import { type PartService, readPart } from "../parts/part-service.ts";
import { inTurn } from "../write-turns.ts";
import { withCard } from "./card-change.ts";
import type { StockService } from "./stock-service.ts";
import { TakeOverPartRow, TakeOverRow } from "./take-over.entity.ts";

/** What became of a part. */
export interface TakenPart {
  readonly id: string;
  readonly name: string;
  /** The revision that was made of it. */
  readonly revision?: number;
  /** Why it was left as it is. */
  readonly why?: string;
}

/** How far taking a change of stock over is, in numbers of parts. */
export interface TakeOverEntry {
  readonly id: string;
  readonly state: TakeOverRow["state"];
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly total: number;
  /** How many parts are done: changed, or left as they are with the reason. */
  readonly done: number;
  readonly changed: number;
  readonly skipped: number;
  /** Why it does not go on just now; it is tried again by itself. */
  readonly problem?: string;
}

/** The same with every part that is done. */
export interface TakeOverState extends TakeOverEntry {
  readonly changedParts: readonly TakenPart[];
  readonly skippedParts: readonly TakenPart[];
}

/** The newest are listed; so many are kept. */
const MOST_LISTED = 10;
const MOST_KEPT = 200;
/** Where the database cannot be written it is tried again after so long, ms. */
const AGAIN_AFTER = 3000;

/** What a part is to become, or why it is left as it is. */
type Taken = { readonly revision: number } | { readonly why: string };

/**
 * Changes of stock that parts take over. A job and the state of each of its parts stand in the database: the part and its
 * line in the job are written in one transaction, so that a job goes on where it was when the server was ended, however
 * that came about, and always says which parts it has changed.
 */
export class TakeOverJobs {
  private readonly problems = new Map<string, string>();
  private readonly closing = new AbortController();
  /** Jobs are done one after another. */
  private line: Promise<void> = Promise.resolve();

  constructor(
    private readonly source: DataSource,
    private readonly parts: PartService,
    private readonly stock: StockService,
    private readonly log: Logger,
  ) {}

  /** Goes on with the jobs that the last end of the server cut off. */
  async resume(): Promise<void> {
    const open = await this.source.manager.find(TakeOverRow, {
      where: { state: "working" },
      order: { startedAt: "ASC" },
    });
    for (const { id } of open) this.queue(id);
  }

  /** Begins to bring parts to the present state of their cards. */
  async start(parts: readonly string[]): Promise<TakeOverEntry> {
    const id = await inTurn(this.source, (manager) => this.enter(manager, parts));
    this.queue(id);
    return (await this.entry(id))!;
  }

  /** Enters a job within a transaction, as that of the change itself. It is begun by `queue`. */
  async enter(manager: EntityManager, parts: readonly string[]): Promise<string> {
    const id = randomUUID();
    const cards = Object.fromEntries((await this.stock.snapshots(undefined, manager)).map((c) => [c.id, c]));
    await manager.insert(TakeOverRow, {
      id,
      startedAt: new Date().toISOString(),
      endedAt: null,
      state: "working",
      cards: JSON.stringify(cards),
    });
    const once = [...new Set(parts)];
    // So many values go into one statement.
    for (let from = 0; from < once.length; from += 100) {
      const ids = once.slice(from, from + 100);
      const names = new Map(
        (
          await manager.createQueryBuilder(PartRow, "p").select(["p.id", "p.name"]).whereInIds(ids).getMany()
        ).map((row) => [row.id, row.name]),
      );
      await manager.insert(
        TakeOverPartRow,
        ids.map((part, i) => ({
          job: id,
          place: from + i,
          part,
          name: names.get(part) ?? part,
          state: "waiting" as const,
          revision: null,
          why: null,
        })),
      );
    }
    await this.thin(manager);
    return id;
  }

  /** Lets a job that was entered be done, after those that are under way. */
  queue(id: string): void {
    this.line = this.line
      .then(() => this.run(id))
      .catch((error: unknown) =>
        this.log.error({ err: error, job: id }, "a change of stock was not taken over"),
      );
  }

  /** How far a job is. */
  async entry(id: string): Promise<TakeOverEntry | undefined> {
    const row = await this.source.manager.findOneBy(TakeOverRow, { id });
    return row ? this.told(row) : undefined;
  }

  /** A job with every part that is done. */
  async state(id: string): Promise<TakeOverState | undefined> {
    const entry = await this.entry(id);
    if (!entry) return undefined;
    const lines = await this.source.manager.find(TakeOverPartRow, {
      where: { job: id },
      order: { place: "ASC" },
    });
    const of = (state: TakeOverPartRow["state"]) => lines.filter((l) => l.state === state).map(takenPart);
    const [changedParts, skippedParts] = [of("changed"), of("skipped")];
    const [changed, skipped] = [changedParts.length, skippedParts.length];
    return { ...entry, changed, skipped, done: changed + skipped, changedParts, skippedParts };
  }

  /** The newest first. */
  async list(): Promise<TakeOverEntry[]> {
    const rows = await this.source.manager.find(TakeOverRow, {
      order: { startedAt: "DESC" },
      take: MOST_LISTED,
    });
    return Promise.all(rows.map((row) => this.told(row)));
  }

  /** Ends a job that is under way: what it has changed stays so and is told. */
  async cancel(id: string): Promise<void> {
    const ended = { state: "cancelled" as const, endedAt: new Date().toISOString() };
    await inTurn(this.source, (manager) => manager.update(TakeOverRow, { id, state: "working" }, ended));
  }

  /** Ends what is under way after the part at hand; the next start of the server goes on with it. */
  async close(): Promise<void> {
    this.closing.abort();
    await this.line;
  }

  private async told({ cards: _cards, ...row }: TakeOverRow): Promise<TakeOverEntry> {
    const counts = (await this.source.manager.query(
      `SELECT "state", COUNT(*) AS "parts" FROM "take_over_part" WHERE "job" = ? GROUP BY "state"`,
      [row.id],
    )) as { state: TakeOverPartRow["state"]; parts: number }[];
    const of = (state: TakeOverPartRow["state"]) => counts.find((c) => c.state === state)?.parts ?? 0;
    const [changed, skipped] = [of("changed"), of("skipped")];
    const problem = this.problems.get(row.id);
    return {
      ...row,
      total: changed + skipped + of("waiting"),
      done: changed + skipped,
      changed,
      skipped,
      ...(problem && row.state === "working" ? { problem } : {}),
    };
  }

  private async run(id: string): Promise<void> {
    while (!this.closing.signal.aborted) {
      try {
        const goesOn = await this.next(id);
        this.problems.delete(id);
        if (!goesOn) return;
        await immediate();
      } catch (error) {
        this.problems.set(id, (error as Error).message);
        this.log.warn({ err: error, job: id }, "a change of stock waits for the database");
        await wait(AGAIN_AFTER, undefined, { signal: this.closing.signal }).catch(() => undefined);
      }
    }
  }

  /** Changes the next part of a job; false where there is nothing more to do. */
  private async next(id: string): Promise<boolean> {
    const changed = await inTurn(this.source, async (manager) => {
      const job = await manager.findOneBy(TakeOverRow, { id });
      if (job?.state !== "working") return false;
      const line = await manager.findOne(TakeOverPartRow, {
        where: { job: id, state: "waiting" },
        order: { place: "ASC" },
      });
      if (!line) {
        await manager.update(TakeOverRow, { id }, { state: "finished", endedAt: new Date().toISOString() });
        return false;
      }
      const taken = await this.take(manager, line.part, JSON.parse(job.cards) as Cards);
      const made = "revision" in taken;
      await manager.update(
        TakeOverPartRow,
        { job: id, place: line.place },
        {
          state: made ? "changed" : "skipped",
          revision: made ? taken.revision : null,
          why: made ? null : taken.why,
        },
      );
      return { part: made ? line.part : undefined };
    });
    if (changed && changed.part !== undefined) this.parts.onSaved(changed.part);
    return changed !== false;
  }

  /** Brings one part to its card, as it stands now: what was saved of it meanwhile is kept. */
  private async take(manager: EntityManager, id: string, cards: Cards): Promise<Taken> {
    const part = await readPart(manager, id).catch((error: unknown) => {
      if (error instanceof DamagedRow) return error;
      throw error;
    });
    if (part instanceof DamagedRow) return { why: part.message };
    if (!part) return { why: "it is not on the Shelf any more" };
    if (part.binnedAt !== null) return { why: "it is in the bin" };
    if (part.document.follows) return { why: "it follows another part, which takes it over" };
    const held = cardOf(part.document.stock);
    const now = held && cards[held.id];
    if (!held || !now) return { why: "it does not use a card of the stock" };
    if (sameSnapshot(held, now)) return { why: "it stands on the present state already" };
    if (held.revision > now.revision) return { why: "it stands on a later state already" };
    const said = `Took over ${now.name}, revision ${now.revision}`;
    const document = withCard(part.document, now);
    const change = { commands: null, said: [said] };
    if ((await this.parts.write(manager, id, part.revision, document, change)) === undefined)
      throw new Error(`“${part.document.name}” was changed in the same moment.`);
    return { revision: part.revision + 1 };
  }

  private async thin(manager: EntityManager): Promise<void> {
    const old = await manager.find(TakeOverRow, {
      select: { id: true, state: true },
      order: { startedAt: "DESC" },
      skip: MOST_KEPT,
      take: 100,
    });
    for (const { id, state } of old)
      if (state !== "working") {
        await manager.delete(TakeOverPartRow, { job: id });
        await manager.delete(TakeOverRow, { id });
      }
  }
}

const takenPart = ({ part, name, revision, why }: TakeOverPartRow): TakenPart => ({
  id: part,
  name,
  ...(revision === null ? {} : { revision }),
  ...(why === null ? {} : { why }),
});

type Cards = Readonly<Record<string, CardSnapshot>>;
