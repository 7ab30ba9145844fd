import { subtractLoops } from "../plane/boolean.ts";
import { line } from "../plane/curve.ts";
import { circleLoop, type Loop, loopFromFrame, rectangleLoop } from "../plane/loop.ts";
import { along, type Frame, frameY, fromFrame, point, SAME } from "../plane/point.ts";
import { type Region, regionFromFrame, regionLoops } from "../plane/region.ts";
import { formatShort } from "../units/quantity.ts";
import { type Draft, type End, inward, type Site, sideFrame, sideLength, type Work } from "./draft.ts";
import type { EdgeSite, Plate } from "./sheet.ts";
import type { FlangeSpec, HoleSpec, ReliefSpec } from "./spec.ts";

/** Cuts a plate's rectangle to shape, in developed coordinates. */
export function cutPlate(draft: Draft, sites: readonly Site[], work: Work): Plate {
  const names = [draft.roles[2], draft.roles[1], draft.roles[0], draft.roles[3]];
  const { x0, y0, x1, y1 } = draft.box;
  const material: Loop[] = x1 - x0 > SAME && y1 - y0 > SAME ? [rectangleLoop(x0, y0, x1, y1, names)] : [];
  const cuts: Loop[] = [];
  for (const site of sites) {
    const frame = sideFrame(draft.box, site.side);
    const { setback } = site.flange;
    if (setback > SAME) cuts.push(setbackCut(draft, site, frame));
    if (setback < -SAME) {
      const tab: [number, number][] = [
        [site.from, 0],
        [site.to, 0],
        [site.to, setback],
        [site.from, setback],
      ];
      material.push(inward(frame, tab));
    }
    cutReliefs(draft, site, frame, cuts, work);
  }
  const holes = sortHoles(draft, sites, cuts, work);
  const plain = material.length === 1 && cuts.length === 0;
  const shaped: Region[] =
    plain || material.length === 0
      ? material.map((outer) => ({ outer, holes: [] }))
      : subtractLoops(material, cuts);
  const regions = withHoles(shaped, holes).map((r) => regionFromFrame(draft.frame, r));
  if (regions.length > 1) {
    const message = `The cuts on plate ${draft.letter} leave it in ${regions.length} pieces. Make reliefs or holes smaller, or move them.`;
    work.problems.push({ step: sites[sites.length - 1]?.flange.step ?? draft.step, message, fatal: false });
  }
  const { id, step, letter, frame, box } = draft;
  return { id, step, letter, frame, box, edges: edgeSites(draft), regions };
}

/** What a bend takes off the plate before its first tangent line; at a shared corner, the corner too. */
function setbackCut(draft: Draft, site: Site, frame: Frame): Loop {
  const { setback } = site.flange;
  const length = sideLength(draft.box, site.side);
  const from = site.cornerFrom > 0 && site.from <= site.cornerFrom + SAME ? 0 : site.from;
  const to = site.cornerTo < length && site.to >= site.cornerTo - SAME ? length : site.to;
  return inward(frame, [
    [from, setback],
    [to, setback],
    [to, 0],
    [from, 0],
  ]);
}

/** Whole holes stand in the one piece that is left; with several pieces each goes where it lies. */
function withHoles(regions: readonly Region[], holes: readonly Loop[]): Region[] {
  if (holes.length === 0) return [...regions];
  if (regions.length === 1) return [{ outer: regions[0].outer, holes: [...regions[0].holes, ...holes] }];
  return subtractLoops(regions.flatMap(regionLoops), holes.map(reverseCircle));
}

const reverseCircle = (hole: Loop): Loop =>
  hole.map((c) => (c.kind === "arc" ? { ...c, a: c.b, b: c.a, ccw: !c.ccw } : c)).reverse();

/** Holes clear of everything are returned as openings; the others join the cuts, with what is wrong said. */
function sortHoles(draft: Draft, sites: readonly Site[], cuts: Loop[], work: Work): Loop[] {
  const free: Loop[] = [];
  const touching = touchingHoles(draft.holes);
  const { x0, y0, x1, y1 } = draft.box;
  const margins = [0, 0, 0, 0];
  for (const s of sites)
    margins[s.side] = Math.max(margins[s.side], s.flange.setback + reliefDepth(s.flange));
  for (const hole of draft.holes) {
    const { x, y, diameter } = hole;
    const r = diameter / 2;
    const name = `hole:${hole.key}`;
    const clear = !touching.has(hole);
    const say = (text: string) =>
      work.problems.push({ step: draft.step, field: "holes", message: text, fatal: false });
    const title = `The hole ⌀ ${formatShort(diameter)} at ${formatShort(x)}, ${formatShort(y)} on plate ${draft.letter}`;
    if (x + r <= x0 || x - r >= x1 || y + r <= y0 || y - r >= y1) {
      say(
        `${title} lies outside the plate and cuts nothing. The plate runs from ${formatShort(x0)} to ${formatShort(x1)} and from ${formatShort(y0)} to ${formatShort(y1)}.`,
      );
      continue;
    }
    const inside =
      x - r > x0 + margins[3] + SAME &&
      x + r < x1 - margins[1] - SAME &&
      y - r > y0 + margins[2] + SAME &&
      y + r < y1 - margins[0] - SAME;
    const loop = circleLoop(point(x, y), r, name);
    if (inside && clear) {
      free.push(reverseCircle(loop));
      continue;
    }
    cuts.push(loop);
    if (!clear) say(`${title} runs into another hole: they become one opening.`);
    else if (x - r < x0 || x + r > x1 || y - r < y0 || y + r > y1) {
      say(`${title} runs over the edge of the plate. Bends are not cut by it.`);
    }
  }
  return free;
}

