import { intersectLoops, subtractLoops } from "../../plane/boolean.ts";
import { curvesBounds, pointAt } from "../../plane/curve.ts";
import { type Loop, loopFromFrame, rectangleLoop } from "../../plane/loop.ts";
import {
  along,
  type Bounds,
  dot,
  type Frame,
  hypotenuse,
  type Point,
  point,
  SAME,
  scale,
  subtract,
} from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import { commonSpans, type Span, spansInside, spansLength } from "../../plane/span.ts";
import { mm } from "../../units/spoken-length.ts";
import { carriersFrom, carrierTo, type OpenDraft, type Refusal } from "../draft.ts";
import { legWay, linesOf } from "../draft-kinds.ts";
import type { DraftCarrier, DraftPlate } from "../draft-pieces.ts";
import type { EdgeSite } from "../pieces/flat-pieces.ts";
import { metalBounds, shapeMetal } from "./metal.ts";
import type { Metal } from "./metal-op.ts";
import { untitled } from "./metal-op.ts";

/**
 * A band across a plate, in developed coordinates: it begins on the line through `origin` along
 * `axis` and reaches `width` to the left of it, where the side that moves begins.
 */
export interface Band {
  readonly origin: Point;
  readonly axis: Point;
  readonly width: number;
  /** Only where the band's line runs from `from` to `to`, counted from `origin`; cuts must end it there. */
  readonly limit?: { readonly from: number; readonly to: number };
}

/** What became of a plate: the side that stays has kept its name. */
export interface Division {
  readonly band: Band;
  /** Whether the plate's own bend stands on the side that was to move: then the other side moved. */
  readonly turned: boolean;
  /** The band's own metal. */
  readonly strip: Metal;
  /** From where to where along the band's line its metal reaches. */
  readonly from: number;
  readonly to: number;
}

/** A band seen from the other side. */
export const turnBand = (b: Band): Band => ({
  origin: along(b.origin, { x: -b.axis.y, y: b.axis.x }, b.width),
  axis: scale(b.axis, -1),
  width: b.width,
  ...(b.limit ? { limit: { from: -b.limit.to, to: -b.limit.from } } : {}),
});

const FIXED = 0;
const MOVING = 1;
const STRIP = 2;
type Side = typeof FIXED | typeof MOVING | typeof STRIP;

/**
 * Divides a plate along a band. The plate keeps the side that stays; a new plate `id` takes the side
 * that moves, with the bends and edges there. The band's metal is given back.
 */
export function dividePlate(
  draft: OpenDraft,
  plateId: string,
  asked: Band,
  made: { readonly id: string; readonly step: string },
  names: { readonly letter: string; readonly numberOf: (bend: string) => number; readonly band: string },
): Division | Refusal {
  const { letter } = names;
  const plate = draft.pieces.plate(plateId)!;
  if (shapeMetal(plate.metal).regions.length === 0)
    return { field: "from", message: `Plate ${letter} has no metal of its own to draw a line on.` };
  const own = carrierTo(draft, plateId);
  const rootMoves = own && offset(asked, legMiddle(own)) > asked.width / 2;
  const whole = rootMoves ? turnBand(asked) : asked;
  const pieces = cutPieces(plate, whole);
  const band = names.band === "bend" ? withoutStubs(whole, pieces) : whole;
  const sides = assign(pieces, band, letter, names.band);
  if ("message" in sides) return sides;
  const crossed = carriersFrom(draft, plateId).find((b) => crosses(b, sides.sideAt));
  if (crossed)
    return {
      field: "distance",
      message: `The line runs across bend ${names.numberOf(crossed.id)}, which stands on plate ${letter}. Move it clear of that bend, or put this step before it.`,
    };
  const { strip, from, to } = share(draft, plate, band, sides, made);
  return { band, turned: Boolean(rootMoves), strip, from, to };
}

/** How far beyond a band's line a point lies, toward the side that moves. */
const offset = (band: Band, p: Point) => {
  const d = subtract(p, band.origin);
  return band.axis.x * d.y - band.axis.y * d.x;
};

/** A place just within the plate that a carrier carries, in the middle of where that begins. */
function legMiddle(carrier: DraftCarrier): Point {
  const { origin, axis, width } = linesOf(carrier).child;
  return along(along(origin, axis, width / 2), legWay(carrier), 1e-4);
}
const rootMiddle = (b: DraftCarrier): Point => along(along(b.origin, b.axis, b.width / 2), b.out, -1e-4);

