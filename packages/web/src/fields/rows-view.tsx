import {
  choicesOf,
  type FieldSpec,
  freshKey,
  freshValues,
  type NumberField,
  type RawValues,
  type RowsField,
  shownFields,
} from "@hillcrest/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useRef, useState } from "react";
import { inchRow } from "../state/inch-defaults.ts";
import { useUnits } from "../state/units.ts";
import { focusShown } from "../ui/focus.ts";
import type { FieldViewProps } from "./field-look.ts";
import { NestedField } from "./nested-field.tsx";

export type Row = RawValues;

/** A table as a field: how many rows it has in a sentence, else its rows. */
export function RowsView(props: FieldViewProps<RowsField>) {
  const rows = rowsIn(props.value);
  if (props.look === "sentence")
    return (
      <span data-field={props.field.key} className="border-b border-moss/45 font-semibold text-moss">
        {rows.length} {props.field.noun}
        {rows.length === 1 ? "" : "s"}
      </span>
    );
  return <RowsTable {...props} rows={rows} />;
}

const rowsIn = (value: unknown): readonly Row[] => (Array.isArray(value) ? value : []);

export interface RowsTableProps
  extends Pick<FieldViewProps<RowsField>, "field" | "onChange" | "names" | "step"> {
  readonly rows: readonly Row[];
  /** More columns, computed from a row. */
  readonly more?: readonly { readonly title: string; readonly cell: (row: Row) => ReactNode }[];
  readonly dim?: (row: Row) => boolean;
}

/** What all rows of a table share: how a row is called, put, added and taken away. `keep` has one rendered, wherever it stands. */
function useRows({ field, rows, onChange }: RowsTableProps, keep: (row: number) => void = () => {}) {
  const units = useUnits();
  return {
    keyOf: (row: Row, i: number): string => (field.keyless ? String(i + 1) : String(row.key)),
    put: (i: number, column: string, value: unknown, mark?: string) =>
      onChange(
        rows.map((r, k) => (k === i ? { ...r, [column]: value } : r)),
        mark && `${i}:${column}:${mark}`,
      ),
    insert: (at: number) => {
      const like = { ...(rows[at - 1] ?? rows[0]) };
      for (const column of field.anew ?? []) delete like[column];
      const key = field.keyless ? {} : { key: freshKey(rows as readonly { key: string }[]) };
      const fresh = inchRow(field.columns, freshValues(field.columns), units);
      onChange(rows.toSpliced(at, 0, { ...fresh, ...like, ...key }));
      keep(at);
      focusShown(`[data-rows="${field.key}"] [data-row="${key.key ?? at + 1}"] input`);
    },
    remove: (i: number) => onChange(rows.filter((_, k) => k !== i)),
  };
}

const capital = (text: string) => text[0].toUpperCase() + text.slice(1);

/** A column's name in the middle of a sentence: a letter stays a capital. */
const small = (label: string) => (label.length === 1 ? label : label[0].toLowerCase() + label.slice(1));

/** A cell says which row and which column it is, to those who do not see where it stands. */
function Cell({
  column,
  row,
  index,
  table,
  onChange,
}: {
  column: FieldSpec;
  row: Row;
  index: number;
  table: RowsTableProps;
  onChange: (value: unknown, mark?: string) => void;
}) {
  const { field, names, step } = table;
  return (
    <NestedField
      look={step && column.kind === "choice" ? "sentence" : "cell"}
      field={column}
      label={`${capital(field.noun)} ${index + 1} ${small(column.label)}`}
      place={`${field.noun}-${column.key}`}
      value={row[column.key]}
      names={names}
      fallback={step && column.optional ? (column.kind === "quantity" && column.empty) || "stock" : undefined}
      wrong={step?.wrong.has(`${field.key}.${row.key}.${column.key}`)}
      onChange={onChange}
    />
  );
}

/** Rows that are edited in place: a table, or a line each where the field says how a row is said. */
export function RowsTable(table: RowsTableProps) {
  const { field, rows, step } = table;
  const [kept, keep] = useState<number>();
  const { insert } = useRows(table, keep);
  const body = field.line ? <Lines {...table} kept={kept} onKeep={keep} /> : <Cells {...table} />;
  const add = rows.length < field.most && (
    <button
      type="button"
      data-add-row={field.key}
      className="shrink-0 text-[12px] font-semibold whitespace-nowrap text-moss hover:underline"
      onClick={() => insert(rows.length)}
    >
      + {field.noun}
    </button>
  );
  if (step)
    return (
      <div className="mt-2" data-rows={field.key}>
        <div className="flex items-baseline justify-between">
          <span className="text-[12px] font-semibold text-quiet">
            {field.label}
            {field.line && rows.length > 0 ? ` ${rows.length}` : ""}
            {field.empty && rows.length === 0 && <span className="font-normal">: {field.empty}</span>}
            {field.about && rows.length > 0 && <span className="font-normal">, {field.about}</span>}
          </span>
          {add}
        </div>
        {body}
      </div>
    );
  return (
    <div className="mt-1" data-rows={field.key}>
      {body}
      {add}
      {rows.length === 0 && <span className="ml-3 text-quiet">none yet</span>}
    </div>
  );
}

