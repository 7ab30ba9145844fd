import { curvesOfShape } from "../../outline/from-shapes.ts";
import { type Curve, curveLength, curvesBounds, line } from "../../plane/curve.ts";
import { asCircle, type Loop, loopArea, loopLength, loopsBounds } from "../../plane/loop.ts";
import { NearPlaces } from "../../plane/near-places.ts";
import { hypotenuse, type Point } from "../../plane/point.ts";
import { ok, type Result } from "../../result.ts";
import { DRAWN_CONTENTS, type DrawnContent } from "../../stock/export-preset.ts";
import { formatFixed } from "../../units/quantity.ts";
import { asChained, chainCurves } from "../drawing/chains.ts";
import { curveKey } from "../drawing/curve-key.ts";
import type { DrawnBlank } from "../drawing/drawing.ts";
import type { DxfVersion } from "./dxf.ts";
import { readDxf } from "./read-shapes.ts";
import type { DxfEntity } from "./reading/dxf-file.ts";
import { type DxfRecord, numberOf } from "./reading/records.ts";

/** One thing that the file must show, and whether it does. */
export interface ProofLine {
  readonly holds: boolean;
  readonly text: string;
}

/** What reading a written file back has shown. */
export interface Proof {
  readonly holds: boolean;
  readonly lines: readonly ProofLine[];
}

/** What is nearer than this in the file is the same, in its own unit. */
const SAME = 1e-6;
/** Centres and radii of round openings are held to this. */
const ROUND = 1e-9;
/** Loops whose middles are nearer, and centres, are looked at as one that is wanted. */
const SLOT = 0.01;
const CENTRE = 1e-3;
const END = 1e-5;
const KINDS = new Set(["LINE", "ARC", "CIRCLE", "LWPOLYLINE", "POLYLINE", "TEXT"]);
const CUT: readonly DrawnContent[] = ["outline", "openings", "slits"];

/** A file as it was read: curves by layer, in the order of the file. */
interface Read {
  readonly entities: readonly DxfEntity[];
  readonly curves: readonly { readonly curve: Curve; readonly layer: string; readonly chain: number }[];
  readonly units: number | undefined;
  readonly layers: ReadonlySet<string>;
}

function readBack(text: string): Result<Read> {
  const read = readDxf(text);
  if (!read.ok) return read;
  const { file, drawn } = read.value;
  return ok({
    entities: file.entities,
    curves: drawn.shapes.flatMap((shape, i) =>
      curvesOfShape(shape).map((curve) => ({ curve, layer: drawn.layers![i].toUpperCase(), chain: i })),
    ),
    units: file.units,
    layers: file.layers,
  });
}

/**
 * Reads a DXF back with a reader that shares nothing with the writer, and holds what is in it to the blank: loops, area,
 * length, round openings, cuts of no width, bend lines, layers, units, extents; that everything is flat, nothing written
 * twice, nothing of no length. What does not hold says what was found and what was wanted.
 */
export function proveDxf(text: string, drawn: DrawnBlank, version: DxfVersion): Proof {
  const back = readBack(text);
  if (!back.ok)
    return { holds: false, lines: [{ holds: false, text: `the file cannot be read: ${back.error}` }] };
  const file = back.value;
  const lines = [
    ...proveCuts(file, drawn),
    ...proveBends(file, drawn),
    proveLayers(file, drawn),
    proveUnits(file, drawn, version),
    proveClean(file),
    ...[...drawn.stops, ...drawn.notes].map((text) => ({ holds: true, text })),
  ];
  return { holds: lines.every((l) => l.holds), lines };
}

const count = (n: number, noun: string) => `${n} ${noun}${n === 1 ? "" : "s"}`;

function layerNames({ drawing }: DrawnBlank, contents: readonly DrawnContent[]): Set<string> {
  return new Set(contents.flatMap((c) => drawing.layers.get(c)?.name.toUpperCase() ?? []));
}

/** What is cut, as loops and as what does not close. */
interface CutRead {
  readonly loops: readonly Loop[];
  readonly open: readonly (readonly Curve[])[];
  readonly joints: number;
  /** Cuts of no width that the blank has too. */
  readonly slits: number;
}

