import { examinePart, newPart, type PartBuild, type PartDocument, type StepDocument } from "../src/index.ts";

/** A part of the steps, of the stock that a new part has. */
export const part = (...steps: StepDocument[]): PartDocument => ({ ...newPart("Part"), steps });

/** The plate of `part`, as its first step. */
export const plate = (width: string, depth: string, holes: readonly object[] = []): StepDocument => ({
  id: "s1",
  kind: "plate",
  width,
  depth,
  holes,
});

export const hole = (d: string, x = "0", y = "0", key = "a") => ({ key, x, y, d });

/** What a build says of its part, each finding with how grave it is. */
export const told = (build: PartBuild) => build.findings.map((f) => `${f.level}: ${f.message}`);

/** Builds, and says how long it took (ms). */
export function timed(document: PartDocument): { build: PartBuild; took: number } {
  const begun = performance.now();
  const build = examinePart(document);
  return { build, took: performance.now() - begun };
}
