import { reachOf } from "../../forming/section.ts";
import { Kept } from "../../kept.ts";
import { type Curve, curveBounds, distanceToCurve } from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import { type Loop, loopBounds } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { type Bounds, boundsMeet, type Frame, point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { insideLoop } from "../../plane/stitch.ts";
import type { SheetDraft } from "../draft.ts";
import type { Plate } from "../pieces/flat-pieces.ts";
import type { Formed } from "../pieces/formed-piece.ts";
import type { Labels, SheetRemark } from "../remarks.ts";
import type { FormOp, Metal } from "./metal-op.ts";

/** What keeps a shape from being formed where its step has it. */
export type FormFate = "outside" | "over-edge" | "opening" | "other";

/** A shape that a step forms on a plate: the piece, or why there is none. */
export interface FormedOut {
  readonly op: FormOp;
  readonly plate: string;
  readonly piece?: Formed;
  readonly fate?: FormFate;
}

/** Borders nearer than this, mm, touch. */
const TOUCH = 1e-6;

interface Bordered {
  readonly loop: Loop;
  readonly box: Bounds;
}

const pieces = new Kept(
  (op: FormOp, { plate, frame, openings, nth }: OnPlate): Formed => {
    const [outline] = op.loops;
    const box = loopBounds(outline);
    const middle = point((box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2);
    return {
      ...op.formed,
      ...(op.name === undefined ? {} : { name: op.name }),
      kind: "formed",
      id: `${plate}/${op.step}/${nth}`,
      step: op.step,
      feature: op.feature.id,
      host: plate,
      frame: { origin: middle, x: frame.x },
      outline,
      openings,
    };
  },
  (p, q) =>
    p.plate === q.plate &&
    p.nth === q.nth &&
    p.frame.x.x === q.frame.x.x &&
    p.frame.x.y === q.frame.x.y &&
    p.openings.length === q.openings.length &&
    p.openings.every((l, i) => l === q.openings[i]),
);

interface OnPlate {
  readonly plate: string;
  readonly frame: Frame;
  readonly openings: readonly Loop[];
  /** Which of the shapes of its step on this plate it is. */
  readonly nth: number;
}

const crosses = (p: Loop, q: Loop): boolean =>
  p.some((c) => {
    const box = curveBounds(c);
    return q.some(
      (d) => boundsMeet(box, curveBounds(d)) && (intersectCurves(c, d).length > 0 || lieOn(c, d)),
    );
  });

/** Whether an end of one lies on the other. */
const lieOn = (c: Curve, d: Curve): boolean =>
  distanceToCurve(c, d.a) < TOUCH || distanceToCurve(d, c.a) < TOUCH;

/** The shapes that stand in the metal of a plate; each of an earlier step before those that would stand in it. */
export const formedOut = new Kept((plate: Plate, metal: Metal): readonly FormedOut[] =>
  findFormed(plate, metal),
);

function findFormed(plate: Plate, metal: Metal): FormedOut[] {
  const ops = metal.filter((op) => op.kind === "form");
  if (ops.length === 0) return [];
  const borders = new NearCurves<Bordered>(
    plate.regions.flatMap(regionLoops).map((loop) => ({ loop, box: loopBounds(loop) })),
  );
  const outers = new Set(plate.regions.map((r) => r.outer));
  const others = new NearCurves(ops.map((op, nth) => ({ op, nth, box: loopBounds(op.loops[0]) })));
  const counts = new Map<string, number>();
  const gone = new Set<FormOp>();
  return ops.map((op, at): FormedOut => {
    const told = (fate: FormFate): FormedOut => {
      gone.add(op);
      return { op, plate: plate.id, fate };
    };
    const [outline] = op.loops;
    const near = borders.near(loopBounds(outline));
    const start = outline[0].a;
    const holding = plate.regions.find((r) => insideLoop(r.outer, start));
    const met = near.filter(({ loop }) => crosses(outline, loop));
    if (met.some(({ loop }) => outers.has(loop))) return told("over-edge");
    if (
      !holding ||
      holding.holes.some(
        (hole) => boundsMeet(loopBounds(hole), loopBounds(outline)) && insideLoop(hole, start),
      )
    )
      return told("outside");
    if (met.length > 0) return told("opening");
    const openings = near
      .map(({ loop }) => loop)
      .filter((loop) => !outers.has(loop) && insideLoop(outline, loop[0].a));
    // Openings of its own go with it; others must stand in its flat middle.
    const own = op.formed.shape.open;
    if (!own && openings.some((loop) => !inMiddle(outline, loop, reachOf(op.formed.shape))))
      return told("opening");
    const stands = others
      .near(loopBounds(outline))
      .some(
        (o) =>
          o.nth < at &&
          !gone.has(o.op) &&
          (crosses(outline, o.op.loops[0]) ||
            insideLoop(outline, o.op.loops[0][0].a) ||
            insideLoop(o.op.loops[0], start)),
      );
    if (stands) return told("other");
    const nth = counts.get(op.step) ?? 0;
    counts.set(op.step, nth + 1);
    return {
      op,
      plate: plate.id,
      piece: pieces.of(op, { plate: plate.id, frame: plate.frame, openings, nth }),
    };
  });
}

/** Whether an opening stands so far inside an outline all round. */
function inMiddle(outline: Loop, opening: Loop, reach: number): boolean {
  const formed = outline.filter((c) => c.name !== "form:cut");
  return opening.every((c) =>
    [c.a, ...(c.kind === "arc" ? extremes(c) : [])].every((p) =>
      formed.every((d) => distanceToCurve(d, p) > reach + TOUCH),
    ),
  );
}

const extremes = (c: Extract<Curve, { kind: "arc" }>) =>
  Array.from({ length: 16 }, (_, k) =>
    point(c.c.x + c.r * Math.cos((k * Math.PI) / 8), c.c.y + c.r * Math.sin((k * Math.PI) / 8)),
  );

const FATES: Readonly<Record<FormFate, readonly [string, string]>> = {
  outside: ["lies outside the metal of its plate", "lie outside the metal of their plate"],
  "over-edge": [
    "runs over the edge of its plate or into a bend",
    "run over the edge of their plate or into a bend",
  ],
  opening: [
    "runs into an opening, or an opening stands in its slope",
    "run into openings, or openings stand in their slopes",
  ],
  other: ["stands in another shape that is formed", "stand in another shape that is formed"],
};

/** What could not be formed. A shape that a fold has carried over to one of two plates stands where it fits. */
export function formedRemarks(
  draft: SheetDraft,
  all: readonly FormedOut[],
  { letterOf }: Labels,
): SheetRemark[] {
  if (all.every(({ piece }) => piece)) return [];
  const standing = new Set(all.flatMap(({ op, piece }) => (piece ? [nameOf(op)] : [])));
  const missing = new Map<string, FormedOut>();
  for (const one of all) {
    const name = nameOf(one.op);
    if (one.piece || standing.has(name)) continue;
    const before = missing.get(name);
    // What it meets says more than that it is not there.
    if (!before || before.fate === "outside") missing.set(name, one);
  }
  const groups = new Map<string, FormedOut[]>();
  for (const one of missing.values()) {
    const key = `${one.op.step} ${one.plate} ${one.fate}`;
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups.values()].map((group): SheetRemark => {
    const [{ op, plate, fate }] = group;
    const title = op.formed.title;
    const of = all.filter((one) => one.op.step === op.step).length;
    const said =
      group.length === 1
        ? `${of > 1 ? "One" : "The"} ${title.toLowerCase()} on plate ${letterOf(plate)} ${FATES[fate!][0]}. It is not formed`
        : `${group.length} of ${of} (${title.toLowerCase()}) on plate ${letterOf(plate)} ${FATES[fate!][1]}. They are not formed`;
    const them = group.length === 1 ? "it" : "them";
    return {
      step: op.step,
      message: `${said}: move ${them}, make ${them} smaller, or leave ${them} out.`,
      ...(draft.pieces.plate(plate) !== undefined ? { plate } : {}),
    };
  });
}

const nameOf = ({ step, loops: [outline] }: FormOp): string =>
  `${step} ${outline[0].a.x.toFixed(6)} ${outline[0].a.y.toFixed(6)}`;
