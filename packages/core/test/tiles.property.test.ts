import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  createExaminer,
  createTiler,
  examinePart,
  flattenLoop,
  loopArea,
  type MeshTile,
  meshSheet,
  newPart,
  type PartDocument,
  platesOf,
  polygonLoop,
  Receiver,
  regionLoops,
  Sender,
  type Sheet,
  type StepDocument,
  type TiledMesh,
  tileSheet,
} from "../src/index.ts";
import { circleLoop, type Loop } from "../src/plane/loop.ts";
import { withChange } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";
import { areaOfSideB, openEdges } from "./tiled.ts";

sameCases(20261127);
const RUNS = casesOf(100);
const CHORD = 0.05;
// What 32-bit numbers tell apart on parts of a metre.
const WELD = 1e-3;

const sheetOf = (document: PartDocument): Sheet | undefined => examinePart(document).sheet;
const numbers = (tile: MeshTile) => ({
  owners: [...tile.owners],
  ownerOf: [...tile.ownerOf],
  places: [...tile.places].map((v) => Math.round(v * 1e4)),
  triangles: [...tile.triangles],
  sharp: [...tile.sharp],
  tangent: [...tile.tangent],
});

describe("a sheet laid out in tiles", () => {
  test("is as closed as its mesh and has as many triangles, whatever the part is", () => {
    fc.assert(
      fc.property(fc.oneof(randomPart, randomChain), (document) => {
        const sheet = sheetOf(document);
        if (!sheet) return;
        const tiled = tileSheet(sheet, CHORD);
        const mesh = meshSheet(sheet, CHORD);
        const triangles = tiled.tiles.reduce((sum, t) => sum + t.triangles.length / 3, 0);
        expect(triangles).toBe((mesh.faces.length * 2) / 3 + mesh.walls.length);
        expect(openEdges(sheet, tiled, WELD)).toBe(0);
      }),
      { numRuns: RUNS },
    );
  });

  test("after a change is what it would be laid out afresh", () => {
    fc.assert(
      fc.property(randomChain, spread(0, 0.999), spread(0.7, 1.4), (document, which, by) => {
        const step = document.steps[Math.floor(which * document.steps.length)];
        const [key, value] = Object.entries(step).find(([, v]) => /^\d+(\.\d+)?$/.test(`${v}`)) ?? [];
        const next = key ? withChange(document, step.id, { [key]: String(Number(value) * by) }) : document;
        const [before, after] = [sheetOf(document), sheetOf(next)];
        if (!before || !after) return;
        const tile = createTiler(CHORD);
        tile(before);
        expect(tile(after).tiles.map(numbers)).toEqual(tileSheet(after, CHORD).tiles.map(numbers));
      }),
      { numRuns: RUNS },
    );
  });

  test("is the very same record where nothing changed, and of a long comb one flange's edit changes three tiles at most", () => {
    const comb = (length: string): PartDocument => ({
      ...newPart("Comb"),
      steps: [
        { id: "s1", kind: "plate", width: "4000", depth: "100" },
        ...Array.from(
          { length: 190 },
          (_, i): StepDocument => ({
            id: `s${i + 2}`,
            kind: "flange",
            edges: [{ key: "a", at: "s1.north" }],
            turn: "up",
            length: i === 100 ? length : "20",
            span: "width",
            width: "12",
            at: "left",
            shift: String(i * 20 + 4),
          }),
        ),
      ],
    });
    const tile = createTiler(CHORD);
    const [first, second] = [sheetOf(comb("20"))!, sheetOf(comb("24"))!];
    const before = tile(first);
    expect(tile(first).tiles.every((t, i) => t === before.tiles[i])).toBe(true);
    // A build of its own: what is the same is the same by what it says, as it is after an edit.
    const joined = {
      ...second,
      pieces: second.pieces.map((p, i) =>
        JSON.stringify(p) === JSON.stringify(first.pieces[i]) ? first.pieces[i] : p,
      ),
    };
    const after = tile(joined);
    const old = new Set(before.tiles);
    expect(before.tiles.length).toBeGreaterThan(10);
    expect(after.tiles.filter((t) => !old.has(t)).length).toBeLessThanOrEqual(3);
  });
});

