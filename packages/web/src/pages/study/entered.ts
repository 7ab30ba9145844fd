import {
  ANGLE_UNITS,
  type BendRow,
  cardOf,
  type PartBuild,
  type PartDocument,
  type StudyUnknown,
  toDegrees,
} from "@hillcrest/core";
import type { Method } from "./study-methods.ts";

/** What is entered on the page: lengths in mm, the angle in degrees as a part's field has it. */
export interface Entered {
  readonly t: number;
  readonly r: number;
  readonly degrees: number;
  /** A part's own angle in radians, for as long as its degrees stand: typed back it could lose a digit. */
  readonly exact?: { readonly degrees: number; readonly angle: number };
  readonly k: number;
  readonly legA: number;
  readonly legB: number;
  readonly method: Method;
}

const START: Entered = { t: 1.5, r: 1.5, degrees: 90, k: 0.42, legA: 42, legB: 40, method: "own" };

/** The part and the bend that the study was opened from. */
export interface Origin {
  readonly id: string;
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly row: BendRow;
}

export function fromAddress(params: URLSearchParams): Entered {
  const number = (key: string, fallback: number, least: number) => {
    const v = params.has(key) ? Number(params.get(key)) : Number.NaN;
    return Number.isFinite(v) && v >= least ? v : fallback;
  };
  const chart = params.get("chart");
  return {
    ...START,
    t: number("t", START.t, 0.01),
    r: number("r", START.r, 0),
    degrees: number("angle", START.degrees, 0.1),
    k: number("k", START.k, -5),
    method: chart ? `chart:${chart}` : START.method,
  };
}

/** A bend of a part as the study enters it: by the same chart or the same K. */
export function ofBend(document: PartDocument, build: PartBuild, row: BendRow): Partial<Entered> {
  const card = cardOf(document.stock);
  const shape = { t: build.stock!.thickness, r: row.radius, angle: row.angle };
  const byCard = card && row.byStock && document.stock.flatBy === undefined;
  const byDin = document.stock.flatBy === "DIN 6935" && row.byStock;
  const degrees = Number(toDegrees(row.angle).toFixed(9));
  return {
    t: shape.t,
    r: row.radius,
    degrees,
    exact: { degrees, angle: row.angle },
    k: row.k,
    method: byCard ? `chart:${card.chart.id}` : byDin ? "DIN 6935" : "own",
  };
}

export const solved = (unknown: StudyUnknown, value: number): Partial<Entered> => {
  if (unknown === "angle") return { degrees: value / ANGLE_UNITS.deg };
  return unknown === "k" ? { k: value, method: "own" } : { [unknown]: value };
};
