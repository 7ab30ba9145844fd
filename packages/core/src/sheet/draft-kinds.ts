import { type Isometry, moveDirection, moveFrame, movePoint } from "../plane/isometry.ts";
import { along, type Point, scale } from "../plane/point.ts";
import type { Motion } from "../space/vector.ts";
import type { DraftBend, DraftCarrier, DraftCone, DraftPiece, DraftPlate } from "./draft-pieces.ts";
import { moveEdge } from "./edges.ts";
import type { Cone } from "./pieces/cone-piece.ts";
import type { Bend } from "./pieces/flat-pieces.ts";
import type { SeamLine } from "./pieces/piece-kind.ts";
import { kindOf } from "./pieces/piece-kinds.ts";
import { marksOn, moveMetal, shapeMetal } from "./shaping/metal.ts";

/** What a kind of piece answers while steps are still working on it. */
interface DraftKind<D extends DraftPiece> {
  /** It somewhere else, but for its metal. */
  readonly moved: (m: Isometry, piece: D) => D;
}

/** What one that carries a plate answers besides. */
interface CarrierKind<D extends DraftCarrier, P> extends DraftKind<D> {
  /** The piece that it is in the finished sheet. */
  readonly finished: (carrier: D, number: number) => P;
  /** The unit direction from where the plate begins that it carries over that plate, in the flat. */
  readonly legWay: (carrier: D) => Point;
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

const draftKinds: {
  readonly plate: DraftKind<DraftPlate>;
  readonly bend: CarrierKind<DraftBend, Bend>;
  readonly cone: CarrierKind<DraftCone, Cone>;
} = {
  plate: {
    moved: (m, plate) => ({
      ...plate,
      frame: moveFrame(m, plate.frame),
      edges: plate.edges.map((e) => moveEdge(m, e)),
    }),
  },
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
    legWay: ({ out }) => out,
  },
  cone: {
    // Its own directions go from its tip, whichever hand that makes of it.
    moved: (m, cone) => ({
      ...movedLine(m, cone),
      tip: movePoint(m, cone.tip),
      along: moveDirection(m, cone.along),
    }),
    finished: (cone) => {
      const {
        id,
        step,
        parent,
        child,
        tip,
        along: axis,
        out,
        near,
        far,
        sector,
        turn,
        k,
        up,
        overhang,
      } = cone;
      return {
        ...{ kind: "cone", id, step, parent, child, tip, axis, out },
        ...{ near, far, sector, turn, k, up, overhang, ...metalOf(cone) },
      };
    },
    legWay: ({ along: a, out, sector }) => ({
      x: out.x * Math.cos(sector) - a.x * Math.sin(sector),
      y: out.y * Math.cos(sector) - a.y * Math.sin(sector),
    }),
  },
};

const answersOf = ({ kind }: DraftCarrier) => draftKinds[kind] as CarrierKind<DraftCarrier, Bend | Cone>;

/** A piece with its metal somewhere else. */
export const movePiece = <P extends DraftPiece>(m: Isometry, piece: P): P => ({
  ...(draftKinds[piece.kind] as unknown as DraftKind<P>).moved(m, piece),
  metal: moveMetal(m, piece.metal),
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
export const legWay = (carrier: DraftCarrier): Point => answersOf(carrier).legWay(carrier);

/** The motion of the plate that a carrier carries, by that of the one it hangs on: folded, or flat. */
export function carriedMotion(carrier: DraftCarrier, on: Motion, flat: boolean, t: number): Motion {
  if (flat) return on;
  const piece = bare(carrier);
  const kind = kindOf(piece);
  return kind.passes!(kind.fold(piece, on, 1, t), t);
}