const frameOf = (band: Band): Frame => ({ origin: band.origin, x: band.axis });

interface Pieces {
  readonly fixed: readonly Region[];
  readonly moving: readonly Region[];
  readonly strips: readonly Region[];
  readonly reach: number;
}

/** How far a band's half planes must reach to hold a plate. */
function reachOver(bounds: Bounds, band: Band): number {
  const corners = [bounds.minX, bounds.maxX].flatMap((x) =>
    [bounds.minY, bounds.maxY].map((y) => hypotenuse(x - band.origin.x, y - band.origin.y)),
  );
  return Math.max(...corners) + band.width + 10;
}

const stretch = (band: Band, from: number, to: number, reach: number): Loop =>
  loopFromFrame(frameOf(band), rectangleLoop(-reach, from, reach, to));

function cutPieces(plate: DraftPlate, band: Band): Pieces {
  const reach = reachOver(metalBounds(plate.metal), band);
  const loops = shapeMetal(plate.metal).regions.flatMap(regionLoops);
  return {
    fixed: intersectLoops(loops, [stretch(band, -reach, 0, reach)]),
    moving: intersectLoops(loops, [stretch(band, band.width, reach, reach)]),
    strips: band.width > SAME ? intersectLoops(loops, [stretch(band, 0, band.width, reach)]) : [],
    reach,
  };
}

/**
 * A bend turns the metal that goes on through it from one side to the other. What reaches into its band
 * from one side and ends there, as the shoulders beside a tongue, stays with that side: the band is then
 * limited to what goes through. Sides that only slant go through.
 */
function withoutStubs(band: Band, { strips }: Pieces): Band {
  if (band.limit || band.width <= SAME || strips.length === 0) return band;
  const loops = strips.flatMap(regionLoops);
  const y = { x: -band.axis.y, y: band.axis.x };
  const near = spansInside(loops, band.origin, scale(band.axis, -1)).map(([a, b]): Span => [-b, -a]);
  const far = spansInside(loops, along(band.origin, y, band.width), band.axis);
  const through = commonSpans(near, far);
  if (through.length === 0) return band;
  const places = through.flat();
  const limit = { from: Math.min(...places), to: Math.max(...places) };
  const reach = reachOver(curvesBounds(strips.flatMap((s) => s.outer)), band);
  const beside = [
    rectangleLoop(-reach, -1, limit.from, band.width + 1),
    rectangleLoop(limit.to, -1, reach, band.width + 1),
  ].map((l) => loopFromFrame(frameOf(band), l));
  const stub = (r: Region): boolean => {
    const depths = r.outer.flatMap((c) => [c.a, pointAt(c, 0.5)]).map((p) => offset(band, p));
    const [low, high] = [Math.min(...depths), Math.max(...depths)];
    return low > SAME * 10 || high < band.width - SAME * 10;
  };
  return intersectLoops(loops, beside).some(stub) ? { ...band, limit } : band;
}

interface Sides {
  readonly reach: number;
  /** Which side a place of the plate's metal belongs to. */
  readonly sideAt: (p: Point) => Side;
  /** Loops of each side, when the band is limited and half planes will not do. */
  readonly loops?: Readonly<Record<Side, readonly Loop[]>>;
}

function assign(pieces: Pieces, band: Band, letter: string, called: string): Sides | Refusal {
  const { fixed, moving, strips, reach } = pieces;
  const field = "distance";
  if (fixed.length === 0 && moving.length === 0)
    return { field, message: `The line does not touch plate ${letter}. Move it onto the plate.` };
  if (fixed.length === 0 || moving.length === 0) {
    const side = fixed.length === 0 ? "before" : "beyond";
    return {
      field,
      message: `Nothing of plate ${letter} is left ${side} the line: it lies outside the plate, or its ${called} of ${mm(band.width)} takes all that is there. Move it further onto the plate.`,
    };
  }
  if (band.width > SAME && strips.length === 0)
    return {
      field,
      message: `There is no metal of plate ${letter} under the line: it runs where an opening is. Move it.`,
    };
  if (!band.limit) {
    const sideAt = (p: Point): Side => {
      const d = offset(band, p);
      if (d <= band.width / 2 && d < SAME * 10) return FIXED;
      return d > band.width - SAME * 10 ? MOVING : STRIP;
    };
    return { reach, sideAt };
  }
  return assignLimited({ fixed, moving, strips, reach }, band, letter);
}

