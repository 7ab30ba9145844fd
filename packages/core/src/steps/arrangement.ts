import {
  type Choices,
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  type RawValues,
  rowsOf,
} from "../fields/field.ts";
import { isCrowd } from "../plane/crowd.ts";
import { curveLength, curvesBounds, directionAt, pointAt } from "../plane/curve.ts";
import { intoAxes, moveCurve } from "../plane/isometry.ts";
import {
  fillRegions,
  type Lattice,
  latticePlace,
  MOST_TRIED,
  placeAlong,
  placesTried,
  spreadAlong,
} from "../plane/lattice.ts";
import type { Loop } from "../plane/loop.ts";
import { add, along, type Bounds, hypotenuse, type Point, point, scale } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import { fail, ok, type Result } from "../result.ts";
import { mm } from "../units/spoken-length.ts";
import { angleField, countField, lengthField } from "./bend-values.ts";
import { drawnAreas, drawnChain } from "./outline-values.ts";
import type { LeavingOut, SentencePart, StepContext } from "./step-kind.ts";

/** An arrangement may have this many places in all. */
export const MOST_PLACES = 100_000;
/** Places nearer to one another than this, mm, lie over one another. */
export const LEAST_APART = 0.01;
export const OVER_ONE_ANOTHER = "The places lie over one another: they are to be at least 0.01 mm apart.";
const TURN = 2 * Math.PI;
const TRIANGLE = Math.sqrt(3) / 2;

const arranged = (...list: string[]) => ({ shown: (c: Choices) => list.includes(c.arranged) });
const onRing = (by: string) => ({ shown: (c: Choices) => c.arranged === "round" && c.ringBy === by });
/** The field that says how large the circle of a ring is. */
const ringField = ({ ringBy }: Choices) => (ringBy === "diameter" ? "pitchCircle" : "ring");
const inRow = (c: Choices) => ["row", "grid", "edge", "line"].includes(c.arranged);

/** Whether the openings of a step are numbered, so that single ones can be left out. */
export const isNumbered = (c: Choices): boolean =>
  c.arranged !== undefined && c.arranged !== "once" && c.arranged !== "list";

/** Single ones that are left out of many, by number and row. */
export const leftOutField = (shown: (c: Choices) => boolean): FieldSpec => ({
  kind: "rows",
  key: "leftOut",
  label: "Left out",
  empty: "click one in a view to leave it out",
  noun: "place",
  most: MOST_PLACES,
  line: ["no.", { column: "i" }, "of row", { column: "j" }],
  columns: [
    { kind: "quantity", key: "i", label: "Number", dimension: "number", default: "", start: "0" },
    { kind: "quantity", key: "j", label: "Row", dimension: "number", default: "", start: "0" },
  ],
  shown,
});

/** Those of some places that are not left out; nothing where all of them are. */
export function withoutLeftOut<T extends { readonly i: number; readonly j: number }>(
  { rows }: FieldValues,
  places: readonly T[],
): readonly T[] | undefined {
  const without = new Set((rows.leftOut ?? []).map(({ quantities: q }) => `${q.i} ${q.j}`));
  const left = without.size === 0 ? places : places.filter(({ i, j }) => !without.has(`${i} ${j}`));
  return left.length > 0 ? left : undefined;
}

export const ALL_LEFT_OUT: FieldProblem = {
  field: "leftOut",
  message: "All of them are left out. Take some of them back.",
};

/** How rows stand to one another, as fields. */
export const rowFields = (shown: (c: Choices) => boolean): readonly FieldSpec[] => [
  choice(
    "rowsStand",
    "Rows stand",
    "square",
    { square: "one above the other", triangle: "staggered by 60°", free: "staggered" },
    { shown },
  ),
  lengthField("rowPitch", "Rows apart", "20", {
    min: -20000,
    shown: (c: Choices) => shown(c) && c.rowsStand !== "triangle",
  }),
  {
    kind: "quantity",
    key: "shift",
    label: "Every second row moved by",
    about: "As a share of how far apart those of a row are.",
    dimension: "number",
    default: "0.5",
    min: -1,
    max: 1,
    shown: (c) => shown(c) && c.rowsStand === "free",
  },
];

/** How far apart rows stand and how, in words. */
export const rowsSentence = (c: Choices): SentencePart[] =>
  c.rowsStand === "triangle"
    ? [" ", { field: "rowsStand" }]
    : [" ", { field: "rowPitch" }, " apart ", { field: "rowsStand" }];

