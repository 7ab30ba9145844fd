import { type Curve, withTags } from "../../plane/curve.ts";
import { type Isometry, moveCurve, moveLoop } from "../../plane/isometry.ts";
import type { Loop } from "../../plane/loop.ts";
import { copiedFeature, type Feature, moveFeature } from "../feature.ts";
import type { Formed } from "../pieces/formed-piece.ts";
import type { Rib } from "../pieces/rib-piece.ts";

interface Work {
  /** The step that did it. */
  readonly step: string;
  /** The bend that this was done for: what it takes off the plate, its reliefs. */
  readonly bend?: string;
  /** Which place of a step that repeats this is, from 1: one that meets no metal is told with the others. */
  readonly place?: number;
  /** What it makes on purpose; its curves name it. */
  readonly feature?: Feature;
}

/** Metal that is added. Loops are counter-clockwise in developed coordinates, openings in them clockwise. */
export interface AddOp extends Work {
  readonly kind: "add";
  readonly loops: readonly Loop[];
}

/** Metal that is cut away: what lies within counter-clockwise loops. */
export interface CutOp extends Work {
  readonly kind: "cut";
  readonly loops: readonly Loop[];
  /** For a notch beside a bend: at which of its ends. */
  readonly relief?: "left" | "right";
  /** For a cut through the flat sheet: the bends that were flat with it, over which it went on. */
  readonly over?: ReadonlySet<string>;
  /** Whether it parts the plate, so that what is repeated of earlier work must be parted too. */
  readonly parts?: boolean;
  /** How a person would call this cut, when its place is worth a remark: "The hole ⌀ 6 at 10, 20". */
  readonly title?: string;
  /** Whether it may run over the edge or into another cut, as a notch does: then only missing the plate is told. */
  readonly notch?: boolean;
}

/** Lines that are marked on the metal and take none away: engraving, a centre mark, a text. */
export interface MarkOp extends Work {
  readonly kind: "mark";
  /** Chains of curves, open or closed, in developed coordinates. */
  readonly loops: readonly (readonly Curve[])[];
  readonly side: "A" | "B";
  readonly feature: Feature;
}

/** What is formed out of a plate within the one loop, wherever on it. */
export interface FormOp extends Work {
  readonly kind: "form";
  readonly loops: readonly Loop[];
  readonly formed: FormedWork;
  /** The name of its place: `form:s2-1_0`. */
  readonly name?: string;
  readonly feature: Feature;
}

/** A rib that is pressed into a bend, within the one loop, a rectangle. */
export interface PressOp extends Work {
  readonly kind: "press";
  readonly loops: readonly Loop[];
  readonly rib: Pick<Rib, "title" | "onBlank">;
  readonly feature: Feature;
}

/** One thing done to the metal of a plate or strip. */
export type MetalOp = AddOp | CutOp | MarkOp | FormOp | PressOp;

/** What was done to a piece of metal, in order. Its outline follows when somebody asks. */
export type Metal = readonly MetalOp[];

/** How what is formed rises, and what is said of it. */
export type FormedWork = Pick<Formed, "shape" | "onBlank" | "title" | "room">;

/** Whether something done to metal gives it its outline; what is marked, formed or pressed leaves that as it is. */
export const isOutlining = (op: MetalOp): op is AddOp | CutOp => op.kind === "add" || op.kind === "cut";

/** A cut through the flat sheet, over bends that were flat with it. */
export type FlatCutOp = CutOp & { readonly over: ReadonlySet<string> };

export const isFlatCut = (op: MetalOp): op is FlatCutOp => op.kind === "cut" && op.over !== undefined;

/** Whether something done to metal parts it. */
export const isParting = (op: MetalOp): boolean => op.kind === "cut" && op.parts === true;

/** A notch beside an end of a bend. */
export type ReliefOp = CutOp & { readonly relief: "left" | "right"; readonly bend: string };

export const isRelief = (op: MetalOp): op is ReliefOp =>
  op.kind === "cut" && op.relief !== undefined && op.bend !== undefined;

/** The same done elsewhere, all of it having moved. A chain that does not close keeps its direction. */
export const moveOp = <T extends MetalOp>(m: Isometry, op: T): T => ({
  ...op,
  loops:
    op.kind === "mark"
      ? op.loops.map((chain) => chain.map((c) => moveCurve(m, c)))
      : op.loops.map((l) => moveLoop(m, l)),
  ...(op.feature ? { feature: moveFeature(m, op.feature) } : {}),
});

/** What goes behind the names of a copy's curves; those of places within a step are not to be picked and stay. */
function copiedTags({ name, feature }: Curve, mark: string, renames: boolean) {
  const own = renames && name && (!name.includes(":") || /^(hole|cut):/.test(name));
  return {
    name: own ? `${name}${mark}` : name,
    feature: feature === undefined ? undefined : `${feature}${mark}`,
  };
}

/** A copy's loops; their names too where it stands among what it was copied from. */
export const copiedLoops = (
  loops: readonly (readonly Curve[])[],
  mark: string,
  renames: boolean,
): (readonly Curve[])[] => loops.map((loop) => loop.map((c) => withTags(c, copiedTags(c, mark, renames))));

/** How another step makes something again: where, and what goes behind the names of what it copies. */
export interface Copying {
  readonly move: Isometry;
  readonly mark: string;
  readonly step: string;
  /** Whether edges and bends take new names too: not on a plate that is a copy itself, where they have their own. */
  readonly renames: boolean;
}

/**
 * Work that another step does again. What was cut for a bend stands or falls with the bend's copy. It says nothing of itself:
 * that is told where it was done first.
 */
export function copyOp(op: MetalOp, { move, mark, step, renames }: Copying): MetalOp {
  const moved = moveOp(move, op);
  const copy: MetalOp = {
    ...moved,
    step,
    loops: copiedLoops(moved.loops, mark, renames),
    ...(renames && op.bend !== undefined ? { bend: `${op.bend}${mark}` } : {}),
    ...(moved.feature ? { feature: copiedFeature(moved.feature, mark, step) } : {}),
  } as MetalOp;
  return untitled(copy);
}

/** Work that is not told of, and whose places have no names. */
export function untitled(op: MetalOp): MetalOp {
  if (op.kind === "cut" && op.title !== undefined) {
    const { title: _title, ...rest } = op;
    return rest;
  }
  if (op.kind === "form" && op.name !== undefined) {
    const { name: _name, ...rest } = op;
    return rest;
  }
  return op;
}
