import {
  allLayers,
  choicesOf,
  DRAWN_CONTENTS,
  type DrawnContent,
  type ExportPreset,
  FILE_FORMATS,
  FOLDED_VIEWS,
  type FoldedView,
  orientationOf,
  type PartBuild,
  type PartDocument,
  PLAIN_PRESET,
  PRESET_FIELDS,
  type PresetLayer,
  type Proof,
  presetProblems,
  STOP_WORDS,
  shownFields,
  stops,
} from "@hillcrest/core";
import { useEffect, useState } from "react";
import { FieldView } from "../../fields/field-view.tsx";
import { findingsOf, knownCollisions, openBuild } from "../../state/build-slice.ts";
import { allPresets, partPreset, saveFile, setBlank, setPresetValue } from "../../state/exporting.ts";
import type { HowSaved } from "../../state/exporting-slice.ts";
import { lastName, rememberName } from "../../state/own-name.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { requestFile } from "../../worker/build-client.ts";
import { KeepPreset } from "./keep-preset.tsx";
import { SaveOutcomeLine } from "./save-outcome.tsx";

/** What goes into the file, how it is written, its proof, and saving it. */
export function FilePanel({ build }: { build: PartBuild }) {
  const { preset, gone, changed } = useApp(partPreset);
  return (
    <aside aria-label="The file" className="flex h-full flex-col border-l border-hairline bg-panel">
      <div className="scroll-quiet min-h-0 grow overflow-auto px-4 py-3">
        <h2 className="mb-1.5 font-bold text-quiet">What goes into the file</h2>
        <Contents preset={preset} build={build} />
        <h2 className="mt-3 mb-1.5 font-bold text-quiet">How it is written</h2>
        <Written preset={preset} gone={gone} changed={changed} />
        <h2 className="mt-3 mb-1.5 font-bold text-quiet">Proof, read back from the file</h2>
        <LiveProof preset={preset} />
        <OtherFiles />
      </div>
      <Saving preset={preset} pieces={build.blank?.outlines.length ?? 1} />
    </aside>
  );
}

const PENS: Readonly<Record<DrawnContent, { readonly ink: string; readonly dashes?: string }>> = {
  outline: { ink: "var(--ink)" },
  openings: { ink: "var(--ink)" },
  slits: { ink: "var(--ink)" },
  bendsUp: { ink: "var(--bend-up)" },
  bendsDown: { ink: "var(--bend-down)", dashes: "6 3" },
  tangents: { ink: "var(--quiet)" },
  innerMould: { ink: "var(--quiet)", dashes: "1.5 3" },
  outerMould: { ink: "var(--quiet)", dashes: "8 3 1.5 3" },
  notes: { ink: "var(--quiet)" },
  marks: { ink: "var(--moss)" },
  centres: { ink: "var(--stop)" },
  grain: { ink: "var(--quiet)" },
};

/** How many there are of each content; nothing where that is not known before it is drawn. */
function countsOf({ blank, bends }: PartBuild, side: "A" | "B"): Partial<Record<DrawnContent, string>> {
  if (!blank) return {};
  const lines = (up: boolean) =>
    bends.filter((b) => (b.up === (side === "B")) === up).reduce((s, b) => s + b.pieces.length, 0);
  const loops = blank.outlines.length;
  return {
    outline: `${loops} ${loops === 1 ? "loop" : "loops"}`,
    openings: String(blank.openings.length),
    slits: String(blank.slits.length),
    bendsUp: String(lines(true)),
    bendsDown: String(lines(false)),
    tangents: String(blank.tangentLines.reduce((s, l) => s + l.pieces.length, 0)),
    notes: String(bends.length),
  };
}

/** Which side faces up, as the part says or the side that is seen. */
const sideUp = (document: PartDocument | undefined, { stock }: PartBuild): "A" | "B" =>
  document ? orientationOf(document, stock).side : "B";

/** What few parts have: it is told only where there is some. */
const EMPTY: ReadonlySet<DrawnContent> = new Set(["slits"]);

/** One line for each content that has a layer. */
function Contents({ preset, build }: { preset: ExportPreset; build: PartBuild }) {
  const send = useSend();
  const side = useApp((s) => sideUp(openPart(s).document, build));
  const counts = countsOf(build, side);
  const put = (content: DrawnContent, leftOut: boolean) =>
    send(
      setPresetValue(
        "layers",
        allLayers(preset).map((l): PresetLayer => (l.content === content ? { ...l, leftOut } : l)),
      ),
    );
  return (
    <ul>
      {allLayers(preset)
        .filter((l) => !(EMPTY.has(l.content) && counts[l.content] === "0"))
        .map(({ content, name, leftOut }) => {
          const { ink, dashes } = PENS[content];
          return (
            <li key={content} className="border-t border-hairline/70">
              <label
                className="grid grid-cols-[auto_2.2rem_1fr_auto] items-center gap-2 py-[3px]"
                title={`Layer ${name}`}
              >
                <input
                  type="checkbox"
                  data-content={content}
                  className="accent-moss"
                  checked={!leftOut}
                  disabled={content === "outline"}
                  onChange={(e) => put(content, !e.currentTarget.checked)}
                />
                <svg width="34" height="8" aria-hidden="true">
                  <path d="M1 4h32" stroke={ink} strokeWidth={1.6} strokeDasharray={dashes} />
                </svg>
                <span className={leftOut ? "text-quiet" : ""}>{DRAWN_CONTENTS[content]}</span>
                <span className="num text-quiet">{counts[content] ?? ""}</span>
              </label>
            </li>
          );
        })}
    </ul>
  );
}

