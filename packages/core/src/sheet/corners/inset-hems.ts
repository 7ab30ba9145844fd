import { along, dot, subtract } from "../../plane/point.ts";
import { dotV, type Motion, moveV, turnV, type Vector } from "../../space/vector.ts";
import { bendOf, bendsAmong, type OpenDraft } from "../draft.ts";
import type { DraftBend } from "../draft-pieces.ts";
import { foldedPlace } from "../folding/folded-place.ts";
import { trimBend } from "../shaping/trim.ts";

const NONE_HELD: ReadonlySet<string> = new Set();
/** Below this turn a bend is a wall or a return, and no hem. */
const LEAST_HEM = Math.PI * 0.9;
/** Ends that are farther from one another than this many thicknesses are at no common corner. */
const NEAR = 12;
/** Walls that are nearer to parallel make no corner. */
const LEAST_LEAN = 0.1;
const SLACK = 1e-6;

/** A hem on the edge of a wall, as the folded part has it. Lengths in mm. */
interface RimHem {
  readonly bend: DraftBend;
  readonly end: "left" | "right";
  /** Where its wall stands. */
  readonly place: Motion;
  /** Its end on the face of its wall that it turns over, where it begins. */
  readonly corner: Vector;
  /** Along its edge away from that end, out of that face, and over the edge. */
  readonly along: Vector;
  readonly inward: Vector;
  readonly over: Vector;
  /** How far it reaches out of that face, and back down along the wall and over its edge from where it begins. */
  readonly depth: number;
  readonly down: number;
  readonly up: number;
}

const minus = (a: Vector): Vector => [-a[0], -a[1], -a[2]];
const between = (a: Vector, b: Vector): Vector => [b[0] - a[0], b[1] - a[1], b[2] - a[2]];

/** How long the leg of a hem is beyond its bend. */
function legLength(draft: OpenDraft, { child, origin, out, allowance }: DraftBend): number {
  const ends = draft.pieces
    .plate(child)!
    .metal.filter((op) => op.kind === "add")
    .flatMap((op) => op.loops.flat().map((c) => dot(subtract(c.a, origin), out) - allowance));
  return Math.max(0, ...ends);
}

function rimHem(draft: OpenDraft, bend: DraftBend, end: "left" | "right"): RimHem {
  const place = foldedPlace(draft, bend.parent, NONE_HELD);
  const { t } = draft;
  const { radius, angle } = bend;
  const flat = end === "left" ? bend.origin : along(bend.origin, bend.axis, bend.width);
  const axis: Vector = [bend.axis.x, bend.axis.y, 0];
  const leg = legLength(draft, bend);
  return {
    ...{ bend, end, place },
    corner: moveV(place, [flat.x, flat.y, bend.up ? t : 0]),
    along: turnV(place, end === "left" ? axis : minus(axis)),
    inward: turnV(place, [0, 0, bend.up ? 1 : -1]),
    over: turnV(place, [bend.out.x, bend.out.y, 0]),
    // From half a turn on the bend itself reaches the farthest; before it the tip of the leg may.
    depth: Math.max(2 * radius + t, radius + leg * Math.sin(Math.min(angle, Math.PI))),
    down: leg,
    up: radius + t,
  };
}

/** Whether the metal of two hems is at the same heights over what their walls stand on. */
function besideInHeight(a: RimHem, b: RimHem): boolean {
  const rise = dotV(between(a.corner, b.corner), a.over);
  return rise - b.down < a.up - SLACK && rise + b.up > -a.down + SLACK;
}

/** Whether a wall goes on beside a hem of its neighbour: then the hem must stop before the wall itself. */
const wallBeside = (a: RimHem, b: RimHem): boolean =>
  dotV(between(a.corner, b.corner), a.over) > -a.down + SLACK;

/**
 * How much a hem must lose at its end so that all of its metal stays so far from a neighbour that goes on as far as it likes:
 * from its hem, `depth` out of its wall, or from the wall alone. Below nought where there is room already.
 */
function inset(a: RimHem, b: RimHem, thickness: number, depth: number, gap: number): number {
  const steep = dotV(a.along, b.inward);
  const stands = dotV(between(b.corner, a.corner), b.inward);
  const [lean, tilt] = [dotV(a.inward, b.inward), dotV(a.over, b.inward)];
  const needed = [-thickness, a.depth].flatMap((y) =>
    [-a.down, a.up].map((z) => depth + gap - stands - y * lean - z * tilt),
  );
  return Math.max(...needed) / steep;
}

/**
 * Where hems on neighbouring walls of a box turn into it and would stand in one another, both are cut back square, by what the
 * corner needs and no more, `gap` apart: also where the walls are not as high as each other, or not square to each other.
 */
export function insetHems(draft: OpenDraft, step: string, gap: number): void {
  const hems = bendsAmong(draft.pieces.carriers()).filter((b) => b.grownOn && b.angle > LEAST_HEM);
  const cuts = meeting(draft, hems)
    .filter(([a, b]) => a.bend.step === step || b.bend.step === step)
    .flatMap(([a, b]) => {
      const both = besideInHeight(a, b);
      return [
        [a, b],
        [b, a],
      ].flatMap(([p, q]) => {
        if (!both && !wallBeside(p, q)) return [];
        const depth = both ? q.depth : 0;
        // What has room already was meant to end there.
        if (inset(p, q, draft.t, depth, 0) <= SLACK) return [];
        return [{ id: p.bend.id, end: p.end, by: inset(p, q, draft.t, depth, gap) }];
      });
    });
  for (const { id, end, by } of cuts)
    if (by < (bendOf(draft, id)?.width ?? 0) / 2) trimBend(draft, id, end, by, step);
}

/** Hems that come together at the corner of two walls and turn towards one another: the right end of one, the left of the other. */
function meeting(draft: OpenDraft, hems: readonly DraftBend[]): [RimHem, RimHem][] {
  if (new Set(hems.map((b) => b.parent)).size < 2) return [];
  const ends = (end: "left" | "right") => hems.map((b) => rimHem(draft, b, end));
  const [rights, lefts] = [ends("right"), ends("left")];
  const cell = lefts.reduce((most, h) => Math.max(most, h.depth), 0) * 2 + draft.t * NEAR;
  const cellOf = (p: Vector, dx = 0, dy = 0, dz = 0) =>
    [p[0] / cell + dx, p[1] / cell + dy, p[2] / cell + dz].map(Math.floor).join();
  const byCell = new Map<string, RimHem[]>();
  for (const left of lefts) {
    const key = cellOf(left.corner);
    const there = byCell.get(key);
    if (there) there.push(left);
    else byCell.set(key, [left]);
  }
  const steps = [-1, 0, 1];
  return rights.flatMap((a) =>
    steps
      .flatMap((x) => steps.flatMap((y) => steps.flatMap((z) => byCell.get(cellOf(a.corner, x, y, z)) ?? [])))
      .filter((b) => b.bend.parent !== a.bend.parent && dotV(a.along, b.inward) > LEAST_LEAN)
      .filter((b) => dotV(b.along, a.inward) > LEAST_LEAN && isNear(a, b, draft.t))
      .map((b): [RimHem, RimHem] => [a, b]),
  );
}

/** Whether two ends stand at one corner, seen from above it: their walls may be of two heights. */
function isNear(a: RimHem, b: RimHem, t: number): boolean {
  const apart = between(a.corner, b.corner);
  return Math.hypot(dotV(apart, a.along), dotV(apart, a.inward)) < t * NEAR + a.depth + b.depth;
}
