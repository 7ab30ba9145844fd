import { intersectLoops } from "../../plane/boolean.ts";
import {
  type Chords,
  chordsAcross,
  chordsSeen,
  forChords,
  regionOfChords,
} from "../../plane/chord-region.ts";
import { type Curve, reversed } from "../../plane/curve.ts";
import { backOf, type Isometry, intoAxes, moveLoop } from "../../plane/isometry.ts";
import { type Loop, loopArea, loopsBounds, polygonLoop } from "../../plane/loop.ts";
import {
  along,
  type Bounds,
  boundsMeet,
  dot,
  hypotenuse,
  type Point,
  point,
  scale,
  subtract,
} from "../../plane/point.ts";
import { bendsAmong, type OpenDraft } from "../../sheet/draft.ts";
import type { DraftBend, DraftPiece } from "../../sheet/draft-pieces.ts";
import { foldedPlace } from "../../sheet/folding/folded-place.ts";
import { bendMotion } from "../../sheet/pieces/bend-piece.ts";
import { compose, inverse, moveV, type Vector } from "../../space/vector.ts";
import { BORDER_WITHIN, boundsOf, SQUARE, type Way } from "./through-folded.ts";

/** Bends by less than that, in radians, are looked at place by place. */
const GENTLE = 0.05;
/** Bends by more than that as well: the places of a whole turn are too much alike to say it. */
const WHOLE = 6;
/** In so many places a bend is looked at in any case. */
const LOOKS = 12;
/** A bend whose axis lies along a direction but for less, as a sine, is met along its axis. */
const ALONG_AXIS = 1e-3;
/** What is cut out of a bend goes on over its borders a little, mm, so that nothing stays standing on them. */
const OVER = 0.05;
/** What a plate beside has open at the border, where it is not farther off than its own lines may be, mm. */
const SAME = 5e-3;

/** What a cut meets of a bend on its way. */
export interface BendOnTheWay {
  readonly bend: string;
  /** What lets everything through that goes through the cut: developed, counter-clockwise. None: it runs along the axis. */
  readonly loops: readonly Loop[];
  /** Plates beside it into which it would go on, but which lie along the way. */
  readonly beside: readonly string[];
}

export interface BendWay {
  /** Plates and bends that the cut goes through as they are flat with its own plate. */
  readonly own: readonly DraftPiece[];
  readonly plate: string;
  readonly way: Way;
  /** The direction, in the plate's developed coordinates and up from it, of length 1. */
  readonly lean?: Vector;
  /** It goes no farther, mm. */
  readonly most: number;
}

/**
 * Bends of the folded part that a cut's outline meets when it goes straight on from its own plate, and the openings they
 * need. A bend is looked at across its axis: at each place of its developed width the outline is met by a line along
 * the axis on each face and all between, and what any of them is open lets what is straight through. The borders stay
 * within `BORDER_WITHIN` of that.
 *
 * @returns For each of very many cuts: its outlines, and the openings that plates have of it, so that those of the bend go on from them.
 */
export function bendWay(
  draft: OpenDraft,
  { own, plate, way, lean = SQUARE, most }: BendWay,
): (loops: readonly Loop[], onPlate: (plate: string) => readonly Loop[]) => BendOnTheWay[] {
  const ownPieces = new Set(own);
  const standing = bendsAmong(draft.pieces.carriers())
    .filter((bend) => !ownPieces.has(bend))
    .map((bend) => ({ bend, seen: seenBend(draft, bend, plate, lean) }));
  const inReach = (far: number) =>
    Math.abs(far) <= most && !(way === "a" && far > 1e-9) && !(way === "b" && far < -1e-9);
  return (loops, onPlate) => {
    const box = loopsBounds(loops);
    return standing.flatMap(({ bend, seen }) => {
      if (!boundsMeet(seen.box, box)) return [];
      if (seen.axis > ALONG_AXIS) {
        const met = openIn(bend, seen, loops, onPlate, inReach);
        return met.loops.length > 0 ? [met] : [];
      }
      const meets = seen.quads.some(
        ({ far, quad }) => inReach(far) && loopArea(quad) > 1e-9 && intersectLoops(loops, [quad]).length > 0,
      );
      return meets ? [{ bend: bend.id, loops: [], beside: [] }] : [];
    });
  };
}

/** A place across a bend as it is seen from a cut: x across the axis as seen, y along it, mm. */
interface Across {
  readonly x: number;
  readonly y: number;
  /** The same on side B, against side A. */
  readonly dx: number;
  readonly dy: number;
  /** How far it is along the cut's way, mm. */
  readonly far: number;
}

