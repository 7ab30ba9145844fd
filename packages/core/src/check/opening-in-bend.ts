import { stepOfOpening } from "../part/set-in.ts";
import { bendsOf } from "../sheet/sheet.ts";
import { calledOpening } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** An opening in the metal that turns. One that reaches out of it cuts into its line, and is told as that. */
export const openingInBendRule: CheckRule = (build) =>
  bendsOf(build.sheet).flatMap((bend) =>
    bend.regions.flatMap(({ holes }) =>
      holes.map((loop) => ({
        level: "warn" as const,
        rule: "opening-in-bend",
        message: `${calledOpening(build.sheet, loop)} lies in bend ${bend.number}: it is drawn out of shape when that turns. Move it onto a plate, or let a relief take the whole of it.`,
        step: stepOfOpening(build, loop, bend.step),
        pieces: [{ kind: "bend" as const, id: bend.id }],
        at: loop[0].a,
      })),
    ),
  );
