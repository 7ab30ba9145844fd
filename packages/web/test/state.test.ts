import {
  applyCommands,
  examinePart,
  newPart,
  type PartDocument,
  patchBetween,
  platesOf,
} from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { type BuildState, withBuild } from "../src/state/build-slice.ts";
import { commandsToSave, type PartState, partActions, partReducer } from "../src/state/part-slice.ts";
import "../src/state/part-tools.ts";
import { pickKey, viewActions, viewReducer, viewToKeep } from "../src/state/view-slice.ts";

const documentOf = (width: string, length = "25"): PartDocument => ({
  ...newPart("Part"),
  steps: [
    { id: "s1", kind: "plate", width, depth: "80" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length },
  ],
});

const first = documentOf("100");
const opened = partReducer(undefined, partActions.opened({ id: "p", revision: 1, document: first }));
const edit = (state: PartState, document: PartDocument, mark?: string) =>
  partReducer(
    state,
    partActions.edited({ command: patchBetween(state.document!, document), step: "s1", mark }),
  );

describe("undo", () => {
  test("takes the typing of one value as one step, and another value as another", () => {
    const typed = ["1", "12", "120"].reduce((s, w) => edit(s, documentOf(w), "field:1"), opened);
    const second = edit(typed, documentOf("120", "30"), "field:2");
    expect(second.trail.past.length).toBe(2);
    const back = partReducer(second, partActions.undone());
    expect(back.document).toEqual(documentOf("120"));
    expect(partReducer(back, partActions.undone()).document).toBe(first);
    const again = partReducer(partReducer(back, partActions.undone()), partActions.redone());
    expect(again.document).toEqual(documentOf("120"));
    expect(edit(back, documentOf("5")).trail.future).toEqual([]);
  });
});

describe("saving", () => {
  test("is done only when what landed is what is there now", () => {
    const state = edit(opened, documentOf("120"));
    const changed = state.document!;
    expect(state.saving.at).toBe("waiting");
    const landed = partReducer(state, partActions.saveLanded({ revision: 2, document: changed }));
    expect(landed).toMatchObject({ revision: 2, saving: { at: "saved" } });
    const newer = edit(state, documentOf("130"));
    const late = partReducer(newer, partActions.saveLanded({ revision: 2, document: changed }));
    expect(late).toMatchObject({ revision: 2, saving: { at: "waiting" } });
    // Undone back to what the server has there is nothing left to save.
    expect(partReducer(state, partActions.undone()).saving.at).toBe("saved");
  });

  test("in two windows: keeping mine goes on from their revision, taking theirs can be undone", () => {
    const mine = documentOf("120");
    const theirs = documentOf("140");
    const edited = edit(opened, mine);
    const met = partReducer(edited, partActions.conflictFound({ revision: 5, document: theirs }));
    const kept = partReducer(met, partActions.conflictSettled({ keep: "mine" }));
    expect(kept).toMatchObject({ revision: 5, saving: { at: "waiting" } });
    expect(kept.document).toBe(edited.document);
    const taken = partReducer(met, partActions.conflictSettled({ keep: "theirs" }));
    expect(taken).toMatchObject({ revision: 5, saving: { at: "saved" } });
    expect(taken.document).toBe(theirs);
    expect(partReducer(taken, partActions.undone()).document).toEqual(mine);
  });
});

