import { arcAngles, type Curve } from "../../plane/curve.ts";
import { LINE_TYPES, type LineType, type PresetLayer } from "../../stock/export-preset.ts";
import type { Drawing, DrawnEntity } from "../drawing/drawing.ts";
import { dxfRemark, dxfText } from "./dxf-text.ts";
import { DxfWriter, pairs } from "./group-codes.ts";

export type DxfVersion = "r12" | "r2000";

export interface DxfOptions {
  readonly version: DxfVersion;
  /** Said in comments at the head of the file. */
  readonly remarks?: readonly string[];
}

const MODEL = "1F";
const PAPER = "1E";
const DEGREES = 180 / Math.PI;

/**
 * A drawing as DXF, in its own units, in the plane z = 0: R12 (AC1009), which every reader knows and which holds no units,
 * or R2000 (AC1015), which says them. Chains are polylines with arcs as bulges; nothing is broken into chords.
 */
export function writeDxf(drawing: Drawing, { version, remarks = [] }: DxfOptions): string {
  // The header names the next free handle, which is known when everything else is written.
  const body = new DxfWriter();
  const old = version === "r12";
  writeTables(body, drawing, old);
  writeBlocks(body, old);
  body.pair(0, "SECTION").pair(2, "ENTITIES");
  const write = old ? writeOldEntity : writeEntity;
  for (const e of drawing.entities) write(body, e, drawing.layers.get(e.content)!.name);
  body.pair(0, "ENDSEC");
  if (!old) writeObjects(body);
  body.pair(0, "EOF");
  const head = new DxfWriter();
  for (const text of [`Units: ${drawing.units === "mm" ? "millimetres" : "inches"}`, ...remarks])
    head.pair(999, dxfRemark(text));
  writeHeader(head, drawing, old, body.seed);
  return head.text + body.text;
}

function writeHeader(w: DxfWriter, { bounds, units }: Drawing, old: boolean, seed: string): void {
  w.pair(0, "SECTION").pair(2, "HEADER");
  w.pair(9, "$ACADVER").pair(1, old ? "AC1009" : "AC1015");
  if (!old) {
    w.pair(9, "$DWGCODEPAGE").pair(3, "ANSI_1252");
    w.pair(9, "$INSUNITS").pair(70, units === "mm" ? 4 : 1);
    w.pair(9, "$MEASUREMENT").pair(70, units === "mm" ? 1 : 0);
    w.pair(9, "$HANDSEED").pair(5, seed);
  }
  w.pair(9, "$EXTMIN").pair(10, bounds.minX).pair(20, bounds.minY).pair(30, 0);
  w.pair(9, "$EXTMAX").pair(10, bounds.maxX).pair(20, bounds.maxY).pair(30, 0);
  w.pair(0, "ENDSEC");
}

/** What a line type is called, and its dashes and gaps (mm): a gap is negative, a dot is nought. */
const LINE_LOOKS: Readonly<Record<LineType, { name: string; said: string; dashes: readonly number[] }>> = {
  continuous: { name: "CONTINUOUS", said: "Solid line", dashes: [] },
  dashed: { name: "DASHED", said: "__ __ __", dashes: [6, -3] },
  dotted: { name: "DOTTED", said: ". . . .", dashes: [0, -2] },
  chain: { name: "CHAIN", said: "____ . ____ .", dashes: [10, -2, 0, -2] },
};

/** One layer for each name, in the order in which the preset has them. */
function layerList({ layers }: Drawing): PresetLayer[] {
  const out = new Map<string, PresetLayer>();
  for (const layer of layers.values())
    if (!out.has(layer.name.toUpperCase())) out.set(layer.name.toUpperCase(), layer);
  return [...out.values()];
}

function table(
  w: DxfWriter,
  old: boolean,
  name: string,
  handle: string,
  count: number,
  entries: () => void,
): void {
  w.pair(0, "TABLE").pair(2, name);
  if (!old) w.pair(5, handle).pair(330, "0").pair(100, "AcDbSymbolTable");
  w.pair(70, count);
  if (!old && name === "DIMSTYLE") w.pair(100, "AcDbDimStyleTable").pair(71, 0);
  entries();
  w.pair(0, "ENDTAB");
}

interface Entry {
  readonly type: string;
  readonly owner: string;
  readonly subclass: string;
  readonly name: string;
  readonly handle?: string;
}

