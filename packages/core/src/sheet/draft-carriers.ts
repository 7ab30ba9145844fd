import { Map as Persistent } from "immutable";
import type { DraftCarrier } from "./draft-pieces.ts";
import { type EdgeRow, NO_ROW, rowWith, rowWithout } from "./edge-row.ts";
import { Records } from "./records.ts";

type ByPlate = Persistent<string, readonly DraftCarrier[]>;
/** Of a plate by its edges' roles; folds, which are on none, by no name. */
type Rows = Persistent<string, EdgeRow>;

const FOLDS = "";

/** What carries plates in a draft: what starts from a plate, and what a plate hangs on, is known without looking at all of them. */
export class DraftCarriers extends Records<DraftCarrier> {
  /** When each came, counted from nought. */
  private came: Persistent<string, number>;
  private fromPlate: ByPlate;
  private toPlate: ByPlate;
  private rows: Persistent<string, Rows>;

  constructor(from?: DraftCarriers) {
    super(from);
    this.came = from?.came ?? Persistent();
    this.fromPlate = from?.fromPlate ?? Persistent();
    this.toPlate = from?.toPlate ?? Persistent();
    this.rows = from?.rows ?? Persistent();
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

  override set(name: string, bend: DraftCarrier): void {
    const before = this.get(name);
    if (!before) this.came = this.came.set(name, this.size);
    super.set(name, bend);
    this.fromPlate = this.listed(this.fromPlate, before, bend, (b) => b.parent);
    this.toPlate = this.listed(this.toPlate, before, bend, (b) => b.child);
    if (before) this.changeRow(before, (row) => rowWithout(row, before));
    this.changeRow(bend, (row) => rowWith(row, bend, this.cameOf));
  }

  private changeRow({ parent, grownOn }: DraftCarrier, change: (row: EdgeRow) => EdgeRow): void {
    const rows = this.rows.get(parent) ?? Persistent();
    const role = grownOn?.role ?? FOLDS;
    const row = change(rows.get(role) ?? NO_ROW);
    this.rows = this.rows.set(parent, row.carriers.length > 0 ? rows.set(role, row) : rows.delete(role));
  }

  override become(other: DraftCarriers): void {
    super.become(other);
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
