import {
  allLayers,
  backOf,
  type Curve,
  curvePath,
  type DrawnContent,
  drawBlank,
  type ExportPreset,
  isDrawable,
  type MeasureEnd,
  moveCurve,
  movePoint,
  NearCurves,
  openingLoops,
  orientationOf,
  orientBlank,
  type PartBuild,
  type PartDocument,
  type Pickable,
  type PlacedBlank,
  type Point,
  pickables,
  platesOf,
  regionLoops,
  type Sheet,
  sheetCorners,
} from "@hillcrest/core";
import { pickOf } from "../../views/pick-names.ts";
import { pickPlacesOf } from "../../views/pick-places.ts";

/** A place on the page for a place on the blank. */
export type Place = (p: Point) => Point;

/** Something on the blank that can be pointed at. */
export interface Target {
  readonly end: MeasureEnd;
  /** Its line, as the data of a path; nothing for a place. */
  readonly path?: string;
  readonly at?: Point;
}

/** What the page of the blank draws, in mm on the blank as it lies. */
export interface SheetDrawn {
  readonly placed: PlacedBlank;
  /** The metal with its openings, as the data of a path: long where there are many. */
  readonly outline: () => string;
  readonly overlaps: string;
  readonly slits: string;
  readonly marks: string;
  readonly bends: readonly { readonly id: string; readonly up: boolean; readonly path: string }[];
  readonly plates: readonly { readonly letter: string; readonly at: Point; readonly size: number }[];
}

export const pathOf = (curves: readonly Curve[]): string => curves.map((c) => curvePath([c], false)).join("");

/** What an edge, hole or bend is measured by; plates and what is not on the blank are nothing. */
export function endOfPick(pick: ReturnType<typeof pickOf>): MeasureEnd | undefined {
  if (pick.kind === "edge" || pick.kind === "corner") return { kind: pick.kind, name: pick.name };
  return pick.kind === "hole" ? { kind: "hole", name: `${pick.plate} ${pick.key}` } : undefined;
}

/** What a border is measured by, with its line. */
export function targetOfBorder(border: Pickable, { motion }: PlacedBlank): Target | undefined {
  const end = endOfPick(pickOf(border));
  return end && { end, path: pathOf(border.curves.map((c) => moveCurve(motion, c))) };
}

/**
 * Everything that can be measured on a blank as it lies. Where it has `many` openings their borders and middles, and the
 * edges, are left out: they are found by where they are, as `openingTargets` has them.
 */
export function targetsOf(sheet: Sheet, placed: PlacedBlank, many = false): Target[] {
  const { motion, blank } = placed;
  const onPlates = pickables(sheet).filter((b) => sheet.pieces[b.owner].kind === "plate");
  const borders = many ? [] : onPlates.flatMap((b) => targetOfBorder(b, placed) ?? []);
  const bends = blank.centreLines.map(
    ({ bend, pieces }): Target => ({ end: { kind: "bend", name: bend }, path: pathOf(pieces) }),
  );
  const centres = many ? [] : middlesOf(sheet, motion);
  const corners = sheetCorners(sheet).map(
    (c): Target => ({ end: { kind: "corner", name: c.name }, at: movePoint(motion, c.at) }),
  );
  return [...borders, ...bends, ...centres, ...corners];
}

/** The middles of all openings. */
const middlesOf = (sheet: Sheet, motion: PlacedBlank["motion"]): (Target & { readonly at: Point })[] =>
  platesOf(sheet).flatMap((p) =>
    openingLoops(p.regions).map(({ key, centre }) => ({
      end: { kind: "hole", name: `${p.id} ${key}` },
      at: movePoint(motion, centre),
    })),
  );

/** What of many openings, and of the edges beside them, is at a place of a blank as it lies, within so many mm of it. */
export function openingTargets(
  sheet: Sheet,
  placed: PlacedBlank,
): (p: Point, within: number) => Target | undefined {
  const places = pickPlacesOf(sheet);
  const back = backOf(placed.motion);
  const middles = new NearCurves(
    middlesOf(sheet, placed.motion).map((target) => {
      const { x, y } = target.at;
      return { target, box: { minX: x, maxX: x, minY: y, maxY: y } };
    }),
  );
  return (p, within) => {
    const around = { minX: p.x - within, maxX: p.x + within, minY: p.y - within, maxY: p.y + within };
    const away = ({ at }: { readonly at: Point }) => Math.hypot(at.x - p.x, at.y - p.y);
    const middle = middles
      .near(around)
      .map(({ target }) => target)
      .reduce<(Target & { readonly at: Point }) | undefined>(
        (best, t) => (away(t) < (best ? away(best) : within) ? t : best),
        undefined,
      );
    if (middle) return middle;
    const border = places.borderAt(movePoint(back, p), within);
    return border && targetOfBorder(border, placed);
  };
}

/** Lays the blank of a part as the part says, and gathers what is drawn of it. */
export function sheetDrawn(document: PartDocument, build: PartBuild): SheetDrawn | undefined {
  const { sheet, blank } = build;
  if (!sheet || !blank || blank.outlines.length === 0) return undefined;
  const placed = orientBlank(sheet, blank, orientationOf(document, build.stock));
  const rows = new Map(build.bends.map((b) => [b.id, b]));
  const { blank: laid, motion, side } = placed;
  return {
    placed,
    outline: () => [...laid.outlines, ...laid.openings].map((l) => curvePath(l, true)).join(""),
    overlaps: laid.overlaps.map((r) => curvePath(r.outer, true)).join(""),
    slits: pathOf(laid.slits),
    marks: pathOf(laid.marks.flatMap(({ curves }) => curves)),
    bends: laid.centreLines.map(({ bend, pieces }) => ({
      id: bend,
      up: (rows.get(bend)?.up ?? true) === (side === "B"),
      path: pathOf(pieces),
    })),
    plates: platesOf(sheet).flatMap((p) => {
      const loops = p.regions.flatMap(regionLoops);
      if (loops.length === 0) return [];
      const { x0, y0, x1, y1 } = p.box;
      const middle = { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
      const { origin, x } = p.frame;
      const at = {
        x: origin.x + x.x * middle.x - x.y * middle.y,
        y: origin.y + x.y * middle.x + x.x * middle.y,
      };
      return [{ letter: p.letter, at: movePoint(motion, at), size: Math.min(x1 - x0, y1 - y0) }];
    }),
  };
}

/** Lines beside the bends, and what is engraved, as the file would have them: the data of a path for each content. */
export function extraLines(
  document: PartDocument,
  build: PartBuild,
  preset: ExportPreset,
  contents: readonly DrawnContent[],
): ReadonlyMap<DrawnContent, string> {
  if (!isDrawable(build) || contents.length === 0) return new Map();
  const layers = allLayers(preset).map((l) => ({
    ...l,
    leftOut: !contents.includes(l.content) && l.content !== "outline",
  }));
  const { drawing } = drawBlank({
    document,
    build,
    preset: { ...preset, layers, units: "mm", turn: "page", origin: "corner", text: "strokes" },
  });
  const out = new Map<DrawnContent, string>();
  for (const e of drawing.entities) {
    if (!contents.includes(e.content)) continue;
    const path =
      e.kind === "curve"
        ? curvePath([e.curve], false)
        : e.kind === "chain"
          ? curvePath(e.curves, e.closed)
          : "";
    out.set(e.content, (out.get(e.content) ?? "") + path);
  }
  return out;
}
