import type { BlankFacts, ProofLine } from "@hillcrest/core";
import type { DataSource } from "typeorm";
import { inTurn } from "../write-turns.ts";
import { ExportRow } from "./export.entity.ts";

/** A file that has left, as it is told. */
export interface ExportEntry {
  readonly id: number;
  readonly madeAt: string;
  readonly by: string;
  readonly revision: number;
  readonly format: string;
  readonly file: string;
  readonly sha256: string;
  readonly preset: string;
  readonly proof: readonly ProofLine[];
  readonly facts: BlankFacts;
}

export type NewExport = Omit<ExportEntry, "id" | "madeAt">;

const MOST_LISTED = 100;

/** Keeps what has left of every part. */
export class ExportLog {
  constructor(private readonly source: DataSource) {}

  async add(part: string, entry: NewExport): Promise<ExportEntry> {
    const madeAt = new Date().toISOString();
    return inTurn(this.source, async (manager) => {
      const row = await manager.save(ExportRow, {
        ...entry,
        part,
        madeAt,
        proof: JSON.stringify(entry.proof),
        facts: JSON.stringify(entry.facts),
      });
      return { ...entry, madeAt, id: row.id };
    });
  }

  /** The newest first. */
  async list(part: string): Promise<ExportEntry[]> {
    const rows = await this.source.manager.find(ExportRow, {
      where: { part },
      order: { id: "DESC" },
      take: MOST_LISTED,
    });
    return rows.map(({ part: _part, proof, facts, ...row }) => ({
      ...row,
      proof: JSON.parse(proof) as ProofLine[],
      facts: JSON.parse(facts) as BlankFacts,
    }));
  }
}