function entry(w: DxfWriter, old: boolean, { type, owner, subclass, name, handle }: Entry): DxfWriter {
  w.pair(0, type);
  if (!old)
    w.pair(5, handle ?? w.handle())
      .pair(330, owner)
      .pair(100, "AcDbSymbolTableRecord")
      .pair(100, subclass);
  return w.pair(2, name);
}

function writeTables(w: DxfWriter, drawing: Drawing, old: boolean): void {
  const named = (type: string, owner: string, subclass: string, name: string) =>
    entry(w, old, { type, owner, subclass, name });
  w.pair(0, "SECTION").pair(2, "TABLES");
  if (!old) table(w, old, "VPORT", "8", 0, () => {});
  const lineTypes = [
    ...(old ? [] : ["ByBlock", "ByLayer"].map((name) => ({ name, said: "", dashes: [] }))),
    ...LINE_TYPES.map((t) => LINE_LOOKS[t]),
  ];
  table(w, old, "LTYPE", "5", lineTypes.length, () => {
    for (const { name, said, dashes } of lineTypes) {
      named("LTYPE", "5", "AcDbLinetypeTableRecord", name).pair(70, 0).pair(3, said).pair(72, 65);
      w.pair(73, dashes.length).pair(
        40,
        dashes.reduce((sum, v) => sum + Math.abs(v), 0),
      );
      for (const dash of dashes) {
        w.pair(49, dash);
        if (!old) w.pair(74, 0);
      }
    }
  });
  const layers = layerList(drawing);
  table(w, old, "LAYER", "2", layers.length + 1, () => {
    const layer = (name: string, colour: number, lines: string) =>
      named("LAYER", "2", "AcDbLayerTableRecord", name).pair(70, 0).pair(62, colour).pair(6, lines);
    layer("0", 7, "CONTINUOUS");
    for (const l of layers) layer(l.name, l.colour, LINE_LOOKS[l.lines].name);
  });
  table(w, old, "STYLE", "3", 1, () => {
    const style = old ? "STANDARD" : "Standard";
    named("STYLE", "3", "AcDbTextStyleTableRecord", style).pair(70, 0).pair(40, 0).pair(41, 1).pair(50, 0);
    w.pair(71, 0).pair(42, 2.5).pair(3, "txt").pair(4, "");
  });
  if (!old) writeNewTables(w, named);
  w.pair(0, "ENDSEC");
}

/** Tables that the newer version asks for, though nothing of a blank is in them. */
function writeNewTables(
  w: DxfWriter,
  named: (type: string, owner: string, subclass: string, name: string) => DxfWriter,
): void {
  table(w, false, "VIEW", "6", 0, () => {});
  table(w, false, "UCS", "7", 0, () => {});
  table(w, false, "APPID", "9", 1, () => named("APPID", "9", "AcDbRegAppTableRecord", "ACAD").pair(70, 0));
  table(w, false, "DIMSTYLE", "A", 0, () => {});
  table(w, false, "BLOCK_RECORD", "1", 2, () => {
    for (const [name, handle] of [
      ["*Model_Space", MODEL],
      ["*Paper_Space", PAPER],
    ])
      entry(w, false, { type: "BLOCK_RECORD", owner: "1", subclass: "AcDbBlockTableRecord", name, handle });
  });
}

