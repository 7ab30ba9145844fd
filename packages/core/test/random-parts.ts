import fc from "fast-check";
import { newPart, type PartDocument, type StepDocument } from "../src/index.ts";
import { spread } from "./random-cases.ts";

const mm = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((v) => v / 10);
const among = <T>(...values: readonly T[]) => fc.constantFrom(...values);

const relief = fc.oneof(
  fc.record({ shape: among("square"), width: mm(1, 4), depth: mm(0, 4) }),
  fc.record({ shape: among("round"), width: mm(1, 2), depth: mm(1, 4) }),
  fc.record({ shape: among("torn", "none", "stock"), width: among(1), depth: mm(0, 3) }),
);

const flange = fc.record({
  /** Which of the edges there are at that time, as a share. */
  where: spread(0, 0.999),
  turn: among("up", "down"),
  length: mm(5, 60),
  lengthTo: among("outer-mould", "inner-mould", "tangent", "outermost", "overall-height"),
  angle: fc.integer({ min: 1, max: 179 }),
  place: among("outer-face", "inner-face", "outermost", "bend-from-edge", "offset"),
  offset: mm(-5, 8),
  span: among("whole", "inset", "width"),
  inset: mm(0, 12),
  width: mm(4, 40),
  at: among("left", "centre", "right"),
  radius: fc.option(mm(0.2, 5), { nil: undefined }),
  left: relief,
  right: relief,
});

const stock = fc.record({
  thickness: mm(0.5, 3),
  radius: mm(0.3, 4),
  k: fc.integer({ min: 25, max: 50 }).map((v) => v / 100),
});

type Flange = typeof flange extends fc.Arbitrary<infer T> ? T : never;

function stepOf(f: Flange, index: number, edges: readonly string[]): StepDocument {
  const side = (end: "left" | "right") => ({
    [`${end}Relief`]: f[end].shape,
    [`${end}ReliefWidth`]: f[end].width,
    [`${end}ReliefDepth`]: f[end].depth,
  });
  return {
    id: `s${index}`,
    kind: "flange",
    edges: [{ key: "a", at: edges[Math.floor(f.where * edges.length)] }],
    turn: f.turn,
    length: f.length,
    lengthTo: f.lengthTo,
    angle: f.angle,
    place: f.place,
    offset: f.offset,
    span: f.span,
    leftInset: f.inset,
    rightInset: f.inset / 2,
    width: f.width,
    at: f.at,
    ...(f.radius === undefined ? {} : { radius: f.radius }),
    ...side("left"),
    ...side("right"),
  };
}

interface Drawn {
  readonly stock: { readonly thickness: number; readonly radius: number; readonly k: number };
  readonly width: number;
  readonly depth: number;
  readonly holes: readonly { readonly x: number; readonly y: number; readonly d: number }[];
  readonly flanges: readonly Flange[];
}

const holes = fc.array(fc.record({ x: mm(-60, 60), y: mm(-60, 60), d: mm(2, 20) }), { maxLength: 5 });

/** Parts of a plate, up to eight flanges on whatever edges there are, and holes where they may fall. */
export const randomPart: fc.Arbitrary<PartDocument> = fc
  .record({
    stock,
    width: mm(40, 200),
    depth: mm(40, 200),
    holes,
    flanges: fc.array(flange, { maxLength: 8 }),
  })
  .map(partOf);

/** Parts of the same kind whose legs are long for their plate and turn far, so that many stand in their own way. */
export const crowdedPart: fc.Arbitrary<PartDocument> = fc
  .record({
    stock,
    width: mm(30, 80),
    depth: mm(30, 80),
    holes,
    flanges: fc.array(
      fc
        .tuple(flange, fc.record({ length: mm(15, 60), angle: fc.integer({ min: 70, max: 179 }) }))
        .map(([f, more]) => ({ ...f, ...more, lengthTo: "tangent" })),
      { minLength: 3, maxLength: 8 },
    ),
  })
  .map(partOf);

function partOf(r: Drawn): PartDocument {
  const holes = r.holes.map((h, i) => ({ key: `h${i}`, ...h }));
  const steps: StepDocument[] = [{ id: "s1", kind: "plate", width: r.width, depth: r.depth, holes }];
  const edges = ["north", "east", "south", "west"].map((role) => `s1.${role}`);
  r.flanges.forEach((f, i) => {
    const index = i + 2;
    steps.push(stepOf(f, index, edges));
    edges.push(...["end", "left", "right"].map((role) => `s${index}a.${role}`));
  });
  const { thickness, radius, k } = r.stock;
  return { ...newPart("random"), stock: { ...newPart("").stock, thickness, radius, k }, steps };
}
