import { intersectLoops } from "../../plane/boolean.ts";
import { type Curve, curvesBounds, type Line, withTags } from "../../plane/curve.ts";
import { type Isometry, moveCurve, movePoint, STAY } from "../../plane/isometry.ts";
import { type Loop, loopsBounds } from "../../plane/loop.ts";
import { along, type Bounds, boundsMeet, dot, samePoint, subtract } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { mm } from "../../units/spoken-length.ts";
import {
  carriersFrom,
  type OpenDraft,
  type Refusal,
  reopen,
  type SheetDraft,
  slit,
  workMetal,
} from "../draft.ts";
import { movePiece } from "../draft-kinds.ts";
import { keyOf } from "../draft-piece-list.ts";
import type { DraftCarrier, DraftPiece, DraftPlate } from "../draft-pieces.ts";
import { edgeFrame, edgeLength, moveEdge } from "../edges.ts";
import { takenBy } from "../growing/site.ts";
import { changesEdges, cutFlat, flatWith } from "./cut-flat.ts";
import { metalBounds, shapeMetal } from "./metal.ts";
import type { Metal } from "./metal-op.ts";
import { copyOp, type FlatCutOp, isFlatCut, isParting, type MetalOp } from "./metal-op.ts";
import { refreshEdges } from "./refresh-edges.ts";

/** What some steps made: their own plates and what carries them, and what they did to others. */
export interface Making {
  readonly steps: ReadonlySet<string>;
  readonly plates: readonly string[];
  readonly carriers: readonly string[];
}

/** What lies between two states of a sheet, for the steps between them. */
export function makingOf(
  histories: readonly { readonly step: string; readonly before: SheetDraft; readonly after: SheetDraft }[],
  now: SheetDraft | OpenDraft,
): Making {
  const plates: string[] = [];
  const carriers: string[] = [];
  for (const { before, after } of histories)
    for (const piece of after.pieces)
      if (!before.pieces.now(piece) && now.pieces.now(piece))
        (piece.kind === "plate" ? plates : carriers).push(piece.id);
  return { steps: new Set(histories.map((h) => h.step)), plates, carriers };
}

/** Names of a copy's plates and edges. */
const copyName = (id: string, mark: string) => `${id}${mark}`;

/** Where a copy goes, and what is put behind the names of what it copies. */
export interface CopyPlace {
  readonly move: Isometry;
  readonly mark: string;
}

interface NumberedPlace extends CopyPlace {
  readonly place: number;
}

/**
 * Makes again, in other places of the same flat sheet, what some steps made: plates and bends are
 * copied with all that was done to them, cuts and additions on other plates are repeated there.
 * A place whose bend would have no edge to stand on is left out. Refused where a copy would stand in
 * something else, or where no place is left; the message then says which place it was.
 */
export function replicate(
  draft: OpenDraft,
  making: Making,
  places: readonly CopyPlace[],
  step: string,
): Copied | Refusal {
  if (making.plates.length + making.carriers.length === 0) {
    repeatWork(draft, making.steps, places, step);
    return { leftOut: 0 };
  }
  // Edges are read from the outline once all copies stand: one outline, not one for each copy.
  const touched = new Set<string>();
  const own = new Set(making.plates);
  const work = workOn(draft, making);
  const left: string[] = [];
  for (const [i, at] of places.entries()) {
    const missing = nothingUnder(draft, making, own, at.move);
    const problem = missing ?? copyTo(draft, making, work, { ...at, place: i + 1 }, step, touched);
    if (problem && (!missing || left.length + 1 === places.length))
      return { message: places.length > 1 ? `Place ${i + 2}: ${problem}` : problem };
    if (missing) left.push(missing);
  }
  for (const id of touched) refreshEdges(draft, id);
  return { leftOut: left.length };
}

/** What is repeated on one piece: where it goes in, and what goes behind all that was done. */
interface Repeating {
  readonly piece: DraftPiece;
  readonly own: readonly MetalOp[];
  readonly at: number;
  readonly inserted: MetalOp[];
  readonly appended: MetalOp[];
}

