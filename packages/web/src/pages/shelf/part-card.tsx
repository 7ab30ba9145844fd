import { type FindingLevel, shortLength, unitName } from "@hillcrest/core";
import { ArchiveRestore, Copy, CopyPlus, type LucideIcon, Trash2 } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { type PartEntry, type PartPictures, partsApi } from "../../api/parts-api.ts";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { PartPicture } from "../../ui/part-picture.tsx";
import { QuantityBox } from "./choosing.tsx";

interface PartCardProps {
  readonly part: PartEntry;
  readonly bin: boolean;
  readonly onCopy: (follows: boolean) => void;
  readonly onBin: () => void;
  readonly onRestore: () => void;
  /** While parts are chosen: how many are wanted of this one. */
  readonly wanted?: {
    readonly quantity?: number;
    readonly onChange: (quantity: number | undefined) => void;
  };
}

/** A part on the Shelf: its pictures, its size and what is found of it, and what can be done with it. */
export function PartCard(props: PartCardProps) {
  const { part, bin, wanted } = props;
  return (
    <div
      data-part={part.name}
      className="group relative overflow-hidden rounded-lg border border-hairline bg-panel transition-shadow hover:shadow-card"
    >
      {bin || wanted ? (
        <CardBody part={part} />
      ) : (
        <Link to={`/parts/${part.id}`}>
          <CardBody part={part} />
        </Link>
      )}
      {wanted ? (
        <QuantityBox name={part.name} {...wanted} />
      ) : (
        <div className="absolute top-2 right-2 flex gap-1 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
          <CardActions {...props} />
        </div>
      )}
    </div>
  );
}

function CardBody({ part }: { part: PartEntry }) {
  const { summary } = part;
  const pictures = usePictures(part);
  const units = summary?.units ?? "mm";
  const size = summary?.size?.map((v) => shortLength(v, units, units === "mm" ? 1 : 2)).join(" × ");
  const findings = summary?.findings ?? { stop: 0, warn: 0, note: 0 };
  const made = summary === null || summary.size !== null;
  return (
    <>
      <div className="grid h-[168px] grid-cols-[1.25fr_1fr] border-b border-hairline bg-ground">
        <PartPicture svg={pictures?.folded} label="Folded" made={made} />
        <PartPicture svg={pictures?.blank} label="Blank" made={made} />
      </div>
      <div className="px-4 py-3">
        <h2 className="truncate text-[15px] font-bold" title={part.name}>
          {part.name}
        </h2>
        <p className="num truncate text-quiet" title={summary?.problem}>
          {summary?.problem ??
            (size ? `${size} ${unitName(units)}` : summary ? "nothing made yet" : "being drawn…")}
        </p>
        <p className="mt-1 flex items-center gap-2 text-quiet">
          <span className="truncate">{summary?.stock ?? ""}</span>
          <span>·</span>
          <span className="whitespace-nowrap">
            {summary?.bends === 1 ? "1 bend" : `${summary?.bends ?? "?"} bends`}
          </span>
          <FindingCounts counts={findings} />
        </p>
      </div>
    </>
  );
}

/** How many findings of each level a part has; nothing of those of which it has none. */
function FindingCounts({ counts }: { counts: Readonly<Record<FindingLevel, number>> }) {
  const levels = (["stop", "warn", "note"] as const).filter((l) => counts[l] > 0);
  if (levels.length === 0) return null;
  const said = levels.map((l) => `${counts[l]} ${l === "warn" ? "warning" : l}${counts[l] === 1 ? "" : "s"}`);
  return (
    <span className="num ml-auto flex gap-2 whitespace-nowrap" data-counts title={said.join(", ")}>
      {levels.map((l) => (
        <span key={l}>
          <FindingMark level={l} /> {counts[l]}
        </span>
      ))}
    </span>
  );
}

function CardActions({ part, bin, onCopy, onBin, onRestore }: PartCardProps) {
  const action = (title: string, name: string, Icon: LucideIcon, onClick: () => void) => (
    <button
      type="button"
      className="grid size-7 place-items-center rounded bg-panel/90 text-quiet hover:text-ink"
      title={title}
      aria-label={name}
      onClick={onClick}
    >
      <Icon size={15} />
    </button>
  );
  if (bin) return action("Put back on the Shelf", `Put ${part.name} back`, ArchiveRestore, onRestore);
  return (
    <>
      {action("Copy", `Copy ${part.name}`, Copy, () => onCopy(false))}
      {action("Copy that follows this part", `Copy that follows ${part.name}`, CopyPlus, () => onCopy(true))}
      {action("Put into the bin", `Put ${part.name} into the bin`, Trash2, onBin)}
    </>
  );
}

/** The pictures of a part as of its last one made, asked for when its card comes into sight and kept by the browser. */
function usePictures({ id, pictured }: PartEntry): PartPictures | undefined {
  const [pictures, setPictures] = useState<PartPictures>();
  useEffect(() => {
    if (pictured === 0) return;
    let left = false;
    partsApi
      .pictures(id, pictured)
      .then((found) => left || setPictures(found))
      // A card without its picture still says everything else.
      .catch(() => undefined);
    return () => {
      left = true;
    };
  }, [id, pictured]);
  return pictures;
}
