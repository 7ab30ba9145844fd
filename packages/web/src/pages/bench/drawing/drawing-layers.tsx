import {
  arcAngles,
  type Outline,
  type OutlineCurve,
  type Place,
  placeAt,
  regionLoops,
  shapeOf,
  turnOfArc,
  type XY,
} from "@hillcrest/core";
import { memo } from "react";
import type { Window } from "../../../views/blank/use-window.ts";
import type { Screen } from "./layout.ts";
import type { Aim, Drawing } from "./use-drawing.ts";

/** A curve as an SVG path on the screen. */
export function pathOn(c: OutlineCurve, points: Outline["points"], { at }: Pick<Screen, "at">): string {
  const shape = shapeOf(c, points);
  const text = (p: XY) =>
    at(p)
      .map((v) => v.toFixed(2))
      .join(" ");
  if (shape.kind === "line") return `M${text(shape.a)}L${text(shape.b)}`;
  const [middle, rim] = [at(shape.c), at(placeAt(shape, 0))];
  const r = Math.hypot(rim[0] - middle[0], rim[1] - middle[1]).toFixed(2);
  if (shape.kind === "circle")
    return `M${text(placeAt(shape, 0))}A${r} ${r} 0 0 0 ${text(placeAt(shape, 0.5))}A${r} ${r} 0 0 0 ${text(placeAt(shape, 0))}`;
  const { sweep } = turnOfArc(shape);
  return `M${text(shape.a)}A${r} ${r} 0 ${Math.abs(sweep) > Math.PI ? 1 : 0} ${sweep > 0 ? 0 : 1} ${text(shape.b)}`;
}

export interface LayerProps {
  readonly drawing: Drawing;
  readonly now: Outline;
  readonly screen: Screen;
  readonly picks: readonly string[];
}

/** What is drawn: what can still move in moss and dashed, what is fixed in ink, what disagrees in red. */
export const Curves = memo(function Curves({ drawing, now, screen, picks }: LayerProps) {
  const { solved, outline } = drawing;
  const free = new Set(solved.freePoints);
  const wrong = new Set(
    [...outline.relations, ...outline.dimensions].flatMap((r) =>
      solved.conflicts.includes(r.id) ? r.of : [],
    ),
  );
  const part = new Set(outline.references?.map((r) => r.id));
  return now.curves.map((c) => {
    const ends = c.kind === "circle" ? [c.c, c.id] : [c.a, c.b];
    const moves = ends.some((id) => free.has(id));
    const disagrees = wrong.has(c.id) || ends.some((id) => wrong.has(id));
    const d = pathOn(c, now.points, screen);
    const stroke = disagrees
      ? "var(--stop)"
      : part.has(c.id)
        ? "var(--note)"
        : moves
          ? "var(--moss)"
          : "var(--ink)";
    return (
      <g key={c.id} data-thing={c.id} data-grab={c.id} data-free={moves || undefined}>
        <path d={d} fill="none" stroke="transparent" strokeWidth={11} />
        {picks.includes(c.id) && (
          <path d={d} fill="none" stroke="var(--amber)" strokeWidth={6} strokeOpacity={0.75} />
        )}
        <path
          d={d}
          fill="none"
          stroke={stroke}
          strokeWidth={c.construction ? 1 : 1.8}
          strokeDasharray={c.construction ? "9 3 2 3" : moves ? "6 3" : undefined}
        />
      </g>
    );
  });
});

/** What its chains bound: what counts is filled as the blank is, what is left out is only hatched. */
export const Areas = memo(function Areas({ drawing, screen, picks }: Omit<LayerProps, "now">) {
  const { regions, leftOut } = drawing.areas;
  const d = (r: (typeof regions)[number]) =>
    regionLoops(r)
      .map((loop) => loopPath(loop, screen))
      .join("");
  const area = (r: (typeof regions)[number], counts: boolean) => {
    const id = `area:${r.outer.find((c) => c.name)?.name}`;
    return (
      <path
        key={id}
        data-thing={id}
        data-counts={counts}
        d={d(r)}
        fillRule="evenodd"
        fill={counts ? "var(--blank)" : "url(#left-out)"}
        fillOpacity={counts ? 0.7 : 1}
        stroke={picks.includes(id) ? "var(--amber)" : "none"}
        strokeWidth={5}
      />
    );
  };
  return (
    <>
      <pattern id="left-out" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V7" stroke="var(--hairline)" strokeWidth="2" />
      </pattern>
      {regions.map((r) => area(r, true))}
      {leftOut.map((r) => area(r, false))}
    </>
  );
});

