import { Kept } from "../kept.ts";
import { type Curve, curveBounds } from "../plane/curve.ts";
import { gapBetween, nearestOn } from "../plane/curve-gap.ts";
import { loopBounds } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { type Bounds, grown, type Point, subtract } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import { insideLoop } from "../plane/stitch.ts";
import type { Formed } from "../sheet/pieces/formed-piece.ts";
import { bendsOf, formedOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { moveAway } from "./move-away.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** A border that something formed must stand clear of, and how it is called. */
interface Neighbour {
  readonly curve: Curve;
  readonly box: Bounds;
  readonly called: string;
  /** What is formed itself within it. */
  readonly formed?: Formed;
}

const around = new Kept((sheet: Sheet): ReadonlyMap<string, NearCurves<Neighbour>> => {
  const lists = new Map<string, Neighbour[]>();
  const hosts = new Set(formedOf(sheet).map(({ host }) => host));
  for (const plate of platesOf(sheet)) if (hosts.has(plate.id)) lists.set(plate.id, []);
  const add = (plate: string, curve: Curve, called: string, formed?: Formed) =>
    lists.get(plate)?.push({ curve, box: curveBounds(curve), called, ...(formed ? { formed } : {}) });
  for (const plate of platesOf(sheet))
    for (const loop of plate.regions.flatMap(regionLoops)) {
      const rim = plate.regions.some((r) => r.outer === loop);
      for (const curve of loop) add(plate.id, curve, rim ? "the edge of its plate" : "an opening");
    }
  for (const bend of bendsOf(sheet)) {
    const along = (s: number, out: number): Point => ({
      x: bend.origin.x + bend.axis.x * s + bend.out.x * out,
      y: bend.origin.y + bend.axis.y * s + bend.out.y * out,
    });
    for (const [plate, out] of [
      [bend.parent, 0],
      [bend.child, bend.allowance],
    ] as const)
      add(plate, { kind: "line", a: along(0, out), b: along(bend.width, out) }, `bend ${bend.number}`);
  }
  for (const formed of formedOf(sheet))
    for (const curve of formed.outline)
      add(formed.host, curve, `the ${formed.title.toLowerCase()} beside it`, formed);
  return new Map([...lists].map(([id, list]) => [id, new NearCurves(list)]));
});

/** What comes nearest to something formed, within `least` mm: how near, where, and which way leads off it. */
function nearest(sheet: Sheet, formed: Formed, least: number) {
  let best: { gap: number; at: Point; way: Point; called: string } | undefined;
  const beside = around
    .of(sheet)
    .get(formed.host)!
    .near(grown(loopBounds(formed.outline), least));
  // Of a bend and the edge that runs along it the bend says more.
  const ranked = beside.sort(
    (p, q) => Number(q.called.startsWith("bend")) - Number(p.called.startsWith("bend")),
  );
  for (const { curve, called, formed: other } of ranked) {
    if (other === formed) continue;
    // What stands in its own middle goes with it.
    if (!other && insideLoop(formed.outline, curve.a)) continue;
    for (const own of formed.outline) {
      const { gap, at } = gapBetween(own, curve);
      if (gap >= (best?.gap ?? least) - AS_GOOD) continue;
      const [from, to] = [nearestOn(curve, at), nearestOn(own, at)];
      const d = subtract(to, from);
      const length = Math.hypot(d.x, d.y);
      best = {
        gap,
        at,
        called,
        way: length > AS_GOOD ? { x: d.x / length, y: d.y / length } : { x: 0, y: 0 },
      };
    }
  }
  return best;
}

/** Metal that is formed pulls at what is beside it: an edge, an opening, a bend, or another shape. */
export const formRoomRule: CheckRule = (build, { values }) => {
  const sheet = build.sheet!;
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  return formedOf(sheet).flatMap((formed): Finding[] => {
    const wanted = formed.room * values.formRoom;
    const found = wanted > AS_GOOD ? nearest(sheet, formed, wanted) : undefined;
    if (!found) return [];
    const plate = plates.get(formed.host)!;
    const short = wanted - found.gap;
    return [
      {
        level: "warn",
        rule: "form-room",
        message: `The ${formed.title.toLowerCase()} on plate ${plate.letter} is ${mm(found.gap)} from ${found.called}; its tool needs ${mm(wanted)}. Move it ${mm(short)} away.`,
        step: formed.step,
        pieces: [{ kind: "plate", id: plate.id }],
        at: found.at,
        found: found.gap,
        wanted,
        ...(formed.name === `form:${formed.step}`
          ? moveAway(build, formed.step, plate, found.way, short, `the ${formed.title.toLowerCase()}`)
          : {}),
      },
    ];
  });
};
