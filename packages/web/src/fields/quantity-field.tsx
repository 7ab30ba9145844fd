import {
  evaluateExpression,
  formatShort,
  type Names,
  type QuantityField as Spec,
  sayLength,
  storedFrom,
  toDegrees,
  typedFor,
  type Units,
} from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { useRef, useState } from "react";
import { useUnits } from "../state/units.ts";
import { leaveField } from "../ui/focus.ts";
import { wholeValue } from "../ui/whole-value.ts";

interface QuantityFieldProps {
  readonly spec: Pick<Spec, "label" | "dimension" | "key"> & { readonly default: string };
  readonly text: string;
  /** What to show while the field is empty and the value comes from elsewhere. */
  readonly fallback?: string;
  /** The value it evaluates to (mm, radians or plain), shown beside an expression. */
  readonly value?: number;
  readonly wrong?: boolean;
  readonly onChange: (text: string, mark: string) => void;
  readonly names?: Names;
  readonly boxed?: boolean;
  readonly id?: string;
  /** Takes the cursor as soon as it is there. */
  readonly autoFocus?: boolean;
}

const focusAtOnce = (input: HTMLInputElement | null): void => input?.focus();

const isPlain = (text: string) => /^\s*-?\d*\.?\d*\s*$/.test(text);

/**
 * A number in a sentence: click or Tab into it and type; every keystroke is live, Enter keeps it,
 * Escape puts back what was there. Expressions show their result beside them.
 */
export function QuantityField({
  spec,
  text: stored,
  fallback,
  value,
  wrong,
  onChange: onStored,
  names,
  boxed,
  id,
  autoFocus,
}: QuantityFieldProps) {
  const units = useUnits();
  const text = typedFor(stored, spec.dimension, units);
  const onChange = (typed: string, visit: string) =>
    onStored(storedFrom(typed, spec.dimension, units, names), visit);
  const [draft, setDraft] = useState<string>();
  const before = useRef({ text, stored });
  const mark = useRef("");
  const shown = draft ?? text;
  const unit = { length: "", angle: "°", number: "" }[spec.dimension];
  const editing = draft !== undefined;
  const result = editing
    ? live(storedFrom(shown, spec.dimension, units, names), spec.dimension, names)
    : value;
  const said = result === undefined ? undefined : resultText(result, spec.dimension, units);
  const showResult = said !== undefined && !isPlain(shown) && shown.trim() !== "" && said !== shown.trim();
  const look = boxed ? "rounded border border-hairline bg-raised px-1.5 py-0.5" : "border-b border-moss/45";
  return (
    <span className="whitespace-nowrap">
      <input
        id={id}
        ref={autoFocus ? focusAtOnce : undefined}
        data-field={spec.key}
        data-quantity
        aria-label={spec.label}
        aria-invalid={wrong || undefined}
        title={spec.label}
        spellCheck={false}
        autoComplete="off"
        value={shown}
        placeholder={fallback}
        style={{ width: `${Math.max(2, (shown || fallback || "").length) + (boxed ? 2.2 : 0.2)}ch` }}
        className={`num h-[1.35em] bg-transparent text-center leading-none font-medium text-moss placeholder:text-quiet focus:bg-raised focus:outline-2 focus:-outline-offset-1 focus:outline-moss ${look} ${wrong ? "border-stop text-stop" : ""}`}
        onMouseDown={wholeValue.onMouseDown}
        onFocus={(e) => {
          before.current = { text, stored };
          mark.current = `field:${nanoid()}`;
          setDraft(text);
          wholeValue.onFocus(e);
        }}
        onChange={(e) => {
          setDraft(e.currentTarget.value);
          onChange(e.currentTarget.value, mark.current);
        }}
        onBlur={() => setDraft(undefined)}
        onKeyDown={(e) => {
          // The Bench's own commands work from within a field too.
          if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
          if (e.key === "Tab" && !e.shiftKey && goToDistance(e.currentTarget)) e.preventDefault();
          if (e.key === "Enter") leaveField(e.currentTarget);
          if (e.key === "Escape") {
            // What was stored, and not what was shown of it: that may be rounded.
            if (shown !== before.current.text) onStored(before.current.stored, mark.current);
            setDraft(before.current.text);
            leaveField(e.currentTarget);
          }
          const next = stepped(e, shown, spec.dimension === "length" && units !== "mm");
          if (next === undefined) return;
          e.preventDefault();
          setDraft(next);
          onChange(next, mark.current);
        }}
      />
      {unit && isPlain(shown) && shown !== "" && <span className="num text-moss">{unit}</span>}
      {showResult && <span className="num text-quiet"> = {said}</span>}
    </span>
  );
}

/** What the arrow keys make of a plain number: more or less of it, with Shift in finer steps. */
function stepped(e: React.KeyboardEvent, shown: string, inches: boolean): string | undefined {
  const way = { ArrowUp: 1, ArrowDown: -1 }[e.key];
  if (!way || !isPlain(shown) || shown.trim() === "") return undefined;
  const [coarse, fine] = inches ? [1 / 16, 0.005] : [1, 0.1];
  return formatShort(Number(shown) + way * (e.shiftKey ? fine : coarse), 4);
}

/** Fields that say how far something is from what it is placed by. */
const DISTANCES = new Set(["x", "y", "off1", "off2", "along"]);

/** From a size Tab goes on to the distances, over the words between them; Shift + Tab goes back by those. */
function goToDistance(from: HTMLInputElement): boolean {
  const all = [
    ...(from.closest("[data-step]")?.querySelectorAll<HTMLInputElement>("input[data-quantity]") ?? []),
  ];
  const next = all[all.indexOf(from) + 1];
  if (!next || next.closest("[data-row]") || !DISTANCES.has(next.dataset.field ?? "")) return false;
  next.focus();
  return true;
}

/** A result beside its expression, in the units of the part. */
function resultText(result: number, dimension: Spec["dimension"], units: Units): string {
  if (dimension === "length") return sayLength(result, units, units === "mm" ? 4 : 3);
  return dimension === "angle" ? `${formatShort(toDegrees(result), 4)}°` : formatShort(result, 4);
}

function live(text: string, dimension: Spec["dimension"], names: Names | undefined): number | undefined {
  const result = evaluateExpression(text, { dimension, names });
  return result.ok ? result.value : undefined;
}
