import type { DrawnField, FieldProblem, FieldValues, RowsField } from "../fields/field.ts";
import { reversed } from "../plane/curve.ts";
import { intersectCurves } from "../plane/intersect.ts";
import { type Loop, loopArea, polygonLoop } from "../plane/loop.ts";
import { type Point, point, samePoint } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import { fail, ok, type Result } from "../result.ts";
import type { LegShape } from "../sheet/growing/spec.ts";
import { mm } from "../units/spoken-length.ts";
import type { DrawnOutline } from "./step-kind.ts";

/** A drawn outline as a table of its corners, in order around it. */
export const pointsField: RowsField = {
  kind: "rows",
  key: "points",
  label: "Outline",
  noun: "point",
  most: 2000,
  columns: [
    { kind: "quantity", key: "x", label: "X", dimension: "length", default: "" },
    { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "" },
  ],
};

/** One of the part's outlines, for a step that is made by it. */
export const drawnField: DrawnField = { kind: "drawn", key: "drawn", label: "Outline of the part" };

/**
 * The areas of the outline that a step is made by, its curves named as they are in it; or why there are none. One whose
 * numbers do not go together, or whose chains are not closed, makes nothing.
 */
export function drawnAreas(
  values: FieldValues,
  outlineOf: (key: string) => DrawnOutline | undefined,
): Result<readonly Region[], FieldProblem> {
  const field = drawnField.key;
  const key = values.choices[field] ?? "";
  const drawn = outlineOf(key);
  if (key === "") return fail({ field, message: "Choose one of the part's outlines." });
  if (!drawn)
    return fail({ field, message: `The outline ${key} is not in this part any more. Choose another.` });
  const { solved, areas, outline } = drawn;
  const called = outline.name.trim() === "" ? key : `“${outline.name.trim()}”`;
  if (solved.state === "conflict")
    return fail({
      field,
      message:
        solved.conflicts.length > 0
          ? `In the outline ${called} these do not go together: ${solved.conflicts.join(", ")}. Drop one of them.`
          : `The outline ${called} cannot be solved: ${solved.problems[0]?.message ?? "draw it nearer to its numbers."}`,
    });
  if (areas.regions.length === 0 || areas.problems.length > 0)
    return fail({
      field,
      message: `The outline ${called} bounds no area: ${areas.problems[0]?.message ?? "nothing is drawn in it."}`,
    });
  return ok(areas.regions);
}

/**
 * The loop that a table of points describes, counter-clockwise, each side named after the point that
 * it leaves; or what is wrong with it.
 */
export function outlineLoop(values: FieldValues, name: (key: string) => string): Result<Loop, FieldProblem> {
  const rows = values.rows.points ?? [];
  const points = rows.map((r) => point(r.quantities.x ?? 0, r.quantities.y ?? 0));
  const field = "points";
  if (points.length < 3) return fail({ field, message: "An outline needs at least three points. Add some." });
  const twice = points.findIndex((p, i) => samePoint(p, points[(i + 1) % points.length], 1e-6));
  if (twice >= 0)
    return fail({
      field,
      message: `Points ${twice + 1} and ${((twice + 1) % points.length) + 1} are the same. Move or remove one.`,
    });
  const loop = polygonLoop(
    points,
    rows.map((r) => name(r.key)),
  );
  const crossed = selfCrossing(loop);
  if (crossed)
    return fail({
      field,
      message: `The outline crosses itself at ${mm(crossed.x)}, ${mm(crossed.y)}. Put its points in order around it.`,
    });
  const area = loopArea(loop);
  if (Math.abs(area) < 1e-6)
    return fail({ field, message: "The outline's points stand on one line and enclose nothing." });
  return ok(area > 0 ? loop : loop.map(reversed).reverse());
}

/**
 * A leg as drawn: it must stand on the line where the straight leg begins (y = 0) and reach nowhere
 * behind it, for there the bend is.
 */
export function drawnLeg(values: FieldValues): Result<LegShape, FieldProblem> {
  const drawn = outlineLoop(values, (key) => `side-${key}`);
  if (!drawn.ok) return drawn;
  const loop = drawn.value;
  const field = "points";
  const low = Math.min(...loop.map((c) => c.a.y));
  if (low < -1e-6)
    return fail({
      field,
      message: `The outline reaches ${mm(-low)} behind the line where the straight leg begins. Keep its Y at 0 or above.`,
    });
  const based = loop.some((c) => Math.abs(c.a.y) < 1e-6 && Math.abs(c.b.y) < 1e-6);
  if (!based)
    return fail({
      field,
      message: "The outline does not stand on the bend: one of its sides must lie on Y 0.",
    });
  // The side on the bend is no border of the part.
  const free = loop.map((c) =>
    Math.abs(c.a.y) < 1e-6 && Math.abs(c.b.y) < 1e-6 ? { ...c, name: undefined } : c,
  );
  return ok({ by: "outline", loop: free });
}

function selfCrossing(loop: Loop): Point | undefined {
  for (let i = 0; i < loop.length; i++)
    for (let j = i + 2; j < loop.length; j++) {
      if (i === 0 && j === loop.length - 1) continue;
      const [hit] = intersectCurves(loop[i], loop[j]);
      if (hit) return hit;
    }
  return undefined;
}
