import { Map as Persistent } from "immutable";
import type { DraftBend } from "./draft.ts";
import { Records } from "./records.ts";

type ByPlate = Persistent<string, readonly DraftBend[]>;

/** The bends of a draft: what starts from a plate, and what a plate hangs on, is known without looking at all of them. */
export class DraftBends extends Records<DraftBend> {
  private fromPlate: ByPlate;
  private toPlate: ByPlate;

  constructor(from?: DraftBends) {
    super(from);
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
    super.set(name, bend);
    this.fromPlate = this.listed(this.fromPlate, before, bend, (b) => b.parent);
    this.toPlate = this.listed(this.toPlate, before, bend, (b) => b.child);
  }

  override become(other: DraftBends): void {
    super.become(other);
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
    const there = new Set([...list, bend]);
    const left = lists.get(plateOf(before))!.filter((b) => b !== before);
    return lists
      .set(plateOf(before), left)
      .set(plate, there.size === 1 ? [bend] : [...this.values()].filter((b) => there.has(b)));
  }
}

const NONE: readonly DraftBend[] = [];
