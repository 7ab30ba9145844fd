import {
  type BendChart,
  type CellProblem,
  type ChartRow,
  type ChartRule,
  checkChartRows,
  compareRows,
  formatShort,
  safeName,
  type TableRule,
  writeChartText,
} from "@hillcrest/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ClipboardPaste, Download } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { download } from "../../state/download.ts";
import { Button } from "../../ui/button.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { PasteRows } from "./paste-rows.tsx";

interface TableEditorProps {
  readonly rule: TableRule;
  readonly chart: BendChart;
  readonly onChange: (rule: ChartRule, mark?: string) => void;
}

const ROW_HEIGHT = 26;

/** A chart's table: every cell a field, pasted and imported as a whole, however long it is. */
export function TableEditor({ rule, chart, onChange }: TableEditorProps) {
  // What is being pasted, or nothing while the dialog is closed.
  const [pasting, setPasting] = useState<string>();
  const { rows } = rule;
  const columns = ["thickness", "radius", rule.angleIs, rule.gives];
  const problems = useMemo(() => {
    const found = checkChartRows(rows, { ...rule, reason: chart.reason }).problems;
    return new Map(found.map((p) => [p.row, p]));
  }, [rows, rule, chart.reason]);
  const sorted = useMemo(() => rows.every((r, i) => i === 0 || compareRows(rows[i - 1], r) <= 0), [rows]);
  const add = () => {
    const last: ChartRow = rows.at(-1) ?? [1.5, 1.5, 90, rule.gives === "K" ? 0.42 : 3];
    onChange({ ...rule, rows: [...rows, [last[0], last[1], last[2] + 15, last[3]]] });
  };
  return (
    <div
      onPaste={(e) => {
        const text = e.clipboardData.getData("text");
        // Several cells are meant for the table, not for the field that has the cursor.
        if (pasting !== undefined || !/[\t\n]/.test(text.trim())) return;
        e.preventDefault();
        setPasting(text);
      }}
    >
      <div className="mb-1 flex items-center gap-2">
        <span className="grow text-quiet">{rows.length === 1 ? "1 row" : `${rows.length} rows`}</span>
        {!sorted && (
          <Button kind="quiet" onClick={() => onChange({ ...rule, rows: [...rows].sort(compareRows) })}>
            Sort rows
          </Button>
        )}
        <Button data-paste onClick={() => setPasting("")}>
          <ClipboardPaste size={14} /> Paste or import
        </Button>
        <Button onClick={() => download(`${safeName(chart.name)}.csv`, writeChartText(rule), "text/csv")}>
          <Download size={14} /> CSV
        </Button>
      </div>
      <Rows rule={rule} columns={columns} problems={problems} onChange={onChange} />
      <div className="mt-1 flex items-baseline gap-4">
        <button type="button" className="font-semibold text-moss hover:underline" onClick={add}>
          + row
        </button>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-moss"
            checked={rule.acrossThickness}
            onChange={(e) => onChange({ ...rule, acrossThickness: e.currentTarget.checked })}
          />
          may interpolate between two thicknesses
        </label>
      </div>
      {pasting !== undefined && (
        <PasteRows
          pasted={pasting}
          rule={rule}
          reason={chart.reason}
          onClose={() => setPasting(undefined)}
          onTake={(next) => {
            onChange({ ...rule, rows: next });
            setPasting(undefined);
          }}
        />
      )}
    </div>
  );
}

interface RowsProps {
  readonly rule: TableRule;
  readonly columns: readonly string[];
  readonly problems: ReadonlyMap<number, CellProblem>;
  readonly onChange: (rule: ChartRule, mark?: string) => void;
}

function Rows({ rule, columns, problems, onChange }: RowsProps) {
  const { rows } = rule;
  const frame = useRef<HTMLDivElement>(null);
  const [params] = useSearchParams();
  const wanted = Number(params.get("row")) - 1;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  useEffect(() => {
    if (wanted >= 0) virtual.scrollToIndex(wanted, { align: "center" });
  }, [wanted, virtual]);
  const put = (i: number, at: number, value: number, mark: string) =>
    onChange(
      {
        ...rule,
        rows: rows.map((r, k) =>
          k === i ? (r.map((v, c) => (c === at ? value : v)) as unknown as ChartRow) : r,
        ),
      },
      `${i}:${at}:${mark}`,
    );
  return (
    <div className="rounded border border-hairline bg-panel">
      <div className={`${ROW_GRID} border-b border-hairline px-2 py-1 text-[12px] text-quiet`}>
        <span>row</span>
        {columns.map((c) => (
          <span key={c} className="pr-2 text-right">
            {c}
          </span>
        ))}
      </div>
      <div ref={frame} data-table className="scroll-quiet h-[360px] overflow-auto">
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: i, start }) => (
            <RowLine
              key={i}
              number={i + 1}
              start={start}
              row={rows[i]}
              columns={columns}
              wanted={i === wanted}
              problem={problems.get(i + 1)}
              onPut={(at, value, mark) => put(i, at, value, mark)}
              onRemove={() => onChange({ ...rule, rows: rows.filter((_, k) => k !== i) })}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

const ROW_GRID = "grid grid-cols-[3rem_repeat(4,1fr)_1.5rem] items-center";

interface RowLineProps {
  readonly number: number;
  /** How far down it stands, px. */
  readonly start: number;
  readonly row: ChartRow;
  readonly columns: readonly string[];
  readonly wanted: boolean;
  readonly problem: CellProblem | undefined;
  readonly onPut: (at: number, value: number, mark: string) => void;
  readonly onRemove: () => void;
}

function RowLine({ number, start, row, columns, wanted, problem, onPut, onRemove }: RowLineProps) {
  return (
    <div
      data-row={number}
      className={`${ROW_GRID} absolute inset-x-0 px-2 ${wanted ? "bg-amber-soft" : problem ? "bg-stop/10" : "hover:bg-moss-soft/50"}`}
      style={{ height: ROW_HEIGHT, transform: `translateY(${start}px)` }}
      title={problem ? `${problem.column}: ${problem.message}` : undefined}
    >
      <span className="num text-[12px] text-quiet">{number}</span>
      {row.map((v, at) => (
        <span key={columns[at]} className="px-1 text-right">
          <NumberBox
            bare
            label={`${columns[at]}, row ${number}`}
            value={v}
            dimension={at < 2 ? "length" : at === 2 ? "angle" : "number"}
            unit=""
            onChange={(value, mark) => onPut(at, value, mark)}
          />
        </span>
      ))}
      <button
        type="button"
        className="text-quiet hover:text-stop"
        aria-label={`Remove row ${number} (${formatShort(row[0])}, ${formatShort(row[1])})`}
        onClick={onRemove}
      >
        ×
      </button>
    </div>
  );
}
