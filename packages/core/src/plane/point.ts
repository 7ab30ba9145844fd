/** A point or direction in a plane, in millimetres. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Points nearer than this are one point. Far below what a laser resolves, far above rounding. */
export const SAME = 1e-7;

export const point = (x: number, y: number): Point => ({ x, y });
export const add = (a: Point, b: Point): Point => ({ x: a.x + b.x, y: a.y + b.y });
export const subtract = (a: Point, b: Point): Point => ({ x: a.x - b.x, y: a.y - b.y });
export const scale = (a: Point, f: number): Point => ({ x: a.x * f, y: a.y * f });
export const along = (a: Point, d: Point, f: number): Point => ({ x: a.x + d.x * f, y: a.y + d.y * f });
export const dot = (a: Point, b: Point): number => a.x * b.x + a.y * b.y;
export const cross = (a: Point, b: Point): number => a.x * b.y - a.y * b.x;
/** The length of a vector by its parts; `Math.hypot` takes ten times as long, for lengths that no sheet has. */
export const hypotenuse = (x: number, y: number): number => Math.sqrt(x * x + y * y);
export const distance = (a: Point, b: Point): number => hypotenuse(a.x - b.x, a.y - b.y);
export const samePoint = (a: Point, b: Point, within = SAME): boolean =>
  Math.abs(a.x - b.x) <= within && Math.abs(a.y - b.y) <= within;

/** An axis-aligned box; empty when `minX > maxX`. */
export interface Bounds {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

export const EMPTY_BOUNDS: Bounds = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };

export const joinBounds = (a: Bounds, b: Bounds): Bounds => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
});

/** A box with so much more on every side. */
export const grown = (b: Bounds, by: number): Bounds => ({
  minX: b.minX - by,
  minY: b.minY - by,
  maxX: b.maxX + by,
  maxY: b.maxY + by,
});

/** Whether two boxes have a point in common. */
export const boundsMeet = (a: Bounds, b: Bounds): boolean =>
  a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** A right-handed frame in the plane: `y` is `x` turned a quarter to the left. */
export interface Frame {
  readonly origin: Point;
  readonly x: Point;
}

export const sameFrame = (p: Frame, q: Frame): boolean =>
  p.origin.x === q.origin.x && p.origin.y === q.origin.y && p.x.x === q.x.x && p.x.y === q.x.y;

export const frameY = (f: Frame): Point => ({ x: -f.x.y, y: f.x.x });

/** From coordinates in the frame to coordinates in the plane that holds it. */
export function fromFrame(f: Frame, p: Point): Point {
  return {
    x: f.origin.x + f.x.x * p.x - f.x.y * p.y,
    y: f.origin.y + f.x.y * p.x + f.x.x * p.y,
  };
}
