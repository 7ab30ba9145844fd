import { describe, expect, it } from "vitest";
import {
  type BlankToDraw,
  compareBlank,
  type DrawnShapes,
  drawBlank,
  examinePart,
  isDrawable,
  proveDxf,
  writeDxf,
} from "../src/index.ts";
import { expectGrowth, least } from "./growth.ts";
import { part, plate, presetWith, shapesIn } from "./plain-parts.ts";

function perforated(n: number): BlankToDraw {
  const columns = 100;
  const holes = Array.from({ length: n }, (_, i) => ({
    key: `h${i}`,
    x: String((i % columns) * 5 - 247.5),
    y: String(Math.floor(i / columns) * 5 + 2.5 - (n / columns) * 2.5),
    d: "3",
  }));
  const document = part(plate("520", String((n / columns) * 5 + 20), holes));
  const build = examinePart(document);
  if (!isDrawable(build)) throw new Error("It has a blank.");
  return { document, build, preset: presetWith() };
}

/** The same circles as plain strings, which is the least that a file can cost. */
function plainStrings({ drawing }: ReturnType<typeof drawBlank>): string {
  const out: string[] = [];
  let handle = 64;
  for (const e of drawing.entities)
    if (e.kind === "circle")
      out.push(
        `  0\r\nCIRCLE\r\n  5\r\n${(handle++).toString(16)}\r\n330\r\n1F\r\n100\r\nAcDbEntity\r\n  8\r\nOPENINGS\r\n100\r\nAcDbCircle\r\n 10\r\n${e.c.x}\r\n 20\r\n${e.c.y}\r\n 30\r\n0.0\r\n 40\r\n${e.r}`,
      );
  return out.join("\r\n");
}

/** Proves what was written of a blank, which must hold line by line. */
function proving(drawn: ReturnType<typeof drawBlank>) {
  const text = writeDxf(drawn.drawing, { version: "r2000" });
  expect(proveDxf(text, drawn, "r2000").lines.filter((l) => !l.holds)).toEqual([]);
  return () => proveDxf(text, drawn, "r2000");
}

describe("a blank of very many openings", () => {
  it("of 5,000 is drawn and written in less than three times what its entities cost as plain strings", () => {
    const job = perforated(5000);
    const drawn = drawBlank(job);
    const write = () => writeDxf(drawBlank(job).drawing, { version: "r2000" });
    expect(write().length).toBeGreaterThan(plainStrings(drawn).length);
    // Both warm, the least of many: the machine is at work with other things too.
    least(6, write);
    least(6, () => plainStrings(drawn));
    const floor = least(25, () => plainStrings(drawn));
    expect(least(25, write) / floor).toBeLessThan(3);
  });

  it("is written and proven in a time that grows with their number and no faster", () => {
    const sizes = [1000, 2000, 4000, 8000];
    const jobs = new Map(sizes.map((n) => [n, perforated(n)]));
    expectGrowth(1.5, sizes, (n) => () => writeDxf(drawBlank(jobs.get(n)!).drawing, { version: "r2000" }));
    expectGrowth(1.5, sizes, (n) => proving(drawBlank(jobs.get(n)!)));
  });

  it("with a micro-joint in each is proven in a time that grows with their number", () => {
    expectGrowth(1.5, [500, 1000, 2000, 4000], (n) => {
      const drawn = drawBlank({ ...perforated(n), preset: presetWith({ jointsOpening: 1 }) });
      expect(drawn.facts.joints).toBe(n);
      return proving(drawn);
    });
  });
});

describe("a file that came back", () => {
  const shapesOf = (job: BlankToDraw) => shapesIn(writeDxf(drawBlank(job).drawing, { version: "r2000" }));
  /** Each opening moved another way: no way in which the whole file could lie makes up for it. */
  const shifted = (file: DrawnShapes, by: number, larger: number): DrawnShapes => ({
    ...file,
    shapes: file.shapes.map((s, i) =>
      s.kind === "circle"
        ? {
            ...s,
            c: [s.c[0] + by * Math.cos(i * 2.4), s.c[1] + by * Math.sin(i * 2.4)] as const,
            r: s.r + larger,
          }
        : s,
    ),
  });

  it("in which each of thousands of openings was moved, or is of another size, says so of each", () => {
    const job = perforated(2000);
    const file = shapesOf(job);
    const drawn = drawBlank(job);
    const moved = compareBlank(drawn, shifted(file, 0.4, 0));
    expect(moved.moved.length).toBe(2000);
    expect(moved.moved.every((d) => Math.abs(d.by! - 0.4) < 1e-6)).toBe(true);
    expect([moved.added, moved.removed, moved.changed].flat()).toEqual([]);
    const larger = compareBlank(drawn, shifted(file, 0, 0.25));
    expect(larger.changed.length).toBe(2000);
    expect(larger.changed.every((d) => d.what === "opening ⌀3 is ⌀3.5")).toBe(true);
    expect([larger.added, larger.removed, larger.moved].flat()).toEqual([]);
  });

  it("in which a crowd of openings was moved far as a whole has each of them moved by as much", () => {
    // More than half stay, so that it is the crowd that was moved and not the rest.
    const crowd = 1800;
    const job = perforated(4000);
    const file = shapesOf(job);
    let k = 0;
    const shapes = file.shapes.map((s) =>
      s.kind === "circle" && k++ < crowd ? { ...s, c: [s.c[0], s.c[1] - 900] as const } : s,
    );
    const found = compareBlank(drawBlank(job), { ...file, shapes });
    expect(found.moved.length).toBe(crowd);
    expect(found.moved.every((d) => Math.abs(d.by! - 900) < 1e-6)).toBe(true);
    expect([found.added, found.removed, found.changed].flat()).toEqual([]);
  });

  it("as it left is known in a time that grows with its openings, all moved in one that nobody waits for", () => {
    const sizes = [1000, 2000, 4000, 8000];
    const jobs = sizes.map((n) => ({ drawn: drawBlank(perforated(n)), file: shapesOf(perforated(n)) }));
    expectGrowth(1.5, sizes, (n) => {
      const { drawn, file } = jobs[sizes.indexOf(n)];
      return () => {
        if (!compareBlank(drawn, file).same) throw new Error("It is the same.");
      };
    });
    const { drawn, file } = jobs[3];
    expect(least(1, () => compareBlank(drawn, shifted(file, 0.4, 0)))).toBeLessThan(8000);
  });
});
