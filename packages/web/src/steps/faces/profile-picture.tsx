import { cornerOf, formatShort, type RowValue, rowsOf, toDegrees } from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { useRef } from "react";
import { openBuild } from "../../state/build-slice.ts";
import { setRow } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useAsk } from "../../state/store.ts";
import type { FieldContext } from "./step-face.ts";

type XY = readonly [number, number];

interface ChainEnd {
  readonly key: string;
  readonly at: XY;
  /** Direction in which the leg arrives, radians. */
  readonly heading: number;
  readonly start: XY;
  readonly arc: boolean;
}

const WIDTH = 304;
const HEIGHT = 150;
const PAD = 18;

/** The chain of a profile's rows: straight legs and arcs, one after the other. */
function chainOf(
  rows: readonly RowValue[],
  angles: string,
): { path: string; ends: ChainEnd[]; points: XY[] } {
  let [x, y, heading] = [0, 0, 0];
  const parts = ["M0 0"];
  const ends: ChainEnd[] = [];
  const points: XY[] = [[0, 0]];
  rows.forEach((row, i) => {
    const { length = 0, turn = 0, radius = 0, corner = 0 } = row.quantities;
    const start: XY = [x, y];
    const arc = row.choices.form === "arc";
    if (arc) {
      const n = Math.max(2, Math.ceil(Math.abs(turn) / 0.1));
      const side = turn > 0 ? 1 : -1;
      const [cx, cy] = [x - side * radius * Math.sin(heading), y + side * radius * Math.cos(heading)];
      for (let k = 1; k <= n; k++) {
        const a = heading + (turn * k) / n;
        [x, y] = [cx + side * radius * Math.sin(a), cy - side * radius * Math.cos(a)];
        parts.push(`L${x} ${y}`);
        points.push([x, y]);
      }
      heading += turn;
    } else {
      x += length * Math.cos(heading);
      y += length * Math.sin(heading);
      parts.push(`L${x} ${y}`);
      points.push([x, y]);
    }
    ends.push({ key: row.key, at: [x, y], heading, start, arc });
    if (i < rows.length - 1) heading += cornerOf(arc ? corner : turn, angles);
  });
  return { path: parts.join(""), ends, points };
}

/** Where the chain stands in its picture: a place of the chain in pixels, and back. */
function fitChain(points: readonly XY[]) {
  const [minX, maxX] = [Math.min(...points.map((p) => p[0])), Math.max(...points.map((p) => p[0]))];
  const [minY, maxY] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))];
  const zoom = Math.min((WIDTH - 2 * PAD) / (maxX - minX || 1), (HEIGHT - 2 * PAD) / (maxY - minY || 1), 6);
  const ox = WIDTH / 2 - ((minX + maxX) / 2) * zoom;
  const oy = HEIGHT / 2 + ((minY + maxY) / 2) * zoom;
  return {
    transform: `translate(${ox} ${oy}) scale(${zoom} ${-zoom})`,
    zoom,
    place: ([x, y]: XY): XY => [ox + x * zoom, oy - y * zoom],
    back: ([x, y]: XY): XY => [(x - ox) / zoom, (oy - y) / zoom],
  };
}

/** What a leg and the corner before it become when its end is dragged to a place, as text; fine steps with Shift. */
function draggedLeg(end: ChainEnd, before: ChainEnd | undefined, at: XY, fine: boolean, angles: string) {
  const [dx, dy] = [at[0] - end.start[0], at[1] - end.start[1]];
  const far = Math.hypot(dx, dy);
  // A leg is not rounded to nothing.
  const along = Math.max(0, dx * Math.cos(end.heading) + dy * Math.sin(end.heading));
  const length = formatShort(fine ? Math.round(far * 10) / 10 : Math.round(far) || along);
  if (!before || before.arc) return { length };
  let turn = toDegrees(Math.atan2(dy, dx) - before.heading);
  turn = ((((turn + 180) % 360) + 360) % 360) - 180;
  const snap = fine ? 1 : 5;
  const snapped = Math.round(turn / snap) * snap;
  const inside = Math.sign(snapped || 1) * (180 - Math.abs(snapped));
  return { length, turn: formatShort(angles === "inside" ? inside : snapped) };
}

