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
import { FieldView } from "../../fields/field-view.tsx";
import { openBuild } from "../../state/build-slice.ts";
import { setStepValue } from "../../state/edits.ts";
import { useApp } from "../../state/store.ts";
import { inPart } from "../../state/units.ts";
import { angleGrip, frameOf, type Grip } from "../../views/folded/grips.ts";
import { SectionPicture } from "../pictures/section-picture.tsx";
import { drawsOutline } from "./drawn-outline.ts";
import type { FieldContext, GripPlace, StepFace } from "./step-face.ts";

function foldGrips({ build, folding, bend, values }: GripPlace): Grip[] {
  if (!bend) return [];
  const { at, rising } = frameOf(build, folding, bend);
  const arm = Math.max(10, bend.width / 4);
  if (values.quantities.angle === undefined) return [];
  return [
    {
      which: "angle",
      title: "Drag the fold's angle",
      step: bend.step,
      field: "angle",
      anchor: { id: "handle-angle", at: at(0, arm), along: rising, off: 24 },
      ...angleGrip(bend.angle, arm + bend.radius),
    },
  ];
}

interface Legs {
  readonly start: number;
  /** Straight lengths before and after the bend. */
  readonly near: number;
  readonly far: number;
}

/** What the drawn line is for the bend: chosen on pictures, each with both legs as they would come out. */
function FoldMeaning({ field, context }: { field: FieldSpec; context: FieldContext }) {
  const { step, wrong } = context;
  const build = useApp((s) => openBuild(s).shown?.build);
  const value = choicesOf(stepKind(step.kind)!.fields, step)[field.key];
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
    <FieldView
      look="sentence"
      field={field}
      value={value}
      wrong={wrong.has(field.key)}
      onChange={(next) => setStepValue(step.id, field.key, next)}
      pictures={{
        picture: (option) => {
          const legs = legsFor(option);
          if (!legs || !build?.sheet || !bend) return <span className="h-[54px]" />;
          const { angle, radius: r, up } = bend;
          const section = {
            t: build.sheet.t,
            r,
            angle,
            up,
            setback: -legs.start,
            leg: Math.max(0, legs.far),
          };
          return <SectionPicture section={section} about={{ place: "offset" }} width={76} height={54} />;
        },
        note: (option) => {
          const legs = legsFor(option);
          if (!legs) return "";
          return legs.near < 0 || legs.far < 0
            ? "no room"
            : `legs ${inPart(legs.near)} and ${inPart(legs.far)}`;
        },
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

export const foldFace: StepFace = {
  kind: "fold",
  pictogram: (
    <>
      <path d="M5 26 15 18h11L16 26Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M16 26 26 18 38 6 29 15Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M16 26 26 18" stroke="var(--bend-up)" strokeWidth="1.6" />
    </>
  ),
  // What lies before the line, seen from the edge, is what one means to fold.
  grows: [{ on: "edge", key: "D", field: "distance", single: true, values: { moves: "near" } }],
  chooses: drawsOutline("by"),
  views: { meaning: FoldMeaning },
  grips: foldGrips,
};
