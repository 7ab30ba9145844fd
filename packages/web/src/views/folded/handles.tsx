import {
  type FieldValues,
  type FlangeNumbers,
  type Folding,
  formatShort,
  type LengthTo,
  lengthForLeg,
  moveV,
  type PartBuild,
  picksOf,
  toDegrees,
  turnV,
  type Vector,
} from "@hillcrest/core";
import { useRef, useState } from "react";
import { setOwnValue, setStepValue } from "../../state/edits.ts";
import { store } from "../../state/store.ts";
import type { Anchor } from "./overlay.tsx";

/** The flange whose handles are shown, with the numbers they change. */
export interface HandledFlange {
  readonly step: string;
  /** Key of the step's pick that made it. */
  readonly pick: string;
  readonly leg: number;
  readonly angle: number;
  readonly shape: FlangeNumbers["shape"];
  readonly lengthTo: LengthTo;
  /** Lengths of other flanges measured the same way, to snap to. */
  readonly others: readonly number[];
  readonly anchors: readonly [length: Anchor, angle: Anchor];
  /** From the bend to where the angle handle stands, in mm. */
  readonly arm: number;
}

/** Finds the flange that carries a plate, where its handles stand, and what they change. */
export function handledFlange(
  build: PartBuild,
  folding: Folding,
  plateId: string,
): HandledFlange | undefined {
  const { sheet } = build;
  const j = sheet?.bends.findIndex((b) => b.child === plateId) ?? -1;
  if (!sheet || j < 0 || build.stock === undefined) return undefined;
  const bend = sheet.bends[j];
  const i = sheet.plates.findIndex((p) => p.id === plateId);
  const plate = sheet.plates[i];
  const values = build.steps.find((s) => s.id === bend.step)?.values;
  // Only a flange's length and angle can be dragged so.
  if (!values?.choices.lengthTo || values.choices.lengthTo === "level" || folding.bends[j].angle < 1e-6)
    return undefined;
  const motion = folding.plates[i];
  const at = (x: number, y: number): Vector => {
    const { origin, x: d } = plate.frame;
    return moveV(motion, [origin.x + d.x * x - d.y * y, origin.y + d.y * x + d.x * y, sheet.t / 2]);
  };
  const out = turnV(motion, [bend.out.x, bend.out.y, 0]);
  const rising = turnV(motion, [0, 0, bend.up ? 1 : -1]);
  const leg = plate.box.y1;
  const arm = leg * 0.55;
  return {
    step: bend.step,
    pick: bend.id.slice(bend.step.length),
    leg,
    angle: bend.angle,
    shape: { t: sheet.t, r: bend.radius, angle: bend.angle },
    lengthTo: values.choices.lengthTo as LengthTo,
    others: otherLengths(build, bend.step, values),
    arm: arm + bend.radius,
    anchors: [
      { id: "handle-length", at: at(0, leg), along: out, off: 20 },
      // Off the middle, so that on a short leg the two do not lie over each other.
      { id: "handle-angle", at: at(-bend.width / 4, arm), along: rising, off: 24 },
    ],
  };
}

function otherLengths(build: PartBuild, step: string, values: FieldValues): number[] {
  return build.steps.flatMap(({ id, values: v }) =>
    id !== step && v?.quantities.length !== undefined && v.choices.lengthTo === values.choices.lengthTo
      ? [v.quantities.length]
      : [],
  );
}

type Which = "length" | "angle";

interface Drag {
  readonly x: number;
  readonly y: number;
  readonly pxX: number;
  readonly pxY: number;
  readonly start: HandledFlange;
  typed: string;
  /** Stops listening to the keyboard. */
  readonly release: () => void;
}

const SNAP_PX = 6;
let drags = 0;

interface HandleProps {
  readonly flange: HandledFlange;
  readonly register: (id: string) => (node: HTMLElement | null) => void;
}

/** Arrow for the length and arc for the angle. Dragging snaps; typing while dragging sets the value. */
export function Handles({ flange, register }: HandleProps) {
  return (
    <>
      <Handle which="length" flange={flange} register={register} />
      <Handle which="angle" flange={flange} register={register} />
    </>
  );
}

