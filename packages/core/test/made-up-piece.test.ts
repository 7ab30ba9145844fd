import { describe, expect, test, vi } from "vitest";
import { summarize } from "../src/formats/json/summary.ts";
import {
  buildPart,
  examineFully,
  examinePart,
  findEdge,
  findSite,
  foldedPicture,
  foldSheet,
  loopArea,
  measureBetween,
  type PartDocument,
  partStl,
  pickables,
  rayHit,
  type StepDocument,
  whyEdge,
} from "../src/index.ts";
import { evenState, foldPoint } from "../src/sheet/folding/fold.ts";
import { kindOf } from "../src/sheet/pieces/piece-kinds.ts";
import { carriersOf, featuresOf, platesOf } from "../src/sheet/sheet.ts";
import { flawsOfStl } from "./manifold.ts";
import { dxfOf, part, plate, shapesIn, told } from "./plain-parts.ts";

// The line in the registry that a new kind takes.
vi.mock("../src/steps/registry.ts", async (original) => {
  const { STEP_KINDS: kinds, stepKind: known } = await original<typeof import("../src/steps/registry.ts")>();
  const { rollStep } = await import("./made-up/roll.ts");
  return {
    STEP_KINDS: [...kinds, rollStep],
    stepKind: (kind: string) => (kind === "roll" ? rollStep : known(kind)),
  };
});

const at = (name: string) => [{ key: "a", at: name }];
const roll = (values: object = {}, edge = "s1.north"): StepDocument => ({
  ...{ id: "s2", kind: "roll", edge: at(edge) },
  ...values,
});
const base = (...steps: StepDocument[]): PartDocument => part(plate("80", "50"), roll(), ...steps);
const coneOf = (document: PartDocument) => {
  const [cone] = carriersOf(buildPart(document).sheet);
  if (cone?.kind !== "cone") throw new Error("no cone");
  return cone;
};
/** Inside radii about its axis at both ends, from places in space: three on each arc of its inside make a circle. */
const insideRadii = (document: PartDocument) => {
  const { sheet } = buildPart(document);
  const folding = foldSheet(sheet!, evenState(sheet!, 1));
  const { tip, axis, out, near, far, sector } = coneOf(document);
  const owner = sheet!.pieces.findIndex((p) => p.kind === "cone");
  return [near, far].map((rho) => {
    const [p, q, r] = [0.1, 0.5, 0.9].map((f) => {
      const [x, y] = [rho * Math.cos(f * sector), rho * Math.sin(f * sector)];
      return foldPoint(folding, owner, [
        tip.x + x * axis.x + y * out.x,
        tip.y + x * axis.y + y * out.y,
        sheet!.t,
      ]);
    });
    const [a, b, c] = [distanceV(q, r), distanceV(p, r), distanceV(p, q)];
    const half = (a + b + c) / 2;
    return (a * b * c) / (4 * Math.sqrt(half * (half - a) * (half - b) * (half - c)));
  });
};
const distanceV = (p: readonly number[], q: readonly number[]) =>
  Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);

/** The sector between the two lines, 80 wide and 60 from the tip. */
const SECTOR = ((50 * Math.PI) / 180) * ((140 ** 2 - 60 ** 2) / 2);

