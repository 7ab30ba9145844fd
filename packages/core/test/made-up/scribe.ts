import type { FieldSpec } from "../../src/fields/field.ts";
import { curveFromFrame, line } from "../../src/plane/curve.ts";
import { point } from "../../src/plane/point.ts";
import { workMetal } from "../../src/sheet/draft.ts";
import { featureAt, featureLoop } from "../../src/sheet/feature.ts";
import { frameAt } from "../../src/steps/place-values.ts";
import type { StepKind } from "../../src/steps/step-kind.ts";

const length = (key: string, label: string, usual: string): FieldSpec => ({
  ...{ kind: "quantity", key, label, dimension: "length", default: usual },
});

/** A kind of step that there is not: a line scribed on a plate. It marks the metal and takes none away. */
export const scribeStep: StepKind = {
  kind: "scribe",
  title: "Scribe",
  about: "A line on a plate",
  startsFrom: "plate",
  fields: [
    { kind: "picks", key: "plate", label: "Plate", of: "plate", single: true },
    length("x", "X", "0"),
    length("y", "Y", "0"),
    length("length", "Length", "30"),
  ],
  sentence: () => ["Scribe a line ", { field: "length" }, " long on ", { field: "plate" }, "."],
  build: ({ picks, quantities: q }, { step, draft, lost }) => {
    const pick = picks.plate?.[0];
    const plate = pick && draft.pieces.plate(pick.at);
    if (!plate) {
      if (pick) lost("plate", pick);
      return;
    }
    const frame = frameAt(plate, point(q.x ?? 0, q.y ?? 0), 0);
    const size = { width: q.length ?? 0, height: 0 };
    const look = { kind: "mark", size } as const;
    const feature = featureAt({ id: step, step, look, piece: `plate:${plate.id}` }, frame);
    const chain = [line(point(0, 0), point(size.width, 0))].map((c) => curveFromFrame(frame, c));
    workMetal(
      draft,
      { plate: plate.id },
      { kind: "mark", step, loops: [featureLoop(chain, feature.id)], side: "B", feature },
    );
  },
};
