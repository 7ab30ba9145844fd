/** A piece of sheet in section: straight on, or round a bend (radians, positive toward side B). */
export type SectionPiece = { readonly length: number } | { readonly turn: number; readonly radius: number };

type XY = readonly [number, number];

interface SheetSectionProps {
  readonly t: number;
  readonly pieces: readonly SectionPiece[];
  readonly width?: number;
  readonly height?: number;
}

/** A strip of sheet seen from its end, to scale, from the pieces it is made of. */
export function SheetSection({ t, pieces, width = 76, height = 54 }: SheetSectionProps) {
  const { a, b } = walk(t, pieces);
  const all = [...a, ...b];
  const xs = all.map((p) => p[0]);
  const ys = all.map((p) => p[1]);
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const zoom = Math.min((width - 8) / (maxX - minX || 1), (height - 8) / (maxY - minY || 1));
  const place = ([x, y]: XY) =>
    `${(width / 2 + (x - (minX + maxX) / 2) * zoom).toFixed(1)} ${(height / 2 - (y - (minY + maxY) / 2) * zoom).toFixed(1)}`;
  const d = [...a, ...[...b].reverse()].map((p, i) => `${i === 0 ? "M" : "L"}${place(p)}`).join("");
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      <path
        d={`${d}Z`}
        fill="var(--metal-edge)"
        stroke="var(--ink)"
        strokeWidth="0.8"
        strokeOpacity="0.6"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** Both faces of the strip as points, walked from its left end. */
function walk(t: number, pieces: readonly SectionPiece[]): { a: XY[]; b: XY[] } {
  let [x, y, heading] = [0, 0, 0];
  const a: XY[] = [];
  const b: XY[] = [];
  const put = () => {
    a.push([x, y]);
    b.push([x - t * Math.sin(heading), y + t * Math.cos(heading)]);
  };
  put();
  for (const piece of pieces) {
    if ("length" in piece) {
      x += piece.length * Math.cos(heading);
      y += piece.length * Math.sin(heading);
      put();
      continue;
    }
    const way = piece.turn > 0 ? 1 : -1;
    // Side A runs on the outside of a bend toward B, on the inside of one away from it.
    const radius = way > 0 ? piece.radius + t : piece.radius;
    const [cx, cy] = [x - way * radius * Math.sin(heading), y + way * radius * Math.cos(heading)];
    const n = Math.max(4, Math.ceil(Math.abs(piece.turn) / 0.12));
    const start = heading;
    for (let k = 1; k <= n; k++) {
      heading = start + (piece.turn * k) / n;
      x = cx + way * radius * Math.sin(heading);
      y = cy - way * radius * Math.cos(heading);
      put();
    }
  }
  return { a, b };
}
