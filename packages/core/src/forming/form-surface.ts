import earcut from "earcut";
import { Kept } from "../kept.ts";
import type { Loop } from "../plane/loop.ts";
import { pointsOf, ringOf } from "../plane/rings.ts";
import type { Vector } from "../space/vector.ts";
import { type Chain, Inset } from "./inset.ts";
import { type FormShape, reachOf, sectionPlaces } from "./section.ts";

/**
 * The surface of a shape that is formed out of a plate, in developed coordinates and heights over side A, mm. A column
 * has a place on side A and one on side B. The first columns are the points of its outline, as `ringOf` has them: there
 * it is one with its plate, but for borders that are cut free.
 */
export interface FormSurface {
  readonly ring: number;
  readonly sideA: readonly Vector[];
  readonly sideB: readonly Vector[];
  /** Three columns a face, counter-clockwise seen from side B. */
  readonly faces: readonly number[];
  /** Two columns a wall, metal on the left. */
  readonly walls: readonly number[];
}

/** What is formed: its outline, how it rises, and the openings in its flat middle. */
export interface FormedMetal {
  readonly outline: Loop;
  readonly shape: FormShape;
  readonly openings: readonly Loop[];
}

const surfaces = new Kept(
  (formed: FormedMetal, { t, chord }: { readonly t: number; readonly chord: number }) =>
    new SurfaceBuilder(formed, chord).build(t),
  (before, now) => before.t === now.t && before.chord === now.chord,
);

/** The surface of something formed; the same is found once. Its outline and section are known to go together. */
export const formSurface = (formed: FormedMetal, t: number, chord: number): FormSurface =>
  surfaces.of(formed, { t, chord });

/** Places nearer to one another than this, mm, are one: where lines run together in a middle. */
const ONE = 1e-7;

const same = (p: Vector, q: Vector) =>
  Math.abs(p[0] - q[0]) < ONE && Math.abs(p[1] - q[1]) < ONE && Math.abs(p[2] - q[2]) < ONE;

class SurfaceBuilder {
  private readonly sideA: Vector[] = [];
  private readonly sideB: Vector[] = [];
  private readonly faces: number[] = [];
  private readonly walls: number[] = [];

  constructor(
    private readonly formed: FormedMetal,
    private readonly chord: number,
  ) {}

  build(t: number): FormSurface {
    const { formed, chord } = this;
    const { outline, shape } = formed;
    const found = Inset.of(outline, chord);
    if (!found.ok) throw new Error(`A shape was formed of an outline that cannot be: ${found.error}.`);
    const inset = found.value;
    const places = sectionPlaces(shape, t, chord);
    const ring = inset.ring.length;
    for (const { x, y } of inset.ring) this.column([x, y, 0], [x, y, t]);
    // By point of the ring, the columns from the border inward.
    const inward: number[][] = inset.ring.map((_, i) => [i]);
    for (const { stations, closed } of inset.chains) {
      for (const { inA, upA, inB, upB } of places.slice(1)) {
        stations.forEach((i, k) => {
          const [p, q] = [inset.at(i, inA), inset.at(i, inB)];
          const [a, b]: [Vector, Vector] = [
            [p.x, p.y, upA],
            [q.x, q.y, upB],
          ];
          const before = k > 0 ? inward[stations[k - 1]].at(-1) : undefined;
          // A chain that is closed may run together where it began.
          const first = closed && k > 0 ? inward[stations[0]].at(-1) : undefined;
          const known = [before, first].find(
            (c) => c !== undefined && c >= ring && same(this.sideA[c], a) && same(this.sideB[c], b),
          );
          inward[i].push(known ?? this.column(a, b));
        });
      }
      this.addStrips({ stations, closed }, inward);
    }
    this.addMiddle(inset, inward, places[places.length - 1]);
    return { ring, sideA: this.sideA, sideB: this.sideB, faces: this.faces, walls: this.walls };
  }

  private column(a: Vector, b: Vector): number {
    this.sideB.push(b);
    return this.sideA.push(a) - 1;
  }