/** Which openings stand how to one another, as fields. */
export const arrangementFields: readonly FieldSpec[] = [
  choice("arranged", "Arranged", "once", {
    once: "once",
    list: "in several places",
    row: "in a row",
    grid: "in a grid",
    round: "in a circle",
    edge: "along its edge",
    line: "along a drawn line",
    fill: "all over",
  }),
  {
    kind: "rows",
    key: "places",
    label: "Further places",
    about: "Counted from the first place.",
    noun: "place",
    most: MOST_PLACES,
    line: [
      ...["at", { column: "x" }, ",", { column: "y" }],
      ...[", turned", { column: "turned" }, ", wide", { column: "size" }],
    ],
    anew: ["x", "y"],
    columns: [
      { kind: "quantity", key: "x", label: "X", dimension: "length", default: "", start: "20" },
      { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "", start: "0" },
      angleField("turned", "Turned by", { default: "", optional: true, empty: "as the first" }),
      {
        kind: "quantity",
        key: "size",
        label: "Width or ⌀",
        dimension: "length",
        default: "",
        optional: true,
        empty: "as the first",
        above: 0,
        max: 20000,
      },
    ],
    ...arranged("list"),
  },
  { kind: "drawn", key: "line", label: "Drawn line", ...arranged("line") },
  choice(
    "within",
    "Within",
    "plate",
    { plate: "the plate", drawn: "an outline of the part" },
    arranged("fill"),
  ),
  {
    kind: "drawn",
    key: "region",
    label: "Outline to fill",
    shown: (c) => c.arranged === "fill" && c.within === "drawn",
  },
  choice(
    "spaced",
    "Spaced",
    "pitch",
    { pitch: "at a pitch", evenly: "evenly over a length", fit: "as many as fit" },
    { shown: inRow },
  ),
  countField("count", "How many", "3", (c) => c.arranged === "round" || (inRow(c) && c.spaced !== "fit")),
  lengthField("pitch", "Apart", "20", {
    min: -20000,
    shown: (c: Choices) => c.arranged === "fill" || (inRow(c) && c.spaced !== "evenly"),
  }),
  lengthField("over", "Over", "100", {
    shown: (c: Choices) => ["row", "grid"].includes(c.arranged) && c.spaced !== "pitch",
  }),
  lengthField("ends", "Free at both ends", "10", {
    shown: (c: Choices) => ["edge", "line"].includes(c.arranged) && c.spaced !== "pitch",
  }),
  countField("rows", "Rows", "2", (c) => c.arranged === "grid"),
  ...rowFields((c) => c.arranged === "grid" || c.arranged === "fill"),
  lengthField("margin", "Margin to borders", "5", arranged("fill")),
  angleField("direction", "Direction", { ...arranged("row", "grid", "round", "fill") }),
  choice(
    "from",
    "Place is",
    "middle",
    { middle: "their middle", first: "the first of them" },
    { shown: (c) => c.arranged === "row" || c.arranged === "grid" },
  ),
  choice(
    "rest",
    "Rest",
    "shared",
    { shared: "shared at the ends", first: "after the place" },
    arranged("fill"),
  ),
  choice(
    "ringBy",
    "On",
    "radius",
    { radius: "a radius of", diameter: "a pitch circle of ⌀" },
    arranged("round"),
  ),
  lengthField("ring", "Radius", "30", { min: undefined, above: 0, ...onRing("radius") }),
  lengthField("pitchCircle", "Pitch-circle diameter", "60", {
    min: undefined,
    above: 0,
    ...onRing("diameter"),
  }),
  angleField("sweep", "Over", { default: "360", ...arranged("round") }),
  choice(
    "faces",
    "Each is turned",
    "same",
    { same: "like the first", along: "with its place" },
    arranged("round", "line"),
  ),
  leftOutField(isNumbered),
];

/** Whether the openings of an arrangement go by a place that the step names. */
export const hasPlace = (c: Choices): boolean =>
  c.arranged !== "line" && !(c.arranged === "fill" && c.rest === "shared");

