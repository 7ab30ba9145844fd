import { DOCUMENT_VERSION, newPart, type PartCommand, type PartDocument } from "@hillcrest/core";
import { afterAll, beforeEach, describe, expect, test, vi } from "vitest";
import { Refused, Unreachable } from "../src/api/ask.ts";
import { openPart, partActions, partsReducer } from "../src/state/part-slice.ts";
import "../src/state/part-tools.ts";
import { readDraft } from "../src/state/read-draft.ts";
import { lastSaves, saveNow, startSaving } from "../src/state/saving.ts";
import { store } from "../src/state/store.ts";

interface Sent {
  readonly id: string;
  readonly revision: number;
  readonly commands: readonly PartCommand[];
  readonly land: () => void;
  readonly fail: (error: Error) => void;
}

const { sent } = vi.hoisted(() => ({ sent: [] as Sent[] }));
vi.mock("../src/api/parts-api.ts", () => ({
  partsApi: {
    edit: (id: string, revision: number, commands: readonly PartCommand[]) =>
      new Promise((resolve, reject) => {
        sent.push({ id, revision, commands, land: () => resolve({ revision: revision + 1 }), fail: reject });
      }),
  },
}));

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
});
const listeners = new Map<string, (e?: Pick<Event, "preventDefault">) => void>();
vi.stubGlobal("window", { addEventListener: (type: string, f: () => void) => void listeners.set(type, f) });
vi.useFakeTimers();
afterAll(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
startSaving();

const documentOf = (width: string): PartDocument => ({
  ...newPart("Part"),
  steps: [{ id: "s1", kind: "plate", width, depth: "80" }],
});
const open = (id: string, revision = 1) =>
  store.dispatch(partActions.opened({ id, revision, document: documentOf("100") }));
const set = (width: string) =>
  store.dispatch(partActions.edited({ command: { do: "set", step: "s1", values: { width } } }));
const leave = (id: string) => {
  void saveNow(id);
  store.dispatch(partActions.closed(undefined, id));
};
const settled = () => vi.advanceTimersByTimeAsync(0);
const widthSent = (s: Sent) => JSON.stringify(s.commands);
const parts = () => Object.keys(store.getState().parts.parts);
const draftOf = (id: string) => readDraft(id, documentOf("100"))?.document.steps[0].width;

beforeEach(async () => {
  // Nothing of one test is under way in the next.
  for (const id of parts()) store.dispatch(partActions.closed(undefined, id));
  for (const s of sent.splice(0)) s.land();
  await vi.advanceTimersByTimeAsync(60_000);
  for (const s of sent.splice(0)) s.land();
  await settled();
  kept.clear();
});

describe("saving", () => {
  test("waits for a pause, sends what was done, and keeps it in the browser until it has arrived", async () => {
    open("a");
    set("110");
    set("111");
    await vi.advanceTimersByTimeAsync(400);
    expect(sent).toEqual([]);
    expect(draftOf("a")).toBe("111");
    await vi.advanceTimersByTimeAsync(200);
    expect(sent.map((s) => [s.id, s.revision])).toEqual([["a", 1]]);
    expect(widthSent(sent[0])).toContain("111");
    expect(openPart(store.getState()).saving.at).toBe("saving");
    sent[0].land();
    await settled();
    expect(openPart(store.getState())).toMatchObject({ revision: 2, saving: { at: "saved" } });
    expect(draftOf("a")).toBeUndefined();
  });

  test("what was done while a save was under way goes after it, to the revision that it made", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    set("120");
    await vi.advanceTimersByTimeAsync(5000);
    expect(sent.length).toBe(1);
    sent[0].land();
    await vi.advanceTimersByTimeAsync(600);
    expect(sent.length).toBe(2);
    expect(sent[1].revision).toBe(2);
    expect(widthSent(sent[1])).toContain("120");
  });

  test("a part that was left goes on being saved, whatever is opened meanwhile", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    set("120");
    leave("a");
    open("b", 7);
    set("210");
    expect(parts()).toEqual(["a", "b"]);
    sent[0].land();
    await vi.advanceTimersByTimeAsync(600);
    const rest = sent.slice(1).map((s) => [s.id, s.revision]);
    expect(rest).toContainEqual(["a", 2]);
    expect(rest).toContainEqual(["b", 7]);
    for (const s of sent.slice(1)) s.land();
    await settled();
    // What is neither open nor unsaved is not kept.
    expect(parts()).toEqual(["b"]);
    expect(draftOf("a")).toBeUndefined();
  });

  test("while there is no server it is tried ever more seldom, also for a part that was left", async () => {
    open("a");
    set("110");
    leave("a");
    for (let tries = 1; tries <= 3; tries++) {
      expect(sent.length).toBe(tries);
      sent[tries - 1].fail(new Unreachable());
      await settled();
      expect(store.getState().parts.parts.a.saving).toEqual({ at: "unreachable", tries });
      await vi.advanceTimersByTimeAsync(500 * 2 ** tries - 10);
      expect(sent.length).toBe(tries);
      await vi.advanceTimersByTimeAsync(20);
    }
    expect(draftOf("a")).toBe("110");
    listeners.get("online")!();
    sent[3].land();
    await settled();
    expect(parts()).toEqual([]);
  });

  test("one that is opened again before it has arrived is as it was left", async () => {
    open("a");
    set("110");
    leave("a");
    open("a");
    expect(openPart(store.getState()).document?.steps[0].width).toBe("110");
    sent[0].land();
    await settled();
    expect(openPart(store.getState())).toMatchObject({ revision: 2, saving: { at: "saved" } });
  });

  test("what another has saved meanwhile is asked about, and nothing more is sent until it is settled", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    const current = { revision: 5, document: documentOf("300") };
    sent[0].fail(new Refused(409, { detail: "newer", current }));
    await vi.advanceTimersByTimeAsync(30_000);
    expect(openPart(store.getState()).conflict).toEqual(current);
    expect(sent.length).toBe(1);
    store.dispatch(partActions.conflictSettled({ keep: "mine" }));
    void saveNow("a");
    expect(sent[1].revision).toBe(5);
    sent[1].land();
    await settled();
    expect(openPart(store.getState())).toMatchObject({ revision: 6, saving: { at: "saved" } });
  });

  test("what this window itself sent as it was left is no other's: nothing is asked", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    sent[0].fail(
      new Refused(409, { detail: "newer", current: { revision: 2, document: documentOf("110") } }),
    );
    await settled();
    expect(openPart(store.getState())).toMatchObject({ revision: 2, saving: { at: "saved" } });
    expect(openPart(store.getState()).conflict).toBeUndefined();
    expect(draftOf("a")).toBeUndefined();
  });

  test("what was done while a save was under way goes on from that save, when the window is opened again", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    set("120");
    leave("a");
    // The save landed as revision 2; its answer reached nobody.
    expect(readDraft("a", documentOf("110"), 2)).toMatchObject({ revision: 2, document: documentOf("120") });
    // Another's work in its place is another's.
    expect(readDraft("a", documentOf("300"), 2)?.revision).toBe(1);
    sent[0].land();
    await settled();
  });

  test("what the server refuses is said, kept and not sent again by itself", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    sent[0].fail(new Refused(400, { detail: "It does not go." }));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(sent.length).toBe(1);
    expect(openPart(store.getState()).saving).toEqual({ at: "refused", message: "It does not go." });
    expect(draftOf("a")).toBe("110");
    set("115");
    await vi.advanceTimersByTimeAsync(600);
    expect(widthSent(sent[1])).toContain("115");
  });

  test("what the server cannot write just now is sent again by itself, and why is said", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    sent[0].fail(new Refused(507, { detail: "There is no room left." }));
    await settled();
    expect(openPart(store.getState()).saving).toEqual({
      at: "unreachable",
      tries: 1,
      why: "There is no room left.",
    });
    await vi.advanceTimersByTimeAsync(2000);
    expect(sent.length).toBe(2);
    sent[1].land();
    await settled();
    expect(openPart(store.getState()).saving).toEqual({ at: "saved" });
  });

  test("what the browser has no room for is said, asked about before the page is left, and kept when there is room", async () => {
    open("a");
    const full = vi.spyOn(globalThis.localStorage, "setItem").mockImplementation(() => {
      throw new Error("full");
    });
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    sent[0].fail(new Unreachable());
    await settled();
    expect(openPart(store.getState()).unkept).toBe(true);
    const leaving = () => {
      const event = { preventDefault: vi.fn() };
      listeners.get("beforeunload")!(event);
      return event.preventDefault.mock.calls.length > 0;
    };
    expect(leaving()).toBe(true);
    full.mockRestore();
    await vi.advanceTimersByTimeAsync(6000);
    expect(draftOf("a")).toBe("110");
    expect([openPart(store.getState()).unkept, leaving()]).toEqual([false, false]);
    sent.at(-1)!.land();
    await settled();
  });

  test("at the window's end everything unsaved is sent at once", async () => {
    open("a");
    set("110");
    await vi.advanceTimersByTimeAsync(600);
    set("120");
    leave("a");
    open("b");
    set("210");
    sent.length = 1;
    listeners.get("pagehide")!();
    const last = sent.slice(1).map((s) => `${s.id} ${s.revision} ${widthSent(s)}`);
    expect(last.length).toBe(2);
    expect(last[0]).toContain("120");
    expect(last[1]).toContain("210");
  });

  test("looking for the last saves waits for all that are under way", async () => {
    open("a");
    set("110");
    leave("a");
    let ended = false;
    void lastSaves().then(() => {
      ended = true;
    });
    await settled();
    expect(ended).toBe(false);
    sent[0].land();
    await settled();
    expect(ended).toBe(true);
  });
});

