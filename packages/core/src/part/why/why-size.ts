import type { WhyLine } from "../../bend/why-line.ts";
import { DIMENSION_WORDS } from "../../outline/words.ts";
import { arcAngles, curveLength } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";
import { regionBounds } from "../../plane/region.ts";
import { type FoundEdge, findEdge, findSite } from "../../sheet/picking/find-edge.ts";
import type { Measured } from "../../sheet/picking/measuring.ts";
import { roleTitle } from "../../sheet/role-title.ts";
import { bendsOf, platesOf } from "../../sheet/sheet.ts";
import { sayLength } from "../../units/display.ts";
import { formatFixed, formatShort, toDegrees } from "../../units/quantity.ts";
import type { PartBuild } from "../build.ts";
import type { PartDocument } from "../document.ts";
import {
  type Asked,
  asked,
  materialSource,
  n,
  stepLink,
  stepName,
  thicknessLine,
  type Why,
} from "./asked.ts";

/** Explains the mass of the part. */
export function whyMass(document: PartDocument, build: PartBuild): Why {
  const a = asked(document, build);
  const volume = build.folded?.volume ?? 0;
  const mass = build.folded?.mass ?? 0;
  return {
    title: "mass",
    result: `${formatFixed(mass, 3)} kg`,
    lines: [
      { text: "mass = volume × density" },
      {
        text: `volume = ${formatFixed(volume, 1)} mm³`,
        source: "plates t·area, bends θ/2·((r + t)² − r²)·width",
      },
      thicknessLine(a),
      { text: `density = ${n(build.stock?.density ?? 0)} kg/m³`, ...materialSource(a) },
      {
        text: `mass = ${formatFixed(volume, 1)} mm³ × ${n(build.stock?.density ?? 0)} kg/m³ = ${formatFixed(mass, 4)} kg`,
      },
    ],
  };
}

/** Explains a measured distance by the two places it runs between, in the fold state it was taken in. */
export function whyDistance(document: PartDocument, build: PartBuild, measured: Measured): Why {
  const a = asked(document, build);
  const place = (p: readonly number[]) => p.map((v) => a.l(v)).join(", ");
  const gaps = measured.to.map((v, i) => v - measured.from[i]);
  return {
    title: "distance between two places, as the part is folded now",
    result: sayLength(measured.distance, a.units),
    lines: [
      { text: `from x, y, z = ${place(measured.from)}` },
      { text: `to x, y, z = ${place(measured.to)}` },
      { text: `√(${gaps.map((g) => `(${a.l(g)})²`).join(" + ")}) = ${a.l(measured.distance)}` },
    ],
  };
}

/** Explains the size of the folded part along an axis: where it begins and ends, the anchor plate at rest. */
export function whyFoldedSize(document: PartDocument, build: PartBuild, axis: 0 | 1 | 2): Why {
  const a = asked(document, build);
  const box = build.folded?.box;
  const name = "xyz"[axis];
  const [from, to] = [box?.min[axis] ?? 0, box?.max[axis] ?? 0];
  const anchor = platesOf(build.sheet).find((p) => p.id === document.anchor) ?? platesOf(build.sheet)[0];
  return {
    title: `folded size along ${name}`,
    result: sayLength(to - from, a.units),
    lines: [
      { text: `all bends folded, plate ${anchor?.letter ?? "A"} at rest` },
      {
        text: `least ${name} = ${a.l(from)}, greatest ${name} = ${a.l(to)}`,
        source: "the folded sheet, both faces and every arc",
      },
      { text: `${a.l(to)} − ${a.l(from)} = ${a.l(to - from)}` },
    ],
  };
}

/** Explains the size of a plate by where it begins and ends in the flat. */
export function whyPlate(document: PartDocument, build: PartBuild, id: string): Why {
  const a = asked(document, build);
  const plate = platesOf(build.sheet).find((p) => p.id === id);
  if (!plate) return { title: "size of a plate", result: "not there", lines: [] };
  const boxes = plate.regions.map(regionBounds);
  const side = (low: "minX" | "minY", high: "maxX" | "maxY"): WhyLine => {
    const from = Math.min(...boxes.map((b) => b[low]));
    const to = Math.max(...boxes.map((b) => b[high]));
    return { text: `${low[3].toLowerCase()} from ${a.l(from)} to ${a.l(to)}: ${a.l(to - from)}` };
  };
  const bends = (bendsOf(build.sheet) ?? []).filter((b) => b.parent === id || b.child === id);
  return {
    title: `size of plate ${plate.letter} in the flat, between the tangent lines of its bends`,
    result: boxes.length > 0 ? `plate ${plate.letter}` : "nothing",
    lines: [
      { text: `plate ${plate.letter}`, source: stepName(a, plate.step), link: stepLink(plate.step) },
      ...bends.map((b) => ({
        text: `bend ${b.number} joins it`,
        source: stepName(a, b.step),
        link: stepLink(b.step),
      })),
      side("minX", "maxX"),
      side("minY", "maxY"),
    ],
  };
}

