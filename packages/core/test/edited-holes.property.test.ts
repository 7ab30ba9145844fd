import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  createExaminer,
  examinePart,
  type PartBuild,
  type PartDocument,
  type StepDocument,
} from "../src/index.ts";
import { hole, part, plate } from "./plain-parts.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(20261127);
const RUNS = casesOf(150);

interface Place {
  readonly x: number;
  readonly y: number;
  readonly d: number;
}

// On so coarse a grid holes stand clear, touch, run into each other and over the edge, and lie beside the plate.
const place: fc.Arbitrary<Place> = fc.record({
  x: fc.integer({ min: -34, max: 34 }),
  y: fc.integer({ min: -24, max: 24 }),
  d: fc.constantFrom(2, 3, 4),
});

interface Edit {
  readonly does: "move" | "remove" | "add" | "swap" | "nothing" | "half-typed";
  readonly which: number;
  readonly to: Place;
}

const edit: fc.Arbitrary<Edit> = fc.record({
  does: fc.constantFrom("move", "move", "remove", "add", "swap", "nothing", "half-typed"),
  which: fc.nat(),
  to: place,
});

type Holes = readonly ReturnType<typeof hole>[];

const made = ({ x, y, d }: Place, key: string) => hole(String(d), String(x), String(y), key);

function edited(holes: Holes, { does, which, to }: Edit, fresh: string): Holes {
  const i = which % Math.max(1, holes.length);
  const j = (i + 1) % Math.max(1, holes.length);
  if (does === "nothing" || does === "half-typed") return holes;
  if (does === "add" || holes.length === 0) return [...holes.slice(0, i), made(to, fresh), ...holes.slice(i)];
  if (does === "remove") return holes.filter((_, k) => k !== i);
  if (does === "move") return holes.map((h, k) => (k === i ? made(to, h.key) : h));
  return holes.map((h, k) => (k === i ? holes[j] : k === j ? holes[i] : h));
}

/** A flange and an opening more, so that the plate has a bend beside its holes and cuts that come after them. */
const around: readonly StepDocument[] = [
  { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "20" },
  {
    ...{ id: "s3", kind: "cut", form: "rectangle", plate: [{ key: "a", at: "s1" }] },
    ...{ width: "6", height: "4", x: "-20", y: "10" },
  },
];

const withHoles = (holes: Holes, more: boolean): PartDocument =>
  part(plate("60", "40", holes), ...(more ? around : []));

/** All that a build says of its openings that a person could read or cut. */
const told = ({ blank, findings, bends }: PartBuild) => ({
  outlines: blank?.outlines,
  openings: blank?.openings,
  measured: [blank?.area, blank?.lengths, blank?.width, blank?.height],
  findings: findings.map(({ mend: _mend, ...f }) => f),
  bends,
});

describe("a plate whose holes are moved, added, taken away and changed about", () => {
  const cases = [
    // Fewer are shaped anew at each edit.
    fc.uniqueArray(place, { minLength: 20, maxLength: 32, selector: ({ x, y }) => `${x} ${y}` }),
    fc.array(edit, { minLength: 1, maxLength: 10 }),
    fc.boolean(),
  ] as const;

  test("is after every edit what one would be that was never anything else", () => {
    fc.assert(
      fc.property(...cases, (places, edits, more) => {
        const examine = createExaminer();
        let holes: Holes = places.map((p, i) => made(p, `h${i}`));
        examine(withHoles(holes, more));
        edits.forEach((one, i) => {
          // A value of which half is typed stops the step; the next key is a build after one that failed.
          if (one.does === "half-typed") {
            const wrong = holes.map((h, k) => (k === one.which % holes.length ? { ...h, d: "1/" } : h));
            examine(withHoles(wrong, more));
          }
          holes = edited(holes, one, `n${i}`);
          const document = withHoles(holes, more);
          expect(told(examine(structuredClone(document)))).toEqual(
            told(examinePart(structuredClone(document))),
          );
        });
      }),
      { numRuns: RUNS },
    );
  });
});
