import {
  choicesOf,
  type FieldSpec,
  fieldsOf,
  type PartCommand,
  type PartDocument,
  roundInches,
  rowsOf,
  type StepDocument,
  shownFields,
  stepKind,
  type Units,
} from "@hillcrest/core";

/** Units that are inches. */
type Inches = Exclude<Units, "mm">;

const isBare = (value: unknown): boolean => /^-?\d+(\.\d+)?$/.test(String(value));

/** Fields that a step shows. */
const shownIn = (step: StepDocument): readonly FieldSpec[] => {
  const kind = stepKind(step.kind);
  if (!kind) return [];
  const fields = fieldsOf(kind, step);
  return shownFields(fields, choicesOf(fields, step));
};

/** A row that nobody has typed yet, its lengths as round inches in a part that is shown in them. */
export function inchRow<R extends Readonly<Record<string, unknown>>>(
  columns: readonly FieldSpec[],
  row: R,
  units: Units = "mm",
): R {
  if (units === "mm") return row;
  const rounded = columns.flatMap((c) =>
    c.kind === "quantity" && c.dimension === "length" && isBare(row[c.key])
      ? [[c.key, roundInches(Number(row[c.key]), units)]]
      : [],
  );
  return { ...row, ...Object.fromEntries(rounded) };
}

/**
 * Round inch values for the lengths of a step that nobody has typed yet, in a part that is shown in inches: those that a
 * document does not say, and those of the rows that a new step begins with, are so many whole millimetres, which are no
 * inches that anybody wants.
 *
 * @param before The step as it was, of one that is not new: what it showed then keeps what it had.
 */
function inchDefaults(step: StepDocument, units: Inches, before?: StepDocument): Record<string, unknown> {
  const known = new Set(before ? shownIn(before).map((f) => f.key) : []);
  const found = shownIn(step).flatMap((f): (readonly [string, unknown])[] => {
    if (f.kind === "rows" && !before && step[f.key] !== undefined)
      return [[f.key, rowsOf(step, f.key).map((row) => inchRow(f.columns, row, units))]];
    const isLength = f.kind === "quantity" && f.dimension === "length";
    if (!isLength || step[f.key] !== undefined || known.has(f.key) || !isBare(f.default)) return [];
    // Nought is nought in any unit.
    if (Number(f.default) === 0) return [];
    return [[f.key, roundInches(Number(f.default), units)]];
  });
  return Object.fromEntries(found);
}

/** A step that is begun, in the units of its part. One that is copied keeps what it has, and does not come by here. */
export const begunStep = <S extends StepDocument>(step: S, { units = "mm" }: PartDocument): S =>
  units === "mm" ? step : { ...step, ...inchDefaults(step, units) };

/** A command with round inch values for the fields that it brings in by a choice, and nobody has typed. */
export function inRoundInches(command: PartCommand, document: PartDocument): PartCommand {
  const { units = "mm", steps } = document;
  if (units === "mm") return command;
  switch (command.do) {
    case "several":
      return { ...command, commands: command.commands.map((one) => inRoundInches(one, document)) };
    case "set": {
      const before = steps.find((s) => s.id === command.step);
      if (!before) return command;
      const more = inchDefaults({ ...before, ...command.values }, units, before);
      return { ...command, values: { ...more, ...command.values } };
    }
    default:
      return command;
  }
}
