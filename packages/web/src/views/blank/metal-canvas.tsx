import { type Blank, type Bounds, boundsMeet, curvePath, type Loop, loopBounds } from "@hillcrest/core";
import { useLayoutEffect, useMemo, useRef } from "react";
import type { Window } from "./use-window.ts";

/**
 * From so many openings or bends on a blank it is drawn by the canvas, and what lies on it found by where it is: as
 * elements of the page each would be laid out and painted by itself whenever the view moves or the part changes.
 */
export const MANY_OPENINGS = 400;
export const MANY_BENDS = 150;

/** About so many openings stand in a cell of the canvas; cells that are not seen are not drawn. */
const IN_CELL = 64;

interface Cell {
  readonly loops: readonly Loop[];
  readonly path: Path2D;
  readonly box: Bounds;
  /** How wide its openings are on average, mm. */
  readonly width: number;
}

/** Openings in cells; a cell that holds the same ones as before keeps its path. */
class OpeningCells {
  readonly cells: readonly Cell[];
  private readonly byKey: ReadonlyMap<number, Cell>;

  constructor({ openings, bounds }: Blank, before?: OpeningCells) {
    const across = Math.max(1, Math.round(Math.sqrt(openings.length / IN_CELL)));
    const [wide, high] = [bounds.maxX - bounds.minX || 1, bounds.maxY - bounds.minY || 1];
    const into = (share: number) => Math.max(0, Math.min(across - 1, Math.floor(share * across)));
    const sorted = new Map<number, Loop[]>();
    for (const loop of openings) {
      const { minX, maxX, minY, maxY } = loopBounds(loop);
      const column = into(((minX + maxX) / 2 - bounds.minX) / wide);
      const key = into(((minY + maxY) / 2 - bounds.minY) / high) * across + column;
      const list = sorted.get(key);
      if (list) list.push(loop);
      else sorted.set(key, [loop]);
    }
    this.byKey = new Map(
      [...sorted].map(([key, loops]) => {
        const old = before?.byKey.get(key);
        const same = old?.loops.length === loops.length && loops.every((l, i) => l === old.loops[i]);
        return [key, same ? old : cellOf(loops)];
      }),
    );
    this.cells = [...this.byKey.values()];
  }
}

function cellOf(loops: readonly Loop[]): Cell {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  let width = 0;
  for (const loop of loops) {
    const b = loopBounds(loop);
    box.minX = Math.min(box.minX, b.minX);
    box.minY = Math.min(box.minY, b.minY);
    box.maxX = Math.max(box.maxX, b.maxX);
    box.maxY = Math.max(box.maxY, b.maxY);
    width += Math.min(b.maxX - b.minX, b.maxY - b.minY);
  }
  const path = new Path2D(loops.map((l) => curvePath(l, true)).join(""));
  return { loops, path, box, width: width / loops.length };
}

export interface MetalCanvasProps {
  readonly blank: Blank;
  readonly seen: Window;
  readonly size: { readonly width: number; readonly height: number };
  /** Plates that are lit, as paths, and how strongly. */
  readonly lit: readonly { readonly path: string; readonly strong: boolean }[];
  /** Where it is bent, drawn where it is not by elements of the page. */
  readonly bends?: BendStrokes;
  /** Changes with the colours of the page. */
  readonly theme: string;
}

/** The lines of bends, as paths: where they begin and end, and their middles by the way they go. */
export interface BendStrokes {
  readonly tangents: string;
  readonly up: string;
  readonly down: string;
}

/** The cells of which something lies in the window. */
function cellsSeen({ cells }: OpeningCells, seen: Window, size: MetalCanvasProps["size"]): readonly Cell[] {
  const [halfX, halfY] = [size.width / 2 / seen.zoom, size.height / 2 / seen.zoom];
  const window = { minX: seen.x - halfX, maxX: seen.x + halfX, minY: seen.y - halfY, maxY: seen.y + halfY };
  return cells.filter(({ box }) => boundsMeet(box, window));
}

