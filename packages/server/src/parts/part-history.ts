import { type PartCommand, type PartDocument, patchBetween, readDocument, stepKind } from "@hillcrest/core";
import type { DataSource, EntityManager } from "typeorm";
import { DamagedRow } from "../damaged-row.ts";
import { inTurn } from "../write-turns.ts";
import { RevisionRow } from "./revision.entity.ts";
import { thinnedOut } from "./thinning.ts";

/** A revision as a list shows it. */
export interface RevisionEntry {
  readonly number: number;
  readonly madeAt: string;
  readonly said: readonly string[];
  readonly name: string | null;
}

/** A revision with what it was. */
export interface StoredRevision extends RevisionEntry {
  readonly document: PartDocument;
  /** What made it of the revision kept before it. */
  readonly commands: readonly PartCommand[];
}

/** Of one list of changes so many are kept when revisions are thinned. */
const MOST_SAID = 40;

/** The revisions of parts: adding, listing, reading, naming, thinning. */
export class PartHistory {
  constructor(private readonly source: DataSource) {}

  /** The newest first; `before` a number, for a list that goes on. */
  async list(part: string, before = Number.MAX_SAFE_INTEGER, most = 200): Promise<RevisionEntry[]> {
    const rows = await this.source.manager
      .createQueryBuilder(RevisionRow, "r")
      .select(["r.part", "r.number", "r.madeAt", "r.said", "r.name"])
      .where("r.part = :part AND r.number < :before", { part, before })
      .orderBy("r.number", "DESC")
      .limit(most)
      .getMany();
    return rows.map(entry);
  }

  async read(part: string, number: number): Promise<StoredRevision | undefined> {
    const row = await this.source.manager.findOneBy(RevisionRow, { part, number });
    if (!row) return undefined;
    const document = documentOf(row);
    return { ...entry(row), document, commands: commandsOf(row, document) };
  }

  /** Gives a revision a name, by which it is kept for ever, or takes it away. */
  async call(part: string, number: number, name: string | null): Promise<boolean> {
    return inTurn(this.source, async (manager) => {
      const result = await manager.update(RevisionRow, { part, number }, { name });
      return result.affected === 1;
    });
  }

  /** Leaves out what is old and fine-grained. What a revision left out had changed goes to the next that stays. */
  async thin(part: string, now = Date.now()): Promise<number> {
    return inTurn(this.source, async (manager) => {
      const rows = await manager
        .createQueryBuilder(RevisionRow, "r")
        .select(["r.part", "r.number", "r.madeAt", "r.name"])
        .where("r.part = :part", { part })
        .orderBy("r.number", "ASC")
        .getMany();
      const gone = new Set(thinnedOut(rows, now));
      if (gone.size === 0) return 0;
      const kept = rows.filter((r) => !gone.has(r.number)).map((r) => r.number);
      for (const [i, number] of kept.entries()) {
        const from = kept[i - 1];
        if (from !== undefined && number - from > 1) await mergeBetween(manager, part, from, number);
      }
      await manager.delete(
        RevisionRow,
        [...gone].map((number) => ({ part, number })),
      );
      return gone.size;
    });
  }

  /** Thins the revisions of every part that has many. */
  async thinAll(now = Date.now()): Promise<number> {
    const many: { part: string }[] = await this.source.query(
      `SELECT "part" FROM "revision" GROUP BY "part" HAVING COUNT(*) > 20`,
    );
    let gone = 0;
    let damaged: unknown;
    for (const { part } of many)
      try {
        gone += await this.thin(part, now);
      } catch (error) {
        // One that cannot be read keeps all its revisions; the others are thinned.
        damaged = error;
      }
    if (damaged !== undefined && !(damaged instanceof DamagedRow)) throw damaged;
    return gone;
  }
}

/** Lets a revision say what it and those between it and an earlier one have changed. */
async function mergeBetween(manager: EntityManager, part: string, from: number, to: number): Promise<void> {
  const rows = await manager
    .createQueryBuilder(RevisionRow, "r")
    .select(["r.part", "r.number", "r.said"])
    .where("r.part = :part AND r.number > :from AND r.number <= :to", { part, from, to })
    .orderBy("r.number", "ASC")
    .getMany();
  if (rows.length <= 1) return;
  const [first, last] = await Promise.all(
    [from, to].map((number) => manager.findOneByOrFail(RevisionRow, { part, number })),
  );
  const said = rows.flatMap((r) => saidOf(r.said));
  const patch = patchBetween(documentOf(first), documentOf(last));
  await manager.update(
    RevisionRow,
    { part, number: to },
    { commands: JSON.stringify([patch]), said: JSON.stringify(said.slice(-MOST_SAID)) },
  );
}

function saidOf(text: string): string[] {
  try {
    const list: unknown = JSON.parse(text);
    return Array.isArray(list) ? list.map(String) : [];
  } catch {
    return [];
  }
}

const entry = ({ number, madeAt, said, name }: RevisionRow): RevisionEntry => ({
  number,
  madeAt,
  said: saidOf(said),
  name,
});

function commandsOf({ commands }: RevisionRow, document: PartDocument): PartCommand[] {
  if (commands !== null) {
    try {
      const list: unknown = JSON.parse(commands);
      if (Array.isArray(list)) return list as PartCommand[];
    } catch {
      // What it became is known all the same.
    }
  }
  return [{ do: "replace", document }];
}

/**
 * The document of a revision; it may be of an earlier version, and is migrated as it is read. Throws a `DamagedRow` where
 * what is there is no document.
 */
export function documentOf({
  number,
  document: text,
}: Pick<RevisionRow, "number" | "document">): PartDocument {
  const damaged = (why: string) =>
    new DamagedRow(
      `Revision ${number} of this part is damaged in the database (${why}). Take an earlier revision back, from its history.`,
    );
  const known = lately.get(text);
  if (known) return known;
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw damaged("it is no JSON");
  }
  const read = readDocument(raw);
  if (read.ok) {
    remember(text, read.value);
    return read.value;
  }
  // What an earlier version let pass can be opened and put right; what has not even steps cannot.
  if (isDocument(raw)) return raw as PartDocument;
  const [first] = read.error;
  throw damaged(`${first.path ? `${first.path}: ` : ""}${first.message}`);
}

/** Documents that were read lately, by their texts: one that is saved is read again for its picture and its next save. */
const lately = new Map<string, PartDocument>();
const MOST_LATELY = 300;
/** Longer ones are read each time: they would hold too much memory, characters. */
const LONGEST_LATELY = 100_000;

function remember(text: string, document: PartDocument): void {
  if (text.length > LONGEST_LATELY) return;
  const [oldest] = lately.keys();
  if (lately.size >= MOST_LATELY) lately.delete(oldest);
  lately.set(text, document);
}

const isRecord = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null;

/** Whether something has the form of a document, whatever its values: only such a one can be built. */
const isDocument = (raw: unknown): boolean =>
  isRecord(raw) &&
  typeof raw.name === "string" &&
  isRecord(raw.stock) &&
  Array.isArray(raw.steps) &&
  raw.steps.every(
    (s) =>
      isRecord(s) && typeof s.id === "string" && typeof s.kind === "string" && stepKind(s.kind) !== undefined,
  );
