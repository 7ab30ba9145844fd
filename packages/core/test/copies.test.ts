import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { buildPart, loopArea, type PartDocument, type StepDocument } from "../src/index.ts";
import { type Isometry, mirroring, moveDirection, movePoint } from "../src/plane/isometry.ts";
import { along, dot, type Point, subtract } from "../src/plane/point.ts";
import { regionArea } from "../src/plane/region.ts";
import { bendsAmong, type OpenDraft, reopen, type SheetDraft } from "../src/sheet/draft.ts";
import type { DraftBend } from "../src/sheet/draft-pieces.ts";
import { edgeFrame } from "../src/sheet/edges.ts";
import { shapeMetal } from "../src/sheet/shaping/metal.ts";
import { mirrorWhole } from "../src/sheet/shaping/replicate.ts";
import { type Motion, moveV, type Vector } from "../src/space/vector.ts";
import { draftOf } from "./draft-of.ts";
import { part } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";

sameCases(20261126);
const RUNS = casesOf(120);

const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const at = (name: string) => [{ key: "a", at: name }];
const wall = (id: string, edge: string, more: object = {}): StepDocument => ({
  ...{ id, kind: "flange", edges: at(edge), length: "25" },
  ...more,
});
const open = (document: PartDocument): OpenDraft => reopen(draftOf(document)!);

const near = (v: number) => Math.round(v * 1e5) / 1e5 + 0;
const told = (p: Point) => `${near(p.x)},${near(p.y)}`;
const between = (...ends: Point[]) => ends.map(told).sort().join(" – ");

/** What of a bend can be seen in the flat: its line with what hangs over at either end, its edge, how it turns. */
function ofBend(draft: SheetDraft, b: DraftBend, m: Isometry): string {
  const place = (p: Point) => movePoint(m, p);
  const ends = (["left", "right"] as const).map((end) => {
    const p = place(end === "left" ? b.origin : along(b.origin, b.axis, b.width));
    return `${told(p)} over ${near(b.overhang[end])}`;
  });
  const edge = draft.pieces.plate(b.parent)?.edges.find((e) => e.role === b.grownOn?.role);
  const frame = edge && edgeFrame(edge);
  const stands =
    frame && b.grownOn
      ? between(...[b.grownOn.from, b.grownOn.to].map((s) => place(along(frame.origin, frame.x, s))))
      : "nothing";
  const out = told(moveDirection(m, b.out));
  return `bend ${ends.sort().join(" – ")} out ${out} on ${stands} by ${near(b.grownOn?.setback ?? -1)} turns ${near(b.angle)} ${b.up}`;
}

/** What of a flat sheet can be seen, moved: lines of text in no order. */
function seen(draft: SheetDraft, m: Isometry): string[] {
  const place = (p: Point) => movePoint(m, p);
  const metal = (id: string, ops: Parameters<typeof shapeMetal>[0]) =>
    shapeMetal(ops).regions.map((r) => {
      const corners = r.outer.map((c) => told(place(c.a)));
      return `${id} ${near(regionArea(r))} about ${corners.sort().join(" ")}`;
    });
  return [
    ...draft.pieces
      .plates()
      .flatMap((p) => [
        ...metal("plate", p.metal),
        ...p.edges.map(
          (e) => `edge ${between(place(e.left), place(e.right))} out ${told(moveDirection(m, e.out))}`,
        ),
      ]),
    ...bendsAmong(draft.pieces.carriers()).flatMap((b) => [ofBend(draft, b, m), ...metal("strip", b.metal)]),
    ...draft.slits.map((s) => `slit ${between(place(s.line.a), place(s.line.b))}`),
  ].sort();
}

const SAME_PLACE: Isometry = { xx: 1, xy: 0, yx: 0, yy: 1, ox: 0, oy: 0, flips: false };

/** The mirroring about an edge of a plate. */
function aboutEdge(draft: SheetDraft, name: string): Isometry {
  const [id, role] = name.split(".");
  const frame = edgeFrame(draft.pieces.plate(id)!.edges.find((e) => e.role === role)!);
  return mirroring(frame.origin, frame.x);
}

