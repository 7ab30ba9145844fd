import { commonEnds } from "../list-difference.ts";
import { columnsOf, rowsOf, type Table, tableBytes } from "./table.ts";

type Plain = Readonly<Record<string, unknown>>;
type Numbers = Float32Array | Float64Array | Uint32Array | Uint16Array | Uint8Array | Int32Array;

/** Records deeper in a result than this go with what holds them. */
const DEEPEST = 8;
/** Longer contents are told by identity only. */
const LONGEST_KEY = 4000;
/** Lists of so many entries are told by how they differ from one that began or ended alike. */
const LONG_LIST = 256;

/** A record, list or typed array that the other side has. */
interface Held {
  readonly id: number;
  readonly holds: readonly Held[];
  readonly key?: string;
  /** A long list's entries as they are: the next list is mostly of the same. */
  readonly entries?: readonly object[];
  /** Of a table, where each of them stands in it. */
  places?: ReadonlyMap<object, number>;
  /** How many records that are held hold it. */
  holders: number;
  /** Let go of on the other side: it has to cross again. */
  gone: boolean;
}

/**
 * A record, list or typed array as it crosses: what goes with it as it is, and the numbers of the records it
 * holds. A list whose entries are all records is just their numbers.
 */
interface Crossing {
  readonly id: number;
  readonly raw?: Plain;
  readonly refs?: Readonly<Record<string, number>>;
  readonly list?: Int32Array;
  /** A long list that differs from one the other side has: what stands in the place of its middle. */
  readonly change?: ListChange;
  /**
   * A long list of alike records, column by column. With `base` what is new in it: its middle is, one by one, from a place
   * of that list or, below 0, the next of the new.
   */
  readonly table?: Table;
  readonly base?: Ends & { readonly id: number; readonly from: Int32Array };
  /** A record that the other side has in a table. */
  readonly row?: { readonly table: number; readonly at: number };
  /** How many entries a list has; nothing for a record. */
  readonly length?: number;
  readonly numbers?: Numbers;
}

/** The first and the last so many entries of a list stay; between them stand others. */
interface Ends {
  readonly first: number;
  readonly last: number;
}

interface ListChange extends Ends {
  readonly base: number;
  readonly middle: Int32Array;
}

type Says = Omit<Crossing, "id">;

/** A result as it crosses: what the other side has is only named. */
export interface Packet {
  readonly root: number;
  readonly fresh: readonly Crossing[];
  /** What no result holds any more. */
  readonly gone: Int32Array;
}

const isNumbers = (v: unknown): v is Numbers => ArrayBuffer.isView(v) && !(v instanceof DataView);

const isRecord = (v: unknown): v is object => {
  if (typeof v !== "object" || v === null) return false;
  const proto = Object.getPrototypeOf(v);
  return proto === Object.prototype || proto === Array.prototype || proto === null;
};

/** Where each entry of a table stands in it, found when it is first asked. */
function placesIn(table: Held): ReadonlyMap<object, number> {
  table.places ??= new Map(table.entries!.map((v, i) => [v, i]));
  return table.places;
}

/**
 * Sends results of which most is as it was in the last one. A record that is the very same object as before,
 * or says the same, crosses as a number; so does a typed array of the same contents. Neither must be changed
 * once it was sent, nor handed over: what is let go of on the other side may have to cross again.
 */
export class Sender {
  private readonly known = new WeakMap<object, Held>();
  private readonly byKey = new Map<string, Held>();
  /** Long lists by their first entry, and by their last. */
  private readonly beginning = new Map<Held, Held>();
  private readonly ending = new Map<Held, Held>();
  /** The table that each record crossed in. */
  private readonly tables = new WeakMap<object, Held>();
  private next = 1;
  /** What is held on the other side by its own right, each by the name that it was sent under. */
  private readonly roots = new Map<string, Held>();

  /**
   * A record or list, and what of it has not crossed before.
   *
   * @param name What was sent under it before is let go of; under other names the other side keeps what it has.
   */
  pack(root: object, name = ""): Packet {
    const fresh: Crossing[] = [];
    const held = this.cross(root, 0, fresh);
    const gone: number[] = [];
    const before = this.roots.get(name);
    if (held !== before) {
      held.holders++;
      if (before) this.letGo(before, gone);
      this.roots.set(name, held);
    }
    return { root: held.id, fresh, gone: Int32Array.from(gone) };
  }

