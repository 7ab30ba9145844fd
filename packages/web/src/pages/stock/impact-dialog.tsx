import { formatFixed, formatShort } from "@hillcrest/core";
import { useState } from "react";
import type { StockImpact } from "../../api/stock-api.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";

interface ImpactDialogProps {
  readonly what: string;
  readonly parts: readonly StockImpact[];
  readonly onClose: () => void;
  readonly onSave: (chosen: readonly string[]) => void;
}

/** Before a change is saved: which parts it would alter and by how much, and which of them take it over. */
export function ImpactDialog({ what, parts, onClose, onSave }: ImpactDialogProps) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const count = parts.length === 1 ? "1 part" : `${parts.length} parts`;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`“${what}” stands behind ${count}`}
      actions={
        <>
          <Button onClick={onClose}>Go on changing</Button>
          <Button data-save-only onClick={() => onSave([])}>
            Save, leave the parts as they are
          </Button>
          <Button
            kind="primary"
            disabled={chosen.length === 0}
            data-save-parts
            onClick={() => onSave(chosen)}
          >
            {chosen.length === 0
              ? "Save and change the marked parts"
              : `Save and change ${chosen.length === 1 ? "1 part" : `${chosen.length} parts`}`}
          </Button>
        </>
      }
    >
      <p className="mb-2">
        A part keeps the revision of its card that it was made with until it takes the new one over. Mark
        those that shall do so now; the others can do it later, on their Bench.
      </p>
      <ImpactTable parts={parts} chosen={chosen} onChosen={setChosen} />
    </Dialog>
  );
}

interface ImpactTableProps {
  readonly parts: readonly StockImpact[];
  readonly chosen: readonly string[];
  readonly onChosen: (chosen: readonly string[]) => void;
}

const change = (from: number | undefined, to: number | undefined) => {
  if (from === undefined || to === undefined) return "";
  const d = to - from;
  return Math.abs(d) < 5e-4 ? "±0" : `${d > 0 ? "+" : "−"}${formatShort(Math.abs(d), 3)}`;
};

export function ImpactTable({ parts, chosen, onChosen }: ImpactTableProps) {
  const all = chosen.length === parts.length;
  return (
    <table className="w-full text-[12.5px]" data-impact>
      <thead className="text-quiet">
        <tr className="border-b border-hairline">
          <th className="py-1 pr-2 text-left font-medium">
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-moss"
                aria-label="All parts"
                checked={all}
                onChange={() => onChosen(all ? [] : parts.map((p) => p.id))}
              />
              part
            </label>
          </th>
          {["blank now", "would be", "by", "BA at most", "mass", "findings"].map((h) => (
            <th key={h} className={`${RIGHT} font-medium`}>
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="num">
        {parts.map((p) => (
          <ImpactRow
            key={p.id}
            part={p}
            chosen={chosen.includes(p.id)}
            onToggle={() =>
              onChosen(chosen.includes(p.id) ? chosen.filter((c) => c !== p.id) : [...chosen, p.id])
            }
          />
        ))}
      </tbody>
    </table>
  );
}

const RIGHT = "py-1 pl-4 text-right whitespace-nowrap";

interface ImpactRowProps {
  readonly part: StockImpact;
  readonly chosen: boolean;
  readonly onToggle: () => void;
}

function ImpactRow({ part: p, chosen, onToggle }: ImpactRowProps) {
  return (
    <tr className="border-b border-hairline/60">
      <td className="max-w-52 truncate py-1 font-sans">
        <label className="flex items-center gap-2">
          <input type="checkbox" className="accent-moss" checked={chosen} onChange={onToggle} />
          <span className="truncate" title={`${p.name}: revision ${p.from} to ${p.to} of ${p.cardName}`}>
            {p.name}
          </span>
        </label>
      </td>
      {p.problem ? (
        <td colSpan={6} className="pl-4">
          <FindingMark level="warn" /> Not known: {p.problem}
        </td>
      ) : (
        <>
          <td className={RIGHT}>{p.before.blank?.map((v) => formatFixed(v)).join(" × ") ?? "none"}</td>
          <td className={RIGHT}>{p.after.blank?.map((v) => formatFixed(v)).join(" × ") ?? "none"}</td>
          <td className={`${RIGHT} font-semibold`}>
            {[0, 1].map((i) => change(p.before.blank?.[i], p.after.blank?.[i])).join(" × ")}
          </td>
          <td className={RIGHT}>{change(0, p.allowance)}</td>
          <td className={RIGHT}>{change(p.before.mass ?? undefined, p.after.mass ?? undefined)} kg</td>
          <td className={RIGHT}>
            {p.after.stops > p.before.stops && <FindingMark level="stop" />}
            {p.before.stops + p.before.warnings} → {p.after.stops + p.after.warnings}
          </td>
        </>
      )}
    </tr>
  );
}
