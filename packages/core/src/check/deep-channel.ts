import { innerSetback } from "../bend/allowance.ts";
import { Kept } from "../kept.ts";
import type { PartBuild } from "../part/build.ts";
import { dot, type Point, scale, subtract } from "../plane/point.ts";
import { type BendSide, legReach, lineOf } from "../sheet/leg-reach.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import { mendLength } from "./leg-length.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** A bend as a plate between two of them sees it: where its line lies, and which leg hangs beyond it. */
interface Standing {
  readonly bend: Bend;
  readonly leg: Plate;
  /** Out of the plate, over the bend. */
  readonly out: Point;
  /** A point of the bend's line on the plate. */
  readonly on: Point;
  /** From where to where along the axis of the plate's first bend of this direction, mm. */
  readonly from: number;
  readonly to: number;
  /** The bend's line that the leg hangs on. */
  readonly far: BendSide;
  readonly setback: number;
}

function standingOn(plate: Plate, bend: Bend, plates: ReadonlyMap<string, Plate>): Standing | undefined {
  const setback = innerSetback({ t: 0, r: bend.radius, angle: bend.angle });
  const [own, far] =
    bend.parent === plate.id ? (["parent", "child"] as const) : (["child", "parent"] as const);
  const leg = plates.get(bend[far]);
  if (setback === undefined || bend.angle < 1e-9 || !leg) return undefined;
  const { origin: on, over } = lineOf(bend, own);
  const out = scale(over, -1);
  const along = { x: Math.abs(bend.axis.x), y: bend.axis.x < 0 ? -bend.axis.y : bend.axis.y };
  const from = dot(on, along);
  const to = from + bend.width * dot(bend.axis, along);
  return {
    bend,
    leg,
    out,
    on,
    from: Math.min(from, to),
    to: Math.max(from, to),
    far,
    setback,
  };
}

/** From the inner mould line to the tip of the leg, mm: asked of those alone that face another. */
const lengthOf = ({ leg, bend, far, setback }: Standing): number => legReach(leg, bend, far) + setback;

interface Channel {
  readonly plate: Plate;
  readonly p: Standing;
  readonly q: Standing;
  /** Between the two inner mould lines, mm. */
  readonly web: number;
}

/** Every two bends to one side that face one another across a plate: swept along their lines, so that rows of them cost no more than they are many. */
function channelsOf(build: PartBuild): Channel[] {
  const { sheet } = build;
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const standing = new Map<Plate, Standing[]>();
  for (const bend of bendsOf(sheet))
    for (const id of [bend.parent, bend.child]) {
      const plate = plates.get(id)!;
      const s = standingOn(plate, bend, plates);
      if (!s) continue;
      const on = standing.get(plate);
      if (on) on.push(s);
      else standing.set(plate, [s]);
    }
  return [...standing].flatMap(([plate, all]) => {
    if (all.length < 2) return [];
    const sorted = [...all].sort((p, q) => p.from - q.from);
    const found: Channel[] = [];
    let active: Standing[] = [];
    for (const q of sorted) {
      active = active.filter((p) => p.to > q.from + AS_GOOD);
      for (const p of active) {
        // Facing one another, to the same side, and one plate between them.
        if (dot(p.out, q.out) > -1 + 1e-9 || p.bend.up !== q.bend.up) continue;
        const apart = dot(subtract(q.on, p.on), q.out);
        if (apart > -AS_GOOD) found.push({ plate, p, q, web: apart + p.setback + q.setback });
      }
      active.push(q);
    }
    return found;
  });
}

const channels = new Kept(channelsOf);

/**
 * How near the tip of `leg`, bent already, comes to the middle of the punch while `last` is bent: the plate between
 * leans by half the angle of the bend that is made, the leg by its own more. mm; negative beyond the middle.
 */
const tipFrom = (last: Standing, leg: Standing, web: number): number =>
  web * Math.cos(last.bend.angle / 2) + lengthOf(leg) * Math.cos(last.bend.angle / 2 + leg.bend.angle);

/** Where the tip comes to, and where it must stay, in words. */
function places(found: number, wanted: number): string {
  const stands =
    found < 0
      ? `swings ${mm(-found)} past the middle of the punch`
      : `comes within ${mm(found)} of the middle of the punch`;
  if (wanted > 0) return `${stands}; it must stay ${mm(wanted)} away from it`;
  return wanted < 0 ? `${stands}; it may pass it by ${mm(-wanted)}` : `${stands}; it must not pass it`;
}

/** A leg that is bent already must clear the punch while the bend across the plate is made, in the better order. */
export const deepChannelRule: CheckRule = (build, { values }) => {
  const wanted = values.punchReach;
  return channels.of(build).flatMap(({ plate, p, q, web }) => {
    const orders = [
      { last: p, leg: q, found: tipFrom(p, q, web) },
      { last: q, leg: p, found: tipFrom(q, p, web) },
    ];
    const { last, leg, found } = orders[0].found >= orders[1].found ? orders[0] : orders[1];
    if (found >= wanted - AS_GOOD) return [];
    const lean = Math.cos(last.bend.angle / 2 + leg.bend.angle);
    const most = (wanted - web * Math.cos(last.bend.angle / 2)) / lean;
    const tooLong = lengthOf(leg) - most;
    const shorter = lean < 0 && most > leg.setback + AS_GOOD ? tooLong : undefined;
    const does =
      shorter === undefined
        ? "Make the plate between them wider"
        : `Make that leg ${mm(shorter)} shorter, or the plate between them wider`;
    return [
      {
        level: "warn" as const,
        rule: "deep-channel",
        message: `Bends ${p.bend.number} and ${q.bend.number}: the punch does not get in between. With bend ${last.bend.number} made last, the leg on plate ${leg.leg.letter} ${places(found, wanted)}. ${does}, or bend with a punch that is cranked.`,
        step: leg.bend.step,
        pieces: [
          { kind: "plate" as const, id: plate.id },
          { kind: "bend" as const, id: p.bend.id },
          { kind: "bend" as const, id: q.bend.id },
        ],
        found,
        wanted,
        ...(shorter !== undefined && leg.bend.child === leg.leg.id
          ? mendLength(build, leg.bend, -shorter, true)
          : {}),
      },
    ];
  });
};