/** The words of an arrangement, for a step's sentence. */
export function arrangementSentence(raw: RawValues, c: Choices): SentencePart[] {
  if (c.arranged === "once") return [];
  const many = c.spaced === "fit" ? [] : [", ", { field: "count" }];
  const apart = c.spaced === "evenly" ? [] : [", ", { field: "pitch" }, " apart"];
  const turned = raw.direction !== undefined && String(raw.direction) !== "0";
  const direction: SentencePart[] = turned ? [", direction ", { field: "direction" }] : [];
  const rowsApart = rowsSentence(c);
  const parts: SentencePart[] = [", ", { field: "arranged" }];
  switch (c.arranged) {
    case "list":
      return parts;
    case "round":
      return [
        ...parts,
        ...[", ", { field: "count" }, " on ", { field: "ringBy" }, " ", { field: ringField(c) }],
      ];
    case "fill":
      return [
        ...parts,
        " of ",
        { field: c.within === "plate" ? "within" : "region" },
        ...[", ", { field: "pitch" }, " apart, rows"],
        ...rowsApart,
        ...[", margin ", { field: "margin" }],
        ...direction,
      ];
    case "edge":
    case "line":
      return [
        ...parts,
        ...(c.arranged === "line" ? [" ", { field: "line" }] : []),
        ...many,
        ...[" ", { field: "spaced" }],
        ...apart,
        ...(c.spaced === "pitch" ? [] : [", ", { field: "ends" }, " free at both ends"]),
      ];
    default: {
      const row: SentencePart[] = [
        ...parts,
        ...many,
        ...[" ", { field: "spaced" }],
        ...apart,
        ...(c.spaced === "pitch" ? [] : [", over ", { field: "over" }]),
      ];
      const rows: SentencePart[] =
        c.arranged === "grid" ? [", ", { field: "rows" }, " rows", ...rowsApart] : [];
      return [...row, ...rows, ...direction];
    }
  }
}

/** A place of an arrangement, in the plate's own frame. */
export interface ArrangedPlace {
  /** What is put behind the names of what stands there: nothing at the first place. */
  readonly mark: string;
  readonly at: Point;
  /** How far what stands there is turned, besides what the step says, radians. */
  readonly turned: number;
  /** Another size than the step's own, mm. */
  readonly size?: number;
}

/** The mark of a place by its number and its row. */
export const placeMark = (i: number, j: number): string =>
  i === 0 && j === 0 ? "" : `-${[i, j].map((n) => (n < 0 ? `m${-n}` : String(n))).join("_")}`;

/**
 * Number and row of an opening of an arrangement, from the name of its border; nothing where a later step has copied it
 * there, for it is none of the arrangement's own.
 */
export function placeOfBorder(
  name: string,
  step: string,
): { readonly i: number; readonly j: number } | undefined {
  const found = BORDER.exec(name);
  if (found?.[2] !== step) return undefined;
  const number = (text = "0") => (text.startsWith("m") ? -Number(text.slice(1)) : Number(text));
  return { i: number(found[4]), j: number(found[5]) };
}

// A whole round goes by its step (`cut:s2`), others by one of their sides (`opening:s2-north`); the place stands behind.
const BORDER =
  /^(cut:|opening:|form:)([A-Za-z]\w*)((?<=opening:\w+)-(?!m?\d+_)[A-Za-z]\w*)?(?:-(m?\d+)_(m?\d+))?$/;

/** How an opening of an arrangement, by the name of its border, is left out of it. */
export function leftOutOf(
  step: { readonly id: string } & RawValues,
  c: Choices,
  name: string,
): LeavingOut | undefined {
  if (c.arranged === "list") {
    const row = rowsOf(step, "places").find(({ key }) =>
      new RegExp(`^(cut:${step.id}|form:${step.id}|opening:${step.id}-\\w+)-${key}$`).test(name),
    );
    return row && { table: "places", remove: row.key };
  }
  const place = isNumbered(c) ? placeOfBorder(name, step.id) : undefined;
  return place && { table: "leftOut", add: { i: String(place.i), j: String(place.j) } };
}

/** What the places of an arrangement are found from. */
export interface ToArrange {
  /** The step's own place, and the line that it is measured from where there is one. In the plate's own frame. */
  readonly place?: { readonly at: Point; readonly datum?: readonly [Point, Point] };
  /** One opening, about its own place, turned as it is to stand: its loops. */
  readonly opening: readonly Loop[];
  /** The plate's metal in its own frame. */
  readonly metal: () => readonly Region[];
}

