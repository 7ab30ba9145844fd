import {
  DIMENSION_WORDS,
  type DrawnOutline,
  dimensionOf,
  formatShort,
  foundRelations,
  freshKey,
  holdAsItIs,
  lengthText,
  type Outline,
  type OutlineDimension,
  type PartOutline,
  safeName,
  sayOf,
  standOnPart,
  toDegrees,
  unitName,
  withoutSaying,
} from "@hillcrest/core";
import { useState } from "react";
import { QuantityField } from "../../../fields/quantity-field.tsx";
import { openBuild } from "../../../state/build-slice.ts";
import { download } from "../../../state/download.ts";
import { outlinesOf, setOutlines, withNewOutline } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useNames } from "../../../state/labels.ts";
import { useStock } from "../../../state/stock.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { Button } from "../../../ui/button.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { KeepOutline, TakeKept } from "./keep-outline.tsx";
import { OutlinePicture } from "./outline-picture.tsx";
import { ReadOutlines } from "./read-outlines.tsx";

const NOT_SOLVED: readonly DrawnOutline[] = [];

/** The outlines of the part: read in, driven by their numbers, with what is free and what does not go together. */
export function OutlinePanel() {
  const outlines = useApp(outlinesOf);
  const solved = useApp((s) => openBuild(s).latest?.outlines ?? NOT_SOLVED);
  useStock();
  const [chosen, setChosen] = useState<string>();
  const send = useSend();
  const open = outlines.find((o) => o.key === chosen) ?? outlines[0];
  const drawn = solved.find((o) => o.key === open?.key);
  const add = (more: readonly Outline[]) => {
    const next = [...outlines];
    for (const outline of more) next.push({ key: freshKey(next), outline });
    setOutlines(next);
    setChosen(next[next.length - 1].key);
  };
  const put = (outline: Outline, mark?: string) =>
    setOutlines(
      outlines.map((o) => (o.key === open.key ? { ...o, outline } : o)),
      mark,
    );
  return (
    <div className="scroll-quiet flex grow gap-6 overflow-auto px-3.5 py-2 text-[12.5px]" data-outlines>
      <div className="w-52 shrink-0">
        {outlines.map((o) => (
          <button
            key={o.key}
            type="button"
            aria-pressed={o.key === open.key}
            data-outline={o.key}
            className={`block w-full truncate rounded px-2 py-1 text-left ${o.key === open.key ? "bg-moss-soft font-semibold" : "hover:bg-moss-soft/50"}`}
            onClick={() => setChosen(o.key)}
          >
            {o.outline.name.trim() || o.key}
            <State drawn={solved.find((d) => d.key === o.key)} />
          </button>
        ))}
        {outlines.length === 0 && (
          <p className="pb-2 leading-snug text-quiet">
            No outlines yet. One that is drawn or read in can be the shape of a plate, a cut, a leg or a
            profile, driven by its numbers.
          </p>
        )}
        <Button
          kind="quiet"
          data-draw-new
          onClick={() => {
            const { key, outlines: next } = withNewOutline();
            setOutlines(next);
            setChosen(key);
            send(drawingActions.opened({ key, tool: "line" }));
          }}
        >
          Draw a new one
        </Button>
        <ReadOutlines onRead={add} />
        <TakeKept
          onTake={(entry) => {
            const key = freshKey(outlines);
            setOutlines([...outlines, { key, ...entry }]);
            setChosen(key);
          }}
        />
      </div>
      {open && drawn && (
        <>
          <OutlinePicture drawn={drawn} />
          <OutlineNumbers
            entry={open}
            drawn={drawn}
            onChange={put}
            onRemove={() => setOutlines(outlines.filter((o) => o !== open))}
          />
        </>
      )}
    </div>
  );
}

/** How an outline stands, in a word behind its name. */
function State({ drawn }: { drawn?: DrawnOutline }) {
  if (!drawn) return null;
  const { state, free } = drawn.solved;
  if (state === "conflict")
    return (
      <span className="ml-2 text-stop">
        <FindingMark level="stop" /> disagrees
      </span>
    );
  return <span className="ml-2 font-medium text-quiet">{free > 0 ? `${free} left free` : "fixed"}</span>;
}

interface OutlineNumbersProps {
  readonly entry: PartOutline;
  readonly drawn: DrawnOutline;
  readonly onChange: (outline: Outline, mark?: string) => void;
  readonly onRemove: () => void;
}

