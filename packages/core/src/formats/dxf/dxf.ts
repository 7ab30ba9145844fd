import { arcAngles, type Curve, type Line } from "../../plane/curve.ts";
import { asCircle, type Loop } from "../../plane/loop.ts";
import type { Point } from "../../plane/point.ts";
import type { Blank } from "../../sheet/blank/blank.ts";
import { bendsOf, type Sheet } from "../../sheet/sheet.ts";

/** What a layer holds, its name in the file, and the file format's colour number and line type for it. */
const LAYERS = {
  outline: { name: "OUTLINE", colour: 7, lines: "CONTINUOUS" },
  openings: { name: "OPENINGS", colour: 7, lines: "CONTINUOUS" },
  bendsUp: { name: "BENDS_UP", colour: 30, lines: "CONTINUOUS" },
  bendsDown: { name: "BENDS_DOWN", colour: 150, lines: "DASHED" },
  tangents: { name: "TANGENTS", colour: 8, lines: "CONTINUOUS" },
} as const;

export type DxfLayer = keyof typeof LAYERS;

export const DXF_LAYERS = Object.keys(LAYERS) as DxfLayer[];
export const dxfLayerName = (layer: DxfLayer): string => LAYERS[layer].name;

export interface DxfOptions {
  /** Layers to write; by default all but the tangent lines. */
  readonly layers?: readonly DxfLayer[];
  /** Said in comments at the head of the file. */
  readonly remarks?: readonly string[];
}

export const DEFAULT_DXF_LAYERS: readonly DxfLayer[] = ["outline", "openings", "bendsUp", "bendsDown"];

/** Writes group codes and values, and hands out the handles that entities and tables need. */
class DxfWriter {
  private readonly out: string[] = [];
  private last = 0x20;

  pair(code: number, value: string | number): this {
    this.out.push(String(code).padStart(3), typeof value === "number" ? dxfNumber(code, value) : value);
    return this;
  }

  handle(): string {
    this.last++;
    return this.last.toString(16).toUpperCase();
  }

  get text(): string {
    return `${this.out.join("\r\n")}\r\n`;
  }
}

/** Whole numbers for flags and counts; elsewhere enough digits for 1e-9 mm and never an exponent. */
function dxfNumber(code: number, value: number): string {
  if (!Number.isFinite(value)) throw new Error(`A DXF file would hold ${value} at group ${code}.`);
  if ((code >= 60 && code < 80) || code === 90 || code === 281) return String(Math.round(value)).padStart(6);
  const text = value.toFixed(9).replace(/0+$/, "");
  const whole = text.endsWith(".") ? `${text}0` : text;
  return whole === "-0.0" ? "0.0" : whole;
}

const MODEL = "1F";
const PAPER = "1E";

/**
 * A blank as DXF (AC1015) in millimetres, in the plane z = 0, with its lower left corner at the
 * origin: each outline and each opening that is not round one closed polyline with arcs as bulges,
 * round openings as circles, bend centre lines as lines on a layer for each direction.
 */
export function writeDxf(sheet: Sheet, blank: Blank, options: DxfOptions = {}): string {
  const layers = options.layers ?? DEFAULT_DXF_LAYERS;
  const has = (layer: DxfLayer) => layers.includes(layer);
  const w = new DxfWriter();
  const shift = { x: -blank.bounds.minX, y: -blank.bounds.minY };
  // A comment is one line of plain text; what would not be is left out of it.
  for (const text of options.remarks ?? []) w.pair(999, text.replace(/[^\x20-\x7e]+/g, " ").slice(0, 250));
  writeHeader(w, blank);
  writeTables(w, layers);
  writeBlocks(w);
  w.pair(0, "SECTION").pair(2, "ENTITIES");
  const draw = new Entities(w, shift);
  if (has("outline")) {
    for (const loop of blank.outlines) draw.loop(loop, "outline");
    for (const slit of blank.slits) draw.curve(slit, "outline");
  }
  if (has("openings")) for (const loop of blank.openings) draw.loop(loop, "openings");
  const up = new Map(bendsOf(sheet).map((b) => [b.id, b.up]));
  for (const { bend, pieces } of blank.centreLines) {
    const layer = up.get(bend) ? "bendsUp" : "bendsDown";
    if (has(layer)) for (const piece of pieces) draw.line(piece, layer);
  }
  if (has("tangents"))
    for (const { pieces } of blank.tangentLines) for (const p of pieces) draw.line(p, "tangents");
  w.pair(0, "ENDSEC");
  writeObjects(w);
  w.pair(0, "EOF");
  return w.text;
}

