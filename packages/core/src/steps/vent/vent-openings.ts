import type { FieldProblem, FieldValues } from "../../fields/field.ts";
import { combine } from "../../plane/boolean.ts";
import { curvesBounds, withTags } from "../../plane/curve.ts";
import { moveLoop, rotation } from "../../plane/isometry.ts";
import { spreadAlong } from "../../plane/lattice.ts";
import { type Loop, loopArea, rectangleLoop } from "../../plane/loop.ts";
import { point } from "../../plane/point.ts";
import { roundedLoop } from "../../plane/rounded-loop.ts";
import { fail, ok, type Result } from "../../result.ts";
import type { FeatureLook } from "../../sheet/feature.ts";
import { mm } from "../../units/spoken-length.ts";

/** A vent may have this many bars and ribs each. */
export const MOST_BARS = 2000;
/** And so many openings between them. */
export const MOST_OPENINGS = 10_000;
/** Openings smaller than this, mm², are none: a bar touches the border there. */
const SLIVER = 0.01;

/** The openings of a vent, and how many of them have no room for the radius at their corners. */
export interface VentOpenings {
  readonly loops: readonly Loop[];
  readonly sharper: number;
  /** What each is, where all are round holes alike. */
  readonly hole?: FeatureLook;
}

/** Where bars lie across an extent, as from where to where; or why they have no room. */
function barsAcross(
  values: FieldValues,
  [low, high]: readonly [number, number],
): Result<readonly (readonly [number, number])[], FieldProblem> {
  const { quantities: q, choices } = values;
  const total = high - low;
  const bar = q.bar ?? 0;
  if (choices.barsBy === "pitch") {
    const pitch = q.barPitch ?? 0;
    if (pitch <= bar + 1e-6)
      return fail({
        field: "barPitch",
        message: `Bars of ${mm(bar)} must be farther apart than they are wide.`,
      });
    const many = Math.floor(total / pitch + 1e-9);
    if (many > MOST_BARS)
      return fail({
        field: "barPitch",
        message: `${many} bars are too many: there can be at most ${MOST_BARS}.`,
      });
    if (many < 1)
      return fail({
        field: "barPitch",
        message: `The border is ${mm(total)} across: there is no room for one bar at a pitch of ${mm(pitch)}.`,
      });
    return ok(
      spreadAlong(total, { count: many, pitch }).map((s) => [low + s - bar / 2, low + s + bar / 2] as const),
    );
  }
  return evenly(Math.round(q.bars ?? 0), bar, [low, high], "bars");
}

/** So many strips between openings that are all as wide. */
function evenly(
  many: number,
  strip: number,
  [low, high]: readonly [number, number],
  field: "bars" | "ribs",
): Result<readonly (readonly [number, number])[], FieldProblem> {
  const open = (high - low - many * strip) / (many + 1);
  if (open > 1e-3) {
    const start = (k: number) => low + open * (k + 1) + strip * k;
    return ok(Array.from({ length: many }, (_, k) => [start(k), start(k) + strip] as const));
  }
  const most = Math.max(0, Math.ceil((high - low) / (strip || 1)) - 1);
  const name = field === "bars" ? "bar" : "rib";
  const what = `The border is ${mm(high - low)} across: `;
  return fail({
    field,
    message:
      most === 0
        ? `${what}there is no room for one ${name} of ${mm(strip)}.`
        : `${what}${many} ${field} of ${mm(strip)} leave nothing open; at most ${most} have room.`,
  });
}

/**
 * What is open of a vent between its bars and ribs: the border (about the origin, counter-clockwise) less all strips, each
 * opening with rounded corners. `angle`: how far the bars are turned from lying along x.
 */
export function ventOpenings(
  border: readonly Loop[],
  values: FieldValues,
  step: string,
): Result<VentOpenings, FieldProblem> {
  const { quantities: q } = values;
  const angle = q.angle ?? 0;
  const [back, forth] = [rotation(point(0, 0), -angle), rotation(point(0, 0), angle)];
  const upright = border.map((loop) => moveLoop(back, loop));
  const box = curvesBounds(upright.flat());
  const bars = barsAcross(values, [box.minY, box.maxY]);
  if (!bars.ok) return bars;
  const ribs = evenly(Math.round(q.ribs ?? 0), q.rib ?? 0, [box.minX, box.maxX], "ribs");
  if (!ribs.ok) return ribs;
  const many = (bars.value.length + 1) * (ribs.value.length + 1);
  if (many > MOST_OPENINGS)
    return fail({
      field: ribs.value.length > bars.value.length || values.choices.barsBy === "pitch" ? "ribs" : "bars",
      message: `${bars.value.length} bars and ${ribs.value.length} ribs make ${many} openings: there can be at most ${MOST_OPENINGS}. Make them fewer, or fill it with round openings.`,
    });
  const over = Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const strips = [
    ...bars.value.map(([from, to]) => rectangleLoop(box.minX - over, from, box.maxX + over, to)),
    ...ribs.value.map(([from, to]) => rectangleLoop(from, box.minY - over, to, box.maxY + over)),
  ];
  const open = combine([upright, strips], ([p, s]) => p > 0 && s === 0).filter((l) => loopArea(l) > SLIVER);
  if (open.length === 0)
    return fail({ field: "bar", message: "Nothing is left open. Make the bars narrower, or fewer." });
  const radius = q.soft ?? 0;
  let sharper = 0;
  const loops = open.map((loop, k) => {
    const rounded = roundedWithin(loop, radius, `${step}:o${k + 1}`);
    if (rounded.radius < radius - 1e-9) sharper++;
    return moveLoop(
      forth,
      rounded.loop.map((c, n) =>
        withTags(c, {
          name: c.kind === "line" ? `${step}-o${k + 1}-${n + 1}` : `${step}:o${k + 1}`,
          feature: `${step}-o${k + 1}`,
        }),
      ),
    );
  });
  return ok({ loops, sharper });
}

/** A loop with corners of a radius, or of the largest half, quarter, … of it that has room. */
function roundedWithin(loop: Loop, radius: number, name: string): { loop: Loop; radius: number } {
  for (let r = radius; r > radius / 32 && r > 1e-3; r /= 2) {
    const rounded = roundedLoop(loop, r, name);
    if (rounded) return { loop: rounded, radius: r };
  }
  return { loop, radius: 0 };
}
