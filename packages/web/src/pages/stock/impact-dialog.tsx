import { formatFixed, formatShort } from "@hillcrest/core";
import { type Dispatch, memo, type SetStateAction, useState } from "react";
import type { PartBehind, PartChange } from "../../api/stock-api.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { ProgressBar } from "../../ui/progress-bar.tsx";
import { NumberHeads } from "./number-heads.tsx";
import type { Impact } from "./use-impact.ts";

interface ImpactDialogProps {
  readonly what: string;
  readonly impact: Impact;
  readonly onClose: () => void;
  readonly onSave: (chosen: readonly string[]) => void;
}

/** Before a change is saved: which parts it would alter and by how much, and which of them take it over. */
export function ImpactDialog({ what, impact, onClose, onSave }: ImpactDialogProps) {
  const [chosen, setChosen] = useState(NONE);
  const count = counted(impact.parts.length);
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
            disabled={chosen.size === 0}
            data-save-parts
            onClick={() => onSave([...chosen])}
          >
            Save and change {chosen.size === 0 ? "the marked parts" : counted(chosen.size)}
          </Button>
        </>
      }
    >
      <p className="mb-2">
        A part keeps the revision of its card that it was made with until it takes the new one over. Mark
        those that shall do so now; the others can do it later, on their Bench.
      </p>
      <ImpactTable impact={impact} chosen={chosen} onChosen={setChosen} />
    </Dialog>
  );
}

const NONE: ReadonlySet<string> = new Set();

export const counted = (parts: number): string => (parts === 1 ? "1 part" : `${parts} parts`);

interface ImpactTableProps {
  readonly impact: Impact;
  /** The parts that are marked, by their ids. */
  readonly chosen: ReadonlySet<string>;
  readonly onChosen: Dispatch<SetStateAction<ReadonlySet<string>>>;
}

/** A difference with its sign. */
const by = (from: number | undefined, to: number | undefined) => {
  if (from === undefined || to === undefined) return "";
  const d = to - from;
  return Math.abs(d) < 5e-4 ? "±0" : `${d > 0 ? "+" : "−"}${formatShort(Math.abs(d), 3)}`;
};

export function ImpactTable({ impact: { parts, changes, failed }, chosen, onChosen }: ImpactTableProps) {
  const all = chosen.size === parts.length;
  return (
    <>
      <Progress done={changes.size} of={parts.length} failed={failed} />
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
                  onChange={() => onChosen(all ? NONE : new Set(parts.map((p) => p.id)))}
                />
                part
              </label>
            </th>
            <NumberHeads heads={["blank now", "would be", "by", "BA at most", "mass", "findings"]} />
          </tr>
        </thead>
        <tbody className="num">
          {parts.map((p) => (
            <ImpactRow
              key={p.id}
              part={p}
              change={changes.get(p.id)}
              unknown={failed !== undefined}
              chosen={chosen.has(p.id)}
              onChosen={onChosen}
            />
          ))}
        </tbody>
      </table>
    </>
  );
}

/** How many parts have been reckoned already; nothing once all are. Nobody has to wait for it. */
function Progress({ done, of, failed }: { done: number; of: number; failed?: string }) {
  if (failed !== undefined)
    return (
      <p role="alert" className="mb-1">
        <FindingMark level="warn" /> The numbers of {counted(of - done)} could not be had: {failed}
      </p>
    );
  if (done === of) return null;
  return (
    <div role="status" data-reckoned={done} className="mb-1 flex items-center gap-2 text-quiet">
      <ProgressBar label="Parts reckoned" done={done} of={of} className="h-1 w-40" />
      {done} of {of} reckoned; you need not wait for the others.
    </div>
  );
}

const RIGHT = "py-1 pl-4 text-right whitespace-nowrap";

interface ImpactRowProps extends Pick<ImpactTableProps, "onChosen"> {
  readonly part: PartBehind;
  readonly change?: PartChange;
  /** Its numbers will not come. */
  readonly unknown: boolean;
  readonly chosen: boolean;
}

// Of a thousand parts one row changes at a time.
const ImpactRow = memo(function ImpactRow({ part: p, change, unknown, chosen, onChosen }: ImpactRowProps) {
  const toggle = () =>
    onChosen((before) => {
      const next = new Set(before);
      if (!next.delete(p.id)) next.add(p.id);
      return next;
    });
  return (
    <tr className="border-b border-hairline/60">
      <td className="max-w-52 truncate py-1 font-sans">
        <label className="flex items-center gap-2">
          <input type="checkbox" className="accent-moss" checked={chosen} onChange={toggle} />
          <span className="truncate" title={`${p.name}: revision ${p.from} to ${p.to} of ${p.cardName}`}>
            {p.name}
          </span>
        </label>
      </td>
      <ChangeCells change={change} unknown={unknown} />
    </tr>
  );
});

function ChangeCells({ change: c, unknown }: Pick<ImpactRowProps, "change" | "unknown">) {
  if (!c)
    return (
      <td colSpan={6} className="pl-4 text-quiet">
        {unknown ? "not known" : "…"}
      </td>
    );
  if ("problem" in c)
    return (
      <td colSpan={6} className="pl-4">
        <FindingMark level="warn" /> Not known: {c.problem}
      </td>
    );
  const { before, after, allowance } = c;
  return (
    <>
      <td className={RIGHT}>{before.blank?.map((v) => formatFixed(v)).join(" × ") ?? "none"}</td>
      <td className={RIGHT}>{after.blank?.map((v) => formatFixed(v)).join(" × ") ?? "none"}</td>
      <td className={`${RIGHT} font-semibold`}>
        {[0, 1].map((i) => by(before.blank?.[i], after.blank?.[i])).join(" × ")}
      </td>
      <td className={RIGHT}>{by(0, allowance)}</td>
      <td className={RIGHT}>{by(before.mass ?? undefined, after.mass ?? undefined)} kg</td>
      <td className={RIGHT}>
        {after.stops > before.stops && <FindingMark level="stop" />}
        {before.stops + before.warnings} → {after.stops + after.warnings}
      </td>
    </>
  );
}
