import type { KSource } from "../bend/why-line.ts";
import { Kept } from "../kept.ts";
import type { Curve, Line } from "../plane/curve.ts";
import { distance, type Frame, type Point } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import type { Motion } from "../space/vector.ts";
import type { Feature } from "./feature.ts";
import type { Cone } from "./pieces/cone-piece.ts";
import type { Formed } from "./pieces/formed-piece.ts";
import type { Rib } from "./pieces/rib-piece.ts";

/** An edge that a flange can be grown from: its full extent before anything was cut from it. */
export interface EdgeSite {
  /** `south`, `east`, `north`, `west` on a rectangle; `end`, `left`, `right` on a flange. */
  readonly role: string;
  /** Left end, seen with the outside of the plate ahead and side B towards the eye. */
  readonly left: Point;
  readonly right: Point;
  /** Unit direction out of the plate. */
  readonly out: Point;
}

/** Lines that are marked on the metal of a piece, as far as there is metal; in developed coordinates. */
export interface Mark {
  readonly step: string;
  readonly feature?: string;
  /** The side that is marked; of a mark for a tool none. */
  readonly side?: "A" | "B";
  readonly curves: readonly Curve[];
}

/** A flat piece, in developed coordinates. */
export interface Plate {
  readonly kind: "plate";
  readonly id: string;
  readonly step: string;
  readonly letter: string;
  readonly frame: Frame;
  /** The plate's extent in its own frame before cuts. */
  readonly box: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };
  /** Its middle as it is seen, in its own frame; see `middleOfPlate`. */
  readonly middle: Point;
  readonly edges: readonly EdgeSite[];
  readonly regions: readonly Region[];
  readonly marks: readonly Mark[];
}

/** A notch beside one end of a bend, on one of the plates it joins. Lengths in mm. */
export interface BendRelief {
  readonly end: "left" | "right";
  readonly side: "parent" | "child";
  readonly shape: "torn" | "square" | "round";
  /** Along the bend; nought where it is torn. */
  readonly width: number;
  /** How far it reaches into its plate from where the bend begins there. */
  readonly depth: number;
}

/** A strip of metal that turns, between the plate it starts from and the one it carries. */
export interface Bend {
  readonly kind: "bend";
  readonly id: string;
  readonly number: number;
  readonly step: string;
  readonly parent: string;
  readonly child: string;
  /** Left end of the first tangent line, in developed coordinates. */
  readonly origin: Point;
  /** Unit direction of the bend line, left to right. */
  readonly axis: Point;
  /** Unit direction from parent to child. */
  readonly out: Point;
  readonly width: number;
  readonly allowance: number;
  readonly angle: number;
  readonly radius: number;
  readonly k: number;
  readonly kSource: KSource;
  readonly up: boolean;
  readonly regions: readonly Region[];
  readonly marks: readonly Mark[];
  /** Ends at which metal of the parent stands beside the bend and nothing relieves it. */
  readonly unrelieved: readonly ("left" | "right")[];
  /** What relieves it beside its ends. */
  readonly reliefs: readonly BendRelief[];
  /** How far it reaches past its parent's edge at each end, where it hangs on nothing. */
  readonly overhang: { readonly left: number; readonly right: number };
  /** The parent's edge it was grown from; none for a fold across a plate. */
  readonly edge?: string;
}

/** What a sheet is made of. What each kind answers stands in `pieceKinds`. */
export type Piece = Plate | Bend | Cone | Formed | Rib;

/** A piece of sheet: the plate its tree of bends hangs from, and where that stands when folded. */
export interface SheetRoot {
  readonly plate: string;
  readonly place: Motion;
}

/** The sheet metal of a part in developed coordinates: usually one piece, sometimes several. */
export interface Sheet {
  readonly t: number;
  readonly roots: readonly SheetRoot[];
  readonly pieces: readonly Piece[];
  /** Cuts of no width: where a bend end is torn free. */
  readonly slits: readonly Line[];
  /** What steps have made on purpose in it, each once; the curves that bound it name it. */
  readonly features: readonly Feature[];
}

