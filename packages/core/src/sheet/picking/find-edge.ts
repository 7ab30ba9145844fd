import { curveLength } from "../../plane/curve.ts";
import { BEND_EDGE } from "../pieces/borders.ts";
import type { EdgeSite, Plate } from "../pieces/flat-pieces.ts";
import type { PieceEdge } from "../pieces/piece-kind.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import { type Carrier, carriersOf, partsOfName, platesOf, type Sheet } from "../sheet.ts";

/** An edge of a sheet, the piece that it belongs to, and its length, mm. */
export interface FoundEdge {
  readonly piece: Plate | Carrier;
  readonly edge: PieceEdge;
  readonly length: number;
}

/** Finds an edge by its name, of a plate or of what turns; nothing when it is gone. */
export function findEdge(sheet: Sheet, name: string): FoundEdge | undefined {
  const { plate: id, role } = partsOfName(name);
  const pieces: readonly (Plate | Carrier)[] = role.startsWith(BEND_EDGE)
    ? carriersOf(sheet)
    : platesOf(sheet);
  const piece = pieces.find((p) => p.id === id);
  const edge =
    piece &&
    kindOf(piece)
      .edges(piece)
      .find((e) => e.role === role);
  return piece && edge && { piece, edge, length: edge.curves.reduce((sum, c) => sum + curveLength(c), 0) };
}

/** Finds a straight edge of a plate, from which something can be grown; nothing when it is gone, or is none. */
export function findSite(
  sheet: Sheet,
  name: string,
): { readonly plate: Plate; readonly edge: EdgeSite; readonly length: number } | undefined {
  const found = findEdge(sheet, name);
  return found?.piece.kind === "plate" && found.edge.site
    ? { plate: found.piece, edge: found.edge.site, length: found.length }
    : undefined;
}
