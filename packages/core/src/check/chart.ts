import { sayOutside } from "../bend/why-line.ts";
import type { Mend } from "../steps/finding.ts";
import { formatFixed } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/** A bend that the chart does not cover has a flat length nobody has measured. */
export const outsideChartRule: CheckRule = ({ bends }) =>
  joinRemarks(
    bends.flatMap((bend): BendRemark[] => {
      const about = {
        bend: bend.number,
        level: "warn" as const,
        step: bend.step,
        pieces: [{ kind: "bend" as const, id: bend.id }],
      };
      const { outside, warning } = bend.kSource;
      if (outside) {
        const mend = (them: string) =>
          `: ${sayOutside(outside)} Add a row for it to the chart, or give ${them} K.`;
        return [
          {
            ...about,
            rule: "outside-chart",
            one: mend("the bend its own"),
            many: mend("these bends their own"),
          },
        ];
      }
      return warning
        ? [{ ...about, rule: "k-range", field: "k", one: `: ${warning}`, many: `: ${warning}` }]
        : [];
    }),
  );

/** A radius that a step gives by itself must be one that the card allows, or be marked as meant. */
export const cardRadiusRule: CheckRule = ({ bends, stock, steps }) => {
  const radii = stock?.radii;
  if (!radii) return [];
  const remarks = bends.flatMap((bend): BendRemark[] => {
    if (radii.some((r) => Math.abs(r - bend.radius) < 1e-6)) return [];
    // The last step that gives this bend a radius of its own.
    const giver = steps.findLast(({ id, values }) => {
      if (values?.quantities.radius === undefined) {
        const own = Object.values(values?.picks ?? {}).flat();
        return id === bend.step && own.some((p) => p.own?.radius !== undefined);
      }
      return id === bend.step || values.picks.bends?.some((p) => p.at === bend.id);
    });
    // What a hem is pressed or rolled to is no punch's radius; only hems say how they meet at corners.
    if (!giver || giver.values?.choices.corners !== undefined) return [];
    const reason = giver.values?.choices.reason?.trim() ?? "";
    const allowed = radii.map((r) => mm(r)).join(", ");
    const says = `: radius ${mm(bend.radius)} is not one that the card allows (${allowed}). ${reason ? `It is meant: ${reason}.` : "Take one of them, or say why in “Why not by the stock”."}`;
    return [
      {
        bend: bend.number,
        level: reason ? ("note" as const) : ("warn" as const),
        rule: "card-radius",
        one: says,
        many: says,
        step: giver.id,
        field: "radius",
        pieces: [{ kind: "bend" as const, id: bend.id }],
        ...(reason || giver.values?.quantities.radius === undefined
          ? {}
          : { mend: takeRadius(giver.id, nearestOf(radii, bend.radius)) }),
      },
    ];
  });
  return joinRemarks(remarks);
};

const nearestOf = (radii: readonly number[], radius: number): number =>
  radii.reduce((best, r) => (Math.abs(r - radius) < Math.abs(best - radius) ? r : best));

const takeRadius = (step: string, radius: number): Mend => ({
  title: `Take radius ${mm(radius)}`,
  remedies: [{ do: "set", step, values: { radius: String(radius) } }],
});

/** A die that bears less than the bend takes may crack, or the brake stall. */
export const forceRule: CheckRule = ({ bends }) =>
  joinRemarks(
    bends.flatMap((bend): BendRemark[] => {
      if (!bend.force?.tooMuch) return [];
      const says = (verb: string, them: string) =>
        ` ${verb} ${formatFixed(bend.force!.perMetre, 0)} kN for each metre, more than the die ${bend.force!.dieName} bears. Bend ${them} over a wider V.`;
      const about = { bend: bend.number, step: bend.step, pieces: [{ kind: "bend" as const, id: bend.id }] };
      return [
        { ...about, level: "warn", rule: "die-force", one: says("takes", "it"), many: says("take", "them") },
      ];
    }),
  );

/** A bend tighter than its material bears cracks on the outside. */
export const leastRadiusRule: CheckRule = ({ bends, stock }) => {
  const least = stock?.leastRadius;
  if (!stock || !least) return [];
  const remarks = bends.flatMap((bend): BendRemark[] => {
    // A hem's fold is pressed shut on purpose.
    if (bend.angle > Math.PI - 1e-6 || bend.angle < 1e-9) return [];
    const ratio = bend.radius / stock.thickness;
    if (ratio >= least.along - 1e-9) return [];
    const cracks = ratio < least.across - 1e-9;
    const least1 = mm(least.across * stock.thickness);
    const least2 = mm(least.along * stock.thickness);
    const says = (line: string) =>
      cracks
        ? `: radius ${mm(bend.radius)} is tighter than this material bears: at least ${least1} across the grain, ${least2} along it.`
        : `: at radius ${mm(bend.radius)} ${line} must not lie along the grain, where the material needs ${least2}.`;
    return [
      {
        bend: bend.number,
        level: cracks ? ("warn" as const) : ("note" as const),
        rule: "least-radius",
        one: says("its line"),
        many: says("their lines"),
        step: bend.step,
        field: "radius",
        pieces: [{ kind: "bend" as const, id: bend.id }],
      },
    ];
  });
  return joinRemarks(remarks);
};