const joined = (edge: string): StepDocument => ({
  id: "s99",
  kind: "mirror",
  what: "joined",
  edge: at(edge),
});

/** Whether a plate, or what hangs on it, reaches over the line of one of its edges: it would lie on its image. */
function reachesOver(draft: SheetDraft, name: string): boolean {
  const m = aboutEdge(draft, name);
  const edge = draft.pieces.plate(name.split(".")[0])!.edges.find((e) => e.role === name.split(".")[1])!;
  const metals = [...draft.pieces.plates(), ...draft.pieces.carriers()].flatMap(({ metal }) => metal);
  const points = metals.flatMap((op) => (op.kind === "add" ? op.loops.flat() : [])).map((c) => c.a);
  return points.some((p) => dot(subtract(p, movePoint(m, p)), edge.out) > 1e-6);
}

function isSymmetrical(document: PartDocument, edge: string): void {
  const m = aboutEdge(draftOf(document)!, edge);
  const whole = draftOf({ ...document, steps: [...document.steps, joined(edge)] })!;
  expect(seen(whole, m)).toEqual(seen(whole, SAME_PLACE));
}

describe("a plate joined to its mirror image", () => {
  const torn = { leftRelief: "torn", leftReliefDepth: "3", rightRelief: "square", rightReliefWidth: "2" };
  const partly = { span: "inset", leftInset: "10", rightInset: "30", ...torn };

  test("has every edge, bend, relief and slit twice, each on its own side", () => {
    const document = part(
      plate,
      wall("s2", "s1.north", partly),
      wall("s3", "s2a.end", { span: "width", width: "20", at: "left", shift: "5", turn: "down" }),
      wall("s4", "s1.east", { ...partly, angle: "60" }),
    );
    const whole = draftOf(part(...document.steps, joined("s1.south")))!;
    expect(whole.pieces.carriers().length).toBe(6);
    expect(whole.pieces.plates().length).toBe(7);
    expect(whole.slits.length).toBe(2 * draftOf(document)!.slits.length);
    expect(whole.slits.length).toBeGreaterThan(2);
    isSymmetrical(document, "s1.south");
  });

  test("gives up the edge that it is joined along, and keeps its others and their images", () => {
    const whole = draftOf(part(plate, joined("s1.south")))!;
    const roles = whole.pieces.plate("s1")!.edges.map((e) => e.role);
    expect(roles.filter((r) => r.startsWith("south"))).toEqual([]);
    expect(roles.filter((r) => r.startsWith("north")).length).toBe(2);
  });

  test("lets a later wall stand beside the image of one, and on none", () => {
    const own = { span: "width", width: "30", at: "left", shift: "5" };
    const half = [plate, wall("s2", "s1.north", own), joined("s1.south")];
    const image = draftOf(part(...half))!
      .pieces.plate("s1")!
      .edges.filter((e) => e.role.startsWith("north"));
    const name = `s1.${image.map((e) => e.role).find((r) => r !== "north")}`;
    // Seen from outside the image stands at the right end of its edge.
    const second = (where: string) =>
      buildPart(part(...half, wall("s4", name, { span: "width", width: "60", at: where, shift: "0" })));
    expect(second("left").bends.length).toBe(3);
    expect(second("left").findings.filter((f) => f.level === "stop")).toEqual([]);
    expect(second("right").findings.filter((f) => f.level === "stop").length).toBe(1);
  });

  test("is cut on either side of the line by its own cuts, up to the line", () => {
    const over = {
      ...{ id: "s2", kind: "cut", plate: at("s1"), form: "rectangle" },
      width: "10",
      height: "6",
    };
    const document = part(plate, { ...over, x: "0", y: "-39" });
    isSymmetrical(document, "s1.south");
    // What was a notch of 10 × 4 is a window of 10 × 8.
    const { openings } = buildPart(part(...document.steps, joined("s1.south"))).blank!;
    expect(openings.map((o) => Math.abs(loopArea(o)))).toEqual([expect.closeTo(80, 9)]);
  });

  test("has the order of its steps on both sides: a hole that was closed again is closed in the image", () => {
    const hole: StepDocument = {
      ...{ id: "s2", kind: "cut", plate: at("s1"), form: "rectangle", width: "4", height: "4" },
    };
    const closing = wall("s3", "s1.s2-west", { angle: "0", length: "9" });
    const { openings } = buildPart(part(plate, hole, closing, joined("s1.east"))).blank!;
    expect(openings).toEqual([]);
  });

  test("is the same on both sides whatever was built on it", () => {
    let looked = 0;
    fc.assert(
      fc.property(randomChain, spread(0, 0.999), (document, which) => {
        const draft = draftOf(document);
        const root = draft?.roots[0]?.plate;
        if (!draft || root === undefined || draft.roots.length > 1) return;
        const edges = draft.pieces.plate(root)!.edges;
        if (edges.length === 0) return;
        const edge = `${root}.${edges[Math.floor(which * edges.length)].role}`;
        if (reachesOver(draft, edge)) return;
        const build = buildPart({ ...document, steps: [...document.steps, joined(edge)] });
        if (build.steps.at(-1)?.state !== "built") return;
        looked++;
        isSymmetrical(document, edge);
      }),
      { numRuns: RUNS },
    );
    expect(looked * 4).toBeGreaterThan(RUNS);
  });
});

