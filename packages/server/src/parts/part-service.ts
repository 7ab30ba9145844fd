import { randomUUID } from "node:crypto";
import {
  applyCommands,
  followingCopy,
  notesOfChange,
  type PartCommand,
  type PartDocument,
  sayAll,
  type ValueNote,
} from "@hillcrest/core";
import type { DataSource, EntityManager, Repository } from "typeorm";
import { DamagedRow } from "../damaged-row.ts";
import { inTurn } from "../write-turns.ts";
import { PartRow } from "./part.entity.ts";
import { documentOf } from "./part-history.ts";
import { PartList } from "./part-list.ts";
import type { PartPictures, PartPreview, PartSummary } from "./preview.ts";
import { RevisionRow } from "./revision.entity.ts";

export interface PartEntry {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly binnedAt: string | null;
  /** Nothing while it is being made, after a save or an import. */
  readonly summary: PartSummary | null;
  /** The revision that the summary and the pictures are of. */
  readonly pictured: number;
}

export interface StoredPart {
  readonly id: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly binnedAt: string | null;
  readonly document: PartDocument;
}

export type SaveOutcome =
  | {
      readonly kind: "saved";
      readonly revision: number;
      readonly updatedAt: string;
      readonly notes: readonly ValueNote[];
    }
  | { readonly kind: "stale"; readonly current: StoredPart }
  | { readonly kind: "missing" };

/** A save by commands may also be of some that do not go. */
export type EditOutcome = SaveOutcome | { readonly kind: "refused"; readonly message: string };

/** What a save was, for the history: its commands, or nothing when the document came whole, and the words. */
export interface Change {
  readonly commands: readonly PartCommand[] | null;
  readonly said: readonly string[];
}

/** Keeps parts. Saving compares revisions in one statement, so that no two saves can both win. */
export class PartService {
  private readonly rows: Repository<PartRow>;
  /** The list of all as it is answered. */
  readonly listed: PartList;

  /** Told of every part that was saved, once the save is durable. */
  onSaved: (id: string) => void = () => undefined;

  constructor(private readonly source: DataSource) {
    this.rows = source.getRepository(PartRow);
    this.listed = new PartList(source);
  }

  async list(binned: boolean): Promise<PartEntry[]> {
    return JSON.parse((await this.listed.ask(binned)).list) as PartEntry[];
  }

  /** The pictures that there are of a part, and the revision they are of. */
  async pictures(id: string): Promise<{ pictured: number; pictures: PartPictures } | undefined> {
    const row = await this.rows.findOne({
      select: { id: true, pictured: true, preview: true },
      where: { id },
    });
    const kept = row && parsed<Partial<PartPictures>>(row.preview);
    return row
      ? { pictured: row.pictured, pictures: { folded: kept?.folded ?? "", blank: kept?.blank ?? "" } }
      : undefined;
  }

  /** Parts whose last save has not been pictured. */
  async withoutPreview(): Promise<string[]> {
    const rows = await this.rows
      .createQueryBuilder("part")
      .select("part.id", "id")
      .where("part.pictured <> part.revision")
      .getRawMany<{ id: string }>();
    return rows.map((r) => r.id);
  }

  /** Keeps what was made of a revision, unless a later one has been pictured meanwhile. */
  async keepPreview(id: string, revision: number, { pictures, summary }: PartPreview): Promise<void> {
    const made = { preview: JSON.stringify(pictures), summary: JSON.stringify(summary), pictured: revision };
    await inTurn(
      this.source,
      (manager) =>
        manager
          .createQueryBuilder()
          .update(PartRow)
          .set(made)
          .where("id = :id AND pictured < :revision AND revision >= :revision", { id, revision })
          .execute(),
      "made again",
    );
  }

  /** Says of a part that cannot be read what is wrong with it. */
  async keepDamaged(id: string, preview: PartPreview): Promise<void> {
    const row = await this.rows.findOneBy({ id });
    if (row) await this.keepPreview(id, row.revision, preview);
  }

  async read(id: string): Promise<StoredPart | undefined> {
    return readPart(this.source.manager, id);
  }

  async create(document: PartDocument, said = "Put on the Shelf"): Promise<StoredPart> {
    const now = new Date().toISOString();
    const row: PartRow = {
      id: randomUUID(),
      name: document.name,
      revision: 1,
      createdAt: now,
      updatedAt: now,
      binnedAt: null,
      preview: "",
      summary: "",
      pictured: 0,
    };
    await inTurn(this.source, async (manager) => {
      await manager.insert(PartRow, row);
      await manager.insert(
        RevisionRow,
        revisionRow(row.id, 1, now, document, { commands: null, said: [said] }),
      );
    });
    this.onSaved(row.id);
    return stored(row, document);
  }

  /** Saves a document as it is. */
  async save(
    id: string,
    revision: number,
    document: PartDocument,
    said: readonly string[] = ["Saved as a whole"],
  ): Promise<SaveOutcome> {
    const kept = await this.kept(id, revision, document, { commands: null, said });
    return this.accept(id, revision, kept, notesOfChange(undefined, document));
  }

