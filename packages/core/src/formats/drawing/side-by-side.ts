import type { Curve } from "../../plane/curve.ts";
import { moveCurve, movePoint, translation } from "../../plane/isometry.ts";
import { EMPTY_BOUNDS, joinBounds, type Point } from "../../plane/point.ts";
import type { DrawnBlank, DrawnEntity } from "./drawing.ts";

/** A blank and how often it is wanted. */
export interface Wanted {
  readonly drawn: DrawnBlank;
  readonly quantity: number;
}

function moveEntity(e: DrawnEntity, d: Point): DrawnEntity {
  const m = translation(d);
  switch (e.kind) {
    case "curve":
      return { ...e, curve: moveCurve(m, e.curve) };
    case "circle":
      return { ...e, c: movePoint(m, e.c) };
    case "chain":
      return { ...e, curves: e.curves.map((c) => moveCurve(m, c)) };
    case "text":
      return { ...e, at: movePoint(m, e.at) };
  }
}

/** A file of more lines, arcs and circles is one that nobody's machine opens. */
export const MOST_IN_ONE_FILE = 500_000;

/** Why blanks are too many for one file, and what would do; nothing where they are not. */
export function tooManyTogether(wanted: readonly Wanted[]): string | undefined {
  const all = wanted.reduce((sum, { drawn, quantity }) => sum + drawn.drawing.entities.length * quantity, 0);
  return all <= MOST_IN_ONE_FILE
    ? undefined
    : `Side by side these would be ${all} lines, arcs and circles; one file can have ${MOST_IN_ONE_FILE}. Take fewer, or a file for each.`;
}

/**
 * Lays blanks in rows beside one another, the highest first, as near to a square as rows allow, `spacing` apart in the
 * drawing's unit. Every one is drawn as often as it is wanted; all must be by one preset.
 */
export function sideBySide(wanted: readonly Wanted[], spacing: number): DrawnBlank {
  const all = wanted
    .flatMap(({ drawn, quantity }) => Array.from({ length: quantity }, () => drawn))
    .map((drawn) => {
      const { minX, minY, maxX, maxY } = drawn.drawing.bounds;
      return { drawn, minX, minY, width: maxX - minX, height: maxY - minY };
    })
    .sort((p, q) => q.height - p.height);
  const area = all.reduce((s, b) => s + (b.width + spacing) * (b.height + spacing), 0);
  const widest = all.reduce((m, b) => Math.max(m, b.width), 0);
  const limit = Math.max(widest, Math.sqrt(area) * 1.15);
  let [x, y, row] = [0, 0, 0];
  const placed = all.map((b) => {
    if (x > 0 && x + b.width > limit) [x, y, row] = [0, y + row + spacing, 0];
    const d = { x: x - b.minX, y: y - b.minY };
    x += b.width + spacing;
    row = Math.max(row, b.height);
    return { drawn: b.drawn, d };
  });
  return together(placed);
}

/** Several drawings as one, each moved to its place. */
function together(placed: readonly { readonly drawn: DrawnBlank; readonly d: Point }[]): DrawnBlank {
  const [{ drawn: first }] = placed;
  const curves = (pick: (f: DrawnBlank["facts"]) => readonly Curve[]) =>
    placed.flatMap(({ drawn, d }) => pick(drawn.facts).map((c) => moveCurve(translation(d), c)));
  const loops = (pick: (f: DrawnBlank["facts"]) => readonly (readonly Curve[])[]) =>
    placed.flatMap(({ drawn, d }) =>
      pick(drawn.facts).map((l) => l.map((c) => moveCurve(translation(d), c))),
    );
  const sum = (pick: (f: DrawnBlank["facts"]) => number) =>
    placed.reduce((s, p) => s + pick(p.drawn.facts), 0);
  return {
    unit: first.unit,
    notes: [...new Set(placed.flatMap((p) => p.drawn.notes))],
    stops: [...new Set(placed.flatMap((p) => p.drawn.stops))],
    drawing: {
      units: first.drawing.units,
      layers: first.drawing.layers,
      entities: placed.flatMap(({ drawn, d }) => drawn.drawing.entities.map((e) => moveEntity(e, d))),
      bounds: placed.reduce((box, { drawn, d }) => {
        const b = drawn.drawing.bounds;
        return joinBounds(box, {
          minX: b.minX + d.x,
          minY: b.minY + d.y,
          maxX: b.maxX + d.x,
          maxY: b.maxY + d.y,
        });
      }, EMPTY_BOUNDS),
    },
    facts: {
      outlines: loops((f) => f.outlines),
      openings: loops((f) => f.openings),
      marked: loops((f) => f.marked),
      slits: curves((f) => f.slits),
      bendsUp: curves((f) => f.bendsUp),
      bendsDown: curves((f) => f.bendsDown),
      joints: sum((f) => f.joints),
      jointWidth: first.facts.jointWidth,
      joinedPieces: sum((f) => f.joinedPieces),
      slack: sum((f) => f.slack),
    },
  };
}
