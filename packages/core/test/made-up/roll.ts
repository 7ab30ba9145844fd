import type { FieldSpec } from "../../src/fields/field.ts";
import { arc, type Curve, line } from "../../src/plane/curve.ts";
import { type Loop, loopArea, polygonLoop } from "../../src/plane/loop.ts";
import { along, type Point, point } from "../../src/plane/point.ts";
import { legWay, linesOf } from "../../src/sheet/draft-kinds.ts";
import type { DraftCone } from "../../src/sheet/draft-pieces.ts";
import { edgeLength, edgesFromLoop } from "../../src/sheet/edges.ts";
import { pickedEdge, type StepKind } from "../../src/steps/step-kind.ts";

const quantity = (
  key: string,
  label: string,
  dimension: "length" | "angle" | "number",
  usual: string,
): FieldSpec => ({ kind: "quantity", key, label, dimension, default: usual });

const counterClockwise = (loop: Loop): Loop =>
  loopArea(loop) > 0 ? loop : loop.map((c) => flipped(c)).reverse();
const flipped = (c: Curve): Curve =>
  c.kind === "line" ? line(c.b, c.a, c.name) : arc(c.b, c.a, c.c, c.r, !c.ccw, c.name);

/** A kind of step that there is not: a wall that is rolled to a part of a cone, from an edge on, and the plate beyond it. */
export const rollStep: StepKind = {
  kind: "roll",
  title: "Roll",
  about: "A wall rolled to a cone",
  startsFrom: "edge",
  fields: [
    { kind: "picks", key: "edge", label: "Edge", of: "edge", single: true },
    quantity("near", "From the tip to the edge", "length", "60"),
    quantity("sector", "Sector in the flat", "angle", "50"),
    quantity("turn", "Turn", "angle", "110"),
    quantity("leg", "Leg beyond", "length", "20"),
  ],
  sentence: () => ["Roll a wall from ", { field: "edge" }, " by ", { field: "turn" }, "."],
  makes: ({ id }) => [{ plate: id, onBend: false }],
  build: ({ picks, quantities: q }, context) => {
    const { draft, step } = context;
    const pick = picks.edge?.[0];
    const found = pick && pickedEdge(context, "edge", pick);
    if (!found) return;
    const { plate, edge } = found;
    const width = edgeLength(edge);
    const axis = point((edge.right.x - edge.left.x) / width, (edge.right.y - edge.left.y) / width);
    const [near, sector] = [q.near ?? 0, q.sector ?? 0];
    const tip = along(edge.left, axis, -near);
    const at = (rho: number, phi: number): Point =>
      along(along(tip, axis, rho * Math.cos(phi)), edge.out, rho * Math.sin(phi));
    const far = near + width;
    const ccw = axis.x * edge.out.y - axis.y * edge.out.x > 0;
    const wall: Loop = [
      line(at(near, 0), at(far, 0)),
      arc(at(far, 0), at(far, sector), tip, far, ccw, "outer"),
      line(at(far, sector), at(near, sector)),
      arc(at(near, sector), at(near, 0), tip, near, !ccw, "inner"),
    ];
    const cone: DraftCone = {
      ...{ kind: "cone", id: step, step, parent: plate.id, child: step, tip, along: axis, out: edge.out },
      ...{ origin: edge.left, axis, width, overhang: { left: 0, right: 0 } },
      ...{ near, far, sector, turn: q.turn ?? 0, k: 0.42, up: true },
      metal: [{ kind: "add", step, loops: [counterClockwise(wall)] }],
      grownOn: { role: edge.role, from: 0, to: width, setback: 0 },
    };
    draft.pieces.put(cone);
    const start = linesOf(cone).child;
    const way = legWay(cone);
    const [a, b] = [start.origin, along(start.origin, start.axis, width)];
    const leg = q.leg ?? 0;
    const outline = counterClockwise(
      polygonLoop([a, b, along(b, way, leg), along(a, way, leg)], [
        undefined,
        "right",
        "end",
        "left",
      ] as never),
    );
    draft.pieces.put({
      ...{
        kind: "plate",
        id: step,
        step,
        frame: { origin: a, x: start.axis },
        edges: edgesFromLoop(outline),
      },
      metal: [{ kind: "add", step, loops: [outline] }],
    });
  },
};
