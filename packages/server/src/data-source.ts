import "reflect-metadata";
import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import libsql from "libsql";
import { DataSource } from "typeorm";
import { CreatePart1760000000001 } from "./migrations/0001-create-part.ts";
import { CreateStock1760000000002 } from "./migrations/0002-create-stock.ts";
import { PartRow } from "./parts/part.entity.ts";
import { StockItemRow } from "./stock/stock-item.entity.ts";

/** Opens the SQLite file, bringing its tables up to date. Every commit is on disk before it is answered. */
export async function openDatabase(path: string): Promise<DataSource> {
  if (path !== ":memory:") mkdirSync(dirname(path), { recursive: true });
  const source = new DataSource({
    type: "better-sqlite3",
    driver: libsql,
    database: path,
    entities: [PartRow, StockItemRow],
    migrations: [CreatePart1760000000001, CreateStock1760000000002],
    migrationsRun: true,
    synchronize: false,
    prepareDatabase: (db: { pragma: (text: string) => unknown }) => {
      db.pragma("journal_mode = WAL");
      db.pragma("synchronous = FULL");
      db.pragma("busy_timeout = 5000");
    },
  });
  return source.initialize();
}

/** Moves everything into the one file, so that a copy of it is whole, and lets go of it. */
export async function closeDatabase(source: DataSource): Promise<void> {
  await source.query("PRAGMA wal_checkpoint(TRUNCATE)");
  await source.destroy();
}