  /** One holder less; what nothing holds any more goes, and with it what only it held. */
  private letGo(first: Held, gone: number[]): void {
    const waiting = [first];
    for (let held = waiting.pop(); held; held = waiting.pop()) {
      if (--held.holders > 0) continue;
      gone.push(held.id);
      held.gone = true;
      if (held.key !== undefined) this.byKey.delete(held.key);
      const { holds } = held;
      if (holds.length > 0) {
        if (this.beginning.get(holds[0]) === held) this.beginning.delete(holds[0]);
        const end = holds[holds.length - 1];
        if (this.ending.get(end) === held) this.ending.delete(end);
      }
      for (const inner of holds) waiting.push(inner);
    }
  }

  private cross(value: object, depth: number, fresh: Crossing[]): Held {
    const before = this.known.get(value);
    if (before && !before.gone) return before;
    const table = this.asTable(value, depth, fresh);
    if (table) return table;
    const row = this.asRow(value, fresh);
    if (row) return row;
    const { says, holds } = isNumbers(value)
      ? { says: { numbers: value }, holds: [] }
      : this.contents(value, depth, fresh);
    const key = keyOf(says);
    const same = key === undefined ? undefined : this.byKey.get(key);
    const held = same ?? this.hold(value, says, holds, key, fresh);
    this.known.set(value, held);
    return held;
  }

  /**
   * A long list of alike records, held as one: of ten thousand openings none is held by itself. One that stood in the
   * list before is the very same there.
   */
  private asTable(value: object, depth: number, fresh: Crossing[]): Held | undefined {
    if (!Array.isArray(value) || value.length < LONG_LIST || depth >= DEEPEST) return undefined;
    const list: readonly unknown[] = value;
    if (!list.every((v) => isRecord(v) && !this.isHeld(v))) return undefined;
    const entries = list as readonly object[];
    const base = this.tableOf(entries[0]) ?? this.tableOf(entries[entries.length - 1]);
    const { first, last } = commonEnds<unknown>(entries, base?.entries ?? []);
    const middle = entries.slice(first, entries.length - last);
    const places = base ? placesIn(base) : undefined;
    const added = middle.filter((v) => !places?.has(v));
    if (new Set(added).size < added.length) return undefined;
    const columns = columnsOf(added, (v) => this.cross(v, depth + 1, fresh));
    if (!columns) return undefined;
    const { table, refs } = columns;
    const holds = base ? this.heldIn(entries) : refs;
    const held: Held = { id: this.next++, holds, entries, holders: 0, gone: false };
    for (const inner of holds) inner.holders++;
    const from = base && Int32Array.from(middle, (v) => places!.get(v) ?? -1);
    fresh.push({ id: held.id, table, ...(base ? { base: { id: base.id, first, last, from: from! } } : {}) });
    for (const v of entries) this.tables.set(v, held);
    this.known.set(value, held);
    return held;
  }

  /** What entries of a table hold that crosses by itself, each once. */
  private heldIn(entries: readonly object[]): readonly Held[] {
    const found = new Set<Held>();
    for (const entry of entries)
      for (const v of Object.values(entry)) {
        const held = typeof v === "object" && v !== null ? this.known.get(v) : undefined;
        if (held) found.add(held);
      }
    return [...found];
  }

  /** A record that has crossed in a table, by itself. */
  private asRow(value: object, fresh: Crossing[]): Held | undefined {
    const table = this.tableOf(value);
    if (!table) return undefined;
    const held: Held = { id: this.next++, holds: [], holders: 0, gone: false };
    fresh.push({ id: held.id, row: { table: table.id, at: placesIn(table).get(value)! } });
    this.known.set(value, held);
    return held;
  }

  private isHeld(value: object): boolean {
    const held = this.known.get(value);
    return held !== undefined && !held.gone;
  }

  /** The table that a record crossed in. */
  private tableOf(record: object): Held | undefined {
    const held = this.tables.get(record);
    return held && !held.gone ? held : undefined;
  }

