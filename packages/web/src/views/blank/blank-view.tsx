import {
  type Blank,
  curvePath,
  curvesBounds,
  formatFixed,
  type Line,
  openingLoops,
  type PartBuild,
  type Pickable,
  type Plate,
  type Point,
  pickables,
  platesOf,
  regionLoops,
  type Sheet,
  sheetCorners,
} from "@hillcrest/core";
import { memo, useEffect, useMemo, useRef } from "react";
import { offeredCorners, openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { noteMoment } from "../../state/timing.ts";
import { type Pick, pickKey, viewActions } from "../../state/view-slice.ts";
import { pickOf } from "../pick-names.ts";
import { OverallSize } from "./overall-size.tsx";
import { PlaceDrawing } from "./place-drawing.tsx";
import { useSize, useWindow, type Window } from "./use-window.ts";

interface BlankViewProps {
  readonly onPick: (
    pick: Pick | undefined,
    e: { clientX: number; clientY: number; shiftKey: boolean },
  ) => void;
}

/** The flat pattern: zoomed with the wheel to the pointer, moved with a drag, picked like the folded part. */
export function BlankView({ onPick }: BlankViewProps) {
  const shown = useApp((s) => openBuild(s).shown);
  if (!shown?.build.sheet || !shown.build.blank) return null;
  return <Drawing build={shown.build} sheet={shown.build.sheet} blank={shown.build.blank} onPick={onPick} />;
}

function Drawing({
  build,
  sheet,
  blank,
  onPick,
}: BlankViewProps & { build: PartBuild; sheet: Sheet; blank: Blank }) {
  const send = useSend();
  const host = useRef<SVGSVGElement>(null);
  const size = useSize(host);
  const { x, y, zoom, drag } = useWindow(host, blank, size, (e, seen) =>
    onPick(pickUnder(e, host.current!, seen), e),
  );
  useEffect(() => {
    noteMoment("blank-drawn", blank.area);
  }, [blank]);
  const borders = useMemo(() => pickables(sheet), [sheet]);
  const transform = `translate(${size.width / 2 - x * zoom} ${size.height / 2 + y * zoom}) scale(${zoom})`;
  const place: Place = (p) => ({
    x: (p.x - x) * zoom + size.width / 2,
    y: (y - p.y) * zoom + size.height / 2,
  });
  return (
    <svg
      ref={host}
      data-view="blank"
      className="absolute inset-0 size-full touch-none select-none"
      role="img"
      aria-label={`Blank ${formatFixed(blank.width)} by ${formatFixed(blank.height)} millimetres`}
      onContextMenu={(e) => e.preventDefault()}
      {...drag}
      onPointerLeave={() => send(viewActions.hovered([]))}
    >
      {size.width > 0 && (
        <>
          <g transform={transform}>
            <Metal blank={blank} />
            <Targets build={build} sheet={sheet} blank={blank} borders={borders} />
            <Lit sheet={sheet} blank={blank} borders={borders} />
          </g>
          <CornerTargets sheet={sheet} place={place} />
          <OpeningCentres sheet={sheet} place={place} />
          <BendTags build={build} blank={blank} place={place} />
          <PlaceDrawing build={build} place={place} />
          <OverallSize bounds={blank.bounds} place={place} beside={26} />
        </>
      )}
    </svg>
  );
}

/** The pick under a pointer: elements carry theirs as data. A plate's pick also has the place. */
function pickUnder(
  e: { target: EventTarget; clientX: number; clientY: number },
  host: SVGSVGElement,
  view: Window,
): Pick | undefined {
  const data = (e.target as SVGElement).closest<SVGElement>("[data-pick]")?.dataset.pick;
  if (!data) return undefined;
  const pick = JSON.parse(data) as Pick;
  if (pick.kind !== "plate") return pick;
  const frame = host.getBoundingClientRect();
  const x = (e.clientX - frame.left - frame.width / 2) / view.zoom + view.x;
  const y = view.y - (e.clientY - frame.top - frame.height / 2) / view.zoom;
  return { ...pick, x, y };
}

const Metal = memo(function Metal({ blank }: { blank: Blank }) {
  const d = useMemo(
    () => [...blank.outlines, ...blank.openings].map((l) => curvePath(l, true)).join(""),
    [blank],
  );
  const overlaps = blank.overlaps.map((r) => curvePath(r.outer, true)).join("");
  return (
    <>
      <path
        d={d}
        fill="var(--blank)"
        fillRule="evenodd"
        stroke="var(--ink)"
        strokeWidth={1.4}
        vectorEffect="non-scaling-stroke"
      />
      {blank.slits.map((s, i) => (
        <path
          key={i}
          d={curvePath([s], false)}
          stroke="var(--ink)"
          strokeWidth={1.4}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {overlaps && (
        <path
          d={overlaps}
          fill="var(--stop)"
          fillOpacity={0.35}
          stroke="var(--stop)"
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
        />
      )}
    </>
  );
});

/** What the pointer can meet, drawn once for a shape: plates, bend lines, and wide invisible borders. */
const Targets = memo(function Targets({ build, sheet, blank, borders }: TargetsProps) {
  const send = useSend();
  const target = (pick: Pick) => ({
    "data-pick": JSON.stringify(pick),
    onPointerEnter: () => send(viewActions.hovered([pick])),
  });
  const rows = new Map(build.bends.map((b) => [b.id, b]));
  const tangents = blank.tangentLines.flatMap((t) => t.pieces.map((p) => curvePath([p], false))).join("");
  return (
    <>
      {platesOf(sheet).map((plate) => (
        <path
          key={plate.id}
          d={platePath(plate)}
          fill="transparent"
          fillRule="evenodd"
          {...target({ kind: "plate", id: plate.id, x: 0, y: 0 })}
        />
      ))}
      <path
        d={tangents}
        stroke="var(--ink)"
        strokeOpacity={0.16}
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
      />
      {blank.centreLines.map(({ bend, pieces }) => {
        const up = rows.get(bend)?.up ?? true;
        const d = piecesPath(pieces);
        return (
          <g key={bend} {...target({ kind: "bend", id: bend })}>
            <path d={d} stroke="transparent" strokeWidth={11} vectorEffect="non-scaling-stroke" />
            <path
              d={d}
              stroke={up ? "var(--bend-up)" : "var(--bend-down)"}
              strokeWidth={1.4}
              strokeDasharray={up ? undefined : "7 4"}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        );
      })}
      {borders.map((border) => {
        const pick = pickOf(border);
        return (
          <g key={pickKey(pick)} data-edge={pick.kind === "edge" ? pick.name : undefined} {...target(pick)}>
            <path
              d={borderPath(border)}
              fill="none"
              stroke="transparent"
              strokeWidth={13}
              vectorEffect="non-scaling-stroke"
              pointerEvents="stroke"
            />
          </g>
        );
      })}
    </>
  );
});

interface TargetsProps {
  readonly build: PartBuild;
  readonly sheet: Sheet;
  readonly blank: Blank;
  readonly borders: readonly Pickable[];
}

const platePath = (plate: Plate) =>
  plate.regions
    .flatMap(regionLoops)
    .map((l) => curvePath(l, true))
    .join("");
const piecesPath = (pieces: readonly Line[]) => pieces.map((p) => curvePath([p], false)).join("");
const borderPath = (border: Pickable) => border.curves.map((c) => curvePath([c], false)).join("");

/** Lights what is picked, and fainter what the pointer is over. */
function Lit({ sheet, blank, borders }: Omit<TargetsProps, "build">) {
  const picks = useApp((s) => s.view.picks);
  const hovered = useApp((s) => s.view.hovered);
  const centre = useMemo(() => new Map(blank.centreLines.map((c) => [c.bend, c.pieces])), [blank]);
  const plates = useMemo(() => new Map(platesOf(sheet).map((p) => [p.id, p])), [sheet]);
  const lines = (pick: Pick): string => {
    if (pick.kind === "bend") return piecesPath(centre.get(pick.id) ?? []);
    if (pick.kind === "plate" || pick.kind === "corner") return "";
    const key = pickKey(pick);
    return borders
      .filter((b) => pickKey(pickOf(b)) === key)
      .map(borderPath)
      .join("");
  };
  const area = (pick: Pick): string => {
    const plate = pick.kind === "plate" ? plates.get(pick.id) : undefined;
    return plate ? platePath(plate) : "";
  };
  return (
    <g pointerEvents="none">
      <LitPaths lines={hovered.map(lines).join("")} area={hovered.map(area).join("")} />
      <LitPaths lines={picks.map(lines).join("")} area={picks.map(area).join("")} strong />
    </g>
  );
}

/** Lines and plates that are lit alike, each a single path however many they are. */
function LitPaths({ lines, area, strong }: { lines: string; area: string; strong?: boolean }) {
  const amber = { stroke: "var(--amber)", vectorEffect: "non-scaling-stroke" } as const;
  return (
    <>
      {area && (
        <path
          {...amber}
          d={area}
          fill="var(--amber)"
          fillOpacity={strong ? 0.28 : 0.1}
          fillRule="evenodd"
          stroke={strong ? amber.stroke : "none"}
          strokeWidth={2}
        />
      )}
      {lines && <path {...amber} d={lines} fill="none" strokeWidth={strong ? 3.4 : 2.2} />}
    </>
  );
}

type Place = (p: Point) => Point;

/** Corners to point at: seen while corners are being picked, else only under the pointer. */
function CornerTargets({ sheet, place }: { sheet: Sheet; place: Place }) {
  const send = useSend();
  const picking = useApp((s) => s.view.pickingFor?.of === "corner");
  // Its name alone: all corners are drawn anew only when another one is pointed at.
  const hovered = useApp((s) => s.view.hovered.find((p) => p.kind === "corner")?.name);
  const picks = useApp((s) => s.view.picks);
  const offered = useApp(offeredCorners);
  const all = useMemo(() => sheetCorners(sheet), [sheet]);
  const corners = picking ? all.filter((c) => offered?.has(c.name)) : all;
  const lit = new Set(picks.flatMap((p) => (p.kind === "corner" ? [p.name] : [])));
  return corners.map((c) => {
    const { x, y } = place(c.at);
    const strong = lit.has(c.name) || hovered === c.name;
    const pick: Pick = { kind: "corner", name: c.name };
    return (
      <g
        key={`${c.of}:${c.name}`}
        data-corner={c.name}
        data-pick={JSON.stringify(pick)}
        onPointerEnter={() => send(viewActions.hovered([pick]))}
      >
        <circle cx={x} cy={y} r={7} fill="transparent" />
        {(strong || picking) && (
          <circle
            cx={x}
            cy={y}
            r={4}
            fill={strong ? "var(--amber)" : "var(--panel)"}
            stroke="var(--amber)"
            strokeWidth={1.6}
          />
        )}
      </g>
    );
  });
}

/** The middles of openings that are not round, to measure from while the drawer shows measurements. */
function OpeningCentres({ sheet, place }: { sheet: Sheet; place: Place }) {
  const send = useSend();
  const measuring = useApp((s) => s.view.drawer === "measure");
  const picks = useApp((s) => s.view.picks);
  if (!measuring) return null;
  const lit = new Set(picks.map(pickKey));
  return platesOf(sheet).flatMap((plate) =>
    openingLoops(plate.regions).map(({ key, centre }) => {
      const pick: Pick = { kind: "hole", plate: plate.id, key };
      const { x, y } = place(centre);
      return (
        <g
          key={pickKey(pick)}
          data-centre={key}
          data-pick={JSON.stringify(pick)}
          onPointerEnter={() => send(viewActions.hovered([pick]))}
        >
          <circle cx={x} cy={y} r={8} fill="transparent" />
          <path
            d={`M${x - 4} ${y}h8M${x} ${y - 4}v8`}
            stroke={lit.has(pickKey(pick)) ? "var(--amber)" : "var(--quiet)"}
            strokeWidth={lit.has(pickKey(pick)) ? 2.4 : 1.2}
          />
        </g>
      );
    }),
  );
}

// Where along its line a tag may stand, the best first; it goes where it hides no opening.
const PLACES = [0.5, 0.35, 0.65, 0.2, 0.8];
const along = (a: Point, b: Point, f: number): Point => ({
  x: a.x + (b.x - a.x) * f,
  y: a.y + (b.y - a.y) * f,
});
const apart = ({ low, high }: { low: Point; high: Point }, p: Point) =>
  p.x + 22 < low.x || p.x - 22 > high.x || p.y + 12 < high.y || p.y - 12 > low.y;

/** Number and direction of each bend, on its line; lines too short for a tag carry none. */
function BendTags({ build, blank, place }: { build: PartBuild; blank: Blank; place: Place }) {
  const held = useApp((s) => openPart(s).document?.held);
  const rows = useMemo(() => new Map(build.bends.map((b) => [b.id, b])), [build]);
  const boxes = useMemo(() => blank.openings.map(curvesBounds), [blank]);
  const openings = boxes.map((o) => ({
    low: place({ x: o.minX, y: o.minY }),
    high: place({ x: o.maxX, y: o.maxY }),
  }));
  return blank.centreLines.map(({ bend, pieces }) => {
    const row = rows.get(bend);
    if (!row || pieces.length === 0) return null;
    const longest = pieces.reduce((a, b) =>
      Math.hypot(b.b.x - b.a.x, b.b.y - b.a.y) > Math.hypot(a.b.x - a.a.x, a.b.y - a.a.y) ? b : a,
    );
    const [a, b] = [place(longest.a), place(longest.b)];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    if (length < 22) return null;
    const clear = PLACES.find((f) => openings.every((o) => apart(o, along(a, b, f))));
    const at = along(a, b, clear ?? 0.5);
    const ink = row.up ? "var(--bend-up)" : "var(--bend-down)";
    const text = `${row.number}${row.up ? "▲" : "▼"}${held?.includes(bend) ? " flat" : ""}`;
    const w = 13 + text.length * 7;
    return (
      <g
        key={bend}
        transform={`translate(${at.x} ${at.y})`}
        data-pick={JSON.stringify({ kind: "bend", id: bend })}
        className="cursor-pointer"
      >
        <rect x={-w / 2} y={-8.5} width={w} height={17} rx={8.5} fill="var(--panel)" stroke={ink} />
        <text textAnchor="middle" dy="3.8" fill={ink} className="num" fontSize={11}>
          {text}
        </text>
      </g>
    );
  });
}