/** All places of an arrangement, those that are left out not among them; or what is wrong with its values. */
export function arrangedPlaces(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  given: ToArrange,
): Result<readonly ArrangedPlace[], FieldProblem> {
  const { choices } = values;
  const at = given.place?.at ?? point(0, 0);
  if (choices.arranged === "once") return ok([{ mark: "", at, turned: 0 }]);
  if (choices.arranged === "list")
    return ok([
      { mark: "", at, turned: 0 },
      ...(values.rows.places ?? []).map(({ key, quantities: q }) => ({
        mark: `-${key}`,
        at: point(at.x + (q.x ?? 0), at.y + (q.y ?? 0)),
        turned: q.turned === undefined ? 0 : q.turned - (values.quantities.turned ?? 0),
        ...(q.size === undefined ? {} : { size: q.size }),
      })),
    ]);
  const wrong = tooClose(values);
  if (wrong) return fail(wrong);
  const all = numberedPlaces(values, outlineOf, given, at);
  if (!all.ok) return all;
  if (all.value.length === 0) return fail(noRoom(choices));
  const left = withoutLeftOut(values, all.value);
  if (!left) return fail(ALL_LEFT_OUT);
  return ok(left.map(({ i, j, at, turned }) => ({ mark: placeMark(i, j), at, turned })));
}

interface Numbered {
  readonly i: number;
  readonly j: number;
  readonly at: Point;
  readonly turned: number;
}

function numberedPlaces(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  given: ToArrange,
  at: Point,
): Result<readonly Numbered[], FieldProblem> {
  switch (values.choices.arranged) {
    case "round":
      return inCircle(values, at);
    case "edge":
      return alongEdge(values, given);
    case "line":
      return alongLine(values, outlineOf);
    case "fill":
      return allOver(values, outlineOf, given, at);
    default:
      return inGrid(values, at);
  }
}

/** Distances along a length at which those of a row stand, `rows` rows of them; or why they cannot. */
function rowOf(
  { quantities: q, choices }: FieldValues,
  length: number,
  rows = 1,
): Result<readonly number[], FieldProblem> {
  const pitch = q.pitch ?? 0;
  const fit = choices.spaced === "fit";
  const many = fit ? Math.floor(Math.max(0, length) / Math.abs(pitch) + 1e-9) + 1 : Math.round(q.count ?? 1);
  if (many * rows > MOST_PLACES)
    return fail({
      field: fit ? "pitch" : "count",
      message: `${many * rows} places are too many: there can be at most ${MOST_PLACES}.`,
    });
  if (choices.spaced === "evenly" && many > 1 && length / (many - 1) < LEAST_APART)
    return fail({ field: "count", message: OVER_ONE_ANOTHER });
  if (choices.spaced === "evenly") return ok(spreadAlong(length, { count: many }));
  return ok(spreadAlong(length, fit ? { pitch: Math.abs(pitch) } : { count: many, pitch }));
}

function inGrid(values: FieldValues, at: Point): Result<readonly Numbered[], FieldProblem> {
  const { quantities: q, choices } = values;
  const rows = choices.arranged === "grid" ? Math.round(q.rows ?? 1) : 1;
  const made = rowOf(values, q.over ?? 0, rows);
  if (!made.ok) return made;
  const row = made.value;
  const pitch = row.length > 1 ? row[1] - row[0] : 0;
  const { u, v, shift } = latticeOf(values, pitch);
  const first = choices.from === "first";
  const [ui, vj] = first ? [0, 0] : [(row.length - 1) / 2, (rows - 1) / 2];
  // Staggered rows reach farther on one side: the middle of all stands at the place.
  const lean = first || rows < 2 ? 0 : shift / 2;
  const lattice = { origin: along(along(at, u, -ui - lean), v, -vj), u, v, shift };
  const out: Numbered[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < row.length; i++) out.push({ i, j, at: latticePlace(lattice, i, j), turned: 0 });
  return ok(out);
}

/** The rows of a grid, for openings so far apart. */
export function latticeOf({ quantities: q, choices }: FieldValues, pitch: number): Omit<Lattice, "origin"> {
  const angle = q.direction ?? 0;
  const axis = point(Math.cos(angle), Math.sin(angle));
  const across = point(-axis.y, axis.x);
  const triangle = choices.rowsStand === "triangle";
  return {
    u: scale(axis, pitch),
    v: scale(across, triangle ? Math.abs(pitch) * TRIANGLE : (q.rowPitch ?? 0)),
    shift: triangle ? 0.5 : choices.rowsStand === "free" ? (q.shift ?? 0) : 0,
  };
}

