import {
  type BuiltStock,
  choicesOf,
  copyOfStep,
  dependentsOf,
  type Finding,
  fieldsOf,
  type Names,
  picksIn,
  type StepDocument,
  type StepOutcome,
  shownFields,
  stepKind,
  stops,
  type Units,
} from "@hillcrest/core";
import { Archive, Copy, GripVertical, Pause, Play, Trash2 } from "lucide-react";
import { memo, useRef, useState } from "react";
import { edit, repick, setStepValue } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useAsk, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { focusViews, leaveField } from "../../ui/focus.ts";
import { edgeTitle } from "../../views/pick-names.ts";
import type { FieldContext } from "../faces/step-face.ts";
import { stepFace } from "../faces/step-faces.ts";
import { Bookmark } from "./bookmark.tsx";
import { KeepGroup } from "./keep-group.tsx";
import { RestingSentence } from "./resting-sentence.tsx";
import { type RowsInSight, useInSight } from "./rows-in-sight.ts";
import { StepField } from "./step-fields.tsx";
import { listedFields, useStillFields } from "./still-fields.ts";

interface StepRowProps {
  readonly step: StepDocument;
  readonly number: number;
  readonly stock?: BuiltStock;
  readonly labels: ReadonlyMap<string, string>;
  readonly outcome?: StepOutcome;
  readonly findings: readonly Finding[];
  readonly names?: Names;
  readonly open: boolean;
  readonly units: Units;
  /** Whether it is the last, and whether the part is built up to it. */
  readonly last: boolean;
  readonly builtToHere: boolean;
  /** Whether it is whole wherever it stands; others only near to what is in sight. */
  readonly whole: boolean;
  readonly sight: RowsInSight;
  readonly onRemove: (step: StepDocument, hangers: readonly StepDocument[]) => void;
  readonly onDragStart: (id: string) => void;
  readonly onDragEnd: () => void;
}

/**
 * One step as a sentence whose values are edited in place; opened, it shows all it can do. Far out of sight it is
 * words alone, but the same element: it can be scrolled to, get the focus and be opened.
 */
export const StepRow = memo(function StepRow(props: StepRowProps) {
  const { step, number, stock, labels, outcome, findings, names, open } = props;
  const { units, last, builtToHere, whole, sight } = props;
  const kind = stepKind(step.kind)!;
  const row = useRef<HTMLDivElement>(null);
  const { near, height } = useInSight(row, sight, whole);
  const inSight = near || open;
  const wrong = new Set(findings.flatMap((f) => (f.field ? [f.field] : [])));
  const context: FieldContext = {
    step,
    stock,
    labels,
    values: outcome?.values,
    section: outcome?.section,
    outlooks: outcome?.outlooks,
    notes: outcome?.notes,
    wrong,
    names,
  };
  const send = useSend();
  const ask = useAsk();
  const { layout, focus } = useStillFields(step);
  // An opening row moves its words: by pointer it opens only once the click has found its field.
  const byPointer = useRef(false);
  const faded = step.paused || outcome?.state === "later";
  const bar = open ? "border-l-amber bg-amber-soft" : "border-l-transparent hover:bg-moss-soft/40";
  const bookmark = (builtToHere || (inSight && !last)) && (
    <Bookmark after={step.id} number={number} set={builtToHere} />
  );
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a list of sentences, each a group of fields */}
      <div
        ref={row}
        role="group"
        tabIndex={-1}
        aria-label={`Step ${number}, ${kind.title}`}
        data-step={step.id}
        data-state={outcome?.state}
        data-resting={inSight ? undefined : ""}
        style={inSight ? undefined : { minHeight: height }}
        className={`group relative border-b border-l-[3px] outline-none border-b-hairline py-2.5 pr-3 pl-8 leading-[1.85] ${bar}`}
        onPointerDownCapture={() => {
          byPointer.current = true;
        }}
        {...focus}
        onFocus={() => byPointer.current || open || send(viewActions.stepOpened(step.id))}
        onClick={() => {
          byPointer.current = false;
          if (!open) send(viewActions.stepOpened(step.id));
        }}
        onKeyDown={(e) => {
          if (e.key !== "Escape" || !open || ask((s) => s.view.pickingFor)) return;
          e.preventDefault();
          send(viewActions.stepOpened(undefined));
          focusViews();
        }}
      >
        <span
          className={`num absolute top-[13px] text-right text-quiet ${number > 999 ? "left-0 w-[29px] text-[11px]" : "left-2 w-4 text-[12px]"}`}
        >
          {number}
        </span>
        <span className={faded ? "opacity-50" : ""}>
          {inSight ? (
            <Sentence context={context} layout={layout} open={open} />
          ) : (
            <RestingSentence step={step} labels={labels} units={units} />
          )}
          {step.paused && <em className="ml-1.5 text-quiet not-italic">(paused)</em>}
        </span>
        {open && <OpenStep context={context} layout={layout} />}
        <Told step={step} findings={findings} labels={labels} offering={inSight} />
        {open && <RowActions {...props} />}
        {inSight && <Grip {...props} />}
      </div>
      {bookmark}
    </>
  );
}, sameRow);

