import {
  DIMENSION_WORDS,
  type DrawTool,
  dimensionOf,
  dimensionOffers,
  formatShort,
  isTooMuch,
  lengthText,
  type Offer,
  type Outline,
  type OutlineDimension,
  RELATION_WORDS,
  relationOffers,
  removeFrom,
  toDegrees,
  type Units,
  unitName,
  withOffer,
} from "@hillcrest/core";
import { nameDimension, placeGiven, putOutline } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useNames } from "../../../state/labels.ts";
import { type Thunk, useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusShown, focusViews } from "../../../ui/focus.ts";
import { DimensionValue, setDimension } from "./dimension-value.tsx";
import { RELATION_GLYPHS } from "./glyphs.tsx";
import { type Aim, type Drawing, useTooling } from "./use-drawing.ts";

/** Under the drawing: what to do now, the numbers of the tool, and what can be done with what is picked. */
export function DrawingFoot({ drawing, aim }: { drawing: Drawing; aim: Aim | undefined }) {
  const { places, problem, picks } = useApp((s) => s.drawing);
  const tooling = useTooling();
  const wrong = Object.entries(tooling.wrong)[0];
  const hint = tooling.tool
    ? tooling.tool.stages[places.length]?.hint
    : picks.length > 0
      ? picks.some((id) => drawing.outline.dimensions.some((d) => d.id === id))
        ? "Its value can be an expression; its text is dragged to where it reads best."
        : "What is to hold of it?"
      : "Take a tool by its key, or pick what is drawn. Shift picks more; what is dashed can be dragged.";
  return (
    <div
      className="absolute inset-x-0 bottom-0 z-10 h-[62px] border-t border-hairline bg-panel px-3 py-1.5 text-[12.5px]"
      data-drawing-foot
    >
      <p className="h-[22px] truncate leading-snug" role="status">
        {problem || wrong ? (
          <span data-drawing-problem className="text-stop">
            <FindingMark level="stop" />{" "}
            {problem ?? `${tooling.tool?.values.find((v) => v.key === wrong[0])?.label}: ${wrong[1]}`}
          </span>
        ) : (
          <span className="text-quiet">{hint}</span>
        )}
      </p>
      <div className="flex h-[24px] items-center gap-3 overflow-x-auto whitespace-nowrap">
        {tooling.tool ? (
          <ToolNumbers drawing={drawing} tool={tooling.tool} aim={aim} />
        ) : (
          <Picked drawing={drawing} />
        )}
      </div>
    </div>
  );
}

/** A number that would come to pass where the pointer is, as it reads in the part's units. */
function read(
  value: number | undefined,
  dimension: DrawTool["values"][number]["dimension"],
  units: Units,
): string {
  if (value === undefined || !Number.isFinite(value)) return "";
  if (dimension === "angle") return formatShort(toDegrees(value), 2);
  return dimension === "length" ? lengthText(value, units) : formatShort(value, 2);
}

/** The numbers of a tool: each shows what the pointer says until it is typed; Tab goes on, Enter sets the place. */
function ToolNumbers({ drawing, tool, aim }: { drawing: Drawing; tool: DrawTool; aim: Aim | undefined }) {
  const send = useSend();
  const units = useUnits();
  const { typed, places } = useApp((s) => s.drawing);
  const tooling = useTooling();
  const { wrong } = tooling;
  const now = tool.stages[places.length]?.values ?? [];
  const set = () => {
    const from = places[places.length - 1]?.at ?? [0, 0];
    send(placeGiven(aim?.place ?? { at: [from[0] + 1, from[1]] }, drawing.now, tooling));
    focusViews();
  };
  return tool.values.map(({ key, label, dimension, default: other }) => {
    const active = now.includes(key);
    return (
      <label key={key} className={active ? "" : "opacity-45"}>
        {label}{" "}
        <input
          data-typed={key}
          disabled={!active}
          spellCheck={false}
          autoComplete="off"
          aria-invalid={wrong[key] !== undefined || undefined}
          value={typed[key] ?? ""}
          placeholder={other ?? read(aim?.reads[key], dimension, units)}
          className={`num h-[22px] w-[9ch] rounded border bg-raised px-1.5 text-right text-moss placeholder:text-quiet focus:outline-2 focus:-outline-offset-1 focus:outline-moss ${wrong[key] ? "border-stop" : "border-hairline"}`}
          onChange={(e) => send(drawingActions.typed({ ...typed, [key]: e.currentTarget.value }))}
          onKeyDown={(e) => {
            if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
            if (e.key === "Enter") {
              e.preventDefault();
              set();
            }
            if (e.key === "Escape") {
              send(drawingActions.typed({ ...typed, [key]: "" }));
              focusViews();
            }
          }}
        />
        {dimension === "length" ? ` ${unitName(units)}` : dimension === "angle" ? "°" : ""}
      </label>
    );
  });
}

