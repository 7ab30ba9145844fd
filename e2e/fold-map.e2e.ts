import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import {
  type Cone,
  evenState,
  examinePart,
  FOLD_MAP,
  FOLD_NUMBERS,
  foldNumbers,
  foldPoint,
  foldSheet,
  kindOf,
  newPart,
  type PartDocument,
  platesOf,
  readDocumentText,
  type Sheet,
  type StepDocument,
  tileSheet,
} from "@hillcrest/core";
import { expect, test } from "vitest";
import { root } from "./harness.ts";
import { opened } from "./opened.ts";

const { page } = await opened();

/** What is drawn may stand off what is reckoned by so much, mm. */
const WITHIN = 1e-3;
const MOST = 3000;
const SHARES = [0, 1e-7, 0.003, 0.37, 1];

/** Where the graphics card puts points of pieces' own frames: three numbers each, and the same for their directions. */
function onTheCard(input: {
  places: number[];
  ways: number[];
  pieces: number[];
  numbers: number[];
  thickness: number;
}): Promise<{ places: number[]; ways: number[] }> {
  return page.evaluate(
    ({ places, ways, pieces, numbers, thickness, map, perPiece }) => {
      const gl = document.createElement("canvas").getContext("webgl2")!;
      const shader = (kind: number, text: string) => {
        const made = gl.createShader(kind)!;
        gl.shaderSource(made, text);
        gl.compileShader(made);
        if (!gl.getShaderParameter(made, gl.COMPILE_STATUS)) throw new Error(gl.getShaderInfoLog(made)!);
        return made;
      };
      const program = gl.createProgram()!;
      gl.attachShader(
        program,
        shader(
          gl.VERTEX_SHADER,
          `#version 300 es
          precision highp float;
          in vec3 place; in vec3 way; in float piece;
          out vec3 stands; out vec3 faces;
          uniform highp sampler2D columns; uniform float foldThickness;
          vec4 foldColumn(int k) { return texelFetch(columns, ivec2(k, int(piece + 0.5)), 0); }
          ${map}
          void main() { stands = place; faces = way; foldPlace(stands, faces); gl_Position = vec4(0.0); }`,
        ),
      );
      gl.attachShader(program, shader(gl.FRAGMENT_SHADER, "#version 300 es\nvoid main() {}"));
      gl.transformFeedbackVaryings(program, ["stands", "faces"], gl.SEPARATE_ATTRIBS);
      gl.linkProgram(program);
      if (!gl.getProgramParameter(program, gl.LINK_STATUS)) throw new Error(gl.getProgramInfoLog(program)!);
      gl.useProgram(program);
      const give = (name: string, values: number[], size: number) => {
        gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
        gl.bufferData(gl.ARRAY_BUFFER, new Float32Array(values), gl.STATIC_DRAW);
        const at = gl.getAttribLocation(program, name);
        gl.enableVertexAttribArray(at);
        gl.vertexAttribPointer(at, size, gl.FLOAT, false, 0, 0);
      };
      give("place", places, 3);
      give("way", ways, 3);
      give("piece", pieces, 1);
      gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
      const columns = perPiece / 4;
      const rows = numbers.length / perPiece;
      const data = new Float32Array(numbers);
      gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, columns, rows, 0, gl.RGBA, gl.FLOAT, data);
      gl.uniform1f(gl.getUniformLocation(program, "foldThickness"), thickness);
      const count = pieces.length;
      const taken = [0, 1].map((k) => {
        const buffer = gl.createBuffer();
        gl.bindBuffer(gl.ARRAY_BUFFER, buffer);
        gl.bufferData(gl.ARRAY_BUFFER, count * 12, gl.STATIC_READ);
        gl.bindBuffer(gl.ARRAY_BUFFER, null);
        gl.bindBufferBase(gl.TRANSFORM_FEEDBACK_BUFFER, k, buffer);
        return buffer;
      });
      gl.enable(gl.RASTERIZER_DISCARD);
      gl.beginTransformFeedback(gl.POINTS);
      gl.drawArrays(gl.POINTS, 0, count);
      gl.endTransformFeedback();
      const [stands, faces] = taken.map((buffer, k) => {
        gl.bindBufferBase(gl.TRANSFORM_FEEDBACK_BUFFER, k, null);
        gl.bindBuffer(gl.ARRAY_BUFFER, buffer);
        const out = new Float32Array(count * 3);
        gl.getBufferSubData(gl.ARRAY_BUFFER, 0, out);
        return [...out];
      });
      return { places: stands, ways: faces };
    },
    { ...input, map: FOLD_MAP, perPiece: FOLD_NUMBERS },
  );
}

