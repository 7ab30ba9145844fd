import type { BendShape } from "../bend/allowance.ts";
import {
  FORCE_CONSTANT,
  FORCE_FORMULA,
  FORCE_SOURCE,
  RADIUS_FORMULA,
  RADIUS_SOURCE,
} from "../bend/tooling.ts";
import type { SourceLink, WhyLine } from "../bend/why-line.ts";
import { picksOf } from "../fields/field.ts";
import { along, dot, type Point } from "../plane/point.ts";
import { regionArea, regionBounds } from "../plane/region.ts";
import type { Measured } from "../sheet/picking/measuring.ts";
import { type Bend, bendsOf, findEdge, type Plate, platesOf, type Sheet } from "../sheet/sheet.ts";
import { stepKind } from "../steps/registry.ts";
import { lengthText, sayIn, sayLength, shortLength, type Units } from "../units/display.ts";
import { formatFixed, formatShort, toDegrees } from "../units/quantity.ts";
import type { BendRow, PartBuild } from "./build.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { cardOf } from "./stock.ts";

/** The explanation behind a number: formula, inputs with their sources, result. */
export interface Why {
  readonly title: string;
  readonly result: string;
  readonly lines: readonly WhyLine[];
}

/** What can be asked about a bend. */
export type BendQuestion = "angle" | "radius" | "k" | "allowance" | "deduction" | "length" | "force";

const n = (v: number) => formatShort(v, 4);

interface Asked {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly units: Units;
  /** A length in the part's units, without the unit. */
  readonly l: (mm: number) => string;
}

function asked(document: PartDocument, build: PartBuild): Asked {
  const units = document.units ?? "mm";
  return { document, build, units, l: (mm) => shortLength(mm, units, 4) };
}

const stepLink = (id: string): SourceLink => ({ to: "step", id });
const stepName = ({ document }: Asked, id: string) =>
  `step ${document.steps.findIndex((s) => s.id === id) + 1}`;

/** The stock, or the card that it is taken from. */
function stockSource({ document }: Asked): Pick<WhyLine, "source" | "link"> {
  const card = cardOf(document.stock);
  return card
    ? { source: `stock card ${card.name}, revision ${card.revision}`, link: { to: "card", id: card.id } }
    : { source: "stock", link: { to: "stock" } };
}

function materialSource({ document }: Asked): Pick<WhyLine, "source" | "link"> {
  const card = cardOf(document.stock);
  return card
    ? { source: `material ${card.material.name}`, link: { to: "material", id: card.material.id } }
    : { source: "stock", link: { to: "stock" } };
}

/** The last bend change that gives a bend another value of a field. */
function changeOf({ document }: Asked, bend: string, field: string): StepDocument | undefined {
  const end = document.steps.findIndex((s) => s.id === document.builtTo);
  return document.steps.slice(0, end < 0 ? undefined : end + 1).findLast((s) => {
    const value = s[field];
    return (
      stepKind(s.kind)?.editsBends !== undefined &&
      !s.paused &&
      value !== undefined &&
      value !== "" &&
      picksOf(s, "bends").some((p) => p.at === bend)
    );
  });
}

/** Which step says a value of a bend: a later change of the bend, or the step that made it. */
function giverOf(a: Asked, row: BendRow, field: string): StepDocument {
  return changeOf(a, row.id, field) ?? a.document.steps.find((s) => s.id === row.step)!;
}

const stepSource = (a: Asked, step: StepDocument): Pick<WhyLine, "source" | "link"> => ({
  source: stepName(a, step.id),
  link: stepLink(step.id),
});

function angleLine(a: Asked, row: BendRow): WhyLine {
  return {
    text: `θ = ${n(toDegrees(row.angle))}° = ${n(row.angle)}`,
    ...stepSource(a, giverOf(a, row, "angle")),
  };
}

function radiusLine(a: Asked, row: BendRow): WhyLine {
  const giver = giverOf(a, row, "radius");
  const own = giver.radius !== undefined && giver.radius !== "";
  const same = row.radius === a.build.stock?.radius;
  if (!own && same) {
    const overridden = cardOf(a.document.stock) && a.document.stock.radius !== undefined;
    const source = overridden
      ? ({ source: "stock of the part", link: { to: "stock" } } as const)
      : stockSource(a);
    return { text: `r = ${a.l(row.radius)}`, ...source };
  }
  const typed = own && Number.isNaN(Number(giver.radius)) ? ` = ${String(giver.radius)}` : "";
  return { text: `r${typed} = ${a.l(row.radius)}`, ...stepSource(a, giver) };
}

