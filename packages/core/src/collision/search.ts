import { Kept } from "../kept.ts";
import { evenState } from "../sheet/folding/fold.ts";
import { type FoldedPiece, kindOf } from "../sheet/pieces/piece-kinds.ts";
import type { Piece, Sheet } from "../sheet/sheet.ts";
import type { Motion, Vector } from "../space/vector.ts";
import { boxGap } from "./box.ts";
import { deepestMeeting, firstMeeting } from "./first-meeting.ts";
import { Folds } from "./folds.ts";
import { type LengthChange, lengthChanges } from "./length-changes.ts";
import { CONTACT, clearanceOf, collide, sharedOf, wayApart } from "./pair.ts";
import type { Solid } from "./solids.ts";

/** How two pieces stand in one another where it is measured. */
export interface Measured {
  /** The share of folding at which: 1 when they do at the end, else where they stand deepest. */
  readonly share: number;
  /** The least shift that parts the two, mm. */
  readonly depth: number;
  /** The metal that they share, mm³; not known where rounding leaves its surface open. */
  readonly volume?: number;
  /** Which legs could be made longer or shorter so that they do so no longer; none of what is free at the end. */
  readonly lengths: readonly LengthChange[];
}

/** Two pieces that stand in one another in some fold state, all bends turning together. */
export interface Meeting {
  /** Their places in `sheet.pieces`, the first first. */
  readonly a: number;
  readonly b: number;
  /** The share of folding at which it begins. */
  readonly at: number;
  /** Whether it is there when everything is folded. */
  readonly full: boolean;
  /** None where there are too many to be measured. */
  readonly measured?: Measured;
}

/** Two pieces that come near one another, by their places in `sheet.pieces`. */
export interface TightGap {
  readonly a: number;
  readonly b: number;
  /** mm */
  readonly gap: number;
}

/** A bend that cannot be turned by itself, and the two pieces that meet, by their places in `sheet.pieces`. */
export interface StuckBend {
  readonly bend: number;
  readonly a: number;
  readonly b: number;
  /** The share of its own turn at which they first meet. */
  readonly at: number;
}

/** What a search has found, and how far it has looked. */
export interface Searched {
  /** First those that stay, then those on the way only, the deeper first. */
  readonly meetings: readonly Meeting[];
  /** `folded`: a part so large that it was looked at fully folded only; `part`: not all of its pairs were. */
  readonly looked: "all" | "folded" | "part";
}

/** Of more meetings than this neither depth and volume nor where they begin is found. */
const MOST_MEASURED = 60;
/** So many pieces in a row are each other's neighbours: a plate, its bend, and what that carries. */
export const NEIGHBOURS = 3;
/** Of parts of more pieces than this, bends are not turned one by one. */
const MOST_TURNED = 60;
/** More pieces than this are not followed on the way. */
const MOST_ON_THE_WAY = 1000;
/** Of more pairs than this that come near one another fully folded, no more are looked at. */
const MOST_PAIRS = 200_000;
/** Of more pieces than this, only those are followed that come near one another at one of some shares. */
const MOST_FOLLOWED = 120;
const LOOKS = 16;

/** All pairs whose boxes along the axes of space come within `margin` mm, by a sweep along one axis. */
export function nearPairs(solids: readonly Solid[], margin: number, most = Infinity): [Solid, Solid][] {
  const order = [...solids].sort((p, q) => p.box.min[0] - q.box.min[0]);
  const found: [Solid, Solid][] = [];
  let active: Solid[] = [];
  for (const s of order) {
    active = active.filter((o) => o.box.max[0] + margin > s.box.min[0]);
    for (const o of active) {
      const apart = ([1, 2] as const).some(
        (k) => o.box.max[k] + margin <= s.box.min[k] || s.box.max[k] + margin <= o.box.min[k],
      );
      if (!apart) found.push(o.index < s.index ? [o, s] : [s, o]);
    }
    if (found.length > most) return found.slice(0, most);
    active.push(s);
  }
  return found;
}

