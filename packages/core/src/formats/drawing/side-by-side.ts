import type { Curve } from "../../plane/curve.ts";
import { moveCurve, movePoint, translation } from "../../plane/isometry.ts";
import { EMPTY_BOUNDS, joinBounds, type Point } from "../../plane/point.ts";
import type { PresetLayer } from "../../stock/export-preset.ts";
import type { DrawnBlank, DrawnEntity } from "./drawing.ts";
import { strokeText, textWidth } from "./strokes.ts";

/** A blank and how often it is wanted. */
export interface Wanted {
  readonly drawn: DrawnBlank;
  readonly quantity: number;
  /** Written under each: the part and its stock. */
  readonly label?: string;
  /** What it is cut from: blanks of one stock lie together, under its name. */
  readonly stock?: string;
}

/** How words are written beside blanks, in the drawing's unit. */
export interface LabelStyle {
  readonly layer: PresetLayer;
  readonly height: number;
  readonly text: "text" | "strokes";
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

interface Placed {
  readonly drawn: DrawnBlank;
  readonly d: Point;
}

interface Written {
  readonly text: string;
  readonly at: Point;
  readonly height: number;
}

/** Letters over a group are larger than those under a blank by this, and stocks farther apart than blanks. */
const HEADING = 2;
const BETWEEN_STOCKS = 4;

/**
 * Lays blanks in rows beside one another, the highest first, as near to a square as rows allow, `spacing` apart in the
 * drawing's unit. Every one is drawn as often as it is wanted; all must be by one preset. Blanks of one stock lie together
 * under its name, a wide gap from the next; with a style each has its label under it.
 */
export function sideBySide(wanted: readonly Wanted[], spacing: number, style?: LabelStyle): DrawnBlank {
  const stocks = [...new Set(wanted.map((w) => w.stock))];
  const placed: Placed[] = [];
  const written: Written[] = [];
  let foot = 0;
  for (const stock of stocks) {
    const own = wanted.filter((w) => w.stock === stock);
    const heading = style && stock !== undefined && stocks.length > 1 ? style.height * HEADING : 0;
    if (heading > 0) written.push({ text: stock!, at: { x: 0, y: foot }, height: heading });
    const group = layGroup(own, spacing, style, foot + heading * 1.8);
    placed.push(...group.placed);
    written.push(...group.written);
    foot = group.top + Math.max(BETWEEN_STOCKS * spacing, heading * 2);
  }
  return withWords(together(placed), written, style);
}

/** Lays the blanks of one stock from a height on upwards. */
function layGroup(own: readonly Wanted[], spacing: number, style: LabelStyle | undefined, foot: number) {
  const all = own
    .flatMap((w) => Array.from({ length: w.quantity }, () => w))
    .map(({ drawn, label }) => {
      const { minX, minY, maxX, maxY } = drawn.drawing.bounds;
      const width = maxX - minX;
      // A label is no wider than its blank, so that it reaches into no other.
      const letters =
        style && label ? Math.min(style.height, (width * style.height) / textWidth(label, style.height)) : 0;
      return { drawn, label, letters, minX, minY, width, height: maxY - minY + letters * 1.8 };
    })
    .sort((p, q) => q.height - p.height);
  const area = all.reduce((s, b) => s + (b.width + spacing) * (b.height + spacing), 0);
  const widest = all.reduce((m, b) => Math.max(m, b.width), 0);
  const limit = Math.max(widest, Math.sqrt(area) * 1.15);
  let [x, y, row] = [0, foot, 0];
  const written: Written[] = [];
  const placed = all.map((b): Placed => {
    if (x > 0 && x + b.width > limit) [x, y, row] = [0, y + row + spacing, 0];
    const d = { x: x - b.minX, y: y - b.minY + b.letters * 1.8 };
    if (b.label && b.letters > 0)
      written.push({ text: b.label, at: { x, y: y + b.letters * 0.4 }, height: b.letters });
    x += b.width + spacing;
    row = Math.max(row, b.height);
    return { drawn: b.drawn, d };
  });
  return { placed, written, top: y + row };
}

/** A drawing with words beside what is in it, on the layer of notes. */
function withWords(
  drawn: DrawnBlank,
  written: readonly Written[],
  style: LabelStyle | undefined,
): DrawnBlank {
  if (!style || written.length === 0) return drawn;
  const content = style.layer.content;
  const entities = written.flatMap(({ text, at, height }): DrawnEntity[] =>
    style.text === "text"
      ? [{ kind: "text", content, at, height, turn: 0, text }]
      : strokeText(text, { at, height, turn: 0 }).map((curves) => ({
          kind: "chain",
          content,
          curves,
          closed: false,
        })),
  );
  const { drawing } = drawn;
  return {
    ...drawn,
    drawing: {
      ...drawing,
      layers: new Map([...drawing.layers, [content, style.layer]]),
      entities: [...drawing.entities, ...entities],
    },
  };
}

/** Several drawings as one, each moved to its place. */
function together(placed: readonly Placed[]): DrawnBlank {
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
