import { line } from "../../plane/curve.ts";
import { type Loop, polygonLoop } from "../../plane/loop.ts";
import { type Frame, fromFrame, point, SAME } from "../../plane/point.ts";
import type { End } from "./site.ts";
import type { ReliefSpec } from "./spec.ts";

/** A loop in a frame whose y points out of the plate; depth counts into it. */
export const inward = (frame: Frame, points: readonly [number, number][]): Loop =>
  polygonLoop(points.map(([s, depth]) => fromFrame(frame, point(s, -depth))));

/**
 * The notch of a square or round-ended relief beside an end of a bend that begins `setback` behind the
 * x axis of a frame, y out of the plate: from `open` before the axis to its depth behind the tangent line.
 */
export function reliefLoop(
  relief: Extract<ReliefSpec, { width: number }>,
  frame: Frame,
  at: number,
  end: End,
  { setback, open }: { readonly setback: number; readonly open: number },
): Loop {
  const from = end === "left" ? at - relief.width : at;
  const to = from + relief.width;
  const deep = setback + relief.depth;
  if (relief.shape === "square") {
    return inward(frame, [
      [from, deep],
      [to, deep],
      [to, -open],
      [from, -open],
    ]);
  }
  const r = relief.width / 2;
  const on = (s: number, depth: number) => fromFrame(frame, point(s, -depth));
  const start = on(from, deep - r);
  const finish = on(to, deep - r);
  const c = on(from + r, deep - r);
  const sides =
    deep - r > SAME - open
      ? [line(finish, on(to, -open)), line(on(to, -open), on(from, -open)), line(on(from, -open), start)]
      : [line(finish, start)];
  return [{ kind: "arc", a: start, b: finish, c, r, ccw: true }, ...sides];
}