const sameVector = (a: Vector, b: Vector) => a[0] === b[0] && a[1] === b[1] && a[2] === b[2];
const sameMotion = (a: Motion, b: Motion) =>
  sameVector(a.x, b.x) && sameVector(a.y, b.y) && sameVector(a.z, b.z) && sameVector(a.o, b.o);
const sameRoots = (a: Sheet["roots"] | undefined, b: Sheet["roots"] | undefined): boolean =>
  a === b ||
  (a?.length === b?.length &&
    (a ?? []).every((r, i) => r.plate === b![i].plate && sameMotion(r.place, b![i].place)));
const alike = <T>(a: readonly T[], b: readonly T[]) => a.length === b.length && a.every((v, i) => v === b[i]);

/** Two pieces that were asked about fully folded, where they stood, and whether they collide. */
interface AtEnd {
  readonly pieces: readonly [Piece, Piece];
  readonly folded: readonly [FoldedPiece, FoldedPiece];
  readonly turned: readonly [number, number];
  readonly collides: boolean;
}

/** Two pieces that were followed on their way, what lies between them, and what was found. */
interface Followed {
  readonly trail: readonly Piece[];
  readonly turned: readonly number[];
  readonly roots: Sheet["roots"] | undefined;
  readonly at: number | undefined;
  measured?: Measured;
}

/** What was last found of two pieces, by their names. */
class Remembered<T> {
  private before = new Map<string, T>();
  private now = new Map<string, T>();

  /** What was found in the search before goes when it is not asked for in this one. */
  turn(): void {
    this.before = this.now;
    this.now = new Map();
  }

  of(pieces: readonly Piece[], same: (known: T) => boolean, find: () => T): T {
    const key = pieces.map((p) => `${p.kind} ${p.id}`).join(" ");
    const known = this.before.get(key);
    const answer = known !== undefined && same(known) ? known : find();
    this.now.set(key, answer);
    return answer;
  }
}

/**
 * Looks for pieces of a sheet that stand in one another, fully folded and on the way there. What is asked again of
 * pieces whose shape and place have not changed is answered from the search before.
 */
export class CollisionSearch {
  private readonly ends = new Remembered<AtEnd>();
  private readonly ways = new Remembered<Followed>();
  private readonly alone = new Remembered<Followed>();
  /** How the last sheet stands at the end: asked for by all that is looked for in it. */
  private readonly endings = new Kept((sheet: Sheet, held: string) =>
    this.endOf(sheet, new Set(held.split(" "))),
  );

  /** Looks at a whole sheet. `held` bends stay flat. */
  search(sheet: Sheet, held: ReadonlySet<string> = new Set()): Searched {
    const { folds, solids, staying, all } = this.ending(sheet, held);
    const full = new Set(staying.map(([p, q]) => `${p.index} ${q.index}`));
    const onTheWay = solids.length <= MOST_ON_THE_WAY;
    this.ways.turn();
    const meetings: Meeting[] = [];
    const isFull = (p: Solid, q: Solid) => full.has(`${p.index} ${q.index}`);
    const others = onTheWay ? followed(solids, folds).filter(([p, q]) => !isFull(p, q)) : [];
    for (const [p, q] of [...staying, ...others]) {
      const [a, b] = [p.index, q.index];
      const stays = isFull(p, q);
      if (stays && meetings.length >= MOST_MEASURED) meetings.push({ a, b, at: 1, full: true });
      if (meetings.length >= MOST_MEASURED) continue;
      const way = this.follow(this.ways, folds, a, b);
      const at = way.at ?? (stays ? 1 : undefined);
      if (at === undefined) continue;
      way.measured ??= measure(folds, a, b, stays ? 1 : at, stays);
      meetings.push({ a, b, at, full: stays, measured: way.measured });
    }
    const depth = (m: Meeting) => m.measured?.depth ?? 0;
    meetings.sort((p, q) => Number(q.full) - Number(p.full) || depth(q) - depth(p) || p.a - q.a || p.b - q.b);
    return { meetings, looked: !all ? "part" : onTheWay ? "all" : "folded" };
  }