describe("tiles that cross to the page", () => {
  test("are there what they would be afresh, however steps come and go and come again", () => {
    fc.assert(
      fc.property(
        randomChain,
        fc.array(spread(0, 0.999), { minLength: 3, maxLength: 8 }),
        (document, stops) => {
          const [examine, tile] = [createExaminer(), createTiler(CHORD)];
          const [sender, receiver] = [new Sender(), new Receiver()];
          for (const stop of [...stops, stops[0], 0.999]) {
            const count = Math.floor(stop * (document.steps.length + 1));
            const build = examine({ ...document, steps: document.steps.slice(0, count) });
            const mesh = build.sheet && tile(build.sheet);
            const sent = structuredClone(sender.pack({ build, mesh }, "build"));
            const got = receiver.unpack<{ mesh?: TiledMesh }>(sent).mesh;
            // What else is asked for meanwhile takes nothing of it away.
            receiver.unpack(structuredClone(sender.pack({ content: `file ${stop}` })));
            if (!build.sheet || !got) continue;
            expect(got.tiles.map(numbers)).toEqual(tileSheet(build.sheet, CHORD).tiles.map(numbers));
          }
        },
      ),
      { numRuns: RUNS },
    );
  });
});

const SIDE = 34;
const PITCH = 10;
const clockwise = (loop: Loop): Loop =>
  loop
    .map((c) => (c.kind === "arc" ? { ...c, a: c.b, b: c.a, ccw: !c.ccw } : { ...c, a: c.b, b: c.a }))
    .reverse();
const hole = (x: number, y: number, r: number): Loop => clockwise(circleLoop({ x, y }, r));

function perforated(holes: readonly Loop[]): Sheet {
  const document: PartDocument = {
    ...newPart("Field"),
    steps: [{ id: "s1", kind: "plate", width: String(SIDE * PITCH), depth: String(SIDE * PITCH) }],
  };
  const sheet = sheetOf(document)!;
  const [plate] = platesOf(sheet);
  return { ...sheet, pieces: [{ ...plate, regions: [{ outer: OUTER, holes }] }] };
}
const OUTER = polygonLoop(
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([x, y]) => ({ x: (x * SIDE * PITCH) / 2, y: (y * SIDE * PITCH) / 2 })),
);

const standing = (at: readonly { readonly loop: Loop | undefined }[]): Loop[] =>
  at.flatMap(({ loop }) => (loop ? [loop] : []));
const middle = (i: number) => (i - (SIDE - 1) / 2) * PITCH;
const change = fc.record({
  kind: fc.constantFrom("move", "drop", "add", "grow"),
  which: spread(0, 0.999),
  dx: spread(-0.9, 0.9),
  dy: spread(-0.9, 0.9),
  r: spread(0.3, 3.9),
});

describe("a perforation in which openings move, come and go", () => {
  test("stays closed and has the area of its metal, and only the tiles beside them are new", () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(change, { minLength: 1, maxLength: 4 }), { minLength: 3, maxLength: 5 }),
        (edits) => {
          const at = Array.from({ length: SIDE * SIDE }, (_, i) => ({
            x: middle(i % SIDE),
            y: middle(Math.floor(i / SIDE)),
            loop: hole(middle(i % SIDE), middle(Math.floor(i / SIDE)), 3) as Loop | undefined,
          }));
          const tile = createTiler(CHORD);
          let before = tile(perforated(standing(at)));
          expect(before.tiles.length).toBeGreaterThan(8);
          let last: Sheet | undefined;
          for (const edit of edits) {
            for (const { kind, which, dx, dy, r } of edit) {
              const one = at[Math.floor(which * at.length)];
              if (kind === "drop") one.loop = undefined;
              else if (kind === "add") one.loop ??= hole(one.x, one.y, r);
              else if (kind === "grow") one.loop = hole(one.x, one.y, r);
              else one.loop = hole(one.x + dx, one.y + dy, 3);
            }
            const sheet = perforated(standing(at));
            const after = tile(sheet);
            const old = new Set(before.tiles);
            expect(after.tiles.filter((t) => !old.has(t)).length).toBeLessThanOrEqual(edit.length * 4);
            const area = regionLoops(platesOf(sheet)[0].regions[0]).reduce(
              (sum, l) => sum + loopArea(polygonLoop(flattenLoop(l, CHORD))),
              0,
            );
            expect(Math.abs(areaOfSideB(sheet, after) / area - 1)).toBeLessThan(1e-6);
            before = after;
            last = sheet;
          }
          expect(openEdges(last!, before, 0)).toBe(0);
        },
      ),
      { numRuns: 5 },
    );
  });

  test("is cut anew where an opening comes to touch another, and is closed all the same", () => {
    const holes = Array.from({ length: SIDE * SIDE }, (_, i) =>
      hole(middle(i % SIDE), middle(Math.floor(i / SIDE)), 3),
    );
    const tile = createTiler(CHORD);
    tile(perforated(holes));
    const touching = holes.slice();
    touching[500] = hole(middle(500 % SIDE), middle(Math.floor(500 / SIDE)), 7 - 1e-9);
    // Four neighbours are met in a point each, which no border may cross.
    const sheet = perforated(touching.filter((_, i) => ![499, 501, 500 - SIDE, 500 + SIDE].includes(i)));
    expect(openEdges(sheet, tile(sheet), 0)).toBe(0);
  });
});
