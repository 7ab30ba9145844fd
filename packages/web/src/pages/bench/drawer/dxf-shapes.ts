import type { Shape } from "@hillcrest/core";
import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
} from "dxf-parser";

/** What a DXF holds, in its own units, and what those are. */
export interface DxfShapes {
  readonly shapes: readonly Shape[];
  /** Millimetres in a unit; nothing where the file does not say. */
  readonly scale?: number;
  /** Kinds of entities that are no lines or arcs, each with how many there are. */
  readonly others: ReadonlyMap<string, number>;
}

/** $INSUNITS: inches, feet, millimetres, centimetres, metres. */
const SCALES: Readonly<Record<number, number>> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000 };

function shapeOf(entity: IEntity): Shape | undefined {
  switch (entity.type) {
    case "LINE": {
      const [a, b] = (entity as ILineEntity).vertices;
      return { kind: "line", a: [a.x, a.y], b: [b.x, b.y] };
    }
    case "ARC": {
      const { center: c, radius: r, startAngle, endAngle } = entity as IArcEntity;
      return { kind: "arc", c: [c.x, c.y], r, from: startAngle, to: endAngle };
    }
    case "CIRCLE": {
      const { center: c, radius: r } = entity as ICircleEntity;
      return { kind: "circle", c: [c.x, c.y], r };
    }
    case "LWPOLYLINE":
    case "POLYLINE": {
      const { vertices, shape } = entity as ILwpolylineEntity | IPolylineEntity;
      const corners = vertices.map((v) => ({
        at: [v.x, v.y] as const,
        bulge: (v as { bulge?: number }).bulge ?? 0,
      }));
      return { kind: "chain", corners, closed: shape };
    }
  }
  return undefined;
}

/** Reads a DXF. Throws where the text is none. */
export function readDxfShapes(text: string): DxfShapes {
  const file = new DxfParser().parseSync(text);
  if (!file) throw new Error("there is nothing in it");
  const others = new Map<string, number>();
  const shapes = file.entities.flatMap((entity): Shape[] => {
    const shape = shapeOf(entity);
    if (shape) return [shape];
    others.set(entity.type, (others.get(entity.type) ?? 0) + 1);
    return [];
  });
  const units = Number((file.header as Record<string, unknown> | undefined)?.$INSUNITS ?? 0);
  const scale = SCALES[units];
  return { shapes, others, ...(scale === undefined ? {} : { scale }) };
}