/** A closed chain as a path on the screen. */
function loopPath(loop: ReturnType<typeof regionLoops>[number], { at }: Screen): string {
  const text = (p: { x: number; y: number }) =>
    at([p.x, p.y])
      .map((v) => v.toFixed(2))
      .join(" ");
  const size = Math.abs(at([1, 0])[0] - at([0, 0])[0]);
  const piece = (c: (typeof loop)[number]) => {
    if (c.kind === "line") return `L${text(c.b)}`;
    const r = (c.r * size).toFixed(2);
    return `A${r} ${r} 0 ${Math.abs(arcAngles(c).sweep) > Math.PI ? 1 : 0} ${c.ccw ? 0 : 1} ${text(c.b)}`;
  };
  return `M${text(loop[0].a)}${loop.map(piece).join("")}Z`;
}

export const Points = memo(function Points({ drawing, now, screen, picks }: LayerProps) {
  const free = new Set(drawing.solved.freePoints);
  return Object.entries(now.points).map(([id, p]) => {
    const [x, y] = screen.at(p);
    if (x < -10 || y < -10 || x > screen.width + 10 || y > screen.height + 10) return null;
    const moves = free.has(id);
    return (
      <g key={id} data-thing={id} data-grab={id} data-point={id}>
        <circle cx={x} cy={y} r={7} fill="transparent" />
        <circle
          cx={x}
          cy={y}
          r={picks.includes(id) ? 4.5 : 2.8}
          fill={picks.includes(id) ? "var(--amber)" : moves ? "var(--panel)" : "var(--ink)"}
          stroke={moves ? "var(--moss)" : "var(--ink)"}
          strokeWidth={1.3}
        />
      </g>
    );
  });
});

/** The part behind: its edges, bend lines and openings, which can be drawn on. */
export const Behind = memo(function Behind({ drawing, screen }: { drawing: Drawing; screen: Screen }) {
  return (
    <g pointerEvents="none">
      {drawing.backdrops.map(({ name, curve }) => (
        <path
          key={name}
          data-behind={name}
          d={pathOn({ id: name, ...named(curve) } as OutlineCurve, placesOf(curve), screen)}
          fill="none"
          stroke={name.startsWith("bend:") ? "var(--bend-up)" : "var(--quiet)"}
          strokeOpacity={0.55}
          strokeDasharray={name.startsWith("bend:") ? "7 4" : undefined}
          strokeWidth={1.2}
        />
      ))}
    </g>
  );
});

const named = (c: Drawing["backdrops"][number]["curve"]) =>
  c.kind === "circle"
    ? { kind: c.kind, c: "c", r: c.r }
    : c.kind === "line"
      ? { kind: c.kind, a: "a", b: "b" }
      : { kind: c.kind, a: "a", b: "b", c: "c", ccw: c.ccw };
const placesOf = (c: Drawing["backdrops"][number]["curve"]): Outline["points"] =>
  c.kind === "circle" ? { c: c.c } : c.kind === "line" ? { a: c.a, b: c.b } : { a: c.a, b: c.b, c: c.c };

const endsOf = (c: OutlineCurve): readonly string[] =>
  c.kind === "line" ? [c.a, c.b] : c.kind === "arc" ? [c.a, c.b, c.c] : [c.c];

