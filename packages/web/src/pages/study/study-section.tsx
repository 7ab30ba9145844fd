import { formatFixed, formatShort, type StudyFollows, type StudyGiven } from "@hillcrest/core";
import { type PointerEvent as ReactPointerEvent, useRef } from "react";

interface StudySectionProps {
  readonly given: StudyGiven;
  readonly follows: StudyFollows;
  readonly onK: (k: number, mark: string) => void;
}

const WIDTH = 880;
const SECTION_TOP = 34;
const STRIP_HEIGHT = 178;
const SECTION_HEIGHT = 420;
const MARGIN = 96;

interface Spot {
  readonly x: number;
  readonly y: number;
}

/** The part of a straight leg that is drawn: long ones are broken off. */
const drawn = (straight: number, r: number, t: number) =>
  Math.max(0, Math.min(straight, 0.9 * (r + t) + 2 * t));

let drags = 0;

/**
 * One bend to scale: its section with both faces, neutral axis, tangents, mould points and setbacks,
 * and beneath it the strip it is made from, lined up so that the arc is seen to become the straight.
 */
export function StudySection({ given, follows, onK }: StudySectionProps) {
  const svg = useRef<SVGSVGElement>(null);
  const mark = useRef("");
  const { t, r, angle, k } = given;
  const visA = drawn(follows.straightA, r, t);
  const visB = drawn(follows.straightB, r, t);
  // Millimetres: the first tangent line at x = 0, the inside face of leg A at y = 0, y up.
  const on = (radius: number, at: number): Spot => ({
    x: radius * Math.sin(at),
    y: r - radius * Math.cos(at),
  });
  const end = { x: Math.cos(angle), y: Math.sin(angle) };
  const legPoint = (radius: number, along: number): Spot => {
    const from = on(radius, angle);
    return { x: from.x + end.x * along, y: from.y + end.y * along };
  };
  const steps = Array.from({ length: 49 }, (_, i) => (angle * i) / 48);
  const setback = follows.outerSetback;
  const near = setback !== undefined && setback < 4 * (r + t) ? setback : undefined;
  const corners = [
    { x: -visA, y: -t },
    { x: -visA, y: 0 },
    ...steps.map((s) => on(r + t, s)),
    legPoint(r, visB),
    legPoint(r + t, visB),
    ...(near === undefined ? [] : [{ x: near, y: -t }]),
  ];
  const minX = Math.min(...corners.map((p) => p.x));
  const maxX = Math.max(follows.allowance + visB, ...corners.map((p) => p.x));
  const minY = Math.min(...corners.map((p) => p.y));
  const maxY = Math.max(r, ...corners.map((p) => p.y));
  const scale = Math.min((WIDTH - 2 * MARGIN) / (maxX - minX), (SECTION_HEIGHT - 84) / (maxY - minY));
  const left = (WIDTH - (maxX - minX) * scale) / 2 - minX * scale;
  const base = SECTION_TOP + 10 + maxY * scale;
  const px = (p: Spot): Spot => ({ x: left + p.x * scale, y: base - p.y * scale });
  const path = (points: readonly Spot[], close = false) =>
    `${points
      .map(px)
      .map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(2)} ${p.y.toFixed(2)}`)
      .join("")}${close ? "Z" : ""}`;
  const face = (radius: number) => [
    { x: -visA, y: r - radius },
    ...steps.map((s) => on(radius, s)),
    legPoint(radius, visB),
  ];
  const centre = px({ x: 0, y: r });
  const tangent = px({ x: 0, y: 0 }).x;
  const mould = near === undefined ? undefined : px({ x: near, y: -t });
  const inner = follows.innerSetback;
  const innerMould = inner === undefined || near === undefined ? undefined : px({ x: inner, y: 0 });
  const grip = px(on(r + k * t, angle / 2));
  const broken = { a: follows.straightA > visA + 1e-9, b: follows.straightB > visB + 1e-9 };
  const drag = (e: ReactPointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const at = {
      x: ((e.clientX - box.left) / box.width) * WIDTH,
      y: ((e.clientY - box.top) / box.height) * (SECTION_HEIGHT + STRIP_HEIGHT + SECTION_TOP),
    };
    const distance = Math.hypot(at.x - centre.x, at.y - centre.y) / scale;
    onK(Math.round(Math.min(1, Math.max(0, (distance - r) / t)) * 1000) / 1000, mark.current);
  };
  const stripTop = SECTION_TOP + SECTION_HEIGHT + 40;
  const thick = Math.max(16, Math.min(44, t * scale));
  const stripX = (x: number) => left + x * scale;
  const neutralY = stripTop + Math.min(1, Math.max(0, k)) * thick;
  const bendEnd = stripX(follows.allowance);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${SECTION_HEIGHT + STRIP_HEIGHT + SECTION_TOP}`}
      className="size-full touch-none"
      role="img"
      aria-label={`Section of a bend: thickness ${formatShort(t)}, inside radius ${formatShort(r)}, neutral axis at K ${formatShort(k)}`}
    >
      <text x={18} y={20} className="fill-quiet text-[12.5px] font-semibold">
        Section
      </text>
      <g strokeLinejoin="round">
        <path d={path([...face(r), ...face(r + t).reverse()], true)} fill="var(--metal-a)" />
        <path
          d={path([...steps.map((s) => on(r, s)), ...steps.map((s) => on(r + t, s)).reverse()], true)}
          fill="color-mix(in srgb, var(--bend-up) 26%, var(--panel))"
        />
        <path d={path(face(r))} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
        <path d={path(face(r + t))} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
      </g>
      <BreakEnd from={px({ x: -visA, y: 0 })} to={px({ x: -visA, y: -t })} broken={broken.a} outward />
      <BreakEnd
        from={px(legPoint(r, visB))}
        to={px(legPoint(r + t, visB))}
        broken={broken.b}
        outward={false}
      />
      {near !== undefined && mould && (
        <path
          d={path([on(r + t, 0), { x: near, y: -t }, on(r + t, angle)])}
          fill="none"
          stroke="var(--metal-edge)"
        />
      )}
      <path
        d={path([{ x: 0, y: r }, on(r + t, 0)])}
        stroke="var(--quiet)"
        strokeDasharray="3 3"
        fill="none"
      />
      <path
        d={path([{ x: 0, y: r }, on(r + t, angle)])}
        stroke="var(--quiet)"
        strokeDasharray="3 3"
        fill="none"
      />
      <line
        x1={tangent}
        x2={tangent}
        y1={px({ x: 0, y: -t }).y + 4}
        y2={stripTop + thick + 14}
        stroke="var(--quiet)"
        strokeDasharray="3 3"
      />
      <circle cx={centre.x} cy={centre.y} r={3} fill="var(--quiet)" />
      <text x={centre.x - 8} y={centre.y - 7} textAnchor="end" className="num fill-quiet text-[12px]">
        r {formatShort(r, 3)}
      </text>
      <path
        d={path(face(r + k * t))}
        fill="none"
        stroke="var(--bend-up)"
        strokeWidth={2}
        strokeDasharray="10 3 2 3"
      />
      <FaceName at={px({ x: -visA * 0.55, y: 0 })} dy={-8} text="inside face" />
      <FaceName at={px({ x: -visA * 0.55, y: -t })} dy={17} text="outside face" />
      <text
        x={px({ x: -visA, y: -t / 2 }).x - 16}
        y={px({ x: 0, y: -t / 2 }).y + 4}
        textAnchor="end"
        className="num fill-quiet text-[12px]"
      >
        t {formatShort(t, 3)}
      </text>
      {mould && near !== undefined && (
        <g>
          <circle
            cx={mould.x}
            cy={mould.y}
            r={4.5}
            fill="var(--panel)"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <text x={mould.x + 10} y={mould.y + 5} className="fill-ink text-[12.5px]">
            outer mould point
          </text>
          <Dimension
            from={tangent}
            to={mould.x}
            y={px({ x: 0, y: -t }).y + 26}
            text={`setback ${formatFixed(near)}`}
          />
        </g>
      )}
      {innerMould && inner !== undefined && inner * scale > 12 && (
        <circle
          cx={innerMould.x}
          cy={innerMould.y}
          r={3.5}
          fill="var(--panel)"
          stroke="var(--quiet)"
          strokeWidth={1.4}
        >
          <title>inner mould point, {formatFixed(inner)} from the tangent line</title>
        </circle>
      )}
      <g
        role="slider"
        tabIndex={0}
        aria-label="Neutral axis"
        aria-valuemin={0}
        aria-valuemax={1}
        aria-valuenow={k}
        data-neutral
        className="cursor-grab focus-visible:outline-2 active:cursor-grabbing"
        onPointerDown={(e) => {
          mark.current = `neutral:${++drags}`;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag(e);
        }}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && drag(e)}
        onKeyDown={(e) => {
          const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
          if (!step) return;
          e.preventDefault();
          const next = k + step * (e.shiftKey ? 0.001 : 0.01);
          onK(Math.round(Math.min(1, Math.max(0, next)) * 1000) / 1000, "neutral keys");
        }}
      >
        <circle cx={grip.x} cy={grip.y} r={15} fill="transparent" />
        <circle
          cx={grip.x}
          cy={grip.y}
          r={6.5}
          fill="var(--panel)"
          stroke="var(--bend-up)"
          strokeWidth={2.4}
        />
      </g>
      <g pointerEvents="none">
        <rect
          x={grip.x + 12}
          y={grip.y + 6}
          width={152}
          height={20}
          rx={10}
          fill="var(--panel)"
          stroke="var(--bend-up)"
        />
        <text x={grip.x + 88} y={grip.y + 20} textAnchor="middle" className="fill-up text-[12.5px]">
          neutral axis, K {formatFixed(k, 3)}
        </text>
      </g>
      <text x={18} y={stripTop - 14} className="fill-quiet text-[12.5px] font-semibold">
        Unrolled
      </text>
      <g>
        <rect
          x={stripX(-visA)}
          y={stripTop}
          width={(visA + follows.allowance + visB) * scale}
          height={thick}
          fill="var(--metal-a)"
        />
        <rect
          x={tangent}
          y={stripTop}
          width={follows.allowance * scale}
          height={thick}
          fill="color-mix(in srgb, var(--bend-up) 26%, var(--panel))"
        />
        {[stripTop, stripTop + thick].map((y) => (
          <line
            key={y}
            x1={stripX(-visA)}
            x2={stripX(follows.allowance + visB)}
            y1={y}
            y2={y}
            stroke="var(--ink)"
            strokeWidth={1.8}
          />
        ))}
        <line
          x1={stripX(-visA)}
          x2={stripX(follows.allowance + visB)}
          y1={neutralY}
          y2={neutralY}
          stroke="var(--bend-up)"
          strokeWidth={2}
          strokeDasharray="10 3 2 3"
        />
        <line
          x1={(tangent + bendEnd) / 2}
          x2={(tangent + bendEnd) / 2}
          y1={stripTop - 7}
          y2={stripTop + thick + 7}
          stroke="var(--bend-up)"
          strokeWidth={1.4}
        />
        <line
          x1={bendEnd}
          x2={bendEnd}
          y1={stripTop - 8}
          y2={stripTop + thick + 14}
          stroke="var(--quiet)"
          strokeDasharray="3 3"
        />
        <BreakEnd
          from={{ x: stripX(-visA), y: stripTop }}
          to={{ x: stripX(-visA), y: stripTop + thick }}
          broken={broken.a}
          outward
        />
        <BreakEnd
          from={{ x: stripX(follows.allowance + visB), y: stripTop }}
          to={{ x: stripX(follows.allowance + visB), y: stripTop + thick }}
          broken={broken.b}
          outward={false}
        />
      </g>
      <StripNames
        y={stripTop + thick + 22}
        spots={[
          [(stripX(-visA) + tangent) / 2, `straight ${formatFixed(follows.straightA)}`],
          [(tangent + bendEnd) / 2, `BA ${formatFixed(follows.allowance)}`],
          [(bendEnd + stripX(follows.allowance + visB)) / 2, `straight ${formatFixed(follows.straightB)}`],
        ]}
      />
      <Dimension
        from={stripX(-visA)}
        to={stripX(follows.allowance + visB)}
        y={stripTop + thick + 46}
        text={`flat ${formatFixed(follows.flat)}`}
      />
    </svg>
  );
}

