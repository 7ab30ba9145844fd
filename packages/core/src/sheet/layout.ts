import { bendAllowance } from "../bend/allowance.ts";
import { subtractLoops } from "../plane/boolean.ts";
import { type Line, line } from "../plane/curve.ts";
import { circleLoop, type Loop, loopFromFrame, polygonLoop, rectangleLoop } from "../plane/loop.ts";
import { along, distance, type Frame, frameY, fromFrame, type Point, point, SAME } from "../plane/point.ts";
import { type Region, regionFromFrame, regionLoops } from "../plane/region.ts";
import { formatShort } from "../units/quantity.ts";
import { type Bend, type EdgeSite, edgeName, type Plate, plateLetter, type Sheet } from "./sheet.ts";
import type { FlangeSpec, HoleSpec, ReliefSpec, SheetSpec } from "./spec.ts";

/** Something a flange or hole asks that the sheet cannot give. */
export interface LayoutProblem {
  readonly step: string;
  /** The field to look at. */
  readonly field?: string;
  readonly message: string;
  /** Whether the flange was left out. A hole that only touches an edge is built and reported. */
  readonly fatal: boolean;
}

/** A flange on its edge: where along it, seen from the left end, it begins and ends. */
interface Site {
  readonly flange: FlangeSpec;
  readonly side: number;
  /** What was asked for, before neighbours at the corners took their share. */
  readonly asked: { readonly from: number; readonly to: number };
  from: number;
  to: number;
  /** Where the flanges around the corners leave off. */
  cornerFrom: number;
  cornerTo: number;
  /** Where beside this flange other flanges' cuts begin. */
  freeFrom: number;
  freeTo: number;
}

const mm = (v: number) => `${formatShort(v)} mm`;

// Sides in clockwise order, so that each side's right neighbour is the next.
const ROOT_ROLES = ["north", "east", "south", "west"] as const;
const FLANGE_ROLES = ["end", "right", "", "left"] as const;
const OUTWARD: readonly Point[] = [point(0, 1), point(1, 0), point(0, -1), point(-1, 0)];

