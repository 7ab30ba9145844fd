import { Kept } from "../kept.ts";
import { type Curve, curveBounds } from "../plane/curve.ts";
import { gapBetween, nearestOn } from "../plane/curve-gap.ts";
import { loopBounds } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { type Bounds, grown, hypotenuse, type Point, subtract } from "../plane/point.ts";
import { insideLoop } from "../plane/stitch.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import type { Formed } from "../sheet/pieces/formed-piece.ts";
import { formedOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { moveAway } from "./move-away.ts";
import { AS_GOOD } from "./opening-names.ts";
import { bordersOf, type PlateBorder, sameList } from "./plate-borders.ts";
import type { CheckRule } from "./rule.ts";

interface Shape {
  readonly curve: Curve;
  readonly box: Bounds;
  readonly formed: Formed;
}

interface Beside {
  readonly borders: NearCurves<PlateBorder>;
  readonly shapes: NearCurves<Shape>;
}

/** The borders of what is formed out of a plate. */
const shapesOn = new Kept(
  (_plate: Plate, formed: readonly Formed[]): NearCurves<Shape> =>
    new NearCurves(
      formed.flatMap((f) => f.outline.map((curve) => ({ curve, box: curveBounds(curve), formed: f }))),
    ),
  sameList,
);

/** What stands on the plates of a sheet that something is formed out of. */
const onHosts = new Kept((sheet: Sheet): ReadonlyMap<string, Beside> => {
  const formed = new Map<string, Formed[]>();
  for (const f of formedOf(sheet)) {
    const own = formed.get(f.host);
    if (own) own.push(f);
    else formed.set(f.host, [f]);
  }
  if (formed.size === 0) return new Map();
  const borders = bordersOf.of(sheet);
  return new Map(
    platesOf(sheet).flatMap((plate) => {
      const own = formed.get(plate.id);
      return own
        ? [[plate.id, { borders: borders.get(plate.id)!.all, shapes: shapesOn.of(plate, own) }] as const]
        : [];
    }),
  );
});

/** What comes nearest to something formed, within `least` mm: how near, where, and which way leads off it. */
const nearest = new Kept(
  (formed: Formed, { beside, least }: { beside: Beside; least: number }) => nearestIn(beside, formed, least),
  (p, q) =>
    p.beside.borders === q.beside.borders && p.beside.shapes === q.beside.shapes && p.least === q.least,
);

const calledBorder = ({ bend, rim }: PlateBorder): string =>
  bend ? `bend ${bend.number}` : rim ? "the edge of its plate" : "an opening";

function nearestIn({ borders, shapes }: Beside, formed: Formed, least: number) {
  let best: { gap: number; at: Point; way: Point; called: string } | undefined;
  const box = grown(loopBounds(formed.outline), least);
  // Of a bend and the edge that runs along it the bend says more.
  const ranked = [
    ...borders.near(box).sort((p, q) => Number(!!q.bend) - Number(!!p.bend)),
    ...shapes.near(box),
  ].map((one) =>
    "formed" in one
      ? { ...one, called: `the ${one.formed.title.toLowerCase()} beside it` }
      : { ...one, called: calledBorder(one), formed: undefined },
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
      const length = hypotenuse(d.x, d.y);
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
    const beside = hosts.get(formed.host)!;
    const found = wanted > AS_GOOD ? nearest.of(formed, { beside, least: wanted }) : undefined;
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
