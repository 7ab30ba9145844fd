import type { Shape } from "../../../outline/from-shapes.ts";
import { type Affine, UNMOVED } from "../../../plane/affine.ts";
import type { DxfEntity } from "./dxf-file.ts";
import { moveShape, sweepOf } from "./move-shape.ts";
import { type DxfRecord, numberNeeded, numberOf, numbersOf, readNumber } from "./records.ts";
import { splineShapes } from "./spline.ts";

/** What an entity draws, or what it is called where it is left out. */
export type EntityShapes = { readonly shapes: readonly Shape[] } | { readonly left: string };

/** A direction counts as along z when its other parts are no larger than this. */
const UPRIGHT = 1e-9;
const RADIANS = Math.PI / 180;
/** What is missing of a whole turn, or turned at all, below this is rounding. */
const WHOLE = 1e-9;

/**
 * How the plane of an entity lies on the drawing's, by the standard's arbitrary-axis rule. Seen from above it is that plane
 * itself, or the same turned over about its y axis; nothing where it is tilted.
 */
export function planeOf(entity: DxfRecord): Affine | undefined {
  const [x, y, z] = [numberOf(entity, 210, 0), numberOf(entity, 220, 0), numberOf(entity, 230, 1)];
  const length = Math.hypot(x, y, z);
  if (!(length > 0) || Math.hypot(x, y) > UPRIGHT * length) return undefined;
  // The rule's x axis for a normal along −z is (0, 1, 0) × (0, 0, −1) = (−1, 0, 0), its y axis (0, 1, 0).
  return z > 0 ? UNMOVED : [-1, 0, 0, 1, 0, 0];
}

const isLevel = (heights: readonly number[]): boolean =>
  heights.every((z) => Math.abs(z - heights[0]) <= UPRIGHT * Math.max(1, Math.abs(heights[0])));

const tilted = (type: string): EntityShapes => ({ left: `${type} that is tilted` });
const ofNoSize = (type: string): EntityShapes => ({ left: `${type} of no size` });

/** Reads what an entity draws; a block reference is not read here. Throws a `DxfProblem` where a number is wrong. */
export function shapesOfEntity(entity: DxfEntity): EntityShapes {
  const { type } = entity;
  const read = READERS[type];
  if (!read) return { left: type };
  if (numberOf(entity, 67, 0) !== 0) return { left: `${type} on a sheet of paper` };
  return read(entity);
}

const READERS: Readonly<Record<string, (entity: DxfEntity) => EntityShapes>> = {
  LINE: lineShape,
  ARC: (e) => inPlane(e, arcShape),
  CIRCLE: (e) => inPlane(e, circleShape),
  LWPOLYLINE: (e) => inPlane(e, lightPolyline),
  POLYLINE: polyline,
  ELLIPSE: ellipse,
  SPLINE: spline,
};

/** Moves what stands in an entity's own plane onto the drawing's. */
function inPlane(entity: DxfEntity, read: (entity: DxfEntity) => Shape | undefined): EntityShapes {
  const plane = planeOf(entity);
  if (!plane) return tilted(entity.type);
  const shape = read(entity);
  if (!shape) return ofNoSize(entity.type);
  return { shapes: plane === UNMOVED ? [shape] : moveShape(plane, shape) };
}

function lineShape(e: DxfEntity): EntityShapes {
  const a = [numberNeeded(e, 10, "start"), numberNeeded(e, 20, "start")] as const;
  const b = [numberNeeded(e, 11, "end"), numberNeeded(e, 21, "end")] as const;
  if (!isLevel([numberOf(e, 30, 0), numberOf(e, 31, 0)])) return tilted("LINE");
  return { shapes: [{ kind: "line", a, b }] };
}

const centreOf = (e: DxfEntity) => [numberNeeded(e, 10, "centre"), numberNeeded(e, 20, "centre")] as const;

