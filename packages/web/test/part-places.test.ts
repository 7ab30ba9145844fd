import { expect, test } from "vitest";
import { PART_PLACES, placeOf } from "../src/part-places.ts";

test("an address names its page; every other address of a part is the Bench", () => {
  for (const place of PART_PLACES) expect(placeOf(`/parts/p1${place.path && `/${place.path}`}`)).toBe(place);
  expect(placeOf("/parts/blanket")).toBe(PART_PLACES[0]);
  expect(placeOf("/parts/p1/none").path).toBe("");
});

test("every page but the Bench is led to from its head, each under another path", () => {
  const [bench, ...others] = PART_PLACES;
  expect([bench.path, bench.link]).toEqual(["", undefined]);
  for (const { path, link } of others) expect([path, link?.label, link?.about]).not.toContain(undefined);
  expect(new Set(PART_PLACES.map((p) => p.path)).size).toBe(PART_PLACES.length);
});