function repeating(piece: DraftPiece, steps: ReadonlySet<string>): Repeating {
  const { metal } = piece;
  const own = metal.filter((op) => steps.has(op.step) && isRepeated(op));
  const appended: MetalOp[] = [];
  const parted = insertionBefore(metal, steps);
  return parted === undefined
    ? { piece, own, at: metal.length, inserted: appended, appended }
    : { piece, own, at: parted, inserted: [], appended };
}

/**
 * Where nothing but work on metal that stands is repeated, that is done for all places in one go: a perforation of ten
 * thousand openings, on a plate or over bends that are held flat, does not look at the plate ten thousand times.
 * Place by place the same is done as by `copyTo`.
 */
function repeatWork(
  draft: OpenDraft,
  steps: ReadonlySet<string>,
  places: readonly CopyPlace[],
  step: string,
): void {
  const all = new Map([...draft.pieces].map((piece) => [keyOf(piece), repeating(piece, steps)]));
  const flat = flatWork(draft, steps);
  const touched = new Set<string>();
  places.forEach(({ move, mark }, i) => {
    const at: NumberedPlace = { move, mark, place: i + 1 };
    for (const { own, inserted } of all.values())
      for (const op of own) inserted.push(copyOfWork(op, at, step));
    for (const { op, always, meets } of flat) {
      const copy = copyOfFlatCut(op, at, step);
      const { loops } = copy;
      const met = meets(loopsBounds(loops));
      for (const piece of met) {
        all.get(keyOf(piece))!.appended.push(copy);
        if (piece.kind === "plate" && !touched.has(piece.id) && changesEdges(piece, loops))
          touched.add(piece.id);
      }
      if (always && !met.includes(always)) all.get(keyOf(always))!.appended.push(copy);
    }
  });
  for (const { piece, own, at, inserted, appended } of all.values()) {
    if (inserted.length + appended.length === 0) continue;
    const metal =
      inserted === appended
        ? [...piece.metal, ...appended]
        : [...piece.metal.slice(0, at), ...inserted, ...piece.metal.slice(at), ...appended];
    draft.pieces.put(own.length > 0 ? fitted({ ...piece, metal }) : { ...piece, metal });
    if (own.length > 0 && piece.kind === "plate") touched.add(piece.id);
  }
  const slits = draft.slits.filter((s) => steps.has(s.step));
  slit(
    draft,
    places.flatMap(({ move }) =>
      slits.map((s) => ({ owner: s.owner, step, line: moveCurve(move, s.line) as Line })),
    ),
  );
  for (const id of touched) refreshEdges(draft, id);
}

/** A cut through the flat sheet that is repeated, and what a copy of it can meet. */
interface FlatWork {
  readonly op: FlatCutOp;
  /** The plate that is cut in any case; none for what stands on a bend alone. */
  readonly always: DraftPlate | undefined;
  readonly meets: (box: Bounds) => readonly DraftPiece[];
}

/**
 * The cuts through the flat sheet of some steps. One that a later fold has parted stands on several plates that hang
 * together no more: it is repeated on each, and what it went over with the first that it goes over with.
 */
const flatWork = (draft: OpenDraft, steps: ReadonlySet<string>): FlatWork[] =>
  [...flatCutsOf(draft, steps)].map(([op, piece, together]) => ({
    op,
    always: piece.kind === "plate" ? piece : undefined,
    meets: meeting(together),
  }));

/** Each cut through the flat sheet of some steps once, plates before what they carry, with what it goes over together. */
function* flatCutsOf(
  draft: OpenDraft,
  steps: ReadonlySet<string>,
): Generator<[FlatCutOp, DraftPiece, readonly DraftPiece[]]> {
  const cut = new Map<readonly Loop[], Set<string>>();
  for (const piece of [...draft.pieces.plates(), ...draft.pieces.carriers()])
    for (const op of piece.metal.filter(isFlatCut)) {
      if (!steps.has(op.step)) continue;
      const done = cut.get(op.loops) ?? new Set<string>();
      cut.set(op.loops, done);
      if (done.has(keyOf(piece))) continue;
      const together =
        piece.kind === "plate" ? flatWith(draft, piece.id, (carrier) => op.over.has(carrier)) : [piece];
      for (const one of together) done.add(keyOf(one));
      yield [op, piece, together];
    }
}

