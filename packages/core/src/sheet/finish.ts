import { comesAfter, Kept } from "../kept.ts";
import { intersectLoops } from "../plane/boolean.ts";
import { curveBounds, curvesBounds, type Line } from "../plane/curve.ts";
import { type Isometry, intoFrame, moveCurve, translation } from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { type Bounds, EMPTY_BOUNDS, type Frame, joinBounds, point, sameFrame } from "../plane/point.ts";
import { type Region, regionArea, regionBounds, regionLoops } from "../plane/region.ts";
import { compose, STILL } from "../space/vector.ts";
import { sameValue } from "../values.ts";
import { carriersFrom, carrierTo, type SheetDraft, subtreeOf } from "./draft.ts";
import { finishCarrier, linesOf } from "./draft-kinds.ts";
import type { DraftPieceName } from "./draft-piece-list.ts";
import type { DraftCarrier, DraftPlate } from "./draft-pieces.ts";
import { type Feature, featureIn, moveFeature, type PieceName } from "./feature.ts";
import type { Plate } from "./pieces/flat-pieces.ts";
import { kindOf } from "./pieces/piece-kinds.ts";
import { middleOfPlate } from "./plate-middle.ts";
import type { Labels, SheetRemark } from "./remarks.ts";
import { formedOut, formedRemarks } from "./shaping/formed-out.ts";
import {
  type CopyFate,
  type CutFate,
  type MetalRemark,
  marksOn,
  shapeLike,
  shapeMetal,
} from "./shaping/metal.ts";
import type { Metal } from "./shaping/metal-op.ts";
import { type AddOp, isFlatCut, isRelief, type ReliefOp } from "./shaping/metal-op.ts";
import { nameRuns } from "./shaping/refresh-edges.ts";
import { ribsOf } from "./shaping/ribs.ts";
import type { Carrier, Piece, Sheet } from "./sheet.ts";

// A plate or bend that no step has touched since the last build is the very same one.
/** What a finished plate hangs on besides its draft: its letter, and the bend that it is the leg of. */
interface PlateAround {
  readonly letter: string;
  readonly bend: DraftCarrier | undefined;
}

const sameAround = (p: PlateAround, q: PlateAround): boolean =>
  p.letter === q.letter &&
  (p.bend === q.bend ||
    (p.bend !== undefined &&
      q.bend !== undefined &&
      sameValue(linesOf(p.bend).child, linesOf(q.bend).child)));

const finishedPlates = new Kept(finishPlate, sameAround);
const finishedCarriers = new Kept(finishCarrier);

/**
 * The sheet that steps have made, outlines worked out, with what is to be said about its cuts. What
 * is as it was in the draft `before` keeps its outline.
 */
