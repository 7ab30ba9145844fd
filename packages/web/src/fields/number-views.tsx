import { type NumberField, type NumbersField, numberProblem } from "@hillcrest/core";
import { NumberBox } from "../ui/number-box.tsx";
import type { FieldViewProps } from "./field-look.ts";

/** A number with its unit; in a table narrow and without it, for the head says it. */
export function NumberView(props: FieldViewProps<NumberField>) {
  const { field, value, onChange, look, label, place } = props;
  const cell = look === "cell";
  return (
    <NumberBox
      label={label ?? field.label}
      field={place ?? field.key}
      value={value as number}
      dimension={field.dimension}
      unit={cell ? "" : field.unit}
      width={cell ? "3.75rem" : "8rem"}
      problem={(v) => numberProblem(field, v)}
      onChange={onChange}
    />
  );
}

/** A short list of lengths: each a field, the last one empty to add another. */
export function NumbersView({ field, value, onChange }: FieldViewProps<NumbersField>) {
  const numbers = value as readonly number[];
  const within = (v: number) =>
    v < field.min || v > field.max ? `It must be from ${field.min} to ${field.max} mm.` : undefined;
  return (
    <span className="flex max-w-72 flex-wrap items-baseline justify-end gap-1.5">
      {numbers.map((v, i) => (
        <span key={i} className="inline-flex items-baseline">
          <NumberBox
            label={`${field.label}, number ${i + 1}`}
            value={v}
            dimension="length"
            width="5.4rem"
            problem={within}
            onChange={(next, mark) =>
              onChange(
                numbers.map((old, k) => (k === i ? next : old)),
                `${i}:${mark}`,
              )
            }
          />
          {numbers.length > 1 && (
            <button
              type="button"
              className="px-1 text-quiet hover:text-stop"
              aria-label={`Remove radius ${v}`}
              onClick={() => onChange(numbers.filter((_, k) => k !== i))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {numbers.length < field.most && (
        <button
          type="button"
          className="text-[12.5px] font-semibold text-moss hover:underline"
          onClick={() => onChange([...numbers, (numbers.at(-1) ?? 1) + 0.5])}
        >
          + radius
        </button>
      )}
    </span>
  );
}
