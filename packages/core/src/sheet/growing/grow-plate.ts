import { Kept, KeptTexts } from "../../kept.ts";
import { circleLoop, type Loop, loopFromFrame } from "../../plane/loop.ts";
import { type Frame, fromFrame, point, sameFrame } from "../../plane/point.ts";
import { STILL } from "../../space/vector.ts";
import { formatShort } from "../../units/quantity.ts";
import type { OpenDraft } from "../draft.ts";
import { edgesFromLoop } from "../edges.ts";
import { type FeatureLook, featureAt } from "../feature.ts";
import type { MetalOp } from "../shaping/metal-op.ts";
import type { HoleSpec, PlateSpec } from "./spec.ts";

const OWN: Frame = { origin: point(0, 0), x: point(1, 0) };

/** Lays the first plate of a sheet: its own coordinates are the developed ones. */
export function growPlate(draft: OpenDraft, spec: PlateSpec, letter: string): void {
  draft.roots = [...draft.roots, { plate: spec.id, place: spec.place ?? STILL }];
  draft.pieces.put({
    kind: "plate",
    id: spec.id,
    step: spec.step,
    frame: OWN,
    edges: edgesFromLoop(spec.outline),
    metal: [
      { kind: "add", step: spec.step, loops: [spec.outline, ...(spec.openings ?? [])] },
      ...holeOps(spec.holes, { owner: spec.id, plate: spec.id, frame: OWN, step: spec.step, letter }),
    ],
  });
}

/** Whose table a hole stands in, and where that is. */
interface HolePlace {
  /** The leg, lug or plate that has the table: holes are called by it. */
  readonly owner: string;
  readonly frame: Frame;
  readonly step: string;
  readonly plate: string;
  readonly letter: string;
  readonly lift: number;
}

/** Holes of a table mostly come in a few diameters: those of one share what they look like. */
const roundLook = new KeptTexts(
  (diameter): FeatureLook => ({ kind: "round", size: { diameter: Number(diameter) } }),
  1000,
);

const holeOp = new Kept(
  (hole: HoleSpec, { owner, frame, step, plate, letter, lift }: HolePlace): MetalOp => {
    const id = `${owner}.${hole.key}`;
    const at = point(hole.x, hole.y - lift);
    const loop: Loop = circleLoop(at, hole.diameter / 2, `hole:${hole.key}`, id);
    const look = roundLook.of(String(hole.diameter));
    return {
      kind: "cut",
      step,
      loops: [loopFromFrame(frame, loop)],
      feature: featureAt(
        { id, step, look, piece: `plate:${plate}` },
        { origin: fromFrame(frame, at), x: frame.x },
      ),
      title: `The hole ⌀ ${formatShort(hole.diameter)} at ${formatShort(hole.x)}, ${formatShort(hole.y)} on plate ${letter}`,
    };
  },
  (p, q) =>
    p.owner === q.owner &&
    p.step === q.step &&
    p.plate === q.plate &&
    p.letter === q.letter &&
    p.lift === q.lift &&
    sameFrame(p.frame, q.frame),
);

/** Round holes as cuts, each titled so that a remark can be made about it. */
export const holeOps = (
  holes: readonly HoleSpec[],
  { lift = 0, ...place }: Omit<HolePlace, "lift"> & { readonly lift?: number },
): MetalOp[] => holes.map((hole) => holeOp.of(hole, { ...place, lift }));
