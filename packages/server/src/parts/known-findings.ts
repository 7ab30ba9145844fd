import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import type { Finding, PartDocument } from "@hillcrest/core";
import type { DataSource } from "typeorm";
import { inTurn } from "../write-turns.ts";
import { SearchedRow } from "./searched.entity.ts";

/** So many searches are kept, the newest; more are thinned out now and then. */
const MOST_KEPT = 20_000;
const THIN_EVERY = 500;

/** Another program may find other things: what an earlier one found does not count. */
function programHash(): string {
  try {
    return createHash("sha256")
      .update(readFileSync(fileURLToPath(import.meta.resolve("@hillcrest/core"))))
      .digest("hex");
  } catch {
    return "";
  }
}

/**
 * What searches for collisions have found, by the document that was searched. The stock stands in the document as a card of
 * one revision, so that another state of the stock is another document. What a part is called makes no difference.
 */
export class KnownFindings {
  private readonly program = programHash();
  private kept = 0;

  constructor(private readonly source: DataSource) {}

  private keyOf({ name: _name, ...document }: PartDocument): string {
    return createHash("sha256").update(this.program).update(JSON.stringify(document)).digest("hex");
  }

  /** What is known of a document; nothing where it has not been searched. */
  async of(document: PartDocument): Promise<readonly Finding[] | undefined> {
    const row = await this.source.manager.findOneBy(SearchedRow, { key: this.keyOf(document) });
    if (!row) return undefined;
    try {
      const list: unknown = JSON.parse(row.findings);
      return Array.isArray(list) ? (list as Finding[]) : undefined;
    } catch {
      return undefined;
    }
  }

  /** Keeps what was found. Where that cannot be written, the next who asks searches again. */
  async keep(document: PartDocument, findings: readonly Finding[]): Promise<void> {
    const row = { key: this.keyOf(document), findings: JSON.stringify(findings) };
    await inTurn(
      this.source,
      async (manager) => {
        await manager.upsert(SearchedRow, row, ["key"]);
        if (++this.kept % THIN_EVERY === 0)
          await manager.query(
            `DELETE FROM "searched" WHERE rowid <= (SELECT MAX(rowid) FROM "searched") - ${MOST_KEPT}`,
          );
      },
      "made again",
    ).catch(() => undefined);
  }
}