function arcShape(e: DxfEntity): Shape | undefined {
  const [c, r] = [centreOf(e), numberNeeded(e, 40, "radius")];
  const [from, to] = [numberNeeded(e, 50, "start angle"), numberNeeded(e, 51, "end angle")];
  if (!(r > 0)) return undefined;
  // One that ends where it begins goes all round.
  const turn = ((((to - from) % 360) + 360) % 360) * RADIANS;
  const whole = turn < WHOLE || turn > 2 * Math.PI - WHOLE;
  return whole ? { kind: "circle", c, r } : { kind: "arc", c, r, from: from * RADIANS, to: to * RADIANS };
}

function circleShape(e: DxfEntity): Shape | undefined {
  const [c, r] = [centreOf(e), numberNeeded(e, 40, "radius")];
  return r > 0 ? { kind: "circle", c, r } : undefined;
}

/** A polyline in one record: each group 10 begins a corner. */
function lightPolyline(e: DxfEntity): Shape | undefined {
  const corners: { at: [number, number]; bulge: number }[] = [];
  e.codes.forEach((code, i) => {
    if (code === 10) corners.push({ at: [readNumber(e, code, e.values[i]), 0], bulge: 0 });
    const last = corners.at(-1);
    if (last && code === 20) last.at[1] = readNumber(e, code, e.values[i]);
    if (last && code === 42) last.bulge = readNumber(e, code, e.values[i]);
  });
  return corners.length < 2 ? undefined : { kind: "chain", corners, closed: isClosed(e) };
}

const isClosed = (e: DxfRecord): boolean => (numberOf(e, 70, 0) & 1) === 1;
const OF_SPACE = 8;
const OF_FACES = 16 | 64;
/** A vertex that only bends a smoothed polyline, and is not on it. */
const OF_FRAME = 16;

function polyline(e: DxfEntity): EntityShapes {
  const flags = numberOf(e, 70, 0);
  if ((flags & OF_FACES) !== 0) return { left: "POLYLINE of faces" };
  const there = e.vertices.filter((v) => (numberOf(v, 70, 0) & OF_FRAME) === 0);
  if (there.length < 2) return ofNoSize("POLYLINE");
  const corners = there.map((v) => ({
    at: [numberNeeded(v, 10, "place"), numberNeeded(v, 20, "place")] as const,
    bulge: numberOf(v, 42, 0),
  }));
  const shape: Shape = { kind: "chain", corners, closed: isClosed(e) };
  if ((flags & OF_SPACE) === 0) return inPlane(e, () => shape);
  return isLevel(there.map((v) => numberOf(v, 30, 0))) ? { shapes: [shape] } : tilted("POLYLINE");
}

/** An ellipse stands in space: its minor axis is the normal × the major one. */
function ellipse(e: DxfEntity): EntityShapes {
  const c = centreOf(e);
  const m = [numberNeeded(e, 11, "longer axis"), numberNeeded(e, 21, "longer axis")] as const;
  const plane = planeOf(e);
  if (!plane || !isLevel([0, numberOf(e, 31, 0)])) return tilted("ELLIPSE");
  const ratio = numberNeeded(e, 40, "ratio of its axes") * (plane === UNMOVED ? 1 : -1);
  if (!(Math.hypot(...m) > 0) || ratio === 0) return ofNoSize("ELLIPSE");
  const from = numberOf(e, 41, 0);
  const turn = sweepOf(from, numberOf(e, 42, 2 * Math.PI));
  const on = (x: number, y: number) => [x * m[0] - y * ratio * m[1], x * m[1] + y * ratio * m[0]] as const;
  return {
    shapes: [
      {
        kind: "smooth",
        at: (t) => {
          const [x, y] = on(Math.cos(from + turn * t), Math.sin(from + turn * t));
          return [c[0] + x, c[1] + y];
        },
        way: (t) => on(-Math.sin(from + turn * t), Math.cos(from + turn * t)),
      },
    ],
  };
}

function spline(e: DxfEntity): EntityShapes {
  const heights = numbersOf(e, 30);
  if (heights.length > 0 && !isLevel(heights)) return tilted("SPLINE");
  const shapes = splineShapes(e);
  return shapes ? { shapes } : { left: "SPLINE" };
}