/** Everything that what is picked can have: relations first, then dimensions; each by its digit. */
export function offersFor(now: Outline, picks: readonly string[]): readonly (readonly Offer[])[] {
  return [...relationOffers(now, picks), ...dimensionOffers(now, picks).map((o) => [o])].slice(0, 9);
}

/** Gives what is picked what was offered. A dimension that goes against the others only shows what it comes to. */
export const takeOffer =
  (drawing: Drawing, offers: readonly Offer[], names: ReturnType<typeof useNames>): Thunk =>
  (send) => {
    const { outline, id } = withOffer(drawing.now, offers, names);
    const isDimension = "dimension" in offers[0];
    const idle = isDimension && isTooMuch(outline, id, names);
    putOutline(
      drawing.key,
      idle
        ? {
            ...outline,
            dimensions: outline.dimensions.map((d) => (d.id === id ? { ...d, showing: true } : d)),
          }
        : outline,
    );
    if (!isDimension) return;
    send(drawingActions.pickedAll([id]));
    if (!idle) focusShown(`[data-drawing-foot] [data-field="drawn-${id}"]`);
  };

function Picked({ drawing }: { drawing: Drawing }) {
  const send = useSend();
  const names = useNames();
  const picks = useApp((s) => s.drawing.picks);
  const dimension =
    picks.length === 1 ? drawing.outline.dimensions.find((d) => d.id === picks[0]) : undefined;
  const relation = picks.length === 1 ? drawing.outline.relations.find((r) => r.id === picks[0]) : undefined;
  if (picks.length === 0) return null;
  const area = picks.length === 1 && picks[0].startsWith("area:") ? picks[0].slice(5) : undefined;
  if (area !== undefined) {
    const counts = !drawing.areas.leftOut.some((r) => r.outer.some((c) => c.name === area));
    return (
      <button
        type="button"
        data-area={counts ? "counts" : "out"}
        className="font-semibold text-moss hover:underline"
        onClick={() => send(toggleArea(drawing, area))}
      >
        {counts ? "Leave this area out (Delete)" : "Count this area (Delete)"}
      </button>
    );
  }
  if (dimension) return <PickedDimension key={dimension.id} drawing={drawing} dimension={dimension} />;
  if (relation)
    return (
      <>
        <span className="font-semibold">{RELATION_WORDS[relation.kind]}</span>
        <span className="text-quiet">{relation.of.join(", ")}</span>
        <RemovePicked drawing={drawing} />
      </>
    );
  return (
    <>
      {offersFor(drawing.now, picks).map((offers, i) => (
        <button
          key={i}
          type="button"
          data-offer={"relation" in offers[0] ? offers[0].relation : offers[0].dimension}
          className="flex items-center gap-1 rounded border border-hairline px-1.5 hover:bg-moss-soft"
          onClick={() => send(takeOffer(drawing, offers, names))}
        >
          <kbd className="num text-[11px] text-quiet">{i + 1}</kbd>
          {"relation" in offers[0] ? (
            <>
              <svg
                width="15"
                height="15"
                viewBox="-7.5 -7.5 15 15"
                fill="none"
                stroke="currentColor"
                strokeWidth="1.2"
                aria-hidden="true"
              >
                {RELATION_GLYPHS[offers[0].relation]}
              </svg>
              {RELATION_WORDS[offers[0].relation]}
            </>
          ) : (
            DIMENSION_WORDS[offers[0].dimension]
          )}
        </button>
      ))}
      <RemovePicked drawing={drawing} />
    </>
  );
}

function RemovePicked({ drawing }: { drawing: Drawing }) {
  const send = useSend();
  return (
    <button
      type="button"
      data-remove
      className="font-semibold text-moss hover:underline"
      onClick={() => send(removePicks(drawing))}
    >
      Remove (Delete)
    </button>
  );
}

