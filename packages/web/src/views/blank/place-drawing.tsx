import { lengthText, type PartBuild, type Point } from "@hillcrest/core";
import type { ComponentType } from "react";
import { useUnits } from "../../state/units.ts";
import { usePlaceMarks } from "../place-marks.ts";

/** Types a distance of the open step where it is shown. */
export type TypedDimension = ComponentType<{
  readonly field: string;
  readonly at: Point;
  readonly text: string;
}>;

interface PlaceDrawingProps {
  readonly build: PartBuild;
  readonly place: (p: Point) => Point;
  readonly Typed?: TypedDimension;
}

/** How the open step's places are measured: the lines they are measured from, the distances, and the axes of a zero. */
export function PlaceDrawing({ build, place, Typed }: PlaceDrawingProps) {
  const marks = usePlaceMarks(build);
  const units = useUnits();
  return (
    <g pointerEvents="none" className="num" fontSize={11} textAnchor="middle">
      {marks.map((mark, i) => {
        const zero = place(mark.origin);
        const texts = mark.dims.map(({ length }) => lengthText(length, units));
        const middles = clearMiddles(
          mark.dims.map(({ from, to }) => [place(from), place(to)] as const),
          texts,
        );
        return (
          <g key={i} data-place-mark>
            {mark.datums.map(([a, b], k) => (
              <Stroke key={k} from={place(a)} to={place(b)} width={3} />
            ))}
            {mark.axes.map(({ name, to }) => {
              const end = place(to);
              return (
                <g key={name} data-axis={name}>
                  <Stroke from={zero} to={end} width={1.4} arrow />
                  <text
                    x={end.x + (end.x - zero.x) * 0.12}
                    y={end.y + (end.y - zero.y) * 0.12 + 4}
                    fill="var(--moss)"
                  >
                    {name}
                  </text>
                </g>
              );
            })}
            <circle
              cx={zero.x}
              cy={zero.y}
              r={3}
              fill="var(--panel)"
              stroke="var(--moss)"
              strokeWidth={1.4}
            />
            {mark.dims.map(({ from, to, field }, k) => {
              const [a, b] = [place(from), place(to)];
              const [mid, text] = [middles[k], texts[k]];
              return (
                <g key={k} data-place-dim={text} data-dim-field={field}>
                  <Stroke from={a} to={b} width={1.2} arrow />
                  <rect
                    x={mid.x - text.length * 3.6}
                    y={mid.y - 8}
                    width={text.length * 7.2}
                    height={16}
                    rx={3}
                    fill="var(--panel)"
                    fillOpacity={0.88}
                  />
                  <text x={mid.x} y={mid.y + 4} fill="var(--ink)">
                    {text}
                  </text>
                  {field && Typed && <Typed field={field} at={mid} text={text} />}
                </g>
              );
            })}
          </g>
        );
      })}
    </g>
  );
}

/** Where along its line a text is tried, as shares of it. */
const ALONG = [0.5, 0.3, 0.7, 0.15, 0.85];

/** Where the texts of some distances stand, each on its own line and none over one before it where that can be. */
function clearMiddles(lines: readonly (readonly [Point, Point])[], texts: readonly string[]): Point[] {
  const put: { readonly at: Point; readonly wide: number }[] = [];
  return lines.map(([a, b], i) => {
    const wide = texts[i].length * 7.2;
    const places = ALONG.map((f) => ({ x: a.x + (b.x - a.x) * f, y: a.y + (b.y - a.y) * f }));
    const free = places.find((p) =>
      put.every((o) => Math.abs(o.at.x - p.x) > (o.wide + wide) / 2 + 2 || Math.abs(o.at.y - p.y) > 17),
    );
    const at = free ?? places[0];
    put.push({ at, wide });
    return at;
  });
}

function Stroke({ from, to, width, arrow }: { from: Point; to: Point; width: number; arrow?: boolean }) {
  const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
  const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length];
  const head = Math.min(7, length / 2);
  const wing = (side: number) =>
    `M${to.x} ${to.y}L${to.x - ux * head - uy * side * head * 0.45} ${to.y - uy * head + ux * side * head * 0.45}`;
  const d = `M${from.x} ${from.y}L${to.x} ${to.y}${arrow ? wing(1) + wing(-1) : ""}`;
  return <path d={d} fill="none" stroke="var(--moss)" strokeWidth={width} strokeLinecap="round" />;
}