/** What drives a line of the outline that a step is drawn by, through as many of its dimensions as lead to it. */
function drawnLines(
  a: Asked,
  document: PartDocument,
  build: PartBuild,
  step: string,
  role: string,
): WhyLine[] {
  // The sides of a cut are called after the step that cut them.
  const by = document.steps.find((s) => s.drawn !== undefined && role.startsWith(`${s.id}-`));
  const key = (by ?? document.steps.find((s) => s.id === step))?.drawn;
  const drawn = build.outlines?.find((o) => o.key === key);
  const line = drawn?.outline.curves.find((c) => c.id === (by ? role.slice(by.id.length + 1) : role));
  if (!drawn || line?.kind !== "line") return [];
  const { outline, solved } = drawn;
  const own = new Set([line.id, line.a, line.b]);
  const told = outline.dimensions.filter((d) => !d.showing && d.of.some((id) => own.has(id)));
  const said = (value: number, kind: (typeof told)[number]["kind"]) =>
    kind === "angle" ? `${formatShort(toDegrees(value), 4)}°` : a.l(value);
  const held = outline.relations.filter((r) => r.of.some((id) => own.has(id))).length;
  return [
    {
      text: `line ${line.id} of the outline “${outline.name}”, as it is solved`,
      source: stepName(a, by?.id ?? step),
      link: stepLink(by?.id ?? step),
    },
    ...told.map((d) => ({
      text: `${d.name ? `${d.name}: ` : ""}${DIMENSION_WORDS[d.kind]} of ${d.of.join(" and ")} = ${String(d.value)}${said(solved.values[d.id], d.kind) === String(d.value) ? "" : ` = ${said(solved.values[d.id], d.kind)}`}`,
    })),
    ...(held > 0 ? [{ text: `and ${held} relations of it and its ends, with all that they lead to` }] : []),
  ];
}

/** What a piece of a sheet is called where its edges are spoken of. */
function pieceTitle({ piece }: FoundEdge): string {
  if (piece.kind === "plate") return `plate ${piece.letter}`;
  return piece.kind === "bend" ? `bend ${piece.number}` : "the rolled wall";
}

/** Explains the length of a curved edge, or of the side of a bend, by its arcs and lines in the flat. */
function whyBorder(a: Asked, found: FoundEdge): Why {
  const { piece, edge, length } = found;
  const of = pieceTitle(found);
  const lines = edge.curves.map((c): WhyLine => {
    if (c.kind === "line") return { text: `straight in the flat = ${a.l(curveLength(c))}` };
    const sweep = Math.abs(arcAngles(c).sweep);
    return { text: `arc of ${n(toDegrees(sweep))}° × r ${a.l(c.r)} = ${a.l(curveLength(c))}` };
  });
  return {
    title: `length of the edge “${roleTitle(edge.role)}” of ${of}, in the flat`,
    result: sayLength(length, a.units),
    lines: [{ text: of, source: stepName(a, piece.step), link: stepLink(piece.step) }, ...lines],
  };
}

/** Explains the length of an edge by its two ends in the flat. */
export function whyEdge(document: PartDocument, build: PartBuild, name: string): Why {
  const a = asked(document, build);
  const found = build.sheet && findEdge(build.sheet, name);
  if (found && !found.edge.site) return whyBorder(a, found);
  const straight = build.sheet && findSite(build.sheet, name);
  if (!straight) return { title: "length of an edge", result: "not there", lines: [] };
  const { plate, edge, length } = straight;
  const { left, right, role } = edge;
  const place = (p: Point) => `${a.l(p.x)}, ${a.l(p.y)}`;
  return {
    title: `length of edge ${role} of ${plate.letter}, before anything was cut from it`,
    result: sayLength(length, a.units),
    lines: [
      {
        text: `plate ${plate.letter}`,
        source: stepName(a, plate.step),
        link: stepLink(plate.step),
      },
      { text: `in the flat from ${place(left)} to ${place(right)}` },
      ...drawnLines(a, document, build, plate.step, role),
      { text: `√((${a.l(right.x - left.x)})² + (${a.l(right.y - left.y)})²) = ${a.l(length)}` },
    ],
  };
}
