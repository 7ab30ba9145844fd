import {
  createExaminer,
  createTiler,
  evenState,
  foldPoint,
  foldSheet,
  newPart,
  type PartDocument,
  pieceIndex,
  Receiver,
  Sender,
  type StepDocument,
  type TiledMesh,
} from "@hillcrest/core";
import { Color, Mesh, Vector3 } from "three";
import { beforeEach, describe, expect, test, vi } from "vitest";
import type { SceneColours } from "../src/views/folded/scene-colours.ts";
import { Solid } from "../src/views/folded/solid.ts";

const flange = (id: string, at: string, length = "30"): StepDocument => ({
  ...{ id, kind: "flange", edges: [{ key: "a", at }], length },
});
const partOf = (width: string, ...steps: StepDocument[]): PartDocument => ({
  ...newPart("Part"),
  steps: [{ id: "s1", kind: "plate", width, depth: "80" }, ...steps],
});

let examine: ReturnType<typeof createExaminer>;
let tile: ReturnType<typeof createTiler>;
let solid: Solid;
let [sender, receiver] = [new Sender(), new Receiver()];
beforeEach(() => {
  [sender, receiver] = [new Sender(), new Receiver()];
  examine = createExaminer();
  tile = createTiler(0.05);
  solid = new Solid();
});

/** Shows a part as the page does, once its shape has come from the worker, and folds it. */
function show(document: PartDocument, share = 1) {
  const sheet = examine(document).sheet!;
  const packet = structuredClone(sender.pack({ mesh: tile(sheet) }));
  const { mesh } = receiver.unpack<{ mesh: TiledMesh }>(packet);
  const folding = foldSheet(sheet, evenState(sheet, share));
  solid.show(sheet, mesh);
  solid.fold(sheet, folding);
  return { sheet, mesh, folding };
}
const ABOVE = new Vector3(0, 0, 1);
const objects = () => [...solid.group.children];
const metals = () => objects().filter((o): o is Mesh => o instanceof Mesh);

