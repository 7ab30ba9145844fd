import type { PartBuild } from "../part/build.ts";
import { arcCovers, type Curve, curveBounds, distanceToCurve, flattenCurve } from "../plane/curve.ts";
import { asCircle, type Loop } from "../plane/loop.ts";
import { type Bounds, cross, distance, dot, type Point, scale, subtract } from "../plane/point.ts";
import { bendsOf, type Plate, platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { bordersBeyond, lengthAlong } from "./beyond-bend.ts";
import type { CheckRule } from "./rule.ts";

const AS_GOOD = 1e-7;

/** "The hole ⌀ 6" or "The opening 20 × 8.5", by what it measures. */
function calledOpening(loop: Loop): string {
  const circle = asCircle(loop);
  if (circle) return `The hole ⌀ ${mm(2 * circle.r)}`;
  const { minX, maxX, minY, maxY } = boundsOf(loop);
  return `The opening of ${mm(maxX - minX)} by ${mm(maxY - minY)}`;
}

const boundsOf = (loop: Loop): Bounds => {
  const boxes = loop.map(curveBounds);
  return {
    minX: Math.min(...boxes.map((b) => b.minX)),
    maxX: Math.max(...boxes.map((b) => b.maxX)),
    minY: Math.min(...boxes.map((b) => b.minY)),
    maxY: Math.max(...boxes.map((b) => b.maxY)),
  };
};

/** An opening that is too near to a bend is drawn out of shape when the bend is made. */
export const openingToBendRule: CheckRule = (build, { values }) => {
  const { sheet } = build;
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  return bendsOf(sheet).flatMap((bend) =>
    (["parent", "child"] as const).flatMap((side) => {
      const plate = plates.get(bend[side])!;
      const farthest = bend.radius + Math.max(values.openingToBend, values.longOpeningToBend) * sheet!.t;
      return [...bordersBeyond(bend, side, plate, farthest)].flatMap(([loop, { away, at }]) => {
        if (!loop) return [];
        const long = lengthAlong(bend, loop) > values.longOpening + AS_GOOD;
        const wanted = bend.radius + (long ? values.longOpeningToBend : values.openingToBend) * sheet!.t;
        if (away >= wanted - AS_GOOD) return [];
        return [
          {
            level: "warn" as const,
            rule: "opening-to-bend",
            message: `${calledOpening(loop)} on plate ${plate.letter} is ${mm(away)} from where bend ${bend.number} begins; it needs ${mm(wanted)} to keep its shape. Move it ${mm(wanted - away)} away from the bend.`,
            step: stepOf(loop) ?? plate.step,
            pieces: [
              { kind: "plate" as const, id: plate.id },
              { kind: "bend" as const, id: bend.id },
            ],
            at,
            found: away,
            wanted,
            ...moveAway(loop, plate, scale(bend.out, side === "child" ? 1 : -1), wanted - away),
          },
        ];
      });
    }),
  );
};

/** How a round hole of a table is moved along a direction; nothing for another opening. */
function moveAway(loop: Loop, plate: Plate, way: Point, by: number): Pick<Finding, "mend"> {
  const hole = /^hole:([A-Za-z0-9_-]+)$/.exec(loop[0].name ?? "")?.[1];
  if (!hole) return {};
  const { x } = plate.frame;
  const along = { x: dot(way, x) * by, y: cross(x, way) * by };
  return {
    mend: {
      title: `Move it ${mm(by)} away from the bend`,
      remedies: [{ do: "move", step: plate.step, hole, by: along }],
    },
  };
}

/** The step that an opening's borders are named after. */
const stepOf = (loop: Loop): string | undefined =>
  loop.map((c) => /^cut:([A-Za-z0-9_-]+?)(?=[:.]|$)/.exec(c.name ?? "")?.[1]).find(Boolean);

/** An opening in the metal that turns. One that reaches out of it cuts into its line, and is told as that. */
export const openingInBendRule: CheckRule = ({ sheet }) =>
  bendsOf(sheet).flatMap((bend) =>
    bend.regions.flatMap(({ holes }) =>
      holes.map((loop) => ({
        level: "warn" as const,
        rule: "opening-in-bend",
        message: `${calledOpening(loop)} lies in bend ${bend.number}: it is drawn out of shape when that turns. Move it onto a plate, or let a relief take the whole of it.`,
        step: stepOf(loop) ?? bend.step,
        pieces: [{ kind: "bend" as const, id: bend.id }],
        at: loop[0].a,
      })),
    ),
  );

/** The least width of a loop between two parallel lines, mm: over the sides of its convex hull. */
export function leastWidth(loop: Loop): number {
  const circle = asCircle(loop);
  if (circle) return 2 * circle.r;
  const points = loop.flatMap((c) => flattenCurve(c, 1e-4));
  const hull = hullOf(points);
  let least = Infinity;
  hull.forEach((a, i) => {
    const b = hull[(i + 1) % hull.length];
    const u = scale(subtract(b, a), 1 / (distance(a, b) || 1));
    least = Math.min(least, Math.max(...hull.map((p) => cross(u, subtract(p, a)))));
  });
  return least;
}

/** The convex hull of some points, counter-clockwise (monotone chain). */
function hullOf(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((p, q) => p.x - q.x || p.y - q.y);
  const half = (list: readonly Point[]) => {
    const out: Point[] = [];
    for (const p of list) {
      while (
        out.length > 1 &&
        cross(subtract(out[out.length - 1], out[out.length - 2]), subtract(p, out[out.length - 1])) <= 0
      )
        out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}

/** What is narrower than the sheet is thick cannot be cut clean. */
export const smallOpeningRule: CheckRule = (build, { values }) =>
  platesOf(build.sheet).flatMap((plate) => {
    const wanted = values.leastOpening * build.sheet!.t;
    return plate.regions.flatMap(({ holes }) =>
      holes.flatMap((loop) => {
        const found = leastWidth(loop);
        if (found >= wanted - AS_GOOD) return [];
        return [
          {
            level: "warn" as const,
            rule: "small-opening",
            message: `${calledOpening(loop)} on plate ${plate.letter} is ${mm(found)} wide; the shop cuts nothing under ${mm(wanted)}. Make it at least so wide, or drill it.`,
            step: stepOf(loop) ?? plate.step,
            pieces: [{ kind: "plate" as const, id: plate.id }],
            at: loop[0].a,
            found,
            wanted,
          },
        ];
      }),
    );
  });

/** The least distance between two curves that do not cross, mm, and where on the first. */
export function gapBetween(p: Curve, q: Curve): { readonly gap: number; readonly at: Point } {
  let best = { gap: Infinity, at: p.a };
  const offer = (gap: number, at: Point) => {
    if (gap < best.gap) best = { gap, at };
  };
  for (const end of [p.a, p.b]) offer(distanceToCurve(q, end), end);
  for (const end of [q.a, q.b]) offer(distanceToCurve(p, end), end);
  // Between ends the nearest places of a round lie on the straight line through its middle.
  const middles = [p, q].flatMap((c) => (c.kind === "arc" ? [c.c] : []));
  for (const c of [p, q]) {
    if (c.kind !== "arc") continue;
    const other = c === p ? q : p;
    const towards = other.kind === "arc" ? middles.filter((m) => m !== c.c) : [footOf(other.a, other.b, c.c)];
    for (const m of towards) {
      const d = subtract(m, c.c);
      const length = Math.hypot(d.x, d.y);
      if (length < 1e-12) {
        if (other.kind === "arc") offer(Math.abs(c.r - other.r), c.a);
        continue;
      }
      for (const way of [1, -1]) {
        if (!arcCovers(c, Math.atan2(way * d.y, way * d.x))) continue;
        const at = { x: c.c.x + (way * c.r * d.x) / length, y: c.c.y + (way * c.r * d.y) / length };
        offer(distanceToCurve(other, at), at);
      }
    }
  }
  return best;
}

function footOf(a: Point, b: Point, p: Point): Point {
  const d = subtract(b, a);
  const f = dot(subtract(p, a), d) / (dot(d, d) || 1);
  return { x: a.x + d.x * f, y: a.y + d.y * f };
}

interface Web {
  readonly gap: number;
  readonly at: Point;
  readonly loops: readonly [Loop, Loop];
}

/** Of every two loops of a plate that come nearer than `least` mm, how near they come: a sweep over all their curves. */
function thinWebs(loops: readonly Loop[], least: number): Web[] {
  const curves = loops.flatMap((loop, i) => loop.map((curve) => ({ curve, i, box: curveBounds(curve) })));
  curves.sort((p, q) => p.box.minX - q.box.minX);
  const webs = new Map<string, Web>();
  let active: typeof curves = [];
  for (const q of curves) {
    active = active.filter((p) => p.box.maxX + least > q.box.minX);
    for (const p of active) {
      if (p.i === q.i || p.box.maxY + least <= q.box.minY || q.box.maxY + least <= p.box.minY) continue;
      const { gap, at } = gapBetween(p.curve, q.curve);
      const [i, j] = p.i < q.i ? [p.i, q.i] : [q.i, p.i];
      const key = `${i} ${j}`;
      if (gap < (webs.get(key)?.gap ?? least)) webs.set(key, { gap, at, loops: [loops[i], loops[j]] });
    }
    active.push(q);
  }
  return [...webs.values()];
}

/** Metal that is narrower than the sheet is thick burns away, or tears when the part is bent. */
export const thinWebRule: CheckRule = (build: PartBuild, { values }) => {
  const wanted = values.leastWeb * build.sheet!.t;
  return platesOf(build.sheet).flatMap((plate) =>
    plate.regions.flatMap(({ outer, holes }) =>
      thinWebs([outer, ...holes], wanted - AS_GOOD).map(({ gap, at, loops }) => {
        const rim = loops.find((l) => l === outer);
        const opening = loops.find((l) => l !== outer)!;
        const between = rim
          ? `${calledOpening(opening)} on plate ${plate.letter} leaves ${mm(gap)} to the edge`
          : `Between ${calledOpening(loops[0]).toLowerCase()} and another on plate ${plate.letter} stand ${mm(gap)}`;
        return {
          level: "warn" as const,
          rule: "thin-web",
          message: `${between}; the shop leaves ${mm(wanted)}. Move or shrink it by ${mm(wanted - gap)}.`,
          step: stepOf(opening) ?? plate.step,
          pieces: [{ kind: "plate" as const, id: plate.id }],
          at,
          found: gap,
          wanted,
        };
      }),
    ),
  );
};
