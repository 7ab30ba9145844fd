import {
  bendsOf,
  type FieldValues,
  type Folding,
  facingOf,
  formatShort,
  INCH,
  type LengthTo,
  leastLength,
  lengthForLeg,
  moveV,
  type PartBuild,
  picksOf,
  platesOf,
  type StepDocument,
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
  /** The value one step further, for the arrow keys. */
  readonly nudged: (way: number, fine: boolean, units: Units) => string;
}

const SNAP_PX = 6;

/** What a drag of a length snaps to, mm: whole and tenths of a millimetre, or 16ths and 64ths of an inch. */
const snapOf = (units: Units, fine: boolean): number =>
  units === "mm" ? (fine ? 0.1 : 1) : INCH / (fine ? 64 : 16);

/** A dragged length as a field of the part would have it typed. */
const typedLength = (mm: number, units: Units): string =>
  units === "mm" ? formatShort(mm) : `${formatShort(mm / INCH, 6)} in`;

/** A length that snaps to whole millimetres or 16ths of an inch, and to other lengths like it. */
function lengthGrip(
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
    nudged: (way, fine, units) => {
      const step = snapOf(units, fine);
      const grid = snapOf(units, true);
      return typedLength(Math.round((now + way * step) / grid) * grid, units);
    },
  };
}

/** An angle in steps of five degrees, by how far a handle on an arm has moved. */
function angleGrip(now: number, arm: number): Pick<Grip, "dragged" | "nudged" | "unit"> {
  return {
    unit: "°",
    dragged: (by, _pxPerMm, fine) => {
      const degrees = toDegrees(now + Math.atan2(by, Math.max(1, arm)));
      const step = fine ? 1 : 5;
      return formatShort(Math.max(1, Math.min(179, Math.round(degrees / step) * step)));
    },
    nudged: (way, fine) => formatShort(Math.round((toDegrees(now) + way * (fine ? 0.1 : 1)) * 10) / 10),
  };
}

/** Whether a bend stands so flat that nothing about it can be dragged. */
function isFlat({ pieces }: Folding, at: number): boolean {
  const folded = pieces[at];
  return folded.kind === "bend" && folded.angle < 1e-6;
}

/** What can be dragged on a plate that hangs on a bend, or on the lugs of the step that is open. */
export function gripsOn(
  build: PartBuild,
  folding: Folding,
  plateId: string | undefined,
  open: StepDocument | undefined,
): Grip[] {
  if (open?.kind === "lug") return lugGrips(build, folding, open);
  const { sheet } = build;
  const j = bendsOf(sheet).findIndex((b) => b.child === plateId);
  const bend = bendsOf(sheet)[j];
  if (!sheet || !bend || build.stock === undefined || isFlat(folding, sheet.pieces.indexOf(bend))) return [];
  const values = build.steps.find((s) => s.id === bend.step)?.values;
  if (!values) return [];
  if (values.choices.form !== undefined && values.choices.between !== undefined)
    return jogGrips(build, folding, j, values);
  if (values.choices.meaning !== undefined) return foldGrips(build, folding, j, values);
  if (values.choices.lengthTo !== undefined) return flangeGrips(build, folding, j, values);
  return values.quantities.length === undefined ? [] : hemGrips(build, folding, j, values);
}

/** The frame of a bend's plate in space: a place in it, and the directions out from the bend and up from the sheet. */
function frameOf(build: PartBuild, folding: Folding, j: number) {
  const sheet = build.sheet!;
  const bend = bendsOf(sheet)[j];
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
  return { bend, plate, at, out, rising };
}

