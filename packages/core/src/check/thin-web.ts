import { Kept } from "../kept.ts";
import { curveBounds } from "../plane/curve.ts";
import type { Loop } from "../plane/loop.ts";
import type { Point } from "../plane/point.ts";
import { type Plate, platesOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import { gapBetween } from "./curve-gap.ts";
import { AS_GOOD, calledOpening, stepOfOpening } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

interface Web {
  readonly gap: number;
  readonly at: Point;
  readonly loops: readonly [Loop, Loop];
  /** Whether the first is the outline. */
  readonly rim: boolean;
}

/** Of every two loops of a region, its outline first, that come nearer than `least` mm, how near they come: a sweep over all their curves. */
function thinWebs(loops: readonly Loop[], least: number): Web[] {
  const curves = loops.flatMap((loop, i) => loop.map((curve) => ({ curve, i, box: curveBounds(curve) })));
  curves.sort((p, q) => p.box.minX - q.box.minX);
  const webs = new Map<string, Web>();
  let active: typeof curves = [];
  for (const q of curves) {
    active = active.filter((p) => p.box.maxX + least > q.box.minX);
    for (const p of active) {
      if (p.i === q.i || p.box.maxY + least <= q.box.minY || q.box.maxY + least <= p.box.minY) continue;
      const { gap, at } = gapBetween(p.curve, q.curve);
      const [i, j] = p.i < q.i ? [p.i, q.i] : [q.i, p.i];
      const key = `${i} ${j}`;
      if (gap < (webs.get(key)?.gap ?? least))
        webs.set(key, { gap, at, loops: [loops[i], loops[j]], rim: i === 0 });
    }
    active.push(q);
  }
  return [...webs.values()];
}

const webs = new Kept((plate: Plate, least: number) =>
  plate.regions.flatMap(({ outer, holes }) => thinWebs([outer, ...holes], least)),
);

/** Metal that is narrower than the sheet is thick burns away, or tears when the part is bent. */
export const thinWebRule: CheckRule = (build, { values }) => {
  const wanted = values.leastWeb * build.sheet!.t;
  return platesOf(build.sheet).flatMap((plate) =>
    webs.of(plate, wanted - AS_GOOD).map(({ gap, at, loops, rim }) => {
      const opening = loops[1];
      const between = rim
        ? `${calledOpening(opening)} on plate ${plate.letter} leaves ${mm(gap)} to the edge`
        : `Between ${calledOpening(loops[0]).toLowerCase()} and another on plate ${plate.letter} stand ${mm(gap)}`;
      return {
        level: "warn" as const,
        rule: "thin-web",
        message: `${between}; the shop leaves ${mm(wanted)}. Move or shrink it by ${mm(wanted - gap)}.`,
        step: stepOfOpening(build, opening, plate.step),
        pieces: [{ kind: "plate" as const, id: plate.id }],
        at,
        found: gap,
        wanted,
      };
    }),
  );
};