describe("what is sent", () => {
  const set = (state: PartState, width: string, mark?: string) =>
    partReducer(
      state,
      partActions.edited({ command: { do: "set", step: "s1", values: { width } }, step: "s1", mark }),
    );
  /** What the server has once all that is to be saved has arrived. */
  const arrived = (server: PartDocument, state: PartState) => {
    const done = applyCommands(server, commandsToSave(state) ?? []);
    if (!done.ok) throw new Error(done.error);
    return done.value.document;
  };

  test("is the last of what was typed, not all of it on the way", () => {
    const typed = ["1", "12", "120"].reduce((s, w) => set(s, w, "field:1"), opened);
    expect(typed.unsent).toEqual([{ do: "set", step: "s1", values: { width: "120" } }]);
    expect(typed.trail.past.length).toBe(1);
    expect(arrived(first, typed)).toEqual(typed.document);
  });

  test("goes on from what is under way, and comes again when that did not arrive", () => {
    const begun = partReducer(set(opened, "110"), partActions.saveBegun());
    expect(begun).toMatchObject({ unsent: [], saving: { at: "saving" } });
    const more = set(begun, "120");
    const landed = partReducer(more, partActions.saveLanded({ revision: 2, document: documentOf("110") }));
    expect(landed.saving.at).toBe("waiting");
    expect(arrived(documentOf("110"), landed)).toEqual(documentOf("120"));
    const failed = partReducer(more, partActions.saveFailed({ at: "unreachable", tries: 1 }));
    expect(failed.saving.at).toBe("unreachable");
    expect(arrived(first, failed)).toEqual(documentOf("120"));
    // Typed back to what the server has while it is still on its way: the server must hear of that too.
    const back = set(begun, "100");
    expect(back.saving.at).toBe("waiting");
    const there = partReducer(back, partActions.saveLanded({ revision: 2, document: documentOf("110") }));
    expect(arrived(documentOf("110"), there)).toEqual(first);
  });

  test("is nothing once all was taken back, and the document is that of the server", () => {
    const there = set(set(opened, "110"), "120");
    const back = partReducer(partReducer(there, partActions.undone()), partActions.undone());
    expect(back).toMatchObject({ unsent: [], saving: { at: "saved" } });
    expect(back.document).toBe(first);
    const again = partReducer(back, partActions.redone());
    expect(arrived(first, again)).toEqual(documentOf("110"));
  });

  test("of long work without the server is one command, whatever was done", () => {
    const lengths = (n: number) =>
      Array.from({ length: n }, (_, i) => i).reduce(
        (s, i) =>
          partReducer(
            s,
            partActions.edited({
              command: {
                do: "set",
                step: i % 2 ? "s1" : "s2",
                values: i % 2 ? { width: `${i}` } : { length: `${i}` },
              },
            }),
          ),
        opened,
      );
    const short = lengths(100);
    expect(commandsToSave(short)).toBe(short.unsent);
    expect(short.unsent.length).toBe(100);
    for (const n of [101, 700]) {
      const long = lengths(n);
      expect(commandsToSave(long)?.length).toBe(1);
      expect(arrived(first, long)).toEqual(long.document);
      const sent = partReducer(
        partReducer(long, partActions.saveBegun()),
        partActions.saveLanded({ revision: 2, document: long.document! }),
      );
      expect(commandsToSave(sent)).toBeUndefined();
    }
  });

  test("at the window's end is also what is still on its way", () => {
    const begun = partReducer(set(opened, "110"), partActions.saveBegun());
    const more = partReducer(
      begun,
      partActions.edited({ command: { do: "set", step: "s2", values: { length: "40" } } }),
    );
    expect(arrived(first, more)).toEqual(documentOf("110", "40"));
  });

  test("of work that had not reached the server is what it differs by", () => {
    const reopened = partReducer(
      undefined,
      partActions.opened({ id: "p", revision: 3, document: first, unsaved: documentOf("150") }),
    );
    expect(reopened.unsent).toEqual([{ do: "patch", set: { s1: { width: "150" } } }]);
    expect(partReducer(reopened, partActions.undone()).document).toBe(first);
  });

  test("after a conflict is what makes mine of theirs", () => {
    const met = partReducer(
      set(opened, "120"),
      partActions.conflictFound({ revision: 5, document: documentOf("140", "30") }),
    );
    const kept = partReducer(met, partActions.conflictSettled({ keep: "mine" }));
    expect(arrived(documentOf("140", "30"), kept)).toEqual(documentOf("120"));
  });

  test("is no command that does not go", () => {
    const command = { do: "remove", step: "s9" } as const;
    expect(partReducer(opened, partActions.edited({ command }))).toBe(opened);
    expect(set(opened, "100")).toBe(opened);
  });
});

