import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type Bend,
  bendsOf,
  blankOf,
  buildPart,
  createPartBuilder,
  developedArea,
  evenState,
  examinePart,
  flattenLoop,
  foldedVolume,
  foldMesh,
  foldPoint,
  foldSheet,
  isClosedManifold,
  meshSheet,
  meshVolume,
  type PartDocument,
  type Point,
  platesOf,
  pointAt,
  type Region,
  readDocument,
  regionLoops,
  samePoint,
  unfoldPoint,
} from "../src/index.ts";
import { dot, subtract } from "../src/plane/point.ts";
import { kindOf } from "../src/sheet/pieces/piece-kinds.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";

// Every run of the suite asks the same parts, so that it tells what a change has done; with
// PROPERTY_RUNS it looks elsewhere each time.
sameCases(20261123);
// The full run asks 2,000 parts of each: PROPERTY_RUNS=2000.
const RUNS = casesOf(180);
const share = spread(0, 1);
const sheetOf = (document: PartDocument) => buildPart(document).sheet;

const forAll = (check: (document: PartDocument, s: number) => void, runs = RUNS) =>
  fc.assert(fc.property(randomChain, share, check), { numRuns: runs });

const polygonArea = (points: readonly Point[]) =>
  points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length];
    return sum + (p.x * q.y - p.y * q.x) / 2;
  }, 0);

describe("any chain of steps of all kinds", () => {
  test("is read, built and examined without throwing; a step that is not built says why", () => {
    forAll((document) => {
      const read = readDocument(JSON.parse(JSON.stringify(document)));
      expect(read.ok ? [] : read.error).toEqual([]);
      const build = examinePart(document);
      for (const step of build.steps)
        if (step.state === "wrong")
          expect(build.findings.some((f) => f.step === step.id && f.level === "stop")).toBe(true);
    });
  });

  test("is closed and manifold in every fold state", () => {
    forAll((document, s) => {
      const sheet = sheetOf(document);
      if (!sheet) return;
      // Metal over metal is told, and has no solid.
      if (blankOf(sheet).overlaps.length > 0) return;
      const mesh = foldMesh(meshSheet(sheet, 0.05), foldSheet(sheet, evenState(sheet, s)));
      if (mesh.triangles.length > 0) expect(isClosedManifold(mesh)).toBe(true);
    });
  });

  test("has a blank that closes and has the area of its plates and strips", () => {
    forAll((document) => {
      const sheet = sheetOf(document);
      if (!sheet) return;
      const blank = blankOf(sheet);
      const area = developedArea(sheet);
      if (blank.overlaps.length === 0)
        expect(Math.abs(blank.area - area)).toBeLessThan(1e-6 * Math.max(1, area));
      for (const loop of [...blank.outlines, ...blank.openings])
        loop.forEach((c, i) => {
          expect(samePoint(c.b, loop[(i + 1) % loop.length].a, 1e-6)).toBe(true);
        });
    });
  });

  test("folds and flattens any point back to where it was", () => {
    forAll((document, s) => {
      const sheet = sheetOf(document);
      if (!sheet) return;
      const folding = foldSheet(sheet, evenState(sheet, s));
      sheet.pieces.forEach((piece, owner) => {
        for (const region of kindOf(piece).regions(piece)) {
          const p = pointAt(region.outer[Math.floor(s * 0.999 * region.outer.length)], s);
          // On a bend's own axis, where its inside radius is nothing, all its points are one.
          const w = (0.25 + s / 2) * sheet.t;
          const back = unfoldPoint(folding, owner, foldPoint(folding, owner, [p.x, p.y, w]));
          expect(Math.hypot(back[0] - p.x, back[1] - p.y, back[2] - w)).toBeLessThan(1e-9);
        }
      });
    });
  });

  test("has folded the volume of the closed form, to a millionth where its bends are uncut", () => {
    const chord = 0.05;
    const area = (regions: readonly Region[]) =>
      regions.flatMap(regionLoops).reduce((sum, l) => sum + polygonArea(flattenLoop(l, chord)), 0);
    forAll((document) => {
      const sheet = sheetOf(document);
      if (!sheet) return;
      const { t } = sheet;
      const plates = platesOf(sheet).reduce((sum, p) => sum + t * area(p.regions), 0);
      // A bend is wrapped in flat facets: of n that turn by δ each, the mesh holds sin δ/δ of the ring.
      const bends = bendsOf(sheet).reduce((sum, b) => {
        const step = Math.min(2 * Math.acos(Math.max(0.5, 1 - chord / (b.radius + t))), Math.PI / 12);
        const turn = b.angle / Math.max(2, Math.ceil(b.angle / step));
        const ring = (b.angle * ((b.radius + t) ** 2 - b.radius ** 2)) / 2;
        return sum + (area(b.regions) / b.allowance) * ring * (Math.sin(turn) / turn);
      }, 0);
      // A side that slants across a bend is a helix, which a mesh only comes near to.
      const square = (b: Bend) =>
        b.regions
          .flatMap((r) => r.outer)
          .map((c) => dot(subtract(c.a, b.origin), b.axis))
          .every((s) => Math.min(Math.abs(s), Math.abs(s - b.width)) < 1e-9);
      const uncut = bendsOf(sheet).every(
        (b) => Math.abs(area(b.regions) / (b.width * b.allowance) - 1) < 1e-9 && square(b),
      );
      const mesh = foldMesh(meshSheet(sheet, chord), foldSheet(sheet, evenState(sheet, 1)));
      const off = Math.abs(meshVolume(mesh) / (plates + bends) - 1);
      if (plates + bends > 1) expect(off).toBeLessThan(uncut ? 1e-6 : 2e-2);
      if (plates + bends > 1) expect(Math.abs((plates + bends) / foldedVolume(sheet) - 1)).toBeLessThan(0.03);
    });
  });

  test("built again after a change of its last step is the same as built from nothing", () => {
    forAll(
      (document) => {
        const builder = createPartBuilder();
        const last = document.steps[document.steps.length - 1];
        builder({ ...document, steps: document.steps.slice(0, -1) });
        builder({ ...document, steps: [...document.steps.slice(0, -1), { ...last, paused: true }] });
        const again = builder(document);
        const fresh = buildPart(document);
        expect(again.findings).toEqual(fresh.findings);
        expect(again.blank?.area).toBe(fresh.blank?.area);
        expect(again.bends).toEqual(fresh.bends);
      },
      Math.ceil(RUNS / 3),
    );
  });
});