/** Which of some pieces have metal whose box meets another. */
function meeting(pieces: readonly DraftPiece[]): (box: Bounds) => readonly DraftPiece[] {
  const boxes = pieces.map((piece) => ({ piece, box: metalBounds(piece.metal) }));
  return (box) => boxes.flatMap((one) => (boundsMeet(one.box, box) ? [one.piece] : []));
}

/** What came of repeating: how many places have no edge for what should stand on one. */
export interface Copied {
  readonly leftOut: number;
}

/** Why a copy's bends would stand on nothing; nothing when each has its edge. */
function nothingUnder(
  draft: OpenDraft,
  making: Making,
  own: ReadonlySet<string>,
  move: Isometry,
): string | undefined {
  for (const id of making.carriers) {
    const bend = draft.pieces.carrier(id)!;
    if (own.has(bend.parent) || !bend.grownOn) continue;
    const plate = draft.pieces.plate(bend.parent);
    if (plate && !edgeUnder(plate, movePiece(move, bend), bend))
      return "It would stand beside the edge that its bend needs. Make the pattern shorter, or turn it.";
  }
  return undefined;
}

/** Which pieces that are not copied themselves were worked on, and whether cuts went through the flat sheet. */
interface WorkedOn {
  readonly pieces: readonly DraftPiece[];
  readonly flat: boolean;
}

/** What is worked on is the same for every place: the copies are the copying step's doing. */
function workOn(draft: OpenDraft, { steps, plates, carriers }: Making): WorkedOn {
  const made = new Set([...plates, ...carriers]);
  const all = [...draft.pieces];
  const byThem = (test: (op: MetalOp) => boolean) => (piece: DraftPiece) =>
    piece.metal.some((op) => steps.has(op.step) && test(op));
  return {
    pieces: all.filter((p) => !made.has(p.id)).filter(byThem(isRepeated)),
    flat: all.some(byThem(isFlatCut)),
  };
}

function copyTo(
  draft: OpenDraft,
  making: Making,
  work: WorkedOn,
  at: NumberedPlace,
  step: string,
  touched: Set<string>,
): string | undefined {
  const { move, mark } = at;
  const own = new Set(making.plates);
  for (const worked of work.pieces) {
    const piece = draft.pieces.now(worked)!;
    draft.pieces.put(fitted({ ...piece, metal: repeated(piece.metal, making.steps, at, step) }));
    if (piece.kind === "plate") touched.add(piece.id);
  }
  if (work.flat) repeatFlatCuts(draft, making, at, step);
  for (const id of making.carriers) {
    const problem = copyCarrier(draft, draft.pieces.carrier(id)!, own, move, mark, step);
    if (problem) return problem;
  }
  for (const id of making.plates) {
    const moved = movePiece(move, draft.pieces.plate(id)!);
    const copy: DraftPlate = {
      ...moved,
      id: copyName(id, mark),
      step,
      metal: madeBy(moved.metal, mark, step),
    };
    // A mirrored plate's left and right trade places, as do their names.
    draft.pieces.put(move.flips ? swapSides(copy) : copy);
  }
  const slits = draft.slits.filter((s) => making.steps.has(s.step));
  slit(
    draft,
    slits.map((s) => ({
      owner: own.has(s.owner) ? copyName(s.owner, mark) : s.owner,
      step,
      line: moveCurve(move, s.line) as Line,
    })),
  );
  return undefined;
}

/** A fold across a plate is as wide as its strip: more metal there makes it wider. */
function fitted(piece: DraftPiece): DraftPiece {
  if (piece.kind === "plate" || piece.grownOn) return piece;
  const { origin, axis } = piece;
  const places = shapeMetal(piece.metal)
    .regions.flatMap((r) => r.outer)
    .map((c) => dot(subtract(c.a, origin), axis));
  if (places.length === 0) return piece;
  const from = Math.min(...places);
  return { ...piece, origin: along(origin, axis, from), width: Math.max(...places) - from };
}

