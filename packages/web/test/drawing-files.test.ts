import { outlineFromShapes, outlineRegions, readDxfShapes, regionArea, solveOutline } from "@hillcrest/core";
import { DOMParser } from "@xmldom/xmldom";
import { describe, expect, test } from "vitest";
import { readSvgShapes, type SvgElement } from "../src/drawing-files/svg-shapes.ts";
import { flatPart } from "../src/pages/shelf/flat-part.ts";

const svg = (body: string, size = 'width="100mm" height="60mm" viewBox="0 0 100 60"') =>
  readSvgShapes(
    new DOMParser().parseFromString(
      `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${body}</svg>`,
      "image/svg+xml",
    ).documentElement as unknown as SvgElement,
  );
/** What a drawing bounds, mm²: each area with how many openings are in it. */
const areas = (drawn: ReturnType<typeof svg>) => {
  const made = outlineFromShapes("Read", drawn.shapes, { scale: drawn.scale ?? 1 });
  if (!made.ok) throw new Error(made.error);
  const { outline } = made.value;
  const { regions, problems } = outlineRegions(outline, solveOutline(outline));
  expect(problems).toEqual([]);
  return regions.map((r) => [regionArea(r), r.holes.length]);
};

describe("an SVG", () => {
  test("is its shapes, arcs as arcs, one within another as openings", () => {
    const drawn = svg(`
      <defs><rect width="5" height="5"/></defs>
      <rect x="0" y="0" width="100" height="60" rx="10"/>
      <g transform="translate(20 30)"><circle r="8"/></g>
      <path d="M50 20h20v20h-20z"/>
      <text x="3" y="3">R 10</text>`);
    expect(drawn.scale).toBe(1);
    expect([...drawn.others]).toEqual([["text", 1]]);
    const [[area, holes]] = areas(drawn);
    expect(area).toBeCloseTo(6000 - (400 - 100 * Math.PI) - 64 * Math.PI - 400, 6);
    expect(holes).toBe(2);
    const made = outlineFromShapes("Read", drawn.shapes);
    expect(made.ok && made.value.outline.curves.filter((c) => c.kind === "arc").length).toBe(4);
    expect(made.ok && made.value.outline.curves.filter((c) => c.kind === "circle")).toEqual([
      expect.objectContaining({ r: 8 }),
    ]);
  });

  test.each<[string, string, number]>([
    [
      "moved, turned and made larger",
      '<g transform="rotate(30 5 5) scale(2)"><rect width="10" height="6"/></g>',
      240,
    ],
    ["drawn by a matrix", '<rect transform="matrix(0 3 -2 0 7 1)" width="10" height="6"/>', 360],
    ["skewed", '<rect transform="skewX(20)" width="10" height="6"/>', 60],
    ["mirrored", '<path transform="scale(-1 1)" d="M0 0h10a5 5 0 0 1 0 10h-10z"/>', 100 + 12.5 * Math.PI],
    ["by relative and shorthand commands", '<path d="m1 1 h10 v6 H1 Z"/>', 60],
    ["a polygon", '<polygon points="0,0 10,0 10,6 0,6"/>', 60],
    [
      "closed by hand from lines",
      '<line x2="10"/><line x1="10" x2="10" y2="6"/><polyline points="10 6 0 6 0 0"/>',
      60,
    ],
  ])("%s is as large as it is", (_, body, area) => {
    expect(areas(svg(body))[0][0]).toBeCloseTo(area, 6);
  });

  test.each<[string, string, number]>([
    ["an ellipse", '<ellipse cx="50" cy="30" rx="40" ry="20"/>', 800 * Math.PI],
    [
      "an ellipse that is made a circle",
      '<ellipse transform="scale(1 2)" cx="50" cy="15" rx="20" ry="10"/>',
      400 * Math.PI,
    ],
    ["an arc that turns by its axes", '<path d="M20 30A30 15 40 1 1 60 30A30 15 40 1 1 20 30Z"/>', 0],
    ["Bézier curves", '<path d="M0 0C0 22.0914 17.9086 40 40 40V0Z"/>', 400 * Math.PI],
  ])("%s is arcs within a hundredth of it", (_, body, area) => {
    const [[found]] = areas(svg(body));
    if (area > 0) expect(Math.abs(found - area)).toBeLessThan(1.5);
    else expect(found).toBeGreaterThan(900);
  });

  test("says in what it is drawn, or that it does not", () => {
    expect(svg('<rect width="1" height="1"/>', 'width="4in" viewBox="0 0 4 2"').scale).toBeCloseTo(25.4, 9);
    expect(svg('<rect width="1" height="1"/>', 'width="10cm" viewBox="0 0 200 2"').scale).toBeCloseTo(0.5, 9);
    expect(svg('<rect width="1" height="1"/>', 'width="400" viewBox="0 0 4 2"').scale).toBeUndefined();
    expect(svg('<rect width="1" height="1"/>', "").scale).toBeUndefined();
  });

  test.each([
    ['<path d="M0 0L1e400 5"/>', /no numbers, or far too large|no lines/],
    ['<path d="M0 0 nonsense"/>', /cannot be read/],
    ['<rect transform="rotate(x)" width="3" height="3"/>', /transform="rotate\(x\)" cannot be read/],
    ['<rect width="-3" height="0"/>', /./],
    ["", /no lines, arcs or circles/],
  ])("%s is told, and never a crash", (body, says) => {
    const read = () => {
      const { shapes } = svg(body);
      const made = outlineFromShapes("Read", shapes);
      if (!made.ok) throw new Error(made.error);
      return made.value.outline.curves.length;
    };
    try {
      expect(read()).toBeGreaterThan(0);
    } catch (error) {
      expect(String(error)).toMatch(says);
    }
  });

  test("of a thousand groups within one another ends", () => {
    const deep = `${"<g>".repeat(1000)}<rect width="9" height="9"/>${"</g>".repeat(1000)}`;
    expect(svg(`<rect width="5" height="5"/>${deep}`).shapes.length).toBeGreaterThan(0);
  });
});