  /** What has not crossed before. */
  private hold(
    value: object,
    says: Says,
    holds: readonly Held[],
    key: string | undefined,
    fresh: Crossing[],
  ): Held {
    const isLong = says.list && holds.length >= LONG_LIST;
    const entries = isLong ? { entries: value as readonly object[] } : {};
    const held: Held = { id: this.next++, holds, key, ...entries, holders: 0, gone: false };
    if (key !== undefined) this.byKey.set(key, held);
    for (const inner of holds) inner.holders++;
    fresh.push({ id: held.id, ...((isLong && this.shortly(says.list!, holds)) || says) });
    if (isLong) {
      this.beginning.set(holds[0], held);
      this.ending.set(holds[holds.length - 1], held);
    }
    return held;
  }

  /** The last long list that began, or ended, with something. */
  private likeOf(first: Held | undefined, last: Held | undefined): Held | undefined {
    return (first && this.beginning.get(first)) ?? (last && this.ending.get(last));
  }

  /** A long list told by how it differs from the last that began or ended alike; nothing where that is not shorter. */
  private shortly(list: Int32Array, holds: readonly Held[]): Says | undefined {
    const base = this.likeOf(holds[0], holds[holds.length - 1]);
    if (!base) return undefined;
    const { first, last } = commonEnds(holds, base.holds);
    if (first + last < holds.length / 2) return undefined;
    const middle = list.slice(first, list.length - last);
    return { change: { base: base.id, first, middle, last }, length: holds.length };
  }

  private contents(
    value: object,
    depth: number,
    fresh: Crossing[],
  ): { readonly says: Says; readonly holds: readonly Held[] } {
    const goes = (v: unknown): v is object => isNumbers(v) || (depth < DEEPEST && isRecord(v));
    const child = (v: object): Held => this.cross(v, depth + 1, fresh);
    const size = Array.isArray(value) ? { length: value.length } : {};
    if (Array.isArray(value) && value.length > 0) {
      const holds = this.entries(value, goes, child);
      if (holds) return { says: { list: Int32Array.from(holds, ({ id }) => id), ...size }, holds };
    }
    // Asked of every record that has not crossed, of which an opening has a dozen: written so that little is made on the way.
    const raw: Record<string, unknown> = {};
    let refs: Record<string, number> | undefined;
    const holds: Held[] = [];
    for (const key of Object.keys(value)) {
      const v = (value as Plain)[key];
      if (goes(v)) {
        const held = child(v);
        holds.push(held);
        refs ??= {};
        put(refs, key, held.id);
      } else put(raw, key, v);
    }
    const says = refs ? { raw, refs, ...size } : { raw, ...size };
    return { says, holds };
  }

  /**
   * A list's entries on the other side, if all of them go. What stands in it as in a long list that began or ended
   * with the very same records is known: only what is between is looked at.
   */
  private entries(
    list: readonly unknown[],
    goes: (v: unknown) => v is object,
    child: (v: object) => Held,
  ): Held[] | undefined {
    const known = (v: unknown) => this.known.get(v as object);
    const base = list.length < LONG_LIST ? undefined : this.likeOf(known(list[0]), known(list.at(-1)));
    const { first, last } = commonEnds<unknown>(list, base?.entries ?? []);
    const middle = list.slice(first, list.length - last);
    if (!middle.every(goes)) return undefined;
    const between = middle.map(child);
    return base
      ? [...base.holds.slice(0, first), ...between, ...base.holds.slice(base.holds.length - last)]
      : between;
  }
}

/** Gives a record a value; a key may be "__proto__". */
function put<T>(record: Record<string, T>, key: string, value: T): void {
  if (key === "__proto__") Object.defineProperty(record, key, { value, enumerable: true });
  else record[key] = value;
}

