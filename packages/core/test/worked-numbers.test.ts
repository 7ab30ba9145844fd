import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  type BendPlace,
  type Box,
  bendAllowance,
  bendDeduction,
  bendsOf,
  blankOf,
  developedArea,
  din6935Compensation,
  din6935Factor,
  din6935K,
  evenState,
  type FlangeSpec,
  finishSheet,
  foldedBox,
  foldedVolume,
  foldMesh,
  foldSheet,
  growFlange,
  growPlate,
  isClosedManifold,
  kFromAllowance,
  type LengthTo,
  meshSheet,
  meshVolume,
  newDraft,
  outerSetback,
  rectangleLoop,
  type Sheet,
  straightLeg,
  tangentSetback,
  toRadians,
} from "../src/index.ts";

const cases = JSON.parse(readFileSync(new URL("./cases/worked-numbers.json", import.meta.url), "utf8"));

/** The worked numbers are rounded to six places. */
const close = (got: number | undefined, want: number, within = 1e-6) =>
  expect(Math.abs((got ?? Number.NaN) - want), `${got} should be ${want}`).toBeLessThanOrEqual(within);

const closeAll = (got: readonly number[], want: readonly number[], within = 1e-6) => {
  expect(got.length).toBe(want.length);
  for (let i = 0; i < want.length; i++) close(got[i], want[i], within);
};

const sizeOf = (box: Box) => box.max.map((v, k) => v - box.min[k]);

describe("worked numbers: one bend", () => {
  for (const c of cases.bendFormulas) {
    test(`t ${c.t}, r ${c.r}, ${c.angle}° by ${c.method} ${c.K ?? c.k}`, () => {
      const shape = { t: c.t, r: c.r, angle: toRadians(c.angle) };
      if (c.method === "K") {
        close(bendAllowance(shape, c.K), c.BA);
        if (c.OSSB === undefined) expect(outerSetback(shape)).toBeUndefined();
        else close(outerSetback(shape), c.OSSB);
        if (c.BD === undefined) expect(bendDeduction(shape, c.K)).toBeUndefined();
        else close(bendDeduction(shape, c.K), c.BD);
        close(kFromAllowance(shape, bendAllowance(shape, c.K)), c.K, 1e-9);
      } else {
        close(din6935Factor(c.t, c.r), c.k);
        close(din6935K(c.t, c.r), c.equivalentK);
        close(bendAllowance(shape, din6935K(c.t, c.r)), c.BA);
        if (c.v !== undefined) close(din6935Compensation(shape), c.v);
      }
    });
  }

  for (const c of cases.testBends) {
    test(`test bend t ${c.t}, r ${c.r}, ${c.angle}° gives K ${c.K}`, () => {
      const shape = { t: c.t, r: c.r, angle: toRadians(c.angle) };
      const deduction = c.legA + c.legB - c.flatBefore;
      close(deduction, c.BD);
      close(kFromAllowance(shape, 2 * outerSetback(shape)! - deduction), c.K);
    });
  }
});

interface FlangeCase {
  turn: "up" | "down";
  angle: number;
  length: number;
  lengthTo: LengthTo;
  place: string;
  r?: number;
  K?: number;
}

const PLACES: Record<string, BendPlace> = {
  "outer-face-on-edge": "outer-face",
  "inner-face-on-edge": "inner-face",
  "outermost-on-edge": "outermost",
  "bend-from-edge": "bend-from-edge",
};

function flange(
  id: string,
  stem: FlangeSpec["edge"],
  c: FlangeCase,
  t: number,
  r: number,
  k: number,
): FlangeSpec {
  const shape = { t, r: c.r ?? r, angle: toRadians(c.angle) };
  const leg = straightLeg(c.lengthTo, c.length, shape);
  if (!leg.ok) throw new Error(leg.error);
  return {
    id,
    step: id,
    edge: stem,
    up: c.turn === "up",
    angle: shape.angle,
    radius: shape.r,
    k: c.K ?? k,
    kSource: { label: "case", lines: [] },
    setback: tangentSetback(PLACES[c.place], shape),
    leg: leg.value,
    width: { by: "whole" },
    reliefs: { left: { shape: "none" }, right: { shape: "none" } },
    holes: [],
    holeBase: 0,
  };
}

