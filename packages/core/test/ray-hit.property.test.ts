import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  bendsOf,
  evenState,
  examinePart,
  foldMesh,
  foldPoint,
  foldSheet,
  meshSheet,
  newPart,
  type PartDocument,
  rayHit,
} from "../src/index.ts";
import { addV, crossV, dotV, scaleV, type Vector } from "../src/space/vector.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";

sameCases(20261128);
const RUNS = casesOf(120);
const CHORD = 0.01;
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** How far along a ray each triangle of a folded mesh is met, nearest first. */
function byTriangles(
  { positions, triangles }: ReturnType<typeof foldMesh>,
  from: Vector,
  way: Vector,
): number | undefined {
  let best: number | undefined;
  const at = (k: number): Vector => [positions[k * 3], positions[k * 3 + 1], positions[k * 3 + 2]];
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [at(triangles[i]), at(triangles[i + 1]), at(triangles[i + 2])];
    const [e, f] = [minus(b, a), minus(c, a)];
    const p = crossV(way, f);
    const det = dotV(e, p);
    if (Math.abs(det) < 1e-14) continue;
    const s = minus(from, a);
    const u = dotV(s, p) / det;
    const q = crossV(s, e);
    const v = dotV(way, q) / det;
    const along = dotV(f, q) / det;
    if (u < 0 || v < 0 || u + v > 1 || along < 0) continue;
    if (best === undefined || along < best) best = along;
  }
  return best;
}

// At a point of the metal, of a bend as often as of a plate, or a little beside it.
const ray = fc.record({
  which: spread(0, 0.999),
  bend: fc.boolean(),
  u: spread(-2, 2),
  v: spread(-2, 2),
  turn: spread(0, 6.28),
  tilt: spread(-1.4, 1.4),
});

