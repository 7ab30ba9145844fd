import type { DrawnOutline, OutlineCurve } from "@hillcrest/core";

const WIDTH = 300;
const HEIGHT = 170;
const RIM = 14;

/**
 * An outline as it is solved. What can still move is drawn dashed and in another colour, construction fine, what
 * disagrees in that of a stop.
 */
export function OutlinePicture({ drawn }: { drawn: DrawnOutline }) {
  const { outline, solved } = drawn;
  const { points } = solved;
  const places = [...Object.values(points), ...outline.curves.flatMap((c) => bulgeOf(c, drawn.solved))];
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
  const least = (list: readonly number[]) => list.reduce((m, v) => Math.min(m, v), Infinity);
  const most = (list: readonly number[]) => list.reduce((m, v) => Math.max(m, v), -Infinity);
  const [x0, x1, y0, y1] = [least(xs), most(xs), least(ys), most(ys)];
  const scale = Math.min((WIDTH - 2 * RIM) / (x1 - x0 || 1), (HEIGHT - 2 * RIM) / (y1 - y0 || 1));
  const [left, top] = [(WIDTH - (x1 - x0) * scale) / 2, (HEIGHT - (y1 - y0) * scale) / 2];
  const at = ([x, y]: readonly [number, number]) =>
    [(x - x0) * scale + left, HEIGHT - ((y - y0) * scale + top)] as const;
  const free = new Set(solved.freePoints);
  const wrong = new Set(
    [...outline.relations, ...outline.dimensions].flatMap((r) =>
      solved.conflicts.includes(r.id) ? r.of : [],
    ),
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`The outline ${outline.name}`}
      className="shrink-0 rounded border border-hairline bg-raised"
    >
      {Number.isFinite(scale) &&
        outline.curves.map((c) => {
          const ends = c.kind === "circle" ? [c.c, c.id] : [c.a, c.b];
          const moves = ends.some((id) => free.has(id));
          const colour =
            wrong.has(c.id) || ends.some((id) => wrong.has(id))
              ? "var(--stop)"
              : moves
                ? "var(--amber)"
                : "var(--ink)";
          return (
            <path
              key={c.id}
              d={pathOf(c, solved, at, scale)}
              fill="none"
              stroke={colour}
              strokeWidth={c.construction ? 0.7 : 1.6}
              strokeDasharray={moves ? "5 3" : c.construction ? "8 3 2 3" : undefined}
            >
              <title>{c.id}</title>
            </path>
          );
        })}
    </svg>
  );
}

/** Where an arc goes from, how far it turns, and its radius. */
function turnOf(
  { a, b, c, ccw }: Extract<OutlineCurve, { kind: "arc" }>,
  points: DrawnOutline["solved"]["points"],
) {
  const [m, p, q] = [points[c], points[a], points[b]];
  const from = Math.atan2(p[1] - m[1], p[0] - m[0]);
  const turn = Math.atan2(q[1] - m[1], q[0] - m[0]) - from;
  const full = 2 * Math.PI;
  const sweep = (((ccw ? turn : -turn) % full) + full) % full;
  return { m, from, sweep, way: ccw ? 1 : -1, r: Math.hypot(p[0] - m[0], p[1] - m[1]) };
}

/** Places along a round, so that what it bows out to is in the picture. */
function bulgeOf(c: OutlineCurve, { points, radii }: DrawnOutline["solved"]): (readonly [number, number])[] {
  if (c.kind === "line") return [];
  const { m, from, sweep, way, r } =
    c.kind === "arc"
      ? turnOf(c, points)
      : { m: points[c.c], from: 0, sweep: 2 * Math.PI, way: 1, r: radii[c.id] };
  return Array.from({ length: 33 }, (_, i) => {
    const angle = from + (way * sweep * i) / 32;
    return [m[0] + r * Math.cos(angle), m[1] + r * Math.sin(angle)] as const;
  });
}

function pathOf(
  c: OutlineCurve,
  { points, radii }: DrawnOutline["solved"],
  at: (p: readonly [number, number]) => readonly [number, number],
  scale: number,
): string {
  if (c.kind === "circle") {
    const [x, y] = at(points[c.c]);
    const r = radii[c.id] * scale;
    return `M${x - r} ${y}A${r} ${r} 0 0 1 ${x + r} ${y}A${r} ${r} 0 0 1 ${x - r} ${y}`;
  }
  const [[ax, ay], [bx, by]] = [at(points[c.a]), at(points[c.b])];
  if (c.kind === "line") return `M${ax} ${ay}L${bx} ${by}`;
  const { sweep, r: radius } = turnOf(c, points);
  const r = radius * scale;
  // The picture's y goes down: what turns counter-clockwise turns the other way there.
  return `M${ax} ${ay}A${r} ${r} 0 ${sweep > Math.PI ? 1 : 0} ${c.ccw ? 0 : 1} ${bx} ${by}`;
}
