import type { WhyLine } from "../../bend/why-line.ts";
import { along, dot, type Point } from "../../plane/point.ts";
import { regionArea, regionBounds } from "../../plane/region.ts";
import type { Bend, Plate } from "../../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf, type Sheet } from "../../sheet/sheet.ts";
import { lengthText } from "../../units/display.ts";
import { formatFixed } from "../../units/quantity.ts";
import type { PartBuild } from "../build.ts";
import type { PartDocument } from "../document.ts";
import { type Asked, asked, n, stepLink, stepName, type Why } from "./asked.ts";
import { mm } from "./why-bend.ts";

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
  const lines: WhyLine[] = chain ? [] : sheetLines(a, sheet, side);
  let from = low.at;
  chain?.forEach((owner, i) => {
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

const ownersOf = (sheet: Sheet): Owner[] => [
  ...platesOf(sheet).map((of) => ({ kind: "plate", of }) as const),
  ...bendsOf(sheet).map((of) => ({ kind: "bend", of }) as const),
];

export function ends(sheet: Sheet, side: "width" | "height") {
  const owners = ownersOf(sheet);
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

/** Of several sheets side by side: what each adds along a side, and what is free between them. */
function sheetLines(a: Asked, sheet: Sheet, side: "width" | "height"): WhyLine[] {
  const parents = new Map(bendsOf(sheet).map((b) => [b.child, b.parent]));
  const roots = new Map<string, { from: number; to: number }>();
  for (const owner of ownersOf(sheet)) {
    let root = owner.kind === "plate" ? owner.of.id : owner.of.parent;
    for (let up = parents.get(root); up !== undefined; up = parents.get(root)) root = up;
    for (const box of owner.of.regions.map(regionBounds)) {
      const [x0, x1] = side === "width" ? [box.minX, box.maxX] : [box.minY, box.maxY];
      roots.set(root, {
        from: Math.min(roots.get(root)?.from ?? x0, x0),
        to: Math.max(roots.get(root)?.to ?? x1, x1),
      });
    }
  }
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const lines: WhyLine[] = [];
  let end: number | undefined;
  for (const [id, { from, to }] of [...roots].sort(([, p], [, q]) => p.from - q.from)) {
    const plate = plates.get(id);
    if (!plate || (end !== undefined && to <= end + 1e-9)) continue;
    if (end !== undefined && from > end + 1e-9)
      lines.push({ text: `between the sheets = ${a.l(from - end)}` });
    const beyond = end !== undefined && from < end - 1e-9 ? ", beyond the one before it" : "";
    lines.push({
      text: `the sheet of plate ${plate.letter}${beyond} = ${a.l(to - Math.max(from, end ?? from))}`,
      source: stepName(a, plate.step),
      link: stepLink(plate.step),
    });
    end = to;
  }
  return lines;
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