/** The step's name and its sentence, whose fields stand where `layout` has them. */
function Sentence({ context, layout, open }: { context: FieldContext; layout: StepDocument; open: boolean }) {
  const kind = stepKind(layout.kind)!;
  const fields = fieldsOf(kind, layout);
  return (
    <>
      <StepName step={context.step} open={open} />
      {kind.sentence(layout).map((part, i) => {
        if (typeof part === "string") return <span key={i}>{part}</span>;
        const spec = fields.find((f) => f.key === part.field)!;
        return <StepField key={part.field} spec={spec} context={context} />;
      })}
    </>
  );
}

interface ToldProps extends Pick<StepRowProps, "step" | "findings" | "labels"> {
  /** Whether what puts a lost pick right is offered. */
  readonly offering: boolean;
}

/** What is to be said of the step. */
const Told = ({ step, findings, labels, offering }: ToldProps) =>
  findings.map((f, i) => (
    <p
      key={i}
      role={stops(f) ? "alert" : undefined}
      className={`${f.accepted ? "text-quiet " : ""}mt-1 text-[12.5px] leading-snug`}
    >
      <FindingMark level={f.level} /> {f.accepted && "Accepted: "}
      {f.message}
      {offering && f.offers && <Offers step={step} offers={f.offers} labels={labels} />}
    </p>
  ));

/** What a person calls the step, before its sentence; given and changed while it is open. */
function StepName({ step, open }: { step: StepDocument; open: boolean }) {
  const [naming, setNaming] = useState(false);
  const name = step.name ?? "";
  if (open && naming)
    return (
      <input
        ref={(input) => input?.focus()}
        aria-label="Name of the step"
        data-field="name"
        defaultValue={name}
        maxLength={60}
        placeholder="a name for this step"
        className="mb-1 block w-full border-b border-moss/45 bg-transparent font-bold placeholder:font-normal placeholder:text-quiet focus:bg-raised"
        onBlur={(e) => {
          setNaming(false);
          const next = e.currentTarget.value.trim();
          if (next !== name) setStepValue(step.id, "name", next || undefined);
        }}
        onKeyDown={(e) => {
          if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
          if (e.key === "Escape") e.currentTarget.value = name;
          if (e.key === "Enter" || e.key === "Escape") leaveField(e.currentTarget);
        }}
      />
    );
  if (!open) return name ? <b className="block truncate">{name}</b> : null;
  return (
    <button
      type="button"
      data-name-step
      className={`block max-w-full truncate text-left ${name ? "font-bold" : "text-[12px] text-quiet hover:text-ink"}`}
      title="Give this step a name"
      onClick={() => setNaming(true)}
    >
      {name || "name…"}
    </button>
  );
}

/** Every build brings new outcomes; a row is drawn again only when something in its own has changed. */
function sameRow(a: StepRowProps, b: StepRowProps): boolean {
  // What has not changed is the very same record, mostly; a table of thousands is not read for nothing.
  const says = (p: unknown, q: unknown) => p === q || JSON.stringify(p) === JSON.stringify(q);
  const keys = [
    "step",
    "number",
    "stock",
    "labels",
    "names",
    "open",
    "units",
    "last",
    "builtToHere",
    "whole",
    "sight",
    "onRemove",
    "onDragStart",
    "onDragEnd",
  ] as const;
  return keys.every((key) => a[key] === b[key]) && says(a.outcome, b.outcome) && says(a.findings, b.findings);
}

