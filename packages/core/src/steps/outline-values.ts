import type { DrawnField, FieldProblem, FieldValues } from "../fields/field.ts";
import type { Backdrop } from "../outline/drawing/place.ts";
import { openChain } from "../outline/open-chain.ts";
import { sayOf } from "../outline/words.ts";
import { type Curve, curvesBounds } from "../plane/curve.ts";
import { type Point, point } from "../plane/point.ts";
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
  const chain = openChain(outline, solved);
  return chain.ok ? chain : fail({ field, message: chain.error });
}