/** What a crossing says, as a text by which two are the same; nothing when that would be too long. */
function keyOf({ raw, refs, list, length, numbers }: Says): string | undefined {
  if (numbers) return `${numbers.constructor.name} ${numbers.length} ${hashes(numbers)}`;
  if (list) return list.length * 4 > LONGEST_KEY ? undefined : `list ${list.join()}`;
  let out = length === undefined ? "record" : `list of ${length}`;
  const say = (v: unknown): boolean => {
    switch (typeof v) {
      case "number":
        out += Object.is(v, -0) ? " n-0" : ` n${v}`;
        break;
      case "string":
        // Its length says where it ends: what stands in it cannot be taken for what stands behind it.
        out += ` s${v.length}:${v}`;
        break;
      case "object": {
        if (v === null) {
          out += " null";
          break;
        }
        if (!isRecord(v)) return false;
        out += Array.isArray(v) ? " [" : " {";
        for (const key of Object.keys(v)) {
          out += ` ${key.length}:${key}`;
          if (!say((v as Plain)[key])) return false;
        }
        out += " }";
        break;
      }
      default:
        out += ` ${typeof v} ${String(v)}`;
    }
    return out.length <= LONGEST_KEY;
  };
  if (!say(raw)) return undefined;
  for (const key of Object.keys(refs ?? {})) out += ` ${key.length}:${key} ${refs![key]}`;
  return out.length > LONGEST_KEY ? undefined : out;
}

/** Two independent 32-bit hashes (FNV-1a and a multiplicative one) of an array's bytes, four at a time. */
function hashes(numbers: Numbers): string {
  const { buffer, byteOffset, byteLength } = numbers;
  const words =
    byteOffset % 4 === 0 ? new Uint32Array(buffer, byteOffset, byteLength >> 2) : new Uint32Array(0);
  let [a, b] = [0x811c9dc5, 0x9e3779b9];
  const mix = (w: number) => {
    a = Math.imul(a ^ w, 0x01000193);
    a ^= a >>> 15;
    b = Math.imul(b + w, 0x85ebca6b);
    b ^= b >>> 13;
  };
  for (const w of words) mix(w);
  for (const w of new Uint8Array(buffer, byteOffset + words.length * 4, byteLength - words.length * 4))
    mix(w);
  return `${a >>> 0} ${b >>> 0}`;
}

/** About how many bytes a packet has on its way: its numbers, and its records as text. */
export const packetBytes = ({ fresh, gone }: Packet): number =>
  fresh.reduce(
    (sum, f) =>
      sum +
      (f.numbers?.byteLength ?? 0) +
      (f.list?.byteLength ?? 0) +
      (f.change?.middle.byteLength ?? 0) +
      (f.table ? tableBytes(f.table) + (f.base?.from.byteLength ?? 0) : 0) +
      JSON.stringify([f.raw, f.refs]).length,
    gone.byteLength,
  );

/** Puts results together again. What crossed before is the very same object as before. */
export class Receiver {
  private readonly records = new Map<number, object>();

  unpack<T extends object>({ root, fresh, gone }: Packet): T {
    // What is held comes before what holds it.
    for (const { id, raw = {}, refs = {}, list, change, table, base, row, length, numbers } of fresh) {
      let record: object;
      if (numbers) record = numbers;
      else if (table) record = this.rows(table, base);
      else if (row) record = (this.records.get(row.table) as object[])[row.at];
      else if (change) record = this.changed(change);
      else if (list) record = Array.from(list, (ref) => this.records.get(ref));
      else {
        // Defined, not assigned: a key may be "__proto__".
        const parts = {
          ...raw,
          ...Object.fromEntries(Object.entries(refs).map(([k, ref]) => [k, this.records.get(ref)])),
        };
        record = length === undefined ? parts : Object.assign(new Array(length), parts);
      }
      this.records.set(id, record);
    }
    const found = this.records.get(root);
    for (const id of gone) this.records.delete(id);
    return found as T;
  }

  private rows(table: Table, base: Crossing["base"]): object[] {
    const made = rowsOf(table, (ref) => this.records.get(ref));
    if (!base) return made;
    const before = this.records.get(base.id) as object[];
    let next = 0;
    const middle = Array.from(base.from, (at) => (at < 0 ? made[next++] : before[at]));
    return [...before.slice(0, base.first), ...middle, ...before.slice(before.length - base.last)];
  }

  private changed({ base, first, middle, last }: ListChange): object[] {
    const before = this.records.get(base) as object[];
    const put = Array.from(middle, (ref) => this.records.get(ref)!);
    return [...before.slice(0, first), ...put, ...before.slice(before.length - last)];
  }
}