const thicknessLine = (a: Asked): WhyLine => ({
  text: `t = ${a.l(a.build.stock?.thickness ?? 0)}`,
  ...stockSource(a),
});

/** K's whole chain, its own steps named by their place. */
function kLines(a: Asked, row: BendRow): WhyLine[] {
  const lines = row.kSource.lines.map((line) => ({ ...line, text: sayIn(a.units, line.text) }));
  return lines.map((line) =>
    line.link?.to === "step"
      ? {
          ...line,
          source: (line.source ?? "").replace(
            /^(this step|the step|a bend change)/,
            stepName(a, line.link.id),
          ),
        }
      : line,
  );
}

const outsideLines = (a: Asked, row: BendRow): WhyLine[] =>
  row.kSource.outside ? [{ text: sayIn(a.units, `outside chart: ${row.kSource.outside}`) }] : [];

const mm = ({ units }: Asked) => (units === "mm" ? "mm" : "in");

/** Explains a bend's number: formula, inputs with their sources, result. Lengths in the part's units. */
export function whyBend(document: PartDocument, build: PartBuild, row: BendRow, question: BendQuestion): Why {
  const a = asked(document, build);
  const t = build.stock?.thickness ?? 0;
  const shape = [angleLine(a, row), radiusLine(a, row), thicknessLine(a)];
  const allowance = {
    text: `BA = ${n(row.angle)} × (${a.l(row.radius)} + ${n(row.k)} × ${a.l(t)}) = ${a.l(row.allowance)}`,
  };
  switch (question) {
    case "angle":
      return {
        title: `angle of bend ${row.number}`,
        result: `${n(toDegrees(row.angle))}°`,
        lines: [shape[0]],
      };
    case "radius":
      return {
        title: `inside radius of bend ${row.number}`,
        result: sayLength(row.radius, a.units),
        lines: [shape[1], ...naturalLines(a, row)],
      };
    case "k":
      return {
        title: `K of bend ${row.number}, the place of its neutral axis`,
        result: n(row.k),
        lines: [...shape, ...kLines(a, row), ...outsideLines(a, row)],
      };
    case "allowance":
      return {
        title: `bend allowance of bend ${row.number}`,
        result: `${lengthText(row.allowance, a.units)} ${mm(a)}`,
        lines: [
          { text: "BA = θ (r + K·t)" },
          ...shape,
          ...kLines(a, row),
          ...outsideLines(a, row),
          allowance,
        ],
      };
    case "deduction":
      return whyDeduction(a, row, shape, allowance);
    case "length":
      return whyLength(a, row);
    case "force":
      return whyForce(a, row);
  }
}

function whyDeduction(a: Asked, row: BendRow, shape: WhyLine[], allowance: WhyLine): Why {
  if (row.deduction === undefined)
    return {
      title: `bend deduction of bend ${row.number}`,
      result: "none",
      lines: [shape[0], { text: "at 180° or more there is no mould point to deduct to" }],
    };
  const t = a.build.stock?.thickness ?? 0;
  const setback = Math.tan(row.angle / 2) * (row.radius + t);
  const { deduction } = row;
  return {
    title: `bend deduction of bend ${row.number}`,
    result: `${lengthText(deduction, a.units)} ${mm(a)}`,
    lines: [
      { text: "BD = 2·tan(θ/2)·(r + t) − BA" },
      ...shape,
      ...kLines(a, row),
      ...outsideLines(a, row),
      allowance,
      { text: `setback = tan(θ/2)·(r + t) = ${a.l(setback)}` },
      { text: `BD = 2 × ${a.l(setback)} − ${a.l(row.allowance)} = ${a.l(deduction)}` },
    ],
  };
}

