import { bendsOf, platesOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import type { CheckRule } from "./rule.ts";

/** A cut that reaches into a bend's tangent line leaves the bend hanging on less metal than it is wide. */
export const seamRule: CheckRule = ({ sheet, blank }) =>
  (bendsOf(sheet) ?? []).flatMap((bend, i) => {
    const { root, leg } = blank!.joined[i];
    // A leg of exactly nothing has no plate to join; where another bend follows at once, that one counts.
    const bare = (plate: string, share: number) =>
      share === 0 && platesOf(sheet!).find((p) => p.id === plate)?.regions.length === 0;
    const shares = [...(bare(bend.parent, root) ? [] : [root]), ...(bare(bend.child, leg) ? [] : [leg])];
    const least = Math.min(1, ...shares);
    if (least > 1 - 1e-6) return [];
    const gone = least < 1e-6;
    return [
      {
        level: gone ? ("stop" as const) : ("warn" as const),
        rule: gone ? "cut-free" : "seam",
        message: gone
          ? `Bend ${bend.number} is cut free: nothing joins it to its plate any more. Move or shrink the hole or relief there.`
          : `A cut reaches into bend ${bend.number}: ${mm((1 - least) * bend.width)} of its ${mm(bend.width)} are gone. Keep holes and reliefs clear of the bend.`,
        step: bend.step,
        pieces: [{ kind: "bend" as const, id: bend.id }],
      },
    ];
  });
