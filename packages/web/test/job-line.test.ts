import type { JobMessage, JobOutcome, JobRequest } from "@hillcrest/core";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { JobLine, type JobPlace, type LineOptions } from "../src/worker/job-line.ts";

/** A worker that answers when the test says so. */
class Place implements JobPlace {
  onmessage: JobPlace["onmessage"] = null;
  onerror: JobPlace["onerror"] = null;
  readonly asked: JobRequest[] = [];
  ended = false;

  postMessage(request: JobRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.ended = true;
  }
  say(message: JobMessage): void {
    this.onmessage?.({ data: message });
  }
  /** Answers the last job that it was asked for. */
  finish(result: unknown): void {
    this.say({ id: this.asked.at(-1)!.id, result });
  }
}

let places: Place[];
const open = () => {
  const place = new Place();
  places.push(place);
  return place;
};
const lineOf = (more: Partial<LineOptions> = {}) =>
  new JobLine(open, { limit: 1000, patience: 100, ...more });
const inputs = (place: Place) => place.asked.map((r) => r.input);
const settle = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => {
  places = [];
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe("a worker that has closed itself", () => {
  test("is missed at the next job, which another does", async () => {
    const line = lineOf({ limit: 60_000 });
    const first = line.run<string>("build", "a");
    places[0].say({ id: places[0].asked[0].id, begun: true });
    places[0].finish("A");
    expect(await first).toEqual({ kind: "result", value: "A" });
    // It says nothing any more.
    const second = line.run<string>("build", "b");
    await vi.advanceTimersByTimeAsync(5000);
    expect([places.length, places[0].ended, inputs(places[1])]).toEqual([2, true, ["b"]]);
    places[1].finish("B");
    expect(await second).toEqual({ kind: "result", value: "B" });
  });

  test("is not taken for one that works long, nor one that has never answered", async () => {
    const line = lineOf({ limit: 60_000 });
    void line.run<string>("build", "a");
    await vi.advanceTimersByTimeAsync(20_000);
    expect(places.length).toBe(1);
    places[0].say({ id: places[0].asked[0].id, begun: true });
    places[0].finish("A");
    void line.run<string>("build", "b");
    places[0].say({ id: places[0].asked[1].id, begun: true });
    await vi.advanceTimersByTimeAsync(20_000);
    expect(places.length).toBe(1);
  });
});

describe("a line of jobs", () => {
  test("does one after another, in the order in which they were asked for", async () => {
    const line = lineOf();
    const answers: JobOutcome<string>[] = [];
    for (const part of ["a", "b", "c"])
      void line.run<string>("build", part, { part }).then((o) => answers.push(o));
    const [place] = places;
    expect(inputs(place)).toEqual(["a"]);
    place.finish("A");
    place.finish("B");
    place.finish("C");
    await settle();
    expect(inputs(place)).toEqual(["a", "b", "c"]);
    expect(answers).toEqual(["A", "B", "C"].map((value) => ({ kind: "result", value })));
    expect(places.length).toBe(1);
  });

  test("of several of one kind and part does only the newest, and answers the others at once", async () => {
    const line = lineOf();
    const answers: Record<number, JobOutcome<string>> = {};
    for (const i of [1, 2, 3, 4])
      void line.run<string>("build", i, { part: "p" }).then((o) => {
        answers[i] = o;
      });
    void line.run<string>("prove", 9, { part: "p" }).then((o) => {
      answers[9] = o;
    });
    await settle();
    const superseded = { kind: "cancelled", because: "superseded" };
    expect(answers).toEqual({ 1: superseded, 2: superseded, 3: superseded });
    // The one under way goes on for a while, so that what the worker knows is not lost.
    places[0].finish("one");
    places[0].finish("four");
    places[0].finish("nine");
    await settle();
    expect(inputs(places[0])).toEqual([1, 4, 9]);
    expect(answers[4]).toEqual({ kind: "result", value: "four" });
    expect(answers[9]).toEqual({ kind: "result", value: "nine" });
  });

  test("ends a worker that goes on with what nobody wants, and starts another", async () => {
    const replaced = vi.fn();
    const line = lineOf({ onReplaced: replaced });
    void line.run("build", 1, { part: "p" });
    const second = line.run("build", 2, { part: "p" });
    await vi.advanceTimersByTimeAsync(99);
    expect(places[0].ended).toBe(false);
    await vi.advanceTimersByTimeAsync(2);
    expect(places[0].ended).toBe(true);
    expect(replaced).toHaveBeenCalledTimes(1);
    expect(inputs(places[1])).toEqual([2]);
    // What the old worker still says is no answer.
    places[0].say({ id: places[1].asked[0].id, result: "old" });
    places[1].finish("new");
    expect(await second).toEqual({ kind: "result", value: "new" });
  });

  test("sends what departs only when it is really sent: what is overtaken while it waits never does", async () => {
    const departed: unknown[] = [];
    const line = lineOf({
      depart: (kind, input) => {
        departed.push(input);
        return `${kind} ${String(input)}`;
      },
    });
    const first = line.run("build", "a", { part: "p" });
    void line.run("build", "b", { part: "p" });
    const last = line.run("build", "c", { part: "p" });
    places[0].finish("one");
    await settle();
    places[0].finish("three");
    expect((await last).kind).toBe("result");
    expect((await first).kind).toBe("cancelled");
    expect(departed).toEqual(["a", "c"]);
    expect(inputs(places[0])).toEqual(["build a", "build c"]);
  });

  test("lets every result arrive, also one that nobody waits for", async () => {
    const arrived: unknown[] = [];
    const line = lineOf({
      arrive: (result) => {
        arrived.push(result);
        return `unpacked ${String(result)}`;
      },
    });
    void line.run("build", 1, { part: "p" });
    const second = line.run("build", 2, { part: "p" });
    places[0].finish("one");
    places[0].finish("two");
    expect(await second).toEqual({ kind: "result", value: "unpacked two" });
    expect(arrived).toEqual(["one", "two"]);
  });

  test("ends a job over its limit in plain words, and does the next in another worker", async () => {
    const line = lineOf();
    const slow = line.run("build", "slow", { part: "a" });
    const next = line.run("build", "next", { part: "b" });
    await vi.advanceTimersByTimeAsync(1001);
    expect(await slow).toEqual({ kind: "limit", message: "It takes longer than 1 s to build." });
    expect(places[0].ended).toBe(true);
    // Waiting did not count.
    await vi.advanceTimersByTimeAsync(900);
    places[1].finish("done");
    expect(await next).toEqual({ kind: "result", value: "done" });
  });

  test("tells of a failure, of a worker that breaks, and goes on", async () => {
    const line = lineOf();
    const failing = line.run("build", 1, { part: "a" });
    places[0].say({ id: places[0].asked[0].id, failure: "It has no plate." });
    expect(await failing).toEqual({ kind: "failure", message: "It has no plate." });
    const breaking = line.run("build", 2, { part: "a" });
    places[0].onerror?.({ message: "out of memory" });
    expect(await breaking).toEqual({ kind: "failure", message: "out of memory" });
    const fine = line.run("build", 3, { part: "a" });
    places[1].finish("fine");
    expect(await fine).toEqual({ kind: "result", value: "fine" });
  });

  test("stops at a signal, before it begins or while it runs, and tells how far it is", async () => {
    const line = lineOf();
    const [early, late] = [new AbortController(), new AbortController()];
    early.abort();
    const aborted = { kind: "cancelled", because: "aborted" };
    expect(await line.run("build", 0, { part: "a", signal: early.signal })).toEqual(aborted);
    const shares: unknown[] = [];
    const running = line.run("build", 1, {
      part: "a",
      signal: late.signal,
      onProgress: (share, doing) => shares.push([share, doing]),
    });
    places[0].say({ id: places[0].asked[0].id, progress: 0.5, doing: "Step 1 of 2" });
    late.abort();
    places[0].say({ id: places[0].asked[0].id, progress: 0.9 });
    expect(await running).toEqual(aborted);
    expect(shares).toEqual([[0.5, "Step 1 of 2"]]);
  });

  test("is closed with everything answered", async () => {
    const line = lineOf();
    const all = ["a", "b"].map((part) => line.run("build", part, { part }));
    line.close();
    for (const one of all) expect(await one).toEqual({ kind: "cancelled", because: "closed" });
    expect(places[0].ended).toBe(true);
  });
});