describe("the last good shape", () => {
  const show = (
    state: BuildState | undefined,
    document: PartDocument,
    edit: { step?: string; mark?: string },
  ) => withBuild(state ?? { stale: false }, { build: examinePart(document), document, edit, took: 1 });
  const good = show(undefined, documentOf("100"), {});
  const wrong = documentOf("100", "1");

  test("stays while the value being typed is wrong, and goes when it is right again", () => {
    const stale = show(good, wrong, { step: "s2", mark: "field:1" });
    expect(stale.stale).toBe(true);
    expect(stale.shown).toBe(good.shown);
    expect(stale.latest?.findings.length).toBe(1);
    const mended = show(stale, documentOf("100", "12"), { step: "s2", mark: "field:1" });
    expect(mended.stale).toBe(false);
    expect(mended.shown?.build).toBe(mended.latest);
  });

  test("stays while an earlier value on its way breaks a later step", () => {
    const stale = show(good, documentOf("1"), { step: "s1", mark: "field:1" });
    expect(stale.stale).toBe(true);
    expect(show(stale, documentOf("2"), { step: "s1", mark: "field:1" }).stale).toBe(true);
    expect(show(stale, documentOf("150"), { step: "s1", mark: "field:1" }).stale).toBe(false);
  });

  test("gives way to the rest of the part once something else is edited", () => {
    const stale = show(good, wrong, { step: "s2", mark: "field:1" });
    const moved = show(stale, { ...wrong, stock: { ...wrong.stock, thickness: "1.6" } }, { mark: "field:2" });
    expect(moved.stale).toBe(false);
    expect(platesOf(moved.shown?.build.sheet).length).toBe(1);
  });

  test("is not kept when a step is paused or removed on purpose", () => {
    const [plate, flange] = documentOf("100").steps;
    const lip = { id: "s3", kind: "flange", edges: [{ key: "a", at: "s2a.end" }], length: "10" };
    const whole = { ...documentOf("100"), steps: [plate, flange, lip] };
    const before = show(undefined, whole, {});
    const paused = { ...whole, steps: [plate, { ...flange, paused: true }, lip] };
    const after = show(before, paused, { step: "s2" });
    expect(after.stale).toBe(false);
    expect(after.latest?.findings[0].rule).toBe("edge-gone");
  });

  test("a part that is wrong when it is opened is shown as far as it goes", () => {
    const state = show(undefined, wrong, {});
    expect(state.stale).toBe(false);
    expect(platesOf(state.shown?.build.sheet).length).toBe(1);
  });
});

describe("what the pointer is over", () => {
  const over = (...ids: string[]) => viewActions.hovered(ids.map((id) => ({ kind: "bend", id })));
  const start = viewReducer(undefined, viewActions.hovered([]));

  test("may be several things, and is the same state while they are", () => {
    const two = viewReducer(start, over("s2a", "s3a"));
    expect(two.hovered.map(pickKey)).toEqual(["bend:s2a", "bend:s3a"]);
    expect(viewReducer(two, over("s2a", "s3a"))).toBe(two);
    expect(viewReducer(two, over("s2a")).hovered).toHaveLength(1);
    expect(viewReducer(two, over()).hovered).toEqual([]);
  });

  test("is nothing that is kept between visits, nor how far the part is folded; the views that are shown are", () => {
    const kept = viewToKeep(start);
    expect(viewToKeep(viewReducer(start, over("s2a")))).toBe(kept);
    expect(viewToKeep(viewReducer(start, viewActions.folded(0.4)))).toBe(kept);
    expect(viewToKeep(viewReducer(start, viewActions.viewsChosen("blank")))).not.toBe(kept);
  });
});
