import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type Cone,
  evenState,
  foldedBox,
  foldedVolume,
  foldMesh,
  foldPoint,
  foldSheet,
  isClosedManifold,
  loopArea,
  meshSheet,
  meshVolume,
  type Plate,
  pieceKinds,
  polygonLoop,
  type Sheet,
  unfoldPoint,
} from "../src/index.ts";
import type { Loop } from "../src/plane/loop.ts";
import { moveV, turnV, type Vector } from "../src/space/vector.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(20261128);
const RUNS = casesOf(200);
const T = 1.5;

interface Shape {
  readonly near: number;
  readonly long: number;
  readonly sector: number;
  readonly more: number;
  readonly k: number;
  readonly up: boolean;
  readonly mirrored: boolean;
  readonly heading: number;
}

const from = (least: number, most: number) =>
  fc.integer({ min: 0, max: 1000 }).map((n) => least + ((most - least) * n) / 1000);
const shape: fc.Arbitrary<Shape> = fc.record({
  near: from(20, 80),
  long: from(10, 120),
  sector: from(0.2, 2.4),
  more: from(0.01, 3.2),
  k: from(0.3, 0.5),
  up: fc.boolean(),
  mirrored: fc.boolean(),
  heading: from(-3, 3),
});

/** A plate, a cone on its edge through the tip, and a plate on the cone's last line. */
function sheetOf({ near, long, sector, more, k, up, mirrored, heading }: Shape): {
  sheet: Sheet;
  cone: Cone;
} {
  const tip = { x: 12, y: -7 };
  const axis = { x: Math.cos(heading), y: Math.sin(heading) };
  const out = mirrored ? { x: axis.y, y: -axis.x } : { x: -axis.y, y: axis.x };
  const far = near + long;
  const at = (rho: number, phi: number, aside = 0) => {
    const [x, y] = [rho * Math.cos(phi) - aside * Math.sin(phi), rho * Math.sin(phi) + aside * Math.cos(phi)];
    return { x: tip.x + axis.x * x + out.x * y, y: tip.y + axis.y * x + out.y * y };
  };
  const arc = (rho: number, a: number, b: number) =>
    ({ kind: "arc", a: at(rho, a), b: at(rho, b), c: tip, r: rho, ccw: b > a !== mirrored }) as const;
  const line = (a: { x: number; y: number }, b: { x: number; y: number }) =>
    ({ kind: "line", a, b }) as const;
  const turned = (loop: Loop): Loop =>
    loopArea(loop) > 0
      ? loop
      : loop.map((c) => ({ ...c, a: c.b, b: c.a, ...(c.kind === "arc" ? { ccw: !c.ccw } : {}) })).reverse();
  const wall: Loop = [
    line(at(near, 0), at(far, 0)),
    arc(far, 0, sector),
    line(at(far, sector), at(near, sector)),
    arc(near, sector, 0),
  ];
  const cone: Cone = {
    kind: "cone",
    id: "c",
    step: "s2",
    parent: "p",
    child: "q",
    tip,
    axis,
    out,
    near,
    far,
    sector,
    turn: Math.min(sector + more, 6),
    k,
    up,
    overhang: { left: 0, right: 0 },
    regions: [{ outer: turned(wall), holes: [] }],
    marks: [],
  };
  const plate = (id: string, phi: number, aside: number): Plate => ({
    kind: "plate",
    id,
    step: "s1",
    letter: id,
    frame: { origin: { x: 0, y: 0 }, x: { x: 1, y: 0 } },
    box: { x0: 0, y0: 0, x1: 1, y1: 1 },
    middle: { x: 0, y: 0 },
    edges: [],
    regions: [
      {
        outer: turned(polygonLoop([at(near, phi), at(far, phi), at(far, phi, aside), at(near, phi, aside)])),
        holes: [],
      },
    ],
    marks: [],
  });
  const place = { x: [0, 1, 0], y: [0, 0, 1], z: [1, 0, 0], o: [3, -4, 5] } as const;
  return {
    cone,
    sheet: {
      t: T,
      roots: [{ plate: "p", place }],
      pieces: [plate("p", 0, -15), plate("q", sector, 15), cone],
      slits: [],
      features: [],
    },
  };
}

