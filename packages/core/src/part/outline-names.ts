import { radiusOf, shapeOf, turnOfArc } from "../outline/drawing/curve-places.ts";
import { dimensionOf } from "../outline/solve.ts";
import { fail, ok, type Result } from "../result.ts";
import type { DrawnOutline } from "../steps/step-kind.ts";
import { ARC_LENGTH, type Names } from "../units/expression.ts";
import type { DimensionedNumber } from "../units/quantity.ts";

type Found = ReadonlyMap<string, Result<DimensionedNumber>>;

/**
 * What expressions may use of a part's outlines once they are solved: the dimensions that have a name, and the lengths of
 * arcs and circles, `arclength(…)`. A name that two outlines have is told as such.
 */
export function outlineNames(outlines: Iterable<DrawnOutline>): {
  readonly names: Names;
  readonly found: Found;
} {
  const found = new Map<string, Result<DimensionedNumber>>();
  const said = new Map<string, string>();
  const say = (name: string, by: string, result: Result<DimensionedNumber>) => {
    const before = said.get(name);
    said.set(name, by);
    found.set(
      name,
      before === undefined
        ? result
        : fail(
            `the outlines “${before}” and “${by}” both have a number called so; give one of them another name`,
          ),
    );
  };
  for (const { outline, solved } of outlines) {
    const wrong = solved.state === "conflict";
    const number = (value: number, dimension: DimensionedNumber["dimension"]): Result<DimensionedNumber> =>
      wrong || !Number.isFinite(value)
        ? fail(`the outline “${outline.name}” does not go together`)
        : ok({ value, dimension });
    for (const d of outline.dimensions)
      if (d.name) say(d.name, outline.name, number(solved.values[d.id], dimensionOf(d.kind)));
    for (const c of outline.curves) {
      if (c.kind === "line") continue;
      const shape = shapeOf(c.kind === "circle" ? { ...c, r: solved.radii[c.id] } : c, solved.points);
      if (shape.kind === "line") continue;
      const turn = shape.kind === "circle" ? 2 * Math.PI : Math.abs(turnOfArc(shape).sweep);
      say(`${ARC_LENGTH} ${c.id}`, outline.name, number(turn * radiusOf(shape), "length"));
    }
  }
  return { names: (name) => found.get(name), found };
}
