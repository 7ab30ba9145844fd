import { arcCovers, chordCount, flattenCurve } from "../plane/curve.ts";
import { dot, subtract } from "../plane/point.ts";
import { regionArea, regionLoops } from "../plane/region.ts";
import type { Vector } from "../space/vector.ts";
import { type Folding, foldPoint } from "./fold.ts";
import type { Bend, Sheet } from "./sheet.ts";

const area = (part: { regions: Bend["regions"] }) => part.regions.reduce((sum, r) => sum + regionArea(r), 0);

/**
 * Volume of the fully folded sheet in mm³, in closed form: plates t·area, bends the area of their
 * strip times the mean developed height, θ((r+t)² − r²)/(2·BA).
 */
export function foldedVolume(sheet: Sheet): number {
  const plates = sheet.plates.reduce((sum, p) => sum + area(p) * sheet.t, 0);
  return sheet.bends.reduce((sum, b) => {
    const ring = (b.angle * ((b.radius + sheet.t) ** 2 - b.radius ** 2)) / 2;
    return sum + (area(b) / b.allowance) * ring;
  }, plates);
}

/** Area of plates and bend strips in the flat, in mm². */
export const developedArea = (sheet: Sheet): number =>
  [...sheet.plates, ...sheet.bends].reduce((sum, p) => sum + area(p), 0);

export interface Box {
  readonly min: Vector;
  readonly max: Vector;
}

/** The axis-aligned box of a folded sheet, with arcs and bends at their true extremes. */
export function foldedBox(sheet: Sheet, folding: Folding): Box {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const take = (owner: number, u: number, v: number) => {
    for (const w of [0, sheet.t]) {
      const p = foldPoint(folding, owner, [u, v, w]);
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k], p[k]);
        max[k] = Math.max(max[k], p[k]);
      }
    }
  };
  sheet.plates.forEach((plate, i) => {
    const m = folding.plates[i];
    for (const c of plate.regions.flatMap((r) => r.outer)) {
      take(i, c.a.x, c.a.y);
      if (c.kind !== "arc") continue;
      // Along axis k the arc is farthest where the axis, seen in the plate's plane, points straight away from its centre.
      for (let k = 0; k < 3; k++) {
        const gx = m.x[k];
        const gy = m.y[k];
        const g = Math.hypot(gx, gy);
        if (g < 1e-12) continue;
        for (const way of [1, -1]) {
          const p = { x: c.c.x + (way * c.r * gx) / g, y: c.c.y + (way * c.r * gy) / g };
          if (arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) take(i, p.x, p.y);
        }
      }
    }
  });
  sheet.bends.forEach((bend, j) => {
    takeBend(bend, folding, j, (u, v) => take(sheet.plates.length + j, u, v));
  });
  return { min, max };
}

/** Ends of a strip's border, and the places where its surface turns square to an axis. */
function takeBend(bend: Bend, folding: Folding, j: number, take: (u: number, v: number) => void): void {
  const folded = folding.bends[j];
  const turns = extremeShares(folded.parent, bend, folded.angle);
  for (const c of bend.regions.flatMap(regionLoops).flat()) {
    const n = c.kind === "line" ? 1 : Math.max(32, chordCount(c.r, Math.PI, 0.001));
    for (const p of c.kind === "line" ? [c.a] : flattenCurve(c, c.r * (1 - Math.cos(Math.PI / n / 2))))
      take(p.x, p.y);
    if (c.kind !== "line") continue;
    const x0 = dot(subtract(c.a, bend.origin), bend.out);
    const x1 = dot(subtract(c.b, bend.origin), bend.out);
    for (const f of turns) {
      const x = f * bend.allowance;
      if (x0 < x === x1 < x) continue;
      const g = (x - x0) / (x1 - x0);
      take(c.a.x + (c.b.x - c.a.x) * g, c.a.y + (c.b.y - c.a.y) * g);
    }
  }
}

/** Shares of a bend's angle at which its faces point along one of the space's axes. */
function extremeShares(parent: Folding["plates"][number], bend: Bend, angle: number): number[] {
  if (angle < 1e-9) return [];
  const out: number[] = [];
  for (let k = 0; k < 3; k++) {
    // Axis k in the bend's frame: along `out` and up. A face at phi points to (sin, -cos) or its opposite.
    const o = parent.x[k] * bend.out.x + parent.y[k] * bend.out.y;
    const u = parent.z[k] * (bend.up ? 1 : -1);
    if (Math.hypot(o, u) < 1e-12) continue;
    const base = Math.atan2(o, -u);
    for (const turn of [base - Math.PI * 2, base - Math.PI, base, base + Math.PI, base + 2 * Math.PI]) {
      if (turn > 0 && turn < angle) out.push(turn / angle);
    }
  }
  return out;
}
