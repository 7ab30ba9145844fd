import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  evenState,
  examinePart,
  FOLD_NUMBERS,
  foldNumbers,
  foldPoint,
  foldSheet,
  kindOf,
  meshSheet,
} from "../src/index.ts";
import { meshPieces, neighboursOf, type SheetMesh } from "../src/sheet/meshes/mesh.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";

sameCases(20261203);
const RUNS = casesOf(80);
const CHORD = 0.1;

/** The faces and walls of a piece by where they are, in no order. */
function placesOf(mesh: SheetMesh, piece: number): string[] {
  const at = (k: number) => `${mesh.columns[k * 2].toFixed(6)},${mesh.columns[k * 2 + 1].toFixed(6)}`;
  const out: string[] = [];
  mesh.faceOwner.forEach((owner, i) => {
    if (owner === piece)
      out.push(
        [0, 1, 2]
          .map((k) => at(mesh.faces[i * 3 + k]))
          .sort()
          .join(" "),
      );
  });
  mesh.wallOwner.forEach((owner, i) => {
    if (owner === piece) out.push(`wall ${at(mesh.walls[i * 2])} ${at(mesh.walls[i * 2 + 1])}`);
  });
  return out.sort();
}

const anyPart = fc.oneof(randomPart, randomChain);

describe("the surface of some pieces of a sheet", () => {
  test("is what it is of the whole sheet: seams have the same points, and what is not asked for is not there", () => {
    fc.assert(
      fc.property(anyPart, fc.array(spread(0, 0.999), { minLength: 1, maxLength: 3 }), (document, shares) => {
        const { sheet } = examinePart(document);
        if (!sheet) return;
        const wanted = new Set(shares.map((s) => Math.floor(s * sheet.pieces.length)));
        const whole = meshSheet(sheet, CHORD);
        const { mesh } = meshPieces(sheet, CHORD, wanted);
        for (const piece of wanted) expect(placesOf(mesh, piece)).toEqual(placesOf(whole, piece));
        for (const owner of [...mesh.faceOwner, ...mesh.wallOwner]) expect(wanted.has(owner)).toBe(true);
      }),
      { numRuns: RUNS },
    );
  });

  test("hangs on those that it meets: who is a neighbour is so both ways", () => {
    fc.assert(
      fc.property(anyPart, (document) => {
        const { sheet } = examinePart(document);
        if (!sheet) return;
        const neighbours = neighboursOf(sheet);
        sheet.pieces.forEach((piece, i) => {
          for (const j of neighbours[i]) {
            expect(neighbours[j]).toContain(i);
            const other = sheet.pieces[j];
            // A plate meets bends and a bend plates, but across a plate of no length.
            if (piece.kind === "plate") expect(other.kind).not.toBe("plate");
          }
          if ("child" in piece) expect(neighbours[i].length).toBeGreaterThanOrEqual(2);
        });
      }),
      { numRuns: RUNS },
    );
  });
});

describe("a fold state as numbers for the card", () => {
  /** What the card does with a plate: the columns of its motion on a point of its own frame. */
  const onPlate = (numbers: Float32Array, i: number, [x, y, w]: readonly number[]) => {
    const column = (k: number) => numbers.subarray(i * FOLD_NUMBERS + k * 4, i * FOLD_NUMBERS + k * 4 + 3);
    const [a, b, c, o] = [0, 1, 2, 3].map(column);
    return [0, 1, 2].map((k) => a[k] * x + b[k] * y + c[k] * w + o[k]);
  };

  test("puts every plate where it is folded, and says of each piece how it curls", () => {
    fc.assert(
      fc.property(anyPart, spread(0, 1), (document, share) => {
        const { sheet } = examinePart(document);
        if (!sheet) return;
        const folding = foldSheet(sheet, evenState(sheet, share));
        const numbers = foldNumbers(sheet, folding);
        expect(numbers.length).toBe(sheet.pieces.length * FOLD_NUMBERS);
        expect(numbers.every(Number.isFinite)).toBe(true);
        sheet.pieces.forEach((piece, i) => {
          const form = numbers[i * FOLD_NUMBERS + 3];
          expect(form).toBe(piece.kind === "plate" ? 0 : 1);
          if (piece.kind !== "plate") return;
          const { origin, across, along } = kindOf(piece).ownFrame(piece);
          for (const [x, y, w] of [
            [0, 0, 0],
            [30, -12, sheet.t],
          ]) {
            const u = origin.x + across.x * x + along.x * y;
            const v = origin.y + across.y * x + along.y * y;
            const wanted = foldPoint(folding, i, [u, v, w]);
            const found = onPlate(numbers, i, [x, y, w]);
            const size = Math.max(1, ...wanted.map(Math.abs));
            for (const k of [0, 1, 2]) expect(Math.abs(found[k] - wanted[k]) / size).toBeLessThan(1e-6);
          }
        });
      }),
      { numRuns: RUNS },
    );
  });

  test("are written into what is given where there is room, and into something new where there is none", () => {
    const { sheet } = examinePart({
      format: "hillcrest-part",
      version: 3,
      name: "P",
      stock: { material: "Steel", density: "7850", thickness: "1", radius: "1", flatBy: "K", k: "0.4" },
      steps: [
        { id: "s1", kind: "plate", width: "50", depth: "40" },
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
      ],
    } as never);
    const folding = foldSheet(sheet!, evenState(sheet!, 0.5));
    const room = new Float32Array(200).fill(7);
    expect(foldNumbers(sheet!, folding, room)).toBe(room);
    expect([...room.subarray(0, 48)]).toEqual([...foldNumbers(sheet!, folding)]);
    expect(room[48]).toBe(7);
    expect(foldNumbers(sheet!, folding, new Float32Array(3))).toHaveLength(48);
  });
});