/** Where along the band's line an area touches it, from one side or the other, at a depth. */
function touches(region: Region, band: Band, depth: number, above: boolean) {
  const at = along(band.origin, { x: -band.axis.y, y: band.axis.x }, depth);
  const loops = regionLoops(region);
  if (!above) return spansInside(loops, at, band.axis);
  return spansInside(loops, at, scale(band.axis, -1)).map(([a, b]) => [-b, -a] as const);
}

/** With a limit, what is beyond the line moves only where cuts part it from the rest. */
function assignLimited(
  { fixed, moving, strips, reach }: Pieces,
  band: Band,
  letter: string,
): Sides | Refusal {
  const limit = band.limit!;
  // Metal beside the limit stays where it hangs: the bend is no wider than its line.
  const loopsOf = (list: readonly Region[]) => list.flatMap(regionLoops);
  const within = loopFromFrame(frameOf(band), rectangleLoop(limit.from, -1, limit.to, band.width + 1));
  const chosen = intersectLoops(loopsOf(strips), [within]).filter((s) => {
    const spans = touches(s, band, band.width / 2, true);
    return spansLength(commonSpans(spans, [[limit.from, limit.to]])) > SAME;
  });
  if (chosen.length === 0)
    return { field: "from", message: `Between its ends the line does not touch plate ${letter}.` };
  const rest = subtractLoops(loopsOf(strips), loopsOf(chosen));
  const meet = (lower: Region, upper: Region, depth: number) =>
    spansLength(commonSpans(touches(lower, band, depth, false), touches(upper, band, depth, true))) > SAME;
  const nodes = [...fixed, ...rest, ...moving];
  const joined = (a: Region, b: Region): boolean => {
    const kinds = [a, b].map((r) => (fixed.includes(r) ? 0 : rest.includes(r) ? 1 : 2));
    if (kinds[0] > kinds[1]) return joined(b, a);
    if (kinds[0] === 0 && kinds[1] === 1) return meet(a, b, 0);
    if (kinds[0] === 1 && kinds[1] === 2) return meet(a, b, band.width);
    return false;
  };
  const flood = (start: Region[]): Set<Region> => {
    const seen = new Set(start);
    const queue = [...start];
    for (let at = queue.pop(); at; at = queue.pop())
      for (const n of nodes)
        if (!seen.has(n) && joined(at, n)) {
          seen.add(n);
          queue.push(n);
        }
    return seen;
  };
  const mover = flood(moving.filter((m) => chosen.some((c) => meet(c, m, band.width))));
  if (fixed.some((f) => mover.has(f) && chosen.some((c) => meet(f, c, 0))))
    return {
      field: "from",
      message: `The line ends inside plate ${letter}: its two sides are still joined around its end. Cut the plate from the line's end to the outside first, or let it run the whole width.`,
    };
  const stays = nodes.filter((n) => !mover.has(n));
  const outers = (list: Iterable<Region>) => [...list].map((r) => r.outer);
  const loops = { [FIXED]: outers(stays), [MOVING]: outers(mover), [STRIP]: outers(chosen) } as const;
  const holds = (list: readonly Loop[], p: Point) =>
    spansInside(list, p, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0);
  const sideAt = (p: Point): Side => {
    if (holds(loops[STRIP], p)) return STRIP;
    return holds(loops[MOVING], p) ? MOVING : FIXED;
  };
  return { reach, sideAt, loops };
}

/** Whether a bend's root line stands on the band, or on both sides of it. */
function crosses(b: DraftCarrier, sideAt: Sides["sideAt"]): boolean {
  const ends = [0.001, 0.5, 0.999].map((f) =>
    sideAt(along(along(b.origin, b.axis, b.width * f), b.out, -1e-4)),
  );
  return ends.some((s) => s === STRIP || s !== ends[0]);
}