/** A copy's metal is the copying step's doing, so that it is not copied once more. */
const madeBy = (metal: Metal, mark: string, step: string): Metal =>
  metal.map((op) => copyOp(op, { move: STAY, mark, step, renames: false }));

/**
 * Cuts through the flat sheet are made again as such: elsewhere they may meet other plates and bends. A
 * later fold has parted what they went through: each of its parts is cut, and its bend with them.
 */
function repeatFlatCuts(draft: OpenDraft, making: Making, at: NumberedPlace, step: string): void {
  // What a later fold has parted is one cut still: its parts have the same loops, and so have their copies.
  const copies = new Map<readonly Loop[], FlatCutOp>();
  for (const [op, piece] of flatCutsOf(draft, making.steps)) {
    const copy = copies.get(op.loops) ?? copyOfFlatCut(op, at, step);
    copies.set(op.loops, copy);
    if (piece.kind === "plate") cutFlat(draft, piece.id, [copy], { step, over: op.over });
    else workMetal(draft, { carrier: piece.id }, copy);
  }
}

/** Metal with what some steps did to it done again: at the end, but before a later step parts the plate. */
function repeated(metal: Metal, steps: ReadonlySet<string>, place: NumberedPlace, step: string): Metal {
  const copies = metal
    .filter((op) => steps.has(op.step) && isRepeated(op))
    .map((op) => copyOfWork(op, place, step));
  if (copies.length === 0) return metal;
  const at = insertionBefore(metal, steps) ?? metal.length;
  return [...metal.slice(0, at), ...copies, ...metal.slice(at)];
}

/** Where the first work stands that parts the metal after some steps worked on it; nothing where none does. */
function insertionBefore(metal: Metal, steps: ReadonlySet<string>): number | undefined {
  const first = metal.findIndex((op) => steps.has(op.step));
  const parted = metal.findIndex((op, i) => i > first && isParting(op));
  return first < 0 || parted < 0 ? undefined : parted;
}

/** Work done again in another place. */
function copyOfWork(op: MetalOp, { move, mark, place }: NumberedPlace, step: string): MetalOp {
  const copy = copyOp(op, { move, mark, step, renames: true });
  // What was cut for a bend stands or falls with the bend's copy.
  return op.bend === undefined ? { ...copy, place } : copy;
}

/** A cut through the flat sheet again, which is no notch of its own place any more. */
function copyOfFlatCut(op: FlatCutOp, { move, mark, place }: NumberedPlace, step: string): FlatCutOp {
  const { loops, feature } = copyOp(op, { move, mark, step, renames: true }) as FlatCutOp;
  return { kind: "cut", step, loops, over: op.over, place, ...(feature ? { feature } : {}) };
}

/** Work that is repeated on the metal it was done to: what parts a plate is not, cuts through the flat sheet go their own way. */
const isRepeated = (op: MetalOp): boolean => !isParting(op) && !isFlatCut(op);

function copyCarrier(
  draft: OpenDraft,
  bend: DraftCarrier,
  own: ReadonlySet<string>,
  move: Isometry,
  mark: string,
  step: string,
): string | undefined {
  const moved = movePiece(move, bend);
  const parent = own.has(bend.parent) ? copyName(bend.parent, mark) : bend.parent;
  const base = own.has(bend.parent) ? undefined : edgeUnder(draft.pieces.plate(parent), moved, bend);
  const on = own.has(bend.parent) ? flippedOn(draft, bend, move) : base && { grownOn: base };
  if (!own.has(bend.parent)) {
    const plate = draft.pieces.plate(parent);
    if (!plate || !bend.grownOn)
      return "A fold across a plate cannot be repeated on that plate: only what stands on an edge can.";
    const taken = base && takenBy(draft, plate, { role: base.role }, base.from, base.to);
    if (taken)
      return `It would stand on a flange that takes its edge from ${mm(taken.from)} to ${mm(taken.to)} already; it needs ${mm(base.from)} to ${mm(base.to)}. Set the copies further apart.`;
  }
  draft.pieces.put({
    ...moved,
    metal: madeBy(moved.metal, mark, step),
    id: copyName(bend.id, mark),
    child: copyName(bend.child, mark),
    parent,
    step,
    overhang: move.flips ? endsSwapped(bend) : bend.overhang,
    ...on,
  });
  return undefined;
}

