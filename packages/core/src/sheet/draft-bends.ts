import { Map as Persistent } from "immutable";
import type { DraftBend } from "./draft.ts";
import { Records } from "./records.ts";

type ByPlate = Persistent<string, readonly DraftBend[]>;

/** The bends of a draft: what starts from a plate, and what a plate hangs on, is known without looking at all of them. */
export class DraftBends extends Records<DraftBend> {
  /** When each came, counted from nought. */
  private came: Persistent<string, number>;
  private fromPlate: ByPlate;
  private toPlate: ByPlate;

  constructor(from?: DraftBends) {
    super(from);
    this.came = from?.came ?? Persistent();
    this.fromPlate = from?.fromPlate ?? Persistent();
    this.toPlate = from?.toPlate ?? Persistent();
  }

  /** The bends that start from a plate, in the order in which they came. */
  from(plate: string): readonly DraftBend[] {
    return this.fromPlate.get(plate) ?? NONE;
  }

  /** The first bend whose child a plate is. */
  to(plate: string): DraftBend | undefined {
    return this.toPlate.get(plate)?.[0];
  }

  override set(name: string, bend: DraftBend): void {
    const before = this.get(name);
    if (!before) this.came = this.came.set(name, this.size);
    super.set(name, bend);
    this.fromPlate = this.listed(this.fromPlate, before, bend, (b) => b.parent);
    this.toPlate = this.listed(this.toPlate, before, bend, (b) => b.child);
  }

  override become(other: DraftBends): void {
    super.become(other);
    this.came = other.came;
    this.fromPlate = other.fromPlate;
    this.toPlate = other.toPlate;
  }

  private listed(
    lists: ByPlate,
    before: DraftBend | undefined,
    bend: DraftBend,
    plateOf: (bend: DraftBend) => string,
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

const NONE: readonly DraftBend[] = [];
