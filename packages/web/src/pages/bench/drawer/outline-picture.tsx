import type { DrawnOutline, OutlineCurve } from "@hillcrest/core";

const WIDTH = 300;
const HEIGHT = 170;
const RIM = 14;

/**
 * An outline as it is solved. What can still move is drawn dashed and in another colour, construction fine, what
 * disagrees in that of a stop.
 */
export function OutlinePicture({ drawn: { outline, solved } }: { drawn: DrawnOutline }) {
  const { points, radii } = solved;
  const rounds = outline.curves.flatMap((c) =>
    c.kind === "line" ? [] : [{ at: points[c.c], r: c.kind === "circle" ? radii[c.id] : 0 }],
  );
  const xs = [
    ...Object.values(points).map(([x]) => x),
    ...rounds.flatMap(({ at: [x], r }) => [x - r, x + r]),
  ];
  const ys = [
    ...Object.values(points).map(([, y]) => y),
    ...rounds.flatMap(({ at: [, y], r }) => [y - r, y + r]),
  ];
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
  const [m, a, b] = [points[c.c], points[c.a], points[c.b]];
  const r = Math.hypot(a[0] - m[0], a[1] - m[1]) * scale;
  const turn = Math.atan2(b[1] - m[1], b[0] - m[0]) - Math.atan2(a[1] - m[1], a[0] - m[0]);
  const full = 2 * Math.PI;
  const sweep = (((c.ccw ? turn : -turn) % full) + full) % full;
  // The picture's y goes down: what turns counter-clockwise turns the other way there.
  return `M${ax} ${ay}A${r} ${r} 0 ${sweep > Math.PI ? 1 : 0} ${c.ccw ? 0 : 1} ${bx} ${by}`;
}
