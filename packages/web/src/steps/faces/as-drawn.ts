import {
  bendsOf,
  choicesOf,
  drawInto,
  drawTool,
  formatShort,
  type LegShape,
  legLoop,
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  type Relation,
  roundSize,
  rowsOf,
  type StepDocument,
  stepKind,
  type XY,
} from "@hillcrest/core";
import type { AsDrawn } from "../../state/drawn-shape.ts";

/** The text of a number of a step as it stands, or its default. */
const textOf = (step: StepDocument, key: string): string => {
  const field = stepKind(step.kind)?.fields.find((f) => f.key === key);
  const own = step[key];
  return own !== undefined && String(own).trim() !== ""
    ? String(own)
    : field && "default" in field
      ? String(field.default)
      : "";
};

/** A flat shape as it is: a round, a slot, a rectangle. `height`: the field of a rectangle's other size. */
export const flatAsDrawn =
  (height: "depth" | "height"): AsDrawn =>
  (base, step, values) => {
    const { quantities: q, choices } = values;
    if (choices.form === "round") {
      const byThread = choices.sized !== undefined && choices.sized !== "diameter";
      const wide = roundSize(values).diameter || 10;
      return {
        ...base,
        points: { o: [0, 0] },
        curves: [{ id: "rim", kind: "circle", c: "o", r: wide / 2 }],
        relations: [{ id: "r1", kind: "fixed", of: ["o"] }],
        dimensions: [
          {
            id: "d1",
            kind: "diameter",
            of: ["rim"],
            value: byThread ? String(wide) : textOf(step, "diameter"),
          },
        ],
      };
    }
    if (choices.form !== "slot" && choices.form !== "rectangle") return base;
    const [w, h] = [q.width ?? 0, q[height] ?? 0];
    if (!(w > 0) || !(h > 0)) return base;
    if (choices.form === "slot") return slotOf(base, step, w, h);
    // A plate may be placed by its corner; what is cut stands about its middle.
    const centred = choices.at !== "corner";
    const [x, y] = centred ? [-w / 2, -h / 2] : [0, 0];
    return rectangle(base, [x, y, w, h], textOf(step, "width"), textOf(step, height), centred);
  };

function slotOf(base: Outline, step: StepDocument, w: number, h: number): Outline {
  const [long, wide] = [Math.max(w, h), Math.min(w, h)];
  const [l, s] = w >= h ? ["width", "height"] : ["height", "width"];
  const half = (long - wide) / 2;
  const to = (v: number): XY => (w >= h ? [v, 0] : [0, v]);
  const places = [{ at: to(-half) }, { at: to(half), way: { kind: w >= h ? "level" : "upright" } as const }];
  const side: XY = w >= h ? [half, wide / 2] : [wide / 2, half];
  const drawn = drawInto(base, drawTool("slot")!, {
    places: [...places, { at: side }],
    typed: {
      length: { text: `(${textOf(step, l)}) - (${textOf(step, s)})`, value: long - wide },
      width: { text: textOf(step, s), value: wide },
    },
    picks: [],
  });
  return "outline" in drawn ? drawn.outline : base;
}

const SIDES = ["south", "east", "north", "west"] as const;

function rectangle(
  base: Outline,
  [x, y, w, h]: readonly [number, number, number, number],
  width: string,
  height: string,
  centred: boolean,
): Outline {
  const points: Record<string, XY> = { a: [x, y], b: [x + w, y], c: [x + w, y + h], d: [x, y + h] };
  if (centred) points.o = [0, 0];
  const relations: Relation[] = SIDES.map((side, i) => ({
    id: `r${i + 1}`,
    kind: i % 2 === 0 ? "level" : "upright",
    of: [side],
  }));
  relations.push({ id: "r5", kind: "fixed", of: [centred ? "o" : "a"] });
  if (centred) relations.push({ id: "r6", kind: "middle", of: ["o", "a", "c"] });
  return {
    ...base,
    points,
    curves: SIDES.map((id, i) => ({ id, kind: "line", a: "abcd"[i], b: "abcd"[(i + 1) % 4] })),
    relations,
    dimensions: [
      { id: "d1", kind: "length", of: ["south"], value: width },
      { id: "d2", kind: "length", of: ["east"], value: height },
    ],
  };
}

