import type { Shape } from "../../outline/from-shapes.ts";
import { type Affine, after, UNMOVED } from "../../plane/affine.ts";
import { fail, ok, type Result } from "../../result.ts";
import { type DxfEntity, type DxfFile, parseDxf } from "./reading/dxf-file.ts";
import { DxfProblem } from "./reading/dxf-problem.ts";
import { planeOf, shapesOfEntity } from "./reading/entity-shapes.ts";
import { moveShape } from "./reading/move-shape.ts";
import { numberNeeded, numberOf, textOf } from "./reading/records.ts";

/** What a drawing file holds, in its own units, and what those are. */
export interface DrawnShapes {
  readonly shapes: readonly Shape[];
  /** The layer of each shape, where the file has layers. */
  readonly layers?: readonly string[];
  /** Millimetres in a unit; nothing where the file does not say. */
  readonly scale?: number;
  /** What was left out: kinds of entities, each with how many there are. */
  readonly others: ReadonlyMap<string, number>;
}

/** $INSUNITS: inches, feet, millimetres, centimetres, metres, thousandths of an inch, yards, micrometres, decimetres. */
const SCALES: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

/** A file may draw so many lines, arcs and circles, and use blocks so often. */
const MOST = 1_000_000;
/** Blocks are nested no deeper. */
const DEEPEST = 40;

/** Gathers what is drawn, block by block. */
class Drawn {
  readonly shapes: Shape[] = [];
  readonly layers: string[] = [];
  readonly others = new Map<string, number>();
  private steps = 0;
  private readonly open = new Set<string>();

  constructor(private readonly file: DxfFile) {}

  /** Draws entities of the file or of a block, moved by `m`; what is on layer 0 of a block is on that of its reference. */
  draw(entities: readonly DxfEntity[], m: Affine, around: string | undefined): void {
    for (const entity of entities) {
      if (++this.steps > MOST)
        throw new DxfProblem(`it draws more than ${MOST} things: save only what is wanted of it.`);
      const layer = around !== undefined && entity.layer === "0" ? around : entity.layer;
      if (entity.type === "INSERT") {
        this.insert(entity, m, layer);
        continue;
      }
      const found = shapesOfEntity(entity);
      if ("left" in found) this.leave(found.left);
      else
        for (const shape of found.shapes)
          for (const moved of m === UNMOVED ? [shape] : moveShape(m, shape)) {
            this.shapes.push(moved);
            this.layers.push(layer);
          }
    }
  }

  private leave(what: string): void {
    this.others.set(what, (this.others.get(what) ?? 0) + 1);
  }

  /** Why a reference to a block draws nothing; nothing where it does. */
  private whyLeft(name: string, plane: Affine | undefined, size: number, sheet: number): string | undefined {
    if (sheet !== 0) return "on a sheet of paper";
    if (!this.file.blocks.has(name)) return "of a block that is not in the file";
    if (!plane) return "that is tilted";
    if (size === 0) return "of no size";
    return this.open.has(name) || this.open.size >= DEEPEST ? "of a block within itself" : undefined;
  }

  /** Draws a block where it is inserted: moved, turned, scaled, mirrored, in rows and columns. */
  private insert(e: DxfEntity, m: Affine, layer: string): void {
    const name = (textOf(e, 2) ?? "").toUpperCase();
    const block = this.file.blocks.get(name);
    const plane = planeOf(e);
    const [x, y] = [numberNeeded(e, 10, "place"), numberNeeded(e, 20, "place")];
    const [sx, sy] = [numberOf(e, 41, 1), numberOf(e, 42, 1)];
    const why = this.whyLeft(name, plane, sx * sy, numberOf(e, 67, 0));
    if (why !== undefined || !block || !plane) {
      this.leave(`INSERT ${why}`);
      return;
    }
    const turn = (numberOf(e, 50, 0) * Math.PI) / 180;
    const [c, s] = [exact(Math.cos(turn)), exact(Math.sin(turn))];
    const columns = Math.max(1, numberOf(e, 70, 1));
    const rows = Math.max(1, numberOf(e, 71, 1));
    const [across, up] = [numberOf(e, 44, 0), numberOf(e, 45, 0)];
    const scaled: Affine = [sx, 0, 0, sy, -sx * block.base[0], -sy * block.base[1]];
    this.open.add(name);
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        // Rows and columns are turned with the block, not scaled.
        const at = [across * column, up * row];
        const placed: Affine = [c, s, -s, c, x + c * at[0] - s * at[1], y + s * at[0] + c * at[1]];
        if (++this.steps > MOST)
          throw new DxfProblem(`it uses blocks more than ${MOST} times: save only what is wanted of it.`);
        this.draw(block.entities, after(after(after(m, plane), placed), scaled), layer);
      }
    this.open.delete(name);
  }
}

/** A cosine or sine without what rounding leaves of a quarter turn. */
const exact = (v: number): number =>
  Math.abs(v) < 1e-15 ? 0 : Math.abs(Math.abs(v) - 1) < 1e-15 ? Math.sign(v) : v;

/** What a DXF that was read draws. Throws a `DxfProblem` where a number in it is none. */
export function shapesOfDxf(file: DxfFile): DrawnShapes {
  const drawn = new Drawn(file);
  drawn.draw(file.entities, UNMOVED, undefined);
  const scale = SCALES[file.units ?? 0];
  const { shapes, layers, others } = drawn;
  return { shapes, layers, others, ...(scale === undefined ? {} : { scale }) };
}

/** Reads a DXF, or says in a sentence with the line why it cannot be read. */
export function readDxf(text: string): Result<{ readonly file: DxfFile; readonly drawn: DrawnShapes }> {
  try {
    const file = parseDxf(text);
    return ok({ file, drawn: shapesOfDxf(file) });
  } catch (error) {
    if (error instanceof DxfProblem) return fail(error.message);
    throw error;
  }
}

/** Reads what a DXF draws, or says why it cannot. */
export function readDxfShapes(text: string): Result<DrawnShapes> {
  const read = readDxf(text);
  return read.ok ? ok(read.value.drawn) : read;
}
