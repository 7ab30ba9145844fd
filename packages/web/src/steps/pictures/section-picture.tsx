import { type BendPlace, type LengthTo, leastLength, sectionPoint } from "@hillcrest/core";

export interface Section {
  readonly t: number;
  readonly r: number;
  readonly angle: number;
  readonly up: boolean;
  readonly setback: number;
  readonly leg: number;
}

interface SectionPictureProps {
  readonly section: Section;
  /** What the picture is about: where the bend sits, or what the length is measured to. */
  readonly about: { readonly place: BendPlace } | { readonly lengthTo: LengthTo };
  readonly width?: number;
  readonly height?: number;
}

type XY = readonly [number, number];

/**
 * One bend in section, from its real numbers: the parent comes from the left, the picked edge stands
 * at x = 0. A leg much longer than the bend is drawn short, so that the bend can be read.
 */
export function SectionPicture({ section, about, width = 64, height = 50 }: SectionPictureProps) {
  const { t, r, angle, up, setback, leg } = section;
  const reach = 2.6 * (r + t) + t;
  const shown = Math.min(leg, "place" in about ? reach * 0.8 : reach * 1.1);
  const start = -Math.max(0, setback) - reach * 0.9;
  const parts = outline(t, r, angle, start, -setback, shown);
  const edgeLine: XY[] = [
    [0, -t * 0.9],
    [0, r + t + Math.min(shown, reach) * 0.9],
  ];
  const marks = "lengthTo" in about ? measure(about.lengthTo, section, shown) : [];
  const points = [...parts.outer, ...parts.inner, ...("place" in about ? edgeLine : marks.flat())];
  const minX = Math.min(...points.map((p) => p[0]));
  const maxX = Math.max(...points.map((p) => p[0]));
  const minY = Math.min(...points.map((p) => p[1]));
  const maxY = Math.max(...points.map((p) => p[1]));
  const scale = Math.min((width - 8) / (maxX - minX), (height - 8) / (maxY - minY));
  const ox = (width - (maxX - minX) * scale) / 2 - minX * scale;
  const oy = (height + (maxY - minY) * scale) / 2 + minY * scale;
  const at = ([x, y]: XY) =>
    `${(ox + x * scale).toFixed(1)} ${(up ? oy - y * scale : height - (oy - y * scale)).toFixed(1)}`;
  const chain = (list: readonly XY[]) => list.map((p, i) => `${i === 0 ? "M" : "L"}${at(p)}`).join("");
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      <path
        d={`${chain([...parts.outer, ...[...parts.inner].reverse()])}Z`}
        fill="var(--metal-edge)"
        stroke="var(--ink)"
        strokeWidth="0.8"
        strokeOpacity="0.5"
      />
      {"place" in about && (
        <path d={chain(edgeLine)} stroke="var(--bend-up)" strokeWidth="1.3" strokeDasharray="3 2" />
      )}
      {marks.map((m, i) => (
        <path
          key={i}
          d={chain(m)}
          stroke={i === 0 ? "var(--bend-up)" : "var(--quiet)"}
          strokeWidth={i === 0 ? 1.5 : 0.9}
          strokeDasharray={i === 0 ? undefined : "2 2"}
        />
      ))}
    </svg>
  );
}

/** Outer (side A) and inner (side B) faces of an up bend whose first tangent line stands at x0. */
function outline(
  t: number,
  r: number,
  angle: number,
  start: number,
  x0: number,
  leg: number,
): { outer: XY[]; inner: XY[] } {
  const outer: XY[] = [[start, 0]];
  const inner: XY[] = [[start, t]];
  const n = 14;
  for (let i = 0; i <= n; i++) {
    const phi = (angle * i) / n;
    outer.push(onBend(t, r, x0, phi, r + t));
    inner.push(onBend(t, r, x0, phi, r));
  }
  const d: XY = [Math.cos(angle) * leg, Math.sin(angle) * leg];
  const [o, i] = [outer[outer.length - 1], inner[inner.length - 1]];
  outer.push([o[0] + d[0], o[1] + d[1]]);
  inner.push([i[0] + d[0], i[1] + d[1]]);
  return { outer, inner };
}

function onBend(t: number, r: number, x0: number, phi: number, rho: number): XY {
  const { x, y } = sectionPoint(r, rho, phi);
  return [x0 + x, t + y];
}

/** The dimension that a length is, as a line from where it is measured to the tip, and helper lines. */
function measure(lengthTo: LengthTo, { t, r, angle, setback }: Section, leg: number): XY[][] {
  const x0 = -setback;
  const d: XY = [Math.cos(angle), Math.sin(angle)];
  const n: XY = [Math.sin(angle), -Math.cos(angle)];
  const outerEnd = onBend(t, r, x0, angle, r + t);
  const tip: XY = [outerEnd[0] + d[0] * leg, outerEnd[1] + d[1] * leg];
  const off = 1.1 * t;
  const shift = (p: XY, by = off): XY => [p[0] + n[0] * by, p[1] + n[1] * by];
  const back = (length: number): XY => [outerEnd[0] - d[0] * length, outerEnd[1] - d[1] * length];
  const line = (from: XY): XY[][] => [
    [shift(from), shift(tip)],
    [shift(from, 0), shift(from, off * 1.6)],
    [shift(tip, 0), shift(tip, off * 1.6)],
  ];
  switch (lengthTo) {
    case "outer-mould":
    case "inner-mould":
    case "tangent":
    case "outermost":
      return line(back(leastLength(lengthTo, { t, r, angle })));
    case "overall-height": {
      const innerEnd = onBend(t, r, x0, angle, r);
      const high = Math.max(tip[1], innerEnd[1] + d[1] * leg);
      const x = Math.max(tip[0], x0 + r + t) + off;
      return [
        [
          [x, 0],
          [x, high],
        ],
        [
          [x0, 0],
          [x + off * 0.5, 0],
        ],
        [tip, [x + off * 0.5, high]],
      ];
    }
  }
}