/** A sheet from its plate and flanges alone, with what was refused. */
function grow(t: number, [x0, y0, x1, y1]: readonly number[], flanges: readonly FlangeSpec[]) {
  const draft = newDraft(t);
  const outline = rectangleLoop(x0, y0, x1, y1, ["south", "east", "north", "west"]);
  growPlate(draft, { id: "p", step: "p", outline, holes: [] }, "A");
  const problems = flanges.flatMap((f) => growFlange(draft, f, (id) => id) ?? []);
  const numbers = new Map(draft.pieces.carriers().map(({ id }, i) => [id, i + 1]));
  const { sheet } = finishSheet(draft, { letterOf: (id) => id, numberOf: (id) => numbers.get(id)! });
  return { sheet, problems };
}

function checkSolid(sheet: Sheet, volume: number) {
  for (const share of [0, 0.5, 1]) {
    const mesh = foldMesh(meshSheet(sheet, 0.0005), foldSheet(sheet, evenState(sheet, share)));
    expect(isClosedManifold(mesh), `closed at ${share}`).toBe(true);
    if (share === 1) expect(Math.abs(meshVolume(mesh) / volume - 1)).toBeLessThan(2e-4);
  }
}

describe("worked numbers: strips", () => {
  for (const c of cases.strips) {
    test(c.id, () => {
      let edge = { plate: "p", role: "east" };
      const flanges = c.flanges.map((f: FlangeCase, i: number) => {
        const made = flange(`f${i}`, edge, f, c.t, c.r, c.K);
        edge = { plate: made.id, role: "end" };
        return made;
      });
      const { sheet, problems } = grow(c.t, [0, 0, c.plate.x, c.plate.y], flanges);
      expect(problems).toEqual([]);
      const blank = blankOf(sheet);
      const box = foldedBox(sheet, foldSheet(sheet, evenState(sheet, 1)));
      close(blank.width, c.expect.developedLength);
      close(blank.height, c.plate.y);
      close(blank.area, c.expect.blankArea);
      close(developedArea(sheet), c.expect.blankArea);
      close(foldedVolume(sheet), c.expect.foldedVolume);
      closeAll(sizeOf(box), c.expect.foldedBox, 1e-4);
      expect(blank.outlines.length).toBe(1);
      expect(blank.outlines[0].length).toBe(4);
      closeAll(straightLegs(sheet, blank.bounds.maxX), c.expect.straightLegs);
      checkSolid(sheet, c.expect.foldedVolume);
    });
  }
});

/** What lies between bends along a strip that runs along x. */
function straightLegs(sheet: Sheet, end: number): number[] {
  const starts = [0, ...bendsOf(sheet).map((b) => b.origin.x + b.allowance)];
  const ends = [...bendsOf(sheet).map((b) => b.origin.x), end];
  return starts.map((start, i) => ends[i] - start);
}

describe("worked numbers: open boxes", () => {
  for (const c of cases.openBoxes) {
    test(`${c.W} × ${c.D} × ${c.H}, t ${c.t}`, () => {
      const wall: FlangeCase = {
        turn: "up",
        angle: 90,
        length: c.H,
        lengthTo: "outer-mould",
        place: "outer-face-on-edge",
      };
      const flanges = ["north", "east", "south", "west"].map((role) =>
        flange(role, { plate: "p", role }, wall, c.t, c.r, c.K),
      );
      const { sheet, problems } = grow(c.t, [-c.W / 2, -c.D / 2, c.W / 2, c.D / 2], flanges);
      expect(problems).toEqual([]);
      const blank = blankOf(sheet);
      close(blank.width, c.blankOverall[0]);
      close(blank.height, c.blankOverall[1]);
      close(blank.area, c.blankArea);
      close(foldedVolume(sheet), c.foldedVolume);
      const box = foldedBox(sheet, foldSheet(sheet, evenState(sheet, 1)));
      closeAll(sizeOf(box), c.foldedBox, 1e-4);
      expect(blank.outlines.length).toBe(1);
      expect(blank.outlines[0].length).toBe(12);
      checkSolid(sheet, c.foldedVolume);
    });
  }
});
