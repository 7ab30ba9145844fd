import { outerSetback } from "../../bend/allowance.ts";
import {
  FORCE_CONSTANT,
  FORCE_FORMULA,
  FORCE_SOURCE,
  RADIUS_FORMULA,
  RADIUS_SOURCE,
} from "../../bend/tooling.ts";
import { sayOutside, type WhyLine } from "../../bend/why-line.ts";
import { picksOf } from "../../fields/field.ts";
import { findSite } from "../../sheet/picking/find-edge.ts";
import { roleTitle } from "../../sheet/role-title.ts";
import { bendsOf } from "../../sheet/sheet.ts";
import { stepKind } from "../../steps/registry.ts";
import { lengthText, sayLength } from "../../units/display.ts";
import { formatFixed, toDegrees } from "../../units/quantity.ts";
import { sayLengths } from "../../units/spoken-length.ts";
import type { BendRow, PartBuild } from "../build.ts";
import type { PartDocument, StepDocument } from "../document.ts";
import { cardOf } from "../stock.ts";
import {
  type Asked,
  asked,
  materialSource,
  n,
  stepName,
  stepSource,
  stockSource,
  thicknessLine,
  type Why,
} from "./asked.ts";

/** What can be asked about a bend. */
export type BendQuestion = "angle" | "radius" | "k" | "allowance" | "deduction" | "length" | "force";

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

/** K's whole chain, its own steps named by their place. */
const kLines = (a: Asked, row: BendRow): WhyLine[] =>
  row.kSource.lines.map(({ because, ...line }) => {
    const text = sayLengths(line.text, a.units);
    if (line.link?.to !== "step") return { ...line, text };
    const name = stepName(a, line.link.id);
    return { ...line, text, source: because ? `${name}: ${because}` : name };
  });

const outsideLines = (a: Asked, row: BendRow): WhyLine[] =>
  row.kSource.outside
    ? [{ text: sayLengths(`outside chart: ${sayOutside(row.kSource.outside)}`, a.units) }]
    : [];

export const mm = ({ units }: Asked) => (units === "mm" ? "mm" : "in");

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
  const t = a.build.stock?.thickness ?? 0;
  const setback = outerSetback({ t, r: row.radius, angle: row.angle });
  if (row.deduction === undefined || setback === undefined)
    return {
      title: `bend deduction of bend ${row.number}`,
      result: "none",
      lines: [shape[0], { text: "at 180° or more there is no mould point to deduct to" }],
    };
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
      ? findSite(sheet, bend.edge.includes(".") ? bend.edge : `${bend.parent}.${bend.edge}`)
      : undefined;
  const maker = a.document.steps.find((s) => s.id === row.step)!;
  if (edge && sheet && bend) {
    const rest = edge.length - bend.width;
    lines.push({
      text: `edge ${roleTitle(edge.edge.role)} of ${edge.plate.letter} = ${a.l(edge.length)}`,
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
