import { bendAllowance } from "../bend/allowance.ts";
import { subtractLoops } from "../plane/boolean.ts";
import { rectangleLoop } from "../plane/loop.ts";
import { along, distance, fromFrame, point } from "../plane/point.ts";
import { regionFromFrame, regionLoops } from "../plane/region.ts";
import { besideBend, cutPlate } from "./cut-plate.ts";
import {
  type Draft,
  FLANGE_ROLES,
  type LayoutProblem,
  type MutableBend,
  ROOT_ROLES,
  type Site,
  sideFrame,
  type Work,
} from "./draft.ts";
import { placeFlanges } from "./place-flanges.ts";
import { type EdgeSite, edgeName, type Plate, plateLetter, type Sheet } from "./sheet.ts";
import type { FlangeSpec, SheetSpec } from "./spec.ts";

export type { LayoutProblem };

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