describe("a DXF", () => {
  const dxf = (entities: string, header = "9\n$INSUNITS\n70\n4\n") => {
    const read = readDxfShapes(
      `0\nSECTION\n2\nHEADER\n${header}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`,
    );
    if (!read.ok) throw new Error(read.error);
    return read.value;
  };

  test("has its ellipses and splines as arcs, within a hundredth", () => {
    const ellipse = dxf(
      "0\nELLIPSE\n8\n0\n10\n50\n20\n30\n30\n0\n11\n40\n21\n0\n31\n0\n40\n0.5\n41\n0\n42\n6.283185307179586\n",
    );
    expect(ellipse.others.size).toBe(0);
    const [[area]] = areas(ellipse);
    expect(Math.abs(area - 800 * Math.PI)).toBeLessThan(1.5);
    // A quarter of a round by the usual four control points, closed by two lines.
    const k = 40 * 0.5522847498;
    const points = [
      [40, 0],
      [40, k],
      [k, 40],
      [0, 40],
    ]
      .map(([x, y]) => `10\n${x}\n20\n${y}\n30\n0\n`)
      .join("");
    const knots = [0, 0, 0, 0, 1, 1, 1, 1].map((v) => `40\n${v}\n`).join("");
    const line = (a: number[], b: number[]) =>
      `0\nLINE\n8\n0\n10\n${a[0]}\n20\n${a[1]}\n11\n${b[0]}\n21\n${b[1]}\n`;
    const spline = dxf(
      `0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n8\n73\n4\n74\n0\n${knots}${points}${line([0, 40], [0, 0])}${line([0, 0], [40, 0])}`,
    );
    expect(spline.others.size).toBe(0);
    expect(Math.abs(areas(spline)[0][0] - 400 * Math.PI)).toBeLessThan(1);
  });

  test("whose spline has knots that do not fit is told as left out", () => {
    const broken = dxf(
      "0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n2\n73\n1\n74\n0\n40\n0\n40\n1\n10\n1\n20\n1\n30\n0\n",
    );
    expect([...broken.others]).toEqual([["SPLINE", 1]]);
  });
});

describe("a flat part of a drawing", () => {
  const stock = { thickness: "2" };
  test("is one plate of the outline that it draws", () => {
    const drawn = svg('<rect width="90" height="40"/><circle cx="20" cy="20" r="6"/>');
    const made = flatPart({ name: "Cover", drawn }, 1, stock);
    expect(made.ok && made.value.document).toMatchObject({
      name: "Cover",
      stock,
      steps: [{ kind: "plate", form: "drawn", drawn: "a" }],
      outlines: [{ key: "a" }],
    });
  });

  test.each([
    ['<rect width="9" height="9"/><rect x="20" width="9" height="9"/>', /2 separate areas/],
    ['<path d="M0 0h20v20"/>', /bounds no plate: .* ends at/],
    ["", /no lines, arcs or circles/],
  ])("%s is refused in words", (body, says) => {
    const made = flatPart({ name: "No", drawn: svg(body) }, 1, stock);
    expect(made.ok ? "" : made.error).toMatch(says);
  });
});
