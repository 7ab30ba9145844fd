import {
  bendsOf,
  buildPart,
  evenState,
  foldPoint,
  foldSheet,
  newPart,
  type PartBuild,
  type PartDocument,
  pieceIndex,
  type StepDocument,
} from "@hillcrest/core";
import { OrthographicCamera, Vector3 } from "three";
import { describe, expect, test } from "vitest";
import { pickAt } from "../src/views/folded/picking.ts";
import { isRound, pickPlacesOf } from "../src/views/pick-places.ts";

const SIZE = { width: 800, height: 600 };
const PLATE: StepDocument = {
  ...{ id: "s1", kind: "plate", width: "120", depth: "80" },
  holes: [{ key: "a", x: "-30", y: "0", d: "20" }],
};
const FLANGE: StepDocument = {
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "40",
};
const partOf = (...steps: StepDocument[]): PartDocument => ({ ...newPart("Part"), steps });

/** A camera that looks along a direction at the middle, `zoom` pixels a millimetre. */
function seenFrom(x: number, y: number, z: number, zoom = 4): OrthographicCamera {
  const { width, height } = SIZE;
  const camera = new OrthographicCamera(-width / 2, width / 2, height / 2, -height / 2, 0.1, 5000);
  camera.zoom = zoom;
  camera.up.set(0, 0, 1);
  camera.position.copy(new Vector3(x, y, z).normalize().multiplyScalar(2000));
  camera.lookAt(0, 0, 0);
  camera.updateProjectionMatrix();
  camera.updateMatrixWorld();
  return camera;
}
const TOP = () => seenFrom(0, -0.0001, 1);
const OBLIQUE = () => seenFrom(-0.48, -0.78, 0.56);

/** What is picked where a developed point of a piece is seen. */
function picked(
  build: PartBuild,
  camera: OrthographicCamera,
  id: string,
  at: readonly [number, number, number],
  share = 1,
) {
  const sheet = build.sheet!;
  const folding = foldSheet(sheet, evenState(sheet, share));
  const [kind, name] = id.split(" ") as ["plate" | "bend", string];
  const seen = new Vector3(...foldPoint(folding, pieceIndex(sheet, kind, name), at)).project(camera);
  const [x, y] = [((seen.x + 1) / 2) * SIZE.width, ((1 - seen.y) / 2) * SIZE.height];
  return pickAt({ build, folding, places: pickPlacesOf(sheet), camera, size: SIZE }, x, y);
}