type BendPaths = Readonly<Record<keyof BendStrokes, Path2D>>;

const useBendPaths = (bends: BendStrokes | undefined): BendPaths | undefined =>
  useMemo(
    () =>
      bends && {
        tangents: new Path2D(bends.tangents),
        up: new Path2D(bends.up),
        down: new Path2D(bends.down),
      },
    [bends],
  );

/** Bends as they are drawn where each is an element: up in one line, down in dashes. */
function strokeBends(
  pen: CanvasRenderingContext2D,
  { tangents, up, down }: BendPaths,
  ink: (name: string) => string,
  zoom: number,
): void {
  pen.globalAlpha = 0.16;
  pen.lineWidth = 1 / zoom;
  pen.stroke(tangents);
  pen.globalAlpha = 1;
  pen.lineWidth = 1.4 / zoom;
  pen.strokeStyle = ink("--bend-up");
  pen.stroke(up);
  pen.strokeStyle = ink("--bend-down");
  pen.setLineDash([7 / zoom, 4 / zoom]);
  pen.stroke(down);
  pen.setLineDash([]);
}

/** The metal of a blank: its outline filled, its openings taken out of it, all borders drawn, and its bends if they are said. */
export function MetalCanvas({ blank, seen, size, lit, bends, theme }: MetalCanvasProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const last = useRef<OpeningCells>(undefined);
  const cells = useMemo(() => {
    last.current = new OpeningCells(blank, last.current);
    return last.current;
  }, [blank]);
  const outline = useMemo(
    () => new Path2D(blank.outlines.map((l) => curvePath(l, true)).join("")),
    [blank.outlines],
  );
  const lines = useBendPaths(bends);
  const plates = useMemo(() => lit.map(({ path, strong }) => ({ path: new Path2D(path), strong })), [lit]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another theme has other colours
  useLayoutEffect(() => {
    const node = canvas.current!;
    const sharp = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(size.width * sharp), Math.round(size.height * sharp)];
    if (node.width !== width) node.width = width;
    if (node.height !== height) node.height = height;
    const pen = node.getContext("2d")!;
    const style = getComputedStyle(node);
    const ink = (name: string) => style.getPropertyValue(name).trim();
    const scale = seen.zoom * sharp;
    pen.setTransform(1, 0, 0, 1, 0, 0);
    pen.clearRect(0, 0, width, height);
    // Paths have y pointing down, as the page has.
    pen.setTransform(scale, 0, 0, scale, width / 2 - seen.x * scale, height / 2 + seen.y * scale);
    pen.fillStyle = ink("--blank");
    pen.fill(outline, "evenodd");
    for (const { path, strong } of plates) {
      pen.globalAlpha = strong ? 0.28 : 0.1;
      pen.fillStyle = ink("--amber");
      pen.fill(path, "evenodd");
    }
    pen.globalAlpha = 1;
    const visible = cellsSeen(cells, seen, size);
    pen.globalCompositeOperation = "destination-out";
    for (const { path } of visible) pen.fill(path);
    pen.globalCompositeOperation = "source-over";
    pen.strokeStyle = ink("--ink");
    pen.lineWidth = 1.4 / seen.zoom;
    pen.stroke(outline);
    for (const { path, width: wide } of visible) {
      // Where an opening is hardly wider than a line, a full line would leave nothing of it to be seen.
      pen.lineWidth = Math.min(1.4, (wide * seen.zoom) / 6) / seen.zoom;
      pen.stroke(path);
    }
    if (lines) strokeBends(pen, lines, ink, seen.zoom);
  }, [cells, outline, plates, lines, seen, size, theme]);
  return (
    <canvas
      ref={canvas}
      data-openings={blank.openings.length}
      className="pointer-events-none absolute inset-0 size-full"
    />
  );
}
