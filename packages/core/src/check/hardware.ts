import { setInto, settingIn } from "../part/set-in.ts";
import { type Curve, distanceToCurve } from "../plane/curve.ts";
import { nearestOn } from "../plane/curve-gap.ts";
import type { Loop } from "../plane/loop.ts";
import { grown, hypotenuse, type Point, subtract } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import { platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import { mm } from "../units/spoken-length.ts";
import { moveAway } from "./move-away.ts";
import { AS_GOOD } from "./opening-names.ts";
import { bordersOf, type PlateBorders } from "./plate-borders.ts";
import type { CheckRule } from "./rule.ts";

interface Beside {
  readonly curve: Curve;
  readonly called: string;
  readonly found: number;
  readonly wanted: number;
}

/** The edge or other opening that comes nearest to the middle of an opening; nothing where it is as far as wanted. */
function nearestEdge(
  { all, bends }: PlateBorders,
  own: Loop,
  middle: Point,
  wanted: number,
): Beside | undefined {
  // Where a bend begins there is no edge.
  const begins = (c: Curve) =>
    bends.some((b) => distanceToCurve(b.curve, c.a) < ON_LINE && distanceToCurve(b.curve, c.b) < ON_LINE);
  const at = { minX: middle.x, minY: middle.y, maxX: middle.x, maxY: middle.y };
  // Whoever asks for much room has near neighbours: it is looked farther only while there are none.
  for (let reach = Math.min(wanted, FIRST_LOOK); ; reach = Math.min(wanted, 2 * reach)) {
    let best: Beside | undefined;
    for (const { curve, loop, bend } of all.near(grown(at, reach))) {
      if (bend || loop === own) continue;
      const found = distanceToCurve(curve, middle);
      if (found < Math.min(best?.found ?? Infinity, reach, wanted - AS_GOOD) && !begins(curve))
        best = { curve, called: "an edge or another opening", found, wanted };
    }
    if (best || reach >= wanted) return best;
  }
}

/** What an opening for hardware stands too near to, that which it lacks most to first. */
function besides(borders: PlateBorders, own: Loop, middle: Point, item: HardwareItem): Beside[] {
  const bends = borders.bends.map(({ curve, bend }) => ({
    curve,
    called: `where bend ${bend!.number} begins`,
    found: distanceToCurve(curve, middle),
    wanted: item.toBend,
  }));
  const edge = nearestEdge(borders, own, middle, item.toEdge);
  return [...bends, ...(edge ? [edge] : [])]
    .filter(({ found, wanted }) => found < wanted - AS_GOOD)
    .sort((p, q) => q.wanted - q.found - (p.wanted - p.found));
}

/** So far, mm, it is looked first. */
const FIRST_LOOK = 8;
/** Borders nearer to the line where a bend begins, mm, are that line. */
const ON_LINE = 1e-6;

const tooThin = (step: string, item: HardwareItem, t: number): Finding[] =>
  t >= item.leastThickness - AS_GOOD
    ? []
    : [
        {
          level: "warn",
          rule: "hardware-room",
          message: `${item.name} needs sheet of at least ${mm(item.leastThickness)}; this is ${mm(t)}. Choose another, or thicker sheet.`,
          step,
          field: "hardware",
          found: t,
          wanted: item.leastThickness,
        },
      ];

/** Hardware tears out where its sheet is too thin, or where it stands too near to an edge or a bend. */
export const hardwareRule: CheckRule = (build) => {
  const setting = settingIn(build);
  if (setting.size === 0) return [];
  const sheet = build.sheet!;
  const borders = bordersOf.of(sheet);
  const thin = [...setting].flatMap(([step, item]) => tooThin(step, item, sheet.t));
  const near = platesOf(sheet).flatMap((plate) =>
    plate.regions.flatMap(regionLoops).flatMap((loop): Finding[] => {
      const there = setInto(build, loop);
      if (!there) return [];
      const { item, feature, round } = there;
      const { step } = feature;
      const [worst] = besides(borders.get(plate.id)!, loop, round.c, item);
      if (!worst) return [];
      const { found, wanted, called, curve } = worst;
      const d = subtract(round.c, nearestOn(curve, round.c));
      const length = hypotenuse(d.x, d.y) || 1;
      const way = { x: d.x / length, y: d.y / length };
      return [
        {
          level: "warn",
          rule: "hardware-room",
          message: `${item.name} on plate ${plate.letter} has its middle ${mm(found)} from ${called}; it needs ${mm(wanted)}. Move it ${mm(wanted - found)} away.`,
          step,
          pieces: [{ kind: "plate", id: plate.id }],
          at: round.c,
          found,
          wanted,
          ...moveAway(build, step, plate, way, wanted - found, "it"),
        },
      ];
    }),
  );
  return [...thin, ...near];
};