export const removePicks =
  (drawing: Drawing): Thunk =>
  (send, getState) => {
    const { picks } = getState().drawing;
    if (picks.length === 0) return;
    const area = picks.find((id) => id.startsWith("area:"));
    if (area !== undefined) {
      send(toggleArea(drawing, area.slice(5)));
      return;
    }
    putOutline(drawing.key, removeFrom(drawing.now, picks));
    send(drawingActions.pickedAll([]));
  };

/** Leaves an area out that counts, or lets one count that was left out; `id`: a curve of its border. */
const toggleArea =
  ({ key, outline, areas }: Drawing, id: string): Thunk =>
  () => {
    const border = [...areas.regions, ...areas.leftOut]
      .find((r) => r.outer.some((c) => c.name === id))
      ?.outer.flatMap((c) => c.name ?? []);
    const out = outline.leftOut ?? [];
    const left = out.filter((o) => !border?.includes(o));
    const { leftOut: _, ...rest } = outline;
    const next = left.length < out.length ? left : [...out, id];
    putOutline(key, next.length > 0 ? { ...rest, leftOut: next } : rest);
  };

/** The value, the name and the office of a dimension that is picked. */
function PickedDimension({ drawing, dimension: d }: { drawing: Drawing; dimension: OutlineDimension }) {
  const value = drawing.solved.values[d.id];
  return (
    <>
      <span className="font-semibold">{DIMENSION_WORDS[d.kind]}</span>
      {d.showing ? (
        <span className="text-quiet">only shows what it comes to</span>
      ) : (
        <DimensionValue drawing={drawing} dimension={d} />
      )}
      <DimensionName drawing={drawing} dimension={d} />
      <label className="flex items-center gap-1">
        <input
          type="checkbox"
          className="accent-moss"
          checked={!d.showing}
          onChange={(e) => {
            const { showing: _, ...rest } = d;
            setDimension(
              drawing,
              e.currentTarget.checked
                ? { ...rest, value: shownValue(rest, value) }
                : { ...rest, showing: true },
            );
          }}
        />
        drives
      </label>
      <RemovePicked drawing={drawing} />
    </>
  );
}

/** The name by which other expressions use a dimension. */
function DimensionName({
  drawing: { key, outline },
  dimension: d,
}: {
  drawing: Drawing;
  dimension: OutlineDimension;
}) {
  const send = useSend();
  return (
    <label>
      named{" "}
      <input
        data-dimension-name
        aria-label="Name of the dimension"
        spellCheck={false}
        defaultValue={d.name ?? ""}
        className="num h-[22px] w-[12ch] rounded border border-hairline bg-raised px-1.5 focus:outline-2 focus:-outline-offset-1 focus:outline-moss"
        onKeyDown={(e) => {
          if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
          if (e.key === "Enter" || e.key === "Escape") {
            if (e.key === "Escape") e.currentTarget.value = d.name ?? "";
            e.currentTarget.blur();
            focusViews();
          }
        }}
        onBlur={(e) => {
          const name = e.currentTarget.value.trim();
          if (name === (d.name ?? "")) return;
          const problem = nameProblemOf(outline, d, name);
          if (problem) {
            send(drawingActions.refused(problem));
            e.currentTarget.value = d.name ?? "";
            return;
          }
          nameDimension(key, d.id, name);
        }}
      />
    </label>
  );
}

/** What a dimension that begins to drive stands at: what it came to until then. */
const shownValue = (d: OutlineDimension, value: number | undefined) =>
  value === undefined
    ? d.value
    : Number((dimensionOf(d.kind) === "angle" ? toDegrees(value) : value).toFixed(6));

function nameProblemOf(outline: Outline, d: OutlineDimension, name: string): string | undefined {
  if (name === "") return undefined;
  if (!/^[A-Za-z_][A-Za-z0-9_]{0,39}$/.test(name))
    return `“${name}” cannot be a name: use letters, digits and _, beginning with a letter.`;
  const others = [...outline.dimensions.filter((o) => o.id !== d.id), ...(outline.values ?? [])];
  return others.some((o) => o.name === name)
    ? `Another number of this outline is called “${name}” already.`
    : undefined;
}
