import { type Curve, reversed } from "../../plane/curve.ts";
import { NumberedPlaces } from "../../plane/near-places.ts";

/** Curves of a file put together: those that close, and those that do not. */
export interface Chains {
  readonly closed: readonly (readonly Curve[])[];
  readonly open: readonly (readonly Curve[])[];
}

/**
 * Puts curves together end to end, whichever way round each is written. Where more than two meet, a chain goes on with the
 * curve that stands next in the file. Ends that are no farther apart than `within` are one.
 */
export function chainCurves(curves: readonly Curve[], within: number): Chains {
  const table = new NumberedPlaces(within);
  const ends = curves.map((c) => [table.of(c.a), table.of(c.b)] as const);
  const at = new Map<number, number[]>();
  ends.forEach((pair, i) => {
    for (const end of new Set(pair)) {
      const list = at.get(end);
      if (list) list.push(i);
      else at.set(end, [i]);
    }
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