  /** The pairs that stand in one another fully folded, by their places in `sheet.pieces`. */
  atEnd(sheet: Sheet, held: ReadonlySet<string> = new Set()): { readonly a: number; readonly b: number }[] {
    return this.ending(sheet, held).staying.map(([p, q]) => ({ a: p.index, b: q.index }));
  }

  private ending(sheet: Sheet, held: ReadonlySet<string>): AtTheEnd {
    return this.endings.of(sheet, [...held].sort().join(" "));
  }

  /**
   * The pairs that come nearer than `least` mm fully folded and do not touch, with how near: pieces of which one hangs
   * on the other, or both on one, are left out.
   */
  tightGaps(sheet: Sheet, least: number, held: ReadonlySet<string> = new Set()): TightGap[] {
    if (!(least > 0)) return [];
    const { folds, solids } = this.ending(sheet, held);
    const gaps = nearPairs(solids, least, MOST_PAIRS).flatMap(([p, q]): TightGap[] => {
      if (boxGap(p.box, q.box, least) >= least || folds.trail(p.index, q.index).pieces.length <= NEIGHBOURS)
        return [];
      const { distance } = clearanceOf(p, q);
      return distance > CONTACT && distance < least - 1e-7 ? [{ a: p.index, b: q.index, gap: distance }] : [];
    });
    return gaps.sort((p, q) => p.gap - q.gap).slice(0, MOST_MEASURED);
  }

  /** The sheets of a part, by their places in `sheet.roots`, that are nowhere within `reach` mm of another. */
  loneSheets(sheet: Sheet, reach: number, held: ReadonlySet<string> = new Set()): number[] {
    const { roots } = sheet;
    if (roots.length < 2) return [];
    const { folds, solids } = this.ending(sheet, held);
    const owners = folds.sheetOf();
    const near = new Set<number>();
    for (const [p, q] of nearPairs(solids, reach + CONTACT, MOST_PAIRS)) {
      const [a, b] = [owners[p.index], owners[q.index]];
      if (a === b || (near.has(a) && near.has(b))) continue;
      if (boxGap(p.box, q.box, reach) > reach || clearanceOf(p, q).distance > reach + 1e-7) continue;
      near.add(a);
      near.add(b);
    }
    return roots.flatMap((_, i) => (near.has(i) ? [] : [i]));
  }

  /**
   * Bends that cannot be turned by themselves while all others stand folded: what hangs on them runs into something.
   * For each the first two pieces that are found to meet. Of more pieces than `MOST_TURNED` it is not looked for.
   */
  turnsAlone(sheet: Sheet, held: ReadonlySet<string> = new Set()): StuckBend[] {
    if (sheet.pieces.length > MOST_TURNED) return [];
    const end = evenState(sheet, 1, held);
    const staying = new Set(this.atEnd(sheet, held).map(({ a, b }) => `${a} ${b}`));
    this.alone.turn();
    return sheet.pieces.flatMap((piece, i): StuckBend[] => {
      if (kindOf(piece).metal === "flat" || end[i] === 0) return [];
      const folds = new Folds(sheet, (share) => end.map((v, k) => (k === i ? v * share : v)));
      const solids = solidsAtEnd(folds);
      const beyond = solids.filter((s) => folds.hangsBeyond(s.index, i));
      const others = solids.filter((s) => !beyond.includes(s));
      for (const p of beyond)
        for (const q of others) {
          const [a, b] = [Math.min(p.index, q.index), Math.max(p.index, q.index)];
          if (staying.has(`${a} ${b}`) || folds.trail(a, b).pieces.length <= NEIGHBOURS) continue;
          const { at } = this.follow(this.alone, folds, a, b, piece);
          if (at !== undefined) return [{ bend: i, a, b, at }];
        }
      return [];
    });
  }

