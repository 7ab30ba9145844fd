import { type Blank, type DxfLayer, dxfLayerName, formatFixed, loopArea } from "@hillcrest/core";
import DxfParser, {
  type ICircleEntity,
  type IEntity,
  type ILineEntity,
  type ILwpolylineEntity,
} from "dxf-parser";

/** One thing that the file must show, and whether it does. */
export interface ProofLine {
  readonly holds: boolean;
  readonly text: string;
}

/** Signed area of a closed polyline with bulges. */
function polylineArea({ vertices }: ILwpolylineEntity): number {
  return vertices.reduce((sum, p, i) => {
    const q = vertices[(i + 1) % vertices.length];
    const chord = (p.x * q.y - q.x * p.y) / 2;
    if (!p.bulge) return sum + chord;
    // The piece between an arc and its chord: r²(θ − sin θ)/2 with tan(θ/4) the bulge.
    const theta = 4 * Math.atan(p.bulge);
    const r = Math.hypot(q.x - p.x, q.y - p.y) / (2 * Math.sin(Math.abs(theta) / 2));
    return sum + chord + (r * r * (theta - Math.sin(theta))) / 2;
  }, 0);
}

const areaOf = (e: IEntity) =>
  e.type === "CIRCLE"
    ? Math.PI * (e as ICircleEntity).radius ** 2
    : Math.abs(polylineArea(e as ILwpolylineEntity));

/**
 * Reads a DXF with a parser that shares nothing with the writer, and compares what it finds with
 * the blank: loops closed, areas equal, bend lines all there, everything flat.
 */
export function proveDxf(text: string, blank: Blank, layers: readonly DxfLayer[]): ProofLine[] {
  const file = new DxfParser().parseSync(text);
  if (!file) return [{ holds: false, text: "the file cannot be read" }];
  const on = (layer: DxfLayer) => file.entities.filter((e) => e.layer === dxfLayerName(layer));
  const loops = [...on("outline"), ...on("openings")].filter(
    (e) => e.type === "CIRCLE" || e.type === "LWPOLYLINE",
  );
  const closed = loops.filter((e) => e.type === "CIRCLE" || (e as ILwpolylineEntity).shape);
  const lines: ProofLine[] = [];
  const has = (layer: DxfLayer) => layers.includes(layer);
  const wanted = (has("outline") ? blank.outlines.length : 0) + (has("openings") ? blank.openings.length : 0);
  lines.push({
    holds: closed.length === wanted && loops.length === wanted,
    text: `${closed.length} closed loops, ${loops.length - closed.length} open`,
  });
  if (has("outline") && has("openings")) {
    const area =
      on("outline")
        .filter((e) => e.type !== "LINE")
        .reduce((s, e) => s + areaOf(e), 0) - on("openings").reduce((s, e) => s + areaOf(e), 0);
    const want = [...blank.outlines, ...blank.openings].reduce((s, l) => s + loopArea(l), 0);
    lines.push({ holds: Math.abs(area - want) < 1e-3, text: `area ${formatFixed(area, 3)} mm²` });
  }
  const bends = [...on("bendsUp"), ...on("bendsDown")];
  const pieces = blank.centreLines.reduce((s, l) => s + l.pieces.length, 0);
  if (has("bendsUp") && has("bendsDown"))
    lines.push({ holds: bends.length === pieces, text: `${bends.length} bend lines` });
  const flat = file.entities.every(
    (e) => e.type !== "LINE" || (e as ILineEntity).vertices.every((v) => (v.z ?? 0) === 0),
  );
  lines.push({ holds: flat && file.header.$INSUNITS === 4, text: "millimetres, all at z 0" });
  return lines;
}
