import { readFileSync } from "node:fs";
import { strFromU8, unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { xmlText } from "../src/formats/xml-text.ts";
import {
  bendList,
  bendListCsv,
  csvText,
  curvePath,
  drawingSvg,
  evenState,
  examineFully,
  examinePart,
  FILE_FORMATS,
  type FileOrder,
  foldedPicture,
  foldedSurface,
  line,
  makeFile,
  notSearched,
  type PartDocument,
  readDocumentText,
  type StepDocument,
  writeGlb,
} from "../src/index.ts";
import { drawnOf, part, plate, presetWith } from "./plain-parts.ts";

function demo(name: string): PartDocument {
  const read = readDocumentText(readFileSync(new URL(`../../../demo/${name}.json`, import.meta.url), "utf8"));
  if (!read.ok) throw new Error(name);
  return read.value;
}

function made(key: string, document: PartDocument, more: Partial<FileOrder> = {}) {
  const order = { format: key, preset: presetWith(), anyway: true, ...more };
  const file = makeFile(document, examineFully(document), order);
  if (!file.ok) throw new Error(file.error.why);
  return file.value.content;
}

/** Volume that triangles enclose, and whether each edge has two of them. */
function solid(positions: ArrayLike<number>, triangles: ArrayLike<number>) {
  const edges = new Map<string, number>();
  let volume = 0;
  const at = (i: number) => [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]];
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i], triangles[i + 1], triangles[i + 2]];
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ])
      edges.set(`${p} ${q}`, (edges.get(`${p} ${q}`) ?? 0) + 1);
    const [[ax, ay, az], [bx, by, bz], [cx, cy, cz]] = [at(a), at(b), at(c)];
    volume += (ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)) / 6;
  }
  const closed = [...edges].every(([key, n]) => n === 1 && edges.has(key.split(" ").reverse().join(" ")));
  return { volume, closed };
}

describe("a part that a collision stops", () => {
  const walls = ["west", "east"].map(
    (edge, i): StepDocument => ({
      ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: `s1.${edge}` }], length: "60" },
      angle: "120",
    }),
  );
  const collided = part(plate("40", "80"), ...walls);
  const SAID = "Findings stop this part: Plate";
  const build = examineFully(collided);
  const order = (format: string, anyway: boolean): FileOrder => ({ format, preset: presetWith(), anyway });

  it.each(
    FILE_FORMATS.map((f) => [f.key, f.forMaking] as const),
  )("is no %s unless it is told to be, or says in it what stops it", (key, forMaking) => {
    const refused = makeFile(collided, build, order(key, false));
    if (forMaking)
      expect(refused).toMatchObject({
        ok: false,
        error: { stopped: true, why: expect.stringMatching(/^a finding stops it: Plate/) },
      });
    const made = makeFile(collided, build, order(key, true));
    if (!made.ok) throw new Error(made.error.why);
    const { content, proof } = made.value;
    const bytes = typeof content === "string" ? new TextEncoder().encode(content) : content;
    const text =
      key === "3mf"
        ? strFromU8(unzipSync(bytes)["3D/3dmodel.model"])
        : new TextDecoder("latin1").decode(bytes);
    expect(text).toContain(key === "stl" ? "STOPPED: Plate" : SAID);
    expect(proof?.lines.some((l) => l.text.startsWith(SAID))).toBe(true);
    // Accepted as it is, nothing stops it.
    const [found] = build.findings.filter((f) => f.level === "stop");
    const accepted = {
      ...build,
      findings: build.findings.map((f) =>
        f === found ? { ...f, accepted: { key: "a", reason: "r", by: "b" } } : f,
      ),
    };
    expect(makeFile(collided, accepted, order(key, false)).ok).toBe(true);
  });

  it("is no file of any kind where its search did not end, unless it is told to be", () => {
    const unknown = { ...build, findings: [notSearched("It takes longer than 60 s.")] };
    const made = makeFile(collided, unknown, order("dxf", false));
    expect(made).toMatchObject({
      ok: false,
      error: { why: "a finding stops it: Collisions could not be looked for: It takes longer than 60 s." },
    });
    expect(makeFile(collided, unknown, order("dxf", true)).ok).toBe(true);
  });

  it("is searched once where what was found is known", () => {
    expect(examineFully(collided, undefined, []).findings.some((f) => f.rule === "collision")).toBe(false);
    expect(examineFully(collided, undefined, build.collisions).findings).toEqual(build.findings);
  });
});