/** What air bending over a V would make of the radius by itself. */
function naturalLines(a: Asked, row: BendRow): WhyLine[] {
  const { stock } = a.build;
  const { force } = row;
  if (!stock || !force) return [];
  const share = { text: `share = ${n(stock.radiusOverV)}`, ...materialSource(a) };
  return [
    { text: RADIUS_FORMULA, source: RADIUS_SOURCE },
    share,
    {
      text: `a V-width of ${a.l(force.v)} makes r = ${a.l(force.v * stock.radiusOverV)}`,
      ...(force.die ? { source: `die ${force.dieName}`, link: { to: "die", id: force.die } as const } : {}),
    },
  ];
}

function whyForce(a: Asked, row: BendRow): Why {
  const { stock } = a.build;
  const { force } = row;
  if (!stock?.tensile || !force)
    return {
      title: `force of bend ${row.number}`,
      result: "not known",
      lines: [{ text: "The stock names no tensile strength." }],
    };
  const perMetre = force.perMetre;
  const v: WhyLine = force.die
    ? { text: `V = ${n(force.v)} mm`, source: `die ${force.dieName}`, link: { to: "die", id: force.die } }
    : {
        text: `V = r / share = ${n(row.radius)} / ${n(stock.radiusOverV)} = ${n(force.v)} mm`,
        source: "no die of the card makes this radius",
      };
  return {
    title: `force to make bend ${row.number} by air bending`,
    result: `${formatFixed(force.total, 1)} kN`,
    lines: [
      { text: FORCE_FORMULA, source: FORCE_SOURCE },
      { text: `Rm = ${n(stock.tensile)} MPa`, ...materialSource(a) },
      { text: `t = ${n(stock.thickness)} mm`, ...stockSource(a) },
      v,
      {
        text: `F/L = ${FORCE_CONSTANT} × ${n(stock.tensile)} × ${n(stock.thickness)}² / ${n(force.v)} = ${n(perMetre)} kN/m`,
      },
      { text: `F = ${n(perMetre)} kN/m × ${n(row.length / 1000)} m = ${n(force.total)} kN` },
    ],
  };
}

function whyLength(a: Asked, row: BendRow): Why {
  const { sheet } = a.build;
  const bend = bendsOf(sheet).find((b) => b.id === row.id);
  const lines: WhyLine[] = [];
  const edge =
    bend?.edge && sheet
      ? findEdge(sheet, bend.edge.includes(".") ? bend.edge : `${bend.parent}.${bend.edge}`)
      : undefined;
  const maker = a.document.steps.find((s) => s.id === row.step)!;
  if (edge && sheet && bend) {
    const rest = edge.length - bend.width;
    lines.push({
      text: `edge ${edge.edge.role} of ${edge.plate.letter} = ${a.l(edge.length)}`,
      ...stepSource(a, a.document.steps.find((s) => s.id === edge.plate.step) ?? maker),
    });
    if (Math.abs(rest) > 1e-9)
      lines.push({
        text: `less what stays free of it at its ends = ${a.l(rest)}`,
        ...stepSource(a, maker),
      });
  }
  const cut = (bend?.width ?? row.length) - row.length;
  if (Math.abs(cut) > 1e-6)
    lines.push(
      { text: `between its ends = ${a.l(row.length + cut)}`, ...stepSource(a, maker) },
      { text: `less openings and reliefs across the bend line = ${a.l(cut)}` },
    );
  const pieces = row.pieces.length > 1 ? `${row.pieces.map(a.l).join(" + ")} = ` : "";
  lines.push({ text: `bend line = ${pieces}${a.l(row.length)}`, ...stepSource(a, maker) });
  return { title: `length of bend ${row.number}`, result: sayLength(row.length, a.units), lines };
}

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

const MOST_PIECES = 40;

/** Explains the area of the blank: every plate and every bend's strip, cuts taken off. */
export function whyBlankArea(document: PartDocument, build: PartBuild): Why {
  const a = asked(document, build);
  const { sheet, blank } = build;
  const area = (regions: Plate["regions"]) => regions.reduce((sum, r) => sum + regionArea(r), 0);
  const lines: WhyLine[] = [
    ...(platesOf(sheet) ?? []).map((p) => ({
      text: `plate ${p.letter} = ${formatFixed(area(p.regions))} mm²`,
      source: stepName(a, p.step),
      link: stepLink(p.step),
    })),
    ...(bendsOf(sheet) ?? []).map((b) => ({
      text: `strip of bend ${b.number} = ${formatFixed(area(b.regions))} mm², BA ${formatFixed(b.allowance, 3)} wide`,
      source: stepName(a, b.step),
      link: stepLink(b.step),
    })),
  ];
  const more = lines.length - MOST_PIECES;
  return {
    title: "blank area, without its openings",
    result: `${formatFixed(blank?.area ?? 0, 0)} mm²`,
    lines: [
      ...lines.slice(0, MOST_PIECES),
      ...(more > 0 ? [{ text: `… and ${more} more` }] : []),
      { text: `together ${formatFixed(blank?.area ?? 0)} mm²` },
    ],
  };
}

