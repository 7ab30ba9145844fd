import { drawTool, newPart, type Outline, type Place } from "@hillcrest/core";
import { beforeEach, describe, expect, test } from "vitest";
import { takeTool } from "../src/pages/bench/drawing/drawing-keys.ts";
import {
  drawnNow,
  emptyOutline,
  freshOutlineName,
  outlinesOf,
  placeGiven,
  putKind,
  standKind,
  toolOf,
  typedNumbers,
  withNewOutline,
} from "../src/state/drawing.ts";
import { drawingActions } from "../src/state/drawing-slice.ts";
import { openPart, partActions } from "../src/state/part-slice.ts";
import "../src/state/part-tools.ts";
import { store } from "../src/state/store.ts";
import { viewActions } from "../src/state/view-slice.ts";

const at = (x: number, y: number): Place => ({ at: [x, y] });
const drawing = () => store.getState().drawing;
const now = (): Outline => drawnNow(store.getState())!;
const nothing = { numbers: {}, wrong: {} };
const give = (place: Place, typed = nothing) => store.dispatch(placeGiven(place, now(), typed));
const undo = () => store.dispatch(partActions.undone());

let parts = 0;

// A part of its own for each: one that is still to be saved is kept as it is.
beforeEach(() => {
  store.dispatch(viewActions.benchEntered());
  const document = { ...newPart("Drawn"), outlines: [{ key: "a", outline: emptyOutline("One") }] };
  store.dispatch(partActions.opened({ id: `p${++parts}`, revision: 1, document }));
  store.dispatch(drawingActions.opened({ key: "a", tool: "line" }));
});

describe("a chain", () => {
  test("goes on from where each piece ends, each piece one undo, and ends back at its beginning", () => {
    give(at(0, 0));
    expect([drawing().places.length, now().curves.length]).toEqual([1, 0]);
    give(at(40, 0));
    give(at(40, 30));
    expect([drawing().places[0].at, now().curves.length]).toEqual([[40, 30], 2]);
    const start = Object.keys(now().points)[0];
    expect(drawing().places[0].start).toBe(start);
    give({ at: [0, 0], caught: { by: "point", id: start } });
    expect([drawing().places, now().curves.length]).toEqual([[], 3]);
    undo();
    expect(now().curves.length).toBe(2);
    undo();
    undo();
    expect(now().curves).toEqual([]);
  });

  test("goes on with an arc by its key, and with lines again; another tool begins anew", () => {
    give(at(0, 0));
    give(at(40, 0));
    store.dispatch(takeTool("lead-on"));
    expect([drawing().tool, drawing().places.length]).toEqual(["lead-on", 1]);
    give(at(55, 15));
    expect(now().curves.map((c) => c.kind)).toEqual(["line", "arc"]);
    expect(now().relations.some((r) => r.kind === "tangent")).toBe(true);
    store.dispatch(takeTool("line"));
    expect(drawing().places.length).toBe(1);
    store.dispatch(takeTool("circle"));
    expect(drawing().places).toEqual([]);
  });
});

