import {
  dimensionOf,
  formatShort,
  lengthText,
  type OutlineDimension,
  RELATION_WORDS,
  toDegrees,
  type Units,
  type XY,
} from "@hillcrest/core";
import { memo, type PointerEvent, useMemo, useRef, useState } from "react";
import { putOutline } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import type { Window } from "../../../views/blank/use-window.ts";
import { DimensionValue } from "./dimension-value.tsx";
import type { LayerProps } from "./drawing-layers.tsx";
import { RELATION_GLYPHS } from "./glyphs.tsx";
import { layOut, MARK } from "./layout.ts";
import type { Drawing } from "./use-drawing.ts";

interface AnnotationProps extends LayerProps {
  /** What is seen, as numbers: they stay the same while the pointer moves. */
  readonly left: number;
  readonly top: number;
  readonly zoom: number;
  /** While something is drawn marks are not in the way of the pointer. */
  readonly quiet: boolean;
}

/** What a dimension says in the units of the part. */
const textIn = (units: Units) => (d: OutlineDimension, value: number) => {
  const sign = { radius: "R ", diameter: "⌀ ", arcLength: "⌒ " }[d.kind as string] ?? "";
  const number =
    dimensionOf(d.kind) === "angle" ? `${formatShort(toDegrees(value), 2)}°` : lengthText(value, units);
  const text = `${d.name ? `${d.name} = ` : ""}${sign}${number}`;
  return d.showing ? `(${text})` : text;
};

/** Marks of relations and dimensions, which can be picked; a dimension's text is dragged to where it reads best. */
export const Annotations = memo(function Annotations(props: AnnotationProps) {
  const { drawing, now, screen, picks, quiet, left, top, zoom } = props;
  const seen = { x: left, y: top, zoom };
  const units = useUnits();
  const { solved } = drawing;
  const textOf = useMemo(() => textIn(units), [units]);
  const { marks, dimensions } = useMemo(
    () => layOut(now, solved, screen, textOf),
    [now, solved, screen, textOf],
  );
  const wrong = new Set([...solved.conflicts, ...solved.problems.flatMap((p) => p.of ?? [])]);
  const colour = (id: string) => (wrong.has(id) ? "var(--stop)" : "var(--quiet)");
  const send = useSend();
  // A dimension is typed where it stands, after a double click on it.
  const [typing, setTyping] = useState<string>();
  const text = useTextDrag(drawing, seen, (id, add) => send(drawingActions.picked({ id, add })));
  return (
    <g pointerEvents={quiet ? "none" : undefined}>
      {dimensions.map((d) => {
        const at = text.at(d.id) ?? d.at;
        const ink = wrong.has(d.id) ? "var(--stop)" : "var(--ink)";
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: by the keyboard its value is typed while it is picked
          <g
            key={d.id}
            data-dimension={d.id}
            data-thing={d.id}
            className="num cursor-pointer"
            {...text.handlers(d.id, d.at)}
            onDoubleClick={() => setTyping(d.id)}
          >
            <path d={d.path} fill="none" stroke={colour(d.id)} strokeWidth={0.9} />
            <rect
              x={at[0] - d.width / 2}
              y={at[1] - 8}
              width={d.width}
              height={16}
              rx={3}
              fill={picks.includes(d.id) ? "var(--amber-soft)" : "var(--ground)"}
              stroke={picks.includes(d.id) ? "var(--amber)" : wrong.has(d.id) ? "var(--stop)" : "none"}
            />
            <text x={at[0]} y={at[1] + 4} textAnchor="middle" fontSize={11.5} fill={ink}>
              {d.text}
            </text>
          </g>
        );
      })}
      {typing !== undefined && (
        <TypedHere
          drawing={drawing}
          dimension={now.dimensions.find((d) => d.id === typing && !d.showing)}
          at={dimensions.find((d) => d.id === typing)?.at}
          onDone={() => setTyping(undefined)}
        />
      )}
      {marks.map((m, i) => (
        <MarkGlyph
          key={`${m.id} ${i}`}
          id={m.id}
          kind={m.kind}
          x={m.at[0]}
          y={m.at[1]}
          wrong={wrong.has(m.id)}
          picked={picks.includes(m.id)}
        />
      ))}
    </g>
  );
});

