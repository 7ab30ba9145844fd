import { type Affine, after, type DrawnShapes, placeOn, type Shape, UNMOVED, wayOn } from "@hillcrest/core";
import svgpath from "svgpath";

type Place = readonly [number, number];
/** Elements whose content is drawn nowhere by itself. */
const UNSEEN = new Set([
  "defs",
  "clipPath",
  "mask",
  "symbol",
  "pattern",
  "marker",
  "title",
  "desc",
  "metadata",
  "style",
  "script",
]);
const GROUPS = new Set(["svg", "g", "a"]);
/** Millimetres in the units that a size can be given in. */
const UNITS: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  Q: 0.25,
};
const DEEPEST = 60;

/** What is read of an element, so that any reader of XML will do. */
export interface SvgElement {
  readonly nodeName: string;
  getAttribute(name: string): string | null;
  readonly childNodes: ArrayLike<unknown>;
}

const isElement = (node: unknown): node is SvgElement =>
  typeof node === "object" && node !== null && "getAttribute" in node && "nodeName" in node;
const nameOf = ({ nodeName }: SvgElement): string => nodeName.replace(/^.*:/, "");
const numberIn = (e: SvgElement, name: string): number => Number.parseFloat(e.getAttribute(name) ?? "0") || 0;

/** Reads what an SVG draws, y upwards, in its own units; `scale` where its width or height says how large those are. */
export function readSvgShapes(root: SvgElement): DrawnShapes {
  if (nameOf(root) !== "svg") throw new Error("its outermost element is no svg");
  const found: { shapes: Shape[]; others: Map<string, number> } = { shapes: [], others: new Map() };
  // In the picture y goes down.
  gather(root, [1, 0, 0, -1, 0, 0], found, 0);
  const scale = scaleOf(root);
  return { ...found, ...(scale === undefined ? {} : { scale }) };
}