const byId = new Kept(
  (features: readonly Feature[]): ReadonlyMap<string, Feature> => new Map(features.map((f) => [f.id, f])),
);

/** The features of a sheet by their names. */
export const featuresOf = (sheet: Sheet | undefined): ReadonlyMap<string, Feature> =>
  sheet ? byId.of(sheet.features) : NO_FEATURES;

const NO_FEATURES: ReadonlyMap<string, Feature> = new Map();

const sorted = new Kept((pieces: readonly Piece[]) => ({
  plates: pieces.filter((p) => p.kind === "plate"),
  bends: pieces.filter((p) => p.kind === "bend"),
  formed: pieces.filter((p) => p.kind === "formed"),
  ribs: pieces.filter((p) => p.kind === "rib"),
}));

/** The plates of a sheet, in the order of its pieces. */
export const platesOf = (sheet: Sheet | undefined): readonly Plate[] =>
  sheet ? sorted.of(sheet.pieces).plates : [];

/** The bends of a sheet, in the order of its pieces. */
export const bendsOf = (sheet: Sheet | undefined): readonly Bend[] =>
  sheet ? sorted.of(sheet.pieces).bends : [];

/** What is formed out of the plates of a sheet, in the order of its pieces. */
export const formedOf = (sheet: Sheet | undefined): readonly Formed[] =>
  sheet ? sorted.of(sheet.pieces).formed : [];

/** The ribs that are pressed into the bends of a sheet, in the order of its pieces. */
export const ribsIn = (sheet: Sheet | undefined): readonly Rib[] =>
  sheet ? sorted.of(sheet.pieces).ribs : [];

/** A piece between two plates: it hangs on one and carries the other. */
export type Carrier = Extract<Piece, { readonly child: string }>;

export const carriersOf = ({ pieces }: Sheet): readonly Carrier[] =>
  pieces.filter((p): p is Carrier => "child" in p);

/** The pieces that something is marked on, by where they stand in the sheet's list; whether they turn. */
export const piecesWithMarks = ({
  pieces,
}: Sheet): { readonly owner: number; readonly marks: readonly Mark[]; readonly bowed: boolean }[] =>
  pieces.flatMap((p, owner) =>
    "marks" in p && p.marks.length > 0 ? [{ owner, marks: p.marks, bowed: p.kind !== "plate" }] : [],
  );

const places = new Kept(
  (pieces: readonly Piece[]) => new Map(pieces.map((p, i) => [`${p.kind}:${p.id}`, i] as const)),
);

/** Where a piece stands in a sheet's list; -1 when it is not there. */
export const pieceIndex = (sheet: Sheet, kind: Piece["kind"], id: string): number =>
  places.of(sheet.pieces).get(`${kind}:${id}`) ?? -1;

export const edgeName = (plate: string, role: string): string => `${plate}.${role}`;

/** The plate, bend or step that a stable name begins with, and what it names on it: `s1.north` is `north` of `s1`. */
export function partsOfName(name: string): { readonly plate: string; readonly role: string } {
  const dot = name.indexOf(".");
  return dot < 0 ? { plate: name, role: "" } : { plate: name.slice(0, dot), role: name.slice(dot + 1) };
}

/** A, B, … Z, AA, AB, … */
export function plateLetter(index: number): string {
  const rest = Math.floor(index / 26);
  return (rest > 0 ? plateLetter(rest - 1) : "") + String.fromCharCode(65 + (index % 26));
}

/** Finds an edge by plate and role; nothing when it is gone. */
export function findEdge(
  sheet: Sheet,
  name: string,
): { plate: Plate; edge: EdgeSite; length: number } | undefined {
  const { plate: id, role } = partsOfName(name);
  const plate = platesOf(sheet).find((p) => p.id === id);
  const edge = plate?.edges.find((e) => e.role === role);
  return plate && edge && { plate, edge, length: distance(edge.left, edge.right) };
}
