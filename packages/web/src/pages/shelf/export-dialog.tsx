import {
  BUILT_IN_PRESETS,
  DEFAULT_PATTERN,
  FILE_FORMATS,
  PLAIN_PRESET,
  patternProblem,
} from "@hillcrest/core";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { type BatchState, exportsApi, type ManyRequest } from "../../api/exports-api.ts";
import { lastName } from "../../state/own-name.ts";
import { useItems, useStock } from "../../state/stock.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { ProgressBar } from "../../ui/progress-bar.tsx";
import type { Chosen } from "./chosen.ts";

type Wish = Omit<ManyRequest, "parts" | "by">;

const FIRST: Wish = {
  as: "zip",
  format: "dxf",
  preset: PLAIN_PRESET.id,
  pattern: DEFAULT_PATTERN,
  spacing: 5,
  stocks: "files",
  apart: false,
  anyway: false,
};
const KEPT = "hillcrest:export-many";

function lastWish(): Wish {
  try {
    return { ...FIRST, ...JSON.parse(localStorage.getItem(KEPT) ?? "{}") };
  } catch {
    return FIRST;
  }
}

/** How the chosen parts leave; then how far that is, and what could not. */
export function ExportDialog({ chosen, onClose }: { chosen: Chosen; onClose: () => void }) {
  useStock();
  const [wish, setWish] = useState(lastWish);
  const [job, setJob] = useState<BatchState>();
  const [problem, setProblem] = useState<string>();
  const wrong = wish.as === "zip" ? patternProblem(wish.pattern) : undefined;
  useFollowed(job, setJob, setProblem);
  const put = (change: Partial<Wish>) => {
    const next = { ...wish, ...change };
    setWish(next);
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // The next export starts as the first did.
    }
  };
  const begin = async () => {
    setProblem(undefined);
    const parts = [...chosen].map(([id, quantity]) => ({ id, quantity }));
    try {
      setJob(await exportsApi.begin({ ...wish, parts, by: lastName() }));
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const cancel = () => {
    if (job) void exportsApi.drop(job.id).catch(() => undefined);
    setJob(undefined);
  };
  const working = job?.state === "working";
  return (
    <Dialog
      open
      wide
      onClose={working ? undefined : onClose}
      title={`Export ${chosen.size} ${chosen.size === 1 ? "part" : "parts"}`}
      actions={
        working ? (
          <Button onClick={cancel}>Cancel</Button>
        ) : (
          <>
            <Button onClick={onClose}>{job?.state === "ready" ? "Done" : "Not now"}</Button>
            {job?.state !== "ready" && (
              <Button kind="primary" data-export disabled={wrong !== undefined} onClick={() => void begin()}>
                Export
              </Button>
            )}
          </>
        )
      }
    >
      {!job && <Wishes wish={wish} onPut={put} wrong={wrong} />}
      {job && <Progress job={job} />}
      {problem && (
        <p role="alert" className="mt-2">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
    </Dialog>
  );
}

const LINE = "grid grid-cols-[11rem_1fr] items-center gap-3 py-1";
const BOX = "h-8 min-w-0 rounded border border-hairline bg-raised px-2";

/** A list of which one is chosen, with its name before it. */
function Choice({
  label,
  value,
  onChoose,
  children,
}: {
  label: string;
  value: string;
  onChoose: (value: string) => void;
  children: ReactNode;
}) {
  return (
    <label className={LINE}>
      {label}
      <select
        aria-label={label}
        className={BOX}
        value={value}
        onChange={(e) => onChoose(e.currentTarget.value)}
      >
        {children}
      </select>
    </label>
  );
}

function Wishes({
  wish,
  onPut,
  wrong,
}: {
  wish: Wish;
  onPut: (change: Partial<Wish>) => void;
  wrong?: string;
}) {
  const presets = [...useItems("presets"), ...BUILT_IN_PRESETS];
  return (
    <>
      <Choice label="As" value={wish.as} onChoose={(as) => onPut({ as: as as Wish["as"] })}>
        <option value="zip">a file each, in a zip with cut list and proofs</option>
        <option value="together">all side by side in a DXF</option>
      </Choice>
      {wish.as === "zip" && (
        <Choice label="Files" value={wish.format} onChoose={(format) => onPut({ format })}>
          {FILE_FORMATS.map((f) => (
            <option key={f.key} value={f.key}>
              {f.label}
              {f.of === "folded" ? ", folded" : ""}
            </option>
          ))}
        </Choice>
      )}
      <Choice label="Preset" value={String(wish.preset)} onChoose={(preset) => onPut({ preset })}>
        {presets.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </Choice>
      {wish.as === "zip" ? (
        <>
          <label className={LINE}>
            Files are called
            <input
              aria-label="Pattern of file names"
              aria-invalid={wrong !== undefined || undefined}
              className={`num ${BOX} ${wrong ? "border-stop" : ""}`}
              value={wish.pattern}
              maxLength={200}
              spellCheck={false}
              onChange={(e) => onPut({ pattern: e.currentTarget.value })}
            />
          </label>
          {wrong && (
            <p role="alert" className="text-stop">
              {wrong}
            </p>
          )}
          <Yes
            label="A file for each piece of a part that falls into several"
            on={wish.apart}
            onChange={(apart) => onPut({ apart })}
          />
        </>
      ) : (
        <>
          <Choice
            label="Stocks"
            value={wish.stocks}
            onChoose={(stocks) => onPut({ stocks: stocks as Wish["stocks"] })}
          >
            <option value="files">a DXF for each material and thickness</option>
            <option value="groups">one DXF, each material and thickness in a group</option>
          </Choice>
          <div className={LINE}>
            Spacing
            <span className="justify-self-start">
              <NumberBox
                label="Spacing"
                value={wish.spacing}
                dimension="length"
                problem={(v) => (v >= 0 && v <= 10_000 ? undefined : "It must be from 0 to 10000 mm.")}
                onChange={(spacing) => onPut({ spacing })}
              />
            </span>
          </div>
        </>
      )}
      <Yes label="Also parts that findings stop" on={wish.anyway} onChange={(anyway) => onPut({ anyway })} />
    </>
  );
}

const Yes = ({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) => (
  <label className="flex items-center gap-2 py-1">
    <input
      type="checkbox"
      className="accent-moss"
      checked={on}
      onChange={(e) => onChange(e.currentTarget.checked)}
    />
    {label}
  </label>
);

/** Looks after an export until it has ended, and fetches its file once it is ready. */
function useFollowed(
  job: BatchState | undefined,
  onState: (job: BatchState) => void,
  onProblem: (problem: string) => void,
): void {
  const fetched = useRef<string>(undefined);
  useEffect(() => {
    if (!job) return;
    if (job.state === "ready" && fetched.current !== job.id) {
      fetched.current = job.id;
      const link = document.createElement("a");
      link.href = exportsApi.file(job.id);
      link.download = job.file ?? "";
      link.click();
    }
    if (job.state !== "working") return;
    let left = false;
    const timer = setTimeout(() => {
      exportsApi
        .state(job.id)
        .then((next) => !left && onState(next))
        // Out of reach for a moment: what is under way goes on, and is looked at again.
        .catch((error) => {
          if (left) return;
          onProblem((error as Error).message);
          onState({ ...job });
        });
    }, 250);
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [job, onState, onProblem]);
}

function Progress({ job }: { job: BatchState }) {
  const { state, done, total, doing, refused, stopped, problem } = job;
  return (
    <div data-export-state={state}>
      <p>
        {doing}
        {state === "working" && `: ${done} of ${total}`}
        {state === "ready" && ": it is on its way to your disk."}
      </p>
      <ProgressBar label="How far it is" done={done} of={total} className="my-2 h-2" />
      {problem && (
        <p role="alert">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
      <PartList parts={refused} level="warn" said="not written" />
      <PartList parts={stopped} level="stop" said="written in spite of findings" />
    </div>
  );
}

/** Parts that were not written, or not as they should be, each with the reason. */
function PartList({
  parts,
  level,
  said,
}: {
  parts: BatchState["refused"];
  level: "stop" | "warn";
  said: string;
}) {
  if (parts.length === 0) return null;
  return (
    <>
      <p className="mt-2 font-semibold">
        {parts.length} {parts.length === 1 ? "part" : "parts"} {said}:
      </p>
      <ul>
        {parts.slice(0, 40).map((r, i) => (
          <li key={i} className="leading-snug">
            <FindingMark level={level} /> {r.part}: {r.why}
          </li>
        ))}
        {parts.length > 40 && <li className="text-quiet">… and {parts.length - 40} more, in the cut list</li>}
      </ul>
    </>
  );
}
