import { setImmediate as immediate } from "node:timers/promises";
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

/** A file, and the part that it is of. */
export interface LeftFile {
  readonly part: string;
  readonly entry: NewExport;
}

const MOST_LISTED = 100;
/** So many are written in one transaction. */
const AT_ONCE = 20;

const rowOf = ({ part, entry }: LeftFile, madeAt: string) => ({
  ...entry,
  part,
  madeAt,
  proof: JSON.stringify(entry.proof),
  facts: JSON.stringify(entry.facts),
});

/** Keeps what has left of every part. */
export class ExportLog {
  constructor(private readonly source: DataSource) {}

  async add(part: string, entry: NewExport): Promise<ExportEntry> {
    const madeAt = new Date().toISOString();
    return inTurn(this.source, async (manager) => {
      const { identifiers } = await manager.insert(ExportRow, rowOf({ part, entry }, madeAt));
      return { ...entry, madeAt, id: identifiers[0].id as number };
    });
  }

  /** Keeps many at once; whoever saves something in between need not wait for all of them. */
  async addAll(left: readonly LeftFile[]): Promise<void> {
    const madeAt = new Date().toISOString();
    for (let from = 0; from < left.length; from += AT_ONCE) {
      const rows = left.slice(from, from + AT_ONCE).map((file) => rowOf(file, madeAt));
      await inTurn(this.source, (manager) => manager.insert(ExportRow, rows));
      await immediate();
    }
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
