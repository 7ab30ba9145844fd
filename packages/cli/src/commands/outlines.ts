import { dimensionOf, type Outline, type SolvedOutline, toDegrees } from "@hillcrest/core";
import type { Command } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { readOutlines } from "../read-part.ts";
import { print } from "../write-files.ts";

/** What `hillcrest outlines` takes and does. */
export function setUp(command: Command): void {
  command
    .option("--json", "print a list: an object for each outline, in their order")
    .action((file: string, options: { json?: boolean }) => {
      const solved = readOutlines(file);
      if (options.json)
        print(
          JSON.stringify(
            solved.map(({ outline, made }) => outlineReport(outline, made)),
            null,
            2,
          ),
        );
      else for (const { outline, made } of solved) sayOutline(outline, made);
      process.exitCode = solved.some(({ made }) => made.state === "conflict") ? STOPPED : FINE;
    });
}

/** An outline as programs read it: lengths in mm, angles in degrees. */
function outlineReport(outline: Outline, made: SolvedOutline) {
  const angles = new Set(outline.dimensions.flatMap((d) => (dimensionOf(d.kind) === "angle" ? [d.id] : [])));
  const spoken = ([id, value]: [string, number]) => [id, angles.has(id) ? toDegrees(value) : value];
  return {
    name: outline.name,
    state: made.state,
    free: made.free,
    conflicts: made.conflicts,
    repeats: made.repeats,
    points: made.points,
    radii: made.radii,
    values: Object.fromEntries(Object.entries(made.values).map(spoken)),
    problems: made.problems,
  };
}

function sayOutline({ name }: Outline, { state, free, conflicts, repeats, problems }: SolvedOutline): void {
  const said = {
    fixed: "fixed",
    free: `${free} left free`,
    conflict: conflicts.length > 0 ? `these do not go together: ${conflicts.join(", ")}` : "cannot be solved",
  }[state];
  print(`${name}: ${said}`);
  for (const list of repeats)
    print(`  ${list[list.length - 1]} only repeats ${list.slice(0, -1).join(", ") || "what is there"}`);
  for (const p of problems) print(`  ${p.message}`);
}