function Handle({ which, flange, register }: HandleProps & { which: Which }) {
  const drag = useRef<Drag | undefined>(undefined);
  const [said, setSaid] = useState<string>();
  const mark = useRef("");

  const put = (text: string) => {
    const step = store.getState().part.document?.steps.find((s) => s.id === flange.step);
    const own = step && picksOf(step, "edges").find((p) => p.key === flange.pick)?.own;
    // An edge that differs from the others is changed alone.
    if (step && own && which in own) setOwnValue(step, "edges", flange.pick, which, text, mark.current);
    else setStepValue(flange.step, which, text, mark.current);
    setSaid(which === "length" ? `${text} mm` : `${text}°`);
  };
  const move = (e: React.PointerEvent) => {
    const d = drag.current;
    if (!d || d.typed) return;
    const px2 = d.pxX ** 2 + d.pxY ** 2;
    // Seen end on the direction has no length on screen; then up and down on screen count.
    const flat = px2 < 0.01;
    const by = flat ? (d.y - e.clientY) / 2 : ((e.clientX - d.x) * d.pxX + (e.clientY - d.y) * d.pxY) / px2;
    put(
      which === "length"
        ? draggedLength(d.start, by, flat ? 1 : Math.sqrt(px2), e.shiftKey)
        : draggedAngle(d.start, by, e.shiftKey),
    );
  };
  const keys = (e: KeyboardEvent) => {
    const d = drag.current;
    if (!d) return;
    if (e.key === "Backspace") d.typed = d.typed.slice(0, -1);
    else if (/^[\d./+*() a-zA-Z-]$/.test(e.key)) d.typed += e.key;
    else return;
    e.preventDefault();
    e.stopPropagation();
    if (d.typed) put(d.typed);
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
    mark.current = `nudge:${flange.step}:${which}`;
    const now =
      which === "length" ? lengthForLeg(flange.lengthTo, flange.leg, flange.shape) : toDegrees(flange.angle);
    put(formatShort(Math.round((now + way * (e.shiftKey ? 0.1 : 1)) * 10) / 10));
    setSaid(undefined);
  };

  return (
    <button
      type="button"
      ref={register(`handle-${which}`)}
      data-handle={which}
      aria-label={which === "length" ? "Drag the flange's length" : "Drag the flange's angle"}
      title={
        which === "length" ? "Length: drag, or use the arrow keys" : "Angle: drag, or use the arrow keys"
      }
      className="pointer-events-auto invisible absolute top-0 left-0 grid size-7 cursor-grab touch-none place-items-center rounded-full border border-amber bg-panel text-ink shadow-card hover:bg-amber-soft active:cursor-grabbing"
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        const { pxX, pxY } = e.currentTarget.dataset;
        window.addEventListener("keydown", keys, true);
        drag.current = {
          x: e.clientX,
          y: e.clientY,
          pxX: Number(pxX),
          pxY: Number(pxY),
          start: flange,
          typed: "",
          release: () => window.removeEventListener("keydown", keys, true),
        };
        mark.current = `drag:${++drags}`;
      }}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={end}
      onKeyDown={nudge}
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
    </button>
  );
}

function draggedLength(start: HandledFlange, by: number, pxPerMm: number, fine: boolean): string {
  const raw = lengthForLeg(start.lengthTo, Math.max(0, start.leg + by), start.shape);
  const near = start.others.find((o) => Math.abs(o - raw) * pxPerMm < SNAP_PX);
  if (near !== undefined && !fine) return formatShort(near);
  const step = fine ? 0.1 : 1;
  const least = lengthForLeg(start.lengthTo, 0, start.shape);
  const snapped = Math.round(raw / step) * step;
  return formatShort(snapped < least ? Math.ceil(least / step - 1e-9) * step : snapped);
}

function draggedAngle(start: HandledFlange, by: number, fine: boolean): string {
  const degrees = toDegrees(start.angle + Math.atan2(by, Math.max(1, start.arm)));
  const step = fine ? 1 : 5;
  return formatShort(Math.max(1, Math.min(179, Math.round(degrees / step) * step)));
}
