import { Kept } from "../../kept.ts";
import { type Arc, arcCovers, type Curve, line } from "../../plane/curve.ts";
import { type Isometry, moveCurve, moveLoop } from "../../plane/isometry.ts";
import { hypotenuse } from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import type { Motion } from "../../space/vector.ts";
import type { EdgeSite, Mark } from "./flat-pieces.ts";
import type { PieceEdge, PieceStrokes, Take } from "./piece-kind.ts";

/** Roundings, reliefs and the like are no edges. */
const isEdgeName = (name: string | undefined): name is string =>
  name !== undefined && name !== "" && !name.includes(":");

/** The named borders of some metal that bound no opening by a table's or a cut's name, each as a list of its curves. */
const namedBorders = new Kept((regions: readonly Region[]): ReadonlyMap<string, readonly Curve[]> => {
  const byRole = new Map<string, Curve[]>();
  for (const c of regions.flatMap(regionLoops).flat()) {
    if (!isEdgeName(c.name)) continue;
    const list = byRole.get(c.name);
    if (list) list.push(c);
    else byRole.set(c.name, [c]);
  }
  return byRole;
});

/** What the edges of what carries a plate have before their names: plates are often called as their bends are. */
export const BEND_EDGE = "bend-";

/** The named edges of what turns. Nothing can be grown from them. */
export const turningEdges = ({ regions }: { readonly regions: readonly Region[] }): readonly PieceEdge[] =>
  [...namedBorders.of(regions)].map(([role, curves]) => ({ role: `${BEND_EDGE}${role}`, curves }));

/** The edges of a plate: straight ones, from which something can be grown, and those of its borders that are curved. */
export const flatEdges = ({
  edges,
  regions,
}: {
  readonly edges: readonly EdgeSite[];
  readonly regions: readonly Region[];
}): readonly PieceEdge[] => {
  const straight = edges.map((site) => ({
    role: site.role,
    curves: [line(site.left, site.right)],
    site,
  }));
  const known = new Set(edges.map(({ role }) => role));
  const curved = [...namedBorders.of(regions)].filter(
    ([role, curves]) => !known.has(role) && curves.some((c) => c.kind === "arc"),
  );
  return [...straight, ...curved.map(([role, curves]) => ({ role, curves }))];
};

/** A piece whose regions have no openings. */
export const withoutOpenings = <P extends { readonly regions: readonly Region[] }>(piece: P): P =>
  piece.regions.every((r) => r.holes.length === 0)
    ? piece
    : { ...piece, regions: piece.regions.map(({ outer }) => ({ outer, holes: [] })) };

export const AXES = [0, 1, 2] as const;

export const moveRegions = (m: Isometry, regions: readonly Region[]): Region[] =>
  regions.map((r) => ({ outer: moveLoop(m, r.outer), holes: r.holes.map((h) => moveLoop(m, h)) }));

export const moveMarks = (m: Isometry, marks: readonly Mark[]): readonly Mark[] =>
  marks.length === 0
    ? marks
    : marks.map((mark) => ({ ...mark, curves: mark.curves.map((c) => moveCurve(m, c)) }));

/** Of a piece whose metal shows nothing on the blank but its borders and its marks. */
export const ownMarks = ({ marks }: { readonly marks: readonly Mark[] }): PieceStrokes => ({
  marks,
  slits: [],
});

/** Along axis k an arc is farthest where the axis, seen in the plate's plane, points straight away from its centre. */
export function takeFlatArc(c: Arc, m: Motion, take: Take): void {
  for (const k of AXES) {
    const [gx, gy] = [m.x[k], m.y[k]];
    const g = hypotenuse(gx, gy);
    if (g < 1e-12) continue;
    for (const way of [1, -1]) {
      const p = { x: c.c.x + (way * c.r * gx) / g, y: c.c.y + (way * c.r * gy) / g };
      if (arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) take(p.x, p.y);
    }
  }
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Where a function that rises and then falls is highest, by golden sections. */
export function peak(f: (x: number) => number, from: number, to: number): number {
  let [a, b] = [from, to];
  let [p, q] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
  let [fp, fq] = [f(p), f(q)];
  for (let i = 0; i < 48; i++) {
    if (fp > fq) {
      [b, q, fq] = [q, p, fp];
      p = b - GOLDEN * (b - a);
      fp = f(p);
    } else {
      [a, p, fp] = [p, q, fq];
      q = a + GOLDEN * (b - a);
      fq = f(q);
    }
  }
  return (a + b) / 2;
}
