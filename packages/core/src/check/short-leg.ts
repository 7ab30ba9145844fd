import { outerSetback } from "../bend/allowance.ts";
import { leastLeg } from "../bend/tooling.ts";
import type { PartBuild } from "../part/build.ts";
import { type Bend, bendsOf, type Plate, platesOf } from "../sheet/sheet.ts";
import type { Finding, Mend } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";
import { bendAlong, bordersBeyond } from "./beyond-bend.ts";
import type { CheckRule } from "./rule.ts";

interface Leg {
  readonly bend: Bend;
  readonly plate: Plate;
  readonly die: string;
  /** To the outer mould point, mm: at its shortest, and what the die needs. */
  readonly found: number;
  readonly wanted: number;
  readonly at: { readonly x: number; readonly y: number };
  /** The other bend where there is one at its end. */
  readonly other?: Bend;
  /** Whether it is its step's own length that is too short. */
  readonly byLength: boolean;
}

/** Every leg that does not lie on the shoulder of its die until the bend is finished. */
function* shortLegs(build: PartBuild, spare: number): Generator<Leg> {
  const { sheet, stock, bends: rows, steps } = build;
  const bends = bendsOf(sheet);
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const dies = new Map(stock?.dies.map((d) => [d.id, d]));
  for (const [i, bend] of bends.entries()) {
    const die = dies.get(rows[i]?.force?.die ?? "");
    const least = die && leastLeg(die, bend.angle);
    const setback = outerSetback({ t: sheet!.t, r: bend.radius, angle: bend.angle });
    if (!die || least === undefined || setback === undefined) continue;
    for (const side of ["parent", "child"] as const) {
      const plate = plates.get(bend[side])!;
      const wanted = least + spare;
      const near = [...bordersBeyond(bend, side, plate, wanted - setback).values()].sort(
        (p, q) => p.away - q.away,
      )[0];
      // A plate of no metal is a leg that is nothing.
      const found = (near?.away ?? (plate.regions.length === 0 ? 0 : Infinity)) + setback;
      if (found >= wanted - 1e-7) continue;
      const other =
        near &&
        bendAlong(
          bends.filter((b) => b !== bend),
          plate.id,
          near.curve,
        );
      const values = steps.find((s) => s.id === bend.step)?.values;
      const byLength =
        side === "child" &&
        near?.curve.name === "end" &&
        values?.quantities.length !== undefined &&
        values.choices.lengthTo !== "overall-height";
      yield { bend, plate, die: die.name, found, wanted, at: near?.at ?? bend.origin, other, byLength };
    }
  }
}

const about = ({
  bend,
  plate,
  other,
  found,
  wanted,
  at,
}: Leg): Omit<Finding, "level" | "rule" | "message"> => ({
  step: other?.step ?? bend.step,
  pieces: [
    { kind: "plate", id: plate.id },
    { kind: "bend", id: bend.id },
    ...(other ? [{ kind: "bend" as const, id: other.id }] : []),
  ],
  at,
  found,
  wanted,
});

const longer = ({ bend, found, wanted }: Leg): Mend => ({
  title: `Make it ${mm(wanted - found)} longer`,
  remedies: [{ do: "longer", step: bend.step, field: "length", by: wanted - found }],
});

/** A leg must lie on the die's shoulder at the full angle, all along the bend, openings and slanted edges counted. */
export const shortLegRule: CheckRule = (build, { values }) =>
  [...shortLegs(build, values.legSpare)]
    .filter((leg) => !leg.other)
    .map((leg) => ({
      ...about(leg),
      level: "warn",
      rule: "short-leg",
      ...(leg.byLength ? { field: "length", mend: longer(leg) } : {}),
      message: `Bend ${leg.bend.number}: its leg on plate ${leg.plate.letter} is ${mm(leg.found)} at its shortest, to the outer mould point; the die ${leg.die} needs ${mm(leg.wanted)}. Make it ${mm(leg.wanted - leg.found)} longer there, or bend over a narrower V.`,
    }));

/** Two bends of one plate: the metal between them is the leg of each. */
export const closeBendsRule: CheckRule = (build, { values }) => {
  const seen = new Set<string>();
  return [...shortLegs(build, values.legSpare)].flatMap((leg) => {
    const { bend, other, plate, found, wanted, die } = leg;
    if (!other) return [];
    const key = [bend.id, other.id].sort().join(" ");
    if (seen.has(key)) return [];
    seen.add(key);
    return [
      {
        ...about(leg),
        level: "warn" as const,
        rule: "close-bends",
        message: `Bends ${bend.number} and ${other.number}: only ${mm(found)} of plate ${plate.letter} lie between them, to the outer mould point; the die ${die} needs ${mm(wanted)}. Set them ${mm(wanted - found)} further apart, or bend over a narrower V.`,
      },
    ];
  });
};
