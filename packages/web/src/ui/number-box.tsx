import { type Dimension, evaluateExpression, formatShort, toDegrees } from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { useEffect, useRef, useState } from "react";
import { wholeValue } from "./whole-value.ts";

interface NumberBoxProps {
  readonly label: string;
  /** Lengths in mm, angles in degrees. */
  readonly value: number;
  readonly dimension: Dimension;
  readonly unit?: string;
  /** Why a number cannot stand here; nothing when it can. */
  readonly problem?: (value: number) => string | undefined;
  readonly onChange: (value: number, mark: string) => void;
  readonly places?: number;
  readonly width?: string;
  readonly field?: string;
  readonly bare?: boolean;
}

const UNITS = { length: "mm", angle: "°", number: "" } as const;

/**
 * A number with its unit. Takes expressions and other units, keeps every value that works as it is
 * typed, and says of one that does not what is wrong with it.
 */
export function NumberBox({
  label,
  value,
  dimension,
  unit = UNITS[dimension],
  problem,
  onChange,
  places = 6,
  width = "6.5rem",
  field,
  bare,
}: NumberBoxProps) {
  const [draft, setDraft] = useState<string>();
  const before = useRef(value);
  const mark = useRef("");
  const said = draft === undefined ? undefined : problemWith(draft, dimension, problem);
  const meaning = draft === undefined || said ? undefined : meaningOf(draft, dimension, places);
  const typed = useRef(draft);
  typed.current = draft;
  // Another value than the one typed has come from elsewhere, as by undo: it counts.
  useEffect(() => {
    const result = typed.current === undefined ? undefined : read(typed.current, dimension);
    if (result?.ok && result.value !== value) setDraft(undefined);
  }, [value, dimension]);
  return (
    <span className="inline-flex flex-col items-end">
      <span
        className={`inline-flex items-baseline gap-1 ${bare ? "" : "rounded border bg-raised px-1.5 py-0.5"} ${said ? "border-stop" : "border-hairline"} focus-within:outline-2 focus-within:outline-moss`}
        style={bare ? undefined : { width }}
      >
        <input
          aria-label={label}
          aria-invalid={said ? true : undefined}
          title={said ?? label}
          data-field={field}
          spellCheck={false}
          autoComplete="off"
          value={draft ?? formatShort(value, places)}
          className={`num w-full min-w-0 bg-transparent text-right outline-none ${said ? "text-stop" : ""}`}
          onMouseDown={wholeValue.onMouseDown}
          onFocus={(e) => {
            before.current = value;
            mark.current = `box:${nanoid()}`;
            wholeValue.onFocus(e);
          }}
          onChange={(e) => {
            const text = e.currentTarget.value;
            setDraft(text);
            const result = read(text, dimension);
            if (result.ok && !problem?.(result.value)) onChange(result.value, mark.current);
          }}
          onBlur={() => {
            if (!said) setDraft(undefined);
          }}
          onKeyDown={(e) => {
            if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
            if (e.key === "Enter") e.currentTarget.blur();
            if (e.key === "Escape") {
              setDraft(undefined);
              if (value !== before.current) onChange(before.current, mark.current);
            }
          }}
        />
        {unit && <span className="num shrink-0 text-quiet">{unit}</span>}
      </span>
      {meaning !== undefined && (
        <span className="num text-[12px] text-quiet" data-meaning>
          = {meaning} {unit}
        </span>
      )}
      {said && !bare && (
        <span role="alert" className="max-w-64 text-right text-[12px] leading-snug text-stop">
          {said}
        </span>
      )}
    </span>
  );
}

function read(text: string, dimension: Dimension) {
  const result = evaluateExpression(text, { dimension });
  return result.ok && dimension === "angle" ? { ...result, value: toDegrees(result.value) } : result;
}

/** What a text comes to, when it is more than a plain number. */
function meaningOf(text: string, dimension: Dimension, places: number): string | undefined {
  if (/^\s*[+-]?\d*\.?\d*\s*$/.test(text)) return undefined;
  const result = read(text, dimension);
  return result.ok ? formatShort(result.value, places) : undefined;
}

function problemWith(
  text: string,
  dimension: Dimension,
  problem: NumberBoxProps["problem"],
): string | undefined {
  const result = read(text, dimension);
  return result.ok ? problem?.(result.value) : result.error;
}