describe("a ray that meets a folded sheet", () => {
  test("meets it where the mesh is met, and the developed point is the one that stands there", () => {
    fc.assert(
      fc.property(
        fc.oneof(randomPart, randomChain),
        spread(0, 1),
        fc.array(ray, { minLength: 12, maxLength: 12 }),
        (document, share, rays) => {
          const { sheet } = examinePart(document);
          if (!sheet) return;
          const folding = foldSheet(sheet, evenState(sheet, share));
          const surface = meshSheet(sheet, CHORD);
          const mesh = foldMesh(surface, folding);
          const reach = Math.max(...Array.from(mesh.positions, Math.abs));
          const columns = [...surface.columnOwner.keys()];
          const ofBends = columns.filter((k) => sheet.pieces[surface.columnOwner[k]].kind !== "plate");
          for (const { which, bend, u, v, turn, tilt } of rays) {
            const among = bend && ofBends.length > 0 ? ofBends : columns;
            const target = among[Math.floor(which * among.length)] * 6;
            const aim: Vector = [
              mesh.positions[target],
              mesh.positions[target + 1],
              mesh.positions[target + 2],
            ];
            const way: Vector = [
              Math.cos(turn) * Math.cos(tilt),
              Math.sin(turn) * Math.cos(tilt),
              Math.sin(tilt),
            ];
            const side: Vector = [-Math.sin(turn), Math.cos(turn), 0];
            const through = addV(aim, addV(scaleV(side, u), scaleV(crossV(way, side), v)));
            const from = addV(through, scaleV(way, -4 * reach));
            const expected = byTriangles(mesh, from, way);
            const hit = rayHit(sheet, folding, from, way);
            if (!hit) {
              // A ray may graze the mesh, which stands a hair off the true shape.
              if (expected !== undefined) expect(grazes(expected, from, way)).toBe(true);
              continue;
            }
            const stands = foldPoint(folding, hit.piece, hit.at);
            const met = addV(from, scaleV(way, hit.along));
            expect(Math.hypot(...minus(stands, met))).toBeLessThan(1e-6 * Math.max(1, reach));
            if (expected === undefined || Math.abs(expected - hit.along) > CHORD * 40)
              expect(grazes(Math.min(hit.along, expected ?? Infinity), from, way)).toBe(true);
          }

          /** Whether moved by little more than the mesh is off, the ray meets something else altogether. */
          function grazes(along: number, from: Vector, way: Vector): boolean {
            const [a, b] = [crossV(way, [0.3, 0.5, 0.81]), crossV(way, crossV(way, [0.3, 0.5, 0.81]))];
            return [
              [1, 0],
              [-1, 0],
              [0, 1],
              [0, -1],
            ].some(([p, q]) => {
              const moved = addV(from, addV(scaleV(a, p * CHORD * 8), scaleV(b, q * CHORD * 8)));
              const other = byTriangles(mesh, moved, way);
              return other === undefined || Math.abs(other - along) > CHORD * 20;
            });
          }
        },
      ),
      { numRuns: RUNS },
    );
  });

  const board = examinePart(part(plate("100", "60", [{ key: "a", x: "0", y: "0", d: "20" }]))).sheet!;
  const flat = foldSheet(board, evenState(board, 1));

  test("goes through an opening, and meets the cut edge of one that it goes into aslant", () => {
    expect(rayHit(board, flat, [0, 0, 50], [0, 0, -1])).toBeUndefined();
    expect(rayHit(board, flat, [0, 10.5, 50], [0, 0, -1])?.at).toEqual([0, 10.5, board.t]);
    // Half a millimetre below side B the wall of the opening stands ten millimetres off its middle.
    const down = board.t / 2;
    const hit = rayHit(board, flat, [0, 0, board.t + 10], [10 / (10 + down), 0, -1])!;
    expect(hit.at[0]).toBeCloseTo(10, 9);
    expect(hit.at[2]).toBeCloseTo(down, 9);
  });

  test("along the plate meets its edge, and one beside it meets nothing", () => {
    expect(rayHit(board, flat, [-500, 5, board.t / 2], [1, 0, 0])?.at[0]).toBeCloseTo(-50, 9);
    expect(rayHit(board, flat, [-500, 5, board.t + 0.01], [1, 0, 0])).toBeUndefined();
    expect(rayHit(board, flat, [-500, 30.01, board.t / 2], [1, 0, 0])).toBeUndefined();
  });

  test("behind where it begins meets nothing, and the nearer of two plates is the one that is met", () => {
    expect(rayHit(board, flat, [0, 20, 50], [0, 0, 1])).toBeUndefined();
    const tray: PartDocument = {
      ...newPart("Tray"),
      steps: [
        { id: "s1", kind: "plate", width: "100", depth: "60" },
        {
          id: "s2",
          kind: "flange",
          edges: [
            { key: "a", at: "s1.east" },
            { key: "b", at: "s1.west" },
          ],
          length: "30",
        },
      ],
    };
    const { sheet } = examinePart(tray);
    const folding = foldSheet(sheet!, evenState(sheet!, 1));
    const [right, left] = [1, -1].map((way) => rayHit(sheet!, folding, [-300 * way, 0, 20], [way, 0, 0])!);
    expect(sheet!.pieces[right.piece].id).not.toBe(sheet!.pieces[left.piece].id);
    expect(right.along).toBeCloseTo(left.along, 6);
  });

  test("meets the leg that lies before another within the other's box, and metal that it begins in at once", () => {
    const folded: PartDocument = {
      ...newPart("Folded back"),
      steps: [
        { id: "s1", kind: "plate", width: "100", depth: "60" },
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], angle: "45", length: "100" },
        { id: "s3", kind: "flange", edges: [{ key: "a", at: "s2a.end" }], angle: "150", length: "60" },
      ],
    };
    const { sheet } = examinePart(folded);
    const folding = foldSheet(sheet!, evenState(sheet!, 1));
    const mesh = foldMesh(meshSheet(sheet!, CHORD), folding);
    const from: Vector = [100, 0, 500];
    const hit = rayHit(sheet!, folding, from, [0, 0, -1])!;
    expect(sheet!.pieces[hit.piece].id).toBe("s3a");
    expect(hit.along).toBeCloseTo(byTriangles(mesh, from, [0, 0, -1])!, 2);

    const [bend] = bendsOf(sheet);
    const owner = sheet!.pieces.indexOf(bend);
    const inside: Vector = [
      bend.origin.x + bend.out.x * (bend.allowance / 2) + bend.axis.x * (bend.width / 2),
      bend.origin.y + bend.out.y * (bend.allowance / 2) + bend.axis.y * (bend.width / 2),
      sheet!.t / 2,
    ];
    const out = rayHit(sheet!, folding, foldPoint(folding, owner, inside), [0, 1, 0])!;
    expect([out.piece, out.along]).toEqual([owner, 0]);
  });
});