type Owner = { readonly kind: "plate"; readonly of: Plate } | { readonly kind: "bend"; readonly of: Bend };

/** Explains the blank's width or height: what one crosses from one end of it to the other. */
export function whyBlankSize(document: PartDocument, build: PartBuild, side: "width" | "height"): Why {
  const a = asked(document, build);
  const { sheet, blank } = build;
  const total = blank?.[side] ?? 0;
  const title = `blank ${side}`;
  const result = `${lengthText(total, a.units)} ${mm(a)}`;
  if (!sheet || !blank) return { title, result, lines: [] };
  const at = side === "width" ? (p: Point) => p.x : (p: Point) => p.y;
  const [low, high] = ends(sheet, side);
  const chain = chainBetween(sheet, low.owner, high.owner);
  if (!chain)
    return {
      title,
      result,
      lines: [{ text: `from ${a.l(low.at)} to ${a.l(high.at)}: pieces lie side by side` }],
    };
  const lines: WhyLine[] = [];
  let from = low.at;
  chain.forEach((owner, i) => {
    const next = chain[i + 1];
    const to = next ? at(seamBetween(owner, next)) : high.at;
    if (Math.abs(to - from) > 1e-9) lines.push(pieceLine(a, owner, to - from));
    from = to;
  });
  lines.push({
    text: `${side} = ${lines
      .map((l) => l.text.split(" = ").pop())
      .join(" + ")
      .replace(/\+ -/g, "− ")} = ${a.l(total)}`,
  });
  return { title, result, lines };
}

function ends(sheet: Sheet, side: "width" | "height") {
  const owners: Owner[] = [
    ...platesOf(sheet).map((of) => ({ kind: "plate", of }) as const),
    ...bendsOf(sheet).map((of) => ({ kind: "bend", of }) as const),
  ];
  let low = { at: Number.POSITIVE_INFINITY, owner: owners[0] };
  let high = { at: Number.NEGATIVE_INFINITY, owner: owners[0] };
  for (const owner of owners) {
    for (const region of owner.of.regions) {
      const box = regionBounds(region);
      const [x0, x1] = side === "width" ? [box.minX, box.maxX] : [box.minY, box.maxY];
      // Of plates that end alike the first made leads; rounding does not choose.
      if (x0 < low.at - 1e-9) low = { at: x0, owner };
      if (x1 > high.at + 1e-9) high = { at: x1, owner };
    }
  }
  return [low, high];
}

/** The pieces from one to another by way of their common plate; nothing when they are different sheets. */
function chainBetween(sheet: Sheet, from: Owner, to: Owner): Owner[] | undefined {
  const up = (owner: Owner): Owner[] => {
    const out = [owner];
    for (let at = owner; ; ) {
      if (at.kind === "bend") {
        const plate = platesOf(sheet).find((p) => p.id === (at.of as Bend).parent);
        if (!plate) return out;
        at = { kind: "plate", of: plate };
      } else {
        const bend = bendsOf(sheet).find((b) => b.child === at.of.id);
        if (!bend) return out;
        at = { kind: "bend", of: bend };
      }
      out.push(at);
    }
  };
  const first = up(from);
  const second = up(to);
  const meeting = first.findIndex((o) => second.some((p) => p.of.id === o.of.id && p.kind === o.kind));
  if (meeting < 0) return undefined;
  const there = second.findIndex((p) => p.of.id === first[meeting].of.id && p.kind === first[meeting].kind);
  return [...first.slice(0, meeting + 1), ...second.slice(0, there).reverse()];
}

/** The middle of the tangent line along which two neighbours in a chain join. */
function seamBetween(a: Owner, b: Owner): Point {
  const bend = (a.kind === "bend" ? a.of : b.of) as Bend;
  const plate = (a.kind === "bend" ? b.of : a.of) as Plate;
  const middle = along(bend.origin, bend.axis, bend.width / 2);
  return plate.id === bend.parent ? middle : along(middle, bend.out, bend.allowance);
}

