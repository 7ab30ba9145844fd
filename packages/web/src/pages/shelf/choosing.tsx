import { lazy, Suspense, useState } from "react";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { ErrorBoundary } from "../../ui/error-boundary.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { wholeValue } from "../../ui/whole-value.ts";
import type { Chosen } from "./chosen.ts";

// The question brings every kind of file along, which the Shelf need not wait for.
const ExportDialog = lazy(() => import("./export-dialog.tsx").then((m) => ({ default: m.ExportDialog })));

/** The bar at the foot while parts are chosen, and the question how they leave. */
export function Choosing({ chosen, shown, onChange }: ChoosingProps) {
  const [exporting, setExporting] = useState(false);
  return (
    <>
      <ChosenBar
        chosen={chosen}
        shown={shown.map((p) => p.id)}
        onChange={onChange}
        onDone={() => onChange(undefined)}
        onExport={() => setExporting(true)}
      />
      {exporting && (
        <ErrorBoundary fallback={<NotHere onClose={() => setExporting(false)} />}>
          <Suspense fallback={<NotHere onClose={() => setExporting(false)} coming />}>
            <ExportDialog chosen={chosen} onClose={() => setExporting(false)} />
          </Suspense>
        </ErrorBoundary>
      )}
    </>
  );
}

/** Stands where the question will, while what it needs is on its way, or says that it cannot be had. */
const NotHere = ({ onClose, coming }: { onClose: () => void; coming?: boolean }) => (
  <Dialog open wide onClose={onClose} title="Export" actions={<Button onClick={onClose}>Not now</Button>}>
    {coming ? (
      <p className="text-quiet">Opening…</p>
    ) : (
      <p role="alert">
        <FindingMark level="stop" /> What exports cannot be had from the server just now. Load this page again
        when it is there.
      </p>
    )}
  </Dialog>
);

interface ChoosingProps {
  readonly chosen: Chosen;
  readonly shown: readonly { readonly id: string }[];
  /** Other parts are chosen; none any more when choosing ends. */
  readonly onChange: (chosen: Chosen | undefined) => void;
}

interface ChosenBarProps {
  readonly chosen: Chosen;
  readonly shown: readonly string[];
  readonly onChange: (chosen: Chosen) => void;
  readonly onExport: () => void;
  readonly onDone: () => void;
}

/** What is chosen, and what can be done with it; it stands at the foot while parts are chosen. */
function ChosenBar({ chosen, shown, onChange, onExport, onDone }: ChosenBarProps) {
  const pieces = [...chosen.values()].reduce((s, n) => s + n, 0);
  return (
    <div
      role="toolbar"
      aria-label="Chosen parts"
      className="fixed inset-x-0 bottom-0 z-20 flex h-14 items-center gap-4 border-t border-hairline bg-panel px-6"
    >
      <span className="font-semibold" data-chosen>
        {chosen.size} {chosen.size === 1 ? "part" : "parts"}, {pieces} {pieces === 1 ? "piece" : "pieces"}
      </span>
      <Button
        kind="quiet"
        onClick={() =>
          onChange(new Map([...chosen, ...shown.map((id) => [id, chosen.get(id) ?? 1] as const)]))
        }
      >
        All {shown.length} shown
      </Button>
      <Button kind="quiet" disabled={chosen.size === 0} onClick={() => onChange(new Map())}>
        None
      </Button>
      <span className="grow" />
      <Button onClick={onDone}>Done</Button>
      <Button kind="primary" disabled={chosen.size === 0} onClick={onExport}>
        Export…
      </Button>
    </div>
  );
}

/** How many are wanted of a part, on its card. */
export function QuantityBox({
  name,
  quantity,
  onChange,
}: {
  name: string;
  quantity?: number;
  onChange: (quantity: number | undefined) => void;
}) {
  const [draft, setDraft] = useState<string>();
  const wrong = draft !== undefined && !/^\s*[1-9]\d{0,3}\s*$/.test(draft);
  return (
    <span
      className={`absolute top-2 left-2 flex h-9 items-center gap-3 rounded-md border bg-panel px-2.5 ${quantity === undefined ? "border-hairline" : "border-moss"}`}
    >
      <label className="flex items-center">
        <input
          type="checkbox"
          aria-label={`Choose ${name}`}
          className="size-5 accent-moss"
          checked={quantity !== undefined}
          onChange={(e) => onChange(e.currentTarget.checked ? 1 : undefined)}
        />
      </label>
      {quantity !== undefined && (
        <label className="flex items-center gap-1.5 text-quiet">
          ×
          <input
            aria-label={`How many of ${name}`}
            aria-invalid={wrong || undefined}
            title={wrong ? "A whole number from 1 to 9999" : undefined}
            className={`num w-14 rounded border bg-raised px-1.5 py-0.5 text-right text-ink ${wrong ? "border-stop text-stop" : "border-hairline"}`}
            value={draft ?? String(quantity)}
            {...wholeValue}
            onChange={(e) => {
              const text = e.currentTarget.value;
              setDraft(text);
              if (/^\s*[1-9]\d{0,3}\s*$/.test(text)) onChange(Number(text));
            }}
            onBlur={() => setDraft(undefined)}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          />
        </label>
      )}
    </span>
  );
}
