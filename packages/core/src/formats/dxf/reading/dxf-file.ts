import { problemAt } from "./dxf-problem.ts";
import { type DxfRecord, numberOf, recordsOf, textOf } from "./records.ts";

/** An entity with what belongs to it: the vertices of a polyline. */
export interface DxfEntity extends DxfRecord {
  readonly layer: string;
  readonly vertices: readonly DxfRecord[];
}

/** A named group of entities that is drawn wherever it is inserted. */
export interface DxfBlock {
  readonly base: readonly [number, number];
  readonly entities: readonly DxfEntity[];
}

/** A DXF as it was read; names in capitals, for they are one whatever their case. */
export interface DxfFile {
  /** $INSUNITS; nothing where the file does not say. */
  readonly units: number | undefined;
  readonly layers: ReadonlySet<string>;
  readonly blocks: ReadonlyMap<string, DxfBlock>;
  readonly entities: readonly DxfEntity[];
}

/** Reads the text of a DXF. Throws a `DxfProblem` where it is none, or not whole. */
export function parseDxf(text: string): DxfFile {
  const records = recordsOf(text);
  const layers = new Set<string>();
  const blocks = new Map<string, DxfBlock>();
  let units: number | undefined;
  let entities: readonly DxfEntity[] = [];
  let sections = 0;
  for (let i = 0; i < records.length; ) {
    const head = records[i];
    if (head.type === "EOF") break;
    if (head.type !== "SECTION")
      problemAt(head.line, `a section is wanted here, not ${head.type.slice(0, 40)}.`);
    const end = endOf(records, i);
    const inner = records.slice(i + 1, end);
    const name = textOf(head, 2)?.toUpperCase();
    if (name === "HEADER") units = unitsOf(head);
    else if (name === "TABLES") {
      for (const r of inner) if (r.type === "LAYER") layers.add((textOf(r, 2) ?? "").toUpperCase());
    } else if (name === "BLOCKS") readBlocks(inner, blocks);
    else if (name === "ENTITIES") entities = [...entities, ...entitiesOf(inner)];
    sections++;
    i = end + 1;
  }
  if (sections === 0) problemAt(1, "there is nothing in the file.");
  return { units, layers, blocks, entities };
}

/** The place of the record that ends a section. */
function endOf(records: readonly DxfRecord[], start: number): number {
  for (let i = start + 1; i < records.length; i++) {
    const { type, line } = records[i];
    if (type === "ENDSEC") return i;
    if (type === "SECTION" || type === "EOF") problemAt(line, "the section before this has no end.");
  }
  return records.length;
}

/** The value of $INSUNITS among the variables of a header. */
function unitsOf(header: DxfRecord): number | undefined {
  const at = header.codes.findIndex(
    (c, i) => c === 9 && header.values[i].trim().toUpperCase() === "$INSUNITS",
  );
  if (at < 0 || header.codes[at + 1] !== 70) return undefined;
  const value = Number(header.values[at + 1]);
  return Number.isInteger(value) ? value : undefined;
}

function readBlocks(records: readonly DxfRecord[], blocks: Map<string, DxfBlock>): void {
  for (let i = 0; i < records.length; i++) {
    const head = records[i];
    if (head.type !== "BLOCK") continue;
    let end = i + 1;
    while (end < records.length && records[end].type !== "ENDBLK" && records[end].type !== "BLOCK") end++;
    blocks.set((textOf(head, 2) ?? "").toUpperCase(), {
      base: [numberOf(head, 10, 0), numberOf(head, 20, 0)],
      entities: entitiesOf(records.slice(i + 1, end)),
    });
    i = records[end]?.type === "ENDBLK" ? end : end - 1;
  }
}

/** Records as entities: vertices go to their polyline, attributes stay with what they are of. */
function entitiesOf(records: readonly DxfRecord[]): DxfEntity[] {
  const out: DxfEntity[] = [];
  for (let i = 0; i < records.length; i++) {
    const record = records[i];
    const vertices: DxfRecord[] = [];
    if (record.type === "POLYLINE") while (records[i + 1]?.type === "VERTEX") vertices.push(records[++i]);
    if (record.type === "SEQEND") continue;
    out.push({ ...record, layer: textOf(record, 8) ?? "0", vertices });
  }
  return out;
}
