import {
  DIMENSION_WORDS,
  type DrawnOutline,
  dimensionOf,
  formatShort,
  type KeptOutline,
  outlineRegions,
  readOutlinesText,
  type StockItem,
  safeName,
  solveOutline,
  toDegrees,
} from "@hillcrest/core";
import { useMemo, useState } from "react";
import { download } from "../../state/download.ts";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { OutlinePicture } from "../bench/drawer/outline-picture.tsx";

interface KeptDetailsProps {
  readonly kept: KeptOutline;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

/** A kept outline as it is solved by itself, with its numbers; taken out and put in as a file. */
export function KeptDetails({ kept, onChange }: KeptDetailsProps) {
  const { outline } = kept;
  const [told, setTold] = useState<readonly string[]>([]);
  const drawn = useMemo((): DrawnOutline => {
    const solved = solveOutline(outline);
    return { key: kept.id, outline, solved, areas: outlineRegions(outline, solved) };
  }, [kept.id, outline]);
  const { solved } = drawn;
  const readIn = async ([file]: readonly File[]) => {
    const read = readOutlinesText(await file.text());
    setTold(
      read.ok ? [] : read.error.map((p) => `${file.name}${p.path ? ` at ${p.path}` : ""}: ${p.message}`),
    );
    if (read.ok && read.value[0]) onChange({ ...kept, outline: read.value[0] });
  };
  return (
    <section aria-label="The outline" className="space-y-3" data-kept-outline>
      {outline.curves.length > 0 ? (
        <OutlinePicture drawn={drawn} />
      ) : (
        <p className="max-w-[30em] leading-snug text-quiet">
          Nothing is drawn in it yet. Draw an outline on the Bench and keep it from there, or read one in.
        </p>
      )}
      <p className="text-quiet">
        {solved.state === "conflict" ? (
          <>
            <FindingMark level="warn" /> By itself it does not go together:{" "}
            {solved.conflicts.join(", ") || solved.problems[0]?.message}
          </>
        ) : solved.free > 0 ? (
          `${solved.free} left free`
        ) : (
          "fixed"
        )}
      </p>
      <table>
        <tbody>
          {outline.dimensions.map((d) => (
            <tr key={d.id}>
              <td className="pr-4 font-semibold">{d.name ?? ""}</td>
              <td className="pr-4 text-quiet">{DIMENSION_WORDS[d.kind]}</td>
              <td className="num pr-4">{d.showing ? "shows" : String(d.value)}</td>
              <td className="num">{said(dimensionOf(d.kind) === "angle", solved.values[d.id])}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex items-center gap-4">
        <FileButton accept=".json,application/json" purpose="kept-outline" onFiles={readIn}>
          Read another in
        </FileButton>
        <Button
          kind="quiet"
          onClick={() =>
            download(`${safeName(kept.name)}.json`, JSON.stringify(outline, null, 2), "application/json")
          }
        >
          Save as JSON
        </Button>
      </div>
      {told.slice(0, 4).map((line) => (
        <p key={line} role="alert" className="leading-snug text-warn">
          {line}
        </p>
      ))}
    </section>
  );
}

const said = (angle: boolean, value: number | undefined): string =>
  value === undefined || !Number.isFinite(value)
    ? ""
    : angle
      ? `${formatShort(toDegrees(value), 3)}°`
      : `${formatShort(value, 3)} mm`;
