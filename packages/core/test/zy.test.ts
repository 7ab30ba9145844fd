import fc from "fast-check";
import { test } from "vitest";
import { buildPart } from "../src/index.ts";
import { randomChain } from "./random-chains.ts";
test("x", () => {
  const m = new Map<string, number>();
  for (const d of fc.sample(randomChain, { numRuns: 300, seed: 7 })) { const b = buildPart(d);
    for (const f of b.findings) if (f.level === "stop") { const k = f.message.replace(/[0-9.]+/g, "#").slice(0, 110); m.set(k, (m.get(k) ?? 0) + 1); } }
  for (const [k, n] of [...m].sort((a, b) => b[1] - a[1]).slice(0, 25)) console.log(n, k);
});
