import { describe, expect, test } from "vitest";
import { applyCommand, examinePart, type Mend, mendCommand, type PartDocument } from "../src/index.ts";
import { at, part, plate, wall } from "./ruled-parts.ts";

const mendsOf = (document: PartDocument, rule: string): Mend[] =>
  examinePart(document).findings.flatMap((f) => (f.rule === rule && f.mend ? [f.mend] : []));

/** A document after its mends of a rule are taken, as one edit; with the document that undo gives. */
function mended(document: PartDocument, rule: string): { document: PartDocument; undone: PartDocument } {
  const command = mendCommand(document, mendsOf(document, rule));
  if (!command) throw new Error("There is nothing to mend.");
  const done = applyCommand(document, command);
  if (!done.ok) throw new Error(done.error);
  const back = applyCommand(done.value.document, done.value.undo);
  if (!back.ok) throw new Error(back.error);
  return { document: done.value.document, undone: back.value.document };
}

const hole = (x: number, y: number, d = 6, key = "a") => ({ key, x: String(x), y: String(y), d: String(d) });

describe("a mend is one action after which its finding is gone", () => {
  test.each<[string, string, PartDocument]>([
    ["a leg is made longer", "short-leg", part(plate(), wall("s2", "s1.north", { length: "8" }))],
    [
      "a leg of two edges is made longer once",
      "short-leg",
      part(plate(), wall("s2", "s1.north", { edges: at("s1.north", "s1.south"), length: "8.5" })),
    ],
    [
      "a leg whose length is an expression",
      "short-leg",
      part(plate(), wall("s2", "s1.north", { length: "2*t + 5" })),
    ],
    [
      "a leg at an angle, to its tangent",
      "short-leg",
      part(plate(), wall("s2", "s1.north", { length: "3", lengthTo: "tangent", angle: "60" })),
    ],
    [
      "a hole of the plate is moved away from a bend of each side",
      "opening-to-bend",
      part(
        plate({ holes: [hole(0, 32), hole(50, 0, 8, "b")] }),
        wall("s2", "s1.north"),
        wall("s3", "s1.east", { turn: "down" }),
      ),
    ],
    [
      "a hole of a wall is moved up",
      "opening-to-bend",
      part(plate(), wall("s2", "s1.east", { holes: [hole(5, 9)] })),
    ],
    [
      "a radius becomes one of the card's",
      "card-radius",
      part(plate(), wall("s2", "s1.north", { radius: "2.4" })),
    ],
    [
      "bend ends are relieved",
      "relief",
      part(
        plate(),
        wall("s2", "s1.north", {
          span: "inset",
          leftInset: "20",
          rightInset: "20",
          leftRelief: "none",
          rightRelief: "none",
        }),
      ),
    ],
  ])("%s", (_name, rule, document) => {
    expect(mendsOf(document, rule).length).toBeGreaterThan(0);
    const after = mended(document, rule);
    const left = examinePart(after.document).findings;
    expect(left.filter((f) => f.rule === rule && f.mend).map((f) => f.message)).toEqual([]);
    expect(left.filter((f) => f.level === "stop")).toEqual([]);
    expect(after.undone).toEqual(document);
  });

  test("changes no more than it says: a plain number stays one, an expression keeps what it was", () => {
    const lengthOf = (length: string) =>
      mended(part(plate(), wall("s2", "s1.north", { length })), "short-leg").document.steps[1].length;
    expect(lengthOf("8")).toMatch(/^9\.\d+$/);
    expect(lengthOf("2*t + 5")).toMatch(/^\(2\*t \+ 5\) \+ 1\.\d+$/);
    const { document } = mended(
      part(plate({ holes: [hole(7, 32), hole(0, 0, 6, "b")] }), wall("s2", "s1.north")),
      "opening-to-bend",
    );
    const [moved, other] = document.steps[0].holes as { x: string; y: string }[];
    expect(moved.x).toBe("7");
    expect(Number(moved.y)).toBeLessThan(32);
    expect(other).toEqual(hole(0, 0, 6, "b"));
  });

  test("is said in the units of the part", () => {
    const inches = { ...part(plate(), wall("s2", "s1.north", { length: "8" })), units: "in" as const };
    expect(mendsOf(inches, "short-leg")[0].title).toMatch(/^Make it 0\.\d+ in longer$/);
  });

  test("is not offered where no number would do it", () => {
    // The leg is long enough by its number: an opening in it is not.
    const holed = part(plate(), wall("s2", "s1.north", { holes: [hole(0, 8, 4)] }));
    const short = examinePart(holed).findings.filter((f) => f.rule === "short-leg");
    expect(short.length).toBe(1);
    expect(short[0].mend).toBeUndefined();
    const meant = wall("s2", "s1.north", { radius: "2.4", reason: "a hinge runs in it" });
    expect(mendsOf(part(plate(), meant), "card-radius")).toEqual([]);
  });

  test("is nothing once its step, or its hole, is gone", () => {
    const document = part(plate({ holes: [hole(0, 32)] }), wall("s2", "s1.north", { length: "8" }));
    const [moves, longer] = ["opening-to-bend", "short-leg"].map((rule) => mendsOf(document, rule));
    expect(mendCommand({ ...document, steps: [] }, [...moves, ...longer])).toBeUndefined();
    const bare = part(plate(), wall("s2", "s1.north"));
    expect(mendCommand(bare, moves)).toBeUndefined();
  });
});
