import { hypotenuse } from "../../plane/point.ts";
import type { Names } from "../../units/expression.ts";
import {
  DIMENSION_SLOTS,
  type DimensionKind,
  fitsSlot,
  freshIds,
  type Outline,
  type OutlineCurve,
  RELATION_SLOTS,
  type RelationKind,
  type Slot,
} from "../outline.ts";
import { type SolvedOutline, solveOutline } from "../solve.ts";

/** A relation or a dimension that what is picked can have, with its things in the order that it asks for. */
export type Offer =
  | { readonly relation: RelationKind; readonly of: readonly string[] }
  | { readonly dimension: DimensionKind; readonly of: readonly string[] };

type Thing = OutlineCurve | "point";

/** Things in an order in which each fits its place; nothing where there is none. */
function inOrder(
  slots: readonly Slot[],
  ids: readonly string[],
  thing: (id: string) => Thing,
): string[] | undefined {
  if (slots.length !== ids.length) return undefined;
  const [slot, ...rest] = slots;
  if (!slot) return [];
  for (const id of ids) {
    if (!fitsSlot(slot, thing(id))) continue;
    const others = inOrder(
      rest,
      ids.filter((o) => o !== id),
      thing,
    );
    if (others) return [id, ...others];
  }
  return undefined;
}

/** Relations of two, which can hold of more than two things: each with the next. */
const IN_CHAIN: ReadonlySet<RelationKind> = new Set([
  "parallel",
  "equal",
  "inLine",
  "concentric",
  "coincident",
]);
const OF_ONE: ReadonlySet<RelationKind> = new Set(["level", "upright", "fixed"]);

/** What relations picked things can have that they have not, the likely first. */
export function relationOffers(outline: Outline, picks: readonly string[]): Offer[][] {
  const curves = new Map(outline.curves.map((c) => [c.id, c]));
  const ids = picks.filter((id) => curves.has(id) || outline.points[id] !== undefined);
  const thing = (id: string): Thing => curves.get(id) ?? "point";
  const said = new Set(outline.relations.map((r) => `${r.kind} ${[...r.of].sort().join()}`));
  const offers: Offer[][] = [];
  for (const [relation, ways] of Object.entries(RELATION_SLOTS) as [
    RelationKind,
    (typeof RELATION_SLOTS)[RelationKind],
  ][]) {
    const list = groupsFor(relation, ids).map((group) => {
      for (const slots of ways) {
        const of = inOrder(slots, group, thing);
        if (of) return { relation, of };
      }
      return undefined;
    });
    if (list.length === 0 || list.some((o) => !o)) continue;
    const fresh = (list as Offer[]).filter((o) => !said.has(`${relation} ${[...o.of].sort().join()}`));
    if (fresh.length > 0) offers.push(fresh);
  }
  return offers;
}

/** Things taken together for a relation: all of them, one by one, or each with the next. */
function groupsFor(relation: RelationKind, ids: readonly string[]): (readonly string[])[] {
  if (ids.length > 1 && OF_ONE.has(relation) && !(ids.length === 2 && relation !== "fixed"))
    return ids.map((id) => [id]);
  if (ids.length > 2 && IN_CHAIN.has(relation)) return ids.slice(1).map((id, i) => [ids[i], id]);
  return ids.length > 0 ? [ids] : [];
}

/** What dimensions picked things can have, the likely first. */
export function dimensionOffers(outline: Outline, picks: readonly string[]): Offer[] {
  const curves = new Map(outline.curves.map((c) => [c.id, c]));
  const ids = picks.filter((id) => curves.has(id) || outline.points[id] !== undefined);
  const thing = (id: string): Thing => curves.get(id) ?? "point";
  const offers: Offer[] = [];
  for (const [dimension, ways] of Object.entries(DIMENSION_SLOTS) as [
    DimensionKind,
    (typeof DIMENSION_SLOTS)[DimensionKind],
  ][])
    for (const slots of ways) {
      const of = inOrder(slots, ids, thing);
      if (of) offers.push({ dimension, of });
    }
  // Two lines that run alike have no angle, but a distance: from an end of one to the other.
  const [p, q] = ids.map((id) => curves.get(id));
  if (ids.length === 2 && p?.kind === "line" && q?.kind === "line" && runAlike(outline, p, q))
    return [{ dimension: "toLine", of: [p.a, q.id] }];
  // A round's own size: across for a circle, from its middle for an arc.
  if (ids.length === 1 && p?.kind === "circle")
    offers.sort(
      (a, b) =>
        Number("dimension" in b && b.dimension === "diameter") -
        Number("dimension" in a && a.dimension === "diameter"),
    );
  return offers;
}

function runAlike({ points }: Outline, p: { a: string; b: string }, q: { a: string; b: string }): boolean {
  const way = ({ a, b }: { a: string; b: string }) => [
    points[b][0] - points[a][0],
    points[b][1] - points[a][1],
  ];
  const [[ux, uy], [vx, vy]] = [way(p), way(q)];
  return Math.abs(ux * vy - uy * vx) < 1e-6 * hypotenuse(ux, uy) * hypotenuse(vx, vy);
}

/** An outline with what was offered; a dimension begins as what is there. `id`: of the last thing that is new. */
export function withOffer(
  outline: Outline,
  offers: readonly Offer[],
  names?: Names,
): { readonly outline: Outline; readonly id: string } {
  const fresh = freshIds(outline);
  let [next, id] = [outline, ""];
  for (const offer of offers) {
    id = fresh("relation" in offer ? "r" : "d");
    if ("relation" in offer)
      next = { ...next, relations: [...next.relations, { id, kind: offer.relation, of: offer.of }] };
    else {
      const shown = { id, kind: offer.dimension, of: offer.of, value: 0, showing: true };
      // It is measured where it stands: nothing need be solved for that.
      const measured = solveOutline({ ...next, relations: [], dimensions: [shown] }, names).values[id];
      next = { ...next, dimensions: [...next.dimensions, { ...drivenBy(shown, measured) }] };
    }
  }
  return { outline: next, id };
}

function drivenBy(
  { id, kind, of }: { id: string; kind: DimensionKind; of: readonly string[] },
  measured: number,
) {
  const inDocument = kind === "angle" ? (measured * 180) / Math.PI : measured;
  return { id, kind, of, value: Number(inDocument.toFixed(6)) };
}

/**
 * Whether something that was just added only repeats what is there, or goes against it: then a dimension had better only
 * show what it comes to.
 */
export function isTooMuch(outline: Outline, id: string, names?: Names): boolean {
  const solved: SolvedOutline = solveOutline(outline, names);
  if (solved.state === "conflict") return solved.conflicts.includes(id);
  const before = solveOutline(
    { ...outline, dimensions: outline.dimensions.filter((d) => d.id !== id) },
    names,
  );
  return before.state !== "conflict" && before.free === solved.free;
}
