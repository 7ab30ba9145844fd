import ManifoldModule, { type Manifold } from "manifold-3d";
import {
  type Bend,
  dotV,
  type Folding,
  flattenLoop,
  foldPoint,
  kindOf,
  regionLoops,
  type Sheet,
  type Vector,
} from "../src/index.ts";

const wasm = await ManifoldModule();
wasm.setup();

/** How far a curve may be off its chords, mm. */
export const CHORD = 0.005;

/** Heights across a bend that divide it so finely that no chord is farther off than `CHORD`. */
function slicesOf(bend: Bend, t: number, angle: number): number[] {
  const outer = angle < 1e-9 ? 0 : bend.allowance / angle - bend.k * t + t;
  const step = outer === 0 ? Math.PI : 2 * Math.acos(Math.max(0.5, 1 - CHORD / outer));
  const n = Math.max(1, Math.ceil(angle / step));
  return Array.from({ length: n + 1 }, (_, i) => (bend.allowance * i) / n);
}

/**
 * A piece of a folded sheet as closed meshes, made by another program: its outline drawn up to a flat body, which
 * is cut into slices where it turns, and every corner carried to where folding takes it.
 */
export function manifoldsOf(sheet: Sheet, folding: Folding, index: number): Manifold[] {
  const piece = sheet.pieces[index];
  const loops = kindOf(piece)
    .regions(piece)
    .flatMap(regionLoops)
    .map((l) => flattenLoop(l, CHORD).map((p): [number, number] => [p.x, p.y]));
  const section = new wasm.CrossSection(loops, "EvenOdd");
  const flat = wasm.Manifold.extrude(section, sheet.t);
  section.delete();
  const place = (m: Manifold) => {
    const placed = m.warp((v) => {
      const q = foldPoint(folding, index, [v[0], v[1], v[2]]);
      for (const k of [0, 1, 2]) v[k] = q[k];
    });
    m.delete();
    return placed;
  };
  if (piece.kind !== "bend") return [place(flat)];
  const folded = folding.pieces[index];
  const stops = slicesOf(piece, sheet.t, folded.kind === "bend" ? folded.angle : 0);
  const normal: Vector = [piece.out.x, piece.out.y, 0];
  const from = dotV(normal, [piece.origin.x, piece.origin.y, 0]);
  const slices = stops.slice(1).flatMap((high, i) => {
    const back: [number, number, number] = [-normal[0], -normal[1], 0];
    const after = flat.trimByPlane([normal[0], normal[1], 0], i === 0 ? -1e9 : from + stops[i]);
    const slice = after.trimByPlane(back, i + 2 === stops.length ? -1e9 : -(from + high));
    after.delete();
    return slice.isEmpty() ? [] : [place(slice)];
  });
  flat.delete();
  return slices;
}

/** The volume that two pieces share, mm³; the second may be shifted. */
export function sharedVolume(a: readonly Manifold[], b: readonly Manifold[], by: Vector = [0, 0, 0]): number {
  let sum = 0;
  for (const p of a)
    for (const q of b) {
      const moved = q.translate([by[0], by[1], by[2]]);
      const both = p.intersect(moved);
      sum += both.volume();
      both.delete();
      moved.delete();
    }
  return sum;
}

/** Gives back the memory of meshes. */
export function forget(meshes: readonly Manifold[]): void {
  for (const m of meshes) m.delete();
}
