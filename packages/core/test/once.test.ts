import { expect, test } from "vitest";
import { Once } from "../src/once.ts";

test("what is made once is made when it is first asked for, also where it comes to nothing", () => {
  const asked = { times: 0 };
  const nothing = new Once(() => {
    asked.times++;
    return undefined;
  });
  expect(asked.times).toBe(0);
  expect([nothing.value, nothing.value]).toEqual([undefined, undefined]);
  expect(asked.times).toBe(1);
});

test("what could not be made is tried again", () => {
  const ready = { now: false };
  const table = new Once(() => {
    if (!ready.now) throw new Error("not read yet");
    return [1.5, 2];
  });
  expect(() => table.value).toThrow("not read yet");
  ready.now = true;
  expect(table.value).toBe(table.value);
  expect(table.value).toEqual([1.5, 2]);
});
