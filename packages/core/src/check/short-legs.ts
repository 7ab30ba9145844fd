import { outerSetback } from "../bend/allowance.ts";
import { leastLeg } from "../bend/tooling.ts";
import { Kept } from "../kept.ts";
import type { PartBuild } from "../part/build.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf } from "../sheet/sheet.ts";
import type { Finding } from "../steps/finding.ts";
import { bendAlong, bordersBeyond } from "./beyond-bend.ts";

export interface ShortLeg {
  readonly bend: Bend;
  readonly plate: Plate;
  readonly die: string;
  /** To the outer mould point, mm: at its shortest, and what the die needs. */
  readonly found: number;
  readonly wanted: number;
  readonly at: { readonly x: number; readonly y: number };
  /** The other bend where there is one at its end. */
  readonly other?: Bend;
  /** Whether it is the leg's own end that is too near. */
  readonly byLength: boolean;
}

/** Every leg that does not lie on the shoulder of its die until the bend is finished; `spare` more is wanted, mm. */
function* findLegs(build: PartBuild, spare: number): Generator<ShortLeg> {
  const { sheet, stock, bends: rows } = build;
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
      const byLength = side === "child" && near?.curve.name === "end";
      yield { bend, plate, die: die.name, found, wanted, at: near?.at ?? bend.origin, other, byLength };
    }
  }
}

export const aboutLeg = ({
  bend,
  plate,
  other,
  found,
  wanted,
  at,
}: ShortLeg): Omit<Finding, "level" | "rule" | "message"> => ({
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

const legs = new Kept((build: PartBuild, spare: number) => [...findLegs(build, spare)]);

/** The legs of a build that are too short: looked for once, although two rules ask. */
export const shortLegs = (build: PartBuild, spare: number): readonly ShortLeg[] => legs.of(build, spare);
