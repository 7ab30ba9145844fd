import { bendAllowance, innerSetback, outerSetback } from "../../bend/allowance.ts";
import { line } from "../../plane/curve.ts";
import { along, type Frame, fromFrame, type Point, point } from "../../plane/point.ts";
import { type OpenDraft, type Refusal, slit, workMetal } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import type { BendRelief } from "../pieces/flat-pieces.ts";
import { type Band, type Division, dividePlate } from "../shaping/divide.ts";
import { hasMetal } from "../shaping/metal.ts";
import type { Metal } from "../shaping/metal-op.ts";
import { refreshEdges } from "../shaping/refresh-edges.ts";
import { reliefLoop } from "./relief-loop.ts";
import type { End } from "./site.ts";
import { type BendSpec, type ReliefSpec, sizeOf } from "./spec.ts";

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
  /** How metal beside a tongue's bend is parted from it. */
  readonly relief: ReliefSpec;
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
  const { line: drawn, angle, radius, k } = spec;
  const shape = { t: draft.t, r: radius, angle };
  const allowance = bendAllowance(shape, k);
  const start = startFromLine(spec.meaning, shape, allowance);
  const band: Band = {
    origin: along(drawn.origin, leftOf(drawn.axis), start),
    axis: drawn.axis,
    width: allowance,
    ...(drawn.limit ? { limit: drawn.limit } : {}),
  };
  const division = dividePlate(draft, drawn.plate, band, spec, {
    letter: names.letterOf(drawn.plate),
    numberOf: names.numberOf,
    band: "bend",
  });
  if ("message" in division) return division;
  const bend = foldBend(spec, drawn.plate, spec.id, division, 0, allowance, division.strip);
  // With the bend in its place already: edges that carry bends are not read anew.
  draft.pieces.put(bend);
  const { unrelieved, reliefs, parted } = relieve(draft, bend, spec);
  if (parted.size > 0) draft.pieces.put({ ...bend, unrelieved, reliefs });
  for (const id of parted) refreshEdges(draft, id);
  return undefined;
}

const ENDS = ["left", "right"] as const;

/**
 * Parts a folded tongue from the metal that stands beside its bend, on the side that stays or on the one
 * that moves. Returns the ends at which metal stands and the stock has no relief for it, the reliefs that were
 * cut, and the plates that have metal there.
 */
function relieve(
  draft: OpenDraft,
  bend: DraftBend,
  { relief, step, id }: FoldSpec,
): { unrelieved: End[]; reliefs: BendRelief[]; parted: ReadonlySet<string> } {
  const unrelieved = new Set<End>();
  const reliefs: BendRelief[] = [];
  const parted = new Set<string>();
  const near: Frame = { origin: bend.origin, x: bend.axis };
  const far: Frame = {
    origin: along(along(bend.origin, bend.axis, bend.width), bend.out, bend.allowance),
    x: { x: -bend.axis.x, y: -bend.axis.y },
  };
  for (const [plate, frame] of [
    [bend.parent, near],
    [bend.child, far],
  ] as const)
    for (const end of ENDS) {
      const at = end === "left" ? 0 : bend.width;
      const probe = (f: number) =>
        fromFrame(frame, point(end === "left" ? -1e-4 : bend.width + 1e-4, bend.allowance * f));
      const { metal } = draft.pieces.plate(plate)!;
      if (![0.02, 0.5, 0.98].some((f) => hasMetal(metal, probe(f)))) continue;
      parted.add(plate);
      // Seen from the plate that moves, the bend's left is on the right.
      const own: End = frame === near ? end : end === "left" ? "right" : "left";
      if (relief.shape === "none") {
        unrelieved.add(own);
        continue;
      }
      const side = frame === near ? "parent" : "child";
      reliefs.push({ end: own, side, ...sizeOf(relief) });
      if (relief.shape === "torn")
        slit(draft, [
          {
            owner: plate,
            step,
            line: line(fromFrame(frame, point(at, 0)), fromFrame(frame, point(at, -relief.depth)), "slit"),
          },
        ]);
      else {
        const loop = reliefLoop(relief, frame, at, end, { setback: 0, open: bend.allowance });
        workMetal(draft, { plate }, { kind: "cut", step, bend: id, relief: own, loops: [loop] });
      }
    }
  return { unrelieved: ENDS.filter((e) => unrelieved.has(e)), reliefs, parted };
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
    kind: "bend",
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
    reliefs: [],
  };
}
