import type { Point } from "../../plane/point.ts";
import type { DrawnContent } from "../../stock/export-preset.ts";
import type { Drawing, DrawnEntity } from "../drawing/drawing.ts";
import { xmlText } from "../xml-text.ts";
import { curvePath } from "./svg.ts";

/** How each content looks where a picture is drawn: the pen's colour and its dashes, mm. */
const PENS: Readonly<Record<DrawnContent, { readonly ink: string; readonly dashes?: string }>> = {
  outline: { ink: "#22302C" },
  openings: { ink: "#22302C" },
  slits: { ink: "#22302C" },
  bendsUp: { ink: "#B4632C" },
  bendsDown: { ink: "#3D6A8F", dashes: "4 2" },
  tangents: { ink: "#9FA79F" },
  innerMould: { ink: "#9FA79F", dashes: "0.5 1.5" },
  outerMould: { ink: "#9FA79F", dashes: "5 1.5 0.5 1.5" },
  notes: { ink: "#66706A" },
  marks: { ink: "#2F6B4F" },
  centres: { ink: "#B3261E" },
  grain: { ink: "#66706A" },
};

/** A number as SVG takes it, to a millionth: enough for any printer, short enough to be read. */
const n = (v: number): string => String(Number(v.toFixed(6)));
const at = (p: Point): string => `${n(p.x)} ${n(-p.y)}`;

function element(e: DrawnEntity): string {
  switch (e.kind) {
    case "circle":
      return `<circle cx="${n(e.c.x)}" cy="${n(-e.c.y)}" r="${n(e.r)}"/>`;
    case "curve":
      return `<path d="${curvePath([e.curve], false, n)}"/>`;
    case "chain":
      return `<path d="${curvePath(e.curves, e.closed, n)}"/>`;
    case "text": {
      const turned = `translate(${at(e.at)}) rotate(${n((-e.turn * 180) / Math.PI)})`;
      return `<text transform="${turned}" font-size="${n(e.height * 1.35)}" font-family="sans-serif">${xmlText(e.text)}</text>`;
    }
  }
}

export interface SvgOptions {
  /** How wide the pen is, in the drawing's unit. */
  readonly pen?: number;
  /** Room around what is drawn. */
  readonly margin?: number;
  /** What a reader of the file should know; it is not drawn. */
  readonly said?: readonly string[];
  /** Paper behind it; none leaves it clear. */
  readonly paper?: string;
}

/** A drawing as SVG in its true size: each layer a group that carries its name, arcs as arcs. */
export function drawingSvg({ entities, layers, bounds, units }: Drawing, options: SvgOptions = {}): string {
  const size = Math.max(bounds.maxX - bounds.minX, bounds.maxY - bounds.minY);
  const { margin = size * 0.03, paper, said = [] } = options;
  const told = said.length > 0 ? `<desc>${xmlText(said.join(" "))}</desc>` : "";
  const pen = options.pen ?? (units === "mm" ? 0.2 : 0.008);
  const [x, y] = [bounds.minX - margin, -bounds.maxY - margin];
  const [w, h] = [bounds.maxX - bounds.minX + 2 * margin, bounds.maxY - bounds.minY + 2 * margin];
  const groups = [...layers].flatMap(([content, layer]) => {
    const own = entities.filter((e) => e.content === content);
    if (own.length === 0) return [];
    const { ink, dashes } = PENS[content];
    const f = units === "mm" ? 1 : 1 / 25.4;
    const dashed = dashes
      ? ` stroke-dasharray="${dashes
          .split(" ")
          .map((d) => n(Number(d) * f))
          .join(" ")}"`
      : "";
    const texts = own.filter((e) => e.kind === "text").map(element);
    const lines = own.filter((e) => e.kind !== "text").map(element);
    return [
      `<g id="${layer.name}" fill="none" stroke="${ink}"${dashed}>${lines.join("")}</g>`,
      ...(texts.length > 0 ? [`<g fill="${ink}">${texts.join("")}</g>`] : []),
    ];
  });
  const ground = paper
    ? `<rect x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}" fill="${paper}"/>`
    : "";
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(w)}${units}" height="${n(h)}${units}" viewBox="${n(x)} ${n(y)} ${n(w)} ${n(h)}" stroke-width="${n(pen)}" stroke-linecap="round">${told}${ground}${groups.join("")}</svg>`;
}