/** Millimetres in a unit of the drawing: its width over that of its view box; nothing where it is in no unit of length. */
function scaleOf(root: SvgElement): number | undefined {
  const [, , w, h] = (root.getAttribute("viewBox") ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  for (const [name, box] of [
    ["width", w],
    ["height", h],
  ] as const) {
    const size = /^\s*([\d.eE+-]+)\s*(mm|cm|in|pt|pc|Q)\s*$/.exec(root.getAttribute(name) ?? "");
    const length = size && Number(size[1]) * UNITS[size[2]];
    if (length && length > 0 && box > 0) return length / box;
    if (length && length > 0 && !(box > 0)) return 25.4 / 96;
  }
  return undefined;
}

function gather(
  e: SvgElement,
  around: Affine,
  found: { shapes: Shape[]; others: Map<string, number> },
  depth: number,
): void {
  const name = nameOf(e);
  if (UNSEEN.has(name) || e.getAttribute("display") === "none") return;
  if (depth > DEEPEST) {
    const deep = `deeper than ${DEEPEST} groups`;
    found.others.set(deep, (found.others.get(deep) ?? 0) + 1);
    return;
  }
  const m = after(around, transformOf(e.getAttribute("transform") ?? ""));
  if (GROUPS.has(name)) {
    for (const child of Array.from(e.childNodes)) if (isElement(child)) gather(child, m, found, depth + 1);
    return;
  }
  if (name === "circle" && circular(m, 1, 1)) {
    const [r, c] = [
      numberIn(e, "r") * Math.hypot(m[0], m[1]),
      placeOn(m, [numberIn(e, "cx"), numberIn(e, "cy")]),
    ];
    if (r > 0) found.shapes.push({ kind: "circle", c, r });
    return;
  }
  const path = pathOf(name, e);
  if (path !== undefined) found.shapes.push(...alongPath(path, m));
  else found.others.set(name, (found.others.get(name) ?? 0) + 1);
}

/** What a list of transforms comes to, the last one first. */
function transformOf(text: string): Affine {
  let m = UNMOVED;
  for (const [, name, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const v = list
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (!v.every(Number.isFinite)) throw new Error(`transform="${text.slice(0, 60)}" cannot be read`);
    m = after(m, transform(name, v));
  }
  return m;
}

function transform(name: string, v: readonly number[]): Affine {
  const turn = ((v[0] ?? 0) * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  switch (name) {
    case "matrix":
      return [v[0], v[1], v[2], v[3], v[4], v[5]];
    case "translate":
      return [1, 0, 0, 1, v[0], v[1] ?? 0];
    case "scale":
      return [v[0], 0, 0, v[1] ?? v[0], 0, 0];
    case "rotate": {
      const [x, y] = [v[1] ?? 0, v[2] ?? 0];
      return after(after([1, 0, 0, 1, x, y], [c, s, -s, c, 0, 0]), [1, 0, 0, 1, -x, -y]);
    }
    case "skewX":
      return [1, 0, Math.tan(turn), 1, 0, 0];
    case "skewY":
      return [1, Math.tan(turn), 0, 1, 0, 0];
    default:
      throw new Error(`there is no transform called ${name}`);
  }
}

/** What an element draws, as the data of a path; nothing where it draws no lines. */
function pathOf(name: string, e: SvgElement): string | undefined {
  const n = (key: string) => numberIn(e, key);
  switch (name) {
    case "path":
      return e.getAttribute("d") ?? "";
    case "line":
      return `M${n("x1")} ${n("y1")}L${n("x2")} ${n("y2")}`;
    case "polyline":
    case "polygon": {
      const points = (e.getAttribute("points") ?? "").trim();
      return points === "" ? "" : `M${points}${name === "polygon" ? "Z" : ""}`;
    }
    case "circle":
      return roundPath(n("cx"), n("cy"), n("r"), n("r"));
    case "ellipse":
      return roundPath(n("cx"), n("cy"), n("rx"), n("ry"));
    case "rect": {
      const [x, y, w, h] = ["x", "y", "width", "height"].map(n);
      const rx = Math.min(n("rx") || n("ry"), w / 2);
      const ry = Math.min(n("ry") || n("rx"), h / 2);
      if (!(rx > 0) || !(ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}Z`;
      const corner = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}Z`;
    }
  }
  return undefined;
}

const roundPath = (x: number, y: number, rx: number, ry: number): string =>
  rx > 0 && ry > 0
    ? `M${x - rx} ${y}A${rx} ${ry} 0 1 1 ${x + rx} ${y}A${rx} ${ry} 0 1 1 ${x - rx} ${y}Z`
    : "";

function alongPath(d: string, m: Affine): Shape[] {
  const path = svgpath(d).abs().unshort();
  const problem = (path as unknown as { err?: string }).err;
  if (problem) throw new Error(`a path cannot be read: ${problem}`);
  const shapes: Shape[] = [];
  let start: Place = [0, 0];
  path.iterate((segment, _, x, y) => {
    const [kind, ...v] = segment as unknown as [string, ...number[]];
    const from: Place = [x, y];
    const line = (to: Place) => {
      if (to[0] !== from[0] || to[1] !== from[1])
        shapes.push({ kind: "line", a: placeOn(m, from), b: placeOn(m, to) });
    };
    if (kind === "M") start = [v[0], v[1]];
    else if (kind === "L") line([v[0], v[1]]);
    else if (kind === "H") line([v[0], y]);
    else if (kind === "V") line([x, v[0]]);
    else if (kind === "Z") line(start);
    else if (kind === "A") shapes.push(...arcPiece(from, v, m));
    else if (kind === "C") shapes.push(bezier([from, [v[0], v[1]], [v[2], v[3]], [v[4], v[5]]], m));
    else if (kind === "Q") shapes.push(bezier([from, [v[0], v[1]], [v[2], v[3]]], m));
  });
  return shapes;
}

/** A Bézier curve of any degree, by halving towards t (de Casteljau). */
function bezier(points: readonly Place[], m: Affine): Shape {
  const placed = points.map((p) => placeOn(m, p));
  const between = (list: readonly Place[], t: number): Place[] =>
    list.slice(1).map((q, i) => [list[i][0] + (q[0] - list[i][0]) * t, list[i][1] + (q[1] - list[i][1]) * t]);
  const leads = (t: number): readonly Place[] => {
    let list: readonly Place[] = placed;
    while (list.length > 2) list = between(list, t);
    return list;
  };
  return {
    kind: "smooth",
    at: (t) => between(leads(t), t)[0],
    way: (t) => {
      // Where two control points fall together the direction is that of a moment later or before.
      for (const u of [t, t < 0.5 ? t + 1e-4 : t - 1e-4]) {
        const [p, q] = leads(u);
        if (Math.hypot(q[0] - p[0], q[1] - p[1]) > 1e-12) return [q[0] - p[0], q[1] - p[1]];
      }
      return [1, 0];
    },
  };
}

/** An elliptical arc as SVG gives it: by its ends (after the notes on implementation of SVG 1.1, F.6). */
function arcPiece(
  from: Place,
  [rx0, ry0, rotation, large, sweep, x, y]: readonly number[],
  m: Affine,
): Shape[] {
  const to: Place = [x, y];
  const chord: Shape = { kind: "line", a: placeOn(m, from), b: placeOn(m, to) };
  if (from[0] === x && from[1] === y) return [];
  if (rx0 === 0 || ry0 === 0) return [chord];
  const turn = (rotation * Math.PI) / 180;
  const axes: Affine = [Math.cos(turn), Math.sin(turn), -Math.sin(turn), Math.cos(turn), 0, 0];
  const half: Place = [(from[0] - x) / 2, (from[1] - y) / 2];
  const own: Place = [axes[0] * half[0] + axes[1] * half[1], axes[2] * half[0] + axes[3] * half[1]];
  const size = (own[0] / rx0) ** 2 + (own[1] / ry0) ** 2;
  const grow = Math.sqrt(Math.max(1, size));
  const [rx, ry] = [Math.abs(rx0) * grow, Math.abs(ry0) * grow];
  const root = Math.sqrt(Math.max(0, 1 / Math.max(1e-300, (own[0] / rx) ** 2 + (own[1] / ry) ** 2) - 1));
  const side = large === sweep ? -root : root;
  const centre: Place = [(side * rx * own[1]) / ry, (-side * ry * own[0]) / rx];
  const angle = (p: Place) => Math.atan2((p[1] - centre[1]) / ry, (p[0] - centre[0]) / rx);
  const a0 = angle(own);
  const whole = 2 * Math.PI;
  const ahead = (((angle([-own[0], -own[1]]) - a0) % whole) + whole) % whole;
  const swept = sweep ? ahead : ahead - whole;
  const middle = wayOn(axes, centre);
  const o: Place = [middle[0] + (from[0] + x) / 2, middle[1] + (from[1] + y) / 2];
  const all = after(m, after([1, 0, 0, 1, ...o], axes));
  const on = (t: number): Place =>
    placeOn(all, [rx * Math.cos(a0 + swept * t), ry * Math.sin(a0 + swept * t)]);
  const way = (t: number): Place =>
    wayOn(all, [-rx * swept * Math.sin(a0 + swept * t), ry * swept * Math.cos(a0 + swept * t)]);
  return [
    circular(all, rx, ry) ? roundArc(on, placeOn(all, [0, 0]), swept) : { kind: "smooth", at: on, way },
  ];
}

/** Whether a circle stays one: both axes as long, and square to one another. */
function circular([a, b, c, d]: Affine, rx: number, ry: number): boolean {
  const [u, v] = [Math.hypot(a, b) * rx, Math.hypot(c, d) * ry];
  return Math.abs(u - v) < 1e-9 * u && Math.abs(a * c + b * d) * rx * ry < 1e-9 * u * v;
}

/** An arc by its bulge, so that it ends exactly where it is said to. */
function roundArc(on: (t: number) => Place, c: Place, swept: number): Shape {
  const [p, h, q] = [on(0), on(0.5), on(1)];
  // Seen with y upwards it turns the way in which its middle place lies.
  const left = (h[0] - p[0]) * (q[1] - p[1]) - (h[1] - p[1]) * (q[0] - p[0]);
  const sign =
    Math.abs(left) > 0
      ? Math.sign(left)
      : (h[0] - c[0]) * (q[1] - c[1]) - (h[1] - c[1]) * (q[0] - c[0]) > 0
        ? 1
        : -1;
  return {
    kind: "chain",
    closed: false,
    corners: [
      { at: p, bulge: sign * Math.tan(Math.abs(swept) / 4) },
      { at: q, bulge: 0 },
    ],
  };
}