interface Drag {
  readonly end: ChainEnd;
  readonly before: ChainEnd | undefined;
  readonly mark: string;
}

/** A profile's section, live: the chain and its metal; the end of a leg is dragged to change it. */
export function ProfilePicture({ context }: { context: FieldContext }) {
  const { step, values } = context;
  const rows = values?.rows.legs;
  const wrong = useApp((s) => openBuild(s).latest?.steps.find((o) => o.id === step.id)?.state === "wrong");
  const host = useRef<SVGSVGElement>(null);
  const drag = useRef<Drag | undefined>(undefined);
  const ask = useAsk();
  if (!rows || rows.length === 0 || values.choices.by === "drawn") return null;
  const { angles } = values.choices;
  const { path, ends, points } = chainOf(rows, angles);
  const { transform, zoom, place, back } = fitChain(points);
  const move = (e: React.PointerEvent) => {
    if (!drag.current) return;
    const { end, before, mark } = drag.current;
    const frame = host.current!.getBoundingClientRect();
    const at = back([e.clientX - frame.left, e.clientY - frame.top]);
    const { length, turn } = draggedLeg(end, before, at, e.shiftKey, angles);
    setRow(step, "legs", end.key, "length", length, mark);
    if (!before || turn === undefined) return;
    // The first of two changes has left another step behind.
    const fresh = ask((s) => openPart(s).document?.steps.find((o) => o.id === step.id)) ?? step;
    setRow(fresh, "legs", before.key, "turn", turn, mark);
  };
  return (
    <figure className="mt-2">
      <svg
        ref={host}
        width={WIDTH}
        height={HEIGHT}
        data-profile
        className="w-full touch-none rounded-md border border-hairline bg-raised select-none"
        role="img"
        aria-label="Section of the profile"
        onPointerMove={move}
        onPointerUp={() => {
          drag.current = undefined;
        }}
      >
        <g transform={transform}>
          <path
            d={path}
            fill="none"
            stroke="var(--metal-edge)"
            strokeWidth={Math.max(context.stock?.thickness ?? 1, 3 / zoom)}
            strokeLinejoin="round"
          />
          <path
            d={path}
            fill="none"
            stroke={wrong ? "var(--stop)" : "var(--bend-up)"}
            strokeWidth={1.2}
            vectorEffect="non-scaling-stroke"
          />
        </g>
        <LegEnds ends={ends} place={place} onGrab={(grabbed) => (drag.current = grabbed)} />
      </svg>
      <figcaption className="text-[11.5px] leading-snug text-quiet">
        Drag a leg's end; with Shift in finer steps. {rowsOf(step, "legs").length} legs, seen from the right
        end.
      </figcaption>
    </figure>
  );
}

interface LegEndsProps {
  readonly ends: readonly ChainEnd[];
  readonly place: (p: XY) => XY;
  readonly onGrab: (drag: Drag) => void;
}

/** The ends of the legs; those of straight ones can be dragged. */
function LegEnds({ ends, place, onGrab }: LegEndsProps) {
  return ends.map((end, i) => {
    const [x, y] = place(end.at);
    return (
      <circle
        key={end.key}
        data-leg-end={end.key}
        cx={x}
        cy={y}
        r={5}
        className={end.arc ? "" : "cursor-grab"}
        fill="var(--panel)"
        stroke="var(--amber)"
        strokeWidth={1.6}
        onPointerDown={(e) => {
          if (end.arc) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          onGrab({ end, before: ends[i - 1], mark: `profile:${nanoid()}` });
        }}
      >
        <title>Drag the end of leg {i + 1}</title>
      </circle>
    );
  });
}