class Entities {
  private readonly w: DxfWriter;
  private readonly shift: Point;

  constructor(w: DxfWriter, shift: Point) {
    this.w = w;
    this.shift = shift;
  }

  private begin(type: string, layer: DxfLayer, subclass: string): DxfWriter {
    const { w } = this;
    w.pair(0, type).pair(5, w.handle()).pair(330, MODEL).pair(100, "AcDbEntity");
    return w.pair(8, LAYERS[layer].name).pair(100, subclass);
  }

  private at(code: number, p: Point, withZ = true): void {
    this.w.pair(code, p.x + this.shift.x).pair(code + 10, p.y + this.shift.y);
    if (withZ) this.w.pair(code + 20, 0);
  }

  line(c: Line, layer: DxfLayer): void {
    this.begin("LINE", layer, "AcDbLine");
    this.at(10, c.a);
    this.at(11, c.b);
  }

  curve(c: Curve, layer: DxfLayer): void {
    if (c.kind === "line") return void this.line(c, layer);
    const { w } = this;
    this.begin("ARC", layer, "AcDbCircle");
    this.at(10, c.c);
    const degrees = (p: Point) => (Math.atan2(p.y - c.c.y, p.x - c.c.x) * 180) / Math.PI;
    const [from, to] = c.ccw ? [c.a, c.b] : [c.b, c.a];
    w.pair(40, c.r).pair(100, "AcDbArc").pair(50, degrees(from)).pair(51, degrees(to));
  }

  loop(loop: Loop, layer: DxfLayer): void {
    const circle = asCircle(loop);
    if (circle) {
      this.begin("CIRCLE", layer, "AcDbCircle");
      this.at(10, circle.c);
      this.w.pair(40, circle.r);
      return;
    }
    this.begin("LWPOLYLINE", layer, "AcDbPolyline").pair(90, loop.length).pair(70, 1).pair(43, 0);
    for (const c of loop) {
      this.at(10, c.a, false);
      // A bulge is the tangent of a quarter of the arc's turn, positive to the left.
      if (c.kind === "arc") this.w.pair(42, Math.tan(arcAngles(c).sweep / 4));
    }
  }
}

function writeHeader(w: DxfWriter, blank: Blank): void {
  w.pair(0, "SECTION").pair(2, "HEADER");
  w.pair(9, "$ACADVER").pair(1, "AC1015");
  w.pair(9, "$DWGCODEPAGE").pair(3, "ANSI_1252");
  w.pair(9, "$INSUNITS").pair(70, 4);
  w.pair(9, "$MEASUREMENT").pair(70, 1);
  w.pair(9, "$EXTMIN").pair(10, 0).pair(20, 0).pair(30, 0);
  w.pair(9, "$EXTMAX").pair(10, blank.width).pair(20, blank.height).pair(30, 0);
  w.pair(9, "$HANDSEED").pair(5, "FFFFF");
  w.pair(0, "ENDSEC");
}

function table(w: DxfWriter, name: string, handle: string, count: number, entries: () => void): void {
  w.pair(0, "TABLE")
    .pair(2, name)
    .pair(5, handle)
    .pair(330, "0")
    .pair(100, "AcDbSymbolTable")
    .pair(70, count);
  if (name === "DIMSTYLE") w.pair(100, "AcDbDimStyleTable").pair(71, 0);
  entries();
  w.pair(0, "ENDTAB");
}

