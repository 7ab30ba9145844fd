import {
  type BlankSettings,
  type Comparison,
  formatFixed,
  joinBounds,
  type MeasureEnd,
  type PartBuild,
  type PartDocument,
  type Point,
} from "@hillcrest/core";
import { type PointerEvent, useMemo, useRef, useState } from "react";
import { blankSettings, partPreset } from "../../state/exporting.ts";
import { useApp } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { type Framed, useSize, useWindow } from "../../views/blank/use-window.ts";
import { type DimensionUse, dimensionBounds } from "./blank-dimensions.tsx";
import { BlankDrawing } from "./blank-drawing.tsx";
import { type SheetDrawn, type Target, targetsOf } from "./sheet-geometry.ts";

interface BlankCanvasProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly drawn: SheetDrawn;
  /** Whether things are pointed at: while they are picked for a dimension, a datum, or to lie level. */
  readonly picking: boolean;
  /** What may be picked; all that can be measured if nothing is said. */
  readonly only?: MeasureEnd["kind"];
  readonly first?: MeasureEnd;
  readonly onPick: (end: MeasureEnd) => void;
  readonly dimensions: DimensionUse;
  readonly onNothing: () => void;
  readonly comparison?: Comparison;
}

/** The blank, large: zoomed with the wheel to the pointer, moved with a drag. */
export function BlankCanvas(props: BlankCanvasProps) {
  const { document, build, drawn, picking, onPick, onNothing, dimensions, comparison } = props;
  const host = useRef<SVGSVGElement>(null);
  const size = useSize(host);
  const { blank } = drawn.placed;
  const targetOf = (e: PointerEvent) =>
    (e.target as SVGElement).closest<SVGElement>("[data-end]")?.dataset.end;
  const settings = useApp(blankSettings);
  const framed = useMemo(() => framedWith(settings, build, drawn), [settings, build, drawn]);
  const ordinates = settings.shows?.includes("ordinates") ?? false;
  const { x, y, zoom, drag } = useWindow(
    host,
    framed,
    size,
    (e) => {
      const end = targetOf(e);
      if (end) onPick(JSON.parse(end) as MeasureEnd);
      else onNothing();
    },
    { left: ordinates ? 84 : 44, right: 62, top: 48, bottom: ordinates ? 112 : 56 },
  );
  const { preset } = useApp(partPreset);
  const units = useUnits();
  const transform = `translate(${size.width / 2 - x * zoom} ${size.height / 2 + y * zoom}) scale(${zoom})`;
  const place = (p: Point): Point => ({
    x: (p.x - x) * zoom + size.width / 2,
    y: (y - p.y) * zoom + size.height / 2,
  });
  const drawing = {
    document,
    build,
    drawn,
    settings,
    preset,
    units,
    zoom,
    place,
    transform,
    dimensions,
    comparison,
  };
  return (
    <svg
      ref={host}
      data-view="blank"
      className={`absolute inset-0 size-full touch-none select-none ${picking ? "cursor-crosshair" : ""}`}
      role="img"
      aria-label={`Blank ${formatFixed(blank.width)} by ${formatFixed(blank.height)} millimetres`}
      onContextMenu={(e) => e.preventDefault()}
      {...drag}
    >
      {size.width > 0 && (
        <>
          <BlankDrawing {...drawing} />
          {picking && <Targets {...props} place={place} transform={transform} />}
        </>
      )}
    </svg>
  );
}

/** What is to be seen: the blank with all its dimensions. */
function framedWith(settings: BlankSettings, build: PartBuild, drawn: SheetDrawn): Framed {
  const bounds = joinBounds(drawn.placed.blank.bounds, dimensionBounds(settings, build, drawn));
  return { bounds, width: bounds.maxX - bounds.minX, height: bounds.maxY - bounds.minY };
}

/** What can be pointed at while something is picked: it lights up under the pointer. */
function Targets({
  build,
  drawn,
  only,
  first,
  place,
  transform,
}: BlankCanvasProps & { place: (p: Point) => Point; transform: string }) {
  const [over, setOver] = useState<string>();
  const shown = useMemo(
    () =>
      targetsOf(build.sheet!, drawn.placed)
        .filter((t) => !only || t.end.kind === only)
        .map((t) => ({ ...t, id: JSON.stringify(t.end) })),
    [build, drawn, only],
  );
  const chosen = first && JSON.stringify(first);
  const ink = (t: Target & { id: string }) =>
    t.id === over || t.id === chosen ? "var(--amber)" : "transparent";
  const mark = (id: string) => ({
    "data-end": id,
    onPointerEnter: () => setOver(id),
    onPointerLeave: () => setOver(undefined),
  });
  return (
    <>
      <g transform={transform}>
        {shown.map(
          (t) =>
            t.path && (
              <g key={t.id} {...mark(t.id)}>
                <path
                  d={t.path}
                  fill="none"
                  stroke="transparent"
                  strokeWidth={12}
                  pointerEvents="stroke"
                  vectorEffect="non-scaling-stroke"
                />
                <path
                  d={t.path}
                  fill="none"
                  stroke={ink(t)}
                  strokeWidth={3.4}
                  vectorEffect="non-scaling-stroke"
                  pointerEvents="none"
                />
              </g>
            ),
        )}
      </g>
      {shown.map((t) => {
        if (!t.at) return null;
        const { x, y } = place(t.at);
        return (
          <g key={t.id} {...mark(t.id)}>
            <circle cx={x} cy={y} r={7} fill="transparent" />
            <circle
              cx={x}
              cy={y}
              r={3}
              fill={ink(t)}
              stroke="var(--quiet)"
              strokeWidth={0.8}
              pointerEvents="none"
            />
          </g>
        );
      })}
    </>
  );
}
