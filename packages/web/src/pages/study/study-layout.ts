import { type StudyFollows, type StudyGiven, sectionPoint } from "@hillcrest/core";

/** A place in millimetres, or on the drawing. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}

export const WIDTH = 880;
export const HEIGHT = 632;
const SECTION_TOP = 34;
const SECTION_HEIGHT = 420;
const MARGIN = 96;
/** Straight pieces that an arc is drawn in. */
const PIECES = 48;

/** The part of a straight leg that is drawn: long ones are broken off. */
const drawn = (straight: number, r: number, t: number) =>
  Math.max(0, Math.min(straight, 0.9 * (r + t) + 2 * t));

/**
 * Where everything of a study stands on the drawing. In millimetres the first tangent line is x = 0, the
 * inside face of leg A y = 0, and y rises; `px` takes that to the drawing, strip and section alike.
 */
export interface StudyLayout {
  readonly given: StudyGiven;
  readonly follows: StudyFollows;
  readonly scale: number;
  readonly px: (p: Spot) => Spot;
  /** An SVG path through places in millimetres. */
  readonly path: (points: readonly Spot[], close?: boolean) => string;
  /** A place on the bend: `radius` from its centre, `turned` by an angle from the first tangent line. */
  readonly on: (radius: number, turned: number) => Spot;
  /** A place on leg B, `along` it from the second tangent line. */
  readonly onLegB: (radius: number, along: number) => Spot;
  /** The arc at a radius from the centre, and that with both legs. */
  readonly arc: (radius: number) => readonly Spot[];
  readonly face: (radius: number) => readonly Spot[];
  /** How much of each leg is drawn, and whether it goes on. */
  readonly legs: Readonly<Record<"a" | "b", { readonly drawn: number; readonly broken: boolean }>>;
  /** From the tangent line to the outer mould point; nothing where there is none, or too far off to draw. */
  readonly setback?: number;
  /** The unrolled strip: where it begins from above, and how thick it is drawn. */
  readonly strip: { readonly top: number; readonly thick: number };
}

export function layoutStudy(given: StudyGiven, follows: StudyFollows): StudyLayout {
  const { t, r, angle } = given;
  const [a, b] = [follows.straightA, follows.straightB].map((straight) => drawn(straight, r, t));
  const on = (radius: number, turned: number): Spot => sectionPoint(r, radius, turned);
  const onLegB = (radius: number, along: number): Spot => {
    const from = on(radius, angle);
    return { x: from.x + Math.cos(angle) * along, y: from.y + Math.sin(angle) * along };
  };
  const arc = (radius: number) =>
    Array.from({ length: PIECES + 1 }, (_, i) => on(radius, (angle * i) / PIECES));
  const { outerSetback } = follows;
  const setback = outerSetback !== undefined && outerSetback < 4 * (r + t) ? outerSetback : undefined;
  const corners = [
    { x: -a, y: -t },
    { x: -a, y: r },
    // As long as any K within the sheet makes it: the drawing must stand still while the axis is dragged.
    { x: Math.max(follows.allowance, angle * (r + t)) + b, y: -t },
    ...arc(r + t),
    onLegB(r, b),
    onLegB(r + t, b),
    ...(setback === undefined ? [] : [{ x: setback, y: -t }]),
  ];
  const [xs, ys] = [corners.map((p) => p.x), corners.map((p) => p.y)];
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min((WIDTH - 2 * MARGIN) / (maxX - minX), (SECTION_HEIGHT - 84) / (maxY - minY));
  const left = (WIDTH - (maxX - minX) * scale) / 2 - minX * scale;
  const base = SECTION_TOP + 10 + maxY * scale;
  const px = (p: Spot): Spot => ({ x: left + p.x * scale, y: base - p.y * scale });
  const path = (points: readonly Spot[], close = false) => {
    const places = points.map(px).map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(2)} ${p.y.toFixed(2)}`);
    return `${places.join("")}${close ? "Z" : ""}`;
  };
  return {
    given,
    follows,
    scale,
    px,
    path,
    on,
    onLegB,
    arc,
    face: (radius) => [{ x: -a, y: r - radius }, ...arc(radius), onLegB(radius, b)],
    legs: {
      a: { drawn: a, broken: follows.straightA > a + 1e-9 },
      b: { drawn: b, broken: follows.straightB > b + 1e-9 },
    },
    setback,
    strip: { top: SECTION_TOP + SECTION_HEIGHT + 40, thick: Math.max(16, Math.min(44, t * scale)) },
  };
}
