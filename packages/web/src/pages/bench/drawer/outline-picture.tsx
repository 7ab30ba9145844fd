import { type DrawnOutline, standing } from "@hillcrest/core";
import { pathOn } from "../drawing/drawing-layers.tsx";
import { boundsOfPlaces, placesOfOutline } from "../drawing/drawn-bounds.ts";

const WIDTH = 300;
const HEIGHT = 170;
const RIM = 14;

/**
 * An outline as it is solved. What can still move is drawn dashed and in another colour, construction fine, what
 * disagrees in that of a stop.
 */
export function OutlinePicture({ drawn }: { drawn: DrawnOutline }) {
  const { outline, solved } = drawn;
  const { points, curves } = standing(outline, solved);
  const { minX: x0, maxX: x1, minY: y0, maxY: y1 } = boundsOfPlaces(placesOfOutline({ points, curves }));
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
        curves.map((c) => {
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
              d={pathOn(c, points, { at })}
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