describe("a sheet on the graphics card", () => {
  test("has an object of metal for each tile, with lines beside it, and none is made again that is still the same", () => {
    const { mesh } = show(partOf("100", flange("s2", "s1.north")));
    expect(metals()).toHaveLength(mesh.tiles.length);
    const before = objects();
    show(partOf("100", flange("s2", "s1.north")), 0.4);
    expect(objects()).toEqual(before);
    // Its length changes the tile of the plates; what the bend looks like stays.
    show(partOf("100", flange("s2", "s1.north", "35")));
    const kept = objects().filter((o) => before.includes(o));
    expect(kept.length).toBeGreaterThan(0);
    expect(kept.length).toBeLessThan(before.length);
  });

  test("lets go of what is not shown any more, on the card too", () => {
    show(partOf("100", flange("s2", "s1.north"), flange("s3", "s1.south")));
    const gone = metals().map(({ geometry }) => vi.spyOn(geometry, "dispose"));
    show(partOf("140"));
    expect(gone.filter((dispose) => dispose.mock.calls.length > 0).length).toBe(gone.length);
    const last = objects().map((o) => vi.spyOn((o as Mesh).geometry, "dispose"));
    solid.dispose();
    for (const dispose of last) expect(dispose).toHaveBeenCalledTimes(1);
  });

  test("moves a lone plate as a whole to where it is folded, and back", () => {
    // Thirty-two flanges and their plate: the last of the plates is alone in its tile.
    const steps = Array.from({ length: 32 }, (_, i) => ({
      ...flange(`s${i + 2}`, "s1.north", String(20 + i)),
      ...{ span: "width", width: "5", at: "left", shift: String(i * 12 + 2) },
    }));
    const document = partOf("410", ...steps);
    for (const share of [1, 0, 0.5]) {
      const { sheet, mesh, folding } = show(document, share);
      const lone = mesh.tiles.findIndex(
        (t) => t.owners.length === 1 && sheet.pieces[t.owners[0]].kind === "plate",
      );
      expect(lone).toBeGreaterThanOrEqual(0);
      const shown = metals().find((m) => m.geometry.attributes.position.array === mesh.tiles[lone].places)!;
      shown.updateMatrixWorld(true);
      const [owner] = mesh.tiles[lone].owners;
      const piece = sheet.pieces[owner];
      if (piece.kind !== "plate") throw new Error("no plate");
      const at = new Vector3(2, 3, sheet.t).applyMatrix4(shown.matrixWorld);
      const { origin, x } = piece.frame;
      const [u, v] = [origin.x + x.x * 2 - x.y * 3, origin.y + x.y * 2 + x.x * 3];
      const wanted = foldPoint(folding, pieceIndex(sheet, "plate", piece.id), [u, v, sheet.t]);
      expect(at.distanceTo(new Vector3(...wanted))).toBeLessThan(1e-3);
    }
  });

  test("numbers its vertices by the pieces of the sheet, also where only the numbers change", () => {
    const two = [flange("s2", "s1.north"), flange("s3", "s1.south")];
    const { mesh: first, sheet } = show(partOf("100", ...two));
    const bends = first.tiles.find((t) => sheet.pieces[t.owners[0]].kind === "bend")!;
    const shown = () => metals().find((m) => m.geometry.attributes.position.array === bends.places)!;
    const numbers = () => new Set(shown().geometry.attributes.piece.array as Float32Array);
    expect(numbers()).toEqual(new Set(bends.owners));
    // Another plate before the bends, that has no bend of its own: they are the same, and have other numbers.
    const lug: StepDocument = { id: "s4", kind: "plate", width: "30", depth: "20", x: "200", y: "0" };
    const { mesh: second, sheet: more } = show(partOf("100", ...two, lug));
    const now = second.tiles.find((t) => more.pieces[t.owners[0]].kind === "bend")!;
    expect([...now.owners]).not.toEqual([...bends.owners]);
    expect(numbers()).toEqual(new Set(now.owners));
  });

  test("has lines as strong as ever where they are few, and fainter the farther off a perforation is seen", () => {
    show(partOf("100", flange("s2", "s1.north")));
    const opacities = () => {
      const { materials } = solid as unknown as {
        materials: Record<string, Record<string, { opacity: number }>>;
      };
      return [materials.folded.sharp.opacity, materials.stiff.crowded.opacity];
    };
    solid.seenFrom(ABOVE, 0.1);
    expect(opacities()).toEqual([0.62, 0.62]);
    const holes = Array.from({ length: 400 }, (_, i) => ({
      key: `h${i}`,
      x: String(((i % 20) - 9.5) * 4),
      y: String((Math.floor(i / 20) - 9.5) * 4),
      d: "3",
    }));
    const document = partOf("100");
    show({ ...document, steps: [{ ...document.steps[0], holes }] });
    const at = (zoom: number) => {
      solid.seenFrom(ABOVE, zoom);
      return opacities()[1];
    };
    expect(at(0.5)).toBeLessThan(at(2));
    expect(at(2)).toBeLessThan(0.62);
    expect(at(100)).toBe(0.62);
    expect(opacities()[0]).toBe(0.62);
    // So faint that nobody would see them they are not drawn at all.
    const { crowded } = (solid as unknown as { materials: { stiff: { crowded: { visible: boolean } } } })
      .materials.stiff;
    expect(crowded.visible).toBe(true);
    at(0.01);
    expect(crowded.visible).toBe(false);
  });

  test("has of a lone plate only the side drawn that is seen, and its walls where they are as high as a pixel", () => {
    const holes = Array.from({ length: 100 }, (_, i) => ({
      key: `h${i}`,
      x: String(((i % 10) - 4.5) * 8),
      y: String((Math.floor(i / 10) - 4.5) * 6),
      d: "3",
    }));
    const document = partOf("100");
    show({ ...document, steps: [{ ...document.steps[0], holes }] });
    const [{ geometry }] = metals();
    const index = geometry.index!.array as Uint32Array;
    const ways = geometry.attributes.normal.array as Int8Array;
    /** What is drawn of each: side A, walls, side B. */
    const drawn = (toEye: Vector3, zoom: number) => {
      solid.seenFrom(toEye.normalize(), zoom);
      const { start, count } = geometry.drawRange;
      const sums = [0, 0, 0];
      for (let i = start; i < start + count; i += 3) sums[Math.sign(ways[index[i] * 3 + 2]) + 1]++;
      return sums;
    };
    const whole = drawn(new Vector3(0, 1, 0.05), 0.01);
    expect(whole.reduce((p, q) => p + q) * 3).toBe(index.length);
    const [a, walls, b] = whole;
    expect(a).toBe(b);
    expect(walls).toBeGreaterThan(100 * 2 * 8);
    // 1.5 mm thick.
    expect(drawn(new Vector3(0.3, 0.2, 1), 2)).toEqual([0, walls, b]);
    expect(drawn(new Vector3(0.3, 0.2, 1), 0.3)).toEqual([0, 0, b]);
    expect(drawn(new Vector3(0.3, 0.2, -1), 2)).toEqual([a, walls, 0]);
    expect(drawn(new Vector3(0.3, 0.2, -1), 0.3)).toEqual([a, 0, 0]);
    expect(drawn(new Vector3(0, 1, -0.05), 0.3)).toEqual(whole);
  });

  test("has no bends drawn that are too narrow to be seen, and all else", () => {
    const { mesh, sheet } = show(partOf("100", flange("s2", "s1.north"), flange("s3", "s1.south")));
    const bends = mesh.tiles.filter((t) => sheet.pieces[t.owners[0]].kind === "bend").map((t) => t.places);
    const isOfBends = (o: object) =>
      bends.includes((o as Mesh).geometry.attributes.position.array as Float32Array);
    const drawn = (zoom: number) => {
      solid.seenFrom(ABOVE, zoom);
      const seen = objects().filter((o) => o.visible);
      return [seen.filter(isOfBends).length, seen.filter((o) => !isOfBends(o)).length];
    };
    // Their allowance is about 3.3 mm.
    const near = drawn(1);
    expect(near[0]).toBeGreaterThan(0);
    expect(drawn(0.1)).toEqual(near);
    expect(drawn(0.05)).toEqual([0, near[1]]);
    expect(drawn(1)).toEqual(near);
  });

  test("lets the card leave out a plate that is out of sight, wherever the fold has put it", () => {
    const steps = Array.from({ length: 32 }, (_, i) => ({
      ...flange(`s${i + 2}`, "s1.north", String(20 + i)),
      ...{ span: "width", width: "5", at: "left", shift: String(i * 12 + 2) },
    }));
    const { sheet, mesh, folding } = show(partOf("410", ...steps));
    const lone = mesh.tiles.findIndex(
      (t) => t.owners.length === 1 && sheet.pieces[t.owners[0]].kind === "plate",
    );
    const of = (places: Float32Array) =>
      metals().find((m) => m.geometry.attributes.position.array === places)!;
    const shown = of(mesh.tiles[lone].places);
    expect(shown.frustumCulled).toBe(true);
    shown.updateMatrixWorld(true);
    const { center, radius } = shown.geometry.boundingSphere!;
    const middle = center.clone().applyMatrix4(shown.matrixWorld);
    const owner = mesh.tiles[lone].owners[0];
    const piece = sheet.pieces[owner];
    if (piece.kind !== "plate") throw new Error("no plate");
    for (const { a } of piece.regions.flatMap((r) => r.outer))
      for (const w of [0, sheet.t]) {
        const at = new Vector3(...foldPoint(folding, owner, [a.x, a.y, w]));
        expect(at.distanceTo(middle)).toBeLessThan(radius + 1e-3);
      }
    // Where its pieces stand in a tile of many only the card knows.
    const many = mesh.tiles.find((t) => t.owners.length > 1)!;
    expect(of(many.places).frustumCulled).toBe(false);
  });

  test("is painted in the colours of the page, by day and by night", () => {
    const colours = (theme: string, ink: string) =>
      ({
        theme,
        a: new Color("#abc"),
        b: new Color("#bcd"),
        edge: new Color("#def"),
        ink: new Color(ink),
      }) as SceneColours;
    show(partOf("100"));
    const { materials, sides } = solid as unknown as {
      materials: Record<string, Record<string, { color: Color }>>;
      sides: { value: Color }[];
    };
    solid.paint(colours("day", "#123456"));
    expect(sides.map((s) => s.value.getHexString())).toEqual(["aabbcc", "bbccdd", "ddeeff"]);
    for (const kind of Object.values(materials)) expect(kind.sharp.color.getHexString()).toBe("123456");
    solid.paint(colours("night", "#ffffff"));
    for (const kind of Object.values(materials)) expect(kind.tangent.color.getHexString()).toBe("0c1210");
  });
});