function inCircle(
  { quantities: q, choices }: FieldValues,
  at: Point,
): Result<readonly Numbered[], FieldProblem> {
  const many = Math.round(q.count ?? 1);
  if (many > MOST_PLACES)
    return fail({
      field: "count",
      message: `${many} places are too many: there can be at most ${MOST_PLACES}.`,
    });
  const step = turnBetween(q.sweep, many);
  const ring = choices.ringBy === "diameter" ? (q.pitchCircle ?? 0) / 2 : (q.ring ?? 0);
  if (many > 1 && 2 * ring * Math.abs(Math.sin(step / 2)) < LEAST_APART)
    return fail({ field: ringField(choices), message: OVER_ONE_ANOTHER });
  return ok(
    Array.from({ length: many }, (_, i) => {
      const angle = (q.direction ?? 0) + step * i;
      return {
        ...{ i, j: 0 },
        at: add(at, scale(point(Math.cos(angle), Math.sin(angle)), ring)),
        turned: choices.faces === "along" ? angle : 0,
      };
    }),
  );
}

/** How far each of many on a circle is turned from the one before it: over a whole turn the last stands before the first. */
export function turnBetween(sweep = TURN, many: number): number {
  const full = Math.abs(Math.abs(sweep) - TURN) < 1e-9;
  return sweep / (full ? many : Math.max(1, many - 1));
}

function alongEdge(values: FieldValues, { place }: ToArrange): Result<readonly Numbered[], FieldProblem> {
  const datum = place?.datum;
  if (!place || !datum)
    return fail({
      field: "placed",
      message: "Place it from an edge; then the others stand along that edge.",
    });
  const [left, right] = datum;
  const length = hypotenuse(right.x - left.x, right.y - left.y);
  const axis = point((right.x - left.x) / (length || 1), (right.y - left.y) / (length || 1));
  const off = (place.at.x - left.x) * -axis.y + (place.at.y - left.y) * axis.x;
  const { ends, free } = withinEnds(values, length);
  const row = rowOf(values, free);
  if (!row.ok) return row;
  return ok(
    row.value.map((s, i) => ({
      ...{ i, j: 0, turned: 0 },
      at: add(along(left, axis, ends + s), scale(point(-axis.y, axis.x), off)),
    })),
  );
}

/** What is left of a length between its ends. */
function withinEnds({ quantities: q, choices }: FieldValues, length: number) {
  const ends = choices.spaced === "pitch" ? 0 : (q.ends ?? 0);
  return { ends, free: length - 2 * ends };
}

function alongLine(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
): Result<readonly Numbered[], FieldProblem> {
  const chain = drawnChain(values, outlineOf, undefined, "line");
  if (!chain.ok) return chain;
  const lengths = chain.value.map(curveLength);
  const length = lengths.reduce((sum, l) => sum + l, 0);
  const { ends, free } = withinEnds(values, length);
  const made = rowOf(values, free);
  if (!made.ok) return made;
  const row = made.value;
  if (row.some((s) => ends + s < -1e-6 || ends + s > length + 1e-6))
    return fail({
      field: values.choices.spaced === "pitch" ? "count" : "ends",
      message: `The drawn line is ${mm(length)} long: they do not stand on it. Make them fewer or nearer to one another.`,
    });
  return ok(
    row.map((s, i) => {
      const { curve, share } = placeAlong(chain.value, lengths, Math.max(0, ends + s));
      const d = directionAt(curve, share);
      const turned = values.choices.faces === "along" ? Math.atan2(d.y, d.x) : 0;
      return { i, j: 0, at: pointAt(curve, share), turned };
    }),
  );
}

function allOver(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  { metal, opening }: ToArrange,
  at: Point,
): Result<readonly Numbered[], FieldProblem> {
  const { quantities: q, choices } = values;
  const areas =
    choices.within === "drawn" ? drawnAreas(values, outlineOf, "region") : ok<readonly Region[]>(metal());
  if (!areas.ok) return areas;
  const pitch = Math.abs(q.pitch ?? 0);
  const margin = q.margin ?? 0;
  const own = latticeOf(values, pitch);
  const places = fillArea(areas.value, opening, own, margin, choices.rest === "shared" ? undefined : at);
  if (!places)
    return fail({
      field: "pitch",
      message: `There would be more than ${MOST_PLACES} of them. Put them farther apart.`,
    });
  return ok(places.map((p) => ({ ...p, turned: 0 })));
}

