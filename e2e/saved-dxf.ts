import { type DrawnShapes, readDxfShapes } from "@hillcrest/core";
import DxfParser, { type ICircleEntity, type IEntity, type ILwpolylineEntity } from "dxf-parser";
import type { Page } from "playwright-core";
import { isSaved, savedFile, settled } from "./harness.ts";

/** What a DXF draws that can be read, in mm, in whichever units it is written. */
export function shapesIn(text: string): DrawnShapes {
  const read = readDxfShapes(text);
  if (!read.ok) throw new Error(read.error);
  const { scale = 1 } = read.value;
  const shapes = scale === 1 ? read.value.shapes : read.value.shapes.map((s) => scaled(s, scale));
  return { ...read.value, shapes };
}

/** What is no length in a shape. */
const PLAIN = new Set(["bulge", "from", "to"]);

function scaled<T>(value: T, by: number): T {
  if (typeof value === "number") return (value * by) as T;
  if (Array.isArray(value)) return value.map((v) => scaled(v, by)) as T;
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, v]) => [key, PLAIN.has(key) ? v : scaled(v, by)]),
  ) as T;
}

/** Asks for the DXF, by its key if nothing else is said; of a part that findings stop, it is asked for anyway. */
export async function saveByKey(
  page: Page,
  ask: () => Promise<void> = () => page.keyboard.press("Control+e"),
): Promise<void> {
  const anyway = page.locator("[data-save-anyway]");
  const asked = Promise.race([
    page.waitForEvent("download").then(() => undefined),
    anyway.waitFor().then(() => anyway.click()),
  ]);
  await ask();
  await asked;
}

/** The file of the part on the Bench as a laser reads it: its loops by layer, and the sizes of its outline. */
export async function savedDxf(page: Page) {
  await settled(page);
  await isSaved(page);
  const { text } = await savedFile(page, () => saveByKey(page));
  const file = new DxfParser().parseSync(text)!;
  const on = (layer: string): IEntity[] => file.entities.filter((e) => e.layer === layer);
  const outlines = on("OUTLINE") as ILwpolylineEntity[];
  const spanOf = (some: readonly ILwpolylineEntity[], axis: "x" | "y") => {
    const all = some.flatMap((o) => o.vertices.map((v) => v[axis]));
    return Math.max(...all) - Math.min(...all);
  };
  /** Straight sides of the outlines of one length. */
  const sides = (length: number) =>
    outlines.flatMap(({ vertices }) =>
      vertices.filter((v, i) => {
        const w = vertices[(i + 1) % vertices.length];
        return !v.bulge && Math.abs(Math.hypot(w.x - v.x, w.y - v.y) - length) < 1e-6;
      }),
    ).length;
  return {
    on,
    outlines,
    sides,
    width: spanOf(outlines, "x"),
    height: spanOf(outlines, "y"),
    /** Width and height of each outline. */
    spans: outlines.map((o) => [spanOf([o], "x"), spanOf([o], "y")]),
    corners: outlines.map((o) => o.vertices.length),
    circles: (on("OPENINGS") as ICircleEntity[]).filter((e) => e.type === "CIRCLE"),
    rounds: outlines.flatMap((o) => o.vertices.filter((v) => v.bulge)).length,
    bends: on("BENDS_UP").length + on("BENDS_DOWN").length,
  };
}
