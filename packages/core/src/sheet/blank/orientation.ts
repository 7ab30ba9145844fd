import { type Curve, curveLength, type Line } from "../../plane/curve.ts";
import {
  type Isometry,
  mirroring,
  moveCurve,
  moveDirection,
  moveLoop,
  rotation,
} from "../../plane/isometry.ts";
import { loopsBounds } from "../../plane/loop.ts";
import type { Point } from "../../plane/point.ts";
import { smallestRectangle } from "../../plane/smallest-rectangle.ts";
import { findSite } from "../picking/find-edge.ts";
import type { Sheet } from "../sheet.ts";
import type { BendLine, Blank } from "./blank.ts";

/** How a blank lies: as modelled, turned by something of its own, or by an angle. */
export const BLANK_TURNS = ["modelled", "longest", "smallest", "grain", "angle", "edge"] as const;
export type BlankTurn = (typeof BLANK_TURNS)[number];

/** Which side of the sheet faces up, and how the blank is turned as it is seen from there. */
export interface Orientation {
  readonly side: "A" | "B";
  readonly turn: BlankTurn;
  /** Radians, counter-clockwise: where it is turned by an angle. */
  readonly angle?: number;
  /** The edge that lies level, at the foot: where it is turned by a picked one. */
  readonly edge?: string;
  /** Along which axis, as modelled, the grain lies. */
  readonly grain?: "x" | "y";
}

/** A blank as it lies, and the motion that laid it so. */
export interface PlacedBlank {
  readonly blank: Blank;
  readonly motion: Isometry;
  readonly side: "A" | "B";
  /** How far it is turned, radians. */
  readonly angle: number;
  /** Which way the grain lies then: a unit direction. */
  readonly grain?: Point;
  /** Why it lies otherwise than was wished for. */
  readonly problem?: string;
}

const AS_MODELLED: Isometry = { xx: 1, xy: 0, yx: 0, yy: 1, ox: 0, oy: 0, flips: false };
/** Seen from side A the sheet is turned over about an upright line. */
const OVER: Isometry = mirroring({ x: 0, y: 0 }, { x: 0, y: 1 });

/** An angle between half a turn to the right and to the left. */
function within(angle: number): number {
  const turned = angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));
  return Math.abs(turned) < 1e-15 ? 0 : turned;
}

const directionOf = ({ a, b }: Line): number => Math.atan2(b.y - a.y, b.x - a.x);

/** How far the longest straight edge has to turn to lie at the foot; of equal ones that which turns least. */
function levelLongest(curves: readonly Curve[]): number | undefined {
  const lines = curves.filter((c) => c.kind === "line");
  const longest = lines.reduce((m, c) => Math.max(m, curveLength(c)), 0);
  const turns = lines
    .filter((c) => curveLength(c) > longest * (1 - 1e-9))
    .map((c) => within(-directionOf(c)));
  return turns.length === 0 ? undefined : turns.reduce((m, t) => (Math.abs(t) < Math.abs(m) - 1e-12 ? t : m));
}

/** How far a blank is turned, seen from the side that faces up; or why it cannot be so. */
function turnOf(sheet: Sheet, outlines: readonly Curve[], o: Orientation): number | string {
  switch (o.turn) {
    case "modelled":
      return 0;
    case "angle":
      return o.angle ?? 0;
    case "longest":
      return levelLongest(outlines) ?? "It has no straight edge that could lie level.";
    case "smallest":
      return within(-(smallestRectangle(outlines)?.angle ?? 0));
    case "grain":
      return o.grain === undefined
        ? "Nothing is said of its grain. Say in the stock how it lies."
        : o.grain === "x"
          ? 0
          : -Math.PI / 2;
    case "edge": {
      const found = o.edge === undefined ? undefined : findSite(sheet, o.edge);
      if (!found) return "The edge that was to lie level is gone, or is not straight. Pick another.";
      const { left, right } = found.edge;
      // With its plate on the left hand an edge runs from its right end to its left one: out of it is to the right.
      const line: Line = { kind: "line", a: right, b: left };
      const seen = o.side === "A" ? moveCurve(OVER, { ...line, a: left, b: right }) : line;
      return within(-directionOf(seen as Line));
    }
  }
}

/** How a blank is laid as wished, its lower left corner at the origin: all but the blank itself. */
export function layBlank(sheet: Sheet, blank: Blank, o: Orientation): Omit<PlacedBlank, "blank"> {
  const over = o.side === "A" ? OVER : AS_MODELLED;
  const seen = blank.outlines.flatMap((l) => moveLoop(over, l));
  const wished = turnOf(sheet, seen, o);
  const angle = typeof wished === "number" ? wished : 0;
  const turned = after(over, angle === 0 ? AS_MODELLED : exactRotation(angle));
  const { minX, minY } = loopsBounds(blank.outlines.map((l) => moveLoop(turned, l)));
  const motion = { ...turned, ox: turned.ox - minX, oy: turned.oy - minY };
  const along = o.grain && (o.grain === "x" ? { x: 1, y: 0 } : { x: 0, y: 1 });
  return {
    motion,
    side: o.side,
    angle,
    ...(along ? { grain: moveDirection(motion, along) } : {}),
    ...(typeof wished === "string" ? { problem: wished } : {}),
  };
}

/** Lays a blank as wished, its lower left corner at the origin. */
export function orientBlank(sheet: Sheet, blank: Blank, o: Orientation): PlacedBlank {
  const lies = layBlank(sheet, blank, o);
  return { ...lies, blank: moveBlank(lies.motion, blank) };
}

/** A rotation that at quarter turns is one exactly, so that what was level stays so. */
function exactRotation(angle: number): Isometry {
  const quarters = angle / (Math.PI / 2);
  const whole = Math.round(quarters);
  if (Math.abs(quarters - whole) > 1e-15) return rotation({ x: 0, y: 0 }, angle);
  const [c, s] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ][((whole % 4) + 4) % 4];
  return { xx: c, xy: -s, yx: s, yy: c, ox: 0, oy: 0, flips: false };
}

/** One motion after another, both about the origin. */
const after = (first: Isometry, then: Isometry): Isometry => ({
  xx: then.xx * first.xx + then.xy * first.yx,
  xy: then.xx * first.xy + then.xy * first.yy,
  yx: then.yx * first.xx + then.yy * first.yx,
  yy: then.yx * first.xy + then.yy * first.yy,
  ox: 0,
  oy: 0,
  flips: first.flips !== then.flips,
});

const moveLines = (m: Isometry, { bend, pieces }: BendLine): BendLine => ({
  bend,
  pieces: pieces.map((p) => moveCurve(m, p) as Line),
});

/** A blank moved with all that is on it. */
export function moveBlank(m: Isometry, blank: Blank): Blank {
  const outlines = blank.outlines.map((l) => moveLoop(m, l));
  const bounds = loopsBounds(outlines);
  return {
    ...blank,
    outlines,
    openings: blank.openings.map((l) => moveLoop(m, l)),
    slits: blank.slits.map((c) => moveCurve(m, c)),
    marks: blank.marks.map(({ step, curves }) => ({ step, curves: curves.map((c) => moveCurve(m, c)) })),
    centreLines: blank.centreLines.map((l) => moveLines(m, l)),
    tangentLines: blank.tangentLines.map((l) => moveLines(m, l)),
    overlaps: blank.overlaps.map(({ outer, holes }) => ({
      outer: moveLoop(m, outer),
      holes: holes.map((h) => moveLoop(m, h)),
    })),
    bounds,
    width: Math.max(0, bounds.maxX - bounds.minX),
    height: Math.max(0, bounds.maxY - bounds.minY),
  };
}
