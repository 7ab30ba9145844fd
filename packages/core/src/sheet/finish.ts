import { dot, EMPTY_BOUNDS, frameY, joinBounds } from "../plane/point.ts";
import { curveBounds } from "../plane/curve.ts";
import { moveCurve } from "../plane/isometry.ts";
import type { DraftBend, DraftPlate, SheetDraft } from "./draft.ts";
import { type MetalRemark, shapeMetal } from "./metal.ts";
import type { Bend, Plate, Sheet } from "./sheet.ts";

/** A plate's letter and a bend's number, by which people call them. */
export interface Labels {
  letterOf(plate: string): string;
  numberOf(bend: string): number;
}

interface Finished {
  readonly label: string | number;
  readonly made: Plate | Bend;
}

// A plate or bend that no step has touched since the last build is the very same one.
const finished = new WeakMap<DraftPlate | DraftBend, Finished>();

/** The sheet that steps have made, outlines worked out, with what is to be said about its cuts. */
export function finishSheet(
  draft: SheetDraft,
  labels: Labels,
): { sheet: Sheet; remarks: readonly (MetalRemark & { plate?: string })[] } {
  const remarks: (MetalRemark & { plate?: string })[] = [];
  const plates = [...draft.plates.values()].map((p) => {
    const made = finishPlate(p, labels.letterOf(p.id));
    const { remarks: own } = shapeMetal(p.metal);
    remarks.push(...own.map((r) => ({ ...r, plate: p.id })));
    if (made.regions.length > 1) {
      const message = `The cuts on plate ${made.letter} leave it in ${made.regions.length} pieces. Make reliefs or holes smaller, or move them.`;
      remarks.push({ step: p.metal[p.metal.length - 1].step, message, plate: p.id });
    }
    return made;
  });
  const bends = [...draft.bends.values()]
    .map((b) => finishBend(b, labels.numberOf(b.id)))
    .sort((p, q) => p.number - q.number);
  const slits = draft.slits.map((s) => s.line);
  return { sheet: { t: draft.t, roots: draft.roots, plates, bends, slits }, remarks };
}

function finishPlate(p: DraftPlate, letter: string): Plate {
  const known = finished.get(p);
  if (known?.label === letter) return known.made as Plate;
  const { id, step, frame, edges } = p;
  const { regions } = shapeMetal(p.metal);
  const made: Plate = { id, step, letter, frame, box: ownBox(p), edges, regions };
  finished.set(p, { label: letter, made });
  return made;
}

function finishBend(b: DraftBend, number: number): Bend {
  const known = finished.get(b);
  if (known?.label === number) return known.made as Bend;
  const { metal, grownOn, ...rest } = b;
  const made: Bend = { ...rest, number, edge: grownOn?.role, regions: shapeMetal(metal).regions };
  finished.set(b, { label: number, made });
  return made;
}

/** The extent of a plate in its own frame before cuts. */
function ownBox({ metal, frame }: DraftPlate): Plate["box"] {
  const y = frameY(frame);
  const back = {
    xx: frame.x.x,
    xy: frame.x.y,
    yx: y.x,
    yy: y.y,
    ox: -dot(frame.origin, frame.x),
    oy: -dot(frame.origin, y),
    flips: false,
  };
  let box = EMPTY_BOUNDS;
  for (const op of metal)
    if (op.kind === "add")
      for (const c of op.loops.flat()) box = joinBounds(box, curveBounds(moveCurve(back, c)));
  if (box.minX > box.maxX) return { x0: 0, y0: 0, x1: 0, y1: 0 };
  return { x0: box.minX, y0: box.minY, x1: box.maxX, y1: box.maxY };
}

