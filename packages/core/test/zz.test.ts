import fc from "fast-check";
import { test } from "vitest";
import { writeFileSync } from "node:fs";
import { blankOf, buildPart, developedArea, evenState, examinePart, foldedVolume, foldMesh, foldPoint, foldSheet, isClosedManifold, meshSheet, meshVolume, pointAt, readDocument, unfoldPoint, samePoint, type PartDocument } from "../src/index.ts";
import { randomChain } from "./random-chains.ts";
const N = Number(process.env.N ?? 600), SEED = Number(process.env.SEED ?? 5);
function check(d: PartDocument): string | undefined {
  let stage = "read";
  try {
    const r = readDocument(JSON.parse(JSON.stringify(d)));
    if (!r.ok) return "read " + r.error[0].path + r.error[0].message;
    stage = "build";
    const b = buildPart(d);
    stage = "examine"; examinePart(d);
    for (const s of b.steps) if (s.state === "wrong" && !b.findings.some((f) => f.step === s.id && f.level === "stop")) return "untold";
    const sheet = b.sheet; if (!sheet) return;
    stage = "blank";
    const blank = blankOf(sheet);
    const area = developedArea(sheet);
    if (blank.overlaps.length === 0 && Math.abs(blank.area - area) > 1e-5 * Math.max(1, area)) return `area ${blank.area} ${area}`.slice(0,5);
    for (const loop of [...blank.outlines, ...blank.openings]) for (const [i,c] of loop.entries()) if (!samePoint(c.b, loop[(i+1)%loop.length].a, 1e-6)) return "open loop";
    stage = "mesh";
    for (const s of [0, 0.37, 1]) {
      const f = foldSheet(sheet, evenState(sheet, s));
      const m = foldMesh(meshSheet(sheet, 0.05), f);
      if (m.triangles.length && !isClosedManifold(m)) return "manifold " + s;
      stage = "fold";
      for (const [o, part] of [...sheet.plates, ...sheet.bends].entries()) for (const region of part.regions) for (const c of region.outer) {
        const p = pointAt(c, 0.3);
        const q = unfoldPoint(f, o, foldPoint(f, o, [p.x, p.y, 0.4 * sheet.t]));
        if (!(Math.hypot(q[0]-p.x, q[1]-p.y, q[2]-0.4*sheet.t) < 1e-9)) return "roundtrip";
      }
    }
    stage = "volume";
    const want = foldedVolume(sheet);
    if (want > 1) {
      const v = meshVolume(foldMesh(meshSheet(sheet, 0.005), foldSheet(sheet, evenState(sheet, 1))));
      if (Math.abs(v / want - 1) > 3e-3) return "volume " ;
    }
    if (b.findings.some((f) => f.rule === "seam" && f.level === "stop")) return undefined;
  } catch (e) { return stage + " threw " + String(e).slice(0, 80) + " " + String((e as Error).stack).split("\n")[1]; }
  return undefined;
}
test("x", () => {
  const docs = fc.sample(randomChain, { numRuns: N, seed: SEED });
  const found = new Map<string, { n: number; d: PartDocument }>();
  const kinds = new Map<string, [number, number]>();
  for (const d of docs) { writeFileSync("/tmp/last.json", JSON.stringify(d));
    const r = check(d);
    for (const s of buildPart(d).steps) { const k = d.steps.find(x=>x.id===s.id)!.kind; const c = kinds.get(k) ?? [0,0]; c[s.state === "built" ? 0 : 1]++; kinds.set(k, c); }
    if (!r) continue;
    let small = d;
    for (let again = true; again;) { again = false; for (let i = small.steps.length - 1; i > 0; i--) { const t = { ...small, steps: small.steps.filter((_, k) => k !== i) }; if (check(t) === r) { small = t; again = true; break; } } }
    const old = found.get(r);
    if (!old) found.set(r, { n: 1, d: small }); else { old.n++; if (JSON.stringify(small).length < JSON.stringify(old.d).length) old.d = small; }
  }
  console.log([...kinds].map(([k, [a, b]]) => `${k} ${a}/${a + b}`).join(", "));
  let i = 0;
  for (const [r, { n, d }] of found) { console.log(n, r, d.steps.map((s) => s.kind).join(" ")); writeFileSync(`/tmp/f${i++}.json`, JSON.stringify(d)); }
}, 200000);