  /** Saves by commands, done to the revision that they were made for. All of them, or none. */
  async edit(id: string, revision: number, commands: readonly PartCommand[]): Promise<EditOutcome> {
    const part = await this.read(id);
    if (!part) return { kind: "missing" };
    if (part.revision !== revision) return { kind: "stale", current: part };
    const done = applyCommands(part.document, commands);
    if (!done.ok) return { kind: "refused", message: done.error };
    const change = { commands, said: sayAll(commands, part.document) };
    const kept = await this.kept(id, revision, done.value.document, change);
    return this.accept(id, revision, kept, done.value.notes);
  }

  /** Makes the document of an earlier revision the newest one. */
  async restore(id: string, revision: number, from: number): Promise<SaveOutcome> {
    const row = await this.source.manager.findOneBy(RevisionRow, { part: id, number: from });
    if (!row) return { kind: "missing" };
    const said = row.name ? `Taken back to “${row.name}”` : `Taken back to revision ${from}`;
    return this.save(id, revision, documentOf(row), [said]);
  }

  /** Writes the next revision if nobody has since, and says when. One transaction: the row and what points at it. */
  private kept(
    id: string,
    revision: number,
    document: PartDocument,
    change: Change,
  ): Promise<string | undefined> {
    return inTurn(this.source, (manager) => this.write(manager, id, revision, document, change));
  }

  /** The same within a transaction that writes something else too; `onSaved` is told by whoever ends it. */
  async write(
    manager: EntityManager,
    id: string,
    revision: number,
    document: PartDocument,
    change: Change,
  ): Promise<string | undefined> {
    const updatedAt = new Date().toISOString();
    const result = await manager.update(
      PartRow,
      { id, revision },
      { name: document.name, revision: revision + 1, updatedAt },
    );
    if (result.affected !== 1) return undefined;
    await manager.insert(RevisionRow, revisionRow(id, revision + 1, updatedAt, document, change));
    return updatedAt;
  }

  private async accept(
    id: string,
    revision: number,
    updatedAt: string | undefined,
    notes: readonly ValueNote[],
  ): Promise<SaveOutcome> {
    if (updatedAt === undefined) {
      const current = await this.read(id);
      return current ? { kind: "stale", current } : { kind: "missing" };
    }
    this.onSaved(id);
    return { kind: "saved", revision: revision + 1, updatedAt, notes };
  }

  /** A copy that goes its own way, or one that follows the part it was made from. */
  async copy(id: string, follows: boolean): Promise<StoredPart | undefined> {
    const part = await this.read(id);
    if (!part) return undefined;
    const from = `Copied from “${part.document.name}”, revision ${part.revision}`;
    if (follows)
      return this.create(followingCopy(part.document, { part: id, revision: part.revision }), from);
    const name = `${part.document.name.slice(0, 190)} (copy)`;
    return this.create({ ...part.document, name }, from);
  }

  /** Into the bin, or out of it again. Nothing is ever deleted. */
  async setBinned(id: string, binned: boolean): Promise<boolean> {
    const binnedAt = binned ? new Date().toISOString() : null;
    const result = await inTurn(this.source, (manager) => manager.update(PartRow, { id }, { binnedAt }));
    return result.affected === 1;
  }

  async isEmpty(): Promise<boolean> {
    return (await this.rows.count()) === 0;
  }
}

/** What stands in a column as JSON; nothing when it is empty or cannot be read, so that one row breaks no list. */
function parsed<T>(text: string): T | undefined {
  try {
    return text === "" ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** A part as it stands, within a transaction or outside of one. */
export async function readPart(manager: EntityManager, id: string): Promise<StoredPart | undefined> {
  // The question that is asked most: one, without making entities of the answer.
  const [row] = (await manager.query(
    `SELECT p."id", p."revision", p."updatedAt", p."binnedAt", r."document"
     FROM "part" p LEFT JOIN "revision" r ON r."part" = p."id" AND r."number" = p."revision" WHERE p."id" = ?`,
    [id],
  )) as [(Omit<StoredPart, "document"> & { readonly document: string | null }) | undefined];
  if (!row) return undefined;
  if (row.document !== null) return stored(row, documentOf({ number: row.revision, document: row.document }));
  throw new DamagedRow(
    `Revision ${row.revision} of this part is missing in the database. Take an earlier revision back, from its history.`,
  );
}

const revisionRow = (
  part: string,
  number: number,
  madeAt: string,
  document: PartDocument,
  { commands, said }: Change,
): RevisionRow => ({
  part,
  number,
  madeAt,
  document: JSON.stringify(document),
  commands: commands && JSON.stringify(commands),
  said: JSON.stringify(said),
  name: null,
});

const stored = (row: Omit<StoredPart, "document">, document: PartDocument): StoredPart => ({
  id: row.id,
  revision: row.revision,
  updatedAt: row.updatedAt,
  binnedAt: row.binnedAt,
  document,
});
