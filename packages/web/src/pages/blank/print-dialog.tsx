import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { PAPERS, type Paper, type PrintPlan, type PrintWish, printPlan, sayScale } from "./print-pages.ts";

interface PrintDialogProps {
  readonly blank: { readonly width: number; readonly height: number };
  readonly bends: number;
  readonly onClose: () => void;
  readonly onPrint: (plan: PrintPlan, bends: boolean) => void;
}

const KEPT = "hillcrest:print";
const FIRST: PrintWish = { paper: "A4", lies: "auto", size: "fit", bends: true };

function lastWish(): PrintWish {
  try {
    return { ...FIRST, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return FIRST;
  }
}

/** On which paper and how large the blank is printed. */
export function PrintDialog({ blank, bends, onClose, onPrint }: PrintDialogProps) {
  const [wish, setWish] = useState(lastWish);
  const plan = printPlan(blank, wish);
  const put = (change: Partial<PrintWish>) => {
    const next = { ...wish, ...change };
    setWish(next);
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // The next visit starts with A4 again.
    }
  };
  const choose = <K extends "paper" | "lies" | "size">(
    key: K,
    label: string,
    options: readonly (readonly [PrintWish[K], string])[],
  ) => (
    <label className="grid grid-cols-[9rem_1fr] items-center gap-3 py-1">
      {label}
      <select
        aria-label={label}
        className="h-8 rounded border border-hairline bg-raised px-2"
        value={wish[key]}
        onChange={(e) => put({ [key]: e.currentTarget.value as PrintWish[K] })}
      >
        {options.map(([value, said]) => (
          <option key={value} value={value}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
  const pages = plan.pages.length;
  return (
    <Dialog
      open
      onClose={onClose}
      title="Print the blank"
      actions={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button kind="primary" data-print disabled={pages > 60} onClick={() => onPrint(plan, wish.bends)}>
            Print
          </Button>
        </>
      }
    >
      {choose(
        "paper",
        "Paper",
        (Object.keys(PAPERS) as Paper[]).map((p) => [p, p]),
      )}
      {choose("lies", "Paper lies", [
        ["auto", "as fits best"],
        ["upright", "upright"],
        ["across", "across"],
      ])}
      {choose("size", "Size", [
        ["fit", "reduced to one page"],
        ["true", "true size"],
      ])}
      {bends > 0 && (
        <label className="flex items-center gap-2 py-1">
          <input
            type="checkbox"
            className="accent-moss"
            checked={wish.bends}
            onChange={(e) => put({ bends: e.currentTarget.checked })}
          />
          with the bend list
        </label>
      )}
      <p data-print-plan className="mt-2 text-quiet">
        {sayScale(plan.scale)} on {pages === 1 ? "1 page" : `${pages} pages that overlap by 10 mm`},{" "}
        {plan.paper} {plan.across ? "across" : "upright"}.{" "}
        {pages > 60
          ? "That is too many: take a larger paper, or reduce it."
          : "In the browser's own dialog leave the scale at 100 %; a ruler on each page shows whether it was."}
      </p>
    </Dialog>
  );
}
