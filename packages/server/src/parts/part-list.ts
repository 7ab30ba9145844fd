import type { DataSource } from "typeorm";
import { timesTakenBack } from "../write-turns.ts";

/** Columns as JSON takes them, whatever a damaged row holds: bytes would break the list of all. */
const text = (column: string) => `CASE typeof("${column}") WHEN 'blob' THEN '(damaged)' ELSE "${column}" END`;
const whole = (column: string) => `CASE typeof("${column}") WHEN 'integer' THEN "${column}" ELSE 0 END`;

const ENTRIES = `
  SELECT "id", ${text("name")} AS "name", ${text("updatedAt")} AS "updatedAt", "binnedAt" IS NOT NULL AS "binned",
    json_object(
      'id', ${text("id")}, 'name', ${text("name")}, 'revision', ${whole("revision")},
      'updatedAt', ${text("updatedAt")}, 'binnedAt', ${text("binnedAt")}, 'pictured', ${whole("pictured")},
      'summary', CASE WHEN typeof("summary") = 'text' AND json_valid("summary") THEN json("summary") END) AS "entry"
  FROM (SELECT "id", "name", "revision", "updatedAt", "binnedAt", "pictured", "summary" FROM "part")`;

interface Listed {
  readonly id: string;
  readonly name: string;
  readonly updatedAt: string;
  readonly binned: number;
  /** The entry as JSON. */
  readonly entry: string;
}

/** So many changed rows are read by their ids; where more have changed, all are read. */
const MOST_CHANGED = 100;

const order = (a: Listed, b: Listed): number =>
  a.updatedAt === b.updatedAt ? (a.name < b.name ? -1 : 1) : a.updatedAt < b.updatedAt ? 1 : -1;

/**
 * The list of parts as JSON, kept from one question to the next: only rows that were written since are read. The database
 * itself says which: a trigger notes what this connection writes, and its data version grows with what others write.
 */
export class PartList {
  private rows = new Map<string, Listed>();
  private readonly texts = new Map<boolean, string>();
  private version = -1;
  private back = 0;
  private noting = false;
  /** Questions take turns: each brings the rows up to date by itself. */
  private line: Promise<unknown> = Promise.resolve();
  private changes = 0;

  constructor(private readonly source: DataSource) {}

  /** The list, the last saved first, and what it is known by as long as it is the same. */
  ask(binned: boolean): Promise<{ readonly list: string; readonly tag: string }> {
    const asked = this.line.then(() => this.answer(binned));
    this.line = asked.catch(() => undefined);
    return asked;
  }

  private async answer(binned: boolean): Promise<{ list: string; tag: string }> {
    await this.bringUpToDate();
    let list = this.texts.get(binned);
    if (list === undefined) {
      const entries = [...this.rows.values()].filter((r) => r.binned === (binned ? 1 : 0)).sort(order);
      list = `[${entries.map((r) => r.entry).join(",")}]`;
      this.texts.set(binned, list);
    }
    return { list, tag: `W/"${started}-${this.changes}-${binned ? 1 : 0}"` };
  }

  private async bringUpToDate(): Promise<void> {
    if (!this.noting) await this.note();
    const [{ data_version: version }] = (await this.source.query("PRAGMA data_version")) as [
      { data_version: number },
    ];
    const changed = (
      (await this.source.query(`DELETE FROM temp."part_written" RETURNING "id"`)) as { id: string }[]
    ).map((r) => r.id);
    const back = timesTakenBack(this.source);
    if (version === this.version && back === this.back && changed.length === 0) return;
    const all = version !== this.version || back !== this.back || changed.length > MOST_CHANGED;
    // Should reading fail, nobody knows any more which rows were written: all are read the next time.
    this.version = -1;
    const rows = (await this.source.query(
      all ? ENTRIES : `${ENTRIES} WHERE "id" IN (${changed.map(() => "?").join(",")})`,
      all ? [] : changed,
    )) as Listed[];
    if (all) this.rows = new Map();
    else for (const id of changed) this.rows.delete(id);
    for (const row of rows) this.rows.set(row.id, row);
    this.version = version;
    this.back = back;
    this.texts.clear();
    this.changes++;
  }

  /** Has this connection note which rows it writes. It is gone with the connection. */
  private async note(): Promise<void> {
    // Reading needs no room on the disk.
    await this.source.query("PRAGMA temp_store = MEMORY");
    await this.source.query(
      `CREATE TEMP TABLE IF NOT EXISTS "part_written" ("id" PRIMARY KEY) WITHOUT ROWID`,
    );
    for (const does of ["INSERT", "UPDATE", "DELETE"])
      await this.source.query(
        `CREATE TEMP TRIGGER IF NOT EXISTS "note_${does}" AFTER ${does} ON main."part"
         BEGIN INSERT OR IGNORE INTO "part_written" VALUES (${does === "DELETE" ? "OLD" : "NEW"}."id"); END`,
      );
    this.noting = true;
  }
}

/** Tags of an earlier start of the server mean nothing. */
const started = Date.now().toString(36);