interface Vertex {
  readonly place: readonly number[];
  readonly way: readonly number[];
  /** Its piece among those of all states. */
  readonly piece: number;
  readonly stands: readonly number[];
  readonly tip: readonly number[];
}

/** The vertices of a sheet in one fold state, and where they are reckoned to stand. */
function verticesOf(sheet: Sheet, share: number, nth: number): Vertex[] {
  const folding = foldSheet(sheet, evenState(sheet, share));
  // Ribs change their shape as their bend turns: the page reckons where they stand itself.
  const tiles = tileSheet(sheet, 0.5).tiles.filter((tile) => sheet.pieces[tile.owners[0]].kind !== "rib");
  return tiles.flatMap((tile) =>
    Array.from(tile.ownerOf, (own, k): Vertex => {
      const owner = tile.owners[own];
      const { origin, across, along } = kindOf(sheet.pieces[owner]).ownFrame(sheet.pieces[owner]);
      const place = [...tile.places.subarray(k * 3, k * 3 + 3)];
      const developed = ([x, y, w]: readonly number[]): [number, number, number] => [
        origin.x + across.x * x + along.x * y,
        origin.y + across.y * x + along.y * y,
        w,
      ];
      const stands = foldPoint(folding, owner, developed(place));
      // A direction up from the sheet turns as the metal does: a millimetre higher stands a millimetre along it.
      const up = foldPoint(folding, owner, developed([place[0], place[1], place[2] + 1]));
      const tip = up.map((v, i) => v - stands[i]);
      return { place, way: [0, 0, 1], piece: nth * sheet.pieces.length + owner, stands, tip };
    }),
  );
}

/** The farthest that the card puts a vertex of a sheet from where it is reckoned to stand, mm, and how far a direction is off. */
async function gapsOf(sheet: Sheet): Promise<{ place: number; way: number; vertices: number }> {
  const every = SHARES.flatMap((share, nth) => verticesOf(sheet, share, nth));
  // Of openings with many points some say enough.
  const all = every.filter((_, i) => i % Math.ceil(every.length / MOST) === 0);
  const card = await onTheCard({
    places: all.flatMap((v) => v.place),
    ways: all.flatMap((v) => v.way),
    pieces: all.map((v) => v.piece),
    numbers: SHARES.flatMap((share) => [...foldNumbers(sheet, foldSheet(sheet, evenState(sheet, share)))]),
    thickness: sheet.t,
  });
  const farthest = (values: readonly number[], from: readonly (readonly number[])[]) =>
    Math.max(...from.map((p, k) => Math.hypot(...p.map((v, i) => v - values[k * 3 + i]))));
  return {
    place: farthest(
      card.places,
      all.map((v) => v.stands),
    ),
    way: farthest(
      card.ways,
      all.map((v) => v.tip),
    ),
    vertices: all.length,
  };
}

test("the graphics card puts every part of the demo where it is reckoned to stand, flat, hardly bent and folded", async () => {
  const folder = join(root, "demo");
  const files = readdirSync(folder).filter((name) => name.endsWith(".json"));
  expect(files.length).toBeGreaterThan(5);
  for (const name of files) {
    const document = readDocumentText(readFileSync(join(folder, name), "utf8"));
    if (!document.ok) continue;
    const { sheet } = examinePart(document.value);
    const { place, way, vertices } = await gapsOf(sheet!);
    expect(vertices).toBeGreaterThan(250);
    expect(place, name).toBeLessThan(WITHIN);
    expect(way, name).toBeLessThan(1e-4);
  }
});

test("also one that is bent up and down thirty times in a row and two metres long", async () => {
  const chain: PartDocument = {
    ...newPart("Chain"),
    steps: [
      { id: "s1", kind: "plate", width: "50", depth: "50" },
      ...Array.from(
        { length: 30 },
        (_, i): StepDocument => ({
          id: `s${i + 2}`,
          kind: "flange",
          edges: [{ key: "a", at: i === 0 ? "s1.north" : `s${i + 1}a.end` }],
          turn: i % 2 === 0 ? "up" : "down",
          angle: i % 3 === 0 ? "120" : "35",
          length: "70",
        }),
      ),
    ],
  };
  const { sheet } = examinePart(chain);
  expect(platesOf(sheet)).toHaveLength(31);
  expect((await gapsOf(sheet!)).place).toBeLessThan(WITHIN);
});

