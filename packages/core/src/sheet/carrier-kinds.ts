import { type Isometry, moveDirection, movePoint } from "../plane/isometry.ts";
import { along, type Point, scale } from "../plane/point.ts";
import type { Motion } from "../space/vector.ts";
import type { DraftBend, DraftCarrier, DraftCone } from "./draft-pieces.ts";
import type { Cone } from "./pieces/cone-piece.ts";
import type { Bend } from "./pieces/flat-pieces.ts";
import type { SeamLine } from "./pieces/piece-kind.ts";
import { kindOf } from "./pieces/piece-kinds.ts";
import { marksOn, moveMetal, shapeMetal } from "./shaping/metal.ts";

/** What a kind of carrier answers while steps are still working on it. */
interface CarrierKind<D extends DraftCarrier, P> {
  /** It somewhere else, but for its metal. */
  readonly moved: (m: Isometry, carrier: D) => D;
  /** The piece that it is in the finished sheet. */
  readonly finished: (carrier: D, number: number) => P;
}

const otherEnd = (end: "left" | "right") => (end === "left" ? "right" : "left");

/** The line where it begins, somewhere else; a mirrored one begins at what was its right end: so its left stays left. */
function movedLine<D extends DraftCarrier>(m: Isometry, carrier: D): D {
  const { origin, axis, out, width } = carrier;
  return {
    ...carrier,
    origin: movePoint(m, m.flips ? along(origin, axis, width) : origin),
    axis: m.flips ? scale(moveDirection(m, axis), -1) : moveDirection(m, axis),
    out: moveDirection(m, out),
  };
}

const metalOf = (carrier: DraftCarrier) => {
  const { regions } = shapeMetal(carrier.metal);
  return { regions, marks: marksOn(carrier.metal, regions) };
};

const carrierKinds: {
  readonly bend: CarrierKind<DraftBend, Bend>;
  readonly cone: CarrierKind<DraftCone, Cone>;
} = {
  bend: {
    moved: (m, bend) => ({
      ...movedLine(m, bend),
      ...(m.flips
        ? {
            unrelieved: bend.unrelieved.map(otherEnd),
            reliefs: bend.reliefs.map((r) => ({ ...r, end: otherEnd(r.end) })),
          }
        : {}),
    }),
    finished: (bend, number) => {
      const { metal: _metal, grownOn, ...rest } = bend;
      return { ...rest, number, edge: grownOn?.role, ...metalOf(bend) };
    },
  },
  cone: {
    // Its own directions go from its tip, whichever hand that makes of it.
    moved: (m, cone) => ({
      ...movedLine(m, cone),
      tip: movePoint(m, cone.tip),
      along: moveDirection(m, cone.along),
    }),
    finished: (cone) => {
      const { id, step, parent, child, tip, along: axis, out, near, far, sector, turn, k, up } = cone;
      return {
        ...{ kind: "cone", id, step, parent, child, tip, axis, out },
        ...{ near, far, sector, turn, k, up, ...metalOf(cone) },
      };
    },
  },
};

const answersOf = ({ kind }: DraftCarrier) => carrierKinds[kind] as CarrierKind<DraftCarrier, Bend | Cone>;

/** A carrier with its metal somewhere else. */
export const moveCarrier = (m: Isometry, carrier: DraftCarrier): DraftCarrier => ({
  ...answersOf(carrier).moved(m, carrier),
  metal: moveMetal(m, carrier.metal),
});

/** The piece that a carrier is in the finished sheet; a bend with its number. */
export const finishCarrier = (carrier: DraftCarrier, number: number): Bend | Cone =>
  answersOf(carrier).finished(carrier, number);

/** A carrier as a piece without metal, for what does not hang on that. */
const bare = (carrier: DraftCarrier): Bend | Cone =>
  answersOf({ ...carrier, metal: [] }).finished({ ...carrier, metal: [] }, 0);

/** The lines where a carrier begins on the plate it hangs on, and where the plate begins that it carries. */
export const linesOf = (carrier: DraftCarrier): { readonly parent: SeamLine; readonly child: SeamLine } => {
  const piece = bare(carrier);
  return kindOf(piece).seams!(piece);
};

/** The unit direction from where the plate begins that a carrier carries over that plate, in the flat. */
export function legWay(carrier: DraftCarrier): Point {
  if (carrier.kind === "bend") return carrier.out;
  const { along: a, out, sector } = carrier;
  return {
    x: out.x * Math.cos(sector) - a.x * Math.sin(sector),
    y: out.y * Math.cos(sector) - a.y * Math.sin(sector),
  };
}

/** The motion of the plate that a carrier carries, by that of the one it hangs on: folded, or flat. */
export function carriedMotion(carrier: DraftCarrier, on: Motion, flat: boolean, t: number): Motion {
  if (flat) return on;
  const piece = bare(carrier);
  const kind = kindOf(piece);
  return kind.passes!(kind.fold(piece, on, 1, t), t);
}