export function finishSheet(
  draft: SheetDraft,
  labels: Labels,
  before?: SheetDraft,
): { sheet: Sheet; remarks: readonly SheetRemark[] } {
  const remarks: SheetRemark[] = [];
  const copies: CopyFate[] = [];
  const plates = draft.pieces.plates().map((p) => {
    const old = before?.pieces.plate(p.id);
    shapeLike(p.metal, old?.metal);
    comesAfter(p.metal, old?.metal);
    if (old) finishedPlates.like(p, old, () => sameAsBefore(p, old));
    const made = finishedPlates.of(p, { letter: labels.letterOf(p.id), bend: carrierTo(draft, p.id) });
    if (old) comesAfter(made, finishedPlates.known(old));
    const shape = shapeMetal(p.metal);
    remarks.push(...cutRemarks(shape.remarks).map((r) => ({ ...r, plate: p.id })));
    copies.push(...shape.copies);
    if (made.regions.length > 1) {
      const message = `The cuts on plate ${made.letter} leave it in ${made.regions.length} pieces. Make reliefs or holes smaller, or move them.`;
      remarks.push({ step: p.metal[p.metal.length - 1].step, message, plate: p.id });
    }
    // What an opening takes away as a whole is no part any more: a cut that was meant leaves something.
    const last = made.regions.length === 0 ? p.metal.findLast(isFlatCut) : undefined;
    if (last) {
      const message = `Nothing is left of plate ${made.letter}: its cuts take all of it. Make them smaller, or move them.`;
      remarks.push({ step: last.step, message, plate: p.id });
    }
    return made;
  });
  const carriers = draft.pieces
    .carriers()
    .map((b) => {
      const old = before?.pieces.carrier(b.id);
      shapeLike(b.metal, old?.metal);
      if (old) finishedCarriers.like(b, old, () => sameAsBefore(b, old));
      copies.push(...shapeMetal(b.metal).copies);
      return finishedCarriers.of(b, labels.numberOf(b.id));
    })
    .sort((p, q) => numberIn(p) - numberIn(q));
  const bends = carriers.filter((c) => c.kind === "bend");
  remarks.push(...copyRemarks(copies), ...reliefRemarks(draft, labels));
  const slits = draft.slits.map((s) => s.line);
  const formed = plates.flatMap((plate) => formedOut.of(plate, draft.pieces.plate(plate.id)!.metal));
  remarks.push(...formedRemarks(draft, formed, labels));
  const byId = new Map(plates.map((p) => [p.id, p]));
  const pressed = bends.map((bend) => ribsOf(bend, draft.pieces.carrier(bend.id)!.metal, byId, labels));
  remarks.push(...pressed.flatMap((p) => p.remarks));
  const ribs = pressed.flatMap((p) => p.ribs);
  const pieces = [...plates, ...carriers, ...formed.flatMap(({ piece }) => piece ?? []), ...ribs];
  const sheet: Sheet = {
    t: draft.t,
    roots: draft.roots,
    pieces,
    slits,
    features: featuresIn(draft, [...plates, ...carriers]),
  };
  return { sheet: draft.roots.length > 1 ? spreadPieces(sheet, draft) : sheet, remarks };
}

const madeIn = new Kept((metal: Metal) => metal.flatMap((op) => op.feature ?? []));

/** The name in the draft of what a piece of the finished sheet was made from. */
const draftName = ({ kind, id }: Plate | Carrier): DraftPieceName =>
  kind === "plate" ? { plate: id } : { carrier: id };

/** A feature in the piece that has it now. */
const placed = new Kept((f: Feature, piece: PieceName) => featureIn(f, piece));

/** The names of the features that bound the metal of a piece, or are marked on it. */
const boundBy = new Kept(
  ({ regions, marks }: Plate | Carrier) =>
    new Set([...regions.flatMap(regionLoops).flat(), ...marks].map(({ feature }) => feature)),
);

/**
 * All features of a draft, each once. An opening may go over several pieces, and a plate that was divided has handed it on:
 * it stands in the one where its step made it, or in the first that it still bounds.
 */
function featuresIn(draft: SheetDraft, pieces: readonly (Plate | Carrier)[]): readonly Feature[] {
  const made = pieces.flatMap((piece) => {
    const { metal } = draft.pieces.named(draftName(piece))!;
    const features = madeIn.of(metal);
    return features.length > 0 ? [{ piece, features }] : [];
  });
  const at = (f: Feature, { kind, id }: Plate | Carrier): Feature => placed.of(f, `${kind}:${id}`);
  // Mostly they are where their steps made them: then it is the very same list as before.
  if (made.length === 1) {
    const [{ piece, features }] = made;
    const name: PieceName = `${piece.kind}:${piece.id}`;
    return features.every((f) => f.piece === name) ? features : features.map((f) => at(f, piece));
  }
  const holders = new Map<string, { readonly f: Feature; readonly in: (Plate | Carrier)[] }>();
  for (const { piece, features } of made)
    for (const f of features) {
      const known = holders.get(f.id);
      if (known) known.in.push(piece);
      else holders.set(f.id, { f, in: [piece] });
    }
  return [...holders.values()].map(({ f, in: list }) => {
    if (list.length === 1) return at(f, list[0]);
    const holding = list.filter((piece) => boundBy.of(piece).has(f.id));
    const own = holding.find(({ kind, id }) => f.piece === `${kind}:${id}`);
    return at(f, own ?? holding[0] ?? list[0]);
  });
}