/** The numbers that drive an outline, what disagrees among them, and what can be done with it as a whole. */
function OutlineNumbers({ entry, drawn, onChange, onRemove }: OutlineNumbersProps) {
  // What is typed is of the part as it stands: what was built last may not have the last keys in it yet.
  const { outline } = entry;
  const { solved } = drawn;
  const names = useNames();
  const send = useSend();
  const wrong = new Set([...solved.conflicts, ...solved.problems.flatMap((p) => p.of ?? [])]);
  const setDimension = (next: OutlineDimension, mark?: string) =>
    onChange({ ...outline, dimensions: outline.dimensions.map((d) => (d.id === next.id ? next : d)) }, mark);
  const values = outline.values ?? [];
  const drop = (id: string) => onChange(withoutSaying(outline, id));
  return (
    <div className="grow space-y-2">
      <div className="flex items-baseline gap-4">
        <Button kind="primary" data-draw onClick={() => send(drawingActions.opened({ key: drawn.key }))}>
          Draw
        </Button>
        <Button
          kind="quiet"
          onClick={() =>
            download(`${safeName(outline.name)}.json`, JSON.stringify(outline, null, 2), "application/json")
          }
        >
          Save as JSON
        </Button>
        {outline.relations.length === 0 && (
          <Button
            kind="quiet"
            data-relate
            title="Level, upright, square, touching, equal: whatever holds as it is drawn"
            onClick={() => onChange({ ...outline, relations: foundRelations(outline) })}
          >
            Relate what holds
          </Button>
        )}
        {solved.state === "free" && (
          <Button
            kind="quiet"
            data-hold
            onClick={() => onChange(holdAsItIs(standOnPart(outline, drawn.behind ?? []).outline, names))}
          >
            Hold it as it is
          </Button>
        )}
        <KeepOutline key={entry.key} entry={entry} />
        <Button kind="quiet" onClick={onRemove}>
          Remove
        </Button>
      </div>
      <table>
        <tbody>
          {values.map((v, i) => (
            <tr key={v.name} data-outline-value={v.name}>
              <td className="pr-4 font-semibold">{v.name}</td>
              <td className="pr-4 text-quiet">value</td>
              <td className="pr-4">
                <QuantityField
                  boxed
                  spec={{
                    key: `outline-value-${v.name}`,
                    label: `Value ${v.name}`,
                    dimension: v.measures ?? "length",
                    default: "",
                  }}
                  text={String(v.value)}
                  wrong={wrong.has(v.name)}
                  onChange={(value, mark) =>
                    onChange(
                      { ...outline, values: values.map((o, k) => (k === i ? { ...o, value } : o)) },
                      mark,
                    )
                  }
                />
              </td>
            </tr>
          ))}
          {outline.dimensions.map((d) => (
            <Dimension
              key={d.id}
              dimension={d}
              value={solved.values[d.id]}
              wrong={wrong.has(d.id)}
              onChange={setDimension}
            />
          ))}
        </tbody>
      </table>
      <Disagreements drawing={{ ...drawn, outline }} onDrop={drop} />
    </div>
  );
}

interface DisagreementsProps {
  readonly drawing: Pick<DrawnOutline, "outline" | "solved"> & Partial<Pick<DrawnOutline, "areas">>;
  readonly onDrop: (id: string) => void;
}

/** What does not go together, each with a way to drop it, and what else is wrong. */
export function Disagreements({ drawing: { outline, solved, areas }, onDrop }: DisagreementsProps) {
  return (
    <>
      {/* Below the fields: what comes up while one is typed into must not move it. */}
      {solved.conflicts.length > 0 && (
        <p role="alert" data-conflicts className="leading-snug">
          <FindingMark level="stop" /> These do not go together. Drop one:{" "}
          {solved.conflicts.map((id) => (
            <button
              key={id}
              type="button"
              className="mr-3 font-semibold text-moss hover:underline"
              title={`Drop ${id}`}
              onClick={() => onDrop(id)}
            >
              {sayOf(outline, id)}
            </button>
          ))}
        </p>
      )}
      {solved.repeats.slice(0, 3).map((list) => (
        <p key={list.join()} data-repeats className="leading-snug">
          <FindingMark level="note" /> {sayOf(outline, list[list.length - 1])} only repeats what{" "}
          {list.length - 1} others say: {list.slice(0, -1).slice(0, 4).join(", ")}.{" "}
          <button
            type="button"
            className="font-semibold text-moss hover:underline"
            onClick={() => onDrop(list[list.length - 1])}
          >
            Drop it
          </button>
        </p>
      ))}
      {[...solved.problems, ...(solved.state === "conflict" ? [] : (areas?.problems ?? []))].map((p) => (
        <p key={p.message} role="alert" className="leading-snug">
          <FindingMark level={solved.state === "conflict" ? "stop" : "warn"} /> {p.message}
        </p>
      ))}
    </>
  );
}

interface DimensionProps {
  readonly dimension: OutlineDimension;
  readonly value: number | undefined;
  readonly wrong: boolean;
  readonly onChange: (dimension: OutlineDimension, mark?: string) => void;
}

/** One dimension: what it measures, what drives it, and what it comes to. */
function Dimension({ dimension: d, value, wrong, onChange }: DimensionProps) {
  const units = useUnits();
  const angle = dimensionOf(d.kind) === "angle";
  const comes =
    value === undefined
      ? ""
      : angle
        ? `${formatShort(toDegrees(value), 3)}°`
        : `${lengthText(value, units, 3)} ${unitName(units)}`;
  return (
    <tr data-outline-dimension={d.id}>
      <td className="pr-4 font-semibold">{d.name ?? ""}</td>
      <td className="pr-4 text-quiet">
        {DIMENSION_WORDS[d.kind]} of {d.of.join(", ")}
      </td>
      <td className="pr-4">
        {d.showing ? (
          <span className="text-quiet">shows</span>
        ) : (
          <QuantityField
            boxed
            spec={{
              key: `outline-${d.id}`,
              label: `${DIMENSION_WORDS[d.kind]} of ${d.of.join(", ")}`,
              dimension: angle ? "angle" : "length",
              default: "",
            }}
            text={String(d.value)}
            wrong={wrong}
            onChange={(text, mark) => onChange({ ...d, value: text }, mark)}
          />
        )}
      </td>
      <td className="num whitespace-nowrap">{comes}</td>
    </tr>
  );
}
