import {
  type Blank,
  type Bounds,
  curvePath,
  formatFixed,
  formedOf,
  type Line,
  type Loop,
  loopBounds,
  NearCurves,
  openingLoops,
  type PartBuild,
  type Pickable,
  type Plate,
  type Point,
  platesOf,
  regionLoops,
  ribsIn,
  type Sheet,
} from "@hillcrest/core";
import { memo, useCallback, useEffect, useMemo, useRef } from "react";
import { offeredCorners, openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { pointing } from "../../state/pointing.ts";
import { useApp, useSend } from "../../state/store.ts";
import { noteMoment } from "../../state/timing.ts";
import { type Pick, pickKey, viewActions } from "../../state/view-slice.ts";
import { useTheme } from "../../ui/theme.ts";
import { pickOf } from "../pick-names.ts";
import { isRound, type PickPlaces, pickPlacesOf } from "../pick-places.ts";
import { FoundOnBlank } from "./found-on-blank.ts";
import { type BendStrokes, MANY_BENDS, MANY_OPENINGS, MetalCanvas } from "./metal-canvas.tsx";
import { OverallSize } from "./overall-size.tsx";
import { PlaceDrawing, type TypedDimension } from "./place-drawing.tsx";
import { useSize, useWindow, type Window } from "./use-window.ts";

interface BlankViewProps {
  readonly Typed?: TypedDimension;
  readonly onPick: (
    pick: Pick | undefined,
    e: { clientX: number; clientY: number; shiftKey: boolean },
  ) => void;
}

/** The flat pattern: zoomed with the wheel to the pointer, moved with a drag, picked like the folded part. */
export function BlankView({ onPick, Typed }: BlankViewProps) {
  const shown = useApp((s) => openBuild(s).shown);
  if (!shown?.build.sheet || !shown.build.blank) return null;
  return (
    <Drawing
      build={shown.build}
      sheet={shown.build.sheet}
      blank={shown.build.blank}
      onPick={onPick}
      Typed={Typed}
    />
  );
}

function Drawing({
  build,
  sheet,
  blank,
  onPick,
  Typed,
}: BlankViewProps & { build: PartBuild; sheet: Sheet; blank: Blank }) {
  const send = useSend();
  const host = useRef<SVGSVGElement>(null);
  const size = useSize(host);
  const places = useMemo(() => pickPlacesOf(sheet), [sheet]);
  const many = blank.openings.length > MANY_OPENINGS || blank.centreLines.length > MANY_BENDS;
  const theme = useTheme();
  const found = useFound(places, blank, many);
  const find = (e: Pointed, seen: Window) => pickUnder(e, host.current!, seen, found);
  const { x, y, zoom, drag } = useWindow(host, blank, size, (e, seen) => onPick(find(e, seen), e));
  useEffect(() => {
    noteMoment("blank-drawn", blank.area);
  }, [blank]);
  const transform = `translate(${size.width / 2 - x * zoom} ${size.height / 2 + y * zoom}) scale(${zoom})`;
  const place: Place = (p) => ({
    x: (p.x - x) * zoom + size.width / 2,
    y: (y - p.y) * zoom + size.height / 2,
  });
  const seen = useMemo(() => ({ x, y, zoom }), [x, y, zoom]);
  const pointed = usePointing(
    many,
    (e) => find(e, seen),
    () => 1 / seen.zoom,
    drag.onPointerMove,
  );
  const lit = useLitPlates(sheet, many);
  const bends = useMemo(() => (many ? bendStrokes(build, blank) : undefined), [build, blank, many]);
  return (
    <>
      {many && size.width > 0 && (
        <MetalCanvas blank={blank} seen={seen} size={size} lit={lit} bends={bends} theme={theme} />
      )}
      <svg
        ref={host}
        data-view="blank"
        className="absolute inset-0 size-full touch-none select-none"
        role="img"
        aria-label={`Blank ${formatFixed(blank.width)} by ${formatFixed(blank.height)} millimetres`}
        onContextMenu={(e) => e.preventDefault()}
        {...drag}
        onPointerMove={pointed}
        onPointerLeave={() => {
          pointing.left();
          send(viewActions.hovered([]));
        }}
      >
        {size.width > 0 && (
          <>
            <g transform={transform}>
              <Metal build={build} blank={blank} many={many} />
              {!many && <Targets build={build} sheet={sheet} blank={blank} places={places} />}
              <Lit sheet={sheet} blank={blank} places={places} many={many} />
            </g>
            <CornerTargets places={places} place={place} size={size} many={many} />
            <OpeningCentres sheet={sheet} place={place} size={size} />
            <BendTags build={build} blank={blank} place={place} zoom={zoom} />
            <PlaceDrawing build={build} place={place} Typed={Typed} />
            <OverallSize bounds={blank.bounds} place={place} beside={26} />
          </>
        )}
      </svg>
    </>
  );
}

interface Pointed {
  readonly target: EventTarget;
  readonly clientX: number;
  readonly clientY: number;
}

/** What is at a place of a blank that is drawn by the canvas. It is laid out when somebody first points at it. */
function useFound(places: PickPlaces, blank: Blank, many: boolean): (() => FoundOnBlank) | undefined {
  return useMemo(() => {
    let made: FoundOnBlank | undefined;
    return many
      ? () => {
          made ??= new FoundOnBlank(places, blank);
          return made;
        }
      : undefined;
  }, [places, blank, many]);
}

/** The lines of all bends as the canvas draws them. */
function bendStrokes(build: PartBuild, blank: Blank): BendStrokes {
  const rows = new Map(build.bends.map((b) => [b.id, b]));
  const ways = { up: "", down: "" };
  for (const { bend, pieces } of blank.centreLines)
    ways[(rows.get(bend)?.up ?? true) ? "up" : "down"] += piecesPath(pieces);
  return { ...ways, tangents: blank.tangentLines.map((t) => piecesPath(t.pieces)).join("") };
}

/** Where the canvas draws the blank, what the pointer is over is looked up as it moves. */
function usePointing(
  many: boolean,
  find: (e: Pointed) => Pick | undefined,
  mmPerPx: () => number,
  onMove: (e: React.PointerEvent) => void,
) {
  const send = useSend();
  const queued = useRef(0);
  const over = useRef("");
  useEffect(() => () => cancelAnimationFrame(queued.current), []);
  return (e: React.PointerEvent) => {
    onMove(e);
    if (e.buttons !== 0) return;
    const at = { target: e.target, clientX: e.clientX, clientY: e.clientY };
    pointing.at(at, () => {
      const pick = find(at);
      return pick && { pick, mmPerPx: mmPerPx() };
    });
    // Elements say themselves when the pointer comes to them; beside all of them nothing is pointed at.
    if (!many && !(e.target as Element).closest("[data-pick]")) send(viewActions.hovered([]));
    if (!many) return;
    cancelAnimationFrame(queued.current);
    queued.current = requestAnimationFrame(() => {
      const found = find(at);
      const key = found ? pickKey(found) : "";
      if (key === over.current) return;
      over.current = key;
      send(viewActions.hovered(found ? [found] : []));
    });
  };
}

/** The plates that are picked or pointed at, as the canvas draws them. */
function useLitPlates(sheet: Sheet, many: boolean) {
  const picks = useApp((s) => s.view.picks);
  const hovered = useApp((s) => s.view.hovered);
  const ids = (list: readonly Pick[]) =>
    list.flatMap((p) => (many && p.kind === "plate" ? [p.id] : [])).join();
  const [strong, faint] = [ids(picks), ids(hovered)];
  return useMemo(() => {
    const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
    const of = (list: string, strong: boolean) =>
      list.split(",").flatMap((id) => {
        const plate = plates.get(id);
        // Its openings are taken out with those of the blank.
        return plate ? [{ path: outerPath(plate), strong }] : [];
      });
    return [...of(faint, false), ...of(strong, true)];
  }, [sheet, strong, faint]);
}

/**
 * The pick under a pointer: elements carry theirs as data. A plate's pick also has the place. What is no element, for
 * there is too much of it, is found by where it is.
 */
function pickUnder(
  e: Pointed,
  host: SVGSVGElement,
  view: Window,
  found: (() => FoundOnBlank) | undefined,
): Pick | undefined {
  const frame = host.getBoundingClientRect();
  const x = (e.clientX - frame.left - frame.width / 2) / view.zoom + view.x;
  const y = view.y - (e.clientY - frame.top - frame.height / 2) / view.zoom;
  const data = (e.target as SVGElement).closest<SVGElement>("[data-pick]")?.dataset.pick;
  if (!data) return found?.().at({ x, y }, view.zoom);
  const pick = JSON.parse(data) as Pick;
  return pick.kind === "plate" ? { ...pick, x, y } : pick;
}

/** The metal, but for what the canvas draws. */
const Metal = memo(function Metal({ build, blank, many }: { build: PartBuild; blank: Blank; many: boolean }) {
  const d = useMemo(
    () => (many ? "" : [...blank.outlines, ...blank.openings].map((l) => curvePath(l, true)).join("")),
    [blank, many],
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
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.4}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <Marks build={build} blank={blank} />
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

/** Where something is formed: its outline faintly, and strongly what is marked on the blank for it. */
function Marks({ build, blank }: { build: PartBuild; blank: Blank }) {
  const loops = [...formedOf(build.sheet).map((f) => f.outline), ...ribsIn(build.sheet).map((r) => r.zone)];
  const outlines = loops.map((loop) => curvePath(loop, true)).join("");
  const marks = blank.marks.flatMap(({ curves }) => curves.map((c) => curvePath([c], false))).join("");
  if (outlines === "") return null;
  const look = { fill: "none", vectorEffect: "non-scaling-stroke", pointerEvents: "none" } as const;
  return (
    <>
      <path d={outlines} stroke="var(--ink)" strokeOpacity={0.28} strokeWidth={1} {...look} />
      <path data-marks d={marks} stroke="var(--moss)" strokeWidth={1.2} {...look} />
    </>
  );
}

/** What the pointer can meet, drawn once for a shape: plates, bend lines, and wide invisible borders. */
const Targets = memo(function Targets({ build, sheet, blank, places }: TargetsProps) {
  const send = useSend();
  const target = (pick: Pick) => ({
    "data-pick": JSON.stringify(pick),
    onPointerEnter: () => send(viewActions.hovered([pick])),
  });
  const rows = new Map(build.bends.map((b) => [b.id, b]));
  const rounds = places.borders.filter(isRound);
  const tangents = blank.tangentLines.map((t) => piecesPath(t.pieces)).join("");
  return (
    <>
      {/* Beneath the plates: one that stands within an opening is pointed at itself. */}
      {rounds.map((border) => (
        <path
          key={pickKey(pickOf(border))}
          data-within={border.role}
          d={borderPath(border)}
          fill="transparent"
          {...target(pickOf(border))}
        />
      ))}
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
      {places.borders.map((border) => {
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
  readonly places: PickPlaces;
}

interface LitProps extends Omit<TargetsProps, "build"> {
  /** Whether the canvas draws the blank, and lights plates. */
  readonly many: boolean;
}

const outerPath = (plate: Plate) => plate.regions.map((r) => curvePath(r.outer, true)).join("");
const platePath = (plate: Plate) =>
  plate.regions
    .flatMap(regionLoops)
    .map((l) => curvePath(l, true))
    .join("");
const piecesPath = (pieces: readonly Line[]) => pieces.map((p) => curvePath([p], false)).join("");
const borderPath = (border: Pickable) => border.curves.map((c) => curvePath([c], false)).join("");

/** Lights what is picked, and fainter what the pointer is over. */
function Lit({ sheet, blank, places, many }: LitProps) {
  const picks = useApp((s) => s.view.picks);
  const hovered = useApp((s) => s.view.hovered);
  const centre = useMemo(() => new Map(blank.centreLines.map((c) => [c.bend, c.pieces])), [blank]);
  const plates = useMemo(() => new Map(platesOf(sheet).map((p) => [p.id, p])), [sheet]);
  const lines = (pick: Pick): string => {
    if (pick.kind === "bend") return piecesPath(centre.get(pick.id) ?? []);
    if (pick.kind === "plate" || pick.kind === "corner") return "";
    return places.named(pickKey(pick)).map(borderPath).join("");
  };
  const area = (pick: Pick): string => {
    const plate = pick.kind === "plate" && !many ? plates.get(pick.id) : undefined;
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

interface CornerTargetsProps {
  readonly places: PickPlaces;
  readonly place: Place;
  readonly size: { readonly width: number; readonly height: number };
  /** Whether they are found by where they are: then those alone are elements that are to be seen. */
  readonly many: boolean;
}

/** Corners to point at: seen while corners are being picked, else only under the pointer. */
function CornerTargets({ places, place, size, many }: CornerTargetsProps) {
  const send = useSend();
  const picking = useApp((s) => s.view.pickingFor?.of === "corner");
  // Its name alone: all corners are drawn anew only when another one is pointed at.
  const hovered = useApp((s) => s.view.hovered.find((p) => p.kind === "corner")?.name);
  const picks = useApp((s) => s.view.picks);
  const offered = useApp(offeredCorners);
  const corners = picking ? places.corners.filter((c) => offered?.has(c.name)) : places.corners;
  const lit = new Set(picks.flatMap((p) => (p.kind === "corner" ? [p.name] : [])));
  return corners.map((c) => {
    const { x, y } = place(c.at);
    const strong = lit.has(c.name) || hovered === c.name;
    if (many && !strong && !picking) return null;
    if (many && (x < -9 || y < -9 || x > size.width + 9 || y > size.height + 9)) return null;
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
function OpeningCentres({
  sheet,
  place,
  size,
}: {
  sheet: Sheet;
  place: Place;
  size: { readonly width: number; readonly height: number };
}) {
  const send = useSend();
  const measuring = useApp((s) => s.view.drawer === "measure");
  const picks = useApp((s) => s.view.picks);
  const all = useMemo(
    () =>
      measuring
        ? platesOf(sheet).flatMap((plate) =>
            openingLoops(plate.regions).map((o) => ({ ...o, plate: plate.id })),
          )
        : [],
    [sheet, measuring],
  );
  if (!measuring) return null;
  const lit = new Set(picks.map(pickKey));
  const seen = all.flatMap((one) => {
    const { x, y } = place(one.centre);
    return x < 0 || y < 0 || x > size.width || y > size.height ? [] : [{ ...one, x, y }];
  });
  // So many would hide what they are the middles of: closer to, there are fewer.
  if (seen.length > MANY_OPENINGS) return null;
  return seen.map(({ key, plate, x, y }) => {
    const pick: Pick = { kind: "hole", plate, key };
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
  });
}

// Where along its line a tag may stand, the best first; it goes where it hides no opening.
const PLACES = [0.5, 0.35, 0.65, 0.2, 0.8];
const along = (a: Point, b: Point, f: number): Point => ({
  x: a.x + (b.x - a.x) * f,
  y: a.y + (b.y - a.y) * f,
});
/** Half as wide and as high as a tag, pixels. */
const TAG = { x: 22, y: 12 };

interface BendTagsProps {
  readonly build: PartBuild;
  readonly blank: Blank;
  readonly place: Place;
  readonly zoom: number;
}

/** Number and direction of each bend, on its line; lines too short for a tag carry none. */
function BendTags({ build, blank, place, zoom }: BendTagsProps) {
  const held = useApp((s) => openPart(s).document?.held);
  const rows = useMemo(() => new Map(build.bends.map((b) => [b.id, b])), [build]);
  const openings = useMemo(() => {
    // Without bends nobody asks.
    const asked = blank.centreLines.length > 0 ? blank.openings : [];
    return new NearCurves(asked.map((loop: Loop) => ({ box: loopBounds(loop) })));
  }, [blank]);
  const hidesNone = useCallback(
    ({ x, y }: Point): boolean => {
      const [w, h] = [TAG.x / zoom, TAG.y / zoom];
      const tag: Bounds = { minX: x - w, maxX: x + w, minY: y - h, maxY: y + h };
      return openings.near(tag).length === 0;
    },
    [openings, zoom],
  );
  return blank.centreLines.map(({ bend, pieces }) => {
    const row = rows.get(bend);
    if (!row || pieces.length === 0) return null;
    const longest = pieces.reduce((a, b) =>
      Math.hypot(b.b.x - b.a.x, b.b.y - b.a.y) > Math.hypot(a.b.x - a.a.x, a.b.y - a.a.y) ? b : a,
    );
    const [a, b] = [place(longest.a), place(longest.b)];
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    if (length < 22) return null;
    const clear = PLACES.find((f) => hidesNone(along(longest.a, longest.b, f)));
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