interface SeenBend {
  /** How long a unit along the axis is seen. */
  readonly axis: number;
  /** From the plane of the cut's plate to x and y as they are seen. */
  readonly turn: Isometry;
  /** By the distance from the first tangent line, developed, mm. */
  readonly at: (along: number) => Across;
  /** Places from one tangent line to the other, and where the bend is seen farthest out. */
  readonly looks: readonly { readonly along: number; readonly seen: Across }[];
  /** What it covers of the plane of the cut's plate, and in pieces where it is seen along its axis. */
  readonly box: Bounds;
  readonly quads: readonly { readonly far: number; readonly quad: Loop }[];
}

/** A bend as it is seen along a direction from the plane of a cut's plate. */
function seenBend(draft: OpenDraft, bend: DraftBend, plate: string, lean: Vector): SeenBend {
  const toPlane = compose(inverse(foldedPlace(draft, plate)), foldedPlace(draft, bend.parent));
  const angle = draft.held.has(bend.id) ? 0 : bend.angle;
  const width = bend.allowance;
  const place = (far: number, side: number, w: number): Vector => {
    const p = along(along(bend.origin, bend.out, far), bend.axis, side);
    return moveV(toPlane, moveV(bendMotion(bend, draft.t, angle, far), [p.x, p.y, w]));
  };
  const flat = ([x, y, z]: Vector): Point => point(x - (lean[0] / lean[2]) * z, y - (lean[1] / lean[2]) * z);
  const long = subtract(flat(place(0, 1, 0)), flat(place(0, 0, 0)));
  const axis = hypotenuse(long.x, long.y);
  const up = axis > ALONG_AXIS ? scale(long, 1 / axis) : point(0, 1);
  const right = point(up.y, -up.x);
  const placed = (far: number): Across => {
    const [low, high] = [place(far, 0, 0), place(far, 0, draft.t)];
    const [p, q] = [flat(low), flat(high)];
    const d = subtract(q, p);
    // From the middle of the sheet to the middle of the sheet, as far as the way is.
    const away = ((low[2] + high[2]) / 2 - draft.t / 2) / lean[2];
    return { x: dot(p, right), y: dot(p, up), dx: dot(d, right), dy: dot(d, up), far: away };
  };
  const at = angle > GENTLE && angle < WHOLE ? roundly(placed, angle, width) : placed;
  const even = Array.from({ length: LOOKS + 1 }, (_, k) => (width * k) / LOOKS);
  const turns = [(p: Across) => p.x, (p: Across) => p.x + p.dx].flatMap((value) =>
    even.slice(1, -1).flatMap((middle) => farthestOut((far) => value(at(far)), middle, width / LOOKS)),
  );
  const places = [...even, ...turns].sort((p, q) => p - q);
  const rim = places.map((far) =>
    [0, bend.width].flatMap((side) => [0, draft.t].map((w) => flat(place(far, side, w)))),
  );
  return {
    axis,
    at,
    turn: intoAxes(point(0, 0), right, up),
    looks: places.map((far) => ({ along: far, seen: at(far) })),
    box: boundsOf(rim.flat()),
    quads: places.slice(1).map((far, k) => {
      const quad = polygonLoop([rim[k][0], rim[k + 1][0], rim[k + 1][1], rim[k][1]]);
      return { far: at(far).far, quad: loopArea(quad) < 0 ? quad.map(reversed).reverse() : quad };
    }),
  };
}

const ACROSS = ["x", "y", "dx", "dy", "far"] as const;

/**
 * The same as is found place by place: on the way about the axis every one of the numbers goes as a + b·cos φ + c·sin φ,
 * which three places say.
 */
function roundly(placed: (along: number) => Across, angle: number, width: number): (along: number) => Across {
  const [start, middle, end] = [placed(0), placed(width / 2), placed(width)];
  const [c1, s1, c2, s2] = [Math.cos(angle / 2), Math.sin(angle / 2), Math.cos(angle), Math.sin(angle)];
  const whole = (c1 - 1) * s2 - (c2 - 1) * s1;
  const parts = ACROSS.map((key): readonly [number, number, number] => {
    const [p, q] = [middle[key] - start[key], end[key] - start[key]];
    const [b, c] = [(p * s2 - q * s1) / whole, ((c1 - 1) * q - (c2 - 1) * p) / whole];
    return [start[key] - b, b, c];
  });
  return (along) => {
    const phi = (angle * along) / width;
    const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
    const [x, y, dx, dy, far] = parts.map(([a, b, c]) => a + b * cos + c * sin);
    return { x, y, dx, dy, far };
  };
}

