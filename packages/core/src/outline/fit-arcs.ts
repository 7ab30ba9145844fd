import { turnOf as cross, along as dot, type XY as Place, unit } from "./drawing/place.ts";

/** A curve that is no line or arc, over a parameter from 0 to 1: where it is, and which way it runs there. */
export interface Smooth {
  readonly at: (t: number) => Place;
  /** Any length but nought, where the curve has a direction. */
  readonly way: (t: number) => Place;
}

/** A corner of a chain: the piece that leaves it turns by four times the arc tangent of the bulge. */
export interface Corner {
  readonly at: Place;
  readonly bulge: number;
}

/** A curve is halved no more often than this: what is still off then is as near as numbers go. */
const DEEPEST = 14;
/** Places at which a curve is compared with its arcs. */
const PROBES = 9;
/** A curve is looked at in at least so many parts, so that one that winds back on itself is not taken for short. */
const PARTS = 4;

/**
 * Arcs along a smooth curve that stay within `tolerance` of it and lead on into one another as it does: pairs of arcs that
 * share its directions at both ends (biarcs, of equal arms), halved until they are near enough. The last corner is the end.
 */
export function arcsAlong(curve: Smooth, tolerance: number): Corner[] {
  const corners: Corner[] = [];
  const follow = (t0: number, t1: number, depth: number): void => {
    const pair = biarc(curve.at(t0), unit(curve.way(t0)), curve.at(t1), unit(curve.way(t1)));
    if (depth >= DEEPEST || isNear(curve, t0, t1, pair, tolerance)) {
      corners.push(...pair);
      return;
    }
    const half = (t0 + t1) / 2;
    follow(t0, half, depth + 1);
    follow(half, t1, depth + 1);
  };
  for (let i = 0; i < PARTS; i++) follow(i / PARTS, (i + 1) / PARTS, 0);
  return [...corners, { at: curve.at(1), bulge: 0 }];
}

/** Two arcs from p, leaving along u, to q, arriving along v, that lead on into one another. */
function biarc(p: Place, u: Place, q: Place, v: Place): [Corner, Corner] {
  const chord: Place = [q[0] - p[0], q[1] - p[1]];
  const sum: Place = [u[0] + v[0], u[1] + v[1]];
  const turn = 2 * (1 - dot(u, v));
  const [ct, cc] = [dot(chord, sum), dot(chord, chord)];
  // The arms d from both ends are as long: |chord − d·sum| = 2d.
  const d =
    turn > 1e-12
      ? (Math.sqrt(ct * ct + turn * cc) - ct) / turn
      : Math.abs(ct) > 1e-12
        ? cc / (2 * ct)
        : Math.sqrt(cc) / 2;
  const joint: Place = [(p[0] + u[0] * d + q[0] - v[0] * d) / 2, (p[1] + u[1] * d + q[1] - v[1] * d) / 2];
  const first: Place = [joint[0] - p[0], joint[1] - p[1]];
  const second: Place = [q[0] - joint[0], q[1] - joint[1]];
  // Half of how far an arc turns is the angle between its chord and its direction at an end.
  return [
    { at: p, bulge: bulgeOf(Math.atan2(cross(u, first), dot(u, first))) },
    { at: joint, bulge: bulgeOf(Math.atan2(cross(second, v), dot(second, v))) },
  ];
}

const bulgeOf = (half: number): number => {
  const bulge = Math.tan(half / 2);
  // Flatter than this it is a line: its arrow is below a thousand-millionth of its length.
  return Math.abs(bulge) < 1e-9 ? 0 : bulge;
};

function isNear(
  curve: Smooth,
  t0: number,
  t1: number,
  [a, b]: readonly [Corner, Corner],
  tolerance: number,
): boolean {
  const end = curve.at(t1);
  for (let i = 1; i <= PROBES; i++) {
    const p = curve.at(t0 + ((t1 - t0) * i) / (PROBES + 1));
    if (Math.min(offPiece(p, a, b.at), offPiece(p, b, end)) > tolerance) return false;
  }
  return true;
}

/** How far a place is from a piece of a chain. */
function offPiece(p: Place, { at: a, bulge }: Corner, b: Place): number {
  const chord: Place = [b[0] - a[0], b[1] - a[1]];
  const rel: Place = [p[0] - a[0], p[1] - a[1]];
  const ends = Math.min(Math.hypot(...rel), Math.hypot(p[0] - b[0], p[1] - b[1]));
  const length = Math.hypot(...chord);
  if (length < 1e-15) return ends;
  if (bulge === 0) {
    const along = dot(rel, chord) / length;
    return along < 0 || along > length ? ends : Math.abs(cross(chord, rel)) / length;
  }
  const f = (1 - bulge * bulge) / (4 * bulge);
  const c: Place = [(a[0] + b[0]) / 2 - f * chord[1], (a[1] + b[1]) / 2 + f * chord[0]];
  const r = Math.hypot(a[0] - c[0], a[1] - c[1]);
  const angle = (s: Place) => Math.atan2(s[1] - c[1], s[0] - c[0]);
  const sign = Math.sign(bulge);
  const whole = 2 * Math.PI;
  const swept = (((sign * (angle(p) - angle(a))) % whole) + whole) % whole;
  return swept <= 4 * Math.atan(Math.abs(bulge)) ? Math.abs(Math.hypot(p[0] - c[0], p[1] - c[1]) - r) : ends;
}
