import "reflect-metadata";
import { accessSync, constants, copyFileSync, existsSync, mkdirSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import libsql from "libsql";
import { DataSource } from "typeorm";
import { DatabaseTrouble } from "./database-trouble.ts";
import { ExportRow } from "./exports/export.entity.ts";
import { CreatePart1760000000001 } from "./migrations/0001-create-part.ts";
import { CreateStock1760000000002 } from "./migrations/0002-create-stock.ts";
import { PreviewsApart1764000000003 } from "./migrations/0003-previews-apart.ts";
import { CreateRevision1764100000004 } from "./migrations/0004-create-revision.ts";
import { CreateExport1764200000005 } from "./migrations/0005-create-export.ts";
import { ListParts1764300000006 } from "./migrations/0006-list-parts.ts";
import { CreateSearched1764400000007 } from "./migrations/0007-create-searched.ts";
import { CreateTakeOver1764500000008 } from "./migrations/0008-create-take-over.ts";
import { PartRow } from "./parts/part.entity.ts";
import { RevisionRow } from "./parts/revision.entity.ts";
import { SearchedRow } from "./parts/searched.entity.ts";
import { StockItemRow } from "./stock/stock-item.entity.ts";
import { TakeOverPartRow, TakeOverRow } from "./stock/take-over.entity.ts";

const MIGRATIONS = [
  CreatePart1760000000001,
  CreateStock1760000000002,
  PreviewsApart1764000000003,
  CreateRevision1764100000004,
  CreateExport1764200000005,
  ListParts1764300000006,
  CreateSearched1764400000007,
  CreateTakeOver1764500000008,
];

/** Whether a file may be written, or made. A new one needs its folder to be. */
function isWritable(path: string): boolean {
  try {
    accessSync(existsSync(path) ? path : dirname(path), constants.W_OK);
    return true;
  } catch {
    return false;
  }
}

/** A database whose tables a later version has changed: what this one wrote there could not be trusted. */
async function refuseLater(source: DataSource, path: string): Promise<void> {
  const made: { name: string }[] = await source.query(`SELECT "name" FROM "migrations"`).catch(() => []);
  const known = new Set(MIGRATIONS.map((m) => m.name));
  if (made.some((m) => !known.has(m.name)))
    throw new DatabaseTrouble(
      `The database ${path} was changed by a later version of Hillcrest. Start that version, or name another file in HILLCREST_DATABASE; nothing in it was changed.`,
    );
}

/** A copy of a database, with what has not been moved into its file yet, where this user may write. */
function copyOf(path: string): string {
  const copy = join(mkdtempSync(join(tmpdir(), "hillcrest-read-")), basename(path));
  for (const end of ["", "-wal"]) if (existsSync(path + end)) copyFileSync(path + end, copy + end);
  return copy;
}

/** Opens the SQLite file, bringing its tables up to date. Every commit is on disk before it is answered. */
export async function openDatabase(path: string): Promise<DataSource> {
  if (path !== ":memory:") mkdirSync(dirname(path), { recursive: true });
  const readonly = path !== ":memory:" && !isWritable(path);
  // A file in a folder that may only be read cannot be opened in its mode: SQLite needs a file beside it.
  const opened = readonly && !isWritable(dirname(path)) ? copyOf(path) : path;
  const source = new DataSource({
    type: "better-sqlite3",
    driver: libsql,
    database: opened,
    entities: [PartRow, RevisionRow, StockItemRow, ExportRow, SearchedRow, TakeOverRow, TakeOverPartRow],
    migrations: MIGRATIONS,
    migrationsRun: false,
    synchronize: false,
    readonly,
    prepareDatabase: (db: { pragma: (text: string) => unknown }) => {
      db.pragma("busy_timeout = 5000");
      if (readonly) return;
      db.pragma("journal_mode = WAL");
      db.pragma("synchronous = FULL");
    },
  });
  await source.initialize();
  try {
    await refuseLater(source, path);
    // What may only be read is read as it is; every save then says why it is refused.
    if (!readonly) await source.runMigrations();
    await source.query(`SELECT COUNT(*) FROM "part"`);
    // From here on nothing waits within the database, where it would hold up all others: see `inTurn`.
    await source.query("PRAGMA busy_timeout = 0");
  } catch (error) {
    await source.destroy().catch(() => undefined);
    throw error;
  }
  return source;
}

/** Whether a database may be read and not written. */
export const isReadOnly = ({ options }: DataSource): boolean =>
  options.type === "better-sqlite3" && options.readonly === true;

/** Moves everything into the one file, so that a copy of it is whole, and lets go of it. */
export async function closeDatabase(source: DataSource): Promise<void> {
  // A file that may only be read has nothing to move.
  await source.query("PRAGMA wal_checkpoint(TRUNCATE)").catch(() => undefined);
  await source.destroy();
}
