import { NearPlaces } from "../../plane/near-places.ts";
import { along, distance, type Point, samePoint } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import type { Bend } from "../pieces/flat-pieces.ts";
import { seamsOf } from "../pieces/piece-kinds.ts";
import { type Carrier, carriersOf, pieceIndex, type Sheet } from "../sheet.ts";
import { cornerTurn, onTangents, seamSegment } from "./round-corners.ts";

/** A corner that can be picked: of a plate's outline, or where two flanges of a plate meet. */
export interface SheetCorner {
  /** `<plate>.<edge>+<edge>`, the edges clockwise round the plate. */
  readonly name: string;
  readonly of: "outline" | "flanges";
  /** Index of its plate in `platesOf(sheet)`. */
  readonly owner: number;
  readonly at: Point;
}

const isWall = (b: Bend) => b.edge !== undefined && b.edge !== "" && b.angle < Math.PI * 0.95;

/** All corners of a sheet that have a name. */
export function sheetCorners(sheet: Sheet): SheetCorner[] {
  const out: SheetCorner[] = [];
  const starting = new Map<string, Carrier[]>();
  for (const b of carriersOf(sheet)) {
    const list = starting.get(b.parent);
    if (list) list.push(b);
    else starting.set(b.parent, [b]);
  }
  const carrying = new Map(carriersOf(sheet).map((c) => [c.child, c]));
  const wallsOf = (plate: string) =>
    (starting.get(plate) ?? []).filter((c) => c.kind === "bend").filter(isWall);
  sheet.pieces.forEach((plate, owner) => {
    if (plate.kind !== "plate") return;
    const known = new Map(plate.edges.map((e) => [e.role, e]));
    const own = carrying.get(plate.id);
    const onTangent = onTangents([
      ...(starting.get(plate.id) ?? []).map((c) => seamSegment(seamsOf(c).parent)),
      ...(own ? [seamSegment(seamsOf(own).child)] : []),
    ]);
    for (const loop of plate.regions.flatMap(regionLoops))
      loop.forEach((c, i) => {
        const next = loop[(i + 1) % loop.length];
        if (c.kind !== "line" || next.kind !== "line" || !c.name || !next.name) return;
        if (c.name === next.name || !known.has(c.name) || !known.has(next.name)) return;
        if (cornerTurn(c, next, onTangent) === undefined) return;
        out.push({ name: `${plate.id}.${next.name}+${c.name}`, of: "outline", owner, at: c.b });
      });
    const bends = wallsOf(plate.id);
    const widest = Math.max(0, ...bends.map((b) => b.radius)) * 4 + sheet.t * 4;
    const beginnings = new NearPlaces<{ readonly bend: Bend; readonly order: number }>(widest || 1);
    bends.forEach((bend, order) => {
      beginnings.add(bend.origin, { bend, order });
    });
    for (const first of bends) {
      const end = along(first.origin, first.axis, first.width);
      for (const { thing } of beginnings.near(end, widest).sort((p, q) => p.thing.order - q.thing.order)) {
        const second = thing.bend;
        if (first === second) continue;
        const near = (first.radius + second.radius) * 2 + sheet.t * 4;
        if (distance(end, second.origin) > near) continue;
        const edges = [first, second].map((b) => known.get(b.edge!));
        const meet = edges[0] && edges[1] && samePoint(edges[0].right, edges[1].left, 1e-6);
        if (!meet) continue;
        out.push({ name: `${plate.id}.${first.edge}+${second.edge}`, of: "flanges", owner, at: end });
        for (const a of wallsOf(first.child))
          for (const b of wallsOf(second.child)) {
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