/** Holes that meet another hole, found in one sweep over x. */
function touchingHoles(holes: readonly HoleSpec[]): Set<HoleSpec> {
  const out = new Set<HoleSpec>();
  const sorted = [...holes].sort((p, q) => p.x - p.diameter / 2 - (q.x - q.diameter / 2));
  let active: HoleSpec[] = [];
  for (const hole of sorted) {
    const left = hole.x - hole.diameter / 2;
    active = active.filter((o) => o.x + o.diameter / 2 >= left - SAME);
    for (const o of active) {
      const apart = Math.hypot(o.x - hole.x, o.y - hole.y) - (hole.diameter + o.diameter) / 2;
      if (apart <= SAME) out.add(o).add(hole);
    }
    active.push(hole);
  }
  return out;
}

const reliefDepth = (f: FlangeSpec) =>
  Math.max(...[f.reliefs.left, f.reliefs.right].map((r) => (r.shape === "none" ? 0 : r.depth)), 0);

/** Whether metal of the parent stands beside a bend's end and must be relieved. */
export function besideBend(draft: Draft, site: Site, end: End): boolean {
  if (site.flange.setback < -SAME) return false;
  const gap = end === "left" ? site.from - site.freeFrom : site.freeTo - site.to;
  if (gap > SAME * 10) return true;
  return rootEnd(draft, site, end) && site.flange.setback > SAME;
}

/** On a flange's own left and right edges, the end where the bend it hangs on begins. */
const rootEnd = (draft: Draft, site: Site, end: End): boolean => {
  if (!draft.bend) return false;
  const length = sideLength(draft.box, site.side);
  if (site.side === 3 && end === "left") return site.from <= SAME * 10;
  return site.side === 1 && end === "right" && site.to >= length - SAME * 10;
};

function cutReliefs(draft: Draft, site: Site, frame: Frame, cuts: Loop[], work: Work): void {
  for (const end of ["left", "right"] as const) {
    if (!besideBend(draft, site, end)) continue;
    const relief = site.flange.reliefs[end];
    if (relief.shape === "none") continue;
    const at = end === "left" ? site.from : site.to;
    const { setback } = site.flange;
    if (relief.shape === "torn") {
      if (relief.depth > SAME) {
        const ends = [setback, setback + relief.depth].map((d) =>
          fromFrame(draft.frame, fromFrame(frame, point(at, -d))),
        );
        work.slits.push(line(ends[0], ends[1], "slit"));
      }
      continue;
    }
    const loop = reliefLoop(relief, frame, at, end, setback);
    cuts.push(loop);
    if (draft.bend && rootEnd(draft, site, end)) {
      const list = work.bendCuts.get(draft.bend.id) ?? [];
      list.push(loopFromFrame(draft.frame, loop));
      work.bendCuts.set(draft.bend.id, list);
    }
  }
}

/** The notch of a square or round-ended relief, from the edge to its depth behind the tangent line. */
function reliefLoop(
  relief: Extract<ReliefSpec, { width: number }>,
  frame: Frame,
  at: number,
  end: End,
  setback: number,
): Loop {
  const from = end === "left" ? at - relief.width : at;
  const to = from + relief.width;
  const deep = setback + relief.depth;
  if (relief.shape === "square") {
    return inward(frame, [
      [from, deep],
      [to, deep],
      [to, 0],
      [from, 0],
    ]);
  }
  const r = relief.width / 2;
  const on = (s: number, depth: number) => fromFrame(frame, point(s, -depth));
  const start = on(from, deep - r);
  const finish = on(to, deep - r);
  const c = on(from + r, deep - r);
  const sides =
    deep - r > SAME
      ? [line(finish, on(to, 0)), line(on(to, 0), on(from, 0)), line(on(from, 0), start)]
      : [line(finish, start)];
  return [{ kind: "arc", a: start, b: finish, c, r, ccw: true }, ...sides];
}

function edgeSites(draft: Draft): EdgeSite[] {
  return draft.roles.flatMap((role, side) => {
    if (role === "") return [];
    const frame = sideFrame(draft.box, side);
    const length = sideLength(draft.box, side);
    const left = fromFrame(draft.frame, frame.origin);
    const right = fromFrame(draft.frame, along(frame.origin, frame.x, length));
    const tip = fromFrame(draft.frame, along(frame.origin, frameY(frame), 1));
    return [{ role, left, right, out: point(tip.x - left.x, tip.y - left.y) }];
  });
}
