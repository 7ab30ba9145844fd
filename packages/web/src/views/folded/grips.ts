import {
  type Bend,
  type Dimension,
  evaluateExpression,
  type Folding,
  facingOf,
  formatShort,
  INCH,
  moveV,
  type PartBuild,
  platesOf,
  toDegrees,
  turnV,
  type Units,
  type Vector,
} from "@hillcrest/core";
import type { Anchor } from "./overlay.tsx";

/** A value of a step that can be dragged in the folded view. */
export interface Grip {
  readonly which: "length" | "angle";
  readonly title: string;
  readonly step: string;
  /** The step's field that it changes, and the pick, where picks may differ. */
  readonly field: string;
  readonly pick?: string;
  readonly unit: "mm" | "°";
  readonly anchor: Anchor;
  /** The value after a drag of `by` millimetres along the anchor's direction, as text. */
  readonly dragged: (by: number, pxPerMm: number, fine: boolean, units: Units) => string;
  /** The value one step further than it stands, or than `from`, as a text before; for the arrow keys. */
  readonly nudged: (way: number, fine: boolean, units: Units, from?: string) => string;
}

const SNAP_PX = 6;

/** What a drag of a length snaps to, mm: whole and tenths of a millimetre, or 16ths and 64ths of an inch. */
const snapOf = (units: Units, fine: boolean): number =>
  units === "mm" ? (fine ? 0.1 : 1) : INCH / (fine ? 64 : 16);

/** A dragged length as a field of the part would have it typed. */
const typedLength = (mm: number, units: Units): string =>
  units === "mm" ? formatShort(mm) : `${formatShort(mm / INCH, 6)} in`;

function typedValue(text: string | undefined, dimension: Dimension): number | undefined {
  const result = text === undefined ? undefined : evaluateExpression(text, { dimension });
  return result?.ok ? result.value : undefined;
}

/** A length that snaps to whole millimetres or 16ths of an inch, and to other lengths like it. */
export function lengthGrip(
  now: number,
  least: number,
  others: readonly number[],
): Pick<Grip, "dragged" | "nudged" | "unit"> {
  const snap = (raw: number, step: number) => {
    const snapped = Math.round(raw / step) * step;
    return snapped < least ? Math.ceil(least / step - 1e-9) * step : snapped;
  };
  return {
    unit: "mm",
    dragged: (by, pxPerMm, fine, units) => {
      const raw = Math.max(least, now + by);
      const near = others.find((o) => Math.abs(o - raw) * pxPerMm < SNAP_PX);
      return typedLength(near !== undefined && !fine ? near : snap(raw, snapOf(units, fine)), units);
    },
    nudged: (way, fine, units, from) => {
      const step = snapOf(units, fine);
      const grid = snapOf(units, true);
      return typedLength(Math.round(((typedValue(from, "length") ?? now) + way * step) / grid) * grid, units);
    },
  };
}

/** An angle in steps of five degrees, by how far a handle on an arm has moved. */
export function angleGrip(now: number, arm: number): Pick<Grip, "dragged" | "nudged" | "unit"> {
  return {
    unit: "°",
    dragged: (by, _pxPerMm, fine) => {
      const degrees = toDegrees(now + Math.atan2(by, Math.max(1, arm)));
      const step = fine ? 1 : 5;
      return formatShort(Math.max(1, Math.min(179, Math.round(degrees / step) * step)));
    },
    nudged: (way, fine, _units, from) => {
      const degrees = toDegrees(typedValue(from, "angle") ?? now);
      return formatShort(Math.round((degrees + way * (fine ? 0.1 : 1)) * 10) / 10);
    },
  };
}

/** Whether a bend stands so flat that nothing about it can be dragged. */
export function isFlat({ pieces }: Folding, at: number): boolean {
  const folded = pieces[at];
  return folded.kind === "bend" && folded.angle < 1e-6;
}

/** The frame of a bend's plate in space: a place in it, and the directions out from the bend and up from the sheet. */
export function frameOf(build: PartBuild, folding: Folding, bend: Bend) {
  const sheet = build.sheet!;
  const plate = platesOf(sheet).find((p) => p.id === bend.child)!;
  const motion = facingOf(folding, sheet.pieces.indexOf(plate));
  const at = (s: number, out: number): Vector =>
    moveV(motion, [
      bend.origin.x + bend.axis.x * (bend.width / 2 + s) + bend.out.x * (bend.allowance + out),
      bend.origin.y + bend.axis.y * (bend.width / 2 + s) + bend.out.y * (bend.allowance + out),
      sheet.t / 2,
    ]);
  const out = turnV(motion, [bend.out.x, bend.out.y, 0]);
  const rising = turnV(motion, [0, 0, bend.up ? 1 : -1]);
  return { plate, at, out, rising };
}
