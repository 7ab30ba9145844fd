import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IDxf,
  type IEllipseEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
  type ISplineEntity,
} from "dxf-parser";
import type { Shape } from "../../outline/from-shapes.ts";

/** The package exports its class alone, which its types do not say to every way of loading it. */
const Parser = DxfParser as unknown as new () => { parseSync(text: string): IDxf | null };

/** What a drawing file holds, in its own units, and what those are. */
export interface DrawnShapes {
  readonly shapes: readonly Shape[];
  /** The layer of each shape, where the file has layers. */
  readonly layers?: readonly string[];
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
    case "ELLIPSE":
      return ellipseShape(entity as IEllipseEntity);
    case "SPLINE":
      return splineShape(entity as ISplineEntity);
  }
  return undefined;
}

function ellipseShape({
  center: c,
  majorAxisEndPoint: m,
  axisRatio,
  startAngle,
  endAngle,
}: IEllipseEntity): Shape {
  const turn = endAngle > startAngle ? endAngle - startAngle : endAngle - startAngle + 2 * Math.PI;
  const on = (x: number, y: number) =>
    [x * m.x - y * axisRatio * m.y, x * m.y + y * axisRatio * m.x] as const;
  const angle = (t: number) => startAngle + turn * t;
  return {
    kind: "smooth",
    at: (t) => {
      const [x, y] = on(Math.cos(angle(t)), Math.sin(angle(t)));
      return [c.x + x, c.y + y];
    },
    way: (t) => on(-Math.sin(angle(t)), Math.cos(angle(t))),
  };
}

/** A spline by its control points and knots (de Boor); nothing where they do not fit one another. */
function splineShape(entity: ISplineEntity): Shape | undefined {
  const { controlPoints = [], knotValues: knots = [], degreeOfSplineCurve: degree } = entity;
  const points = controlPoints.map((p) => [p.x, p.y] as const);
  if (!degree || points.length <= degree || knots.length !== points.length + degree + 1) return undefined;
  const [low, high] = [knots[degree], knots[points.length]];
  if (!(high > low)) return undefined;
  const at = (t: number) => deBoor(points, knots, degree, low + (high - low) * Math.min(1, Math.max(0, t)));
  const step = 1e-5;
  return {
    kind: "smooth",
    at,
    way: (t) => {
      const [p, q] = [at(t - step), at(t + step)];
      return [q[0] - p[0], q[1] - p[1]];
    },
  };
}

function deBoor(
  points: readonly (readonly [number, number])[],
  knots: readonly number[],
  degree: number,
  u: number,
): readonly [number, number] {
  let span = degree;
  while (span < points.length - 1 && u >= knots[span + 1]) span++;
  const d = Array.from({ length: degree + 1 }, (_, j) => [...points[j + span - degree]] as [number, number]);
  for (let r = 1; r <= degree; r++)
    for (let j = degree; j >= r; j--) {
      const i = j + span - degree;
      const width = knots[i + degree - r + 1] - knots[i];
      const f = width > 0 ? (u - knots[i]) / width : 0;
      d[j] = [d[j - 1][0] * (1 - f) + d[j][0] * f, d[j - 1][1] * (1 - f) + d[j][1] * f];
    }
  return d[degree];
}

/** Reads the text of a DXF by a parser that shares nothing with the writer. Throws where the text is none. */
export function parseDxf(text: string): IDxf {
  const file = new Parser().parseSync(text);
  if (!file) throw new Error("there is nothing in it");
  return file;
}

/** What a DXF that was read draws. */
export function shapesOfDxf(file: IDxf): DrawnShapes {
  const others = new Map<string, number>();
  const layers: string[] = [];
  const shapes = file.entities.flatMap((entity): Shape[] => {
    const shape = shapeOf(entity);
    if (shape) {
      layers.push(entity.layer ?? "0");
      return [shape];
    }
    others.set(entity.type, (others.get(entity.type) ?? 0) + 1);
    return [];
  });
  const units = Number((file.header as Record<string, unknown> | undefined)?.$INSUNITS ?? 0);
  const scale = SCALES[units];
  return { shapes, layers, others, ...(scale === undefined ? {} : { scale }) };
}

/** Reads what a DXF draws. Throws where the text is none. */
export const readDxfShapes = (text: string): DrawnShapes => shapesOfDxf(parseDxf(text));
