import type { TextField } from "@hillcrest/core";
import { nanoid } from "@reduxjs/toolkit";
import { useRef } from "react";
import { leaveField } from "../ui/focus.ts";
import { BOX, type FieldLook, type FieldViewProps } from "./field-look.ts";

const WIDTHS: Readonly<Record<NonNullable<TextField["room"]>, string>> = {
  word: "num w-28 text-right",
  line: "w-72 max-w-full",
  lines: "w-72 leading-snug",
};

const lookOf = (look: FieldLook, room: NonNullable<TextField["room"]>): string => {
  if (look === "sentence")
    return "w-full border-b border-moss/45 bg-transparent text-moss placeholder:text-quiet focus:bg-raised";
  return `${BOX} ${look !== "cell" ? WIDTHS[room] : room === "line" ? "w-36" : "w-[5.2rem]"}`;
};

/** A text: every character is kept as it is typed, Escape puts back what stood there. */
export function TextView({ field, value, onChange, look, label, place }: FieldViewProps<TextField>) {
  const text = typeof value === "string" ? value : field.default;
  const before = useRef(text);
  const mark = useRef("");
  const { room = "word" } = field;
  const shared = {
    "aria-label": label ?? field.label,
    "data-field": place ?? field.key,
    maxLength: field.most,
    value: text,
    // An expression may be longer than its cell.
    title: look === "cell" && text.length > 8 ? text : undefined,
    placeholder: field.hint,
    className: lookOf(look, room),
    onFocus: () => {
      before.current = text;
      mark.current = `text:${nanoid()}`;
    },
    onChange: (e: React.ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) =>
      onChange(e.currentTarget.value, mark.current),
  };
  if (look !== "sentence" && room === "lines") return <textarea rows={3} {...shared} />;
  return (
    <input
      {...shared}
      onKeyDown={(e) => {
        if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
        if (e.key === "Escape" && text !== before.current) onChange(before.current, mark.current);
        if (e.key === "Enter" || e.key === "Escape") leaveField(e.currentTarget);
      }}
    />
  );
}
