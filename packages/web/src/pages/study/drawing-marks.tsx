import type { Spot } from "./study-layout.ts";

/** The end of a leg: cut off square, or broken off where the leg goes on. */
export function BreakEnd({
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

export function Dimension({ from, to, y, text }: { from: number; to: number; y: number; text: string }) {
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
