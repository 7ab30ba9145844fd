import { randomUUID } from "node:crypto";
import { followingCopy, type PartDocument, readDocument } from "@hillcrest/core";
import { type DataSource, IsNull, Not, type Repository } from "typeorm";
import { PartRow } from "./part.entity.ts";
import type { PartPictures, PartPreview, PartSummary } from "./preview.ts";

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
  | { readonly kind: "saved"; readonly part: StoredPart }
  | { readonly kind: "stale"; readonly current: StoredPart }
  | { readonly kind: "missing" };

/** Keeps parts. Saving compares revisions in one statement, so that no two saves can both win. */
export class PartService {
  private readonly rows: Repository<PartRow>;

  /** Told of every part that was saved, once the save is durable. */
  onSaved: (id: string) => void = () => undefined;

  constructor(source: DataSource) {
    this.rows = source.getRepository(PartRow);
  }

  async list(binned: boolean): Promise<PartEntry[]> {
    const rows = await this.rows.find({
      select: {
        id: true,
        name: true,
        revision: true,
        updatedAt: true,
        binnedAt: true,
        summary: true,
        pictured: true,
      },
      where: { binnedAt: binned ? Not(IsNull()) : IsNull() },
      order: { updatedAt: "DESC", name: "ASC" },
    });
    return rows.map(({ summary, ...row }) => ({ ...row, summary: parsed<PartSummary>(summary) ?? null }));
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
    await this.rows
      .createQueryBuilder()
      .update()
      .set({ preview: JSON.stringify(pictures), summary: JSON.stringify(summary), pictured: revision })
      .where("id = :id AND pictured < :revision AND revision >= :revision", { id, revision })
      .execute();
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
      preview: "",
      summary: "",
      pictured: 0,
      ...columns(document),
    };
    await this.rows.insert(row);
    this.onSaved(row.id);
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
    if (result.affected === 1) {
      this.onSaved(id);
      return { kind: "saved", part: current };
    }
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
});

/** What stands in a column as JSON; nothing when it is empty or cannot be read, so that one row breaks no list. */
function parsed<T>(text: string): T | undefined {
  try {
    return text === "" ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

/** A kept document may be of an earlier version: it is migrated as it is read. */
function stored(row: PartRow): StoredPart {
  const raw: unknown = JSON.parse(row.document);
  const read = readDocument(raw);
  const document = read.ok ? read.value : (raw as PartDocument);
  return { id: row.id, revision: row.revision, updatedAt: row.updatedAt, binnedAt: row.binnedAt, document };
}