/** The edge that a copied bend stands on: one with the same outside, as far before the bend's root. */
function edgeUnder(
  plate: DraftPlate | undefined,
  moved: DraftCarrier,
  bend: DraftCarrier,
): DraftCarrier["grownOn"] {
  if (!plate || !bend.grownOn) return undefined;
  const { setback } = bend.grownOn;
  for (const edge of plate.edges) {
    if (dot(edge.out, moved.out) < 1 - 1e-9) continue;
    const frame = edgeFrame(edge);
    const d = subtract(moved.origin, edge.left);
    if (Math.abs(dot(d, edge.out) + setback) > 1e-6) continue;
    const from = dot(d, frame.x);
    if (from < -1e-6 || from + moved.width > edgeLength(edge) + 1e-6) continue;
    return { role: edge.role, from, to: from + moved.width, setback };
  }
  return undefined;
}

/** Places along a mirrored edge count from its other end. */
function flippedOn(draft: OpenDraft, bend: DraftCarrier, move: Isometry): Pick<DraftCarrier, "grownOn"> {
  const on = bend.grownOn;
  if (!on) return {};
  if (!move.flips) return { grownOn: on };
  const edge = draft.pieces.plate(bend.parent)?.edges.find((e) => e.role === on.role);
  const length = edge ? edgeLength(edge) : on.to;
  return { grownOn: { ...on, role: swapName(on.role), from: length - on.to, to: length - on.from } };
}

const endsSwapped = ({ overhang }: DraftCarrier): DraftCarrier["overhang"] => ({
  left: overhang.right,
  right: overhang.left,
});

const swapName = (role: string): string => (role === "left" ? "right" : role === "right" ? "left" : role);

function swapSides(plate: DraftPlate): DraftPlate {
  const swap = (c: Curve): Curve =>
    c.name === undefined ? c : withTags(c, { name: swapName(c.name), feature: c.feature });
  return {
    ...plate,
    edges: plate.edges.map((e) => ({ ...e, role: swapName(e.role) })),
    metal: plate.metal.map((op) => ({ ...op, loops: op.loops.map((loop) => loop.map(swap)) })),
  };
}

/** Turns every piece of the sheet into its mirror image: the other hand, under the same names. */
export function mirrorWhole(draft: OpenDraft, move: Isometry): void {
  // Where a carrier stands is counted along its edge as that was.
  const before = reopen(draft);
  for (const piece of before.pieces) {
    const moved = movePiece(move, piece);
    if (moved.kind === "plate") draft.pieces.put(swapSides(moved));
    else draft.pieces.put({ ...moved, ...flippedOn(before, moved, move), overhang: endsSwapped(moved) });
  }
  draft.slits = draft.slits.map((s) => ({ ...s, line: moveCurve(move, s.line) as Line }));
  draft.roots = draft.roots.map((r) => ({ ...r, place: mirrorMotion(r.place, move) }));
}