  private endOf(sheet: Sheet, held: ReadonlySet<string>): AtTheEnd {
    const folds = new Folds(sheet, (share) => evenState(sheet, share, held));
    const solids = solidsAtEnd(folds);
    const { pieces } = folds.foldingAt(1);
    const { stateAtEnd: state } = folds;
    this.ends.turn();
    const near = nearPairs(solids, 0, MOST_PAIRS);
    const staying = near.filter(([a, b]) => {
      const asked = {
        pieces: [a.piece, b.piece] as const,
        folded: [pieces[a.index], pieces[b.index]] as const,
        turned: [state[a.index], state[b.index]] as const,
      };
      const stands = (f: FoldedPiece) => kindOf(f).facing(f);
      const { collides } = this.ends.of(
        asked.pieces,
        (known) =>
          alike(known.pieces, asked.pieces) &&
          alike(known.turned, asked.turned) &&
          known.folded.every((f, i) => sameMotion(stands(f), stands(asked.folded[i]))),
        () => ({ ...asked, collides: collide(a, b) }),
      );
      return collides;
    });
    return { folds, solids, staying, all: near.length < MOST_PAIRS };
  }

  /** Where two pieces first meet on a way, or what was found of them on the same way before; `turning` alone, or all. */
  private follow(among: Remembered<Followed>, folds: Folds, a: number, b: number, turning?: Piece): Followed {
    const { sheet, stateAtEnd: state } = folds;
    const { pieces, joined } = folds.trail(a, b);
    const trail = pieces.map((i) => sheet.pieces[i]);
    const turned = pieces.map((i) => state[i]);
    const roots = joined ? undefined : sheet.roots;
    return among.of(
      [...(turning ? [turning] : []), sheet.pieces[a], sheet.pieces[b]],
      (known) => alike(known.trail, trail) && alike(known.turned, turned) && sameRoots(known.roots, roots),
      () => ({ trail, turned, roots, at: firstMeeting(folds, a, b) }),
    );
  }
}

/** A sheet fully folded, and the pairs of its pieces that stand in one another; `all` when every pair was looked at. */
interface AtTheEnd {
  readonly folds: Folds;
  readonly solids: readonly Solid[];
  readonly staying: readonly (readonly [Solid, Solid])[];
  readonly all: boolean;
}

/** The pieces that have metal, as they stand at the end of a way. */
export const solidsAtEnd = (folds: Folds): Solid[] =>
  folds.sheet.pieces.map((_, i) => folds.solid(1, i)).filter((s) => !s.outline.isEmpty);

/** The pairs of pieces that may meet on the way. */
function followed(solids: readonly Solid[], folds: Folds): readonly (readonly [Solid, Solid])[] {
  if (solids.length <= MOST_FOLLOWED)
    return solids.flatMap((a, i) => solids.slice(i + 1).map((b) => [a, b] as const));
  const pairs = new Map<string, readonly [Solid, Solid]>();
  const byIndex = new Map(solids.map((s) => [s.index, s]));
  for (let i = 0; i <= LOOKS; i++) {
    const there = solids.map((s) => folds.solid(i / LOOKS, s.index));
    const [low, high] = [Math.min, Math.max].map((most, k) =>
      [0, 1, 2].map((axis) => most(...there.map((s) => (k === 0 ? s.box.min : s.box.max)[axis]))),
    );
    // Between two looks pieces come as much nearer as a part of this size may turn.
    const margin = Math.hypot(...high.map((h, axis) => h - low[axis])) / LOOKS / 4;
    for (const [p, q] of nearPairs(there, margin))
      pairs.set(`${p.index} ${q.index}`, [byIndex.get(p.index)!, byIndex.get(q.index)!]);
  }
  return [...pairs.values()].sort((p, q) => p[0].index - q[0].index || p[1].index - q[1].index);
}

function measure(folds: Folds, a: number, b: number, from: number, full: boolean): Measured {
  const share = full ? 1 : deepestMeeting(folds, a, b, from).share;
  const [p, q] = [folds.solid(share, a), folds.solid(share, b)];
  const { volume, faces } = sharedOf(p, q);
  const lengths = full ? lengthChanges(folds, p, q, faces.flat()) : [];
  return { share, depth: wayApart(p, q).length, ...(volume === undefined ? {} : { volume }), lengths };
}