/** What a lost pick may have meant: one click puts it right. */
function Offers({
  step,
  offers,
  labels,
}: {
  step: StepDocument;
  offers: NonNullable<Finding["offers"]>;
  labels: ReadonlyMap<string, string>;
}) {
  return (
    <span className="mt-1 flex flex-wrap gap-1">
      {offers.names.map((name) => (
        <button
          key={name}
          type="button"
          data-offer={name}
          className="rounded border border-moss px-1.5 text-moss hover:bg-moss-soft"
          onClick={(e) => {
            e.stopPropagation();
            repick(step.id, offers.field, offers.key, name);
          }}
        >
          {edgeTitle(labels, name)}
        </button>
      ))}
    </span>
  );
}

function OpenStep({ context, layout }: { context: FieldContext; layout: StepDocument }) {
  const { step } = context;
  const kind = stepKind(step.kind)!;
  const { Follows, Beneath } = stepFace(step.kind) ?? {};
  const rest = listedFields(step, layout);
  return (
    <div className="mt-1.5">
      {Follows && <Follows context={context} />}
      {rest.length > 0 && (
        <dl
          data-list
          className="mt-1 grid auto-rows-[minmax(25px,auto)] grid-cols-[auto_1fr] items-center gap-x-3 text-[12.5px]"
        >
          {rest.map((spec) => (
            <div key={spec.key} className="contents">
              <dt className="text-quiet">{spec.label}</dt>
              <dd>
                <StepField spec={spec} context={context} />
              </dd>
            </div>
          ))}
        </dl>
      )}
      {shownFields(fieldsOf(kind, step), choicesOf(fieldsOf(kind, step), step)).map((f) =>
        f.kind === "rows" ? <StepField key={f.key} look="form" spec={f} context={context} /> : null,
      )}
      {Beneath && <Beneath context={context} />}
    </div>
  );
}

/** What can be done with the open step as a whole. */
function RowActions({ step, number, onRemove }: StepRowProps) {
  const send = useSend();
  const ask = useAsk();
  const [keeping, setKeeping] = useState(false);
  const button =
    "inline-flex items-center gap-1 rounded px-1.5 py-0.5 text-quiet hover:bg-panel hover:text-ink";
  return (
    <div className="mt-2 -ml-1.5 flex gap-1 text-[12px] leading-normal">
      <button
        type="button"
        className={button}
        aria-label={step.paused ? `Let step ${number} work again` : `Pause step ${number}`}
        onClick={() => setStepValue(step.id, "paused", step.paused ? undefined : true)}
      >
        {step.paused ? <Play size={12} /> : <Pause size={12} />} {step.paused ? "Work again" : "Pause"}
      </button>
      {picksIn(step).length > 0 && (
        <button
          type="button"
          className={button}
          aria-label={`Copy step ${number}`}
          onClick={() => {
            const { document } = ask(openPart);
            const { step: bare, at } = copyOfStep(document!, step.id);
            const copy = bare.id;
            edit({ do: "add", step: bare, at }, { step: copy });
            send(viewActions.stepOpened(copy));
            const field = picksIn(step)[0].field;
            send(
              viewActions.pickingStarted({
                step: copy,
                field: field.key,
                of: field.of,
                single: field.single,
              }),
            );
          }}
        >
          <Copy size={12} /> Copy
        </button>
      )}
      <button
        type="button"
        className={button}
        aria-label={`Remove step ${number}`}
        onClick={(e) => {
          e.stopPropagation();
          const hangers = dependentsOf(ask(openPart).document!, step.id);
          if (hangers.length > 0) onRemove(step, hangers);
          else edit({ do: "remove", step: step.id });
        }}
      >
        <Trash2 size={12} /> Remove
      </button>
      <button
        type="button"
        className={button}
        data-keep-steps
        title="Keep it, with others of this part, for other parts"
        onClick={() => setKeeping(true)}
      >
        <Archive size={12} /> Keep
      </button>
      {keeping && <KeepGroup step={step} onClose={() => setKeeping(false)} />}
    </div>
  );
}

function Grip({ step, onDragStart, onDragEnd }: StepRowProps) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keyboard moves steps with Alt and the arrow keys
    <span
      draggable
      data-grip={step.id}
      className="absolute top-[32px] left-1.5 cursor-grab px-1 text-quiet opacity-0 group-hover:opacity-100"
      title="Drag to another place (Alt + ↑ or ↓)"
      onDragStart={(e) => {
        e.dataTransfer.setData("text/plain", step.id);
        e.dataTransfer.effectAllowed = "move";
        // Chromium ends a drag whose surroundings change while it begins.
        setTimeout(() => onDragStart(step.id));
      }}
      onDragEnd={onDragEnd}
    >
      <GripVertical size={13} />
    </span>
  );
}
