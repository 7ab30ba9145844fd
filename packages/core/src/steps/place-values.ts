import { innerSetback, outerSetback } from "../bend/allowance.ts";
import { type Choices, choice, type FieldSpec, type FieldValues, type RawValues } from "../fields/field.ts";
import { intoFrame, moveDirection, movePoint } from "../plane/isometry.ts";
import {
  along,
  cross,
  dot,
  type Frame,
  fromFrame,
  hypotenuse,
  type Point,
  point,
  scale,
  subtract,
} from "../plane/point.ts";
import { bendOf, carrierTo, type OpenDraft } from "../sheet/draft.ts";
import type { DraftPlate } from "../sheet/draft-pieces.ts";
import { edgeFrame, edgeLength } from "../sheet/edges.ts";
import { middleOfMetal, middleOfPlate } from "../sheet/plate-middle.ts";
import { roleTitle } from "../sheet/role-title.ts";
import { lengthField } from "./bend-values.ts";
import { behindOutline } from "./outline-behind.ts";
import { type PlaceMark, pickedEdge, type SentencePart, type StepContext } from "./step-kind.ts";

/** What a distance is measured from: an edge, or a line that a bend has on the plate. */
const DATUMS = [
  { value: "edge", label: "edge" },
  { value: "tangent", label: "tangent line of bend" },
  { value: "outer", label: "outer mould line of bend" },
  { value: "inner", label: "inner mould line of bend" },
] as const;

const shownFor =
  (...ways: string[]) =>
  (c: Choices) =>
    ways.includes(c.placed);

/** A distance from something picked, as fields: what it is measured from, which one, and how far. */
function datumFields(n: 1 | 2, shown: (c: Choices) => boolean): FieldSpec[] {
  const label = n === 1 ? "First" : "Second";
  return [
    lengthField(`off${n}`, `${label} distance`, "10", { min: -1e5, max: 1e5, shown }),
    { kind: "choice", key: `datum${n}`, label: `${label} from`, default: "edge", options: DATUMS, shown },
    {
      kind: "picks",
      key: `edge${n}`,
      single: true,
      label: `${label} edge`,
      of: "edge",
      optional: true,
      shown: (c) => shown(c) && c[`datum${n}`] === "edge",
    },
    {
      kind: "picks",
      key: `bend${n}`,
      single: true,
      label: `${label} bend`,
      of: "bend",
      optional: true,
      shown: (c) => shown(c) && c[`datum${n}`] !== "edge",
    },
  ];
}

/**
 * A place on a plate, as fields: by x and y from the plate's own zero, from the middle of the plate or of all its metal, from
 * one edge and along it, or from two edges. Where an edge is named a line of a bend may stand for it.
 */
export const placeFields: readonly FieldSpec[] = [
  choice("placed", "Placed", "xy", {
    xy: "at",
    middle: "from the middle of the plate",
    all: "from the middle of all its metal",
    edge: "from one edge",
    edges: "from two edges",
    point: "at a point of",
  }),
  { kind: "drawn", key: "pointOf", label: "Outline with the point", shown: shownFor("point") },
  {
    kind: "quantity",
    key: "nth",
    label: "Point",
    about: "Its points are counted as they were drawn, from 1.",
    dimension: "number",
    default: "1",
    min: 1,
    max: 10_000,
    shown: shownFor("point"),
  },
  lengthField("x", "X", "0", { min: -1e5, max: 1e5, shown: shownFor("xy", "middle", "all") }),
  lengthField("y", "Y", "0", { min: -1e5, max: 1e5, shown: shownFor("xy", "middle", "all") }),
  ...datumFields(1, shownFor("edge", "edges")),
  choice(
    "alongFrom",
    "Along it from",
    "middle",
    { middle: "its middle", left: "its left end", right: "its right end" },
    { shown: shownFor("edge") },
  ),
  lengthField("along", "Along it by", "0", { min: -1e5, max: 1e5, shown: shownFor("edge") }),
  ...datumFields(2, shownFor("edges")),
];

/** The words of a place, for a step's sentence. */
export function placeSentence(_raw: RawValues, c: Choices): SentencePart[] {
  const from = (n: 1 | 2): SentencePart[] => [
    { field: `off${n}` },
    " from ",
    ...(c[`datum${n}`] === "edge" ? [] : [{ field: `datum${n}` }, " "]),
    { field: c[`datum${n}`] === "edge" ? `edge${n}` : `bend${n}` },
  ];
  switch (c.placed) {
    case "edge":
      return [
        { field: "placed" },
        ", ",
        ...from(1),
        ", ",
        { field: "along" },
        " from ",
        { field: "alongFrom" },
      ];
    case "edges":
      return [{ field: "placed" }, ", ", ...from(1), " and ", ...from(2)];
    case "point":
      return [{ field: "placed" }, " ", { field: "pointOf" }, ", no. ", { field: "nth" }];
    case "middle":
    case "all":
      return [{ field: "x" }, ", ", { field: "y" }, " ", { field: "placed" }];
    default:
      return [{ field: "placed" }, " ", { field: "x" }, ", ", { field: "y" }];
  }
}