/** A leg as it is now: a plain one driven by its sizes, any other fixed at its corners. */
export const legAsDrawn: AsDrawn = (base, step, { quantities: q, choices }, latest) => {
  const bend = bendsOf(latest?.sheet).find((b) => b.step === step.id);
  const leg = latest?.steps.find((s) => s.id === step.id)?.section?.leg ?? q.length;
  const width = bend?.width ?? q.width;
  if (!width || !leg || leg <= 0) return base;
  const shape: LegShape =
    choices.shape === "angles"
      ? { by: "angles", left: q.leftLean ?? 0, right: q.rightLean ?? 0 }
      : choices.shape === "step"
        ? { by: "step", height: q.stepHeight ?? 0, left: q.leftStep ?? 0, right: q.rightStep ?? 0 }
        : { by: "rectangle" };
  const loop = legLoop(width, leg, shape);
  const points = Object.fromEntries(loop.map((c, i) => [`p${i}`, [c.a.x, c.a.y] as XY]));
  const ids = loop.map((c, i) => c.name ?? (i === 0 ? "foot" : `side${i}`));
  const curves = ids.map(
    (id, i): OutlineCurve => ({ id, kind: "line", a: `p${i}`, b: `p${(i + 1) % ids.length}` }),
  );
  if (shape.by !== "rectangle" || ids.length !== 4)
    return {
      ...base,
      points,
      curves,
      relations: loop.map((_, i) => ({ id: `r${i}`, kind: "fixed", of: [`p${i}`] })),
    };
  return {
    ...base,
    points: { ...points, o: [0, 0] },
    curves,
    relations: [
      { id: "r1", kind: "fixed", of: ["o"] },
      { id: "r2", kind: "middle", of: ["o", "foot"] },
      ...ids.map(
        (id, i): Relation => ({ id: `r${i + 3}`, kind: i % 2 === 0 ? "level" : "upright", of: [id] }),
      ),
    ],
    dimensions: [
      { id: "d1", kind: "length", of: ["foot"], value: formatShort(width, 6) },
      { id: "d2", kind: "length", of: [ids[1]], value: formatShort(leg, 6) },
    ],
  };
};

/** A profile's legs as a chain: it begins at the zero and runs level, its lengths and turns are those of its table. */
export const chainAsDrawn: AsDrawn = (base, step, values) => {
  const rows = values.rows.legs ?? [];
  const raw = rowsOf(step, "legs");
  const inside = choicesOf(stepKind(step.kind)!.fields, step).angles === "inside";
  const points: Record<string, XY> = { p0: [0, 0] };
  const curves: OutlineCurve[] = [];
  const dimensions: OutlineDimension[] = [];
  let [at, way, count]: [XY, number, number] = [[0, 0], 0, 0];
  const next = (to: XY): [string, string] => {
    const [a, b] = [`p${count}`, `p${++count}`];
    points[b] = to;
    at = to;
    return [a, b];
  };
  rows.forEach((row, i) => {
    const { length = 0, turn = 0, radius, corner = 0 } = row.quantities;
    const id = /^[A-Za-z0-9_-]{1,18}$/.test(row.key) ? row.key : `leg${i}`;
    if (row.choices.form === "arc" && radius && turn !== 0) {
      const left = Math.sign(turn);
      const c: XY = [at[0] - left * radius * Math.sin(way), at[1] + left * radius * Math.cos(way)];
      way += turn;
      const [a, b] = next([c[0] + left * radius * Math.sin(way), c[1] - left * radius * Math.cos(way)]);
      points[`m${i}`] = c;
      curves.push({ id, kind: "arc", a, b, c: `m${i}`, ccw: turn > 0 });
      dimensions.push({ id: `d${i}`, kind: "radius", of: [id], value: String(raw[i]?.radius ?? radius) });
      way += corner;
    } else if (length > 0) {
      const [a, b] = next([at[0] + length * Math.cos(way), at[1] + length * Math.sin(way)]);
      curves.push({ id, kind: "line", a, b });
      dimensions.push({ id: `d${i}`, kind: "length", of: [id], value: String(raw[i]?.length ?? length) });
      way += inside && turn !== 0 ? Math.sign(turn) * (Math.PI - Math.abs(turn)) : turn;
    }
  });
  return { ...base, points, curves, dimensions, relations: chainRelations(curves, points) };
};

/** That a chain begins at the zero, level, and how it goes on: touching an arc, square, or at an angle that is fixed. */
function chainRelations(curves: readonly OutlineCurve[], points: Readonly<Record<string, XY>>): Relation[] {
  const relations: Relation[] = [{ id: "r0", kind: "fixed", of: ["p0"] }];
  curves.forEach((c, i) => {
    const before = curves[i - 1];
    if (c.kind === "line") {
      const [dx, dy] = [points[c.b][0] - points[c.a][0], points[c.b][1] - points[c.a][1]];
      const size = Math.hypot(dx, dy);
      if (Math.abs(dy) < 1e-9 * size) relations.push({ id: `r${i + 1}`, kind: "level", of: [c.id] });
      else if (Math.abs(dx) < 1e-9 * size) relations.push({ id: `r${i + 1}`, kind: "upright", of: [c.id] });
    }
    if (before && (before.kind === "arc" || c.kind === "arc"))
      relations.push({ id: `t${i}`, kind: "tangent", of: [before.id, c.id] });
  });
  return relations;
}
