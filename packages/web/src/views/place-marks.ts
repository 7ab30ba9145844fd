import { fromFrame, type PartBuild, type PlaceMark, type Plate, type Point, platesOf } from "@hillcrest/core";
import { useMemo } from "react";
import { useApp } from "../state/store.ts";

/** A mark in developed coordinates, and the plate it is on. */
export interface ShownMark {
  readonly owner: number;
  readonly origin: Point;
  readonly datums: readonly (readonly [Point, Point])[];
  readonly dims: readonly {
    readonly from: Point;
    readonly to: Point;
    readonly length: number;
    readonly field?: string;
  }[];
  /** The ends of the axes that are drawn at the origin. */
  readonly axes: readonly { readonly name: "X" | "Y"; readonly to: Point }[];
}

const DRAWN_AXIS = 0.16;

function shown(mark: PlaceMark, plate: Plate, owner: number): ShownMark {
  const out = (p: Point) => fromFrame(plate.frame, p);
  const { x0, y0, x1, y1 } = plate.box;
  const reach = Math.max(6, DRAWN_AXIS * Math.max(x1 - x0, y1 - y0));
  const { x, y } = mark.origin;
  return {
    owner,
    origin: out(mark.origin),
    datums: mark.datums.map(([a, b]) => [out(a), out(b)] as const),
    dims: mark.dims
      .map(({ from, to, field }) => ({
        field,
        from: out(from),
        to: out(to),
        length: Math.hypot(to.x - from.x, to.y - from.y),
      }))
      .filter((d) => d.length > 1e-6),
    axes: mark.axes
      ? [
          { name: "X", to: out({ x: x + reach, y }) },
          { name: "Y", to: out({ x, y: y + reach }) },
        ]
      : [],
  };
}

/** How the places of the open step are measured, for both views. */
export function usePlaceMarks(build: PartBuild): readonly ShownMark[] {
  const openStep = useApp((s) => s.view.openStep);
  return useMemo(() => {
    const marks = build.steps.find((s) => s.id === openStep)?.marks ?? [];
    return marks.flatMap((mark) => {
      const plate = platesOf(build.sheet).find((p) => p.id === mark.plate);
      return plate ? [shown(mark, plate, build.sheet!.pieces.indexOf(plate))] : [];
    });
  }, [build, openStep]);
}
