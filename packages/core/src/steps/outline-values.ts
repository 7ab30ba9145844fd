import type { DrawnField, FieldProblem, FieldValues } from "../fields/field.ts";
import type { Backdrop } from "../outline/drawing/place.ts";
import { curveOf } from "../outline/regions.ts";
import { sayOf } from "../outline/words.ts";
import { type Curve, curvesBounds, reversed } from "../plane/curve.ts";
import { type Point, point, samePoint } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import { fail, ok, type Result } from "../result.ts";
import type { LegShape } from "../sheet/growing/spec.ts";
import { mm } from "../units/spoken-length.ts";
import { legBase } from "./outline-behind.ts";
import type { DrawnOutline, StepContext } from "./step-kind.ts";

/** One of the part's outlines, for a step that is made by it. */
export const drawnField: DrawnField = { kind: "drawn", key: "drawn", label: "Outline of the part" };

/** Of what disagrees so many are said at the step; the drawing lists all. */
const MOST_SAID = 12;

/** The outline that a step is made by, where it goes together; or why it makes nothing. */
function solvedOutline(
  values: FieldValues,
  outlineOf: (key: string) => DrawnOutline | undefined,
  field: string,
): Result<DrawnOutline, FieldProblem> {
  const key = values.choices[field] ?? "";
  if (key === "") return fail({ field, message: "Choose one of the part's outlines, or draw one." });
  const drawn = outlineOf(key);
  if (!drawn)
    return fail({ field, message: `The outline ${key} is not in this part any more. Choose another.` });
  const { solved } = drawn;
  if (solved.state !== "conflict") return ok(drawn);
  return fail({
    field,
    message:
      solved.conflicts.length > 0
        ? `In the outline ${called(drawn)} these do not go together: ${solved.conflicts
            .slice(0, MOST_SAID)
            .map((id) => sayOf(drawn.outline, id))
            .join("; ")}${solved.conflicts.length > MOST_SAID ? "; …" : ""}. Drop one of them.`
        : `The outline ${called(drawn)} cannot be solved: ${solved.problems[0]?.message ?? "draw it nearer to its numbers."}`,
  });
}

const called = ({ key, outline }: DrawnOutline): string =>
  outline.name.trim() === "" ? key : `“${outline.name.trim()}”`;

/**
 * The areas of the outline that a step is made by, its curves named as they are in it; or why there are none. One whose
 * numbers do not go together, or whose chains are not closed, makes nothing.
 */
export function drawnAreas(
  values: FieldValues,
  outlineOf: (key: string) => DrawnOutline | undefined,
  field = drawnField.key,
): Result<readonly Region[], FieldProblem> {
  const drawn = solvedOutline(values, outlineOf, field);
  if (!drawn.ok) return drawn;
  const { areas } = drawn.value;
  if (areas.regions.length === 0 || areas.problems.length > 0)
    return fail({
      field,
      message: `The outline ${called(drawn.value)} bounds no area: ${areas.problems[0]?.message ?? "nothing is drawn in it."}`,
    });
  return ok(areas.regions);
}

/**
 * A leg as drawn: it must stand on the line where the straight leg begins (y = 0) and reach nowhere
 * behind it, for there the bend is.
 */
export function drawnLeg(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  width: number,
): Result<LegShape, FieldProblem> {
  const areas = drawnAreas(values, (key) => outlineOf(key, () => legBase(width)));
  if (!areas.ok) return areas;
  const field = drawnField.key;
  if (areas.value.length > 1)
    return fail({ field, message: `The outline has ${areas.value.length} areas; a leg takes one.` });
  const [{ outer, holes }] = areas.value;
  if (holes.length > 0)
    return fail({
      field,
      message:
        "There is an opening in the outline of the leg. Cut it in the plate that comes of it, and leave it out here.",
    });
  const low = curvesBounds(outer).minY;
  if (low < -1e-6)
    return fail({
      field,
      message: `The outline reaches ${mm(-low)} behind the line where the straight leg begins. Keep its Y at 0 or above.`,
    });
  const stands = (c: Curve) => c.kind === "line" && Math.abs(c.a.y) < 1e-6 && Math.abs(c.b.y) < 1e-6;
  if (!outer.some(stands))
    return fail({
      field,
      message: "The outline does not stand on the bend: one of its lines must lie on Y 0.",
    });
  // The side on the bend is no border of the part, and solved to a hair it lies on it exactly.
  const onBase = (p: Point) => (Math.abs(p.y) < 1e-6 ? point(p.x, 0) : p);
  const free = outer.map((c) => ({
    ...c,
    a: onBase(c.a),
    b: onBase(c.b),
    ...(stands(c) ? { name: undefined } : {}),
  }));
  return ok({ by: "outline", loop: free });
}

/** As many as a table of legs may have. */
const MOST_PIECES = 300;

/** The curves of an outline that bound nothing but lead from one end to another, in order; or why there are none. */
export function drawnChain(
  values: FieldValues,
  outlineOf: StepContext["outlineOf"],
  behind?: () => readonly Backdrop[],
  field = drawnField.key,
): Result<readonly Curve[], FieldProblem> {
  const drawn = solvedOutline(values, (key) => outlineOf(key, behind), field);
  if (!drawn.ok) return drawn;
  const { outline, solved } = drawn.value;
  const borders = outline.curves.filter((c) => !c.construction);
  const wrong = (message: string) => fail<FieldProblem>({ field, message });
  if (borders.length === 0)
    return wrong("Nothing is drawn in the outline yet. Draw a chain from one end to the other.");
  if (borders.length > MOST_PIECES)
    return wrong(`A chain has at most ${MOST_PIECES} pieces; this one has ${borders.length}.`);
  if (borders.some((c) => c.kind === "circle"))
    return wrong("A circle leads nowhere: the outline must be one chain from one end to the other.");
  const curves = borders.map((c) => curveOf(c as Exclude<typeof c, { kind: "circle" }>, solved.points));
  const ends = curves.flatMap((c) => [c.a, c.b]);
  const alone = ends.filter((p) => ends.filter((q) => samePoint(p, q, 1e-6)).length === 1);
  if (alone.length === 0)
    return wrong("The chain is closed. Take a line out: it must have a beginning and an end.");
  if (alone.length > 2)
    return wrong("There are several chains. Join them end to end, or make what is not meant construction.");
  const chain: Curve[] = [];
  const left = new Set(curves);
  for (let at = alone[0]; left.size > 0; at = chain[chain.length - 1].b) {
    const next = [...left].find((c) => samePoint(c.a, at, 1e-6) || samePoint(c.b, at, 1e-6));
    if (!next) return wrong("The chain branches or closes on itself. Each end may lead on to one other.");
    left.delete(next);
    chain.push(samePoint(next.a, at, 1e-6) ? next : reversed(next));
  }
  return ok(chain);
}