/** So many cuts of a step with one fate are told one by one; more of them in one sentence. */
const MOST_TOLD = 3;

const FATES: Readonly<Record<CutFate, { one: string; many: string }>> = {
  outside: {
    one: "lies outside the plate and cuts nothing.",
    many: "lie outside the plate and cut nothing",
  },
  "over-edge": {
    one: "runs over the edge of the plate. Bends are not cut by it.",
    many: "run over the edge of the plate; bends are not cut by them",
  },
  joins: {
    one: "runs into another hole: they become one opening.",
    many: "run into others and become one opening with them",
  },
};

/** What is to be said about the cuts on one plate. */
function cutRemarks(found: readonly MetalRemark[]): SheetRemark[] {
  const groups = new Map<string, MetalRemark[]>();
  for (const r of found) {
    const key = `${r.step} ${r.fate}`;
    groups.set(key, [...(groups.get(key) ?? []), r]);
  }
  return [...groups.values()].flatMap((group) => {
    const { step, fate } = group[0];
    if (group.length <= MOST_TOLD)
      return group.map(({ title }) => ({ step, message: `${title} ${FATES[fate].one}` }));
    const message = `${group.length} cuts ${FATES[fate].many}. ${group[0].title} is the first of them.`;
    return [{ step, message }];
  });
}

/** Of a step that repeats cuts: how many of its places have metal, when some have none. */
function copyRemarks(copies: readonly CopyFate[]): SheetRemark[] {
  const bySteps = new Map<string, Map<number, boolean>>();
  for (const { step, place, stands } of copies) {
    const places = bySteps.get(step) ?? new Map<number, boolean>();
    bySteps.set(step, places.set(place, stands || (places.get(place) ?? false)));
  }
  return [...bySteps].flatMap(([step, places]) => {
    const gone = [...places.values()].filter((stands) => !stands).length;
    if (gone === 0) return [];
    const total = places.size + 1;
    const message = `${total - gone} of ${total} stand; ${gone} ${gone === 1 ? "has" : "have"} no metal to cut. Make the pattern shorter, or what it stands on larger.`;
    return [{ step, message }];
  });
}

/** Notches beside one bend that reach into the metal of another: that one would tear, or turn on less than it should. */
function reliefRemarks(draft: SheetDraft, { numberOf }: Labels): SheetRemark[] {
  return draft.pieces.plates().flatMap((plate) => {
    const reliefs = reliefsIn.of(plate.metal).filter((op) => draft.pieces.carrier(op.bend) !== undefined);
    if (reliefs.length === 0) return [];
    const bends = [carrierTo(draft, plate.id), ...carriersFrom(draft, plate.id)].flatMap((b) => b ?? []);
    const strips = new NearCurves(bends.map((bend, nth) => ({ nth, bend, ...stripOf.of(bend.metal) })));
    return reliefs.flatMap((op) => {
      const [hit] = strips
        .near(boxOfWork.of(op))
        .sort((p, q) => p.nth - q.nth)
        .filter(({ bend, loops }) => bend.id !== op.bend && runsInto.of(op, loops));
      if (!hit) return [];
      const message = `The ${op.relief} relief of bend ${numberOf(op.bend)} runs into bend ${numberOf(hit.bend.id)}. Make it shallower or narrower, or set the two bends further apart.`;
      return [{ step: op.step, message, plate: plate.id }];
    });
  });
}

const reliefsIn = new Kept((metal: Metal) => metal.filter(isRelief));

const boxOfWork = new Kept((op: ReliefOp) => curvesBounds(op.loops.flat()));

/** The outline of a bend's strip. */
const stripOf = new Kept((metal: Metal) => {
  const loops = shapeMetal(metal).regions.flatMap(regionLoops);
  return { loops, box: curvesBounds(loops.flat()) };
});

