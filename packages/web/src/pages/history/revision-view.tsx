import { formatFixed, lengthText, unitName } from "@hillcrest/core";
import { useEffect, useState } from "react";
import { type PartPreview, partsApi, type RevisionEntry, type StoredPart } from "../../api/parts-api.ts";
import { Button } from "../../ui/button.tsx";
import { PartPicture } from "../../ui/part-picture.tsx";
import { dayOf, timeOf } from "./moments.ts";

interface RevisionViewProps {
  readonly part: StoredPart;
  readonly entry: RevisionEntry;
  readonly onTakeBack: () => Promise<void>;
  readonly onCall: (name: string | null) => Promise<void>;
}

/** One revision: how the part was, folded and flat, what changed with it, and what can be done. */
export function RevisionView({ part, entry, onTakeBack, onCall }: RevisionViewProps) {
  const { preview, failed } = usePreview(part.id, entry.number);
  const made = preview?.summary.size !== null;
  const newest = entry.number === part.revision;
  const [busy, setBusy] = useState(false);
  return (
    <section data-looked={entry.number} className="scroll-quiet min-w-0 grow overflow-auto p-5">
      <header className="mb-3 flex items-start gap-3">
        <div className="min-w-0 grow">
          <h2 className="text-[17px] font-bold">
            {dayOf(entry.madeAt)}, {timeOf(entry.madeAt)}
          </h2>
          <p className="text-quiet">
            Revision {entry.number}
            {newest ? ", as the part is now" : ""}
          </p>
        </div>
        <RevisionName name={entry.name} onCall={onCall} />
        <Button
          kind="primary"
          data-take-back
          disabled={newest || busy}
          title={
            newest
              ? "The part is like this now"
              : "Makes the part as it was then. What it is now stays in the history."
          }
          onClick={() => {
            setBusy(true);
            void onTakeBack().finally(() => setBusy(false));
          }}
        >
          Go back to this
        </Button>
      </header>
      <div className="mb-4 grid h-[min(56vh,620px)] grid-cols-2 overflow-hidden rounded-lg border border-hairline bg-ground">
        <PartPicture large svg={preview?.pictures.folded} label="Folded" made={made} />
        <PartPicture large svg={preview?.pictures.blank} label="Blank" made={made} />
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_310px] gap-8">
        <div>
          <h3 className="mb-1 font-bold text-quiet">What changed</h3>
          <ul className="leading-relaxed">
            {entry.said.map((words, i) => (
              <li key={i} className="break-words">
                {words}
              </li>
            ))}
          </ul>
        </div>
        <Numbers part={part} preview={preview} failed={failed} />
      </div>
    </section>
  );
}

/** The sizes of a revision, in the units of the part. */
function Numbers({ part, preview, failed }: { part: StoredPart; preview?: PartPreview; failed?: string }) {
  if (failed) return <p role="alert">It cannot be shown just now: {failed}</p>;
  if (!preview) return <p className="text-quiet">Building…</p>;
  const { size, blankSize, mass, bends, findings, stock, problem } = preview.summary;
  const units = part.document.units ?? "mm";
  const sizes = (list: readonly number[]) =>
    `${list.map((v) => lengthText(v, units, 2)).join(" × ")} ${unitName(units)}`;
  const rows: readonly (readonly [string, string])[] = [
    ["Folded", size ? sizes(size) : "nothing yet"],
    ["Blank", blankSize ? sizes(blankSize) : "nothing yet"],
    ["Stock", stock],
    ["Bends", String(bends)],
    ["Mass", mass === null ? "" : `${formatFixed(mass, 3)} kg`],
    ["Findings", String(findings.stop + findings.warn + findings.note)],
  ];
  return (
    <div>
      <h3 className="mb-1 font-bold text-quiet">As it was</h3>
      {problem && <p className="text-stop">{problem}</p>}
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 leading-relaxed">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-quiet">{name}</dt>
            <dd className="num text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

/** A name keeps a revision for ever; an empty one lets it go again. */
function RevisionName({
  name,
  onCall,
}: {
  name: string | null;
  onCall: (name: string | null) => Promise<void>;
}) {
  const [draft, setDraft] = useState<string>();
  const keep = () => {
    if (draft !== undefined && draft.trim() !== (name ?? "")) void onCall(draft.trim() || null);
    setDraft(undefined);
  };
  return (
    <input
      aria-label="Name of this revision"
      data-revision-name
      title="A revision with a name is never thinned out"
      placeholder="name it, to keep it for ever"
      maxLength={80}
      value={draft ?? name ?? ""}
      className="w-56 rounded border border-hairline bg-raised px-2 py-1 placeholder:text-quiet"
      onChange={(e) => setDraft(e.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") setDraft(undefined);
      }}
    />
  );
}

/** What the server makes of a revision; it is asked when the revision is looked at for a moment. */
function usePreview(part: string, number: number): { preview?: PartPreview; failed?: string } {
  const [found, setFound] = useState<{ preview?: PartPreview; failed?: string }>({});
  useEffect(() => {
    let left = false;
    const soon = setTimeout(() => {
      partsApi
        .preview(part, number)
        .then((preview) => !left && setFound({ preview }))
        .catch((error: unknown) => !left && setFound({ failed: (error as Error).message }));
    }, 120);
    return () => {
      left = true;
      clearTimeout(soon);
    };
  }, [part, number]);
  return found;
}
