import { bendAllowance, innerSetback, outerSetback } from "../bend/allowance.ts";
import { along, type Point } from "../plane/point.ts";
import { type Band, type Division, dividePlate } from "./divide.ts";
import type { DraftBend, OpenDraft, Refusal } from "./draft.ts";
import type { Metal } from "./metal.ts";
import type { BendSpec } from "./spec.ts";

/** What a drawn fold line is for its bend. */
export type LineMeaning = "start" | "middle" | "end" | "outer-mould" | "inner-mould";

/** A line on a plate, in developed coordinates; what is on its left moves. */
export interface FoldLine {
  readonly plate: string;
  readonly origin: Point;
  readonly axis: Point;
  readonly limit?: { readonly from: number; readonly to: number };
}

export interface FoldSpec extends BendSpec {
  readonly id: string;
  readonly step: string;
  readonly line: FoldLine;
  readonly meaning: LineMeaning;
}

export interface PartNames {
  readonly letterOf: (plate: string) => string;
  readonly numberOf: (bend: string) => number;
}

/** Where a bend's first tangent line stands from the drawn line, toward the side that moves. */
export function startFromLine(
  meaning: LineMeaning,
  shape: { t: number; r: number; angle: number },
  allowance: number,
): number {
  switch (meaning) {
    case "start":
      return 0;
    case "middle":
      return -allowance / 2;
    case "end":
      return -allowance;
    case "outer-mould":
      return -(outerSetback(shape) ?? shape.r + shape.t);
    case "inner-mould":
      return -(innerSetback(shape) ?? shape.r);
  }
}

export const leftOf = (axis: Point): Point => ({ x: -axis.y, y: axis.x });

/** Folds a plate along a line: the metal of the bend is the plate's own, so the blank stays as it is. */
export function growFold(draft: OpenDraft, spec: FoldSpec, names: PartNames): Refusal | undefined {
  const { line, angle, radius, k } = spec;
  const shape = { t: draft.t, r: radius, angle };
  const allowance = bendAllowance(shape, k);
  const start = startFromLine(spec.meaning, shape, allowance);
  const band: Band = {
    origin: along(line.origin, leftOf(line.axis), start),
    axis: line.axis,
    width: allowance,
    ...(line.limit ? { limit: line.limit } : {}),
  };
  const division = dividePlate(draft, line.plate, band, spec, {
    letter: names.letterOf(line.plate),
    numberOf: names.numberOf,
    band: "bend",
  });
  if ("message" in division) return division;
  draft.bends.set(spec.id, foldBend(spec, line.plate, spec.id, division, 0, allowance, division.strip));
  return undefined;
}

/** The bend of a strip that stands `depth` beyond the beginning of a division's band. */
export function foldBend(
  spec: BendSpec & { readonly id: string; readonly step: string },
  parent: string,
  child: string,
  division: Pick<Division, "band" | "from" | "to">,
  depth: number,
  allowance: number,
  metal: Metal,
): DraftBend {
  const { band, from, to } = division;
  const out = leftOf(band.axis);
  const { id, step, up, angle, radius, k, kSource } = spec;
  return {
    id,
    step,
    parent,
    child,
    origin: along(along(band.origin, band.axis, from), out, depth),
    axis: band.axis,
    out,
    width: to - from,
    allowance,
    angle,
    radius,
    k,
    kSource,
    up,
    overhang: { left: 0, right: 0 },
    metal,
    unrelieved: [],
  };
}
