import fc from "fast-check";
import {
  bendsOf,
  createPartBuilder,
  newPart,
  type PartBuild,
  type PartDocument,
  platesOf,
  type StepDocument,
} from "../src/index.ts";

const mm = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((v) => v / 10);
const among = <T>(...values: readonly T[]) => fc.constantFrom(...values);
// Not fast-check's own doubles, which would nearly always pick the first edge.
const share = fc.nat(9999).map((v) => v / 10000);

/** A step's values without its picks, which are made when the part so far is known. */
type Recipe = (build: PartBuild, index: number) => Omit<StepDocument, "id">;

const at = <T>(list: readonly T[], f: number): T | undefined => list[Math.floor(f * list.length)];
const edgesOf = (b: PartBuild) => platesOf(b.sheet!).flatMap((p) => p.edges.map((e) => `${p.id}.${e.role}`));
const bendNames = (b: PartBuild) => bendsOf(b.sheet!).map((x) => x.id);
const plates = (b: PartBuild) => platesOf(b.sheet!).map((p) => p.id);
const picks = (...names: (string | undefined)[]) =>
  names.flatMap((n, i) => (n === undefined ? [] : [{ key: String.fromCharCode(97 + i), at: n }]));

const flange: fc.Arbitrary<Recipe> = fc
  .record({
    where: fc.tuple(share, share),
    turn: among("up", "down"),
    length: mm(5, 40),
    lengthTo: among("outer-mould", "tangent", "outermost", "overall-height"),
    angle: fc.integer({ min: 0, max: 150 }),
    place: among("outer-face", "inner-face", "bend-from-edge"),
    span: among("whole", "inset", "width"),
    inset: mm(-2, 8),
    width: mm(4, 30),
    shape: among("rectangle", "angles", "step"),
    lean: fc.integer({ min: -20, max: 25 }),
    radius: fc.option(mm(0.2, 4), { nil: undefined }),
    relief: among("stock", "none", "torn", "square"),
  })
  .map(({ where, inset, lean, relief, radius, ...f }) => (b) => ({
    kind: "flange",
    edges: picks(at(edgesOf(b), where[0]), at(edgesOf(b), where[1])),
    ...f,
    leftInset: inset,
    rightInset: inset,
    leftLean: lean,
    rightLean: lean,
    stepHeight: f.length / 3,
    leftStep: 2,
    rightStep: 1,
    leftRelief: relief,
    rightRelief: relief,
    ...(radius === undefined ? {} : { radius }),
  }));

const hem: fc.Arbitrary<Recipe> = fc
  .record({
    where: fc.tuple(share, share),
    form: among("closed", "open", "teardrop", "rolled"),
    turn: among("up", "down"),
    length: mm(4, 12),
    radius: mm(0.5, 3),
    angle: fc.integer({ min: 180, max: 330 }),
    place: among("inside", "outside"),
  })
  .map(({ where, ...h }) => (b) => ({
    kind: "hem",
    edges: picks(at(edgesOf(b), where[0]), at(edgesOf(b), where[1])),
    ...h,
  }));

const lip: fc.Arbitrary<Recipe> = fc
  .record({
    where: share,
    length: mm(2, 20),
    width: mm(3, 30),
    shape: among("rectangle", "angles"),
    at: among("left", "centre"),
  })
  .map(({ where, ...l }) => (b) => ({
    kind: "lug",
    edges: picks(at(edgesOf(b), where)),
    leftLean: 10,
    rightLean: 5,
    ...l,
  }));

const line = fc.record({
  where: share,
  by: among("distance", "share", "points"),
  distance: mm(1, 40),
  share: fc.integer({ min: 1, max: 9 }).map((v) => v / 10),
  tilt: among(0, 0, 0, 12, -30),
  second: share,
  moves: among("far", "near"),
});
const lineOf = (
  { where, second, ...l }: typeof line extends fc.Arbitrary<infer T> ? T : never,
  b: PartBuild,
) => {
  const from = at(edgesOf(b), where) ?? "s1.north";
  const plate = from.slice(0, from.indexOf("."));
  const same = edgesOf(b).filter((e) => e.startsWith(`${plate}.`));
  return { ...l, from: picks(from), onto: picks(at(same, second)), fromAt: 8, ontoAt: 12 };
};

const fold: fc.Arbitrary<Recipe> = fc
  .record({
    line,
    turn: among("up", "down"),
    angle: fc.integer({ min: 1, max: 150 }),
    meaning: among("middle", "start", "end", "outer-mould", "inner-mould"),
  })
  .map(({ line: l, ...f }) => (b) => ({ kind: "fold", ...lineOf(l, b), ...f }));

const jog: fc.Arbitrary<Recipe> = fc
  .record({
    line,
    turn: among("up", "down"),
    form: among("jog", "joggle", "over"),
    offset: mm(2, 12),
    angle: fc.integer({ min: 20, max: 110 }),
    keep: among("folded", "blank"),
    thingWidth: mm(2, 15),
  })
  .map(({ line: l, ...j }) => (b) => ({
    kind: "jog",
    ...lineOf(l, b),
    depth: j.offset / 3,
    run: j.offset * 3,
    ...j,
  }));

