import type { HoleSpec } from "../sheet/spec.ts";
import type { FieldValues } from "./field.ts";

/** The round holes of a step's table. */
export const holesOf = (values: FieldValues): HoleSpec[] =>
  (values.rows.holes ?? []).map(({ key, quantities: q }) => ({
    key,
    x: q.x ?? 0,
    y: q.y ?? 0,
    diameter: q.d ?? 0,
  }));