function writeBlocks(w: DxfWriter, old: boolean): void {
  w.pair(0, "SECTION").pair(2, "BLOCKS");
  if (!old)
    for (const [owner, name] of [
      [MODEL, "*Model_Space"],
      [PAPER, "*Paper_Space"],
    ]) {
      w.pair(0, "BLOCK").pair(5, w.handle()).pair(330, owner).pair(100, "AcDbEntity").pair(8, "0");
      w.pair(100, "AcDbBlockBegin").pair(2, name).pair(70, 0).pair(10, 0).pair(20, 0).pair(30, 0);
      w.pair(3, name).pair(1, "");
      w.pair(0, "ENDBLK").pair(5, w.handle()).pair(330, owner).pair(100, "AcDbEntity").pair(8, "0");
      w.pair(100, "AcDbBlockEnd");
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

/** Where an arc begins and ends counter-clockwise, degrees. */
function arcDegrees(c: Extract<Curve, { kind: "arc" }>): readonly [number, number] {
  const degrees = (p: { x: number; y: number }) => Math.atan2(p.y - c.c.y, p.x - c.c.x) * DEGREES;
  return c.ccw ? [degrees(c.a), degrees(c.b)] : [degrees(c.b), degrees(c.a)];
}

/** A bulge is the tangent of a quarter of an arc's turn, positive to the left. */
const bulgeOf = (c: Curve): number => (c.kind === "arc" ? Math.tan(arcAngles(c).sweep / 4) : 0);

/** The places of a chain, each with the bulge of what goes on from it; an open one has its end too. */
function cornersOfChain(curves: readonly Curve[], closed: boolean) {
  const corners = curves.map((c) => ({ at: c.a, bulge: bulgeOf(c) }));
  return closed ? corners : [...corners, { at: curves[curves.length - 1].b, bulge: 0 }];
}

/** What comes between an entity's handle and its layer, and between that and its own values. */
const OWNER = pairs([330, MODEL], [100, "AcDbEntity"]);
const FLAT = pairs([30, "0.0"]);

function writeEntity(w: DxfWriter, e: DrawnEntity, layer: string): void {
  const begin = (type: string, subclass: string) =>
    w.pair(0, type).pair(5, w.handle()).lines(OWNER).pair(8, layer).pair(100, subclass);
  switch (e.kind) {
    case "circle":
      begin("CIRCLE", "AcDbCircle").pair(10, e.c.x).pair(20, e.c.y).lines(FLAT).pair(40, e.r);
      return;
    case "curve": {
      const { curve } = e;
      if (curve.kind === "line") {
        begin("LINE", "AcDbLine").pair(10, curve.a.x).pair(20, curve.a.y).lines(FLAT);
        w.pair(11, curve.b.x).pair(21, curve.b.y).pair(31, 0);
        return;
      }
      const [from, to] = arcDegrees(curve);
      begin("ARC", "AcDbCircle").pair(10, curve.c.x).pair(20, curve.c.y).lines(FLAT).pair(40, curve.r);
      w.pair(100, "AcDbArc").pair(50, from).pair(51, to);
      return;
    }
    case "chain": {
      const corners = cornersOfChain(e.curves, e.closed);
      begin("LWPOLYLINE", "AcDbPolyline")
        .pair(90, corners.length)
        .pair(70, e.closed ? 1 : 0)
        .pair(43, 0);
      for (const { at: p, bulge } of corners) {
        w.pair(10, p.x).pair(20, p.y);
        if (bulge !== 0) w.pair(42, bulge);
      }
      return;
    }
    case "text":
      begin("TEXT", "AcDbText").pair(10, e.at.x).pair(20, e.at.y).lines(FLAT).pair(40, e.height);
      w.pair(1, dxfText(e.text))
        .pair(50, e.turn * DEGREES)
        .pair(100, "AcDbText");
  }
}

function writeOldEntity(w: DxfWriter, e: DrawnEntity, layer: string): void {
  const at = (code: number, p: { x: number; y: number }) =>
    w
      .pair(code, p.x)
      .pair(code + 10, p.y)
      .pair(code + 20, 0);
  switch (e.kind) {
    case "circle":
      w.pair(0, "CIRCLE").pair(8, layer);
      at(10, e.c).pair(40, e.r);
      return;
    case "curve": {
      const { curve } = e;
      w.pair(0, curve.kind === "line" ? "LINE" : "ARC").pair(8, layer);
      if (curve.kind === "line") {
        at(10, curve.a);
        at(11, curve.b);
        return;
      }
      const [from, to] = arcDegrees(curve);
      at(10, curve.c).pair(40, curve.r).pair(50, from).pair(51, to);
      return;
    }
    case "chain":
      w.pair(0, "POLYLINE").pair(8, layer).pair(66, 1);
      at(10, { x: 0, y: 0 }).pair(70, e.closed ? 1 : 0);
      for (const { at: p, bulge } of cornersOfChain(e.curves, e.closed)) {
        w.pair(0, "VERTEX").pair(8, layer);
        at(10, p);
        if (bulge !== 0) w.pair(42, bulge);
      }
      w.pair(0, "SEQEND").pair(8, layer);
      return;
    case "text":
      w.pair(0, "TEXT").pair(8, layer);
      at(10, e.at)
        .pair(40, e.height)
        .pair(1, dxfText(e.text))
        .pair(50, e.turn * DEGREES);
  }
}