describe("the other hand of a sheet that stands askew", () => {
  test("is where a mirror in the plane shows it", () => {
    const m = mirroring({ x: 3, y: -2 }, { x: Math.cos(0.4), y: Math.sin(0.4) });
    const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
    // About y first, then about x: no direction stays in its plane.
    const place: Motion = {
      x: [c, s * s, -s * c],
      y: [0, c, s],
      z: [s, -s * c, c * c],
      o: [5, -7, 11],
    };
    const draft = open(part(plate));
    draft.roots = [{ ...draft.roots[0], place }];
    mirrorWhole(draft, m);
    const mirror = ([x, y, z]: Vector): Vector => {
      const p = movePoint(m, { x, y });
      return [p.x, p.y, z];
    };
    for (const p of [
      [0, 0, 0],
      [13, 5, 2],
      [-4, 20, 1],
    ] as Vector[])
      moveV(draft.roots[0].place, mirror(p)).forEach((v, k) => {
        expect(v).toBeCloseTo(mirror(moveV(place, p))[k], 9);
      });
  });
});

describe("what is repeated", () => {
  const slot = (id: string, more: object = {}): StepDocument => ({
    ...{ id, kind: "cut", plate: at("s1"), form: "rectangle", width: "6", height: "10" },
    ...more,
  });
  const row = (of: string, more: object = {}): StepDocument => ({
    ...{ id: "s9", kind: "pattern", steps: at(of), form: "row", count: "3", pitch: "20" },
    ...more,
  });
  const openings = (...steps: StepDocument[]) =>
    buildPart(part(...steps))
      .blank!.openings.map((o) => between(...o.map((c) => c.a)))
      .sort();

  test("is left out where nothing of the edge is under it, on an edge as far out alone", () => {
    // Two edges look north: the copy for the nearer one has no edge as far out.
    const step: StepDocument = {
      ...{ id: "s2", kind: "cut", plate: at("s1"), form: "rectangle", width: "60", height: "20" },
    };
    const notched = draftOf(part(plate, step))!;
    expect(notched.pieces.plates().length).toBe(1);
    const tab = wall("s3", "s1.north", { span: "width", width: "10", at: "left", shift: "2" });
    const build = buildPart(part(plate, tab, row("s3", { count: "7", pitch: "20" })));
    expect(build.bends.length).toBe(6);
    const [first, last] = [build.bends[0], build.bends.at(-1)!];
    expect(last.length).toBeCloseTo(first.length, 9);
    expect(build.findings.some((f) => f.step === "s9")).toBe(true);
  });

  test("a bend that is folded into the copied leg is as wide as the one that it is copied from", () => {
    const tab = wall("s2", "s1.north", { span: "width", width: "14", at: "left", shift: "2", length: "40" });
    const fold: StepDocument = {
      ...{ id: "s3", kind: "fold", by: "distance", distance: "15", angle: "30", moves: "far" },
      ...{ from: at("s2a.end"), onto: at("s2a"), meaning: "middle" },
    };
    const one = buildPart(part(plate, tab, fold));
    if (one.bends.length < 2) throw new Error(one.findings.map((f) => f.message).join());
    const pattern: StepDocument = { ...row("s2"), steps: [...at("s2"), { key: "b", at: "s3" }] };
    const three = buildPart(part(plate, tab, fold, pattern));
    expect(three.bends.length).toBe(6);
    const lengths = three.bends.map((b) => near(b.length));
    expect(new Set(lengths)).toEqual(new Set([14]));
  });

  test("a slot is there in every place, each once, whether it lies in one plate or across a bend held flat", () => {
    expect(openings(plate, slot("s2", { x: "-30" }), row("s2")).length).toBe(3);
    const fold: StepDocument = wall("s2", "s1.north", { length: "30" });
    const plain = openings(plate, fold, slot("s3", { x: "-30" }), row("s3"));
    expect(plain.length).toBe(3);
    expect(new Set(plain).size).toBe(3);
  });

  const fold = (more: object = {}): StepDocument => ({
    ...{ id: "s3", kind: "fold", by: "distance", distance: "30", angle: "40", moves: "far" },
    ...{ from: at("s1.south"), onto: at("s1"), meaning: "middle" },
    ...more,
  });

  test("is cut on both sides of a fold that came between, as if it had been cut before it", () => {
    const first = { x: "-40", y: "-25" };
    const up = { turn: "90", pitch: "40", count: "2" };
    const before = buildPart(
      part(plate, slot("s2", first), slot("s4", { ...first, y: "15" }), fold({ id: "s3" })),
    );
    const after = buildPart(part(plate, slot("s2", first), fold(), row("s2", { direction: "90", ...up })));
    expect(before.findings).toEqual([]);
    expect(after.blank!.openings.length).toBe(2);
    expect(after.bends.map((b) => near(b.length))).toEqual(before.bends.map((b) => near(b.length)));
    const holes = after.blank!.openings.map((o) => near(Math.abs(loopArea(o))));
    expect(holes).toEqual([60, 60]);
  });

  test("is refused where it is a fold across the plate: only what stands on an edge can be there twice", () => {
    const build = buildPart(part(plate, fold(), row("s3")));
    expect(build.findings.filter((f) => f.level === "stop").map((f) => f.message)).toEqual([
      expect.stringContaining("A fold across a plate cannot be repeated"),
    ]);
  });

  test("does not take along what hangs on another sheet of the part", () => {
    const parted: StepDocument = { id: "s2", kind: "split", from: at("s1.south"), distance: "30", gap: "1" };
    const other = draftOf(part(plate, parted))!;
    const owner = other.roots.find((r) => r.plate !== "s1")!.plate;
    const { role } = other.pieces.plate(owner)!.edges.find((e) => /^(north|south)$/.test(e.role))!;
    const torn = { leftRelief: "torn", leftReliefDepth: "3", span: "inset", leftInset: "20" };
    const far = wall("s3", `${owner}.${role}`, torn);
    const draft = draftOf(part(plate, parted, far))!;
    expect(draft.pieces.carriers().map((b) => b.parent)).toEqual([owner]);
    const [bends, slits] = [draft.pieces.carriers().length, draft.slits.length];
    expect(slits).toBeGreaterThan(0);
    const whole = draftOf(part(plate, parted, far, joined(`s1.${role === "north" ? "south" : "north"}`)))!;
    expect(whole.pieces.carriers().length).toBe(bends);
    expect(whole.slits.length).toBe(slits);
    expect(whole.pieces.plates().length).toBe(draft.pieces.plates().length);
  });
});
