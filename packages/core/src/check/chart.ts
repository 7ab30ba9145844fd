import { sayOutside } from "../bend/why-line.ts";
import type { Bend } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf } from "../sheet/sheet.ts";
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
    // What a hem is pressed or rolled to is no punch's radius.
    if (!giver || giver.work?.hem !== undefined) return [];
    const reason = giver.values?.choices.reason?.trim() ?? "";
    const allowed = radii.map((r) => mm(r)).join(", ");
    const says = `: radius ${mm(bend.radius)} is not one that the card allows (${allowed}). ${reason ? `It is meant: ${reason}.` : "Take one of them, or say why in “Why not by the stock”."}`;
    return [
      {
        bend: bend.number,
        level: reason ? ("note" as const) : ("warn" as const),
        rule: reason ? "own-radius" : "card-radius",
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

/** Whether a bend's line lies along the grain of its blank, within half a right angle; unknown where no grain is said. */
function alongGrain({ axis }: Bend, grain: "x" | "y" | undefined): boolean | undefined {
  if (!grain) return undefined;
  return Math.abs(grain === "x" ? axis.x : axis.y) > Math.SQRT1_2 + 1e-9;
}

/**
 * A bend tighter than its material bears cracks on the outside, along the grain sooner than across it. Where the part
 * does not say how its grain lies, a bend that bears only one of the two is noted.
 */
export const leastRadiusRule: CheckRule = ({ sheet, bends, stock }) => {
  const least = stock?.leastRadius;
  if (!stock || !least) return [];
  const lines = new Map(bendsOf(sheet).map((b) => [b.id, b]));
  const t = stock.thickness;
  const remarks = bends.flatMap((bend): BendRemark[] => {
    // A hem's fold is pressed shut on purpose.
    if (bend.angle > Math.PI - 1e-6 || bend.angle < 1e-9) return [];
    const along = alongGrain(lines.get(bend.id)!, stock.grain);
    const { found, wanted, says, note } = radiusFacts(bend.radius, least, t, along);
    if (found >= wanted - 1e-9) return [];
    return [
      {
        bend: bend.number,
        level: note ? ("note" as const) : ("warn" as const),
        rule: note ? "grain-radius" : "least-radius",
        one: says("its line"),
        many: says("their lines"),
        step: bend.step,
        field: "radius",
        pieces: [{ kind: "bend" as const, id: bend.id }],
        found,
        wanted,
      },
    ];
  });
  return joinRemarks(remarks);
};

function radiusFacts(
  found: number,
  least: { readonly along: number; readonly across: number },
  t: number,
  along: boolean | undefined,
) {
  const [across1, along1] = [mm(least.across * t), mm(least.along * t)];
  if (along !== undefined) {
    const wanted = (along ? least.along : least.across) * t;
    const lies = along ? "along" : "across";
    const says = (line: string) =>
      `: radius ${mm(found)} is tighter than this material bears where ${line} ${line === "its line" ? "lies" : "lie"} ${lies} the grain: at least ${mm(wanted)}.`;
    return { found, wanted, says, note: false };
  }
  if (found < least.across * t - 1e-9 * t) {
    const says = () =>
      `: radius ${mm(found)} is tighter than this material bears: at least ${across1} across the grain, ${along1} along it.`;
    return { found, wanted: least.across * t, says, note: false };
  }
  const says = (line: string) =>
    `: at radius ${mm(found)} ${line} must not lie along the grain, where the material needs ${along1}. Say in the stock how the grain lies.`;
  return { found, wanted: least.along * t, says, note: true };
}
