import { isPlain } from "../fields/checking.ts";
import { fail, ok, type Result } from "../result.ts";
import { pointTablesAreOutlines } from "./point-tables.ts";

/** Turns a document of one version into the next. Pure; keeps what it does not know. */
export type Migration = (document: Readonly<Record<string, unknown>>) => Record<string, unknown>;

/** Version 2: more plate from an edge in its own plane is called by the trade's word for it. */
const lipsAreLugs: Migration = (document) => ({
  ...document,
  ...(Array.isArray(document.steps)
    ? {
        steps: document.steps.map((step: unknown) =>
          typeof step === "object" && step !== null && (step as { kind?: unknown }).kind === "lip"
            ? { ...step, kind: "lug" }
            : step,
        ),
      }
    : {}),
});

/**
 * Version 4: the middle of a wall is that of its leg. What was placed or mirrored about the middle of all metal stays where it
 * was; of a plate that hangs on no bend both are one.
 */
const middlesOfMetal: Migration = (document) => {
  const steps: unknown[] = Array.isArray(document.steps) ? document.steps : [];
  const records = steps.filter(isPlain);
  const plates = new Set(records.filter((s) => s.kind === "plate").map((s) => s.id));
  const onWall = ({ plate }: Record<string, unknown>) =>
    Array.isArray(plate) && plate.some((p) => isPlain(p) && !plates.has(p.at));
  const moved = (step: unknown): unknown => {
    if (!isPlain(step) || !onWall(step)) return step;
    if (step.kind !== "mirror") return step.placed === "middle" ? { ...step, placed: "all" } : step;
    const about = step.about ?? "across";
    return about === "across" || about === "along" ? { ...step, about: `${about}All` } : step;
  };
  return Array.isArray(document.steps) ? { ...document, steps: steps.map(moved) } : { ...document };
};

/** The step from version n to n + 1 stands at index n - 1. */
export const MIGRATIONS: readonly Migration[] = [lipsAreLugs, pointTablesAreOutlines, middlesOfMetal];

/**
 * Brings a document up to the current version, one version at a time. A document of a later
 * version is refused: what this release does not know it could only lose.
 */
export function migrate(
  document: Readonly<Record<string, unknown>>,
  migrations: readonly Migration[] = MIGRATIONS,
): Result<Record<string, unknown>> {
  const current = migrations.length + 1;
  const { version } = document;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1) {
    return fail(`"version" must be a whole number from 1 to ${current}.`);
  }
  if (version > current) {
    return fail(
      `The document has version ${version}; this Hillcrest reads up to version ${current}. Open it with a newer Hillcrest.`,
    );
  }
  let out: Record<string, unknown> = { ...document };
  for (let v = version; v < current; v++) out = { ...migrations[v - 1](out), version: v + 1 };
  return ok(out);
}