const CONE = 2;
const share = from(0, 1);
const gap = (a: Vector, b: Vector) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const neutral = ({ k, up }: Cone) => (up ? T * (1 - k) : T * k);
const point = ({ tip, axis, out }: Cone, rho: number, phi: number): { x: number; y: number } => ({
  x: tip.x + rho * (axis.x * Math.cos(phi) + out.x * Math.sin(phi)),
  y: tip.y + rho * (axis.y * Math.cos(phi) + out.y * Math.sin(phi)),
});

describe("a cone, rolled as far as it may be", () => {
  test("keeps every length on its neutral surface", () => {
    fc.assert(
      fc.property(shape, share, share, share, share, (s, state, along, around, heading) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const [rho, phi] = [cone.near + along * (cone.far - cone.near), around * cone.sector];
        const p = point(cone, rho, phi);
        const h = 1e-4;
        const d = { x: Math.cos(6.28 * heading), y: Math.sin(6.28 * heading) };
        const w = neutral(cone);
        // A curve of length 2h, by its middle: the chord of a surface that is bent is shorter by h³/r² only.
        const a = foldPoint(folding, CONE, [p.x - d.x * h, p.y - d.y * h, w]);
        const b = foldPoint(folding, CONE, [p.x + d.x * h, p.y + d.y * h, w]);
        expect(Math.abs(gap(a, b) / (2 * h) - 1)).toBeLessThan(1e-9);
      }),
      { numRuns: RUNS },
    );
  });

  test("has straight lines through its tip, whose image all share, and arcs of true length about it", () => {
    fc.assert(
      fc.property(shape, share, share, (s, state, around) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const w = neutral(cone);
        const at = (rho: number, phi: number) => {
          const p = point(cone, rho, phi);
          return foldPoint(folding, CONE, [p.x, p.y, w]);
        };
        const phi = around * cone.sector;
        const tip = at(0, 0);
        expect(gap(at(cone.near, phi), tip)).toBeCloseTo(cone.near, 9);
        expect(gap(at(cone.far, phi), tip)).toBeCloseTo(cone.far, 9);
        expect(gap(at(cone.near, phi), at(cone.far, phi))).toBeCloseTo(cone.far - cone.near, 9);
        let length = 0;
        const n = 4000;
        for (let i = 0; i < n; i++)
          length += gap(at(cone.far, (cone.sector * i) / n), at(cone.far, (cone.sector * (i + 1)) / n));
        expect(Math.abs(length / (cone.far * cone.sector) - 1)).toBeLessThan(1e-5);
      }),
      { numRuns: Math.ceil(RUNS / 4) },
    );
  });

  test("meets both its plates smoothly: in place, and in which way they face", () => {
    fc.assert(
      fc.property(shape, share, share, (s, state, along) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const rho = cone.near + along * (cone.far - cone.near);
        for (const [plate, phi] of [
          [0, 0],
          [1, cone.sector],
        ] as const)
          for (const w of [0, T]) {
            const p = point(cone, rho, phi);
            const here = foldPoint(folding, CONE, [p.x, p.y, w]);
            expect(gap(here, foldPoint(folding, plate, [p.x, p.y, w]))).toBeLessThan(1e-9);
            const up = (m: Parameters<typeof turnV>[0]) => turnV(m, [0, 0, 1]);
            const kind = pieceKinds.cone;
            const folded = folding.pieces[CONE];
            if (folded.kind !== "cone") throw new Error("no cone");
            const motion = plate === 0 ? kind.facing(folded) : kind.passes!(folded, T);
            expect(gap(up(kind.motionAt(folded, T, p)), up(motion))).toBeLessThan(1e-9);
            expect(gap(moveV(motion, [p.x, p.y, w]), here)).toBeLessThan(1e-9);
          }
      }),
      { numRuns: RUNS },
    );
  });

  test("is unrolled to where it came from", () => {
    fc.assert(
      fc.property(shape, share, share, share, share, (s, state, along, around, high) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const p = point(cone, cone.near + along * (cone.far - cone.near), around * cone.sector);
        const was: Vector = [p.x, p.y, high * T];
        expect(gap(unfoldPoint(folding, CONE, foldPoint(folding, CONE, was)), was)).toBeLessThan(1e-7);
      }),
      { numRuns: RUNS },
    );
  });

  test("lies in its box, which says that it may be larger", () => {
    fc.assert(
      fc.property(shape, share, (s, state) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const box = foldedBox(sheet, folding);
        expect(box.bounded).toBe(true);
        for (let i = 0; i <= 40; i++)
          for (const rho of [cone.near, cone.far])
            for (const w of [0, T]) {
              const p = point(cone, rho, (cone.sector * i) / 40);
              foldPoint(folding, CONE, [p.x, p.y, w]).forEach((v, k) => {
                expect(v).toBeGreaterThan(box.min[k] - 1e-9);
                expect(v).toBeLessThan(box.max[k] + 1e-9);
              });
            }
      }),
      { numRuns: RUNS },
    );
  });

  test("is meshed closed with its plates, and its volume is that of the closed form", () => {
    fc.assert(
      fc.property(shape, (s) => {
        const { sheet, cone } = sheetOf(s);
        const mesh = foldMesh(meshSheet(sheet, 0.05), foldSheet(sheet, evenState(sheet, 1)));
        expect(isClosedManifold(mesh)).toBe(true);
        const volume = foldedVolume(sheet);
        // Below this turn the metal at the near end would go through itself about the axis.
        const tight = cone.near * (cone.sector / cone.turn) < 2 * T;
        if (!tight) expect(Math.abs(meshVolume(mesh) / volume - 1)).toBeLessThan(5e-3);
        // Of the whole sector: t·A ± t²(1 − 2k)/2 · cot γ · (far − near) · sector.
        const area = ((cone.far ** 2 - cone.near ** 2) / 2) * cone.sector;
        const sine = cone.sector / cone.turn;
        const bow = ((T * T * (1 - 2 * cone.k)) / 2) * (Math.sqrt(1 - sine * sine) / sine);
        const whole = T * area + bow * (cone.far - cone.near) * cone.sector;
        expect(Math.abs(pieceKinds.cone.volume(cone, T) / whole - 1)).toBeLessThan(1e-10);
      }),
      { numRuns: Math.ceil(RUNS / 8) },
    );
  });

  test("names how it curls in a few numbers, from which a shader can draw it", () => {
    fc.assert(
      fc.property(shape, share, (s, state) => {
        const { sheet, cone } = sheetOf(s);
        const folding = foldSheet(sheet, evenState(sheet, state));
        const folded = folding.pieces[CONE];
        if (folded.kind !== "cone") throw new Error("no cone");
        const { form, numbers } = pieceKinds.cone.curl(folded, T);
        expect(form).toBe("cone");
        expect(numbers.length).toBe(3);
        expect(numbers.every(Number.isFinite)).toBe(true);
        const [sine, cosine, height] = numbers;
        const [up, w0] = [Math.sign(height), Math.abs(height) - 1];
        const { origin: tip, across: e, along: o } = pieceKinds.cone.ownFrame(cone);
        // What a shader would do: polar about the tip, then about the axis.
        const p = point(cone, cone.far, cone.sector * 0.7);
        const [dx, dy] = [p.x - tip.x, p.y - tip.y];
        const [x, y] = [dx * e.x + dy * e.y, dx * o.x + dy * o.y];
        const psi = Math.atan2(y, x) / sine;
        const rho = Math.hypot(x, y);
        const along = rho * cosine * cosine + rho * sine * sine * Math.cos(psi);
        const side = rho * sine * Math.sin(psi);
        const high = up * rho * sine * cosine * (1 - Math.cos(psi));
        const made = moveV(folded.parent, [
          tip.x + e.x * along + o.x * side,
          tip.y + e.y * along + o.y * side,
          w0 + high,
        ]);
        expect(gap(made, foldPoint(folding, CONE, [p.x, p.y, w0]))).toBeLessThan(1e-8);
      }),
      { numRuns: RUNS },
    );
  });
});