/** About so high is a line, px; one that is wrapped is higher, and is measured as it is rendered. */
const LINE_HEIGHT = 33;

interface LinesProps extends RowsTableProps {
  /** A row that is rendered although it may stand out of sight: it has the cursor, or is about to have it. */
  readonly kept: number | undefined;
  readonly onKeep: (row: number | undefined) => void;
}

/** Each row a line of words: size, then place. Of thousands those in sight are rendered, and the one with the cursor. */
function Lines({ kept, onKeep, ...table }: LinesProps) {
  const { field, rows } = table;
  const { keyOf, put, remove } = useRows(table);
  const frame = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => LINE_HEIGHT,
    initialRect: { width: 300, height: 176 },
    overscan: 6,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      if (kept === undefined || kept >= rows.length || seen.includes(kept)) return seen;
      return [...seen, kept].sort((p, q) => p - q);
    },
  });
  return (
    <div ref={frame} className="scroll-quiet max-h-44 overflow-auto">
      <ul className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index: i, start }) => {
          const row = rows[i];
          return (
            <li
              key={keyOf(row, i)}
              ref={virtual.measureElement}
              data-index={i}
              className="absolute inset-x-0 flex flex-wrap items-baseline gap-x-1.5 border-t border-hairline/60 py-1"
              style={{ top: start }}
              data-row={keyOf(row, i)}
              aria-setsize={rows.length}
              aria-posinset={i + 1}
              onFocus={() => onKeep(i)}
            >
              {field.line!.map((word, k) =>
                typeof word === "string" ? (
                  <span key={k} className="text-quiet">
                    {word}
                  </span>
                ) : (
                  <Cell
                    key={k}
                    column={field.columns.find((c) => c.key === word.column)!}
                    row={row}
                    index={i}
                    table={table}
                    onChange={(value, mark) => put(i, word.column, value, mark)}
                  />
                ),
              )}
              <Remove noun={field.noun} index={i} onClick={() => remove(i)} />
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function Cells(table: RowsTableProps) {
  const { field, rows, step, more = [] } = table;
  const { keyOf } = useRows(table);
  const unit = (c: FieldSpec) => c.kind === "number" && !step && <span className="num">{unitOf(c)}</span>;
  return (
    <div className={`scroll-quiet overflow-auto ${step ? "max-h-64" : "max-h-[300px]"}`}>
      <table className={`text-[12.5px] ${step ? "w-full" : ""}`}>
        <thead
          className={`sticky top-0 z-10 text-left text-quiet ${step ? "bg-amber-soft text-[11.5px]" : "bg-ground"}`}
        >
          <tr>
            <th className="w-5 pr-2 font-medium">{!step && "#"}</th>
            {field.columns.map((c) => (
              <th
                key={c.key}
                className={`pr-1.5 align-bottom leading-tight font-medium ${step ? "" : "max-w-[4.4rem]"}`}
              >
                {step ? c.label.toLowerCase() : c.label}
                {unit(c)}
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
            <TableRow key={keyOf(row, i)} table={table} row={row} index={i} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function TableRow({ table, row, index: i }: { table: RowsTableProps; row: Row; index: number }) {
  const { field, more = [], dim } = table;
  const { keyOf, put, insert, remove } = useRows(table);
  const shown = shownFields(field.columns, choicesOf(field.columns, row));
  return (
    <tr
      data-row={keyOf(row, i)}
      className={`h-7 border-t border-hairline/60 ${dim?.(row) ? "text-quiet [&_input]:line-through" : ""}`}
    >
      <td className="num py-0.5 pr-2 text-[11px] text-quiet">{i + 1}</td>
      {field.columns.map((c) => (
        <td key={c.key} className="py-0.5 pr-1.5">
          {shown.includes(c) ? (
            <Cell
              column={c}
              row={row}
              index={i}
              table={table}
              onChange={(value, mark) => put(i, c.key, value, mark)}
            />
          ) : (
            <span className="text-quiet">–</span>
          )}
        </td>
      ))}
      {more.map((m) => (
        <td key={m.title} className="num pr-2.5 text-right whitespace-nowrap">
          {m.cell(row)}
        </td>
      ))}
      <td className="text-right whitespace-nowrap">
        <button
          type="button"
          data-insert-row={i}
          aria-label={`Insert a ${field.noun} before ${field.noun} ${i + 1}`}
          title={`Insert a ${field.noun} before this one`}
          className="size-6 text-quiet hover:text-moss"
          onClick={() => insert(i)}
        >
          +
        </button>
        <Remove noun={field.noun} index={i} onClick={() => remove(i)} />
      </td>
    </tr>
  );
}

const Remove = ({ noun, index, onClick }: { noun: string; index: number; onClick: () => void }) => (
  <button
    type="button"
    aria-label={`Remove ${noun} ${index + 1}`}
    className="ml-auto size-6 text-quiet hover:text-stop"
    onClick={onClick}
  >
    ×
  </button>
);

const unitOf = (f: NumberField): string =>
  f.unit ? `, ${f.unit}` : { length: ", mm", angle: ", °", number: "" }[f.dimension];