interface PlateBox {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The frame of a side: origin at its left end, x to the right, y out of the plate. */
function sideFrame(box: PlateBox, side: number): Frame {
  const lefts = [point(box.x0, box.y1), point(box.x1, box.y1), point(box.x1, box.y0), point(box.x0, box.y0)];
  const out = OUTWARD[side];
  return { origin: lefts[side], x: point(out.y, -out.x) };
}

const sideLength = (box: PlateBox, side: number) => (side % 2 === 0 ? box.x1 - box.x0 : box.y1 - box.y0);
const sideDepth = (box: PlateBox, side: number) => sideLength(box, side + 1);

interface Draft {
  readonly id: string;
  readonly step: string;
  readonly letter: string;
  readonly frame: Frame;
  readonly box: PlateBox;
  readonly roles: readonly string[];
  readonly holes: readonly HoleSpec[];
  /** The bend this plate hangs on, whose strip its reliefs may reach into. */
  readonly bend?: MutableBend;
}

type MutableBend = { -readonly [K in keyof Bend]: Bend[K] };

interface Work {
  readonly t: number;
  readonly plates: Plate[];
  readonly bends: MutableBend[];
  readonly slits: Line[];
  readonly problems: LayoutProblem[];
  /** Cuts in developed coordinates that reach into a bend's strip. */
  readonly bendCuts: Map<string, Loop[]>;
}

/**
 * Lays a sheet out flat: plates and bends in developed coordinates, each bend as wide as the plate
 * between its own tangents, reliefs cut where metal stands beside a bend. The first plate keeps its
 * own coordinates. Flanges that cannot be made are left out with a problem that says why.
 */
export function layOut(spec: SheetSpec): { sheet: Sheet; problems: LayoutProblem[] } {
  const byPlate = new Map<string, FlangeSpec[]>();
  for (const f of spec.flanges) {
    const list = byPlate.get(f.edge.plate);
    if (list) list.push(f);
    else byPlate.set(f.edge.plate, [f]);
  }
  const counted = spec.order ?? [spec.root.id, ...spec.flanges.map((f) => f.id)];
  const letters = new Map(counted.map((id, i) => [id, plateLetter(i)]));
  const numbers = new Map(counted.filter((id) => id !== spec.root.id).map((id, i) => [id, i + 1]));
  const work: Work = { t: spec.t, plates: [], bends: [], slits: [], problems: [], bendCuts: new Map() };
  const { root } = spec;
  const queue: Draft[] = [
    {
      id: root.id,
      step: root.step,
      letter: letters.get(root.id) ?? "A",
      frame: { origin: point(0, 0), x: point(1, 0) },
      box: root,
      roles: ROOT_ROLES,
      holes: root.holes,
    },
  ];
  for (let draft = queue.shift(); draft; draft = queue.shift()) {
    const sites = placeFlanges(draft, byPlate.get(draft.id) ?? [], work);
    work.plates.push(cutPlate(draft, sites, work));
    for (const site of sites) {
      const { id } = site.flange;
      queue.push(
        growFlange(draft, site, { letter: letters.get(id) ?? "?", number: numbers.get(id) ?? 0 }, work),
      );
    }
  }
  const order = new Map(spec.flanges.map((f, i) => [f.id, i]));
  const place = (id: string) => order.get(id) ?? -1;
  work.plates.sort((p, q) => place(p.id) - place(q.id));
  work.bends.sort((p, q) => p.number - q.number);
  for (const bend of work.bends) {
    const cuts = work.bendCuts.get(bend.id);
    if (cuts) bend.regions = subtractLoops(bend.regions.flatMap(regionLoops), cuts);
  }
  return {
    sheet: { t: spec.t, plates: work.plates, bends: work.bends, slits: work.slits },
    problems: work.problems,
  };
}

/** Finds each flange's place along its edge and lets neighbours at corners stand clear of each other. */
function placeFlanges(draft: Draft, flanges: readonly FlangeSpec[], work: Work): Site[] {
  const sites: Site[] = [];
  for (const flange of flanges) {
    const site = askedSite(draft, flange, work);
    if (!site) continue;
    const beside = sites.filter((o) => (o.side + site.side) % 2 === 1);
    const before = beside.map((o) => ({ ...o }));
    for (const other of beside) {
      trimAtCorner(draft, site, other);
      trimAtCorner(draft, other, site);
    }
    const problem = siteProblem(draft, site, sites) ?? crowdingProblem(draft, site, beside);
    if (problem) {
      work.problems.push({ step: flange.step, fatal: true, ...problem });
      beside.forEach((o, i) => {
        Object.assign(o, before[i]);
      });
    } else sites.push(site);
  }
  for (const side of [0, 1, 2, 3]) findNeighbours(sites.filter((s) => s.side === side));
  return sites;
}

function askedSite(draft: Draft, flange: FlangeSpec, work: Work): Site | undefined {
  const side = draft.roles.indexOf(flange.edge.role);
  if (side < 0) {
    const message = `Plate ${draft.letter} has no edge called ${flange.edge.role}.`;
    work.problems.push({ step: flange.step, field: "edges", message, fatal: true });
    return undefined;
  }
  const length = sideLength(draft.box, side);
  const { width } = flange;
  let from = 0;
  let to = length;
  if (width.by === "inset") {
    from = width.left;
    to = length - width.right;
  } else if (width.by === "width") {
    const slack = length - width.width;
    const start = { left: 0, centre: slack / 2, right: slack }[width.at];
    from = start + (width.at === "right" ? -width.offset : width.offset);
    to = from + width.width;
  }
  return {
    flange,
    side,
    asked: { from, to },
    from,
    to,
    cornerFrom: 0,
    cornerTo: length,
    freeFrom: 0,
    freeTo: length,
  };
}

/**
 * Where two flanges meet at a corner each ends at the other's first tangent line, so that both
 * bends are as wide as the plate that is left between the tangents.
 */
function trimAtCorner(draft: Draft, site: Site, other: Site): void {
  const back = other.flange.setback;
  if (back <= 0) return;
  const reach = Math.max(site.flange.setback, SAME * 10);
  const length = sideLength(draft.box, site.side);
  const span = sideLength(draft.box, other.side);
  if (other.side === (site.side + 1) % 4 && other.asked.from < reach) {
    site.cornerTo = Math.min(site.cornerTo, length - back);
  }
  if (other.side === (site.side + 3) % 4 && span - other.asked.to < reach) {
    site.cornerFrom = Math.max(site.cornerFrom, back);
  }
  site.from = Math.max(site.cornerFrom, site.asked.from);
  site.to = Math.min(site.cornerTo, site.asked.to);
}

/** Along one side, what stands free beside each flange reaches to the next one or to the corner. */
function findNeighbours(sites: readonly Site[]): void {
  const sorted = [...sites].sort((p, q) => p.from - q.from);
  sorted.forEach((site, i) => {
    site.freeFrom = Math.max(site.cornerFrom, sorted[i - 1]?.to ?? 0);
    site.freeTo = Math.min(site.cornerTo, sorted[i + 1]?.from ?? Number.POSITIVE_INFINITY);
  });
}

function siteProblem(
  draft: Draft,
  site: Site,
  others: readonly Site[],
): { field: string; message: string } | undefined {
  const { flange, side, asked } = site;
  const length = sideLength(draft.box, side);
  const edge = `${draft.letter} ${draft.roles[side]}`;
  const field = flange.width.by === "inset" ? "leftInset" : flange.width.by === "width" ? "width" : "edges";
  if (asked.to - asked.from <= SAME) {
    const message = `Nothing of edge ${edge} is left between the insets: it is ${mm(length)} long, so together they must stay below that.`;
    return { field, message };
  }
  if (asked.from < -SAME || asked.to > length + SAME) {
    const message = `The flange would reach from ${mm(asked.from)} to ${mm(asked.to)} along edge ${edge}, which runs from 0 to ${mm(length)}. Make it narrower or move it.`;
    return { field, message };
  }
  if (site.to - site.from <= SAME) {
    return {
      field,
      message: `The flanges beside it leave no width on edge ${edge}. Inset them or make their radius smaller.`,
    };
  }
  const behind = sideDepth(draft.box, side);
  const opposite = others.filter((o) => o.side === (side + 2) % 4 && overlaps(o, site, length));
  const taken = Math.max(0, ...opposite.map((o) => o.flange.setback));
  if (flange.setback > behind - taken - SAME) {
    const message = `The bend needs ${mm(flange.setback)} of plate ${draft.letter} behind edge ${edge}, but only ${mm(behind - taken)} is there. Let the bend start at the edge, or make the radius smaller.`;
    return { field: "place", message };
  }
  const clash = others.find((o) => o.side === side && o.from < site.to - SAME && o.to > site.from + SAME);
  if (clash) {
    const message = `Edge ${edge} is taken from ${mm(clash.from)} to ${mm(clash.to)} by another flange; this one would run from ${mm(site.from)} to ${mm(site.to)}. Give it a width that fits beside it.`;
    return { field, message };
  }
  return undefined;
}

/** A flange that takes the last width of one that is there already is refused, not the other. */
function crowdingProblem(
  draft: Draft,
  site: Site,
  others: readonly Site[],
): { field: string; message: string } | undefined {
  const crowded = others.find((o) => o.to - o.from <= SAME);
  if (!crowded) return undefined;
  const name = (s: Site) => `${draft.letter} ${draft.roles[s.side]}`;
  const message = `On edge ${name(site)} it would leave no width for the flange on edge ${name(crowded)}. Inset it at that corner, or make its radius smaller.`;
  return { field: "edges", message };
}

/** Opposite sides run in opposite directions. */
const overlaps = (o: Site, s: Site, length: number) =>
  length - o.to < s.to - SAME && length - o.from > s.from + SAME;

/** A loop in a side's frame, where depth counts into the plate, brought into the plate's frame. */
const inward = (frame: Frame, points: readonly [number, number][]): Loop =>
  polygonLoop(points.map(([s, depth]) => fromFrame(frame, point(s, -depth))));

/** Cuts a plate's rectangle to shape, in developed coordinates. */
function cutPlate(draft: Draft, sites: readonly Site[], work: Work): Plate {
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

type End = "left" | "right";

/** Whether metal of the parent stands beside a bend's end and must be relieved. */
function besideBend(draft: Draft, site: Site, end: End): boolean {
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

/** Makes the bend of a placed flange and drafts the plate it carries. */
function growFlange(draft: Draft, site: Site, label: { letter: string; number: number }, work: Work): Draft {
  const { flange } = site;
  const side = sideFrame(draft.box, site.side);
  const inPlane = (s: number, out: number) => fromFrame(draft.frame, fromFrame(side, point(s, out)));
  const start = -flange.setback;
  const allowance = bendAllowance({ t: work.t, r: flange.radius, angle: flange.angle }, flange.k);
  const origin = inPlane(site.from, start);
  const rightEnd = inPlane(site.to, start);
  const width = site.to - site.from;
  const axis = point((rightEnd.x - origin.x) / width, (rightEnd.y - origin.y) / width);
  const out = point(-axis.y, axis.x);
  const strip = rectangleLoop(0, 0, width, allowance, ["", "right", "", "left"]);
  const bend: MutableBend = {
    id: flange.id,
    number: label.number,
    step: flange.step,
    parent: draft.id,
    child: flange.id,
    origin,
    axis,
    out,
    width,
    allowance,
    angle: flange.angle,
    radius: flange.radius,
    k: flange.k,
    kSource: flange.kSource,
    up: flange.up,
    regions: [regionFromFrame({ origin, x: axis }, { outer: strip, holes: [] })],
    unrelieved: (["left", "right"] as const).filter(
      (end) => besideBend(draft, site, end) && flange.reliefs[end].shape === "none",
    ),
  };
  work.bends.push(bend);
  const middle = along(along(origin, axis, width / 2), out, allowance);
  return {
    id: flange.id,
    step: flange.step,
    letter: label.letter,
    frame: { origin: middle, x: axis },
    box: { x0: -width / 2, y0: 0, x1: width / 2, y1: flange.leg },
    roles: FLANGE_ROLES,
    holes: flange.holes.map((h) => ({ ...h, y: h.y - flange.holeBase })),
    bend,
  };
}

/** Finds an edge by plate and role; nothing when it is gone. */
export function findEdge(
  sheet: Sheet,
  name: string,
): { plate: Plate; edge: EdgeSite; length: number } | undefined {
  for (const plate of sheet.plates) {
    for (const edge of plate.edges) {
      if (edgeName(plate.id, edge.role) === name)
        return { plate, edge, length: distance(edge.left, edge.right) };
    }
  }
  return undefined;
}
