import { type Blank, buildPart, insideLoop, type Point, platesOf, runsOf, type Sheet } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { pickKey } from "../src/state/view-slice.ts";
import { FoundOnBlank } from "../src/views/blank/found-on-blank.ts";
import { pickOf } from "../src/views/pick-names.ts";
import { isRound, pickPlacesOf } from "../src/views/pick-places.ts";
import { demoDocuments } from "./demo-documents.ts";

const parts = demoDocuments.map(([name, document]) => {
  const { sheet, blank } = buildPart(document);
  return { name, sheet: sheet!, blank: blank! };
});

/** Numbers from 0 to 1 that are the same at every run. */
function numbers(seed: number): () => number {
  let at = seed;
  return () => {
    at = (at * 1103515245 + 12345) % 2 ** 31;
    return at / 2 ** 31;
  };
}

const toRun = (p: Point, a: Point, b: Point): number => {
  const length2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
  const f = length2 === 0 ? 0 : ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / length2;
  const g = Math.max(0, Math.min(1, f));
  return Math.hypot(a.x + (b.x - a.x) * g - p.x, a.y + (b.y - a.y) * g - p.y);
};

/** What of a kind lies nearest, and how far: every one of them is looked at. */
function nearest<T>(all: readonly T[], far: (one: T) => number): { one?: T; far: number } {
  return all.reduce<{ one?: T; far: number }>(
    (best, one) => {
      const d = far(one);
      return d < best.far ? { one, far: d } : best;
    },
    { far: Infinity },
  );
}

/** The keys that would be right at a place, by looking at everything: several where two lie equally near. */
function wanted(sheet: Sheet, blank: Blank, p: Point, zoom: number): readonly string[] {
  const places = pickPlacesOf(sheet);
  const classes = [
    {
      within: 7,
      all: places.corners.map((c) => ({
        key: `corner:${c.name}`,
        d: Math.hypot(c.at.x - p.x, c.at.y - p.y),
      })),
    },
    {
      within: 6.5,
      all: places.borders
        .flatMap((b) => (places.isFlat(b.owner) ? [b] : []))
        .map((b) => ({
          key: pickKey(pickOf(b)),
          d: Math.min(...runsOf(b).map(([from, to]) => toRun(p, from, to))),
        })),
    },
    {
      within: 5.5,
      all: blank.centreLines.flatMap(({ bend, pieces }) =>
        pieces.map((l) => ({ key: `bend:${bend}`, d: toRun(p, l.a, l.b) })),
      ),
    },
  ];
  for (const { within, all } of classes) {
    const best = nearest(all, (o) => o.d);
    if (best.far * zoom < within) return all.filter((o) => o.d < best.far + 1e-9).map((o) => o.key);
  }
  const plate = platesOf(sheet).find(({ regions }) =>
    regions.some((r) => insideLoop(r.outer, p) && !r.holes.some((h) => insideLoop(h, p))),
  );
  if (plate) return [`plate:${plate.id}`];
  const round = places.borders.find((b) => {
    if (!isRound(b)) return false;
    const [c] = b.curves;
    return c.kind === "arc" && Math.hypot(p.x - c.c.x, p.y - c.c.y) < c.r;
  });
  return round ? [pickKey(pickOf(round))] : ["nothing"];
}

describe("what is found at a place of the blank, of which nothing is an element", () => {
  const all: string[] = [];
  test.each(parts.map((p) => [p.name, p] as const))("of %s is what looking at everything finds", (_, {
    sheet,
    blank,
  }) => {
    const found = new FoundOnBlank(pickPlacesOf(sheet), blank);
    const { minX, maxX, minY, maxY } = blank.bounds;
    const next = numbers(7);
    const kinds = new Set<string>();
    for (let i = 0; i < 300; i++) {
      const zoom = [0.5, 3, 12][i % 3];
      // Half of them about things that can be picked.
      const near =
        pickPlacesOf(sheet).borders[Math.floor(next() * pickPlacesOf(sheet).borders.length)].curves[0].a;
      const p =
        i % 2 === 0
          ? { x: minX - 5 + next() * (maxX - minX + 10), y: minY - 5 + next() * (maxY - minY + 10) }
          : { x: near.x + (next() - 0.5) * 12, y: near.y + (next() - 0.5) * 12 };
      const pick = found.at(p, zoom);
      expect(wanted(sheet, blank, p, zoom), `${p.x}, ${p.y} at ${zoom}`).toContain(
        pick ? pickKey(pick) : "nothing",
      );
      if (pick?.kind === "plate") expect([pick.x, pick.y]).toEqual([p.x, p.y]);
      kinds.add(pick?.kind ?? "nothing");
    }
    all.push(...kinds);
  });

  test("of all the parts that was something of every kind, and nothing", () => {
    expect(new Set(all)).toEqual(new Set(["corner", "edge", "hole", "bend", "plate", "nothing"]));
  });

  test("in the middle of a round opening of a plate is the opening, and beside all metal nothing", () => {
    const { sheet, blank } = parts.find((p) => p.name === "sensor-shelter-side.json")!;
    const found = new FoundOnBlank(pickPlacesOf(sheet), blank);
    const rounds = pickPlacesOf(sheet).borders.filter(isRound);
    expect(rounds.length).toBeGreaterThan(3);
    for (const border of rounds) {
      const [arc] = border.curves;
      if (arc.kind === "arc") expect(found.at(arc.c, 50)).toEqual(pickOf(border));
    }
    expect(found.at({ x: blank.bounds.maxX + 100, y: 0 }, 1)).toBeUndefined();
  });
});