describe("what is typed", () => {
  const circle = drawTool("circle")!;
  test("is a number in the part's units, with the text that is kept; what is empty is left to the pointer", () => {
    expect(typedNumbers(circle, { diameter: " 12.5 " }, "mm", undefined).numbers.diameter).toMatchObject({
      value: 12.5,
    });
    const inch = typedNumbers(circle, { diameter: "3/4" }, "in", undefined).numbers.diameter!;
    expect(inch.value).toBeCloseTo(19.05, 9);
    expect(String(inch.text)).toContain("in");
    expect(typedNumbers(circle, { diameter: "  " }, "mm", undefined)).toEqual({ numbers: {}, wrong: {} });
    expect(typedNumbers(drawTool("polygon")!, {}, "mm", undefined).numbers.sides).toEqual({
      text: "6",
      value: 6,
    });
  });

  test.each([
    "wide",
    "3/0",
    "12 +",
    "5%",
    "1e400",
  ])("%s is never passed over: nothing is drawn, and it says why", (text) => {
    store.dispatch(takeTool("circle"));
    give(at(0, 0));
    const typed = typedNumbers(circle, { diameter: text }, "mm", undefined);
    give(at(9, 0), typed as typeof nothing);
    expect(now().curves).toEqual([]);
    expect(drawing().problem).toMatch(/^Diameter: /);
    // The place that was given stays: the number is mended, and the circle is drawn there.
    expect(drawing().places.length).toBe(1);
    give(at(9, 0), typedNumbers(circle, { diameter: "12" }, "mm", undefined) as typeof nothing);
    expect(now().curves.length).toBe(1);
    expect(drawing().problem).toBeUndefined();
  });

  test("is gone once it is drawn, but for what stays for the next one", () => {
    store.dispatch(takeTool("polygon"));
    store.dispatch(drawingActions.typed({ sides: "8", diameter: "20" }));
    const typed = typedNumbers(drawTool("polygon")!, drawing().typed, "mm", undefined) as typeof nothing;
    give(at(0, 0), typed);
    give(at(5, 0), typed);
    expect(now().curves.filter((c) => c.kind === "line").length).toBe(8);
    expect(drawing().typed).toEqual({ sides: "8" });
  });
});

describe("picks and tools", () => {
  test("a tool that works on picks says what it needs, and is put away when it has drawn", () => {
    store.dispatch(takeTool("circle"));
    give(at(0, 0));
    give(at(5, 0));
    store.dispatch(drawingActions.toolChosen(undefined));
    store.dispatch(takeTool("copy"));
    expect([drawing().tool, drawing().problem]).toEqual([
      undefined,
      "Copy: pick what it is about first, then press W.",
    ]);
    store.dispatch(drawingActions.picked({ id: now().curves[0].id, add: false }));
    expect(drawing().problem).toBeUndefined();
    store.dispatch(takeTool("copy"));
    give(at(0, 0));
    give(at(20, 0));
    expect([now().curves.length, drawing().tool]).toEqual([2, undefined]);
  });

  test("Shift adds to what is picked and takes away; without it one thing is picked", () => {
    const pick = (id: string, add: boolean) => store.dispatch(drawingActions.picked({ id, add }));
    pick("a", false);
    pick("b", true);
    expect(drawing().picks).toEqual(["a", "b"]);
    pick("a", true);
    expect(drawing().picks).toEqual(["b"]);
    pick("c", false);
    expect(drawing().picks).toEqual(["c"]);
  });

  test("tools of their own names: a kept outline that is gone is no tool, a reference's always is", () => {
    const { stock } = store.getState();
    expect(toolOf(stock, undefined)).toBeUndefined();
    expect(toolOf(stock, "circle")?.kind).toBe("circle");
    expect(toolOf(stock, putKind("gone", true))).toBeUndefined();
    expect(toolOf(stock, standKind("l1"))?.stages.length).toBe(1);
  });

  test("picking for a step makes room, and another part begins without a drawing; the grid stays", () => {
    store.dispatch(drawingActions.gridChosen(5));
    store.dispatch(viewActions.pickingStarted({ step: "s1", field: "edges", of: "edge" }));
    expect([drawing().key, drawing().grid]).toEqual([undefined, 5]);
    store.dispatch(drawingActions.opened({ key: "a" }));
    store.dispatch(viewActions.pickingStarted(undefined));
    expect(drawing().key).toBe("a");
    store.dispatch(viewActions.benchEntered());
    expect(drawing().key).toBeUndefined();
  });
});

test("a new outline has a key and a name that no other has", () => {
  const { key, outlines } = withNewOutline();
  expect(outlines.map((o) => o.key)).toEqual(["a", key]);
  expect(new Set(outlines.map((o) => o.outline.name)).size).toBe(2);
  expect(freshOutlineName([{ key: "x", outline: emptyOutline("Outline 2") }])).toBe("Outline 3");
  // Nothing is in the part before it is put there.
  expect(outlinesOf(store.getState()).length).toBe(1);
  expect(openPart(store.getState()).trail.past).toEqual([]);
});
