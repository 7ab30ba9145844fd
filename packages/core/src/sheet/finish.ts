import { curveBounds, type Line } from "../plane/curve.ts";
import {
  type Isometry,
  intoFrame,
  moveCurve,
  moveFrame,
  moveLoop,
  movePoint,
  translation,
} from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { EMPTY_BOUNDS, joinBounds, point } from "../plane/point.ts";
import { type Region, regionBounds } from "../plane/region.ts";
import { compose, STILL } from "../space/vector.ts";
import { type DraftBend, type DraftPlate, moveEdge, type SheetDraft, subtreeOf } from "./draft.ts";
import { type MetalRemark, shapeLike, shapeMetal } from "./metal.ts";
import { liesOn } from "./refresh-edges.ts";
import type { Bend, EdgeSite, Plate, Sheet } from "./sheet.ts";

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

/**
 * The sheet that steps have made, outlines worked out, with what is to be said about its cuts. What
 * is as it was in the draft `before` keeps its outline.
 */
export function finishSheet(
  draft: SheetDraft,
  labels: Labels,
  before?: SheetDraft,
): { sheet: Sheet; remarks: readonly (MetalRemark & { plate?: string })[] } {
  const remarks: (MetalRemark & { plate?: string })[] = [];
  const plates = [...draft.plates.values()].map((p) => {
    const old = before?.plates.get(p.id);
    shapeLike(p.metal, old?.metal);
    keepAsBefore(p, old);
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
    .map((b) => {
      const old = before?.bends.get(b.id);
      shapeLike(b.metal, old?.metal);
      keepAsBefore(b, old);
      return finishBend(b, labels.numberOf(b.id));
    })
    .sort((p, q) => p.number - q.number);
  const slits = draft.slits.map((s) => s.line);
  const sheet: Sheet = { t: draft.t, roots: draft.roots, plates, bends, slits };
  return { sheet: draft.roots.length > 1 ? spreadPieces(sheet, draft) : sheet, remarks };
}

const APART = 10;

/** Lays the pieces of a part side by side in the flat, none over another. */
function spreadPieces(sheet: Sheet, draft: SheetDraft): Sheet {
  const owner = new Map<string, number>();
  sheet.roots.forEach((root, i) => {
    const { plates, bends } = subtreeOf(draft, root.plate);
    for (const id of plates) owner.set(`plate ${id}`, i);
    for (const id of bends) owner.set(`bend ${id}`, i);
  });
  const boxes = sheet.roots.map(() => EMPTY_BOUNDS);
  const take = (i: number | undefined, regions: readonly Region[]) => {
    if (i !== undefined) for (const r of regions) boxes[i] = joinBounds(boxes[i], regionBounds(r));
  };
  for (const p of sheet.plates) take(owner.get(`plate ${p.id}`), p.regions);
  for (const b of sheet.bends) take(owner.get(`bend ${b.id}`), b.regions);
  let edge = boxes[0].maxX;
  const shifts = boxes.map((box, i) => {
    if (i === 0 || box.minX > box.maxX) return point(0, 0);
    const shift = point(edge + APART - box.minX, boxes[0].minY - box.minY);
    edge += APART + box.maxX - box.minX;
    return shift;
  });
  const isometries = shifts.map(translation);
  const of = (name: string) => isometries[owner.get(name) ?? 0];
  return {
    ...sheet,
    roots: sheet.roots.map((r, i) => ({
      plate: r.plate,
      place: compose(r.place, { ...STILL, o: [-shifts[i].x, -shifts[i].y, 0] }),
    })),
    plates: sheet.plates.map((p) => shiftPlate(p, of(`plate ${p.id}`))),
    bends: sheet.bends.map((b) => shiftBend(b, of(`bend ${b.id}`))),
    slits: draft.slits.map((s) => moveCurve(of(`plate ${s.owner}`), s.line) as Line),
  };
}

const still = (m: Isometry) => m.ox === 0 && m.oy === 0;

const shiftRegions = (m: Isometry, regions: readonly Region[]): Region[] =>
  regions.map((r) => ({ outer: moveLoop(m, r.outer), holes: r.holes.map((h) => moveLoop(m, h)) }));

const shiftPlate = (p: Plate, m: Isometry): Plate =>
  still(m)
    ? p
    : {
        ...p,
        frame: moveFrame(m, p.frame),
        edges: p.edges.map((e) => moveEdge(m, e)),
        regions: shiftRegions(m, p.regions),
      };

const shiftBend = (b: Bend, m: Isometry): Bend =>
  still(m) ? b : { ...b, origin: movePoint(m, b.origin), regions: shiftRegions(m, b.regions) };

/** A plate or bend that a step has made again just as it was is finished already. */
function keepAsBefore<T extends DraftPlate | DraftBend>(now: T, old: T | undefined): void {
  const known = old && finished.get(old);
  if (!known || now === old || finished.has(now)) return;
  if (shapeMetal(now.metal) !== shapeMetal(old.metal)) return;
  const rest = ({ metal: _metal, ...others }: T) => JSON.stringify(others);
  if (rest(now) === rest(old)) finished.set(now, known);
}

function finishPlate(p: DraftPlate, letter: string): Plate {
  const known = finished.get(p);
  if (known?.label === letter) return known.made as Plate;
  const { id, step, frame, edges } = p;
  const regions = nameRuns(edges, shapeMetal(p.metal).regions);
  const made: Plate = { id, step, letter, frame, box: ownBox(p), edges, regions };
  finished.set(p, { label: letter, made });
  return made;
}

/** Pieces of an edge that was cut in two carry the names that those pieces have. */
function nameRuns(edges: readonly EdgeSite[], regions: readonly Region[]): readonly Region[] {
  const cut = edges.filter((e) => e.role.includes("@"));
  if (cut.length === 0) return regions;
  const rename = (loop: Loop): Loop =>
    loop.map((c) => {
      if (c.kind !== "line" || !c.name) return c;
      const run = cut.find((e) => e.role.startsWith(`${c.name}@`) && liesOn(e, c));
      return run ? { ...c, name: run.role } : c;
    });
  return regions.map((r) => ({ outer: rename(r.outer), holes: r.holes.map(rename) }));
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
  const back = intoFrame(frame);
  let box = EMPTY_BOUNDS;
  for (const op of metal)
    if (op.kind === "add")
      for (const c of op.loops.flat()) box = joinBounds(box, curveBounds(moveCurve(back, c)));
  if (box.minX > box.maxX) return { x0: 0, y0: 0, x1: 0, y1: 0 };
  return { x0: box.minX, y0: box.minY, x1: box.maxX, y1: box.maxY };
}
