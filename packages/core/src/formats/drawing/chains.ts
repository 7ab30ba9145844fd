import { type Curve, reversed } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";

/** Curves of a file put together: those that close, and those that do not. */
export interface Chains {
  readonly closed: readonly (readonly Curve[])[];
  readonly open: readonly (readonly Curve[])[];
}

/** Ends by number: those within a distance of one another are one. */
class EndTable {
  private readonly cells = new Map<string, { readonly at: Point; readonly id: number }[]>();
  private count = 0;

  constructor(private readonly within: number) {}

  of(p: Point): number {
    const [i, j] = [Math.floor(p.x / this.within), Math.floor(p.y / this.within)];
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++)
        for (const { at, id } of this.cells.get(`${i + di} ${j + dj}`) ?? [])
          if (Math.hypot(at.x - p.x, at.y - p.y) <= this.within) return id;
    const id = this.count++;
    const key = `${i} ${j}`;
    const list = this.cells.get(key);
    if (list) list.push({ at: p, id });
    else this.cells.set(key, [{ at: p, id }]);
    return id;
  }
}

/**
 * Puts curves together end to end, whichever way round each is written. Where more than two meet, a chain goes on with the
 * curve that stands next in the file. Ends that are no farther apart than `within` are one.
 */
export function chainCurves(curves: readonly Curve[], within: number): Chains {
  const table = new EndTable(within);
  const ends = curves.map((c) => [table.of(c.a), table.of(c.b)] as const);
  const at = new Map<number, number[]>();
  ends.forEach((pair, i) => {
    for (const end of new Set(pair)) at.set(end, [...(at.get(end) ?? []), i]);
  });
  const used = new Uint8Array(curves.length);
  /** Goes on from an end as far as there is something. */
  const follow = (from: number, start: number, stop: number): { curves: Curve[]; end: number } => {
    const out: Curve[] = [];
    let [end, last] = [start, from];
    while (end !== stop) {
      const choices = (at.get(end) ?? []).filter((i) => !used[i]);
      if (choices.length === 0) break;
      const next = choices.find((i) => i > last) ?? choices[0];
      used[next] = 1;
      const forth = ends[next][0] === end;
      out.push(forth ? curves[next] : reversed(curves[next]));
      end = forth ? ends[next][1] : ends[next][0];
      last = next;
    }
    return { curves: out, end };
  };
  const closed: Curve[][] = [];
  const open: Curve[][] = [];
  for (let i = 0; i < curves.length; i++) {
    if (used[i]) continue;
    used[i] = 1;
    const [a, b] = ends[i];
    const on = follow(i, b, a);
    const chain = [curves[i], ...on.curves];
    if (on.end === a) {
      closed.push(chain);
      continue;
    }
    const back = follow(i, a, -1);
    open.push([...back.curves.map(reversed).reverse(), ...chain]);
  }
  return { closed, open };
}