interface TypedHereProps {
  readonly drawing: Drawing;
  /** None where it only shows what it comes to, or is gone. */
  readonly dimension: OutlineDimension | undefined;
  readonly at: readonly [number, number] | undefined;
  readonly onDone: () => void;
}

function TypedHere({ drawing, dimension, at, onDone }: TypedHereProps) {
  if (!dimension || !at) return null;
  return (
    <foreignObject x={at[0] - 60} y={at[1] - 13} width={180} height={28} data-typing={dimension.id}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: keeps the drawing from taking what is pressed in the field */}
      <span
        className="inline-block rounded bg-panel px-1 shadow-card"
        onPointerDown={(e) => e.stopPropagation()}
        onBlur={onDone}
      >
        <DimensionValue drawing={drawing} dimension={dimension} autoFocus />
      </span>
    </foreignObject>
  );
}

interface GlyphProps {
  readonly id: string;
  readonly kind: keyof typeof RELATION_GLYPHS;
  readonly x: number;
  readonly y: number;
  readonly wrong: boolean;
  readonly picked: boolean;
}

const MarkGlyph = memo(function MarkGlyph({ id, kind, x, y, wrong, picked }: GlyphProps) {
  const ink = wrong ? "var(--stop)" : "var(--moss)";
  return (
    <g
      data-thing={id}
      data-mark={kind}
      transform={`translate(${x} ${y})`}
      color={ink}
      className="cursor-pointer"
    >
      <title>{RELATION_WORDS[kind]}</title>
      <rect
        x={-MARK / 2}
        y={-MARK / 2}
        width={MARK}
        height={MARK}
        rx={3.5}
        fill={picked ? "var(--amber-soft)" : "var(--panel)"}
        stroke={picked ? "var(--amber)" : ink}
        strokeWidth={picked || wrong ? 1.6 : 0.6}
        strokeOpacity={picked || wrong ? 1 : 0.5}
      />
      <g fill="none" stroke="currentColor" strokeWidth={1.2} strokeLinecap="round">
        {RELATION_GLYPHS[kind]}
      </g>
    </g>
  );
});

/** A dimension's text is put where it reads best. */
function useTextDrag(drawing: Drawing, seen: Window, onPick: (id: string, add: boolean) => void) {
  const held = useRef<{ id: string; from: XY; at: XY; to?: XY } | undefined>(undefined);
  const [shown, setShown] = useState<{ id: string; at: XY }>();
  return {
    at: (id: string): XY | undefined => (shown?.id === id ? shown.at : undefined),
    handlers: (id: string, at: XY) => ({
      onPointerDown: (e: PointerEvent) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { id, from: [e.clientX, e.clientY], at };
      },
      onPointerMove: (e: PointerEvent) => {
        const h = held.current;
        if (h?.id !== id) return;
        e.stopPropagation();
        const by: XY = [e.clientX - h.from[0], e.clientY - h.from[1]];
        if (!h.to && Math.hypot(...by) < 4) return;
        h.to = [h.at[0] + by[0], h.at[1] + by[1]];
        setShown({ id, at: h.to });
      },
      onPointerUp: (e: PointerEvent) => {
        const h = held.current;
        held.current = undefined;
        if (h?.id !== id) return;
        e.stopPropagation();
        if (!h.to) return onPick(id, e.shiftKey);
        setShown(undefined);
        const box = e.currentTarget.closest("svg")!.getBoundingClientRect();
        const where: XY = [
          Number(((h.to[0] - box.width / 2) / seen.zoom + seen.x).toFixed(3)),
          Number((seen.y - (h.to[1] - box.height / 2) / seen.zoom).toFixed(3)),
        ];
        putOutline(drawing.key, {
          ...drawing.outline,
          dimensions: drawing.outline.dimensions.map((d) => (d.id === id ? { ...d, where } : d)),
        });
      },
    }),
  };
}