/** Values that stand on the page at once; the others are a click away. */
const AT_HAND = ["version", "units", "curves", "bendLines", "tickLength"];

function Written({ preset, gone, changed }: { preset: ExportPreset; gone: boolean; changed: boolean }) {
  const send = useSend();
  const presets = useApp(allPresets);
  const [more, setMore] = useState(false);
  const [layers, setLayers] = useState(false);
  const problems = presetProblems(preset, "");
  const fields = shownFields(PRESET_FIELDS, choicesOf(PRESET_FIELDS, preset as never)).filter(
    (f) =>
      f.key !== "layers" &&
      (more || AT_HAND.includes(f.key)) &&
      (f.key !== "tickLength" || preset.bendLines === "ticks" || (more && preset.edgeTicks)),
  );
  return (
    <div className="space-y-1.5">
      <div className="grid grid-cols-[1fr_auto] items-center gap-3">
        Preset
        <select
          aria-label="Preset"
          className="h-7 w-[176px] rounded border border-hairline bg-raised px-1.5"
          value={gone ? "" : preset.id}
          onChange={(e) => {
            const id = e.currentTarget.value;
            send(setBlank({ preset: id === PLAIN_PRESET.id ? undefined : id, changes: undefined }));
          }}
        >
          {gone && <option value="">no longer in the stock</option>}
          {presets.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </div>
      {gone && (
        <p role="alert" className="leading-snug">
          <FindingMark level="warn" /> The preset of this part is not in the stock any more. Choose another.
        </p>
      )}
      {fields.map((field) => (
        <div key={field.key} className="grid grid-cols-[1fr_auto] items-center gap-3">
          <span className="leading-tight" title={field.about}>
            {field.label}
          </span>
          <FieldView
            look="form"
            field={field}
            value={(preset as unknown as Record<string, unknown>)[field.key]}
            onChange={(v, mark) => send(setPresetValue(field.key, v, mark))}
          />
        </div>
      ))}
      {problems.slice(0, 3).map((p) => (
        <p key={p.path + p.message} role="alert" className="leading-snug">
          <FindingMark level="stop" /> {p.message}
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-1 pt-0.5">
        <Button kind="quiet" aria-expanded={more} onClick={() => setMore(!more)}>
          {more ? "Less" : "More…"}
        </Button>
        <Button kind="quiet" onClick={() => setLayers(true)}>
          Layers…
        </Button>
        {changed && (
          <>
            <KeepPreset preset={preset} />
            <Button
              kind="quiet"
              title="As the preset has it"
              onClick={() => send(setBlank({ changes: undefined }))}
            >
              Undo changes
            </Button>
          </>
        )}
      </div>
      {layers && <LayersDialog preset={preset} onClose={() => setLayers(false)} />}
    </div>
  );
}

/** The layers of the file: what is on each, its name, colour and lines. */
function LayersDialog({ preset, onClose }: { preset: ExportPreset; onClose: () => void }) {
  const send = useSend();
  const field = PRESET_FIELDS.find((f) => f.key === "layers")!;
  const problems = presetProblems(preset, "");
  return (
    <Dialog
      open
      wide
      title="Layers"
      onClose={onClose}
      actions={
        <Button kind="primary" onClick={onClose}>
          Done
        </Button>
      }
    >
      <FieldView
        look="form"
        field={field}
        value={allLayers(preset)}
        onChange={(v, mark) => send(setPresetValue("layers", v, mark))}
      />
      {problems.map((p) => (
        <p key={p.path + p.message} role="alert" className="leading-snug">
          <FindingMark level="stop" /> {p.message}
        </p>
      ))}
    </Dialog>
  );
}

/** The proof of the file as it would be saved now, found in the worker whenever the part or the preset changes. */
function useProof(preset: ExportPreset) {
  const part = useApp((s) => openPart(s).id);
  const document = useApp((s) => openPart(s).document);
  const collisions = useApp((s) => knownCollisions(openBuild(s), document));
  const [found, setFound] = useState<{
    readonly proof?: Proof;
    readonly refused?: string;
    readonly of?: unknown;
  }>({});
  useEffect(() => {
    if (part === undefined || !document || presetProblems(preset, "").length > 0) return;
    let left = false;
    const question = { document, format: "dxf", preset, collisions, anyway: true };
    void requestFile("proof", part, question).then((outcome) => {
      if (left || outcome.kind === "cancelled") return;
      if (outcome.kind !== "result") setFound({ refused: outcome.message, of: document });
      else if ("refused" in outcome.value) setFound({ refused: outcome.value.refused, of: document });
      else setFound({ proof: outcome.value.proof, of: document });
    });
    return () => {
      left = true;
    };
  }, [part, document, preset, collisions]);
  return { ...found, current: found.of === document };
}

/** The file as another program reads it, before it is saved. */
export function LiveProof({ preset }: { preset: ExportPreset }) {
  const { proof, refused, current } = useProof(preset);
  return (
    <div
      data-proof-card
      aria-busy={!current}
      className={`rounded-md border p-2.5 ${proof?.holds === false || refused ? "border-stop/60 bg-panel" : "border-hairline bg-moss-soft"} ${current ? "" : "opacity-60"}`}
    >
      {refused && (
        <p role="alert">
          <FindingMark level="stop" /> {refused}
        </p>
      )}
      {!proof && !refused && <p className="text-quiet">Reading it back…</p>}
      {proof && <ProofLines lines={proof.lines} />}
    </div>
  );
}

export const ProofLines = ({ lines }: { lines: Proof["lines"] }) =>
  lines.map((l) => (
    <p key={l.text} data-proof={l.holds} className="num leading-relaxed">
      {l.text.startsWith(STOP_WORDS) ? (
        <FindingMark level="stop" />
      ) : (
        <span className={l.holds ? "text-moss" : "font-bold text-stop"}>{l.holds ? "✓" : "✗"}</span>
      )}{" "}
      {l.text}
    </p>
  ));

const OTHERS = FILE_FORMATS.filter((f) => f.key !== "dxf");

function Saving({ preset, pieces }: { preset: ExportPreset; pieces: number }) {
  const send = useSend();
  const stopped = useApp((s) => findingsOf(openBuild(s)).some(stops));
  const wrong = presetProblems(preset, "").length > 0;
  const outcome = useApp((s) => s.exporting.outcome);
  const waiting = useApp((s) => s.exporting.waiting);
  const saveApart = async (anyway = false) => {
    for (let piece = 0; piece < pieces; piece++)
      if (!(await send(saveFile("dxf", { piece, anyway })))) return;
  };
  // Of a part of several pieces all are meant, of which the first was refused.
  const saveAnyway = (format: string, how: HowSaved) =>
    void (how.piece === undefined ? send(saveFile(format, how)) : saveApart(true));
  return (
    <div className="space-y-2 border-t border-hairline px-4 py-3">
      {stopped && !(outcome && "refused" in outcome) && (
        <p className="leading-snug">
          <FindingMark level="stop" /> Findings stop this part from being made as it stands.
        </p>
      )}
      <Button
        kind="primary"
        className="w-full"
        disabled={wrong}
        title="Save the DXF (Ctrl + E)"
        data-save-dxf
        onClick={() => void send(saveFile("dxf"))}
      >
        {waiting ? "Save DXF: looking for collisions…" : "Save DXF"}
      </Button>
      {pieces > 1 && (
        <Button className="w-full" disabled={wrong} onClick={() => void saveApart()}>
          One file for each of {pieces} pieces
        </Button>
      )}
      {outcome && <SaveOutcomeLine outcome={outcome} onAnyway={saveAnyway} />}
    </div>
  );
}

const VIEW_WORDS: Readonly<Record<FoldedView, string>> = {
  oblique: "an oblique side",
  front: "the front",
  top: "above",
  right: "the right",
};

/** Who saves files here, and the kinds of file besides DXF. */
function OtherFiles() {
  const send = useSend();
  const fold = useApp((s) => s.view.fold);
  const [by, setBy] = useState(lastName);
  const [view, setView] = useState<FoldedView>("oblique");
  return (
    <div className="mt-3 space-y-2">
      {(["blank", "folded"] as const).map((of) => (
        <p key={of} className="leading-relaxed text-quiet">
          {of === "blank" ? "Also the blank as " : `Folded (${Math.round(fold * 100)} %) as `}
          {OTHERS.filter((f) => f.of === of).map((f, i) => (
            <span key={f.key}>
              {i > 0 && ", "}
              <button
                type="button"
                data-format={f.key}
                className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
                onClick={() => void send(saveFile(f.key, { fold, view }))}
              >
                {f.label}
              </button>
            </span>
          ))}
        </p>
      ))}
      <label className="flex items-center gap-2 text-quiet">
        pictures from
        <select
          aria-label="From where folded pictures are seen"
          className="h-7 rounded border border-hairline bg-raised px-1.5 text-ink"
          value={view}
          onChange={(e) => setView(e.currentTarget.value as FoldedView)}
        >
          {FOLDED_VIEWS.map((v) => (
            <option key={v} value={v}>
              {VIEW_WORDS[v]}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-quiet">
        saved by
        <input
          aria-label="Who saves it"
          className="h-7 min-w-0 grow rounded border border-hairline bg-raised px-1.5 text-ink"
          value={by}
          maxLength={100}
          placeholder="a name, if you like"
          onChange={(e) => {
            setBy(e.currentTarget.value);
            rememberName(e.currentTarget.value);
          }}
          onKeyDown={(e) => e.stopPropagation()}
        />
      </label>
    </div>
  );
}
