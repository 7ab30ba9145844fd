import { Kept } from "../kept.ts";
import { flattenCurve } from "../plane/curve.ts";
import { convexHull } from "../plane/hull.ts";
import { cross, distance, dot, hypotenuse, type Point, scale, subtract } from "../plane/point.ts";
import type { Blank } from "../sheet/blank/blank.ts";
import type { Finding } from "../steps/finding.ts";
import type { SheetSize } from "../stock/library.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

const hulls = new Kept((blank: Blank) =>
  blank.outlines.map((loop) => convexHull(loop.flatMap((c) => flattenCurve(c, 1e-4)))),
);

/** How far a hull reaches along a direction, mm. */
const extent = (hull: readonly Point[], d: Point): number => {
  const places = hull.map((p) => dot(p, d));
  return Math.max(...places) - Math.min(...places);
};

const leftOf = ({ x, y }: Point): Point => ({ x: -y, y: x });

/** Pairs of corners that can be the outermost two in some direction: opposite ones, by turning two parallels around. */
function oppositeCorners(hull: readonly Point[]): [Point, Point][] {
  const n = hull.length;
  const at = (i: number) => hull[((i % n) + n) % n];
  const pairs: [Point, Point][] = [];
  let far = 1;
  for (let i = 0; i < n; i++) {
    const side = subtract(at(i + 1), at(i));
    const away = (j: number) => cross(side, subtract(at(j), at(i)));
    for (let steps = 0; steps < n && away(far + 1) > away(far); steps++) far++;
    for (const j of [far - 1, far, far + 1]) pairs.push([at(i), at(j)], [at(i + 1), at(j)]);
  }
  return pairs;
}

/**
 * Whether a hull lies in a rectangle in any turn. If it does, it can be turned on until it takes all of the length or
 * all of the width, or it can be turned as one likes: so the turns in which two opposite corners are just so far apart
 * are tried, and those in which a side lies along the rectangle.
 */
function fitsTurned(hull: readonly Point[], length: number, width: number): boolean {
  const fits = (d: Point) =>
    extent(hull, d) <= length + AS_GOOD && extent(hull, leftOf(d)) <= width + AS_GOOD;
  for (const [i, a] of hull.entries()) {
    const b = hull[(i + 1) % hull.length];
    const d = scale(subtract(b, a), 1 / (distance(a, b) || 1));
    if (fits(d) || fits(leftOf(d))) return true;
  }
  const turned = (angle: number): Point => ({ x: Math.cos(angle), y: Math.sin(angle) });
  return oppositeCorners(hull).some(([p, q]) => {
    const d = subtract(q, p);
    const far = hypotenuse(d.x, d.y);
    const at = Math.atan2(d.y, d.x);
    const along = far < length ? [] : [Math.acos(length / far), -Math.acos(length / far)];
    const across = far < width ? [] : [Math.acos(width / far), -Math.acos(width / far)];
    return (
      along.some((off) => fits(turned(at + off))) ||
      across.some((off) => fits(turned(at + off - Math.PI / 2)))
    );
  });
}

/** So many corners of a hull are turned at most. */
const MOST_CORNERS = 400;

/** A hull with some of its sides left out, so that it is larger by next to nothing: what it fits, the whole fits. */
const coarse = (hull: readonly Point[]): readonly Point[] => {
  if (hull.length <= MOST_CORNERS) return hull;
  const step = Math.ceil(hull.length / MOST_CORNERS);
  const sides = hull.flatMap((a, i) =>
    i % step === 0 ? [{ a, d: subtract(hull[(i + 1) % hull.length], a) }] : [],
  );
  return sides.map(({ a, d }, i) => {
    const next = sides[(i + 1) % sides.length];
    const turn = cross(d, next.d);
    if (Math.abs(turn) < 1e-12) return next.a;
    const f = cross(subtract(next.a, a), next.d) / turn;
    return { x: a.x + d.x * f, y: a.y + d.y * f };
  });
};

/** In which direction of the blank its grain lies on a sheet: along the sheet's length, or across. */
const level = (hull: readonly Point[], length: number, width: number): boolean =>
  extent(hull, { x: 1, y: 0 }) <= length + AS_GOOD && extent(hull, { x: 0, y: 1 }) <= width + AS_GOOD;

function fitsSheet(
  hull: readonly Point[],
  { length, width, grain: lies }: SheetSize,
  rim: number,
  grain: "x" | "y" | undefined,
): boolean {
  const [l, w] = [length - 2 * rim, width - 2 * rim];
  if (l <= 0 || w <= 0) return false;
  if (!grain || lies === "none") return fitsTurned(coarse(hull), l, w);
  // The grain's direction of the blank lies along the sheet's grain.
  const upright = (grain === "x") !== (lies === "along");
  return upright ? level(hull, w, l) : level(hull, l, w);
}

const sizeOf = ({ length, width }: SheetSize): string => `${mm(length)} × ${mm(width)}`;

const verdicts = new Kept(
  (blank: Blank, { sheets, rim, grain }: { sheets: readonly SheetSize[]; rim: number; grain?: "x" | "y" }) =>
    hulls.of(blank).map((hull) => ({
      hull,
      fits: sheets.some((s) => fitsSheet(hull, s, rim, grain)),
      turned: grain !== undefined && sheets.some((s) => fitsSheet(hull, s, rim, undefined)),
    })),
  (p, q) => p.sheets === q.sheets && p.rim === q.rim && p.grain === q.grain,
);

/** A blank must lie on one of the sheets that are kept, and its grain as the part says. */
export const sheetSizeRule: CheckRule = ({ blank, stock }, { values }) => {
  const { sheets, grain } = stock ?? {};
  if (!sheets || sheets.length === 0) return [];
  const rim = values.sheetRim;
  const kept = sheets.map(sizeOf).join(", ");
  return verdicts.of(blank!, { sheets, rim, grain }).flatMap(({ hull, fits, turned }): Finding[] => {
    if (fits) return [];
    const [w, h] = [extent(hull, { x: 1, y: 0 }), extent(hull, { x: 0, y: 1 })];
    const size = `The blank, ${mm(w)} × ${mm(h)},`;
    const rimSaid = rim > 0 ? ` with a rim of ${mm(rim)} all round` : "";
    return [
      turned
        ? {
            level: "stop",
            rule: "grain",
            message: `${size} fits the sheets that are kept (${kept}) only with its grain across ${grain === "x" ? "X" : "Y"}. Let the grain lie either way in the stock, or part the blank with a Split.`,
            field: "grain",
          }
        : {
            level: "stop",
            rule: "sheet-size",
            message: `${size} fits none of the sheets that are kept (${kept})${rimSaid}. Part it with a Split, or add a larger sheet to the card.`,
            found: Math.max(w, h),
            wanted: Math.max(...sheets.map((s) => s.length)) - 2 * rim,
          },
    ];
  });
};
