import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  createExaminer,
  examinePart,
  newPart,
  type PartBuild,
  type PartDocument,
  packetBytes,
  platesOf,
  Receiver,
  Sender,
  type StepDocument,
} from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261129);
const RUNS = casesOf(60);
const SIDE = 9;
const PITCH = 10;

interface Hole {
  readonly key: string;
  readonly x: string;
  readonly y: string;
  readonly d: string;
}

const middle = (i: number) => (i - (SIDE - 1) / 2) * PITCH;
const field: readonly Hole[] = Array.from({ length: SIDE * SIDE }, (_, i) => ({
  key: `h${i}`,
  x: String(middle(i % SIDE)),
  y: String(middle(Math.floor(i / SIDE))),
  d: "6",
}));

const partOf = (holes: readonly Hole[], width: string, more: readonly StepDocument[]): PartDocument => ({
  ...newPart("Field"),
  variables: [{ key: "a", name: "wide", value: "92" }],
  steps: [{ id: "s1", kind: "plate", width, depth: "92", holes: [...holes] }, ...more],
});

// A flange takes its edge off the plate, and a cut runs over some of the holes: neither stands clear.
const flange: StepDocument = {
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "20",
};
const cut: StepDocument = {
  id: "s3",
  kind: "cut",
  form: "slot",
  plate: [{ key: "a", at: "s1" }],
  width: "34",
  height: "5",
  x: "12",
  y: "-14",
};

/** All that a build says that a person could read or cut. */
const told = (b: PartBuild) => ({
  findings: b.findings.map((f) => [f.level, f.rule, f.step, f.field, f.message, f.at]),
  states: b.steps.map((s) => [s.id, s.state, s.values]),
  plates: platesOf(b.sheet).map((p) => [p.id, p.edges, p.box, p.regions]),
  blank: b.blank && [b.blank.outlines, b.blank.openings, b.blank.area, b.blank.lengths],
  mass: b.folded?.mass,
});

const change = fc.record({
  kind: fc.constantFrom("move", "far", "onto", "drop", "add", "grow", "wrong", "named", "width", "swap"),
  which: spread(0, 0.999),
  dx: spread(-6, 6),
  dy: spread(-6, 6),
});
type Change = typeof change extends fc.Arbitrary<infer T> ? T : never;

function changed(
  { holes, width }: { holes: readonly Hole[]; width: string },
  { kind, which, dx, dy }: Change,
  nth: number,
): { holes: readonly Hole[]; width: string } {
  const at = Math.floor(which * holes.length);
  const put = (by: (h: Hole) => Partial<Hole>) => ({
    width,
    holes: holes.map((h, i) => (i === at ? { ...h, ...by(h) } : h)),
  });
  const by = (v: string, d: number) => String(Math.round((Number.parseFloat(v) + d) * 1000) / 1000);
  switch (kind) {
    case "move":
      return put((h) => ({ x: by(h.x, dx / 8), y: by(h.y, dy / 8) }));
    case "far":
      return put((h) => ({ x: by(h.x, dx * 20) }));
    case "onto":
      return put((h) => ({ x: by(h.x, dx), y: by(h.y, dy) }));
    case "grow":
      return put(() => ({ d: String(Math.abs(dx) + 0.4) }));
    case "wrong":
      return put(() => ({ d: "-1" }));
    case "named":
      return put(() => ({ x: "width/4 - 3" }));
    case "drop":
      return { width, holes: holes.filter((_, i) => i !== at) };
    case "add":
      return {
        width,
        holes: [
          ...holes.slice(0, at),
          { key: `n${nth}`, x: by("0", dx), y: by("0", dy), d: "1.5" },
          ...holes.slice(at),
        ],
      };
    case "swap":
      return { width, holes: [...holes.slice(at), ...holes.slice(0, at)] };
    default:
      return { holes, width: which < 0.5 ? "wide + 1" : String(92 + Math.round(dx)) };
  }
}

describe("a plate with many holes that is edited hole by hole", () => {
  test("is after every edit what it would be built afresh, checks and all", () => {
    fc.assert(
      fc.property(
        fc.array(change, { minLength: 3, maxLength: 10 }),
        fc.constantFrom<readonly StepDocument[]>([], [flange], [cut], [flange, cut]),
        (changes, more) => {
          const examine = createExaminer();
          let now: { holes: readonly Hole[]; width: string } = { holes: field, width: "92" };
          examine(partOf(now.holes, now.width, more));
          changes.forEach((one, nth) => {
            now = changed(now, one, nth);
            const document = partOf(now.holes, now.width, more);
            expect(told(examine(document))).toEqual(told(examinePart(structuredClone(document))));
          });
        },
      ),
      { numRuns: RUNS },
    );
  });

  test("is so where a hole leaves others that it ran into, comes back from outside, or was wrong for a while", () => {
    const put = (i: number, more: Partial<Hole>) => (holes: readonly Hole[]) =>
      holes.map((h, k) => (k === i ? { ...h, ...more } : h));
    const edits = [
      [put(40, { x: "4" }), put(40, { x: "0" })],
      [put(40, { x: "300" }), put(41, { d: "2" }), put(40, { x: "0" })],
      [put(80, { x: "44" }), (holes: readonly Hole[]) => holes.filter((h) => h.key !== "h80")],
      [put(40, { d: "-1" }), put(12, { d: "3" }), put(40, { d: "5" })],
      [put(40, { x: "4" }), (holes: readonly Hole[]) => holes.filter((h) => h.key !== "h40")],
    ];
    for (const run of edits) {
      const examine = createExaminer();
      let holes = field;
      examine(partOf(holes, "92", []));
      for (const edit of run) {
        holes = edit(holes);
        const document = partOf(holes, "92", []);
        expect(told(examine(document))).toEqual(told(examinePart(structuredClone(document))));
      }
    }
  });

  test("keeps every opening that nobody touched as the very same record", () => {
    const examine = createExaminer();
    const before = examine(partOf(field, "92", []));
    const moved = field.map((h, i) => (i === 40 ? { ...h, x: "0.7" } : h));
    const after = examine(partOf(moved, "92", []));
    const old = new Set(platesOf(before.sheet)[0].regions[0].holes);
    const now = platesOf(after.sheet)[0].regions[0];
    expect(now.holes.filter((loop) => !old.has(loop))).toHaveLength(1);
    expect(now.outer).toBe(platesOf(before.sheet)[0].regions[0].outer);
    expect(after.blank!.openings.filter((loop) => !before.blank!.openings.includes(loop))).toHaveLength(1);
  });

  test("crosses to the page as what is another, not as all of its holes", () => {
    const [examine, sender, receiver] = [createExaminer(), new Sender(), new Receiver()];
    const many = Array.from(
      { length: 1600 },
      (_, i): Hole => ({
        key: `h${i}`,
        x: String(((i % 40) - 19.5) * PITCH),
        y: String((Math.floor(i / 40) - 19.5) * PITCH),
        d: "6",
      }),
    );
    const wide = (holes: readonly Hole[]) => ({
      ...partOf(holes, "400", []),
      steps: [{ id: "s1", kind: "plate", width: "400", depth: "400", holes: [...holes] }],
    });
    const first = { build: examine(wide(many)) };
    const all = structuredClone(sender.pack(first));
    receiver.unpack(all);
    const moved = many.map((h, i) => (i === 700 ? { ...h, d: "5" } : h));
    const second = { build: examine(wide(moved)) };
    const packet = structuredClone(sender.pack(second));
    expect(receiver.unpack(packet)).toEqual(second);
    expect(packetBytes(packet)).toBeLessThan(packetBytes(all) / 50);
  });
});
