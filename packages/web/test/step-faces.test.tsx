import {
  buildPart,
  evenState,
  foldSheet,
  newPart,
  type PartDocument,
  STEP_KINDS,
  type StepOutcome,
  stepKind,
} from "@hillcrest/core";
import { describe, expect, test, vi } from "vitest";
import { actionsFor } from "../src/pages/bench/picking/pick-actions.ts";
import { openPart, partActions } from "../src/state/part-slice.ts";
import "../src/state/part-tools.ts";
import { store } from "../src/state/store.ts";
import { viewActions } from "../src/state/view-slice.ts";
import { addStepOf } from "../src/steps/column/add-step.tsx";
import { gripsOn } from "../src/steps/faces/grips-on.ts";
import { STEP_FACES } from "../src/steps/faces/step-faces.ts";
import { StepPictogram } from "../src/steps/pictures/step-pictogram.tsx";
import { markup, rowMarkup } from "./row-markup.tsx";

// The two registry lines that a new kind takes.
vi.mock("@hillcrest/core", async (original) => {
  const core = await original<typeof import("@hillcrest/core")>();
  const { perforateKind } = await import("./made-up/perforate-kind.ts");
  return {
    ...core,
    STEP_KINDS: [...core.STEP_KINDS, perforateKind],
    stepKind: (kind: string) => (kind === "perforate" ? perforateKind : core.stepKind(kind)),
    picksIn: (step: { kind: string; plates?: never }) =>
      step.kind === "perforate"
        ? [{ field: perforateKind.fields[0], picks: step.plates ?? [] }]
        : core.picksIn(step as never),
  };
});
vi.mock("../src/steps/faces/step-faces.ts", async (original) => {
  const { STEP_FACES: faces, stepFace: known } =
    await original<typeof import("../src/steps/faces/step-faces.ts")>();
  const { perforateFace } = await import("./made-up/perforate-face.tsx");
  return {
    STEP_FACES: [...faces, perforateFace],
    stepFace: (kind: string) => (kind === "perforate" ? perforateFace : known(kind)),
  };
});
vi.mock("../src/ui/focus.ts", async (original) => ({
  ...(await original<object>()),
  focusFirstField: () => undefined,
  focusShown: () => undefined,
}));

const step = {
  id: "s2",
  kind: "perforate",
  plates: [{ key: "a", at: "s1" }],
  spots: [{ key: "b", x: "7" }],
} as const;
const document: PartDocument = {
  ...newPart("Part"),
  steps: [{ id: "s1", kind: "plate", width: "80", depth: "40" }],
};
const outcome: StepOutcome = {
  id: "s2",
  state: "built",
  values: { quantities: { size: 4 }, choices: { form: "round" }, picks: {}, rows: {}, problems: [] },
};
const row = (open: boolean) =>
  rowMarkup({
    step,
    number: 2,
    labels: new Map([["s1", "A"]]),
    outcome,
    findings: [{ level: "warn", rule: "step", step: "s2", field: "size", message: "Size: mind it" }],
    open,
  });

describe("the face of a step kind", () => {
  test("there is one for every kind, in the same order", () => {
    expect(STEP_FACES.map((f) => f.kind)).toEqual(STEP_KINDS.map((k) => k.kind));
    for (const { kind } of STEP_FACES) expect(markup(<StepPictogram kind={kind} />)).toMatch(/<(path|rect)/);
  });

  test("names only fields and options that its kind has", () => {
    for (const face of STEP_FACES) {
      const fields = STEP_KINDS.find((k) => k.kind === face.kind)!.fields;
      const keys = fields.map((f) => f.key);
      const choices = fields.filter((f) => f.kind === "choice" || f.kind === "item").map((f) => f.key);
      for (const key of [...Object.keys(face.pictures ?? {}), ...Object.keys(face.chooses ?? {})])
        expect(choices, `${face.kind}.${key}`).toContain(key);
      for (const key of Object.keys(face.views ?? {})) expect(keys).toContain(key);
      for (const g of face.grows ?? []) {
        expect(fields.some((f) => f.kind === "picks" && f.of === g.on)).toBe(true);
        for (const key of [...(g.field ? [g.field] : []), ...Object.keys(g.values ?? {})])
          expect(keys, `${face.kind}.${key}`).toContain(key);
      }
      if (face.holeAt) expect(keys).toContain("holes");
    }
  });

  test("no key starts two steps on the same thing", () => {
    const keys = STEP_FACES.flatMap(({ grows = [] }) =>
      grows.flatMap((g) => (g.key ? [`${g.on} ${g.corners ?? "outline"} ${g.key}`] : [])),
    );
    expect(new Set(keys).size).toBe(keys.length);
  });
});

