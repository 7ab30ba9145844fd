import {
  DIMENSION_WORDS,
  type DrawnOutline,
  dimensionOf,
  formatShort,
  type KeptOutline,
  outlineRegions,
  readOutlinesText,
  type StockItem,
  solveOutline,
  toDegrees,
} from "@hillcrest/core";
import { useMemo } from "react";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { OutlinePicture } from "../bench/drawer/outline-picture.tsx";
import { ItemFile } from "./item-file.tsx";

interface KeptDetailsProps {
  readonly kept: KeptOutline;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

/** A kept outline as it is solved by itself, with its numbers; taken out and put in as a file. */
export function KeptDetails({ kept, onChange }: KeptDetailsProps) {
  const { outline } = kept;
  const drawn = useMemo((): DrawnOutline => {
    const solved = solveOutline(outline);
    return { key: kept.id, outline, solved, areas: outlineRegions(outline, solved) };
  }, [kept.id, outline]);
  const { solved } = drawn;
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
      <ItemFile
        name={kept.name}
        purpose="kept-outline"
        document={() => outline}
        read={readOutlinesText}
        onRead={([first]) => first && onChange({ ...kept, outline: first })}
      />
    </section>
  );
}

const said = (angle: boolean, value: number | undefined): string =>
  value === undefined || !Number.isFinite(value)
    ? ""
    : angle
      ? `${formatShort(toDegrees(value), 3)}°`
      : `${formatShort(value, 3)} mm`;