describe("a wall that is rolled, made by a step that is a folder and a line in the registry", () => {
  test("is built, folded and laid flat, and its blank is one outline as large as its pieces", () => {
    const build = examinePart(base());
    expect(told(build)).toEqual([]);
    expect(platesOf(build.sheet).map((p) => p.letter)).toEqual(["A", "B"]);
    const { blank } = build;
    expect(blank!.outlines).toHaveLength(1);
    expect(blank!.area).toBeCloseTo(80 * 50 + SECTOR + 80 * 20, 6);
    // Its two arcs are arcs of the blank.
    const radii = blank!.outlines[0].flatMap((c) => (c.kind === "arc" ? [c.r] : [])).sort((p, q) => p - q);
    expect(radii.map((r) => Math.round(r * 1e6) / 1e6)).toEqual([60, 140]);
    expect(build.folded!.volume).toBeGreaterThan(0);
    const { sheet } = build;
    // What it carries goes with it: the far plate has turned out of the plane.
    const end = foldSheet(sheet!, evenState(sheet!, 1));
    const far = sheet!.pieces.findIndex((p) => p.id === "s2" && p.kind === "plate");
    const [corner] = platesOf(sheet)[1].regions[0].outer;
    expect(Math.abs(foldPoint(end, far, [corner.a.x, corner.a.y, 0])[2])).toBeGreaterThan(5);
    const flat = foldSheet(sheet!, evenState(sheet!, 0));
    expect(foldPoint(flat, far, [corner.a.x, corner.a.y, 0])[2]).toBeCloseTo(0, 9);
  });

  test("has a mesh that closes in every state of the dial, and is hit by a ray", () => {
    const { sheet } = buildPart(base());
    for (const share of [0, 0.4, 1])
      expect(flawsOfStl(partStl(sheet!, evenState(sheet!, share), undefined, 0.2))).toEqual([]);
    const folding = foldSheet(sheet!, evenState(sheet!, 1));
    const owner = sheet!.pieces.findIndex((p) => p.kind === "cone");
    const cone = coneOf(base());
    const middle = (cone.near + cone.far) / 2;
    const half = cone.sector / 2;
    const p = {
      x: cone.tip.x + middle * (cone.axis.x * Math.cos(half) + cone.out.x * Math.sin(half)),
      y: cone.tip.y + middle * (cone.axis.y * Math.cos(half) + cone.out.y * Math.sin(half)),
    };
    const [a, b] = [0, 1.5].map((w) => foldPoint(folding, owner, [p.x, p.y, w]));
    const way = [b[0] - a[0], b[1] - a[1], b[2] - a[2]].map((v) => v / 1.5) as [number, number, number];
    const from = a.map((v, k) => v - 30 * way[k]) as [number, number, number];
    expect(rayHit(sheet!, folding, from, way)?.piece).toBe(owner);
  });

  test("is cut in the flat with what hangs together with it, and its openings are features", () => {
    const steps: StepDocument[] = [
      { id: "s3", kind: "hold", which: "all" },
      {
        ...{ id: "s4", kind: "cut", plate: at("s1"), form: "round", diameter: "12" },
        ...{ x: "0", y: "70", through: "held" },
      },
    ];
    const build = examinePart(base(...steps));
    expect(told(build)).toEqual([]);
    const cone = carriersOf(build.sheet)[0];
    expect(cone.regions[0].holes).toHaveLength(1);
    expect(build.blank!.openings).toHaveLength(1);
    expect(featuresOf(build.sheet).get("s4")?.piece).toBe(`cone:${cone.id}`);
    expect(examinePart(base()).folded!.volume - build.folded!.volume).toBeGreaterThan(36 * Math.PI);
  });

  test("is mirrored and repeated with the plate that it carries", () => {
    const hand = coneOf(base({ id: "s3", kind: "mirror", what: "hand" }));
    expect(hand.near).toBeCloseTo(60, 9);
    const joined = buildPart(base({ id: "s3", kind: "mirror", what: "joined", edge: at("s1.south") }));
    expect(told(joined)).toEqual([]);
    expect(carriersOf(joined.sheet)).toHaveLength(2);
    expect(joined.blank!.outlines).toHaveLength(1);
    expect(joined.blank!.area).toBeCloseTo(2 * (80 * 50 + SECTOR + 80 * 20), 5);
  });

  test("stands in the way of others: what collides with it is told by name", () => {
    const flange: StepDocument = {
      ...{ id: "s3", kind: "flange", edges: at("s1.south"), length: "150", angle: "150", turn: "up" },
    };
    const { findings } = examineFully(part(plate("40", "50"), roll(), flange));
    const met = findings.find((f) => f.message.includes("the rolled wall between plates A and B"))!;
    expect(met).toMatchObject({ rule: "collision", level: "stop" });
    expect(met.pieces).toContainEqual({ kind: "cone", id: "s2" });
  }, 60_000);

  test("is on the DXF with its arcs, in the picture, and in the summary", () => {
    const { text, proof } = dxfOf(base());
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
    expect(shapesIn(text).shapes.length).toBeGreaterThan(0);
    const build = examinePart(base());
    expect(summarize("P", build).rolled).toEqual([
      {
        ...{ step: "s2", between: ["A", "B"], direction: "up", turn: 110, k: 0.42, length: 80 },
        radius: insideRadii(base()).map((r) => Number(r.toFixed(6))),
        ba: [60, 140].map((rho) => Number(((rho * 50 * Math.PI) / 180).toFixed(6))),
      },
    ]);
    const faces = (d: PartDocument) => foldedPicture(buildPart(d).sheet!).split("<path").length;
    expect(faces(base())).toBeGreaterThan(faces(part(plate("80", "50"))) + 8);
  });

  test("has edges that are arcs, which are measured and picked, and from which nothing can be grown", () => {
    const build = buildPart(base());
    const { sheet } = build;
    const { sector } = coneOf(base());
    expect(findEdge(sheet!, "s2.bend-outer")!.length).toBeCloseTo(140 * sector, 9);
    expect(findEdge(sheet!, "s2.bend-inner")!.length).toBeCloseTo(60 * sector, 9);
    expect(findSite(sheet!, "s2.bend-outer")).toBeUndefined();
    expect(pickables(sheet!).filter((p) => p.role.startsWith("bend-"))).toHaveLength(2);
    // Across the wall the two are as far apart as it is long, flat and folded.
    for (const share of [0, 1]) {
      const [a, b] = ["s2.bend-outer", "s2.bend-inner"].map((name) => ({ kind: "edge" as const, name }));
      const folding = foldSheet(sheet!, evenState(sheet!, share));
      expect(measureBetween(sheet!, folding, a, b)!.distance).toBeCloseTo(80, 7);
    }
    const grown = examinePart(base({ id: "s3", kind: "flange", edges: at("s2.bend-outer"), length: "10" }));
    expect(told(grown).join()).toContain("nothing can be grown from it");
    expect(
      whyEdge(base(), build, "s2.bend-outer")
        .lines.map((l) => l.text)
        .join(),
    ).toContain("r 140");
  });

  test("gives each of its answers: a kind without one does not compile", () => {
    const cone = coneOf(base());
    const kind = kindOf(cone);
    expect(kind.seams!(cone).child.width).toBeCloseTo(80, 9);
    expect(kind.strokes(cone)).toEqual({ marks: [], slits: [] });
    expect(loopArea(cone.regions[0].outer)).toBeCloseTo(SECTOR, 6);
  });
});
