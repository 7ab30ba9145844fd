import {
  type Curve,
  curvePath,
  type DrawnContent,
  drawBlank,
  type ExportPreset,
  isDrawable,
  type MeasureEnd,
  moveCurve,
  movePoint,
  openingLoops,
  orientationOf,
  orientBlank,
  type PartBuild,
  type PartDocument,
  type PlacedBlank,
  type Point,
  pickables,
  platesOf,
  regionLoops,
  type Sheet,
  sheetCorners,
} from "@hillcrest/core";
import { pickOf } from "../../views/pick-names.ts";

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
  readonly outline: string;
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

/** Everything that can be measured on a blank as it lies. */
export function targetsOf(sheet: Sheet, placed: PlacedBlank): Target[] {
  const { motion, blank } = placed;
  const borders = pickables(sheet).flatMap((b): Target[] => {
    const end = endOfPick(pickOf(b));
    return end ? [{ end, path: pathOf(b.curves.map((c) => moveCurve(motion, c))) }] : [];
  });
  const bends = blank.centreLines.map(
    ({ bend, pieces }): Target => ({ end: { kind: "bend", name: bend }, path: pathOf(pieces) }),
  );
  const centres = platesOf(sheet).flatMap((p) =>
    openingLoops(p.regions).map(
      ({ key, centre }): Target => ({
        end: { kind: "hole", name: `${p.id} ${key}` },
        at: movePoint(motion, centre),
      }),
    ),
  );
  const corners = sheetCorners(sheet).map(
    (c): Target => ({ end: { kind: "corner", name: c.name }, at: movePoint(motion, c.at) }),
  );
  return [...borders, ...bends, ...centres, ...corners];
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
    outline: [...laid.outlines, ...laid.openings].map((l) => curvePath(l, true)).join(""),
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
  const layers = preset.layers.map((l) => ({
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
