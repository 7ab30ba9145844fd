import {
  type BlankSettings,
  BUILT_IN_PRESETS,
  type ExportPreset,
  fileFormat,
  PLAIN_PRESET,
  presetOf,
  safeName,
} from "@hillcrest/core";
import { createSelector } from "@reduxjs/toolkit";
import { type NewExport, partsApi } from "../api/parts-api.ts";
import { requestFile } from "../worker/build-client.ts";
import { collisionsOf, openBuild } from "./build-slice.ts";
import { builtNow } from "./building.ts";
import { checkedNow } from "./checking.ts";
import { download } from "./download.ts";
import { setPartValues } from "./edits.ts";
import { exportingActions, type HowSaved, type SaveOutcome } from "./exporting-slice.ts";
import { lastName } from "./own-name.ts";
import { openPart } from "./part-slice.ts";
import { saveNow } from "./saving.ts";
import { loadStock } from "./stock.ts";
import { itemsNow } from "./stock-slice.ts";
import type { State, Thunk } from "./store.ts";

/** All presets there are: the shop's, and those that are always there. */
export const allPresets = createSelector([(s: State) => s.stock], (stock): readonly ExportPreset[] => [
  ...itemsNow(stock, "presets"),
  ...BUILT_IN_PRESETS,
]);

/** What the open part says of its blank. */
const NO_SETTINGS: BlankSettings = {};
export const blankSettings = (s: State): BlankSettings => openPart(s).document?.blank ?? NO_SETTINGS;

/** The preset that the open part leaves by. */
export const partPreset = createSelector(
  [(s: State) => openPart(s).document, allPresets],
  (document, presets) =>
    document ? presetOf(document, presets) : { preset: PLAIN_PRESET, gone: false, changed: false },
);

/** Changes what the open part says of its blank; what is `undefined` goes back to how it starts. */
export const setBlank =
  (change: Partial<BlankSettings>, mark?: string): Thunk =>
  (_send, getState) => {
    const next = Object.entries({ ...blankSettings(getState()), ...change }).filter(
      ([, v]) => v !== undefined,
    );
    setPartValues({ blank: next.length > 0 ? Object.fromEntries(next) : undefined }, mark);
  };

/** Lets this part leave otherwise than its preset says, in one value; one that says the same again is no change. */
export const setPresetValue =
  (key: string, value: unknown, mark?: string): Thunk =>
  (send, getState) => {
    const { preset: id = PLAIN_PRESET.id, changes = {} } = blankSettings(getState());
    const base = (allPresets(getState()).find((p) => p.id === id) ?? PLAIN_PRESET) as unknown as Record<
      string,
      unknown
    >;
    const same = JSON.stringify(base[key] ?? false) === JSON.stringify(value ?? false);
    const next = Object.entries({ ...changes, [key]: value }).filter(([k]) => k !== key || !same);
    send(setBlank({ changes: next.length > 0 ? Object.fromEntries(next) : undefined }, mark));
  };

const DOTS = 1600;

/** An SVG as a PNG so many dots wide, drawn by the browser. */
async function dotsOf(svg: string): Promise<Uint8Array> {
  const picture = new Image();
  const url = URL.createObjectURL(new Blob([svg], { type: "image/svg+xml" }));
  try {
    picture.src = url;
    await picture.decode();
    const canvas = document.createElement("canvas");
    canvas.width = DOTS;
    canvas.height = Math.max(1, Math.round((DOTS * picture.naturalHeight) / picture.naturalWidth));
    canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
    if (!blob) throw new Error("The browser could not draw the picture.");
    return new Uint8Array(await blob.arrayBuffer());
  } finally {
    URL.revokeObjectURL(url);
  }
}

const PRESET_GONE =
  "The preset that this part leaves by is not in the stock any more. Choose another on the page of the blank.";

/**
 * Saves the open part as a file of some kind on the person's disk. One that, read back, is not the blank is refused with the
 * reason, as is one that findings stop, unless it is wanted anyway. Whether it was saved. What leaves as DXF is kept with the part: who, when, which revision, by which preset, and its proof.
 */
