import type { Vector } from "../space/vector.ts";

/** Something with limits along the axes of space. */
export interface Limited {
  readonly min: Vector;
  readonly max: Vector;
}

/** A tree of boxes: a leaf holds a few things, a branch two halves of its own. */
export interface BoxTree<T extends Limited> extends Limited {
  readonly things?: readonly T[];
  readonly halves?: readonly [BoxTree<T>, BoxTree<T>];
}

const FEW = 4;

/** Puts things into a tree, parting them in the middle of the way along which they are spread the widest. */
export function treeOf<T extends Limited>(things: readonly T[]): BoxTree<T> | undefined {
  if (things.length === 0) return undefined;
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const t of things)
    for (const k of [0, 1, 2] as const) {
      min[k] = Math.min(min[k], t.min[k]);
      max[k] = Math.max(max[k], t.max[k]);
    }
  if (things.length <= FEW) return { min, max, things };
  const k = ([0, 1, 2] as const).reduce((a, b) => (max[b] - min[b] > max[a] - min[a] ? b : a));
  const order = [...things].sort((p, q) => p.min[k] + p.max[k] - q.min[k] - q.max[k]);
  const middle = order.length >> 1;
  return { min, max, halves: [treeOf(order.slice(0, middle))!, treeOf(order.slice(middle))!] };
}

/** How far apart two boxes are at least, mm; nought where they meet. */
export function boxesApart(p: Limited, q: Limited): number {
  let sum = 0;
  for (const k of [0, 1, 2] as const) {
    const gap = Math.max(0, p.min[k] - q.max[k], q.min[k] - p.max[k]);
    sum += gap * gap;
  }
  return Math.sqrt(sum);
}

const STILL: Vector = [0, 0, 0];

/** Whether two boxes have space in common once the second is shifted. */
const overlap = (p: Limited, q: Limited, v: Vector): boolean =>
  p.min[0] < q.max[0] + v[0] &&
  q.min[0] + v[0] < p.max[0] &&
  p.min[1] < q.max[1] + v[1] &&
  q.min[1] + v[1] < p.max[1] &&
  p.min[2] < q.max[2] + v[2] &&
  q.min[2] + v[2] < p.max[2];

const sizeOf = ({ min, max }: Limited): number => max[0] - min[0] + max[1] - min[1] + max[2] - min[2];

/** The pairs of nodes one step further down: the larger one is parted, if it can be. */
function* below<T extends Limited, U extends Limited>(
  p: BoxTree<T>,
  q: BoxTree<U>,
): Generator<[BoxTree<T>, BoxTree<U>]> {
  if (p.halves && (!q.halves || sizeOf(p) >= sizeOf(q))) for (const half of p.halves) yield [half, q];
  else for (const half of q.halves!) yield [p, half];
}

/** Does something with each two things whose boxes have space in common, the second ones shifted. */
export function eachOverlapping<T extends Limited, U extends Limited>(
  p: BoxTree<T> | undefined,
  q: BoxTree<U> | undefined,
  visit: (a: T, b: U) => void,
  shift: Vector = STILL,
): void {
  if (!p || !q || !overlap(p, q, shift)) return;
  if (p.things && q.things) {
    for (const a of p.things) for (const b of q.things) if (overlap(a, b, shift)) visit(a, b);
    return;
  }
  for (const [a, b] of below(p, q)) eachOverlapping(a, b, visit, shift);
}

/** Does something with each two things whose boxes are less far apart than a bound, which may shrink meanwhile. */
export function eachNear<T extends Limited, U extends Limited>(
  p: BoxTree<T> | undefined,
  q: BoxTree<U> | undefined,
  bound: () => number,
  visit: (a: T, b: U) => void,
): void {
  if (!p || !q || boxesApart(p, q) >= bound()) return;
  if (p.things && q.things) {
    for (const a of p.things) for (const b of q.things) if (boxesApart(a, b) < bound()) visit(a, b);
    return;
  }
  // The nearer first, so that the bound shrinks soon.
  const next = [...below(p, q)].sort((x, y) => boxesApart(...x) - boxesApart(...y));
  for (const [a, b] of next) eachNear(a, b, bound, visit);
}
