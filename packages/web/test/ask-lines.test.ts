import { afterEach, describe, expect, test, vi } from "vitest";
import { askLines, Refused, Unreachable } from "../src/api/ask.ts";
import { partsApi } from "../src/api/parts-api.ts";

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** A server that answers in these pieces, however they cut lines and letters; one that is told `open` sends no end. */
function answers(pieces: readonly Uint8Array[], { status = 200, open = false } = {}) {
  const asked: RequestInit[] = [];
  vi.stubGlobal("fetch", async (_path: string, how: RequestInit) => {
    asked.push(how);
    const body = new ReadableStream<Uint8Array>({
      async start(to) {
        how.signal?.addEventListener("abort", () => to.error(how.signal?.reason));
        for (const piece of pieces) {
          await Promise.resolve();
          to.enqueue(piece);
        }
        if (!open) to.close();
      },
    });
    return new Response(body, { status });
  });
  return asked;
}
const bytes = (text: string) => new TextEncoder().encode(text);
const take = async (signal = new AbortController().signal) => {
  const lines: unknown[] = [];
  await askLines("/stock/impact", { card: "a" }, { signal, onLines: (more) => lines.push(...more) });
  return lines;
};

describe("an answer that comes line by line", () => {
  const told = [{ name: "Säge ½″" }, { n: 1 }, { n: 2 }];
  const text = bytes(told.map((t) => `${JSON.stringify(t)}\n`).join(""));

  test("is told whole wherever it is cut, also within a letter", async () => {
    for (let at = 1; at < text.length; at++) {
      answers([text.slice(0, at), text.slice(at)]);
      expect(await take()).toEqual(told);
    }
    answers([...text].map((b) => Uint8Array.of(b)));
    expect(await take()).toEqual(told);
  });

  test("sends what is asked as JSON", async () => {
    const [how] = [answers([text])];
    await take();
    expect(how[0]).toMatchObject({ method: "POST", body: '{"card":"a"}' });
  });

  test("that is refused says why, and one that is cut off is no answer", async () => {
    answers([bytes('{"detail":"There is no such card."}')], { status: 400 });
    await expect(take()).rejects.toThrow(Refused);
    await expect(take()).rejects.toThrow("There is no such card.");
    answers([bytes('{"n":1}\n{"n"'), bytes(":\n")]);
    await expect(take()).rejects.toThrow(Unreachable);
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
    await expect(take()).rejects.toThrow(Unreachable);
  });

  test("is over without a word for whoever ends it", async () => {
    const mine = new AbortController();
    answers([text], { open: true });
    const lines: unknown[] = [];
    const over = askLines(
      "/x",
      {},
      {
        signal: mine.signal,
        onLines: (more) => {
          lines.push(...more);
          mine.abort();
        },
      },
    );
    await over;
    expect(lines).toEqual(told);
  });

  test("may be silent for a minute, as long as a part is built, and no longer", async () => {
    vi.useFakeTimers();
    answers([text], { open: true });
    const asked = take().catch((error: unknown) => error);
    let over = false;
    void asked.then(() => {
      over = true;
    });
    await vi.advanceTimersByTimeAsync(59_000);
    expect(over).toBe(false);
    await vi.advanceTimersByTimeAsync(2_000);
    expect(await asked).toBeInstanceOf(Unreachable);
  });
});

test("a picture of an earlier revision is waited for longer than the server takes to give it up", async () => {
  const patience = vi.spyOn(AbortSignal, "timeout");
  const asked = answers([bytes("{}")]);
  await partsApi.preview("a", 3);
  expect(patience.mock.lastCall![0]).toBeGreaterThan(30_000);
  await partsApi.edit("a", 3, [], true);
  expect(patience.mock.lastCall![0]).toBe(15_000);
  expect(asked.map((how) => [how.method, how.keepalive])).toEqual([
    ["GET", false],
    ["PATCH", true],
  ]);
});
