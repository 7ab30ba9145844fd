import type { Outline, OutlineDimension } from "../outline/outline.ts";

/** An outline that a shop keeps, to be used in any part. */
export interface KeptOutline {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly outline: Outline;
}

/** The numbers of an outline that have a name: its own values, and dimensions that drive it. */
const namedOf = ({ values = [], dimensions }: Outline): ReadonlyMap<string, string | number> =>
  new Map([
    ...values.map((v) => [v.name, v.value] as const),
    ...dimensions.flatMap((d) => (d.name && !d.showing ? [[d.name, d.value] as const] : [])),
  ]);

/** A kept outline as a part takes it over again: with the part's own numbers where they have a name that it still has. */
export function takenOver(kept: Outline, own: Outline): Outline {
  const values = namedOf(own);
  const given = <T extends { readonly name?: string; readonly value: string | number }>(v: T): T =>
    v.name !== undefined && values.has(v.name) ? { ...v, value: values.get(v.name)! } : v;
  return {
    ...kept,
    dimensions: kept.dimensions.map((d): OutlineDimension => (d.showing ? d : given(d))),
    ...(kept.values ? { values: kept.values.map(given) } : {}),
  };
}

const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? "" : "s"}`;

/** What taking an outline over would change in a part, each in a few words; nothing where they are alike. */
export function outlineChanges(from: Outline, to: Outline): string[] {
  const told: string[] = [];
  const lists = [
    ["curve", from.curves, to.curves],
    ["relation", from.relations, to.relations],
    ["dimension", from.dimensions, to.dimensions],
  ] as const;
  for (const [noun, before, after] of lists) {
    const was = new Map<string, string>(before.map((e) => [e.id, JSON.stringify(e)]));
    const is = new Map<string, string>(after.map((e) => [e.id, JSON.stringify(e)]));
    const added = [...is.keys()].filter((id) => !was.has(id)).length;
    const gone = [...was.keys()].filter((id) => !is.has(id)).length;
    const other = [...is].filter(([id, text]) => was.has(id) && was.get(id) !== text).length;
    if (added > 0) told.push(`${counted(added, noun)} more`);
    if (gone > 0) told.push(`${counted(gone, noun)} less`);
    if (other > 0) told.push(`${counted(other, noun)} otherwise`);
  }
  const places = Object.keys(to.points).filter(
    (id) => from.points[id] && JSON.stringify(from.points[id]) !== JSON.stringify(to.points[id]),
  ).length;
  if (places > 0) told.push(`${counted(places, "point")} elsewhere`);
  return told;
}
