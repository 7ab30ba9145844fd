import { describe, expect, test } from "vitest";
import { attempt, reopen, workMetal } from "../src/sheet/draft.ts";
import { draftOf } from "./draft-of.ts";
import { part, plate } from "./plain-parts.ts";

const draft = () =>
  draftOf(
    part(plate("60", "40"), {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "20",
    }),
  )!;
const work = { kind: "cut", step: "s9", loops: [] } as const;

describe("a draft that is opened again", () => {
  test("leaves the one that it was opened from as it was, plates and bends", () => {
    const before = draft();
    const [metal, strip] = [before.pieces.plate("s1")!.metal, before.pieces.carrier("s2a")!.metal];
    const open = reopen(before);
    workMetal(open, { plate: "s1" }, work);
    workMetal(open, { carrier: "s2a" }, work);
    open.pieces.put({ ...open.pieces.plate("s1")!, id: "new" });
    expect(before.pieces.plate("s1")!.metal).toBe(metal);
    expect(before.pieces.carrier("s2a")!.metal).toBe(strip);
    expect(before.pieces.plate("new") !== undefined).toBe(false);
    expect(open.pieces.plate("s1")!.metal).toHaveLength(metal.length + 1);
  });

  test("is as it was after work that is refused half way, and as the work leaves it after work that is not", () => {
    const open = reopen(draft());
    const [metal, strip] = [open.pieces.plate("s1")!.metal, open.pieces.carrier("s2a")!.metal];
    const half = () => {
      workMetal(open, { plate: "s1" }, work);
      workMetal(open, { carrier: "s2a" }, work);
      open.roots = [];
    };
    attempt(open, () => {
      half();
      return { message: "No." };
    });
    expect(open.pieces.plate("s1")!.metal).toBe(metal);
    expect(open.pieces.carrier("s2a")!.metal).toBe(strip);
    expect(open.roots).toHaveLength(1);
    attempt(open, () => {
      half();
      return undefined;
    });
    expect(open.pieces.plate("s1")!.metal).toHaveLength(metal.length + 1);
    expect(open.roots).toHaveLength(0);
  });
});