/** A line that distances are measured from: its ends, and the direction into the plate. Developed coordinates. */
interface Datum {
  readonly left: Point;
  readonly right: Point;
  readonly inward: Point;
}

function findDatum(
  values: FieldValues,
  context: StepContext,
  plate: DraftPlate,
  n: 1 | 2,
): Datum | undefined {
  const kind = values.choices[`datum${n}`];
  const letter = context.letterOf(plate.id);
  if (kind === "edge") {
    const field = `edge${n}`;
    const pick = values.picks[field]?.[0];
    if (!pick) {
      context.refuse(field, `Pick the edge of plate ${letter} that the distance is measured from.`);
      return undefined;
    }
    const found = pickedEdge(context, field, pick);
    if (!found) return undefined;
    if (found.plate.id === plate.id)
      return { left: found.edge.left, right: found.edge.right, inward: scale(found.edge.out, -1) };
    const other = context.letterOf(found.plate.id);
    context.refuse(
      field,
      `Edge ${other} ${roleTitle(found.edge.role)} is not on plate ${letter}. Pick an edge of plate ${letter}.`,
    );
    return undefined;
  }
  const field = `bend${n}`;
  const pick = values.picks[field]?.[0];
  if (!pick) {
    context.refuse(field, `Pick the bend of plate ${letter} that the distance is measured from.`);
    return undefined;
  }
  const bend = bendOf(context.draft, pick.at);
  if (!bend) {
    context.lost(field, pick);
    return undefined;
  }
  if (bend.parent !== plate.id && bend.child !== plate.id) {
    context.refuse(
      field,
      `Bend ${context.numberOf(bend.id)} is not at plate ${letter}. Pick one that plate ${letter} hangs on or carries.`,
    );
    return undefined;
  }
  const onLeg = bend.child === plate.id;
  const shape = { t: context.draft.t, r: bend.radius, angle: bend.angle };
  const back = kind === "tangent" ? 0 : kind === "outer" ? outerSetback(shape) : innerSetback(shape);
  if (back === undefined) {
    context.refuse(
      `datum${n}`,
      `Bend ${context.numberOf(bend.id)} turns by 180° or more and has no mould line. Measure from its tangent line.`,
    );
    return undefined;
  }
  // Seen from the plate, its mould lines stand beyond its tangent line by the setback.
  const at = along(bend.origin, bend.out, onLeg ? bend.allowance - back : back);
  return { left: at, right: along(at, bend.axis, bend.width), inward: scale(bend.out, onLeg ? 1 : -1) };
}

/** A place in a plate's own frame, and what is to be drawn to show how it came about. */
export interface FoundPlace {
  readonly at: Point;
  readonly mark: PlaceMark;
}

/** A point of an outline that is drawn on the plate, by its number: it follows the drawing. */
function atPoint(
  { choices, quantities: q }: FieldValues,
  context: StepContext,
  plate: DraftPlate,
): FoundPlace | undefined {
  const wrong = (field: string, message: string) => {
    context.refuse(field, message);
    return undefined;
  };
  const key = choices.pointOf;
  if (!key) return wrong("pointOf", "Choose the outline whose point it is.");
  const drawn = context.outlineOf(key, () =>
    behindOutline(context.draft, plate.frame, context.letterOf, context.numberOf),
  );
  if (!drawn) return wrong("pointOf", `The outline ${key} is not in this part any more. Choose another.`);
  const ids = Object.keys(drawn.outline.points);
  const nth = Math.round(q.nth ?? 1);
  const found = drawn.solved.points[ids[nth - 1]];
  if (!found)
    return wrong(
      "nth",
      ids.length === 0
        ? "Nothing is drawn in the outline yet."
        : `The outline has ${ids.length} points; there is none with the number ${nth}.`,
    );
  const at = point(found[0], found[1]);
  return { at, mark: axesMark(plate.id, point(0, 0), [at]) };
}

/** From where x and y are counted, in the plate's own frame. */
const ZEROS = {
  xy: () => point(0, 0),
  middle: (plate: DraftPlate, draft: OpenDraft) => middleOfPlate(plate, carrierTo(draft, plate.id)),
  all: (plate: DraftPlate) => middleOfMetal(plate),
} as const;

/** A mark of one place by its axes, whose distances a step's own fields say. */
const byFields = (mark: PlaceMark): PlaceMark => ({
  ...mark,
  dims: mark.dims.map((dim, i) => ({ ...dim, field: i === 0 ? "x" : "y" })),
});

