import type { Line } from "../plane/curve.ts";
import { type Loop, polygonLoop } from "../plane/loop.ts";
import { type Frame, fromFrame, type Point, point } from "../plane/point.ts";
import { formatShort } from "../units/quantity.ts";
import type { Bend, Plate } from "./sheet.ts";
import type { FlangeSpec, HoleSpec } from "./spec.ts";

/** Something a flange or hole asks that the sheet cannot give. */
export interface LayoutProblem {
  readonly step: string;
  /** The field to look at. */
  readonly field?: string;
  readonly message: string;
  /** Whether the flange was left out. A hole that only touches an edge is built and reported. */
  readonly fatal: boolean;
}

/** A flange on its edge: where along it, seen from the left end, it begins and ends. */
export interface Site {
  readonly flange: FlangeSpec;
  readonly side: number;
  /** What was asked for, before neighbours at the corners took their share. */
  readonly asked: { readonly from: number; readonly to: number };
  from: number;
  to: number;
  /** Where the flanges around the corners leave off. */
  cornerFrom: number;
  cornerTo: number;
  /** Where beside this flange other flanges' cuts begin. */
  freeFrom: number;
  freeTo: number;
}

export const mm = (v: number) => `${formatShort(v)} mm`;

// Sides in clockwise order, so that each side's right neighbour is the next.
export const ROOT_ROLES = ["north", "east", "south", "west"] as const;
export const FLANGE_ROLES = ["end", "right", "", "left"] as const;
const OUTWARD: readonly Point[] = [point(0, 1), point(1, 0), point(0, -1), point(-1, 0)];

export interface PlateBox {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The frame of a side: origin at its left end, x to the right, y out of the plate. */
export function sideFrame(box: PlateBox, side: number): Frame {
  const lefts = [point(box.x0, box.y1), point(box.x1, box.y1), point(box.x1, box.y0), point(box.x0, box.y0)];
  const out = OUTWARD[side];
  return { origin: lefts[side], x: point(out.y, -out.x) };
}

export const sideLength = (box: PlateBox, side: number) =>
  side % 2 === 0 ? box.x1 - box.x0 : box.y1 - box.y0;
export const sideDepth = (box: PlateBox, side: number) => sideLength(box, side + 1);

/** A loop in a side's frame, where depth counts into the plate, brought into the plate's frame. */
export const inward = (frame: Frame, points: readonly [number, number][]): Loop =>
  polygonLoop(points.map(([s, depth]) => fromFrame(frame, point(s, -depth))));

export interface Draft {
  readonly id: string;
  readonly step: string;
  readonly letter: string;
  readonly frame: Frame;
  readonly box: PlateBox;
  readonly roles: readonly string[];
  readonly holes: readonly HoleSpec[];
  /** The bend this plate hangs on, whose strip its reliefs may reach into. */
  readonly bend?: MutableBend;
}

export type MutableBend = { -readonly [K in keyof Bend]: Bend[K] };

export interface Work {
  readonly t: number;
  readonly plates: Plate[];
  readonly bends: MutableBend[];
  readonly slits: Line[];
  readonly problems: LayoutProblem[];
  /** Cuts in developed coordinates that reach into a bend's strip. */
  readonly bendCuts: Map<string, Loop[]>;
}

export type End = "left" | "right";