/**
 * Fills an area with openings of one kind. What is left over beside them is shared at both ends of the area's box in the
 * direction of the rows and across it; or a place of theirs is given. Nothing where they would be too many.
 */
export function fillArea(
  regions: readonly Region[],
  opening: readonly Loop[],
  lattice: Omit<Lattice, "origin">,
  margin: number,
  origin: Point | undefined,
) {
  const from = origin ?? sharedOrigin(regions, opening, lattice, margin);
  const whole = { ...lattice, origin: from };
  if (placesTried(whole, regions) > MOST_TRIED) return undefined;
  return fillRegions(regions, opening, whole, margin, MOST_PLACES);
}

/** Where a lattice begins so that what is left over is the same on both sides of the area's box. */
function sharedOrigin(
  regions: readonly Region[],
  opening: readonly Loop[],
  { u, v }: Omit<Lattice, "origin">,
  margin: number,
): Point {
  const side = (d: Point) => {
    const pitch = hypotenuse(d.x, d.y);
    const axis = scale(d, 1 / (pitch || 1));
    const [low, high] = spanOf(
      regions.flatMap((r) => [...r.outer]),
      axis,
    );
    const [from, to] = spanOf(opening.flat(), axis);
    const [first, last] = [low + margin - from, high - margin - to];
    const [start = 0] = last < first ? [(first + last) / 2] : spreadAlong(last - first, { pitch });
    return { axis, at: last < first ? start : first + start };
  };
  const [p, q] = [side(u), side(v)];
  return add(scale(p.axis, p.at), scale(q.axis, q.at));
}

/** From where to where curves reach in a direction: their box, seen along it. */
function spanOf(curves: Loop, axis: Point): readonly [number, number] {
  const seen = intoAxes(point(0, 0), axis, point(-axis.y, axis.x));
  const { minX, maxX } = curvesBounds(curves.map((c) => moveCurve(seen, c)));
  return [minX, maxX];
}

function noRoom(c: Choices): FieldProblem {
  if (c.arranged === "fill")
    return {
      field: "margin",
      message: "None fits in there. Make the openings or the margin smaller, or choose a larger area.",
    };
  return { field: "ends", message: "None fits in there. Leave less free at both ends." };
}

/** Which pitch has places lie over one another, and what would work. */
function tooClose({ quantities: q, choices }: FieldValues): FieldProblem | undefined {
  if (choices.arranged === "round") return undefined;
  const fill = choices.arranged === "fill";
  const single = !fill && choices.spaced === "pitch" && Math.round(q.count ?? 1) < 2;
  if ((fill || choices.spaced !== "evenly") && !single && Math.abs(q.pitch ?? 0) < LEAST_APART)
    return { field: "pitch", message: OVER_ONE_ANOTHER };
  const rows = choices.arranged === "grid" ? Math.round(q.rows ?? 1) : fill ? 2 : 1;
  return rows > 1 ? tooCloseRows({ quantities: q, choices }, "rowPitch") : undefined;
}

/** More pairs of openings that meet than this would take longer than anybody waits. */
const MOST_MEETING = 300_000;

/** Why so many openings that lie over one another are not cut; nothing where they mostly stand beside one another. */
export const tooCrowded = (boxes: readonly Bounds[], field: string): FieldProblem | undefined =>
  isCrowd(boxes, MOST_MEETING)
    ? {
        field,
        message: `${boxes.length} openings lie over one another many times. Put them farther apart, or make them fewer or smaller.`,
      }
    : undefined;

/** Whether rows lie over one another; `field`: the one that says how far apart they are. */
export function tooCloseRows(
  { quantities: q, choices }: Pick<FieldValues, "quantities" | "choices">,
  field: string,
): FieldProblem | undefined {
  const apart = choices.rowsStand === "triangle" ? (q.pitch ?? 0) * TRIANGLE : (q.rowPitch ?? 0);
  return Math.abs(apart) < LEAST_APART ? { field, message: OVER_ONE_ANOTHER } : undefined;
}