function readCuts(file: Read, drawn: DrawnBlank): CutRead {
  const names = layerNames(drawn, CUT);
  // On a layer that other things are on too, those are looked for by themselves and taken out.
  const others = new Set(
    [...drawn.facts.bendsUp, ...drawn.facts.bendsDown].flatMap((c) => [keyOf(c.a, c.b), keyOf(c.b, c.a)]),
  );
  const shared = [...layerNames(drawn, ["bendsUp", "bendsDown"])].some((n) => names.has(n));
  const torn = new Set(drawn.facts.slits.map((c) => curveKey(c, STEPS)));
  const cut = file.curves.filter(
    ({ layer, curve }) => names.has(layer) && !(shared && others.has(keyOf(curve.a, curve.b))),
  );
  // A cut of no width ends on an outline, where a chain would take a wrong turn.
  const curves = cut.filter(({ curve }) => !torn.has(curveKey(curve, STEPS)));
  const slits = cut.length - curves.length;
  const { closed, open } = chainCurves(
    curves.map((c) => c.curve),
    SAME,
  );
  const { joints, jointWidth } = drawn.facts;
  if (joints === 0) return { loops: closed, open, joints: 0, slits };
  const bridged = overGaps(open, jointWidth * (1 + 1e-6));
  return { loops: [...closed, ...bridged.loops], open: bridged.open, joints: bridged.gaps, slits };
}

/** Ends are told apart to one part in so many of a unit. */
const STEPS = 1e5;
const grid = (v: number) => Math.round(v * STEPS);
const keyOf = (a: Point, b: Point) => `${grid(a.x)},${grid(a.y)} ${grid(b.x)},${grid(b.y)}`;

/** Joins open chains over gaps that are no wider than joints are: with an arc where one circle goes on, else straight. */
function overGaps(open: readonly (readonly Curve[])[], width: number) {
  const gaps: Curve[] = [];
  const ends = open.flatMap((chain, i) => [
    { p: chain[0].a, chain: i, at: 0 },
    { p: chain[chain.length - 1].b, chain: i, at: 1 },
  ]);
  const partner = new Map<number, number>();
  const places = new NearPlaces<number>(width);
  for (const [i, { p }] of ends.entries()) places.add(p, i);
  const pairs = ends
    .flatMap(({ p }, i) =>
      places.near(p, width).map(({ at, thing: j }) => ({ i, j, far: hypotenuse(at.x - p.x, at.y - p.y) })),
    )
    .filter(({ i, j }) => i < j)
    .sort((p, q) => p.far - q.far || p.i - q.i || p.j - q.j);
  for (const { i, j } of pairs) {
    if (partner.has(i) || partner.has(j)) continue;
    partner.set(i, j).set(j, i);
    const beside = (k: number) => {
      const chain = open[ends[k].chain];
      return ends[k].at === 0 ? chain[0] : chain[chain.length - 1];
    };
    gaps.push(bridge(ends[i].p, ends[j].p, beside(i), beside(j)));
  }
  const all = chainCurves([...open.flat(), ...gaps], SAME);
  return { loops: all.closed, open: all.open, gaps: gaps.length };
}

function bridge(a: Point, b: Point, p: Curve, q: Curve): Curve {
  if (p.kind === "arc" && q.kind === "arc" && hypotenuse(p.c.x - q.c.x, p.c.y - q.c.y) < SAME) {
    const left = (a.x - p.c.x) * (b.y - p.c.y) - (a.y - p.c.y) * (b.x - p.c.x);
    return { kind: "arc", a, b, c: p.c, r: p.r, ccw: left > 0 };
  }
  return line(a, b);
}

function proveCuts(file: Read, drawn: DrawnBlank): ProofLine[] {
  const { facts, drawing } = drawn;
  const { loops, open, joints, slits } = readCuts(file, drawn);
  const known = asChained(facts);
  const wanted = [...known.outlines, ...known.openings];
  const lines: ProofLine[] = [];
  const loose = open.length;
  lines.push({
    holds: loops.length === wanted.length && loose === 0,
    text: `${count(loops.length, "closed loop")}, ${loose === 0 ? "none" : loose} open${loops.length === wanted.length ? "" : `; the blank has ${wanted.length}`}`,
  });
  const signed = (list: readonly Loop[]) => list.reduce((s, l) => s + loopArea(l), 0);
  const want = signed(wanted);
  // Outlines are cut from nothing, openings out of them: which is which the blank says, by where each lies.
  const { area, missing } = areaRead(loops, known.outlines, known.openings, facts.slack);
  const sameArea = Math.abs(area - want) <= SAME + facts.slack + 1e-12 * Math.abs(want);
  const unit = drawing.units;
  lines.push({
    holds: sameArea && missing === 0,
    text: `area ${formatFixed(area, 3)} ${unit}² ${sameArea ? "= blank" : `and not ${formatFixed(want, 3)}`}${missing > 0 ? `; ${count(missing, "loop")} not where the blank has one` : ""}`,
  });
  lines.push(proveLength(loops, wanted, drawn), ...proveRound(loops, known.openings));
  if (facts.joints > 0 || joints > 0)
    lines.push({
      holds: joints === facts.joints,
      text: `${count(joints, "micro-joint")} of ${formatFixed(facts.jointWidth, 3)} ${unit}${joints === facts.joints ? "" : `, not ${facts.joints}`}`,
    });
  if (facts.slits.length > 0) {
    const once = slits === facts.slits.length;
    lines.push({
      holds: once,
      text: `${count(slits, "cut")} of no width${once ? ", each once" : `; the blank has ${facts.slits.length}`}`,
    });
  }
  const box = loopsBounds(loops);
  const slack = SAME + (facts.slack > 0 ? Math.sqrt(facts.slack) : 0);
  const reaches = (["minX", "minY", "maxX", "maxY"] as const).every(
    (k) => Math.abs(box[k] - drawing.bounds[k]) <= slack,
  );
  lines.push({
    holds: reaches,
    text: `extents ${formatFixed(box.maxX - box.minX, 3)} × ${formatFixed(box.maxY - box.minY, 3)} ${unit}${reaches ? "" : ", which the blank has not"}`,
  });
  return lines;
}