describe("what is picked in the folded view", () => {
  const build = buildPart(partOf(PLATE, FLANGE));
  const { t } = build.sheet!;
  const [bend] = bendsOf(build.sheet);

  test("is the plate under the pointer, with the developed place that is pointed at", () => {
    const camera = TOP();
    for (const [x, y] of [
      [10, 5],
      [-50, -30],
      [40.5, -12.25],
    ] as const) {
      const found = picked(build, camera, "plate s1", [x, y, t]);
      expect(found).toMatchObject({ kind: "plate", id: "s1" });
      if (found?.kind !== "plate") return;
      expect(Math.hypot(found.x - x, found.y - y)).toBeLessThan(1e-3);
    }
  });

  test("is a border within reach of the pointer rather than its plate, and a corner rather than a border", () => {
    const camera = TOP();
    // At four pixels a millimetre eight pixels are two millimetres.
    expect(picked(build, camera, "plate s1", [-60 + 1.5, 3, t])).toEqual({ kind: "edge", name: "s1.west" });
    expect(picked(build, camera, "plate s1", [-60 + 3, 3, t])).toMatchObject({ kind: "plate" });
    expect(picked(build, camera, "plate s1", [-59, -39, t])).toEqual({
      kind: "corner",
      name: "s1.south+west",
    });
    expect(picked(build, camera, "plate s1", [-30 + 11, 0, t])).toEqual({
      kind: "hole",
      plate: "s1",
      key: "a",
    });
  });

  const HOLE = { kind: "hole", plate: "s1", key: "a" };

  test("is a round opening in its middle, and nothing beside the part or in an opening that has edges", () => {
    const camera = TOP();
    expect(picked(build, camera, "plate s1", [-30, 0, t])).toEqual(HOLE);
    expect(picked(build, camera, "plate s1", [-30 + 5, 4, t])).toEqual(HOLE);
    expect(picked(build, camera, "plate s1", [-100, 0, t])).toBeUndefined();
    const window: StepDocument = {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "rectangle" },
      ...{ width: "30", height: "20", x: "30", y: "0" },
    };
    expect(picked(buildPart(partOf(PLATE, window)), camera, "plate s1", [30, 0, t])).toBeUndefined();
  });

  test("is not a round opening that is looked into so slantingly that metal is seen in it", () => {
    // 20 mm of metal: from 73° off, the wall of the opening is all that is seen in its middle.
    const thick = buildPart({ ...partOf(PLATE), stock: { ...partOf(PLATE).stock, thickness: "20" } });
    for (const [up, w] of [
      [0.3, thick.sheet!.t],
      [-0.3, 0],
    ])
      expect(picked(thick, seenFrom(0, -1, up), "plate s1", [-30, 0, w])?.kind).not.toBe("hole");
  });

  test("is what is seen through a round opening, but a small one itself", () => {
    // A second flange stands beneath the plate and its hole.
    const back = (d: string) =>
      buildPart(
        partOf(
          { ...PLATE, holes: [{ key: "a", x: "-30", y: "25", d }] },
          { ...FLANGE, turn: "down" },
          { ...FLANGE, id: "s3", edges: [{ key: "a", at: "s2a.end" }], turn: "down", length: "60" },
        ),
      );
    const [wide, small] = [back("16"), back("6")];
    expect(picked(wide, TOP(), "plate s1", [-30, 25, t])).toMatchObject({ kind: "plate", id: "s3a" });
    expect(picked(small, TOP(), "plate s1", [-30, 25, t])).toEqual(HOLE);
    // Seen slantingly a wide one is small.
    expect(picked(wide, seenFrom(0, -1, 0.5), "plate s1", [-30, 25, t])).toEqual(HOLE);
    // From beneath it hides the hole.
    const beneath = seenFrom(0, -0.0001, -1);
    expect(picked(small, beneath, "plate s1", [-30, 25, 0])).toMatchObject({ kind: "plate", id: "s3a" });
  });

  test("is the bend where it turns, at every fold", () => {
    const middle = (out: number): [number, number, number] => [
      bend.origin.x + bend.axis.x * 60 + bend.out.x * out,
      bend.origin.y + bend.axis.y * 60 + bend.out.y * out,
      bend.up ? 0 : t,
    ];
    // Seen from behind and below, where its outer side is, and so near that no border is within reach.
    const camera = seenFrom(0.2, 0.8, -0.6, 40);
    camera.position.add(new Vector3(0, 38, 0));
    camera.updateMatrixWorld();
    for (const share of [0.3, 0.7, 1])
      expect(picked(build, camera, `bend ${bend.id}`, middle(bend.allowance / 2), share)).toMatchObject({
        kind: "bend",
        id: bend.id,
      });
  });

  test("is never what metal hides: behind the wall its plate's edge is not picked, and from beneath it is", () => {
    // Upright the wall stands between the eye behind it and the floor.
    const behind = seenFrom(0, 1, 0.2);
    const found = picked(build, behind, "plate s1", [0, -40, t]);
    expect(
      found === undefined || (found.kind === "plate" && found.id === "s2a") || found.kind === "bend",
    ).toBe(true);
    expect(picked(build, seenFrom(0, -1, -0.6), "plate s1", [20, -40, 0])).toEqual({
      kind: "edge",
      name: "s1.south",
    });
  });

  test("is found on a plate that is seen from its edge", () => {
    const along = seenFrom(-1, 0, 0);
    expect(picked(build, along, "plate s1", [-60, 5, t / 2])).toEqual({ kind: "edge", name: "s1.west" });
  });

  test("is the same obliquely as its place says, wherever the part stands folded", () => {
    const camera = OBLIQUE();
    for (const share of [0, 0.35, 1]) {
      expect(picked(build, camera, "plate s1", [30, -20, t], share)).toMatchObject({
        kind: "plate",
        id: "s1",
      });
      const wall = picked(build, camera, "plate s2a", [20, bend.origin.y + bend.allowance + 20, t], share);
      expect(wall).toMatchObject({ kind: "plate", id: "s2a" });
      if (wall?.kind === "plate") expect(wall.x).toBeCloseTo(20, 3);
    }
  });
});

