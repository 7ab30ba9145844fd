import { Kept } from "../kept.ts";
import { hypotenuse } from "../plane/point.ts";
import type { Folding } from "../sheet/folding/fold.ts";
import type { Bow } from "../sheet/pieces/piece-kind.ts";
import { type FoldedPiece, kindOf } from "../sheet/pieces/piece-kinds.ts";
import type { Piece, Sheet } from "../sheet/sheet.ts";
import { compose, inverse, type Motion, moveV, STILL, type Vector } from "../space/vector.ts";
import { type Box3, boxIn, cornersOf } from "./box.ts";
import type { Limited } from "./box-tree.ts";
import { type Convex, convexOf } from "./convex.ts";
import { bulge, developedAt, limitAt, Outline, type Patch, type Zone } from "./patches.ts";

/** A patch in space: a convex body that holds all of its metal, and is no more than `error` mm larger. */
export interface Body extends Limited {
  readonly solid: Solid;
  readonly patch: Patch;
  readonly convex: Convex;
  readonly error: number;
}

const outlines = new Kept((piece: Piece, t: number) => {
  const kind = kindOf(piece);
  const regions = kind.stands?.(piece, t).regions ?? kind.regions(piece);
  return new Outline(regions, kind.bow(piece, kind.fold(piece, STILL, 0, t), t));
});

/** The borders of a piece in its own frame, found once; `t` is the thickness, mm. */
export const outlineOf = (piece: Piece, t: number): Outline => outlines.of(piece, t);

const filledOf = new Kept((piece: Piece): Piece => kindOf(piece).filled(piece));

/** What a patch turns by at most before it is looked at more closely. */
const COARSE = Math.PI / 16;

/** How far past its radius the corners of a body stand, so that its sides touch the round from outside. */
const past = (radius: number, turn: number): number => radius * (1 / Math.cos(turn / 2) - 1);

/** One piece of a folded sheet, as a body of metal. */
export class Solid {
  readonly outline: Outline;
  readonly bow: Bow;
  /** A box along the piece's own directions that holds it. */
  readonly box: Box3;
  private readonly frame: Motion;
  private readonly back: Motion;
  /** From where to where it reaches over side A of the sheet; what is bowed goes from side to side. */
  private readonly span: readonly [number, number];

  constructor(
    readonly index: number,
    readonly piece: Piece,
    private readonly folded: FoldedPiece,
    readonly t: number,
  ) {
    const kind = kindOf(piece);
    this.outline = outlineOf(piece, t);
    this.bow = kind.bow(piece, folded, t);
    const stands = kind.stands?.(piece, t);
    this.span = stands ? [stands.low, stands.high] : [0, t];
    const { origin, across, along } = this.bow;
    // Right-handed or not: a mirrored frame is as good.
    const own: Motion = {
      x: [across.x, across.y, 0],
      y: [along.x, along.y, 0],
      z: [0, 0, 1],
      o: [origin.x, origin.y, 0],
    };
    this.frame = compose(kind.facing(folded), own);
    this.back = inverse(this.frame);
    const { x, y, z, o } = this.frame;
    this.box = boxIn([x, y, z], o, ...this.reach());
  }

  /** The same piece with its openings filled: what parts that from another parts the piece itself. */
  get filled(): Solid {
    this.whole ??= new Solid(this.index, filledOf.of(this.piece), this.folded, this.t);
    return this.whole;
  }

  private whole: Solid | undefined;

  /** The corners of the box that holds the piece, in its frame. */
  private reach(): [Vector, Vector] {
    const { t, bow, span } = this;
    const { x0, x1, y0, y1 } = this.outline.extent;
    if (bow.rate === 0)
      return [
        [x0, y0, span[0]],
        [x1, y1, span[1]],
      ];
    if (bow.straight !== Infinity) return this.reachOfPatches();
    // Seen along its axis it is a piece of a ring: farthest at its ends, or where it turns back.
    const ways = bow.outer === "A" ? 1 : -1;
    const centre = bow.outer === "A" ? bow.radius : t - bow.radius;
    const [from, to] = [y0 * bow.rate, y1 * bow.rate];
    let [low, high, under, over] = [Infinity, -Infinity, Infinity, -Infinity];
    const take = (phi: number) => {
      for (const rho of [bow.radius, bow.radius - t]) {
        const [y, z] = [rho * Math.sin(phi), centre - ways * rho * Math.cos(phi)];
        low = Math.min(low, y);
        high = Math.max(high, y);
        under = Math.min(under, z);
        over = Math.max(over, z);
      }
    };
    take(from);
    take(to);
    for (let k = Math.ceil(from / (Math.PI / 2)); k * (Math.PI / 2) < to; k++) take(k * (Math.PI / 2));
    return [
      [x0, low, under],
      [x1, high, over],
    ];
  }

  /** The same for a piece that is not straight across, from what its patches reach. */
  private reachOfPatches(): [Vector, Vector] {
    const low: [number, number, number] = [Infinity, Infinity, Infinity];
    const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
    for (const { convex } of this.bodies(this.outline.extent))
      for (const c of convex.corners) {
        const p = moveV(this.back, c);
        for (const k of [0, 1, 2] as const) {
          low[k] = Math.min(low[k], p[k]);
          high[k] = Math.max(high[k], p[k]);
        }
      }
    return [low, high];
  }