const runsInto = new Kept((op: ReliefOp, loops: readonly Loop[]) =>
  intersectLoops(op.loops, loops).some((r) => regionArea(r) > LEAST_CUT),
);

/** So much of a strip (mm²) must be cut before it counts: borders that only touch share a hair. */
const LEAST_CUT = 1e-4;

const APART = 10;

/** What a piece lies with in the flat: a formed one with its host. */
const ownName = (p: Piece) => ("host" in p ? `plate:${p.host}` : `${p.kind}:${p.id}`);

const isStill = (shift: Isometry): boolean => shift.ox === 0 && shift.oy === 0;

/** Bends come in the order of their numbers, what has none after them. */
const numberIn = (carrier: Carrier): number =>
  carrier.kind === "bend" ? carrier.number : Number.POSITIVE_INFINITY;

/** Lays the pieces of a part side by side in the flat, none over another. */
function spreadPieces(sheet: Sheet, draft: SheetDraft): Sheet {
  const owner = new Map<string, number>();
  sheet.roots.forEach((root, i) => {
    for (const piece of subtreeOf(draft, root.plate)) owner.set(`${piece.kind}:${piece.id}`, i);
  });
  const boxes = sheet.roots.map(() => EMPTY_BOUNDS);
  const take = (i: number | undefined, regions: readonly Region[]) => {
    if (i !== undefined) for (const r of regions) boxes[i] = joinBounds(boxes[i], regionBounds(r));
  };
  for (const p of sheet.pieces) take(owner.get(ownName(p)), kindOf(p).regions(p));
  // The first piece that has metal stays where it is; one without has no place of its own.
  const first = boxes.find((box) => box.minX <= box.maxX);
  let edge = first?.maxX ?? 0;
  const shifts = boxes.map((box) => {
    if (!first || box === first || box.minX > box.maxX) return point(0, 0);
    const shift = point(edge + APART - box.minX, first.minY - box.minY);
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
    pieces: sheet.pieces.map((p) => {
      const m = of(ownName(p));
      return isStill(m) ? p : kindOf(p).moved(p, m);
    }),
    slits: draft.slits.map((s) => moveCurve(of(`plate:${s.owner}`), s.line) as Line),
    features: sheet.features.map((f) => {
      const m = of(f.piece);
      return isStill(m) ? f : moveFeature(m, f);
    }),
  };
}

/** Whether a step has made a plate or bend again just as it was. */
function sameAsBefore<T extends DraftPlate | DraftCarrier>(now: T, old: T): boolean {
  if (shapeMetal(now.metal) !== shapeMetal(old.metal)) return false;
  // That its metal is shaped alike has just been seen.
  return sameValue({ ...now, metal: undefined }, { ...old, metal: undefined });
}

function finishPlate(p: DraftPlate, { letter, bend }: PlateAround): Plate {
  const { id, step, frame, edges } = p;
  const { regions: shaped } = shapeMetal(p.metal);
  const regions = nameRuns(edges, shaped);
  return {
    kind: "plate",
    id,
    step,
    letter,
    frame,
    box: ownBox(p),
    middle: middleOfPlate(p, bend),
    edges,
    regions,
    marks: marksOn(p.metal, shaped),
  };
}

/** The box of an addition, in the plate's own frame. */
const addedBox = new Kept((op: AddOp, frame: Frame): Bounds => {
  const back = intoFrame(frame);
  return op.loops.flat().reduce((box, c) => joinBounds(box, curveBounds(moveCurve(back, c))), EMPTY_BOUNDS);
}, sameFrame);

/** The extent of a plate in its own frame before cuts. */
function ownBox({ metal, frame }: DraftPlate): Plate["box"] {
  let box = EMPTY_BOUNDS;
  for (const op of metal) if (op.kind === "add") box = joinBounds(box, addedBox.of(op, frame));
  if (box.minX > box.maxX) return { x0: 0, y0: 0, x1: 0, y1: 0 };
  return { x0: box.minX, y0: box.minY, x1: box.maxX, y1: box.maxY };
}
