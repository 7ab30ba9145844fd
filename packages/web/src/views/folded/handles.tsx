import { picksOf, storedFrom, type Units } from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { useRef, useState } from "react";
import { openBuild } from "../../state/build-slice.ts";
import { setOwnValue, setStepValue } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useAsk } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import type { Grip } from "./grips.ts";
import { NewFindings, useFoundBefore } from "./new-findings.tsx";

interface Drag {
  readonly x: number;
  readonly y: number;
  readonly pxX: number;
  readonly pxY: number;
  readonly start: Grip;
  typed: string;
  /** Stops listening to the keyboard. */
  readonly release: () => void;
}

interface HandlesProps {
  readonly grips: readonly Grip[];
  readonly register: (id: string) => (node: HTMLElement | null) => void;
}

/** Arrow for a length and arc for an angle. Dragging snaps; typing while dragging sets the value. */
export function Handles({ grips, register }: HandlesProps) {
  return grips.map((grip) => <Handle key={grip.which} grip={grip} register={register} />);
}

function Handle({ grip, register }: { grip: Grip } & Pick<HandlesProps, "register">) {
  const { which } = grip;
  const { said, known, handlers } = useDragging(grip);
  return (
    <button
      type="button"
      ref={register(`handle-${which}`)}
      data-handle={which}
      aria-label={grip.title}
      title={`${grip.title}, or use the arrow keys`}
      className="pointer-events-auto invisible absolute top-0 left-0 grid size-7 cursor-grab touch-none place-items-center rounded-full border border-amber bg-panel text-ink shadow-card hover:bg-amber-soft active:cursor-grabbing"
      {...handlers}
    >
      <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden="true">
        {which === "length" ? (
          <path d="M-7 0H5M1-4l5 4-5 4" fill="none" stroke="currentColor" strokeWidth="1.8" />
        ) : (
          <path d="M-4-6Q3 0-4 6M-1-7l-4 1 1 4" fill="none" stroke="currentColor" strokeWidth="1.8" />
        )}
      </svg>
      {said && (
        <span className="num absolute -top-8 rounded bg-ink px-1.5 py-0.5 text-[12px] whitespace-nowrap text-ground">
          {said}
        </span>
      )}
      {said && <NewFindings known={known} className="absolute top-8 left-0" />}
    </button>
  );
}

/** The value a handle stands at with the pointer where it is. */
function draggedTo(d: Drag, e: React.PointerEvent, units: Units): string {
  const px2 = d.pxX ** 2 + d.pxY ** 2;
  // Seen end on the direction has no length on screen; then up and down on screen count.
  const flat = px2 < 0.01;
  const by = flat ? (d.y - e.clientY) / 2 : ((e.clientX - d.x) * d.pxX + (e.clientY - d.y) * d.pxY) / px2;
  return d.start.dragged(by, flat ? 1 : Math.sqrt(px2), e.shiftKey, units);
}

/** Dragging a handle, typing a value while it is dragged, and nudging it by keys; `said` is what it says meanwhile. */
function useDragging(grip: Grip) {
  const units = useUnits();
  const ask = useAsk();
  const drag = useRef<Drag | undefined>(undefined);
  const [said, setSaid] = useState<string>();
  const [known, begin] = useFoundBefore();
  const mark = useRef("");
  const nudged = useRef<string>(undefined);

  const put = (text: string) => {
    const step = ask(openPart).document?.steps.find((s) => s.id === grip.step);
    const own = step && grip.pick && picksOf(step, "edges").find((p) => p.key === grip.pick)?.own;
    // An edge that differs from the others is changed alone.
    if (step && grip.pick && own && grip.field in own)
      setOwnValue(step, "edges", grip.pick, grip.field, text, mark.current);
    else setStepValue(grip.step, grip.field, text, mark.current);
    setSaid(grip.unit === "°" ? `${text}°` : units === "mm" ? `${text} mm` : text);
  };
  const move = (e: React.PointerEvent) => {
    const d = drag.current;
    if (d && !d.typed) put(draggedTo(d, e, units));
  };
  const keys = (e: KeyboardEvent) => {
    const d = drag.current;
    if (!d) return;
    if (e.key === "Backspace") d.typed = d.typed.slice(0, -1);
    else if (/^[\d./+*() a-zA-Z-]$/.test(e.key)) d.typed += e.key;
    else return;
    e.preventDefault();
    e.stopPropagation();
    if (d.typed) put(storedFrom(d.typed, grip.unit === "mm" ? "length" : "angle", units));
  };
  const end = () => {
    drag.current?.release();
    drag.current = undefined;
    setSaid(undefined);
  };
  const nudge = (e: React.KeyboardEvent) => {
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
    if (!way) return;
    e.preventDefault();
    e.stopPropagation();
    mark.current = `nudge:${grip.step}:${grip.which}`;
    // Keys that come before the shape does go on from one another.
    const behind = ask((s) => openBuild(s).document !== openPart(s).document);
    nudged.current = grip.nudged(way, e.shiftKey, units, behind ? nudged.current : undefined);
    put(nudged.current);
    setSaid(undefined);
  };
  const grab = (e: React.PointerEvent<HTMLElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const { pxX, pxY } = e.currentTarget.dataset;
    window.addEventListener("keydown", keys, true);
    drag.current = {
      x: e.clientX,
      y: e.clientY,
      pxX: Number(pxX),
      pxY: Number(pxY),
      start: grip,
      typed: "",
      release: () => window.removeEventListener("keydown", keys, true),
    };
    mark.current = `drag:${nanoid()}`;
    begin();
  };
  const ends = { onPointerUp: end, onPointerCancel: end };
  return { said, known, handlers: { onPointerDown: grab, onPointerMove: move, ...ends, onKeyDown: nudge } };
}