describe("the parts at hand", () => {
  test("what is done goes to the part that it names, else to the open one, else nowhere", () => {
    const first = partsReducer(
      undefined,
      partActions.opened({ id: "a", revision: 1, document: documentOf("1") }),
    );
    const edited = partsReducer(
      first,
      partActions.edited({ command: { do: "set", step: "s1", values: { width: "2" } } }),
    );
    const both = partsReducer(
      edited,
      partActions.opened({ id: "b", revision: 1, document: documentOf("3") }),
    );
    expect(both.open).toBe("b");
    const named = partsReducer(both, partActions.undone(undefined, "a"));
    expect(named.parts.b).toBe(both.parts.b);
    // Undone, it is what the server has, and not open: it need not be kept.
    expect(named.parts.a).toBeUndefined();
    expect(partsReducer(both, partActions.undone(undefined, "c"))).toBe(both);
    const closed = partsReducer(both, partActions.closed());
    expect(closed.open).toBeUndefined();
    expect(partsReducer(closed, partActions.undone())).toBe(closed);
    // Closing one that is not open leaves the open one open.
    expect(partsReducer(both, partActions.closed(undefined, "a")).open).toBe("b");
  });
});

test("a draft that an earlier Hillcrest left is brought up to date: nothing of it is lost", () => {
  const points = [
    [0, 0],
    [50, 0],
    [50, 20],
  ].map(([x, y], i) => ({ key: `k${i}`, x: String(x), y: String(y) }));
  const older = {
    ...newPart("Older"),
    version: 2,
    steps: [{ id: "s1", kind: "plate", form: "outline", points }],
  };
  kept.set("hillcrest:unsaved:old", JSON.stringify({ revision: 4, document: older }));
  const draft = readDraft("old", documentOf("100"))!;
  expect(draft.revision).toBe(4);
  expect(draft.document.version).toBe(DOCUMENT_VERSION);
  expect(draft.document.steps[0]).toMatchObject({ form: "drawn", drawn: draft.document.outlines![0].key });
  expect(draft.document.outlines![0].outline.curves.length).toBe(3);
});