  /**
   * The eight corners of a patch in space: pushed out so that its metal lies within them, or drawn in so that they
   * lie within its metal. Chords of what bows out lie within, tangents of it outside; of what bows in the other way.
   */
  private patchCorners({ y0, y1, left, right }: Patch, how: "around" | "within"): Vector[] {
    const kind = kindOf(this.piece);
    const { bow, t } = this;
    const height = y1 - y0;
    const turn = height * bow.rate;
    const most = how === "around" ? Math.max : Math.min;
    const out = how === "around" ? past(bow.radius, turn) : 0;
    const hollow = how === "around" ? 0 : past(Math.max(0, bow.radius - t), turn);
    const [bottom, top] = this.span;
    const w = bow.outer === "A" ? [bottom - out, top - hollow] : [bottom + hollow, top + out];
    const shift = (limit: Patch["left"], way: number) => {
      const by = most(0, way * bulge(limit, y0, y1));
      return by === 0 ? 0 : (way * by * hypotenuse(height, limitAt(limit, y1) - limitAt(limit, y0))) / height;
    };
    const [dl, dr] = [shift(left, -1), shift(right, 1)];
    return [y0, y1].flatMap((y) => {
      const ends = [limitAt(left, y) + dl, limitAt(right, y) + dr];
      // What is drawn in to nothing is a line.
      if (ends[0] > ends[1]) ends.fill((ends[0] + ends[1]) / 2);
      return ends.flatMap((x) => {
        const p = developedAt(bow, x, y);
        return w.map((h) => kind.placeAt(this.folded, t, p, h));
      });
    });
  }

  /** How far a wall of a patch may be off its eight corners: across a turn a slanted end is a helix, and twists. */
  private twistOf({ y0, y1, left, right }: Patch): number {
    const slant = [left, right].reduce((most: number, limit) => {
      const run = Math.abs(limitAt(limit, y1) - limitAt(limit, y0));
      return Math.max(most, run / hypotenuse(run, y1 - y0));
    }, 0);
    // The corners' two folds enclose it midway.
    return ((y1 - y0) * this.bow.rate * this.t * slant) / 4;
  }

  /** The body of one patch. */
  body(patch: Patch): Body {
    const { y0, y1, left, right } = patch;
    const arcs = Math.max(Math.abs(bulge(left, y0, y1)), Math.abs(bulge(right, y0, y1)));
    const error = past(this.bow.radius, (y1 - y0) * this.bow.rate) + this.twistOf(patch) + 2 * arcs;
    const convex = convexOf(this.patchCorners(patch, "around"));
    return { solid: this, patch, convex, error, min: convex.min, max: convex.max };
  }

  /** A convex body within the metal of a patch, and by how much (mm) it may stick out of it all the same. */
  core(patch: Patch): { readonly convex: Convex; readonly error: number } {
    return { convex: convexOf(this.patchCorners(patch, "within")), error: this.twistOf(patch) };
  }

  /** The bodies of all its metal within a zone of its frame. */
  bodies(zone: Zone): Body[] {
    const { rate, straight } = this.bow;
    const tallest = rate === 0 ? Infinity : COARSE / rate;
    if (rate === 0 || straight === Infinity)
      return this.outline.patches(zone, tallest).map((p) => this.body(p));
    const { extent } = this.outline;
    const [x0, x1] = [Math.max(zone.x0, extent.x0), Math.min(zone.x1, extent.x1)];
    const n = Math.max(1, Math.ceil((x1 - x0) / straight));
    return Array.from({ length: n }, (_, i) => i).flatMap((i) =>
      this.outline
        .patches({ ...zone, x0: x0 + ((x1 - x0) * i) / n, x1: x0 + ((x1 - x0) * (i + 1)) / n }, tallest)
        .map((p) => this.body(p)),
    );
  }

  /** Across, along and through the piece where it begins, in space. */
  get directions(): readonly Vector[] {
    const { x, y, z } = this.frame;
    return [x, y, z];
  }

  /** The part of its frame that another piece can come to, `margin` mm about it; nothing when it cannot. */
  zoneOf(other: Solid, margin: number): Zone | undefined {
    const corners = cornersOf(other.box).map((c) => moveV(this.back, c));
    if (this.bow.rate > 0) {
      const xs = corners.map((c) => c[0]);
      return { x0: Math.min(...xs) - margin, x1: Math.max(...xs) + margin, y0: -Infinity, y1: Infinity };
    }
    return underBox(corners, [this.span[0] - margin, this.span[1] + margin], margin);
  }
}

/** Corners of a box, by their numbers, that an edge joins. */
const BOX_EDGES = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) =>
  [1, 2, 4].filter((bit) => !(i & bit)).map((bit) => [i, i | bit] as const),
);

/** The rectangle over which a box stands between two heights, and `margin` more all round. */
function underBox(
  corners: readonly Vector[],
  [low, high]: readonly [number, number],
  margin: number,
): Zone | undefined {
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  const take = (x: number, y: number) => {
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  };
  for (const [x, y, w] of corners) if (w >= low && w <= high) take(x, y);
  for (const [i, j] of BOX_EDGES) {
    const [p, q] = [corners[i], corners[j]];
    for (const h of [low, high]) {
      if (p[2] < h === q[2] < h) continue;
      const f = (h - p[2]) / (q[2] - p[2]);
      take(p[0] + (q[0] - p[0]) * f, p[1] + (q[1] - p[1]) * f);
    }
  }
  if (x0 > x1) return undefined;
  return { x0: x0 - margin, x1: x1 + margin, y0: y0 - margin, y1: y1 + margin };
}

/** The pieces of a folded sheet that have metal. */
export const solidsOf = (sheet: Sheet, folding: Folding): Solid[] =>
  sheet.pieces.flatMap((piece, i) =>
    outlineOf(piece, sheet.t).isEmpty ? [] : [new Solid(i, piece, folding.pieces[i], sheet.t)],
  );
