import { freshItem, type ItemField, type NumberItemField } from "@hillcrest/core";
import type { ReactNode } from "react";
import { FieldInput } from "./item-form.tsx";

type Row = Readonly<Record<string, unknown>>;

interface RowsEditorProps {
  readonly field: Extract<ItemField, { kind: "rows" }>;
  readonly rows: readonly Row[];
  readonly onChange: (rows: readonly Row[], mark?: string) => void;
  /** More columns, computed from a row. */
  readonly more?: readonly { readonly title: string; readonly cell: (row: Row) => ReactNode }[];
  readonly dim?: (row: Row) => boolean;
}

let fresh = 0;

/** A table of rows that are edited in place. */
export function RowsEditor({ field, rows, onChange, more = [], dim }: RowsEditorProps) {
  const put = (i: number, key: string, value: unknown, mark?: string) =>
    onChange(
      rows.map((r, k) => (k === i ? { ...r, [key]: value } : r)),
      mark && `${i}:${key}:${mark}`,
    );
  const add = () => {
    const last = rows.at(-1);
    const key = field.keyed ? { key: `n${Date.now().toString(36)}${(fresh++).toString(36)}` } : {};
    onChange([
      ...rows,
      { ...freshItem(field.fields), ...last, ...key, ...(field.keyed ? { leftOut: false } : {}) },
    ]);
  };
  return (
    <div className="mt-1">
      <div className="scroll-quiet max-h-[300px] overflow-auto">
        <table className="text-[12.5px]" data-rows={field.key}>
          <thead className="sticky top-0 z-10 bg-ground text-left text-quiet">
            <tr>
              <th className="pr-2 font-medium">#</th>
              {field.fields.map((f) => (
                <th key={f.key} className="max-w-[4.4rem] pr-1.5 align-bottom leading-tight font-medium">
                  {f.label}
                  {f.kind === "number" && <span className="num">{unitOf(f)}</span>}
                </th>
              ))}
              {more.map((m) => (
                <th key={m.title} className="pr-2.5 text-right align-bottom font-medium">
                  {m.title}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr
                key={typeof row.key === "string" ? row.key : i}
                data-row={i + 1}
                className={`h-7 border-t border-hairline/60 ${dim?.(row) ? "text-quiet [&_input]:line-through" : ""}`}
              >
                <td className="num py-0.5 pr-2 text-quiet">{i + 1}</td>
                {field.fields.map((f) => (
                  <td key={f.key} className="py-0.5 pr-1.5">
                    <FieldInput
                      compact
                      field={f}
                      value={row[f.key]}
                      onChange={(v, mark) => put(i, f.key, v, mark)}
                    />
                  </td>
                ))}
                {more.map((m) => (
                  <td key={m.title} className="num pr-2.5 text-right whitespace-nowrap">
                    {m.cell(row)}
                  </td>
                ))}
                <td>
                  <button
                    type="button"
                    className="px-1 text-quiet hover:text-stop"
                    aria-label={`Remove ${field.noun} ${i + 1}`}
                    onClick={() => onChange(rows.filter((_, k) => k !== i))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length < field.most && (
        <button
          type="button"
          data-add-row={field.key}
          className="mt-1 font-semibold text-moss hover:underline"
          onClick={add}
        >
          + {field.noun}
        </button>
      )}
      {rows.length === 0 && <span className="ml-3 text-quiet">none yet</span>}
    </div>
  );
}

const unitOf = (f: NumberItemField): string =>
  f.unit ? `, ${f.unit}` : { length: ", mm", angle: ", °", number: "" }[f.dimension];
