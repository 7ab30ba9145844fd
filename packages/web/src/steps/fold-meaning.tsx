import {
  bendAllowance,
  bendsOf,
  choicesOf,
  dot,
  type FieldSpec,
  type LineMeaning,
  type PartBuild,
  type Plate,
  platesOf,
  startFromLine,
  stepKind,
  subtract,
} from "@hillcrest/core";
import { setStepValue } from "../state/edits.ts";
import { useApp } from "../state/store.ts";
import { ChoiceField } from "./choice-field.tsx";
import { SectionPicture } from "./section-picture.tsx";
import { type FieldContext, inPart } from "./step-fields.tsx";

interface Legs {
  readonly start: number;
  /** Straight lengths before and after the bend. */
  readonly near: number;
  readonly far: number;
}

/** What the drawn line is for the bend: chosen on pictures, each with both legs as they would come out. */
export function FoldMeaning({
  spec,
  context,
}: {
  spec: Extract<FieldSpec, { kind: "choice" }>;
  context: FieldContext;
}) {
  const { step, wrong } = context;
  const build = useApp((s) => s.build.shown?.build);
  const value = choicesOf(stepKind(step.kind)!.fields, step)[spec.key];
  const bend = bendsOf(build?.sheet).find((b) => b.id === step.id);
  const legsFor = (option: string): Legs | undefined => {
    if (!build?.sheet || !bend) return undefined;
    const shape = { t: build.sheet.t, r: bend.radius, angle: bend.angle };
    const length = bendAllowance(shape, bend.k);
    const [start, now] = [option, value].map((m) => startFromLine(m as LineMeaning, shape, length));
    const reach = reachOf(build, bend.id);
    return { start, near: reach.near + start - now, far: reach.far - (start - now) };
  };
  return (
    <ChoiceField
      spec={spec}
      value={value}
      wrong={wrong.has(spec.key)}
      onChange={(next) => setStepValue(step.id, spec.key, next)}
      picture={(option) => {
        const legs = legsFor(option);
        if (!legs || !build?.sheet || !bend) return <span className="h-[54px]" />;
        const { angle, radius: r, up } = bend;
        const section = { t: build.sheet.t, r, angle, up, setback: -legs.start, leg: Math.max(0, legs.far) };
        return <SectionPicture section={section} about={{ place: "offset" }} width={76} height={54} />;
      }}
      note={(option) => {
        const legs = legsFor(option);
        if (!legs) return "";
        return legs.near < 0 || legs.far < 0
          ? "no room"
          : `legs ${inPart(legs.near)} and ${inPart(legs.far)}`;
      }}
    />
  );
}

/** How far the metal reaches before a bend's first tangent line and beyond its second. */
function reachOf(build: PartBuild, id: string): { near: number; far: number } {
  const sheet = build.sheet!;
  const bend = bendsOf(sheet).find((b) => b.id === id)!;
  const places = (plate: Plate | undefined) =>
    (plate?.regions ?? []).flatMap((r) => r.outer).map((c) => dot(subtract(c.a, bend.origin), bend.out));
  const before = places(platesOf(sheet).find((p) => p.id === bend.parent));
  const after = places(platesOf(sheet).find((p) => p.id === bend.child));
  return { near: -Math.min(0, ...before), far: Math.max(bend.allowance, ...after) - bend.allowance };
}
