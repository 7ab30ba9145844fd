import type { PartBuild } from "../part/build.ts";
import type { Bend, BendRelief } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD } from "./opening-names.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

interface Wants {
  readonly width: number;
  readonly depth: number;
}

/** A relief that is too narrow closes up, and one that is too shallow lets the bend draw metal beside it. */
export const smallReliefRule: CheckRule = (build, { values }) => {
  const { t } = build.sheet!;
  const wants = { width: values.reliefWidth * t, depth: values.reliefDepth * t };
  const beside = bendsOf(build.sheet).flatMap((bend) =>
    bend.reliefs.flatMap((relief) => remarksOf(build, bend, relief, wants)),
  );
  return [...joinRemarks(beside), ...cornerFindings(build, wants.width)];
};

function remarksOf(build: PartBuild, bend: Bend, relief: BendRelief, wants: Wants): BendRemark[] {
  const { end } = relief;
  return (["width", "depth"] as const).flatMap((measure): BendRemark[] => {
    const [found, wanted] = [relief[measure], wants[measure]];
    // What is torn is parted without a width.
    if (found >= wanted - AS_GOOD || (measure === "width" && found === 0)) return [];
    const [is, make] = measure === "width" ? ["wide", "wider"] : ["deep", "deeper"];
    const says = (of: string) =>
      `: the ${end} relief ${of} ${mm(found)} ${is}; the shop leaves ${mm(wanted)}. Make it ${mm(wanted - found)} ${make}.`;
    return [
      {
        bend: bend.number,
        level: "warn",
        rule: "small-relief",
        one: says("is"),
        many: says("of each is"),
        step: bend.step,
        pieces: [{ kind: "bend", id: bend.id }],
        found,
        wanted,
        ...enlarged(build, bend, relief, measure, wants),
      },
    ];
  });
}

/** The step's own relief at that end as large as is asked; nothing where its step says nothing of reliefs. */
function enlarged(
  build: PartBuild,
  bend: Bend,
  relief: BendRelief,
  measure: "width" | "depth",
  wants: Wants,
): Pick<Finding, "field" | "mend"> {
  const key = `${relief.end}Relief`;
  const own = build.steps.find((s) => s.id === bend.step)?.values;
  if (own?.choices[key] === undefined) return {};
  const width = Math.max(relief.width, wants.width);
  const sizes: Record<string, string> = {
    [`${key}Depth`]: lengthText(Math.max(relief.depth, wants.depth)),
    ...(relief.shape === "torn" ? {} : { [`${key}Width`]: lengthText(width) }),
  };
  const field = `${key}${measure === "width" ? "Width" : "Depth"}`;
  const values = { [key]: relief.shape, ...sizes };
  return {
    field: own.choices[key] === "stock" ? key : field,
    mend: { title: titleOf(measure, wants[measure]), remedies: [{ do: "set", step: bend.step, values }] },
  };
}

const titleOf = (measure: "width" | "depth", wanted: number): string =>
  measure === "width" ? `Widen it to ${mm(wanted)}` : `Deepen it to ${mm(wanted)}`;

/** A length in mm as a field takes it, no less than it is. */
const lengthText = (wanted: number): string => String(Math.ceil(wanted * 1000 - 1e-6) / 1000);

/** Notches where two flanges meet, by the size that their step says. */
const cornerFindings = ({ steps }: PartBuild, wanted: number): Finding[] =>
  steps.flatMap(({ id, work }): Finding[] => {
    const found = work?.notch;
    if (found === undefined || found >= wanted - AS_GOOD) return [];
    return [
      {
        level: "warn",
        rule: "small-relief",
        message: `The corner reliefs are ${mm(found)} wide; the shop leaves ${mm(wanted)}. Make them ${mm(wanted - found)} wider.`,
        step: id,
        field: work!.field,
        found,
        wanted,
        mend: {
          title: titleOf("width", wanted),
          remedies: [{ do: "set", step: id, values: { [work!.field]: lengthText(wanted) } }],
        },
      },
    ];
  });
