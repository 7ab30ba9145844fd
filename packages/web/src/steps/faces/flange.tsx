import type { BendPlace, LengthTo } from "@hillcrest/core";
import { leastLength, legHolePlace, lengthForLeg, shortLength, whyFlange } from "@hillcrest/core";
import type { OptionPictures } from "../../fields/field-look.ts";
import { openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { useBenchSources } from "../../state/sources.ts";
import { useAsk } from "../../state/store.ts";
import { inPart, useUnits } from "../../state/units.ts";
import { WhyNumber } from "../../ui/why-card.tsx";
import { angleGrip, frameOf, type Grip, lengthGrip } from "../../views/folded/grips.ts";
import { SectionPicture } from "../pictures/section-picture.tsx";
import { legAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import { LEG_SHAPES, metal, plans } from "./plans.tsx";
import type { FieldContext, GripPlace, StepFace } from "./step-face.ts";

/** Where the bend sits or what its length is measured to, each in the section that would come out. */
const bendPictures =
  (about: "place" | "lengthTo") =>
  ({ outlooks }: FieldContext): OptionPictures => {
    const found = (option: string) => {
      const outlook = outlooks?.[about]?.[option];
      return outlook && "bend" in outlook ? outlook : undefined;
    };
    return {
      picture: (option) => {
        const outlook = found(option);
        if (!outlook) return <span className="h-[54px]" />;
        const { shape, setback, leg } = outlook.bend;
        return (
          <SectionPicture
            section={{ ...shape, up: outlook.up, setback, leg }}
            about={about === "place" ? { place: option as BendPlace } : { lengthTo: option as LengthTo }}
            width={76}
            height={54}
          />
        );
      },
      note: (option) => {
        const outlook = found(option);
        if (option === "level") return "follows what is picked";
        if (!outlook) return "too short";
        const leg = `leg ${inPart(outlook.bend.leg)}`;
        return about === "place" ? `plate ${signed(outlook.bend.setback)} ${leg}` : leg;
      },
    };
  };

/** What the plate's straight part loses or gains at the edge. */
const signed = (setback: number) =>
  `${Math.abs(setback) < 5e-3 ? "±" : setback > 0 ? "−" : "+"}${inPart(Math.abs(setback))}`;

function flangeGrips({ build, folding, bend, values }: GripPlace): Grip[] {
  if (!bend) return [];
  const { plate, at, out, rising } = frameOf(build, folding, bend);
  const shape = { t: build.sheet!.t, r: bend.radius, angle: bend.angle };
  const leg = plate.box.y1;
  const arm = leg * 0.55;
  const pick = bend.id.slice(bend.step.length);
  const grips: Grip[] = [
    {
      which: "angle",
      title: "Drag the flange's angle",
      step: bend.step,
      pick,
      field: "angle",
      // Off the middle, so that on a short leg the two do not lie over each other.
      anchor: { id: "handle-angle", at: at(-bend.width / 4, arm), along: rising, off: 24 },
      ...angleGrip(bend.angle, arm + bend.radius),
    },
  ];
  // A leg that ends level with an edge has no length of its own.
  if (values.choices.lengthTo === "level") return grips;
  const lengthTo = values.choices.lengthTo as LengthTo;
  const others = build.steps.flatMap(({ id, values: v }) =>
    id !== bend.step && v?.quantities.length !== undefined && v.choices.lengthTo === lengthTo
      ? [v.quantities.length]
      : [],
  );
  const length = lengthGrip(lengthForLeg(lengthTo, leg, shape), leastLength(lengthTo, shape), others);
  return [
    {
      which: "length",
      title: "Drag the flange's length",
      step: bend.step,
      pick,
      field: "length",
      anchor: { id: "handle-length", at: at(0, leg), along: out, off: 20 },
      ...length,
    },
    ...grips,
  ];
}

/** Both legs as they come out. */
function FlangeFollows({ context }: { context: FieldContext }) {
  const { step, section: numbers } = context;
  const units = useUnits();
  const sources = useBenchSources();
  const ask = useAsk();
  // The line is kept while the shape is still to come: fields below it would move under the hand.
  if (!numbers) return <p className="text-[12.5px] text-quiet">&nbsp;</p>;
  const number = (of: "setback" | "leg", label: string) => (
    <WhyNumber
      text={shortLength(numbers[of], units)}
      label={label}
      why={() => ask((s) => whyFlange(openPart(s).document!, openBuild(s).latest!, step.id, numbers, of))}
      {...sources}
    />
  );
  return (
    <p className="text-[12.5px] text-quiet">
      The bend starts {number("setback", "where the bend starts")} behind the edge, the leg is{" "}
      {number("leg", "the straight leg")} straight.
    </p>
  );
}

export const flangeFace: StepFace = {
  kind: "flange",
  pictogram: (
    <>
      <path
        d="M5 28h20q7 0 7-7V6h4v16q0 10-10 10H5Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M40 6v26" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  pictures: {
    shape: plans({
      ...LEG_SHAPES,
      step: <path d="M14 46V30h12V14h24v16h12v16Z" {...metal} />,
    }),
    place: bendPictures("place"),
    lengthTo: bendPictures("lengthTo"),
  },
  // Returns on walls meet at the corners of these: left open they would stand in one another.
  grows: [
    {
      ...{ on: "edge", key: "F", field: "length" },
      valuesOn: (names) =>
        names.length > 1 && names.every((name) => name.endsWith(".end")) ? { meet: "closed" } : {},
    },
  ],
  chooses: drawsOutline("shape", legAsDrawn),
  grips: flangeGrips,
  Follows: FlangeFollows,
  holeAt: legHolePlace,
};
