import { Kept } from "../kept.ts";
import { type Curve, curveBounds } from "../plane/curve.ts";
import { gapBetween, nearestOn } from "../plane/curve-gap.ts";
import { loopBounds } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { type Bounds, grown, type Point, subtract } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import { insideLoop } from "../plane/stitch.ts";
import type { Formed } from "../sheet/pieces/formed-piece.ts";
import { type Bend, bendsOf, formedOf, type Plate, platesOf, type Sheet } from "../sheet/sheet.ts";
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

/** What a plate has besides its own outlines: bends that begin or end on it, and what is formed out of it. */
interface Beside {
  readonly bends: readonly Bend[];
  readonly formed: readonly Formed[];
}

const sameList = <T>(p: readonly T[], q: readonly T[]) =>
  p.length === q.length && p.every((v, i) => v === q[i]);

/** Borders on a plate: while nothing on it changes, they are what they were. */
const around = new Kept(
  (plate: Plate, { bends, formed }: Beside): NearCurves<Neighbour> => {
    const list: Neighbour[] = [];
    const add = (curve: Curve, called: string, of?: Formed) =>
      list.push({ curve, box: curveBounds(curve), called, ...(of ? { formed: of } : {}) });
    for (const loop of plate.regions.flatMap(regionLoops)) {
      const rim = plate.regions.some((r) => r.outer === loop);
      for (const curve of loop) add(curve, rim ? "the edge of its plate" : "an opening");
    }
    for (const bend of bends) {
      const out = bend.parent === plate.id ? 0 : bend.allowance;
      const place = (s: number): Point => ({
        x: bend.origin.x + bend.axis.x * s + bend.out.x * out,
        y: bend.origin.y + bend.axis.y * s + bend.out.y * out,
      });
      add({ kind: "line", a: place(0), b: place(bend.width) }, `bend ${bend.number}`);
    }
    for (const f of formed)
      for (const curve of f.outline) add(curve, `the ${f.title.toLowerCase()} beside it`, f);
    return new NearCurves(list);
  },
  (p, q) => sameList(p.bends, q.bends) && sameList(p.formed, q.formed),
);

/** Borders on the plates of a sheet that something is formed out of. */
const onHosts = new Kept((sheet: Sheet): ReadonlyMap<string, NearCurves<Neighbour>> => {
  const beside = new Map<string, { bends: Bend[]; formed: Formed[] }>();
  for (const formed of formedOf(sheet)) {
    const own = beside.get(formed.host) ?? { bends: [], formed: [] };
    beside.set(formed.host, own);
    own.formed.push(formed);
  }
  for (const bend of bendsOf(sheet))
    for (const plate of [bend.parent, bend.child]) beside.get(plate)?.bends.push(bend);
  return new Map(
    platesOf(sheet).flatMap((plate) => {
      const own = beside.get(plate.id);
      return own ? [[plate.id, around.of(plate, own)] as const] : [];
    }),
  );
});

/** What comes nearest to something formed, within `least` mm: how near, where, and which way leads off it. */
const nearest = new Kept(
  (formed: Formed, { borders, least }: { borders: NearCurves<Neighbour>; least: number }) =>
    nearestIn(borders, formed, least),
  (p, q) => p.borders === q.borders && p.least === q.least,
);

function nearestIn(borders: NearCurves<Neighbour>, formed: Formed, least: number) {
  let best: { gap: number; at: Point; way: Point; called: string } | undefined;
  const beside = borders.near(grown(loopBounds(formed.outline), least));
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
  const hosts = onHosts.of(sheet);
  return formedOf(sheet).flatMap((formed): Finding[] => {
    const wanted = formed.room * values.formRoom;
    const borders = hosts.get(formed.host)!;
    const found = wanted > AS_GOOD ? nearest.of(formed, { borders, least: wanted }) : undefined;
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