function entry(
  w: DxfWriter,
  type: string,
  owner: string,
  subclass: string,
  name: string,
  handle = w.handle(),
): DxfWriter {
  w.pair(0, type).pair(5, handle).pair(330, owner).pair(100, "AcDbSymbolTableRecord").pair(100, subclass);
  return w.pair(2, name);
}

function writeTables(w: DxfWriter, layers: readonly DxfLayer[]): void {
  w.pair(0, "SECTION").pair(2, "TABLES");
  table(w, "VPORT", "8", 0, () => {});
  table(w, "LTYPE", "5", 4, () => {
    for (const name of ["ByBlock", "ByLayer", "CONTINUOUS"]) {
      entry(w, "LTYPE", "5", "AcDbLinetypeTableRecord", name)
        .pair(70, 0)
        .pair(3, "")
        .pair(72, 65)
        .pair(73, 0)
        .pair(40, 0);
    }
    entry(w, "LTYPE", "5", "AcDbLinetypeTableRecord", "DASHED")
      .pair(70, 0)
      .pair(3, "__ __ __")
      .pair(72, 65)
      .pair(73, 2);
    w.pair(40, 9).pair(49, 6).pair(74, 0).pair(49, -3).pair(74, 0);
  });
  table(w, "LAYER", "2", layers.length + 1, () => {
    const layer = (name: string, colour: number, lines: string) =>
      entry(w, "LAYER", "2", "AcDbLayerTableRecord", name).pair(70, 0).pair(62, colour).pair(6, lines);
    layer("0", 7, "CONTINUOUS");
    for (const key of layers) layer(LAYERS[key].name, LAYERS[key].colour, LAYERS[key].lines);
  });
  table(w, "STYLE", "3", 1, () => {
    entry(w, "STYLE", "3", "AcDbTextStyleTableRecord", "Standard")
      .pair(70, 0)
      .pair(40, 0)
      .pair(41, 1)
      .pair(50, 0);
    w.pair(71, 0).pair(42, 2.5).pair(3, "txt").pair(4, "");
  });
  table(w, "VIEW", "6", 0, () => {});
  table(w, "UCS", "7", 0, () => {});
  table(w, "APPID", "9", 1, () => entry(w, "APPID", "9", "AcDbRegAppTableRecord", "ACAD").pair(70, 0));
  table(w, "DIMSTYLE", "A", 0, () => {});
  table(w, "BLOCK_RECORD", "1", 2, () => {
    entry(w, "BLOCK_RECORD", "1", "AcDbBlockTableRecord", "*Model_Space", MODEL);
    entry(w, "BLOCK_RECORD", "1", "AcDbBlockTableRecord", "*Paper_Space", PAPER);
  });
  w.pair(0, "ENDSEC");
}

function writeBlocks(w: DxfWriter): void {
  w.pair(0, "SECTION").pair(2, "BLOCKS");
  for (const [owner, name] of [
    [MODEL, "*Model_Space"],
    [PAPER, "*Paper_Space"],
  ]) {
    w.pair(0, "BLOCK").pair(5, w.handle()).pair(330, owner).pair(100, "AcDbEntity").pair(8, "0");
    w.pair(100, "AcDbBlockBegin")
      .pair(2, name)
      .pair(70, 0)
      .pair(10, 0)
      .pair(20, 0)
      .pair(30, 0)
      .pair(3, name)
      .pair(1, "");
    w.pair(0, "ENDBLK")
      .pair(5, w.handle())
      .pair(330, owner)
      .pair(100, "AcDbEntity")
      .pair(8, "0")
      .pair(100, "AcDbBlockEnd");
  }
  w.pair(0, "ENDSEC");
}

function writeObjects(w: DxfWriter): void {
  w.pair(0, "SECTION").pair(2, "OBJECTS");
  w.pair(0, "DICTIONARY").pair(5, "C").pair(330, "0").pair(100, "AcDbDictionary").pair(281, 1);
  w.pair(3, "GROUPS").pair(350, "D");
  w.pair(0, "DICTIONARY").pair(5, "D").pair(330, "C").pair(100, "AcDbDictionary").pair(281, 1);
  w.pair(0, "ENDSEC");
}
