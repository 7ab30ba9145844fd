import { picksOf, type RawValues } from "../fields/field.ts";
import type { PartBuild } from "../part/build.ts";
import { type Curve, curveBounds } from "../plane/curve.ts";
import { gapBetween, nearestOn } from "../plane/curve-gap.ts";
import type { Loop } from "../plane/loop.ts";
import { cross, dot, hypotenuse, type Point, scale, subtract } from "../plane/point.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import { partsOfName } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";

/** A length as it is put into a field: to a millionth of a millimetre. */
const typed = (v: number) => String(Math.round(v * 1e6) / 1e6);

/**
 * The least move that mends something which stands by itself on its plate, where its step says its place by coordinates
 * or by distances from two edges; nothing for any other.
 *
 * @param way The unit direction to move it in, developed. @param by How far, mm. @param called What it is, in words.
 */
export function moveAway(
  build: PartBuild,
  step: string,
  plate: Plate,
  way: Point,
  by: number,
  called: string,
): Pick<Finding, "mend"> {
  const values = build.steps.find((s) => s.id === step)?.values;
  const { placed, arranged = "once" } = values?.choices ?? {};
  if (!values || arranged !== "once" || values.picks.plate?.[0]?.at !== plate.id) return {};
  if (way.x === 0 && way.y === 0) return {};
  const to = placed === "edges" ? fromEdges(values, plate, way, by) : byAxes(values, plate, way, by);
  if (!to) return {};
  const title = `Move ${called} ${mm(by)} away`;
  return { mend: { title, remedies: [{ do: "set", step, values: to }] } };
}

type Values = NonNullable<PartBuild["steps"][number]["values"]>;

function byAxes({ choices, quantities: q }: Values, { frame }: Plate, way: Point, by: number) {
  if (!["xy", "middle", "all"].includes(choices.placed)) return undefined;
  return {
    x: typed((q.x ?? 0) + dot(way, frame.x) * by),
    y: typed((q.y ?? 0) + cross(frame.x, way) * by),
  };
}

function fromEdges({ choices, quantities: q, picks }: Values, plate: Plate, way: Point, by: number) {
  const out: Record<string, string> = {};
  for (const n of [1, 2]) {
    if (choices[`datum${n}`] !== "edge") return undefined;
    const name = picksOf(picks as RawValues, `edge${n}`)[0]?.at;
    const edge = name && plate.edges.find((e) => e.role === partsOfName(name).role);
    if (!edge) return undefined;
    out[`off${n}`] = typed((q[`off${n}`] ?? 0) - dot(way, edge.out) * by);
  }
  return out;
}

/** The way that leads straight off a border at the place where another comes nearest to it; nothing where they touch. */
export function wayOff(own: readonly Curve[], other: readonly Curve[]): Point {
  let best: { gap: number; way: Point } = { gap: Number.POSITIVE_INFINITY, way: { x: 0, y: 0 } };
  const boxes = other.map(curveBounds);
  for (const p of own) {
    const b = curveBounds(p);
    other.forEach((q, i) => {
      const c = boxes[i];
      const apart = Math.max(b.minX - c.maxX, c.minX - b.maxX, b.minY - c.maxY, c.minY - b.maxY);
      if (apart >= best.gap) return;
      const { gap, at } = gapBetween(p, q);
      if (gap >= best.gap) return;
      const d = subtract(nearestOn(p, at), nearestOn(q, at));
      const length = hypotenuse(d.x, d.y);
      best = { gap, way: length > 1e-7 ? scale(d, 1 / length) : { x: 0, y: 0 } };
    });
  }
  return best.way;
}

/** Which of two openings has the smaller box: that one is moved. */
export const smallerOf = (p: Loop, q: Loop): Loop => {
  const size = (l: Loop) => l.reduce((sum, c) => sum + Math.abs(c.b.x - c.a.x) + Math.abs(c.b.y - c.a.y), 0);
  return size(p) <= size(q) ? p : q;
};