  private face(a: number, b: number, c: number): void {
    if (a !== b && b !== c && c !== a) this.faces.push(a, b, c);
  }

  private wall(a: number, b: number): void {
    if (a !== b) this.walls.push(a, b);
  }

  /** Between each two points of a chain, from line to line. */
  private addStrips({ stations, closed }: Chain, inward: readonly (readonly number[])[]): void {
    const n = stations.length;
    for (let k = 0; k + (closed ? 0 : 1) < n; k++) {
      const [p, q] = [inward[stations[k]], inward[stations[(k + 1) % n]]];
      for (let j = 0; j + 1 < p.length; j++) {
        this.face(p[j], q[j], q[j + 1]);
        this.face(p[j], q[j + 1], p[j + 1]);
      }
    }
  }

  /** The flat middle with its openings, what is cut free beside it, or the rim of what is open. */
  private addMiddle(
    inset: Inset,
    inward: readonly (readonly number[])[],
    { upA, upB }: { readonly upA: number; readonly upB: number },
  ): void {
    const { chains, ring } = inset;
    const last = (i: number) => inward[i][inward[i].length - 1];
    if (this.formed.shape.open) {
      for (const { stations } of chains)
        stations.forEach((i, k) => {
          this.wall(last(stations[(k + 1) % stations.length]), last(i));
        });
      return;
    }
    const border: number[] = [];
    const take = (c: number) => {
      if (border[border.length - 1] !== c) border.push(c);
    };
    chains.forEach(({ stations, closed }, k) => {
      for (const i of stations) take(last(i));
      if (closed) return;
      // Along what is cut free, from the end of this chain to the beginning of the next.
      const end = stations[stations.length - 1];
      const next = chains[(k + 1) % chains.length].stations[0];
      const run = [...inward[end]];
      for (let i = (end + 1) % ring.length; i !== next; i = (i + 1) % ring.length) {
        const { x, y } = ring[i];
        const [a, b]: [Vector, Vector] = [
          [x, y, upA],
          [x, y, upB],
        ];
        const before = run[run.length - 1];
        const known = [before, last(next)].find(
          (c) => c >= ring.length && same(this.sideA[c], a) && same(this.sideB[c], b),
        );
        run.push(known ?? this.column(a, b));
      }
      for (const c of run.slice(inward[end].length)) take(c);
      run.push(...[...inward[next]].reverse());
      for (let i = 0; i + 1 < run.length; i++) this.wall(run[i], run[i + 1]);
    });
    if (border.length > 1 && border[0] === border[border.length - 1]) border.pop();
    this.addFlat(border, upA, upB);
  }

  private addFlat(border: readonly number[], upA: number, upB: number): void {
    if (new Set(border).size < 3) return;
    const ids = [...border];
    const holes: number[] = [];
    for (const opening of this.formed.openings) {
      const points = pointsOf(ringOf(opening, this.chord));
      holes.push(ids.length);
      const first = this.sideA.length;
      points.forEach(({ x, y }, i) => {
        ids.push(this.column([x, y, upA], [x, y, upB]));
        this.wall(first + i, first + ((i + 1) % points.length));
      });
    }
    const flat = ids.flatMap((c) => [this.sideA[c][0], this.sideA[c][1]]);
    const cut = earcut(flat, holes, 2);
    for (let i = 0; i < cut.length; i += 3) {
      const [a, b, c] = [ids[cut[i]], ids[cut[i + 1]], ids[cut[i + 2]]];
      const [p, q, r] = [this.sideA[a], this.sideA[b], this.sideA[c]];
      const way = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
      if (way >= 0) this.face(a, b, c);
      else this.face(a, c, b);
    }
  }
}

/** Why something cannot be formed of an outline with a section; nothing where it can. */
export function wrongForm(
  outline: Loop,
  shape: FormShape,
  chord: number,
): { message: string; room?: number } | undefined {
  const found = Inset.of(outline, chord);
  if (!found.ok) return { message: found.error };
  const reach = reachOf(shape);
  const message = found.value.wrongAt(reach);
  return message === undefined ? undefined : { message, room: found.value.deepest(reach) };
}