/** The area that loops bound when each is taken for what the blank has there, and how many of the blank's are not there. */
function areaRead(
  loops: readonly Loop[],
  outlines: readonly Loop[],
  openings: readonly Loop[],
  slack: number,
): { area: number; missing: number } {
  const middleOf = (l: Loop): Point => {
    const b = curvesBounds(l);
    return { x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 };
  };
  const slots = new NearPlaces<{ area: number; loop: number }>(SLOT);
  for (const [i, l] of loops.entries()) slots.add(middleOf(l), { area: Math.abs(loopArea(l)), loop: i });
  const used = new Set<number>();
  let [area, missing] = [0, 0];
  const take = (list: readonly Loop[], sign: 1 | -1) => {
    for (const l of list) {
      const want = Math.abs(loopArea(l));
      const found = slots
        .near(middleOf(l), SLOT)
        .map((s) => s.thing)
        .filter((s) => !used.has(s.loop) && Math.abs(s.area - want) <= SAME * 10 + slack + 1e-9 * want)
        .sort((p, q) => Math.abs(p.area - want) - Math.abs(q.area - want))[0];
      if (!found) missing++;
      else {
        used.add(found.loop);
        area += sign * found.area;
      }
    }
  };
  take(outlines, 1);
  take(openings, -1);
  return { area, missing };
}

function proveLength(
  loops: readonly Loop[],
  wanted: readonly Loop[],
  { facts, drawing }: DrawnBlank,
): ProofLine {
  const sum = (list: readonly Loop[]) => list.reduce((s, l) => s + loopLength(l), 0);
  const [found, want] = [sum(loops), sum(wanted)];
  const slack =
    facts.slack > 0 ? 4 * Math.sqrt(facts.slack * (wanted.length + facts.joinedPieces)) + 1e-3 : 0;
  const holds = Math.abs(found - want) <= SAME * (1 + wanted.length) + slack;
  return {
    holds,
    text: `${formatFixed(found, 3)} ${drawing.units} round all loops${holds ? "" : `, not ${formatFixed(want, 3)}`}`,
  };
}

/** That every round opening is there as one, with its centre and its radius. */
function proveRound(loops: readonly Loop[], openings: readonly Loop[]): ProofLine[] {
  const circles = (list: readonly Loop[]) => list.flatMap((l) => asCircle(l) ?? []);
  const wanted = circles(openings);
  if (wanted.length === 0) return [];
  const found = new NearPlaces<number>(CENTRE);
  for (const { c, r } of circles(loops)) found.add(c, r);
  const off = wanted.filter((w) => {
    // A centre far from the origin has no more digits than a double gives it.
    const slack = ROUND + 1e-14 * (Math.abs(w.c.x) + Math.abs(w.c.y) + w.r);
    return !found.near(w.c, Math.min(slack, CENTRE)).some((f) => Math.abs(f.thing - w.r) <= slack);
  }).length;
  return [
    {
      holds: off === 0,
      text: `${count(wanted.length, "round opening")}${off === 0 ? ", centres and radii as on the blank" : `; ${off} not as on the blank`}`,
    },
  ];
}

