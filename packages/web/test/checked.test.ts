import { examinePart, type Finding, newPart, type PartDocument } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import {
  type BuildsState,
  buildActions,
  buildsReducer,
  findingsOf,
  isChecking,
} from "../src/state/build-slice.ts";
import { viewActions, viewReducer } from "../src/state/view-slice.ts";

const documentOf = (width: string): PartDocument => ({
  ...newPart("Part"),
  steps: [
    { id: "s1", kind: "plate", width, depth: "80" },
    {
      ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "25" },
      ...{ span: "inset", leftInset: "10", leftRelief: "none" },
    },
  ],
});

const arrive = (state: BuildsState, document: PartDocument) =>
  buildsReducer(
    state,
    buildActions.built({ part: "p", build: examinePart(document), document, edit: {}, took: 1 }),
  );
const collision: Finding = { level: "stop", rule: "collision", message: "They meet.", step: "s2" };

describe("what a search for collisions finds", () => {
  const document = documentOf("100");
  const built = arrive({}, document);
  const found = buildsReducer(built, buildActions.checked({ part: "p", document, findings: [collision] }));

  test("stands among the other findings, the gravest first", () => {
    expect(isChecking(built.p)).toBe(true);
    expect(findingsOf(built.p).map((f) => f.rule)).toEqual(["relief"]);
    expect(isChecking(found.p)).toBe(false);
    expect(findingsOf(found.p).map((f) => f.rule)).toEqual(["collision", "relief"]);
    // The same list as long as nothing of it has changed: nothing is drawn again for it.
    expect(findingsOf(found.p)).toBe(findingsOf({ ...found.p }));
  });

  test("stays until the next document has been looked at, and then is what was found there", () => {
    const next = documentOf("120");
    const later = arrive(found, next);
    expect(isChecking(later.p)).toBe(true);
    expect(findingsOf(later.p).map((f) => f.rule)).toEqual(["collision", "relief"]);
    const free = buildsReducer(later, buildActions.checked({ part: "p", document: next, findings: [] }));
    expect(findingsOf(free.p).map((f) => f.rule)).toEqual(["relief"]);
  });

  test("is nothing of a part that has no sheet, and says why where it could not be found", () => {
    const empty = { ...newPart("Part") };
    const none = arrive(found, empty);
    expect(findingsOf(none.p)).toEqual(examinePart(empty).findings);
    const failed = buildsReducer(
      built,
      buildActions.checkFailed({ part: "p", document, message: "It takes longer than 60 s to build." }),
    );
    expect(failed.p.collisions?.failed).toContain("longer than 60 s");
    expect(findingsOf(failed.p).map((f) => f.rule)).toEqual(["relief"]);
    expect(isChecking(failed.p)).toBe(false);
  });
});

describe("a build that takes its time", () => {
  const document = documentOf("100");

  test("says how far it is until its shape is there, and the last shape stays meanwhile", () => {
    const before = arrive({}, document);
    const said = buildsReducer(before, buildActions.progressed({ part: "p", share: 0.4, doing: "Checks" }));
    expect(said.p.progress).toEqual({ share: 0.4, doing: "Checks" });
    expect(said.p.shown).toBe(before.p.shown);
    expect(arrive(said, documentOf("120")).p.progress).toBeUndefined();
    const failed = buildsReducer(said, buildActions.buildFailed({ part: "p", message: "no" }));
    expect(failed.p).toMatchObject({ failed: "no", progress: undefined });
  });

  test("may be stopped: that is said of the document that it was of, until something is built again", () => {
    const said = buildsReducer({}, buildActions.progressed({ part: "p", share: 0.4, doing: "Checks" }));
    const stopped = buildsReducer(said, buildActions.stopped({ part: "p", document }));
    expect(stopped.p).toMatchObject({ stopped: document, progress: undefined });
    const again = buildsReducer(
      stopped,
      buildActions.progressed({ part: "p", share: 0.1, doing: "Step 1 of 2" }),
    );
    expect(again.p.stopped).toBeUndefined();
    expect(arrive(stopped, document).p.stopped).toBeUndefined();
  });
});

describe("what is only tried", () => {
  const before = arrive({}, documentOf("100"));
  const tried = { build: examinePart(documentOf("140")) };
  const shown = buildsReducer(before, buildActions.previewed({ part: "p", shape: tried }));

  test("is drawn in the place of the part, whose findings and numbers stay", () => {
    expect(shown.p.shown?.build).toBe(tried.build);
    expect(shown.p.latest).toBe(before.p.latest);
    const twice = buildsReducer(shown, buildActions.previewed({ part: "p", shape: tried }));
    expect(buildsReducer(twice, buildActions.previewEnded("p")).p.shown).toBe(before.p.shown);
  });

  test("gives way when it is ended, and to a build that arrives", () => {
    const ended = buildsReducer(shown, buildActions.previewEnded("p"));
    expect(ended.p.shown).toBe(before.p.shown);
    expect(buildsReducer(ended, buildActions.previewEnded("p"))).toBe(ended);
    const next = arrive(shown, documentOf("160"));
    expect(next.p.shown?.build.blank?.width).toBeGreaterThan(160);
    expect(buildsReducer(next, buildActions.previewEnded("p"))).toBe(next);
  });

  test("is not drawn where there is nothing yet, nor where it came to nothing", () => {
    expect(buildsReducer({}, buildActions.previewed({ part: "p", shape: tried }))).toEqual({});
    const nothing = { build: examinePart(newPart("Part")) };
    expect(buildsReducer(before, buildActions.previewed({ part: "p", shape: nothing }))).toBe(before);
  });
});

describe("the two pieces of which the view shows what they share", () => {
  const pair = [
    { kind: "plate", id: "a" },
    { kind: "bend", id: "b" },
  ] as const;
  const open = viewReducer(undefined, viewActions.drawerChosen("findings"));
  const shown = viewReducer(open, viewActions.clashShown(pair));

  test("are let go of when the findings are shut, or another part is opened", () => {
    expect(shown.clash).toEqual(pair);
    expect(viewReducer(shown, viewActions.drawerChosen("bends")).clash).toBeUndefined();
    expect(viewReducer(shown, viewActions.drawerChosen("findings")).clash).toBeUndefined();
    expect(viewReducer(shown, viewActions.benchEntered()).clash).toBeUndefined();
  });

  test("levels are left out and listed again, each by itself", () => {
    const without = viewReducer(open, viewActions.levelToggled("warn"));
    expect(without.hiddenLevels).toEqual(["warn"]);
    expect(viewReducer(without, viewActions.levelToggled("note")).hiddenLevels).toEqual(["warn", "note"]);
    expect(viewReducer(without, viewActions.levelToggled("warn")).hiddenLevels).toEqual([]);
  });
});