const cut: fc.Arbitrary<Recipe> = fc
  .record({
    where: share,
    form: among("rectangle", "round", "slot"),
    width: mm(2, 25),
    height: mm(2, 15),
    diameter: mm(2, 15),
    x: mm(-40, 40),
    y: mm(-40, 40),
    turned: among(0, 0, 30),
    through: among("held", "flat"),
  })
  .map(({ where, ...c }) => (b) => ({ kind: "cut", plate: picks(at(plates(b), where)), ...c }));

const round: fc.Arbitrary<Recipe> = fc
  .record({
    form: among("round", "chamfer"),
    which: among("all", "inside", "plates"),
    radius: mm(0.5, 4),
    where: share,
  })
  .map(({ where, ...r }) => (b) => ({
    kind: "round",
    plates: picks(at(plates(b), where)),
    size: r.radius,
    ...r,
  }));

const corner: fc.Arbitrary<Recipe> = fc
  .record({
    close: among("mitre", "butt", "open"),
    over: among("first", "second"),
    gap: mm(0.1, 1),
    relief: among("none", "round", "square", "slot", "teardrop"),
  })
  .map((c) => () => ({ kind: "corner", ...c }));

const bend: fc.Arbitrary<Recipe> = fc
  .record({
    where: share,
    angle: fc.integer({ min: 20, max: 140 }),
    radius: mm(0.5, 4),
    flip: among("as it is", "flipped"),
  })
  .map(({ where, ...e }) => (b) => ({ kind: "bend", bends: picks(at(bendNames(b), where)), ...e }));

const hold: fc.Arbitrary<Recipe> = among("hold", "fold").map((does) => () => ({ kind: "hold", does }));

const again: fc.Arbitrary<Recipe> = fc
  .record({
    kind: fc.constant("pattern"),
    back: fc.integer({ min: 1, max: 3 }),
    form: among("row", "grid", "round"),
    count: fc.integer({ min: 1, max: 3 }),
    pitch: mm(5, 30),
  })
  .map(({ back, ...p }) => (_b, index) => ({ ...p, steps: picks(`s${Math.max(2, index - back)}`) }));

const mirror: fc.Arbitrary<Recipe> = fc
  .record({
    back: fc.integer({ min: 1, max: 3 }),
    about: among("across", "along"),
    what: among("steps", "steps", "hand"),
  })
  .map(({ back, ...m }) => (_b, index) => ({
    kind: "mirror",
    ...m,
    steps: picks(`s${Math.max(2, index - back)}`),
  }));

const split: fc.Arbitrary<Recipe> = fc
  .record({ line, gap: among(0, 0.5, 3) })
  .map(({ line: l, gap }) => (b) => ({ kind: "split", ...lineOf(l, b), gap }));

const recipe = fc.oneof(
  { weight: 6, arbitrary: flange },
  { weight: 2, arbitrary: hem },
  { weight: 2, arbitrary: lip },
  { weight: 3, arbitrary: fold },
  { weight: 3, arbitrary: jog },
  { weight: 3, arbitrary: cut },
  { weight: 1, arbitrary: round },
  { weight: 2, arbitrary: corner },
  { weight: 1, arbitrary: bend },
  { weight: 1, arbitrary: hold },
  { weight: 2, arbitrary: again },
  { weight: 1, arbitrary: mirror },
  { weight: 1, arbitrary: split },
);

const leg = fc.record({
  form: among("straight", "straight", "arc"),
  length: mm(5, 60),
  turn: fc.integer({ min: -170, max: 170 }),
  radius: fc.option(mm(4, 30), { nil: undefined }),
});

const first: fc.Arbitrary<Omit<StepDocument, "id">> = fc.oneof(
  fc
    .record({
      width: mm(30, 160),
      depth: mm(30, 160),
      holes: fc.array(fc.record({ x: mm(-40, 40), y: mm(-40, 40), d: mm(2, 12) }), { maxLength: 3 }),
    })
    .map(({ holes, ...p }) => ({
      kind: "plate",
      ...p,
      holes: holes.map((h, i) => ({ key: `h${i}`, ...h })),
    })),
  fc
    .record({
      legs: fc.array(leg, { minLength: 1, maxLength: 5 }),
      width: mm(10, 80),
      on: among("outer", "inner", "middle", "tangent", "A", "B"),
      side: among("both", "left", "right"),
    })
    .map(({ legs, ...p }) => ({
      kind: "profile",
      ...p,
      legs: legs.map((l, i) => ({
        key: `l${i}`,
        ...l,
        radius: l.radius ?? (l.form === "arc" ? 12 : undefined),
      })),
    })),
);

/** Parts of every kind of step, one on the other, on whatever edges, plates and bends there are by then. */
export const randomChain: fc.Arbitrary<PartDocument> = fc
  .record({
    first,
    recipes: fc.array(recipe, { maxLength: 7 }),
    thickness: mm(0.5, 3),
    radius: mm(0.3, 4),
    k: fc.integer({ min: 25, max: 50 }).map((v) => v / 100),
  })
  .map(({ first: start, recipes, thickness, radius, k }) => {
    const base = { ...newPart("chain"), stock: { ...newPart("").stock, thickness, radius, k } };
    const steps: StepDocument[] = [{ id: "s1", ...start } as StepDocument];
    const builder = createPartBuilder();
    recipes.forEach((make, i) => {
      const build = builder({ ...base, steps: [...steps] });
      if (!build.sheet || platesOf(build.sheet).length > 60) return;
      const made = make(build, i + 2);
      steps.push({ id: `s${i + 2}`, ...made } as StepDocument);
    });
    return { ...base, steps };
  });