/** That each bend line is there, whole or by its ends, and no other on its layer. */
function proveBends(file: Read, drawn: DrawnBlank): ProofLine[] {
  const { facts, drawing } = drawn;
  return (["bendsUp", "bendsDown"] as const).flatMap((content): ProofLine[] => {
    const layer = drawing.layers.get(content)?.name.toUpperCase();
    if (layer === undefined) return [];
    const wanted = facts[content];
    const written = drawing.entities.filter((e) => e.content === content).length;
    const there = file.curves.filter((c) => c.layer === layer && c.curve.kind === "line").map((c) => c.curve);
    const ends = new NearPlaces<Curve>(END);
    for (const c of there) for (const p of [c.a, c.b]) ends.add(p, c);
    const startsAt = (p: Point, towards: Point) =>
      ends.near(p, SAME).some(({ thing: c }) => {
        const other = hypotenuse(c.a.x - p.x, c.a.y - p.y) <= SAME ? c.b : c.a;
        const [dx, dy] = [towards.x - p.x, towards.y - p.y];
        const off = (other.x - p.x) * dy - (other.y - p.y) * dx;
        return Math.abs(off) <= SAME * hypotenuse(dx, dy) && (other.x - p.x) * dx + (other.y - p.y) * dy > 0;
      });
    const lost = wanted.filter((w) => !startsAt(w.a, w.b) || !startsAt(w.b, w.a)).length;
    const shared = [...drawing.layers.values()].filter((l) => l.name.toUpperCase() === layer).length > 1;
    const holds = lost === 0 && (shared || there.length === written);
    const said = DRAWN_CONTENTS[content].toLowerCase();
    if (wanted.length === 0 && (shared || there.length === 0)) return [];
    return [
      {
        holds,
        text: `${said}: ${count(wanted.length, "line")} on ${layer}${lost > 0 ? `, ${lost} not there` : !holds ? `, where ${there.length} were found` : ""}`,
      },
    ];
  });
}

function proveLayers({ entities, layers }: Read, { drawing }: DrawnBlank): ProofLine {
  const wanted = new Set([...drawing.layers.values()].map((l) => l.name.toUpperCase()));
  const unnamed = [...new Set(entities.map((e) => e.layer.toUpperCase()))].filter((l) => !wanted.has(l));
  const absent = [...wanted].filter((l) => !layers.has(l));
  const holds = unnamed.length === 0 && absent.length === 0 && entities.length === drawing.entities.length;
  const wrong = [
    ...(entities.length === drawing.entities.length ? [] : [`not ${drawing.entities.length}`]),
    ...(unnamed.length > 0 ? [`some on ${unnamed.join(", ")}`] : []),
    ...(absent.length > 0 ? [`no layer ${absent.join(", ")}`] : []),
  ];
  const used = new Set(entities.map((e) => e.layer.toUpperCase())).size;
  return {
    holds,
    text: `${entities.length === 1 ? "1 entity" : `${entities.length} entities`} on ${count(used, "layer")}${holds ? "" : `: ${wrong.join(", ")}`}`,
  };
}

function proveUnits({ units }: Read, { drawing }: DrawnBlank, version: DxfVersion): ProofLine {
  const said = drawing.units === "mm" ? "millimetres" : "inches";
  if (version === "r12")
    return {
      holds: units === undefined,
      text: `${said}; R12 holds no units, so whoever reads it must be told`,
    };
  const holds = units === (drawing.units === "mm" ? 4 : 1);
  return { holds, text: holds ? `${said}, as the file says` : `the file does not say ${said}` };
}

/** Heights in the plane's own units: of places, elevation, thickness; a direction of its own may turn it out of the plane. */
const RAISING = [30, 31, 38, 39, 210, 220];

/** Whether something of an entity is not in the plane, or seen from below. */
function isRaised(entity: DxfEntity): boolean {
  const high = (r: DxfRecord) => RAISING.some((code) => r.codes.includes(code) && numberOf(r, code, 0) !== 0);
  return high(entity) || entity.vertices.some(high) || numberOf(entity, 230, 1) !== 1;
}

/** That only plain entities are there, all at z 0, none of no length, none twice. */
function proveClean({ entities, curves }: Read): ProofLine {
  const strange = [...new Set(entities.map((e) => e.type).filter((t) => !KINDS.has(t)))];
  const raised = entities.filter(isRaised).length;
  const short = curves.filter((c) => curveLength(c.curve) <= SAME).length;
  const seen = new Set<string>();
  let doubled = 0;
  for (const { curve, layer } of curves) {
    const key = `${layer} ${curveKey(curve, STEPS)}`;
    if (seen.has(key)) doubled++;
    seen.add(key);
  }
  const wrong = [
    ...(strange.length > 0 ? [`holds ${strange.join(", ")}`] : []),
    ...(raised > 0 ? [`${count(raised, "entity")} not at z 0`] : []),
    ...(short > 0 ? [`${count(short, "piece")} of no length`] : []),
    ...(doubled > 0 ? [`${count(doubled, "piece")} written twice`] : []),
  ];
  return {
    holds: wrong.length === 0,
    text: wrong.length === 0 ? "no doubles, no gaps, all flat at z 0" : wrong.join(", "),
  };
}
