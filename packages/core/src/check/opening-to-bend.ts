import type { PartBuild } from "../part/build.ts";
import { stepOfOpening } from "../part/set-in.ts";
import type { Loop } from "../plane/loop.ts";
import { cross, dot, type Point, scale } from "../plane/point.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { bordersBeyond, lengthAlong } from "./beyond-bend.ts";
import { moveAway } from "./move-away.ts";
import { AS_GOOD, calledOpening } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** An opening that is too near to a bend is drawn out of shape when the bend is made. */
export const openingToBendRule: CheckRule = (build, { values }) => {
  const { sheet } = build;
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  return bendsOf(sheet).flatMap((bend) =>
    (["parent", "child"] as const).flatMap((side) => {
      const plate = plates.get(bend[side])!;
      const farthest = bend.radius + Math.max(values.openingToBend, values.longOpeningToBend) * sheet!.t;
      return [...bordersBeyond(bend, side, plate, farthest)].flatMap(([loop, { away, at }]) => {
        if (!loop) return [];
        const long = lengthAlong(bend, loop) > values.longOpening + AS_GOOD;
        const wanted = bend.radius + (long ? values.longOpeningToBend : values.openingToBend) * sheet!.t;
        if (away >= wanted - AS_GOOD) return [];
        return [
          {
            level: "warn" as const,
            rule: "opening-to-bend",
            message: `${calledOpening(build.sheet, loop)} on plate ${plate.letter} is ${mm(away)} from the tangent line of bend ${bend.number}; it needs ${mm(wanted)} to keep its shape. Move it ${mm(wanted - away)} away from the bend.`,
            step: stepOfOpening(build, loop, plate.step),
            pieces: [
              { kind: "plate" as const, id: plate.id },
              { kind: "bend" as const, id: bend.id },
            ],
            at,
            found: away,
            wanted,
            ...mendOf(build, loop, plate, scale(bend.out, side === "child" ? 1 : -1), wanted - away),
          },
        ];
      });
    }),
  );
};

/**
 * How an opening is moved along a direction: a round hole of its step's own table, or one that a step cuts at a place
 * of its own.
 */
function mendOf(build: PartBuild, loop: Loop, plate: Plate, way: Point, by: number): Pick<Finding, "mend"> {
  const hole = /^hole:(.+)$/.exec(loop[0].name ?? "")?.[1];
  const rows = build.steps.find((s) => s.id === plate.step)?.values?.rows.holes ?? [];
  if (!hole || !rows.some((r) => r.key === hole)) {
    const step = stepOfOpening(build, loop, plate.step);
    return step === plate.step ? {} : moveAway(build, step, plate, way, by, "it");
  }
  const { x } = plate.frame;
  const along = { x: dot(way, x) * by, y: cross(x, way) * by };
  return {
    mend: {
      title: `Move it ${mm(by)} away from the bend`,
      remedies: [{ do: "move", step: plate.step, hole, by: along }],
    },
  };
}