describe("what is found on the flat sheet", () => {
  const build = buildPart(partOf(PLATE, FLANGE));
  const places = pickPlacesOf(build.sheet!);

  test("is the nearest border within reach, and none beyond it", () => {
    expect(places.borderAt({ x: -30 + 10.4, y: 0 }, 0.5)?.role).toBe("hole:a");
    expect(places.borderAt({ x: -30 + 10.6, y: 0 }, 0.5)).toBeUndefined();
    expect(places.borderAt({ x: 59.9, y: 0 }, 0.5)?.role).toBe("east");
    // Between two of them the nearer one.
    expect(places.borderAt({ x: 59.9, y: -39.7 }, 0.5)?.role).toBe("east");
    expect(places.borderAt({ x: 59.7, y: -39.9 }, 0.5)?.role).toBe("south");
    expect(places.borderAt({ x: Number.NaN, y: 0 }, 0.5)).toBeUndefined();
  });

  test("is whether a point lies in an opening, all round and not a hair beside it", () => {
    expect(places.isInOpening("s1", { x: -30, y: 0 })).toBe(true);
    expect(places.isInOpening("s1", { x: -30, y: 9.99 })).toBe(true);
    expect(places.isInOpening("s1", { x: -30, y: 10.01 })).toBe(false);
    expect(places.isInOpening("s1", { x: 0, y: 0 })).toBe(false);
    expect(places.isInOpening("s1", { x: 500, y: 0 })).toBe(false);
    // A plate that stands within it lies in none of its own.
    expect(places.isInOpening("s2a", { x: -30, y: 0 })).toBe(false);
  });

  test("is the round opening in which a point lies, of the plate that is asked for", () => {
    const [wall] = places.round("s2a");
    const [floor] = places.round("s1");
    expect(places.roundAt(floor.owner, { x: -30, y: 3 })?.border.role).toBe("hole:a");
    expect(places.roundAt(floor.owner, { x: -30, y: 10.1 })).toBeUndefined();
    expect(places.roundAt(wall.owner, { x: -30, y: 3 })).toBeUndefined();
    expect(places.borders.filter(isRound).map((b) => b.role)).toEqual(["hole:a"]);
    // One that runs over the border of its plate is open, and has no middle.
    const open = buildPart(partOf({ ...PLATE, holes: [{ key: "a", x: "-58", y: "0", d: "20" }] }));
    const cut = pickPlacesOf(open.sheet!);
    expect(cut.borders.some((b) => b.role === "hole:a")).toBe(true);
    expect(cut.borders.filter(isRound)).toEqual([]);
    expect(cut.roundAt(0, { x: -57, y: 0 })).toBeUndefined();
  });

  test("is every border by its name, all that stand round a plate, and the same places for the same sheet", () => {
    expect(places.named("edge:s1.west").map((b) => b.role)).toEqual(["west"]);
    expect(places.named("hole:s1:a")).toHaveLength(1);
    expect(places.named("edge:s9.west")).toEqual([]);
    expect(
      places
        .round("s2a")
        .map((b) => b.role)
        .sort(),
    ).toEqual(["end", "left", "right"]);
    expect(places.round("s9")).toEqual([]);
    expect(pickPlacesOf(build.sheet!)).toBe(places);
    expect(pickPlacesOf({ ...build.sheet! })).not.toBe(places);
  });
});
