import { type Bounds, lengthText, type Point } from "@hillcrest/core";
import { useUnits } from "../../state/units.ts";

interface OverallSizeProps {
  readonly bounds: Bounds;
  readonly place: (p: Point) => Point;
  /** How far beside the blank the lines stand, pixels. */
  readonly beside: number;
}

/** Overall width below and height to the right. */
export function OverallSize({ bounds, place, beside }: OverallSizeProps) {
  const units = useUnits();
  const low = place({ x: bounds.minX, y: bounds.minY });
  const high = place({ x: bounds.maxX, y: bounds.maxY });
  const [y, x] = [low.y + beside, high.x + beside];
  const middle = { x: (low.x + high.x) / 2, y: (low.y + high.y) / 2 };
  const ticks = `M${low.x} ${y - 5}v10M${high.x} ${y - 5}v10M${low.x} ${y}H${high.x}M${x - 5} ${low.y}h10M${x - 5} ${high.y}h10M${x} ${low.y}V${high.y}`;
  return (
    <g pointerEvents="none" className="num" fontSize={12} textAnchor="middle" fill="var(--ink)">
      <path d={ticks} stroke="var(--quiet)" fill="none" />
      <rect x={middle.x - 34} y={y - 9} width={68} height={18} fill="var(--ground)" />
      <text data-overall="width" x={middle.x} y={y + 4}>
        {lengthText(Math.max(0, bounds.maxX - bounds.minX), units)}
      </text>
      <g transform={`translate(${x} ${middle.y}) rotate(-90)`}>
        <rect x={-34} y={-9} width={68} height={18} fill="var(--ground)" />
        <text data-overall="height" y={4}>
          {lengthText(Math.max(0, bounds.maxY - bounds.minY), units)}
        </text>
      </g>
    </g>
  );
}
