import type { JobMessage, JobRequest } from "@hillcrest/core";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { serveJobs } from "../src/worker/serve-jobs.ts";

let said: { message: JobMessage; handed: readonly Transferable[] }[];
let hear: (e: { data: JobRequest }) => void;
let now: number;

beforeEach(() => {
  said = [];
  now = 0;
  vi.stubGlobal("self", {
    postMessage: (message: JobMessage, handed: readonly Transferable[]) => said.push({ message, handed }),
    addEventListener: (_: string, listener: typeof hear) => {
      hear = listener;
    },
  });
  vi.spyOn(performance, "now").mockImplementation(() => now);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const settle = () => new Promise((done) => setTimeout(done, 0));
/** What was said, but for that a job has arrived, which is said at once. */
const messages = () => said.map((s) => s.message).filter((m) => !("begun" in m));

describe("jobs in a worker", () => {
  test("are said to have arrived at once, though another is being done", () => {
    serveJobs({ slow: () => new Promise(() => undefined) });
    hear({ data: { id: 1, kind: "slow", input: 0 } });
    hear({ data: { id: 2, kind: "slow", input: 0 } });
    expect(said.map((s) => s.message)).toEqual([
      { id: 1, begun: true },
      { id: 2, begun: true },
    ]);
  });

  test("are done in the order in which they are asked for, each answered once", async () => {
    const done: unknown[] = [];
    serveJobs({
      slow: async (input: number) => {
        await settle();
        done.push(input);
        return { result: input };
      },
      quick: (input: number) => {
        done.push(input);
        return { result: input };
      },
    });
    hear({ data: { id: 1, kind: "slow", input: 1 } });
    hear({ data: { id: 2, kind: "quick", input: 2 } });
    await settle();
    await settle();
    expect(done).toEqual([1, 2]);
    expect(messages()).toEqual([
      { id: 1, result: 1 },
      { id: 2, result: 2 },
    ]);
  });

  test("say how far they are no oftener than it can be read, with what is being done", async () => {
    serveJobs({
      build: (_: never, { progress }) => {
        for (let i = 1; i <= 10; i++) {
          now += 30;
          progress(i / 10, `Step ${i} of 10`);
        }
        return { result: "built" };
      },
    });
    hear({ data: { id: 7, kind: "build", input: undefined } });
    await settle();
    // A tenth of a second apart: at 120 and 240 ms of 300.
    expect(messages()).toEqual([
      { id: 7, progress: 0.4, doing: "Step 4 of 10" },
      { id: 7, progress: 0.8, doing: "Step 8 of 10" },
      { id: 7, result: "built" },
    ]);
  });

  test("of no kind that is known, and those that throw, are told with why", async () => {
    serveJobs({
      breaks: () => {
        throw new Error("No.");
      },
    });
    hear({ data: { id: 1, kind: "other", input: 0 } });
    hear({ data: { id: 2, kind: "breaks", input: 0 } });
    await settle();
    expect(messages()).toEqual([
      { id: 1, failure: 'There is no job of the kind "other" here.' },
      { id: 2, failure: "No." },
    ]);
  });

  test("hand over what they say they hand over", async () => {
    const buffer = new ArrayBuffer(8);
    serveJobs({ shape: () => ({ result: buffer, handOver: [buffer] }) });
    hear({ data: { id: 1, kind: "shape", input: 0 } });
    await settle();
    expect(said.at(-1)!.handed).toEqual([buffer]);
  });
});
