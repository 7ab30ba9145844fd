import { Kept } from "../kept.ts";
import type { Line } from "../plane/curve.ts";
import type { Motion } from "../space/vector.ts";
import type { Feature } from "./feature.ts";
import type { Cone } from "./pieces/cone-piece.ts";
import type { Bend, Mark, Plate } from "./pieces/flat-pieces.ts";
import type { Formed } from "./pieces/formed-piece.ts";
import type { Rib } from "./pieces/rib-piece.ts";

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
  carriers: pieces.filter((p): p is Carrier => "child" in p),
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

/** What hangs on plates and carries others, in the order of the pieces of a sheet. */
export const carriersOf = (sheet: Sheet | undefined): readonly Carrier[] =>
  sheet ? sorted.of(sheet.pieces).carriers : [];

/** The pieces that something is marked on, by where they stand in the sheet's list. */
export const piecesWithMarks = ({
  pieces,
}: Sheet): { readonly owner: number; readonly marks: readonly Mark[] }[] =>
  pieces.flatMap((p, owner) => ("marks" in p && p.marks.length > 0 ? [{ owner, marks: p.marks }] : []));

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
