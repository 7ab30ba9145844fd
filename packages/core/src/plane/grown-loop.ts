import { combine } from "./boolean.ts";
import { type Curve, curveLength, directionAt, line, pointAt } from "./curve.ts";
import { asCircle, circleLoop, type Loop, loopArea, welded } from "./loop.ts";
import { along, cross, distance, dot, type Point, point } from "./point.ts";

/** Directions that turn by less, radians, go on. */
const SMOOTH = 1e-7;

/** The right normal of a direction: outside a counter-clockwise loop. */
const outside = (d: Point): Point => point(d.y, -d.x);

/**
 * What lies within a distance of a counter-clockwise loop or inside of it: its outlines, with arcs kept and corners
 * rounded by the distance, as it is for anything that is to stand so far clear of the loop all round.
 *
 * @param by Millimetres, nought or more.
 */
export function grownLoop(loop: Loop, by: number): Loop[] {
  if (by <= 0) return [loop];
  const circle = asCircle(loop);
  if (circle) return [circleLoop(circle.c, circle.r + by, loop[0].name)];
  const corners = loop.map((c, i) => {
    const next = loop[(i + 1) % loop.length];
    const [d, e] = [directionAt(c, 1), directionAt(next, 0)];
    const turn = Math.atan2(cross(d, e), dot(d, e));
    const hollow = turn < -SMOOTH;
    const straight = c.kind === "line" && next.kind === "line";
    return { at: c.b, d, e, turn, hollow, back: hollow && straight ? by * Math.tan(-turn / 2) : 0 };
  });
  // In a hollow corner between straight sides both end sooner, where they are long enough for it.
  const before = (i: number) => corners[(i + loop.length - 1) % loop.length];
  const ends = loop.map((c, i) => before(i).back + corners[i].back <= curveLength(c));
  const trimmed = (i: number) => ends[i] && ends[(i + 1) % loop.length];
  const raw: Curve[] = [];
  let turnsBack = false;
  loop.forEach((c, i) => {
    const moved = movedOut(c, by);
    turnsBack ||= moved.length > 1;
    const last = (i + loop.length - 1) % loop.length;
    if (c.kind === "line" && moved[0].kind === "line") {
      const way = directionAt(c, 0);
      const from = trimmed(last) ? corners[last].back : 0;
      const to = trimmed(i) ? corners[i].back : 0;
      raw.push(line(along(moved[0].a, way, from), along(moved[0].b, way, -to), c.name));
    } else raw.push(...moved);
    const { at, d, e, turn, hollow, back } = corners[i];
    if (Math.abs(turn) <= SMOOTH || (back > 0 && trimmed(i))) return;
    const [a, b] = [along(at, outside(d), by), along(at, outside(e), by)];
    if (!hollow) raw.push({ kind: "arc", a, b, c: at, r: by, ccw: true });
    else {
      turnsBack = true;
      raw.push(line(a, at), line(at, b));
    }
  });
  const closed = welded(raw.filter((c) => distance(c.a, c.b) > 1e-9 || c.kind === "arc"));
  // Where nothing turns inward the line so far outside cannot cross itself.
  if (!turnsBack && corners.every(({ hollow }) => !hollow)) return [closed];
  return combine(
    [closed].map((l) => [l]),
    ([n]) => n > 0,
  ).filter((l) => loopArea(l) > 0);
}

/** A curve so far outside; what is hollow and rounder than that is filled. */
function movedOut(c: Curve, by: number): Curve[] {
  const [a, b] = [along(c.a, outside(directionAt(c, 0)), by), along(c.b, outside(directionAt(c, 1)), by)];
  if (c.kind === "line") return [line(a, b, c.name)];
  const r = c.ccw ? c.r + by : c.r - by;
  if (r > 1e-9) return [{ ...c, a, b, r }];
  const middle = pointAt(c, 0.5);
  return [line(a, middle), line(middle, b)];
}
