import { randomUUID } from "node:crypto";
import { followingCopy, type PartDocument, readDocument } from "@hillcrest/core";
import { type DataSource, IsNull, Not, type Repository } from "typeorm";
import { PartRow } from "./part.entity.ts";
import { type PartPreview, previewOf } from "./preview.ts";

export interface PartEntry {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly binnedAt: string | null;
  readonly preview: PartPreview;
}

export interface StoredPart {
  readonly id: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly binnedAt: string | null;
  readonly document: PartDocument;
}

export type SaveOutcome =
  | { readonly kind: "saved"; readonly part: StoredPart }
  | { readonly kind: "stale"; readonly current: StoredPart }
  | { readonly kind: "missing" };

/** Keeps parts. Saving compares revisions in one statement, so that no two saves can both win. */
export class PartService {
  private readonly rows: Repository<PartRow>;

  constructor(source: DataSource) {
    this.rows = source.getRepository(PartRow);
  }

  async list(binned: boolean): Promise<PartEntry[]> {
    const rows = await this.rows.find({
      select: { id: true, name: true, revision: true, updatedAt: true, binnedAt: true, preview: true },
      where: { binnedAt: binned ? Not(IsNull()) : IsNull() },
      order: { updatedAt: "DESC", name: "ASC" },
    });
    return rows.map(({ id, name, revision, updatedAt, binnedAt, preview }) => ({
      id,
      name,
      revision,
      updatedAt,
      binnedAt,
      preview: JSON.parse(preview) as PartPreview,
    }));
  }

  async read(id: string): Promise<StoredPart | undefined> {
    const row = await this.rows.findOneBy({ id });
    return row ? stored(row) : undefined;
  }

  async create(document: PartDocument): Promise<StoredPart> {
    const now = new Date().toISOString();
    const row: PartRow = {
      id: randomUUID(),
      revision: 1,
      createdAt: now,
      updatedAt: now,
      binnedAt: null,
      ...columns(document),
    };
    await this.rows.insert(row);
    return stored(row);
  }

  async save(id: string, revision: number, document: PartDocument): Promise<SaveOutcome> {
    const changed = { ...columns(document), revision: revision + 1, updatedAt: new Date().toISOString() };
    const result = await this.rows
      .createQueryBuilder()
      .update()
      .set(changed)
      .where("id = :id AND revision = :revision", { id, revision })
      .execute();
    const current = await this.read(id);
    if (!current) return { kind: "missing" };
    if (result.affected === 1) return { kind: "saved", part: current };
    return { kind: "stale", current };
  }

  /** A copy that goes its own way, or one that follows the part it was made from. */
  async copy(id: string, follows: boolean): Promise<StoredPart | undefined> {
    const part = await this.read(id);
    if (!part) return undefined;
    if (follows) return this.create(followingCopy(part.document, { part: id, revision: part.revision }));
    const name = `${part.document.name.slice(0, 190)} (copy)`;
    return this.create({ ...part.document, name });
  }

  /** Into the bin, or out of it again. Nothing is ever deleted. */
  async setBinned(id: string, binned: boolean): Promise<boolean> {
    const result = await this.rows.update({ id }, { binnedAt: binned ? new Date().toISOString() : null });
    return result.affected === 1;
  }

  async isEmpty(): Promise<boolean> {
    return (await this.rows.count()) === 0;
  }
}

const columns = (document: PartDocument) => ({
  name: document.name,
  document: JSON.stringify(document),
  preview: JSON.stringify(previewOf(document)),
});

/** A kept document may be of an earlier version: it is migrated as it is read. */
function stored(row: PartRow): StoredPart {
  const raw: unknown = JSON.parse(row.document);
  const read = readDocument(raw);
  const document = read.ok ? read.value : (raw as PartDocument);
  return { id: row.id, revision: row.revision, updatedAt: row.updatedAt, binnedAt: row.binnedAt, document };
}
