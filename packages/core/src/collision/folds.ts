import { backOf, movePoint } from "../plane/isometry.ts";
import { hypotenuse } from "../plane/point.ts";
import { type Folding, type FoldState, foldSheet } from "../sheet/folding/fold.ts";
import { kindOf } from "../sheet/pieces/piece-kinds.ts";
import { carriersOf, pieceIndex, type Sheet } from "../sheet/sheet.ts";
import type { Outline } from "./patches.ts";
import { outlineOf, Solid } from "./solids.ts";

/** A sheet along a way of folding: how it stands at each share of the way that is asked for, found once. */
export class Folds {
  private readonly foldings = new Map<number, Folding>();
  private readonly solids = new Map<number, Map<number, Solid>>();
  /** What each piece hangs on: plates on what carries them, which hangs on the plate that it starts from. */
  private readonly hangsOn: (number | undefined)[];
  readonly stateAtEnd: FoldState;
  /** By how much of its whole fold each piece turns on the way. */
  private readonly turned: readonly number[];

  constructor(
    readonly sheet: Sheet,
    /** The state at a share of the way, 0 to 1. */
    private readonly stateAt: (share: number) => FoldState,
  ) {
    const start = stateAt(0);
    this.stateAtEnd = stateAt(1);
    this.turned = this.stateAtEnd.map((v, i) => Math.abs(v - start[i]));
    this.hangsOn = sheet.pieces.map(() => undefined);
    for (const c of carriersOf(sheet)) {
      const i = pieceIndex(sheet, c.kind, c.id);
      this.hangsOn[i] = pieceIndex(sheet, "plate", c.parent);
      this.hangsOn[pieceIndex(sheet, "plate", c.child)] = i;
    }
    sheet.pieces.forEach((piece, i) => {
      if ("host" in piece) this.hangsOn[i] = pieceIndex(sheet, "plate", piece.host);
    });
  }

  foldingAt(share: number): Folding {
    let known = this.foldings.get(share);
    if (!known) {
      known = foldSheet(this.sheet, this.stateAt(share));
      this.foldings.set(share, known);
    }
    return known;
  }

  /** A piece as it stands at a share of the way. */
  solid(share: number, index: number): Solid {
    let at = this.solids.get(share);
    if (!at) {
      at = new Map();
      this.solids.set(share, at);
    }
    let solid = at.get(index);
    if (!solid) {
      const { sheet } = this;
      solid = new Solid(index, sheet.pieces[index], this.foldingAt(share).pieces[index], sheet.t);
      at.set(index, solid);
    }
    return solid;
  }

  /** Of which sheet each piece is, by its place among the roots. */
  sheetOf(): number[] {
    const roots = new Map(this.sheet.roots.map((r, i) => [pieceIndex(this.sheet, "plate", r.plate), i]));
    const owners: number[] = [];
    const find = (piece: number): number => {
      const trail: number[] = [];
      let at: number | undefined = piece;
      while (at !== undefined && owners[at] === undefined) {
        trail.push(at);
        at = this.hangsOn[at];
      }
      const owner = at === undefined ? (roots.get(trail[trail.length - 1]) ?? 0) : owners[at];
      for (const i of trail) owners[i] = owner;
      return owner;
    };
    return this.sheet.pieces.map((_, i) => find(i));
  }

  /** Whether a piece is moved when a bend turns: the bend itself, and all that hangs on it. */
  hangsBeyond(piece: number, bend: number): boolean {
    for (let i: number | undefined = piece; i !== undefined; i = this.hangsOn[i]) if (i === bend) return true;
    return false;
  }

  /** What each of two pieces hangs on, itself first, up to where their ways meet, and the piece where they do. */
  private branches(a: number, b: number): { first: number[]; second: number[]; common: number | undefined } {
    const up = (from: number) => {
      const way: number[] = [];
      for (let i: number | undefined = from; i !== undefined; i = this.hangsOn[i]) way.push(i);
      return way;
    };
    const [first, second] = [up(a), up(b)];
    let common: number | undefined;
    while (first.length > 0 && second.length > 0 && first[first.length - 1] === second[second.length - 1]) {
      common = first.pop();
      second.pop();
    }
    return { first, second, common };
  }

  /** The pieces from one to another, both among them; `joined` tells whether metal leads from one to the other. */
  trail(a: number, b: number): { readonly pieces: readonly number[]; readonly joined: boolean } {
    const { first, second, common } = this.branches(a, b);
    const joined = common !== undefined;
    return { pieces: [...first, ...(joined ? [common] : []), ...second.reverse()], joined };
  }

  /**
   * The most by which a point of one piece moves in the eyes of one of another, mm for the whole way: each bend
   * between them turns what hangs beyond it on its own side, no farther off than the pieces there reach.
   */
  speedBetween(a: number, b: number): number {
    const { first, second, common } = this.branches(a, b);
    // Where one hangs on the other's own bend, that turns too.
    const shared = common !== undefined && "child" in this.sheet.pieces[common] ? [common] : [];
    return this.speedUp([...first, ...shared]) + this.speedUp([...second, ...shared]);
  }

  /** The most by which a point of the first of some pieces moves, each of them hanging on the next. */
  private speedUp(branch: readonly number[]): number {
    let [speed, reach] = [0, 0];
    branch.forEach((i, k) => {
      const piece = this.sheet.pieces[i];
      if (!("child" in piece)) {
        if (k > 0) reach += sizeOf(this.outline(i));
        return;
      }
      // The first bend has the piece as far off as it is long across; farther ones see it at any angle.
      if (k < 2) reach = this.across(i, branch[0]);
      else reach += sizeOf(this.outline(i)) + sizeOf(this.outline(branch[0]));
      speed += kindOf(piece).turn!(piece) * this.turned[i] * reach;
    });
    return speed;
  }

  private outline(index: number): Outline {
    return outlineOf(this.sheet.pieces[index], this.sheet.t);
  }

  /** How far the metal of a piece lies from the line where a bend begins, in the flat, mm. */
  private across(bend: number, piece: number): number {
    const { toFrame } = this.outline(bend);
    const { extent, toFrame: own } = this.outline(piece);
    if (extent.x0 > extent.x1) return 0;
    const back = backOf(own);
    const corners = [extent.x0, extent.x1].flatMap((x) => [extent.y0, extent.y1].map((y) => ({ x, y })));
    return Math.max(...corners.map((c) => Math.abs(movePoint(toFrame, movePoint(back, c)).y)));
  }
}

/** From corner to corner, mm. */
const sizeOf = ({ extent: { x0, x1, y0, y1 } }: Outline): number =>
  x0 > x1 ? 0 : hypotenuse(x1 - x0, y1 - y0);