function flangeGrips(build: PartBuild, folding: Folding, j: number, values: FieldValues): Grip[] {
  const { bend, plate, at, out, rising } = frameOf(build, folding, j);
  const shape = { t: build.sheet!.t, r: bend.radius, angle: bend.angle };
  const leg = plate.box.y1;
  const arm = leg * 0.55;
  const pick = bend.id.slice(bend.step.length);
  const grips: Grip[] = [
    {
      which: "angle",
      title: "Drag the flange's angle",
      step: bend.step,
      pick,
      field: "angle",
      // Off the middle, so that on a short leg the two do not lie over each other.
      anchor: { id: "handle-angle", at: at(-bend.width / 4, arm), along: rising, off: 24 },
      ...angleGrip(bend.angle, arm + bend.radius),
    },
  ];
  // A leg that ends level with an edge has no length of its own.
  if (values.choices.lengthTo === "level") return grips;
  const lengthTo = values.choices.lengthTo as LengthTo;
  const others = build.steps.flatMap(({ id, values: v }) =>
    id !== bend.step && v?.quantities.length !== undefined && v.choices.lengthTo === lengthTo
      ? [v.quantities.length]
      : [],
  );
  const length = lengthGrip(lengthForLeg(lengthTo, leg, shape), leastLength(lengthTo, shape), others);
  return [
    {
      which: "length",
      title: "Drag the flange's length",
      step: bend.step,
      pick,
      field: "length",
      anchor: { id: "handle-length", at: at(0, leg), along: out, off: 20 },
      ...length,
    },
    ...grips,
  ];
}

function hemGrips(build: PartBuild, folding: Folding, j: number, values: FieldValues): Grip[] {
  const { bend, plate, at, out } = frameOf(build, folding, j);
  const least = bend.radius + build.sheet!.t;
  return [
    {
      which: "length",
      title: "Drag the hem's length",
      step: bend.step,
      pick: bend.id.slice(bend.step.length),
      field: "length",
      anchor: { id: "handle-length", at: at(0, plate.box.y1), along: out, off: 20 },
      ...lengthGrip(values.quantities.length!, least, []),
    },
  ];
}

function foldGrips(build: PartBuild, folding: Folding, j: number, values: FieldValues): Grip[] {
  const { bend, at, rising } = frameOf(build, folding, j);
  const arm = Math.max(10, bend.width / 4);
  if (values.quantities.angle === undefined) return [];
  return [
    {
      which: "angle",
      title: "Drag the fold's angle",
      step: bend.step,
      field: "angle",
      anchor: { id: "handle-angle", at: at(0, arm), along: rising, off: 24 },
      ...angleGrip(bend.angle, arm + bend.radius),
    },
  ];
}

function jogGrips(build: PartBuild, folding: Folding, j: number, values: FieldValues): Grip[] {
  const sheet = build.sheet!;
  // The bend that leads on to what is set off: the one whose plate has the step's own name.
  const last = bendsOf(sheet).findIndex((b) => b.child === bendsOf(sheet)[j].step);
  if (values.choices.form !== "jog" || last < 0 || values.quantities.offset === undefined) return [];
  const { bend, at, rising } = frameOf(build, folding, last);
  const up: Vector = [-rising[0], -rising[1], -rising[2]];
  return [
    {
      which: "length",
      title: "Drag the jog's offset",
      step: bend.step,
      field: "offset",
      anchor: { id: "handle-length", at: at(0, 8), along: up, off: 26 },
      ...lengthGrip(values.quantities.offset, 0, []),
    },
  ];
}

function lugGrips(build: PartBuild, folding: Folding, step: StepDocument): Grip[] {
  const sheet = build.sheet;
  const values = build.steps.find((s) => s.id === step.id)?.values;
  const [pick] = picksOf(step, "edges");
  if (!sheet || !pick || values?.quantities.length === undefined) return [];
  const role = `${step.id}${pick.key}-end`;
  const plate = platesOf(sheet).find((p) => p.edges.some((e) => e.role === role));
  const edge = plate?.edges.find((e) => e.role === role);
  if (!sheet || !plate || !edge) return [];
  const motion = facingOf(folding, sheet.pieces.indexOf(plate));
  const middle = [(edge.left.x + edge.right.x) / 2, (edge.left.y + edge.right.y) / 2] as const;
  return [
    {
      which: "length",
      title: "Drag the lug's length",
      step: step.id,
      pick: pick.key,
      field: "length",
      anchor: {
        id: "handle-length",
        at: moveV(motion, [middle[0], middle[1], sheet.t / 2]),
        along: turnV(motion, [edge.out.x, edge.out.y, 0]),
        off: 20,
      },
      ...lengthGrip(values.quantities.length, 0.1, []),
    },
  ];
}