export const saveFile =
  (key: string, how: HowSaved = {}): Thunk<Promise<boolean>> =>
  async (send) => {
    send(exportingActions.fileBegun());
    const outcome = await send(madeFile(key, how)).catch(
      (error: unknown): SaveOutcome => ({ refused: error instanceof Error ? error.message : String(error) }),
    );
    send(exportingActions.fileAsked(outcome));
    return "saved" in outcome;
  };

const LEFT: SaveOutcome = {
  refused: "Another part was opened before this one was built: it was not saved.",
};
const WRONG_STEP: SaveOutcome = {
  refused: "A step is wrong: the shape on screen is not what the steps say.",
};

const madeFile =
  (key: string, how: HowSaved): Thunk<Promise<SaveOutcome>> =>
  async (_send, getState) => {
    // Whether a step is wrong shows once the last keys are built, and what stops it once it is searched.
    if (!(await builtNow())) return LEFT;
    if (openBuild(getState()).stale) return WRONG_STEP;
    if (!(await checkedNow())) return LEFT;
    const { id, document } = openPart(getState());
    const format = fileFormat(key);
    if (id === undefined || !document || !format) return { refused: "There is no part open." };
    if (openBuild(getState()).stale) return WRONG_STEP;
    if (getState().stock.entries === undefined) await loadStock();
    const { preset, gone } = partPreset(getState());
    if (gone && format.of === "blank") return { refused: PRESET_GONE };
    const { anyway = false } = how;
    const collisions = collisionsOf(openBuild(getState()));
    const outcome = await requestFile("file", id, {
      document,
      format: key,
      preset,
      collisions,
      ...how,
      anyway,
    });
    if (outcome.kind === "cancelled") return { refused: "Another file was asked for meanwhile." };
    if (outcome.kind !== "result") return { refused: outcome.message };
    const made = outcome.value;
    if ("refused" in made)
      return { refused: made.refused, ...(made.stopped ? { stopped: { format: key, how } } : {}) };
    const piece = how.piece === undefined ? "" : ` ${how.piece + 1}`;
    const name = `${safeName(document.name)}${piece}.${format.ending}`;
    download(name, format.asDots ? await dotsOf(made.content as string) : made.content, format.type);
    const { facts } = made;
    if (key === "dxf" && facts) {
      await saveNow(id);
      const { revision } = openPart(getState());
      const { proof, sha256 } = made;
      const entry = { by: lastName(), format: key, file: name, sha256, preset: preset.name, facts };
      await noteExport(id, { ...entry, revision, proof: proof?.lines ?? [] });
    }
    return { saved: name };
  };

const WAITING = "hillcrest:exports-waiting";

interface WaitingExport {
  readonly part: string;
  readonly entry: NewExport;
}

function waitingExports(): WaitingExport[] {
  try {
    return JSON.parse(localStorage.getItem(WAITING) ?? "[]") as WaitingExport[];
  } catch {
    return [];
  }
}

function keepWaiting(list: readonly WaitingExport[]): void {
  try {
    if (list.length === 0) localStorage.removeItem(WAITING);
    else localStorage.setItem(WAITING, JSON.stringify(list.slice(-200)));
  } catch {
    // A browser that keeps nothing cannot wait; the file itself is saved.
  }
}

/** Keeps with a part what has left of it; where the server is out of reach, as soon as it is there again. */
async function noteExport(part: string, entry: NewExport): Promise<void> {
  keepWaiting([...waitingExports(), { part, entry }]);
  await sendWaitingExports();
}

/** Tells the server what left while it was out of reach. */
export async function sendWaitingExports(): Promise<void> {
  for (const one of waitingExports()) {
    try {
      await partsApi.noteExport(one.part, one.entry);
    } catch (error) {
      // What the server refuses it will refuse again.
      if (!("status" in (error as object))) return;
    }
    keepWaiting(waitingExports().filter((w) => JSON.stringify(w) !== JSON.stringify(one)));
  }
}