/** The place that a step's fields describe; when there is none the step is told. */
export function findPlace(
  values: FieldValues,
  context: StepContext,
  plate: DraftPlate,
): FoundPlace | undefined {
  const own = intoFrame(plate.frame);
  const { quantities: q, choices } = values;
  const into = (d: Datum): Datum => ({
    left: movePoint(own, d.left),
    right: movePoint(own, d.right),
    inward: moveDirection(own, d.inward),
  });
  if (choices.placed in ZEROS) {
    const zero = ZEROS[choices.placed as keyof typeof ZEROS](plate, context.draft);
    const at = point(zero.x + (q.x ?? 0), zero.y + (q.y ?? 0));
    return { at, mark: byFields(axesMark(plate.id, zero, [at])) };
  }
  if (choices.placed === "point") return atPoint(values, context, plate);
  const found = findDatum(values, context, plate, 1);
  if (!found) return undefined;
  const first = into(found);
  const length = hypotenuse(first.right.x - first.left.x, first.right.y - first.left.y) || 1;
  const axis = scale(subtract(first.right, first.left), 1 / length);
  if (choices.placed === "edge") {
    const start = { middle: length / 2, left: 0, right: length }[choices.alongFrom] ?? 0;
    const by = (q.along ?? 0) * (choices.alongFrom === "right" ? -1 : 1);
    const foot = along(first.left, axis, start + by);
    const at = along(foot, first.inward, q.off1 ?? 0);
    const zero = along(first.left, axis, start);
    return {
      at,
      mark: {
        plate: plate.id,
        origin: zero,
        datums: [[first.left, first.right]],
        dims: [
          { from: zero, to: foot, field: "along" },
          { from: foot, to: at, field: "off1" },
        ],
      },
    };
  }
  const other = findDatum(values, context, plate, 2);
  if (!other) return undefined;
  const second = into(other);
  const along2 = subtract(second.right, second.left);
  const det = cross(axis, scale(along2, 1 / (hypotenuse(along2.x, along2.y) || 1)));
  if (Math.abs(det) < 1e-6) {
    context.refuse(
      choices.datum2 === "edge" ? "edge2" : "bend2",
      "The two edges are parallel, so they fix no place. Pick two that lie across each other, or measure from one.",
    );
    return undefined;
  }
  const at = meet(
    along(first.left, first.inward, q.off1 ?? 0),
    axis,
    along(second.left, second.inward, q.off2 ?? 0),
    along2,
  );
  const foot = (d: Datum, by: number) => along(at, d.inward, -by);
  const corner = meet(first.left, axis, second.left, along2);
  return {
    at,
    mark: {
      plate: plate.id,
      origin: corner,
      datums: [
        [first.left, first.right],
        [second.left, second.right],
      ],
      dims: [
        { from: foot(first, q.off1 ?? 0), to: at, field: "off1" },
        { from: foot(second, q.off2 ?? 0), to: at, field: "off2" },
      ],
    },
  };
}

/** The frame of a place on a plate in developed coordinates, turned by an angle. */
export function frameAt({ frame }: Pick<DraftPlate, "frame">, at: Point, turned: number): Frame {
  const x = point(Math.cos(turned), Math.sin(turned));
  return {
    origin: fromFrame(frame, at),
    x: point(frame.x.x * x.x - frame.x.y * x.y, frame.x.y * x.x + frame.x.x * x.y),
  };
}

/** The axes of a plate's own zero, and what is measured along them. */
export function axesMark(plate: string, zero: Point, places: readonly Point[]): PlaceMark {
  return {
    plate,
    origin: zero,
    axes: true,
    datums: [],
    dims: places.flatMap((at) => [
      { from: zero, to: point(at.x, zero.y) },
      { from: point(at.x, zero.y), to: at },
    ]),
  };
}

/** Where two lines through points in given directions meet. */
function meet(a: Point, u: Point, b: Point, v: Point): Point {
  const f = cross(subtract(b, a), v) / cross(u, v);
  return along(a, u, f);
}

/**
 * How a place in a plate's own frame would be said by distances from its nearest edges that lie across each
 * other; `along` counts from an edge's middle to its right.
 */
export function nearestEdges(
  plate: Pick<DraftPlate, "edges" | "frame">,
  at: Point,
): readonly { readonly role: string; readonly distance: number; readonly along: number }[] {
  const own = intoFrame(plate.frame);
  const near = plate.edges
    .map((edge) => {
      const { x } = edgeFrame(edge);
      const d = subtract(at, movePoint(own, edge.left));
      const inward = scale(moveDirection(own, edge.out), -1);
      const axis = moveDirection(own, x);
      const s = dot(d, axis);
      // Beyond an edge's ends it still serves, but one that the place stands before is nearer.
      const beside = Math.max(0, -s, s - edgeLength(edge));
      return {
        role: edge.role,
        axis,
        along: s - edgeLength(edge) / 2,
        distance: dot(d, inward),
        rank: Math.abs(dot(d, inward)) + beside,
      };
    })
    .filter((e) => e.distance > -1e-6)
    .sort((p, q) => p.rank - q.rank);
  const [first] = near;
  const second = first && near.find((e) => Math.abs(cross(e.axis, first.axis)) > 0.2);
  return [first, second].flatMap((e) => (e ? [{ role: e.role, distance: e.distance, along: e.along }] : []));
}
