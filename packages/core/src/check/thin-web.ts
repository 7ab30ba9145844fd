import { Kept } from "../kept.ts";
import { listDifference } from "../list-difference.ts";
import type { PartBuild } from "../part/build.ts";
import { stepOfOpening } from "../part/set-in.ts";
import { curveBounds } from "../plane/curve.ts";
import { gapBetween } from "../plane/curve-gap.ts";
import { type Loop, loopBounds } from "../plane/loop.ts";
import { boundsMeet, grown, type Point } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import { platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { moveAway, smallerOf, wayOff } from "./move-away.ts";
import { AS_GOOD, calledOpening } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

interface Web {
  readonly gap: number;
  readonly at: Point;
  readonly loops: readonly [Loop, Loop];
  /** Whether the first is the outline. */
  readonly rim: boolean;
}

/**
 * Of every two loops of a region, its outline first, that come nearer than `least` mm, how near they come: a sweep over
 * all their curves.
 *
 * @param asked Which loops are asked about: of two that are both not, nothing is said.
 */
function thinWebs(loops: readonly Loop[], least: number, asked?: ReadonlySet<Loop>): Web[] {
  const boxes = asked && [...asked].map((loop) => grown(loopBounds(loop), least));
  const curves = loops.flatMap((loop, i) => {
    const own = asked?.has(loop) ?? true;
    if (!own && !boxes!.some((box) => boundsMeet(box, loopBounds(loop)))) return [];
    return loop.map((curve) => ({ curve, i, own, box: curveBounds(curve) }));
  });
  curves.sort((p, q) => p.box.minX - q.box.minX);
  const webs = new Map<string, Web>();
  let active: typeof curves = [];
  for (const q of curves) {
    active = active.filter((p) => p.box.maxX + least > q.box.minX);
    for (const p of active) {
      if (p.i === q.i || !(p.own || q.own)) continue;
      if (p.box.maxY + least <= q.box.minY || q.box.maxY + least <= p.box.minY) continue;
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

/** With more new loops than this all are looked at. */
const FEW_NEW = 64;

const loopsOf = (plate: Plate) => plate.regions.flatMap(regionLoops);

/** In the order in which the loops stand, whichever were looked at when. */
function inOrder(webs: readonly Web[], plate: Plate): Web[] {
  if (webs.length < 2) return [...webs];
  const place = new Map(loopsOf(plate).map((loop, i) => [loop, i]));
  const at = ({ loops: [p, q] }: Web) => [place.get(p)!, place.get(q)!] as const;
  return [...webs].sort((p, q) => at(p)[0] - at(q)[0] || at(p)[1] - at(q)[1]);
}

const webs = new Kept(
  (plate: Plate, least: number): readonly Web[] =>
    inOrder(
      plate.regions.flatMap(({ outer, holes }) => thinWebs([outer, ...holes], least)),
      plate,
    ),
  Object.is,
  // Where a few openings are others, only what is beside them is looked at anew.
  (plate, least, before, found) => {
    if (plate.regions.length !== 1 || before.regions.length !== 1) return undefined;
    const [{ outer, holes }] = plate.regions;
    if (outer !== before.regions[0].outer) return undefined;
    const change = listDifference(before.regions[0].holes, holes);
    if (change.come.length > FEW_NEW) return undefined;
    const gone = new Set(change.gone);
    const kept = found.filter(({ loops: [p, q] }) => !gone.has(p) && !gone.has(q));
    return inOrder([...kept, ...thinWebs([outer, ...holes], least, new Set(change.come))], plate);
  },
);

/** The least move of an opening, the smaller of two, that leaves a web as wide as is wanted. */
function mendOf(
  build: PartBuild,
  plate: Plate,
  [p, q]: readonly [Loop, Loop],
  rim: boolean,
  by: number,
): Pick<Finding, "mend"> {
  const own = rim ? q : smallerOf(p, q);
  const step = stepOfOpening(build, own, plate.step);
  if (step === plate.step) return {};
  return moveAway(build, step, plate, wayOff(own, own === p ? q : p), by, "it");
}

/** Metal that is narrower than the sheet is thick burns away, or tears when the part is bent. */
export const thinWebRule: CheckRule = (build, { values }) => {
  const wanted = values.leastWeb * build.sheet!.t;
  return platesOf(build.sheet).flatMap((plate) =>
    webs.of(plate, wanted - AS_GOOD).map(({ gap, at, loops, rim }) => {
      const opening = loops[1];
      const between = rim
        ? `${calledOpening(build.sheet, opening)} on plate ${plate.letter} leaves ${mm(gap)} to the edge`
        : `Between ${calledOpening(build.sheet, loops[0]).toLowerCase()} and another on plate ${plate.letter} stand ${mm(gap)}`;
      return {
        level: "warn" as const,
        rule: "thin-web",
        message: `${between}; the shop leaves ${mm(wanted)}. Move or shrink it by ${mm(wanted - gap)}.`,
        step: stepOfOpening(build, opening, plate.step),
        pieces: [{ kind: "plate" as const, id: plate.id }],
        at,
        found: gap,
        wanted,
        ...mendOf(build, plate, loops, rim, wanted - gap),
      };
    }),
  );
};