function pieceLine(a: Asked, owner: Owner, length: number): WhyLine {
  const source = { source: stepName(a, owner.of.step), link: stepLink(owner.of.step) };
  if (owner.kind === "plate") return { text: `plate ${owner.of.letter} = ${a.l(length)}`, ...source };
  const { number, angle, radius, k, allowance } = owner.of;
  const whole = Math.abs(Math.abs(length) - allowance) < 1e-6;
  const t = a.build.stock?.thickness ?? 0;
  const formula = whole
    ? ` BA = ${n(angle)} × (${a.l(radius)} + ${n(k)} × ${a.l(t)})`
    : Math.abs(dot(owner.of.axis, owner.of.out)) < 1
      ? `, crossed at a slant (BA ${a.l(allowance)}),`
      : "";
  return { text: `bend ${number}${formula} = ${a.l(length)}`, ...source };
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

const SETBACK_FORMULAS: Readonly<Record<string, string>> = {
  "outer-face": "tan(θ/2)·(r + t), and r + t from 180°",
  "inner-face": "tan(θ/2)·r, and r from 180°",
  outermost: "r + t from 90°, below it tan(θ/2)·(r + t)",
  "bend-from-edge": "0: the bend begins at the edge",
  offset: "as typed",
};
const LEG_FORMULAS: Readonly<Record<string, string>> = {
  "outer-mould": "L − tan(θ/2)·(r + t)",
  "inner-mould": "L − tan(θ/2)·r",
  tangent: "L",
  outermost: "L − (r + t) from 90°, below it L − tan(θ/2)·(r + t)",
  "overall-height": "(L − height of the bend) / sin θ",
};

/** Explains where a flange's bend begins behind its edge, or how long its leg is straight. */
export function whyFlange(
  document: PartDocument,
  build: PartBuild,
  step: string,
  numbers: { readonly shape: BendShape; readonly setback: number; readonly leg: number },
  of: "setback" | "leg",
): Why {
  const a = asked(document, build);
  const values = build.steps.find((s) => s.id === step)?.values;
  const { t, r, angle } = numbers.shape;
  const source = { source: stepName(a, step), link: stepLink(step) };
  const value = numbers[of];
  const formula =
    of === "setback"
      ? SETBACK_FORMULAS[values?.choices.place ?? ""]
      : LEG_FORMULAS[values?.choices.lengthTo ?? ""];
  const length = values?.quantities.length;
  return {
    title: of === "setback" ? "how far behind the edge the bend begins" : "the straight leg beyond the bend",
    result: sayLength(value, a.units),
    lines: [
      { text: `${of === "setback" ? "S" : "leg"} = ${formula ?? "as typed"}`, ...source },
      ...(of === "leg" && length !== undefined ? [{ text: `L = ${a.l(length)}`, ...source }] : []),
      { text: `θ = ${n(toDegrees(angle))}°, r = ${a.l(r)}`, ...source },
      { text: `t = ${a.l(t)}`, ...stockSource(a) },
      { text: `${of === "setback" ? "S" : "leg"} = ${a.l(value)}` },
    ],
  };
}

/** Explains the length of an edge by its two ends in the flat. */
export function whyEdge(document: PartDocument, build: PartBuild, name: string): Why {
  const a = asked(document, build);
  const found = build.sheet && findEdge(build.sheet, name);
  if (!found) return { title: "length of an edge", result: "not there", lines: [] };
  const { left, right, role } = found.edge;
  const place = (p: Point) => `${a.l(p.x)}, ${a.l(p.y)}`;
  return {
    title: `length of edge ${role} of ${found.plate.letter}, before anything was cut from it`,
    result: sayLength(found.length, a.units),
    lines: [
      {
        text: `plate ${found.plate.letter}`,
        source: stepName(a, found.plate.step),
        link: stepLink(found.plate.step),
      },
      { text: `in the flat from ${place(left)} to ${place(right)}` },
      { text: `√((${a.l(right.x - left.x)})² + (${a.l(right.y - left.y)})²) = ${a.l(found.length)}` },
    ],
  };
}
