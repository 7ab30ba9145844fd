import { type Curve, line, withEnds } from "./curve.ts";
import { circleLoop, type Loop } from "./loop.ts";
import { along, distance, hypotenuse, type Point, point, scale, subtract } from "./point.ts";

/** Shorter than this a straight piece is none, mm. */
const NONE = 1e-9;

/**
 * A convex polygon whose corners are rounded, counter-clockwise as its corners are given. Straight sides carry the
 * names that are given for them in order, roundings are called `round`.
 *
 * @param radius At most so large that its tangents fit on every side; see `mostRounding`.
 */
export function roundedPolygon(
  corners: readonly Point[],
  radius: number,
  names: readonly string[],
  round: string,
): Loop {
  const n = corners.length;
  const way = (i: number) => {
    const d = subtract(corners[(i + 1) % n], corners[i]);
    return scale(d, 1 / hypotenuse(d.x, d.y));
  };
  const cut = radius <= NONE ? 0 : radius;
  const taken = (i: number) => cut * Math.tan(turnAt(corners, i) / 2);
  const out: Curve[] = [];
  for (let i = 0; i < n; i++) {
    const d = way(i);
    const a = along(corners[i], d, taken(i));
    const b = along(corners[(i + 1) % n], d, -taken((i + 1) % n));
    if ((b.x - a.x) * d.x + (b.y - a.y) * d.y > NONE) out.push(line(a, b, names[i]));
    if (cut === 0) continue;
    const e = way((i + 1) % n);
    const end = along(corners[(i + 1) % n], e, taken((i + 1) % n));
    const c = point(b.x - d.y * cut, b.y + d.x * cut);
    out.push({ kind: "arc", a: b, b: end, c, r: cut, ccw: true, name: round });
  }
  // Where nothing straight is left between two roundings they end in one point.
  return out.map((c, i) => {
    const before = out[(i + out.length - 1) % out.length];
    return before.b === c.a ? c : withEnds(c, before.b, c.b);
  });
}

/** How far a convex, counter-clockwise outline turns at a corner, radians. */
function turnAt(corners: readonly Point[], i: number): number {
  const n = corners.length;
  const d = subtract(corners[i], corners[(i + n - 1) % n]);
  const e = subtract(corners[(i + 1) % n], corners[i]);
  return Math.atan2(d.x * e.y - d.y * e.x, d.x * e.x + d.y * e.y);
}

/** The largest radius with which all corners of a convex, counter-clockwise polygon can be rounded. */
export function mostRounding(corners: readonly Point[]): number {
  const tan = corners.map((_, i) => Math.tan(turnAt(corners, i) / 2));
  return corners.reduce((most, p, i) => {
    const next = (i + 1) % corners.length;
    return Math.min(most, distance(p, corners[next]) / (tan[i] + tan[next]));
  }, Infinity);
}

/** The corners of a rectangle about the origin, from the lower left, counter-clockwise. */
export const rectangleCorners = (width: number, height: number): Point[] => [
  point(-width / 2, -height / 2),
  point(width / 2, -height / 2),
  point(width / 2, height / 2),
  point(-width / 2, height / 2),
];

/**
 * The corners of a regular polygon about the origin, of which one side lies below. Across flats it is twice as wide as
 * from its middle to a side.
 */
export function polygonCorners(sides: number, acrossFlats: number): Point[] {
  const r = acrossFlats / 2 / Math.cos(Math.PI / sides);
  return Array.from({ length: sides }, (_, i) => {
    const angle = -Math.PI / 2 - Math.PI / sides + (2 * Math.PI * i) / sides;
    return point(r * Math.cos(angle), r * Math.sin(angle));
  });
}

/**
 * A straight slot with round ends about the origin, lying along x where it is wider than high. Sides are named
 * `south`, `north` (or `east`, `west`), ends `end`.
 */
export function slotLoop(width: number, height: number, name: (side: string) => string): Loop {
  const [w, h] = [width / 2, height / 2];
  if (w <= h + NONE) {
    if (h - w < NONE) return circleLoop(point(0, 0), w, name("round"));
    return slotLoop(height, width, name).map((c): Curve => {
      const turn = (p: Point) => point(-p.y, p.x);
      return c.kind === "line"
        ? { ...c, a: turn(c.a), b: turn(c.b) }
        : { ...c, a: turn(c.a), b: turn(c.b), c: turn(c.c) };
    });
  }
  const s = w - h;
  const arc = (x: number, from: Point, to: Point): Curve => ({
    kind: "arc",
    a: from,
    b: to,
    c: point(x, 0),
    r: h,
    ccw: true,
    name: name("end"),
  });
  return [
    line(point(-s, -h), point(s, -h), name("south")),
    arc(s, point(s, -h), point(s, h)),
    line(point(s, h), point(-s, h), name("north")),
    arc(-s, point(-s, h), point(-s, -h)),
  ];
}

/**
 * A round head about the origin with a neck that goes up from it and ends round: a screw's head goes in below and its
 * shank hangs above.
 *
 * @param reach From the middle of the head to the middle of the neck's end; more than `keyholeReach`.
 */
export function keyholeLoop(head: number, neck: number, reach: number, name: (side: string) => string): Loop {
  const h = neck / 2;
  const y = keyholeReach(head, neck);
  const [right, left] = [point(h, y), point(-h, y)];
  const [top, down] = [point(h, reach), point(-h, reach)];
  return [
    line(right, top, name("east")),
    { kind: "arc", a: top, b: down, c: point(0, reach), r: h, ccw: true, name: name("end") },
    line(down, left, name("west")),
    { kind: "arc", a: left, b: right, c: point(0, 0), r: head / 2, ccw: true, name: name("head") },
  ];
}

/** How far above the middle of a keyhole's head the sides of its neck leave it. */
export const keyholeReach = (head: number, neck: number): number =>
  Math.sqrt(Math.max(0, (head * head - neck * neck) / 4));

/** A circle about the origin that is flat at its top: `across` is from the flat to the rim below. */
export function flattenedCircle(diameter: number, across: number, name: (side: string) => string): Loop {
  const r = diameter / 2;
  const y = across - r;
  const half = Math.sqrt(Math.max(0, r * r - y * y));
  const [right, left] = [point(half, y), point(-half, y)];
  return [
    line(right, left, name("flat")),
    { kind: "arc", a: left, b: right, c: point(0, 0), r, ccw: true, name: name("rim") },
  ];
}
