import { SAME } from "../plane/point.ts";
import { type Draft, mm, type Site, sideDepth, sideLength, type Work } from "./draft.ts";
import type { FlangeSpec } from "./spec.ts";

/** Finds each flange's place along its edge and lets neighbours at corners stand clear of each other. */
export function placeFlanges(draft: Draft, flanges: readonly FlangeSpec[], work: Work): Site[] {
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