describe("a kind of step that is a face and a line in the registry", () => {
  test("is drawn, said and opened by what its face says", () => {
    expect(markup(<StepPictogram kind="perforate" />)).toContain('data-pictogram="perforate"');
    const closed = row(false);
    expect(closed).toContain("Pierce ");
    expect(closed).toMatch(/<input[^>]*aria-label="Size"[^>]*aria-invalid="true"[^>]*value="4"/);
    expect(closed).toContain("Size: mind it");
    expect(closed).not.toContain("data-follows");
    const open = row(true);
    for (const part of ["4 wide", "data-beneath", 'data-row="b"', 'type="checkbox"', 'aria-label="Spot 1 X"'])
      expect(open).toContain(part);
    // What the sentence does not say stands in the list; a table stands beneath it.
    expect(open).toMatch(/<dt[^>]*>All the way/);
    expect(open).not.toMatch(/<dt[^>]*>Spots/);
  });

  test("is offered on what it starts on, with its key, and begins as it says", () => {
    store.dispatch(partActions.opened({ id: "p", revision: 1, document }));
    const build = buildPart(document);
    const pick = { kind: "plate", id: "s1", x: 0, y: 0 } as const;
    const action = actionsFor([pick], build, document).find((a) => a.key === "G")!;
    expect(action.label).toBe("Pierce");
    store.dispatch(action.run);
    const grown = openPart(store.getState()).document!.steps.at(-1);
    expect(grown).toMatchObject({ kind: "perforate", form: "square", plates: [{ at: "s1" }] });
    store.dispatch(viewActions.pickCleared());
    store.dispatch(addStepOf(stepKind("perforate")!));
    expect(openPart(store.getState()).document!.steps.at(-1)).toMatchObject({ spots: [{ x: "5" }] });
    // It asks for what it stands on.
    expect(store.getState().view.pickingFor).toMatchObject({ field: "plates", of: "plate" });
  });

  test("has its handles while it is open, and others have theirs", () => {
    const flange = { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" };
    const whole = { ...document, steps: [...document.steps, flange] };
    const built = buildPart(whole);
    const build = { ...built, steps: [...built.steps, outcome] };
    const steps = [...whole.steps, step];
    const folding = foldSheet(build.sheet!, evenState(build.sheet!, 1));
    const of = (plate: string | undefined, open?: typeof step) =>
      gripsOn(build, folding, plate, open, steps).map((g) => `${g.step}.${g.field}`);
    expect(of(undefined, step)).toEqual(["s2.size"]);
    expect(of("s3a", step)).toEqual(["s2.size"]);
    expect(of("s3a")).toEqual(["s3.length", "s3.angle"]);
    expect(of("s1")).toEqual([]);
    const flat = foldSheet(build.sheet!, evenState(build.sheet!, 0));
    expect(gripsOn(build, flat, "s3a", undefined, steps)).toEqual([]);
  });

  test("a leg that ends level with something has no length to drag", () => {
    const flange = { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" };
    const level = { ...flange, lengthTo: "level", levelWith: [{ key: "a", at: "s1.south" }] };
    const build = buildPart({ ...document, steps: [...document.steps, flange] });
    const folding = foldSheet(build.sheet!, evenState(build.sheet!, 1));
    const values = build.steps[1].values!;
    const steps = [...document.steps, level];
    const choices = { ...values.choices, lengthTo: "level" };
    const told = { ...build, steps: [build.steps[0], { ...build.steps[1], values: { ...values, choices } }] };
    expect(gripsOn(told, folding, "s2a", undefined, steps).map((g) => g.field)).toEqual(["angle"]);
  });
});