function FaceName({ at, dy, text }: { at: Spot; dy: number; text: string }) {
  return (
    <text x={at.x} y={at.y + dy} textAnchor="middle" className="fill-quiet text-[11.5px]">
      {text}
    </text>
  );
}

/** Names beneath the strip; those of neighbours too close together step down in turn. */
function StripNames({ y, spots }: { y: number; spots: readonly (readonly [number, string])[] }) {
  return spots.map(([x, text]) => (
    <text key={text + String(x)} x={x} y={y} textAnchor="middle" className="num fill-ink text-[12px]">
      {text}
    </text>
  ));
}

/** The end of a leg: cut off square, or broken off where the leg goes on. */
function BreakEnd({
  from,
  to,
  broken,
  outward,
}: {
  from: Spot;
  to: Spot;
  broken: boolean;
  outward: boolean;
}) {
  if (!broken)
    return <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} stroke="var(--ink)" strokeWidth={1.8} />;
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const length = Math.hypot(dx, dy) || 1;
  const out = { x: -dy / length, y: dx / length };
  const at = (share: number, off: number) =>
    `${(from.x + dx * share + out.x * off).toFixed(1)} ${(from.y + dy * share + out.y * off).toFixed(1)}`;
  const size = Math.min(9, length / 4);
  return (
    <g>
      <path
        d={`M${at(0, 0)}L${at(0.28, size)}L${at(0.5, 0)}Z`}
        fill={outward ? "var(--metal-a)" : "var(--ground)"}
      />
      <path
        d={`M${at(0.5, 0)}L${at(0.72, -size)}L${at(1, 0)}Z`}
        fill={outward ? "var(--ground)" : "var(--metal-a)"}
      />
      <path
        d={`M${at(0, 0)}L${at(0.28, size)}L${at(0.72, -size)}L${at(1, 0)}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
    </g>
  );
}

function Dimension({ from, to, y, text }: { from: number; to: number; y: number; text: string }) {
  const middle = (from + to) / 2;
  const narrow = Math.abs(to - from) < text.length * 7.4 + 14;
  return (
    <g stroke="var(--ink)" strokeWidth={1.2}>
      <line x1={from} x2={to} y1={y} y2={y} />
      <line x1={from} x2={from} y1={y - 5} y2={y + 5} />
      <line x1={to} x2={to} y1={y - 5} y2={y + 5} />
      {!narrow && (
        <rect
          x={middle - text.length * 3.7 - 5}
          y={y - 9}
          width={text.length * 7.4 + 10}
          height={18}
          fill="var(--ground)"
          stroke="none"
        />
      )}
      <text
        x={narrow ? Math.max(from, to) + 10 : middle}
        y={y + 4}
        textAnchor={narrow ? "start" : "middle"}
        stroke="none"
        className="num fill-ink text-[12px]"
      >
        {text}
      </text>
    </g>
  );
}