describe("every kind of file", () => {
  it("has a key, an ending and a type of its own, and makes something of every demo part", () => {
    expect(new Set(FILE_FORMATS.map((f) => f.key)).size).toBe(FILE_FORMATS.length);
    for (const name of ["battery-tray", "logger-box", "guy-wire-eye"])
      for (const f of FILE_FORMATS) {
        expect(made(f.key, demo(name)).length, `${name} as ${f.key}`).toBeGreaterThan(100);
      }
  });

  it("is the same whenever it is written", () => {
    for (const f of FILE_FORMATS)
      expect(made(f.key, demo("mast-bracket"))).toEqual(made(f.key, demo("mast-bracket")));
  });
});

describe("an SVG of a blank", () => {
  const document = part(plate("120", "60", [{ key: "h", x: "0", y: "0", d: "10" }]));

  it("is as large as the blank, its layers groups, round openings circles", () => {
    const { drawing } = drawnOf(document);
    const svg = drawingSvg(drawing, { margin: 5 });
    expect(svg).toMatch(/^<svg [^>]*width="130mm" height="70mm" viewBox="-5 -65 130 70"/);
    expect(svg).toContain('<g id="OUTLINE"');
    expect(svg).toContain('<circle cx="60" cy="-30" r="5"/>');
  });

  it("in inches says inches", () => {
    expect(drawingSvg(drawnOf(document, { units: "in" }).drawing, { margin: 0 })).toMatch(
      /width="4\.724409in"/,
    );
  });

  it("carries a name that could be taken for markup as text", () => {
    const named = drawnOf({ ...document, name: "<b>&" }, { partName: true, textHeight: 2 });
    expect(drawingSvg(named.drawing)).toContain("&lt;b&gt;&amp;");
  });
});

describe("a text in XML", () => {
  it("loses what no XML can hold, keeps every letter and sign, and cannot end what it stands in", () => {
    expect(xmlText('a<b> & "c"')).toBe("a&lt;b&gt; &amp; &quot;c&quot;");
    expect(xmlText("Blech ⌀5 ±0,1 – 板 😀")).toBe("Blech ⌀5 ±0,1 – 板 😀");
    expect(xmlText("a\u0000b\u0007c\ud800d\uffff")).toBe("a b c d ");
  });

  it("of a path holds as many digits as are asked for", () => {
    const [a, b] = [
      { x: 1.23456789, y: 2 },
      { x: 3, y: -4.00049 },
    ];
    expect(curvePath([line(a, b)], false)).toBe("M1.23 -2L3 4");
    expect(curvePath([line(a, b)], false, (v) => v.toFixed(5))).toBe("M1.23457 -2.00000L3.00000 4.00049");
    const arc = { kind: "arc", a: b, b: a, c: { x: 0, y: 0 }, r: 5, ccw: true } as const;
    expect(curvePath([line(a, b), arc], true)).toMatch(/^M1\.23 -2L3 4A5 5 0 [01] 0 1\.23 -2Z$/);
  });
});

describe("a picture of the folded part", () => {
  it("from the front, above and the right is as large as the part is there", () => {
    const document = part(plate("120", "60"), {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "25",
    });
    const { sheet, folded } = examinePart(document);
    const [w, d, h] = folded!.box.max.map((v, k) => v - folded!.box.min[k]);
    const size = (view: "front" | "top" | "right", fold = 1) => {
      const svg = foldedPicture(sheet!, { view, fold, asFile: true });
      const [, width, height] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg)!;
      // Around it stands three hundredths of its longer side.
      const long = Math.max(Number(width), Number(height)) / 1.06;
      return [Number(width) - long * 0.06, Number(height) - long * 0.06];
    };
    const near = (a: readonly number[], b: readonly number[]) => {
      for (const [i, v] of a.entries()) expect(v).toBeCloseTo(b[i], 1);
    };
    near(size("front"), [w, h]);
    near(size("top"), [w, d]);
    near(size("right"), [d, h]);
    expect(size("right", 0)[1]).toBeCloseTo(1.5, 1);
    expect(foldedPicture(sheet!, { asFile: true })).not.toMatch(/var\(|color-mix/);
  });
});