/** A motion in space seen in the mirror: M·P·M, M being the mirroring of the plane led on into space. */
function mirrorMotion(place: OpenDraft["roots"][number]["place"], m: Isometry): typeof place {
  const direction = (v: readonly [number, number, number]): [number, number, number] => [
    m.xx * v[0] + m.xy * v[1],
    m.yx * v[0] + m.yy * v[1],
    v[2],
  ];
  const origin = movePoint(m, { x: 0, y: 0 });
  const column = (a: number, b: number, c: number): [number, number, number] =>
    direction([
      place.x[0] * a + place.y[0] * b + place.z[0] * c,
      place.x[1] * a + place.y[1] * b + place.z[1] * c,
      place.x[2] * a + place.y[2] * b + place.z[2] * c,
    ]);
  const x = column(m.xx, m.yx, 0);
  const y = column(m.xy, m.yy, 0);
  const z = column(0, 0, 1);
  const o = [
    place.x[0] * origin.x + place.y[0] * origin.y + place.o[0],
    place.x[1] * origin.x + place.y[1] * origin.y + place.o[1],
    place.x[2] * origin.x + place.y[2] * origin.y + place.o[2],
  ] as const;
  const turned = direction(o);
  return { x, y, z, o: [turned[0] + m.ox, turned[1] + m.oy, turned[2]] };
}

/**
 * Doubles a plate and all that hangs on it over a line in its plane: the plate itself grows by its
 * mirror image, its flanges are made again on that side.
 */
export function mirrorJoined(
  draft: OpenDraft,
  plateId: string,
  move: Isometry,
  mark: string,
  step: string,
): string[] {
  const plate = draft.pieces.plate(plateId)!;
  const made: string[] = [];
  const below = [...carriersFrom(draft, plateId)];
  for (const b of below) below.push(...carriersFrom(draft, b.child));
  const own = new Set(below.map((b) => b.child));
  const withRoot = new Set([...own, plateId]);
  const image = imageOf(plate.metal, move, mark, step);
  const edges = plate.edges
    .filter((e) => !onMirror(e, move))
    .flatMap((e) => [e, { ...moveEdge(move, e), role: copyName(e.role, mark) }]);
  draft.pieces.put({ ...plate, edges, metal: [...plate.metal, ...image] });
  for (const b of below) {
    copyCarrier(draft, b, withRoot, move, mark, step);
    if (b.parent !== plateId) continue;
    const id = copyName(b.id, mark);
    draft.pieces.put({ ...draft.pieces.carrier(id)!, parent: plateId });
    if (b.grownOn) {
      const edge = plate.edges.find((e) => e.role === b.grownOn!.role);
      const length = edge ? edgeLength(edge) : b.grownOn.to;
      const { from, to, setback, role } = b.grownOn;
      draft.pieces.put({
        ...draft.pieces.carrier(id)!,
        grownOn: { role: copyName(role, mark), from: length - to, to: length - from, setback },
      });
    }
  }
  for (const id of own) {
    const moved = movePiece(move, draft.pieces.plate(id)!);
    const copy = swapSides({
      ...moved,
      id: copyName(id, mark),
      step,
      metal: madeBy(moved.metal, mark, step),
    });
    draft.pieces.put(copy);
    made.push(copy.id);
  }
  slit(
    draft,
    draft.slits
      .filter((s) => s.owner === plateId || own.has(s.owner))
      .map((s) => ({
        owner: own.has(s.owner) ? copyName(s.owner, mark) : plateId,
        step,
        line: moveCurve(move, s.line) as Line,
      })),
  );
  refreshEdges(draft, plateId);
  return made;
}

/**
 * What is done again to the metal of a plate that is joined to its mirror image. Each half is cut by its own cuts
 * only: one that runs over the line ends there.
 */
function imageOf(metal: Metal, move: Isometry, mark: string, step: string): MetalOp[] {
  const ops = metal.map((op) => copyOp(op, { move, mark, step, renames: true }));
  const half = ops.flatMap((op) => (op.kind === "add" ? op.loops : []));
  const other = metalBounds(metal);
  return ops.flatMap((op) => {
    if (op.kind !== "cut" || !boundsMeet(curvesBounds(op.loops.flat()), other)) return [op];
    const loops = intersectLoops(op.loops, half).flatMap(regionLoops);
    return loops.length > 0 ? [{ ...op, loops }] : [];
  });
}

const onMirror = (e: { left: { x: number; y: number }; right: { x: number; y: number } }, m: Isometry) =>
  samePoint(movePoint(m, e.left), e.left, 1e-6) && samePoint(movePoint(m, e.right), e.right, 1e-6);
