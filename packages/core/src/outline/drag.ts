import { hypotenuse } from "../plane/point.ts";
import { Equations, sweepOf } from "./equations.ts";
import type { Outline } from "./outline.ts";
import { type Group, groupsOf, solveGroup } from "./solve-group.ts";

/** How readily what is dragged gives way, against everything else: it goes where it is drawn to if it can. */
const DRAGGED = 1e-3;
/** A drag is followed in steps of at most this share of the outline's size, so that nothing turns over on the way. */
const STRIDE = 0.04;
const HOLDS = 1e-10;

/**
 * An outline while points of it are dragged. All that it asks for holds at every step, on the sides and in the senses
 * in which it held when the drag began; what is dragged goes as far with the pointer as that allows.
 */
export class OutlineDrag {
  private readonly equations: Equations;
  private readonly groups: readonly Group[];
  private readonly size: number;
  private readonly weights: Float64Array;
  private readonly dragged: readonly string[];
  private x: Float64Array;

  /**
   * Begins at where the document has everything: it holds there. `values`: what its driving dimensions come to, as the
   * solve before has found them (`SolvedOutline.values`).
   */
  constructor(
    private readonly outline: Outline,
    values: Readonly<Record<string, number>>,
    dragged: readonly string[],
  ) {
    const driving = outline.dimensions.filter((d) => !d.showing);
    this.equations = new Equations(outline, new Map(driving.map((d) => [d.id, values[d.id]])));
    const { unknowns, list } = this.equations;
    this.x = Float64Array.from(unknowns.start);
    this.size = Math.max(1, ...this.x.map((v) => Math.abs(v - this.x[0])));
    this.dragged = dragged.filter((id) => unknowns.isPoint(id));
    this.weights = new Float64Array(this.x.length).fill(1);
    const own = new Set<number>();
    for (const id of this.dragged)
      for (const at of [unknowns.point(id), unknowns.point(id) + 1]) {
        this.weights[at] = DRAGGED;
        own.add(at);
      }
    this.groups = groupsOf(list, this.x).filter((g) => g.unknowns.some((v) => own.has(v)));
  }

  /** Moves what is dragged by so much from where it stands, or as far that way as goes. Returns where everything is then. */
  by(dx: number, dy: number): Readonly<Record<string, readonly [number, number]>> {
    const { unknowns } = this.equations;
    const far = hypotenuse(dx, dy);
    const steps = Math.max(1, Math.ceil(far / (STRIDE * this.size)));
    for (let i = 0; i < steps; i++) if (!this.step(dx / steps, dy / steps)) break;
    return unknowns.pointsOf(this.x);
  }

  /** Where everything is now. */
  get points(): Readonly<Record<string, readonly [number, number]>> {
    return this.equations.unknowns.pointsOf(this.x);
  }

  get radii(): Readonly<Record<string, number>> {
    return this.equations.unknowns.radiiOf(this.x);
  }

  private step(dx: number, dy: number): boolean {
    const { unknowns } = this.equations;
    for (let share = 1; share > 0.1; share /= 2) {
      const x = Float64Array.from(this.x);
      for (const id of this.dragged) {
        const at = unknowns.point(id);
        x[at] += dx * share;
        x[at + 1] += dy * share;
      }
      const holds = this.groups.every(
        (g) => solveGroup(g, x, { size: this.size, weights: this.weights }) <= HOLDS * this.size,
      );
      if (holds && this.keepsSense(x)) {
        this.x = x;
        return share === 1;
      }
    }
    return false;
  }

  /** Whether no line has turned round and no arc has jumped to the rest of its circle since the step before. */
  private keepsSense(x: Float64Array): boolean {
    const { unknowns } = this.equations;
    return this.outline.curves.every((c) => {
      if (c.kind === "circle") return x[unknowns.radius(c.id)] > 0;
      const [a, b] = [unknowns.point(c.a), unknowns.point(c.b)];
      if (c.kind === "arc")
        return Math.abs(sweepOf(x, unknowns, c) - sweepOf(this.x, unknowns, c)) < Math.PI / 2;
      const [ux, uy] = [this.x[b] - this.x[a], this.x[b + 1] - this.x[a + 1]];
      return ux * (x[b] - x[a]) + uy * (x[b + 1] - x[a + 1]) > 0;
    });
  }
}
