import { expect, test } from "vitest";
import { Inset } from "../src/forming/inset.ts";
import { type Curve, line } from "../src/plane/curve.ts";
import { distance, point } from "../src/plane/point.ts";

/** An L whose hollow corner is rounded: there the lines inside it go round ever farther from the middle of the round. */
const hollow: readonly Curve[] = [
  line(point(0, 0), point(20, 0)),
  line(point(20, 0), point(20, 10)),
  line(point(20, 10), point(11, 10)),
  { kind: "arc", a: point(11, 10), b: point(10, 11), c: point(11, 11), r: 1, ccw: false },
  line(point(10, 11), point(10, 20)),
  line(point(10, 20), point(0, 20)),
  line(point(0, 20), point(0, 0)),
];

test("a line inside a hollow round goes round its middle, also farther in than the round is large", () => {
  const found = Inset.of(hollow, 0.01);
  if (!found.ok) throw new Error(found.error);
  const inset = found.value;
  const onArc = inset.curveAt.flatMap((curve, i) => (hollow[curve].kind === "arc" ? [i] : []));
  expect(onArc.length).toBeGreaterThan(4);
  for (const depth of [0.5, 3])
    for (const i of onArc) expect(distance(inset.at(i, depth), point(11, 11))).toBeCloseTo(1 + depth, 9);
});
