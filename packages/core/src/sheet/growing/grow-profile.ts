import { bendAllowance } from "../../bend/allowance.ts";
import { type Loop, loopFromFrame, rectangleLoop } from "../../plane/loop.ts";
import { along, type Frame, point, SAME } from "../../plane/point.ts";
import type { OpenDraft } from "../draft.ts";
import { edgesFromLoop } from "../edges.ts";
import { growPlate } from "./grow-plate.ts";
import type { BendSpec } from "./spec.ts";

/** One piece of a profile along its chain: a straight leg, then the bend that follows it, if any. */
export interface ProfileLeg {
  /** The plate this leg makes. */
  readonly id: string;
  /** Straight length between tangent lines, mm; may be nothing. */
  readonly length: number;
  /** The bend after it, named as the plate it leads to. */
  readonly bend?: BendSpec;
}

export interface ProfileSpec {
  readonly id: string;
  readonly step: string;
  readonly legs: readonly ProfileLeg[];
  /** From where to where the chain is swept, across it. */
  readonly from: number;
  readonly to: number;
}

const NAMES = (first: boolean, last: boolean) => [
  first ? "south" : undefined,
  "east",
  last ? "north" : undefined,
  "west",
];

/** Sweeps a chain of legs to a width: the first leg is the first plate, the others follow through bends. */
export function growProfile(draft: OpenDraft, spec: ProfileSpec, letterOf: (plate: string) => string): void {
  const { legs, from, to, step } = spec;
  let depth = 0;
  let bend: BendSpec | undefined;
  let parent = "";
  legs.forEach((leg, i) => {
    const outline = legOutline(from, to, depth, leg.length, i === 0, i === legs.length - 1);
    if (i === 0) {
      growPlate(draft, { id: leg.id, step, outline: outline ?? [], holes: [] }, letterOf(leg.id));
      if (!outline) draft.pieces.put({ ...draft.pieces.plate(leg.id)!, metal: [] });
    } else {
      const allowance = bendAllowance({ t: draft.t, r: bend!.radius, angle: bend!.angle }, bend!.k);
      addBend(draft, { ...bend!, id: leg.id, step }, parent, { from, to, depth, allowance });
      depth += allowance;
      const own = legOutline(from, to, depth, leg.length, false, i === legs.length - 1);
      const frame: Frame = { origin: point((from + to) / 2, depth), x: point(1, 0) };
      draft.pieces.put({
        kind: "plate",
        id: leg.id,
        step,
        frame,
        edges: own ? edgesFromLoop(own) : [],
        metal: own ? [{ kind: "add", step, loops: [own] }] : [],
      });
    }
    depth += leg.length;
    bend = leg.bend;
    parent = leg.id;
  });
}

/** A straight leg's outline in developed coordinates; nothing when it has no length. */
function legOutline(
  from: number,
  to: number,
  depth: number,
  length: number,
  first: boolean,
  last: boolean,
): Loop | undefined {
  if (length <= SAME) return undefined;
  return rectangleLoop(from, depth, to, depth + length, NAMES(first, last) as string[]);
}

function addBend(
  draft: OpenDraft,
  spec: BendSpec & { readonly id: string; readonly step: string },
  parent: string,
  at: { readonly from: number; readonly to: number; readonly depth: number; readonly allowance: number },
): void {
  const { id, step, up, angle, radius, k, kSource } = spec;
  const origin = point(at.from, at.depth);
  const axis = point(1, 0);
  const width = at.to - at.from;
  const strip = rectangleLoop(0, 0, width, at.allowance, ["", "right", "", "left"]);
  draft.pieces.put({
    kind: "bend",
    id,
    step,
    parent,
    child: id,
    origin,
    axis,
    out: point(0, 1),
    width,
    allowance: at.allowance,
    angle,
    radius,
    k,
    kSource,
    up,
    overhang: { left: 0, right: 0 },
    metal: [
      { kind: "add", step, loops: [loopFromFrame({ origin: along(origin, axis, 0), x: axis }, strip)] },
    ],
    unrelieved: [],
    reliefs: [],
  });
}
