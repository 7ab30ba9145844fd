import { type RowColumn, type RowEntry, type RowsField, rowsOf, typedText } from "@hillcrest/core";
import { addRow, removeRow, setRow } from "../state/edits.ts";
import { ChoiceField } from "./choice-field.tsx";
import { focusShown } from "./focus.ts";
import { QuantityField } from "./quantity-field.tsx";
import type { FieldContext } from "./step-fields.tsx";

const plural = (n: number, noun: string) => `${n} ${noun}${n === 1 ? "" : "s"}`;

/** A table as it is said in a sentence: how many rows it has. */
export function RowsCount({ spec, context }: { spec: RowsField; context: FieldContext }) {
  const rows = rowsOf(context.step, spec.key);
  return (
    <span data-field={spec.key} className="border-b border-moss/45 font-semibold text-moss">
      {plural(rows.length, spec.noun)}
    </span>
  );
}

interface RowsProps {
  readonly spec: RowsField;
  readonly context: FieldContext;
}

/** A table of a step: its rows as numbers that are edited in place. */
export function RowsTable({ spec, context }: RowsProps) {
  return spec.noun === "hole" ? (
    <HolesTable spec={spec} context={context} />
  ) : (
    <PlainTable spec={spec} context={context} />
  );
}

/** A row like the last one, or like the column's defaults. */
function freshRow(spec: RowsField, last: RowEntry | undefined): Record<string, unknown> {
  return Object.fromEntries(
    spec.columns.map((c) => [
      c.key,
      last?.[c.key] ?? (c.kind === "quantity" && c.default === "" ? (c.optional ? "" : "0") : c.default),
    ]),
  );
}

function PlainTable({ spec, context }: RowsProps) {
  const { step } = context;
  const rows = rowsOf(step, spec.key);
  const insert = (place: number) => {
    const key = addRow(step, spec.key, freshRow(spec, rows[place - 1] ?? rows[0]), place);
    focusShown(`[data-step="${step.id}"] [data-row="${key}"] input`);
  };
  return (
    <div className="mt-2">
      <div className="flex items-baseline justify-between">
        <span className="text-[12px] font-semibold text-quiet">{spec.label}</span>
        <button
          type="button"
          data-add-row={spec.key}
          className="text-[12px] font-semibold text-moss hover:underline"
          onClick={() => insert(rows.length)}
        >
          + {spec.noun}
        </button>
      </div>
      <div className="scroll-quiet max-h-64 overflow-auto">
        <table className="w-full text-[12.5px]">
          <thead className="text-left text-[11.5px] text-quiet">
            <tr>
              <th className="w-5 font-medium" />
              {spec.columns.map((c) => (
                <th key={c.key} className="pr-2 font-medium">
                  {c.label.toLowerCase()}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={row.key} data-row={row.key} className="group/row border-t border-hairline/60">
                <td className="num text-[11px] text-quiet">{i + 1}</td>
                {spec.columns.map((c) => (
                  <td key={c.key} className="pr-2">
                    <Cell spec={spec} column={c} row={row} index={i} context={context} />
                  </td>
                ))}
                <td className="text-right whitespace-nowrap">
                  <button
                    type="button"
                    data-insert-row={i}
                    aria-label={`Insert a ${spec.noun} before ${spec.noun} ${i + 1}`}
                    title={`Insert a ${spec.noun} before this one`}
                    className="px-0.5 text-quiet hover:text-moss"
                    onClick={() => insert(i)}
                  >
                    +
                  </button>
                  <button
                    type="button"
                    aria-label={`Remove ${spec.noun} ${i + 1}`}
                    className="px-1 text-quiet hover:text-stop"
                    onClick={() => removeRow(step, spec.key, row.key)}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

interface CellProps extends RowsProps {
  readonly column: RowColumn;
  readonly row: RowEntry;
  readonly index: number;
}

/** Whether a cell says anything: an arc has no length of its own, and a straight leg's turn is its corner. */
const counts = (spec: RowsField, column: RowColumn, row: RowEntry): boolean =>
  spec.noun !== "leg" || column.key !== (row.form === "arc" ? "length" : "corner");

function Cell({ spec, column, row, index, context }: CellProps) {
  const { step, wrong, names } = context;
  if (!counts(spec, column, row)) return <span className="text-quiet">–</span>;
  if (column.kind === "choice")
    return (
      <ChoiceField
        spec={column}
        value={typeof row[column.key] === "string" ? (row[column.key] as string) : column.default}
        onChange={(value) => setRow(step, spec.key, row.key, column.key, value)}
      />
    );
  return (
    <QuantityField
      spec={{
        key: `${spec.noun}-${column.key}`,
        label: `${spec.noun[0].toUpperCase()}${spec.noun.slice(1)} ${index + 1} ${column.label === "X" || column.label === "Y" ? column.label : column.label.toLowerCase()}`,
        dimension: column.dimension,
        default: column.default,
      }}
      text={typedText(column, row)}
      fallback={column.optional ? "stock" : undefined}
      names={names}
      wrong={wrong.has(`${spec.key}.${row.key}.${column.key}`)}
      onChange={(text, mark) => setRow(step, spec.key, row.key, column.key, text, mark)}
    />
  );
}

/** Round holes of a step, each a line: size, then place. */
function HolesTable({ spec, context }: RowsProps) {
  const { step } = context;
  const holes = rowsOf(step, spec.key);
  const last = holes[holes.length - 1];
  const onFlange = step.kind === "flange";
  const column = (key: string) => spec.columns.find((c) => c.key === key)!;
  return (
    <div className="mt-2">
      <div className="flex items-baseline justify-between">
        <span className="text-[12px] font-semibold text-quiet">
          Round holes{holes.length > 0 ? ` ${holes.length}` : ""}
          {onFlange && holes.length > 0 && (
            <span className="font-normal">, up from the outer mould line</span>
          )}
        </span>
        <button
          type="button"
          className="text-[12px] font-semibold text-moss hover:underline"
          onClick={() => {
            const values = { x: "0", y: onFlange ? "12" : "0", d: String(last?.d ?? "6") };
            const key = addRow(step, spec.key, values);
            focusShown(`[data-step="${step.id}"] [data-hole="${key}"] input`);
          }}
        >
          + hole
        </button>
      </div>
      <ul className="scroll-quiet max-h-44 overflow-auto">
        {holes.map((hole, i) => (
          <li
            key={hole.key}
            className="flex items-baseline gap-1.5 border-t border-hairline/60 py-1"
            data-hole={hole.key}
          >
            <span>⌀</span>
            {["d", "x", "y"].map((axis) => (
              <span key={axis} className="contents">
                {axis === "x" && <span className="text-quiet">at</span>}
                <Cell spec={spec} column={column(axis)} row={hole} index={i} context={context} />
                {axis === "x" && ","}
              </span>
            ))}
            <button
              type="button"
              aria-label={`Remove hole ${i + 1}`}
              className="ml-auto px-1 text-quiet hover:text-stop"
              onClick={() => removeRow(step, spec.key, hole.key)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
