import type { Backdrop, XY } from "../outline/drawing/place.ts";
import type { Curve } from "../plane/curve.ts";
import { backOf, intoFrame, moveCurve, movePoint } from "../plane/isometry.ts";
import { asCircle, type Loop } from "../plane/loop.ts";
import { along, type Frame, type Point } from "../plane/point.ts";
import { bendsAmong, type SheetDraft } from "../sheet/draft.ts";
import { shapeMetal } from "../sheet/shaping/metal.ts";

/** More than these are not drawn behind an outline: it could not be read for them. */
const MOST = 1500;

const xy = ({ x, y }: Point): XY => [x, y];

/**
 * What of the sheets can be drawn on: edges, bend lines, openings and round borders, by the part's own names, in the frame
 * in which an outline is placed (developed coordinates).
 */
export function behindOutline(
  draft: SheetDraft,
  frame: Frame,
  letterOf: (plate: string) => string,
  numberOf: (bend: string) => number,
): Backdrop[] {
  const own = backOf(intoFrame(frame));
  const found = new Map<string, Backdrop>();
  const add = (name: string, label: string, curve: Backdrop["curve"]) => {
    if (found.size < MOST && !found.has(name)) found.set(name, { name, label, curve });
  };
  const place = (p: Point) => xy(movePoint(own, p));
  for (const plate of draft.pieces.plates()) {
    const letter = letterOf(plate.id);
    for (const { role, left, right } of plate.edges)
      add(`${plate.id}.${role}`, `${letter} ${role}`, { kind: "line", a: place(left), b: place(right) });
    for (const { outer, holes } of shapeMetal(plate.metal).regions) {
      for (const loop of [outer, ...holes])
        addRound(loop, loop === outer ? `${letter} border` : `opening in ${letter}`);
      for (const c of outer) addArc(c, letter);
    }
    function addRound(loop: Loop, label: string) {
      const round = asCircle(loop);
      const name = loop.find((c) => c.name)?.name;
      if (round && name)
        add(`round:${plate.id}:${name}`, label, { kind: "circle", c: place(round.c), r: round.r });
    }
    function addArc(c: Curve, of: string) {
      if (c.kind !== "arc" || !c.name) return;
      const moved = moveCurve(own, c);
      if (moved.kind === "arc")
        add(`arc:${plate.id}:${c.name}`, `${of} ${c.name}`, {
          kind: "arc",
          a: xy(moved.a),
          b: xy(moved.b),
          c: xy(moved.c),
          ccw: moved.ccw,
        });
    }
  }
  for (const bend of bendsAmong(draft.pieces.carriers()))
    for (const [share, what] of [
      [0, "tangent"],
      [0.5, "bend"],
      [1, "end"],
    ] as const) {
      const from = along(bend.origin, bend.out, bend.allowance * share);
      const label = {
        tangent: "first tangent line of bend",
        bend: "bend",
        end: "second tangent line of bend",
      }[what];
      add(`${what}:${bend.id}`, `${label} ${numberOf(bend.id)}`, {
        kind: "line",
        a: place(from),
        b: place(along(from, bend.axis, bend.width)),
      });
    }
  return [...found.values()];
}

/** The line on which a leg stands, where its straight part begins: all of the part that its outline can be drawn on. */
export const legBase = (width: number): Backdrop[] => [
  { name: "base", label: "the bend", curve: { kind: "line", a: [-width / 2, 0], b: [width / 2, 0] } },
];
