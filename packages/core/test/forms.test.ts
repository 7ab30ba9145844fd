import { describe, expect, test } from "vitest";
import {
  buildPart,
  evenState,
  foldMesh,
  foldSheet,
  isClosedManifold,
  meshSheet,
  meshVolume,
  newPart,
  type StepDocument,
} from "../src/index.ts";
import { formedOf } from "../src/sheet/sheet.ts";
import { OWN_FORMS } from "../src/stock/forms/own-forms.ts";

const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const partOf = (...steps: Record<string, unknown>[]) => ({
  ...newPart("P"),
  steps: [
    plate,
    ...steps.map((s, i) => ({ id: `s${i + 2}`, kind: "form", plate: [{ key: "p", at: "s1" }], ...s })),
  ],
});

describe("every form that a shop has", () => {
  for (const turn of ["up", "down"])
    test.each(OWN_FORMS.map((f) => f.id))(`%s, ${turn}, is one closed body with its plate`, (shape) => {
      const build = buildPart(partOf({ shape, turn, x: "0", y: "0" }) as never);
      expect(build.findings).toEqual([]);
      const sheet = build.sheet!;
      expect(formedOf(sheet)).toHaveLength(1);
      const mesh = foldMesh(meshSheet(sheet, 0.01), foldSheet(sheet, evenState(sheet, 1)));
      expect(isClosedManifold(mesh)).toBe(true);
      console.log(shape, meshVolume(mesh), build.folded!.volume, build.steps[1].notes, build.folded!.box);
    });
});
