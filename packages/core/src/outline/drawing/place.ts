import { hypotenuse, type Point } from "../../plane/point.ts";
import type { OutlineCurve } from "../outline.ts";

/** A coordinate pair of an outline, mm. */
export type XY = readonly [number, number];

/** Something of the part that is seen behind an outline and can be drawn on: an edge, a bend line, an opening. */
export interface Backdrop {
  /** The part's own name of it. */
  readonly name: string;
  /** What it is called on screen. */
  readonly label: string;
  readonly curve:
    | { readonly kind: "line"; readonly a: XY; readonly b: XY }
    | { readonly kind: "arc"; readonly a: XY; readonly b: XY; readonly c: XY; readonly ccw: boolean }
    | { readonly kind: "circle"; readonly c: XY; readonly r: number };
}

/** What a place was caught by: it is drawn so that it stays there. */
export type Caught =
  | { readonly by: "point"; readonly id: string }
  | { readonly by: "middle"; readonly curve: string }
  | { readonly by: "curve"; readonly curve: string }
  | { readonly by: "crossing"; readonly curves: readonly [string, string] }
  /** On something of the part, or at a place of it. */
  | { readonly by: "part"; readonly backdrop: Backdrop; readonly at: "a" | "b" | "centre" | "middle" | "on" }
  | { readonly by: "grid" };

/** What the piece that leads to a place holds by the way it is drawn. */
export type Way =
  | { readonly kind: "level" | "upright" }
  | { readonly kind: "parallel" | "square"; readonly line: string }
  | { readonly kind: "tangent"; readonly round: string };

/** A place that was pointed at. */
export interface Place {
  readonly at: XY;
  readonly caught?: Caught;
  readonly way?: Way;
  /** The curve at whose end it stands, where a chain goes on. */
  readonly after?: string;
  /** The point at which that chain began. */
  readonly start?: string;
  /** It stands level with a point, or upright over it. */
  readonly lined?: { readonly kind: "level" | "upright"; readonly point: string };
}

export const asPoint = ([x, y]: XY): Point => ({ x, y });
export const asXY = ({ x, y }: Point): XY => [x, y];

export const minus = ([ax, ay]: XY, [bx, by]: XY): XY => [ax - bx, ay - by];
export const plus = ([ax, ay]: XY, [bx, by]: XY, f = 1): XY => [ax + bx * f, ay + by * f];
export const apart = ([ax, ay]: XY, [bx, by]: XY): number => hypotenuse(bx - ax, by - ay);
export const turnOf = ([ux, uy]: XY, [vx, vy]: XY): number => ux * vy - uy * vx;
export const along = ([ux, uy]: XY, [vx, vy]: XY): number => ux * vx + uy * vy;
export const leftOf = ([x, y]: XY): XY => [-y, x];
/** The direction of a vector; along X where it has none. */
export const unit = ([x, y]: XY): XY => {
  const length = hypotenuse(x, y);
  return length > 0 ? [x / length, y / length] : [1, 0];
};
export const towards = (angle: number): XY => [Math.cos(angle), Math.sin(angle)];

/** The points of a curve, by the role that each has. */
export const endsOf = (c: OutlineCurve): readonly string[] =>
  c.kind === "line" ? [c.a, c.b] : c.kind === "arc" ? [c.a, c.b, c.c] : [c.c];