/** Where a value turns back about a place; nothing where it does not. */
function farthestOut(value: (far: number) => number, middle: number, reach: number): number[] {
  const way = Math.sign(value(middle) - value(middle - reach));
  if (way === 0 || way !== Math.sign(value(middle) - value(middle + reach))) return [];
  let [from, to] = [middle - reach, middle + reach];
  while (to - from > 1e-7) {
    const [p, q] = [from + (to - from) / 3, to - (to - from) / 3];
    if (way * value(p) > way * value(q)) to = q;
    else from = p;
  }
  return [(from + to) / 2];
}

/** What a cut's outlines open in a bend. */
function openIn(
  bend: DraftBend,
  seen: SeenBend,
  loops: readonly Loop[],
  onPlate: (plate: string) => readonly Loop[],
  inReach: (far: number) => boolean,
): BendOnTheWay {
  const pieces = forChords(loops.map((l) => moveLoop(seen.turn, l)));
  const width = bend.allowance;
  const chordsAt = (far: number): Chords => {
    const p = seen.at(far);
    return inReach(p.far)
      ? chordsBetween(pieces, p, seen.axis).filter(([a, b]) => b > 0 && a < bend.width)
      : [];
  };
  const intoBend = intoAxes(bend.origin, bend.out, bend.axis);
  // The plates beside are open where their own outlines say, which are as near as these: so that no step stands where
  // they go on, these are shifted there, and ever less toward the middle of the bend.
  const borders = [
    { far: 0, plate: bend.parent },
    { far: width, plate: bend.child },
  ].map(({ far, plate }) => {
    const chords = chordsAt(far);
    const cut = onPlate(plate);
    const open = chordsAcross(forChords(cut.map((l) => moveLoop(intoBend, l))), far);
    const shifts = chords.map((c, i) => c.map((y, end) => (open[i]?.[end] ?? Infinity) - y));
    const same = open.length === chords.length && shifts.flat().every((d) => Math.abs(d) < SAME);
    return { far, plate, chords, shifts: same ? shifts : undefined, cut: cut.length > 0 };
  });
  const chords = (along: number): Chords => {
    const far = Math.max(0, Math.min(width, along));
    const found = chordsAt(far);
    const { far: at, shifts } = borders[far < width / 2 ? 0 : 1];
    if (shifts?.length !== found.length) return found;
    const share = 1 - Math.abs(far - at) / (width / 2);
    return found.map(([p, q], i) => [p + shifts[i][0] * share, q + shifts[i][1] * share] as const);
  };
  const made = regionOfChords(
    chords,
    [-OVER, ...seen.looks.map((p) => p.along), ...cornersAcross(pieces, seen), width + OVER],
    [0, width],
    BORDER_WITHIN,
  );
  const back = backOf(intoBend);
  return {
    bend: bend.id,
    loops: made.map((l) => moveLoop(back, l)),
    beside: borders.filter((b) => !b.cut && b.chords.some(([p, q]) => q - p > SAME)).map((b) => b.plate),
  };
}

const chordsBetween = (pieces: readonly Curve[], { x, y, dx, dy }: Across, axis: number): Chords =>
  chordsSeen(pieces, x, x + dx, dy).map(([a, b]) => [(a - y) / axis, (b - y) / axis] as const);

/** How far along a bend the ends of an outline's pieces are met, on either face. */
function cornersAcross(pieces: readonly Curve[], { at, looks }: SeenBend): number[] {
  const values = [...new Set(pieces.map((c) => c.a.x))];
  return [(p: Across) => p.x, (p: Across) => p.x + p.dx].flatMap((value) =>
    looks.slice(1).flatMap((q, k) => {
      const p = looks[k];
      const [low, high] = [value(p.seen), value(q.seen)];
      return values
        .filter((v) => low > v !== high > v)
        .map((v) => crossing((far) => value(at(far)) - v, [p.along, low - v], [q.along, high - v]));
    }),
  );
}

/** Where a value goes through zero between two places with their values: by the false position, kept moving. */
function crossing(
  value: (far: number) => number,
  from: readonly [number, number],
  to: readonly [number, number],
): number {
  let [[p, vp], [q, vq]] = [from, to];
  for (let k = 0; k < 40 && Math.abs(q - p) > 1e-10; k++) {
    const r = k % 3 === 2 ? (p + q) / 2 : p + ((q - p) * vp) / (vp - vq);
    const v = value(r);
    if (Math.abs(v) < 1e-12) return r;
    if (v > 0 === vp > 0) [p, vp] = [r, v];
    else [q, vq] = [r, v];
  }
  return (p + q) / 2;
}
