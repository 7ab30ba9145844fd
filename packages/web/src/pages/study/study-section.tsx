import { formatFixed, formatShort, type StudyFollows, type StudyGiven } from "@hillcrest/core";
import { type PointerEvent as ReactPointerEvent, useRef } from "react";
import { SectionDrawing } from "./section-drawing.tsx";
import { StripDrawing } from "./strip-drawing.tsx";
import { HEIGHT, layoutStudy, type StudyLayout, WIDTH } from "./study-layout.ts";

interface StudySectionProps {
  readonly given: StudyGiven;
  readonly follows: StudyFollows;
  readonly onK: (k: number) => void;
}

/**
 * One bend to scale: its section with both faces, neutral axis, tangents, mould points and setbacks,
 * and beneath it the strip it is made from, lined up so that the arc is seen to become the straight.
 */
export function StudySection({ given, follows, onK }: StudySectionProps) {
  const layout = layoutStudy(given, follows);
  const { t, r, k } = given;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing that holds a control is no picture, and no fieldset
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="size-full touch-none"
      role="group"
      aria-label={`Section of a bend: thickness ${formatShort(t)}, inside radius ${formatShort(r)}, neutral axis at K ${formatShort(k)}`}
    >
      <SectionDrawing layout={layout} />
      <NeutralGrip layout={layout} onK={onK} />
      <StripDrawing layout={layout} />
    </svg>
  );
}

const inSheet = (k: number) => Math.round(Math.min(1, Math.max(0, k)) * 1000) / 1000;

/** Drags the neutral axis between the faces, or moves it by the arrow keys. */
function NeutralGrip({ layout, onK }: { layout: StudyLayout; onK: (k: number) => void }) {
  const { given, px, on, scale } = layout;
  const { t, r, angle, k } = given;
  const grip = useRef<SVGGElement>(null);
  const at = px(on(r + k * t, angle / 2));
  const drag = (e: ReactPointerEvent) => {
    const toDrawing = grip.current?.ownerSVGElement?.getScreenCTM()?.inverse();
    if (!toDrawing) return;
    const pointer = new DOMPoint(e.clientX, e.clientY).matrixTransform(toDrawing);
    const centre = px({ x: 0, y: r });
    const distance = Math.hypot(pointer.x - centre.x, pointer.y - centre.y) / scale;
    onK(inSheet((distance - r) / t));
  };
  return (
    <g>
      <g
        ref={grip}
        role="slider"
        tabIndex={0}
        aria-label="Neutral axis"
        aria-valuemin={0}
        aria-valuemax={1}
        aria-valuenow={k}
        data-neutral
        className="cursor-grab focus-visible:outline-2 active:cursor-grabbing"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && drag(e)}
        onKeyDown={(e) => {
          const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
          if (!step) return;
          e.preventDefault();
          onK(inSheet(k + step * (e.shiftKey ? 0.001 : 0.01)));
        }}
      >
        <circle cx={at.x} cy={at.y} r={15} fill="transparent" />
        <circle cx={at.x} cy={at.y} r={6.5} fill="var(--panel)" stroke="var(--bend-up)" strokeWidth={2.4} />
      </g>
      <g pointerEvents="none">
        <rect
          x={at.x + 12}
          y={at.y + 6}
          width={152}
          height={20}
          rx={10}
          fill="var(--panel)"
          stroke="var(--bend-up)"
        />
        <text x={at.x + 88} y={at.y + 20} textAnchor="middle" className="fill-up text-[12.5px]">
          neutral axis, K {formatFixed(k, 3)}
        </text>
      </g>
    </g>
  );
}
