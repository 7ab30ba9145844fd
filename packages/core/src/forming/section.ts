import { chordCount } from "../plane/curve.ts";
import { hypotenuse, type Point, point } from "../plane/point.ts";

/** A corner of a section: how far inside the border it stands, how high over side A, and by what it is rounded. In mm. */
export interface SectionNode {
  readonly inward: number;
  readonly rise: number;
  readonly radius: number;
}

/**
 * How a formed shape rises from its border inward. `a` is the course of side A. Where `b` says nothing the metal is
 * stretched: square to the plate it is as thick everywhere as the sheet, so that none of it is added or lost. With `b`,
 * which has as many corners, side B goes a way of its own, as round a collar.
 */
export interface FormShape {
  /** To which side it stands out: `up` is side B. */
  readonly side: "up" | "down";
  readonly a: readonly SectionNode[];
  readonly b?: readonly SectionNode[];
  /** Whether nothing is left within the last corner; otherwise the metal goes on flat there. */
  readonly open: boolean;
}

/** How a formed shape is shown on the blank. */
export type BlankShown = "centre" | "outline" | "cut" | "nothing";

/** Where side A and side B stand at a place of a section: inside the border, and over side A of the sheet. */
export interface SectionPlace {
  readonly inA: number;
  readonly upA: number;
  readonly inB: number;
  readonly upB: number;
}

/** The rounding of a corner between two straight pieces, as far as they leave room for it. */
interface Rounding {
  readonly at: (share: number) => Point;
  readonly turn: number;
  readonly radius: number;
}

const NONE = 1e-9;

const placeOf = ({ inward, rise }: SectionNode): Point => point(inward, rise);

function roundingAt(nodes: readonly SectionNode[], i: number): Rounding | undefined {
  const { radius } = nodes[i];
  if (radius <= NONE || i === 0 || i === nodes.length - 1) return undefined;
  const [p, q, r] = [nodes[i - 1], nodes[i], nodes[i + 1]].map(placeOf);
  const [d, e] = [
    { x: q.x - p.x, y: q.y - p.y },
    { x: r.x - q.x, y: r.y - q.y },
  ];
  const [ld, le] = [hypotenuse(d.x, d.y), hypotenuse(e.x, e.y)];
  if (ld < NONE || le < NONE) return undefined;
  const turn = Math.atan2(d.x * e.y - d.y * e.x, d.x * e.x + d.y * e.y);
  if (Math.abs(turn) < 1e-6) return undefined;
  // A piece between two rounded corners is shared by them.
  const room = Math.min(ld / (i - 1 === 0 ? 1 : 2), le / (i + 1 === nodes.length - 1 ? 1 : 2));
  const half = Math.tan(Math.abs(turn) / 2);
  const own = Math.min(radius, (room / half) * (1 - 1e-9));
  const way = Math.sign(turn);
  const begin = { x: q.x - (d.x / ld) * own * half, y: q.y - (d.y / ld) * own * half };
  const centre = { x: begin.x - (d.y / ld) * own * way, y: begin.y + (d.x / ld) * own * way };
  const from = Math.atan2(begin.y - centre.y, begin.x - centre.x);
  return {
    turn: Math.abs(turn),
    radius: own,
    at: (share) => {
      const angle = from + turn * share;
      return point(centre.x + own * Math.cos(angle), centre.y + own * Math.sin(angle));
    },
  };
}

/** Places along one or two sides of a section: roundings as chords no farther off than `chord`, mm. */
export function sectionPlaces(
  { side, a, b, open: _open }: FormShape,
  t: number,
  chord: number,
): SectionPlace[] {
  const out: SectionPlace[] = [];
  a.forEach((node, i) => {
    const [p, q] = [roundingAt(a, i), b && roundingAt(b, i)];
    const count = Math.max(
      p ? Math.max(2, chordCount(p.radius, p.turn, chord)) : 0,
      q ? Math.max(2, chordCount(q.radius, q.turn, chord)) : 0,
    );
    for (let k = 0; k <= count; k++) {
      const share = count === 0 ? 0 : k / count;
      const low = p ? p.at(share) : placeOf(node);
      const high = b ? (q ? q.at(share) : placeOf(b[i])) : point(low.x, low.y + t);
      out.push({ inA: low.x, upA: low.y, inB: high.x, upB: high.y });
    }
  });
  const apart = standApart(out);
  if (side === "up") return apart;
  // Seen from the other side: what was side A is side B, as far above it as it was below.
  return apart.map((s) => ({ inA: s.inB, upA: t - s.upB, inB: s.inA, upB: t - s.upA }));
}

/** Places nearer to one another than this, mm, are one: lines inside the border would lie on one another. */
const ONE_PLACE = 1e-6;

/** Places without those that stand where the one after them does; the first and the last stay. */
function standApart(places: readonly SectionPlace[]): SectionPlace[] {
  const out: SectionPlace[] = [];
  const same = (p: SectionPlace, q: SectionPlace) =>
    (["inA", "upA", "inB", "upB"] as const).every((key) => Math.abs(p[key] - q[key]) < ONE_PLACE);
  places.forEach((place, i) => {
    const before = out[out.length - 1];
    if (!before || !same(before, place)) out.push(place);
    else if (i === places.length - 1 && out.length > 1) out[out.length - 1] = place;
  });
  return out;
}

/** How far inside its border a section reaches, mm. */
export const reachOf = ({ a, b = [] }: FormShape): number =>
  Math.max(0, ...[...a, ...b].map((n) => n.inward));

/** The lowest and the highest that a shape stands over side A of the sheet. */
export function heightsOf(shape: FormShape, t: number): readonly [number, number] {
  const places = sectionPlaces(shape, t, 1e-3);
  return [
    Math.min(0, ...places.map((s) => Math.min(s.upA, s.upB))),
    Math.max(t, ...places.map((s) => Math.max(s.upA, s.upB))),
  ];
}

/** How thick stretched metal is at its thinnest, as a share of the sheet: on the steepest piece of its section. */
export function thinnestShare({ a, b }: FormShape): number {
  if (b) return 1;
  let least = 1;
  for (let i = 1; i < a.length; i++) {
    const [run, rise] = [a[i].inward - a[i - 1].inward, a[i].rise - a[i - 1].rise];
    const length = hypotenuse(run, rise);
    if (length > NONE) least = Math.min(least, Math.max(0, run) / length);
  }
  return least;
}
