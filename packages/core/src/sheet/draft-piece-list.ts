import { Map as Persistent } from "immutable";
import type { DraftCarrier, DraftPiece, DraftPlate } from "./draft-pieces.ts";
import { type EdgeRow, NO_ROW, rowWith, rowWithout } from "./edge-row.ts";
import { Records } from "./records.ts";

type ByPlate = Persistent<string, readonly DraftCarrier[]>;
/** Of a plate by its edges' roles; folds, which are on none, by no name. */
type Rows = Persistent<string, EdgeRow>;

const FOLDS = "";

/** A piece of a draft, or what names one: what carries a plate may be called as that plate is. */
export type DraftPieceName = { readonly plate: string } | { readonly carrier: string };

const plateKey = (id: string) => `plate ${id}`;
const carrierKey = (id: string) => `carrier ${id}`;
const isPlate = (piece: DraftPiece): piece is DraftPlate => piece.kind === "plate";

/** The name of a piece within its draft. */
export const keyOf = (piece: DraftPiece): string =>
  isPlate(piece) ? plateKey(piece.id) : carrierKey(piece.id);

/**
 * All pieces of a draft in one list, in the order in which they came. What starts from a plate, and what a plate hangs
 * on, is known without looking at all of them.
 */
export class DraftPieces {
  private readonly all: Records<DraftPiece>;
  /** When each carrier came, counted from nought. */
  private came: Persistent<string, number>;
  private fromPlate: ByPlate;
  private toPlate: ByPlate;
  private rows: Persistent<string, Rows>;

  constructor(from?: DraftPieces) {
    this.all = new Records(from?.all);
    this.came = from?.came ?? Persistent();
    this.fromPlate = from?.fromPlate ?? Persistent();
    this.toPlate = from?.toPlate ?? Persistent();
    this.rows = from?.rows ?? Persistent();
  }

  get size(): number {
    return this.all.size;
  }

  [Symbol.iterator](): IterableIterator<DraftPiece> {
    return this.all.values();
  }

  /** The plates alone. */
  plates(): DraftPlate[] {
    return [...this].filter(isPlate);
  }

  /** What carries plates alone. */
  carriers(): DraftCarrier[] {
    return [...this].filter((p) => !isPlate(p));
  }

  plate(id: string): DraftPlate | undefined {
    return this.all.get(plateKey(id)) as DraftPlate | undefined;
  }

  carrier(id: string): DraftCarrier | undefined {
    return this.all.get(carrierKey(id)) as DraftCarrier | undefined;
  }

  named(name: DraftPieceName): DraftPiece | undefined {
    return "plate" in name ? this.plate(name.plate) : this.carrier(name.carrier);
  }

  /** What a piece of this draft, or of another state of it, is now. */
  now<P extends DraftPiece>(piece: P): P | undefined {
    return this.all.get(keyOf(piece)) as P | undefined;
  }

  /** Those that start from a plate, in the order in which they came. */
  from(plate: string): readonly DraftCarrier[] {
    return this.fromPlate.get(plate) ?? NONE;
  }

  /** The first whose child a plate is. */
  to(plate: string): DraftCarrier | undefined {
    return this.toPlate.get(plate)?.[0];
  }

  /** Those that start from one edge of a plate. */
  onEdge(plate: string, role: string): EdgeRow {
    return this.rows.get(plate)?.get(role) ?? NO_ROW;
  }

  /** Those that start from a plate and not from an edge of it. */
  foldsFrom(plate: string): readonly DraftCarrier[] {
    return this.onEdge(plate, FOLDS).carriers;
  }

  /** Those that start from the edges of a plate but one. */
  onOtherEdges(plate: string, role: string): EdgeRow[] {
    const rows = this.rows.get(plate) ?? (Persistent() as Rows);
    return [...rows].flatMap(([own, row]) => (own === role || own === FOLDS ? [] : [row]));
  }

  /** Some of them in the order in which they came. */
  inOrder(some: readonly DraftCarrier[]): readonly DraftCarrier[] {
    return some.length < 2 ? some : [...some].sort((p, q) => this.cameOf(p) - this.cameOf(q));
  }

  private readonly cameOf = (b: DraftCarrier): number => this.came.get(b.id)!;

  /** Puts a piece in, or in the place of what it was. */
  put(piece: DraftPiece): void {
    const before = this.now(piece);
    this.all.set(keyOf(piece), piece);
    if (isPlate(piece)) return;
    const known = before as DraftCarrier | undefined;
    if (!known) this.came = this.came.set(piece.id, this.came.size);
    this.fromPlate = this.listed(this.fromPlate, known, piece, (b) => b.parent);
    this.toPlate = this.listed(this.toPlate, known, piece, (b) => b.child);
    if (known) this.changeRow(known, (row) => rowWithout(row, known));
    this.changeRow(piece, (row) => rowWith(row, piece, this.cameOf));
  }

  private changeRow({ parent, grownOn }: DraftCarrier, change: (row: EdgeRow) => EdgeRow): void {
    const rows = this.rows.get(parent) ?? Persistent();
    const role = grownOn?.role ?? FOLDS;
    const row = change(rows.get(role) ?? NO_ROW);
    this.rows = this.rows.set(parent, row.carriers.length > 0 ? rows.set(role, row) : rows.delete(role));
  }

  /** The pieces that are not those that `before`, of which this is a copy, has in their places. */
  changedFrom(before: DraftPieces): DraftPiece[] {
    return this.all.changedFrom(before.all).map((key) => this.all.get(key)!);
  }

  /** Takes back whatever was put in: they are those of another again, of which this is a copy or which is a copy of it. */
  become(other: DraftPieces): void {
    this.all.become(other.all);
    this.came = other.came;
    this.fromPlate = other.fromPlate;
    this.toPlate = other.toPlate;
    this.rows = other.rows;
  }

  private listed(
    lists: ByPlate,
    before: DraftCarrier | undefined,
    bend: DraftCarrier,
    plateOf: (bend: DraftCarrier) => string,
  ): ByPlate {
    const plate = plateOf(bend);
    const list = lists.get(plate) ?? NONE;
    if (!before) return lists.set(plate, [...list, bend]);
    if (plateOf(before) === plate)
      return lists.set(
        plate,
        list.map((b) => (b === before ? bend : b)),
      );
    // One that goes over to another plate stands there in the order in which all of them came.
    const own = this.came.get(bend.id)!;
    const next = list.findIndex((b) => this.came.get(b.id)! > own);
    const at = next < 0 ? list.length : next;
    const left = lists.get(plateOf(before))!.filter((b) => b !== before);
    return lists.set(plateOf(before), left).set(plate, [...list.slice(0, at), bend, ...list.slice(at)]);
  }
}

const NONE: readonly DraftCarrier[] = [];
