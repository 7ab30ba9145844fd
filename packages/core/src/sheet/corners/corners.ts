import { along, distance, type Point, samePoint } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { bendsOf, pieceIndex, type Sheet } from "../sheet.ts";
import { cornerTurn, legLine, rootLine } from "./round-corners.ts";

/** A corner that can be picked: of a plate's outline, or where two flanges of a plate meet. */
export interface SheetCorner {
  /** `<plate>.<edge>+<edge>`, the edges clockwise round the plate. */
  readonly name: string;
  readonly of: "outline" | "flanges";
  /** Index of its plate in `platesOf(sheet)`. */
  readonly owner: number;
  readonly at: Point;
}

const wallsOf = (sheet: Sheet, plate: string) =>
  bendsOf(sheet).filter((b) => b.parent === plate && b.edge && b.angle < Math.PI * 0.95);

/** All corners of a sheet that have a name. */
export function sheetCorners(sheet: Sheet): SheetCorner[] {
  const out: SheetCorner[] = [];
  sheet.pieces.forEach((plate, owner) => {
    if (plate.kind !== "plate") return;
    const known = new Set(plate.edges.map((e) => e.role));
    const tangents = [
      ...bendsOf(sheet)
        .filter((b) => b.parent === plate.id)
        .map(rootLine),
      ...bendsOf(sheet)
        .filter((b) => b.child === plate.id)
        .map(legLine),
    ];
    for (const loop of plate.regions.flatMap(regionLoops))
      loop.forEach((c, i) => {
        const next = loop[(i + 1) % loop.length];
        if (c.kind !== "line" || next.kind !== "line" || !c.name || !next.name) return;
        if (c.name === next.name || !known.has(c.name) || !known.has(next.name)) return;
        if (cornerTurn(c, next, tangents) === undefined) return;
        out.push({ name: `${plate.id}.${next.name}+${c.name}`, of: "outline", owner, at: c.b });
      });
    const bends = wallsOf(sheet, plate.id);
    for (const first of bends) {
      const end = along(first.origin, first.axis, first.width);
      for (const second of bends) {
        if (first === second) continue;
        const near = (first.radius + second.radius) * 2 + sheet.t * 4;
        if (distance(end, second.origin) > near) continue;
        const edges = [first, second].map((b) => plate.edges.find((e) => e.role === b.edge));
        const meet = edges[0] && edges[1] && samePoint(edges[0].right, edges[1].left, 1e-6);
        if (!meet) continue;
        out.push({ name: `${plate.id}.${first.edge}+${second.edge}`, of: "flanges", owner, at: end });
        for (const a of wallsOf(sheet, first.child))
          for (const b of wallsOf(sheet, second.child)) {
            if (a.edge !== "end" || b.edge !== "end") continue;
            const at = along(a.origin, a.axis, a.width);
            const wall = pieceIndex(sheet, "plate", first.child);
            out.push({ name: `${first.child}.end+${second.child}`, of: "flanges", owner: wall, at });
          }
      }
    }
  });
  return out;
}
