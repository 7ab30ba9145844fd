import type { FindingLevel } from "@hillcrest/core";
import { newPart } from "@hillcrest/core";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { type PartEntry, partsApi } from "../../api/parts-api.ts";
import { isDrawing } from "../../drawing-files/is-drawing.ts";
import type { ReadDrawing } from "../../drawing-files/read-drawing.ts";
import { once } from "../../state/once.ts";
import { lastSaves } from "../../state/saving.ts";
import { stockOfNewPart } from "../bench/stock/new-part-stock.ts";

/** A file that is no part and what is wrong with it; or one that was taken in, and what was done to it on the way. */
export interface UnreadFile {
  readonly file: string;
  readonly problems: readonly string[];
  readonly imported?: boolean;
}

/** The parts of the Shelf, or of its bin, and what can be done with them. */
export function useShelf(bin: boolean) {
  const navigate = useNavigate();
  const [parts, setParts] = useState<readonly PartEntry[]>();
  const [problem, setProblem] = useState<string>();

  const attempt = useCallback(async (work: () => Promise<unknown>) => {
    try {
      await work();
      setProblem(undefined);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }, []);
  const load = useCallback(
    () =>
      attempt(async () => {
        // A part that was just left is shown as it was left.
        await lastSaves();
        setParts(await partsApi.list(bin));
      }),
    [attempt, bin],
  );
  useEffect(() => void load(), [load]);
  // What was just saved or imported is pictured after it: it is looked for again until it is there.
  useEffect(() => {
    if (!parts?.some((p) => p.pictured !== p.revision)) return;
    const again = setTimeout(() => void load(), 600);
    return () => clearTimeout(again);
  }, [parts, load]);

  const change = (work: () => Promise<unknown>) =>
    attempt(async () => {
      await work();
      await load();
    });
  const make = () =>
    once("new part", () =>
      attempt(async () => {
        const part = { ...newPart("New part"), stock: await stockOfNewPart() };
        navigate(`/parts/${(await partsApi.create(part)).id}`);
      }),
    );
  const copy = (id: string, follows: boolean) =>
    once(`copy ${id} ${follows}`, () => change(() => partsApi.copy(id, follows)));
  const addDemo = () => once("demo", () => change(() => partsApi.addDemo()));
  const importing = useImport(change);
  return { parts, problem, load, change, make, copy, addDemo, ...importing };
}

/** What reads files comes from the server when there is one to read. */
const loaded = <T>(module: Promise<T>): Promise<T> =>
  module.catch(() => {
    throw new Error(
      "What reads files cannot be had from the server just now. Load this page again, then import the file.",
    );
  });

/** Takes files in: parts as they are, drawings as flat parts. What they are drawn in is asked where they do not say. */
function useImport(change: (work: () => Promise<unknown>) => Promise<void>) {
  const [unread, setUnread] = useState<UnreadFile>();
  const [unscaled, setUnscaled] = useState<readonly ReadDrawing[]>([]);
  const addFlat = async (read: ReadDrawing, scale: number) => {
    const { flatPart } = await loaded(import("./flat-part.ts"));
    const made = flatPart(read, scale, await stockOfNewPart());
    if (!made.ok) return setUnread({ file: read.name, problems: [made.error] });
    await partsApi.create(made.value.document);
    if (made.value.notes.length > 0)
      setUnread({ file: read.name, problems: made.value.notes, imported: true });
  };
  /** Drawings that do not say in what they are drawn wait for their units, one after another; `undefined` lets one be. */
  const takeUnit = (scale: number | undefined) => {
    const [waiting, ...rest] = unscaled;
    setUnscaled(rest);
    if (waiting && scale !== undefined) void change(() => addFlat(waiting, scale));
  };
  const importFiles = (files: readonly File[]) =>
    change(async () => {
      for (const file of files ?? []) {
        if (isDrawing(file)) {
          const { readDrawing } = await loaded(import("../../drawing-files/read-drawing.ts"));
          const read = await readDrawing(file);
          if (!read.ok) return setUnread({ file: file.name, problems: [read.error] });
          if (read.value.drawn.scale === undefined && read.value.drawn.shapes.length > 0)
            setUnscaled((waiting) => [...waiting, read.value]);
          else await addFlat(read.value, read.value.drawn.scale ?? 1);
          continue;
        }
        const { readDocumentText } = await loaded(import("./read-part.ts"));
        const read = readDocumentText(await file.text());
        if (!read.ok) {
          const problems = read.error.map((p) => (p.path ? `${p.path}: ${p.message}` : p.message));
          return setUnread({ file: file.name, problems });
        }
        await partsApi.create(read.value);
      }
    });
  const forget = () => setUnread(undefined);
  return { importFiles, unread, forget, unscaled: unscaled[0], takeUnit };
}

/** The parts of whose names and stock all words of a search are a part. */
export function useFound(parts: readonly PartEntry[] | undefined, search: string, having: Having) {
  return useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return parts?.filter(
      (p) =>
        words.every((w) => `${p.name} ${p.summary?.stock ?? ""}`.toLowerCase().includes(w)) &&
        fits(p.summary?.findings, having),
    );
  }, [parts, search, having]);
}

/** Parts by what was found on them: all, those with findings of a level, or those without any. */
export type Having = "all" | "none" | FindingLevel;

/** Whether a part has such findings; of one that is still looked at nobody knows. */
function fits(found: Readonly<Record<FindingLevel, number>> | undefined, having: Having): boolean {
  if (having === "all") return true;
  if (!found) return false;
  return having === "none" ? found.stop + found.warn + found.note === 0 : found[having] > 0;
}
