import { arcAngles, type Curve, flattenCurve } from "../../plane/curve.ts";
import { flattenLoop, type Loop } from "../../plane/loop.ts";
import { hypotenuse, type Point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import type { Blank } from "../../sheet/blank/blank.ts";
import { evenState, type Folding, facingOf, foldPoint, foldSheet } from "../../sheet/folding/fold.ts";
import { kindOf } from "../../sheet/pieces/piece-kinds.ts";
import { bendsOf, platesOf, type Sheet } from "../../sheet/sheet.ts";
import { crossV, dotV, lengthV, moveV, scaleV, turnV, type Vector } from "../../space/vector.ts";
import { depthOrder, type SeenFace } from "./depth-order.ts";

const short = (v: number) => String(Math.round(v * 100) / 100);

/** An SVG path of a curve chain, y turned to point down, arcs as arcs; numbers to a hundredth, or as they are wanted. */
export function curvePath(
  curves: readonly Curve[],
  closed: boolean,
  n: (v: number) => string = short,
): string {
  const at = (p: Point) => `${n(p.x)} ${n(-p.y)}`;
  const parts = [`M${at(curves[0].a)}`];
  for (const c of curves) {
    if (c.kind === "line") parts.push(`L${at(c.b)}`);
    else {
      const large = Math.abs(arcAngles(c).sweep) > Math.PI + 1e-9;
      parts.push(`A${n(c.r)} ${n(c.r)} 0 ${large ? 1 : 0} ${c.ccw ? 0 : 1} ${at(c.b)}`);
    }
  }
  return parts.join("") + (closed ? "Z" : "");
}

const loopPath = (loop: Loop) => curvePath(loop, true);

function frame(
  box: { minX: number; minY: number; maxX: number; maxY: number },
  body: string,
  trueSize = false,
): string {
  const margin = Math.max(box.maxX - box.minX, box.maxY - box.minY) * 0.03 || 1;
  const view = [
    box.minX - margin,
    box.minY - margin,
    box.maxX - box.minX + 2 * margin,
    box.maxY - box.minY + 2 * margin,
  ];
  const [, , width, height] = view.map(short);
  const size = trueSize ? ` width="${width}mm" height="${height}mm"` : "";
  return `<svg xmlns="http://www.w3.org/2000/svg"${size} viewBox="${view.map(short).join(" ")}">${body}</svg>`;
}

const PEN = 'vector-effect="non-scaling-stroke"';

/** A small picture of a blank: outline, openings and bend lines. Colours are the page's own variables. */
export function blankPicture(sheet: Sheet, blank: Blank): string {
  const up = new Map(bendsOf(sheet).map((b) => [b.id, b.up]));
  const shape = [...blank.outlines, ...blank.openings].map(loopPath).join("");
  const bends = blank.centreLines.flatMap(({ bend, pieces }) =>
    pieces.map((p) => {
      const ink = up.get(bend)
        ? 'stroke="var(--bend-up,#B4632C)"'
        : 'stroke="var(--bend-down,#3D6A8F)" stroke-dasharray="4 3"';
      return `<path d="${curvePath([p], false)}" fill="none" ${ink} ${PEN}/>`;
    }),
  );
  const { minX, minY, maxX, maxY } = blank.bounds;
  const outline = `<path d="${shape}" fill="var(--blank,#E3E6E0)" fill-rule="evenodd" stroke="var(--ink,#22302C)" stroke-width="1.2" ${PEN}/>`;
  return frame({ minX, minY: -maxY, maxX, maxY: -minY }, outline + bends.join(""));
}

/** Where the folded part is looked at from. */
export const FOLDED_VIEWS = ["oblique", "front", "top", "right"] as const;
export type FoldedView = (typeof FOLDED_VIEWS)[number];

/** The way to the eye; right and up on the picture follow from it. */
const EYES: Readonly<Record<FoldedView, Vector>> = {
  // In front, to the left and above.
  oblique: [-0.52, -0.72, 0.62],
  front: [0, -1, 0],
  top: [0, 0, 1],
  right: [1, 0, 0],
};
const LIGHT: Vector = normal([-0.25, -0.55, 0.9]);

interface Camera {
  readonly eye: Vector;
  readonly right: Vector;
  readonly up: Vector;
}

function cameraOf(view: FoldedView): Camera {
  const eye = normal(EYES[view]);
  const right = normal(view === "top" ? [1, 0, 0] : crossV([0, 0, 1], eye));
  return { eye, right, up: crossV(eye, right) };
}

function normal(v: Vector): Vector {
  return scaleV(v, 1 / lengthV(v));
}

interface Face {
  readonly depth: number;
  readonly rings: readonly (readonly Vector[])[];
  readonly facing: Vector;
  readonly metal: "a" | "b" | "edge";
  /** Facets of a bend carry no outline: they stand for one round surface. */
  readonly facet: boolean;
}

/** A picture on a card of the Shelf is so many pixels wide. */
const SMALL = 300;

/** How the folded part is pictured. */
export interface FoldedPicture {
  readonly anchor?: string;
  /** How wide it will be shown: that finely it is drawn. */
  readonly pixels?: number;
  /** From 0, flat, to 1, folded. */
  readonly fold?: number;
  readonly view?: FoldedView;
  /** In plain colours and as large as the part is, for a file, rather than in those of the page it stands on. */
  readonly asFile?: boolean;
}

/** A picture of the folded part, drawn back to front. */
export function foldedPicture(sheet: Sheet, options: FoldedPicture = {}): string {
  const { anchor, pixels = SMALL, fold = 1, view = "oblique", asFile = false } = options;
  const { eye, right, up } = cameraOf(view);
  const folding = foldSheet(sheet, evenState(sheet, fold), anchor);
  const { x0, y0, x1, y1 } = platesOf(sheet)[0].box;
  // As fine as a picture of that size can show.
  const chord = Math.max(0.2, hypotenuse(x1 - x0, y1 - y0) / 700) * Math.min(1, SMALL / pixels);
  const facet = Math.min(0.35, 0.35 * Math.sqrt(SMALL / pixels));
  const faces: Face[] = [];
  const add: AddFace = (rings, facing, metal, isFacet = false) => {
    if (dotV(facing, eye) <= 1e-6 || rings.length === 0) return;
    const depth = rings[0].reduce((sum, p) => sum + dotV(p, eye), 0) / rings[0].length;
    faces.push({ depth, rings, facing, metal, facet: isFacet });
  };
  sheet.pieces.forEach((piece, i) => {
    const kind = kindOf(piece);
    const facets = kind.facets?.(piece, facet);
    if (facets) addFacets(facets, folding, i, sheet.t, add);
    else addPlate(kind.regions(piece).map(regionLoops), folding, i, { t: sheet.t, chord }, add);
  });
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const seen = faces.map((f) => seenFace(f, { eye, right, up }));
  for (const [x, y] of seen.flatMap((f) => f.rings.flat())) {
    box.minX = Math.min(box.minX, x);
    box.maxX = Math.max(box.maxX, x);
    box.minY = Math.min(box.minY, y);
    box.maxY = Math.max(box.maxY, y);
  }
  const pathOf = (ring: SeenFace["rings"][number]) =>
    `M${ring.map(([x, y]) => `${short(x)} ${short(y)}`).join("L")}Z`;
  const body = depthOrder(seen)
    .map((k) => drawFace(faces[k], seen[k].rings.map(pathOf).join(""), asFile))
    .join("");
  return frame(box, body, asFile);
}

/** A face on the picture, y downwards, and its plane: n·q = n·p₀ with q = x·right − y·up + depth·eye. */
function seenFace({ rings, facing, depth }: Face, { eye, right, up }: Camera): SeenFace {
  const towards = dotV(facing, eye);
  return {
    depth,
    rings: rings.map((ring) => ring.map((p) => [dotV(p, right), -dotV(p, up)] as const)),
    plane: {
      d: dotV(facing, rings[0][0]) / towards,
      a: -dotV(facing, right) / towards,
      b: dotV(facing, up) / towards,
    },
  };
}

/** Metal as it is lit, by its sides: pale zinc, bluer on side B, darker where it is cut. */
const METALS: Readonly<Record<Face["metal"], readonly [number, number, number]>> = {
  a: [0xc9, 0xce, 0xc8],
  b: [0xbc, 0xc7, 0xcc],
  edge: [0x9f, 0xa7, 0x9f],
};
const DARK = [0x4c, 0x56, 0x52];

function drawFace({ facing, metal, facet }: Face, path: string, asFile: boolean): string {
  const shade = Math.round(62 + 38 * Math.max(0, dotV(facing, LIGHT)));
  const mixed = METALS[metal].map((v, i) => Math.round((v * shade + DARK[i] * (100 - shade)) / 100));
  const fill = asFile
    ? `#${mixed.map((v) => v.toString(16).padStart(2, "0")).join("")}`
    : `color-mix(in srgb,var(--metal-${metal},#C9CEC8) ${shade}%,var(--metal-dark,#4c5652))`;
  const ink = asFile ? "#22302C" : "var(--ink,#22302C)";
  const pen = facet
    ? `style="fill:${fill};stroke:${fill}"`
    : `style="fill:${fill}" stroke="${ink}" stroke-opacity=".35"`;
  return `<path d="${path}" ${pen} fill-rule="evenodd" stroke-width="${asFile ? ".2" : ".6"}" ${asFile ? "" : PEN}/>`;
}

type AddFace = (
  rings: readonly (readonly Vector[])[],
  facing: Vector,
  metal: Face["metal"],
  facet?: boolean,
) => void;

interface Fineness {
  readonly t: number;
  /** How far a drawn chord may stand off its arc, in mm. */
  readonly chord: number;
}

function addPlate(
  regions: readonly Loop[][],
  folding: Folding,
  owner: number,
  { t, chord }: Fineness,
  add: AddFace,
): void {
  const motion = facingOf(folding, owner);
  for (const loops of regions) {
    const flat = loops.map((l) => flattenLoop(l, chord));
    const lift = (w: number) => flat.map((ring) => ring.map((p) => moveV(motion, [p.x, p.y, w])));
    add(lift(0), turnV(motion, [0, 0, -1]), "a");
    add(lift(t), turnV(motion, [0, 0, 1]), "b");
    addWalls(
      loops[0],
      { t, chord },
      (p, w) => moveV(motion, [p.x, p.y, w]),
      (n) => turnV(motion, [n.x, n.y, 0]),
      add,
    );
  }
}

function addWalls(
  loop: Loop,
  { t, chord }: Fineness,
  lift: (p: Point, w: number) => Vector,
  turn: (n: Point) => Vector,
  add: AddFace,
): void {
  for (const c of loop) {
    const points = [...flattenCurve(c, chord), c.b];
    for (let i = 0; i + 1 < points.length; i++) {
      const [p, q] = [points[i], points[i + 1]];
      const length = hypotenuse(q.x - p.x, q.y - p.y) || 1;
      const out = { x: (q.y - p.y) / length, y: -(q.x - p.x) / length };
      add([[lift(p, 0), lift(q, 0), lift(q, t), lift(p, t)]], turn(out), "edge");
    }
  }
}

/** Metal that turns, in pieces that are as good as flat. */
function addFacets(
  quads: readonly (readonly Point[])[],
  folding: Folding,
  owner: number,
  t: number,
  add: AddFace,
): void {
  for (const quad of quads) {
    const lift = (w: number) => quad.map((p): Vector => foldPoint(folding, owner, [p.x, p.y, w]));
    const [a, b] = [lift(0), lift(t)];
    const facing = normal([b[0][0] - a[0][0], b[0][1] - a[0][1], b[0][2] - a[0][2]]);
    add([a], scaleV(facing, -1), "a", true);
    add([b], facing, "b", true);
    const side = normal([a[1][0] - a[0][0], a[1][1] - a[0][1], a[1][2] - a[0][2]]);
    add([[a[0], a[3], b[3], b[0]]], scaleV(side, -1), "edge", true);
    add([[a[1], a[2], b[2], b[1]]], side, "edge", true);
  }
}
