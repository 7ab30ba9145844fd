import { formatFixed } from "@hillcrest/core";
import { BreakEnd, Dimension } from "./drawing-marks.tsx";
import type { StudyLayout } from "./study-layout.ts";

/** The strip that a bend is made from, lined up with its section: straight, bend, straight. */
export function StripDrawing({ layout }: { layout: StudyLayout }) {
  const { given, follows, legs, px, strip } = layout;
  const { top, thick } = strip;
  const bottom = top + thick;
  const at = (x: number) => px({ x, y: 0 }).x;
  const [from, tangent, end, to] = [
    at(-legs.a.drawn),
    at(0),
    at(follows.allowance),
    at(follows.allowance + legs.b.drawn),
  ];
  const middle = (tangent + end) / 2;
  const neutral = top + Math.min(1, Math.max(0, given.k)) * thick;
  const names: readonly (readonly [number, string])[] = [
    [(from + tangent) / 2, `straight ${formatFixed(follows.straightA)}`],
    [middle, `BA ${formatFixed(follows.allowance)}`],
    [(end + to) / 2, `straight ${formatFixed(follows.straightB)}`],
  ];
  const bend = "color-mix(in srgb, var(--bend-up) 26%, var(--panel))";
  return (
    <g>
      <text x={18} y={top - 14} className="fill-quiet text-[12.5px] font-semibold">
        Unrolled
      </text>
      <rect x={from} y={top} width={to - from} height={thick} fill="var(--metal-a)" />
      <rect x={tangent} y={top} width={end - tangent} height={thick} fill={bend} />
      <path d={`M${from} ${top}H${to}M${from} ${bottom}H${to}`} stroke="var(--ink)" strokeWidth={1.8} />
      <path
        d={`M${from} ${neutral}H${to}`}
        stroke="var(--bend-up)"
        strokeWidth={2}
        strokeDasharray="10 3 2 3"
      />
      <path d={`M${middle} ${top - 7}V${bottom + 7}`} stroke="var(--bend-up)" strokeWidth={1.4} />
      <path d={`M${end} ${top - 8}V${bottom + 14}`} stroke="var(--quiet)" strokeDasharray="3 3" />
      <BreakEnd from={{ x: from, y: top }} to={{ x: from, y: bottom }} broken={legs.a.broken} outward />
      <BreakEnd from={{ x: to, y: top }} to={{ x: to, y: bottom }} broken={legs.b.broken} outward={false} />
      {names.map(([x, text], i) => (
        <text key={i} x={x} y={bottom + 22} textAnchor="middle" className="num fill-ink text-[12px]">
          {text}
        </text>
      ))}
      <Dimension from={from} to={to} y={bottom + 46} text={`flat ${formatFixed(follows.flat)}`} />
    </g>
  );
}