/** Gives each side its metal, edges, bends and slits. */
function share(
  draft: OpenDraft,
  plate: DraftPlate,
  band: Band,
  sides: Sides,
  made: { readonly id: string; readonly step: string },
): { strip: Metal; from: number; to: number } {
  const { reach, sideAt, loops } = sides;
  const half = (side: Side): readonly Loop[] => {
    if (loops) return loops[side];
    if (side === FIXED) return [stretch(band, -reach, 0, reach)];
    return side === MOVING
      ? [stretch(band, band.width, reach, reach)]
      : [stretch(band, 0, band.width, reach)];
  };
  const without = (metal: Metal, ...gone: Side[]): Metal => [
    ...metal,
    { kind: "cut", step: made.step, parts: true, loops: gone.flatMap(half) },
  ];
  // Said once, on the plate that keeps its name.
  const quiet: Metal = plate.metal.map((op) => (op.kind === "cut" ? untitled(op) : op));
  const strips: Side[] = band.width > SAME ? [STRIP] : [];
  const { stay, move, moved } = shareEdges(plate, carriersFrom(draft, plate.id), band, sideAt, made.step);
  draft.pieces.put({ ...plate, metal: without(plate.metal, MOVING, ...strips), edges: stay });
  draft.pieces.put({
    ...plate,
    id: made.id,
    step: made.step,
    metal: without(quiet, FIXED, ...strips),
    edges: move,
  });
  for (const b of carriersFrom(draft, plate.id)) {
    const goes = sideAt(rootMiddle(b)) === MOVING;
    const shift = b.grownOn ? (moved.get(`${goes ? "move" : "stay"}:${b.grownOn.role}`) ?? 0) : 0;
    if (!goes && shift === 0) continue;
    const grownOn = b.grownOn && { ...b.grownOn, from: b.grownOn.from - shift, to: b.grownOn.to - shift };
    draft.pieces.put({ ...b, parent: goes ? made.id : plate.id, ...(grownOn ? { grownOn } : {}) });
  }
  draft.slits = draft.slits.map((s) => {
    const middle = point((s.line.a.x + s.line.b.x) / 2, (s.line.a.y + s.line.b.y) / 2);
    return s.owner === plate.id && sideAt(middle) === MOVING ? { ...s, owner: made.id } : s;
  });
  if (band.width <= SAME) return { strip: [], from: 0, to: 0 };
  const strip = without(quiet, FIXED, MOVING);
  const places = shapeMetal(strip)
    .regions.flatMap((r) => r.outer)
    .map((c) => dot(subtract(c.a, band.origin), band.axis));
  return { strip, from: Math.min(...places), to: Math.max(...places) };
}

/** Cuts a plate's edges where the band crosses them; also tells how far each left end has moved. */
function shareEdges(
  plate: DraftPlate,
  bends: readonly DraftCarrier[],
  band: Band,
  sideAt: Sides["sideAt"],
  step: string,
) {
  // Where a bend begins behind its edge the metal begins there too: before it is nothing that has a side.
  const setbacks = new Map(bends.map((b) => [b.grownOn?.role, Math.max(0, b.grownOn?.setback ?? 0)]));
  const stay: EdgeSite[] = [];
  const move: EdgeSite[] = [];
  const moved = new Map<string, number>();
  for (const edge of plate.edges) {
    const length = hypotenuse(edge.right.x - edge.left.x, edge.right.y - edge.left.y);
    if (length < SAME) continue;
    const u = scale(subtract(edge.right, edge.left), 1 / length);
    const [a, b] = [offset(band, edge.left), offset(band, edge.right)];
    const stops = [0, band.width]
      .map((d) => (Math.abs(b - a) < SAME ? -1 : ((d - a) / (b - a)) * length))
      .filter((s) => s > SAME && s < length - SAME)
      .sort((p, q) => p - q);
    const cuts = [0, ...stops, length];
    const behind = (setbacks.get(edge.role) ?? 0) + 1e-4;
    for (let i = 0; i + 1 < cuts.length; i++) {
      if (cuts[i + 1] - cuts[i] < SAME * 10) continue;
      const middle = along(along(edge.left, u, (cuts[i] + cuts[i + 1]) / 2), edge.out, -behind);
      const side = sideAt(middle);
      if (side === STRIP) continue;
      const list = side === MOVING ? move : stay;
      const before = list.find((e) => e.role === edge.role);
      const piece = { ...edge, left: along(edge.left, u, cuts[i]), right: along(edge.left, u, cuts[i + 1]) };
      if (before && hypotenuse(before.right.x - piece.left.x, before.right.y - piece.left.y) < SAME * 10)
        list[list.indexOf(before)] = { ...before, right: piece.right };
      else if (before) list.push({ ...piece, role: `${edge.role}@${step}` });
      else {
        list.push(piece);
        moved.set(`${side === MOVING ? "move" : "stay"}:${edge.role}`, cuts[i]);
      }
    }
  }
  return { stay, move, moved };
}