describe("a mesh of the folded part", () => {
  const document = demo("logger-box");
  const build = examinePart(document);
  const volume = build.folded!.volume;

  it("as 3MF is a zip of a model in millimetres, closed, of the part's volume", () => {
    const files = unzipSync(made("3mf", document) as Uint8Array);
    expect(Object.keys(files).sort()).toEqual(["3D/3dmodel.model", "[Content_Types].xml", "_rels/.rels"]);
    const model = new TextDecoder().decode(files["3D/3dmodel.model"]);
    expect(model).toContain('unit="millimeter"');
    const numbers = (pattern: RegExp) => [...model.matchAll(pattern)].flatMap((m) => m.slice(1).map(Number));
    const found = solid(
      numbers(/<vertex x="([^"]+)" y="([^"]+)" z="([^"]+)"/g),
      numbers(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"/g),
    );
    expect(found.closed).toBe(true);
    expect(found.volume / volume).toBeCloseTo(1, 2);
  });

  it("as GLB is in metres with y up, its parts where its head says", () => {
    const bytes = made("glb", document) as Uint8Array;
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    expect([view.getUint32(0, true), view.getUint32(4, true), view.getUint32(8, true)]).toEqual([
      0x46546c67,
      2,
      bytes.length,
    ]);
    const head = view.getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + head)));
    const start = 28 + head;
    const [points, corners] = json.bufferViews;
    const positions = new Float32Array(bytes.slice(start, start + points.byteLength).buffer);
    const triangles = new Uint32Array(
      bytes.slice(start + corners.byteOffset, start + corners.byteOffset + corners.byteLength).buffer,
    );
    const found = solid(positions, triangles);
    expect(found.closed).toBe(true);
    expect((found.volume * 1e9) / volume).toBeCloseTo(1, 2);
    const { max, min } = json.accessors[0];
    const box = build.folded!.box;
    expect((max[1] - min[1]) * 1000).toBeCloseTo(box.max[2] - box.min[2], 1);
  });

  it("as glTF holds the same bytes in its text", () => {
    const text = JSON.parse(made("gltf", document) as string);
    const data = Buffer.from(text.buffers[0].uri.split(",")[1], "base64");
    expect(data.length).toBe(text.buffers[0].byteLength);
    const glb = made("glb", document) as Uint8Array;
    expect(Buffer.from(glb.subarray(glb.length - data.length)).equals(data)).toBe(true);
  });

  it("half folded stands otherwise than folded, and is closed all the same", () => {
    const surface = foldedSurface(build.sheet!, evenState(build.sheet!, 0.5), undefined, 0.05);
    const found = solid(surface.positions, surface.triangles.flat());
    expect(found.closed).toBe(true);
    expect(writeGlb("half", surface)).not.toEqual(made("glb", document));
  });
});

describe("the blank's geometry as JSON", () => {
  it("is its loops as they lie, with bends as they are seen", () => {
    const document = { ...demo("battery-tray"), blank: { side: "A" as const } };
    const read = JSON.parse(made("json", document) as string);
    const build = examinePart(document);
    expect(read).toMatchObject({
      format: "hillcrest-blank",
      units: "mm",
      sideUp: "A",
      area: build.blank!.area,
    });
    expect(read.outlines[0].length).toBe(build.blank!.outlines[0].length);
    expect(read.bends.filter((b: { direction: string }) => b.direction === "up").length).toBe(1);
  });
});

describe("the bend list as CSV", () => {
  it("has a head that says its units, and a row for each bend", () => {
    const document = demo("battery-tray");
    const rows = bendList(document, examinePart(document));
    const lines = bendListCsv(rows, "mm").trimEnd().split("\r\n");
    expect(lines[0]).toContain("radius mm");
    expect(lines.length).toBe(8);
    expect(lines[1].split(",").slice(0, 4)).toEqual(["1", "", "A/B", "up"]);
    expect(lines[1]).toContain(',"Ridge brake chart, row 3–4",');
    const inches = bendListCsv(rows, "in").split("\r\n");
    expect(inches[0]).toContain("radius in");
    expect(inches[1]).toContain(",0.059055,");
  });

  it("puts what holds commas, quotes or lines into quotes, and lets nothing be a formula", () => {
    expect(csvText([["a,b", 'say "x"', "two\nlines", "=1+1", "-x", -1]])).toBe(
      `"a,b","say ""x""","two\nlines",'=1+1,'-x,-1\r\n`,
    );
    for (const sly of [" =1+1", "\n=1", "\t@x", "  +2", "\r-3", " \n @SUM"])
      expect(csvText([[sly]]).replace(/^"/, "")[0], JSON.stringify(sly)).toBe("'");
    for (const plain of [" x", "a=1", "", " 3"]) expect(csvText([[plain]])).toBe(`${plain}\r\n`);
  });
});
