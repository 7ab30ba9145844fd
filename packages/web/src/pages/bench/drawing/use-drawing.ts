import {
  type Backdrop,
  type DrawTool,
  drawInto,
  type Outline,
  OutlineDrag,
  type OutlineRegions,
  outlineRegions,
  type Place,
  type SolvedOutline,
  snapPlace,
  solveOutline,
  standing,
  standOnPart,
  type TypedNumbers,
  withDistinctIds,
  type XY,
} from "@hillcrest/core";
import { useMemo } from "react";
import { openBuild } from "../../../state/build-slice.ts";
import { drawnNow, toolOf, typedNumbers } from "../../../state/drawing.ts";
import { useNames } from "../../../state/labels.ts";
import { useApp } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";

/** Of more curves than this the page itself does not solve an outline: what the worker says counts, when it comes. */
const MOST_SOLVED_HERE = 600;

/** The outline that is drawn, as it stands: where it is solved, and how it came out. */
export interface Drawing {
  readonly key: string;
  readonly outline: Outline;
  /** With its points where they are solved. */
  readonly now: Outline;
  readonly solved: SolvedOutline;
  readonly areas: OutlineRegions;
  readonly backdrops: readonly Backdrop[];
  /** What it stands for in the part and is no longer there. */
  readonly lost: readonly string[];
}

const NO_BACKDROPS: readonly Backdrop[] = [];
const NOTHING_LOST: readonly string[] = [];

export function useDrawing(): Drawing | undefined {
  const key = useApp((s) => s.drawing.key);
  const kept = useApp(drawnNow);
  // A pick is an id: what is drawn and what is said of it must not share one.
  const outline = useMemo(() => kept && withDistinctIds(kept), [kept]);
  const built = useApp((s) => openBuild(s).latest?.outlines?.find((o) => o.key === s.drawing.key));
  const names = useNames();
  const backdrops = built?.behind ?? NO_BACKDROPS;
  const lost = built?.lost ?? NOTHING_LOST;
  return useMemo(() => {
    if (key === undefined || !outline) return undefined;
    const placed = backdrops.length > 0 ? standOnPart(outline, backdrops).outline : outline;
    const large = outline.curves.length > MOST_SOLVED_HERE && built;
    const solved = large ? built.solved : solveOutline(placed, names);
    const known =
      !large || placed.curves.every((c) => c.kind !== "circle" || solved.radii[c.id] !== undefined);
    const now =
      known && Object.keys(placed.points).every((p) => solved.points[p]) ? standing(placed, solved) : placed;
    const areas = large ? built.areas : outlineRegions(placed, solved);
    return { key, outline, now, solved, areas, backdrops, lost };
  }, [key, outline, built, names, backdrops, lost]);
}

/** The tool that is taken up, with what is typed for it. */
export interface Tooling {
  readonly tool?: DrawTool;
  readonly numbers: TypedNumbers;
  readonly wrong: Readonly<Record<string, string>>;
}

export function useTooling(): Tooling {
  const kind = useApp((s) => s.drawing.tool);
  const stock = useApp((s) => s.stock);
  const typed = useApp((s) => s.drawing.typed);
  const units = useUnits();
  const names = useNames();
  return useMemo(() => {
    const tool = toolOf(stock, kind);
    return tool ? { tool, ...typedNumbers(tool, typed, units, names) } : { numbers: {}, wrong: {} };
  }, [kind, typed, units, names, stock]);
}

/** The place that is meant where the pointer is, with what would be drawn there. */
export interface Aim {
  readonly place: Place;
  /** What the numbers make of it. */
  readonly aimed: Place;
  readonly preview?: Outline;
  /** The numbers that it would come to. */
  readonly reads: Readonly<Record<string, number | undefined>>;
}

interface AimTask extends Tooling {
  readonly drawing: Drawing;
  readonly places: readonly Place[];
  readonly picks: readonly string[];
  readonly construction: boolean;
  readonly pointer: XY;
  readonly within: number;
  readonly grid: number;
  readonly free: boolean;
}

/** Where a tool's next place comes to, and what would be drawn with it. */
export function aimAt({
  drawing,
  tool,
  numbers,
  places,
  picks,
  construction,
  pointer,
  ...snap
}: AimTask): Aim {
  const { now, backdrops } = drawing;
  const from = tool?.stages[places.length]?.values?.length ? places[places.length - 1] : undefined;
  const place = tool ? snapPlace(now, pointer, { ...snap, from, backdrops }) : { at: pointer };
  const task = { places, typed: numbers, picks };
  const aimed = tool?.aim?.(place, task, now) ?? place;
  const reads = tool?.reads?.(aimed, task, now) ?? {};
  const last = tool && places.length === tool.stages.length - 1;
  const drawn = last ? drawInto(now, tool, { ...task, places: [...places, aimed] }, construction) : undefined;
  return { place, aimed, reads, ...(drawn && !("problem" in drawn) ? { preview: drawn.outline } : {}) };
}

/** Takes hold of something that can move: its points go with the pointer as far as what is asked for allows. */
export function takeHold(drawing: Drawing, id: string): OutlineDrag | undefined {
  const { now, solved } = drawing;
  if (solved.state !== "free") return undefined;
  const curve = now.curves.find((c) => c.id === id);
  const points = curve
    ? curve.kind === "circle"
      ? [curve.c]
      : [curve.a, curve.b]
    : now.points[id]
      ? [id]
      : [];
  return points.length > 0 ? new OutlineDrag(now, solved.values, points) : undefined;
}
