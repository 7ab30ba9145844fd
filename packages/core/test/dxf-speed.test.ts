import { describe, expect, it } from "vitest";
import { type BlankToDraw, drawBlank, examinePart, isDrawable, proveDxf, writeDxf } from "../src/index.ts";
import { exponentOf, least } from "./growth.ts";
import { part, plate, presetWith } from "./plain-parts.ts";

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
    const jobs = sizes.map(perforated);
    const texts = jobs.map((job) => {
      const drawn = drawBlank(job);
      return { drawn, text: writeDxf(drawn.drawing, { version: "r2000" }) };
    });
    const writing = jobs.map((job) => least(7, () => writeDxf(drawBlank(job).drawing, { version: "r2000" })));
    const proving = texts.map(({ drawn, text }) => {
      expect(proveDxf(text, drawn, "r2000").holds).toBe(true);
      return least(3, () => proveDxf(text, drawn, "r2000"));
    });
    expect(exponentOf(sizes, writing)).toBeLessThan(1.35);
    expect(exponentOf(sizes, proving)).toBeLessThan(1.35);
  });
});
