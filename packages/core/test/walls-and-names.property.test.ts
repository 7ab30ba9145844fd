import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  bendsOf,
  buildPart,
  examineFully,
  migrate,
  movePoint,
  type PartDocument,
  plateBefore,
  platesOf,
  type StepDocument,
} from "../src/index.ts";
import { intoFrame } from "../src/plane/isometry.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";

sameCases(404);

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcd"[i], at: n }));

describe("the middle of a wall", () => {
  const box = fc.record({
    length: spread(16, 60),
    angle: spread(45, 120),
    close: fc.constantFrom("butt", "mitre", undefined),
    over: fc.constantFrom("first", "second"),
    gap: spread(0.1, 1),
    wall: fc.constantFrom("a", "b", "c", "d"),
    x: spread(-20, 20),
    y: spread(-2.5, 2.5),
  });

  const walls = (length: string, angle: string): StepDocument => ({
    id: "s2",
    kind: "flange",
    edges: at("s1.south", "s1.east", "s1.north", "s1.west"),
    length,
    angle,
  });

  test("is that of its leg, however its corners are closed: between tangent line and free edge, along its bend", () => {
    fc.assert(
      fc.property(box, ({ length, angle, close, over, gap, wall, x, y }) => {
        const closing: StepDocument[] = close
          ? [{ id: "s3", kind: "corner", which: "all", close, over, gap: String(gap) }]
          : [];
        const hole = {
          id: "s9",
          kind: "cut",
          form: "round",
          plate: at(`s2${wall}`),
          placed: "middle",
          x: String(x),
          y: String(y),
          diameter: "2",
        };
        const document = part(plate("260", "180"), walls(String(length), String(angle)), ...closing, hole);
        const { sheet } = buildPart(document);
        const leg = platesOf(sheet).find((p) => p.id === `s2${wall}`)!;
        const bend = bendsOf(sheet!).find((b) => b.child === leg.id)!;
        const opening = leg.regions.flatMap((r) => r.holes).map((l) => asCircle(l)!)[0];
        const d = { x: opening.c.x - bend.origin.x, y: opening.c.y - bend.origin.y };
        const [s, u] = [d.x * bend.axis.x + d.y * bend.axis.y, d.x * bend.out.x + d.y * bend.out.y];
        // The leg's own end: without the corners nothing stands farther out.
        const open = buildPart(part(plate("260", "180"), walls(String(length), String(angle))));
        const free = platesOf(open.sheet).find((p) => p.id === leg.id)!.box;
        const depth = Math.min(free.x1 - free.x0, free.y1 - free.y0);
        const own = movePoint(intoFrame(leg.frame), opening.c);
        const middle = leg.middle;
        expect([own.x - middle.x, own.y - middle.y]).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)]);
        const off = [s - bend.width / 2, u - bend.allowance - depth / 2].map(Math.abs).sort((p, q) => p - q);
        const said = [x, y].map(Math.abs).sort((p, q) => p - q);
        expect(off).toEqual(said.map((v) => expect.closeTo(v, 6)));
      }),
      { numRuns: casesOf(60) },
    );
  });

  test("of an older document stays the middle of all metal: nothing that is placed there moves", () => {
    const steps = [
      plate("260", "180"),
      walls("30", "90"),
      { id: "s3", kind: "corner", which: "all", close: "butt", gap: "0.3" },
      {
        id: "s4",
        kind: "cut",
        form: "round",
        plate: at("s2a"),
        placed: "middle",
        x: "0",
        y: "0",
        diameter: "2",
      },
      {
        id: "s5",
        kind: "cut",
        form: "round",
        plate: at("s1"),
        placed: "middle",
        x: "9",
        y: "4",
        diameter: "2",
      },
      { id: "s6", kind: "mirror", what: "steps", steps: at("s4"), plate: at("s2a") },
    ];
    const moved = migrate({ ...part(), version: 3, steps });
    if (!moved.ok) throw new Error(moved.error);
    const now = moved.value as unknown as PartDocument;
    expect(now.version).toBe(4);
    expect(now.steps.slice(3).map((s) => s.placed ?? s.about)).toEqual(["all", "middle", "acrossAll"]);
    const [leg] = platesOf(buildPart(now).sheet).filter((p) => p.id === "s2a");
    const { x0, x1, y0, y1 } = leg.box;
    const own = leg.regions
      .flatMap((r) => r.holes)
      .map((l) => movePoint(intoFrame(leg.frame), asCircle(l)!.c));
    expect(own[0].x).toBeCloseTo((x0 + x1) / 2, 9);
    expect(own[0].y).toBeCloseTo((y0 + y1) / 2, 9);
  });
});

describe("what a step is measured from", () => {
  // A bracket whose opening runs over the south edge, so that it cuts that edge in two itself.
  const cut = (more: object): StepDocument => ({
    id: "s2",
    kind: "cut",
    form: "round",
    plate: at("s1"),
    diameter: "7.14375",
    ...more,
  });
  const offEdge = part(plate("76.2", "50.8"), cut({ x: "5", y: "-25" }));

  test("is there before it begins: of an edge that it cuts in two, the whole", () => {
    const roles = (p: ReturnType<typeof plateBefore>) => p!.edges.map((e) => e.role).sort();
    expect(roles(platesOf(buildPart(offEdge).sheet)[0])).toEqual([
      "east",
      "north",
      "south",
      "south@cut-s2",
      "west",
    ]);
    expect(roles(plateBefore(offEdge, "s2", "s1"))).toEqual(["east", "north", "south", "west"]);
    expect(plateBefore(offEdge, "s1", "s1")).toBeUndefined();
    expect(plateBefore(offEdge, "nobody", "s1")).toBeUndefined();
  });

  test("though a document names the piece that it makes, is the edge that this is of", () => {
    const named = cut({
      placed: "edges",
      edge1: at("s1.south@cut-s2"),
      off1: "0.4",
      edge2: at("s1.west"),
      off2: "43.1",
    });
    const build = buildPart(part(plate("76.2", "50.8"), named));
    expect(build.findings.filter((f) => f.level === "stop")).toEqual([]);
    expect(build.steps[1].marks![0].dims.at(-1)!.to).toEqual({
      x: expect.closeTo(5, 9),
      y: expect.closeTo(-25, 9),
    });
  });
});

describe("messages", () => {
  const INTERNAL = /@|\bs\d+\w*\b|\bundefined\b|\bnull\b|\bNaN\b|\[object|Infinity/;
  const said = (document: PartDocument): string[] => {
    const build = examineFully(document);
    return [
      ...build.findings.flatMap((f) => [f.message, f.mend?.title ?? ""]),
      ...build.steps.flatMap((s) => Object.values(s.notes ?? {}).map(String)),
    ];
  };
  const RUNS = casesOf(120);

  test("never hold a name that is used within a part, also where references are lost", () => {
    const lost = fc
      .tuple(fc.oneof(randomPart, randomChain), fc.nat(30), fc.constantFrom("remove", "pause", "rename"))
      .map(([document, k, how]): PartDocument => {
        const i = k % document.steps.length;
        const steps = document.steps.flatMap((s, n): StepDocument[] => {
          if (n !== i) return [s];
          if (how === "remove") return [];
          return how === "pause" ? [{ ...s, paused: true }] : [{ ...s, id: "s77" }];
        });
        return { ...document, steps };
      });
    fc.assert(
      fc.property(lost, (document) => {
        for (const text of said(document)) {
          expect(text).not.toMatch(INTERNAL);
          expect(text.length, text).toBeLessThan(300);
        }
      }),
      { numRuns: RUNS },
    );
  });
});