test("also metal that is rolled to a cone, towards either side", async () => {
  const [near, far, sector] = [30, 90, 1.1];
  const at = (rho: number, phi: number) => ({ x: rho * Math.cos(phi), y: rho * Math.sin(phi) });
  const tip = { x: 0, y: 0 };
  const line = (a: Cone["tip"], b: Cone["tip"]) => ({ kind: "line", a, b }) as const;
  const arc = (r: number, from: number, to: number) =>
    ({ kind: "arc", a: at(r, from), b: at(r, to), c: tip, r, ccw: to > from }) as const;
  const corners = [at(near, 0), at(near, 0 - 0.4), at(far, 0 - 0.4), at(far, 0)];
  for (const up of [true, false]) {
    const cone: Cone = {
      kind: "cone",
      id: "c",
      step: "s2",
      parent: "p",
      child: "q",
      tip,
      axis: { x: 1, y: 0 },
      out: { x: 0, y: 1 },
      overhang: { left: 0, right: 0 },
      near,
      far,
      sector,
      turn: 2.6,
      k: 0.42,
      up,
      regions: [
        {
          outer: [
            line(at(near, 0), at(far, 0)),
            arc(far, 0, sector),
            line(at(far, sector), at(near, sector)),
            arc(near, sector, 0),
          ],
          holes: [],
        },
      ],
      marks: [],
    };
    const [plain] = platesOf(
      examinePart({ ...newPart("P"), steps: [{ id: "p", kind: "plate", width: "10", depth: "10" }] }).sheet,
    );
    const parent = {
      ...plain,
      regions: [{ outer: corners.map((p, i) => line(p, corners[(i + 1) % 4])), holes: [] }],
    };
    const child = { ...plain, id: "q", regions: [] };
    const sheet: Sheet = {
      t: 1.5,
      roots: [{ plate: "p", place: { x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0], o: [3, -4, 5] } }],
      pieces: [parent, child, cone],
      slits: [],
      features: [],
    };
    const { place, way } = await gapsOf(sheet);
    expect(place).toBeLessThan(WITHIN);
    expect(way).toBeLessThan(1e-4);
  }
});

test("what the views draw covers the very pixels that the reckoned shape covers", async () => {
  const bin = join(root, "node_modules/.bin/vite");
  const built = spawnSync(bin, ["build", "--config", "bench/vite.config.ts", "--logLevel", "error"], {
    cwd: root,
  });
  expect(built.status, String(built.stderr)).toBe(0);
  await page.addScriptTag({ path: join(root, ".setup/scenes/folding.js"), type: "module" });
  await page.waitForFunction(() => "compareScenes" in window);
  const holes = Array.from({ length: 900 }, (_, i) => ({
    key: `h${i}`,
    x: String(((i % 30) - 14.5) * 10),
    y: String((Math.floor(i / 30) - 14.5) * 10),
    d: "6",
  }));
  const perforated: PartDocument = {
    ...newPart("Perforated"),
    steps: [
      { id: "s1", kind: "plate", width: "320", depth: "320" },
      // The plate that is drawn in cells hangs on a bend: it has to move with it.
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "320", holes },
    ],
  };
  const moved = {
    ...perforated,
    steps: perforated.steps.map((s) => (s.id === "s2" ? { ...s, holes: lifted(holes) } : s)),
  };
  const tray = readDocumentText(readFileSync(join(root, "demo/battery-tray.json"), "utf8"));
  if (!tray.ok) throw new Error("The tray cannot be read.");
  // So thin that its walls are not half a pixel high, and are not drawn: nine hundred rims of openings show it a little.
  const thin = { ...moved, stock: { ...moved.stock, thickness: "0.4" } };
  for (const document of [tray.value, moved, thin])
    for (const state of [0, 0.4, 1]) {
      const { metal, apart } = await page.evaluate(
        ([document, state]) =>
          (
            window as unknown as { compareScenes(d: unknown, s: number): { metal: number; apart: number } }
          ).compareScenes(document, state),
        [document, state] as const,
      );
      expect(metal).toBeGreaterThan(10_000);
      expect(apart / metal).toBeLessThan(document === thin ? 0.025 : 0.0005);
    }
});

/** Holes of a leg are counted from its bend: so high that they lie within it. */
const lifted = <T extends { readonly y: string }>(holes: readonly T[]): T[] =>
  holes.map((h) => ({ ...h, y: String(Number(h.y) + 160) }));
