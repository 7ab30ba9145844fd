import { Kept } from "../../kept.ts";
import { circleLoop, type Loop, loopFromFrame } from "../../plane/loop.ts";
import { type Frame, point, sameFrame } from "../../plane/point.ts";
import { STILL } from "../../space/vector.ts";
import { formatShort } from "../../units/quantity.ts";
import { edgesFromLoop, type OpenDraft } from "../draft.ts";
import type { MetalOp } from "../shaping/metal.ts";
import type { HoleSpec, PlateSpec } from "./spec.ts";

const OWN: Frame = { origin: point(0, 0), x: point(1, 0) };

/** Lays the first plate of a sheet: its own coordinates are the developed ones. */
export function growPlate(draft: OpenDraft, spec: PlateSpec, letter: string): void {
  draft.roots = [...draft.roots, { plate: spec.id, place: spec.place ?? STILL }];
  draft.plates.set(spec.id, {
    id: spec.id,
    step: spec.step,
    frame: OWN,
    edges: edgesFromLoop(spec.outline),
    metal: [
      { kind: "add", step: spec.step, loops: [spec.outline, ...(spec.openings ?? [])] },
      ...holeOps(spec.holes, OWN, spec.step, letter),
    ],
  });
}

interface HolePlace {
  readonly frame: Frame;
  readonly step: string;
  readonly letter: string;
  readonly lift: number;
}

const holeOp = new Kept(
  (hole: HoleSpec, { frame, step, letter, lift }: HolePlace): MetalOp => {
    const loop: Loop = circleLoop(point(hole.x, hole.y - lift), hole.diameter / 2, `hole:${hole.key}`);
    return {
      kind: "cut",
      step,
      loops: [loopFromFrame(frame, loop)],
      title: `The hole ⌀ ${formatShort(hole.diameter)} at ${formatShort(hole.x)}, ${formatShort(hole.y)} on plate ${letter}`,
    };
  },
  (p, q) => p.step === q.step && p.letter === q.letter && p.lift === q.lift && sameFrame(p.frame, q.frame),
);

/** Round holes as cuts, each titled so that a remark can be made about it. */
export const holeOps = (
  holes: readonly HoleSpec[],
  frame: Frame,
  step: string,
  letter: string,
  lift = 0,
): MetalOp[] => holes.map((hole) => holeOp.of(hole, { frame, step, letter, lift }));