/** What would be drawn with a click here. */
export function Preview({ before, after, screen }: { before: Outline; after: Outline; screen: Screen }) {
  const known = new Map(before.curves.map((c) => [c.id, c]));
  // What a tool has left alone is the very same thing: of very many nothing need be drawn to see it.
  const same = (c: OutlineCurve) =>
    known.get(c.id) === c && endsOf(c).every((p) => before.points[p] === after.points[p]);
  const left = new Set(after.curves.map((c) => c.id));
  const gone = before.curves.filter((c) => !left.has(c.id));
  return (
    <g pointerEvents="none" fill="none" data-preview>
      {gone.map((c) => (
        <path
          key={c.id}
          d={pathOn(c, before.points, screen)}
          stroke="var(--stop)"
          strokeWidth={3}
          strokeOpacity={0.5}
        />
      ))}
      {after.curves
        .filter((c) => !same(c))
        .map((c) => (
          <path key={c.id} d={pathOn(c, after.points, screen)} stroke="var(--amber)" strokeWidth={2.2} />
        ))}
    </g>
  );
}

/** The places given so far, and the way to the one that is meant. */
export function Rubber({
  places,
  aimed,
  screen,
}: {
  places: readonly Place[];
  aimed: Place;
  screen: Screen;
}) {
  const points = [...places, aimed].map((p) => screen.at(p.at));
  const [x, y] = points[points.length - 1];
  return (
    <g pointerEvents="none" fill="none" stroke="var(--amber)">
      <path
        d={points.map(([px, py], i) => `${i ? "L" : "M"}${px} ${py}`).join("")}
        strokeWidth={0.9}
        strokeDasharray="3 3"
      />
      <circle cx={x} cy={y} r={aimed.caught ? 6 : 3} strokeWidth={1.6} />
    </g>
  );
}

/** What catches the pointer, in a word beside it: one at a time. */
export function Hint({ aim, screen }: { aim: Aim; screen: Screen }) {
  const text = hintOf(aim.aimed);
  if (!text) return null;
  const [x, y] = screen.at(aim.aimed.at);
  const width = text.length * 6.4 + 12;
  const left = x + 16 + width > screen.width ? x - 16 - width : x + 16;
  return (
    <g pointerEvents="none" data-hint={text}>
      <rect x={left} y={y + 12} width={width} height={18} rx={4} fill="var(--panel)" stroke="var(--amber)" />
      <text x={left + 6} y={y + 25} fontSize={11.5} fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

function hintOf({ caught, way, lined }: Place): string {
  const way1 = way
    ? { level: "level", upright: "upright", parallel: "parallel", square: "square", tangent: "leads on" }[
        way.kind
      ]
    : "";
  const by = !caught
    ? ""
    : caught.by === "part"
      ? `${{ a: "end of ", b: "end of ", centre: "middle of ", middle: "half way on ", on: "on " }[caught.at]}${caught.backdrop.label}`
      : { point: "at the point", middle: "half way", curve: "on it", crossing: "crossing", grid: "" }[
          caught.by
        ];
  const over = lined ? { level: "level with the beginning", upright: "over the beginning" }[lined.kind] : "";
  return [by, way1, over].filter(Boolean).join(", ");
}

/** Lines of the grid, where they are no closer than a few pixels. */
export function Grid({ pitch, seen, screen }: { pitch: number; seen: Window; screen: Screen }) {
  if (!(pitch > 0) || pitch * seen.zoom < 6) return null;
  const [w, h] = [screen.width / seen.zoom / 2, screen.height / seen.zoom / 2];
  const lines: string[] = [];
  for (let x = Math.ceil((seen.x - w) / pitch); x * pitch <= seen.x + w; x++)
    lines.push(`M${screen.at([x * pitch, 0])[0].toFixed(1)} 0V${screen.height}`);
  for (let y = Math.ceil((seen.y - h) / pitch); y * pitch <= seen.y + h; y++)
    lines.push(`M0 ${screen.at([0, y * pitch])[1].toFixed(1)}H${screen.width}`);
  return <path d={lines.join("")} stroke="var(--hairline)" strokeWidth={0.6} pointerEvents="none" />;
}
